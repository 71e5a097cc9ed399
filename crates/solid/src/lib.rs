//! Solid: a stack of tiers becomes closed meshes.
//!
//! 1. [`arrange`] lays every boundary edge of every footprint into **one** planar arrangement, exactly, on the grid.
//!    It knows no heights, so a changed height never comes here again.
//! 2. [`extrude`] labels each face of the arrangement with its owner, slab by slab between the levels of the tiers,
//!    mends pinches, and skins each part: flat faces where the owner changes from one slab to the next, upright
//!    walls where it changes across an edge.
//!
//! What leaves is a [`SoundMesh`]: the type is the proof that the mesh was checked.
//!
//! ```
//! use kachel_geom::{Grid, Mm, Point, Region, Ring, Watch};
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
//! let mesh = solid.skin.mesh();
//! assert_eq!(mesh.volume(), 40.0 * 40.0 * 3.0 + 10.0 * 10.0 * 5.0);
//! assert_eq!(mesh.bodies().len(), 1);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod arrange;
mod bands;
mod borders;
mod builder;
mod creases;
mod error;
mod extrude;
mod faces;
mod flat;
mod heights;
mod kept;
mod label;
mod layers;
mod mend;
mod mesh;
mod pinch;
mod planar;
mod refine;
mod sheet;
mod skin;
mod slope_data;
mod slopes;
mod solid;
mod soundness;
mod sweep;
mod triangulation;
mod walls;

pub use arrange::Arrangement;
pub use error::{MAX_LEVELS, MAX_TRIANGLES, SolidError};
pub use extrude::{extrude, extrude_tiers};
pub use kept::Sheets;
pub use layers::{Layer, LayerHeights, Layers};
pub use mesh::{Body, Mesh};
pub use planar::{Planar, arrange};
pub use solid::{Part, Solid};
pub use soundness::{MoveError, SoundMesh, Unsound};

#[cfg(test)]
mod tests;
