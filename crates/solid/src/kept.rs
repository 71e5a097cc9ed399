//! What is kept from one arrangement to the next: a changed finish or a mended pinch leaves most levels and slopes as they
//! were.

use crate::error::SolidError;
use crate::flat::{Flat, FlatTriangle};
use crate::sheet::Border;
use crate::slope_data::{Ground, Refined};
use kachel_geom::Memo;
use std::hash::Hash;
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
    flats: Memo<Border<Flat>, Arc<Vec<FlatTriangle>>>,
    slopes: Memo<Ground, Arc<Refined>>,
}

impl Default for Sheets {
    fn default() -> Self {
        Self(Arc::new(Kept { flats: Memo::new(MAX_SHEETS), slopes: Memo::new(MAX_SHEETS) }))
    }
}

/// From a cache, unless it has too many edges to be kept.
fn kept<K: Eq + Hash + Clone, V>(
    memo: &Memo<K, Arc<V>>,
    edges: usize,
    key: K,
    make: impl FnOnce(&K) -> Result<V, SolidError>,
) -> Result<Arc<V>, SolidError> {
    let make = |key: &K| make(key).map(Arc::new);
    if edges <= MOST_EDGES { memo.get_or(key, make) } else { make(&key) }
}

impl Sheets {
    pub(crate) fn flats(
        &self,
        border: Border<Flat>,
        make: impl FnOnce(&Border<Flat>) -> Result<Vec<FlatTriangle>, SolidError>,
    ) -> Result<Arc<Vec<FlatTriangle>>, SolidError> {
        kept(&self.0.flats, border.edges(), border, make)
    }

    pub(crate) fn slopes(
        &self,
        ground: Ground,
        make: impl FnOnce(&Ground) -> Result<Refined, SolidError>,
    ) -> Result<Arc<Refined>, SolidError> {
        kept(&self.0.slopes, ground.border.edges(), ground, make)
    }

    /// How many levels and slopes are kept.
    #[cfg(test)]
    pub(crate) fn kept(&self) -> (usize, usize) {
        (self.0.flats.len(), self.0.slopes.len())
    }
}
