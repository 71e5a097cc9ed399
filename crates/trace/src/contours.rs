use crate::palette::Swatch;
use crate::pen::PenLine;
use kachel_artwork::Doubt;
use kachel_geom::{Curve, Px, Ring};

/// Largest distance (pixels) of a contour's flattened line from its curve.
pub const FLATNESS: f64 = 0.02;

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
    pub(crate) fn set_curve(&mut self, curve: Curve<Px>) {
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
    /// The middles of strokes, where ink is read as pen lines; [`inked`] makes contours of them.
    pub lines: Vec<PenLine>,
    /// The colours, where ink is found by colour; a contour names its colour by the place in this list.
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

/// A contour that knows no holes yet leaves out the contours directly within it.
pub(crate) fn give_holes(contours: &mut [Contour]) {
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

    pub(crate) fn empty(width: f64, height: f64) -> Self {
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
    pub(crate) fn place(&mut self, (x, y): (f64, f64)) {
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
