//! Opening the shelf: what lies there is looked at, copied before it is changed, and brought up to date.

use super::copying::for_its_owner;
use super::place::Place;
use super::snapshots::fill_snapshot_sums;
use super::works::fill_sums;
use super::{COPIES, Db, DbError, FILE_VERSION, MIGRATIONS};
use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, CustomizeConnection, Pool};
use diesel_migrations::MigrationHarness;
use std::path::Path;
use std::sync::Arc;

#[derive(Clone, Debug)]
struct Pragmas {
    max_pages: Option<u32>,
}

impl CustomizeConnection<SqliteConnection, diesel::r2d2::Error> for Pragmas {
    fn on_acquire(&self, c: &mut SqliteConnection) -> Result<(), diesel::r2d2::Error> {
        let limit = self.max_pages.map(|n| format!("PRAGMA max_page_count = {n};")).unwrap_or_default();
        // busy_timeout first: switching to WAL may have to wait for another connection.
        let text = format!(
            "PRAGMA busy_timeout = 5000; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; {limit}"
        );
        c.batch_execute(&text).map_err(diesel::r2d2::Error::QueryError)
    }
}

#[derive(QueryableByName)]
struct UserVersion {
    #[diesel(sql_type = diesel::sql_types::Integer)]
    user_version: i32,
}

impl Db {
    /// Opens a file that another process has brought up to date.
    pub fn open_as_it_is(path: &Path) -> Result<Self, DbError> {
        looks_like_a_shelf(path)?;
        Self::pooled(path, None)
    }

    fn pooled(path: &Path, max_pages: Option<u32>) -> Result<Self, DbError> {
        let manager = ConnectionManager::<SqliteConnection>::new(path.to_string_lossy());
        let pool = Pool::builder()
            .max_size(4)
            // One that is opened anew would make a new file where the old one has been removed.
            .max_lifetime(None)
            .idle_timeout(None)
            .connection_timeout(std::time::Duration::from_secs(8))
            .connection_customizer(Box::new(Pragmas { max_pages }))
            .build(manager)
            .map_err(|e| DbError::Other(e.to_string()))?;
        Ok(Self { pool, place: Arc::new(Place::of(path)) })
    }

    /// Opens the file, makes it where there is none, and brings it up to date. `max_pages` limits its size (pages of
    /// 4096 bytes).
    pub fn open(path: &Path, max_pages: Option<u32>) -> Result<Self, DbError> {
        let other = |e: &dyn std::fmt::Display| DbError::Other(e.to_string());
        let is_there = path.exists();
        if is_there {
            looks_like_a_shelf(path)?;
        }
        let db = Self::pooled(path, max_pages)?;
        let mut c = db.connection()?;
        let found = diesel::sql_query("PRAGMA user_version").get_result::<UserVersion>(&mut c)?.user_version;
        if found > FILE_VERSION {
            return Err(DbError::NewerFile { found });
        }
        if is_there && found < FILE_VERSION {
            let dir = path.with_file_name(COPIES);
            std::fs::create_dir_all(&dir).map_err(|e| other(&e))?;
            db.copy_to(&dir.join(format!("before-version-{FILE_VERSION}.db")))?;
        }
        c.run_pending_migrations(MIGRATIONS).map_err(|e| other(&e))?;
        db.write(fill_sums)?;
        db.write(fill_snapshot_sums)?;
        c.batch_execute(&format!("PRAGMA user_version = {FILE_VERSION}"))?;
        let beside =
            |end: &str| path.with_file_name(format!("{}{end}", path.file_name().unwrap_or_default().to_string_lossy()));
        ["", "-wal", "-shm"].iter().for_each(|end| for_its_owner(&beside(end)));
        Ok(db)
    }
}

/// Refuses at once what lies in the shelf's place and is none: opening it would wait for a lock, or make a new shelf of it.
fn looks_like_a_shelf(path: &Path) -> Result<(), DbError> {
    use std::io::Read as _;
    // The head of every SQLite file (sqlite.org/fileformat2.html, 1.3, from memory).
    const HEAD: &[u8; 16] = b"SQLite format 3\0";
    let mut found = Vec::new();
    let file = std::fs::File::open(path).map_err(|e| DbError::Other(e.to_string()))?;
    file.take(HEAD.len() as u64).read_to_end(&mut found).map_err(|e| DbError::Other(e.to_string()))?;
    match found.as_slice() {
        [] => Err(DbError::NoShelf("shelf-emptied")),
        bytes if bytes == HEAD => Ok(()),
        _ => Err(DbError::NoShelf("shelf-of-others")),
    }
}
