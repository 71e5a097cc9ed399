//! Words by which the maker sorts what is on the shelf. They are no part of a design, so they are neither undone with it nor do they
//! go into its files.

use super::kept::{Kept, labels_of};
use super::schema::works;
use super::{DbError, Works, thing};
use diesel::prelude::*;
use kachel_words::msg;

/// Most labels of one work.
pub(super) const MAX_LABELS: usize = 12;
/// Longest label, characters.
const MAX_LABEL: usize = 30;

impl<D: Kept> Works<'_, D> {
    /// Gives labels to all of these, and takes others away: all or none. Labels that differ in case only are one.
    pub fn label(&self, ids: &[String], add: &[String], remove: &[String]) -> Result<(), DbError> {
        let add: Vec<String> = add.iter().map(|l| tidied(l)).collect::<Result<_, _>>()?;
        self.db.write(|c| {
            for id in ids {
                let found: Option<String> = works::table
                    .find(id)
                    .filter(works::kind.eq(D::KIND))
                    .filter(works::deleted_at.is_null())
                    .select(works::labels)
                    .first(c)
                    .optional()?;
                let mut all = labels_of(&found.ok_or(DbError::UnknownWork(D::KIND))?);
                all.retain(|l| !remove.iter().chain(&add).any(|r| is_same(l, r)));
                all.extend(add.iter().cloned());
                all.sort_by_key(|l| l.to_lowercase());
                if all.len() > MAX_LABELS {
                    let why = msg!("too-many-labels", what = thing(D::KIND), most = MAX_LABELS);
                    return Err(DbError::Labels(why));
                }
                diesel::update(works::table.find(id)).set(works::labels.eq(written(&all)?)).execute(c)?;
            }
            Ok(())
        })
    }
}

fn is_same(a: &str, b: &str) -> bool {
    a.to_lowercase() == b.trim().to_lowercase()
}

/// A label without what nobody sees.
pub(super) fn tidied(label: &str) -> Result<String, DbError> {
    let label = label.split_whitespace().collect::<Vec<_>>().join(" ");
    if label.is_empty() {
        return Err(DbError::Labels(msg!("label-empty")));
    }
    if label.chars().count() > MAX_LABEL || label.chars().any(char::is_control) {
        return Err(DbError::Labels(msg!("label-too-long", most = MAX_LABEL)));
    }
    Ok(label)
}

pub(super) fn written(labels: &[String]) -> Result<String, DbError> {
    serde_json::to_string(labels).map_err(|e| DbError::Other(e.to_string()))
}
