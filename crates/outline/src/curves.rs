//! The curves that many short straight pieces stand for.

use crate::patch::{Patch, Use};
use kachel_geom::{Curve, Px, Segment};
use kachel_trace::{FLATNESS, refit};
use rayon::prelude::*;

/// Largest distance (mm) of a curve from the straight pieces that it stands for.
const DEVIATION_MM: f64 = 0.006;
/// A line of more straight pieces may stand for curves.
const STRAIGHT_PIECES: usize = 12;

/// A line that work on areas has left in many short straight pieces (a mirror, a repeat, a join), as the curves that it stands for;
/// others as they are.
pub fn curved(c: &Curve<Px>, mm_per_px: f64) -> Curve<Px> {
    let has_curves = c.segments.iter().any(|s| matches!(s, Segment::Cubic(..)));
    if has_curves || c.nodes() <= STRAIGHT_PIECES {
        return c.clone();
    }
    let fitted = refit(&c.ring(FLATNESS).0, true, false, DEVIATION_MM / mm_per_px);
    if fitted.nodes() < c.nodes() { fitted } else { c.clone() }
}

/// Nodes of all patches in use, of their curves: of what was worked on, those that a file would have.
pub(crate) fn nodes(patches: &[Patch], mm_per_px: f64) -> usize {
    let of = |p: &Patch| -> usize {
        let is_altered = p.altered_root().is_some();
        p.curves.iter().map(|c| if is_altered { curved(c, mm_per_px).nodes() } else { c.nodes() }).sum()
    };
    patches.par_iter().filter(|p| p.use_ != Use::Aside).map(of).sum()
}
