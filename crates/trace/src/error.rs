use kachel_geom::Stopped;

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
    #[error("nothing in the picture counts as ink")]
    NoInk,
    /// The whole picture is ink.
    #[error("the whole picture counts as ink")]
    AllInk,
    /// One colour all over.
    #[error("the picture has one colour all over")]
    OneColour,
    /// The picture has no transparency to go by.
    #[error("the picture has no transparent parts")]
    NoAlpha,
    /// An SVG whose lines have no paint.
    #[error("nothing in the SVG is painted; it has {lines} lines without paint")]
    NothingPainted {
        /// Lines without paint.
        lines: usize,
    },
    /// Nothing that could be taken as a pen line.
    #[error("there are no lines in the SVG")]
    NoLines,
    /// More than [`MAX_RINGS`] contours.
    #[error("{rings} separate contours; the most is {MAX_RINGS}")]
    TooManyRings {
        /// Their number.
        rings: usize,
    },
    /// More than [`MAX_NODES`] nodes.
    #[error("the contours have {nodes} nodes; the most is {MAX_NODES}")]
    TooManyNodes {
        /// Their number.
        nodes: usize,
    },
    /// Areas that cross more than [`MAX_CROSSINGS`] times.
    #[error("the drawing's areas cross each other more than {MAX_CROSSINGS} times")]
    TooManyCrossings,
    /// More than [`MAX_FOLLOWED`] points along contours.
    #[error("the picture is mostly noise: its contours have more than {} million points", MAX_FOLLOWED / 1_000_000)]
    Noise,
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl TraceError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::NoInk | Self::AllInk => "Move the threshold or swap ink and ground.",
            Self::OneColour => "Choose a picture with something drawn on it.",
            Self::NoAlpha => "Go by light and dark instead.",
            Self::NothingPainted { .. } => "Take them as pen lines, with a width of your own.",
            Self::NoLines => "Go by light and dark instead: its areas are filled.",
            Self::TooManyRings { .. } => "Raise the size under which specks are dropped, or move the threshold.",
            Self::TooManyNodes { .. } => "Raise the deviation, or the size under which specks are dropped.",
            Self::TooManyCrossings => "Join paths in the program it comes from, or export it as PNG.",
            Self::Noise => "Smooth it or scale it down; 1000 to 2000 pixels across are plenty.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}
