//! Connected pieces of areas, and where they are thin.

use crate::near::NearEdges;
use crate::simplify::simplify_line;
use crate::width::{maybe_thin, thin_lines};
use crate::{
    ARC_TOLERANCE_MM, BoolOp, Bounds, Inside, Mm, OffGrid, Point, Region, Ring, combine, interior_point, join_all,
    normalise, offset, stroke,
};
use rayon::prelude::*;

/// Connected areas, the largest first, each with its outer ring before its holes.
pub fn pieces(area: &Region) -> Vec<Vec<Ring<Mm>>> {
    let rings = normalise(&area.rings_mm(), false);
    let mut all: Vec<Vec<Ring<Mm>>> =
        nested(&rings).into_iter().map(|of| of.into_iter().map(|k| rings[k].clone()).collect()).collect();
    all.sort_by(|a, b| b[0].area().total_cmp(&a[0].area()));
    all
}

/// Rings that do not cross, by connected area: an outer one, then its holes. A hole goes to the smallest outer ring round all of it;
/// of an island in it, a point of the hole alone would say that it lies round the hole.
fn nested(rings: &[Ring<Mm>]) -> Vec<Vec<usize>> {
    let boxes: Vec<Option<Bounds<Mm>>> = rings.iter().map(Ring::bounds).collect();
    let (outer, holes): (Vec<usize>, Vec<usize>) = (0..rings.len()).partition(|k| rings[*k].area() > 0.0);
    let mut all: Vec<Vec<usize>> = outer.into_iter().map(|k| vec![k]).collect();
    for hole in holes {
        let (Some(inside), Some(b)) = (interior_point(&[&rings[hole]]), boxes[hole]) else { continue };
        let is_round =
            |of: &&mut Vec<usize>| boxes[of[0]].is_some_and(|o| o.union(b) == o) && rings[of[0]].contains(inside);
        let round = all.iter_mut().filter(is_round);
        if let Some(of) = round.min_by(|a, b| rings[a[0]].area().total_cmp(&rings[b[0]].area())) {
            of.push(hole);
        }
    }
    all
}

/// The same as regions.
pub fn regions(area: &Region) -> Result<Vec<Region>, OffGrid> {
    pieces(area).iter().map(Region::from_mm).collect()
}

/// The same of a region whose rings do not cross, such as a layer, in the order of its outer rings; nothing is computed anew.
pub fn connected(area: &Region) -> Vec<Region> {
    let of = |of: Vec<usize>| Region::new(of.into_iter().map(|k| area.rings()[k].clone()));
    nested(&area.rings_mm()).into_iter().map(of).collect()
}

/// What a disc of that radius reaches without leaving the region.
pub fn opened(r: &Region, radius: f64) -> Result<Region, OffGrid> {
    offset(&offset(r, -radius)?, radius)
}

/// Parts of the region that no disc of that diameter reaches, corners left out.
pub fn thin_parts(r: &Region, width: f64) -> Result<Vec<Region>, OffGrid> {
    let rings = r.rings_mm();
    let long: f64 = rings.iter().map(Ring::perimeter).sum();
    if long / width > f64::from(MOST_WIDTHS) + r.nodes() as f64 {
        return thin_parts_closely(r, width);
    }
    // Most areas have none or few, and where they may be is known in a tenth of the time.
    let places = maybe_thin(&rings, width);
    if places.is_empty() {
        return Ok(vec![]);
    }
    if places.len() > MOST_PLACES {
        return thin_parts_closely(r, width);
    }
    let near = combine(r, &squares(&places, AROUND * width)?, BoolOp::Common)?;
    let mut parts = thin_parts_closely(&near, width)?;
    // Where it was cut off it has corners of its own.
    parts.retain(|part| {
        let edges = NearEdges::of(&part.rings_mm());
        places.iter().any(|p| edges.nearest(*p, REACH * width).is_some())
    });
    Ok(parts)
}

/// What lies around places that may be thin is looked at up to so many widths away. No disc of that width that could reach a thin part
/// lies further off than two.
const AROUND: f64 = 3.5;
/// A thin part comes so near to such a place, widths.
const REACH: f64 = 1.5;
/// A border that is so many widths long, and as many more as the area has nodes, is not looked at place by place.
const MOST_WIDTHS: u32 = 2000;
/// Where there are more places than this, what lies around them is most of the whole.
const MOST_PLACES: usize = 400;

/// Squares around places, `half` or a little more from the middle to the side, as one area.
fn squares(places: &[Point<Mm>], half: f64) -> Result<Region, OffGrid> {
    // One for all that are near each other.
    let cell = half / AROUND;
    let mut cells: Vec<[i64; 2]> = places.iter().map(|p| [p.x, p.y].map(|v| (v / cell).floor() as i64)).collect();
    cells.sort_unstable();
    cells.dedup();
    let square = |at: [i64; 2]| {
        let [min, max] = [0.0, 1.0].map(|k| Point::new((at[0] as f64 + k) * cell, (at[1] as f64 + k) * cell));
        Ring(Bounds { min, max }.grown(half).corners().to_vec())
    };
    let all: Vec<Ring<Mm>> = cells.into_iter().map(square).collect();
    join_all([&Region::from_mm(&all)?])
}

/// The same without a look where they may be: as fast for small areas, and for widths that are small beside the border's length.
fn thin_parts_closely(r: &Region, width: f64) -> Result<Vec<Region>, OffGrid> {
    let thick = opened(r, width / 2.0)?;
    if thick.is_empty() {
        return regions(r);
    }
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

/// The region with whatever is thinner than `width` made that wide. Tips of corners do not count as thin.
pub fn thickened(r: &Region, width: f64) -> Result<Region, OffGrid> {
    let thin = thin_parts(r, width)?;
    // Most are thick enough.
    if thin.is_empty() {
        return Ok(r.clone());
    }
    let around: Vec<Ring<Mm>> = thin.iter().flat_map(Region::rings_mm).collect();
    let lines = thin_lines(&r.rings_mm(), &NearEdges::of(&around), width);
    let wide = |line: &Vec<Point<Mm>>| {
        let mut line = simplify_line(line, ARC_TOLERANCE_MM);
        if line.iter().all(|p| p.distance(line[0]) < ARC_TOLERANCE_MM) {
            // A line of no length has no ends to round.
            line = vec![line[0], Point::new(line[0].x + ARC_TOLERANCE_MM, line[0].y)];
        }
        stroke(&line, width, false)
    };
    let along: Vec<Region> = lines.par_iter().map(wide).collect::<Result<_, _>>()?;
    // In a round part, or one that is all bumps, discs are stopped anywhere.
    let has_line = |part: &Region| {
        let within = Inside::of(part);
        lines.iter().flatten().any(|p| within.has(*p))
    };
    let whole = |part: &Region| offset(part, width / 2.0 - inner_radius(part, width / 2.0)?);
    let others: Vec<Region> = thin.par_iter().filter(|part| !has_line(part)).map(whole).collect::<Result<_, _>>()?;
    join_all(std::iter::once(r).chain(&along).chain(&others))
}

/// The radius of the largest disc in a region, within a twentieth of `most`, never more than it is.
fn inner_radius(r: &Region, most: f64) -> Result<f64, OffGrid> {
    let (mut low, mut high) = (0.0, most);
    while high - low > most / 20.0 {
        let middle = f64::midpoint(low, high);
        *if offset(r, -middle)?.is_empty() { &mut high } else { &mut low } = middle;
    }
    Ok(low)
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::stroke;
    use kachel_oracle::{Random, for_all};
    use std::cell::Cell;
    use std::f64::consts::TAU;

    #[test]
    fn connected_areas_are_those_of_the_arrangement() {
        // Frames within frames and beside each other.
        for_all(100, |random| {
            let mut all = Region::default();
            for k in 0..4 {
                let (x, half) = (f64::from(k) * 50.0, 10.0 + 12.0 * random.unit());
                let mut half_now = half;
                while half_now > 1.5 {
                    let square = |half: f64| {
                        let corner = |(a, b): (f64, f64)| Point::<Mm>::new(x + a * half, b * half);
                        Region::from_mm([&Ring([(-1., -1.), (1., -1.), (1., 1.), (-1., 1.)].map(corner).to_vec())])
                            .unwrap()
                    };
                    let thick = (0.2 + 0.7 * random.unit()).min(half_now - 0.5);
                    let frame = square(half_now).with_hole(&square(half_now - thick));
                    all = Region::new(all.rings().iter().chain(frame.rings()).cloned());
                    half_now -= thick + 0.3 + 2.0 * random.unit();
                }
            }
            let mut ours: Vec<i128> = connected(&all).iter().map(Region::area2_steps).collect();
            let mut theirs: Vec<i128> = regions(&all).unwrap().iter().map(Region::area2_steps).collect();
            ours.sort_unstable();
            theirs.sort_unstable();
            assert_eq!(ours, theirs);
        });
        assert!(connected(&Region::default()).is_empty());
    }

    /// Blobs joined by strands, with bays, spikes and holes; some of them all wide, some with one thin place.
    fn drawn(random: &mut Random) -> Region {
        let blob = |random: &mut Random, x: f64, y: f64, r: f64| {
            let (n, rough) = ([3, 4, 7, 40, 150][random.below(5)], [0.0, 0.1, 0.5][random.below(3)]);
            let (from, sharp) = (TAU * random.unit(), 1.0 + 5.0 * random.unit());
            let at = |k: u32, wobble: f64| {
                let a = from + TAU * f64::from(k) / f64::from(n);
                let r = r * (1.0 - rough * (0.5 + 0.5 * (sharp * a).sin()) * wobble);
                Point::<Mm>::new(x + r * a.cos(), y + r * a.sin())
            };
            Region::from_mm([&Ring((0..n).map(|k| at(k, random.unit())).collect())]).unwrap()
        };
        let r = random.between(0.2, 9.0);
        let mut all = blob(random, 0.0, 0.0, r);
        for _ in 0..random.below(5) {
            let (x, y, r) = (random.between(-9.0, 9.0), random.between(-9.0, 9.0), random.between(0.1, 5.0));
            let op = [BoolOp::Join, BoolOp::Join, BoolOp::TakeAway][random.below(3)];
            all = combine(&all, &blob(random, x, y, r), op).unwrap();
            if random.below(2) == 0 {
                let strand = [Point::new(0.0, 0.0), Point::new(x, y)];
                all = join_all([&all, &stroke(&strand, random.between(0.3, 2.0), false).unwrap()]).unwrap();
            }
        }
        all
    }

    #[test]
    fn thin_parts_near_places_that_may_be_thin_are_those_of_the_whole() {
        let [wide, thin] = [const { Cell::new(0) }; 2];
        for_all(400, |random| {
            let (area, width) = (drawn(random), random.between(0.3, 2.0));
            let (ours, whole) = (thin_parts(&area, width).unwrap(), thin_parts_closely(&area, width).unwrap());
            let areas = |parts: &[Region]| {
                let mut areas: Vec<f64> = parts.iter().map(Region::area_mm2).collect();
                areas.sort_by(f64::total_cmp);
                areas
            };
            // Borders are simplified from other nodes on.
            let is_same = |(a, b): (&f64, &f64)| (a - b).abs() < 0.05 * a.max(0.2);
            let (ours, whole) = (areas(&ours), areas(&whole));
            assert!(
                ours.len() == whole.len() && ours.iter().zip(&whole).all(is_same),
                "thinner than {width}: {ours:?}, not {whole:?}, of {:?}",
                area.bounds()
            );
            let kind = if ours.is_empty() { &wide } else { &thin };
            kind.set(kind.get() + 1);
        });
        assert!(wide.get() > 60 && thin.get() > 60, "{wide:?} wide, {thin:?} thin");
    }

    #[test]
    fn what_was_thin_is_as_wide_as_asked_for_and_nothing_else_grows() {
        let grown = Cell::new(0);
        for_all(300, |random| {
            let (area, width) = (drawn(random), random.between(0.3, 2.0));
            let thin = join_all(&thin_parts(&area, width).unwrap()).unwrap();
            let thick = thickened(&area, width).unwrap();
            let less = |a: &Region, b: &Region| combine(a, b, BoolOp::TakeAway).unwrap();
            assert!(less(&area, &thick).area_mm2() < 1e-3, "something went");
            let around = offset(&thin, width / 2.0 + 0.03).unwrap();
            let far = less(&less(&thick, &area), &around);
            assert!(far.area_mm2() < 1e-3, "{} mm2 grew far from what is thin", far.area_mm2());
            let was_thin = |part: &&Region| combine(part, &thin, BoolOp::Common).unwrap().area_mm2() > 1e-3;
            let still = thin_parts(&thick, 0.95 * width).unwrap();
            let left: f64 = still.iter().filter(was_thin).map(Region::area_mm2).sum();
            assert!(left < 0.02 * width * width, "{left} mm2 are still thinner than 0.95 of {width}");
            grown.set(grown.get() + usize::from(!thin.is_empty()));
        });
        assert!(grown.get() > 60, "{grown:?}");
    }
}
