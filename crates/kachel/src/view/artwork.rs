//! What is seen of the picture and its contours.

use super::paths::curves_path;
use crate::run::Run;
use kachel_design::{Workshop, matching_filaments};
use kachel_geom::{Curve, Ring};
use kachel_outline::Patch;
use kachel_trace::{Contours, Swatch};
use serde::Serialize;
use ts_rs::TS;

/// The prepared picture and how it lies on the original one.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PictureView {
    /// Width and height of the prepared picture before the crop, pixels.
    pub frame: [f64; 2],
    /// The part that is traced: left, upper edge, width, height.
    pub part: [f64; 4],
    /// From pixels of the prepared picture to those of the original; projective, by rows.
    pub to_original: [f64; 9],
    /// The other way.
    pub from_original: [f64; 9],
    /// Width and height of the original.
    pub original: [f64; 2],
    /// Changes with what is done to the picture.
    pub key: String,
    /// Millimetres a pixel by the file's own word.
    pub file_mm_per_px: Option<f64>,
    /// Whether it is made of lines and curves.
    pub is_drawing: bool,
    /// Whether parts of it are transparent.
    pub has_alpha: bool,
    /// Lines of an SVG that nothing paints.
    pub unpainted: usize,
}

/// One colour of the picture.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SwatchView {
    /// sRGB.
    pub colour: [u8; 3],
    /// Share of the picture, 0 to 1.
    pub share: f64,
    /// Whether it is left out as ground.
    pub is_ground: bool,
    /// The filament of the workshop that comes nearest to it; none where none does, and for the ground.
    pub filament: Option<String>,
}

/// How the picture was traced.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TraceView {
    /// Colours, where ink is found by colour.
    pub palette: Vec<SwatchView>,
    /// Pixels of each grey or opacity, 256 of them; empty where nothing is cut.
    pub histogram: Vec<u32>,
    /// Gaps filled as too small.
    pub pinholes: usize,
    /// Contours of specks and pinholes that were left out, as an SVG path in pixels.
    pub dropped: String,
    /// Middles of pen lines as an SVG path in pixels.
    pub lines: String,
    /// Shorter side of the smallest contour's box, pixels: what is too small to print shows here first.
    pub smallest: f64,
    /// The grey that was cut at.
    pub cut: f64,
    /// Whether it was found automatically.
    pub cut_is_automatic: bool,
    /// Nodes over all contours.
    pub nodes: usize,
    /// Specks left out.
    pub specks: usize,
}

pub(super) fn picture(run: &Run) -> Option<PictureView> {
    let (source, frame) = (run.source?, run.frame?);
    let whole = [0.0, 0.0, frame.width, frame.height];
    let part = run.contours.as_ref().map_or(whole, |c| [c.origin.0, c.origin.1, c.width, c.height]);
    Some(PictureView {
        frame: [frame.width, frame.height],
        part,
        to_original: frame.to_original,
        from_original: frame.from_original,
        original: source.size.into(),
        key: run.picture_key.clone(),
        file_mm_per_px: source.mm_per_px,
        is_drawing: source.is_drawing,
        has_alpha: source.has_alpha,
        unpainted: source.unpainted,
    })
}

pub(super) fn trace(c: &Contours, patches: &[Patch], workshop: &Workshop) -> TraceView {
    let boxes = patches.iter().flat_map(|p| &p.rings).filter_map(Ring::bounds);
    let smallest = boxes.map(|b| b.width().min(b.height())).fold(f64::INFINITY, f64::min);
    let colours: Vec<[u8; 3]> = c.palette.iter().filter(|s| !s.is_ground).map(|s| s.colour).collect();
    let mut filaments = matching_filaments(&colours, workshop).into_iter();
    let mut swatch = |s: &Swatch| SwatchView {
        colour: s.colour,
        share: s.share,
        is_ground: s.is_ground,
        filament: if s.is_ground { None } else { filaments.next().flatten() },
    };
    TraceView {
        palette: c.palette.iter().map(&mut swatch).collect(),
        histogram: c.histogram.clone(),
        pinholes: c.pinholes,
        dropped: curves_path(&c.dropped),
        lines: curves_path(c.lines.iter().map(|l| &l.curve)),
        smallest: if smallest.is_finite() { smallest } else { 0.0 },
        cut: c.cut,
        cut_is_automatic: c.cut_is_automatic,
        nodes: patches.iter().filter(|p| p.is_ink).flat_map(|p| &p.curves).map(Curve::nodes).sum(),
        specks: c.specks,
    }
}
