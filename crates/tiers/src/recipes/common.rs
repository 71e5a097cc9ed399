//! Measures that several recipes have, each with words and a range of its own.

use crate::measure::{MeasureSpec, Picture};
use crate::names::{Corners, Crumbs, Measure, Outside, Pieces, Place, measures as m};

pub(super) const MARGIN: MeasureSpec = MeasureSpec::length(
    m::MARGIN,
    "Edge",
    "Margin",
    "How far the edge lies outside the drawing",
    Picture::Outwards,
    (0.0, 0.0, 10.0),
);

/// The edge of a cutter.
pub(super) const EDGE: &[MeasureSpec] = &[MARGIN, pieces("Edge")];

/// Whether loose pieces of the edge become one.
pub(super) const fn pieces(group: &'static str) -> MeasureSpec {
    let meaning = "What becomes of pieces of the edge that do not hang together";
    MeasureSpec::choice(m::PIECES, group, "Loose pieces", meaning, Pieces::OPTIONS)
}

/// What happens to details outside the edge.
pub(super) const fn outside(group: &'static str) -> MeasureSpec {
    let meaning = "What becomes of details that reach over the edge";
    MeasureSpec::choice(m::OUTSIDE, group, "Over the edge", meaning, Outside::OPTIONS)
}

/// Where the drawing lies on a plate with a form of its own.
pub(super) const PLACE: &[MeasureSpec] = &[
    MeasureSpec::choice(
        m::PLACE,
        "Place",
        "Drawing at",
        "What of the drawing lies in the plate's middle",
        Place::OPTIONS,
    ),
    MeasureSpec::length(
        m::SHIFT_X,
        "Place",
        "To the right",
        "How far the drawing is moved to the right from there",
        Picture::Gap,
        (0.0, -200.0, 200.0),
    ),
    MeasureSpec::length(
        m::SHIFT_Y,
        "Place",
        "Up",
        "How far the drawing is moved up from there",
        Picture::Gap,
        (0.0, -200.0, 200.0),
    ),
    MeasureSpec::angle(
        m::TURN,
        "Place",
        "Turned by",
        "How far the drawing is turned to the left about the plate's middle",
        (0.0, -360.0, 360.0),
    ),
    MeasureSpec::length(
        m::FROM_RIM,
        "Place",
        "From the rim",
        "How far from the rim a drawing stays that is fitted inside",
        Picture::Gap,
        (1.5, 0.0, 30.0),
    ),
];

/// Whether what no nozzle prints is left out.
pub(super) const CRUMBS: &[MeasureSpec] = &[MeasureSpec::choice(
    m::CRUMBS,
    "Fine parts",
    "Crumbs",
    "What becomes of pieces and holes smaller than a nozzle of 0.4 mm prints",
    Crumbs::OPTIONS,
)];

/// Radii of a rectangular plate's corners.
pub(super) const fn corners(radius: f64) -> [MeasureSpec; 6] {
    const fn corner(name: Measure, label: &'static str, radius: f64) -> MeasureSpec {
        MeasureSpec::length(name, "Plate", label, "Radius of this corner", Picture::Corner, (radius, 0.0, 60.0))
    }
    let meaning = "Radius of a rounded plate's corners";
    [
        MeasureSpec::choice(m::CORNERS, "Plate", "Corners", "Whether all corners are as round", Corners::OPTIONS),
        MeasureSpec::length(m::CORNER, "Plate", "Corner radius", meaning, Picture::Corner, (radius, 0.0, 60.0)),
        corner(m::CORNER_UL, "Upper left", radius),
        corner(m::CORNER_UR, "Upper right", radius),
        corner(m::CORNER_LL, "Lower left", radius),
        corner(m::CORNER_LR, "Lower right", radius),
    ]
}

pub(super) const fn border(group: &'static str, meaning: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::BORDER, group, "Border", meaning, Picture::Outwards, range)
}

pub(super) const fn soft_edge(group: &'static str, meaning: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::SOFT_EDGE, group, "Softened edge", meaning, Picture::Edge, range)
}

pub(super) const fn relief_height(group: &'static str, meaning: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::RELIEF_HEIGHT, group, "Height or depth", meaning, Picture::High, range)
}

pub(super) const fn rim_width(range: (f64, f64, f64)) -> MeasureSpec {
    let meaning = "Width of a raised border; 0 leaves it away";
    MeasureSpec::length(m::RIM_WIDTH, "Rim", "Width", meaning, Picture::Thick, range)
}

pub(super) const fn rim_height(meaning: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::RIM_HEIGHT, "Rim", "Height", meaning, Picture::High, range)
}

pub(super) const fn hole(meaning: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::HOLE, "Hole", "Across", meaning, Picture::Across, range)
}

pub(super) const fn hole_round(range: (f64, f64, f64)) -> MeasureSpec {
    let meaning = "How much filament is left round the hole";
    MeasureSpec::length(m::HOLE_ROUND, "Hole", "Filament round it", meaning, Picture::Thick, range)
}
