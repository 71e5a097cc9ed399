//! Where the shelf's file lies, and whether it is still the one that was opened: SQLite goes on writing into a file that has been
//! removed, and all of that would be lost with the process.

use super::copying::{COPIES, copy_into};
use crate::clock::now;
use diesel::prelude::*;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};

/// The place of an open shelf.
#[derive(Debug)]
pub(super) struct Place {
    path: PathBuf,
    /// Which file it is: device and number.
    is: Option<(u64, u64)>,
    is_rescued: AtomicBool,
}

impl Place {
    /// Of a file that is open.
    pub(super) fn of(path: &Path) -> Self {
        Self { path: path.to_path_buf(), is: file_at(path), is_rescued: AtomicBool::new(false) }
    }

    pub(super) fn path(&self) -> &Path {
        &self.path
    }

    /// Whether the file that was opened is still there.
    pub(super) fn is_as_it_was(&self) -> bool {
        file_at(&self.path) == self.is
    }

    /// Copies what is still open beside the other copies, once.
    pub(super) fn rescue(&self, c: &mut SqliteConnection) {
        if self.is_rescued.swap(true, Ordering::Relaxed) {
            return;
        }
        let dir = self.path.with_file_name(COPIES);
        let name = format!("rescued-{}-{}.db", now().replace(':', "."), std::process::id());
        let saved = std::fs::create_dir_all(&dir).map_err(|e| e.to_string());
        match saved.and_then(|()| copy_into(c, &dir.join(&name)).map_err(|e| e.to_string())) {
            Ok(()) => eprintln!(
                "kachel: {} was removed or replaced. What was in it is kept as {COPIES}/{name}: stop Kachel, put it in place with `kachel restore`, and start again",
                self.path.display()
            ),
            Err(e) => {
                eprintln!("kachel: {} was removed or replaced, and no copy could be made: {e}", self.path.display())
            }
        }
    }
}

#[cfg(unix)]
fn file_at(path: &Path) -> Option<(u64, u64)> {
    use std::os::unix::fs::MetadataExt as _;
    std::fs::metadata(path).ok().map(|m| (m.dev(), m.ino()))
}

/// Elsewhere an open file cannot be removed.
#[cfg(not(unix))]
fn file_at(_: &Path) -> Option<(u64, u64)> {
    None
}
