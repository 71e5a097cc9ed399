use crate::measure::MeasureError;
use kachel_geom::{OffGrid, Stopped};
use kachel_outline::OutlineError;

/// Why there are no tiers.
#[derive(Debug, thiserror::Error)]
pub enum TierError {
    /// A measure was refused.
    #[error(transparent)]
    Measure(#[from] MeasureError),
    /// The object does not fit the grid.
    #[error("the object grows too large: {0}")]
    OffGrid(#[from] OffGrid),
    /// A patch has no area on the grid.
    #[error(transparent)]
    Outline(#[from] OutlineError),
    /// A free stack into which nothing was put yet, or whose tiers are all switched off.
    #[error("the stack has no tiers yet")]
    NoTiers,
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl TierError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::Measure(_) => "Type a value in the range.",
            Self::OffGrid(_) => "Make the object, its margin or its flange smaller.",
            Self::Outline(e) => e.hint(),
            Self::NoTiers => "Add one at Stack, or choose another recipe.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}
