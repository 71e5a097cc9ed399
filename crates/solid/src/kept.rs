//! What is kept from one arrangement to the next: a changed finish or a mended pinch leaves most levels and slopes as they
//! were.

use crate::SolidError;
use crate::sheet::{Border, Cache};
use crate::skin::{Flat, FlatTriangle};
use crate::slopes::{self, Refined};
use std::sync::Arc;

/// Kept for all arrangements together, levels as well as slopes; one of 10 000 nodes takes about a megabyte, and those with
/// more than [`MOST_EDGES`] are not kept.
const MAX_SHEETS: usize = 48;
const MOST_EDGES: usize = 50_000;

/// Triangulated levels and slopes by their very edges. Clones share what they keep.
#[derive(Clone, Debug)]
pub struct Sheets(Arc<Kept>);

#[derive(Debug)]
struct Kept {
    flats: Cache<Border<Flat>, Vec<FlatTriangle>>,
    slopes: Cache<slopes::Ground, Refined>,
}

impl Default for Sheets {
    fn default() -> Self {
        Self(Arc::new(Kept { flats: Cache::new(MAX_SHEETS), slopes: Cache::new(MAX_SHEETS) }))
    }
}

impl Sheets {
    pub(crate) fn flats(
        &self,
        border: Border<Flat>,
        make: impl FnOnce(&Border<Flat>) -> Result<Vec<FlatTriangle>, SolidError>,
    ) -> Result<Arc<Vec<FlatTriangle>>, SolidError> {
        let is_kept = border.edges() <= MOST_EDGES;
        if is_kept { self.0.flats.get_or(border, make) } else { make(&border).map(Arc::new) }
    }

    pub(crate) fn slopes(
        &self,
        ground: slopes::Ground,
        make: impl FnOnce(&slopes::Ground) -> Result<Refined, SolidError>,
    ) -> Result<Arc<Refined>, SolidError> {
        let is_kept = ground.border.edges() <= MOST_EDGES;
        if is_kept { self.0.slopes.get_or(ground, make) } else { make(&ground).map(Arc::new) }
    }

    /// How many levels and slopes are kept.
    #[cfg(test)]
    pub(crate) fn kept(&self) -> (usize, usize) {
        (self.0.flats.len(), self.0.slopes.len())
    }
}
