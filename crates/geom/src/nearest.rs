use crate::point::nearest_on;
use crate::{Mm, Point, Region, Ring, Space};

/// So many edges, or boxes of the level below, lie in a box.
const FAN: usize = 8;

/// A box: least x and y, greatest x and y.
type Box4 = [f64; 4];

/// The edges of rings, to be asked for the nearest. Edges that follow each other lie near each other, so boxes round each eight of them,
/// and round each eight of these, are a tree that needs no sorting.
pub struct Edges {
    lines: Vec<[[f64; 2]; 2]>,
    /// Boxes round edges first, then round boxes; the last level is one box.
    levels: Vec<Vec<Box4>>,
}

impl Edges {
    /// All edges of the rings.
    pub fn of<'a, S: Space>(rings: impl IntoIterator<Item = &'a Ring<S>>) -> Self {
        let line = |(a, b): (Point<S>, Point<S>)| [a.xy(), b.xy()];
        let lines: Vec<_> = rings.into_iter().flat_map(Ring::edges).map(line).collect();
        let round = |boxes: &[Box4]| {
            let join = |a: Box4, b: &Box4| [a[0].min(b[0]), a[1].min(b[1]), a[2].max(b[2]), a[3].max(b[3])];
            boxes.iter().skip(1).fold(boxes[0], join)
        };
        let box_of = |[[ax, ay], [bx, by]]: &[[f64; 2]; 2]| [ax.min(*bx), ay.min(*by), ax.max(*bx), ay.max(*by)];
        let mut level: Vec<Box4> =
            lines.chunks(FAN).map(|c| round(&c.iter().map(box_of).collect::<Vec<_>>())).collect();
        let mut levels = Vec::new();
        while level.len() > 1 {
            let next = level.chunks(FAN).map(round).collect();
            levels.push(std::mem::replace(&mut level, next));
        }
        levels.push(level);
        Self { lines, levels }
    }

    /// The nearest place on an edge; `None` without edges.
    pub fn nearest<S: Space>(&self, p: Point<S>) -> Option<Point<S>> {
        self.nearer(p, f64::INFINITY).map(|(q, _)| q)
    }

    /// Distance of the nearest edge; infinite without edges.
    pub fn distance<S: Space>(&self, p: Point<S>) -> f64 {
        self.nearest(p).map_or(f64::INFINITY, |q| q.distance(p))
    }

    /// The nearest place on an edge and how far it is, if that is less than `most`.
    pub fn nearer<S: Space>(&self, p: Point<S>, most: f64) -> Option<(Point<S>, f64)> {
        let mut best = (most * most, None);
        let top = self.levels.len() - 1;
        if !self.lines.is_empty() {
            self.descend(p.xy(), top, 0, &mut best);
        }
        best.1.map(|[x, y]| (Point::new(x, y), best.0.sqrt()))
    }

    /// Looks through the box `k` of a level, the nearest of what is in it first.
    fn descend(&self, p: [f64; 2], level: usize, k: usize, best: &mut (f64, Option<[f64; 2]>)) {
        let Some(below) = level.checked_sub(1) else {
            for [a, b] in &self.lines[k * FAN..self.lines.len().min((k + 1) * FAN)] {
                let q = nearest_on(p, *a, *b);
                let off = (q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]);
                if off < best.0 {
                    *best = (off, Some(q));
                }
            }
            return;
        };
        let all = &self.levels[below];
        let (first, end) = (k * FAN, all.len().min((k + 1) * FAN));
        let mut near = [(f64::INFINITY, 0); FAN];
        for (slot, child) in near.iter_mut().zip(first..end) {
            *slot = (off_box(&all[child], p), child);
        }
        let near = &mut near[..end - first];
        near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0));
        for &(off, child) in near.iter() {
            if off >= best.0 {
                return;
            }
            self.descend(p, below, child, best);
        }
    }
}

/// The square of how far a point is from a box.
fn off_box([x0, y0, x1, y1]: &Box4, [x, y]: [f64; 2]) -> f64 {
    let (dx, dy) = ((x0 - x).max(x - x1).max(0.0), (y0 - y).max(y - y1).max(0.0));
    dx * dx + dy * dy
}

/// The two places, one on the border of each region, that are nearest to each other. `None` where one is empty; where the
/// borders cross, the answer is a node close to the crossing.
pub fn nearest_places(a: &Region, b: &Region) -> Option<(Point<Mm>, Point<Mm>)> {
    let (a, b) = (a.rings_mm(), b.rings_mm());
    // The nearest pair of two polygons has a corner of one of them in it. What is no nearer than the best so far is not looked for.
    let from = |nodes: &[Ring<Mm>], to: &Edges, most: f64| {
        let mut best: Option<(Point<Mm>, Point<Mm>, f64)> = None;
        for p in nodes.iter().flat_map(|r| &r.0) {
            let bound = best.map_or(most, |b| b.2);
            if let Some((q, off)) = to.nearer(*p, bound) {
                best = Some((*p, q, off));
            }
        }
        best
    };
    let forth = from(&a, &Edges::of(&b), f64::INFINITY)?;
    Some(match from(&b, &Edges::of(&a), forth.2) {
        Some(back) => (back.1, back.0),
        None => (forth.0, forth.1),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::for_all;
    use rstar::RTree;
    use rstar::primitives::Line;

    #[test]
    fn a_corner_is_nearest_to_the_middle_of_an_edge() {
        let region =
            |p: &[(f64, f64)]| Region::from_mm([&Ring(p.iter().map(|(x, y)| Point::new(*x, *y)).collect())]).unwrap();
        let square = region(&[(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]);
        let tip = region(&[(13.0, 4.0), (20.0, 0.0), (20.0, 8.0)]);
        let (a, b) = nearest_places(&square, &tip).unwrap();
        assert_eq!(((a.x, a.y), (b.x, b.y)), ((10.0, 4.0), (13.0, 4.0)));
        let (b, a) = nearest_places(&tip, &square).unwrap();
        assert_eq!(((a.x, a.y), (b.x, b.y)), ((10.0, 4.0), (13.0, 4.0)));
        assert!(nearest_places(&square, &Region::default()).is_none());
    }

    #[test]
    fn the_nearest_edge_is_that_of_a_tree_of_the_registry() {
        for_all(60, |random| {
            let n = 3 + (random.unit() * 400.0) as usize;
            let rings: Vec<Ring<Mm>> = (0..1 + (random.unit() * 4.0) as usize)
                .map(|_| {
                    let mut at = (random.unit() * 100.0, random.unit() * 100.0);
                    // A walk, now and then on the spot, so that edges of no length are met too.
                    let mut step = || {
                        let by = if random.unit() < 0.05 { 0.0 } else { 4.0 };
                        at.0 += by * (random.unit() - 0.5);
                        at.1 += by * (random.unit() - 0.5);
                        Point::new(at.0, at.1)
                    };
                    Ring((0..n).map(|_| step()).collect())
                })
                .collect();
            let edges = Edges::of(&rings);
            let line = |(a, b): (Point<Mm>, Point<Mm>)| Line::new([a.x, a.y], [b.x, b.y]);
            let tree = RTree::bulk_load(rings.iter().flat_map(Ring::edges).map(line).collect());
            for _ in 0..50 {
                let p = Point::<Mm>::new(random.unit() * 130.0 - 15.0, random.unit() * 130.0 - 15.0);
                let theirs = tree.nearest_neighbor([p.x, p.y]).unwrap().nearest_point(&[p.x, p.y]);
                let far = Point::<Mm>::new(theirs[0], theirs[1]).distance(p);
                assert!((edges.distance(p) - far).abs() < 1e-9, "{p:?}");
                assert!(edges.nearer(p, far * (1.0 - 1e-9)).is_none_or(|(_, off)| off <= far));
                assert!(edges.nearer(p, far + 1e-6).is_some());
            }
        });
        assert!(Edges::of::<Mm>(&[]).nearest(Point::<Mm>::new(0.0, 0.0)).is_none());
    }
}
