use crate::soundness::Unsound;
use kachel_geom::Stopped;
use kachel_words::{msg, said};

/// Most levels (bottoms and tops of tiers) in a stack.
pub const MAX_LEVELS: usize = 120;
/// Most triangles of a part.
pub const MAX_TRIANGLES: usize = 4_000_000;

/// Why there is no solid.
#[derive(Debug, thiserror::Error)]
pub enum SolidError {
    /// The stack encloses nothing.
    Empty,
    /// Over [`MAX_LEVELS`] or [`MAX_TRIANGLES`].
    TooLarge {
        /// Of what: the code of its message.
        what: &'static str,
        /// How many there are.
        found: usize,
        /// How many there may be.
        limit: usize,
    },
    /// Snap rounding or pinch mending did not come to rest.
    Unsettled(&'static str),
    /// The checker refused the mesh.
    Unsound(#[from] Unsound),
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(SolidError: |e| match e {
    SolidError::Empty => msg!("no-tiers-left"),
    SolidError::TooLarge { what, found, limit } => msg!(*what, n = *found, most = *limit),
    SolidError::Unsettled(why) => msg!("untangled", why = msg!(*why)),
    SolidError::Unsound(e) => msg!("unsound", why = e.message()),
    SolidError::Stopped(e) => e.message(),
});
