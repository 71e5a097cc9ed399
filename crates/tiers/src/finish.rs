use kachel_geom::Grid;
use serde::{Deserialize, Serialize};

/// Largest distance of a rounded edge from its true arc, mm.
pub const CHORD_MM: f64 = 0.01;

/// What an edge looks like in section.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum FinishShape {
    /// As it comes.
    #[default]
    Square,
    /// Straight, longer than wide as a rule: a blade.
    Taper,
    /// Straight, as long as wide as a rule.
    Chamfer,
    /// A quarter of an ellipse; of a circle where it goes as far in as down.
    Round,
}

/// Whether the footprint shrinks or grows towards the edge.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Way {
    /// It shrinks: a bevelled or rounded edge.
    #[default]
    Inward,
    /// It grows: a flared foot, or the widened mouth of a hole.
    Outward,
}

/// Which of a footprint's edges get the finish.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum EdgesOf {
    /// Those round its pieces.
    Outer,
    /// Those round its holes.
    Inner,
    /// All.
    #[default]
    Both,
}

/// An edge finish: how far in and how far down.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Finish {
    /// Its shape.
    pub shape: FinishShape,
    /// Inward or outward.
    pub way: Way,
    /// On which edges.
    pub edges: EdgesOf,
    /// How far in (or out), mm.
    pub inset: f64,
    /// How far down (or up, at the bottom edge), mm.
    pub depth: f64,
}

impl Finish {
    /// Whether it does anything.
    pub fn is_plain(&self) -> bool {
        // Under a grid step nothing would move.
        self.shape == FinishShape::Square || self.inset < 1e-4 || self.depth < 1e-4
    }

    /// How far the footprint is shrunk (mm, negative: grown) `down` mm from the edge.
    pub fn shrunk(&self, down: f64) -> f64 {
        let rest = (1.0 - down / self.depth).clamp(0.0, 1.0);
        let share = match self.shape {
            FinishShape::Square => 0.0,
            FinishShape::Taper | FinishShape::Chamfer => rest,
            FinishShape::Round => 1.0 - (1.0 - rest * rest).sqrt(),
        };
        match self.way {
            Way::Inward => share * self.inset,
            Way::Outward => -share * self.inset,
        }
    }

    /// Distances from the edge (mm, rising, without 0 and `depth`) at which a round one bends.
    fn bends(&self) -> Vec<f64> {
        if self.shape != FinishShape::Round {
            return vec![];
        }
        // A chord over the angle a misses its arc by r (1 - cos(a / 2)).
        let r = self.inset.max(self.depth);
        let angle = 2.0 * (1.0 - (CHORD_MM / r).min(0.5)).acos();
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "under a hundred")]
        let n = (std::f64::consts::FRAC_PI_2 / angle).ceil().clamp(1.0, 64.0) as u32;
        let at = |i: u32| f64::from(i) / f64::from(n) * std::f64::consts::FRAC_PI_2;
        (1..n).map(|i| self.depth * (1.0 - at(i).cos())).collect()
    }
}

/// One height of a tier and what its finishes take off there.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Break {
    /// The height.
    pub z: Grid,
    /// How far the footprint is shrunk there, mm.
    pub shrunk: f64,
    /// On which edges.
    pub edges: EdgesOf,
}

/// How a tier's footprint changes from its bottom to its top, and how much of its finishes its height has room for.
#[derive(Clone, Debug)]
pub(crate) struct Profile {
    bottom: Grid,
    top: Grid,
    low: Option<Finish>,
    high: Option<Finish>,
}

impl Profile {
    /// Finishes that together are higher than the tier are flattened until they meet.
    pub(crate) fn new(bottom: Grid, top: Grid, low: Finish, high: Finish) -> Self {
        let used = |f: Finish| (!f.is_plain()).then_some(f);
        let (mut low, mut high) = (used(low), used(high));
        let room = top.mm() - bottom.mm();
        let wanted = low.map_or(0.0, |f| f.depth) + high.map_or(0.0, |f| f.depth);
        if wanted > room {
            for f in [&mut low, &mut high].into_iter().flatten() {
                f.depth *= room / wanted;
            }
        }
        Self { bottom, top, low, high }
    }

    /// Moves its ends to heights that are known.
    pub(crate) fn settle_ends(&mut self, to: &mut impl FnMut(Grid) -> Grid) {
        (self.bottom, self.top) = (to(self.bottom), to(self.top));
    }

    /// The same for the ends of its finishes; one that has no height left does nothing.
    pub(crate) fn settle_finishes(&mut self, to: &mut impl FnMut(Grid) -> Grid) {
        let (bottom, top) = (self.bottom, self.top);
        let mut end = |mm: f64| Grid::from_mm(mm).map_or(bottom, |z| to(z).clamp(bottom, top));
        let low_end = self.low.map_or(bottom, |f| end(bottom.mm() + f.depth));
        let high_end = self.high.map_or(top, |f| end(top.mm() - f.depth)).max(low_end);
        let with = |f: Option<Finish>, depth: f64| f.map(|f| Finish { depth, ..f }).filter(|f| !f.is_plain());
        self.low = with(self.low, low_end.mm() - bottom.mm());
        self.high = with(self.high, top.mm() - high_end.mm());
    }

    /// Whether the tier goes all the way from one height to another.
    pub(crate) fn spans(&self, low: Grid, high: Grid) -> bool {
        self.bottom <= low && self.top >= high
    }

    /// Whether a finish is on some edges only.
    pub(crate) fn is_one_sided(&self) -> bool {
        [self.low, self.high].iter().flatten().any(|f| f.edges != EdgesOf::Both)
    }

    /// What is taken off at a height.
    pub(crate) fn at(&self, z: Grid) -> Break {
        let of = |f: Option<Finish>, down: f64| {
            f.map(|f| (f.shrunk(down.max(0.0)), f.edges)).filter(|(d, _)| d.abs() > 1e-6)
        };
        let high = of(self.high, self.top.mm() - z.mm());
        let (shrunk, edges) =
            high.or_else(|| of(self.low, z.mm() - self.bottom.mm())).unwrap_or((0.0, EdgesOf::default()));
        Break { z, shrunk, edges }
    }

    /// All heights at which it bends, the ends included; rising.
    pub(crate) fn bends(&self) -> Vec<Grid> {
        let at = |mm: f64| Grid::from_mm(mm).ok().filter(|z| *z > self.bottom && *z < self.top);
        let mut all = vec![self.bottom, self.top];
        if let Some(f) = self.low {
            all.extend(f.bends().into_iter().chain([f.depth]).filter_map(|d| at(self.bottom.mm() + d)));
        }
        if let Some(f) = self.high {
            all.extend(f.bends().into_iter().chain([f.depth]).filter_map(|d| at(self.top.mm() - d)));
        }
        all.sort_unstable();
        all.dedup();
        all
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn finish(shape: FinishShape, inset: f64, depth: f64) -> Finish {
        Finish { shape, inset, depth, ..Finish::default() }
    }

    fn grid(mm: f64) -> Grid {
        Grid::from_mm(mm).unwrap()
    }

    #[test]
    fn a_straight_finish_goes_in_by_a_straight_line() {
        let taper = finish(FinishShape::Taper, 0.5, 3.0);
        for (down, want) in [(0.0, 0.5), (1.5, 0.25), (3.0, 0.0), (9.0, 0.0)] {
            assert!((taper.shrunk(down) - want).abs() < 1e-12, "{down}");
        }
        let outward = Finish { way: Way::Outward, ..taper };
        assert_eq!(outward.shrunk(0.0), -0.5);
        assert!(taper.bends().is_empty(), "one slab");
    }

    #[test]
    fn a_round_lies_on_its_circle_and_its_chords_near_it() {
        // (r - d)^2 + (r - t)^2 = r^2 for a point d in and t down from the edge of a rounded corner of radius r.
        let r = 2.0;
        let round = finish(FinishShape::Round, r, r);
        for t in [0.0, 0.3, 1.0, 1.7, 2.0] {
            let d = round.shrunk(t);
            assert!(((r - d).powi(2) + (r - t).powi(2) - r * r).abs() < 1e-9, "{t}: {d}");
        }
        let mut stops = round.bends();
        stops.insert(0, 0.0);
        stops.push(r);
        for pair in stops.windows(2) {
            let at = |t: f64| (round.shrunk(t), t);
            let (a, b) = (at(pair[0]), at(pair[1]));
            // The chord's middle is where it is farthest from the arc about (r, r).
            let middle = (f64::midpoint(a.0, b.0), f64::midpoint(a.1, b.1));
            let miss = r - (r - middle.0).hypot(r - middle.1);
            assert!((-1e-9..CHORD_MM).contains(&miss), "{pair:?}: {miss}");
        }
    }

    #[test]
    fn finishes_that_have_no_room_are_flattened_until_they_meet() {
        let (low, high) = (finish(FinishShape::Chamfer, 1.0, 3.0), finish(FinishShape::Taper, 0.5, 6.0));
        let profile = Profile::new(grid(1.0), grid(4.0), low, high);
        // 9 mm wanted, 3 mm there: a third of each.
        assert_eq!(profile.bends(), [grid(1.0), grid(2.0), grid(4.0)]);
        let at = |z: f64| profile.at(grid(z)).shrunk;
        assert!((at(1.0) - 1.0).abs() < 1e-9 && at(2.0).abs() < 1e-9 && (at(4.0) - 0.5).abs() < 1e-9);
        assert!((at(3.0) - 0.25).abs() < 1e-4);
    }

    #[test]
    fn what_does_nothing_bends_nothing() {
        for f in [Finish::default(), finish(FinishShape::Round, 0.0, 1.0), finish(FinishShape::Taper, 1.0, 0.0)] {
            assert!(f.is_plain());
            assert_eq!(Profile::new(grid(0.0), grid(2.0), f, f).bends(), [grid(0.0), grid(2.0)]);
        }
    }
}
