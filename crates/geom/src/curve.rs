use crate::{Bounds, Point, Ring, Space};

/// One piece of a [`Curve`], from the end of the piece before it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Segment<S: Space> {
    /// Straight to the point.
    Line(Point<S>),
    /// A cubic Bezier curve: two control points and the end.
    Cubic(Point<S>, Point<S>, Point<S>),
}

impl<S: Space> Segment<S> {
    /// Where it ends.
    pub const fn end(&self) -> Point<S> {
        match self {
            Self::Line(p) | Self::Cubic(_, _, p) => *p,
        }
    }

    fn map<T: Space>(&self, place: &impl Fn(Point<S>) -> Point<T>) -> Segment<T> {
        match self {
            Self::Line(p) => Segment::Line(place(*p)),
            Self::Cubic(a, b, p) => Segment::Cubic(place(*a), place(*b), place(*p)),
        }
    }
}

/// A chain of lines and cubics. A closed one ends where it starts.
#[derive(Clone, Debug, PartialEq)]
pub struct Curve<S: Space> {
    /// Where it starts.
    pub start: Point<S>,
    /// Its pieces in order.
    pub segments: Vec<Segment<S>>,
}

/// Pieces that one cubic is flattened into at the most.
const MAX_PIECES: f64 = 512.0;

impl<S: Space> Curve<S> {
    /// The closed polygon as a curve.
    pub fn from_ring(ring: &Ring<S>) -> Self {
        let start = ring.0.first().copied().unwrap_or(Point::new(0.0, 0.0));
        let rest = ring.0.iter().skip(1).chain(ring.0.first());
        Self { start, segments: rest.map(|p| Segment::Line(*p)).collect() }
    }

    /// Number of nodes, which of a closed curve is that of its segments.
    pub fn nodes(&self) -> usize {
        self.segments.len()
    }

    /// Where it ends.
    pub fn end(&self) -> Point<S> {
        self.segments.last().map_or(self.start, Segment::end)
    }

    /// Whether it ends where it starts.
    pub fn is_closed(&self) -> bool {
        !self.segments.is_empty() && self.end() == self.start
    }

    /// The nodes: the start and the end of every segment but that of a closed curve's last one.
    pub fn node_points(&self) -> Vec<Point<S>> {
        let all = std::iter::once(self.start).chain(self.segments.iter().map(Segment::end));
        all.take(self.segments.len() + usize::from(!self.is_closed())).collect()
    }

    /// Each segment with the point that it starts from.
    pub fn pieces(&self) -> impl Iterator<Item = (Point<S>, Segment<S>)> + '_ {
        let starts = std::iter::once(self.start).chain(self.segments.iter().map(Segment::end));
        starts.zip(self.segments.iter().copied())
    }

    /// The curve after an affine map of its points. (A projective one would not keep cubics.)
    pub fn map<T: Space>(&self, place: impl Fn(Point<S>) -> Point<T>) -> Curve<T> {
        Curve { start: place(self.start), segments: self.segments.iter().map(|s| s.map(&place)).collect() }
    }

    /// The same curve with every node that lies outside the box moved onto its edge, its handles with it.
    #[must_use]
    pub fn held(&self, within: &Bounds<S>) -> Self {
        let off = |p: Point<S>| {
            let x = p.x.clamp(within.min.x, within.max.x) - p.x;
            let y = p.y.clamp(within.min.y, within.max.y) - p.y;
            (x, y)
        };
        let moved = |p: Point<S>, (x, y): (f64, f64)| Point::new(p.x + x, p.y + y);
        let mut from = self.start;
        let segments = self.segments.iter().map(|s| {
            let before = off(from);
            from = s.end();
            match s {
                Segment::Line(p) => Segment::Line(moved(*p, off(*p))),
                Segment::Cubic(a, b, p) => Segment::Cubic(moved(*a, before), moved(*b, off(*p)), moved(*p, off(*p))),
            }
        });
        let segments = segments.collect();
        Self { start: moved(self.start, off(self.start)), segments }
    }

    /// The same curve run the other way.
    #[must_use]
    pub fn reversed(&self) -> Self {
        let mut segments: Vec<Segment<S>> = self
            .pieces()
            .map(|(from, s)| match s {
                Segment::Line(_) => Segment::Line(from),
                Segment::Cubic(a, b, _) => Segment::Cubic(b, a, from),
            })
            .collect();
        segments.reverse();
        Self { start: self.end(), segments }
    }

    /// Points along the curve, start and end included, no further than `tolerance` (units of `S`, Hausdorff) from it:
    /// the second difference of a cubic's control points bounds how far its chords can be off. A cubic becomes 512
    /// pieces at the most.
    pub fn flatten(&self, tolerance: f64) -> Vec<Point<S>> {
        let mut out = vec![self.start];
        for (from, segment) in self.pieces() {
            match segment {
                Segment::Line(p) => out.push(p),
                Segment::Cubic(a, b, p) => {
                    let bend =
                        |u: Point<S>, v: Point<S>, w: Point<S>| (u.x - 2.0 * v.x + w.x).hypot(u.y - 2.0 * v.y + w.y);
                    let second = 6.0 * bend(from, a, b).max(bend(a, b, p));
                    let pieces = (second / (8.0 * tolerance.max(1e-9))).sqrt().ceil().clamp(1.0, MAX_PIECES);
                    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 512")]
                    let pieces = pieces as u32;
                    for i in 1..pieces {
                        out.push(cubic_at(from, a, b, p, f64::from(i) / f64::from(pieces)));
                    }
                    out.push(p);
                }
            }
        }
        out
    }

    /// The closed curve as a polygon; see [`Curve::flatten`].
    pub fn ring(&self, tolerance: f64) -> Ring<S> {
        let mut points = self.flatten(tolerance);
        if points.len() > 1 && points.first() == points.last() {
            points.pop();
        }
        Ring(points)
    }

    /// Signed area of a closed curve, exact (Green's theorem for each piece): positive when anticlockwise with y up.
    pub fn area(&self) -> f64 {
        let o = self.start;
        let of = |p: Point<S>| (p.x - o.x, p.y - o.y);
        let cross = |(ax, ay): (f64, f64), (bx, by): (f64, f64)| ax * by - bx * ay;
        self.pieces()
            .map(|(from, s)| match s {
                Segment::Line(p) => cross(of(from), of(p)) / 2.0,
                Segment::Cubic(a, b, p) => {
                    let (p0, p1, p2, p3) = (of(from), of(a), of(b), of(p));
                    (6.0 * cross(p0, p1)
                        + 3.0 * cross(p0, p2)
                        + cross(p0, p3)
                        + 3.0 * cross(p1, p2)
                        + 3.0 * cross(p1, p3)
                        + 6.0 * cross(p2, p3))
                        / 20.0
                }
            })
            .sum()
    }

    /// A box round the curve: that of its points when flattened finely.
    pub fn bounds(&self, tolerance: f64) -> Option<Bounds<S>> {
        Bounds::of(&self.flatten(tolerance))
    }
}

/// The point of a cubic at `t` from 0 to 1.
pub fn cubic_at<S: Space>(p0: Point<S>, p1: Point<S>, p2: Point<S>, p3: Point<S>, t: f64) -> Point<S> {
    let u = 1.0 - t;
    let [a, b, c, d] = [u * u * u, 3.0 * u * u * t, 3.0 * u * t * t, t * t * t];
    Point::new(a * p0.x + b * p1.x + c * p2.x + d * p3.x, a * p0.y + b * p1.y + c * p2.y + d * p3.y)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Mm;

    fn p(x: f64, y: f64) -> Point<Mm> {
        Point::new(x, y)
    }

    /// y = x^2 from 0 to 1 is the cubic (0,0) (1/3,0) (2/3,1/3) (1,1), closed over (0,1).
    fn parabola() -> Curve<Mm> {
        let arc = Segment::Cubic(p(1.0 / 3.0, 0.0), p(2.0 / 3.0, 1.0 / 3.0), p(1.0, 1.0));
        Curve { start: p(0.0, 0.0), segments: vec![arc, Segment::Line(p(0.0, 1.0)), Segment::Line(p(0.0, 0.0))] }
    }

    #[test]
    fn area_under_a_parabola_is_exact() {
        assert!((parabola().area() - 2.0 / 3.0).abs() < 1e-15);
        assert!((parabola().reversed().area() + 2.0 / 3.0).abs() < 1e-15);
        let moved = parabola().map(|q| p(q.x * 3.0 + 1e3, q.y));
        assert!((moved.area() - 2.0).abs() < 1e-12);
    }

    #[test]
    fn flattening_stays_within_its_tolerance() {
        for tolerance in [0.1, 1e-2, 1e-3, 1e-4] {
            let points = parabola().flatten(tolerance);
            // A chord of y = x^2 over a width w is w^2 / 4 off at the most.
            for pair in points[..points.len() - 2].windows(2) {
                assert!((pair[1].x - pair[0].x).powi(2) / 4.0 <= tolerance + 1e-15);
            }
            assert!(points.iter().all(|q| q.x >= 0.0 && q.y >= 0.0));
        }
        assert_eq!(parabola().ring(0.1).0.first(), Some(&p(0.0, 0.0)));
        assert_eq!(parabola().node_points().len(), 3);
    }

    #[test]
    fn a_ring_is_a_closed_curve_of_lines() {
        let ring = Ring(vec![p(0.0, 0.0), p(2.0, 0.0), p(2.0, 1.0)]);
        let c = Curve::from_ring(&ring);
        assert!(c.is_closed() && c.nodes() == 3 && c.area() == 1.0);
        assert_eq!(c.ring(0.01), ring);
        assert_eq!(c.reversed().reversed(), c);
    }
}
