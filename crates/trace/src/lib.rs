//! Tracing: artwork to contours in pixels of the picture.
//!
//! Pictures are followed at sub-pixel precision (`follow`), drawings combined in paint order (`combine`); both end
//! as nested rings (`nest`). Tolerances are in pixels, so a new size of the object never traces again.

mod combine;
mod corner;
mod cubic;
mod cut;
mod field;
mod follow;
mod nest;
mod shape;
mod straight;
mod track;

use kachel_artwork::{Artwork, Doubt};
use kachel_geom::{Curve, Px, Ring, Stage, Stopped, Watch};
use serde::{Deserialize, Serialize};

pub use cut::{Cut, otsu_cut};

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
    /// What is opaque.
    Alpha,
}

/// The settings of tracing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
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
    /// Largest distance (pixels, 0 to 5) between a followed contour and its curve, beyond what the contour's own
    /// roughness explains; 0 keeps every point that was followed.
    pub deviation: f64,
    /// Smallest turn of a corner, degrees, 5 to 120; between straight runs 15 degrees are enough.
    pub bend: f64,
}

impl Default for TraceSettings {
    fn default() -> Self {
        Self { ink: Ink::LightDark, threshold: None, invert: false, min_area: 12.0, deviation: 0.1, bend: 45.0 }
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
}

impl Contour {
    /// A contour of straight lines.
    pub fn of_ring(ring: Ring<Px>, parent: Option<usize>, is_ink: bool) -> Self {
        Self { curve: Curve::from_ring(&ring), ring, parent, is_ink }
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
    /// Width of the picture, pixels.
    pub width: f64,
    /// Height of the picture, pixels.
    pub height: f64,
    /// All contours, each after its parent.
    pub contours: Vec<Contour>,
    /// The grey that was cut at.
    pub cut: f64,
    /// Whether the cut was found automatically.
    pub cut_is_automatic: bool,
    /// How many specks under the smallest area were dropped.
    pub specks: usize,
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
    #[error("nothing in the SVG is painted; its {lines} unpainted lines are kept in the file")]
    NothingPainted {
        /// Lines without paint.
        lines: usize,
    },
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
            Self::NothingPainted { .. } => "Give the lines a fill or a stroke in the program the SVG comes from.",
            Self::TooManyRings { .. } => "Raise the size under which specks are dropped, or move the threshold.",
            Self::TooManyNodes { .. } => "Raise the deviation, or the size under which specks are dropped.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}

/// Traces the artwork.
pub fn trace(artwork: &Artwork, settings: &TraceSettings, watch: &Watch) -> Result<Contours, TraceError> {
    watch.enter(Stage::Trace)?;
    let (width, height) = artwork.size();
    let mut style = shape::Style {
        deviation: settings.deviation,
        bend: settings.bend.to_radians(),
        softness: 1.0,
        grain: 0.0,
    };
    let (rings, cut) = match artwork {
        Artwork::Picture(p) => {
            let cut = cut::cut_picture(p, settings)?;
            let field = field::Field::new(p, &cut);
            let followed = follow::follow(&field, watch)?;
            style.softness = followed.softness;
            if field.is_one_bit {
                style.grain = ONE_BIT_GRAIN;
            }
            (followed.rings, cut)
        }
        Artwork::Drawing(d) => {
            if d.areas.is_empty() {
                return Err(TraceError::NothingPainted { lines: d.unpainted });
            }
            let cut = cut::cut_drawing(settings)?;
            (combine::combine(d, &cut, watch)?, cut)
        }
    };
    let before = rings.len();
    let rings: Vec<Ring<Px>> = rings.into_iter().filter(|r| r.area().abs() >= settings.min_area.max(1e-9)).collect();
    let specks = before - rings.len();
    if rings.len() > MAX_RINGS {
        return Err(TraceError::TooManyRings { rings: rings.len() });
    }
    let mut contours = nest::nest(rings, watch)?;
    let rough = contours.len();
    for (i, c) in contours.iter_mut().enumerate() {
        watch.step(i, rough)?;
        c.set_curve(shape::closed(&c.ring, &style));
    }
    let nodes = contours.iter().map(|c| c.curve.nodes()).sum();
    if nodes > MAX_NODES {
        return Err(TraceError::TooManyNodes { nodes });
    }
    match contours.as_slice() {
        [] => return Err(TraceError::NoInk),
        // Ink from border to border and nothing else: there is nothing to cut out.
        [only] if covers(&only.ring, width, height) => return Err(TraceError::AllInk),
        _ => {}
    }
    Ok(Contours {
        width,
        height,
        contours,
        cut: cut.at,
        cut_is_automatic: cut.automatic,
        specks,
        doubts: artwork.doubts().to_vec(),
    })
}

/// Roughness (pixels) of a contour between pixels that are either ink or ground, after smoothing.
const ONE_BIT_GRAIN: f64 = 0.14;

fn covers(ring: &Ring<Px>, width: f64, height: f64) -> bool {
    ring.area().abs() >= width * height * 0.9999 - 1.0
}

/// Settings that a picture probably wants: transparency where the rest says nothing, and ink and ground swapped
/// where the border is dark.
pub fn first_guess(artwork: &Artwork) -> TraceSettings {
    let mut settings = TraceSettings::default();
    if let Artwork::Drawing(d) = artwork
        && d.areas.iter().all(|a| a.grey >= 128.0)
    {
        // White lines for dark shirts: what is painted at all is meant.
        settings.ink = Ink::Alpha;
    }
    if let Artwork::Picture(p) = artwork {
        let flat = otsu_cut(&p.grey).is_none_or(|c| c.contrast < 24.0);
        if flat && p.alpha.is_some() {
            settings.ink = Ink::Alpha;
        } else if let Some(cut) = otsu_cut(&p.grey) {
            settings.invert = cut::border_is_dark(p, cut.at);
        }
    }
    settings
}

#[cfg(test)]
mod tests;
