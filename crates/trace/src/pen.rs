//! Pen lines: the middle of each stroke as an open or closed curve, joined at crossings.

use crate::field::Field;
use crate::shape::{self, Style};
use crate::thin::Mask;
use kachel_geom::{Curve, Px, Stopped, Watch};
use kurbo::{Point, Vec2};
use std::collections::{HashMap, HashSet};

/// The middle of a stroke.
#[derive(Clone, Debug, PartialEq)]
pub struct PenLine {
    /// Its course, pixels.
    pub curve: Curve<Px>,
    /// How wide it was drawn, pixels.
    pub width: f64,
}

/// Arms that meet straighter than this are one stroke: the cosine of 35 degrees.
const STRAIGHT_ON: f64 = 0.82;
/// Branches shorter than this many half-widths are roughness of the stroke's edge.
const SPUR: f64 = 1.6;
/// Nodes nearer than this many half-widths are one crossing.
const BRIDGE: f64 = 1.5;
/// Least deviation, pixels: the middle of a stroke is known less well than its edge.
const DEVIATION: f64 = 0.3;

/// A run of the skeleton from node to node, or once round.
struct Branch {
    ends: [Option<usize>; 2],
    points: Vec<Point>,
}

/// Follows the middles of the field's strokes.
pub(crate) fn follow(
    field: &Field,
    style: &Style,
    least: f64,
    watch: &Watch,
) -> Result<(Vec<PenLine>, Vec<Curve<Px>>), Stopped> {
    let ink: Vec<bool> = field.values.iter().map(|v| *v > 0.0).collect();
    let mut mask = Mask { stride: field.stride, ink };
    // The frame has to be ground, which it is: its values are negative.
    mask.thin(watch)?;
    let (mut branches, nodes) = branches(&mask);
    watch.check()?;
    let probe = Probe { field };
    prune(&mut branches, &nodes, &probe);
    bridge(&mut branches, &nodes, &probe);
    let chains = join(branches, nodes.len());
    let mut lines = Vec::new();
    let mut specks = Vec::new();
    let style = Style { deviation: style.deviation.max(DEVIATION), ..*style };
    let total = chains.len();
    for (k, chain) in chains.into_iter().enumerate() {
        watch.step(k, total)?;
        match probe.line(chain, &style) {
            Some(line) if length(&line.curve) * line.width >= least => lines.push(line),
            Some(line) => specks.push(line.curve),
            None => {}
        }
    }
    Ok((lines, specks))
}

fn length(c: &Curve<Px>) -> f64 {
    c.flatten(0.1).windows(2).map(|w| w[0].distance(w[1])).sum()
}

/// The middle of pixel `i` of the framed grid.
fn centre(i: usize, stride: usize) -> Point {
    Point::new((i % stride) as f64 - 0.5, (i / stride) as f64 - 0.5)
}

/// Runs of the skeleton, and the places of its nodes: ends and crossings.
fn branches(mask: &Mask) -> (Vec<Branch>, Vec<Point>) {
    let steps = mask.steps();
    let near = |i: usize| -> Vec<usize> {
        // A diagonal neighbour that a straight one leads to is no neighbour of its own.
        let on = |k: usize| mask.ink[i.wrapping_add_signed(steps[k % 8])];
        (0..8)
            .filter(|&k| on(k) && (k % 2 == 0 || (!on(k + 7) && !on(k + 1))))
            .map(|k| i.wrapping_add_signed(steps[k]))
            .collect()
    };
    let ink: Vec<usize> = (0..mask.ink.len()).filter(|i| mask.ink[*i]).collect();
    // Pixels that are no simple part of a line; touching ones of three or more arms are one node.
    let mut node_of: HashMap<usize, usize> = HashMap::new();
    let mut nodes: Vec<Point> = Vec::new();
    let is_node: HashSet<usize> = ink.iter().copied().filter(|i| near(*i).len() != 2).collect();
    for &start in ink.iter().filter(|i| is_node.contains(i)) {
        if node_of.contains_key(&start) {
            continue;
        }
        let (mut members, mut open) = (Vec::new(), vec![start]);
        node_of.insert(start, nodes.len());
        while let Some(i) = open.pop() {
            members.push(centre(i, mask.stride));
            for j in near(i) {
                if is_node.contains(&j) && !node_of.contains_key(&j) {
                    node_of.insert(j, nodes.len());
                    open.push(j);
                }
            }
        }
        let sum = members.iter().fold(Vec2::ZERO, |s, p| s + p.to_vec2());
        nodes.push((sum / members.len() as f64).to_point());
    }
    let mut out = Vec::new();
    let mut done: HashSet<(usize, usize)> = HashSet::new();
    let mut seen: HashSet<usize> = HashSet::new();
    let mut starts: Vec<usize> = ink.iter().copied().filter(|i| is_node.contains(i)).collect();
    starts.extend(ink.iter().copied().filter(|i| !is_node.contains(i)));
    for start in starts {
        let from = node_of.get(&start).copied();
        if from.is_none() && seen.contains(&start) {
            continue;
        }
        for next in near(start) {
            let is_inside = from.is_some() && node_of.get(&next) == from.as_ref();
            if is_inside || done.contains(&(start, next)) || (from.is_none() && seen.contains(&start)) {
                continue;
            }
            let mut points = vec![from.map_or(centre(start, mask.stride), |n| nodes[n])];
            let (mut before, mut at) = (start, next);
            let end = loop {
                done.insert((before, at));
                done.insert((at, before));
                if let Some(n) = node_of.get(&at) {
                    points.push(nodes[*n]);
                    break Some(*n);
                }
                seen.insert(at);
                points.push(centre(at, mask.stride));
                let Some(onward) = near(at).into_iter().find(|j| *j != before) else { break None };
                if from.is_none() && at == start {
                    break None;
                }
                (before, at) = (at, onward);
            };
            seen.insert(start);
            out.push(Branch { ends: [from, end], points });
        }
    }
    // A speck of one pixel is a node without branches.
    for (n, p) in nodes.iter().enumerate() {
        if !out.iter().any(|b| b.ends.contains(&Some(n))) {
            out.push(Branch { ends: [Some(n), Some(n)], points: vec![*p, *p + Vec2::new(0.01, 0.0)] });
        }
    }
    (out, nodes)
}

fn arms(branches: &[Branch], node: usize) -> usize {
    branches.iter().flat_map(|b| &b.ends).filter(|e| **e == Some(node)).count()
}

/// Takes off short branches that end freely at a node of three arms or more.
fn prune(branches: &mut Vec<Branch>, nodes: &[Point], probe: &Probe) {
    let counts: Vec<usize> = (0..nodes.len()).map(|n| arms(branches, n)).collect();
    branches.retain(|b| {
        let [Some(x), Some(y)] = b.ends else { return true };
        let (free, held) = if counts[x] == 1 { (x, y) } else { (y, x) };
        if counts[free] != 1 || counts[held] < 3 {
            return true;
        }
        let run: f64 = b.points.windows(2).map(|w| w[0].distance(w[1])).sum();
        run > SPUR * probe.half_width(nodes[held])
    });
}

/// A crossing thins to two nodes with a short bridge between them: they become one node in the middle.
fn bridge(branches: &mut Vec<Branch>, nodes: &[Point], probe: &Probe) {
    let mut heir: Vec<usize> = (0..nodes.len()).collect();
    let root = |heir: &[usize], mut n: usize| {
        while heir[n] != n {
            n = heir[n];
        }
        n
    };
    branches.retain(|b| {
        let [Some(x), Some(y)] = b.ends else { return true };
        let run: f64 = b.points.windows(2).map(|w| w[0].distance(w[1])).sum();
        let is_bridge = x != y && run <= BRIDGE * probe.half_width(nodes[x]).min(probe.half_width(nodes[y]));
        if is_bridge {
            let (a, b) = (root(&heir, x), root(&heir, y));
            heir[a.max(b)] = a.min(b);
        }
        !is_bridge
    });
    let mut sums = vec![(Vec2::ZERO, 0.0); nodes.len()];
    for (n, p) in nodes.iter().enumerate() {
        let sum = &mut sums[root(&heir, n)];
        sum.0 += p.to_vec2();
        sum.1 += 1.0;
    }
    for b in branches {
        for side in [0, 1] {
            let Some(n) = b.ends[side] else { continue };
            let to = root(&heir, n);
            b.ends[side] = Some(to);
            if sums[to].1 > 1.0 {
                let at = (sums[to].0 / sums[to].1).to_point();
                if side == 0 {
                    b.points.insert(0, at);
                } else {
                    b.points.push(at);
                }
            }
        }
    }
}

/// Joins arms that go straight on across a node into one chain; each chain ends at nodes or closes.
fn join(branches: Vec<Branch>, nodes: usize) -> Vec<Vec<Point>> {
    // At each node: which arm goes on as which. An arm is a branch and one of its ends.
    let mut partner: HashMap<(usize, usize), (usize, usize)> = HashMap::new();
    let mut at_node: Vec<Vec<(usize, usize)>> = vec![Vec::new(); nodes];
    for (k, b) in branches.iter().enumerate() {
        for (side, end) in b.ends.iter().enumerate() {
            if let Some(n) = end {
                at_node[*n].push((k, side));
            }
        }
    }
    let outward = |(k, side): (usize, usize)| {
        let p = &branches[k].points;
        let n = p.len();
        let far = 8.min(n - 1);
        let (a, b) = if side == 0 { (p[0], p[far]) } else { (p[n - 1], p[n - 1 - far]) };
        let d = b - a;
        if d.hypot() > 0.0 { d.normalize() } else { d }
    };
    for here in &at_node {
        let mut pairs: Vec<(f64, usize, usize)> = Vec::new();
        for i in 0..here.len() {
            for j in i + 1..here.len() {
                pairs.push((-outward(here[i]).dot(outward(here[j])), i, j));
            }
        }
        pairs.sort_by(|a, b| b.0.total_cmp(&a.0));
        let mut taken = vec![false; here.len()];
        for (straight, i, j) in pairs {
            // Two arms and nothing else are one line, however it bends.
            if (straight >= STRAIGHT_ON || here.len() == 2) && !taken[i] && !taken[j] {
                (taken[i], taken[j]) = (true, true);
                partner.insert(here[i], here[j]);
                partner.insert(here[j], here[i]);
            }
        }
    }
    let mut used = vec![false; branches.len()];
    let mut chains = Vec::new();
    let run = |first: (usize, usize), used: &mut Vec<bool>| {
        // From one end of the first branch onwards.
        let mut chain: Vec<Point> = Vec::new();
        let mut arm = Some(first);
        while let Some((k, side)) = arm {
            if std::mem::replace(&mut used[k], true) {
                break;
            }
            let points = branches[k].points.iter().copied();
            let skip = usize::from(!chain.is_empty());
            if side == 0 {
                chain.extend(points.skip(skip));
            } else {
                chain.extend(points.rev().skip(skip));
            }
            arm = partner.get(&(k, 1 - side)).copied();
        }
        chain
    };
    // From free ends first; what is left are rings.
    for k in 0..branches.len() {
        for side in [0, 1] {
            if !used[k] && !partner.contains_key(&(k, side)) {
                chains.push(run((k, side), &mut used));
            }
        }
    }
    for k in 0..branches.len() {
        if !used[k] {
            chains.push(run((k, 0), &mut used));
        }
    }
    chains.retain(|c| c.len() >= 2);
    chains
}

/// Looks across strokes.
struct Probe<'f> {
    field: &'f Field,
}

impl Probe<'_> {
    /// The field between the centres, bilinear.
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to the field")]
    fn value(&self, p: Point) -> f64 {
        let f = self.field;
        let (x, y) = (p.x + 0.5, p.y + 0.5);
        let (x, y) = (x.clamp(0.0, (f.stride - 2) as f64), y.clamp(0.0, (f.rows - 2) as f64));
        let (left, top) = (x.floor(), y.floor());
        let (fx, fy) = (x - left, y - top);
        let i = top as usize * f.stride + left as usize;
        let v = |i: usize| f64::from(f.values[i]);
        let upper = v(i) + (v(i + 1) - v(i)) * fx;
        let lower = v(i + f.stride) + (v(i + f.stride + 1) - v(i + f.stride)) * fx;
        upper + (lower - upper) * fy
    }

    /// How far from `p` along `d` the ink ends.
    fn edge(&self, p: Point, d: Vec2, most: f64) -> Option<f64> {
        let mut before = self.value(p);
        if before <= 0.0 {
            return None;
        }
        let mut t = 0.0;
        while t < most {
            let next = t + 0.5;
            let v = self.value(p + d * next);
            if v <= 0.0 {
                return Some(t + 0.5 * before / (before - v));
            }
            (before, t) = (v, next);
        }
        None
    }

    /// Half the width of the stroke at a place, by the nearest edge.
    fn half_width(&self, p: Point) -> f64 {
        let all = (0..16).map(|k| Vec2::from_angle(f64::from(k) * std::f64::consts::TAU / 16.0));
        all.filter_map(|d| self.edge(p, d, 200.0)).fold(f64::INFINITY, f64::min).min(200.0)
    }

    /// Moves the skeleton's points to the middle of the stroke, finds its width and where it ends, and fits a curve.
    fn line(&self, chain: Vec<Point>, style: &Style) -> Option<PenLine> {
        let n = chain.len();
        let is_closed = n > 8 && chain[0].distance(chain[n - 1]) < 1e-9;
        let rough = self.half_width(chain[n / 2]).clamp(0.4, 200.0);
        let reach = (rough.ceil().max(3.0) as usize).min(12);
        let direction = |k: usize| {
            let (a, b) = if is_closed {
                (chain[(k + n - 1 - reach.min(n - 2)) % (n - 1)], chain[(k + reach) % (n - 1)])
            } else {
                (chain[k.saturating_sub(reach)], chain[(k + reach).min(n - 1)])
            };
            let d = b - a;
            if d.hypot() > 0.0 { d.normalize() } else { Vec2::new(1.0, 0.0) }
        };
        let mut widths: Vec<f64> = Vec::new();
        let mut middles: Vec<(Point, f64)> = Vec::new();
        for (k, here) in chain.iter().enumerate() {
            let across = direction(k).turn_90();
            let sides = (self.edge(*here, across, rough * 4.0), self.edge(*here, -across, rough * 4.0));
            if let (Some(a), Some(b)) = sides {
                widths.push(a + b);
                middles.push((*here + across * ((a - b) / 2.0), a + b));
            }
        }
        widths.sort_by(f64::total_cmp);
        let width = widths.get(widths.len() / 2).copied().unwrap_or(2.0 * rough).max(0.5);
        // Near crossings the stroke seems wide and its middle is that of something else.
        let mut points: Vec<Point> = middles.iter().filter(|(_, w)| *w < width * 1.35 + 0.5).map(|(p, _)| *p).collect();
        if is_closed {
            if points.len() < 6 {
                return None;
            }
            let ring = kachel_geom::Ring(points.iter().map(|p| kachel_geom::Point::new(p.x, p.y)).collect());
            return Some(PenLine { curve: shape::closed(&ring, style), width });
        }
        let (first, last) = (chain[0], chain[n - 1]);
        // Points at either end that the ends are about to replace.
        let clear = |e: Point| move |p: &Point| p.distance(e) > width * 0.6;
        points.retain(|p| clear(first)(p) && clear(last)(p));
        let ends = [self.tip(first, &mut points.iter(), width), self.tip(last, &mut points.iter().rev(), width)];
        points.insert(0, ends[0]);
        points.push(ends[1]);
        points.dedup_by(|a, b| a.distance(*b) < 1e-6);
        if points.len() < 2 {
            points = vec![first, last];
        }
        Some(PenLine { curve: shape::open(&points, style), width })
    }

    /// Thinning eats into the ends of strokes: the line ends half a width before the ink does. Its direction there is
    /// that of the points next to it, which are in the middle; the skeleton's own end may be drawn into a corner.
    fn tip(&self, end: Point, next: &mut dyn Iterator<Item = &Point>, width: f64) -> Point {
        let near: Vec<Point> = next.take_while(|p| p.distance(end) < width * 2.0 + 6.0).copied().collect();
        let (Some(base), Some(far)) = (near.first(), near.last()) else { return end };
        if base.distance(*far) < 1.5 {
            return end;
        }
        let outward = (*base - *far).normalize();
        match self.edge(*base, outward, width * 3.0 + 4.0) {
            // At a crossing the ink goes on: the line ends where the skeleton does.
            Some(t) if (base.distance(end) - (t - width / 2.0)).abs() < width => {
                *base + outward * (t - width / 2.0).max(0.0)
            }
            _ => end,
        }
    }
}
