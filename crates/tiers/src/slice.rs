//! A stack cut at all heights at which something begins, ends or bends: what each tier covers there.

use crate::finish::{Break, EdgesOf, Profile};
use crate::{Area, Op, Plans, Stack, Tier, TierError};
use kachel_geom::{BoolOp, GRID_PER_MM, Grid, Name, OffGrid, Point, Region, Ring, Stage, Watch};
use std::collections::{BTreeSet, HashMap};

/// What a tier covers at a height: pieces, each an area without another one. Kept apart, so that the holes that a finish
/// leaves alone keep their very nodes.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash)]
pub struct Slice {
    /// Places in [`Slices::areas`]: the area, and what is left out of it.
    pub pieces: Vec<(u32, Option<u32>)>,
}

/// A tier between two neighbouring levels.
#[derive(Clone, Debug, PartialEq)]
pub struct Span {
    /// The tier's place in the stack.
    pub tier: usize,
    /// Between [`Slices::levels`] of this number and the next.
    pub slab: usize,
    /// What it covers at the lower level, in [`Slices::slices`].
    pub lower: usize,
    /// What it covers at the upper level.
    pub upper: usize,
    /// How far apart the borders at the two levels lie, mm.
    pub width: f64,
    /// Whether the border at the lower level is the one that is offset less; the other keeps its distance from it.
    pub is_from_low: bool,
}

/// A stack in slices. Between two levels a tier's border runs straight from one slice to the next.
#[derive(Clone, Debug, Default)]
pub struct Slices {
    /// All areas, each once.
    pub areas: Vec<Area>,
    /// What tiers cover, each once.
    pub slices: Vec<Slice>,
    /// Rising heights.
    pub levels: Vec<Grid>,
    /// All tiers in all slabs; by slab, then by the tiers' order.
    pub spans: Vec<Span>,
}

impl Slices {
    /// A name of the areas and of how they make slices: equal where only heights differ.
    pub fn plan_name(&self) -> Vec<Name> {
        self.areas.iter().map(Area::name).collect()
    }

    /// The spans of a slab, in the tiers' order.
    pub fn slab(&self, slab: usize) -> impl Iterator<Item = &Span> {
        self.spans.iter().filter(move |s| s.slab == slab)
    }
}

/// Rings by how many others lie round them: pieces that do not lie in each other's holes.
struct Nested {
    outer: Area,
    holes: Area,
}

fn nested(region: &Region) -> Vec<Nested> {
    let rings = region.rings_mm();
    let is_outer: Vec<bool> = rings.iter().map(|r| r.area() > 0.0).collect();
    if is_outer.iter().filter(|o| !**o).count() == 0 {
        return vec![Nested { outer: region.clone().into(), holes: Area::default() }];
    }
    let boxes: Vec<_> = rings.iter().map(Ring::bounds).collect();
    let depth = |k: usize| {
        let p = rings[k].0[0];
        let middle = rings[k].0[1];
        // Off the corner, which another ring may touch.
        let at = Point::new((p.x + middle.x) / 2.0, (p.y + middle.y) / 2.0);
        let round = |j: &usize| {
            *j != k
                && boxes[*j].is_some_and(|b| b.min.x <= at.x && b.max.x >= at.x && b.min.y <= at.y && b.max.y >= at.y)
                && rings[*j].contains(at)
        };
        (0..rings.len()).filter(round).count()
    };
    let mut by_depth: HashMap<usize, (Vec<usize>, Vec<usize>)> = HashMap::new();
    for (k, is_outer) in is_outer.iter().enumerate() {
        let d = depth(k);
        if *is_outer {
            by_depth.entry(d / 2).or_default().0.push(k);
        } else {
            by_depth.entry(d.saturating_sub(1) / 2).or_default().1.push(k);
        }
    }
    let mut levels: Vec<_> = by_depth.into_iter().collect();
    levels.sort_by_key(|l| l.0);
    let of = |ks: &[usize], turn: bool| {
        let ring = |k: &usize| {
            let mut r = region.rings()[*k].clone();
            if turn {
                r.reverse();
            }
            r
        };
        Area::new(Region::new(ks.iter().map(ring)))
    };
    levels.into_iter().map(|(_, (outer, holes))| Nested { outer: of(&outer, false), holes: of(&holes, true) }).collect()
}

/// A tier about to be cut: its profile, and what of its footprint moves apart.
pub(crate) struct Cutting<'a> {
    tier: &'a Tier,
    pub profile: Profile,
    /// The footprint's pieces, where a finish is on some of its edges only.
    nested: Vec<Nested>,
}

/// Areas, and what is left out of each.
type Covered = Vec<(Area, Option<Area>)>;

impl<'a> Cutting<'a> {
    pub(crate) fn new(tier: &'a Tier) -> Self {
        let profile = Profile::new(tier.bottom, tier.top, tier.bottom_finish, tier.top_finish);
        let nested = if profile.is_one_sided() { nested(&tier.footprint) } else { vec![] };
        Self { tier, profile, nested }
    }

    /// What is taken off at two neighbouring levels, and of which edges: between its finishes a tier is upright; within one
    /// the other end tells the edges.
    fn ends(&self, pair: &[Grid]) -> ([Break; 2], EdgesOf) {
        let [low, high] = [self.profile.at(pair[0]), self.profile.at(pair[1])];
        let edges = match (low.shrunk == 0.0, high.shrunk == 0.0) {
            (true, true) => EdgesOf::Both,
            (false, true) => low.edges,
            _ => high.edges,
        };
        ([low, high], edges)
    }

    /// What its slopes lie over between two neighbouring levels.
    fn band(&self, pair: &[Grid], plans: &Plans) -> Result<Area, TierError> {
        let (ends, edges) = self.ends(pair);
        let [a, b] = ends.map(|end| -> Result<Area, TierError> {
            let pieces = self.covered(end.shrunk, edges, plans)?;
            let pieces = pieces.into_iter().map(|(a, less)| less.map_or(Ok(a.clone()), |b| plans.less(&a, &b)));
            Ok(plans.joined(&pieces.collect::<Result<Vec<Area>, OffGrid>>()?)?)
        });
        let (a, b) = (a?, b?);
        Ok(plans.joined(&[plans.less(&a, &b)?, plans.less(&b, &a)?])?)
    }

    /// What the footprint covers with so much taken off some of its edges. On some edges only, what stays is kept apart from
    /// what moves, also where nothing is taken off: this distinguishes the two ends of a slope.
    pub(crate) fn covered(&self, shrunk: f64, edges: EdgesOf, plans: &Plans) -> Result<Covered, TierError> {
        let piece = |n: &Nested| {
            Ok(match edges {
                EdgesOf::Inner => (n.outer.clone(), Some(plans.grown(&n.holes, shrunk)?)),
                _ => (plans.grown(&n.outer, -shrunk)?, Some(n.holes.clone())),
            })
        };
        match edges {
            EdgesOf::Both => Ok(vec![(plans.grown(&self.tier.footprint, -shrunk)?, None)]),
            _ => self.nested.iter().map(piece).collect(),
        }
    }
}

/// Collects areas and slices, each once.
#[derive(Default)]
struct Collector {
    out: Slices,
    areas: HashMap<Area, u32>,
    slices: HashMap<Slice, usize>,
}

impl Collector {
    fn area(&mut self, area: Area) -> u32 {
        let next = u32::try_from(self.out.areas.len()).unwrap_or(u32::MAX);
        *self.areas.entry(area).or_insert_with_key(|a| {
            self.out.areas.push(a.clone());
            next
        })
    }

    fn slice(&mut self, pieces: Covered) -> usize {
        let pieces = pieces.into_iter().map(|(a, b)| (a, b.filter(|b| !b.is_empty())));
        // Where nothing is left, the border of what was left out stays, so that no slope begins there.
        let told = pieces.filter(|(a, b)| !a.is_empty() || b.is_some());
        let slice = Slice { pieces: told.map(|(a, b)| (self.area(a), b.map(|b| self.area(b)))).collect() };
        let next = self.out.slices.len();
        *self.slices.entry(slice).or_insert_with_key(|s| {
            self.out.slices.push(s.clone());
            next
        })
    }
}

/// Cuts the stack. Areas made before are taken from `plans`.
pub fn slice(stack: &Stack, plans: &Plans, watch: &Watch) -> Result<Slices, TierError> {
    watch.enter(Stage::Tiers)?;
    let mut tiers: Vec<Cutting<'_>> = stack.tiers.iter().map(Cutting::new).collect();
    let settled = settled_levels(&mut tiers);
    let levels = divided(&tiers, settled, plans, watch)?;
    warm(&tiers, &levels, plans, watch)?;
    let mut c = Collector::default();
    for (slab, pair) in levels.windows(2).enumerate() {
        watch.step(slab, levels.len())?;
        for (tier, t) in tiers.iter().enumerate().filter(|(_, t)| t.profile.spans(pair[0], pair[1])) {
            let ([low, high], edges) = t.ends(pair);
            let lower = c.slice(t.covered(low.shrunk, edges, plans)?);
            let upper = c.slice(t.covered(high.shrunk, edges, plans)?);
            let (width, is_from_low) = ((high.shrunk - low.shrunk).abs(), low.shrunk.abs() < high.shrunk.abs());
            c.out.spans.push(Span { tier, slab, lower, upper, width, is_from_low });
        }
    }
    c.out.levels = levels;
    Ok(c.out)
}

/// Levels nearer than this (grid steps, 2 micrometres) become one: between them nothing could have a slope.
const NEAR: i32 = 32;

/// All levels, rising. Ends of tiers come first, then those of finishes, then the bends of rounds: what lies near one that
/// is there already moves to it.
fn settled_levels(tiers: &mut [Cutting<'_>]) -> Vec<Grid> {
    let mut levels: BTreeSet<Grid> = BTreeSet::new();
    let mut settle = |z: Grid| {
        let is_near = |o: &&Grid| (o.steps() - z.steps()).abs() < NEAR;
        let known = [levels.range(..=z).next_back(), levels.range(z..).next()].into_iter().flatten().find(is_near);
        let known = known.copied().unwrap_or(z);
        levels.insert(known);
        known
    };
    tiers.iter_mut().for_each(|t| t.profile.settle_ends(&mut settle));
    tiers.iter_mut().for_each(|t| t.profile.settle_finishes(&mut settle));
    tiers.iter().flat_map(|t| t.profile.bends()).for_each(|z| {
        settle(z);
    });
    levels.into_iter().collect()
}

/// The share of the largest tier's volume that may be missed in a slab's wedges.
const MISSED_SHARE: f64 = 2e-5;
/// How much of what two slopes have in common is wedge, about.
const WEDGE: f64 = 1.0 / 6.0;
/// Pieces of a slab, at most.
const MOST_PIECES: f64 = 20.0;
/// Slabs are divided up to so many levels: well under what the solid takes (120).
const MOST_LEVELS: usize = 90;

/// Slopes with what is solid below them, over slopes with what is solid above them, leave a wedge of air between the two (or
/// share one). A place has one border within a slab, so such slabs are divided: the wedge that this leaves out shrinks with the
/// square of the number of pieces.
fn divided(tiers: &[Cutting<'_>], levels: Vec<Grid>, plans: &Plans, watch: &Watch) -> Result<Vec<Grid>, TierError> {
    let volume = |t: &Cutting<'_>| t.tier.footprint.area_mm2() * (t.tier.top.mm() - t.tier.bottom.mm());
    let may = MISSED_SHARE * tiers.iter().filter(|t| t.tier.op == Op::Add).map(volume).fold(0.0, f64::max);
    let mut all = levels.clone();
    for pair in levels.windows(2) {
        watch.check()?;
        let height = pair[1].mm() - pair[0].mm();
        let narrows_by = |t: &Cutting<'_>| {
            let ([low, high], _) = t.ends(pair);
            high.shrunk - low.shrunk
        };
        let moving = tiers.iter().filter(|t| t.profile.spans(pair[0], pair[1]) && narrows_by(t) != 0.0);
        let (below, above): (Vec<&Cutting<'_>>, Vec<_>) =
            moving.partition(|t| (narrows_by(t) > 0.0) == (t.tier.op == Op::Add));
        if below.is_empty() || above.is_empty() {
            continue;
        }
        let bands = |of: Vec<&Cutting<'_>>| of.into_iter().map(|t| t.band(pair, plans)).collect::<Result<Vec<_>, _>>();
        let (below, above) = (bands(below)?, bands(above)?);
        let mut wedges = 0.0;
        for (a, b) in below.iter().flat_map(|a| above.iter().map(move |b| (a, b))) {
            wedges += plans.combined(a, b, BoolOp::Common)?.area_mm2() * height * WEDGE;
        }
        if wedges <= may || may == 0.0 {
            continue;
        }
        let pieces = (wedges / may).sqrt().ceil().min(MOST_PIECES);
        let between = |k: f64| Grid::from_mm(pair[0].mm() + height * k / pieces).ok();
        let added: Vec<Grid> = (1..).map(f64::from).take_while(|k| *k < pieces).filter_map(between).collect();
        if height / pieces > 2.0 * f64::from(NEAR) / GRID_PER_MM && all.len() + added.len() <= MOST_LEVELS {
            all.extend(added);
        }
    }
    all.sort_unstable();
    Ok(all)
}

/// Makes the offsets that will be asked for on all cores.
fn warm(tiers: &[Cutting<'_>], levels: &[Grid], plans: &Plans, watch: &Watch) -> Result<(), TierError> {
    use rayon::prelude::*;
    let at = |t: &Cutting<'_>, z: &Grid| Some(t.profile.at(*z)).filter(|b| t.profile.spans(*z, *z) && b.shrunk != 0.0);
    let wanted: Vec<_> = tiers.iter().flat_map(|t| levels.iter().filter_map(move |z| Some((t, at(t, z)?)))).collect();
    wanted.into_par_iter().try_for_each(|(t, b)| {
        watch.check()?;
        t.covered(b.shrunk, b.edges, plans)?;
        Ok(())
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Finish, FinishShape, Op, Role, Way};
    use kachel_geom::Mm;

    fn square(half: f64) -> Region {
        let corners = [(-half, -half), (half, -half), (half, half), (-half, half)];
        Region::from_mm([&Ring::<Mm>(corners.map(|(x, y)| Point::new(x, y)).to_vec())]).unwrap()
    }

    /// A target: a ring of 30 with a hole of 20, and in it an island of 10 with a hole of 4.
    fn target() -> Region {
        let island = square(10.0).with_hole(&square(4.0));
        Region::new(square(30.0).with_hole(&square(20.0)).rings().iter().chain(island.rings()).cloned())
    }

    fn tier(footprint: Region, (bottom, top): (f64, f64), finish: Finish) -> Tier {
        let heights = (Grid::from_mm(bottom).unwrap(), Grid::from_mm(top).unwrap());
        Tier { top_finish: finish, ..Tier::upright(Role::Body, footprint, heights, Op::Add, 0) }
    }

    fn taper(edges: EdgesOf) -> Finish {
        Finish { shape: FinishShape::Taper, edges, inset: 1.0, depth: 2.0, ..Finish::default() }
    }

    fn cut(tiers: Vec<Tier>) -> Slices {
        slice(&Stack { tiers, ..Stack::default() }, &Plans::default(), &Watch::default()).unwrap()
    }

    fn area(s: &Slices, slice: usize) -> f64 {
        let of = |a: u32| s.areas[a as usize].area_mm2();
        s.slices[slice].pieces.iter().map(|(add, less)| of(*add) - less.map_or(0.0, of)).sum()
    }

    #[test]
    fn heights_a_hair_apart_are_one_level() {
        let step = 1.0 / 16384.0;
        let plain = |from: f64, to: f64| tier(square(10.0), (from, to), Finish::default());
        let levels = |tiers: Vec<Tier>| cut(tiers).levels.iter().map(|l| l.steps()).collect::<Vec<i32>>();
        assert_eq!(
            levels(vec![plain(0.0, 5.0), plain(0.0, 5.0 + 3.0 * step), plain(5.0 - step, 8.0)]),
            [0, 5 << 14, 8 << 14]
        );
        // What is clearly apart stays apart.
        assert_eq!(levels(vec![plain(0.0, 5.0), plain(0.0, 5.01)]).len(), 3);
        // Two finishes that meet, or miss each other by a rounding: one level between them, nothing off on either side.
        for depth in [2.5, 2.5 + step, 2.5 - 2.0 * step] {
            let chamfer = |d: f64| Finish { shape: FinishShape::Chamfer, inset: 1.0, depth: d, ..Finish::default() };
            let both = Tier { bottom_finish: chamfer(2.5), ..tier(square(10.0), (0.0, 5.0), chamfer(depth)) };
            let s = cut(vec![both]);
            assert_eq!(s.levels.len(), 3, "depth {depth}");
            let waist = &s.spans[0];
            assert!((area(&s, waist.upper) - 400.0).abs() < 1e-9, "at the waist nothing is taken off");
            assert!((area(&s, waist.lower) - 18.0 * 18.0).abs() < 1e-3);
        }
        // A finish that ends a hair beside another tier's height ends at it.
        let tapered = tier(square(10.0), (0.0, 6.0), Finish { depth: 3.0 - 2.0 * step, ..taper(EdgesOf::Both) });
        let s = cut(vec![plain(0.0, 3.0), tapered]);
        assert_eq!(s.levels.iter().map(|l| l.steps()).collect::<Vec<_>>(), [0, 3 << 14, 6 << 14]);
        // One that is thinner than a level is no finish, and a tier thinner than that is no tier.
        let thin = Finish { depth: 4.0 * step, ..taper(EdgesOf::Both) };
        assert_eq!(levels(vec![tier(square(10.0), (0.0, 2.0), thin)]), [0, 2 << 14]);
        assert!(cut(vec![plain(0.0, 2.0), plain(1.0, 1.0 + 5.0 * step)]).spans.iter().all(|s| s.tier == 0));
    }

    #[test]
    fn slabs_are_divided_where_slopes_lie_over_each_other() {
        let wider = Finish { way: Way::Outward, ..taper(EdgesOf::Both) };
        let mut narrowing = tier(square(10.0), (0.0, 5.0), taper(EdgesOf::Both));
        let levels = |a: &Tier, b: &Tier| cut(vec![a.clone(), b.clone()]).levels.len();
        assert_eq!(levels(&narrowing, &tier(square(9.5), (0.0, 5.0), taper(EdgesOf::Both))), 3, "both solid below");
        assert!(levels(&narrowing, &tier(square(8.5), (0.0, 5.0), wider)) > 3, "solid below and solid above");
        assert_eq!(levels(&narrowing, &tier(square(3.0), (0.0, 5.0), wider)), 3, "far from each other");
        narrowing.op = Op::Cut;
        assert_eq!(levels(&narrowing, &tier(square(8.5), (0.0, 5.0), wider)), 3, "a cut has its solid above");
    }

    #[test]
    fn islands_in_holes_are_pieces_of_their_own() {
        let nested = nested(&target());
        let areas: Vec<(f64, f64)> = nested.iter().map(|n| (n.outer.area_mm2(), n.holes.area_mm2())).collect();
        assert_eq!(areas, [(3600.0, 1600.0), (400.0, 64.0)]);
    }

    #[test]
    fn a_finish_moves_the_edges_it_is_on_and_no_others() {
        for (edges, want) in [
            (EdgesOf::Outer, 58.0 * 58.0 - 1600.0 + 18.0 * 18.0 - 64.0),
            (EdgesOf::Inner, 3600.0 - 42.0 * 42.0 + 400.0 - 100.0),
            (EdgesOf::Both, 58.0 * 58.0 - 42.0 * 42.0 + 18.0 * 18.0 - 100.0),
        ] {
            let s = cut(vec![tier(target(), (0.0, 5.0), taper(edges))]);
            assert_eq!(s.levels.iter().map(|l| l.mm()).collect::<Vec<_>>(), [0.0, 3.0, 5.0]);
            let [foot, tip] = [&s.spans[0], &s.spans[1]];
            assert_eq!((area(&s, foot.lower), area(&s, foot.upper)), (2336.0, 2336.0), "{edges:?}");
            // Holes that grow get round corners; pi instead of 4 in each of up to eight.
            assert!((area(&s, tip.upper) - want).abs() < 8.0, "{edges:?}: {} against {want}", area(&s, tip.upper));
            assert!((tip.width - 1.0).abs() < 1e-9 && tip.is_from_low && foot.width == 0.0);
        }
    }

    #[test]
    fn what_stays_keeps_its_very_nodes() {
        let s = cut(vec![tier(target(), (0.0, 5.0), taper(EdgesOf::Outer))]);
        let tip = &s.spans[1];
        let holes = |slice: usize| s.slices[slice].pieces.iter().map(|p| p.1).collect::<Vec<_>>();
        assert_eq!(holes(tip.lower), holes(tip.upper));
    }

    #[test]
    fn equal_areas_are_kept_once_and_other_tiers_levels_cut_a_slope() {
        let low = tier(square(5.0), (0.0, 4.0), Finish::default());
        let s = cut(vec![tier(square(30.0), (0.0, 5.0), taper(EdgesOf::Both)), low.clone(), low]);
        assert_eq!(s.levels.iter().map(|l| l.mm()).collect::<Vec<_>>(), [0.0, 3.0, 4.0, 5.0]);
        // The square, half a millimetre in, a millimetre in, and the small one.
        assert_eq!(s.areas.len(), 4);
        let widths: Vec<f64> = s.spans.iter().filter(|p| p.tier == 0).map(|p| p.width).collect();
        assert!(widths.iter().zip([0.0, 0.5, 0.5]).all(|(a, b)| (a - b).abs() < 1e-6), "{widths:?}");
        let heights_only = cut(vec![tier(square(30.0), (1.0, 9.0), taper(EdgesOf::Both))]);
        let again = cut(vec![tier(square(30.0), (0.0, 5.0), taper(EdgesOf::Both))]);
        assert_eq!(heights_only.plan_name(), again.plan_name(), "only heights differ");
    }
}
