use crate::Contour;
use kachel_geom::{Bounds, Px, Ring, Stopped, Watch};

/// Finds what lies in what, turns every ring so that ink is on its left as seen on the screen, and orders them
/// with parents first.
pub(crate) fn nest(rings: Vec<Ring<Px>>, watch: &Watch) -> Result<Vec<Contour>, Stopped> {
    let mut sized: Vec<(f64, Bounds<Px>, Ring<Px>)> =
        rings.into_iter().filter_map(|r| Some((r.area().abs(), r.bounds()?, r))).collect();
    sized.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut contours: Vec<Contour> = Vec::with_capacity(sized.len());
    for (i, (_, bounds, ring)) in sized.iter().enumerate() {
        watch.step(i, sized.len())?;
        let probe = ring.0[0];
        // The smallest ring round it is the last one before it that holds its first point.
        let parent = (0..i).rev().find(|&j| {
            let (_, outer, around) = &sized[j];
            outer.contains(bounds.min) && outer.contains(bounds.max) && around.contains(probe)
        });
        let is_ink = parent.is_none_or(|p| !contours[p].is_ink);
        let mut ring = ring.clone();
        // With y down, a positive shoelace area runs clockwise on the screen, which keeps the inside on the right.
        if (ring.area() > 0.0) == is_ink {
            ring.0.reverse();
        }
        contours.push(Contour::of_ring(ring, parent, is_ink));
    }
    Ok(contours)
}
