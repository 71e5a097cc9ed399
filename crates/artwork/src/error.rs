use kachel_geom::Stopped;
use kachel_words::{self as words, Message, msg, said};

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
    TooManyBytes {
        /// Its size.
        bytes: usize,
    },
    /// None of the formats that are read.
    UnknownFormat,
    /// More than [`MAX_PIXELS`], refused by the header alone.
    TooManyPixels {
        /// Pixels across.
        width: u32,
        /// Pixels down.
        height: u32,
    },
    /// A format that is read, in a kind that is not.
    UnknownKind(Message),
    /// The decoder gave up.
    Damaged(String),
    /// An SVG with more than [`MAX_SHAPES`] painted areas.
    TooManyShapes {
        /// Their number.
        shapes: usize,
    },
    /// An SVG with more than [`MAX_NODES`] nodes.
    TooManyNodes,
    /// An SVG whose lines cross more than [`MAX_CROSSINGS`] times.
    TooManyCrossings,
    /// An SVG whose entities stand for more than [`MAX_ENTITIES`] letters.
    TooMuchText,
    /// An SVG with more rules and elements than can be matched.
    TooManyStyles {
        /// Rules of its style sheets.
        rules: usize,
        /// Elements.
        elements: usize,
    },
    /// An SVG that draws far outside of its page: such places cannot be told apart to a pixel.
    TooFar,
    /// What was asked to be done to it cannot be done.
    Prepare(#[from] PrepareError),
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(ArtworkError: |e| match e {
    ArtworkError::TooManyBytes { bytes } => msg!("too-many-bytes", n = *bytes, most = MAX_BYTES),
    ArtworkError::UnknownFormat => msg!("unknown-format"),
    ArtworkError::TooManyPixels { width, height } => {
        msg!("too-many-pixels", width = *width, height = *height, most = MAX_PIXELS)
    }
    ArtworkError::UnknownKind(kind) => msg!("unknown-kind", kind = kind.clone()),
    ArtworkError::Damaged(why) => msg!("damaged-picture", why = why),
    ArtworkError::TooManyShapes { shapes } => msg!("too-many-shapes", n = *shapes, most = MAX_SHAPES),
    ArtworkError::TooManyNodes => msg!("too-many-svg-nodes", most = MAX_NODES),
    ArtworkError::TooManyCrossings => msg!("too-many-svg-crossings", most = MAX_CROSSINGS),
    ArtworkError::TooMuchText => msg!("too-much-svg-text", millions = MAX_ENTITIES >> 20),
    ArtworkError::TooManyStyles { rules, elements } => {
        msg!("too-many-styles", rules = *rules, elements = *elements)
    }
    ArtworkError::TooFar => msg!("svg-too-far", pages = words::number(MAX_PAGES)),
    ArtworkError::Prepare(e) => e.message(),
    ArtworkError::Stopped(e) => e.message(),
});

/// Why a picture cannot be prepared as asked.
#[derive(Clone, Copy, Debug, PartialEq, thiserror::Error)]
pub enum PrepareError {
    /// The corners of the sheet make no sheet.
    CornersCross,
    /// The sheet has no sensible size.
    SheetSize,
    /// Nothing is left of the picture.
    NothingLeft,
}

said!(PrepareError: |e| match e {
    PrepareError::CornersCross => msg!("corners-cross"),
    PrepareError::SheetSize => msg!("sheet-size"),
    PrepareError::NothingLeft => msg!("empty-crop"),
});
