//! What a recipe needs of patches: what first guesses are made for, and the usual size.

use crate::measure::{Measures, RecipeKind};
use crate::names::{CoasterForm, PlaqueForm, StampPlate, TokenForm, measures as m};
use kachel_outline::{Aim, Usual};

/// How much of a round plate's free middle the circle round a drawing takes up.
const OF_A_DISC: f64 = 0.8;
/// How much of a square plate's free side a drawing takes up.
const OF_A_SQUARE: f64 = 0.75;

impl RecipeKind {
    /// What first guesses are made for.
    pub fn aim(self, measures: &Measures) -> Aim {
        let in_form = |is_outline: bool| if is_outline { Aim::PlateInForm } else { Aim::Plate };
        match self {
            Self::Cutter | Self::CutterStamp | Self::FreeStack => Aim::Cutter,
            Self::Stamp if is_partner(measures) || measures.choice(m::PLATE) == Some(StampPlate::Outline) => Aim::Tag,
            // Ink prints: it is never the ground.
            Self::Stamp | Self::Pendant => Aim::Lines,
            Self::Coaster => in_form(measures.choice(m::COASTER_FORM) == Some(CoasterForm::Outline)),
            Self::Plaque => in_form(measures.choice(m::PLAQUE_FORM) == Some(PlaqueForm::Outline)),
            Self::Token if measures.choice(m::TOKEN_FORM) == Some(TokenForm::Outline) => Aim::Tag,
            Self::Token => Aim::Plate,
            Self::Ornament | Self::Magnet => Aim::Body,
            Self::KeyTag => Aim::Tag,
        }
    }

    /// How large a drawing is that nobody has given a size. On round plates it is the circle round it that counts, so that
    /// long shapes fit as well as round ones.
    pub fn usual(self, measures: &Measures) -> Usual {
        let across = measures.get(m::ACROSS);
        let free = |taken: f64, of: f64| ((across - 2.0 * taken) * of).max(1.0);
        match self {
            Self::Coaster => {
                let rim = measures.get(m::RIM_WIDTH);
                match measures.choice(m::COASTER_FORM) {
                    Some(CoasterForm::Square) => Usual::Longest(free(rim, OF_A_SQUARE)),
                    Some(CoasterForm::Outline) => Usual::Longest((across - 2.0 * measures.get(m::BORDER)).max(1.0)),
                    _ => Usual::Across(free(rim, OF_A_DISC)),
                }
            }
            Self::Token if measures.choice(m::TOKEN_FORM) != Some(TokenForm::Outline) => {
                Usual::Across(free(measures.get(m::SOFT_EDGE), OF_A_DISC))
            }
            Self::Cutter
            | Self::CutterStamp
            | Self::Stamp
            | Self::Ornament
            | Self::Magnet
            | Self::KeyTag
            | Self::Token
            | Self::Pendant
            | Self::Plaque
            | Self::FreeStack => Usual::Longest(self.recipe().usual_size),
        }
    }

    /// How far beyond the edge the body reaches; `None` where the body has a form of its own.
    pub(crate) fn border(self, measures: &Measures) -> Option<f64> {
        match self.aim(measures) {
            Aim::Plate | Aim::Lines => None,
            Aim::Cutter => Some(0.0),
            Aim::Tag if self == Self::Stamp && is_partner(measures) => Some(-measures.get(m::CLEARANCE)),
            Aim::PlateInForm | Aim::Tag | Aim::Body => Some(measures.get(m::BORDER)),
        }
    }
}

/// Whether a stamp slides inside a cutter of the same outline.
fn is_partner(measures: &Measures) -> bool {
    measures.get(m::CLEARANCE) > 0.0
}
