use kachel_geom::GridPoint;
use std::ops::RangeInclusive;

/// At most this many, however short the edges.
const MOST: i32 = 4096;

/// Bands of y, as high as edges usually are: most edges lie in one or two.
pub(crate) struct Bands {
    low: i32,
    height: i32,
    count: usize,
}

impl Bands {
    /// Bands that cover these edges.
    pub(crate) fn over(edges: impl Iterator<Item = (GridPoint, GridPoint)>) -> Self {
        let (mut low, mut high, mut sum, mut n) = (i32::MAX, i32::MIN, 0i64, 0i64);
        for (p, q) in edges {
            (low, high) = (low.min(p.y()).min(q.y()), high.max(p.y()).max(q.y()));
            sum += i64::from((p.y() - q.y()).abs());
            n += 1;
        }
        if n == 0 {
            return Self { low: 0, height: 1, count: 1 };
        }
        let mean = i32::try_from(sum / n).unwrap_or(i32::MAX);
        let height = mean.max((high - low) / MOST) + 1;
        let mut bands = Self { low, height, count: 0 };
        bands.count = bands.of(high) + 1;
        bands
    }

    pub(crate) fn count(&self) -> usize {
        self.count
    }

    /// The band of a height; lower ones lie in the first.
    pub(crate) fn of(&self, y: i32) -> usize {
        usize::try_from((y - self.low) / self.height).unwrap_or(0)
    }

    /// The bands that an edge passes.
    pub(crate) fn reach(&self, p: GridPoint, q: GridPoint) -> RangeInclusive<usize> {
        self.of(p.y().min(q.y()))..=self.of(p.y().max(q.y()))
    }
}
