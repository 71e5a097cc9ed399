//! Pieces that hold together with nothing, or that only touch.

use crate::rule::{Fault, Rule, places, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::{OutlineEdit, TierEdit};
use kachel_geom::{Bounds, Mm, Point, Ring};
use kachel_outline::{Choice, Patch, Spot, Use};
use kachel_solid::Body;
use kachel_tiers::{Role, measures as m};
use kachel_words::{msg, size};

pub(super) const RULE: Rule =
    Rule { looks_at: "looks-at-loose", codes: &[LOOSE_PART, SEVERAL_PIECES, TOUCHING_PIECES], run };

/// A piece hangs together with nothing.
pub const LOOSE_PART: Code = Code::fault("loose-part");
/// The object comes in several pieces.
pub const SEVERAL_PIECES: Code = Code::fault("several-pieces");
/// Pieces touch in a point or along a line only.
pub const TOUCHING_PIECES: Code = Code::poor("touching-pieces");

/// Room round a touch in which it is shown, mm.
const TOUCH_ROOM_MM: f64 = 1.5;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    // A grip is meant to be a piece of its own.
    let grip = o.area(Role::Grip)?.bounds();
    let mut bodies = o.solid.bodies.iter().filter(|b| !grip.as_ref().is_some_and(|g| lies_in(&b.bounds, g)));
    if bodies.next().is_none() {
        return Ok(());
    }
    let details = Details::new(o);
    let (stamps, pieces): (Vec<&Body>, Vec<&Body>) = bodies.partition(|b| details.hold(b));
    if !stamps.is_empty() {
        loose_lines(o, &details, &stamps, &o.area(Role::Stamp)?.rings_mm(), found);
    }
    if !pieces.is_empty() {
        let n = pieces.len() + 1;
        found.push(
            Finding::new(SEVERAL_PIECES, msg!("several-pieces", n = n))
                .figure(Figure::count("number-of-pieces", n, Some(1)))
                .at_all(pieces.iter().map(|b| place(b, &[]))),
        );
    }
    if !o.solid.touches.is_empty() {
        let touch = |p: &Point<Mm>| Place::of_box(&Bounds { min: *p, max: *p }.grown(TOUCH_ROOM_MM));
        let what = msg!("touching-pieces", places = places(o.solid.touches.len()));
        found.push(
            Finding::new(TOUCHING_PIECES, what)
                .figure(Figure::count("number-of-touches", o.solid.touches.len(), Some(0)))
                .at_all(o.solid.touches.iter().map(touch)),
        );
    }
    Ok(())
}

/// Where a body is: the rings of what it is made of that lie in its box, or the box itself.
fn place(b: &Body, made_of: &[Ring<Mm>]) -> Place {
    let is_its = |r: &&Ring<Mm>| r.bounds().is_some_and(|own| lies_in(&own, &b.bounds));
    let outline: Vec<Ring<Mm>> = made_of.iter().filter(is_its).cloned().collect();
    let place = if outline.is_empty() { Place::of_box(&b.bounds) } else { Place { outline, heights: None } };
    place.between(b.z.0, b.z.1)
}

fn loose_lines(o: &Object<'_>, details: &Details<'_>, stamps: &[&Body], lines: &[Ring<Mm>], found: &mut Report) {
    let what = match stamps {
        [b] => msg!("loose-line", size = size([b.bounds.width(), b.bounds.height()]).decimals(1)),
        _ => msg!("loose-lines", n = stamps.len()),
    };
    let again = o.has_own_bars.then(|| Mend::by(msg!("find-bars-again"), TierEdit::SetBars { bars: None }));
    let usual = o.measures.spec(m::BAR_WIDTH).filter(|_| o.measures.get(m::BAR_WIDTH) == 0.0).map(|s| s.default);
    let tied = usual.map(|width| Mend::by(msg!("tie-with-bars"), set(m::BAR_WIDTH, width)));
    let patches: Vec<&Patch> = stamps.iter().flat_map(|b| details.within(b)).collect();
    let put_aside = (!patches.is_empty()).then(|| Mend::by(msg!("put-aside", n = stamps.len()), aside(patches)));
    found.push(
        Finding::new(LOOSE_PART, what)
            .figure(Figure::count("loose-stamp-lines", stamps.len(), Some(0)))
            .at_all(stamps.iter().map(|b| place(b, lines)))
            .mended(tied)
            .mended(again)
            .mended(put_aside),
    );
}

/// The edit that puts patches aside.
pub(super) fn aside<'o>(patches: impl IntoIterator<Item = &'o Patch>) -> OutlineEdit {
    let choice = |p: &Patch| Choice { spot: Spot::of(p), use_: Use::Aside };
    OutlineEdit::SetUses { choices: patches.into_iter().map(choice).collect() }
}

/// Boxes of the detail patches as printed.
struct Details<'o> {
    boxes: Vec<(Bounds<Mm>, &'o Patch)>,
    top: Option<f64>,
    /// Whether nothing but stamp lines ends at `top`.
    is_below_the_wall: bool,
}

/// Nodes are rounded to the grid and pinches opened: boxes are compared with this much slack, mm.
const BOX_SLACK: f64 = 0.01;

fn lies_in(inner: &Bounds<Mm>, outer: &Bounds<Mm>) -> bool {
    inner.min.x >= outer.min.x - BOX_SLACK
        && inner.max.x <= outer.max.x + BOX_SLACK
        && inner.min.y >= outer.min.y - BOX_SLACK
        && inner.max.y <= outer.max.y + BOX_SLACK
}

impl<'o> Details<'o> {
    fn new(o: &Object<'o>) -> Self {
        let printed = |b: Bounds<Mm>| if o.stack.is_mirrored { b.mirrored() } else { b };
        let boxes = o
            .outline
            .details
            .iter()
            .filter_map(|(id, region)| Some((printed(region.bounds()?), &o.outline.patches[id.index()])));
        let top = o.stack.tiers.iter().filter(|t| t.role == Role::Stamp).map(|t| t.top.mm()).next_back();
        let wall = o.measures.get(m::WALL_HEIGHT);
        Self { boxes: boxes.collect(), top, is_below_the_wall: top.is_some_and(|t| t < wall - 1e-6) }
    }

    /// Whether the body is made of stamp lines only: as high as they are, and where the wall is no higher, within the
    /// box of one of them.
    fn hold(&self, b: &Body) -> bool {
        self.top.is_some_and(|top| (b.z.1 - top).abs() < 1e-9)
            && (self.is_below_the_wall || self.boxes.iter().any(|(d, _)| lies_in(&b.bounds, d)))
    }

    /// The patches that lie in the body's box.
    fn within(&self, b: &Body) -> Vec<&'o Patch> {
        self.boxes.iter().filter(|(d, _)| lies_in(d, &b.bounds)).map(|(_, patch)| *patch).collect()
    }
}
