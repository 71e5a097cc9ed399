//! Tracing: artwork to contours in pixels of the picture.
//!
//! Pictures are followed at sub-pixel precision (`follow`), drawings combined in paint order (`combine`); both end
//! as nested rings (`nest`). Tolerances are in pixels, so a new size of the object never traces again.

mod borders;
mod combine;
mod corner;
mod cubic;
mod cut;
mod drawing;
mod field;
mod follow;
mod guess;
mod nest;
mod palette;
mod pen;
mod picture;
mod shape;
mod straight;
mod stroke;
mod thin;
mod track;

use kachel_artwork::{Artwork, Doubt};
use kachel_geom::{Curve, Px, Ring, Stage, Stopped, Watch};
use serde::{Deserialize, Serialize};

pub use cut::{Cut, otsu_cut};
pub use palette::{MAX_COLOURS, Swatch};
pub use pen::PenLine;
pub use stroke::{PenWidth, inked, refit};

/// Most rings that are kept.
pub const MAX_RINGS: usize = 5_000;
/// Most nodes over all rings, after simplification.
pub const MAX_NODES: usize = 200_000;

/// Largest distance (pixels) of a contour's flattened line from its curve.
pub const FLATNESS: f64 = 0.02;

/// What counts as ink.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Ink {
    /// Dark on light, or with `invert` light on dark.
    LightDark,
    /// By colour: each colour but the ground.
    Colours,
    /// What is opaque.
    Alpha,
    /// The middle of each stroke; strokes are what is dark on light, or with `invert` light on dark.
    Pen,
}

/// How colours are told apart.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct ColourSettings {
    /// How many colours there are, the ground included, 2 to 12; as many as there are where it is left out.
    pub count: Option<u8>,
    /// Colours that were pointed at: they are always among them.
    pub picked: Vec<[u8; 3]>,
    /// Pairs of colours of which the first one counts as the second one.
    pub merged: Vec<[[u8; 3]; 2]>,
    /// Which colour is the ground; that of most of the picture's border where it is left out.
    pub ground: Option<[u8; 3]>,
    /// The ground is kept as a colour like the others.
    pub with_ground: bool,
}

/// The settings of tracing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct TraceSettings {
    /// What counts as ink.
    pub ink: Ink,
    /// Grey (or opacity) between ink and ground, 1 to 254; found automatically where it is left out.
    pub threshold: Option<u8>,
    /// Ink and ground change places.
    pub invert: bool,
    /// Patches smaller than this (square pixels, 0 to 10 000) are dropped, with a doubt that counts them.
    pub min_area: f64,
    /// Gaps smaller than this (square pixels, 0 to 10 000) are filled.
    pub min_gap: f64,
    /// Largest distance (pixels, 0 to 5) between a followed contour and its curve, beyond what the contour's own
    /// roughness explains; 0 keeps every point that was followed.
    pub deviation: f64,
    /// Smallest turn of a corner, degrees, 5 to 120; between straight runs 15 degrees are enough.
    pub bend: f64,
    /// How colours are told apart.
    pub colours: ColourSettings,
}

impl Default for TraceSettings {
    fn default() -> Self {
        Self {
            ink: Ink::LightDark,
            threshold: None,
            invert: false,
            min_area: 12.0,
            min_gap: 12.0,
            deviation: 0.1,
            bend: 45.0,
            colours: ColourSettings::default(),
        }
    }
}

/// One closed contour.
#[derive(Clone, Debug, PartialEq)]
pub struct Contour {
    /// The closed line, in pixels, y down; seen on the screen, ink lies on its left.
    pub curve: Curve<Px>,
    /// The same, flattened to [`FLATNESS`].
    pub ring: Ring<Px>,
    /// The contour directly round it.
    pub parent: Option<usize>,
    /// Whether it is the outside of ink; otherwise it is the outside of a gap.
    pub is_ink: bool,
    /// What is left out of it.
    pub holes: Vec<Curve<Px>>,
    /// Which colour of the palette it has.
    pub colour: Option<u8>,
    /// Name of the group that an SVG has it in.
    pub group: Option<String>,
}

impl Contour {
    /// A contour of straight lines.
    pub fn of_ring(ring: Ring<Px>, parent: Option<usize>, is_ink: bool) -> Self {
        let curve = Curve::from_ring(&ring);
        Self { curve, ring, parent, is_ink, holes: Vec::new(), colour: None, group: None }
    }

    /// A contour of a closed curve.
    pub fn of_curve(curve: Curve<Px>, parent: Option<usize>, is_ink: bool) -> Self {
        let ring = curve.ring(FLATNESS);
        Self { curve, ring, parent, is_ink, holes: Vec::new(), colour: None, group: None }
    }

    /// Takes the curve, unless it encloses nothing.
    fn set_curve(&mut self, curve: Curve<Px>) {
        let ring = curve.ring(FLATNESS);
        if ring.0.len() >= 3 && ring.area() * self.ring.area() > 0.0 {
            (self.curve, self.ring) = (curve, ring);
        }
    }
}

/// What tracing gives.
#[derive(Clone, Debug)]
pub struct Contours {
    /// Where the traced part begins in the prepared picture, pixels.
    pub origin: (f64, f64),
    /// Width of the traced part, pixels.
    pub width: f64,
    /// Height of the traced part, pixels.
    pub height: f64,
    /// All contours, each after its parent.
    pub contours: Vec<Contour>,
    /// The middles of strokes, where ink is told as pen lines; [`inked`] makes contours of them.
    pub lines: Vec<PenLine>,
    /// The colours, where ink is told by them; contours name theirs by its place here.
    pub palette: Vec<Swatch>,
    /// Contours of the specks and pinholes that were left out.
    pub dropped: Vec<Curve<Px>>,
    /// The grey that was cut at.
    pub cut: f64,
    /// Whether the cut was found automatically.
    pub cut_is_automatic: bool,
    /// Pixels of each grey (or opacity, where that is cut), 256 of them; empty for a drawing.
    pub histogram: Vec<u32>,
    /// How many specks under the smallest area were dropped.
    pub specks: usize,
    /// How many gaps under the smallest gap were filled.
    pub pinholes: usize,
    /// Doubts of the artwork, handed on.
    pub doubts: Vec<Doubt>,
}

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
            Self::Stopped(_) => "Start it again.",
        }
    }
}

/// Traces the artwork.
pub fn trace(artwork: &Artwork, settings: &TraceSettings, watch: &Watch) -> Result<Contours, TraceError> {
    watch.enter(Stage::Trace)?;
    let mut found = match artwork {
        Artwork::Picture(p) => picture::trace(p, settings, watch)?,
        Artwork::Drawing(d) => drawing::trace(d, settings, watch)?,
    };
    let nodes = found.contours.iter().map(|c| c.curve.nodes()).sum::<usize>()
        + found.lines.iter().map(|l| l.curve.nodes()).sum::<usize>();
    if nodes > MAX_NODES {
        return Err(TraceError::TooManyNodes { nodes });
    }
    let rings = found.contours.len() + found.lines.len();
    if rings > MAX_RINGS {
        return Err(TraceError::TooManyRings { rings });
    }
    match found.contours.as_slice() {
        [] if found.lines.is_empty() => return Err(TraceError::NoInk),
        // Ink from border to border and nothing else: there is nothing to cut out.
        [only] if covers(&only.ring, found.width, found.height) => return Err(TraceError::AllInk),
        _ => {}
    }
    give_holes(&mut found.contours);
    found.doubts = artwork.doubts().to_vec();
    found.place(artwork.origin());
    Ok(found)
}

/// A contour that knows no holes yet leaves out the contours directly within it.
fn give_holes(contours: &mut [Contour]) {
    for i in 0..contours.len() {
        if let (Some(p), None) = (contours[i].parent, contours[i].colour) {
            let hole = contours[i].curve.clone();
            contours[p].holes.push(hole);
        }
    }
}

impl Contours {
    /// Contours of a picture of that size; each leaves out those directly within it.
    pub fn of(width: f64, height: f64, mut contours: Vec<Contour>) -> Self {
        give_holes(&mut contours);
        Self { contours, ..Self::empty(width, height) }
    }

    fn empty(width: f64, height: f64) -> Self {
        Self {
            histogram: Vec::new(),
            origin: (0.0, 0.0),
            width,
            height,
            contours: Vec::new(),
            lines: Vec::new(),
            palette: Vec::new(),
            dropped: Vec::new(),
            cut: 128.0,
            cut_is_automatic: true,
            specks: 0,
            pinholes: 0,
            doubts: Vec::new(),
        }
    }

    /// Moves everything to where the traced part lies in the prepared picture.
    fn place(&mut self, (x, y): (f64, f64)) {
        self.origin = (x, y);
        if (x, y) == (0.0, 0.0) {
            return;
        }
        let to = |p: kachel_geom::Point<Px>| kachel_geom::Point::new(p.x + x, p.y + y);
        for c in &mut self.contours {
            c.curve = c.curve.map(to);
            c.ring.0.iter_mut().for_each(|p| *p = to(*p));
            c.holes.iter_mut().for_each(|h| *h = h.map(to));
        }
        self.lines.iter_mut().for_each(|l| l.curve = l.curve.map(to));
        self.dropped.iter_mut().for_each(|d| *d = d.map(to));
    }
}

fn covers(ring: &Ring<Px>, width: f64, height: f64) -> bool {
    ring.area().abs() >= width * height * 0.9999 - 1.0
}

pub use guess::first_guess;

#[cfg(test)]
mod tests;
