//! Ranges that several changes have, and what is said of them.

use kachel_geom::{Point, Space};
use kachel_words::{Message, msg, span};

/// Lengths of shapes, rims and growth, mm.
pub const LENGTH_RANGE_MM: (f64, f64) = (0.05, 400.0);
/// Whether a place can be worked with: its coordinates are numbers under a million.
pub const fn is_near<S: Space>(p: &Point<S>) -> bool {
    p.x.abs() < 1e6 && p.y.abs() < 1e6
}

pub(crate) fn is_length(v: f64) -> bool {
    (LENGTH_RANGE_MM.0..=LENGTH_RANGE_MM.1).contains(&v)
}

pub(crate) fn lengths() -> Message {
    let (low, high) = LENGTH_RANGE_MM;
    msg!("length-range", range = span(low, high))
}

pub(crate) fn bad(is_bad: bool, code: &'static str) -> Option<Message> {
    is_bad.then(|| msg!(code))
}
