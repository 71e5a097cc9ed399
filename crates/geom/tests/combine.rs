//! Plane Booleans beside an independent library (clipper2-rust, after A. Johnson's Clipper2): areas of 2000 random pairs.

use clipper2_rust::{FillRule, Path64, Paths64, Point64, area_paths, difference_64, intersect_64, union_64};
use kachel_geom::{BoolOp, GRID_PER_MM, Mm, Point, Region, Ring, combine, combine_rings};
use kachel_oracle::{Random, for_all};
use std::f64::consts::PI;

/// A blob with up to so many nodes whose radii change by up to a share from one to the next, and perhaps a hole in it.
fn blob(random: &mut Random, nodes: usize, roughest: f64) -> Region {
    let (cx, cy) = (random.between(-15.0, 15.0), random.between(-15.0, 15.0));
    let n = 3 + random.below(nodes);
    let rough = random.between(0.0, roughest);
    let size = random.between(4.0, 25.0);
    let mut ring = |size: f64, is_hole: bool| -> Ring<Mm> {
        let at = |k: usize, r: f64| {
            let a = 2.0 * PI * k as f64 / n as f64 * if is_hole { -1.0 } else { 1.0 };
            Point::new(cx + r * a.cos(), cy + r * a.sin())
        };
        Ring((0..n).map(|k| at(k, size * (1.0 - rough * random.unit()))).collect())
    };
    let mut rings = vec![ring(size, false)];
    if n.is_multiple_of(2) {
        rings.push(ring(size * 0.4, true));
    }
    Region::from_mm(&rings).unwrap()
}

/// On a grid 16 times finer, so that the other library's rounding is not what is measured.
const FINER: i64 = 16;

fn theirs(r: &Region) -> Paths64 {
    let path = |ring: &Vec<kachel_geom::GridPoint>| -> Path64 {
        ring.iter().map(|p| Point64::new(i64::from(p.x()) * FINER, i64::from(p.y()) * FINER)).collect()
    };
    r.rings().iter().map(path).collect()
}

/// Areas of the three combinations by the other library, mm2.
fn truths(a: &Region, b: &Region) -> [(BoolOp, f64); 3] {
    let (p, q) = (theirs(a), theirs(b));
    let both: Paths64 = p.iter().chain(q.iter()).cloned().collect();
    let step = 1.0 / GRID_PER_MM / FINER as f64;
    let area = |paths: Paths64| area_paths(&paths) * step * step;
    [
        (BoolOp::Join, area(union_64(&both, &Paths64::new(), FillRule::NonZero))),
        (BoolOp::TakeAway, area(difference_64(&p, &q, FillRule::NonZero))),
        (BoolOp::Common, area(intersect_64(&p, &q, FillRule::NonZero))),
    ]
}

#[test]
fn pairs_agree_before_they_come_to_the_grid_and_move_by_no_more_than_its_rounding_after() {
    for_all(2000, |random| {
        let roughest = [0.25, 0.5][random.below(2)];
        let (a, b) = (blob(random, 300, roughest), blob(random, 300, roughest));
        let larger = a.area_mm2().max(b.area_mm2());
        for (op, truth) in truths(&a, &b) {
            let exact = combine_rings(&a.rings_mm(), &b.rings_mm(), op);
            let area: f64 = exact.iter().map(Ring::area).sum();
            assert!((area - truth).abs() <= 1e-6 * larger, "{op:?}: {area}, not {truth}");
            // A corner that comes to the grid moves by half a diagonal at the most, and with it the two edges at it.
            let border: f64 = exact.iter().map(Ring::perimeter).sum();
            let got = combine(&a, &b, op).unwrap().area_mm2();
            let most = 0.5 * 2f64.sqrt() / GRID_PER_MM * border;
            assert!((got - area).abs() <= most, "{op:?}: {got}, {area} off the grid, {most} may be");
        }
    });
}
