//! Tiers: an outline and a recipe's measures make a stack.
//!
//! A stack is plain data (footprints on the grid, heights on the grid, an order), so the solid stage knows nothing
//! of recipes, and a recipe nothing of meshes.
//!
//! ```
//! use kachel_tiers::{RECIPES, Unit, parse_length};
//!
//! // A recipe is data: its measures have names, units and ranges.
//! let cutter = &RECIPES[0];
//! let wall = cutter.measures.iter().copied().flatten().find(|m| m.name == "wall-height").unwrap();
//! assert_eq!(wall.default, 15.0);
//! // Lengths are typed as makers type them.
//! assert_eq!(parse_length("2 1/2 in", Unit::Mm).unwrap(), 63.5);
//! ```

mod aim;
mod area;
mod colours;
mod edge;
mod error;
mod finish;
mod laid;
mod maker;
mod measure;
mod model;
mod names;
mod own;
mod plans;
mod recipes;
mod section;
mod slice;
mod tie;
mod unit;

pub use area::Area;
pub use colours::{ColourChange, colour_changes};
pub use error::TierError;
pub use finish::{CHORD_MM, EdgesOf, Finish, FinishShape, Way};
pub use kachel_words::Unit;
pub use measure::{MeasureError, MeasureKind, MeasureSpec, Measures, Picture, Recipe, RecipeKind};
pub use model::{Doubt, DoubtKind, DoubtMend, Handle, Hung, MendBy, Moves, Op, Role, Stack, Tier};
pub use names::{
    Back, Choice, ChoiceMeasure, CoasterForm, Corners, Crumbs, Grip, Hang, HoleAt, MagnetSize, Measure, Outside,
    Pieces, Place, PlaqueForm, Pocket, Relief, Screws, StampAs, StampPlate, StampRelief, TagSide, TokenBack, TokenForm,
    measures,
};
pub use own::Given;
pub use own::{Footprint, MAX_OWN, OwnTier};
pub use plans::Plans;
pub use recipes::{RECIPES, stack};
pub use section::{Cut, CutLine, section, through_details};
pub use slice::{Slice, Slices, Span, slice};
pub use tie::{Bar, Tie, widest_gap};
pub use unit::{LengthError, parse_length};

#[cfg(test)]
mod tests;
