//! Straight runs of a followed line.

use kurbo::{Point, Vec2};

/// A straight run: points `from..=to`, and the line that fits them best.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Run {
    pub(crate) from: usize,
    pub(crate) to: usize,
    pub(crate) centre: Point,
    pub(crate) direction: Vec2,
}

impl Run {
    /// The point of the run's line nearest to `p`.
    pub(crate) fn foot(&self, p: Point) -> Point {
        self.centre + self.direction * (p - self.centre).dot(self.direction)
    }

    fn off(&self, p: Point) -> f64 {
        (p - self.centre).cross(self.direction).abs()
    }

    /// Where the lines of two runs cross.
    pub(crate) fn crossing(&self, other: &Self) -> Option<Point> {
        let det = self.direction.cross(other.direction);
        (det.abs() > 0.02)
            .then(|| self.centre + self.direction * ((other.centre - self.centre).cross(other.direction) / det))
    }
}

/// Running sums of coordinates, so that the best line of any run costs the same.
struct Sums(Vec<[f64; 5]>);

impl Sums {
    fn new(points: &[Point]) -> Self {
        let o = points[0];
        let mut all = vec![[0.0; 5]];
        let mut s = [0.0; 5];
        for p in points {
            let (x, y) = (p.x - o.x, p.y - o.y);
            for (sum, v) in s.iter_mut().zip([x, y, x * x, x * y, y * y]) {
                *sum += v;
            }
            all.push(s);
        }
        Self(all)
    }

    /// Best line of points `i..=j` by least squares across it, and the root mean square distance from it.
    fn line(&self, points: &[Point], i: usize, j: usize) -> (Run, f64) {
        let n = (j - i + 1) as f64;
        let [x, y, xx, xy, yy]: [f64; 5] = std::array::from_fn(|k| self.0[j + 1][k] - self.0[i][k]);
        let (mx, my) = (x / n, y / n);
        let (cxx, cxy, cyy) = (xx / n - mx * mx, xy / n - mx * my, yy / n - my * my);
        let half = 0.5 * (2.0 * cxy).atan2(cxx - cyy);
        let mut direction = Vec2::from_angle(half);
        if direction.dot(points[j] - points[i]) < 0.0 {
            direction = -direction;
        }
        let spread = ((cxx - cyy) * 0.5).hypot(cxy);
        let least = ((cxx + cyy) * 0.5 - spread).max(0.0);
        (Run { from: i, to: j, centre: points[0] + Vec2::new(mx, my), direction }, least.sqrt())
    }
}

/// Fewest points of a run.
const FEWEST: usize = 6;

/// The straight runs of an open line, in order, not overlapping. `slack` is the largest root mean square distance; a run
/// counts where it is clearly straighter than a circle through it would be, which shows in how fast the line leaves it.
/// `hard` says whether the line has a corner at its start and at its end.
pub(crate) fn runs(points: &[Point], slack: f64, shortest: f64, hard: [bool; 2]) -> Vec<Run> {
    let n = points.len();
    if n < FEWEST {
        return Vec::new();
    }
    let sums = Sums::new(points);
    // The farthest end for each start; ends never go back as starts go on.
    let mut candidates: Vec<(f64, usize, usize)> = Vec::new();
    let mut j = FEWEST - 1;
    for i in 0..n.saturating_sub(FEWEST - 1) {
        j = j.max(i + FEWEST - 1);
        while j + 1 < n && sums.line(points, i, j + 1).1 <= slack {
            j += 1;
        }
        let length = points[i].distance(points[j]);
        // Only runs that no earlier start reaches as far as.
        if length >= shortest && sums.line(points, i, j).1 <= slack && candidates.last().is_none_or(|c| c.2 < j) {
            candidates.push((length, i, j));
        }
    }
    candidates.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut taken: Vec<Run> = Vec::new();
    for (_, i, j) in candidates {
        // What an earlier, longer run has taken is cut off.
        let from = taken.iter().filter(|r| r.from <= i && r.to >= i).map(|r| r.to + 1).max().unwrap_or(i);
        let to = taken.iter().filter(|r| r.from <= j && r.to >= j).map(|r| r.from.saturating_sub(1)).min().unwrap_or(j);
        if from + FEWEST > to || taken.iter().any(|r| r.from >= from && r.to <= to) {
            continue;
        }
        let (run, rms) = sums.line(points, from, to);
        let length = points[from].distance(points[to]);
        if length >= shortest && leaves(points, &run, rms.max(slack * 0.5), length, hard) {
            taken.push(run);
        }
    }
    taken.sort_by_key(|r| r.from);
    taken
}

/// How much faster than a circle the line has to leave: a point of inflection, where any curve is straight for a while,
/// leaves 4.5 times as fast.
const ABRUPT: f64 = 7.0;

/// Whether the line leaves the run at both ends faster than a smooth curve would that is as far from straight within it.
fn leaves(points: &[Point], run: &Run, rms: f64, length: f64, hard: [bool; 2]) -> bool {
    // A circular arc of rise h lies 0.298 h (root mean square) from its best line.
    let rise = rms / 0.298;
    let end = |mut steps: Box<dyn Iterator<Item = usize> + '_>, is_hard: bool, at: Point| {
        let mut furthest = 0.0f64;
        let mut margin = f64::NEG_INFINITY;
        let reached = loop {
            let Some(k) = steps.next() else { break true };
            let e = points[k].distance(at);
            if e > length * 0.5 {
                break false;
            }
            furthest = furthest.max(e);
            // Nearer by, grain decides and not shape.
            if e < length * 0.3 {
                continue;
            }
            let circle = (length * e + e * e) * 4.0 * rise / (length * length);
            margin = margin.max(run.off(points[k]) - ABRUPT * circle - 0.1);
        };
        // It ends at a corner: there is nothing after it to compare with.
        (reached && is_hard && furthest < length * 0.12 + 1.5) || margin > 0.0
    };
    end(Box::new((0..run.from).rev()), hard[0], points[run.from])
        && end(Box::new(run.to + 1..points.len()), hard[1], points[run.to])
}
