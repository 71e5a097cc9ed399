//! What prints really took.

use super::schema::taken;
use super::{Db, DbError};
use crate::clock::now;
use diesel::prelude::*;

/// Prints of a printer that are remembered; the oldest go first.
const KEPT: i64 = 200;

/// A print that was timed.
#[derive(Clone, Debug, Queryable, Selectable)]
#[diesel(table_name = taken)]
pub struct TimedPrint {
    /// What was printed.
    pub name: String,
    /// How long it was planned to take, s.
    pub planned: f64,
    /// How long it took, s.
    pub took: f64,
    /// When that was told, RFC 3339.
    pub at: String,
}

impl Db {
    /// Remembers what a print took; of a printer's job, named here, once.
    pub fn add_taken(
        &self,
        job: Option<&str>,
        printer: &str,
        name: &str,
        planned: f64,
        took: f64,
    ) -> Result<(), DbError> {
        self.write(|c| {
            diesel::insert_or_ignore_into(taken::table)
                .values((
                    taken::job.eq(job),
                    taken::printer.eq(printer),
                    taken::name.eq(name),
                    taken::planned.eq(planned),
                    taken::took.eq(took),
                    taken::at.eq(now()),
                ))
                .execute(c)?;
            let old: Vec<i64> = taken::table
                .filter(taken::printer.eq(printer))
                .order(taken::id.desc())
                .offset(KEPT)
                .limit(i64::MAX)
                .select(taken::id)
                .load(c)?;
            diesel::delete(taken::table.filter(taken::id.eq_any(old))).execute(c)?;
            Ok(())
        })
    }

    /// What prints of a printer took, the last first.
    pub fn taken(&self, printer: &str) -> Result<Vec<TimedPrint>, DbError> {
        Ok(taken::table
            .filter(taken::printer.eq(printer))
            .order(taken::id.desc())
            .select(TimedPrint::as_select())
            .load(&mut *self.connection()?)?)
    }

    /// Forgets what prints of a printer took.
    pub fn forget_taken(&self, printer: &str) -> Result<(), DbError> {
        self.write(|c| {
            diesel::delete(taken::table.filter(taken::printer.eq(printer))).execute(c)?;
            Ok(())
        })
    }
}
