//! Round lines.

use kachel_geom::{Mm, Point, Ring};
use std::f64::consts::TAU;

/// Straight pieces of a round line.
const PIECES: u32 = 96;

/// A place round a middle, by a share of the full turn.
pub(crate) fn around(c: Point<Mm>, r: f64, turn: f64) -> Point<Mm> {
    let (sin, cos) = (turn * TAU).sin_cos();
    Point::new(c.x + r * cos, c.y + r * sin)
}

/// A round line of straight pieces.
pub(crate) fn circle(c: Point<Mm>, across: f64) -> Ring<Mm> {
    Ring((0..PIECES).map(|k| around(c, across / 2.0, f64::from(k) / f64::from(PIECES))).collect())
}
