use kachel_geom::Grid;
use serde::{Deserialize, Serialize};

/// Largest distance of a rounded edge from its true arc, mm.
pub const CHORD_MM: f64 = 0.01;

/// What an edge looks like in section.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
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
