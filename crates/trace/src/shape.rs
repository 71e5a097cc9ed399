//! From a followed line to a curve: corners rebuilt, straight runs straight, the rest as few cubics as keep the
//! deviation.

use crate::corner::{self, Bend, Corner};
use crate::cubic::{self, End};
use crate::straight::{self, Run};
use crate::track::{self, Track};
use kachel_geom::{Curve, Px, Ring, Segment};
use kurbo::{CubicBez, Point};

type PxPoint = kachel_geom::Point<Px>;

/// How a followed line becomes a curve.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Style {
    /// Largest distance, pixels, of the followed points from the curve, beyond what their own roughness explains.
    pub(crate) deviation: f64,
    /// Smallest turn of a corner, radians.
    pub(crate) bend: f64,
    /// How far an edge reaches, pixels: 1 for an antialiased one.
    pub(crate) softness: f64,
    /// Least roughness, pixels, that the points are taken to have beside what is measured; none where they are exact.
    pub(crate) grain: Option<f64>,
}

/// No cubic turns further than this, one way and the other, radians.
const MOST_BEND: f64 = 7.0;
/// Two straight runs meet in a corner from this turn on: 15 degrees (common practice, no source).
const STRAIGHT_BEND: f64 = 15.0 * std::f64::consts::PI / 180.0;
/// Shortest straight run, pixels.
const SHORTEST_RUN: f64 = 7.0;
/// How far calmed points lie from their line, by the roughness.
const CALM: f64 = 1.1;
/// Roughness from which points are calmed before curves are fitted to them, pixels.
const GRAINY: f64 = 0.02;

/// The curve of a closed line.
pub(crate) fn closed(ring: &Ring<Px>, style: &Style) -> Curve<Px> {
    if style.deviation <= 0.0 || ring.0.len() < 6 {
        return Curve::from_ring(ring);
    }
    let track = Track::new(ring.0.iter().map(|p| Point::new(p.x, p.y)).collect(), true, style.grain);
    let fitter = Fitter::new(&track, style);
    let corners = corner::find(&track, fitter.bend());
    let mut out = Builder::default();
    if corners.is_empty() {
        let start = fitter.calmest_start();
        let here = fitter.smooth(start);
        let mut stretch: Vec<Point> =
            (1..track.len()).filter_map(|k| track.step(start, k.cast_signed())).map(|i| track.points[i]).collect();
        stretch.insert(0, here.at);
        stretch.push(here.at);
        out.start(here.at);
        fitter.stretch(&stretch, here, here, &mut out);
    } else {
        for (k, a) in corners.iter().enumerate() {
            let b = &corners[(k + 1) % corners.len()];
            if k == 0 {
                out.start(a.at);
            }
            fitter.between_corners(a, b, corners.len() == 1, &mut out);
        }
    }
    out.finish(true)
}

/// The curve of an open line whose ends are fixed.
pub(crate) fn open(points: &[Point], style: &Style) -> Curve<Px> {
    let track = Track::new(points.to_vec(), false, style.grain);
    let fitter = Fitter::new(&track, style);
    let mut out = Builder::default();
    let (Some(first), Some(last)) = (points.first(), points.last()) else { return out.finish(false) };
    let end = |index: usize, at: Point| Corner { index, at, rounded: 0.0 };
    let mut marks = vec![end(0, *first)];
    marks.extend(corner::find(&track, fitter.bend()).into_iter().filter(|c| c.index > 1 && c.index + 2 < points.len()));
    marks.push(end(points.len() - 1, *last));
    out.start(*first);
    for pair in marks.windows(2) {
        fitter.between_corners(&pair[0], &pair[1], false, &mut out);
    }
    out.finish(false)
}

/// Collects segments.
#[derive(Default)]
struct Builder {
    start: Point,
    at: Point,
    segments: Vec<Segment<Px>>,
}

fn px(p: Point) -> PxPoint {
    PxPoint::new(p.x, p.y)
}

impl Builder {
    fn start(&mut self, p: Point) {
        (self.start, self.at) = (p, p);
    }

    fn line(&mut self, p: Point) {
        if p.distance(self.at) > 1e-6 {
            self.segments.push(Segment::Line(px(p)));
            self.at = p;
        }
    }

    fn cubic(&mut self, c: CubicBez) {
        let chord = c.p3 - c.p0;
        let flat = |p: Point| (p - c.p0).cross(chord).abs() <= 0.02 * chord.hypot();
        if flat(c.p1) && flat(c.p2) && chord.dot(c.p1 - c.p0) >= 0.0 && chord.dot(c.p3 - c.p2) >= 0.0 {
            return self.line(c.p3);
        }
        self.segments.push(Segment::Cubic(px(c.p1), px(c.p2), px(c.p3)));
        self.at = c.p3;
    }

    /// The curve; a closed one ends exactly where it starts.
    fn finish(mut self, is_closed: bool) -> Curve<Px> {
        let start = px(self.start);
        if is_closed && let Some(last) = self.segments.last_mut() {
            match last {
                Segment::Line(p) | Segment::Cubic(_, _, p) => *p = start,
            }
        }
        Curve { start, segments: self.segments }
    }
}

struct Fitter<'t> {
    track: &'t Track,
    deviation: f64,
    bend: f64,
    softness: f64,
    /// Arc length on either side over which the grain is averaged out.
    reach: f64,
}

impl<'t> Fitter<'t> {
    fn new(track: &'t Track, style: &Style) -> Self {
        let grain = track.grain;
        Self {
            track,
            deviation: style.deviation.max(0.002) + CALM * grain,
            bend: style.bend,
            softness: style.softness,
            reach: (4.0 + 30.0 * grain).min(9.0) * style.softness.clamp(1.0, 2.0),
        }
    }

    fn bend(&self) -> Bend {
        Bend { any: self.bend, straight: STRAIGHT_BEND.min(self.bend), softness: self.softness }
    }

    /// The line at a point without its grain.
    fn smooth(&self, i: usize) -> End {
        let side = self.track.around(i, self.reach);
        End { at: side.at(0.0), direction: Some(side.direction(0.0)) }
    }

    /// Where a line without corners is cut open: where it bends most, so that no straight run is cut.
    fn calmest_start(&self) -> usize {
        let n = self.track.len();
        let step = (n / 64).max(1);
        let bend = |i: &usize| self.track.around(*i, self.reach * 1.5).curvature(0.0).abs();
        (0..n).step_by(step).max_by(|a, b| bend(a).total_cmp(&bend(b))).unwrap_or(0)
    }

    fn between_corners(&self, a: &Corner, b: &Corner, is_round_trip: bool, out: &mut Builder) {
        let track = self.track;
        let whole = if is_round_trip { track.length() } else { track.between(a.index, b.index) };
        let steps = match (b.index + track.len() - a.index) % track.len() {
            0 if is_round_trip => track.len(),
            s => s,
        };
        // Rounded-off points say nothing, but a short side keeps its middle.
        let spare = (whole * 0.5 - 0.6).max(0.0);
        let (from, to) = (a.rounded.min(spare), whole - b.rounded.min(spare));
        let mut stretch = vec![a.at];
        let mut d = 0.0;
        let mut at = a.index;
        for _ in 1..steps {
            let Some(next) = track.step(at, 1) else { break };
            d += track.points[at].distance(track.points[next]);
            at = next;
            if d >= from && d <= to {
                stretch.push(track.points[at]);
            }
        }
        stretch.push(b.at);
        let free = |at| End { at, direction: None };
        self.stretch(&stretch, free(a.at), free(b.at), out);
    }

    /// A stretch between two places, first and last point included; ends without a direction are corners.
    fn stretch(&self, points: &[Point], start: End, end: End, out: &mut Builder) {
        let inner = &points[1..points.len() - 1];
        let off = |p: &Point| distance_to_segment(*p, start.at, end.at);
        let is_smooth = start.direction.is_some();
        if !is_smooth && inner.iter().map(off).fold(0.0, f64::max) <= self.deviation {
            return out.line(end.at);
        }
        let slack = 0.015 + 1.1 * self.track.grain;
        let shortest = SHORTEST_RUN.max(60.0 * self.track.grain);
        let hard = [start.direction.is_none(), end.direction.is_none()];
        let runs = straight::runs(points, slack, shortest, hard);
        let mut at = start;
        let mut index = 0;
        for (k, run) in runs.iter().enumerate() {
            let before = (k > 0).then(|| &runs[k - 1]);
            let near_start = run.from <= 2 && hard[0] && k == 0;
            if near_start {
                at = End { at: start.at, direction: None };
            } else if let Some(corner) = before.and_then(|b| meeting(points, b, run)) {
                // The line of the run before it ends where they cross.
                out.line(corner);
                at = End { at: corner, direction: None };
            } else {
                let to = End { at: run.foot(points[run.from]), direction: Some(run.direction) };
                if let Some(b) = before {
                    let from = b.foot(points[b.to]);
                    out.line(from);
                    at = End { at: from, direction: Some(b.direction) };
                }
                self.curve(&points[index..=run.from], at, to, out);
                at = to;
            }
            index = run.to;
            let is_last = k + 1 == runs.len();
            if is_last {
                if run.to + 3 >= points.len() && hard[1] {
                    return out.line(end.at);
                }
                let to = run.foot(points[run.to]);
                out.line(to);
                at = End { at: to, direction: Some(run.direction) };
            }
        }
        self.curve(&points[index..], at, end, out);
    }

    /// As few cubics as keep the deviation, joined smoothly.
    fn curve(&self, points: &[Point], start: End, end: End, out: &mut Builder) {
        if start.at.distance(end.at) < 1e-6 && points.len() < 4 {
            return;
        }
        let calm;
        let points = if self.track.grain > GRAINY {
            calm = calmed(points);
            &calm[..]
        } else {
            points
        };
        let span = Span { points, start, end, fitter: self, joints: Vec::new() };
        span.run(out);
    }
}

/// Points without most of their grain: a parabola by least squares through the eleven around each (A. Savitzky and
/// M. J. E. Golay, 'Smoothing and differentiation of data by simplified least squares procedures', 1964), which keeps curves.
fn calmed(points: &[Point]) -> Vec<Point> {
    const WEIGHTS: [[f64; 6]; 4] = [
        [17.0 / 35.0, 12.0 / 35.0, -3.0 / 35.0, 0.0, 0.0, 0.0],
        [7.0 / 21.0, 6.0 / 21.0, 3.0 / 21.0, -2.0 / 21.0, 0.0, 0.0],
        [59.0 / 231.0, 54.0 / 231.0, 39.0 / 231.0, 14.0 / 231.0, -21.0 / 231.0, 0.0],
        [89.0 / 429.0, 84.0 / 429.0, 69.0 / 429.0, 44.0 / 429.0, 9.0 / 429.0, -36.0 / 429.0],
    ];
    let n = points.len();
    (0..n)
        .map(|i| {
            let reach = i.min(n - 1 - i).min(5);
            if reach < 2 {
                return points[i];
            }
            let w = WEIGHTS[reach - 2];
            let sum = (1..=reach).fold(points[i].to_vec2() * w[0], |sum, k| {
                sum + (points[i - k].to_vec2() + points[i + k].to_vec2()) * w[k]
            });
            sum.to_point()
        })
        .collect()
}

/// The corner of two straight runs with next to nothing between them.
fn meeting(points: &[Point], a: &Run, b: &Run) -> Option<Point> {
    let gap = points[a.to].distance(points[b.from]);
    let turn = a.direction.cross(b.direction).atan2(a.direction.dot(b.direction)).abs();
    if gap > 4.0 || turn < STRAIGHT_BEND * 0.6 {
        return None;
    }
    let at = a.crossing(b)?;
    (at.distance(points[a.to]) <= gap + 1.5 && at.distance(points[b.from]) <= gap + 1.5).then_some(at)
}

fn distance_to_segment(p: Point, a: Point, b: Point) -> f64 {
    px(p).distance_to_segment(px(a), px(b))
}

/// A stretch without corners or straight runs.
struct Span<'s, 't> {
    points: &'s [Point],
    start: End,
    end: End,
    fitter: &'s Fitter<'t>,
    /// Smooth ends at inner points, by index, as they were needed.
    joints: Vec<Option<End>>,
}

impl Span<'_, '_> {
    fn run(mut self, out: &mut Builder) {
        let n = self.points.len();
        self.joints = vec![None; n];
        let limit = self.fitter.deviation;
        let Some(mut pieces) = self.greedy(limit, &[], usize::MAX) else { return };
        if pieces.len() > 1 {
            // The last piece of the greedy cut is what is left over. The smallest limit that needs no more pieces
            // spreads the error evenly.
            let (mut low, mut high) = (limit * 0.2, limit);
            for _ in 0..4 {
                let middle = (low + high) / 2.0;
                let lengths: Vec<usize> = pieces.iter().map(|p| p.0).collect();
                match self.greedy(middle, &lengths, pieces.len()) {
                    Some(tried) => {
                        pieces = tried;
                        high = middle;
                    }
                    None => low = middle,
                }
            }
        }
        for (_, c) in pieces {
            out.cubic(c);
        }
    }

    fn end_at(&mut self, i: usize) -> End {
        if i == 0 {
            return self.start;
        }
        if i + 1 == self.points.len() {
            return self.end;
        }
        if let Some(e) = self.joints[i] {
            return e;
        }
        let e = self.joint(i);
        self.joints[i] = Some(e);
        e
    }

    /// The stretch at an inner point without its grain; parabola through the points around it.
    fn joint(&self, i: usize) -> End {
        let side = track::local(self.points, i, self.fitter.reach, self.fitter.track.grain);
        End { at: side.at(0.0), direction: Some(side.direction(0.0)) }
    }

    /// Each piece as long as it can be, with its number of points; `None` where that makes more than `most` pieces.
    /// `hints` are lengths that were right for a wider limit.
    fn greedy(&mut self, limit: f64, hints: &[usize], most: usize) -> Option<Vec<(usize, CubicBez)>> {
        let last = self.points.len() - 1;
        let mut out = Vec::new();
        let mut from = 0;
        while from < last {
            if out.len() == most {
                return None;
            }
            let before = out.last().map_or(0, |(n, _)| *n);
            let (to, c) = self.longest(from, limit, hints.get(out.len()).copied(), before);
            out.push((to - from, c));
            from = to;
        }
        Some(out)
    }

    fn piece(&mut self, from: usize, to: usize, limit: f64) -> (CubicBez, f64) {
        let (a, b) = (self.end_at(from), self.end_at(to));
        let inner = if to > from + 1 { &self.points[from + 1..to] } else { &[] };
        cubic::fit(inner, a, b, limit)
    }

    /// How much the stretch turns in all, one way and the other, radians.
    fn bends(&self, from: usize, to: usize) -> f64 {
        let stride = ((to - from) / 24).max(6);
        let at: Vec<Point> = (from..=to).step_by(stride).map(|i| self.points[i]).collect();
        let turn = |w: &[Point]| {
            let (a, b) = (w[1] - w[0], w[2] - w[1]);
            a.cross(b).atan2(a.dot(b)).abs()
        };
        at.windows(3).map(turn).sum()
    }

    fn longest(&mut self, from: usize, limit: f64, hint: Option<usize>, before: usize) -> (usize, CubicBez) {
        let last = self.points.len() - 1;
        let is_near_enough = hint.map_or_else(|| self.bends(from, last) < MOST_BEND, |h| from + h * 5 / 4 >= last);
        if is_near_enough {
            let (whole, error) = self.piece(from, last, limit);
            if error <= limit {
                return (last, whole);
            }
        }
        // Galloping from about the last piece's length, then halving: lengths that work reach up to some length, near
        // enough.
        let mut good = (from + 3).min(last);
        let mut best = None;
        let mut step = (hint.unwrap_or(before) * 4 / 5).max(8);
        let mut bad = last;
        while from + step < last {
            let (c, error) = self.piece(from, from + step, limit);
            if error > limit {
                bad = from + step;
                break;
            }
            (good, best) = (from + step, Some(c));
            step = if hint.is_some() { step * 5 / 4 } else { step * 3 / 2 };
        }
        while bad > good + 1 + (good - from) / 16 {
            let middle = usize::midpoint(good, bad);
            let (c, error) = self.piece(from, middle, limit);
            if error <= limit {
                (good, best) = (middle, Some(c));
            } else {
                bad = middle;
            }
        }
        let c = best.unwrap_or_else(|| self.piece(from, good, limit).0);
        (good, c)
    }
}
