//! Tracing: artwork to contours in pixels of the picture.
//!
//! Pictures are followed at sub-pixel precision (`follow`), drawings combined in paint order (`combine`); both end
//! as nested rings (`nest`). Tolerances are in pixels, so a new size of the object never traces again.

mod areas;
mod blends;
mod blocks;
mod border_walk;
mod borders;
mod combine;
mod contours;
mod corner;
mod cubic;
mod cut;
mod drawing;
mod error;
mod field;
mod follow;
mod guess;
mod nest;
mod palette;
mod pen;
mod picture;
mod settings;
mod shape;
mod straight;
mod stroke;
mod thin;
mod tracing;
mod track;

pub use contours::{Contour, Contours, FLATNESS};
pub use cut::{Cut, otsu_cut};
pub use error::{MAX_NODES, MAX_RINGS, TraceError};
pub use guess::first_guess;
pub use palette::{MAX_COLOURS, Swatch};
pub use pen::PenLine;
pub use settings::{ColourSettings, Ink, TraceSettings};
pub use stroke::{PenWidth, inked, refit};
pub use tracing::trace;

#[cfg(test)]
mod tests;
