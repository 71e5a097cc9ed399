//! Check: what would go wrong at the printer or at the table. Soundness gates export, by type; all of this is advice.

use kachel_artwork::Doubt;
use kachel_geom::{BoolOp, Bounds, Mm, Point, Px, Region, Stage, Stopped, Watch, combine, join_all, offset};
use kachel_outline::{Astray, Choice, Outline, Use};
use kachel_solid::{Body, Solid};
use kachel_tiers::{DoubtKind, Measures, Op, Role, Stack, colour_changes};
use kachel_trace::Contours;
use serde::{Deserialize, Serialize};

/// A printer as the workshop knows it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Printer {
    /// What the maker calls it.
    pub name: String,
    /// Its build space: width, depth, height, mm.
    pub bed: [f64; 3],
    /// Across its nozzle, mm.
    pub nozzle: f64,
    /// Width of a printed line, mm.
    pub line: f64,
    /// Height of a printed layer, mm.
    pub layer: f64,
    /// How many filaments it loads at a time.
    pub filaments: u32,
}

impl Default for Printer {
    /// Common practice, no source: a bed of 220 mm, a nozzle of 0.4 mm, layers of 0.2 mm, one filament.
    fn default() -> Self {
        let bed = [220.0, 220.0, 250.0];
        Self { name: "Practice printer".into(), bed, nozzle: 0.4, line: 0.4, layer: 0.2, filaments: 1 }
    }
}
/// Thinnest upright wall, mm (common practice, no source).
pub const THINNEST_WALL_MM: f64 = 0.75;
/// Thinnest stamp line, mm (common practice, no source).
pub const THINNEST_LINE_MM: f64 = 0.75;
/// Thin places under this area (mm2) are the tips of corners, not lines.
const TIP_AREA_MM2: f64 = 1.0;
/// Loose pieces that are told one by one.
const MOST_PIECES: usize = 12;
/// Thin stamp lines told one by one.
const MOST_THIN: usize = 3;

/// Something that Check has to say.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// What kind; its words are stable.
    pub code: Code,
    /// What is the matter, with values and units.
    pub what: String,
    /// Why it matters.
    pub why: &'static str,
    /// Where, as a box in plan, mm, as the tool is printed.
    pub place: Option<Bounds<Mm>>,
    /// Change of the document that would mend it, with its name on the button.
    pub mend: Option<(String, Mend)>,
}

/// Kinds of findings.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Code {
    /// A piece hangs together with nothing.
    LoosePart,
    /// The object comes in several pieces.
    SeveralPieces,
    /// An upright wall is too thin.
    ThinWall,
    /// A stamp line is too thin.
    ThinLine,
    /// Larger than the bed.
    LargerThanBed,
    /// The wall is thicker than what it cuts.
    WallThickerThanShape,
    /// The flange reaches the wall's top.
    FlangeTooHigh,
    /// Stamp lines end at the wall's top.
    StampTooHigh,
    /// Stamp lines have no height.
    StampVanishes,
    /// Pieces touch in a point or along a line only.
    TouchingPieces,
    /// Specks were dropped.
    SpecksDropped,
    /// A part of an SVG was read by a simpler rule.
    SimplerRule,
    /// A large picture is worked on at a reduced size.
    PictureReduced,
    /// The file ended before the picture did.
    PictureCutOff,
    /// The file holds more pictures than the one used.
    FirstPicture,
    /// A choice has lost its patch.
    LostPatch,
    /// A change of the outline has lost its patch.
    LostChange,
    /// A change of the outline leaves nothing.
    NothingLeft,
    /// A patch with its own nodes, and the picture has changed under it.
    MovedOn,
    /// A drawn line is open.
    OpenLine,
    /// A text's face lacks letters.
    MissingLetter,
    /// Something has no height or no area and was left out.
    NoHeight,
    /// Something goes through what it is cut into.
    TooDeep,
    /// Something does not fit where it has to go.
    NoRoom,
    /// A hole breaks out of the edge.
    BreaksOut,
    /// The object is longer than is usual.
    TooLong,
    /// A finish is wider than the shape it is on.
    FinishTooWide,
    /// More filaments in one layer than the printer loads.
    ColoursInOneLayer,
    /// A filament is no longer in the workshop.
    FilamentGone,
    /// A tier is lower than a printed layer.
    UnderALayer,
}

impl Code {
    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::LoosePart => "loose-part",
            Self::SeveralPieces => "several-pieces",
            Self::ThinWall => "thin-wall",
            Self::ThinLine => "thin-line",
            Self::LargerThanBed => "larger-than-bed",
            Self::WallThickerThanShape => "wall-thicker-than-shape",
            Self::FlangeTooHigh => "flange-too-high",
            Self::StampTooHigh => "stamp-too-high",
            Self::StampVanishes => "stamp-vanishes",
            Self::TouchingPieces => "touching-pieces",
            Self::SpecksDropped => "specks-dropped",
            Self::SimplerRule => "simpler-rule",
            Self::PictureReduced => "picture-reduced",
            Self::PictureCutOff => "picture-cut-off",
            Self::FirstPicture => "first-picture",
            Self::LostPatch => "lost-patch",
            Self::LostChange => "lost-change",
            Self::NothingLeft => "nothing-left",
            Self::MovedOn => "moved-on",
            Self::OpenLine => "open-line",
            Self::MissingLetter => "missing-letter",
            Self::NoHeight => "no-height",
            Self::TooDeep => "too-deep",
            Self::NoRoom => "no-room",
            Self::BreaksOut => "breaks-out",
            Self::TooLong => "too-long",
            Self::FinishTooWide => "finish-too-wide",
            Self::ColoursInOneLayer => "colours-in-one-layer",
            Self::FilamentGone => "filament-gone",
            Self::UnderALayer => "under-a-layer",
        }
    }
}

/// A change that mends a finding.
#[derive(Clone, Debug, PartialEq)]
pub enum Mend {
    /// Gives a measure a value, mm.
    Measure(&'static str, f64),
    /// Gives the edge a width, mm.
    Width(f64),
    /// Puts patches aside, each told by a point in it.
    Aside(Vec<Point<Px>>),
    /// Forgets a choice.
    Forget(Choice),
    /// Switches a change of the outline off.
    SwitchOff(u32),
    /// Keeps own nodes though the picture has changed.
    Stay(u32),
    /// Joins the ends of a drawn line.
    Close(u32),
    /// Lets tie bars be found again.
    TieAgain,
    /// Prints everything that names a filament in the usual one.
    DropFilament(String),
}

/// All that is looked at.
#[derive(Clone, Copy, Debug)]
pub struct Object<'a> {
    /// From the trace stage.
    pub contours: &'a Contours,
    /// From the outline stage.
    pub outline: &'a Outline,
    /// The recipe's measures.
    pub measures: &'a Measures,
    /// From the tiers stage.
    pub stack: &'a Stack,
    /// From the solid stage.
    pub solid: &'a Solid,
    /// What it is to be printed with.
    pub printer: &'a Printer,
    /// Names of filaments that the workshop no longer has.
    pub gone: &'a [String],
    /// Whether the maker placed the tie bars.
    pub has_own_bars: bool,
}

impl Object<'_> {
    /// The plan area of all tiers of a role.
    fn area(&self, role: Role) -> Region {
        let all: Vec<&Region> = self.stack.tiers.iter().filter(|t| t.role == role).map(|t| &*t.footprint).collect();
        match all.as_slice() {
            [only] => (*only).clone(),
            _ => join_all(all).unwrap_or_default(),
        }
    }
}

/// Looks at everything.
pub fn check(o: &Object<'_>, watch: &Watch) -> Result<Vec<Finding>, Stopped> {
    watch.enter(Stage::Check)?;
    let mut found = Vec::new();
    larger_than_bed(o, &mut found);
    if o.measures.has("wall-height") {
        heights(o, &mut found);
        walls(o, &mut found);
    }
    recipe(o, &mut found);
    finishes(o, &mut found);
    filaments(o, &mut found);
    watch.step(1, 3)?;
    loose(o, &mut found);
    watch.step(2, 3)?;
    thin_lines(o, &mut found);
    before_the_outline(o, &mut found);
    Ok(found)
}

fn plain(code: Code, what: String, why: &'static str) -> Finding {
    Finding { code, what, why, place: None, mend: None }
}

fn larger_than_bed(o: &Object<'_>, found: &mut Vec<Finding>) {
    let bed = o.printer.bed;
    let (min, max) = o.solid.skin.mesh().extent();
    let size: [f64; 3] = std::array::from_fn(|k| max[k] - min[k]);
    if (0..3).all(|k| size[k] <= bed[k]) {
        return;
    }
    // What is added round the edge does not shrink with it.
    let edge = [o.outline.edge_bounds.width(), o.outline.edge_bounds.height()];
    let ratio = (0..2).map(|k| (bed[k] - (size[k] - edge[k])) / edge[k]).fold(1.0, f64::min);
    let width = (edge[0] * ratio * 10.0).floor() / 10.0;
    let what = format!(
        "The object is {:.1} × {:.1} × {:.1} mm; the printer builds {} × {} × {} mm",
        size[0], size[1], size[2], bed[0], bed[1], bed[2]
    );
    let mend = (ratio < 1.0 && width >= 1.0).then(|| (format!("Make it {width:.1} mm wide"), Mend::Width(width)));
    found.push(Finding { mend, ..plain(Code::LargerThanBed, what, "It does not fit the printer in one piece.") });
}

fn heights(o: &Object<'_>, found: &mut Vec<Finding>) {
    let (wall, flange, under) =
        (o.measures.get("wall-height"), o.measures.get("flange-height"), o.measures.get("stamp-under-wall"));
    if flange >= wall && o.measures.get("flange-width") > 0.0 {
        found.push(Finding {
            mend: Some(("Make the flange 2 mm high".into(), Mend::Measure("flange-height", 2.0_f64.min(wall / 2.0)))),
            ..plain(
                Code::FlangeTooHigh,
                format!("The flange is {flange} mm high, the wall {wall} mm"),
                "The flange meets the dough before the wall has cut through it.",
            )
        });
    }
    if o.outline.details.is_empty() || !o.measures.has("stamp-under-wall") {
        return;
    }
    let lower = |what: String, code, why| Finding {
        mend: Some((
            "Let them end 3 mm under the wall".into(),
            Mend::Measure("stamp-under-wall", 3.0_f64.min(wall / 2.0)),
        )),
        ..plain(code, what, why)
    };
    if under >= wall {
        let what = format!("Stamp lines {under} mm under a wall of {wall} mm have no height");
        found.push(lower(what, Code::StampVanishes, "They are left out of the object."));
    } else if under < 0.5 {
        let what = format!("Stamp lines end {under} mm under the wall's top");
        found.push(lower(
            what,
            Code::StampTooHigh,
            "Lines as high as the wall cut through the dough instead of marking it.",
        ));
    }
}

fn walls(o: &Object<'_>, found: &mut Vec<Finding>) {
    let thickness = o.measures.get("wall-thickness");
    if thickness < THINNEST_WALL_MM {
        found.push(Finding {
            mend: Some(("Make it 0.8 mm, two lines".into(), Mend::Measure("wall-thickness", 0.8))),
            ..plain(
                Code::ThinWall,
                format!("The wall is {thickness} mm thick; {THINNEST_WALL_MM} mm is the least that stands up"),
                "A single line of filament bends and splits between layers.",
            )
        });
    }
    if offset(&o.stack.edge, -thickness / 2.0).is_ok_and(|r| r.is_empty()) {
        found.push(Finding {
            place: o.stack.edge.bounds(),
            ..plain(
                Code::WallThickerThanShape,
                format!("The wall is {thickness} mm thick, thicker than the shape it cuts is anywhere"),
                "What is left inside is too narrow for dough. Make the object larger, the margin wider or the wall thinner.",
            )
        });
    }
}

/// What the recipe itself has to say.
fn recipe(o: &Object<'_>, found: &mut Vec<Finding>) {
    for d in &o.stack.doubts {
        let (code, why) = match d.kind {
            DoubtKind::NoHeight => (Code::NoHeight, "It is left out of the object."),
            DoubtKind::TooDeep => (Code::TooDeep, "What is meant to be a floor becomes a hole."),
            DoubtKind::NoRoom => (Code::NoRoom, "It is made as far as it fits, or left out."),
            DoubtKind::BreaksOut => (Code::BreaksOut, "Too little is left round it to hold."),
            DoubtKind::TooLong => (Code::TooLong, "It prints, but is unhandy."),
            DoubtKind::LostPatch => (Code::LostPatch, "The tier is made of what is left of its footprint."),
        };
        let mend = d.mend.clone().map(|(words, measure, value)| (words, Mend::Measure(measure, value)));
        found.push(Finding { place: d.place, mend, ..plain(code, d.what.clone(), why) });
    }
    let layer = o.printer.layer;
    for t in o.stack.tiers.iter().filter(|t| t.op == Op::Add && t.top.mm() - t.bottom.mm() < layer - 1e-6) {
        let what = format!("{} is {:.3} mm high; a printed layer is {layer} mm", t.name, t.top.mm() - t.bottom.mm());
        found.push(plain(Code::UnderALayer, what, "The slicer leaves it out or makes it a whole layer."));
    }
}

/// A ridge that is lower by less than this (mm, a quarter of a usual layer) prints like the rest.
const HEIGHT_SLACK: f64 = 0.05;

/// Finishes wider than the shape: the tier ends in a ridge there, lower than it was meant to be.
fn finishes(o: &Object<'_>, found: &mut Vec<Finding>) {
    for t in o.stack.tiers.iter().filter(|t| !t.top_finish.is_plain()) {
        let (bottom, top) = (t.bottom.mm(), t.top.mm());
        let from = (top - t.top_finish.depth).max(bottom);
        let is_its = |r: &&[f64; 3]| {
            r[2] > from - 1e-3 && r[2] < top - HEIGHT_SLACK && t.footprint.winding(Point::new(r[0], r[1])) != 0
        };
        let mut ridges: Vec<&[f64; 3]> = o.solid.ridges.iter().filter(is_its).collect();
        ridges.sort_by(|a, b| a[2].total_cmp(&b[2]));
        let Some(lowest) = ridges.first() else { continue };
        let places = if ridges.len() == 1 { "one place".to_string() } else { format!("{} places", ridges.len()) };
        let what = format!(
            "The finish of '{}' goes {} mm in, more than the shape has at {places}: it ends in a ridge {:.2} mm high instead of {:.2} mm",
            t.name,
            t.top_finish.inset,
            lowest[2] - bottom,
            top - bottom
        );
        let around = 2.0;
        let place = Bounds {
            min: Point::new(lowest[0] - around, lowest[1] - around),
            max: Point::new(lowest[0] + around, lowest[1] + around),
        };
        let why = "The mesh is sound and prints; only that place is lower.";
        found.push(Finding { place: Some(place), ..plain(Code::FinishTooWide, what, why) });
    }
}

fn filaments(o: &Object<'_>, found: &mut Vec<Finding>) {
    for name in o.gone {
        found.push(Finding {
            mend: Some(("Use the usual filament".into(), Mend::DropFilament(name.clone()))),
            ..plain(
                Code::FilamentGone,
                format!("The filament '{name}' is no longer in the workshop"),
                "What was to be printed in it is shown and weighed as the usual filament.",
            )
        });
    }
    let parts = o.solid.parts.len();
    if parts > 1 && o.printer.filaments == 1 && colour_changes(o.stack).is_none() {
        found.push(plain(
            Code::ColoursInOneLayer,
            format!("{parts} filaments lie side by side in one layer; '{}' loads one", o.printer.name),
            "Changing by hand works from layer to layer only. Print it in one filament, give each colour heights of its own, or choose a printer that loads more.",
        ));
    } else if parts > o.printer.filaments as usize && o.printer.filaments > 1 {
        found.push(plain(
            Code::ColoursInOneLayer,
            format!("The object has {parts} filaments; '{}' loads {}", o.printer.name, o.printer.filaments),
            "Print it in fewer filaments, or change one of them by hand.",
        ));
    }
}

fn loose(o: &Object<'_>, found: &mut Vec<Finding>) {
    // A grip is meant to be a piece of its own.
    let grip = o.area(Role::Grip).bounds();
    let bodies = o.solid.skin.mesh().bodies();
    let bodies: Vec<Body> =
        bodies.into_iter().filter(|b| !grip.as_ref().is_some_and(|g| lies_in(&b.bounds, g))).collect();
    let Some((_, others)) = bodies.split_first() else { return };
    let details = Details::new(o);
    let (stamps, pieces): (Vec<&Body>, Vec<&Body>) = others.iter().partition(|b| details.hold(b));
    for b in stamps.iter().take(MOST_PIECES) {
        let patches = details.within(b);
        let aside = (!patches.is_empty()).then(|| ("Put it aside".to_string(), Mend::Aside(patches)));
        let mend = if o.has_own_bars { Some(("Find bars again".to_string(), Mend::TieAgain)) } else { aside };
        let what = format!("A stamp line of {:.1} × {:.1} mm is loose", b.bounds.width(), b.bounds.height());
        found.push(Finding {
            place: Some(b.bounds),
            mend,
            ..plain(Code::LoosePart, what, "Nothing holds it to the wall or the flange: it comes off the bed alone.")
        });
    }
    if stamps.len() > MOST_PIECES {
        let more = stamps.len() - MOST_PIECES;
        let all: Vec<Point<Px>> = stamps.iter().flat_map(|b| details.within(b)).collect();
        let what = format!("{more} more stamp lines are loose");
        found.push(Finding {
            mend: Some((format!("Put all {} aside", stamps.len()), Mend::Aside(all))),
            ..plain(Code::LoosePart, what, "Nothing holds them to the wall or the flange.")
        });
    }
    if !pieces.is_empty() {
        let place = pieces.iter().map(|b| b.bounds).reduce(Bounds::union);
        found.push(Finding {
            place,
            ..plain(
                Code::SeveralPieces,
                format!("The object comes in {} pieces", pieces.len() + 1),
                "They print side by side but do not hold together. Put patches aside, or raise the margin until they join.",
            )
        });
    }
    if let Some(place) = Bounds::of(&o.solid.touches) {
        let places = match o.solid.touches.len() {
            1 => "at one place".into(),
            n => format!("at {n} places"),
        };
        let why = "A touch holds nothing, so it was opened by a few thousandths of a millimetre. At Outline, bridge it or join the patches.";
        found.push(Finding {
            place: Some(place.grown(TOUCH_ROOM_MM)),
            ..plain(Code::TouchingPieces, format!("Pieces touch only in a point or a line, {places}"), why)
        });
    }
}

/// Boxes of the detail patches as printed, with their anchors.
struct Details {
    boxes: Vec<(Bounds<Mm>, Point<Px>)>,
    top: Option<f64>,
    /// Whether nothing but stamp lines ends at `top`.
    is_below_the_wall: bool,
}

/// Room round a touch in which it is shown, mm.
const TOUCH_ROOM_MM: f64 = 1.5;

/// Nodes are rounded to the grid and pinches opened: boxes are compared with this much slack, mm.
const BOX_SLACK: f64 = 0.01;

fn lies_in(inner: &Bounds<Mm>, outer: &Bounds<Mm>) -> bool {
    inner.min.x >= outer.min.x - BOX_SLACK
        && inner.max.x <= outer.max.x + BOX_SLACK
        && inner.min.y >= outer.min.y - BOX_SLACK
        && inner.max.y <= outer.max.y + BOX_SLACK
}

impl Details {
    fn new(o: &Object<'_>) -> Self {
        let printed = |b: Bounds<Mm>| {
            let flipped = Bounds { min: Point::new(-b.max.x, b.min.y), max: Point::new(-b.min.x, b.max.y) };
            if o.stack.is_mirrored { flipped } else { b }
        };
        let boxes = o
            .outline
            .details
            .iter()
            .filter_map(|(id, region)| Some((printed(region.bounds()?), o.outline.patches[id.index()].anchor)));
        let top = o.stack.tiers.iter().filter(|t| t.role == Role::Stamp).map(|t| t.top.mm()).next_back();
        let wall = o.measures.get("wall-height");
        Self { boxes: boxes.collect(), top, is_below_the_wall: top.is_some_and(|t| t < wall - 1e-6) }
    }

    /// Whether the body is made of stamp lines only: as high as they are, and where the wall is no higher, within the
    /// box of one of them.
    fn hold(&self, b: &Body) -> bool {
        self.top.is_some_and(|top| (b.z.1 - top).abs() < 1e-9)
            && (self.is_below_the_wall || self.boxes.iter().any(|(d, _)| lies_in(&b.bounds, d)))
    }

    /// Anchors of the patches that lie in the body's box.
    fn within(&self, b: &Body) -> Vec<Point<Px>> {
        self.boxes.iter().filter(|(d, _)| lies_in(d, &b.bounds)).map(|(_, anchor)| *anchor).collect()
    }
}

fn thin_lines(o: &Object<'_>, found: &mut Vec<Finding>) {
    let stamp = o.area(Role::Stamp);
    if stamp.is_empty() {
        return;
    }
    let half = THINNEST_LINE_MM / 2.0;
    // What an opening with a disc of the least width takes away is thinner than it.
    let opened = offset(&stamp, -half).and_then(|r| offset(&r, half + 0.01));
    let Ok(thin) = opened.and_then(|r| combine(&stamp, &r, BoolOp::TakeAway)) else { return };
    let mut places: Vec<(f64, Region)> = thin
        .rings()
        .iter()
        .map(|r| Region::new([r.clone()]))
        .map(|r| (r.area_mm2(), r))
        .filter(|(area, _)| *area > TIP_AREA_MM2)
        .collect();
    places.sort_by(|a, b| b.0.total_cmp(&a.0));
    let measure = if o.measures.choice("stamp-as") == "lines" { "stamp-line" } else { "stamp-least" };
    let thin = |what: String, place: Option<Bounds<Mm>>| Finding {
        place,
        mend: Some((format!("Make it {THINNEST_LINE_MM} mm"), Mend::Measure(measure, THINNEST_LINE_MM))),
        ..plain(
            Code::ThinLine,
            what,
            "A nozzle of 0.4 mm makes it of one weak line, or leaves it out. Thicken it, or make the object larger.",
        )
    };
    let one = format!("A stamp line is thinner than {THINNEST_LINE_MM} mm");
    found.extend(places.iter().take(MOST_THIN).map(|(_, place)| thin(one.clone(), place.bounds())));
    // One measure widens them all: three show what is meant.
    if let Some(more) = places.len().checked_sub(MOST_THIN).filter(|more| *more > 0) {
        let rest = places.iter().skip(MOST_THIN).filter_map(|(_, p)| p.bounds()).reduce(Bounds::union);
        let what = if more == 1 { "line is" } else { "lines are" };
        found.push(thin(format!("{more} more stamp {what} thinner than {THINNEST_LINE_MM} mm"), rest));
    }
}

fn before_the_outline(o: &Object<'_>, found: &mut Vec<Finding>) {
    if o.contours.specks > 0 {
        let many = if o.contours.specks == 1 { "speck was" } else { "specks were" };
        found.push(plain(
            Code::SpecksDropped,
            format!("{} {many} left out as too small", o.contours.specks),
            "Dust and compression noise look like this. At Artwork, lower the speck size to keep them.",
        ));
    }
    for doubt in &o.contours.doubts {
        let code = match doubt {
            Doubt::Reduced { .. } => Code::PictureReduced,
            Doubt::CutOff => Code::PictureCutOff,
            Doubt::FirstOfSeveral => Code::FirstPicture,
            Doubt::Text | Doubt::Image | Doubt::Effect | Doubt::Shading => Code::SimplerRule,
        };
        found.push(plain(code, doubt.words(), "The object follows what was read."));
    }
    found.extend(o.outline.astray.iter().map(astray));
    for lost in &o.outline.lost {
        let was = match lost.use_ {
            Use::Edge => "edge",
            Use::Detail => "detail",
            Use::Both => "edge and detail",
            Use::Aside => "put aside",
        };
        found.push(Finding {
            mend: Some(("Forget it".into(), Mend::Forget(*lost))),
            ..plain(
                Code::LostPatch,
                format!(
                    "A patch chosen as '{was}' at {:.0}, {:.0} px is no longer in the picture",
                    lost.spot.at[0], lost.spot.at[1]
                ),
                "The threshold or the picture has changed. The choice is kept in case the patch comes back.",
            )
        });
    }
}

/// An entry of the list of changes that does not do all it was meant to.
fn astray(a: &Astray) -> Finding {
    let stays = "It stays in the list at Outline; the rest of the list is applied.";
    let off = Some(("Switch it off".into(), Mend::SwitchOff(a.id)));
    let (code, what, why, mend) = if !a.lost.is_empty() {
        let why =
            "It stays in the list at Outline, where it can be given another patch; the rest of the list is applied.";
        (Code::LostChange, "A change of the outline has lost its patch".into(), why, off)
    } else if a.moved_on.is_some() {
        let stay = Some(("Stay with my nodes".into(), Mend::Stay(a.id)));
        let what = "The picture has moved on under a patch with nodes of its own".into();
        (
            Code::MovedOn,
            what,
            "The patch keeps its nodes. To follow the picture, switch 'own nodes' off at Outline.",
            stay,
        )
    } else if let Some(mm) = a.gap {
        let close = Some(("Join its ends".into(), Mend::Close(a.id)));
        let what = format!("A drawn line is open: its ends are {mm:.2} mm apart");
        (Code::OpenLine, what, "An open line without a width encloses nothing and makes nothing.", close)
    } else if !a.missing.is_empty() {
        let letters: Vec<String> = a.missing.iter().map(char::to_string).collect();
        let what = format!("A text's face does not have: {}", letters.join(" "));
        (Code::MissingLetter, what, "Their places stay empty. Choose another face for the text at Outline.", None)
    } else {
        (Code::NothingLeft, "A change of the outline leaves nothing of its patches".into(), stays, off)
    };
    Finding { mend, ..plain(code, what, why) }
}

#[cfg(test)]
mod tests;
