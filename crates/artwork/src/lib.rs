//! Artwork: the bytes of a picture, decoded within bounds.
//!
//! What no later stage need worry about: orientation tags are applied; a picture is grey over white with its
//! transparency beside it; a drawing is flat areas in paint order, with transforms, units, strokes, dashes,
//! clips and opacity resolved; nothing outside the bytes was read.

mod drawing;
mod picture;

use kachel_geom::{Point, Px, Ring, Stopped, Watch};

/// Most pixels of a picture that is decoded.
pub const MAX_PIXELS: u64 = 50_000_000;
/// Largest file, in bytes.
pub const MAX_BYTES: usize = 32 << 20;
/// Most painted areas of an SVG.
pub const MAX_SHAPES: usize = 20_000;
/// Most nodes of an SVG after flattening.
pub const MAX_NODES: usize = 2_000_000;

/// What a design starts from.
#[derive(Clone, Debug)]
pub enum Artwork {
    /// Made of pixels.
    Picture(Picture),
    /// Made of lines and curves.
    Drawing(Drawing),
}

/// A decoded picture.
#[derive(Clone, Debug)]
pub struct Picture {
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// Luma of each pixel over white paper, 0 to 255, by rows.
    pub grey: Vec<u8>,
    /// Opacity of each pixel, where the picture has any transparency.
    pub alpha: Option<Vec<u8>>,
}

/// A flattened drawing.
#[derive(Clone, Debug)]
pub struct Drawing {
    /// Width in user units (96 to the inch).
    pub width: f64,
    /// Height in user units.
    pub height: f64,
    /// Painted areas, the lowest first.
    pub areas: Vec<Area>,
    /// Lines without any paint, kept in the file for pen lines.
    pub unpainted: usize,
    /// Size of a user unit where the file states a physical size.
    pub mm_per_unit: Option<f64>,
    /// What could not be shown as it was meant.
    pub doubts: Vec<Doubt>,
}

/// One painted area of a drawing.
#[derive(Clone, Debug)]
pub struct Area {
    /// Its rings in user units, y down, not crossing each other; non-zero rule.
    pub rings: Vec<Ring<Px>>,
    /// Luma of its paint over white, 0 to 255.
    pub grey: f64,
}

/// A part of an SVG that is read by a simpler rule than a browser's.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Doubt {
    /// Text is not drawn: a font is not part of the file. To be turned into paths first.
    Text,
    /// Pictures inside the SVG are not read.
    Image,
    /// Masks and filters are left off: the area is taken whole.
    Effect,
    /// A gradient counts as the mean of its stops, a pattern as mid grey.
    Shading,
}

impl Doubt {
    /// What a person reads.
    pub const fn words(self) -> &'static str {
        match self {
            Self::Text => "Text in the SVG is not drawn. Turn it into paths in the program it comes from.",
            Self::Image => "Pictures inside the SVG are left out. Drop the picture itself to trace it.",
            Self::Effect => "Masks and filters of the SVG are left off; their areas are taken whole.",
            Self::Shading => "Gradients count as their mean colour, patterns as mid grey.",
        }
    }
}

/// Why bytes did not become artwork.
#[derive(Debug, thiserror::Error)]
pub enum ArtworkError {
    /// The file is over [`MAX_BYTES`].
    #[error("the file has {bytes} bytes; the most is {MAX_BYTES}")]
    TooManyBytes {
        /// Its size.
        bytes: usize,
    },
    /// Neither PNG, JPEG nor SVG.
    #[error("this is not a picture that can be read; PNG, JPEG and SVG can")]
    UnknownFormat,
    /// More than [`MAX_PIXELS`], told from the header alone.
    #[error("the picture has {width} x {height} pixels; the most is {MAX_PIXELS} in all")]
    TooManyPixels {
        /// Pixels across.
        width: u32,
        /// Pixels down.
        height: u32,
    },
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
            Self::UnknownFormat => "Save or export it as PNG, JPEG or SVG.",
            Self::Damaged(_) => "Save or download it again, or take a screenshot of it.",
            Self::TooManyShapes { .. } | Self::TooManyNodes => {
                "Join or simplify paths in the program it comes from, or export it as PNG."
            }
            Self::Stopped(_) => "Start it again.",
        }
    }
}

impl Artwork {
    /// Decodes a PNG, JPEG or SVG; the format is told from the bytes.
    pub fn decode(bytes: &[u8], watch: &Watch) -> Result<Self, ArtworkError> {
        if bytes.len() > MAX_BYTES {
            return Err(ArtworkError::TooManyBytes { bytes: bytes.len() });
        }
        if drawing::looks_like_svg(bytes) {
            return drawing::read(bytes, watch).map(Self::Drawing);
        }
        picture::read(bytes).map(Self::Picture)
    }

    /// Width and height in pixels of the picture or user units of the drawing.
    pub fn size(&self) -> (f64, f64) {
        match self {
            Self::Picture(p) => (f64::from(p.width), f64::from(p.height)),
            Self::Drawing(d) => (d.width, d.height),
        }
    }

    /// Millimetres a pixel, where the file says how large it is.
    pub fn mm_per_px(&self) -> Option<f64> {
        match self {
            Self::Picture(_) => None,
            Self::Drawing(d) => d.mm_per_unit,
        }
    }

    /// What could not be shown as it was meant.
    pub fn doubts(&self) -> &[Doubt] {
        match self {
            Self::Picture(_) => &[],
            Self::Drawing(d) => &d.doubts,
        }
    }
}

/// Luma of an sRGB colour with opacity over white (Rec. ITU-R BT.709 weights on the coded values).
fn luma_over_white([r, g, b]: [f64; 3], opacity: f64) -> f64 {
    (0.2126 * r + 0.7152 * g + 0.0722 * b) * opacity + 255.0 * (1.0 - opacity)
}

type PxPoint = Point<Px>;

#[cfg(test)]
mod tests;
