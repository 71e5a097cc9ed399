//! The smallest circle round points.

use crate::point::{Point, Space};

/// A circle.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Circle<S: Space> {
    /// Its middle.
    pub centre: Point<S>,
    /// Its radius.
    pub radius: f64,
}

/// Points this much outside, as a share of the radius, are on it.
const SLACK: f64 = 1e-10;

impl<S: Space> Circle<S> {
    fn holds(&self, p: Point<S>) -> bool {
        self.centre.distance(p) <= self.radius * (1.0 + SLACK) + f64::MIN_POSITIVE
    }

    fn of_two(a: Point<S>, b: Point<S>) -> Self {
        let centre = Point::new(f64::midpoint(a.x, b.x), f64::midpoint(a.y, b.y));
        Self { centre, radius: centre.distance(a).max(centre.distance(b)) }
    }

    /// Through three points; round the two farthest where they lie on a line.
    fn of_three(a: Point<S>, b: Point<S>, c: Point<S>) -> Self {
        let (bx, by, cx, cy) = (b.x - a.x, b.y - a.y, c.x - a.x, c.y - a.y);
        let d = 2.0 * (bx * cy - by * cx);
        let (b2, c2) = (bx * bx + by * by, cx * cx + cy * cy);
        let centre = Point::new(a.x + (cy * b2 - by * c2) / d, a.y + (bx * c2 - cx * b2) / d);
        if d != 0.0 && centre.x.is_finite() && centre.y.is_finite() {
            let radius = [a, b, c].map(|p| centre.distance(p)).into_iter().fold(0.0, f64::max);
            return Self { centre, radius };
        }
        let pairs = [Self::of_two(a, b), Self::of_two(b, c), Self::of_two(c, a)];
        pairs.into_iter().max_by(|p, q| p.radius.total_cmp(&q.radius)).unwrap_or(pairs[0])
    }

    /// The smallest circle round all points (E. Welzl, 'Smallest enclosing disks (balls and ellipsoids)', 1991, in its
    /// incremental form); `None` where there are none. Linear in the mean.
    pub fn round(points: &[Point<S>]) -> Option<Self> {
        let mut all = points.to_vec();
        // Points of a contour come in order, which is the slow case: a fixed shuffle (Fisher and Yates, with a linear
        // congruence) keeps the result the same every time.
        let mut state = 0x2545_f491_4f6c_dd1d_u64;
        for k in (1..all.len()).rev() {
            state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            let other = usize::try_from(state >> 33).unwrap_or(0) % (k + 1);
            all.swap(k, other);
        }
        let mut circle = Self { centre: *all.first()?, radius: 0.0 };
        for i in 1..all.len() {
            if circle.holds(all[i]) {
                continue;
            }
            circle = Self { centre: all[i], radius: 0.0 };
            for j in 0..i {
                if circle.holds(all[j]) {
                    continue;
                }
                circle = Self::of_two(all[i], all[j]);
                for k in 0..j {
                    if !circle.holds(all[k]) {
                        circle = Self::of_three(all[i], all[j], all[k]);
                    }
                }
            }
        }
        Some(circle)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::point::Mm;
    use kachel_oracle::for_all;

    fn p(x: f64, y: f64) -> Point<Mm> {
        Point::new(x, y)
    }

    #[test]
    fn circles_round_few_points_are_known() {
        let round = |points: &[Point<Mm>]| Circle::round(points).unwrap();
        assert_eq!(round(&[p(3.0, 4.0)]), Circle { centre: p(3.0, 4.0), radius: 0.0 });
        assert_eq!(round(&[p(-1.0, 0.0), p(1.0, 0.0), p(0.0, 0.5)]), Circle { centre: p(0.0, 0.0), radius: 1.0 });
        // Euclid, Elements XIII 12: the side of an equilateral triangle is its circle's radius by the root of 3.
        let triangle = round(&[p(0.0, 0.0), p(3f64.sqrt(), 0.0), p(3f64.sqrt() / 2.0, 1.5)]);
        assert!((triangle.radius - 1.0).abs() < 1e-12);
        assert_eq!(round(&[p(0.0, 0.0), p(1.0, 1.0), p(4.0, 4.0)]).centre, p(2.0, 2.0), "on a line");
        assert!(Circle::<Mm>::round(&[]).is_none());
    }

    /// Against the smallest of all circles through two or three points that hold the rest.
    #[test]
    fn no_circle_is_smaller() {
        for_all(200, |random| {
            let n = 3 + random.below(9);
            let points: Vec<Point<Mm>> =
                (0..n).map(|_| p(random.between(-50.0, 50.0), random.between(-20.0, 20.0))).collect();
            let found = Circle::round(&points).unwrap();
            assert!(points.iter().all(|q| found.centre.distance(*q) <= found.radius * (1.0 + 1e-9)));
            let mut least = f64::INFINITY;
            for i in 0..n {
                for j in 0..i {
                    let mut look = |c: Circle<Mm>| {
                        if points.iter().all(|q| c.centre.distance(*q) <= c.radius * (1.0 + 1e-9)) {
                            least = least.min(c.radius);
                        }
                    };
                    look(Circle::of_two(points[i], points[j]));
                    (0..j).for_each(|k| look(Circle::of_three(points[i], points[j], points[k])));
                }
            }
            assert!((found.radius - least).abs() < 1e-6 * least, "{} and {least}", found.radius);
        });
    }
}
