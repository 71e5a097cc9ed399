//! Rehearse: a print before it is printed. The solid and the print settings go in; layers of lines, their times and the filament
//! come out.
//!
//! 1. [`walls`](mod@walls): lines along the borders of a layer's area, and one line of varying width where it is thin.
//! 2. [`fill`](mod@fill): the rest, solid where a layer near it is open above or below, else filled in part.
//! 3. [`motion`](mod@motion): how long the nozzle takes along the lines.
//! 4. [`rehearse`]: layer by layer, each different layer once.
//!
//! Lengths are millimetres, times seconds. Nothing here knows pictures or recipes.

mod fill;
mod model;
mod motion;
mod rehearsal;
mod walls;

pub use model::{Kind, Lines, PartUse, PrintedLayer, Rehearsal, RehearseError, Stop};
pub use motion::{Motion, seconds_along};
pub use rehearsal::{Job, rehearse};

#[cfg(test)]
mod tests;
