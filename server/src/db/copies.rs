//! Copies of the shelf: one a day, one before each migration, and those that somebody asks for. They are made while the shelf is in
//! use.

use super::copying::{CopyError, copy_into};
use super::{Db, DbError};
use diesel::prelude::*;
use diesel::sql_types::Text;
use std::path::{Path, PathBuf};
use time::{Date, Duration, Month};

/// Copies of the last days that are kept, and of the last weeks: those of Mondays.
const DAYS: i64 = 7;
const WEEKS: i64 = 4;

#[derive(QueryableByName)]
struct Checked {
    #[diesel(sql_type = Text)]
    quick_check: String,
}

impl From<CopyError> for DbError {
    fn from(e: CopyError) -> Self {
        match e {
            CopyError::Shelf(e) => e.into(),
            CopyError::File { .. } => Self::Other(e.to_string()),
        }
    }
}

impl Db {
    /// Copies the shelf into a new file. What is acknowledged before is in it.
    pub fn copy_to(&self, file: &Path) -> Result<(), DbError> {
        Ok(copy_into(&mut *self.connection()?, file)?)
    }

    /// Looks over the whole file: `None` where it is sound, else what is the matter.
    pub fn unsound(&self) -> Result<Option<String>, DbError> {
        let rows: Vec<Checked> = diesel::sql_query("PRAGMA quick_check(20)").load(&mut *self.connection()?)?;
        let said: Vec<String> = rows.into_iter().map(|r| r.quick_check).filter(|r| r != "ok").collect();
        Ok((!said.is_empty()).then(|| said.join("; ")))
    }

    /// Makes the copy of a day (`2026-11-29`) in a directory unless it is there, and takes away those that are too old.
    pub fn daily_copy(&self, dir: &Path, today: &str) -> Result<(), DbError> {
        let file = dir.join(format!("{today}.db"));
        if file.exists() {
            return Ok(());
        }
        std::fs::create_dir_all(dir).map_err(|e| DbError::Other(e.to_string()))?;
        self.copy_to(&file)?;
        for (old, path) in copies(dir) {
            if day(today).is_some_and(|today| !is_kept(old, today)) {
                let _ = std::fs::remove_file(path);
            }
        }
        Ok(())
    }
}

/// Whether a copy of a day is still kept.
fn is_kept(copy: Date, today: Date) -> bool {
    let age = today - copy;
    age < Duration::days(DAYS) || (copy.weekday() == time::Weekday::Monday && age < Duration::weeks(WEEKS))
}

/// The daily copies in a directory.
fn copies(dir: &Path) -> Vec<(Date, PathBuf)> {
    let files = std::fs::read_dir(dir).into_iter().flatten().flatten().map(|e| e.path());
    files
        .filter(|p| p.extension().is_some_and(|e| e == "db"))
        .filter_map(|p| Some((day(p.file_stem()?.to_str()?)?, p)))
        .collect()
}

/// `2026-11-29`.
fn day(text: &str) -> Option<Date> {
    let mut parts = text.splitn(3, '-').map(str::parse::<u32>);
    let mut next = || parts.next()?.ok();
    let (year, month, day) = (next()?, next()?, next()?);
    let month = Month::try_from(u8::try_from(month).ok()?).ok()?;
    Date::from_calendar_date(i32::try_from(year).ok()?, month, u8::try_from(day).ok()?).ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn seven_days_and_four_mondays_are_kept() {
        // 29 November 2026 is a Sunday.
        let today = day("2026-11-29").unwrap();
        let kept: Vec<i64> = (0..60).filter(|back| is_kept(today - Duration::days(*back), today)).collect();
        assert_eq!(kept, [0, 1, 2, 3, 4, 5, 6, 13, 20, 27]);
        for text in ["", "2026-13-01", "2026-02-30", "before-version-5", "x-1-1"] {
            assert_eq!(day(text), None, "{text}");
        }
    }
}
