//! Pack: where objects lie on printing beds, by their true outlines.
//!
//! Outlines go in as [`Region`](kachel_geom::Region)s, holes and all: what is small may lie inside what is hollow. Out come places with a
//! gap between all of them, on as many plates (fillings of the bed) as it takes. Lengths are millimetres; a bed's front left corner is
//! (0, 0).
//!
//! Outlines become bits on a raster of at least 0.5 mm. A cell counts as soon as an outline, grown by half the gap, reaches into it,
//! so two objects whose cells are apart are at least the gap apart. Where an object can lie follows for all places at once, word by
//! word. Objects are put down from the largest to the smallest, each at the lowest place of the turn that ends lowest.
//!
//! ```
//! use kachel_geom::{Mm, Point, Region, Ring, Watch};
//! use kachel_pack::{Turns, Wish, pack};
//!
//! let square = [(0.0, 0.0), (30.0, 0.0), (30.0, 30.0), (0.0, 30.0)].map(|(x, y)| Point::<Mm>::new(x, y));
//! let shapes = [Region::from_mm([&Ring(square.to_vec())])?];
//! let wish = Wish { bed: [100.0, 100.0], edge: 2.0, gap: 2.0, turns: Turns::Quarter };
//! let places = pack(&shapes, &[0; 10], &[], &wish, &Watch::default())?;
//! // Nine lie on the first plate, three by three.
//! assert_eq!(places.iter().flatten().filter(|p| p.plate == 0).count(), 9);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod mask;
mod packing;

pub use packing::{MAX_PIECES, PackError, Place, Turns, Wish, pack};

#[cfg(test)]
mod tests;
