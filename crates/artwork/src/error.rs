use kachel_geom::Stopped;

/// Most pixels of a picture that is decoded: 12 000 x 12 000.
pub const MAX_PIXELS: u64 = 144_000_000;
/// Most pixels that are worked on; a larger picture is reduced to them, with a doubt.
pub const WORKING_PIXELS: u64 = 16_000_000;
/// Largest file, in bytes.
pub const MAX_BYTES: usize = 32 << 20;
/// Most painted areas of an SVG.
pub const MAX_SHAPES: usize = 20_000;
/// Most nodes of an SVG after flattening.
pub const MAX_NODES: usize = 2_000_000;
/// Most places at which the lines of an SVG cross each other.
pub const MAX_CROSSINGS: usize = 300_000;
/// Most letters that the entities of an SVG stand for.
pub const MAX_ENTITIES: usize = 32 << 20;
/// Most pairs of a style's rule and an element that it may apply to.
pub const MAX_STYLED: usize = 50_000_000;
/// How far outside of its page an SVG may draw, in lengths of the page's longer side.
pub const MAX_PAGES: f64 = 1000.0;

/// Why bytes did not become artwork.
#[derive(Debug, thiserror::Error)]
pub enum ArtworkError {
    /// The file is over [`MAX_BYTES`].
    #[error("the file has {bytes} bytes; the most is {MAX_BYTES}")]
    TooManyBytes {
        /// Its size.
        bytes: usize,
    },
    /// None of the formats that are read.
    #[error("this is not a picture that can be read; PNG, JPEG, WebP, GIF, BMP, TIFF and SVG can")]
    UnknownFormat,
    /// More than [`MAX_PIXELS`], refused by the header alone.
    #[error("the picture has {width} x {height} pixels; the most is {MAX_PIXELS} in all")]
    TooManyPixels {
        /// Pixels across.
        width: u32,
        /// Pixels down.
        height: u32,
    },
    /// A format that is read, in a kind that is not.
    #[error("this kind of the format is not read: {0}")]
    UnknownKind(String),
    /// The decoder gave up.
    #[error("the picture is damaged or cut off: {0}")]
    Damaged(String),
    /// An SVG with more than [`MAX_SHAPES`] painted areas.
    #[error("the SVG paints {shapes} areas; the most is {MAX_SHAPES}")]
    TooManyShapes {
        /// Their number.
        shapes: usize,
    },
    /// An SVG with more than [`MAX_NODES`] nodes.
    #[error("the SVG has over {MAX_NODES} nodes")]
    TooManyNodes,
    /// An SVG whose lines cross more than [`MAX_CROSSINGS`] times.
    #[error("the SVG's lines cross each other more than {MAX_CROSSINGS} times")]
    TooManyCrossings,
    /// An SVG whose entities stand for more than [`MAX_ENTITIES`] letters.
    #[error("the SVG's entities stand for more than {} million letters", MAX_ENTITIES >> 20)]
    TooMuchText,
    /// An SVG with more rules and elements than can be matched.
    #[error("the SVG has {rules} style rules for {elements} elements, which is too much to match")]
    TooManyStyles {
        /// Rules of its style sheets.
        rules: usize,
        /// Elements.
        elements: usize,
    },
    /// An SVG that draws far outside of its page: such places cannot be told apart to a pixel.
    #[error("the SVG draws more than {MAX_PAGES} pages away from its page")]
    TooFar,
    /// What was asked to be done to it cannot be done.
    #[error(transparent)]
    Prepare(#[from] PrepareError),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl ArtworkError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::TooManyBytes { .. } | Self::TooManyPixels { .. } => {
                "Scale the picture down; 1000 to 2000 pixels across are plenty."
            }
            Self::UnknownFormat | Self::UnknownKind(_) => {
                "Save or export it as PNG, JPEG or SVG, or take a screenshot of it."
            }
            Self::Damaged(_) => "Save or download it again, or take a screenshot of it.",
            Self::TooMuchText | Self::TooManyStyles { .. } => {
                "Save it as a plain SVG in the program it comes from, or export it as PNG."
            }
            Self::TooManyShapes { .. } | Self::TooManyNodes | Self::TooManyCrossings => {
                "Join or simplify paths in the program it comes from, or export it as PNG."
            }
            Self::TooFar => "Take out what lies far off the page in the program it comes from, or export it as PNG.",
            Self::Prepare(e) => e.hint(),
            Self::Stopped(_) => "Start it again.",
        }
    }
}

/// Why a picture cannot be prepared as asked.
#[derive(Clone, Copy, Debug, PartialEq, thiserror::Error)]
pub enum PrepareError {
    /// The corners of the sheet make no sheet.
    #[error("the four corners cross or lie on a line")]
    CornersCross,
    /// The sheet has no sensible size.
    #[error("a sheet has sides of 1 mm to 5 m")]
    SheetSize,
    /// Nothing is left of the picture.
    #[error("nothing of the picture lies in the crop")]
    NothingLeft,
}

impl PrepareError {
    /// What to do about it.
    pub const fn hint(self) -> &'static str {
        match self {
            Self::CornersCross => "Put the corners on the sheet's own, clockwise from its top left one.",
            Self::SheetSize => "Type the sheet's sides as they are.",
            Self::NothingLeft => "Crop again, or take the whole picture.",
        }
    }
}
