//! Whether a cup stands on a coaster.

use crate::round::{around, circle};
use crate::rule::{Fault, Rule, choose, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{Bounds, Mm, Point, Ring};
use kachel_solid::Layers;
use kachel_tiers::{RecipeKind, Relief, measures as m};

pub(super) const RULE: Rule = Rule { looks_at: "whether a cup stands on it", codes: &[CUP_ROCKS], run };

/// A cup rocks on the coaster, or tips over.
pub const CUP_ROCKS: Code = Code::poor("cup-rocks");

/// Diameters of the foot rings of cups and glasses, mm (common practice, no source).
const FEET_MM: [f64; 8] = [50.0, 55.0, 60.0, 65.0, 70.0, 75.0, 80.0, 85.0];
/// Places round a foot at which it is looked at.
const PLACES: usize = 180;
/// The widest gap between neighbouring places that hold a foot, as a share of the turn. With half a turn it stands on an edge
/// through its middle and tips; with 150 degrees the middle lies a quarter of its radius inside (common practice, no source).
const MOST_GAP: f64 = 150.0 / 360.0;
/// Half the width of a foot ring, mm.
const HALF_RING_MM: f64 = 1.0;
/// What is lower than the highest place under a foot by less than this, mm, holds it too.
const LEVEL_MM: f64 = 0.05;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if o.measures.kind() != RecipeKind::Coaster {
        return Ok(());
    }
    let (min, max) = o.solid.skin.mesh().extent();
    let at = |v: [f64; 3]| Point::new(v[0], v[1]);
    let (middle, across) = middle_of(&Bounds { min: at(min), max: at(max) });
    let heights = Heights::of(o.layers);
    let (steady, rocks) = feet_on(&heights, middle, across);
    let said = match (steady.is_empty(), rocks.is_empty()) {
        (true, true) => "smaller than a usual cup's foot: nothing to look at".into(),
        (false, true) => format!("steady, with a foot of {}", range(&steady)),
        (_, false) => format!("rocks, with a foot of {}", range(&rocks)),
    };
    found.looked("A cup on it", said, []);
    let Some(worst) = rocks.first() else { return Ok(()) };
    let what = format!("A cup with a foot of {} rocks on it", range(&rocks));
    let why = "Its foot lies on the highest places only, and those do not reach round its middle. Engrave the drawing, or give the \
               plate a rim as high.";
    let place =
        Place { outline: rocks.iter().map(|d| circle(middle, *d)).collect(), heights: None }.between(min[2], max[2]);
    found.push(
        Finding::new(CUP_ROCKS, what, why)
            .figure(Figure::mm("foot of the cup", *worst, None))
            .at(place)
            .mended_by(mends(o)),
    );
    Ok(())
}

fn mends(o: &Object<'_>) -> Vec<Mend> {
    let mut all = Vec::new();
    if o.measures.choice(m::RELIEF) == Some(Relief::Raised) {
        all.extend(choose(o, m::RELIEF, Relief::Engraved).map(|edit| Mend::by("Engrave the drawing", edit)));
        let high = held(o, m::RIM_HEIGHT, o.measures.get(m::RELIEF_DEPTH));
        let rim = o.measures.get(m::RIM_WIDTH);
        if rim > 0.0 {
            all.push(Mend::by(format!("Make the rim {high} mm high, as the drawing is"), set(m::RIM_HEIGHT, high)));
        }
    }
    all
}

/// A line in its box.
type Boxed = (Bounds<Mm>, Ring<Mm>);

/// How high the object reaches.
pub(crate) struct Heights {
    /// From the top down: how high a layer reaches, and its lines.
    down: Vec<(f64, Vec<Boxed>)>,
}

impl Heights {
    pub(crate) fn of(layers: &Layers) -> Self {
        let down = layers.runs().into_iter().rev().map(|(first, count)| {
            let rings = layers.all[first].area.rings_mm().into_iter();
            (layers.all[first + count - 1].top, rings.filter_map(|r| Some((r.bounds()?, r))).collect())
        });
        Self { down: down.collect() }
    }

    /// At a place, mm; 0 where there is nothing.
    fn at(&self, p: Point<Mm>) -> f64 {
        let holds =
            |(b, r): &&Boxed| b.min.x <= p.x && p.x <= b.max.x && b.min.y <= p.y && p.y <= b.max.y && r.contains(p);
        // Even and odd: holes lie in their pieces.
        self.down.iter().find(|(_, rings)| rings.iter().filter(holds).count() % 2 == 1).map_or(0.0, |l| l.0)
    }
}

/// `65 mm`, or from the first to the last: `50 to 85 mm`.
pub(crate) fn range(all: &[f64]) -> String {
    match all {
        [] => String::new(),
        [one] => format!("{one:.0} mm"),
        [first, .., last] => format!("{first:.0} to {last:.0} mm"),
    }
}

/// Where a cup stands on what lies in a box, and how far across that is at least, mm.
pub(crate) fn middle_of(b: &Bounds<Mm>) -> (Point<Mm>, f64) {
    let middle = Point::new(f64::midpoint(b.min.x, b.max.x), f64::midpoint(b.min.y, b.max.y));
    (middle, b.width().min(b.height()))
}

/// How high a foot lies, mm, and at which of the places round it something holds it.
pub(crate) fn held_at(heights: &Heights, middle: Point<Mm>, foot: f64) -> (f64, Vec<bool>) {
    let at = |k: usize| {
        let turn = k as f64 / PLACES as f64;
        let across = [-HALF_RING_MM, 0.0, HALF_RING_MM].map(|d| heights.at(around(middle, foot / 2.0 + d, turn)));
        across.into_iter().fold(0.0, f64::max)
    };
    let all: Vec<f64> = (0..PLACES).map(at).collect();
    let top = all.iter().copied().fold(0.0, f64::max);
    (top, all.into_iter().map(|h| h > top - LEVEL_MM).collect())
}

/// Feet of cups that stand steady on what is so far across, mm, and those that rock.
pub(crate) fn feet_on(heights: &Heights, middle: Point<Mm>, across: f64) -> (Vec<f64>, Vec<f64>) {
    let feet = FEET_MM.into_iter().filter(|d| d + 2.0 * HALF_RING_MM <= across);
    feet.partition(|d| stands(heights, middle, *d))
}

/// Whether a foot is held all round its middle.
fn stands(heights: &Heights, middle: Point<Mm>, foot: f64) -> bool {
    let (_, held) = held_at(heights, middle, foot);
    let hold: Vec<usize> = (0..PLACES).filter(|k| held[*k]).collect();
    let gap = |i: usize| (hold[(i + 1) % hold.len()] + PLACES - hold[i]) % PLACES;
    hold.len() > 2 && (0..hold.len()).all(|i| (gap(i) as f64) < MOST_GAP * PLACES as f64)
}
