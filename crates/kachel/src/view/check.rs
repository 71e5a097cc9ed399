//! What is seen of findings.

use super::paths::rings_path;
use kachel_check::{Figure, FigureUnit, Finding, Looked, Place};
use kachel_design::{Accepted, Edit};
use kachel_geom::{Bounds, Mm};
use kachel_words::{Message, Unit};
use serde::Serialize;
use ts_rs::TS;

/// One finding.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct FindingView {
    /// Stable code.
    pub code: &'static str,
    /// What is the matter.
    pub what: String,
    /// How much it weighs: `fault` cannot be printed or used, `poor` will look or work poorly, `note` is worth knowing.
    #[ts(type = "\"fault\" | \"poor\" | \"note\"")]
    pub weight: &'static str,
    /// Why it matters.
    pub why: String,
    /// Box in plan round all its places: left, top, width, height; mm, y down, mirrored like the tiers.
    pub place: Option<[f64; 4]>,
    /// Its places one by one.
    pub places: Vec<PlaceView>,
    /// Its values as data.
    pub figures: Vec<FigureView>,
    /// What mends it, the best first.
    pub mends: Vec<MendView>,
    /// Whether the maker knows of it and leaves it.
    pub is_accepted: bool,
}

/// Something that Check measured.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct LookedView {
    /// What, as a heading.
    pub what: String,
    /// What came out, in words with units.
    pub said: String,
    /// Where that is.
    pub places: Vec<PlaceView>,
}

/// A button that mends a finding.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct MendView {
    /// Words on it.
    pub words: String,
    /// What it does: sent back as they are.
    pub edits: Vec<Edit>,
}

/// Where a finding is.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PlaceView {
    /// SVG path of its outline in plan, mm, y down, mirrored like the tiers.
    pub path: String,
    /// Its lower and upper end above the bed, mm, where the height matters.
    pub heights: Option<[f64; 2]>,
}

/// A value that a finding is about.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct FigureView {
    /// What was measured or counted.
    pub what: String,
    /// How much it is.
    pub value: f64,
    /// What it should be at least or at most.
    pub limit: Option<f64>,
    /// `mm`, `degrees`, or `count` of a number of things.
    pub unit: &'static str,
}

/// Whether the maker knows of a finding and leaves it.
pub(crate) fn is_accepted(f: &Finding, accepted: &[Accepted]) -> bool {
    let figures = f.figures.iter().map(|g| g.value).collect();
    let own = Accepted { code: f.code.name().into(), figures, places: f.places.len() };
    accepted.iter().any(|a| a.is(&own))
}

pub(super) fn finding(f: &Finding, unit: Unit, accepted: &[Accepted]) -> FindingView {
    let box_of = |b: Bounds<Mm>| [b.min.x, -b.max.y, b.width(), b.height()];
    FindingView {
        code: f.code.name(),
        weight: f.code.weight().name(),
        what: f.what.sentence(unit),
        why: f.why(unit),
        place: f.bounds().map(box_of),
        places: f.places.iter().map(place).collect(),
        figures: f.figures.iter().map(figure).collect(),
        is_accepted: is_accepted(f, accepted),
        mends: f.mends.iter().map(|m| MendView { words: m.words.said(unit), edits: m.edits.clone() }).collect(),
    }
}

pub(super) fn looked(l: &Looked, unit: Unit) -> LookedView {
    LookedView {
        what: Message::new(l.what).said(unit),
        said: l.said.said(unit),
        places: l.places.iter().map(place).collect(),
    }
}

pub(crate) fn place(p: &Place) -> PlaceView {
    PlaceView { path: rings_path(&p.outline), heights: p.heights.map(|(low, high)| [low, high]) }
}

fn figure(f: &Figure) -> FigureView {
    let unit = match f.unit {
        FigureUnit::Mm => "mm",
        FigureUnit::Degrees => "degrees",
        FigureUnit::Count => "count",
    };
    FigureView { what: Message::new(f.what).to_string(), value: f.value, limit: f.limit, unit }
}
