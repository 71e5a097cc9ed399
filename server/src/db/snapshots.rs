//! Kept states of designs on disk.

use super::kept::{load, read as read_document};
use super::schema::snapshots;
use super::works::insert;
use super::{Db, DbError};
use crate::clock::now;
use diesel::prelude::*;
use kachel_engine::tiers::RecipeKind;
use kachel_engine::{Document, Engine};
use kachel_words::msg;
use uuid::Uuid;

/// A kept state of a design.
#[derive(Clone, Debug)]
pub struct Snapshot {
    /// Its name for the program.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// The document as it was.
    pub document: Document,
    /// When it was kept, RFC 3339.
    pub created_at: String,
}

/// A kept state as it is listed.
#[derive(Clone, Debug)]
pub struct Listed {
    /// Its name for the program.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// When it was kept, RFC 3339.
    pub created_at: String,
    /// Its recipe, or why it cannot be read.
    pub recipe: Result<RecipeKind, String>,
}

/// Most snapshots of a design.
const MAX_SNAPSHOTS: i64 = 200;

/// Name for the program, name, document, its sum, and when it was kept.
pub(super) type Row = (String, String, String, String, String);

const COLUMNS: (snapshots::id, snapshots::name, snapshots::document, snapshots::sum, snapshots::created_at) =
    (snapshots::id, snapshots::name, snapshots::document, snapshots::sum, snapshots::created_at);

fn read((id, name, document, sum, created_at): Row) -> Result<Snapshot, DbError> {
    Ok(Snapshot { id, name, document: read_document(&document, &sum)?, created_at })
}

fn listed(row: Row) -> Listed {
    let (id, name, created_at) = (row.0.clone(), row.1.clone(), row.4.clone());
    let recipe = read(row).map(|s| s.document.recipe).map_err(|e| e.to_string());
    Listed { id, name, created_at, recipe }
}

/// Writes the sums of snapshots that were kept before there were any.
pub(super) fn fill_snapshot_sums(c: &mut SqliteConnection) -> Result<(), DbError> {
    let rows: Vec<(String, String)> =
        snapshots::table.filter(snapshots::sum.eq("")).select((snapshots::id, snapshots::document)).load(c)?;
    for (id, text) in rows {
        diesel::update(snapshots::table.find(id)).set(snapshots::sum.eq(Engine::hash(text.as_bytes()))).execute(c)?;
    }
    Ok(())
}

/// Adds a kept state to a design.
pub(super) fn insert_snapshot(
    c: &mut SqliteConnection,
    design: &str,
    name: &str,
    document: &Document,
    created_at: &str,
) -> Result<Row, DbError> {
    let text = document.to_json()?;
    let sum = Engine::hash(text.as_bytes());
    let row = (Uuid::new_v4().to_string(), name.to_string(), text, sum, created_at.to_string());
    diesel::insert_into(snapshots::table)
        .values((
            snapshots::id.eq(&row.0),
            snapshots::design_id.eq(design),
            snapshots::name.eq(&row.1),
            snapshots::document.eq(&row.2),
            snapshots::sum.eq(&row.3),
            snapshots::created_at.eq(&row.4),
        ))
        .execute(c)?;
    Ok(row)
}

impl Db {
    /// Keeps the state of a design under a name.
    pub fn keep(&self, id: &str, name: &str) -> Result<Listed, DbError> {
        self.write(|c| {
            let document = load::<Document>(c, id)?.document;
            let count: i64 = snapshots::table.filter(snapshots::design_id.eq(id)).count().get_result(c)?;
            if count >= MAX_SNAPSHOTS {
                return Err(DbError::TooManySnapshots { most: MAX_SNAPSHOTS });
            }
            Ok(listed(insert_snapshot(c, id, name, &document, &now())?))
        })
    }

    /// All snapshots of a design, the last first; those that are damaged, too.
    pub fn snapshots(&self, id: &str) -> Result<Vec<Listed>, DbError> {
        let mut c = self.connection()?;
        let rows: Vec<Row> = snapshots::table
            .filter(snapshots::design_id.eq(id))
            .order((snapshots::created_at.desc(), snapshots::id))
            .select(COLUMNS)
            .load(&mut c)?;
        Ok(rows.into_iter().map(listed).collect())
    }

    /// One snapshot of a design.
    pub fn snapshot(&self, id: &str, snapshot: &str) -> Result<Snapshot, DbError> {
        let mut c = self.connection()?;
        let row: Row = snapshots::table
            .find(snapshot)
            .filter(snapshots::design_id.eq(id))
            .select(COLUMNS)
            .first(&mut c)
            .optional()?
            .ok_or(DbError::UnknownWork("snapshot"))?;
        read(row)
    }

    /// Forgets a snapshot.
    pub fn forget(&self, id: &str, snapshot: &str) -> Result<(), DbError> {
        self.write(|c| {
            let gone =
                diesel::delete(snapshots::table.find(snapshot).filter(snapshots::design_id.eq(id))).execute(c)?;
            if gone == 0 { Err(DbError::UnknownWork("snapshot")) } else { Ok(()) }
        })
    }

    /// A new design from a snapshot; its history starts there.
    pub fn branch(&self, id: &str, snapshot: &str) -> Result<super::Stored, DbError> {
        let kept = self.snapshot(id, snapshot)?;
        self.write(|c| {
            let mut document = kept.document;
            let short: String = document.name.chars().take(60).collect();
            document.name = format!("{short}, {}", kept.name);
            insert(c, &document, &msg!("branched"))
        })
    }
}
