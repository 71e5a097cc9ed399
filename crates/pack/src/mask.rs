//! Areas as bits on a raster, and where one fits beside another.

use kachel_geom::{Mm, Ring};

/// One row of bits; bit `x` is in word `x / 64`.
type Row = Vec<u64>;

/// What an area covers of a raster, at least: a cell counts as soon as the area reaches into it.
#[derive(Clone, Debug)]
pub(crate) struct Mask {
    /// Cells across.
    pub width: usize,
    /// Cells upwards.
    pub height: usize,
    /// Covered cells of each row, from the first to the one after the last.
    pub spans: Vec<Vec<(usize, usize)>>,
    /// The rows, those that cover most first.
    by_length: Vec<usize>,
}

impl Mask {
    /// The mask of rings in millimetres; its first cell begins at the lower left corner of their box.
    pub(crate) fn of(rings: &[Ring<Mm>], cell: f64) -> Option<(Self, [f64; 2])> {
        let b = rings.iter().filter_map(Ring::bounds).reduce(kachel_geom::Bounds::union)?;
        let cells = |side: f64| to_cells(side / cell, f64::ceil).max(1);
        let (width, height) = (cells(b.width()), cells(b.height()));
        let mut rows = vec![vec![0_u64; width.div_ceil(64)]; height];
        let mut set = |row: usize, from: f64, to: f64| {
            let from = to_cells(from, f64::floor).min(width - 1);
            let to = to_cells(to, f64::ceil).clamp(from + 1, width);
            for x in from..to {
                rows[row][x / 64] |= 1 << (x % 64);
            }
        };
        let mut crossings: Vec<Vec<(f64, i32)>> = vec![vec![]; height];
        for (p, q) in rings.iter().flat_map(Ring::edges) {
            let [p, q] = [p, q].map(|p| [(p.x - b.min.x) / cell, (p.y - b.min.y) / cell]);
            let (low, high) = if p[1] <= q[1] { (p, q) } else { (q, p) };
            let step = if p[1] <= q[1] { 1 } else { -1 };
            let at = |y: f64| {
                let k = if high[1] > low[1] { (y - low[1]) / (high[1] - low[1]) } else { 0.0 };
                low[0] + k.clamp(0.0, 1.0) * (high[0] - low[0])
            };
            let (first, last) = (to_cells(low[1], f64::floor), to_cells(high[1], f64::floor));
            for (row, met) in crossings.iter_mut().enumerate().take(last + 1).skip(first) {
                let (bottom, top) = (row as f64, row as f64 + 1.0);
                let (mut a, mut b) = (at(bottom.max(low[1])), at(top.min(high[1])));
                if high[1] == low[1] {
                    (a, b) = (low[0], high[0]);
                }
                set(row, a.min(b), a.max(b));
                let middle = bottom + 0.5;
                if low[1] <= middle && middle < high[1] {
                    met.push((at(middle), step));
                }
            }
        }
        for (row, met) in crossings.into_iter().enumerate() {
            for (from, to) in kachel_geom::spans_between(met) {
                set(row, from, to);
            }
        }
        Some((Self::new(width, rows.iter().map(|r| runs(r, width)).collect()), b.min.xy()))
    }

    fn new(width: usize, spans: Vec<Vec<(usize, usize)>>) -> Self {
        let mut by_length: Vec<usize> = (0..spans.len()).collect();
        by_length.sort_by_key(|k| std::cmp::Reverse(spans[*k].iter().map(|(from, to)| to - from).sum::<usize>()));
        Self { width, height: spans.len(), spans, by_length }
    }
}

#[expect(
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "held at 0; a bed has thousands of cells at the most"
)]
fn to_cells(v: f64, round: fn(f64) -> f64) -> usize {
    round(v).max(0.0) as usize
}

/// Runs of set bits.
fn runs(row: &[u64], width: usize) -> Vec<(usize, usize)> {
    let mut all: Vec<(usize, usize)> = Vec::new();
    for x in (0..width).filter(|x| row[x / 64] >> (x % 64) & 1 == 1) {
        match all.last_mut() {
            Some((_, to)) if *to == x => *to += 1,
            _ => all.push((x, x + 1)),
        }
    }
    all
}

/// A bed's raster: what lies on it.
#[derive(Clone, Debug)]
pub(crate) struct Field {
    width: usize,
    height: usize,
    rows: Vec<Spread>,
}

/// A row, and the row with each bit spread to the left over 2, 4, 8 ... places. Nothing at all while it is empty.
#[derive(Clone, Debug, Default)]
struct Spread(Vec<Row>);

impl Field {
    pub(crate) fn new(width: usize, height: usize) -> Self {
        Self { width, height, rows: vec![Spread::default(); height] }
    }

    /// Puts an area down with its lower left cell at a place; cells outside the bed are dropped.
    pub(crate) fn put(&mut self, mask: &Mask, at: [isize; 2]) {
        for (k, spans) in mask.spans.iter().enumerate() {
            let Some(row) = at[1].checked_add_unsigned(k).and_then(|y| usize::try_from(y).ok()) else { continue };
            let Some(row) = self.rows.get_mut(row) else { continue };
            let inside = |x: usize| at[0].saturating_add_unsigned(x).max(0).unsigned_abs().min(self.width);
            row.set(self.width, spans.iter().map(|(from, to)| (inside(*from), inside(*to))));
        }
    }

    /// Puts an area down where there is room for it.
    #[expect(clippy::cast_possible_wrap, reason = "a bed has thousands of cells at the most")]
    pub(crate) fn put_at(&mut self, mask: &Mask, at: [usize; 2]) {
        self.put(mask, at.map(|v| v as isize));
    }

    /// The lowest place for the lower left cell of an area, and of these the leftmost; looked for from a row to another.
    pub(crate) fn lowest(&self, mask: &Mask, from: usize, to: usize) -> Option<[usize; 2]> {
        let across = (self.width + 1).saturating_sub(mask.width);
        if across == 0 {
            return None;
        }
        let last = (self.height + 1).checked_sub(mask.height)?.min(to.saturating_add(1));
        let mut free: Row = vec![0; self.width.div_ceil(64)];
        (from..last).find_map(|y| {
            self.free_places(mask, y, across, &mut free);
            let word = free.iter().position(|w| *w != 0)?;
            Some([word * 64 + free[word].trailing_zeros() as usize, y])
        })
    }

    /// Where along a row the lower left cell of an area can lie.
    fn free_places(&self, mask: &Mask, y: usize, across: usize, free: &mut Row) {
        for (k, word) in free.iter_mut().enumerate() {
            let left = across.saturating_sub(k * 64);
            *word = if left >= 64 { u64::MAX } else { (1 << left) - 1 };
        }
        // Rows that cover most come first: where the bed is full, a few of them leave nothing.
        for own in &mask.by_length {
            let Spread(powers) = &self.rows[y + own];
            if powers.is_empty() {
                continue;
            }
            for (from, to) in &mask.spans[*own] {
                // A run is two runs of a power of two that overlap.
                let long = to - from;
                let row = &powers[long.ilog2() as usize];
                take(free, row, *from);
                take(free, row, from + long - (1 << long.ilog2()));
            }
            if free.iter().all(|w| *w == 0) {
                return;
            }
        }
    }
}

impl Spread {
    /// Sets runs of bits.
    fn set(&mut self, width: usize, runs: impl Iterator<Item = (usize, usize)>) {
        let words = width.div_ceil(64);
        let mut row = self.0.first().cloned().unwrap_or_else(|| vec![0; words]);
        for x in runs.flat_map(|(from, to)| from..to) {
            row[x / 64] |= 1 << (x % 64);
        }
        if row.iter().all(|w| *w == 0) {
            return;
        }
        self.0.clear();
        self.0.push(row);
        for power in 0..width.ilog2() {
            let last = &self.0[power as usize];
            let mut next = last.clone();
            add(&mut next, last, 1 << power);
            self.0.push(next);
        }
    }
}

/// The word of a row that has been moved to the left by `words` words and `bits` bits.
fn moved(row: &[u64], k: usize, words: usize, bits: usize) -> u64 {
    let low = row.get(k + words).map_or(0, |w| w >> bits);
    let high = if bits > 0 { row.get(k + words + 1).map_or(0, |w| w << (64 - bits)) } else { 0 };
    low | high
}

/// `to |= row`, moved to the left by `by` places.
fn add(to: &mut Row, row: &[u64], by: usize) {
    to.iter_mut().enumerate().for_each(|(k, t)| *t |= moved(row, k, by / 64, by % 64));
}

/// `free &= !row`, moved to the left by `by` places.
fn take(free: &mut Row, row: &[u64], by: usize) {
    free.iter_mut().enumerate().for_each(|(k, f)| *f &= !moved(row, k, by / 64, by % 64));
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_geom::Point;

    fn ring(points: &[(f64, f64)]) -> Ring<Mm> {
        Ring(points.iter().map(|(x, y)| Point::new(*x, *y)).collect())
    }

    #[test]
    fn a_triangle_covers_every_cell_it_reaches_into() {
        let (m, at) = Mask::of(&[ring(&[(1.0, 1.0), (5.0, 1.0), (1.0, 5.0)])], 1.0).unwrap();
        assert_eq!(at, [1.0, 1.0]);
        assert_eq!((m.width, m.height), (4, 4));
        assert_eq!(m.spans, [[(0, 4)], [(0, 3)], [(0, 2)], [(0, 1)]]);
    }

    #[test]
    fn a_hole_is_free() {
        let outer = ring(&[(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]);
        let hole = ring(&[(2.0, 2.0), (2.0, 8.0), (8.0, 8.0), (8.0, 2.0)]);
        let (m, _) = Mask::of(&[outer, hole], 1.0).unwrap();
        let mut field = Field::new(10, 10);
        field.put(&m, [0, 0]);
        let (small, _) = Mask::of(&[ring(&[(0.0, 0.0), (3.0, 0.0), (3.0, 3.0), (0.0, 3.0)])], 1.0).unwrap();
        assert!(field.lowest(&small, 0, 10).is_some_and(|at| at.iter().all(|v| (2..=5).contains(v))));
    }

    /// Against the plain way: each place, each cell.
    #[test]
    fn places_are_those_that_trying_each_finds() {
        let mut seed = 7_u64;
        let mut next = |n: u64| {
            seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (seed >> 33) % n
        };
        for _ in 0..40 {
            let (w, h) = (100, 30);
            let mut field = Field::new(w, h);
            let mut cells = vec![vec![false; w]; h];
            for _ in 0..next(200) {
                let (x, y) = (next(w as u64) as usize, next(h as u64) as usize);
                cells[y][x] = true;
                field.rows[y].set(w, std::iter::once((x, x + 1)));
            }
            let spans = (0..1 + next(5)).map(|_| {
                let from = next(70) as usize;
                let gap = 71 + next(3) as usize;
                vec![(from, from + 1 + next(71 - from as u64) as usize), (gap, gap + 1 + next(4) as usize)]
            });
            let spans: Vec<_> = spans.collect();
            let mask = Mask::new(80, spans);
            let mut found = None;
            for y in 0..=h - mask.height {
                let mut free = vec![0; 2];
                field.free_places(&mask, y, w + 1 - mask.width, &mut free);
                for x in 0..=w - mask.width {
                    let meets = mask
                        .spans
                        .iter()
                        .enumerate()
                        .any(|(k, s)| s.iter().any(|(a, b)| (*a..*b).any(|c| cells[y + k][x + c])));
                    assert_eq!(free[x / 64] >> (x % 64) & 1 == 0, meets, "{x} {y}");
                    found = found.or((!meets).then_some([x, y]));
                }
            }
            assert_eq!(field.lowest(&mask, 0, h), found);
            let from = found.map_or(0, |[_, y]| y);
            assert_eq!(field.lowest(&mask, from, h), found);
            assert_eq!(field.lowest(&mask, from + 1, from), None);
        }
    }
}
