//! What comes from another shelf.

use super::kept::{Kept, load};
use super::labels::{MAX_LABELS, tidied, written};
use super::schema::works;
use super::snapshots::insert_snapshot;
use super::works::{insert_as, keep_picture};
use super::{DbError, Works};
use crate::clock::now;
use diesel::prelude::*;
use kachel_engine::{Document, Engine};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// What became of something that was brought.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Brought {
    /// It stands on the shelf under this name for the program.
    New(String),
    /// It was there, just as it is.
    WasThere(String),
}

/// A kept state that comes along: name, when it was kept, document and picture.
pub type BroughtSnapshot = (String, String, Document, Vec<u8>);

/// What was brought is called so in its history.
/// The code of the label of what is brought.
const LABEL: &str = "brought";

impl<D: Kept + PartialEq> Works<'_, D> {
    /// Puts something from another shelf on this one, under the name it had there where that is free.
    pub fn bring(&self, id: &str, document: &D, labels: &[String]) -> Result<Brought, DbError> {
        self.db.write(|c| match there::<D>(c, id, document)? {
            Some(found) => Ok(found),
            None => put(c, id, document, labels),
        })
    }
}

impl Works<'_, Document> {
    /// The same of a design with its picture and its snapshots: all or nothing.
    pub fn bring_design(
        &self,
        id: &str,
        (document, picture): (&Document, &[u8]),
        labels: &[String],
        kept: &[BroughtSnapshot],
    ) -> Result<Brought, DbError> {
        self.db.write(|c| {
            if let Some(found) = there::<Document>(c, id, document)? {
                return Ok(found);
            }
            keep_picture(c, document, picture)?;
            let brought = put(c, id, document, labels)?;
            let (Brought::New(own) | Brought::WasThere(own)) = &brought;
            for (name, created_at, document, picture) in kept {
                if Engine::hash(picture) != document.artwork.hash {
                    return Err(DbError::DamagedPicture);
                }
                keep_picture(c, document, picture)?;
                insert_snapshot(c, own, name, document, created_at)?;
            }
            Ok(brought)
        })
    }
}

/// Whether the same stands there already.
fn there<D: Kept + PartialEq>(c: &mut SqliteConnection, id: &str, document: &D) -> Result<Option<Brought>, DbError> {
    let is_same = load::<D>(c, id).is_ok_and(|found| found.document == *document);
    Ok(is_same.then(|| Brought::WasThere(id.into())))
}

fn put<D: Kept>(c: &mut SqliteConnection, id: &str, document: &D, labels: &[String]) -> Result<Brought, DbError> {
    let is_taken = works::table.find(id).select(works::id).first::<String>(c).optional()?.is_some();
    let is_name = Uuid::parse_str(id).is_ok();
    let own = if is_name && !is_taken { id.to_string() } else { Uuid::new_v4().to_string() };
    let stored = insert_as(c, own, document, &msg!(LABEL))?;
    let labels: Vec<String> = labels.iter().take(MAX_LABELS).map(|l| tidied(l)).collect::<Result<_, _>>()?;
    diesel::update(works::table.find(&stored.id))
        .set((works::labels.eq(written(&labels)?), works::updated_at.eq(now())))
        .execute(c)?;
    Ok(Brought::New(stored.id))
}
