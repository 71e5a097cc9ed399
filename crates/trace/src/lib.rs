//! Tracing: artwork to contours in pixels of the picture.
//!
//! Pictures are followed at sub-pixel precision (`follow`), drawings combined in paint order (`combine`); both end
//! as nested rings (`nest`). Tolerances are in pixels, so a new size of the object never traces again.
//!
//! ```
//! use kachel_artwork::Artwork;
//! use kachel_geom::Watch;
//! use kachel_trace::{TraceSettings, trace};
//!
//! let bytes = br##"<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20">
//!     <circle cx="10" cy="10" r="8"/><circle cx="10" cy="10" r="3" fill="#fff"/></svg>"##;
//! let artwork = Artwork::decode(bytes, &Watch::default())?;
//! let contours = trace(&artwork, &TraceSettings::default(), &Watch::default())?;
//! // The disc, and the gap in it.
//! assert_eq!(contours.contours.iter().map(|c| c.is_ink).collect::<Vec<_>>(), [true, false]);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

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
