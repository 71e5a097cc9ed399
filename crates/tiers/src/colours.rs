//! Which filament is on top at which height: a printer that loads one changes it by hand.

use crate::{Op, Stack};
use kachel_geom::Grid;

/// From this height on, another filament prints.
#[derive(Clone, Debug, PartialEq)]
pub struct ColourChange {
    /// Above the bed, mm.
    pub height: f64,
    /// Place in [`Stack::filaments`].
    pub part: u32,
}

/// The heights at which to change filament, the first at the bed; `None` where two filaments print in one layer, which a
/// printer with one filament cannot do.
pub fn colour_changes(stack: &Stack) -> Option<Vec<ColourChange>> {
    let mut levels: Vec<Grid> = stack.tiers.iter().flat_map(|t| [t.bottom, t.top]).collect();
    levels.sort_unstable();
    levels.dedup();
    let mut changes: Vec<ColourChange> = Vec::new();
    for pair in levels.windows(2) {
        let here = |t: &&crate::Tier| t.op == Op::Add && t.bottom <= pair[0] && t.top >= pair[1];
        // A tier that another one covers wholly does not print.
        let inside: Vec<_> = stack.tiers.iter().enumerate().filter(|(_, t)| here(t)).collect();
        let shows = |k: usize, t: &crate::Tier| {
            !inside.iter().any(|(j, later)| *j > k && later.footprint == t.footprint && later.part != t.part)
        };
        let mut parts: Vec<u32> = inside.iter().filter(|(k, t)| shows(*k, t)).map(|(_, t)| t.part).collect();
        parts.sort_unstable();
        parts.dedup();
        match parts.as_slice() {
            [] => {}
            [only] => {
                if changes.last().is_none_or(|c| c.part != *only) {
                    changes.push(ColourChange { height: pair[0].mm(), part: *only });
                }
            }
            _ => return None,
        }
    }
    Some(changes)
}
