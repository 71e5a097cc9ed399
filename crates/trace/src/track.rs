//! A followed line as points with arc length, and what can be measured along it.

use kurbo::{Point, Vec2};

/// Points of a followed line.
pub(crate) struct Track {
    pub(crate) points: Vec<Point>,
    /// Arc length from the first point to each; of a closed track one more, the whole length.
    lengths: Vec<f64>,
    pub(crate) is_closed: bool,
    /// Standard deviation (pixels) of the points across the line: how rough it is.
    pub(crate) grain: f64,
}

/// A piece of the line on one side of a place, as polynomials of arc length from there.
#[derive(Clone, Copy)]
pub(crate) struct Side {
    x: [f64; 3],
    y: [f64; 3],
    /// Length of the piece.
    pub(crate) length: f64,
    /// Whether it is straight.
    pub(crate) is_straight: bool,
}

impl Side {
    pub(crate) fn at(&self, d: f64) -> Point {
        let of = |c: [f64; 3]| c[0] + d * (c[1] + d * c[2]);
        Point::new(of(self.x), of(self.y))
    }

    /// Direction of growing arc length, of unit length.
    pub(crate) fn direction(&self, d: f64) -> Vec2 {
        let v = self.velocity(d);
        if v.hypot() > 1e-9 { v.normalize() } else { Vec2::new(1.0, 0.0) }
    }

    pub(crate) fn velocity(&self, d: f64) -> Vec2 {
        Vec2::new(self.x[1] + 2.0 * d * self.x[2], self.y[1] + 2.0 * d * self.y[2])
    }

    /// Signed curvature at `d`, one over pixels.
    pub(crate) fn curvature(&self, d: f64) -> f64 {
        let v = self.velocity(d);
        v.cross(Vec2::new(2.0 * self.x[2], 2.0 * self.y[2])) / v.hypot().max(1e-9).powi(3)
    }
}

impl Track {
    pub(crate) fn new(points: Vec<Point>, is_closed: bool, least_grain: Option<f64>) -> Self {
        let mut lengths = Vec::with_capacity(points.len() + 1);
        let mut sum = 0.0;
        for (i, p) in points.iter().enumerate() {
            lengths.push(sum);
            let next = if i + 1 < points.len() { points[i + 1] } else { points[0] };
            sum += p.distance(next);
        }
        if is_closed {
            lengths.push(sum);
        }
        let grain = least_grain.map_or(0.0, |least| roughness(&points).max(least).min(MOST_GRAIN));
        Self { points, lengths, is_closed, grain }
    }

    pub(crate) fn len(&self) -> usize {
        self.points.len()
    }

    pub(crate) fn length(&self) -> f64 {
        self.lengths.last().copied().unwrap_or(0.0)
    }

    /// Mean distance of neighbouring points.
    pub(crate) fn spacing(&self) -> f64 {
        (self.length() / self.len().max(1) as f64).max(1e-6)
    }

    /// The index `steps` further along; `None` beyond the end of an open track.
    pub(crate) fn step(&self, i: usize, steps: isize) -> Option<usize> {
        let n = self.len().cast_signed();
        let to = i.cast_signed() + steps;
        if self.is_closed {
            usize::try_from(to.rem_euclid(n)).ok()
        } else {
            usize::try_from(to).ok().filter(|t| *t < self.len())
        }
    }

    /// Arc length from `i` forward to `j`.
    pub(crate) fn between(&self, i: usize, j: usize) -> f64 {
        let d = self.lengths[j] - self.lengths[i];
        if d < 0.0 { d + self.length() } else { d }
    }

    /// The place so far along the line from `i`, or back for less than 0; the end of an open one beyond it.
    pub(crate) fn along(&self, i: usize, by: f64) -> Point {
        let mut at = i;
        let mut left = by.abs();
        for _ in 0..self.len() {
            let Some(next) = self.step(at, if by < 0.0 { -1 } else { 1 }) else { break };
            let length = self.points[at].distance(self.points[next]);
            if length >= left {
                return self.points[at].lerp(self.points[next], left / length.max(1e-9));
            }
            left -= length;
            at = next;
        }
        self.points[at]
    }

    /// The points from arc distance `from` to `to` before (`forward` false) or after `i`, with their distances.
    fn window(&self, i: usize, forward: bool, from: f64, to: f64, out: &mut Vec<(f64, Point)>) {
        out.clear();
        let mut at = i;
        let mut d = 0.0;
        // The place itself belongs to a window that starts at it.
        if from <= 0.0 {
            out.push((0.0, self.points[i]));
        }
        for _ in 1..self.len() {
            let Some(next) = self.step(at, if forward { 1 } else { -1 }) else { break };
            d += self.points[at].distance(self.points[next]);
            if d > to {
                break;
            }
            if d >= from {
                out.push((d, self.points[next]));
            }
            at = next;
        }
    }

    /// The longest piece of up to `longest` pixels that starts `skip` pixels beside `i` and is a line or a parabola
    /// within `slack` pixels.
    pub(crate) fn side(&self, i: usize, forward: bool, skip: f64, longest: f64, slack: f64) -> Option<Side> {
        let mut best = None;
        let mut all = Vec::new();
        self.window(i, forward, skip, skip + longest, &mut all);
        let mut length = 3.0f64.min(longest);
        loop {
            let points = &all[..all.partition_point(|(d, _)| *d <= skip + length)];
            if let Some(side) = fit_side(points, slack) {
                best = Some(side);
            } else if points.len() >= 2 {
                break;
            }
            if length >= longest {
                break;
            }
            length = (length * 1.45).min(longest);
        }
        best
    }

    /// The line around `i`, both ways, as a parabola by least squares: position and direction without the grain. Where it
    /// bends more than a parabola does, as round a small tip, less of it is looked at.
    pub(crate) fn around(&self, i: usize, reach: f64) -> Side {
        let mut points = Vec::new();
        parabola_within(self.points[i], reach, self.grain, |reach, all| {
            self.window(i, false, 0.0, reach, &mut points);
            all.extend(points.iter().rev().map(|(d, p)| (-d, *p)));
            self.window(i, true, 0.0, reach, &mut points);
            all.extend(points.iter().skip(1));
        })
    }
}

/// Roughness beyond which a line is no edge of anything, pixels: it is followed as it is.
const MOST_GRAIN: f64 = 0.5;
/// Points apart at which the roughness is looked for: blurred or compressed grain is smooth from point to point.
const STRIDES: [usize; 2] = [1, 2];

/// Median third difference across the line, as the standard deviation of one point: parabolas have none, so that of a
/// smooth line it is next to nothing, whatever its curves.
fn roughness(points: &[Point]) -> f64 {
    let mut off: Vec<f64> = Vec::with_capacity(points.len());
    let mut worst = 0.0f64;
    for stride in STRIDES {
        // Of a short line most of these would hold a corner.
        if stride > 1 && points.len() < 40 * stride {
            break;
        }
        off.clear();
        off.extend(points.windows(3 * stride + 1).map(|w| {
            let [a, b, c, d] = [0, 1, 2, 3].map(|k| w[k * stride]);
            let along = d - a;
            ((along - 3.0 * (c - b)).cross(along) / along.hypot().max(1e-9)).abs()
        }));
        if off.is_empty() {
            break;
        }
        let middle = off.len() / 2;
        let (_, median, _) = off.select_nth_unstable_by(middle, f64::total_cmp);
        // 0.6745 is the median of the absolute value of a standard normal variable; the weights 1 -3 3 -1 have the norm
        // of the square root of 20.
        worst = worst.max(*median / 0.6745 / 20f64.sqrt());
    }
    worst
}

/// Distance (pixels, beside the grain's) from a parabola beyond which less of a line is looked at.
const OFF: f64 = 0.3;
/// Pixels that are looked at in any case.
const SHORTEST: f64 = 2.0;

/// The line around point `i` of an open one, as [`Track::around`].
pub(crate) fn local(points: &[Point], i: usize, reach: f64, grain: f64) -> Side {
    parabola_within(points[i], reach, grain, |reach, all| {
        all.push((0.0, points[i]));
        let mut d = 0.0;
        for k in (0..i).rev() {
            d -= points[k].distance(points[k + 1]);
            if -d > reach {
                break;
            }
            all.push((d, points[k]));
        }
        d = 0.0;
        for k in i + 1..points.len() {
            d += points[k].distance(points[k - 1]);
            if d > reach {
                break;
            }
            all.push((d, points[k]));
        }
    })
}

/// The best parabola of what `gather` finds within a reach, which shrinks until they lie near each other.
fn parabola_within(at: Point, mut reach: f64, grain: f64, mut gather: impl FnMut(f64, &mut Vec<(f64, Point)>)) -> Side {
    let mut all = Vec::new();
    loop {
        all.clear();
        gather(reach, &mut all);
        let side = best_parabola(&all, at);
        if reach < SHORTEST || worst(&side, &all) <= OFF + 3.0 * grain {
            return side;
        }
        reach *= 0.7;
    }
}

fn best_parabola(points: &[(f64, Point)], fallback: Point) -> Side {
    let degree = if points.len() >= 5 { 2 } else { 1 };
    polynomial(points, degree).unwrap_or(Side {
        x: [fallback.x, 1.0, 0.0],
        y: [fallback.y, 0.0, 0.0],
        length: 0.0,
        is_straight: true,
    })
}

fn fit_side(points: &[(f64, Point)], slack: f64) -> Option<Side> {
    if points.len() < 2 {
        return None;
    }
    let line = polynomial(points, 1)?;
    if worst(&line, points) <= slack * 0.7 {
        return Some(line);
    }
    if points.len() < 4 {
        return None;
    }
    let curve = polynomial(points, 2)?;
    (worst(&curve, points) <= slack).then_some(curve)
}

/// Largest distance across the line.
fn worst(side: &Side, points: &[(f64, Point)]) -> f64 {
    points.iter().map(|(d, p)| (*p - side.at(*d)).cross(side.direction(*d)).abs()).fold(0.0, f64::max)
}

/// Least squares of x and y by arc length, degree 1 or 2.
fn polynomial(points: &[(f64, Point)], degree: usize) -> Option<Side> {
    // Centred and scaled, so that the normal equations are well conditioned.
    let n = points.len() as f64;
    let mid = points.iter().map(|(d, _)| d).sum::<f64>() / n;
    let half = points.iter().map(|(d, _)| (d - mid).abs()).fold(0.0, f64::max);
    if half < 1e-9 {
        return None;
    }
    let (mut m, mut vx, mut vy) = ([0.0; 5], [0.0; 3], [0.0; 3]);
    for (d, p) in points {
        let t = (d - mid) / half;
        let powers = [1.0, t, t * t];
        for (k, w) in powers.iter().enumerate() {
            vx[k] += w * p.x;
            vy[k] += w * p.y;
            m[k] += w;
        }
        m[3] += t * t * t;
        m[4] += t * t * t * t;
    }
    let solve = |v: [f64; 3]| -> Option<[f64; 3]> {
        let det2 = m[0] * m[2] - m[1] * m[1];
        if degree == 1 {
            return (det2.abs() > 1e-12)
                .then(|| [(v[0] * m[2] - v[1] * m[1]) / det2, (m[0] * v[1] - m[1] * v[0]) / det2, 0.0]);
        }
        let a = [[m[0], m[1], m[2]], [m[1], m[2], m[3]], [m[2], m[3], m[4]]];
        solve3(a, v)
    };
    let back = |c: [f64; 3]| {
        // From t to d: t = (d - mid) / half.
        let (b, a) = (c[1] / half, c[2] / (half * half));
        [c[0] - b * mid + a * mid * mid, b - 2.0 * a * mid, a]
    };
    Some(Side { x: back(solve(vx)?), y: back(solve(vy)?), length: 2.0 * half, is_straight: degree == 1 })
}

fn solve3(a: [[f64; 3]; 3], v: [f64; 3]) -> Option<[f64; 3]> {
    let det = |m: [[f64; 3]; 3]| {
        m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) - m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0])
            + m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0])
    };
    let d = det(a);
    (d.abs() > 1e-12).then(|| {
        std::array::from_fn(|k| {
            let mut b = a;
            (0..3).for_each(|r| b[r][k] = v[r]);
            det(b) / d
        })
    })
}
