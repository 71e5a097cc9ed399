use kachel_artwork::{ArtworkError, PrepareError};
use kachel_design::DocumentError;
use kachel_geom::{Stage, Stopped};
use kachel_outline::OutlineError;
use kachel_pack::PackError;
use kachel_rehearse::RehearseError;
use kachel_solid::SolidError;
use kachel_tiers::{MeasureError, TierError};
use kachel_trace::TraceError;
use kachel_words::{msg, number, said};

/// Why a design has no result, or not a whole one.
#[derive(Debug, thiserror::Error)]
pub enum EngineError {
    /// The picture could not be fetched.
    Picture(#[from] std::io::Error),
    /// From the artwork stage.
    Artwork(ArtworkError),
    /// From the trace stage.
    Trace(TraceError),
    /// From the outline stage.
    Outline(OutlineError),
    /// From the tiers stage.
    Tier(TierError),
    /// From the solid stage.
    Solid(SolidError),
    /// More than everything or less than nothing of the inside.
    Infill(f64),
    /// From the rehearsal of a print.
    Rehearse(RehearseError),
    /// From arranging a bed.
    Pack(PackError),
    /// A stored document is not usable.
    Document(#[from] DocumentError),
    /// What a result depends on could not be written down, so it cannot be remembered.
    Key(String),
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(EngineError: |e| match e {
    EngineError::Picture(why) => msg!("picture-missing", why = why.to_string()),
    EngineError::Artwork(e) => e.message(),
    EngineError::Trace(e) => e.message(),
    EngineError::Outline(e) => e.message(),
    EngineError::Tier(e) => e.message(),
    EngineError::Solid(e) => e.message(),
    EngineError::Infill(percent) => msg!("infill-out-of-range", percent = number(*percent)),
    EngineError::Rehearse(e) => msg!("print-too-large", why = e.message()),
    EngineError::Pack(e) => msg!("bed-too-full", why = e.message()),
    EngineError::Document(e) => e.message(),
    EngineError::Key(why) => msg!("unwritable-design", why = why),
    EngineError::Stopped(e) => e.message(),
});

/// Lifts a stage's error, so that a stop is a stop whichever stage it came from.
macro_rules! lift {
    ($($error:ident => $variant:ident),*) => {$(
        impl From<$error> for EngineError {
            fn from(e: $error) -> Self {
                match e {
                    $error::Stopped(s) => Self::Stopped(s),
                    e => Self::$variant(e),
                }
            }
        }
    )*};
}
lift!(ArtworkError => Artwork, TraceError => Trace, OutlineError => Outline, TierError => Tier, SolidError => Solid, RehearseError => Rehearse, PackError => Pack);

impl From<MeasureError> for EngineError {
    fn from(e: MeasureError) -> Self {
        Self::Tier(TierError::Measure(e))
    }
}

impl EngineError {
    /// Stable code.
    pub const fn code(&self) -> &'static str {
        match self {
            Self::Picture(_) => "picture-missing",
            Self::Artwork(ArtworkError::TooManyBytes { .. }) => "too-many-bytes",
            Self::Artwork(ArtworkError::UnknownFormat | ArtworkError::UnknownKind(_)) => "unknown-format",
            Self::Artwork(ArtworkError::TooManyPixels { .. }) => "too-many-pixels",
            Self::Artwork(
                ArtworkError::TooManyShapes { .. }
                | ArtworkError::TooManyNodes
                | ArtworkError::TooManyCrossings
                | ArtworkError::TooMuchText
                | ArtworkError::TooManyStyles { .. },
            ) => "too-many-shapes",
            Self::Artwork(ArtworkError::TooFar) => "too-far",
            Self::Artwork(ArtworkError::Prepare(PrepareError::CornersCross)) => "corners-cross",
            Self::Artwork(ArtworkError::Prepare(PrepareError::SheetSize)) => "sheet-size",
            Self::Artwork(ArtworkError::Prepare(PrepareError::NothingLeft)) => "empty-crop",
            Self::Artwork(_) => "damaged-picture",
            Self::Trace(TraceError::NoInk) => "no-ink",
            Self::Trace(TraceError::AllInk) => "all-ink",
            Self::Trace(TraceError::OneColour) => "one-colour",
            Self::Trace(TraceError::NoAlpha) => "no-alpha",
            Self::Trace(TraceError::NothingPainted { .. }) => "nothing-painted",
            Self::Trace(TraceError::NoLines) => "no-lines",
            Self::Trace(
                TraceError::TooManyRings { .. }
                | TraceError::TooManyNodes { .. }
                | TraceError::TooManyCrossings
                | TraceError::Noise,
            ) => "too-many-contours",
            Self::Trace(TraceError::Stopped(_)) | Self::Stopped(_) => "stopped",
            Self::Outline(OutlineError::NoEdge) => "no-edge",
            Self::Outline(OutlineError::NothingLeft { .. }) => "nothing-left",
            Self::Outline(OutlineError::SizeOutOfRange { .. }) => "size-out-of-range",
            Self::Outline(_) => "patch-too-far",
            Self::Tier(TierError::Measure(_)) => "measure-out-of-range",
            Self::Tier(TierError::NoTiers) => "no-tiers",
            Self::Tier(_) => "object-too-large",
            Self::Solid(SolidError::Empty) => "nothing-left",
            Self::Solid(SolidError::TooLarge { .. }) => "solid-too-large",
            Self::Solid(_) => "unsound",
            Self::Infill(_) => "infill-out-of-range",
            Self::Rehearse(_) => "print-too-large",
            Self::Pack(_) => "bed-too-full",
            Self::Document(DocumentError::NewerVersion { .. }) => "newer-version",
            Self::Document(_) | Self::Key(_) => "damaged-design",
        }
    }

    /// The stage that gave up.
    pub const fn stage(&self) -> Stage {
        match self {
            Self::Picture(_) | Self::Artwork(_) => Stage::Artwork,
            Self::Trace(_) => Stage::Trace,
            Self::Outline(_) => Stage::Outline,
            Self::Tier(_) => Stage::Tiers,
            Self::Solid(_) => Stage::Solid,
            Self::Infill(_)
            | Self::Rehearse(_)
            | Self::Pack(_)
            | Self::Document(_)
            | Self::Key(_)
            | Self::Stopped(_) => Stage::Waiting,
        }
    }
}
