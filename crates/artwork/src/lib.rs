//! Artwork: the bytes of a picture, decoded within bounds.
//!
//! What no later stage need worry about: orientation tags are applied; a picture is grey and colour over white with
//! its transparency beside it, and no larger than [`WORKING_PIXELS`]; a drawing is flat areas in paint order, with
//! transforms, units, strokes, dashes, clips and opacity resolved; nothing outside the bytes was read.
//!
//! [`prepare`] then straightens, levels, tidies, turns and crops it as the maker asked.
//!
//! ```
//! use kachel_artwork::Artwork;
//! use kachel_geom::Watch;
//!
//! let bytes = br##"<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20">
//!     <circle cx="10" cy="10" r="8"/><circle cx="10" cy="10" r="3" fill="#fff"/></svg>"##;
//! let artwork = Artwork::decode(bytes, &Watch::default())?;
//! // SVG knows its true size; its pixels are those of CSS, 96 an inch.
//! assert_eq!(artwork.mm_per_px(), Some(25.4 / 96.0));
//! # Ok::<(), kachel_artwork::ArtworkError>(())
//! ```

mod decode;
mod doubt;
mod drawing;
mod entities;
mod error;
mod frame;
mod level;
mod linear;
mod model;
mod picture;
mod prepare;
mod resolution;
mod settings;
mod sheet;
mod show;
mod stated;
mod tidy;

pub use doubt::Doubt;
pub use error::{ArtworkError, MAX_BYTES, MAX_NODES, MAX_PAGES, MAX_PIXELS, MAX_SHAPES, PrepareError, WORKING_PIXELS};
pub use frame::Frame;
pub use level::unevenness;
pub use model::{Area, Artwork, Drawing, Picture, luma};
pub use prepare::prepare;
pub use settings::{Crop, MAX_STROKE_POINTS, MAX_STROKES, Paint, Prepare, Sheet, Straighten, Stroke, StrokeKind};
pub use sheet::{find_sheet, proportion};
pub use stated::{StatedCredit, stated_credit};

#[cfg(test)]
mod tests;
