//! An object in use, computed from its tiers and its layers: what makers print a trial for, seen before.
//!
//! Each recipe has one view that answers its question: the cookie that a cutter cuts, what a stamp prints, whether a cup stands,
//! how something hangs, what a magnet has to pull, how a relief looks in raking light. A view says what it leaves out.

mod cup;
mod dough;
mod hang;
mod light;
mod paper;
mod seen;
mod sheet;
mod table;

use crate::Fault;
use kachel_tiers::RecipeKind;

pub use crate::rules::cup::Tilt;
pub use cup::{Cup, Standing};
pub use seen::{InUse, Material, Used};

/// An object in use. `None` where there is nothing to see.
pub fn in_use(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    if o.layers.all.is_empty() {
        return Ok(None);
    }
    match o.measures.kind() {
        RecipeKind::Cutter | RecipeKind::CutterStamp => dough::cookie(o),
        RecipeKind::Stamp => paper::print(o),
        RecipeKind::Coaster => table::cup(o),
        RecipeKind::Ornament | RecipeKind::KeyTag | RecipeKind::Pendant if o.stack.hung.is_some() => hang::hanging(o),
        RecipeKind::Magnet => sheet::held(o),
        RecipeKind::Ornament
        | RecipeKind::KeyTag
        | RecipeKind::Pendant
        | RecipeKind::Token
        | RecipeKind::Plaque
        | RecipeKind::FreeStack => Ok(Some(light::raking(o))),
    }
}
