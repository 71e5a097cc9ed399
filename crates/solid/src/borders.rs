use kachel_geom::{Edges, Mm, Point, Region};
use std::sync::OnceLock;

/// The borders from which slopes keep their distance, by area; made when they are asked for.
#[derive(Default)]
pub(crate) struct Borders(Vec<OnceLock<Edges>>);

impl std::fmt::Debug for Borders {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_tuple("Borders").field(&self.0.len()).finish()
    }
}

impl Borders {
    pub(crate) fn new(areas: usize) -> Self {
        Self((0..areas).map(|_| OnceLock::new()).collect())
    }

    /// The nearest place on the borders of some areas.
    pub(crate) fn nearest(&self, regions: &[Region], areas: &[u32], p: Point<Mm>) -> Option<Point<Mm>> {
        let of = |a: &u32| {
            let region = &regions[*a as usize];
            self.0[*a as usize].get_or_init(|| Edges::of(&region.rings_mm())).nearest(p)
        };
        areas.iter().filter_map(of).min_by(|a, b| a.distance(p).total_cmp(&b.distance(p)))
    }
}
