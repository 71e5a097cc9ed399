use std::fmt::Arguments;
use std::io::{ErrorKind, Write as _, stdout};

/// Writes a line; ends the program quietly where nobody reads any more.
pub(crate) fn say(text: Arguments<'_>) {
    if let Err(e) = writeln!(stdout().lock(), "{text}") {
        let is_gone = e.kind() == ErrorKind::BrokenPipe;
        if !is_gone {
            eprintln!("kachel: cannot write what it found: {e}");
        }
        std::process::exit(i32::from(!is_gone));
    }
}
