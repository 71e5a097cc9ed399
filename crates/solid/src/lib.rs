//! Solid: a stack of tiers becomes closed meshes.
//!
//! 1. [`arrange`] lays every boundary edge of every footprint into **one** planar arrangement, exactly, on the grid.
//!    It knows no heights, so a changed height never comes here again.
//! 2. [`extrude`] labels each face of the arrangement with its owner, slab by slab between the levels of the tiers,
//!    mends pinches, and skins each part: flat faces where the owner changes from one slab to the next, upright
//!    walls where it changes across an edge.
//!
//! What leaves is a [`SoundMesh`]: the type is the proof that the mesh was checked.

mod arrange;
mod borders;
mod builder;
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
mod walls;

pub use arrange::Arrangement;
pub use error::{MAX_LEVELS, MAX_TRIANGLES, SolidError};
pub use extrude::{extrude, extrude_tiers};
pub use kept::Sheets;
pub use layers::{Layer, Layers};
pub use mesh::{Body, Mesh};
pub use planar::{Planar, arrange};
pub use solid::{Part, Solid};
pub use soundness::{SoundMesh, Unsound};

#[cfg(test)]
mod tests;
