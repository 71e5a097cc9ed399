//! Artwork: the bytes of a picture, decoded within bounds.
//!
//! What no later stage need worry about: orientation tags are applied; a picture is grey and colour over white with
//! its transparency beside it, and no larger than [`WORKING_PIXELS`]; a drawing is flat areas in paint order, with
//! transforms, units, strokes, dashes, clips and opacity resolved; nothing outside the bytes was read.
//!
//! [`prepare`] then straightens, levels, tidies, turns and crops it as the maker asked.

mod drawing;
mod frame;
mod level;
mod linear;
mod picture;
mod prepare;
mod resolution;
mod show;
mod tidy;

use kachel_geom::{Curve, Point, Px, Ring, Stopped, Watch};

pub use frame::{Frame, Sheet};
pub use level::unevenness;
pub use prepare::{Crop, Paint, Prepare, PrepareError, Straighten, prepare};
pub use tidy::{MAX_STROKE_POINTS, MAX_STROKES, Stroke, StrokeKind};

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
    /// sRGB of each pixel over white paper, where the picture has any colour.
    pub colour: Option<Vec<[u8; 3]>>,
    /// Opacity of each pixel, where the picture has any transparency.
    pub alpha: Option<Vec<u8>>,
    /// Position of the first pixel in the prepared frame: where a crop begins.
    pub origin: (u32, u32),
    /// Size of a pixel, where the file states one that makes sense.
    pub mm_per_px: Option<f64>,
    /// What could not be read as it was meant.
    pub doubts: Vec<Doubt>,
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
    /// Lines without any paint, to be taken as pen lines.
    pub unpainted: Vec<Curve<Px>>,
    /// The middles of painted strokes, to be taken as pen lines, with their widths in user units.
    pub strokes: Vec<(Curve<Px>, f64)>,
    /// Position in the prepared frame: where a crop begins.
    pub origin: (f64, f64),
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
    /// The drawing's own curves, where they are the rings' own: closed, not crossing, not clipped.
    pub curves: Option<Vec<Curve<Px>>>,
    /// Luma of its paint over white, 0 to 255.
    pub grey: f64,
    /// sRGB of its paint over white.
    pub colour: [u8; 3],
    /// Name of the group it is in, as the file gives it.
    pub group: Option<String>,
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
    /// The picture is larger than what is worked on.
    Reduced {
        /// Its pixels across and down.
        from: (u32, u32),
        /// Those that are worked on.
        to: (u32, u32),
    },
    /// The file ends before the picture does.
    CutOff,
    /// More than one picture in the file; the first one is taken.
    FirstOfSeveral,
}

impl Doubt {
    /// What a person reads.
    pub fn words(self) -> String {
        match self {
            Self::Text => "Text in the SVG is not drawn. Turn it into paths in the program it comes from.".into(),
            Self::Image => "Pictures inside the SVG are left out. Drop the picture itself to trace it.".into(),
            Self::Effect => "Masks and filters of the SVG are left off; their areas are taken whole.".into(),
            Self::Shading => "Gradients count as their mean colour, patterns as mid grey.".into(),
            Self::Reduced { from, to } => {
                format!("The picture of {} x {} px is worked on at {} x {} px.", from.0, from.1, to.0, to.1)
            }
            Self::CutOff => "The file is cut off: the picture is used as far as it goes.".into(),
            Self::FirstOfSeveral => "The file holds several pictures; the first one is used.".into(),
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
    /// None of the formats that are read.
    #[error("this is not a picture that can be read; PNG, JPEG, WebP, GIF, BMP, TIFF and SVG can")]
    UnknownFormat,
    /// More than [`MAX_PIXELS`], told from the header alone.
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
            Self::TooManyShapes { .. } | Self::TooManyNodes => {
                "Join or simplify paths in the program it comes from, or export it as PNG."
            }
            Self::Prepare(e) => e.hint(),
            Self::Stopped(_) => "Start it again.",
        }
    }
}

impl Artwork {
    /// Decodes a PNG, JPEG, WebP, GIF, BMP, TIFF or SVG; the format is told from the bytes.
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

    /// Where it lies in the prepared frame.
    pub fn origin(&self) -> (f64, f64) {
        match self {
            Self::Picture(p) => (f64::from(p.origin.0), f64::from(p.origin.1)),
            Self::Drawing(d) => d.origin,
        }
    }

    /// Millimetres a pixel, where the file says how large it is.
    pub fn mm_per_px(&self) -> Option<f64> {
        match self {
            Self::Picture(p) => p.mm_per_px,
            Self::Drawing(d) => d.mm_per_unit,
        }
    }

    /// What could not be shown as it was meant.
    pub fn doubts(&self) -> &[Doubt] {
        match self {
            Self::Picture(p) => &p.doubts,
            Self::Drawing(d) => &d.doubts,
        }
    }
}

impl Picture {
    /// A picture of greys, wholly opaque.
    pub fn of_grey(width: u32, height: u32, grey: Vec<u8>) -> Self {
        Self { width, height, grey, colour: None, alpha: None, origin: (0, 0), mm_per_px: None, doubts: Vec::new() }
    }

    /// A picture of colours, wholly opaque.
    pub fn of_colour(width: u32, height: u32, colour: Vec<[u8; 3]>) -> Self {
        let grey = colour.iter().map(|c| luma(*c)).collect();
        Self { colour: Some(colour), ..Self::of_grey(width, height, grey) }
    }

    /// The colour of a pixel by its index.
    pub fn colour_at(&self, i: usize) -> [u8; 3] {
        self.colour.as_ref().map_or([self.grey[i]; 3], |c| c[i])
    }
}

/// Luma of an opaque sRGB colour, 0 to 255 (ITU-R BT.709 weights on the coded values).
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "luma is 0 to 255")]
pub fn luma(c: [u8; 3]) -> u8 {
    luma_over_white(c.map(f64::from), 1.0).round() as u8
}

/// Luma of an sRGB colour with opacity over white (Rec. ITU-R BT.709 weights on the coded values).
fn luma_over_white([r, g, b]: [f64; 3], opacity: f64) -> f64 {
    (0.2126 * r + 0.7152 * g + 0.0722 * b) * opacity + 255.0 * (1.0 - opacity)
}

type PxPoint = Point<Px>;

#[cfg(test)]
mod tests;
