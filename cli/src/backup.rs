//! `kachel backup` and `kachel restore`: the whole shelf as one file.

use crate::shelf;
use kachel_server::{COPIES, Db, DbError, lock, shelf_in};
use std::path::Path;

/// Copies the shelf of a data directory into a new file, also while a server uses it.
pub(crate) fn backup(data: &Path, file: &Path) -> Result<(), String> {
    let db = shelf::open(data, "")?;
    if file.exists() {
        return Err(format!("{} is there already; name a new file", file.display()));
    }
    db.copy_to(file).map_err(|e| e.to_string())?;
    tell(file, counted(&db).map_err(|e| e.to_string())?);
    Ok(())
}

/// Puts a copy in the place of a shelf; what was there is kept beside the other copies.
pub(crate) fn restore(data: &Path, file: &Path) -> Result<(), String> {
    let _held = lock(data).map_err(|e| e.to_string())?;
    // Looked over before anything is touched, and on a copy: opening brings it up to date.
    let dir = data.join(COPIES);
    std::fs::create_dir_all(&dir).map_err(|e| format!("{} cannot be made: {e}", dir.display()))?;
    let tried = data.join("restoring.db");
    remove(&tried);
    std::fs::copy(file, &tried).map_err(|e| format!("{} cannot be read: {e}", file.display()))?;
    let counts = look_over(&tried).map_err(|why| {
        remove(&tried);
        format!("{} is not put in place: {why}", file.display())
    })?;
    let shelf = shelf_in(data);
    let fail = |e: std::io::Error| format!("the shelf cannot be put in place: {e}");
    if shelf.is_file() {
        let kept = (1..).map(|n| dir.join(format!("replaced-{n}.db"))).find(|p| !p.exists());
        let kept = kept.ok_or("no name is free")?;
        // With what is still in its log.
        let old = Db::open(&shelf, None).and_then(|db| db.copy_to(&kept));
        if old.is_err() {
            std::fs::copy(&shelf, &kept).map_err(fail)?;
        }
        remove(&shelf);
        say!("what was there is kept as {}", kept.display());
    }
    std::fs::rename(&tried, &shelf).map_err(fail)?;
    tell(&shelf, counts);
    Ok(())
}

fn look_over(file: &Path) -> Result<(i64, i64), String> {
    let db = Db::open(file, None).map_err(|e| e.to_string())?;
    if let Some(why) = db.unsound().map_err(|e| e.to_string())? {
        return Err(format!("it is damaged: {why}"));
    }
    counted(&db).map_err(|e| e.to_string())
}

/// How many designs and beds there are.
fn counted(db: &Db) -> Result<(i64, i64), DbError> {
    Ok((db.designs().count()?, db.beds().count()?))
}

fn tell(file: &Path, (designs, beds): (i64, i64)) {
    say!("{}: {designs} designs and {beds} beds", file.display());
}

/// A database with what lies beside it.
fn remove(file: &Path) {
    for end in ["", "-wal", "-shm"] {
        let mut name = file.as_os_str().to_owned();
        name.push(end);
        let _ = std::fs::remove_file(name);
    }
}
