use crate::point::nearest_on;
use crate::{Mm, Point, Ring};

/// Edges by squares of the plane, to be asked for what is near. Where answers are near, as on a print's lines, this takes a small
/// part of the time of a tree ([`Edges`](crate::Edges)).
pub(crate) struct NearEdges {
    edges: Vec<(Point<Mm>, Point<Mm>)>,
    /// The lower left corner of the first square, mm.
    from: (f64, f64),
    /// Side of a square, mm.
    side: f64,
    columns: usize,
    rows: usize,
    /// Where the edges of each square begin in `held`, and where the last ones end.
    begins: Vec<u32>,
    /// Edges, square by square.
    held: Vec<u32>,
}

/// So many squares for each edge, at most.
const SQUARES_AN_EDGE: f64 = 2.0;
/// No square is smaller, mm.
const LEAST_SIDE_MM: f64 = 0.1;
/// Edges are held by squares that they miss by less than this, of a square's side: rounding loses none.
const ROOM: f64 = 1e-6;

impl NearEdges {
    pub fn of(rings: &[Ring<Mm>]) -> Self {
        let edges: Vec<(Point<Mm>, Point<Mm>)> = rings.iter().flat_map(Ring::edges).collect();
        let ends = || edges.iter().map(|e| e.0);
        let low = ends().fold((f64::INFINITY, f64::INFINITY), |l, p| (l.0.min(p.x), l.1.min(p.y)));
        let high = ends().fold((f64::NEG_INFINITY, f64::NEG_INFINITY), |h, p| (h.0.max(p.x), h.1.max(p.y)));
        let (width, height) = if edges.is_empty() { (0.0, 0.0) } else { (high.0 - low.0, high.1 - low.1) };
        let most = SQUARES_AN_EDGE * edges.len() as f64 + 1.0;
        // A long thin area has few rows: then its length alone decides.
        let side = (width * height / most).sqrt().max(width.max(height) / most).max(LEAST_SIDE_MM);
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "as many as there are edges, or so"
        )]
        let count = |long: f64| (long / side) as usize + 1;
        let mut made = Self {
            edges,
            from: if low.0.is_finite() { low } else { (0.0, 0.0) },
            side,
            columns: count(width),
            rows: count(height),
            begins: vec![],
            held: vec![],
        };
        let mut pairs: Vec<(u32, u32)> = Vec::with_capacity(made.edges.len() * 2);
        for n in 0..made.edges.len() {
            made.squares_of(n, |square| pairs.push((square, n as u32)));
        }
        pairs.sort_unstable();
        made.begins = vec![0; made.columns * made.rows + 1];
        pairs.iter().for_each(|(square, _)| made.begins[*square as usize + 1] += 1);
        (1..made.begins.len()).for_each(|k| made.begins[k] += made.begins[k - 1]);
        made.held = pairs.into_iter().map(|(_, n)| n).collect();
        made
    }

    /// Columns or rows from place to place, held in the range.
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "held in the range")]
    fn squares(&self, low: f64, high: f64, from: f64, count: usize) -> std::ops::RangeInclusive<usize> {
        let at = |v: f64| ((v - from) / self.side).clamp(0.0, (count - 1) as f64) as usize;
        at(low - ROOM * self.side)..=at(high + ROOM * self.side)
    }

    /// All squares through which an edge runs.
    fn squares_of(&self, edge: usize, mut found: impl FnMut(u32)) {
        let (mut a, mut b) = self.edges[edge];
        if a.x > b.x {
            std::mem::swap(&mut a, &mut b);
        }
        for column in self.squares(a.x, b.x, self.from.0, self.columns) {
            // What of the edge lies in this column.
            let left = self.from.0 + column as f64 * self.side;
            let at = |x: f64| {
                let t = if b.x > a.x { ((x - a.x) / (b.x - a.x)).clamp(0.0, 1.0) } else { 0.0 };
                a.y + t * (b.y - a.y)
            };
            let (mut y0, mut y1) = (at(left - ROOM * self.side), at(left + (1.0 + ROOM) * self.side));
            if b.x - a.x < 4.0 * ROOM * self.side {
                (y0, y1) = (a.y, b.y);
            }
            for row in self.squares(y0.min(y1), y0.max(y1), self.from.1, self.rows) {
                found((row * self.columns + column) as u32);
            }
        }
    }

    /// The nearest place on an edge that is nearer than `within` mm.
    pub fn nearest(&self, p: Point<Mm>, within: f64) -> Option<Point<Mm>> {
        let mut least = within * within;
        let mut found = None;
        let columns = self.squares(p.x - within, p.x + within, self.from.0, self.columns);
        for row in self.squares(p.y - within, p.y + within, self.from.1, self.rows) {
            for column in columns.clone() {
                let square = row * self.columns + column;
                for n in &self.held[self.begins[square] as usize..self.begins[square + 1] as usize] {
                    let (a, b) = self.edges[*n as usize];
                    let at = Point::from(nearest_on(p.xy(), a.xy(), b.xy()));
                    let far = (at.x - p.x) * (at.x - p.x) + (at.y - p.y) * (at.y - p.y);
                    if far < least {
                        (least, found) = (far, Some(at));
                    }
                }
            }
        }
        found
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Edges;
    use kachel_oracle::for_all;

    #[test]
    fn finds_what_the_tree_finds() {
        for_all(200, |random| {
            let mut rings: Vec<Ring<Mm>> = vec![];
            for _ in 0..=random.below(4) {
                let (size, flat) = ([0.05, 3.0, 200.0][random.below(3)], [1.0, 1.0, 0.0][random.below(3)]);
                let (x, y) = (random.between(-100.0, 100.0), random.between(-100.0, 100.0));
                let mut corner = |_| Point::new(x + size * random.unit(), y + flat * size * random.unit());
                rings.push(Ring((0..30).map(&mut corner).collect()));
            }
            let (near, tree) = (NearEdges::of(&rings), Edges::of(&rings));
            for _ in 0..200 {
                let p = Point::new(random.between(-130.0, 130.0), random.between(-130.0, 130.0));
                let within = [0.3, 5.0, 400.0][random.below(3)];
                let far = tree.distance(p);
                match near.nearest(p, within) {
                    Some(q) => assert!((q.distance(p) - far).abs() < 1e-9, "{p:?}: {} not {far}", q.distance(p)),
                    None => assert!(far >= within - 1e-9, "{p:?}: nothing within {within}, but {far}"),
                }
            }
        });
        assert!(NearEdges::of(&[]).nearest(Point::new(0.0, 0.0), 1.0).is_none());
    }
}
