use kachel_geom::{Curve, Mm, Point, Px, Ring, simplify};

/// Largest distance (mm) of a node that is left out when the outline comes to the grid: it changes areas by a few
/// millionths and halves the nodes of a traced picture.
pub const DEVIATION_MM: f64 = 0.005;

/// The one place where pixels become millimetres.
pub(crate) struct Place {
    pub(crate) origin: Point<Px>,
    pub(crate) mm_per_px: f64,
}

impl Place {
    pub(crate) fn back(&self, p: Point<Mm>) -> Point<Px> {
        Point::new(self.origin.x + p.x / self.mm_per_px, self.origin.y - p.y / self.mm_per_px)
    }

    pub(crate) fn point(&self, p: Point<Px>) -> Point<Mm> {
        Point::new((p.x - self.origin.x) * self.mm_per_px, (self.origin.y - p.y) * self.mm_per_px)
    }

    /// Curves become lines here, on the way to the tiers: half of the deviation goes to flattening, half to leaving out.
    pub(crate) fn ring(&self, c: &Curve<Px>) -> Ring<Mm> {
        simplify(&c.map(|p| self.point(p)).ring(DEVIATION_MM / 2.0), DEVIATION_MM / 2.0)
    }
}
