use crate::{Mm, Point, Region, Ring, Space};
use rstar::RTree;
use rstar::primitives::Line;

/// The edges of rings, to be asked for the nearest.
pub struct Edges(RTree<Line<[f64; 2]>>);

impl Edges {
    /// All edges of the rings.
    pub fn of<'a, S: Space>(rings: impl IntoIterator<Item = &'a Ring<S>>) -> Self {
        let line = |(a, b): (Point<S>, Point<S>)| Line::new([a.x, a.y], [b.x, b.y]);
        Self(RTree::bulk_load(rings.into_iter().flat_map(Ring::edges).map(line).collect()))
    }

    /// The nearest place on an edge; `None` without edges.
    pub fn nearest<S: Space>(&self, p: Point<S>) -> Option<Point<S>> {
        let at = [p.x, p.y];
        let [x, y] = self.0.nearest_neighbor(at)?.nearest_point(&at);
        Some(Point::new(x, y))
    }

    /// Distance of the nearest edge; infinite without edges.
    pub fn distance<S: Space>(&self, p: Point<S>) -> f64 {
        self.nearest(p).map_or(f64::INFINITY, |q| q.distance(p))
    }
}

/// The two places, one on the border of each region, that are nearest to each other. `None` where one is empty; where the
/// borders cross, the answer is a node close to the crossing.
pub fn nearest_places(a: &Region, b: &Region) -> Option<(Point<Mm>, Point<Mm>)> {
    let (a, b) = (a.rings_mm(), b.rings_mm());
    // The nearest pair of two polygons has a corner of one of them in it.
    let from = |nodes: &[Ring<Mm>], to: &Edges| {
        let all = nodes.iter().flat_map(|r| &r.0).filter_map(|p| to.nearest(*p).map(|q| (*p, q, q.distance(*p))));
        all.min_by(|x, y| x.2.total_cmp(&y.2))
    };
    let forth = from(&a, &Edges::of(&b))?;
    let back = from(&b, &Edges::of(&a))?;
    Some(if forth.2 <= back.2 { (forth.0, forth.1) } else { (back.1, back.0) })
}

#[cfg(test)]
mod tests {
    use super::*;

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
}
