//! How a drawing lies on its plate.

use kachel_geom::{Mm, Point};

/// How a drawing is laid on a plate: turned about a point, then moved.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Laid {
    pub about: Point<Mm>,
    /// Degrees anticlockwise.
    pub degrees: f64,
    /// Right and up, mm.
    pub by: (f64, f64),
}
