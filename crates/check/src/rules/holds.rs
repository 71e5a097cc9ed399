//! How it holds on the bed: the area of its first layer, what is tall on a small foot, and corners that lift.

use crate::rule::{Fault, Rule, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{Inside, Mm, Point, Region, Ring, interior_point, regions};
use kachel_solid::Layers;
use kachel_tiers::measures as m;
use kachel_words::{self as words, mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-holds", codes: &[SMALL_FOOT, CORNERS_LIFT], run };

/// It is tall on a small foot: a brim holds it.
pub const SMALL_FOOT: Code = Code::note("small-foot");
/// Sharp corners of a large object lift from the bed.
pub const CORNERS_LIFT: Code = Code::note("corners-lift");

/// A piece this many times as high as its foot is wide tips or comes loose (common practice, no source).
const SLENDER: f64 = 4.0;
/// Smaller feet come loose under anything that is higher than some layers, mm2 (common practice, no source) ...
const SMALL_MM2: f64 = 20.0;
/// ... which is from this height on, mm.
const TALL_MM: f64 = 4.0;
/// Corners of what is larger lift, mm (common practice, no source).
const LARGE_MM: f64 = 120.0;
/// Corners that turn by more are sharp, degrees; rounds turn little by little.
const SHARP_DEG: f64 = 50.0;
/// A radius that holds, mm (common practice, no source).
const ROUND_MM: f64 = 3.0;
/// Directions in which a foot is measured.
const DIRECTIONS: u32 = 36;
/// Feet that are looked at.
const MOST_FEET: usize = 400;

/// How high it stands over each place without a break, mm: a foot carries what stands over its middle.
fn tops(layers: &Layers, at: &[Point<Mm>]) -> Vec<f64> {
    let mut tops = vec![0.0; at.len()];
    let mut standing: Vec<usize> = (0..at.len()).collect();
    for (first, count) in layers.runs() {
        let inside = Inside::of(&layers.all[first].area);
        standing.retain(|k| inside.has(at[*k]));
        if standing.is_empty() {
            break;
        }
        standing.iter().for_each(|k| tops[*k] = layers.all[first + count - 1].top);
    }
    tops
}

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let Some(first) = o.layers.all.first() else { return Ok(()) };
    let feet = regions(&first.area)?;
    let area = first.area.area_mm2();
    found.looked(
        "looked-first-layer",
        msg!("just", value = words::area(area).decimals(0)),
        [Place::of_region(&first.area).between(0.0, first.top)],
    );
    let mut small: Vec<(f64, f64, Place)> = Vec::new();
    // Loose pieces of a cutter have a finding of their own.
    let is_loose = o.measures.kind().is_cutter() && feet.len() > 1;
    let mut middles = Vec::new();
    let mut looked = Vec::new();
    for foot in feet.iter().take(if is_loose { 0 } else { MOST_FEET }) {
        let rings = foot.rings_mm();
        let Some(at) = interior_point(&rings.iter().collect::<Vec<_>>()) else { continue };
        middles.push(at);
        looked.push((foot, narrowest(&rings[0])));
    }
    for ((foot, wide), top) in looked.into_iter().zip(tops(o.layers, &middles)) {
        let mm2 = foot.area_mm2();
        if top > SLENDER * wide || (mm2 < SMALL_MM2 && top >= TALL_MM) {
            small.push((top, mm2, Place::of_region(foot).between(0.0, top)));
        }
    }
    if let Some(worst) = small.iter().map(|s| s.1).reduce(f64::min) {
        let high = small.iter().map(|s| s.0).fold(0.0, f64::max);
        let foot = words::area(worst).decimals(1);
        let what = msg!("small-foot", n = small.len(), high = mm(high).decimals(1), foot = foot);
        found.push(
            Finding::new(SMALL_FOOT, what)
                .figure(Figure::mm("height-over-foot", high, None))
                .at_all(small.into_iter().map(|s| s.2)),
        );
    }
    corners(o, &first.area, first.top, found);
    Ok(())
}

/// The least distance of two parallel lines with the ring between them, mm.
fn narrowest(ring: &Ring<Mm>) -> f64 {
    let across = |k: u32| {
        let (sin, cos) = (std::f64::consts::PI * f64::from(k) / f64::from(DIRECTIONS)).sin_cos();
        let far = || ring.0.iter().map(|p| p.x * cos + p.y * sin);
        far().fold(f64::NEG_INFINITY, f64::max) - far().fold(f64::INFINITY, f64::min)
    };
    (0..DIRECTIONS).map(across).fold(f64::INFINITY, f64::min)
}

fn corners(o: &Object<'_>, foot: &Region, top: f64, found: &mut Report) {
    let size = foot.bounds().map_or(0.0, |b| b.width().max(b.height()));
    if size < LARGE_MM {
        return;
    }
    let rings = foot.rings_mm();
    let sharp = rings.iter().filter(|r| r.area() > 0.0).flat_map(|r| {
        let n = r.0.len();
        (0..n).filter_map(move |k| {
            let (a, b, c) = (r.0[(k + n - 1) % n], r.0[k], r.0[(k + 1) % n]);
            let (u, v) = ((b.x - a.x, b.y - a.y), (c.x - b.x, c.y - b.y));
            let turn = (u.0 * v.1 - u.1 * v.0).atan2(u.0 * v.0 + u.1 * v.1).to_degrees();
            (turn > SHARP_DEG).then_some(b)
        })
    });
    let places: Vec<Place> = sharp
        .map(|at| Place::of_box(&kachel_geom::Bounds { min: at, max: at }.grown(ROUND_MM)).between(0.0, top))
        .collect();
    if places.is_empty() {
        return;
    }
    let what = msg!("corners-lift", long = mm(size).decimals(0), n = places.len());
    let radius = held(o, m::CORNER, ROUND_MM);
    let round = (o.measures.has(m::CORNER) && o.measures.get(m::CORNER) < radius)
        .then(|| Mend::by(msg!("round-corners", radius = mm(radius)), set(m::CORNER, radius)));
    found.push(
        Finding::new(CORNERS_LIFT, what)
            .figure(Figure::mm("length-of-object", size, Some(LARGE_MM)))
            .at_all(places)
            .mended(round),
    );
}
