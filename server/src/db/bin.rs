//! What was taken off the shelf lies in the bin until that is emptied.

use super::kept::name_in;
use super::schema::{revisions, works};
use super::{Db, DbError, thing};
use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use diesel::sql_types::BigInt;
use kachel_words::msg;

/// Something that was taken off the shelf.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Binned {
    /// Its name for the program.
    pub id: String,
    /// `design` or `bed`.
    pub kind: String,
    /// What the maker called it.
    pub name: String,
    /// When it was taken off, RFC 3339.
    pub deleted_at: String,
}

#[derive(QueryableByName)]
struct Bytes {
    #[diesel(sql_type = BigInt)]
    bytes: i64,
}

/// Documents whose pictures stay: all that can come back without the bin.
const KEPT: &str = "SELECT document FROM revisions WHERE work_id IN (SELECT id FROM works WHERE deleted_at IS NULL) \
    UNION ALL SELECT document FROM snapshots WHERE design_id IN (SELECT id FROM works WHERE deleted_at IS NULL)";

/// Pictures that none of those names. Where one of them cannot be read, nobody knows which it needs: then none.
fn loose() -> String {
    format!(
        "SELECT hash FROM pictures WHERE NOT EXISTS (SELECT 1 FROM ({KEPT}) WHERE NOT json_valid(document)) AND hash NOT IN \
         (SELECT json_extract(document, '$.artwork.hash') FROM ({KEPT}) \
          WHERE json_valid(document) AND json_extract(document, '$.artwork.hash') IS NOT NULL)"
    )
}

impl Db {
    /// What lies in the bin, the last first, and how many bytes of the file it takes.
    pub fn bin(&self) -> Result<(Vec<Binned>, i64), DbError> {
        let mut c = self.connection()?;
        let rows: Vec<(String, String, String, Option<String>)> = works::table
            .inner_join(revisions::table)
            .filter(works::deleted_at.is_not_null())
            .filter(revisions::seq.eq(works::head))
            .order(works::deleted_at.desc())
            .select((works::id, works::kind, revisions::document, works::deleted_at))
            .load(&mut c)?;
        let binned = |(id, kind, text, at): (String, String, String, Option<String>)| Binned {
            name: name_in(&text, 120).unwrap_or_else(|| msg!("damaged-work", what = thing(&kind)).to_string()),
            id,
            kind,
            deleted_at: at.unwrap_or_default(),
        };
        let all: Vec<Binned> = rows.into_iter().map(binned).collect();
        if all.is_empty() {
            return Ok((all, 0));
        }
        let text = format!(
            "SELECT (SELECT coalesce(sum(length(document)), 0) FROM revisions WHERE work_id IN \
             (SELECT id FROM works WHERE deleted_at IS NOT NULL)) + \
             (SELECT coalesce(sum(length(bytes)), 0) FROM pictures WHERE hash IN ({})) AS bytes",
            loose()
        );
        Ok((all, diesel::sql_query(text).get_result::<Bytes>(&mut c)?.bytes))
    }

    /// Empties the bin, and gives its room in the file back.
    pub fn empty_bin(&self) -> Result<(), DbError> {
        self.write(|c| {
            // First the pictures: which of them are loose is told by what is not in the bin.
            diesel::sql_query(format!("DELETE FROM pictures WHERE hash IN ({})", loose())).execute(c)?;
            let gone = "(SELECT id FROM works WHERE deleted_at IS NOT NULL)";
            c.batch_execute(&format!(
                "DELETE FROM snapshots WHERE design_id IN {gone}; DELETE FROM revisions WHERE work_id IN {gone}; \
                 DELETE FROM works WHERE deleted_at IS NOT NULL;"
            ))?;
            Ok(())
        })?;
        // Somebody may be reading; the room is used again then, and given back the next time.
        let _ = self.connection()?.batch_execute("VACUUM; PRAGMA wal_checkpoint(TRUNCATE);");
        Ok(())
    }
}
