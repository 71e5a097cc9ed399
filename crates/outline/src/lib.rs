//! Outline: contours at true size, as patches that have a use.
//!
//! Millimetres count from the middle of the edge's box (of a plate with a form of its own: from the middle that its
//! drawing had before any change), x to the right and y up. Only patches in use are put on
//! the grid, so that a small patch chosen out of a huge picture never falls off it.
//!
//! ```
//! use kachel_geom::{Point, Px, Ring, Watch};
//! use kachel_outline::{Size, Wanted, size_outline};
//! use kachel_trace::{Contour, Contours};
//!
//! // A square of ink, 16 pixels wide.
//! let corners = [(2.0, 2.0), (2.0, 18.0), (18.0, 18.0), (18.0, 2.0)].map(|(x, y)| Point::<Px>::new(x, y));
//! let contours = Contours::of(20.0, 20.0, vec![Contour::of_ring(Ring(corners.to_vec()), None, true)]);
//! let outline = size_outline(&contours, &Wanted::of_size(Size::Width { mm: 32.0 }), &Watch::default())?;
//! assert_eq!(outline.mm_per_px, 2.0);
//! assert_eq!(outline.edge.area_mm2(), 32.0 * 32.0);
//! # Ok::<(), kachel_outline::OutlineError>(())
//! ```

mod aim;
mod change;
mod curves;
mod desk;
mod desk_places;
mod drawn;
mod entry;
mod error;
mod found;
mod known;
mod outline;
mod parts;
mod patch;
mod place;
mod ranges;
mod shape;
mod size;
mod spot;
mod text;
mod wanted;
mod work;

pub use aim::{Aim, Guesses};
pub use change::{Change, DEVIATION_RANGE_MM, MAX_CHANGES, TIMES_RANGE};
pub use curves::curved;
pub use desk::{Step, Steps};
pub use drawn::{DrawnLine, MAX_LINE_NODES, Node};
pub use entry::{Astray, Entry};
pub use error::{OutlineError, SIZE_RANGE_MM};
pub use found::patches;
pub use known::{Choice, apply_choices, patch_at};
pub use outline::{Outline, Thinnest};
pub use parts::{LineUpWith, Piece, Seen, Side};
pub use patch::{Letters, Patch, PatchId, Use, sized_box};
pub use place::DEVIATION_MM;
pub use ranges::{LENGTH_RANGE_MM, is_near};
pub use shape::{Shape, rounded_polygon, rounded_rectangle};
pub use size::{found_patches, size_outline, size_outline_from};
pub use spot::{Likeness, Root, Spot, moved_span};
pub use text::{Align, Face, MAX_TEXT, Text};
pub use wanted::{Size, Usual, Wanted};

#[cfg(test)]
mod tests;
