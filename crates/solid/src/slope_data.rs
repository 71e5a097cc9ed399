//! Triangulated slopes, and what they depend on.

use crate::label::{Column, Slope};
use crate::sheet::Border;
use kachel_geom::{GridPoint, Memo, Region};
use std::sync::Arc;

/// A corner of a sloped triangle.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Corner {
    /// A wedge of the arrangement, by its half-edge.
    Wedge(u32),
    /// An added point, by its place in [`SlopeMesh::added`].
    Added(u32),
}

/// A slab's slopes, anticlockwise from above, with the owners below and above. They do not depend on any height.
#[derive(Debug, Default)]
pub(crate) struct SlopeMesh {
    pub(crate) triangles: Vec<([Corner; 3], (u16, u16))>,
    /// Places in plan and heights within the slab.
    pub(crate) added: Vec<(GridPoint, f64)>,
    /// The highest places of slopes that never reach their upper end.
    pub(crate) ridges: Vec<(GridPoint, f64)>,
    /// Lines that lie in a level though their slope should only end there: slivers without room for a point off the level.
    pub(crate) stuck: Vec<[GridPoint; 2]>,
}

/// Everything that a slab's slopes depend on.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Key {
    pub(crate) row: Vec<u32>,
    pub(crate) columns: Vec<Column>,
    pub(crate) slopes: Vec<Slope>,
}

/// Slopes by what they depend on.
pub(crate) type SlopeCache = Memo<Key, Arc<SlopeMesh>>;

/// Kept for one arrangement; a round edge has up to a dozen slabs, and slabs that are divided make up to a hundred.
pub(crate) const MAX_SLOPES: usize = 128;

/// Everything that the triangulation of a slab's slopes depends on, and nothing else of the arrangement.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Ground {
    /// Kinds are places in `columns`.
    pub(crate) border: Border<Option<u32>>,
    /// The columns, with their slopes by places in `slopes`, and their owners by the order in which they come, air first.
    pub(crate) columns: Vec<Column>,
    pub(crate) slopes: Vec<Base>,
    /// The heights of all wedges at the border's points, as bits.
    pub(crate) corners: Vec<u64>,
}

/// What a slope rises from.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Base {
    pub(crate) areas: Vec<Region>,
    pub(crate) width: u64,
    pub(crate) is_from_low: bool,
}

/// A slab's slopes triangulated.
#[derive(Debug, Default)]
pub(crate) struct Refined {
    /// Corners by their places among the border's points, then among the added ones; with the owners below and above, numbered as in the
    /// ground.
    pub(crate) triangles: Vec<([u32; 3], (u16, u16))>,
    pub(crate) added: Vec<(GridPoint, f64)>,
    pub(crate) ridges: Vec<(GridPoint, f64)>,
    pub(crate) stuck: Vec<[GridPoint; 2]>,
}
