//! What the shelf keeps, and how it is read: checked against its sum, and set aside where it is damaged.

use super::schema::{revisions, works};
use super::{DbError, StepLabel, Stored, thing};
use diesel::prelude::*;
use kachel_engine::{Bed, Document, DocumentError, Engine};
use kachel_words::msg;

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

/// A work without its steps.
#[derive(Queryable, Selectable)]
#[diesel(table_name = works)]
pub(super) struct WorkRow {
    pub(super) id: String,
    head: i64,
    version: i64,
    updated_at: String,
    labels: String,
}

/// One step of a work.
#[derive(Queryable, Selectable)]
#[diesel(table_name = revisions)]
pub(super) struct StepRow {
    document: String,
    sum: String,
    #[diesel(embed)]
    label: StepLabel,
    created_at: String,
}

pub(super) fn load<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<Stored<D>, DbError> {
    let found = works::table
        .find(id)
        .filter(works::kind.eq(D::KIND))
        .filter(works::deleted_at.is_null())
        .select(WorkRow::as_select())
        .first(c)
        .optional()?;
    let work = found.ok_or(DbError::UnknownWork(D::KIND))?;
    let found = revisions::table.find((id, work.head)).select(StepRow::as_select()).first(c).optional()?;
    let step = found.ok_or_else(|| DocumentError::Damaged(msg!("state-missing")))?;
    let redo = revisions::table.find((id, work.head + 1)).select(StepLabel::as_select()).first(c).optional()?;
    Ok(stored(work, step, redo)?)
}

pub(super) fn stored<D: Kept>(
    work: WorkRow,
    step: StepRow,
    redo: Option<StepLabel>,
) -> Result<Stored<D>, DocumentError> {
    Ok(Stored {
        id: work.id,
        version: work.version,
        document: read(&step.document, &step.sum)?,
        created_at: step.created_at,
        updated_at: work.updated_at,
        undo: (work.head > 1).then_some(step.label),
        redo,
        labels: labels_of(&work.labels),
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
        Err(DocumentError::Damaged(msg!("disk-changed-it")))
    }
}

pub(super) fn shelved<D: Kept>(c: &mut SqliteConnection, id: &str) -> Result<Shelved<D>, DbError> {
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
        (None, None) => msg!("damaged-work", what = thing(D::KIND)).to_string(),
    };
    Ok(Shelved::Damaged(Damaged { id: id.into(), version, name, updated_at, why, has_earlier: before.is_some() }))
}

/// What a document calls itself, up to so many characters, where it can be read at all.
pub(super) fn name_in(document: &str, most: usize) -> Option<String> {
    let value: serde_json::Value = serde_json::from_str(document).ok()?;
    Some(value.get("name")?.as_str()?.chars().take(most).collect())
}

/// The last step before one that can be read.
pub(super) fn last_readable<D: Kept>(c: &mut SqliteConnection, id: &str, before: i64) -> Result<Option<i64>, DbError> {
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
