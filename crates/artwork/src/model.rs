use crate::doubt::Doubt;
use kachel_geom::{Curve, Px, Ring};

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

impl Artwork {
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
pub(crate) fn luma_over_white([r, g, b]: [f64; 3], opacity: f64) -> f64 {
    (0.2126 * r + 0.7152 * g + 0.0722 * b) * opacity + 255.0 * (1.0 - opacity)
}
