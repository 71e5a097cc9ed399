use crate::arrange::Arrangement;
use crate::borders::Borders;
use crate::error::{MAX_LEVELS, SolidError};
use crate::faces::Faces;
use crate::flat::{FlatCache, MAX_FLATS};
use crate::kept::Sheets;
use crate::slope_data::{MAX_SLOPES, SlopeCache};
use kachel_geom::{GridPoint, Region, Stage, Watch};
use kachel_tiers::Slices;
use std::sync::Arc;

/// The areas of a stack's slices in one planar arrangement; region *i* is area *i*.
#[derive(Debug)]
pub struct Planar {
    pub(crate) regions: Vec<Region>,
    pub(crate) graph: Faces,
    /// Triangulated levels; they do not depend on any height.
    pub(crate) flats: FlatCache,
    pub(crate) sheets: Sheets,
    /// Triangulated slopes; they do not depend on heights either.
    pub(crate) slopes: SlopeCache,
    pub(crate) borders: Arc<Borders>,
}

/// Lays the slices' areas into one arrangement, which will use the levels that `sheets` knows.
pub fn arrange(slices: &Slices, sheets: &Sheets, watch: &Watch) -> Result<Planar, SolidError> {
    watch.enter(Stage::Solid)?;
    let found = slices.levels.len();
    if found > MAX_LEVELS {
        return Err(SolidError::TooLarge { what: "too-many-levels", found, limit: MAX_LEVELS });
    }
    Planar::new(slices.areas.iter().map(|a| (**a).clone()).collect(), sheets.clone(), watch)
}

impl Planar {
    pub(crate) fn new(regions: Vec<Region>, sheets: Sheets, watch: &Watch) -> Result<Self, SolidError> {
        let arrangement = Arrangement::new(&regions, watch)?;
        let borders = Arc::new(Borders::new(regions.len()));
        Self::of(arrangement, regions, borders, sheets, watch)
    }

    /// The same with corners at `stops` on the edges that pass there.
    pub(crate) fn with_corners(&self, stops: &[GridPoint], watch: &Watch) -> Result<Self, SolidError> {
        let arrangement = self.graph.arrangement.with_corners(stops, watch)?;
        Self::of(arrangement, self.regions.clone(), Arc::clone(&self.borders), self.sheets.clone(), watch)
    }

    fn of(
        arrangement: Arrangement,
        regions: Vec<Region>,
        borders: Arc<Borders>,
        sheets: Sheets,
        watch: &Watch,
    ) -> Result<Self, SolidError> {
        let graph = Faces::new(arrangement, regions.len(), watch)?;
        let (flats, slopes) = (FlatCache::new(MAX_FLATS), SlopeCache::new(MAX_SLOPES));
        Ok(Self { regions, graph, flats, sheets, slopes, borders })
    }

    /// Number of edges of the arrangement.
    pub fn edges(&self) -> usize {
        self.graph.arrangement.edges.len()
    }
}
