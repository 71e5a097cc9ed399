//! Edits of a design's name, credit, unit and size.

use super::error::{EditError, in_range, infill_in_range, text};
use super::{Basis, Length, Needs};
use crate::document::{Accepted, Credit, Document, MAX_ACCEPTED, MAX_NAME};
use crate::print::PrintWish;
use kachel_geom::{Point, Px};
use kachel_outline::{Outline, OutlineError, SIZE_RANGE_MM, Size};
use kachel_tiers::Unit;
use kachel_words::{Message, mm, msg};
use serde::{Deserialize, Serialize};
use strum::VariantNames;
use ts_rs::TS;

/// Range of a distance between two points of the picture, mm.
const DISTANCE_RANGE_MM: (f64, f64) = (0.1, 5000.0);
/// Longest line of a credit, characters.
const MAX_CREDIT: usize = 500;

/// A direction of the edge's box.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(rename_all = "kebab-case")]
pub enum Axis {
    /// Left to right.
    Width,
    /// Bottom to top.
    Height,
}

/// Of what a size is typed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(rename_all = "kebab-case")]
pub enum SizeOf {
    /// The edge as it is drawn; the drawing where nothing is the edge.
    #[default]
    Drawing,
    /// The edge with its margin: of a cutter, the cookie.
    Edge,
    /// The whole object, with all that is added.
    Object,
}

/// Name, credit, unit and size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, VariantNames, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[strum(serialize_all = "kebab-case")]
pub enum GeneralEdit {
    /// Calls the design something else.
    Rename {
        /// The new name.
        name: String,
    },
    /// Says whose picture it is.
    SetCredit {
        /// All of it.
        credit: Credit,
    },
    /// Shows lengths in another unit.
    SetUnit {
        /// The unit.
        unit: Unit,
    },
    /// Makes the edge this wide or high.
    SetSize {
        /// Which of the two.
        axis: Axis,
        /// The length.
        value: Length,
        /// Of what.
        #[serde(default)]
        of: SizeOf,
    },
    /// Pins width or height, so that the scale follows the choice of patches; or lets go of both.
    PinSize {
        /// Which of the two.
        axis: Option<Axis>,
    },
    /// Says how far apart two points of the picture are.
    SetDistance {
        /// One point, pixels of the prepared picture.
        from: Point<Px>,
        /// The other one.
        to: Point<Px>,
        /// The length.
        value: Length,
    },
    /// Takes the size that the file itself states.
    SetFileSize,
    /// Makes a pixel this large.
    SetScale {
        /// Millimetres a pixel.
        mm_per_px: f64,
    },
    /// Forgets all sizes that were typed: the recipe proposes one.
    UsualSize,
    /// How it is printed, as far as that differs from the workshop.
    SetPrint {
        /// How fine, and how much of the inside is filled.
        print: PrintWish,
    },
    /// Leaves a finding as it is.
    AcceptFinding {
        /// What it is like.
        finding: Accepted,
    },
    /// Wants to be told of a kind of finding again.
    TellFinding {
        /// The kind.
        code: String,
    },
}

impl GeneralEdit {
    /// What it has to know.
    pub const fn needs(&self) -> Needs {
        match self {
            Self::Rename { .. } | Self::SetCredit { .. } | Self::SetUnit { .. } | Self::SetDistance { .. } => {
                Needs::Nothing
            }
            Self::SetSize { .. } | Self::PinSize { .. } | Self::SetScale { .. } => Needs::Outline,
            Self::SetPrint { .. } | Self::UsualSize | Self::AcceptFinding { .. } | Self::TellFinding { .. } => {
                Needs::Nothing
            }
            Self::SetFileSize => Needs::Picture,
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::Rename { .. } => msg!("undo-rename"),
            Self::SetCredit { .. } => msg!("undo-credit"),
            Self::SetUnit { .. } => msg!("undo-unit"),
            Self::SetDistance { value, .. } => msg!("undo-distance", value = value.words()),
            Self::SetFileSize => msg!("undo-file-size"),
            Self::SetScale { .. } => msg!("undo-scale"),
            Self::UsualSize => msg!("undo-usual-size"),
            Self::SetPrint { .. } => msg!("undo-print"),
            Self::AcceptFinding { .. } => msg!("undo-accept"),
            Self::TellFinding { .. } => msg!("undo-tell"),
            Self::SetSize { axis: Axis::Width, value, .. } => msg!("undo-width", value = value.words()),
            Self::SetSize { axis: Axis::Height, value, .. } => msg!("undo-height", value = value.words()),
            Self::PinSize { axis: None } => msg!("undo-unpin"),
            Self::PinSize { axis: Some(_) } => msg!("undo-pin"),
        }
    }

    pub(super) fn apply(&self, d: &mut Document, basis: &Basis<'_>) -> Result<(), EditError> {
        match self {
            Self::Rename { name } => d.name = text("field-name", name, 1, MAX_NAME)?,
            Self::SetCredit { credit } => {
                let line = |what, v: &str| text(what, v, 0, MAX_CREDIT);
                d.credit = Credit {
                    maker: line("field-maker", &credit.maker)?,
                    source: line("field-source", &credit.source)?,
                    licence: line("field-licence", &credit.licence)?,
                    note: line("field-note", &credit.note)?,
                };
                d.credit_of = None;
            }
            Self::SetUnit { unit } => d.unit = *unit,
            Self::AcceptFinding { finding } => {
                text("field-kind-of-finding", &finding.code, 1, MAX_NAME)?;
                let found = d.accepted.len().max(finding.figures.len());
                if found >= MAX_ACCEPTED {
                    return Err(EditError::TooManyChoices { found });
                }
                d.accepted.retain(|a| !a.is(finding));
                d.accepted.push(finding.clone());
            }
            Self::SetPrint { print } => {
                infill_in_range(print.infill)?;
                d.print = *print;
            }
            Self::TellFinding { code } => d.accepted.retain(|a| a.code != *code),
            Self::SetDistance { from, to, value } => {
                let mm = value.within(msg!("field-distance"), DISTANCE_RANGE_MM, d.unit)?;
                let px = from.distance(*to);
                if !(px.is_finite() && px >= 1.0) {
                    return Err(EditError::EqualPoints);
                }
                d.size = Size::Scale { mm_per_px: mm / px };
            }
            Self::SetFileSize => {
                let mm_per_px = basis.source.and_then(|s| s.mm_per_px).ok_or(EditError::NoFileSize)?;
                d.size = Size::Scale { mm_per_px };
            }
            Self::SetSize { axis, value, .. } => {
                let what = msg!(if *axis == Axis::Width { "field-width" } else { "field-height" });
                let beyond = basis.beyond;
                let range = (SIZE_RANGE_MM.0 + beyond, SIZE_RANGE_MM.1 + beyond);
                let mm = value.within(what, range, d.unit)? - beyond;
                let outline = basis.outline.ok_or(OutlineError::NoEdge)?;
                let (w, h) = (outline.edge_px.width(), outline.edge_px.height());
                let mm_per_px = mm / if *axis == Axis::Width { w } else { h };
                fitting(outline, mm_per_px)?;
                d.size = match (d.size, axis) {
                    (Size::Scale { .. } | Size::Usual, _) => Size::Scale { mm_per_px },
                    (_, Axis::Width) => Size::Width { mm },
                    (_, Axis::Height) => Size::Height { mm },
                };
            }
            Self::SetScale { mm_per_px } => {
                fitting(basis.outline.ok_or(OutlineError::NoEdge)?, *mm_per_px)?;
                d.size = Size::Scale { mm_per_px: *mm_per_px };
            }
            Self::UsualSize => d.size = Size::Usual,
            Self::PinSize { axis } => {
                let outline = basis.outline.ok_or(OutlineError::NoEdge)?;
                let mm_per_px = outline.mm_per_px;
                d.size = match axis {
                    None => Size::Scale { mm_per_px },
                    Some(Axis::Width) => Size::Width { mm: outline.edge_px.width() * mm_per_px },
                    Some(Axis::Height) => Size::Height { mm: outline.edge_px.height() * mm_per_px },
                };
            }
        }
        Ok(())
    }
}

/// Refuses a scale at which a side of the edge leaves its range.
fn fitting(outline: &Outline, mm_per_px: f64) -> Result<(), EditError> {
    for (side, what) in [(outline.edge_px.width(), "field-edge-wide"), (outline.edge_px.height(), "field-edge-high")] {
        in_range(msg!(what), side * mm_per_px, SIZE_RANGE_MM, mm)?;
    }
    Ok(())
}
