use crate::{Bounds, GRID_PER_MM, GridPoint, LIMIT, Mm, OffGrid, Point, Ring};
use foldhash::{HashMap, HashMapExt};

/// A plane area on the grid: everything with a winding number other than 0 about `rings`.
///
/// Outer rings run anticlockwise, holes clockwise. Rings may cross: the solid kernel resolves that.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash)]
pub struct Region {
    rings: Vec<Vec<GridPoint>>,
}

/// Twice the signed area of a ring in square grid steps.
fn ring_area2_steps(r: &[GridPoint]) -> i128 {
    (0..r.len())
        .map(|i| (r[i], r[(i + 1) % r.len()]))
        .map(|(a, b)| i128::from(a.x()) * i128::from(b.y()) - i128::from(b.x()) * i128::from(a.y()))
        .sum()
}

#[expect(clippy::cast_precision_loss, reason = "2^-53 relative is far below the grid's own rounding")]
fn square_mm(area2_steps: i128) -> f64 {
    area2_steps as f64 / 2.0 / (GRID_PER_MM * GRID_PER_MM)
}

/// Where a line lies in an area: from where to where along it, by the places at which borders cross it and the winding number's step
/// there.
pub fn spans_between(mut crossings: Vec<(f64, i32)>) -> Vec<(f64, f64)> {
    crossings.sort_by(|p, q| p.0.total_cmp(&q.0));
    let (mut winding, mut from, mut spans) = (0, 0.0, Vec::new());
    for (along, step) in crossings {
        if winding == 0 {
            from = along;
        }
        winding += step;
        if winding == 0 && along > from {
            spans.push((from, along));
        }
    }
    spans
}

impl Region {
    /// A region from rings on the grid; repeated points and rings of under three points are dropped.
    pub fn new(rings: impl IntoIterator<Item = Vec<GridPoint>>) -> Self {
        let rings = rings.into_iter().filter_map(|mut ring| {
            ring.dedup();
            while ring.len() > 1 && ring.first() == ring.last() {
                ring.pop();
            }
            (ring.len() >= 3).then_some(ring)
        });
        Self { rings: rings.collect() }
    }

    /// Rounds rings in millimetres to the grid.
    pub fn from_mm<'a>(rings: impl IntoIterator<Item = &'a Ring<Mm>>) -> Result<Self, OffGrid> {
        let rings: Result<Vec<Vec<GridPoint>>, OffGrid> =
            rings.into_iter().map(|r| r.0.iter().map(|p| GridPoint::from_mm(*p)).collect()).collect();
        Ok(Self::new(rings?))
    }

    /// The bounding rings.
    pub fn rings(&self) -> &[Vec<GridPoint>] {
        &self.rings
    }

    /// The bounding rings in millimetres; exact.
    pub fn rings_mm(&self) -> Vec<Ring<Mm>> {
        self.rings.iter().map(|r| Ring(r.iter().map(|p| p.mm()).collect())).collect()
    }

    /// Whether there is nothing in it.
    pub fn is_empty(&self) -> bool {
        self.rings.is_empty()
    }

    /// Number of nodes over all rings.
    pub fn nodes(&self) -> usize {
        self.rings.iter().map(Vec::len).sum()
    }

    /// Twice the signed area in square grid steps; exact. Equals the area of the region when no rings overlap.
    pub fn area2_steps(&self) -> i128 {
        self.rings.iter().map(|r| ring_area2_steps(r)).sum()
    }

    /// Area in square millimetres, under the condition of [`Region::area2_steps`].
    pub fn area_mm2(&self) -> f64 {
        square_mm(self.area2_steps())
    }

    /// The smallest box round the region.
    pub fn bounds(&self) -> Option<Bounds<Mm>> {
        let mut b = Bounds::EMPTY;
        self.rings.iter().flatten().for_each(|p| b.add(p.mm()));
        (!self.is_empty()).then_some(b)
    }

    /// The mirror image about x = 0, still anticlockwise outside.
    #[must_use]
    pub fn mirrored(&self) -> Self {
        Self { rings: self.rings.iter().map(|r| r.iter().rev().map(|p| p.mirrored()).collect()).collect() }
    }

    /// This region with `hole`, which must lie inside it, left out. Nothing is computed: the hole's
    /// rings are added the other way round, so that both keep their very nodes.
    #[must_use]
    pub fn with_hole(&self, hole: &Region) -> Self {
        let reversed = hole.rings.iter().map(|r| r.iter().rev().copied().collect());
        Self { rings: self.rings.iter().cloned().chain(reversed).collect() }
    }

    /// Only the outer rings: the region with its holes filled.
    #[must_use]
    pub fn filled(&self) -> Self {
        let outer = |r: &&Vec<GridPoint>| ring_area2_steps(r) > 0;
        Self { rings: self.rings.iter().filter(outer).cloned().collect() }
    }

    /// The region without rings that enclose less than so much (mm²): small pieces go, small holes are filled. So do loops of
    /// rings that touch themselves in a point. Also how many pieces and holes there were.
    pub fn without_crumbs(&self, least_mm2: f64) -> (Self, [usize; 2]) {
        let mut gone = [0, 0];
        let mut is_kept = |r: &Vec<GridPoint>| {
            let area = square_mm(ring_area2_steps(r));
            if area.abs() >= least_mm2 {
                return true;
            }
            gone[usize::from(area < 0.0)] += 1;
            false
        };
        let mut rings = Vec::with_capacity(self.rings.len());
        for ring in &self.rings {
            let all = loops(ring);
            let count = all.len();
            let kept: Vec<_> = all.into_iter().filter(&mut is_kept).collect();
            if kept.len() == count {
                rings.push(ring.clone());
            } else {
                rings.extend(kept);
            }
        }
        (Self { rings }, gone)
    }

    /// Winding number of the region's rings about `p` (mm); undefined on a ring. [`Inside`](crate::Inside) is for many places.
    pub fn winding(&self, p: Point<Mm>) -> i32 {
        self.rings_mm().iter().map(|ring| ring.winding(p)).sum()
    }

    /// Whether a place (mm) lies in the region or on its border, to the grid's own rounding.
    pub fn holds(&self, p: Point<Mm>) -> bool {
        let is_on = |(a, b): (Point<Mm>, Point<Mm>)| p.distance_to_segment(a, b) <= 2.0 / GRID_PER_MM;
        self.winding(p) != 0 || self.rings_mm().iter().any(|ring| ring.edges().any(is_on))
    }

    /// The spans, in millimetres, in which the horizontal line at `y` (mm) runs inside the region.
    pub fn spans(&self, y: f64) -> Vec<(f64, f64)> {
        self.spans_along(Point::new(0.0, y), 0.0)
    }

    /// The spans in which the line through a point, turned anticlockwise from the x axis, runs inside the region; from that
    /// point, mm.
    pub fn spans_along(&self, through: Point<Mm>, degrees: f64) -> Vec<(f64, f64)> {
        let (sin, cos) = degrees.to_radians().sin_cos();
        let turned = |p: Point<Mm>| {
            let (x, y) = (p.x - through.x, p.y - through.y);
            (x * cos + y * sin, y * cos - x * sin)
        };
        let mut at: Vec<(f64, i32)> = Vec::new();
        for ring in self.rings_mm() {
            for (a, b) in ring.edges() {
                let (a, b) = (turned(a), turned(b));
                if (a.1 > 0.0) != (b.1 > 0.0) {
                    at.push((a.0 - a.1 / (b.1 - a.1) * (b.0 - a.0), if b.1 > a.1 { 1 } else { -1 }));
                }
            }
        }
        spans_between(at)
    }

    /// Whether every node is within the grid's range after moving by `d` millimetres in any direction.
    pub fn has_room_for(&self, d: f64) -> bool {
        let reach = f64::from(LIMIT) - d.abs() * GRID_PER_MM;
        self.rings.iter().flatten().all(|p| f64::from(p.x().abs()) <= reach && f64::from(p.y().abs()) <= reach)
    }
}

/// A ring as loops that pass no point twice.
fn loops(ring: &[GridPoint]) -> Vec<Vec<GridPoint>> {
    let mut all = Vec::new();
    let mut path: Vec<GridPoint> = Vec::with_capacity(ring.len());
    let mut places: HashMap<GridPoint, usize> = HashMap::with_capacity(ring.len());
    for &p in ring {
        if let Some(&from) = places.get(&p) {
            let closed = path.split_off(from);
            for q in &closed {
                places.remove(q);
            }
            all.push(closed);
        }
        places.insert(p, path.len());
        path.push(p);
    }
    all.push(path);
    // There and back encloses nothing.
    all.retain(|l| l.len() > 2);
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    fn rect(x0: f64, y0: f64, x1: f64, y1: f64) -> Region {
        let ring = Ring([(x0, y0), (x1, y0), (x1, y1), (x0, y1)].map(|(x, y)| Point::new(x, y)).to_vec());
        Region::from_mm([&ring]).unwrap()
    }

    #[test]
    fn ring_shaped_region_has_the_difference_of_the_areas() {
        let ring = rect(-5.0, -5.0, 5.0, 5.0).with_hole(&rect(-3.0, -3.0, 3.0, 3.0));
        assert_eq!(ring.area_mm2(), 64.0);
        assert_eq!(ring.filled().area_mm2(), 100.0);
        assert_eq!(ring.spans(0.1), vec![(-5.0, -3.0), (3.0, 5.0)]);
        assert_eq!(ring.winding(Point::new(0.0, 0.0)), 0);
        assert_eq!(ring.winding(Point::new(4.0, 0.0)), 1);
    }

    #[test]
    fn a_region_holds_its_border_wherever_that_is_passed() {
        let ring = rect(-5.0, -5.0, 5.0, 5.0).with_hole(&rect(-3.0, -3.0, 3.0, 3.0));
        for at in [-5.0, -4.0, -3.0, 3.0, 4.0, 5.0] {
            assert!(
                ring.holds(Point::new(at, at)) && ring.holds(Point::new(at, -at)) && ring.holds(Point::new(0.0, at))
            );
        }
        for out in [0.0, 2.999, -2.999, 5.001, -5.001] {
            assert!(!ring.holds(Point::new(out, 0.0)) && !ring.holds(Point::new(out, out)), "{out}");
        }
    }

    #[test]
    fn mirroring_twice_is_the_identity_and_keeps_the_area() {
        let r = rect(1.0, 0.0, 4.0, 2.5);
        assert_eq!(r.mirrored().area2_steps(), r.area2_steps());
        assert_eq!(r.mirrored().mirrored(), r);
        assert_eq!(r.mirrored().bounds().unwrap().max.x, -1.0);
    }

    #[test]
    fn a_crumb_that_touches_its_piece_in_a_point_goes_too() {
        // One ring: a square with a tiny triangle on its corner, as unions leave it.
        let ring = |places: &[(f64, f64)]| Ring(places.iter().map(|(x, y)| Point::new(*x, *y)).collect());
        let square = [(0.0, 0.0), (4.0, 0.0), (4.0, 4.0)];
        let crumb = [(4.1, 4.0), (4.1, 4.1), (4.0, 4.0), (0.0, 4.0)];
        let both = Region::from_mm([&ring(&[&square[..], &crumb[..]].concat())]).unwrap();
        let (left, gone) = both.without_crumbs(0.16);
        assert_eq!((left.area_mm2(), left.nodes(), gone), (16.0, 4, [1, 0]));
        // What touches and is large enough stays as it is, and so does a way there and back.
        let large = [(6.0, 4.0), (6.0, 6.0), (4.0, 4.0), (0.0, 4.0)];
        let both = Region::from_mm([&ring(&[&square[..], &large[..]].concat())]).unwrap();
        assert_eq!(both.without_crumbs(0.16), (both, [0, 0]));
        let spiked = Region::from_mm([&ring(&[&square[..], &[(5.0, 5.0), (4.0, 4.0), (0.0, 4.0)]].concat())]).unwrap();
        assert_eq!(spiked.without_crumbs(0.16), (spiked, [0, 0]));
    }
}
