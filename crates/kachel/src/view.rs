//! What the interface and `--json` see of a run: plain data with generated TypeScript types. Lengths are millimetres.

use crate::document::Document;
use crate::edit::Edit;
use crate::engine::{EngineError, Run, prepared_key};
use crate::tier_view::{self, CutView, MeasureView, SolidView, TierView};
use kachel_geom::{Bounds, Curve, Mm, Px, Region, Ring};
use kachel_outline::{Astray, Likeness, Outline, Patch, Root, Size, Spot, Use, patch_at};
use kachel_tiers::{Bar, Cut, Op};
use kachel_trace::{Contours, Swatch};
use serde::Serialize;
use std::fmt::Write as _;
use ts_rs::TS;

/// Everything that a run gave.
#[derive(Clone, Debug, Serialize, TS)]
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
    /// Whether tiers, section and solid are the mirror image of the picture.
    pub is_mirrored: bool,
    /// The faces of the section.
    pub section: Vec<CutView>,
    /// The tie bars, in pixels of the picture.
    pub bars: Vec<Bar>,
    /// The solid.
    pub solid: Option<SolidView>,
    /// What Check says.
    pub findings: Vec<FindingView>,
    /// Why it went no further.
    pub problem: Option<ProblemView>,
    /// Time of each stage that ran.
    pub timings: Vec<TimingView>,
    /// Printed layer height.
    pub layer: f64,
    /// Width of a printed line.
    pub line: f64,
    /// The printer's build space.
    pub bed: [f64; 3],
    /// The printer's name.
    pub printer: String,
    /// Whether the maker chose filaments: then parts are shown in theirs, else in colours of what they are.
    pub is_painted: bool,
    /// The recipe's label.
    pub recipe: &'static str,
    /// Which face is printed down.
    pub bed_words: &'static str,
}

/// The prepared picture and how it lies on the original one.
#[derive(Clone, Debug, Serialize, TS)]
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
#[ts(export)]
pub struct SwatchView {
    /// sRGB.
    pub colour: [u8; 3],
    /// Share of the picture, 0 to 1.
    pub share: f64,
    /// Whether it is left out as ground.
    pub is_ground: bool,
}

/// How the picture was traced.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct TraceView {
    /// Colours, where ink is told by them.
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

/// One patch.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct PatchView {
    /// A point in it, pixels.
    pub at: [f64; 2],
    /// Ink, or a gap.
    pub is_ink: bool,
    /// What it is for.
    #[serde(rename = "use")]
    pub use_: Use,
    /// Contours round it.
    pub depth: u32,
    /// Place in the list of the smallest patch that it lies in.
    pub parent: Option<usize>,
    /// Its area, mm2, once there is a size.
    pub area: Option<f64>,
    /// Length of all lines round it, mm, once there is a size.
    pub perimeter: Option<f64>,
    /// Left, upper, right and lower end, pixels.
    pub span: [f64; 4],
    /// Whether it must not be touched.
    pub is_pinned: bool,
    /// SVG path in pixels, y down, even-odd; its end points are the nodes.
    pub path: String,
    /// sRGB of its colour, where ink is told by colour.
    pub colour: Option<[u8; 3]>,
    /// The filament chosen for it.
    pub filament: Option<String>,
    /// Name of the group that an SVG has it in.
    pub group: Option<String>,
    /// Where it comes from, if it is not as traced.
    pub root: Option<Root>,
}

/// The sized outline.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct OutlineView {
    /// Millimetres a pixel.
    pub mm_per_px: f64,
    /// Pixel position of the millimetre origin.
    pub origin: [f64; 2],
    /// Width of the edge.
    pub width: f64,
    /// Height of the edge.
    pub height: f64,
    /// 'width' or 'height' where one is pinned.
    pub pinned: Option<crate::edit::Axis>,
    /// Nodes of edge and details.
    pub nodes: usize,
    /// Entries of the list of changes that do not do all they were meant to.
    pub astray: Vec<AstrayView>,
}

/// An entry of the list of changes that does not do all it was meant to.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct AstrayView {
    /// Its name.
    pub id: u32,
    /// Those of its patches that are gone.
    pub lost: Vec<Spot>,
    /// Whether it leaves nothing of what it works on.
    pub is_empty: bool,
    /// Whether the picture has changed under a patch with own nodes.
    pub has_moved_on: bool,
    /// Distance of the ends of an open line without a width, mm.
    pub gap: Option<f64>,
    /// Letters that the text's face does not have.
    pub missing: String,
}

/// One finding.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct FindingView {
    /// Stable code.
    pub code: &'static str,
    /// What is the matter.
    pub what: String,
    /// Why it matters.
    pub why: &'static str,
    /// Box in plan: left, top, width, height; mm, y down, mirrored like the tiers.
    pub place: Option<[f64; 4]>,
    /// Words on the button that mends it.
    pub mend: Option<String>,
    /// What the button does.
    pub edits: Vec<Edit>,
}

/// Why something did not work.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct ProblemView {
    /// Stable code.
    pub code: &'static str,
    /// The stage that gave up.
    pub stage: &'static str,
    /// What happened.
    pub message: String,
    /// What to do.
    pub hint: &'static str,
}

/// Time of a stage.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct TimingView {
    /// Its name.
    pub stage: String,
    /// Milliseconds.
    pub ms: f64,
}

impl From<&EngineError> for ProblemView {
    fn from(e: &EngineError) -> Self {
        Self { code: e.code(), stage: e.stage().name(), message: e.to_string(), hint: e.hint() }
    }
}

impl ResultView {
    /// Shows a run, with a section of its stack.
    pub fn new(d: &Document, run: &Run, section: &[Cut]) -> Self {
        let stack = run.stack.as_deref();
        let printer = run.workshop.printer();
        Self {
            picture: picture(d, run),
            trace: run.contours.as_deref().map(|c| trace(c, &run.patches)),
            patches: patches(d, run),
            outline: run.outline.as_deref().map(|o| outline(o, d.size)),
            measures: tier_view::measures(d, printer.layer),
            tiers: stack.map(|s| tier_view::tiers(s, &run.workshop)).unwrap_or_default(),
            edge_path: stack.map(|s| region_path(&s.edge)).unwrap_or_default(),
            is_mirrored: d.recipe.is_mirrored(),
            section: section.iter().map(|c| tier_view::cut(c, stack)).collect(),
            bars: tier_view::bars(run),
            solid: run.solid.as_ref().map(|(key, s)| tier_view::solid(d, key, s, run)),
            findings: run.findings.iter().map(finding).collect(),
            problem: run.failed.as_ref().map(ProblemView::from),
            timings: run.timings.iter().map(|t| TimingView { stage: t.stage.name().into(), ms: t.ms }).collect(),
            layer: printer.layer,
            line: printer.line,
            bed: printer.bed,
            printer: printer.name.clone(),
            is_painted: !d.filaments.is_empty() || !d.paints.is_empty(),
            recipe: d.recipe.recipe().label,
            bed_words: d.recipe.recipe().bed,
        }
    }
}

fn picture(d: &Document, run: &Run) -> Option<PictureView> {
    let (source, frame) = (run.source?, run.frame?);
    let whole = [0.0, 0.0, frame.width, frame.height];
    let part = run.contours.as_ref().map_or(whole, |c| [c.origin.0, c.origin.1, c.width, c.height]);
    Some(PictureView {
        frame: [frame.width, frame.height],
        part,
        to_original: frame.to_original,
        from_original: frame.from_original,
        original: source.size.into(),
        key: prepared_key(d),
        file_mm_per_px: source.mm_per_px,
        is_drawing: source.is_drawing,
        has_alpha: source.has_alpha,
        unpainted: source.unpainted,
    })
}

fn trace(c: &Contours, patches: &[Patch]) -> TraceView {
    let boxes = patches.iter().flat_map(|p| &p.rings).filter_map(Ring::bounds);
    let smallest = boxes.map(|b| b.width().min(b.height())).fold(f64::INFINITY, f64::min);
    let swatch = |s: &Swatch| SwatchView { colour: s.colour, share: s.share, is_ground: s.is_ground };
    TraceView {
        palette: c.palette.iter().map(swatch).collect(),
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

fn curves_path<'a>(curves: impl IntoIterator<Item = &'a Curve<Px>>) -> String {
    let mut path = String::new();
    curves.into_iter().for_each(|c| kachel_exchange::write_curve(&mut path, c));
    path
}

fn patches(d: &Document, run: &Run) -> Vec<PatchView> {
    let mut all: Vec<PatchView> = run.patches.iter().map(|p| patch(p, run)).collect();
    for pin in &d.pins {
        if let Some(k) = patch_at(&run.patches, pin) {
            all[k].is_pinned = true;
        }
    }
    for paint in &d.paints {
        if let Some(k) = patch_at(&run.patches, &paint.spot) {
            all[k].filament.clone_from(&paint.filament);
        }
    }
    if all.len() <= MOST_NESTED {
        nest(&mut all, &run.patches);
    }
    all
}

/// Patches that are nested at the most; more would not be looked through one by one anyway.
const MOST_NESTED: usize = 1500;

/// Finds what lies in what, whatever was drawn or moved since the picture was traced.
fn nest(all: &mut [PatchView], patches: &[Patch]) {
    // By what they go round: a ring is larger than what lies in it.
    let round: Vec<f64> = patches.iter().map(|p| p.rings[0].area().abs()).collect();
    let mut by_area: Vec<usize> = (0..patches.len()).collect();
    by_area.sort_by(|a, b| round[*a].total_cmp(&round[*b]));
    for (n, k) in by_area.iter().enumerate() {
        let at = patches[*k].anchor;
        let [left, top, right, bottom] = all[*k].span;
        let holds = |o: &&usize| {
            let s = all[**o].span;
            s[0] <= left && s[1] <= top && s[2] >= right && s[3] >= bottom && patches[**o].rings[0].contains(at)
        };
        let parent = by_area[n + 1..].iter().find(holds).copied();
        all[*k].parent = parent;
    }
}

fn patch(p: &Patch, run: &Run) -> PatchView {
    let length: f64 = p.rings.iter().map(Ring::perimeter).sum();
    let swatch = run.contours.as_ref().zip(p.colour).and_then(|(c, k)| c.palette.get(usize::from(k)));
    PatchView {
        at: [p.anchor.x, p.anchor.y],
        is_ink: p.is_ink,
        use_: p.use_,
        depth: p.depth,
        parent: None,
        area: run.outline.as_deref().map(|o| p.area_px2 * o.mm_per_px * o.mm_per_px),
        perimeter: run.outline.as_deref().map(|o| length * o.mm_per_px),
        span: Likeness::of(p).span,
        is_pinned: false,
        path: curves_path(&p.curves),
        colour: swatch.map(|s| s.colour),
        filament: None,
        group: p.group.clone(),
        root: p.altered_root(),
    }
}

fn outline(o: &Outline, size: Size) -> OutlineView {
    OutlineView {
        mm_per_px: o.mm_per_px,
        origin: [o.origin.x, o.origin.y],
        width: o.edge_px.width() * o.mm_per_px,
        height: o.edge_px.height() * o.mm_per_px,
        pinned: match size {
            Size::Scale { .. } => None,
            Size::Width { .. } => Some(crate::edit::Axis::Width),
            Size::Height { .. } => Some(crate::edit::Axis::Height),
        },
        nodes: o.edge.nodes() + o.details.iter().map(|(_, r)| r.nodes()).sum::<usize>(),
        astray: o.astray.iter().map(astray).collect(),
    }
}

fn astray(a: &Astray) -> AstrayView {
    AstrayView {
        id: a.id,
        lost: a.lost.clone(),
        is_empty: a.is_empty,
        has_moved_on: a.moved_on.is_some(),
        gap: a.gap,
        missing: a.missing.iter().collect(),
    }
}

fn finding(f: &kachel_check::Finding) -> FindingView {
    let box_of = |b: Bounds<Mm>| [b.min.x, -b.max.y, b.width(), b.height()];
    FindingView {
        code: f.code.name(),
        what: f.what.clone(),
        why: f.why,
        place: f.place.map(box_of),
        mend: f.mend.as_ref().map(|(words, _)| words.clone()),
        edits: f.mend.as_ref().map(|(_, m)| Edit::from_mend(m)).unwrap_or_default(),
    }
}

pub(crate) fn region_path(r: &Region) -> String {
    let mut path = String::new();
    for ring in r.rings_mm() {
        write_ring(&mut path, ring.0.iter().map(|p| (p.x, -p.y)));
    }
    path
}

/// Appends a closed subpath, to a thousandth.
fn write_ring(path: &mut String, points: impl Iterator<Item = (f64, f64)>) {
    let short = |v: f64| (v * 1000.0).round() / 1000.0 + 0.0;
    for (i, (x, y)) in points.enumerate() {
        let _ = write!(path, "{}{} {}", if i == 0 { 'M' } else { 'L' }, short(x), short(y));
    }
    path.push('Z');
}

/// The design as a small drawing in plan, for the shelf: the picture's patches where there are no tiers yet.
pub fn thumbnail(run: &Run) -> Option<String> {
    let head = |x: f64, y: f64, w: f64, h: f64| {
        format!("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"{x} {y} {w} {h}\">")
    };
    if let Some(stack) = run.stack.as_deref()
        && let Some(b) = stack.tiers.iter().filter_map(|t| t.footprint.bounds()).reduce(Bounds::union)
    {
        // Shown as what it makes reads: a tool's mirror image.
        let pad = b.width().max(b.height()) * 0.04;
        let left = if stack.is_mirrored { -b.max.x } else { b.min.x };
        let mut out = head(left - pad, -b.max.y - pad, b.width() + 2.0 * pad, b.height() + 2.0 * pad);
        let _ = write!(out, "<g transform=\"scale({} 1)\">", if stack.is_mirrored { -1 } else { 1 });
        let usual = &run.workshop.filaments[0].id;
        let many = stack.filaments.iter().any(|f| f != usual);
        for (k, t) in stack.tiers.iter().enumerate() {
            // What is cut from below is not seen from above.
            let is_under = |u: &kachel_tiers::Tier| u.op == Op::Add && u.top <= t.top;
            if t.op == Op::Cut && !stack.tiers[..k].iter().any(is_under) {
                continue;
            }
            let filament = stack.filaments.get(t.part as usize).filter(|_| many);
            let colour = filament.map(|f| run.workshop.filament(f).colour);
            let fill = match (t.op, colour, t.role.name()) {
                (Op::Cut, ..) => "#fffaf0".into(),
                (_, Some([r, g, b]), _) => format!("#{r:02x}{g:02x}{b:02x}"),
                (_, None, "flange" | "body" | "loop") => "#a9cbb0".into(),
                (_, None, "wall" | "rim" | "grip") => "#2a7f86".into(),
                _ => "#d9974f".into(),
            };
            let _ = write!(out, "<path fill=\"{fill}\" d=\"{}\"/>", region_path(&t.footprint));
        }
        out.push_str("</g></svg>");
        return Some(out);
    }
    let c = run.contours.as_ref()?;
    let mut out = head(c.origin.0, c.origin.1, c.width, c.height);
    for p in run.patches.iter().filter(|p| p.is_ink) {
        let _ = write!(out, "<path fill=\"#5b7074\" fill-rule=\"evenodd\" d=\"{}\"/>", curves_path(&p.curves));
    }
    out.push_str("</svg>");
    Some(out)
}
