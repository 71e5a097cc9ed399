//! Edits: the one way to change a document.
//!
//! Each group is an enum in a file of its own. Whatever there is to say of an edit stands there: its fields with their
//! ranges, its label, what it needs, and how it is applied. The matches are exhaustive, so an edit that forgets one of
//! these does not compile.

#![deny(clippy::wildcard_enum_match_arm)]

mod error;
mod general;
mod outline;
mod picture;
mod sentence;
mod tiers;
mod value;

use crate::{Document, Source};
use kachel_geom::{Point, Px};
use kachel_outline::Outline;
use kachel_words::Message;
use serde::de::Error as _;
use serde::{Deserialize, Deserializer, Serialize};
use strum::VariantNames;
use ts_rs::TS;

pub use error::EditError;
pub(crate) use error::{in_range, in_unit, infill_in_range, text};
pub use general::{Axis, GeneralEdit, SizeOf};
pub use outline::{Closing, OutlineEdit};
pub use picture::{PictureEdit, lay_by};
pub use tiers::{TierEdit, bars_mm};
pub use value::{Length, Value};

/// A change of a document. In JSON its `kind` names it; the groups do not appear.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(untagged)]
pub enum Edit {
    /// Name, credit, unit and size.
    General(GeneralEdit),
    /// What is done to the picture, and how it is traced.
    Picture(PictureEdit),
    /// Uses of patches, the list of changes, pins and guides.
    Outline(OutlineEdit),
    /// Recipe, measures, own tiers, tie bars and filaments.
    Tiers(TierEdit),
}

impl<'de> Deserialize<'de> for Edit {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        // The groups are tried by name, so that a refused field is reported by the edit that has it.
        let value = serde_json::Value::deserialize(deserializer)?;
        let kind = value.get("kind").and_then(serde_json::Value::as_str).unwrap_or_default().to_string();
        let is_in = |names: &[&str]| names.contains(&kind.as_str());
        let read = if is_in(GeneralEdit::VARIANTS) {
            GeneralEdit::deserialize(value).map(Self::General)
        } else if is_in(PictureEdit::VARIANTS) {
            PictureEdit::deserialize(value).map(Self::Picture)
        } else if is_in(OutlineEdit::VARIANTS) {
            OutlineEdit::deserialize(value).map(Self::Outline)
        } else if is_in(TierEdit::VARIANTS) {
            TierEdit::deserialize(value).map(Self::Tiers)
        } else {
            let kind: String = kind.chars().take(40).collect();
            return Err(D::Error::custom(format!("there is no edit of the kind '{kind}'")));
        };
        read.map_err(D::Error::custom)
    }
}

/// Groups become edits.
macro_rules! from_group {
    ($($group:ident => $variant:ident),*) => {$(
        impl From<$group> for Edit {
            fn from(edit: $group) -> Self {
                Self::$variant(edit)
            }
        }
    )*};
}
from_group!(GeneralEdit => General, PictureEdit => Picture, OutlineEdit => Outline, TierEdit => Tiers);

/// What an edit has to know of the document before it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Needs {
    /// Only the document itself.
    Nothing,
    /// The outline.
    Outline,
    /// What the picture is like.
    Picture,
    /// The same, and the sheet that lies in it.
    Sheet,
}

/// What edits may have to know of the document before them.
#[derive(Clone, Copy, Debug, Default)]
pub struct Basis<'a> {
    /// Its outline, where [`Edit::needs`] says so.
    pub outline: Option<&'a Outline>,
    /// Its picture, where [`Edit::needs`] says so.
    pub source: Option<Source>,
    /// Corners of the sheet that lies in the picture, where [`Edit::needs`] says so and there is one.
    pub sheet: Option<[Point<Px>; 4]>,
    /// By how much what a size is typed of is larger than the drawing, mm.
    pub beyond: f64,
}

impl Edit {
    /// What it has to know of the document before it.
    pub const fn needs(&self) -> Needs {
        match self {
            Self::General(e) => e.needs(),
            Self::Picture(e) => e.needs(),
            Self::Outline(e) => e.needs(),
            Self::Tiers(e) => e.needs(),
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::General(e) => e.label(),
            Self::Picture(e) => e.label(),
            Self::Outline(e) => e.label(),
            Self::Tiers(e) => e.label(),
        }
    }

    /// The document after the edit, on the basis of what there was before it.
    pub fn apply(&self, document: &Document, basis: &Basis<'_>) -> Result<Document, EditError> {
        let mut d = document.clone();
        match self {
            Self::General(e) => e.apply(&mut d, basis)?,
            Self::Picture(e) => e.apply(&mut d, basis)?,
            Self::Outline(e) => e.apply(&mut d, basis.outline)?,
            Self::Tiers(e) => e.apply(&mut d, basis.outline)?,
        }
        Ok(d)
    }
}
