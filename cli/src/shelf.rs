//! The shelf of a data directory, without a server.

use kachel_server::{Db, shelf_in};
use std::path::Path;

/// Opens the shelf; where there is none, `otherwise` says what else could be done.
pub(crate) fn open(data: &Path, otherwise: &str) -> Result<Db, String> {
    let shelf = shelf_in(data);
    if !shelf.is_file() {
        return Err(format!("there is no shelf in {}; say where it is with --data{otherwise}", data.display()));
    }
    Db::open(&shelf, None).map_err(|e| format!("the shelf in {} cannot be read: {e}", data.display()))
}
