//! The line beside a ring, at a distance from it.

use crate::{GRID_PER_MM, GridPoint, orient};
use clipper2_rust::{Path64, Point64};
use serde::{Deserialize, Serialize};

/// Largest distance (Hausdorff, mm) between a rounded corner of an offset and its true arc.
pub const ARC_TOLERANCE_MM: f64 = 0.005;

/// How corners of an offset are made on the outside of a bend.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, Hash, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Corner {
    /// An arc round the corner.
    #[default]
    Round,
    /// As sharp as it was; corners under [`SHARPEST_MITRE_DEG`] are cut straight.
    Mitred,
    /// Cut straight across.
    Square,
}

/// Corners sharper than this are not mitred: the tip would reach too far.
pub const SHARPEST_MITRE_DEG: f64 = 20.0;

/// The widest angle (radians) over which a chord stays within the tolerance of its arc: it misses that by r (1 - cos(a/2)).
pub(crate) fn widest_chord(radius_mm: f64) -> f64 {
    let sagitta = (ARC_TOLERANCE_MM / radius_mm.abs()).min(0.5);
    2.0 * (1.0 - sagitta).acos()
}

/// The line `d` grid steps (±) to the right of a ring, so outside if it runs anticlockwise. It crosses itself where it is too far away:
/// an area grown by `d` is what it has a winding number over 0 about.
///
/// Why: each edge has the strip from it to its line, and each corner that opens a piece of its own; they count once each, added to the
/// area (d > 0) or taken from it (d < 0). Where a corner closes up, two strips overlap. The line goes by the node then, so that both
/// count; or, if the edges are long enough, straight to where it meets itself, which leaves each strip half of what they share.
pub(crate) fn beside(ring: &[GridPoint], d: f64, corner: Corner) -> Path64 {
    let edges: Vec<Edge> = (0..ring.len()).map(|i| Edge::new(ring[i], ring[(i + 1) % ring.len()])).collect();
    let mut line = Line { nodes: Path64::with_capacity(ring.len() * 3 / 2), d, corner };
    for (i, &at) in ring.iter().enumerate() {
        let before = (i + ring.len() - 1) % ring.len();
        let turn = orient(ring[before], at, ring[(i + 1) % ring.len()]);
        line.go_round(at, turn.signum(), [edges[before], edges[i]]);
    }
    line.nodes
}

/// The direction of an edge, and how long it is in grid steps.
#[derive(Clone, Copy)]
struct Edge {
    x: f64,
    y: f64,
    long: f64,
}

impl Edge {
    fn new(from: GridPoint, to: GridPoint) -> Self {
        let (x, y) = (f64::from(to.x() - from.x()), f64::from(to.y() - from.y()));
        let long = x.hypot(y);
        Self { x: x / long, y: y / long, long }
    }
}

/// The line as far as it is made.
struct Line {
    nodes: Path64,
    d: f64,
    corner: Corner,
}

impl Line {
    /// Goes on round a node, where one edge turns into another: to the left (1), to the right (-1) or not (0).
    fn go_round(&mut self, at: GridPoint, turn: i64, [before, after]: [Edge; 2]) {
        let d = self.d;
        let [from, to] = [before, after].map(|e| [d * e.y, -d * e.x]);
        let (sin, cos) = (before.x * after.y - before.y * after.x, before.x * after.x + before.y * after.y);
        // What each of the two lines goes on, or is cut, to where they meet: the distance by the tangent of half the angle.
        let reach = d.abs() * sin.abs() / (1.0 + cos);
        let mitre = [0, 1].map(|k| (from[k] + to[k]) / (1.0 + cos));
        if turn as f64 * d < 0.0 {
            if 2.0 * reach <= before.long.min(after.long) {
                return self.add(at, mitre);
            }
            return [from, [0.0; 2], to].into_iter().for_each(|step| self.add(at, step));
        }
        // How much further from the node the lines meet.
        let over = d.abs() * ((2.0 / (1.0 + cos)).sqrt() - 1.0);
        let may_be_over = match self.corner {
            Corner::Mitred => d.abs() * ((SHARPEST_MITRE_DEG / 2.0).to_radians().sin().recip() - 1.0),
            Corner::Round => ARC_TOLERANCE_MM * GRID_PER_MM,
            Corner::Square => 0.0,
        };
        if over <= may_be_over {
            return self.add(at, mitre);
        }
        // An edge may turn right back.
        let angle = sin.abs().atan2(cos) * d.signum();
        self.add(at, from);
        match self.corner {
            Corner::Round => self.arc(at, from, angle),
            Corner::Square => {}
            // Cut where the arc would have its middle.
            Corner::Mitred => {
                let further = d.abs() * (angle.abs() / 4.0).tan();
                self.add(at, [from[0] + further * before.x, from[1] + further * before.y]);
                self.add(at, [to[0] - further * after.x, to[1] - further * after.y]);
            }
        }
        self.add(at, to);
    }

    /// The nodes between both ends of an arc.
    fn arc(&mut self, at: GridPoint, from: [f64; 2], angle: f64) {
        let chords = (angle.abs() / widest_chord(self.d / GRID_PER_MM)).ceil();
        let (sin, cos) = (angle / chords).sin_cos();
        let mut step = from;
        for _ in 1..chords as u32 {
            step = [step[0] * cos - step[1] * sin, step[0] * sin + step[1] * cos];
            self.add(at, step);
        }
    }

    fn add(&mut self, at: GridPoint, step: [f64; 2]) {
        let [x, y] = step.map(|s| s.round() as i64);
        self.nodes.push(Point64::new(i64::from(at.x()) + x, i64::from(at.y()) + y));
    }
}
