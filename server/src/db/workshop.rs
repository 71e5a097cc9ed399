//! The workshop's settings on disk.

use super::schema::workshop;
use super::{Db, DbError};
use diesel::prelude::*;
use kachel_engine::Workshop;

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
}
