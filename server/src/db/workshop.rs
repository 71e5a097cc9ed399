//! The workshop's settings and the designs' snapshots on disk.

use super::schema::{snapshots, workshop};
use super::works::{insert, load};
use super::{Db, DbError};
use crate::clock::now;
use diesel::prelude::*;
use kachel_engine::{Document, Workshop};
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

/// Most snapshots of a design.
const MAX_SNAPSHOTS: i64 = 200;

type Row = (String, String, String, String);

fn read((id, name, document, created_at): Row) -> Result<Snapshot, DbError> {
    Ok(Snapshot { id, name, document: Document::from_json(&document)?, created_at })
}

impl Db {
    /// The settings with their version; the usual ones (version 0) where none were saved.
    pub fn workshop(&self) -> Result<(i64, Workshop), DbError> {
        let row: Option<(i64, String)> = workshop::table
            .find(1)
            .select((workshop::version, workshop::settings))
            .first(&mut *self.connection()?)
            .optional()?;
        let Some((version, text)) = row else { return Ok((0, Workshop::default())) };
        let settings = serde_json::from_str(&text).map_err(|e| DbError::Other(e.to_string()))?;
        Ok((version, settings))
    }

    /// Saves other settings, if `version` is that of the saved ones.
    pub fn set_workshop(&self, version: i64, settings: &Workshop) -> Result<i64, DbError> {
        let text = serde_json::to_string(settings).map_err(|e| DbError::Other(e.to_string()))?;
        self.write(|c| {
            let current: i64 =
                workshop::table.find(1).select(workshop::version).first(c).optional()?.unwrap_or_default();
            if current != version {
                return Err(DbError::Stale { current });
            }
            diesel::replace_into(workshop::table)
                .values((workshop::id.eq(1), workshop::version.eq(current + 1), workshop::settings.eq(text)))
                .execute(c)?;
            Ok(current + 1)
        })
    }

    /// Keeps the state of a design under a name.
    pub fn keep(&self, id: &str, name: &str) -> Result<Snapshot, DbError> {
        self.write(|c| {
            let document = load::<Document>(c, id)?.document;
            let count: i64 = snapshots::table.filter(snapshots::design_id.eq(id)).count().get_result(c)?;
            if count >= MAX_SNAPSHOTS {
                return Err(DbError::TooManySnapshots { most: MAX_SNAPSHOTS });
            }
            let row = (Uuid::new_v4().to_string(), name.to_string(), document.to_json()?, now());
            diesel::insert_into(snapshots::table)
                .values((
                    snapshots::id.eq(&row.0),
                    snapshots::design_id.eq(id),
                    snapshots::name.eq(&row.1),
                    snapshots::document.eq(&row.2),
                    snapshots::created_at.eq(&row.3),
                ))
                .execute(c)?;
            read(row)
        })
    }

    /// All snapshots of a design, the last first.
    pub fn snapshots(&self, id: &str) -> Result<Vec<Snapshot>, DbError> {
        let mut c = self.connection()?;
        let rows: Vec<Row> = snapshots::table
            .filter(snapshots::design_id.eq(id))
            .order((snapshots::created_at.desc(), snapshots::id))
            .select((snapshots::id, snapshots::name, snapshots::document, snapshots::created_at))
            .load(&mut c)?;
        rows.into_iter().map(read).collect()
    }

    /// One snapshot of a design.
    pub fn snapshot(&self, id: &str, snapshot: &str) -> Result<Snapshot, DbError> {
        let mut c = self.connection()?;
        let row: Row = snapshots::table
            .find(snapshot)
            .filter(snapshots::design_id.eq(id))
            .select((snapshots::id, snapshots::name, snapshots::document, snapshots::created_at))
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
            insert(c, &document, "Branch")
        })
    }
}
