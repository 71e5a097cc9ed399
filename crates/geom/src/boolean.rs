use crate::{Mm, OffGrid, Point, Region, Ring, Space};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::simplify::SimplifyShape;
use i_overlay::float::single::SingleFloatOverlay;

/// How two areas are combined.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum BoolOp {
    /// What lies in either.
    Join,
    /// What lies in the first and not in the second.
    TakeAway,
    /// What lies in both.
    Common,
}

impl BoolOp {
    fn rule(self) -> OverlayRule {
        match self {
            Self::Join => OverlayRule::Union,
            Self::TakeAway => OverlayRule::Difference,
            Self::Common => OverlayRule::Intersect,
        }
    }
}

pub(crate) type Contour = Vec<[f64; 2]>;

pub(crate) fn contours<S: Space>(rings: &[Ring<S>]) -> Vec<Contour> {
    rings.iter().map(|r| r.0.iter().map(|p| [p.x, p.y]).collect()).collect()
}

pub(crate) fn rings<S: Space>(shapes: Vec<Vec<Contour>>) -> Vec<Ring<S>> {
    shapes.into_iter().flatten().map(|c| Ring(c.into_iter().map(|[x, y]| Point::new(x, y)).collect())).collect()
}

/// Combines two regions; the result is rounded to the grid.
pub fn combine(a: &Region, b: &Region, op: BoolOp) -> Result<Region, OffGrid> {
    if b.is_empty() || a.is_empty() {
        return Ok(match op {
            BoolOp::Join if a.is_empty() => b.clone(),
            BoolOp::Join | BoolOp::TakeAway => a.clone(),
            BoolOp::Common => Region::default(),
        });
    }
    let shapes = contours(&a.rings_mm()).overlay(&contours(&b.rings_mm()), op.rule(), FillRule::NonZero);
    Region::from_mm(&rings::<Mm>(shapes))
}

/// Everything that lies in any of the regions, in one go; rounded to the grid.
pub fn join_all<'a>(regions: impl IntoIterator<Item = &'a Region>) -> Result<Region, OffGrid> {
    let all: Vec<Ring<Mm>> = regions.into_iter().flat_map(Region::rings_mm).collect();
    Region::from_mm(&normalise(&all, false))
}

/// Combines two areas off the grid; both are read by the non-zero rule.
pub fn combine_rings<S: Space>(a: &[Ring<S>], b: &[Ring<S>], op: BoolOp) -> Vec<Ring<S>> {
    rings(contours(a).overlay(&contours(b), op.rule(), FillRule::NonZero))
}

/// The same area with rings that do not cross, outer ones one way and holes the other.
pub fn normalise<S: Space>(area: &[Ring<S>], even_odd: bool) -> Vec<Ring<S>> {
    rings(contours(area).simplify_shape(if even_odd { FillRule::EvenOdd } else { FillRule::NonZero }))
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::{Random, for_all};

    /// A union of random rectangles on whole millimetres, and the cells that it covers.
    fn blocks(random: &mut Random) -> (Region, [[bool; 12]; 12]) {
        let mut cells = [[false; 12]; 12];
        let mut region = Region::default();
        for _ in 0..=random.below(4) {
            let (x, y) = (random.below(10), random.below(10));
            let (w, h) = (1 + random.below(12 - x - 1), 1 + random.below(12 - y - 1));
            let at = |a: usize, b: usize| Point::new(a as f64, b as f64);
            let ring: Ring<Mm> = Ring(vec![at(x, y), at(x + w, y), at(x + w, y + h), at(x, y + h)]);
            region = combine(&region, &Region::from_mm([&ring]).unwrap(), BoolOp::Join).unwrap();
            cells[y..y + h].iter_mut().for_each(|row| row[x..x + w].fill(true));
        }
        (region, cells)
    }

    #[test]
    fn areas_are_those_of_counted_cells() {
        for_all(400, |random| {
            let ((a, in_a), (b, in_b)) = (blocks(random), blocks(random));
            for (op, keep) in [
                (BoolOp::Join, (|p, q| p || q) as fn(bool, bool) -> bool),
                (BoolOp::TakeAway, |p, q| p && !q),
                (BoolOp::Common, |p, q| p && q),
            ] {
                let cells = in_a.iter().flatten().zip(in_b.iter().flatten()).filter(|(p, q)| keep(**p, **q)).count();
                let got = combine(&a, &b, op).unwrap();
                assert!((got.area_mm2() - cells as f64).abs() < 1e-3, "{op:?}: {} mm2", got.area_mm2());
                // Every cell's middle is classified correctly, and spans add up to the area (cells are 1 mm high).
                let spans: f64 = (0..12).flat_map(|y| got.spans(f64::from(y) + 0.5)).map(|(l, r)| r - l).sum();
                assert!((spans - cells as f64).abs() < 1e-3, "{op:?}: spans of {spans} mm");
                for (y, x) in (0..12).flat_map(|y| (0..12).map(move |x| (y, x))) {
                    let inside = got.winding(Point::new(x as f64 + 0.5, y as f64 + 0.5)) != 0;
                    assert_eq!(inside, keep(in_a[y][x], in_b[y][x]), "{op:?} at {x}, {y}");
                }
            }
        });
    }

    #[test]
    fn many_at_once_are_what_one_after_the_other_gives() {
        for_all(60, |random| {
            let parts: Vec<Region> = (0..6).map(|_| blocks(random).0).collect();
            let one_by_one = parts.iter().fold(Region::default(), |r, p| combine(&r, p, BoolOp::Join).unwrap());
            let area = join_all(&parts).unwrap().area_mm2();
            assert!((area - one_by_one.area_mm2()).abs() < 1e-3);
        });
        assert!(join_all([]).unwrap().is_empty());
    }

    #[test]
    fn nothing_is_neutral() {
        let (some, _) = blocks(&mut Random::new(7));
        let none = Region::default();
        assert_eq!(combine(&some, &none, BoolOp::Join).unwrap(), some);
        assert_eq!(combine(&none, &some, BoolOp::Join).unwrap(), some);
        assert_eq!(combine(&some, &none, BoolOp::TakeAway).unwrap(), some);
        assert!(combine(&none, &some, BoolOp::TakeAway).unwrap().is_empty());
        assert!(combine(&some, &none, BoolOp::Common).unwrap().is_empty());
    }

    #[test]
    fn the_two_fill_rules_differ_where_rings_overlap() {
        let square = |side: f64| {
            Ring::<Mm>(
                [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)].map(|(x, y)| Point::new(x * side, y * side)).to_vec(),
            )
        };
        let area = |even_odd| normalise(&[square(4.0), square(2.0)], even_odd).iter().map(Ring::area).sum::<f64>();
        assert!((area(false) - 16.0).abs() < 1e-6 && (area(true) - 12.0).abs() < 1e-6);
    }
}
