use crate::{Mm, OffGrid, Point, Px, Region, Ring, Space};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::simplify::SimplifyShape;
use i_overlay::float::single::SingleFloatOverlay;

/// How two areas are combined.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
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

/// Combines two areas in the picture's space; both are read by the non-zero rule.
pub fn combine_px(a: &[Ring<Px>], b: &[Ring<Px>], op: BoolOp) -> Vec<Ring<Px>> {
    rings(contours(a).overlay(&contours(b), op.rule(), FillRule::NonZero))
}

/// The same area with rings that do not cross, outer ones one way and holes the other.
pub fn normalise<S: Space>(area: &[Ring<S>], even_odd: bool) -> Vec<Ring<S>> {
    rings(contours(area).simplify_shape(if even_odd { FillRule::EvenOdd } else { FillRule::NonZero }))
}
