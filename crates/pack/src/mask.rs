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
        let spans = rows.iter().map(|r| runs(r, width)).collect();
        Some((Self { width, height, spans }, b.min.xy()))
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
    rows: Vec<Row>,
}

impl Field {
    pub(crate) fn new(width: usize, height: usize) -> Self {
        Self { width, height, rows: vec![vec![0; width.div_ceil(64)]; height] }
    }

    /// Puts an area down with its lower left cell at a place; cells outside the bed are dropped.
    pub(crate) fn put(&mut self, mask: &Mask, at: [isize; 2]) {
        for (k, spans) in mask.spans.iter().enumerate() {
            let Some(row) = at[1].checked_add_unsigned(k).and_then(|y| usize::try_from(y).ok()) else { continue };
            let Some(row) = self.rows.get_mut(row) else { continue };
            for (from, to) in spans {
                let inside = |x: usize| at[0].saturating_add_unsigned(x).max(0).unsigned_abs().min(self.width);
                for x in inside(*from)..inside(*to) {
                    row[x / 64] |= 1 << (x % 64);
                }
            }
        }
    }

    /// Puts an area down where there is room for it.
    #[expect(clippy::cast_possible_wrap, reason = "a bed has thousands of cells at the most")]
    pub(crate) fn put_at(&mut self, mask: &Mask, at: [usize; 2]) {
        self.put(mask, at.map(|v| v as isize));
    }

    /// Where the lower left cell of an area can lie.
    pub(crate) fn room_for(&self, mask: &Mask) -> Room {
        let mut room = Room::all(self, mask);
        room.narrow(mask, &self.rows, 0);
        room
    }

    /// The rows that an area covers there, alone.
    pub(crate) fn alone(&self, mask: &Mask, at: [usize; 2]) -> Vec<Row> {
        let mut one = Self::new(self.width, mask.height);
        one.put_at(mask, [at[0], 0]);
        one.rows
    }
}

/// Places for the lower left cell of an area: those that are left.
#[derive(Clone, Debug)]
pub(crate) struct Room {
    /// Places across and upwards.
    size: [usize; 2],
    /// Places that are taken, a bit each.
    taken: Vec<Row>,
    /// Rows below this one have none.
    lowest: usize,
}

impl Room {
    fn all(field: &Field, mask: &Mask) -> Self {
        let places = |side: usize, own: usize| (side + 1).saturating_sub(own);
        let size = [places(field.width, mask.width), places(field.height, mask.height)];
        Self { size, taken: vec![vec![0; field.width.div_ceil(64)]; size[1]], lowest: 0 }
    }

    /// Takes out the places at which the area would meet `rows`, the first of which is the bed's row `bottom`.
    pub(crate) fn narrow(&mut self, mask: &Mask, rows: &[Row], bottom: usize) {
        if self.size[0] == 0 {
            return;
        }
        for (k, row) in rows.iter().enumerate() {
            if row.iter().all(|w| *w == 0) {
                continue;
            }
            let y = bottom + k;
            let mut grown = Grown::new(row);
            for (own, spans) in mask.spans.iter().enumerate() {
                let Some(taken) = y.checked_sub(own).and_then(|at| self.taken.get_mut(at)) else { continue };
                for (from, to) in spans {
                    grown.take(taken, *from, to - from);
                }
            }
        }
    }

    /// The lowest place, and of these the leftmost.
    pub(crate) fn lowest(&mut self) -> Option<[usize; 2]> {
        while self.lowest < self.size[1] {
            if let Some(x) = first_free(&self.taken[self.lowest], self.size[0]) {
                return Some([x, self.lowest]);
            }
            self.lowest += 1;
        }
        None
    }
}

fn first_free(row: &[u64], width: usize) -> Option<usize> {
    let word = row.iter().position(|w| *w != u64::MAX)?;
    let x = word * 64 + row[word].trailing_ones() as usize;
    (x < width).then_some(x)
}

/// A row, and the row with each bit spread to the left over 2, 4, 8 ... places, as far as they were asked for.
struct Grown {
    powers: Vec<Row>,
}

impl Grown {
    fn new(row: &Row) -> Self {
        Self { powers: vec![row.clone()] }
    }

    /// Marks the places from which a run of `long` cells, `from` cells to the right, meets a bit.
    fn take(&mut self, taken: &mut Row, from: usize, long: usize) {
        let power = long.ilog2() as usize;
        while self.powers.len() <= power {
            let last = &self.powers[self.powers.len() - 1];
            let by = 1 << (self.powers.len() - 1);
            let mut next = last.clone();
            or_moved(&mut next, last, by);
            self.powers.push(next);
        }
        // A run is two runs of a power of two that overlap.
        let row = &self.powers[power];
        or_moved(taken, row, from);
        or_moved(taken, row, from + long - (1 << power));
    }
}

/// `to |= from`, moved to the left by `by` places.
fn or_moved(to: &mut Row, from: &Row, by: usize) {
    let (words, bits) = (by / 64, by % 64);
    let n = to.len();
    for (k, t) in to.iter_mut().enumerate().take(n.saturating_sub(words)) {
        let low = from[k + words] >> bits;
        let high = if bits > 0 { from.get(k + words + 1).map_or(0, |w| w << (64 - bits)) } else { 0 };
        *t |= low | high;
    }
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
        assert!(field.room_for(&small).lowest().is_some_and(|at| at.iter().all(|v| (2..=5).contains(v))));
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
                field.rows[y][x / 64] |= 1 << (x % 64);
            }
            let spans = (0..1 + next(5)).map(|_| {
                let from = next(70) as usize;
                let gap = 71 + next(3) as usize;
                vec![(from, from + 1 + next(71 - from as u64) as usize), (gap, gap + 1 + next(4) as usize)]
            });
            let spans: Vec<_> = spans.collect();
            let mask = Mask { width: 80, height: spans.len(), spans };
            let room = field.room_for(&mask);
            for y in 0..room.size[1] {
                for x in 0..room.size[0] {
                    let meets = mask
                        .spans
                        .iter()
                        .enumerate()
                        .any(|(k, s)| s.iter().any(|(a, b)| (*a..*b).any(|c| cells[y + k][x + c])));
                    assert_eq!(room.taken[y][x / 64] >> (x % 64) & 1 == 1, meets, "{x} {y}");
                }
            }
        }
    }
}
