//! How wide an area is, and how wide its gaps are, place by place.

use crate::near::NearEdges;
use crate::{Mm, Point, Region, Ring};
use rayon::prelude::*;
use std::f64::consts::TAU;

/// How wide an area is at a place of its border: across the largest disc in it that touches the border there (the shrinking ball
/// of J. Ma, S. W. Bae and S. Choi, '3D medial axis point approximation using nearest neighbors and the normal field', 2012).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Width {
    /// A place on the border, mm.
    pub at: Point<Mm>,
    /// Where the disc touches the border again, mm.
    pub opposite: Point<Mm>,
    /// Across the disc, mm.
    pub across: f64,
    /// How much of the border the place stands for, mm; 0 for a corner that turns outwards.
    pub along: f64,
}

impl Width {
    /// The middle of the disc's two touching places.
    pub fn middle(&self) -> Point<Mm> {
        Point::new(f64::midpoint(self.at.x, self.opposite.x), f64::midpoint(self.at.y, self.opposite.y))
    }
}

/// The disc touches two sides that run more apart than this, degrees, on the way to a corner's tip: that is no width. Sides of a
/// wedge of the angle a turn a disc's touching places by 180 - a.
const LEAST_APART_DEG: f64 = 168.0;
/// Steps of the shrinking; each halves what is missing or better, and most places need four.
const STEPS: u32 = 40;
/// The disc is as large as it gets, mm.
const NEAR_MM: f64 = 1e-4;
/// A corner turns outwards from this on, radians.
const LEAST_TURN: f64 = 0.35;

/// Where the area is narrower than `most` mm, looked at each `step` mm along its border and in its outward corners. Tips of wedges
/// have no width of their own, and are left out.
pub fn widths(area: &Region, step: f64, most: f64) -> Vec<Width> {
    measured(area, step, most, 1.0).0
}

/// The same, and whether anywhere along the border there is room for a disc of `most` mm.
pub fn widths_and_room(area: &Region, step: f64, most: f64) -> (Vec<Width>, bool) {
    measured(area, step, most, 1.0)
}

/// The same of the gaps between the area's pieces and in its bays.
pub fn gaps(area: &Region, step: f64, most: f64) -> Vec<Width> {
    measured(area, step, most, -1.0).0
}

/// A corner's tip is no thin place where its sides run apart by more than this, degrees. A disc between the sides of a corner of the
/// angle a touches them 180 - a apart, as seen from its middle.
const WIDE_TIP_DEG: f64 = 70.0;
/// What is found at some places of a border holds between them, too, with this factor; the places lie [`CLOSE`] widths apart.
const SPARE: f64 = 1.25;
const CLOSE: f64 = 0.25;
/// At corners that turn outwards discs grow in directions so far apart, radians.
const FAN: f64 = 0.7;

/// Places of the border at which an area may be thinner than `width` mm, tips of wide corners aside; it surely is not where none is
/// near. `rings` are the area's.
pub(crate) fn maybe_thin(rings: &[Ring<Mm>], width: f64) -> Vec<Point<Mm>> {
    let edges = NearEdges::of(rings);
    let of_ring = |ring: &Ring<Mm>| {
        let starts = starts(ring, width * CLOSE, 1.0, FAN);
        let discs: Vec<Shrunk> =
            starts.par_iter().with_min_len(AT_ONCE).map(|s| disc_at(&edges, s, width * SPARE)).collect();
        // A piece that is smaller than the disc has corners only.
        let is_small = ring.area() > 0.0 && !discs.iter().any(|d| matches!(d, Shrunk::Never));
        let is_thin = |d: &Shrunk| match d {
            Shrunk::Never => false,
            Shrunk::To(d) => d.apart_deg >= 180.0 - WIDE_TIP_DEG,
            Shrunk::Lost => true,
        };
        let thin = starts.iter().zip(&discs).filter(|(_, d)| is_small || is_thin(d)).map(|(s, _)| s.at);
        // A speck may be smaller than a step.
        ring.0.first().copied().filter(|_| is_small).into_iter().chain(thin).collect::<Vec<_>>()
    };
    rings.iter().flat_map(of_ring).collect()
}

/// Middle lines of what is thinner than `width` mm between the edges of `thin`; corners have none. Along them the largest discs in the
/// area that touch its border are smaller than that.
pub(crate) fn thin_lines(rings: &[Ring<Mm>], thin: &NearEdges, width: f64) -> Vec<Vec<Point<Mm>>> {
    let edges = NearEdges::of(rings);
    let long: f64 = rings.iter().map(Ring::perimeter).sum();
    let step = (width * DENSE).max(long / MOST_DISCS);
    let mut lines: Vec<Vec<Point<Mm>>> = Vec::new();
    for ring in rings {
        let starts = starts(ring, step, 1.0, TAU);
        let all: Vec<Inward> =
            starts.par_iter().with_min_len(AT_ONCE).map(|s| inward(&edges, thin, s, width)).collect();
        let mut line: Vec<Point<Mm>> = Vec::new();
        // Round once more to where the first begins.
        for found in all.iter().chain(all.first()) {
            match *found {
                Inward::Corner => {}
                Inward::Thin(p) if line.last().is_none_or(|l| l.distance(p) < JUMP * step) => line.push(p),
                Inward::Thin(p) => lines.push(std::mem::replace(&mut line, vec![p])),
                Inward::Wide => lines.push(std::mem::take(&mut line)),
            }
        }
        lines.push(line);
    }
    lines.retain(|line| !line.is_empty());
    lines
}

/// How far apart discs are looked at, widths; and how far apart the middles of those beside each other may be, such steps.
const DENSE: f64 = 0.1;
const JUMP: f64 = 5.0;
/// So many discs are looked at, or a few more: 100 m of a border for a width of 1 mm, more than lies on any bed.
const MOST_DISCS: f64 = 1e6;
/// What lies so near to the edges of something runs along it, mm.
const BESIDE_MM: f64 = 0.03;
/// As [`WIDE_TIP_DEG`], of a corner of 65 degrees: the three sides of a small triangle have a middle, too.
const LEAST_OVER_THIN_DEG: f64 = 115.0;
/// A disc of fewer widths stands in a corner, whatever it touches.
const LEAST_RADIUS: f64 = 0.02;

/// What lies inward from a place of the border.
enum Inward {
    /// Nothing thin.
    Wide,
    /// A corner, or a bump of the border: a line goes on behind it.
    Corner,
    /// The middle of something thin.
    Thin(Point<Mm>),
}

fn inward(edges: &NearEdges, thin: &NearEdges, start: &Start, width: f64) -> Inward {
    if thin.nearest(start.at, BESIDE_MM).is_none() {
        return Inward::Wide;
    }
    let disc = match disc_at(edges, start, width) {
        Shrunk::Never => return Inward::Wide,
        Shrunk::To(disc) if disc.radius > width * LEAST_RADIUS && disc.apart_deg >= LEAST_OVER_THIN_DEG => disc,
        _ => return Inward::Corner,
    };
    if thin.nearest(disc.opposite, BESIDE_MM).is_none() {
        return Inward::Corner;
    }
    let (nx, ny) = start.normal;
    Inward::Thin(Point::new(start.at.x + disc.radius * nx, start.at.y + disc.radius * ny))
}

/// A place of the border, from which a disc grows.
struct Start {
    at: Point<Mm>,
    /// Which way it grows: a unit vector.
    normal: (f64, f64),
    /// How much of the border it stands for, mm.
    along: f64,
}

/// `side` is 1 to the left of the border, where the area lies, and -1 to the right.
fn measured(area: &Region, step: f64, most: f64, side: f64) -> (Vec<Width>, bool) {
    let rings = area.rings_mm();
    let edges = NearEdges::of(&rings);
    let starts: Vec<Start> = rings.iter().flat_map(|ring| starts(ring, step, side, TAU)).collect();
    // Each place is measured by itself, on as many threads as there are cores.
    let found: Vec<Found> = starts.par_iter().with_min_len(AT_ONCE).map(|s| width_at(&edges, s, most)).collect();
    let has_room = found.iter().zip(&starts).any(|(f, s)| matches!(f, Found::Room) && s.along > 0.0);
    let widths = found.into_iter().filter_map(|f| if let Found::Width(w) = f { Some(w) } else { None });
    (widths.collect(), has_room)
}

/// Places that a thread measures at least, so that small areas stay on one.
const AT_ONCE: usize = 128;

/// Places along a ring, and its corners that turn outwards: there discs grow in the middle direction, and in others `fan` radians apart.
fn starts(ring: &Ring<Mm>, step: f64, side: f64, fan: f64) -> Vec<Start> {
    let n = ring.0.len();
    let way = |k: usize| {
        let (a, b) = (ring.0[k % n], ring.0[(k + 1) % n]);
        let long = a.distance(b);
        ((b.x - a.x) / long, (b.y - a.y) / long, long)
    };
    let mut all = Vec::new();
    let mut left = step / 2.0;
    for k in 0..n {
        let (a, (dx, dy, long)) = (ring.0[k], way(k));
        if long <= 0.0 {
            continue;
        }
        let normal = (-dy * side, dx * side);
        while left < long {
            all.push(Start { at: Point::new(a.x + left * dx, a.y + left * dy), normal, along: step });
            left += step;
        }
        left -= long;
        // From a corner that turns outwards discs of all directions between its sides' can start.
        let (ex, ey, _) = way(k + 1);
        let turn = side * (dx * ey - dy * ex).atan2(dx * ex + dy * ey);
        if turn < -LEAST_TURN {
            let (mx, my) = (-(dy + ey) * side, (dx + ex) * side);
            let long = mx.hypot(my);
            if long > 1e-6 {
                let (mx, my) = (mx / long, my / long);
                // As many on both sides of the middle one.
                #[expect(clippy::cast_possible_truncation, reason = "a turn is less than half a circle")]
                let aside = (-turn / 2.0 / fan) as i32;
                for j in -aside..=aside {
                    let (sin, cos) = (f64::from(j) * fan).sin_cos();
                    let normal = (mx * cos - my * sin, mx * sin + my * cos);
                    all.push(Start { at: ring.0[(k + 1) % n], normal, along: 0.0 });
                }
            }
        }
    }
    all
}

/// What is found at a place of the border.
enum Found {
    /// The area is as narrow as this.
    Width(Width),
    /// The area is wider than was asked for.
    Room,
    /// The place lies in the tip of a wedge, which has no width.
    Tip,
}

/// The largest disc that touches the border at a place.
struct Disc {
    radius: f64,
    /// Where it touches the border again.
    opposite: Point<Mm>,
    /// How far apart its two touching places are, seen from its middle, degrees.
    apart_deg: f64,
}

/// What becomes of a disc that is as large as anybody asks for.
enum Shrunk {
    /// It has room.
    Never,
    /// It shrank to this.
    To(Disc),
    /// It has no size: the border lies behind it.
    Lost,
}

fn disc_at(edges: &NearEdges, start: &Start, most: f64) -> Shrunk {
    let (at, (nx, ny)) = (start.at, start.normal);
    let mut r = most / 2.0;
    let mut opposite = None;
    for _ in 0..STEPS {
        let centre = Point::<Mm>::new(at.x + r * nx, at.y + r * ny);
        let Some(near) = edges.nearest(centre, r - NEAR_MM) else { break };
        let (x, y) = (near.x - at.x, near.y - at.y);
        let toward = x * nx + y * ny;
        if toward <= 0.0 {
            return Shrunk::Lost;
        }
        opposite = Some(near);
        r = (x * x + y * y) / (2.0 * toward);
    }
    let Some(opposite) = opposite else { return Shrunk::Never };
    let (x, y) = (opposite.x - at.x, opposite.y - at.y);
    let half = (((x * x + y * y).sqrt() / 2.0) / r).clamp(-1.0, 1.0).asin();
    Shrunk::To(Disc { radius: r, opposite, apart_deg: 2.0 * half.to_degrees() })
}

fn width_at(edges: &NearEdges, start: &Start, most: f64) -> Found {
    match disc_at(edges, start, most) {
        Shrunk::Never => Found::Room,
        Shrunk::To(d) if d.apart_deg >= LEAST_APART_DEG => {
            Found::Width(Width { at: start.at, opposite: d.opposite, across: 2.0 * d.radius, along: start.along })
        }
        _ => Found::Tip,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn region(rings: &[Vec<(f64, f64)>]) -> Region {
        let rings: Vec<Ring<Mm>> =
            rings.iter().map(|r| Ring(r.iter().map(|p| Point::new(p.0, p.1)).collect())).collect();
        Region::from_mm(&rings).unwrap()
    }

    fn circle(r: f64, x: f64) -> Vec<(f64, f64)> {
        (0..720).map(|k| TAU * f64::from(k) / 720.0).map(|a| (x + r * a.cos(), r * a.sin())).collect()
    }

    fn least(all: &[Width]) -> f64 {
        all.iter().map(|w| w.across).fold(f64::INFINITY, f64::min)
    }

    #[test]
    fn a_strip_is_as_wide_as_it_is_and_its_corners_have_no_width() {
        let strip = region(&[vec![(0.0, 0.0), (20.0, 0.0), (20.0, 0.6), (0.0, 0.6)]]);
        let all = widths(&strip, 0.2, 2.0);
        assert!(all.iter().all(|w| (w.across - 0.6).abs() < 1e-3), "{:?}", all[0]);
        let long: f64 = all.iter().map(|w| w.along).sum();
        assert!((long - 2.0 * 20.0).abs() < 2.0, "both its sides: {long}");
        assert_eq!(widths(&strip, 0.2, 0.5), []);
    }

    #[test]
    fn an_annulus_out_of_the_middle_is_thinnest_where_its_circles_are_nearest() {
        let mut hole = circle(8.0, 1.2);
        hole.reverse();
        let ring = region(&[circle(10.0, 0.0), hole]);
        let thin = widths(&ring, 0.1, 3.0);
        let w = thin.iter().min_by(|a, b| a.across.total_cmp(&b.across)).unwrap();
        assert!((w.across - 0.8).abs() < 0.005 && w.middle().x > 9.0 && w.middle().y.abs() < 1.0, "{w:?}");
    }

    #[test]
    fn there_is_room_where_a_disc_fits() {
        // A strip that ends in a head: the disc fits into the head only.
        let spoon = region(&[vec![
            (0.0, 0.0),
            (20.0, 0.0),
            (20.0, -2.0),
            (24.0, -2.0),
            (24.0, 2.6),
            (20.0, 2.6),
            (20.0, 0.6),
            (0.0, 0.6),
        ]]);
        let (narrow, has_room) = widths_and_room(&spoon, 0.2, 2.0);
        assert!(has_room && least(&narrow) < 0.61);
        assert!(!widths_and_room(&spoon, 0.2, 6.0).1, "the head is 4 mm wide");
        let strip = region(&[vec![(0.0, 0.0), (20.0, 0.0), (20.0, 0.6), (0.0, 0.6)]]);
        assert!(!widths_and_room(&strip, 0.2, 0.7).1 && widths_and_room(&strip, 0.2, 0.5).1);
    }

    #[test]
    fn a_wedge_and_a_star_have_tips_but_no_thin_places() {
        let wedge = region(&[vec![(0.0, 0.0), (12.0, -2.0), (12.0, 2.0)]]);
        assert_eq!(widths(&wedge, 0.1, 2.0), []);
        let star = (0..10).map(|k| (f64::from(k) * TAU / 10.0, if k % 2 == 0 { 10.0 } else { 4.0 }));
        let star = region(&[star.map(|(a, r)| (r * a.cos(), r * a.sin())).collect()]);
        assert_eq!(widths(&star, 0.1, 2.0), []);
    }

    #[test]
    fn a_neck_between_two_corners_and_the_gap_of_a_slot_are_measured() {
        // An hourglass, 0.3 mm at its waist.
        let glass = region(&[vec![(-5.0, -5.0), (5.0, -5.0), (0.15, 0.0), (5.0, 5.0), (-5.0, 5.0), (-0.15, 0.0)]]);
        assert!((least(&widths(&glass, 0.2, 2.0)) - 0.3).abs() < 1e-3);
        let slot = region(&[vec![
            (0.0, 0.0),
            (10.0, 0.0),
            (10.0, 4.0),
            (5.35, 4.0),
            (5.35, 1.0),
            (5.0, 1.0),
            (5.0, 4.0),
            (0.0, 4.0),
        ]]);
        assert!((least(&gaps(&slot, 0.1, 2.0)) - 0.35).abs() < 1e-3);
        assert_eq!(widths(&slot, 0.1, 0.9), []);
    }
}
