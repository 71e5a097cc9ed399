//! Triangulated levels.

use kachel_geom::Memo;
use std::sync::Arc;

/// A flat face: who lies below and who above. `None` where that is the same.
pub(crate) type Flat = Option<(u16, u16)>;

/// A triangle of a level, with the owners below and above.
pub(crate) type FlatTriangle = ([u32; 3], (u16, u16));

/// All triangles of a level.
pub(crate) type Flats = Arc<Vec<FlatTriangle>>;

/// The triangulations of levels by what is flat where.
pub(crate) type FlatCache = Memo<Vec<Flat>, Arc<Vec<FlatTriangle>>>;

/// Triangulations that are kept for one arrangement; the usual object has three or four levels, one with divided slabs up
/// to a hundred.
pub(crate) const MAX_FLATS: usize = 128;
