//! The whole shelf as one open file, to be taken home and brought back: a ZIP with a 3MF of each design, its picture, and `shelf.json`, which
//! says what belongs together. Made and read while the shelf is in use.
//!
//! | in the ZIP | what |
//! |---|---|
//! | `shelf.json` | the list: designs with their labels and snapshots, beds, the workshop |
//! | `documents/ID.json` | each design's document, and those of its snapshots |
//! | `designs/0001 Name.3mf` | the object, with its design in it; left out where there is no object |
//! | `pictures/HASH` | the pictures as they were uploaded, by their SHA-256 |
//!
//! The bin and the steps of undo stay where they are: `kachel backup` copies those, too.

mod bring;
mod model;
mod take;

use std::path::{Path, PathBuf};
use uuid::Uuid;

pub(crate) use bring::open_outline;
pub use bring::{Outline, Part};
pub(crate) use take::{failed, take};

/// Where a file lies while it is made or read.
pub(crate) fn passing(data: &Path, is_brought: bool, name: Uuid) -> PathBuf {
    data.join(format!("{}-{name}.zip", if is_brought { BRINGING } else { TAKING }))
}

const BRINGING: &str = "bringing";
const TAKING: &str = "taking";

/// Takes away what a server that was killed has left.
pub(crate) fn clear(data: &Path) {
    for entry in std::fs::read_dir(data).into_iter().flatten().flatten() {
        let name = entry.file_name();
        let name = name.to_string_lossy();
        let is_ours = [BRINGING, TAKING].iter().any(|kind| {
            name.strip_prefix(kind)
                .and_then(|n| n.strip_prefix('-')?.strip_suffix(".zip"))
                .is_some_and(|n| Uuid::parse_str(n).is_ok())
        });
        if is_ours {
            let _ = std::fs::remove_file(entry.path());
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_killed_server_left_goes_and_nothing_else() {
        let dir = std::env::temp_dir().join(format!("kachel-home-{}", Uuid::new_v4()));
        std::fs::create_dir_all(&dir).unwrap();
        let left = passing(&dir, true, Uuid::new_v4());
        let others = ["bringing-mine.zip", "taking.zip", "kachel.db"].map(|n| dir.join(n));
        others.iter().chain([&left]).for_each(|p| std::fs::write(p, b"x").unwrap());
        clear(&dir);
        assert!(!left.exists() && others.iter().all(|p| p.exists()));
        std::fs::remove_dir_all(&dir).unwrap();
    }
}
