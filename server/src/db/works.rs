//! What lies on the shelf with a history: designs, and beds. All are kept the same way, so all are undone the same way.

use super::kept::{Kept, Shelved, StepRow, WorkRow, last_readable, load, shelved, stored};
use super::schema::{pictures, revisions, works};
use super::{Db, DbError, StepLabel, Stored};
use crate::clock::now;
use diesel::prelude::*;
use kachel_engine::{Document, Engine};
use kachel_words::{Message, msg};
use std::collections::HashMap;
use std::marker::PhantomData;
use uuid::Uuid;

/// All works of a kind.
pub struct Works<'a, D> {
    pub(super) db: &'a Db,
    kind: PhantomData<D>,
}

impl<'a, D: Kept> Works<'a, D> {
    pub(super) fn of(db: &'a Db) -> Self {
        Self { db, kind: PhantomData }
    }

    /// All that are not deleted, the last changed first. What cannot be read stands among them with the reason.
    pub fn list(&self) -> Result<Vec<Shelved<D>>, DbError> {
        // One transaction: a change between two questions would pair the step of one state with that of another.
        self.db.connection()?.transaction(|c| {
            let here = works::table.filter(works::deleted_at.is_null()).filter(works::kind.eq(D::KIND));
            let ids: Vec<String> = here.order((works::updated_at.desc(), works::id)).select(works::id).load(c)?;
            // A few questions for all: one for each of a thousand takes most of the time until the shelf is seen.
            let heads: Vec<(WorkRow, StepRow)> = here
                .inner_join(revisions::table)
                .filter(revisions::seq.eq(works::head))
                .select(<(WorkRow, StepRow)>::as_select())
                .load(c)?;
            let redos: HashMap<String, StepLabel> = here
                .inner_join(revisions::table)
                .filter(revisions::seq.eq(works::head + 1))
                .select((works::id, StepLabel::as_select()))
                .load::<(String, StepLabel)>(c)?
                .into_iter()
                .collect();
            let mut sound: HashMap<String, Stored<D>> = heads
                .into_iter()
                .filter_map(|(work, step)| {
                    let redo = redos.get(&work.id).cloned();
                    Some((work.id.clone(), stored(work, step, redo).ok()?))
                })
                .collect();
            ids.iter()
                .map(|id| match sound.remove(id) {
                    Some(stored) => Ok(Shelved::Sound(Box::new(stored))),
                    None => shelved(c, id),
                })
                .collect()
        })
    }

    /// How many there are.
    pub fn count(&self) -> Result<i64, DbError> {
        let all = works::table.filter(works::deleted_at.is_null()).filter(works::kind.eq(D::KIND));
        Ok(all.count().get_result(&mut *self.db.connection()?)?)
    }

    /// Goes back to the last state that can be read, where the present one cannot.
    pub fn rescue(&self, id: &str, version: i64) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            let head = checked_head::<D>(c, id, version)?;
            let before = last_readable::<D>(c, id, head)?.ok_or(DbError::NoStep("nothing-to-go-back-to"))?;
            move_head(c, id, before, version)?;
            load(c, id)
        })
    }

    /// The version of one that is on the shelf.
    pub fn version(&self, id: &str) -> Result<i64, DbError> {
        Ok(head_and_version::<D>(&mut *self.db.connection()?, id)?.1)
    }

    /// One of them.
    pub fn get(&self, id: &str) -> Result<Stored<D>, DbError> {
        load(&mut *self.db.connection()?, id)
    }

    /// Puts a new one on the shelf.
    pub fn add(&self, document: &D, label: &Message) -> Result<Stored<D>, DbError> {
        self.db.write(|c| insert(c, document, label))
    }

    /// Puts a copy on the shelf; its history starts anew.
    pub fn duplicate(&self, id: &str) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            let mut document: D = load(c, id)?.document;
            let name = copy_name(document.name());
            *document.name() = name;
            let copy = insert(c, &document, &msg!("copied-work"))?;
            let labels: String = works::table.find(id).select(works::labels).first(c)?;
            diesel::update(works::table.find(&copy.id)).set(works::labels.eq(labels)).execute(c)?;
            load(c, &copy.id)
        })
    }

    /// Adds a revision after the head; what was undone is given up.
    pub fn change(&self, id: &str, version: i64, document: &D, label: &Message) -> Result<Stored<D>, DbError> {
        self.db.write(|c| add_revision(c, id, version, document, label))
    }

    /// Steps back (-1) or forth (1) in the history.
    pub fn step(&self, id: &str, version: i64, by: i64) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            let head = checked_head::<D>(c, id, version)?;
            let exists = revisions::table.find((id, head + by)).count().get_result::<i64>(c)? > 0;
            if !exists {
                return Err(DbError::NoStep(if by < 0 { "nothing-to-undo" } else { "nothing-to-redo" }));
            }
            move_head(c, id, head + by, version)?;
            load(c, id)
        })
    }

    /// Takes one off the shelf; [`Works::restore`] brings it back.
    pub fn delete(&self, id: &str) -> Result<(), DbError> {
        self.db.write(|c| {
            let gone = diesel::update(works::table.find(id))
                .filter(works::kind.eq(D::KIND))
                .filter(works::deleted_at.is_null())
                .set(works::deleted_at.eq(now()))
                .execute(c)?;
            if gone == 0 { Err(DbError::UnknownWork(D::KIND)) } else { Ok(()) }
        })
    }

    /// Brings a deleted one back.
    pub fn restore(&self, id: &str) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            diesel::update(works::table.find(id))
                .filter(works::kind.eq(D::KIND))
                .set(works::deleted_at.eq(None::<String>))
                .execute(c)?;
            load(c, id)
        })
    }

    /// What one is called, or was called when it was deleted.
    pub fn last_name(&self, id: &str) -> Result<String, DbError> {
        let mut c = self.db.connection()?;
        let text: Option<String> = works::table
            .inner_join(revisions::table)
            .filter(works::id.eq(id))
            .filter(works::kind.eq(D::KIND))
            .filter(revisions::seq.eq(works::head))
            .select(revisions::document)
            .first(&mut c)
            .optional()?;
        Ok(std::mem::take(D::read(&text.ok_or(DbError::UnknownWork(D::KIND))?)?.name()))
    }
}

impl Works<'_, Document> {
    /// Puts a new design on the shelf, with its picture.
    pub fn create(&self, document: &Document, picture: &[u8], label: &Message) -> Result<Stored, DbError> {
        self.db.write(|c| {
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
        label: &Message,
    ) -> Result<Stored, DbError> {
        self.db.write(|c| {
            keep_picture(c, document, picture)?;
            add_revision(c, id, version, document, label)
        })
    }
}

/// Stands where a name or a number comes in a sentence.
const BLANK: &str = "\u{1}";

/// 'Hedgehog' becomes 'Hedgehog copy', that 'Hedgehog copy 2'.
fn copy_name(name: &str) -> String {
    let is_copy = |name: &str| -> Option<(String, u32)> {
        let once = msg!("copied-name", name = BLANK).to_string();
        let (before, after) = once.split_once(BLANK)?;
        if let Some(base) = name.strip_prefix(before).and_then(|n| n.strip_suffix(after)) {
            return Some((base.into(), 1));
        }
        // The name comes before the number in every language.
        let again = msg!("copied-name-again", name = BLANK, n = BLANK).to_string();
        let (before, rest) = again.split_once(BLANK)?;
        let (between, after) = rest.split_once(BLANK)?;
        let (base, n) = name.strip_prefix(before)?.strip_suffix(after)?.rsplit_once(between)?;
        Some((base.into(), n.parse().ok()?))
    };
    let (base, number) = is_copy(name).map_or((name.into(), 1), |(base, n)| (base, n.saturating_add(1)));
    let base: String = base.chars().take(100).collect();
    let named = if number == 1 {
        msg!("copied-name", name = base)
    } else {
        msg!("copied-name-again", name = base, n = number.to_string())
    };
    named.to_string()
}

/// Writes the sums of documents that were written before there were any.
pub(super) fn fill_sums(c: &mut SqliteConnection) -> Result<(), DbError> {
    loop {
        let rows: Vec<(String, i64, String)> = revisions::table
            .filter(revisions::sum.eq(""))
            .limit(200)
            .select((revisions::work_id, revisions::seq, revisions::document))
            .load(c)?;
        if rows.is_empty() {
            return Ok(());
        }
        for (id, seq, text) in rows {
            diesel::update(revisions::table.find((id, seq)))
                .set(revisions::sum.eq(Engine::hash(text.as_bytes())))
                .execute(c)?;
        }
    }
}

pub(super) fn keep_picture(c: &mut SqliteConnection, document: &Document, picture: &[u8]) -> Result<(), DbError> {
    diesel::insert_or_ignore_into(pictures::table)
        .values((pictures::hash.eq(&document.artwork.hash), pictures::bytes.eq(picture)))
        .execute(c)?;
    Ok(())
}

fn add_revision<D: Kept>(
    c: &mut SqliteConnection,
    id: &str,
    version: i64,
    document: &D,
    label: &Message,
) -> Result<Stored<D>, DbError> {
    let head = checked_head::<D>(c, id, version)?;
    diesel::delete(revisions::table.filter(revisions::work_id.eq(id)).filter(revisions::seq.gt(head))).execute(c)?;
    insert_revision(c, id, head + 1, document, label)?;
    move_head(c, id, head + 1, version)?;
    load(c, id)
}

pub(super) fn insert<D: Kept>(c: &mut SqliteConnection, document: &D, label: &Message) -> Result<Stored<D>, DbError> {
    insert_as(c, Uuid::new_v4().to_string(), document, label)
}

/// The same under a name for the program that nothing has.
pub(super) fn insert_as<D: Kept>(
    c: &mut SqliteConnection,
    id: String,
    document: &D,
    label: &Message,
) -> Result<Stored<D>, DbError> {
    diesel::insert_into(works::table)
        .values((
            works::id.eq(&id),
            works::kind.eq(D::KIND),
            works::head.eq(1),
            works::version.eq(1),
            works::updated_at.eq(now()),
        ))
        .execute(c)?;
    insert_revision(c, &id, 1, document, label)?;
    load(c, &id)
}

fn insert_revision<D: Kept>(
    c: &mut SqliteConnection,
    id: &str,
    seq: i64,
    d: &D,
    label: &Message,
) -> Result<(), DbError> {
    let text = d.written()?;
    diesel::insert_into(revisions::table)
        .values((
            revisions::work_id.eq(id),
            revisions::seq.eq(seq),
            revisions::sum.eq(Engine::hash(text.as_bytes())),
            revisions::document.eq(text),
            StepLabel::from(label),
            revisions::created_at.eq(now()),
        ))
        .execute(c)?;
    Ok(())
}

/// The present step of a work, and its version.
fn head_and_version<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<(i64, i64), DbError> {
    let found = works::table
        .find(id)
        .filter(works::kind.eq(D::KIND))
        .filter(works::deleted_at.is_null())
        .select((works::head, works::version))
        .first(c)
        .optional()?;
    found.ok_or(DbError::UnknownWork(D::KIND))
}

/// The present step of a work that is on the shelf.
pub(super) fn head<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<i64, DbError> {
    Ok(head_and_version::<D>(c, id)?.0)
}

fn checked_head<D: Kept>(c: &mut SqliteConnection, id: &str, version: i64) -> Result<i64, DbError> {
    let (head, current) = head_and_version::<D>(c, id)?;
    if current == version { Ok(head) } else { Err(DbError::Stale { current }) }
}

fn move_head(c: &mut SqliteConnection, id: &str, head: i64, version: i64) -> Result<(), DbError> {
    diesel::update(works::table.find(id))
        .set((works::head.eq(head), works::version.eq(version + 1), works::updated_at.eq(now())))
        .execute(c)?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_copy_of_a_copy_is_numbered() {
        for (name, copy) in [
            ("Hedgehog", "Hedgehog copy"),
            ("Hedgehog copy", "Hedgehog copy 2"),
            ("Hedgehog copy 2", "Hedgehog copy 3"),
            ("Hedgehog copy of mine", "Hedgehog copy of mine copy"),
            ("Igel 2", "Igel 2 copy"),
        ] {
            assert_eq!(copy_name(name), copy);
        }
        assert!(copy_name(&"x".repeat(300)).chars().count() < 120);
    }
}
