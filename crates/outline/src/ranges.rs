//! Ranges that several changes have, and the words for them.

use kachel_geom::{Point, Space};

/// Lengths of shapes, rims and growth, mm.
pub const LENGTH_RANGE_MM: (f64, f64) = (0.05, 400.0);
/// Whether a place can be worked with: its coordinates are numbers under a million.
pub const fn is_near<S: Space>(p: &Point<S>) -> bool {
    p.x.abs() < 1e6 && p.y.abs() < 1e6
}

pub(crate) fn is_length(v: f64) -> bool {
    (LENGTH_RANGE_MM.0..=LENGTH_RANGE_MM.1).contains(&v)
}

pub(crate) fn lengths() -> String {
    let (low, high) = LENGTH_RANGE_MM;
    format!("lengths are {low} to {high} mm")
}

pub(crate) fn bad(is_bad: bool, words: &str) -> Option<String> {
    is_bad.then(|| words.to_string())
}
