//! Connected pieces of areas, and where they are thin.

use crate::{BoolOp, Bounds, Mm, OffGrid, Point, Region, Ring, combine, interior_point, normalise, offset};

/// Connected areas, the largest first, each with its outer ring before its holes.
pub fn pieces(area: &Region) -> Vec<Vec<Ring<Mm>>> {
    let rings = normalise(&area.rings_mm(), false);
    let (outer, holes): (Vec<Ring<Mm>>, Vec<Ring<Mm>>) = rings.into_iter().partition(|r| r.area() > 0.0);
    let mut all: Vec<Vec<Ring<Mm>>> = outer.into_iter().map(|r| vec![r]).collect();
    all.sort_by(|a, b| a[0].area().total_cmp(&b[0].area()));
    for hole in holes {
        let inside = interior_point(&[&hole]).unwrap_or(hole.0[0]);
        if let Some(o) = all.iter_mut().find(|o| o[0].contains(inside)) {
            o.push(hole);
        }
    }
    all.reverse();
    all
}

/// The same as regions.
pub fn regions(area: &Region) -> Result<Vec<Region>, OffGrid> {
    pieces(area).iter().map(Region::from_mm).collect()
}

/// What a disc of that radius reaches without leaving the region.
pub fn opened(r: &Region, radius: f64) -> Result<Region, OffGrid> {
    offset(&offset(r, -radius)?, radius)
}

/// Parts of the region that no disc of that diameter reaches, corners left out.
pub fn thin_parts(r: &Region, width: f64) -> Result<Vec<Region>, OffGrid> {
    let thick = opened(r, width / 2.0)?;
    let rest = combine(r, &offset(&thick, 0.02)?, BoolOp::TakeAway)?;
    if rest.is_empty() {
        return Ok(vec![]);
    }
    // The tip of a corner of 60 degrees reaches half the width out of the largest disc in it; what reaches no further is
    // a corner.
    let near = offset(&thick, width / 2.0)?;
    let far = combine(&rest, &near, BoolOp::TakeAway)?;
    let beyond: Vec<Bounds<Mm>> = regions(&far)?.iter().filter_map(Region::bounds).collect();
    let mut out = Vec::new();
    for piece in regions(&rest)? {
        // Hundreds of corners are usual, thin parts are not: only what may be one is looked at closely.
        let may_be = piece.bounds().is_some_and(|b| beyond.iter().any(|f| b.union(*f) == b));
        if may_be && !combine(&piece, &far, BoolOp::Common)?.is_empty() {
            out.push(piece);
        }
    }
    Ok(out)
}

/// Where the region is thinnest, and how wide it is there within a hundredth; corners do not count. `None` where it is
/// `most` mm wide or wider all over.
pub fn thinnest(r: &Region, most: f64) -> Result<Option<(f64, Point<Mm>)>, OffGrid> {
    let place = |width: f64| -> Result<Option<Point<Mm>>, OffGrid> {
        let largest = thin_parts(r, width)?.into_iter().max_by_key(Region::area2_steps);
        Ok(largest.and_then(|p| interior_point(&p.rings_mm().iter().collect::<Vec<_>>())))
    };
    let Some(mut at) = place(most)? else { return Ok(None) };
    let (mut low, mut high) = (0.0, most);
    while high - low > 0.01 * high {
        let middle = (low + high) / 2.0;
        match place(middle)? {
            Some(there) => (high, at) = (middle, there),
            None => low = middle,
        }
    }
    Ok(Some((high, at)))
}
