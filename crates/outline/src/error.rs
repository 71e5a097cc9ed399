use kachel_geom::{OffGrid, Stopped};

/// Range of the edge's width and height, mm.
pub const SIZE_RANGE_MM: (f64, f64) = (1.0, 1000.0);

/// Why there is no outline.
#[derive(Debug, thiserror::Error)]
pub enum OutlineError {
    /// No patch has the use 'edge'.
    #[error("no patch shapes the edge")]
    NoEdge,
    /// The list of changes leaves no patch of that use.
    #[error("nothing is left to shape the edge after '{what}'")]
    NothingLeft {
        /// What the entry does.
        what: &'static str,
    },
    /// The edge would be smaller or larger than [`SIZE_RANGE_MM`].
    #[error("the edge would be {mm:.2} mm {side}; it can be {} to {} mm", SIZE_RANGE_MM.0, SIZE_RANGE_MM.1)]
    SizeOutOfRange {
        /// The size that came out.
        mm: f64,
        /// 'wide' or 'high'.
        side: &'static str,
    },
    /// A patch in use lies too far from the edge.
    #[error("a patch in use lies too far from the edge: {0}")]
    OffGrid(#[from] OffGrid),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl OutlineError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::NothingLeft { .. } => {
                "Undo it; or, at Outline, change that entry of the list, switch it off or take it out."
            }
            Self::NoEdge => "At Outline, draw the edge or add a shape, or give at least one patch the use 'edge'.",
            Self::SizeOutOfRange { .. } => "At Outline, set a width or height in the range.",
            Self::OffGrid(_) => "Put the far patch aside, or make the object smaller.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}
