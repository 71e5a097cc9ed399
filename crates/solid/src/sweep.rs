//! Areas cut into triangles by a line that sweeps over them; [`Triangulation`] makes their constrained Delaunay triangulation of these.
//!
//! What lies left of the line is done but for one chain of edges an interval, which bulges to the right: a new vertex sees all of it
//! that it will ever see (Hertel and Mehlhorn, "Fast triangulation of simple polygons", 1983). All comparisons are exact.

use crate::sheet::{Border, Side};
use crate::triangulation::{NONE, Triangulation};
use kachel_geom::{GridPoint, orient};
use std::ops::Range;

/// The edges cross, or have different kinds on the same side.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Tangled;

/// An edge from its left end to its right one (of two above each other, from the lower one).
struct Edge<T> {
    from: u32,
    to: u32,
    below: Option<T>,
    above: Option<T>,
    /// What is not done above it, while the line crosses it.
    chain: Chain,
}

/// A place on a chain.
#[derive(Clone, Copy)]
struct Link {
    vertex: u32,
    down: u32,
    up: u32,
    /// The edge to the link above; `NONE` on a border.
    edge: u32,
}

/// A chain by its links, from the edge below it to the edge above.
#[derive(Clone, Copy)]
struct Chain {
    low: u32,
    high: u32,
    /// The one furthest right, which the line has met last.
    last: u32,
}

/// What the line has left behind it.
struct Sweep<'a, T> {
    points: &'a [GridPoint],
    done: Triangulation<T>,
    links: Vec<Link>,
}

/// The constrained Delaunay triangulation of all areas that have a kind. No two edges of the border meet but at their ends.
pub(crate) fn triangulation<T: Copy + PartialEq>(border: &Border<Option<T>>) -> Result<Triangulation<T>, Tangled> {
    let edges = border.edges.len();
    let mut sweep =
        Sweep { points: &border.points, done: Triangulation::for_about(edges), links: Vec::with_capacity(2 * edges) };
    sweep.sweep(in_order(border))?;
    sweep.done.settle(&border.points);
    Ok(sweep.done)
}

/// The edges, in the order of their left ends, and those with the same one from below.
fn in_order<T: Copy>(border: &Border<Option<T>>) -> Vec<Edge<T>> {
    let at = |v: u32| border.points[v as usize];
    let chain = Chain { low: NONE, high: NONE, last: NONE };
    let directed = |&([a, b], [left, right]): &Side<Option<T>>| {
        let (from, to, above, below) = if at(a) < at(b) { (a, b, left, right) } else { (b, a, right, left) };
        Edge { from, to, below, above, chain }
    };
    let mut all: Vec<Edge<T>> = border.edges.iter().map(directed).collect();
    let by_turn = |e: &Edge<T>, f: &Edge<T>| 0.cmp(&orient(at(e.from), at(e.to), at(f.to)));
    all.sort_unstable_by(|e, f| at(e.from).cmp(&at(f.from)).then_with(|| by_turn(e, f)));
    all
}

impl<T: Copy + PartialEq> Sweep<'_, T> {
    fn at(&self, v: u32) -> GridPoint {
        self.points[v as usize]
    }

    fn sweep(&mut self, mut edges: Vec<Edge<T>>) -> Result<(), Tangled> {
        let mut order: Vec<u32> = (0..self.points.len() as u32).collect();
        order.sort_unstable_by_key(|v| self.at(*v));
        // The edges that the line crosses, from below.
        let mut crossed: Vec<u32> = Vec::new();
        let mut next = 0;
        for v in order {
            let p = self.at(v);
            let first = crossed.partition_point(|e| {
                let e = &edges[*e as usize];
                e.to != v && orient(self.at(e.from), self.at(e.to), p) > 0
            });
            let ending = crossed[first..].iter().take_while(|e| edges[**e as usize].to == v).count();
            let begin = next;
            next += edges[begin..].iter().take_while(|e| e.from == v).count();
            self.pass(v, &mut edges, &crossed[..first + ending], ending, begin..next)?;
            crossed.splice(first..first + ending, (begin as u32)..(next as u32));
        }
        if crossed.is_empty() && next == edges.len() { Ok(()) } else { Err(Tangled) }
    }

    /// The line passes a vertex: the last `ending` of the edges up to it end there, and some begin.
    fn pass(
        &mut self,
        v: u32,
        edges: &mut [Edge<T>],
        below: &[u32],
        ending: usize,
        begin: Range<usize>,
    ) -> Result<(), Tangled> {
        let (below, ends) = below.split_at(below.len() - ending);
        // What lies under all of them, and what lies over them at last.
        let under = below.last().map(|e| *e as usize);
        let outside = under.and_then(|e| edges[e].above);
        let over = ends.last().map_or(outside, |e| edges[*e as usize].above);
        let mut beside = outside;
        for e in &edges[begin.clone()] {
            if std::mem::replace(&mut beside, e.above) != e.below {
                return Err(Tangled);
            }
        }
        if beside != over {
            return Err(Tangled);
        }
        for pair in ends.windows(2) {
            let e = &edges[pair[0] as usize];
            if let Some(kind) = e.above {
                self.close(e.chain, v, kind)?;
            }
        }
        let mut upper = match (ends.last(), over) {
            // The vertex lies within one interval.
            (None, Some(kind)) => {
                let e = under.ok_or(Tangled)?;
                let (lower, upper) = self.split(edges[e].chain, v, kind);
                edges[e].chain = lower;
                Some(upper)
            }
            (Some(last), over) => {
                if let (Some(kind), Some(e)) = (outside, under) {
                    edges[e].chain = self.add_high(edges[e].chain, v, kind);
                }
                over.map(|kind| self.add_low(edges[*last as usize].chain, v, kind))
            }
            (None, None) => None,
        };
        for e in begin.clone() {
            if e + 1 == begin.end {
                if let Some(chain) = upper.take() {
                    edges[e].chain = chain;
                }
            } else if edges[e].above.is_some() {
                let link = self.link(v);
                edges[e].chain = Chain { low: link, high: link, last: link };
            }
        }
        // Nothing begins: what lay under and over the edges is one interval now.
        if let (Some(upper), Some(e)) = (upper, under) {
            edges[e].chain = self.joined(edges[e].chain, upper);
        }
        Ok(())
    }

    fn link(&mut self, vertex: u32) -> u32 {
        self.links.push(Link { vertex, down: NONE, up: NONE, edge: NONE });
        self.links.len() as u32 - 1
    }

    /// Joins two links, the first below the second.
    fn tie(&mut self, low: u32, high: u32, edge: u32) {
        let l = &mut self.links[low as usize];
        (l.up, l.edge) = (high, edge);
        self.links[high as usize].down = low;
    }

    /// Whether a vertex right of the chain sees its edge from a link to the one above.
    fn sees(&self, v: u32, link: u32) -> bool {
        let Link { vertex, up, .. } = self.links[link as usize];
        orient(self.at(vertex), self.at(self.links[up as usize].vertex), self.at(v)) < 0
    }

    /// The triangle of a vertex and the chain's edge above a link. Its edges to the link and to the one above are given.
    fn cut(&mut self, v: u32, link: u32, to_low: u32, to_high: u32, kind: T) {
        let Link { vertex: low, up, edge, .. } = self.links[link as usize];
        let high = self.links[up as usize].vertex;
        self.done.add([low, v, high], [to_low, to_high, edge], kind);
    }

    /// Cuts off what a vertex sees upwards from a link; where that ends, and the edge from the vertex to there.
    fn fan_up(&mut self, v: u32, mut link: u32, mut edge: u32, kind: T) -> (u32, u32) {
        while self.links[link as usize].up != NONE && self.sees(v, link) {
            let to = self.done.edge();
            self.cut(v, link, edge, to, kind);
            (link, edge) = (self.links[link as usize].up, to);
        }
        (link, edge)
    }

    /// The same downwards.
    fn fan_down(&mut self, v: u32, mut link: u32, mut edge: u32, kind: T) -> (u32, u32) {
        loop {
            let down = self.links[link as usize].down;
            if down == NONE || !self.sees(v, down) {
                return (link, edge);
            }
            let to = self.done.edge();
            self.cut(v, down, to, edge, kind);
            (link, edge) = (down, to);
        }
    }

    /// The edge below an interval goes on at a vertex.
    fn add_low(&mut self, chain: Chain, v: u32, kind: T) -> Chain {
        let (first, edge) = self.fan_up(v, chain.low, NONE, kind);
        let low = self.link(v);
        self.tie(low, first, edge);
        Chain { low, last: low, ..chain }
    }

    /// The edge above an interval goes on at a vertex.
    fn add_high(&mut self, chain: Chain, v: u32, kind: T) -> Chain {
        let (first, edge) = self.fan_down(v, chain.high, NONE, kind);
        let high = self.link(v);
        self.tie(first, high, edge);
        Chain { high, last: high, ..chain }
    }

    /// Both edges of an interval end at a vertex.
    fn close(&mut self, chain: Chain, v: u32, kind: T) -> Result<(), Tangled> {
        let (mut link, mut edge) = (chain.low, NONE);
        while link != chain.high {
            if !self.sees(v, link) {
                return Err(Tangled);
            }
            let up = self.links[link as usize].up;
            let to = if up == chain.high { NONE } else { self.done.edge() };
            self.cut(v, link, edge, to, kind);
            (link, edge) = (up, to);
        }
        Ok(())
    }

    /// A vertex within an interval, where edges begin: it sees the last link and what is next to that.
    fn split(&mut self, chain: Chain, v: u32, kind: T) -> (Chain, Chain) {
        let edge = self.done.edge();
        let (below, to_below) = self.fan_down(v, chain.last, edge, kind);
        let (mut above, to_above) = self.fan_up(v, chain.last, edge, kind);
        let mut top = chain.high;
        if above == below {
            // The link is on both chains.
            let Link { vertex, up, edge, .. } = self.links[below as usize];
            above = self.link(vertex);
            if up == NONE { top = above } else { self.tie(above, up, edge) }
        }
        let (high, low) = (self.link(v), self.link(v));
        self.tie(below, high, to_below);
        self.links[above as usize].down = NONE;
        self.tie(low, above, to_above);
        (Chain { low: chain.low, high, last: high }, Chain { low, high: top, last: low })
    }

    /// Two chains that meet at a vertex, as one.
    fn joined(&mut self, lower: Chain, upper: Chain) -> Chain {
        // Both end in a link for that vertex.
        let Link { up, edge, .. } = self.links[upper.low as usize];
        self.tie(lower.high, up, edge);
        Chain { low: lower.low, high: upper.high, last: lower.high }
    }
}
