//! Who owns each face in each slab, just above its lower level and just below its upper one.

use crate::faces::Faces;
use crate::mend::Mend;
use foldhash::{HashMap, HashMapExt};
use kachel_tiers::{Op, Slice, Slices, Span, Stack};

/// Nobody: air.
pub(crate) const VOID: u16 = 0;

/// Which parts are distinguished.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Owners {
    /// Each filament owns what it prints.
    ByPart,
    /// Everything is one body.
    One,
    /// Each tier owns what it adds, for showing them apart.
    ByTier,
}

/// A border that runs from one slice to another within a slab.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Slope {
    /// Areas whose border is the lower end.
    pub low: Vec<u32>,
    /// Areas whose border is the upper end.
    pub high: Vec<u32>,
    /// How far apart the two are, mm, as bits.
    width: u64,
    /// Whether it keeps its distance from its lower end; else from its upper one.
    pub is_from_low: bool,
}

impl Slope {
    pub(crate) fn width(&self) -> f64 {
        f64::from_bits(self.width)
    }

    /// The areas whose border the slope keeps its distance from.
    pub(crate) fn base(&self) -> &[u32] {
        if self.is_from_low { &self.low } else { &self.high }
    }
}

/// A slope that passes over a face, with the owner on its own side.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Ramp {
    pub slope: u32,
    pub owner: u16,
    /// Whether the owner lies below the slope.
    pub is_below: bool,
}

/// What stands over a face within a slab: one owner, then slopes in the tiers' order.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Column {
    base: u16,
    pub ramps: Vec<Ramp>,
}

impl Column {
    /// The same with other numbers for its slopes and its owners.
    pub(crate) fn renumbered(&self, mut slope: impl FnMut(u32) -> u32, mut owner: impl FnMut(u16) -> u16) -> Self {
        let base = owner(self.base);
        let ramps = self.ramps.iter().map(|r| Ramp { slope: slope(r.slope), owner: owner(r.owner), ..*r }).collect();
        Self { base, ramps }
    }

    fn owner(&self, covers: impl Fn(usize, &Ramp) -> bool) -> u16 {
        self.ramps.iter().enumerate().fold(self.base, |o, (k, r)| if covers(k, r) { r.owner } else { o })
    }

    /// The owners just above the slab's lower level and just below its upper one.
    pub(crate) fn ends(&self) -> (u16, u16) {
        (self.owner(|_, r| r.is_below), self.owner(|_, r| !r.is_below))
    }

    /// The height (0 to 1) at which the lower owner ends, given where each slope passes. Where a third owner has a wedge
    /// between the lower and the upper one, it goes to one that is not air: the parts together fill the skin.
    pub(crate) fn switch(&self, at: &[f64]) -> f64 {
        if let [only] = at {
            return *only;
        }
        let (lower, upper) = self.ends();
        let is_skin = (lower == VOID) != (upper == VOID);
        let mut stops: Vec<f64> = at.iter().copied().chain([0.0, 1.0]).collect();
        stops.sort_by(f64::total_cmp);
        for pair in stops.windows(2).filter(|p| p[1] > p[0]) {
            let h = (pair[0] + pair[1]) / 2.0;
            let here = self.owner(|k, r| if r.is_below { h < at[k] } else { h > at[k] });
            let is_over = if is_skin { (here == VOID) != (lower == VOID) } else { here != lower };
            if is_over {
                return pair[0];
            }
        }
        1.0
    }
}

/// Owners by slab and face: `VOID`, or the part's number plus one.
#[derive(Clone, Debug)]
pub(crate) struct Labels {
    pub slabs: usize,
    faces: usize,
    lower: Vec<u16>,
    upper: Vec<u16>,
    /// 0 where the owner is the same all the way up, else a place in `columns` plus 1.
    sloped: Vec<u32>,
    pub columns: Vec<Column>,
    pub slopes: Vec<Slope>,
}

impl Labels {
    fn at(&self, slab: isize, face: u32) -> Option<usize> {
        usize::try_from(slab).ok().filter(|s| *s < self.slabs).map(|s| s * self.faces + face as usize)
    }

    /// The owner just above a slab's lower level; slabs below the first and above the last are air.
    pub(crate) fn lower(&self, slab: isize, face: u32) -> u16 {
        self.at(slab, face).map_or(VOID, |k| self.lower[k])
    }

    /// The owner just below a slab's upper level.
    pub(crate) fn upper(&self, slab: isize, face: u32) -> u16 {
        self.at(slab, face).map_or(VOID, |k| self.upper[k])
    }

    /// The column of a face whose owner changes within the slab, by its place in `columns` plus 1; else 0.
    pub(crate) fn sloped(&self, slab: usize, face: u32) -> u32 {
        self.sloped[slab * self.faces + face as usize]
    }

    /// The same for all faces.
    pub(crate) fn sloped_row(&self, slab: usize) -> &[u32] {
        &self.sloped[slab * self.faces..][..self.faces]
    }

    pub(crate) fn has_slopes(&self, slab: usize) -> bool {
        self.sloped_row(slab).iter().any(|c| *c != 0)
    }

    /// All owners that occur, `VOID` left out.
    pub(crate) fn parts(&self) -> Vec<u16> {
        let mut parts: Vec<u16> = self.lower.iter().chain(&self.upper).copied().filter(|&o| o != VOID).collect();
        parts.sort_unstable();
        parts.dedup();
        parts
    }
}

/// Which faces a slice covers.
fn covered(faces: &Faces, slice: &Slice) -> Vec<bool> {
    let holds = |f: u32| {
        let inside = |a: u32| faces.is_inside(f, a as usize);
        slice.pieces.iter().any(|(add, less)| inside(*add) && !less.is_some_and(inside))
    };
    (0..faces.count as u32).map(holds).collect()
}

fn slope(lower: &Slice, upper: &Slice, span: &Span) -> Slope {
    let all = |s: &Slice| s.pieces.iter().flat_map(|(a, b)| [Some(*a), *b]).flatten().collect::<Vec<u32>>();
    let (below, above) = (all(lower), all(upper));
    let only = |these: &[u32], others: &[u32]| these.iter().filter(|a| !others.contains(a)).copied().collect();
    Slope {
        low: only(&below, &above),
        high: only(&above, &below),
        width: span.width.to_bits(),
        is_from_low: span.is_from_low,
    }
}

/// Labels the faces; the regions of mends come after the slices' areas.
pub(crate) fn label(faces: &Faces, stack: &Stack, slices: &Slices, owners: Owners, mends: &[Mend]) -> Labels {
    let slabs = slices.levels.len().saturating_sub(1);
    let n = faces.count;
    let mut out = Labels {
        slabs,
        faces: n,
        lower: vec![VOID; slabs * n],
        upper: vec![VOID; slabs * n],
        sloped: vec![0; slabs * n],
        columns: vec![],
        slopes: vec![],
    };
    let cover: Vec<Vec<bool>> = slices.slices.iter().map(|s| covered(faces, s)).collect();
    let mut columns: HashMap<Column, u32> = HashMap::new();
    let mut slopes: HashMap<Slope, u32> = HashMap::new();
    let mut ramps: Vec<Vec<Ramp>> = vec![Vec::new(); n];
    let mut base = vec![VOID; n];
    for slab in 0..slabs {
        let (lower, upper) = (&mut out.lower[slab * n..][..n], &mut out.upper[slab * n..][..n]);
        ramps.iter_mut().for_each(Vec::clear);
        base.fill(VOID);
        for span in slices.slab(slab) {
            let tier = &stack.tiers[span.tier];
            let to = match (tier.op, owners) {
                (Op::Cut, _) => VOID,
                (Op::Add, Owners::One) => 1,
                (Op::Add, Owners::ByTier) => u16::try_from(span.tier + 1).unwrap_or(u16::MAX),
                (Op::Add, Owners::ByPart) => u16::try_from(tier.part + 1).unwrap_or(u16::MAX),
            };
            let (below, above) = (&cover[span.lower], &cover[span.upper]);
            let mut slope_id = None;
            for f in 0..n {
                match (below[f], above[f]) {
                    (false, false) => continue,
                    (true, true) => {
                        base[f] = to;
                        ramps[f].clear();
                    }
                    (is_below, _) => {
                        let slope = *slope_id.get_or_insert_with(|| {
                            let s = slope(&slices.slices[span.lower], &slices.slices[span.upper], span);
                            let next = u32::try_from(out.slopes.len()).unwrap_or(u32::MAX);
                            *slopes.entry(s).or_insert_with_key(|s| {
                                out.slopes.push(s.clone());
                                next
                            })
                        });
                        ramps[f].push(Ramp { slope, owner: to, is_below });
                    }
                }
                if below[f] {
                    lower[f] = to;
                }
                if above[f] {
                    upper[f] = to;
                }
            }
        }
        for (i, mend) in mends.iter().enumerate().filter(|(_, m)| m.slab == slab) {
            let region = slices.areas.len() + i;
            for f in (0..n).filter(|f| faces.is_inside(*f as u32, region)) {
                (lower[f], upper[f]) = (mend.owner, mend.owner);
            }
        }
        for f in (0..n).filter(|f| lower[*f] != upper[*f]) {
            let column = Column { base: base[f], ramps: ramps[f].clone() };
            let next = u32::try_from(out.columns.len() + 1).unwrap_or(u32::MAX);
            out.sloped[slab * n + f] = *columns.entry(column).or_insert_with_key(|c| {
                out.columns.push(c.clone());
                next
            });
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    /// From `base`, each ramp gives its owner what lies below it (or above).
    fn column(base: u16, ramps: &[(u16, bool)]) -> Column {
        Column { base, ramps: ramps.iter().map(|&(owner, is_below)| Ramp { slope: 0, owner, is_below }).collect() }
    }

    #[test]
    fn one_slope_ends_its_owner_where_it_passes() {
        assert_eq!(column(VOID, &[(1, true)]).switch(&[0.3]), 0.3);
        assert_eq!(column(1, &[(VOID, false)]).switch(&[0.8]), 0.8, "cut from above");
    }

    #[test]
    fn of_two_slopes_of_one_owner_the_outer_one_counts() {
        let both = column(VOID, &[(1, true), (1, true)]);
        assert_eq!(both.switch(&[0.3, 0.6]), 0.6);
        assert_eq!(both.switch(&[0.6, 0.3]), 0.6, "in either order");
        // Added, then cut from above: the lower of the two.
        let cut = column(VOID, &[(1, true), (VOID, false)]);
        assert_eq!(cut.switch(&[0.7, 0.2]), 0.2);
        assert_eq!(cut.switch(&[0.2, 0.7]), 0.2);
    }

    #[test]
    fn a_wedge_between_two_filaments_is_never_lost_to_the_air() {
        // The second one's slope lies over the first one's: from 0.4 up only the first is there, up to 0.9.
        let over = column(VOID, &[(1, true), (2, true)]);
        assert_eq!(over.switch(&[0.9, 0.4]), 0.9, "the skin is where the last of them ends");
        assert_eq!(over.switch(&[0.4, 0.9]), 0.9);
        // Within a solid the lower owner ends where another begins.
        let inlay = column(1, &[(2, true)]);
        assert_eq!(inlay.switch(&[0.5]), 0.5);
        let under = column(3, &[(1, true), (2, true)]);
        assert_eq!(under.switch(&[0.9, 0.4]), 0.4, "no air is near: the first change counts");
    }

    #[test]
    fn what_does_not_change_has_no_switch() {
        assert_eq!(column(1, &[(1, true), (1, false)]).switch(&[0.5, 0.5]), 1.0);
    }
}
