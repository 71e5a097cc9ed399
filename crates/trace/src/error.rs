use kachel_geom::Stopped;
use kachel_words::{msg, said};

/// Most rings that are kept.
pub const MAX_RINGS: usize = 5_000;
/// Most nodes over all rings, after simplification.
pub const MAX_NODES: usize = 200_000;

/// Most places at which areas of a drawing cross each other.
pub const MAX_CROSSINGS: usize = 300_000;
/// Most points that are followed in a picture.
pub const MAX_FOLLOWED: usize = 8_000_000;

/// Why there are no contours.
#[derive(Debug, thiserror::Error)]
pub enum TraceError {
    /// The whole picture is ground.
    NoInk,
    /// The whole picture is ink.
    AllInk,
    /// One colour all over.
    OneColour,
    /// The picture has no transparency to go by.
    NoAlpha,
    /// An SVG whose lines have no paint.
    NothingPainted {
        /// Lines without paint.
        lines: usize,
    },
    /// Nothing that could be taken as a pen line.
    NoLines,
    /// More than [`MAX_RINGS`] contours.
    TooManyRings {
        /// Their number.
        rings: usize,
    },
    /// More than [`MAX_NODES`] nodes.
    TooManyNodes {
        /// Their number.
        nodes: usize,
    },
    /// Areas that cross more than [`MAX_CROSSINGS`] times.
    TooManyCrossings,
    /// More than [`MAX_FOLLOWED`] points along contours.
    Noise,
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(TraceError: |e| match e {
    TraceError::NoInk => msg!("no-ink"),
    TraceError::AllInk => msg!("all-ink"),
    TraceError::OneColour => msg!("one-colour"),
    TraceError::NoAlpha => msg!("no-alpha"),
    TraceError::NothingPainted { lines } => msg!("nothing-painted", n = *lines),
    TraceError::NoLines => msg!("no-lines"),
    TraceError::TooManyRings { rings } => msg!("too-many-rings", n = *rings, most = MAX_RINGS),
    TraceError::TooManyNodes { nodes } => msg!("too-many-nodes", n = *nodes, most = MAX_NODES),
    TraceError::TooManyCrossings => msg!("too-many-crossings", most = MAX_CROSSINGS),
    TraceError::Noise => msg!("mostly-noise", millions = MAX_FOLLOWED / 1_000_000),
    TraceError::Stopped(e) => e.message(),
});
