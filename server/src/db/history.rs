//! The steps of a design's history, to be looked at.

use super::kept::read;
use super::schema::revisions;
use super::works::{Works, head};
use super::{DbError, StepLabel};
use diesel::prelude::*;
use kachel_engine::Document;

/// A state that undo or redo leads to, or the present one.
#[derive(Clone, Debug)]
pub struct Step {
    /// Counts from 1, the state in which the design began.
    pub number: i64,
    /// The change that led to it.
    pub label: StepLabel,
    /// When, RFC 3339.
    pub created_at: String,
    /// Whether it is what is on the bench.
    pub is_present: bool,
}

/// So many are listed, the last ones.
const MOST_LISTED: i64 = 200;

impl Works<'_, Document> {
    /// The last steps of a design, the last first.
    pub fn steps(&self, id: &str) -> Result<Vec<Step>, DbError> {
        let mut c = self.db.connection()?;
        let head = head::<Document>(&mut c, id)?;
        let rows: Vec<(i64, StepLabel, String)> = revisions::table
            .filter(revisions::work_id.eq(id))
            .order(revisions::seq.desc())
            .limit(MOST_LISTED)
            .select((revisions::seq, StepLabel::as_select(), revisions::created_at))
            .load(&mut c)?;
        let step = |(number, label, created_at)| Step { number, label, created_at, is_present: number == head };
        Ok(rows.into_iter().map(step).collect())
    }

    /// The document after a step.
    pub fn at_step(&self, id: &str, number: i64) -> Result<Document, DbError> {
        let mut c = self.db.connection()?;
        head::<Document>(&mut c, id)?;
        let row: Option<(String, String)> = revisions::table
            .find((id, number))
            .select((revisions::document, revisions::sum))
            .first(&mut c)
            .optional()?;
        let (text, sum) = row.ok_or(DbError::UnknownStep)?;
        Ok(read(&text, &sum)?)
    }
}
