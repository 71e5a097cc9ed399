use crate::{Ring, Space};
use rstar::primitives::GeomWithData;
use rstar::primitives::Rectangle;
use rstar::{AABB, RTree};

/// Whether the edges of these rings cross each other more often than this. Ends that meet do not count.
///
/// Lines as long as these, thrown at random over as large a place, cross (sum of lengths)^2 / (pi area) times (integral geometry, from
/// memory; Santalo, 'Integral Geometry and Geometric Probability', 1976). Where that is far less, nobody counts.
pub fn cross_more_than<'a, S: Space>(rings: impl IntoIterator<Item = &'a Ring<S>>, most: usize) -> bool {
    let edges: Vec<[[f64; 2]; 2]> =
        rings.into_iter().flat_map(Ring::edges).map(|(a, b)| [[a.x, a.y], [b.x, b.y]]).collect();
    let long: f64 = edges.iter().map(|[a, b]| (b[0] - a[0]).hypot(b[1] - a[1])).sum();
    let side = |k: usize| {
        let at = || edges.iter().map(|e| e[0][k]);
        at().fold(f64::NEG_INFINITY, f64::max) - at().fold(f64::INFINITY, f64::min)
    };
    let expected = long * long / (std::f64::consts::PI * side(0) * side(1)).max(1e-12);
    if edges.len() < 3 || expected < most as f64 / 4.0 {
        return false;
    }
    let boxed = |(n, [a, b]): (usize, &[[f64; 2]; 2])| GeomWithData::new(Rectangle::from_corners(*a, *b), n);
    let tree = RTree::bulk_load(edges.iter().enumerate().map(boxed).collect());
    let mut found = 0;
    for (n, [a, b]) in edges.iter().enumerate() {
        let near = tree.locate_in_envelope_intersecting(AABB::from_corners(*a, *b));
        found += near.filter(|other| other.data > n && do_cross(&edges[n], &edges[other.data])).count();
        if found > most {
            return true;
        }
    }
    false
}

/// Whether each of two edges has its ends on both sides of the other.
fn do_cross([a, b]: &[[f64; 2]; 2], [c, d]: &[[f64; 2]; 2]) -> bool {
    let side = |p: &[f64; 2], q: &[f64; 2], r: &[f64; 2]| (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
    side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Mm, Point};
    use kachel_oracle::Random;

    #[test]
    fn a_hatch_crosses_as_often_as_by_hand_and_a_wave_does_not() {
        // 100 thin boxes across 100 thin boxes: each pair crosses four times.
        let bar = |k: u32, is_up: bool| {
            let at = f64::from(k);
            let corners = [(at, -1.0), (at + 0.2, -1.0), (at + 0.2, 100.0), (at, 100.0)];
            Ring(corners.map(|(x, y)| if is_up { Point::<Mm>::new(x, y) } else { Point::new(y, x) }).to_vec())
        };
        let hatch: Vec<Ring<Mm>> = (0..100).flat_map(|k| [bar(k, true), bar(k, false)]).collect();
        assert!(cross_more_than(&hatch, 39_999) && !cross_more_than(&hatch, 40_000));
        let wave: Vec<Point<Mm>> =
            (0..60_000).map(f64::from).map(|k| Point::new(k * 0.001, 20.0 * (k * 0.01).sin())).collect();
        assert!(!cross_more_than(&[Ring(wave)], 100_000));
        assert!(!cross_more_than::<Mm>(&[], 0));
    }

    #[test]
    fn random_chords_are_as_many_as_integral_geometry_says() {
        let mut random = Random::new(5);
        let chords: Vec<Point<Mm>> =
            (0..2000).map(|_| Point::new(random.between(0.0, 10.0), random.between(0.0, 10.0))).collect();
        let ring = [Ring(chords)];
        // Two random chords between random points of a square cross with a chance of 0.2 to 0.25.
        assert!(cross_more_than(&ring, 400_000) && !cross_more_than(&ring, 500_000));
    }
}
