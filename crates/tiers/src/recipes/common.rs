//! Measures that several recipes have, each with words and a range of its own.

use crate::measure::{MeasureSpec, Picture};
use crate::names::measures as m;

pub(super) const MARGIN: MeasureSpec = MeasureSpec::length(
    m::MARGIN,
    "Edge",
    "Margin",
    "How far the edge lies outside the drawing",
    Picture::Outwards,
    (0.0, 0.0, 10.0),
);

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
