//! Whether a cup stands on a coaster.

use crate::round::{around, circle};
use crate::rule::{Fault, Rule, choose, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{Bounds, Mm, Point, Ring};
use kachel_solid::Layers;
use kachel_tiers::{RecipeKind, Relief, measures as m};
use kachel_words::{Value, list, mm, msg, span};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-cup", codes: &[CUP_ROCKS], run };

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
        (true, true) => msg!("looked-cup-small"),
        (false, true) => msg!("looked-cup-steady", feet = range(&steady)),
        (_, false) => msg!("looked-cup-rocks", feet = range(&rocks)),
    };
    found.looked("looked-cup", said, []);
    let Some(worst) = rocks.first() else { return Ok(()) };
    let place =
        Place { outline: rocks.iter().map(|d| circle(middle, *d)).collect(), heights: None }.between(min[2], max[2]);
    found.push(
        Finding::new(CUP_ROCKS, msg!("cup-rocks", feet = range(&rocks)))
            .figure(Figure::mm("foot-of-cup", *worst, None))
            .at(place)
            .mended_by(mends(o)),
    );
    Ok(())
}

fn mends(o: &Object<'_>) -> Vec<Mend> {
    let mut all = Vec::new();
    if o.measures.choice(m::RELIEF) == Some(Relief::Raised) {
        all.extend(choose(o, m::RELIEF, Relief::Engraved).map(|edit| Mend::by(msg!("engrave-drawing"), edit)));
        let high = held(o, m::RIM_HEIGHT, o.measures.get(m::RELIEF_DEPTH));
        let rim = o.measures.get(m::RIM_WIDTH);
        if rim > 0.0 {
            all.push(Mend::by(msg!("raise-rim", high = mm(high)), set(m::RIM_HEIGHT, high)));
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

/// `65 mm`, or from the first to the last of those that follow each other: `50 mm and 65 to 85 mm`.
pub(crate) fn range(all: &[f64]) -> Value {
    let runs = all.chunk_by(|a, b| b - a <= FEET_MM[1] - FEET_MM[0]);
    list(runs.filter_map(|run| match run {
        [first, .., last] => Some(span(*first, *last)),
        [one] => Some(mm(*one)),
        [] => None,
    }))
}

/// Where a cup stands on what lies in a box, and how far across that is at least, mm.
pub(crate) fn middle_of(b: &Bounds<Mm>) -> (Point<Mm>, f64) {
    let middle = Point::new(f64::midpoint(b.min.x, b.max.x), f64::midpoint(b.min.y, b.max.y));
    (middle, b.width().min(b.height()))
}

/// A foot on what is below it.
pub(crate) struct Footing {
    /// Its middle.
    middle: Point<Mm>,
    /// Its diameter, mm.
    foot: f64,
    /// How high what is below reaches, at places round it, mm.
    heights: Vec<f64>,
    /// How high the foot lies, mm.
    pub(crate) table: f64,
    /// At which of the places something holds it.
    pub(crate) held: Vec<bool>,
}

/// How a cup stands that rocks: it turns about a line until its foot touches again.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tilt {
    /// A place of the line, mm.
    pub at: Point<Mm>,
    /// How high that is, mm.
    pub height: f64,
    /// Direction of the line, degrees anticlockwise from the right; what lies on its right goes down.
    pub along: f64,
    /// By how much, degrees.
    pub degrees: f64,
}

impl Footing {
    /// The widest gap between places that hold it, as a number of places, and the place before it. `None` where nothing does.
    fn gap(&self) -> Option<(usize, usize)> {
        let hold: Vec<usize> = (0..PLACES).filter(|k| self.held[*k]).collect();
        let gap = |i: usize| {
            let to = hold[(i + 1) % hold.len()];
            if hold.len() == 1 { PLACES } else { (to + PLACES - hold[i]) % PLACES }
        };
        (0..hold.len()).map(|i| (gap(i), hold[i])).max_by_key(|g| g.0)
    }

    /// Whether it is held all round its middle.
    pub(crate) fn stands(&self) -> bool {
        self.gap().is_some_and(|(gap, _)| (gap as f64) < MOST_GAP * PLACES as f64)
    }

    /// How it stands where it is not: tipped into its widest gap.
    pub(crate) fn tilt(&self) -> Option<Tilt> {
        let (gap, before) = self.gap().filter(|_| !self.stands())?;
        let place = |k: f64| around(self.middle, self.foot / 2.0, k / PLACES as f64);
        let at = place(before as f64);
        // The line through both ends of the gap, which lies on its right; a single place has none, and it tips straight away.
        let half = gap as f64 / PLACES as f64 / 2.0;
        let along = before as f64 / PLACES as f64 * 360.0 + half * 360.0 + 90.0;
        let (sin, cos) = along.to_radians().sin_cos();
        let reach = |k: usize| {
            let p = place((before + k) as f64);
            let aside = (p.x - at.x) * sin - (p.y - at.y) * cos;
            let drop = self.table - self.heights[(before + k) % PLACES];
            (aside > HALF_RING_MM).then(|| drop.atan2(aside).to_degrees())
        };
        let degrees = (1..gap).filter_map(reach).reduce(f64::min)?;
        Some(Tilt { at, height: self.table, along, degrees })
    }
}

/// A foot of a diameter on what is below it.
pub(crate) fn footing(heights: &Heights, middle: Point<Mm>, foot: f64) -> Footing {
    let at = |k: usize| {
        let turn = k as f64 / PLACES as f64;
        let across = [-HALF_RING_MM, 0.0, HALF_RING_MM].map(|d| heights.at(around(middle, foot / 2.0 + d, turn)));
        across.into_iter().fold(0.0, f64::max)
    };
    let all: Vec<f64> = (0..PLACES).map(at).collect();
    let table = all.iter().copied().fold(0.0, f64::max);
    let held = all.iter().map(|h| *h > table - LEVEL_MM).collect();
    Footing { middle, foot, heights: all, table, held }
}

/// Feet of cups that stand steady on what is so far across, mm, and those that rock.
pub(crate) fn feet_on(heights: &Heights, middle: Point<Mm>, across: f64) -> (Vec<f64>, Vec<f64>) {
    let feet = FEET_MM.into_iter().filter(|d| d + 2.0 * HALF_RING_MM <= across);
    feet.partition(|d| footing(heights, middle, *d).stands())
}

#[cfg(test)]
mod tests {
    use super::range;

    #[test]
    fn feet_are_told_run_by_run() {
        assert_eq!(range(&[50.0, 65.0, 70.0, 75.0]).to_string(), "50 mm and 65 to 75 mm");
        assert_eq!(
            (range(&[55.0, 60.0]).to_string(), range(&[85.0]).to_string()),
            ("55 to 60 mm".into(), "85 mm".into())
        );
        assert_eq!(range(&[]).to_string(), "");
    }
}
