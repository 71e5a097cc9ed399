//! Rehearse: a print before it is printed. The solid and the print settings go in; layers of lines, their times and the filament
//! come out.
//!
//! 1. [`walls`](mod@walls): lines along the borders of a layer's area, and one line of varying width where it is thin.
//! 2. [`fill`](mod@fill): the rest, solid where a layer near it is open above or below, else filled in part.
//! 3. [`motion`](mod@motion): how long the nozzle takes along the lines.
//! 4. [`lay`](fn@lay): an object, layer by layer, each different layer once.
//! 5. [`print`]: objects together on a bed, and when which filament comes in.
//! 6. [`Correction`]: what prints really took, and what later ones are likely to take.
//!
//! Lengths are millimetres, times seconds. Nothing here knows pictures or recipes.
//!
//! ```
//! use kachel_design::PrintSettings;
//! use kachel_geom::{Grid, Mm, Point, Region, Ring, Watch};
//! use kachel_rehearse::{Job, rehearse};
//! use kachel_solid::{Sheets, arrange, extrude};
//! use kachel_tiers::{Op, Plans, Role, Stack, Tier, slice};
//!
//! # let square = |half: f64| {
//! #     let corner = |(x, y): (f64, f64)| Point::<Mm>::new(x * half, y * half);
//! #     Region::from_mm([&Ring([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(corner).to_vec())])
//! # };
//! let tier = |half, from, to| -> Result<Tier, kachel_geom::OffGrid> {
//!     Ok(Tier::upright(Role::Body, square(half)?, (Grid::from_mm(from)?, Grid::from_mm(to)?), Op::Add, 0))
//! };
//! // A plate of 40 x 40 x 3 mm with a knob of 10 x 10 x 5 mm.
//! let stack = Stack { tiers: vec![tier(20.0, 0.0, 3.0)?, tier(5.0, 3.0, 8.0)?], ..Stack::default() };
//! let watch = Watch::default();
//! let slices = slice(&stack, &Plans::default(), &watch)?;
//! let solid = extrude(&arrange(&slices, &Sheets::default(), &watch)?, &stack, &slices, &watch)?;
//! let settings = PrintSettings::default();
//! let job = Job { skin: &solid.skin, parts: &[(0, &solid.skin)], layer: 0.2, line: 0.4, settings: &settings };
//! let print = rehearse(&job, &watch)?;
//! assert_eq!(print.layers.len(), 40);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod duration;
mod fill;
mod lay;
mod model;
mod motion;
mod rehearsal;
mod taken;
mod timing;
mod walls;

pub use duration::{NoTime, parse_time};
pub use lay::{Job, lay};
pub use model::{FilamentLaid, Kind, Laid, Lines, PrintedLayer, PrintedPart, Rehearsal, RehearseError, Stop};
pub use motion::{Motion, seconds_along};
pub use rehearsal::{Object, print, reach_round, rehearse};
pub use taken::{Correction, Taken};
pub use walls::KnownWalls;

#[cfg(test)]
mod tests;
