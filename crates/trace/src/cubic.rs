//! Cubics through points: least squares with the ends fixed and, at smooth joints, their directions too.

use kurbo::{CubicBez, ParamCurve, ParamCurveDeriv, Point, Vec2};

/// An end of a cubic: where it is and, at a smooth joint, its direction along the curve.
#[derive(Clone, Copy, Debug)]
pub(crate) struct End {
    pub(crate) at: Point,
    pub(crate) direction: Option<Vec2>,
}

/// Points of a stretch that are looked at.
const SAMPLES: usize = 24;
/// Rounds of least squares and of moving each point's parameter to its foot.
const ROUNDS: usize = 7;

/// The cubic nearest to the points and its largest distance from those looked at. `enough` ends the search early.
pub(crate) fn fit(points: &[Point], start: End, end: End, enough: f64) -> (CubicBez, f64) {
    let chord = end.at - start.at;
    let third =
        |e: End, sign: f64| e.direction.unwrap_or(chord * sign / chord.hypot().max(1e-9)) * chord.hypot() / 3.0 * sign;
    let plain = CubicBez::new(start.at, start.at + third(start, 1.0), end.at - third(end, 1.0), end.at);
    let stride = points.len().div_ceil(SAMPLES).max(1);
    let sampled: Vec<Point> = points.iter().step_by(stride).copied().collect();
    if sampled.is_empty() {
        return (plain, 0.0);
    }
    let mut params = chord_lengths(&sampled, start.at, end.at);
    let mut best = (plain, f64::INFINITY);
    for round in 0..ROUNDS {
        let curve = solve(&sampled, &params, start, end);
        let error = reparametrise(&curve, &sampled, &mut params);
        let is_stuck = round > 1 && error > best.1 * 0.96;
        if error < best.1 {
            best = (curve, error);
        }
        // What is far off after a round or two never comes near.
        let hopeless = [30.0, 8.0, 4.0, 2.5, 1.7];
        if is_stuck || best.1 <= enough * 0.7 || hopeless.get(round).is_some_and(|h| best.1 > enough * h) {
            break;
        }
    }
    let (first, last) = (sampled[0], sampled[sampled.len() - 1]);
    // A loose end from which the curve strays runs straight on from the points.
    let held = |e: End, a: Point, b: Point, at: [f64; 2]| {
        let is_off = e.direction.is_none() && a.distance(b) > 1e-9 && strays(&best.0, a, b, at, enough);
        is_off.then(|| End { direction: Some((b - a).normalize()), ..e })
    };
    let starts = held(start, start.at, first, [0.0, params[0]]);
    let ends = held(end, last, end.at, [params[params.len() - 1], 1.0]);
    if starts.is_none() && ends.is_none() {
        return best;
    }
    fit(points, starts.unwrap_or(start), ends.unwrap_or(end), enough)
}

/// Whether a curve leaves the way from its last point to its end: beside a corner there are no points that would hold it.
fn strays(c: &CubicBez, a: Point, b: Point, [from, to]: [f64; 2], enough: f64) -> bool {
    let (way, gap) = (b - a, a.distance(b));
    (1..6).map(|k| c.eval(from + (to - from) * f64::from(k) / 6.0)).any(|p| {
        let along = (p - a).dot(way) / way.hypot2().max(1e-12);
        // It may bow, but not run past its ends.
        let most = enough + gap * if (0.0..=1.0).contains(&along) { 0.35 } else { 0.08 };
        p.distance(a + way * along.clamp(0.0, 1.0)) > most
    })
}

fn chord_lengths(points: &[Point], start: Point, end: Point) -> Vec<f64> {
    let mut sum = 0.0;
    let mut at = start;
    let mut all: Vec<f64> = Vec::with_capacity(points.len());
    for p in points {
        sum += at.distance(*p);
        at = *p;
        all.push(sum);
    }
    sum += at.distance(end);
    all.iter().map(|s| s / sum.max(1e-9)).collect()
}

/// Moves each parameter towards the foot of its point by Newton's method; the largest distance.
fn reparametrise(c: &CubicBez, points: &[Point], params: &mut [f64]) -> f64 {
    let first = c.deriv();
    let second = first.deriv();
    let mut worst = 0.0f64;
    for (p, t) in points.iter().zip(params) {
        let off = c.eval(*t) - *p;
        let (d1, d2) = (first.eval(*t).to_vec2(), second.eval(*t).to_vec2());
        let slope = d1.hypot2() + off.dot(d2);
        if slope > 1e-9 {
            *t = (*t - off.dot(d1) / slope).clamp(0.0, 1.0);
        }
        worst = worst.max((c.eval(*t) - *p).hypot2());
    }
    worst.sqrt()
}

/// Least squares for the control points: along a fixed direction, or free.
fn solve(points: &[Point], params: &[f64], start: End, end: End) -> CubicBez {
    let (mut s11, mut s12, mut s22) = (0.0, 0.0, 0.0);
    let (mut r1, mut r2) = (Vec2::ZERO, Vec2::ZERO);
    for (p, &t) in points.iter().zip(params) {
        let u = 1.0 - t;
        let (b0, b1, b2, b3) = (u * u * u, 3.0 * u * u * t, 3.0 * u * t * t, t * t * t);
        let rest = *p - (start.at.to_vec2() * (b0 + b1) + end.at.to_vec2() * (b2 + b3)).to_point();
        s11 += b1 * b1;
        s12 += b1 * b2;
        s22 += b2 * b2;
        r1 += rest * b1;
        r2 += rest * b2;
    }
    let chord = (end.at - start.at).hypot();
    let least = (chord * 0.02).max(1e-6);
    let most = chord * 2.5 + 1.0;
    // Offsets of the control points from their ends; the second one runs backwards.
    let (v, w) = match (start.direction, end.direction.map(|d| -d)) {
        (None, None) => {
            let det = s11 * s22 - s12 * s12;
            if det.abs() < 1e-12 {
                ((end.at - start.at) / 3.0, (start.at - end.at) / 3.0)
            } else {
                ((r1 * s22 - r2 * s12) / det, (r2 * s11 - r1 * s12) / det)
            }
        }
        (Some(d), Some(e)) => {
            let (a12, q1, q2) = (s12 * d.dot(e), r1.dot(d), r2.dot(e));
            let det = s11 * s22 - a12 * a12;
            let (mut x, mut y) = (chord / 3.0, chord / 3.0);
            if det.abs() > 1e-12 {
                (x, y) = ((q1 * s22 - q2 * a12) / det, (q2 * s11 - q1 * a12) / det);
            }
            // Where one handle would turn round, the other is fitted alone.
            if x < least {
                x = least;
                y = (q2 - a12 * x) / s22.max(1e-12);
            } else if y < least {
                y = least;
                x = (q1 - a12 * y) / s11.max(1e-12);
            }
            (d * x.clamp(least, most), e * y.clamp(least, most))
        }
        (Some(d), None) => one_free(d, [s11, s12, s22], [r1, r2], least, most),
        (None, Some(e)) => {
            let (w, v) = one_free(e, [s22, s12, s11], [r2, r1], least, most);
            (v, w)
        }
    };
    CubicBez::new(start.at, start.at + v, end.at + w, end.at)
}

/// One control point along `d`, the other free.
fn one_free(d: Vec2, [s11, s12, s22]: [f64; 3], [r1, r2]: [Vec2; 2], least: f64, most: f64) -> (Vec2, Vec2) {
    // The free one is w = (r2 - s12 d x) / s22; what is left is one unknown.
    let s22 = s22.max(1e-12);
    let det = s11 - s12 * s12 / s22;
    let x = if det.abs() > 1e-12 { (r1.dot(d) - r2.dot(d) * s12 / s22) / det } else { least };
    let v = d * x.clamp(least, most);
    (v, (r2 - v * s12) / s22)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::f64::consts::{FRAC_PI_2, PI};

    fn free(at: Point) -> End {
        End { at, direction: None }
    }

    /// Points of an arc of radius 40 about the origin, from one angle to another, ends included.
    fn arc(from: f64, to: f64, n: usize) -> Vec<Point> {
        let at = |k: usize| (from + (to - from) * k as f64 / (n - 1) as f64).sin_cos();
        (0..n).map(at).map(|(sin, cos)| Point::new(40.0 * cos, 40.0 * sin)).collect()
    }

    #[test]
    fn a_quarter_circle_is_one_cubic_within_what_is_asked_for() {
        // The best cubic misses a quarter of a unit circle by about 2.7e-4 (M. Goldapp, 'Approximation of circular arcs by
        // cubic polynomials', 1991, from memory): 0.011 of 40.
        let points = arc(0.0, FRAC_PI_2, 40);
        let (ends, inner) = ([points[0], points[39]], &points[1..39]);
        for direction in [true, false] {
            let end = |k: usize, d: Vec2| End { at: ends[k], direction: direction.then_some(d) };
            let (c, error) = fit(inner, end(0, Vec2::new(0.0, 1.0)), end(1, Vec2::new(-1.0, 0.0)), 0.05);
            let off = |k: i32| (c.eval(f64::from(k) / 50.0).to_vec2().hypot() - 40.0).abs();
            let worst = (0..=50).map(off).fold(0.0, f64::max);
            assert!(error <= 0.05 && worst <= 0.06, "{error}, {worst}");
        }
    }

    #[test]
    fn points_of_a_cubic_are_followed_as_nearly_as_is_asked() {
        let truth = CubicBez::new((0.0, 0.0), (10.0, 30.0), (40.0, -10.0), (50.0, 20.0));
        let points: Vec<Point> = (1..30).map(|k| truth.eval(f64::from(k) / 30.0)).collect();
        for enough in [0.5, 0.3] {
            let (c, error) = fit(&points, free(truth.p0), free(truth.p3), enough);
            assert!(error <= enough, "{error} of {enough}: {c:?}");
        }
    }

    #[test]
    fn a_curve_does_not_run_past_a_corner_that_no_points_lead_to() {
        // An arc whose last piece was rounded off: between its last point and the corner there is a gap.
        for gap in [3.0, 6.0, 9.0] {
            let points = arc(-PI * 0.6, 0.0, 50);
            let corner = Point::new(points[49].x - 1.0, points[49].y + gap);
            let (c, _) = fit(&points[1..], free(points[0]), free(corner), 0.1);
            for k in 0..=200 {
                let p = c.eval(f64::from(k) / 200.0);
                assert!(p.y <= corner.y + 0.1 + 0.1 * gap, "gap {gap}: {p:?} lies past {corner:?}");
            }
        }
    }

    #[test]
    fn nothing_between_the_ends_is_a_straight_piece_or_follows_their_directions() {
        let (a, b) = (Point::new(0.0, 0.0), Point::new(9.0, 0.0));
        let (c, error) = fit(&[], free(a), free(b), 0.1);
        assert_eq!((c.p1, c.p2, error), (Point::new(3.0, 0.0), Point::new(6.0, 0.0), 0.0));
        let up = End { at: a, direction: Some(Vec2::new(0.0, 1.0)) };
        assert_eq!(fit(&[], up, free(b), 0.1).0.p1, Point::new(0.0, 3.0));
    }
}
