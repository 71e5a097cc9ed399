//! The shelf on disk. Rows stay in here; documents go in and out. Every accepted change is a revision, and undo and
//! redo only move the head, so both reach back over restarts.

mod history;
mod schema;
mod workshop;

use crate::clock::now;
use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, CustomizeConnection, Pool, PooledConnection};
use diesel::result::{DatabaseErrorKind, Error as DieselError};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use kachel_engine::{Document, DocumentError};
use schema::{designs, pictures, revisions};
use std::path::Path;
use uuid::Uuid;

pub use history::Step;
pub use workshop::Snapshot;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// Written to the file's user_version; a file with a higher one was made by a newer program.
const FILE_VERSION: i32 = 2;

/// A stored design at its head.
#[derive(Clone, Debug)]
pub struct Stored {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// The document.
    pub document: Document,
    /// When this revision was made, RFC 3339.
    pub created_at: String,
    /// When anything last changed, RFC 3339.
    pub updated_at: String,
    /// What undo takes back.
    pub undo: Option<String>,
    /// What redo brings back.
    pub redo: Option<String>,
}

/// Why the shelf could not be read or written.
#[derive(Debug, thiserror::Error)]
pub enum DbError {
    /// There is no such design, or it is deleted.
    #[error("there is no such design on the shelf")]
    UnknownDesign,
    /// The history of a design has no such step.
    #[error("the design's history has no such step")]
    UnknownStep,
    /// There is no such picture.
    #[error("there is no such picture on the shelf")]
    UnknownPicture,
    /// Somebody changed it meanwhile.
    #[error("the design was changed meanwhile, in another tab or on another device")]
    Stale {
        /// The version it has now.
        current: i64,
    },
    /// There is nothing to undo or redo.
    #[error("there is nothing to {0}")]
    NoStep(&'static str),
    /// A design has as many snapshots as it can have.
    #[error("the design has {most} snapshots, which is the most; forget some first")]
    TooManySnapshots {
        /// How many it can have.
        most: i64,
    },
    /// The disk or the database is full.
    #[error("the disk is full")]
    Full,
    /// The file was made by a newer program.
    #[error("the data file was made by a newer Kachel (version {found}; this one knows {FILE_VERSION})")]
    NewerFile {
        /// Its version.
        found: i32,
    },
    /// A stored document is not usable.
    #[error(transparent)]
    Document(#[from] DocumentError),
    /// Anything else.
    #[error("the shelf could not be used: {0}")]
    Other(String),
}

impl From<DieselError> for DbError {
    fn from(e: DieselError) -> Self {
        match &e {
            DieselError::NotFound => Self::UnknownDesign,
            DieselError::DatabaseError(DatabaseErrorKind::Unknown, info) if info.message().contains("full") => {
                Self::Full
            }
            _ => Self::Other(e.to_string()),
        }
    }
}

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

/// The shelf.
#[derive(Clone)]
pub struct Db {
    pool: Pool<ConnectionManager<SqliteConnection>>,
}

type Connection = PooledConnection<ConnectionManager<SqliteConnection>>;

#[derive(QueryableByName)]
struct UserVersion {
    #[diesel(sql_type = diesel::sql_types::Integer)]
    user_version: i32,
}

impl Db {
    /// Opens the file, makes it where there is none, and brings it up to date. `max_pages` limits its size (pages of
    /// 4096 bytes).
    pub fn open(path: &Path, max_pages: Option<u32>) -> Result<Self, DbError> {
        let other = |e: &dyn std::fmt::Display| DbError::Other(e.to_string());
        let manager = ConnectionManager::<SqliteConnection>::new(path.to_string_lossy());
        let pool = Pool::builder()
            .max_size(4)
            .connection_timeout(std::time::Duration::from_secs(8))
            .connection_customizer(Box::new(Pragmas { max_pages }))
            .build(manager)
            .map_err(|e| other(&e))?;
        let db = Self { pool };
        let mut c = db.connection()?;
        let found = diesel::sql_query("PRAGMA user_version").get_result::<UserVersion>(&mut c)?.user_version;
        if found > FILE_VERSION {
            return Err(DbError::NewerFile { found });
        }
        c.run_pending_migrations(MIGRATIONS).map_err(|e| other(&e))?;
        c.batch_execute(&format!("PRAGMA user_version = {FILE_VERSION}"))?;
        Ok(db)
    }

    fn connection(&self) -> Result<Connection, DbError> {
        self.pool.get().map_err(|e| DbError::Other(e.to_string()))
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

    /// All designs that are not deleted, the last changed first.
    pub fn list(&self) -> Result<Vec<Stored>, DbError> {
        let mut c = self.connection()?;
        let ids: Vec<String> = designs::table
            .filter(designs::deleted_at.is_null())
            .order((designs::updated_at.desc(), designs::id))
            .select(designs::id)
            .load(&mut c)?;
        ids.iter().map(|id| load(&mut c, id)).collect()
    }

    /// One design.
    pub fn get(&self, id: &str) -> Result<Stored, DbError> {
        load(&mut *self.connection()?, id)
    }

    /// Puts a new design on the shelf, with its picture.
    pub fn create(&self, document: &Document, picture: &[u8], label: &str) -> Result<Stored, DbError> {
        self.write(|c| {
            keep_picture(c, document, picture)?;
            insert(c, document, label)
        })
    }

    /// A revision with another picture; the old one stays, for undo.
    pub fn replace(
        &self,
        id: &str,
        version: i64,
        document: &Document,
        picture: &[u8],
        label: &str,
    ) -> Result<Stored, DbError> {
        self.write(|c| {
            keep_picture(c, document, picture)?;
            add_revision(c, id, version, document, label)
        })
    }

    /// Puts a copy of a design on the shelf; its history starts anew.
    pub fn duplicate(&self, id: &str) -> Result<Stored, DbError> {
        self.write(|c| {
            let mut document = load(c, id)?.document;
            document.name = copy_name(&document.name);
            insert(c, &document, "Copy")
        })
    }

    /// Adds a revision after the head; what was undone is given up.
    pub fn change(&self, id: &str, version: i64, document: &Document, label: &str) -> Result<Stored, DbError> {
        self.write(|c| add_revision(c, id, version, document, label))
    }

    /// Steps back (-1) or forth (1) in the history.
    pub fn step(&self, id: &str, version: i64, by: i64) -> Result<Stored, DbError> {
        self.write(|c| {
            let head = checked_head(c, id, version)?;
            let exists = revisions::table.find((id, head + by)).count().get_result::<i64>(c)? > 0;
            if !exists {
                return Err(DbError::NoStep(if by < 0 { "undo" } else { "redo" }));
            }
            move_head(c, id, head + by, version)?;
            load(c, id)
        })
    }

    /// Takes a design off the shelf; [`Db::restore`] brings it back.
    pub fn delete(&self, id: &str) -> Result<(), DbError> {
        self.write(|c| {
            let gone = diesel::update(designs::table.find(id).filter(designs::deleted_at.is_null()))
                .set(designs::deleted_at.eq(now()))
                .execute(c)?;
            if gone == 0 { Err(DbError::UnknownDesign) } else { Ok(()) }
        })
    }

    /// Brings a deleted design back.
    pub fn restore(&self, id: &str) -> Result<Stored, DbError> {
        self.write(|c| {
            diesel::update(designs::table.find(id)).set(designs::deleted_at.eq(None::<String>)).execute(c)?;
            load(c, id)
        })
    }

    /// The bytes of a picture.
    pub fn picture(&self, hash: &str) -> Result<Vec<u8>, DbError> {
        let found = pictures::table.find(hash).select(pictures::bytes).first(&mut *self.connection()?).optional()?;
        found.ok_or(DbError::UnknownPicture)
    }
}

/// 'Hedgehog' becomes 'Hedgehog copy', that 'Hedgehog copy 2'.
fn copy_name(name: &str) -> String {
    let (base, number) = match name.rsplit_once(" copy") {
        Some((base, "")) => (base, 2),
        Some((base, n)) => n.trim().parse::<u32>().map_or((name, 1), |n| (base, n.saturating_add(1))),
        None => (name, 1),
    };
    let base: String = base.chars().take(100).collect();
    if number == 1 { format!("{base} copy") } else { format!("{base} copy {number}") }
}

fn load(c: &mut SqliteConnection, id: &str) -> Result<Stored, DbError> {
    let (head, version, updated_at): (i64, i64, String) = designs::table
        .find(id)
        .filter(designs::deleted_at.is_null())
        .select((designs::head, designs::version, designs::updated_at))
        .first(c)?;
    let (document, label, created_at): (String, String, String) = revisions::table
        .find((id, head))
        .select((revisions::document, revisions::label, revisions::created_at))
        .first(c)?;
    let redo = revisions::table.find((id, head + 1)).select(revisions::label).first(c).optional()?;
    Ok(Stored {
        id: id.into(),
        version,
        document: Document::from_json(&document)?,
        created_at,
        updated_at,
        undo: (head > 1).then_some(label),
        redo,
    })
}

fn keep_picture(c: &mut SqliteConnection, document: &Document, picture: &[u8]) -> Result<(), DbError> {
    diesel::insert_or_ignore_into(pictures::table)
        .values((pictures::hash.eq(&document.artwork.hash), pictures::bytes.eq(picture)))
        .execute(c)?;
    Ok(())
}

fn add_revision(
    c: &mut SqliteConnection,
    id: &str,
    version: i64,
    document: &Document,
    label: &str,
) -> Result<Stored, DbError> {
    let head = checked_head(c, id, version)?;
    diesel::delete(revisions::table.filter(revisions::design_id.eq(id)).filter(revisions::seq.gt(head))).execute(c)?;
    insert_revision(c, id, head + 1, document, label)?;
    move_head(c, id, head + 1, version)?;
    load(c, id)
}

fn insert(c: &mut SqliteConnection, document: &Document, label: &str) -> Result<Stored, DbError> {
    let id = Uuid::new_v4().to_string();
    diesel::insert_into(designs::table)
        .values((designs::id.eq(&id), designs::head.eq(1), designs::version.eq(1), designs::updated_at.eq(now())))
        .execute(c)?;
    insert_revision(c, &id, 1, document, label)?;
    load(c, &id)
}

fn insert_revision(c: &mut SqliteConnection, id: &str, seq: i64, d: &Document, label: &str) -> Result<(), DbError> {
    diesel::insert_into(revisions::table)
        .values((
            revisions::design_id.eq(id),
            revisions::seq.eq(seq),
            revisions::document.eq(d.to_json()?),
            revisions::label.eq(label),
            revisions::created_at.eq(now()),
        ))
        .execute(c)?;
    Ok(())
}

fn checked_head(c: &mut SqliteConnection, id: &str, version: i64) -> Result<i64, DbError> {
    let (head, current): (i64, i64) = designs::table
        .find(id)
        .filter(designs::deleted_at.is_null())
        .select((designs::head, designs::version))
        .first(c)?;
    if current == version { Ok(head) } else { Err(DbError::Stale { current }) }
}

fn move_head(c: &mut SqliteConnection, id: &str, head: i64, version: i64) -> Result<(), DbError> {
    diesel::update(designs::table.find(id))
        .set((designs::head.eq(head), designs::version.eq(version + 1), designs::updated_at.eq(now())))
        .execute(c)?;
    Ok(())
}

#[cfg(test)]
mod tests;
