use crate::measure::MeasureError;
use kachel_geom::{OffGrid, Stopped};
use kachel_outline::OutlineError;
use kachel_words::{msg, said};

/// Why there are no tiers.
#[derive(Debug, thiserror::Error)]
pub enum TierError {
    /// A measure was refused.
    Measure(#[from] MeasureError),
    /// The object does not fit the grid.
    OffGrid(#[from] OffGrid),
    /// A patch has no area on the grid.
    Outline(#[from] OutlineError),
    /// A free stack into which nothing was put yet, or whose tiers are all switched off.
    NoTiers,
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(TierError: |e| match e {
    TierError::Measure(e) => e.message(),
    TierError::OffGrid(e) => msg!("object-too-large", why = e.message()),
    TierError::Outline(e) => e.message(),
    TierError::NoTiers => msg!("no-tiers"),
    TierError::Stopped(e) => e.message(),
});
