//! The language of everything that the program says.

use kachel_words::{Words, languages, speak};

/// Names the language: the code of a file in `crates/words/languages`.
const VARIABLE: &str = "KACHEL_LANGUAGE";

/// Speaks the language that the environment names; English where it names none.
pub(crate) fn choose() -> Result<(), String> {
    let Ok(code) = std::env::var(VARIABLE) else { return Ok(()) };
    let known = || languages().collect::<Vec<_>>().join(", ");
    let words = Words::of(&code).ok_or_else(|| format!("{VARIABLE} is '{code}'; there are {}", known()))?;
    speak(words);
    Ok(())
}
