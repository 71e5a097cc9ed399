//! Measures that several recipes have, each with words and a range of its own.

use crate::measure::{MeasureSpec, Picture};
use crate::names::{Corners, Crumbs, Measure, Outside, Pieces, Place, measures as m};

pub(super) const MARGIN: MeasureSpec = MeasureSpec::length(m::MARGIN, "edge", Picture::Outwards, (0.0, 0.0, 10.0));

/// The edge of a cutter.
pub(super) const EDGE: &[MeasureSpec] = &[MARGIN, pieces("edge")];

/// Whether loose pieces of the edge become one.
pub(super) const fn pieces(group: &'static str) -> MeasureSpec {
    MeasureSpec::choice(m::PIECES, group, Pieces::OPTIONS)
}

/// What happens to details outside the edge.
pub(super) const fn outside(group: &'static str) -> MeasureSpec {
    MeasureSpec::choice(m::OUTSIDE, group, Outside::OPTIONS)
}

/// Where the drawing lies on a plate with a form of its own.
pub(super) const PLACE: &[MeasureSpec] = &[
    MeasureSpec::choice(m::PLACE, "place", Place::OPTIONS),
    MeasureSpec::length(m::SHIFT_X, "place", Picture::Gap, (0.0, -200.0, 200.0)),
    MeasureSpec::length(m::SHIFT_Y, "place", Picture::Gap, (0.0, -200.0, 200.0)),
    MeasureSpec::angle(m::TURN, "place", (0.0, -360.0, 360.0)),
    MeasureSpec::length(m::FROM_RIM, "place", Picture::Gap, (1.5, 0.0, 30.0)),
];

/// Whether what no nozzle prints is left out.
pub(super) const CRUMBS: &[MeasureSpec] = &[MeasureSpec::choice(m::CRUMBS, "fine-parts", Crumbs::OPTIONS)];

/// Radii of a rectangular plate's corners.
pub(super) const fn corners(radius: f64) -> [MeasureSpec; 6] {
    const fn corner(name: Measure, radius: f64) -> MeasureSpec {
        MeasureSpec::length(name, "plate", Picture::Corner, (radius, 0.0, 60.0))
    }
    [
        MeasureSpec::choice(m::CORNERS, "plate", Corners::OPTIONS),
        corner(m::CORNER, radius),
        corner(m::CORNER_UL, radius),
        corner(m::CORNER_UR, radius),
        corner(m::CORNER_LL, radius),
        corner(m::CORNER_LR, radius),
    ]
}

pub(super) const fn border(group: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::BORDER, group, Picture::Outwards, range)
}

pub(super) const fn soft_edge(group: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::SOFT_EDGE, group, Picture::Edge, range)
}

pub(super) const fn relief_height(group: &'static str, range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::RELIEF_HEIGHT, group, Picture::High, range)
}

pub(super) const fn rim_width(range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::RIM_WIDTH, "rim", Picture::Thick, range)
}

pub(super) const fn rim_height(range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::RIM_HEIGHT, "rim", Picture::High, range)
}

pub(super) const fn hole(range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::HOLE, "hole", Picture::Across, range)
}

pub(super) const fn hole_round(range: (f64, f64, f64)) -> MeasureSpec {
    MeasureSpec::length(m::HOLE_ROUND, "hole", Picture::Thick, range)
}
