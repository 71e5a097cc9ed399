//! What the interface and `--json` see of a run: plain data with generated TypeScript types, one file a station. Lengths
//! are millimetres.

mod artwork;
mod check;
mod compare;
mod outline;
mod paths;
mod solid;
mod thumbnail;
mod tiers;

use crate::error::EngineError;
use crate::layers::layer_heights;
use crate::run::Run;
use kachel_design::Document;
use kachel_geom::{Mm, Point};
use kachel_tiers::{Bar, Cut, Unit};
pub(crate) use paths::region_path;
use serde::Serialize;
pub(crate) use thumbnail::seen_from_above;
use ts_rs::TS;

pub use artwork::{PictureView, SwatchView, TraceView};
pub use check::{FigureView, FindingView, LookedView, MendView, PlaceView};
pub(crate) use check::{is_accepted, place};
pub use compare::{Compared, DifferenceView, differences};
pub use outline::{AstrayView, OutlineView, PatchView};
pub use solid::{ChangeView, PartView, SolidView};
pub use thumbnail::thumbnail;
pub use tiers::{CutView, HandleView, HungView, MeasureView, OptionView, TierView, measures};

/// Everything that a run gave.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct ResultView {
    /// The prepared picture.
    pub picture: Option<PictureView>,
    /// How the picture was traced.
    pub trace: Option<TraceView>,
    /// All patches.
    pub patches: Vec<PatchView>,
    /// The sized outline.
    pub outline: Option<OutlineView>,
    /// The recipe's measures with their values.
    pub measures: Vec<MeasureView>,
    /// The tiers, lowest in order first.
    pub tiers: Vec<TierView>,
    /// The edge with its margin as an SVG path, mm, y down, mirrored like the tiers.
    pub edge_path: String,
    /// Width and height of the edge with its margin, mm: of a cutter, the cookie.
    pub edge_size: Option<[f64; 2]>,
    /// Where a drawing lies on its plate before it is moved there: right and up, mm; none where the body follows the drawing.
    pub drawing_at: Option<Point<Mm>>,
    /// By which factor the drawing on a plate could grow (or has to shrink) to lie inside it; none where nothing does it.
    pub fit: Option<f64>,
    /// The hole or loop that it hangs by.
    pub hung: Option<HungView>,
    /// Whether tiers, section and solid are the mirror image of the picture.
    pub is_mirrored: bool,
    /// The faces of the section.
    pub section: Vec<CutView>,
    /// Where it runs, mm up from the middle of the edge.
    pub section_at: f64,
    /// The tie bars, in pixels of the picture.
    pub bars: Vec<Bar>,
    /// The solid.
    pub solid: Option<SolidView>,
    /// What the recipe did by itself, in whole sentences.
    pub notes: Vec<String>,
    /// What Check says.
    pub findings: Vec<FindingView>,
    /// What Check measured, also where nothing is the matter.
    pub looked: Vec<LookedView>,
    /// Why it went no further.
    pub problem: Option<ProblemView>,
    /// Time of each stage that ran.
    pub timings: Vec<TimingView>,
    /// Printed layer height.
    pub layer: f64,
    /// That of the first layer.
    pub first_layer: f64,
    /// Width of a printed line.
    pub line: f64,
    /// The printer's build space.
    pub bed: [f64; 3],
    /// The printer's name.
    pub printer: String,
    /// Whether the maker chose filaments: then parts are shown in theirs, else in colours of what they are.
    pub is_painted: bool,
    /// The recipe's label.
    pub recipe: String,
    /// Which face is printed down.
    pub bed_words: String,
}

/// Why something did not work.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct ProblemView {
    /// Stable code.
    pub code: &'static str,
    /// The stage that gave up.
    pub stage: &'static str,
    /// What happened.
    pub message: String,
    /// What to do.
    pub hint: String,
}

/// Time of a stage.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TimingView {
    /// Its name.
    pub stage: String,
    /// Milliseconds.
    pub ms: f64,
}

impl ProblemView {
    /// What is seen of a stage that gave up.
    pub fn of(e: &EngineError, unit: Unit) -> Self {
        let message = e.message();
        let hint = message.said_part("hint", unit);
        Self { code: e.code(), stage: e.stage().name(), message: message.sentence(unit), hint }
    }
}

fn solid_view(d: &Document, run: &Run) -> Option<SolidView> {
    let made = run.solid.as_ref().map(|(key, s)| solid::solid(d, key, s, run));
    made.or_else(|| run.shown.as_ref().map(|(key, tiers)| solid::shown(d, key, tiers, run)))
}

impl ResultView {
    /// Shows a run, with a section of its stack.
    pub fn new(d: &Document, run: &Run, section: &[Cut]) -> Self {
        let stack = run.stack.as_deref();
        let printer = run.workshop.printer();
        let heights = layer_heights(&run.workshop);
        let recipe = d.recipe.recipe().label();
        Self {
            picture: artwork::picture(run),
            trace: run.contours.as_deref().map(|c| artwork::trace(c, &run.patches, &run.workshop)),
            patches: outline::patches(d, run),
            outline: run.outline.as_deref().map(|o| outline::outline(o, d.size)),
            measures: tiers::measures(d, run),
            tiers: stack.map(|s| tiers::tiers(s, &run.workshop, d.unit)).unwrap_or_default(),
            edge_path: stack.map(|s| region_path(&s.edge)).unwrap_or_default(),
            edge_size: stack.and_then(|s| s.edge.bounds()).map(|b| [b.width(), b.height()]),
            drawing_at: stack.and_then(|s| s.plate),
            fit: stack.and_then(|s| s.fit),
            hung: stack.and_then(|s| s.hung).map(HungView::of),
            is_mirrored: d.recipe.is_mirrored(),
            section: section.iter().map(|c| tiers::cut(c, stack)).collect(),
            section_at: 0.0,
            bars: tiers::bars(run),
            solid: solid_view(d, run),
            notes: stack.into_iter().flat_map(|s| &s.notes).map(|n| n.sentence(d.unit)).collect(),
            findings: run.report.findings.iter().map(|f| check::finding(f, d.unit, &d.accepted)).collect(),
            looked: run.report.looked.iter().map(|l| check::looked(l, d.unit)).collect(),
            problem: run.failed.as_ref().map(|e| ProblemView::of(e, d.unit)),
            timings: run.timings.iter().map(|t| TimingView { stage: t.stage.name().into(), ms: t.ms }).collect(),
            layer: heights.others,
            first_layer: heights.first,
            line: printer.line,
            bed: printer.bed,
            printer: printer.name.clone(),
            is_painted: !d.filaments.is_empty() || !d.paints.is_empty(),
            bed_words: recipe.said_part("bed", d.unit),
            recipe: recipe.said(d.unit),
        }
    }
}
