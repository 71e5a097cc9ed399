//! Tiers: an outline and a recipe's measures make a stack.
//!
//! A stack is plain data (footprints on the grid, heights on the grid, an order), so the solid stage knows nothing
//! of recipes, and a recipe nothing of meshes.

mod area;
mod cutter;
mod finish;
mod measure;
mod section;
mod slice;
mod unit;

use kachel_geom::{Grid, OffGrid, Stopped};

pub use area::{Area, Plans};
pub use cutter::{Footprints, cutter_footprints, cutter_stack};
pub use measure::{MeasureError, MeasureSpec, Measures, RECIPES, Recipe, RecipeKind};
pub use finish::{CHORD_MM, EdgesOf, Finish, FinishShape, Way};
pub use section::{Cut, section};
pub use slice::{Slice, Slices, Span, slice};
pub use unit::{LengthError, Unit, parse_length};

/// What a tier is of the object.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Role {
    /// The broad foot on the bed.
    Flange,
    /// The thin upright wall that cuts.
    Wall,
    /// Raised lines that mark the dough.
    Stamp,
}

impl Role {
    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Flange => "flange",
            Self::Wall => "wall",
            Self::Stamp => "stamp",
        }
    }

    /// The word for it.
    pub const fn words(self) -> &'static str {
        match self {
            Self::Flange => "Flange",
            Self::Wall => "Wall",
            Self::Stamp => "Stamp lines",
        }
    }
}

/// Whether a tier is added to the stack or cut out of what is there.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Op {
    /// Filament is added; it takes the place of what earlier tiers put there.
    Add,
    /// Filament is taken away from earlier tiers.
    Cut,
}

/// One body of the stack.
#[derive(Clone, Debug, PartialEq)]
pub struct Tier {
    /// What it is.
    pub role: Role,
    /// Plan area.
    pub footprint: Area,
    /// Height of its underside above the bed.
    pub bottom: Grid,
    /// Height of its upper side above the bed.
    pub top: Grid,
    /// Added or cut.
    pub op: Op,
    /// The part (filament) it belongs to, from 0.
    pub part: u32,
    /// What is done to its upper edge.
    pub top_finish: Finish,
    /// What is done to its lower edge.
    pub bottom_finish: Finish,
}

/// Tiers in order: a later one wins over an earlier one.
#[derive(Clone, Debug, PartialEq)]
pub struct Stack {
    /// The tiers.
    pub tiers: Vec<Tier>,
    /// Whether it is the mirror image of the picture, as a tool has to be.
    pub is_mirrored: bool,
}

/// Why there are no tiers.
#[derive(Debug, thiserror::Error)]
pub enum TierError {
    /// A measure was refused.
    #[error(transparent)]
    Measure(#[from] MeasureError),
    /// The object does not fit the grid.
    #[error("the object grows too large: {0}")]
    OffGrid(#[from] OffGrid),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl TierError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::Measure(_) => "Type a value in the range.",
            Self::OffGrid(_) => "Make the object, its margin or its flange smaller.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}

#[cfg(test)]
mod tests;
