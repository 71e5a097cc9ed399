use crate::{Bounds, Point, Space};

/// A closed line without a repeated last point.
#[derive(Clone, Debug, PartialEq)]
pub struct Ring<S: Space>(pub Vec<Point<S>>);

impl<S: Space> Ring<S> {
    /// Signed area by the shoelace rule: positive when anticlockwise with y up.
    pub fn area(&self) -> f64 {
        let Some(o) = self.0.first() else { return 0.0 };
        // Relative to the first point, so that far-off small rings keep their digits.
        self.edges().map(|(a, b)| (a.x - o.x) * (b.y - o.y) - (b.x - o.x) * (a.y - o.y)).sum::<f64>() / 2.0
    }

    /// Length of the closed line.
    pub fn perimeter(&self) -> f64 {
        self.edges().map(|(a, b)| a.distance(b)).sum()
    }

    /// The edges, the closing one included.
    pub fn edges(&self) -> impl Iterator<Item = (Point<S>, Point<S>)> + '_ {
        let n = self.0.len();
        (0..n).map(move |i| (self.0[i], self.0[(i + 1) % n]))
    }

    /// The smallest box round the ring.
    pub fn bounds(&self) -> Option<Bounds<S>> {
        Bounds::of(&self.0)
    }

    /// How often the line runs anticlockwise round `p`; undefined on the line.
    pub fn winding(&self, p: Point<S>) -> i32 {
        let step = |(a, b): (Point<S>, Point<S>)| match crosses(a, b, p.y) {
            Some(x) if x > p.x => {
                if b.y > a.y {
                    1
                } else {
                    -1
                }
            }
            _ => 0,
        };
        self.edges().map(step).sum()
    }

    /// Even-odd containment; points on the border may fall to either side.
    pub fn contains(&self, p: Point<S>) -> bool {
        self.edges().filter(|(a, b)| crosses(*a, *b, p.y).is_some_and(|x| x > p.x)).count() % 2 == 1
    }
}

/// Where the half-open edge crosses the horizontal line at `y`.
fn crosses<S: Space>(a: Point<S>, b: Point<S>, y: f64) -> Option<f64> {
    ((a.y > y) != (b.y > y)).then(|| a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x))
}

/// A point well inside the even-odd area of `rings`: the middle of the widest chord among
/// several horizontal cuts. `None` when the rings enclose nothing.
pub fn interior_point<S: Space>(rings: &[&Ring<S>]) -> Option<Point<S>> {
    let b = Bounds::of(rings.iter().flat_map(|r| &r.0))?;
    let mut best: Option<(f64, Point<S>)> = None;
    const CUTS: u32 = 16;
    for i in 0..CUTS {
        // Irrational-looking offset: keeps the cuts off the vertices of drawn grids.
        let y = b.min.y + b.height() * (f64::from(i) + 0.4871) / f64::from(CUTS);
        let mut xs: Vec<f64> = rings.iter().flat_map(|r| r.edges()).filter_map(|(p, q)| crosses(p, q, y)).collect();
        xs.sort_by(f64::total_cmp);
        for chord in xs.chunks_exact(2) {
            let width = chord[1] - chord[0];
            if width > 0.0 && best.is_none_or(|(w, _)| width > w) {
                best = Some((width, Point::new((chord[0] + chord[1]) / 2.0, y)));
            }
        }
    }
    best.map(|(_, p)| p)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Mm;

    fn square(at: f64, side: f64) -> Ring<Mm> {
        Ring(
            [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
                .map(|(x, y)| Point::new(at + x * side, at + y * side))
                .to_vec(),
        )
    }

    #[test]
    fn area_keeps_its_digits_far_from_the_origin() {
        assert_eq!(square(1e9, 1.0).area(), 1.0);
        assert_eq!(square(0.0, 3.0).perimeter(), 12.0);
    }

    #[test]
    fn interior_point_avoids_the_hole() {
        let (outer, hole) = (square(0.0, 10.0), square(1.0, 8.0));
        let p = interior_point(&[&outer, &hole]).unwrap();
        assert!(outer.contains(p) && !hole.contains(p), "{p:?}");
        assert_eq!(interior_point::<Mm>(&[]), None);
    }
}
