use crate::boolean::rings;
use crate::parallel::{Corner, beside, widest_chord};
use crate::{BoolOp, Bounds, GRID_PER_MM, GridPoint, Mm, OffGrid, Point, Region, Ring, combine, join_all, simplify};
use clipper2_rust::{FillRule, Paths64, Point64, union_subjects_64};
use i_overlay::mesh::float::stroke::offset::StrokeOffset;
use i_overlay::mesh::float::style::{LineCap, LineJoin, StrokeStyle};
use rayon::prelude::*;

/// Largest distance (Hausdorff, mm) by which a region is simplified before it is offset. Time grows with the square of
/// the nodes where they lie closer than the offset is wide: 10 000 nodes took 4 s before and take 30 ms now.
pub const SOURCE_DEVIATION_MM: f64 = 0.005;

/// Everything within `d` mm of the region (`d` > 0), or what is left of it at least `-d` mm from its border
/// (`d` < 0). Corners are rounded, within [`ARC_TOLERANCE_MM`](crate::ARC_TOLERANCE_MM); the region's own line is followed within
/// [`SOURCE_DEVIATION_MM`]; nodes are rounded to the grid.
pub fn offset(region: &Region, d: f64) -> Result<Region, OffGrid> {
    offset_with(region, d, Corner::Round)
}

/// The same with other corners.
pub fn offset_with(region: &Region, d: f64, corner: Corner) -> Result<Region, OffGrid> {
    if !region.has_room_for(d) {
        return Err(OffGrid { mm: d });
    }
    if region.is_empty() || d == 0.0 {
        return Ok(region.clone());
    }
    let source: Vec<Ring<Mm>> = region.rings_mm().iter().map(|r| simplify(r, SOURCE_DEVIATION_MM)).collect();
    let source = Region::from_mm(&source)?;
    let inflated = |rings: &[Vec<GridPoint>], d: f64| -> Result<Region, OffGrid> {
        let lines: Paths64 = rings.iter().map(|ring| beside(ring, d * GRID_PER_MM, corner)).collect();
        let grown = union_subjects_64(&lines, FillRule::Positive);
        let point = |p: &Point64| {
            let at = i32::try_from(p.x).ok().zip(i32::try_from(p.y).ok());
            at.and_then(|(x, y)| GridPoint::new(x, y)).ok_or(OffGrid { mm: d })
        };
        let rings: Result<Vec<Vec<GridPoint>>, OffGrid> = grown.iter().map(|r| r.iter().map(point).collect()).collect();
        Ok(Region::new(rings?))
    };
    if source.rings().len() <= TOGETHER {
        return inflated(source.rings(), d);
    }
    ring_by_ring(&join_all([&source])?, d, inflated)
}

/// Regions of more rings are offset ring by ring: the library takes the square of the rings (5000 discs: 1.7 s), a ring takes
/// microseconds.
const TOGETHER: usize = 64;

/// Level by level from the outside: outer rings' offsets join what there is, those of holes, taken as areas, are left out of it. `offset`
/// gives that of an area. Rings of the region do not cross.
fn ring_by_ring(
    region: &Region,
    d: f64,
    offset: impl Fn(&[Vec<GridPoint>], f64) -> Result<Region, OffGrid> + Sync,
) -> Result<Region, OffGrid> {
    let depths = depths(region);
    let own = |(ring, depth): (&Vec<GridPoint>, &usize)| {
        if depth % 2 == 0 {
            offset(std::slice::from_ref(ring), d)
        } else {
            offset(&[ring.iter().rev().copied().collect()], -d)
        }
    };
    let offsets: Vec<Region> = region.rings().par_iter().zip(&depths).map(own).collect::<Result<_, _>>()?;
    let mut whole = Region::default();
    for level in 0..=depths.iter().copied().max().unwrap_or(0) {
        let parts: Vec<&Region> = offsets.iter().zip(&depths).filter(|(_, k)| **k == level).map(|(r, _)| r).collect();
        // What shrinks stays apart.
        let all = if (level % 2 == 0) == (d > 0.0) {
            join_many(&parts)?
        } else {
            Region::new(parts.iter().flat_map(|r| r.rings().iter().cloned()))
        };
        whole = combine(&whole, &all, if level % 2 == 0 { BoolOp::Join } else { BoolOp::TakeAway })?;
    }
    Ok(whole)
}

/// How many other rings each ring lies in: outer ones in an even number of them.
fn depths(region: &Region) -> Vec<usize> {
    let rings: Vec<(Ring<Mm>, Bounds<Mm>)> =
        region.rings_mm().into_iter().filter_map(|r| r.bounds().map(|b| (r, b))).collect();
    let depth = |k: usize| {
        let (own, _) = &rings[k];
        let is_hole = own.area() < 0.0;
        let round = |p: Point<Mm>| {
            let others = rings.iter().enumerate().filter(|(j, (_, b))| *j != k && b.has(p));
            others.filter(|(_, (r, _))| r.contains(p)).count()
        };
        // A node may lie on the ring that is touched there: another one tells.
        let fits = own.0.iter().map(|p| round(*p)).find(|n| (n % 2 == 1) == is_hole);
        fits.unwrap_or(usize::from(is_hole))
    };
    (0..rings.len()).into_par_iter().map(depth).collect()
}

/// So many areas are joined at a time.
const AT_A_TIME: usize = 48;

/// Everything that lies in any of many regions: neighbours first, so that what lies inside is gone before far ones meet.
fn join_many(regions: &[&Region]) -> Result<Region, OffGrid> {
    let middle = |r: &&Region| r.bounds().map(|b| b.centre());
    let mut placed: Vec<(Point<Mm>, &Region)> = regions.iter().filter_map(|r| Some((middle(r)?, *r))).collect();
    let strips = (placed.len() / AT_A_TIME).isqrt() + 1;
    placed.sort_by(|a, b| a.0.x.total_cmp(&b.0.x));
    let wide = placed.len().div_ceil(strips).max(1);
    placed.chunks_mut(wide).for_each(|strip| strip.sort_by(|a, b| a.0.y.total_cmp(&b.0.y)));
    let mut all: Vec<Region> =
        placed.par_chunks(AT_A_TIME).map(|some| join_all(some.iter().map(|s| s.1))).collect::<Result<_, _>>()?;
    while all.len() > 1 {
        all = all.par_chunks(AT_A_TIME).map(join_all).collect::<Result<_, _>>()?;
    }
    Ok(all.pop().unwrap_or_default())
}

/// A line `width` mm wide along the points, with round ends and joins, within [`ARC_TOLERANCE_MM`](crate::ARC_TOLERANCE_MM).
pub fn stroke(points: &[Point<Mm>], width: f64, is_closed: bool) -> Result<Region, OffGrid> {
    let chord = widest_chord(width / 2.0);
    let style = StrokeStyle::new(width)
        .line_join(LineJoin::Round(chord))
        .start_cap(LineCap::Round(chord))
        .end_cap(LineCap::Round(chord));
    // Off the grid the library gives up.
    points.iter().try_for_each(|p| GridPoint::from_mm(*p).map(|_| ()))?;
    let line: Vec<[f64; 2]> = points.iter().map(|p| [p.x, p.y]).collect();
    Region::from_mm(&rings::<Mm>(line.stroke(style, is_closed)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::boolean::contours;
    use crate::{ARC_TOLERANCE_MM, BoolOp, SHARPEST_MITRE_DEG, combine};
    use clipper2_rust::{EndType, JoinType, inflate_paths_64};
    use i_overlay::mesh::float::outline::offset::OutlineOffset;
    use i_overlay::mesh::float::style::OutlineStyle;
    use kachel_oracle::{Random, for_all};
    use std::f64::consts::PI;

    fn polygon(n: u32, r: f64, squeeze: f64) -> Region {
        let at = |i: u32| f64::from(i) / f64::from(n) * 2.0 * PI;
        let ring = Ring((0..n).map(|i| Point::new(r * at(i).cos(), squeeze * r * at(i).sin())).collect());
        Region::from_mm([&ring]).unwrap()
    }

    fn perimeter(r: &Region) -> f64 {
        r.rings_mm().iter().map(Ring::perimeter).sum()
    }

    #[test]
    fn grown_convex_shapes_follow_steiner() {
        // Steiner's formula (J. Steiner, 'Ueber parallele Flaechen', 1840; also Schneider, 'Convex Bodies',
        // 2nd ed. 2014, eq. 4.8, from memory): area of the parallel body = A + P d + pi d^2.
        for (n, r, squeeze) in [(3, 20.0, 1.0), (4, 30.0, 0.5), (7, 45.0, 0.8), (200, 12.0, 1.0)] {
            let shape = polygon(n, r, squeeze);
            for d in [0.4, 1.6, 3.0, 10.0] {
                let grown = offset(&shape, d).unwrap();
                let truth = shape.area_mm2() + perimeter(&shape) * d + PI * d * d;
                // Off by at most the tolerance along the arcs' 2 pi d, and by what simplifying the shape itself takes off.
                let off = truth - grown.area_mm2();
                let rounding = 1e-4 * perimeter(&grown);
                let most = ARC_TOLERANCE_MM * 2.0 * PI * d + SOURCE_DEVIATION_MM * perimeter(&shape);
                assert!(off.abs() < most + rounding, "{n} corners, grown by {d}: off by {off} mm2");
            }
        }
    }

    #[test]
    fn shrinking_a_rectangle_is_exact_and_ends_in_nothing() {
        let rect = Ring([(0.0, 0.0), (10.0, 0.0), (10.0, 4.0), (0.0, 4.0)].map(|(x, y)| Point::new(x, y)).to_vec());
        let rect = Region::from_mm([&rect]).unwrap();
        assert!((offset(&rect, -1.0).unwrap().area_mm2() - 16.0).abs() < 1e-3);
        assert!(offset(&rect, -2.1).unwrap().is_empty());
        assert!(offset(&rect, 2000.0).is_err());
    }

    #[test]
    fn corners_are_round_mitred_or_cut() {
        // A rectangle grown by d: its sides' strips, and a quarter disc, a square or half a square a corner.
        let rect = polygon(4, 20.0, 1.0);
        let (side, d) = (20.0 * 2f64.sqrt(), 3.0);
        let strips = side * side + 4.0 * side * d;
        for (corner, each) in [(Corner::Round, PI / 4.0), (Corner::Mitred, 1.0), (Corner::Square, 0.5)] {
            let got = offset_with(&rect, d, corner).unwrap().area_mm2();
            assert!((got - strips - 4.0 * each * d * d).abs() < 0.1, "{corner:?}: {got}");
        }
    }

    /// A ring of random corners round the origin, on the grid.
    fn wavy(random: &mut Random, r: f64, nodes: u32) -> Region {
        let at = |i: u32| f64::from(i) / f64::from(nodes) * 2.0 * PI;
        let far: Vec<f64> = (0..nodes).map(|_| r * (0.7 + 0.3 * random.unit())).collect();
        let ring =
            (0..nodes).map(|i| Point::new(far[i as usize] * at(i).cos(), far[i as usize] * at(i).sin())).collect();
        Region::from_mm([&Ring(ring)]).unwrap()
    }

    #[test]
    fn agrees_with_independent_libraries() {
        // i_overlay offsets by other means (a stroke of each edge, united off the grid), clipper2-rust by ours without mitres.
        for_all(60, |random| {
            let nodes = 20 + random.below(180) as u32;
            let shape = wavy(random, 25.0, nodes).with_hole(&wavy(random, 9.0, 30));
            for d in [-2.5, -0.7, 0.3, 1.6, 4.0] {
                let style = OutlineStyle::new(d).line_join(LineJoin::Round(widest_chord(d)));
                let stroked = Region::from_mm(&rings::<Mm>(contours(&shape.rings_mm()).outline(&style))).unwrap();
                let same = |ours: &Region, theirs: &Region| {
                    let differs = |a: &Region, b: &Region| combine(a, b, BoolOp::TakeAway).unwrap().area_mm2();
                    let apart = differs(ours, theirs) + differs(theirs, ours);
                    let most = (ARC_TOLERANCE_MM + SOURCE_DEVIATION_MM) * perimeter(theirs);
                    assert!(apart < most, "by {d}: {apart} mm2 apart, not {most}");
                };
                same(&offset(&shape, d).unwrap(), &stroked);
                for (corner, join) in [
                    (Corner::Round, JoinType::Round),
                    (Corner::Mitred, JoinType::Miter),
                    (Corner::Square, JoinType::Bevel),
                ] {
                    same(&offset_with(&shape, d, corner).unwrap(), &inflated(&shape, d, join));
                }
            }
        });
    }

    fn inflated(region: &Region, d: f64, join: JoinType) -> Region {
        let path = |r: &Vec<GridPoint>| r.iter().map(|p| Point64::new(i64::from(p.x()), i64::from(p.y()))).collect();
        let paths: Paths64 = region.rings().iter().map(path).collect();
        let reach = (SHARPEST_MITRE_DEG.to_radians() / 2.0).sin().recip();
        let [d, arc] = [d, ARC_TOLERANCE_MM].map(|mm| mm * GRID_PER_MM);
        let point = |p: &Point64| GridPoint::new(i32::try_from(p.x).unwrap(), i32::try_from(p.y).unwrap()).unwrap();
        let grown = inflate_paths_64(&paths, d, join, EndType::Polygon, reach, arc);
        Region::new(grown.iter().map(|r| r.iter().map(point).collect()))
    }

    #[test]
    fn what_turns_right_back_and_what_is_shorter_than_the_distance_is_followed() {
        // A square with a spike of no width outwards, one inwards, and a stair of steps much shorter than the distance.
        let stair = (0..40).flat_map(|k| [(f64::from(k) * 0.1, 20.0), (f64::from(k) * 0.1, 20.0 + 0.05)]);
        let outline = [(0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (26.0, 10.0), (20.0, 10.0), (20.0, 20.0)];
        let inwards = [(0.0, 12.0), (5.0, 12.0), (0.0, 12.0)];
        let all = outline.into_iter().chain(stair.collect::<Vec<_>>().into_iter().rev()).chain(inwards);
        let shape = Region::from_mm([&Ring(all.map(|(x, y)| Point::new(x, y)).collect())]).unwrap();
        for d in [0.4, 2.0, -0.4, -2.0] {
            let got = offset(&shape, d).unwrap();
            let borders = shape.rings_mm();
            for_all(2000, |random| {
                let p = Point::new(-4.0 + 34.0 * random.unit(), -4.0 + 30.0 * random.unit());
                let nearest = borders.iter().flat_map(|r| (0..r.0.len()).map(|i| (r.0[i], r.0[(i + 1) % r.0.len()])));
                let away = nearest.map(|(a, b)| p.distance_to_segment(a, b)).fold(f64::INFINITY, f64::min);
                let inside = shape.winding(p) != 0;
                let truth = if d > 0.0 { inside || away < d } else { inside && away > -d };
                if (away - d.abs()).abs() > 2.0 * (ARC_TOLERANCE_MM + SOURCE_DEVIATION_MM) {
                    assert_eq!(got.winding(p) != 0, truth, "by {d}, at {p:?}, {away} mm from the border");
                }
            });
        }
    }

    #[test]
    fn many_rings_one_by_one_are_what_all_at_once_give() {
        for_all(40, |random| {
            // Discs with holes, and islands in these, so near that they meet when they grow.
            let mut region = Region::default();
            for k in 0..9u32 {
                let at = Point::<Mm>::new(f64::from(k % 3) * 9.0, f64::from(k / 3) * 9.0);
                let disc = |r: f64| {
                    let ring = polygon(8 + k * 3, r, 1.0 - 0.3 * random.unit()).rings_mm().remove(0);
                    Region::from_mm([&Ring(ring.0.iter().map(|p| Point::new(p.x + at.x, p.y + at.y)).collect())])
                        .unwrap()
                };
                let [outer, hole, island] = [4.2, 2.8, 1.2].map(disc);
                let whole: Vec<Vec<GridPoint>> =
                    [outer.with_hole(&hole), island].iter().flat_map(|r| r.rings().to_vec()).collect();
                region = Region::new(region.rings().iter().cloned().chain(whole));
            }
            for d in [-1.5, -0.6, 0.3, 0.9, 2.5] {
                for corner in [Corner::Round, Corner::Mitred, Corner::Square] {
                    let whole = offset_with(&region, d, corner).unwrap();
                    let alone = |ring: &[Vec<GridPoint>], d| offset_with(&Region::new(ring.to_vec()), d, corner);
                    let one_by_one = ring_by_ring(&region, d, alone).unwrap();
                    let differs = |a: &Region, b: &Region| combine(a, b, BoolOp::TakeAway).unwrap().area_mm2();
                    let apart = differs(&whole, &one_by_one) + differs(&one_by_one, &whole);
                    // Arcs begin at other nodes: a fifth of their tolerance. What is enclosed wrongly is off by a mm2.
                    assert!(
                        apart < ARC_TOLERANCE_MM / 5.0 * perimeter(&region),
                        "by {d}, {corner:?}: {apart} mm2 apart"
                    );
                }
            }
        });
    }

    #[test]
    fn a_stroke_is_its_length_by_its_width_and_two_half_discs() {
        let line = [(0.0, 0.0), (10.0, 0.0), (20.0, 0.0)].map(|(x, y)| Point::new(x, y));
        let got = stroke(&line, 4.0, false).unwrap().area_mm2();
        let arc = ARC_TOLERANCE_MM * 2.0 * PI * 2.0;
        assert!((got - 80.0 - PI * 4.0).abs() < arc, "{got}");
    }
}
