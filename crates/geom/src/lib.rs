//! Plane geometry for Kachel: points that know their space, the length grid, regions and offsets.
//!
//! Three spaces exist and never mix by accident:
//!
//! | space | type | unit | y axis |
//! |---|---|---|---|
//! | picture | [`Point<Px>`] | pixels of the picture | down |
//! | outline | [`Point<Mm>`] | millimetres | up |
//! | grid | [`GridPoint`] | 2^-14 mm | up |
//!
//! The grid is where bodies are built: all predicates on it are exact, and every coordinate of it
//! up to 1024 mm is exact in the 32-bit floats of a binary STL.
//!
//! ```
//! use kachel_geom::{Mm, Point, Region, Ring, offset};
//!
//! let corners = [(0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (0.0, 10.0)].map(|(x, y)| Point::<Mm>::new(x, y));
//! let plate = Region::from_mm([&Ring(corners.to_vec())])?;
//! let grown = offset(&plate, 1.0)?;
//! // Steiner's formula: the area grows by the perimeter, and a disc for the corners.
//! assert!((grown.area_mm2() - (200.0 + 60.0 + std::f64::consts::PI)).abs() < 0.05);
//! # Ok::<(), kachel_geom::OffGrid>(())
//! ```

mod boolean;
mod circle;
mod crossings;
mod curve;
mod grid;
mod inside;
mod memo;
mod near;
mod nearest;
mod offset;
mod parallel;
mod point;
mod pose;
mod region;
mod ring;
mod simplify;
mod thin;
mod watch;
mod width;

pub use boolean::{BoolOp, combine, combine_rings, join_all, normalise};
pub use circle::Circle;
pub use crossings::cross_more_than;
pub use curve::{Curve, Segment, cubic_at};
pub use grid::{GRID_PER_MM, Grid, GridPoint, LIMIT, LIMIT_MM, OffGrid, orient};
pub use inside::Inside;
pub use memo::{Memo, Name};
pub use nearest::{Edges, nearest_places};
pub use offset::{SOURCE_DEVIATION_MM, offset, offset_with, stroke};
pub use parallel::{ARC_TOLERANCE_MM, Corner, SHARPEST_MITRE_DEG};
pub use point::{Bounds, Mm, Point, Px, Space};
pub use pose::Pose;
pub use region::{Region, spans_between};
pub use ring::{Ring, interior_point};
pub use simplify::simplify;
pub use thin::{connected, opened, pieces, regions, thickened, thin_parts, thinnest};
pub use watch::{Stage, Stopped, Watch};
pub use width::{Width, gaps, widths, widths_and_room};
