//! Lines that a hand drew: nodes with handles.

use crate::ranges::bad;
use kachel_geom::{Curve, Point, Px, Segment, Space};
use kachel_words::Message;
use serde::{Deserialize, Serialize};

/// Most nodes of one line.
pub const MAX_LINE_NODES: usize = 5000;

/// A node of a line. Without handles its pieces are straight; handles in one line with it make it smooth.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(bound = "", deny_unknown_fields)]
#[ts(export, concrete(S = Px))]
pub struct Node<S: Space = Px> {
    /// Where it is.
    pub at: Point<S>,
    /// Where its handle towards the node before it is.
    #[serde(default)]
    pub before: Option<Point<S>>,
    /// Where its handle towards the node after it is.
    #[serde(default)]
    pub after: Option<Point<S>>,
}

/// A line of nodes in the space `S`.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(bound = "", deny_unknown_fields)]
#[ts(export, concrete(S = Px))]
pub struct DrawnLine<S: Space = Px> {
    /// In order.
    pub nodes: Vec<Node<S>>,
    /// Whether the last one is joined to the first one.
    pub is_closed: bool,
}

impl<S: Space> DrawnLine<S> {
    /// The line of a curve.
    pub fn of(c: &Curve<S>) -> Self {
        let bare = |at| Node { at, before: None, after: None };
        let is_closed = c.is_closed();
        let mut nodes = vec![bare(c.start)];
        for (from, s) in c.pieces() {
            let mut next = bare(s.end());
            if let Segment::Cubic(a, b, p) = s {
                let last = nodes.len() - 1;
                nodes[last].after = (a != from).then_some(a);
                next.before = (b != p).then_some(b);
            }
            nodes.push(next);
        }
        if is_closed && let Some(last) = nodes.pop() {
            nodes[0].before = last.before;
        }
        Self { nodes, is_closed }
    }

    /// The line as a curve; `None` with fewer than two nodes.
    pub fn curve(&self) -> Option<Curve<S>> {
        let (first, rest) = self.nodes.split_first()?;
        let close = self.is_closed.then_some(first);
        let mut from = first;
        let mut segments = Vec::with_capacity(self.nodes.len());
        for to in rest.iter().chain(close) {
            // Pieces of no length are left out; a loop back to its own node is one.
            let is_nothing = to.at == from.at && from.after.is_none() && to.before.is_none();
            if !is_nothing {
                segments.push(match (from.after, to.before) {
                    (None, None) => Segment::Line(to.at),
                    (a, b) => Segment::Cubic(a.unwrap_or(from.at), b.unwrap_or(to.at), to.at),
                });
            }
            from = to;
        }
        (!segments.is_empty()).then_some(Curve { start: first.at, segments })
    }

    /// Distance of its two ends, in its own space.
    pub fn gap(&self) -> f64 {
        match self.nodes.as_slice() {
            [a, .., b] => a.at.distance(b.at),
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
        let way = |end: Node<S>, next: Point<S>| [end.at.x - next.x, end.at.y - next.y];
        let u = way(first, first.after.unwrap_or(self.nodes[1].before.unwrap_or(self.nodes[1].at)));
        let v = way(last, last.before.unwrap_or(self.nodes[n - 2].after.unwrap_or(self.nodes[n - 2].at)));
        let cross = u[0] * v[1] - u[1] * v[0];
        let (dx, dy) = (last.at.x - first.at.x, last.at.y - first.at.y);
        let (s, t) = ((dx * v[1] - dy * v[0]) / cross, (dx * u[1] - dy * u[0]) / cross);
        if !(s.is_finite() && t.is_finite() && s >= 0.0 && t >= 0.0) {
            return None;
        }
        let at = Point::new(first.at.x + s * u[0], first.at.y + s * u[1]);
        let mut out = Self { is_closed: true, ..self.clone() };
        out.nodes.push(Node { at, before: None, after: None });
        Some(out)
    }

    /// This line and the other one as one, where an end of each lies within `reach`.
    #[must_use]
    pub fn with(&self, other: &Self, reach: f64) -> Option<Self> {
        let near = |a: &Node<S>, b: &Node<S>| a.at.distance(b.at);
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
        let turn = |n: &Node<S>| Node { at: n.at, before: n.after, after: n.before };
        Self { nodes: self.nodes.iter().rev().map(turn).collect(), is_closed: self.is_closed }
    }

    /// Every place in it.
    pub(crate) fn places_mut(&mut self) -> impl Iterator<Item = &mut Point<S>> {
        self.nodes.iter_mut().flat_map(|n| std::iter::once(&mut n.at).chain(&mut n.before).chain(&mut n.after))
    }

    pub(crate) fn refusal(&self) -> Option<Message> {
        bad(self.nodes.len() < 2, "too-few-line-nodes")
            .or_else(|| bad(self.nodes.len() > MAX_LINE_NODES, "too-many-line-nodes"))
    }
}
