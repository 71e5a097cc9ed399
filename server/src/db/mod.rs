//! The shelf on disk. Rows stay in here; documents go in and out. Every accepted change is a revision, and undo and
//! redo only move the head, so both reach back over restarts.

mod bin;
mod bring;
mod copies;
mod copying;
mod history;
mod kept;
mod label;
mod labels;
mod open;
mod place;
mod schema;
mod snapshots;
mod taken;
mod works;
mod workshop;

use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, Pool, PooledConnection};
use diesel::result::{DatabaseErrorKind, Error as DieselError};
use diesel_migrations::{EmbeddedMigrations, embed_migrations};
use kachel_engine::{Bed, Document, DocumentError};
use kachel_words::{Message, msg, said};
use place::Place;
use schema::pictures;
use std::path::{Path, PathBuf};
use std::sync::Arc;

pub use bin::Binned;
pub use bring::Brought;
pub use copying::{COPIES, for_its_owner};
pub use history::Step;
pub use kept::{Damaged, Shelved};
pub use label::StepLabel;
pub use snapshots::Listed;
pub use taken::TimedPrint;
pub use works::Works;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// Written to the file's user_version; a file with a higher one was made by a newer program.
const FILE_VERSION: i32 = 8;
/// The file of the shelf in a data directory.
pub fn shelf_in(data: &Path) -> PathBuf {
    data.join("kachel.db")
}

/// A stored design, or a bed, at its head.
#[derive(Clone, Debug)]
pub struct Stored<D = Document> {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// The document.
    pub document: D,
    /// When this revision was made, RFC 3339.
    pub created_at: String,
    /// When anything last changed, RFC 3339.
    pub updated_at: String,
    /// What undo takes back.
    pub undo: Option<StepLabel>,
    /// What redo brings back.
    pub redo: Option<StepLabel>,
    /// What the maker sorts it by.
    pub labels: Vec<String>,
}

/// What a kind of thing on the shelf is called.
fn thing(kind: &str) -> Message {
    Message::new(format!("thing-{kind}"))
}

/// Why the shelf could not be read or written.
#[derive(Debug, thiserror::Error)]
pub enum DbError {
    /// There is no such design or bed, or it is deleted.
    UnknownWork(&'static str),
    /// The history has no such step.
    UnknownStep,
    /// There is no such picture.
    UnknownPicture,
    /// A picture is not what it was when it was put on the shelf.
    DamagedPicture,
    /// What should be the shelf is none: the code of what it is.
    NoShelf(&'static str),
    /// The file was removed, or another one was put in its place, while it was open.
    Removed,
    /// Somebody changed it meanwhile.
    Stale {
        /// The version it has now.
        current: i64,
    },
    /// There is nothing to undo or redo: the code of which.
    NoStep(&'static str),
    /// A design has as many snapshots as it can have.
    TooManySnapshots {
        /// How many it can have.
        most: i64,
    },
    /// Labels that cannot be given.
    Labels(Message),
    /// The disk or the database is full.
    Full,
    /// The file was made by a newer program.
    NewerFile {
        /// Its version.
        found: i32,
    },
    /// A stored document is not usable.
    Document(#[from] DocumentError),
    /// Anything else.
    Other(String),
}

said!(DbError: |e| match e {
    DbError::UnknownWork(kind) => msg!("not-on-shelf", what = thing(kind)),
    DbError::UnknownStep => msg!("no-such-step"),
    DbError::UnknownPicture => msg!("no-such-picture"),
    DbError::DamagedPicture => msg!("picture-was-changed"),
    DbError::NoShelf(code) => msg!(*code),
    DbError::Removed => msg!("shelf-removed"),
    DbError::Stale { .. } => msg!("changed-meanwhile"),
    DbError::NoStep(way) => msg!(*way),
    DbError::TooManySnapshots { most } => msg!("too-many-snapshots", most = *most),
    DbError::Labels(why) => why.clone(),
    DbError::Full => msg!("disk-full"),
    DbError::NewerFile { found } => {
        msg!("newer-file", found = *found, known = FILE_VERSION)
    }
    DbError::Document(e) => e.message(),
    DbError::Other(why) => msg!("shelf-not-usable", why = why),
});

impl From<DieselError> for DbError {
    fn from(e: DieselError) -> Self {
        match &e {
            DieselError::NotFound => Self::UnknownWork("thing"),
            DieselError::DatabaseError(DatabaseErrorKind::Unknown, info) if info.message().contains("full") => {
                Self::Full
            }
            _ => Self::Other(e.to_string()),
        }
    }
}

/// The shelf.
#[derive(Clone)]
pub struct Db {
    pool: Pool<ConnectionManager<SqliteConnection>>,
    place: Arc<Place>,
}

type Connection = PooledConnection<ConnectionManager<SqliteConnection>>;

impl Db {
    fn connection(&self) -> Result<Connection, DbError> {
        let mut c = self.pool.get().map_err(|e| DbError::Other(e.to_string()))?;
        if self.place.is_as_it_was() {
            return Ok(c);
        }
        self.place.rescue(&mut c);
        Err(DbError::Removed)
    }

    /// Runs a change with the write lock taken first.
    fn write<T>(&self, change: impl FnOnce(&mut SqliteConnection) -> Result<T, DbError>) -> Result<T, DbError> {
        // A full disk makes SQLite roll back by itself; the transaction's own rollback then fails and would hide why.
        let mut why = None;
        let done = self.connection()?.immediate_transaction(|c| {
            change(c).map_err(|e| {
                why = Some(e);
                DbError::Other("rolled back".into())
            })
        });
        done.map_err(|e| why.unwrap_or(e))
    }

    /// The directory in which the shelf lies.
    pub(crate) fn directory(&self) -> PathBuf {
        self.place.path().parent().map_or_else(|| PathBuf::from("."), Path::to_path_buf)
    }

    /// The designs.
    pub fn designs(&self) -> Works<'_, Document> {
        Works::of(self)
    }

    /// The beds.
    pub fn beds(&self) -> Works<'_, Bed> {
        Works::of(self)
    }

    /// The bytes of a picture.
    pub fn picture(&self, hash: &str) -> Result<Vec<u8>, DbError> {
        let found = pictures::table.find(hash).select(pictures::bytes).first(&mut *self.connection()?).optional()?;
        let bytes: Vec<u8> = found.ok_or(DbError::UnknownPicture)?;
        if kachel_engine::Engine::hash(&bytes) == hash { Ok(bytes) } else { Err(DbError::DamagedPicture) }
    }
}

#[cfg(test)]
mod tests;
