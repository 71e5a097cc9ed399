//! Lines that a hand drew: nodes with handles.

use crate::ranges::bad;
use kachel_geom::{Curve, Point, Segment, Space};
use serde::{Deserialize, Serialize};

/// Most nodes of one line.
pub const MAX_LINE_NODES: usize = 5000;

/// A node of a line. Without handles its pieces are straight; handles in one line with it make it smooth.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Node {
    /// Where it is.
    pub at: [f64; 2],
    /// Where its handle towards the node before it is.
    #[serde(default)]
    pub before: Option<[f64; 2]>,
    /// Where its handle towards the node after it is.
    #[serde(default)]
    pub after: Option<[f64; 2]>,
}

/// A line of nodes. All places are in the same space: pixels of the picture, or millimetres where it says so.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct DrawnLine {
    /// In order.
    pub nodes: Vec<Node>,
    /// Whether the last one is joined to the first one.
    pub is_closed: bool,
}

impl DrawnLine {
    /// The line of a curve.
    pub fn of<S: Space>(c: &Curve<S>) -> Self {
        let place = |p: Point<S>| [p.x, p.y];
        let bare = |p| Node { at: place(p), before: None, after: None };
        let is_closed = c.is_closed();
        let mut nodes = vec![bare(c.start)];
        for (from, s) in c.pieces() {
            let mut next = bare(s.end());
            if let Segment::Cubic(a, b, p) = s {
                let last = nodes.len() - 1;
                nodes[last].after = (a != from).then(|| place(a));
                next.before = (b != p).then(|| place(b));
            }
            nodes.push(next);
        }
        if is_closed && let Some(last) = nodes.pop() {
            nodes[0].before = last.before;
        }
        Self { nodes, is_closed }
    }

    /// The line as a curve; `None` with fewer than two nodes.
    pub fn curve<S: Space>(&self) -> Option<Curve<S>> {
        let (first, rest) = self.nodes.split_first()?;
        let point = |p: [f64; 2]| Point::new(p[0], p[1]);
        let close = self.is_closed.then_some(first);
        let mut from = first;
        let mut segments = Vec::with_capacity(self.nodes.len());
        for to in rest.iter().chain(close) {
            // Pieces of no length are left out; a loop back to its own node is one.
            let is_nothing = to.at == from.at && from.after.is_none() && to.before.is_none();
            if !is_nothing {
                segments.push(match (from.after, to.before) {
                    (None, None) => Segment::Line(point(to.at)),
                    (a, b) => Segment::Cubic(point(a.unwrap_or(from.at)), point(b.unwrap_or(to.at)), point(to.at)),
                });
            }
            from = to;
        }
        (!segments.is_empty()).then(|| Curve { start: point(first.at), segments })
    }

    /// Distance of its two ends, in its own space.
    pub fn gap(&self) -> f64 {
        match self.nodes.as_slice() {
            [a, .., b] => (a.at[0] - b.at[0]).hypot(a.at[1] - b.at[1]),
            _ => 0.0,
        }
    }

    /// The line closed straight from end to end; ends that lie on each other become one node.
    #[must_use]
    pub fn joined(&self) -> Self {
        let mut out = Self { is_closed: true, ..self.clone() };
        if self.nodes.len() > 2
            && self.gap() < 1e-6
            && let Some(last) = out.nodes.pop()
        {
            out.nodes[0].before = last.before;
        }
        out
    }

    /// The line closed by going straight on at both ends to where they cross; `None` where they don't.
    #[must_use]
    pub fn extended(&self) -> Option<Self> {
        let n = self.nodes.len();
        if self.is_closed || n < 3 {
            return None;
        }
        let (first, last) = (self.nodes[0], self.nodes[n - 1]);
        // Away from the line, by the handle where there is one.
        let way = |end: Node, next: [f64; 2]| [end.at[0] - next[0], end.at[1] - next[1]];
        let u = way(first, first.after.unwrap_or(self.nodes[1].before.unwrap_or(self.nodes[1].at)));
        let v = way(last, last.before.unwrap_or(self.nodes[n - 2].after.unwrap_or(self.nodes[n - 2].at)));
        let cross = u[0] * v[1] - u[1] * v[0];
        let (dx, dy) = (last.at[0] - first.at[0], last.at[1] - first.at[1]);
        let (s, t) = ((dx * v[1] - dy * v[0]) / cross, (dx * u[1] - dy * u[0]) / cross);
        if !(s.is_finite() && t.is_finite() && s >= 0.0 && t >= 0.0) {
            return None;
        }
        let at = [first.at[0] + s * u[0], first.at[1] + s * u[1]];
        let mut out = Self { is_closed: true, ..self.clone() };
        out.nodes.push(Node { at, before: None, after: None });
        Some(out)
    }

    /// This line and the other one as one, where an end of each lies within `reach`.
    #[must_use]
    pub fn with(&self, other: &Self, reach: f64) -> Option<Self> {
        let near = |a: &Node, b: &Node| (a.at[0] - b.at[0]).hypot(a.at[1] - b.at[1]);
        let ends = |l: &Self| Some((*l.nodes.first()?, *l.nodes.last()?));
        let ((a0, a1), (b0, b1)) = (ends(self)?, ends(other)?);
        let ways = [
            (near(&a1, &b0), false, false),
            (near(&a1, &b1), false, true),
            (near(&a0, &b1), true, true),
            (near(&a0, &b0), true, false),
        ];
        let (distance, turn_a, turn_b) = ways.into_iter().min_by(|x, y| x.0.total_cmp(&y.0))?;
        if distance > reach {
            return None;
        }
        let turned = |l: &Self, turn: bool| if turn { l.reversed() } else { l.clone() };
        let mut out = turned(self, turn_a);
        let mut rest = turned(other, turn_b).nodes.into_iter();
        if distance < 1e-6
            && let (Some(last), Some(first)) = (out.nodes.last_mut(), rest.next())
        {
            last.after = first.after;
        }
        out.nodes.extend(rest);
        Some(out)
    }

    /// The same line run the other way.
    #[must_use]
    pub fn reversed(&self) -> Self {
        let turn = |n: &Node| Node { at: n.at, before: n.after, after: n.before };
        Self { nodes: self.nodes.iter().rev().map(turn).collect(), is_closed: self.is_closed }
    }

    /// Every place in it.
    pub(crate) fn places_mut(&mut self) -> impl Iterator<Item = &mut [f64; 2]> {
        self.nodes.iter_mut().flat_map(|n| std::iter::once(&mut n.at).chain(&mut n.before).chain(&mut n.after))
    }

    pub(crate) fn refusal(&self) -> Option<String> {
        bad(self.nodes.len() < 2, "a line has two nodes or more")
            .or_else(|| bad(self.nodes.len() > MAX_LINE_NODES, "a line has at most 5000 nodes"))
    }
}
