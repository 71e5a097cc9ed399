//! What lies on the shelf with a history: designs, and beds. All are kept the same way, so all are undone the same way.

use super::schema::{pictures, revisions, works};
use super::{Db, DbError, Stored};
use crate::clock::now;
use diesel::prelude::*;
use kachel_engine::{Bed, Document, DocumentError, Engine};
use std::marker::PhantomData;
use uuid::Uuid;

/// A kind of work that the shelf keeps.
pub trait Kept: Sized {
    /// Its name in the file, and in words.
    const KIND: &'static str;
    /// Reads it, in any of its versions.
    fn read(json: &str) -> Result<Self, DocumentError>;
    /// Writes it.
    fn written(&self) -> Result<String, DocumentError>;
    /// What the maker calls it.
    fn name(&mut self) -> &mut String;
}

impl Kept for Document {
    const KIND: &'static str = "design";
    fn read(json: &str) -> Result<Self, DocumentError> {
        Self::from_json(json)
    }
    fn written(&self) -> Result<String, DocumentError> {
        self.to_json()
    }
    fn name(&mut self) -> &mut String {
        &mut self.name
    }
}

impl Kept for Bed {
    const KIND: &'static str = "bed";
    fn read(json: &str) -> Result<Self, DocumentError> {
        Self::from_json(json)
    }
    fn written(&self) -> Result<String, DocumentError> {
        self.to_json()
    }
    fn name(&mut self) -> &mut String {
        &mut self.name
    }
}

/// A work on the shelf.
#[derive(Debug)]
pub enum Shelved<D> {
    /// It can be read.
    Sound(Box<Stored<D>>),
    /// Its present state cannot.
    Damaged(Damaged),
}

impl<D> Shelved<D> {
    /// What can be read.
    pub fn sound(self) -> Option<Stored<D>> {
        match self {
            Self::Sound(stored) => Some(*stored),
            Self::Damaged(_) => None,
        }
    }
}

/// A work whose present state cannot be read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Damaged {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// What the maker calls it, as far as that can be told.
    pub name: String,
    /// When anything last changed, RFC 3339.
    pub updated_at: String,
    /// Why it cannot be read.
    pub why: String,
    /// Whether an earlier state can.
    pub has_earlier: bool,
}

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
        let mut c = self.db.connection()?;
        let ids: Vec<String> = works::table
            .filter(works::deleted_at.is_null())
            .filter(works::kind.eq(D::KIND))
            .order((works::updated_at.desc(), works::id))
            .select(works::id)
            .load(&mut c)?;
        ids.iter().map(|id| shelved(&mut c, id)).collect()
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
            let before = last_readable::<D>(c, id, head)?.ok_or(DbError::NoStep("go back to"))?;
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
    pub fn add(&self, document: &D, label: &str) -> Result<Stored<D>, DbError> {
        self.db.write(|c| insert(c, document, label))
    }

    /// Puts a copy on the shelf; its history starts anew.
    pub fn duplicate(&self, id: &str) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            let mut document: D = load(c, id)?.document;
            let name = copy_name(document.name());
            *document.name() = name;
            let copy = insert(c, &document, "Copy")?;
            let labels: String = works::table.find(id).select(works::labels).first(c)?;
            diesel::update(works::table.find(&copy.id)).set(works::labels.eq(labels)).execute(c)?;
            load(c, &copy.id)
        })
    }

    /// Adds a revision after the head; what was undone is given up.
    pub fn change(&self, id: &str, version: i64, document: &D, label: &str) -> Result<Stored<D>, DbError> {
        self.db.write(|c| add_revision(c, id, version, document, label))
    }

    /// Steps back (-1) or forth (1) in the history.
    pub fn step(&self, id: &str, version: i64, by: i64) -> Result<Stored<D>, DbError> {
        self.db.write(|c| {
            let head = checked_head::<D>(c, id, version)?;
            let exists = revisions::table.find((id, head + by)).count().get_result::<i64>(c)? > 0;
            if !exists {
                return Err(DbError::NoStep(if by < 0 { "undo" } else { "redo" }));
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
    pub fn create(&self, document: &Document, picture: &[u8], label: &str) -> Result<Stored, DbError> {
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
        label: &str,
    ) -> Result<Stored, DbError> {
        self.db.write(|c| {
            keep_picture(c, document, picture)?;
            add_revision(c, id, version, document, label)
        })
    }
}

/// 'Hedgehog' becomes 'Hedgehog copy', that 'Hedgehog copy 2'.
fn copy_name(name: &str) -> String {
    let (base, number) = match name.rsplit_once(" copy") {
        Some((base, "")) => (base, 2),
        Some((base, n)) => n.trim().parse::<u32>().map_or((name, 1), |n| (base, n.saturating_add(1))),
        None => (name, 1),
    };
    let base: String = base.chars().take(100).collect();
    if number == 1 { format!("{base} copy") } else { format!("{base} copy {number}") }
}

pub(super) fn load<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<Stored<D>, DbError> {
    let found: Option<(i64, i64, String, String)> = works::table
        .find(id)
        .filter(works::kind.eq(D::KIND))
        .filter(works::deleted_at.is_null())
        .select((works::head, works::version, works::updated_at, works::labels))
        .first(c)
        .optional()?;
    let (head, version, updated_at, labels) = found.ok_or(DbError::UnknownWork(D::KIND))?;
    let found: Option<(String, String, String, String)> = revisions::table
        .find((id, head))
        .select((revisions::document, revisions::sum, revisions::label, revisions::created_at))
        .first(c)
        .optional()?;
    let (document, sum, label, created_at) =
        found.ok_or_else(|| DocumentError::Damaged("its present state is missing".into()))?;
    let redo = revisions::table.find((id, head + 1)).select(revisions::label).first(c).optional()?;
    Ok(Stored {
        id: id.into(),
        version,
        document: read(&document, &sum)?,
        created_at,
        updated_at,
        undo: (head > 1).then_some(label),
        redo,
        labels: labels_of(&labels),
    })
}

/// Labels out of their column; what cannot be read is no label.
pub(super) fn labels_of(column: &str) -> Vec<String> {
    serde_json::from_str(column).unwrap_or_default()
}

/// Reads a document that is what was written.
pub(super) fn read<D: Kept>(document: &str, sum: &str) -> Result<D, DocumentError> {
    if Engine::hash(document.as_bytes()) == sum {
        D::read(document)
    } else {
        Err(DocumentError::Damaged("what is on the disk is not what was written there".into()))
    }
}

fn shelved<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<Shelved<D>, DbError> {
    let why = match load(c, id) {
        Ok(stored) => return Ok(Shelved::Sound(Box::new(stored))),
        Err(DbError::Document(why)) => why.to_string(),
        Err(e) => return Err(e),
    };
    let (head, version, updated_at): (i64, i64, String) =
        works::table.find(id).select((works::head, works::version, works::updated_at)).first(c)?;
    let text: Option<String> = revisions::table.find((id, head)).select(revisions::document).first(c).optional()?;
    let before = last_readable::<D>(c, id, head)?;
    let named = |text: &str| name_in(text, 100);
    let name = match (text.as_deref().and_then(named), before) {
        (Some(name), _) => name,
        (None, Some(seq)) => {
            let text: String = revisions::table.find((id, seq)).select(revisions::document).first(c)?;
            named(&text).unwrap_or_default()
        }
        (None, None) => format!("A damaged {}", D::KIND),
    };
    Ok(Shelved::Damaged(Damaged { id: id.into(), version, name, updated_at, why, has_earlier: before.is_some() }))
}

/// What a document calls itself, up to so many characters, where it can be read at all.
pub(super) fn name_in(document: &str, most: usize) -> Option<String> {
    let value: serde_json::Value = serde_json::from_str(document).ok()?;
    Some(value.get("name")?.as_str()?.chars().take(most).collect())
}

/// The last step before one that can be read.
fn last_readable<D: Kept>(c: &mut SqliteConnection, id: &str, before: i64) -> Result<Option<i64>, DbError> {
    let steps: Vec<i64> = revisions::table
        .filter(revisions::work_id.eq(id))
        .filter(revisions::seq.lt(before))
        .order(revisions::seq.desc())
        .select(revisions::seq)
        .load(c)?;
    for seq in steps {
        let (text, sum): (String, String) =
            revisions::table.find((id, seq)).select((revisions::document, revisions::sum)).first(c)?;
        if read::<D>(&text, &sum).is_ok() {
            return Ok(Some(seq));
        }
    }
    Ok(None)
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
    label: &str,
) -> Result<Stored<D>, DbError> {
    let head = checked_head::<D>(c, id, version)?;
    diesel::delete(revisions::table.filter(revisions::work_id.eq(id)).filter(revisions::seq.gt(head))).execute(c)?;
    insert_revision(c, id, head + 1, document, label)?;
    move_head(c, id, head + 1, version)?;
    load(c, id)
}

pub(super) fn insert<D: Kept>(c: &mut SqliteConnection, document: &D, label: &str) -> Result<Stored<D>, DbError> {
    insert_as(c, Uuid::new_v4().to_string(), document, label)
}

/// The same under a name for the program that nothing has.
pub(super) fn insert_as<D: Kept>(
    c: &mut SqliteConnection,
    id: String,
    document: &D,
    label: &str,
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

fn insert_revision<D: Kept>(c: &mut SqliteConnection, id: &str, seq: i64, d: &D, label: &str) -> Result<(), DbError> {
    let text = d.written()?;
    diesel::insert_into(revisions::table)
        .values((
            revisions::work_id.eq(id),
            revisions::seq.eq(seq),
            revisions::sum.eq(Engine::hash(text.as_bytes())),
            revisions::document.eq(text),
            revisions::label.eq(label),
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
