use crate::soundness::Unsound;
use kachel_geom::Stopped;

/// Most levels (bottoms and tops of tiers) in a stack.
pub const MAX_LEVELS: usize = 120;
/// Most triangles of a part.
pub const MAX_TRIANGLES: usize = 4_000_000;

/// Why there is no solid.
#[derive(Debug, thiserror::Error)]
pub enum SolidError {
    /// The stack encloses nothing.
    #[error("the tiers enclose nothing")]
    Empty,
    /// Over [`MAX_LEVELS`] or [`MAX_TRIANGLES`].
    #[error("the object has {found} {what}; the most is {limit}")]
    TooLarge {
        /// Of what.
        what: &'static str,
        /// How many there are.
        found: usize,
        /// How many there may be.
        limit: usize,
    },
    /// Snap rounding or pinch mending did not come to rest.
    #[error("the outline could not be untangled ({0})")]
    Unsettled(&'static str),
    /// The checker refused the mesh.
    #[error("the mesh is not sound: {0}")]
    Unsound(#[from] Unsound),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl SolidError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::Empty => "Give a patch a use, and the tiers a height.",
            Self::TooLarge { .. } => "Put some patches aside or simplify the outline.",
            Self::Unsettled(_) | Self::Unsound(_) => {
                "Change the size or the margin a little, and please report the picture: this should not happen."
            }
            Self::Stopped(_) => "Start it again.",
        }
    }
}
