//! How a shelf is copied.

use diesel::prelude::*;
use diesel::sql_types::Text;
use std::path::{Path, PathBuf};

/// The directory of copies, beside the shelf.
pub const COPIES: &str = "copies";

/// Why there is no copy.
#[derive(Debug, thiserror::Error)]
pub(super) enum CopyError {
    /// The shelf could not be read, or the disk is full.
    #[error(transparent)]
    Shelf(#[from] diesel::result::Error),
    /// The copy could not be put in its place.
    #[error("{path} cannot be written: {source}")]
    File {
        /// The place.
        path: PathBuf,
        /// Why not.
        source: std::io::Error,
    },
}

/// Copies what a connection sees into a new file.
pub(super) fn copy_into(c: &mut SqliteConnection, file: &Path) -> Result<(), CopyError> {
    // Beside its place first, so that a copy is whole or is not there.
    let part = file.with_extension("part");
    let _ = std::fs::remove_file(&part);
    diesel::sql_query("VACUUM INTO ?").bind::<Text, _>(part.to_string_lossy()).execute(c)?;
    for_its_owner(&part);
    std::fs::rename(&part, file).map_err(|source| CopyError::File { path: file.into(), source })
}

/// Lets nobody else read a file, where the system knows owners.
pub fn for_its_owner(path: &Path) {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt as _;
        let mode = if path.is_dir() { 0o700 } else { 0o600 };
        let _ = std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode));
    }
}
