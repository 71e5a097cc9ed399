//! What an outline is made with.

use crate::aim::{Aim, Guesses};
use crate::entry::Entry;
use crate::known::Choice;
use serde::{Deserialize, Serialize};

/// How large the edge is.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "by", rename_all = "kebab-case")]
#[ts(export)]
pub enum Size {
    /// Nobody has given a size: it is what the recipe proposes, whatever the picture and the recipe are.
    Usual,
    /// Millimetres a pixel; the size follows the choice of patches.
    Scale {
        /// Millimetres a pixel.
        mm_per_px: f64,
    },
    /// Pinned width in millimetres; the scale follows.
    Width {
        /// The edge's width.
        mm: f64,
    },
    /// Pinned height in millimetres; the scale follows.
    Height {
        /// The edge's height.
        mm: f64,
    },
}

/// The size of what nobody has given a size yet.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Usual {
    /// So long on its longest side, mm.
    Longest(f64),
    /// So far across the smallest circle round it, mm.
    Across(f64),
}

/// Everything that goes into an outline beside the contours.
#[derive(Clone, Copy, Debug)]
pub struct Wanted<'a> {
    /// Uses that the maker gave to patches.
    pub choices: &'a [Choice],
    /// What is done to the patches, in this order.
    pub changes: &'a [Entry],
    /// How large the edge is, or the drawing where nothing is the edge.
    pub size: Size,
    /// Width of pen lines, mm; as wide as they were drawn where it is left out.
    pub pen: Option<f64>,
    /// What the patches are meant for.
    pub aim: Aim,
    /// How first guesses are made.
    pub guesses: Guesses,
    /// The size that [`Size::Usual`] stands for.
    pub usual: Usual,
}

impl Wanted<'_> {
    /// Contours as they are, meant for a cutter.
    pub const fn of_size(size: Size) -> Self {
        Self {
            choices: &[],
            changes: &[],
            size,
            pen: None,
            aim: Aim::Cutter,
            guesses: Guesses::ByObjectAndColour,
            usual: Usual::Longest(90.0),
        }
    }
}
