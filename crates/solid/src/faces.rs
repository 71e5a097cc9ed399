//! From edges to faces: half-edges in exact angular order, components placed by a ray, winding numbers handed on
//! from face to face. From here on there is no geometry, only labels.

use crate::arrange::{Arrangement, Edge};
use crate::bands::Bands;
use crate::error::SolidError;
use kachel_geom::{GridPoint, Watch};
use smallvec::SmallVec;
use std::cmp::Ordering;

/// The face outside everything.
pub(crate) const OUTSIDE: u32 = 0;
const NONE: u32 = u32::MAX;

/// Half-edges that leave a vertex; most have few.
type Outgoing = SmallVec<[u32; 4]>;

/// An arrangement with its faces.
#[derive(Clone, Debug)]
pub(crate) struct Faces {
    pub arrangement: Arrangement,
    /// Face on the left of each half-edge; half-edge 2e runs along edge e, 2e + 1 against it.
    pub left: Vec<u32>,
    /// Outgoing half-edges of each vertex, anticlockwise.
    pub out: Vec<Outgoing>,
    /// The half-edge before each one in the order of its vertex.
    before: Vec<u32>,
    pub count: usize,
    regions: usize,
    inside: Vec<bool>,
}

impl Faces {
    pub(crate) fn new(arrangement: Arrangement, regions: usize, watch: &Watch) -> Result<Self, SolidError> {
        let out = outgoing(&arrangement);
        let next = next_in_face(&arrangement, &out);
        let (cycle_of, cycles) = cycles(&arrangement, &next);
        let (face_of_cycle, count) = place(&arrangement, &out, &cycle_of, &cycles, watch)?;
        let left = cycle_of.iter().map(|&c| face_of_cycle[c as usize]).collect();
        let mut before = vec![NONE; arrangement.edges.len() * 2];
        for halves in &out {
            halves.iter().enumerate().for_each(|(i, h)| {
                before[*h as usize] = halves[(i + halves.len() - 1) % halves.len()];
            });
        }
        let mut faces = Self { arrangement, left, out, before, count, regions, inside: Vec::new() };
        faces.inside = faces.windings(&next);
        Ok(faces)
    }

    pub(crate) fn is_inside(&self, face: u32, region: usize) -> bool {
        self.inside[face as usize * self.regions + region]
    }

    /// Faces on the left and right of an edge.
    pub(crate) fn sides(&self, edge: usize) -> (u32, u32) {
        (self.left[2 * edge], self.left[2 * edge + 1])
    }

    /// Where a half-edge begins.
    pub(crate) fn origin(&self, half: u32) -> u32 {
        origin(&self.arrangement.edges, half)
    }

    /// The wedges beside an edge a -> b, each by the half-edge whose wedge it is: on the left at a and at b, on the right at
    /// a and at b.
    pub(crate) fn corners(&self, edge: u32) -> [u32; 4] {
        let (along, against) = (2 * edge, 2 * edge + 1);
        [along, self.before[against as usize], self.before[along as usize], against]
    }

    /// The half-edge at a vertex whose wedge a direction falls into: the last one at or before it, anticlockwise.
    pub(crate) fn wedge_of(&self, vertex: u32, toward: GridPoint) -> u32 {
        let o = self.arrangement.points[vertex as usize];
        let halves = &self.out[vertex as usize];
        let end = |h: &u32| self.arrangement.points[self.origin(*h ^ 1) as usize];
        let after = halves.partition_point(|h| by_angle(o, end(h), toward) != Ordering::Greater);
        halves[(after + halves.len() - 1) % halves.len()]
    }

    /// Spreads winding numbers from the outside over all faces.
    fn windings(&self, next: &[u32]) -> Vec<bool> {
        let r = self.regions;
        let mut winding: Vec<i32> = vec![0; self.count * r];
        let mut seen = vec![false; self.count];
        let mut of_face: Vec<Vec<u32>> = vec![Vec::new(); self.count];
        (0..next.len() as u32).for_each(|h| of_face[self.left[h as usize] as usize].push(h));
        seen[OUTSIDE as usize] = true;
        let mut queue = vec![OUTSIDE];
        while let Some(face) = queue.pop() {
            for &h in &of_face[face as usize] {
                let over = self.left[(h ^ 1) as usize];
                if std::mem::replace(&mut seen[over as usize], true) {
                    continue;
                }
                let (from, to) = (face as usize * r, over as usize * r);
                winding.copy_within(from..from + r, to);
                // h has `face` on its left; stepping over goes to its right.
                let sign = if h.is_multiple_of(2) { -1 } else { 1 };
                for w in &self.arrangement.edges[(h / 2) as usize].windings {
                    winding[to + w.region as usize] += sign * w.turns;
                }
                queue.push(over);
            }
        }
        winding.into_iter().map(|w| w != 0).collect()
    }
}

fn origin(edges: &[Edge], half: u32) -> u32 {
    let e = &edges[(half / 2) as usize];
    if half.is_multiple_of(2) { e.a } else { e.b }
}

/// Exact order by angle, anticlockwise from the positive x axis.
fn by_angle(o: GridPoint, p: GridPoint, q: GridPoint) -> Ordering {
    let d = |r: GridPoint| (i64::from(r.x() - o.x()), i64::from(r.y() - o.y()));
    let ((px, py), (qx, qy)) = (d(p), d(q));
    let lower = |x: i64, y: i64| y < 0 || (y == 0 && x < 0);
    lower(px, py).cmp(&lower(qx, qy)).then_with(|| 0.cmp(&(px * qy - py * qx)))
}

fn outgoing(a: &Arrangement) -> Vec<Outgoing> {
    let mut out: Vec<Outgoing> = vec![Outgoing::new(); a.points.len()];
    for (i, e) in (0u32..).zip(&a.edges) {
        out[e.a as usize].push(2 * i);
        out[e.b as usize].push(2 * i + 1);
    }
    for (v, halves) in out.iter_mut().enumerate() {
        let end = |h: &u32| a.points[origin(&a.edges, h ^ 1) as usize];
        halves.sort_by(|g, h| by_angle(a.points[v], end(g), end(h)));
    }
    out
}

/// The half-edge that follows each one round the face on its left.
fn next_in_face(a: &Arrangement, out: &[Outgoing]) -> Vec<u32> {
    let mut next = vec![NONE; a.edges.len() * 2];
    for halves in out {
        for (i, &h) in halves.iter().enumerate() {
            // Arriving by the twin of h, the leftmost turn is the one before h in anticlockwise order.
            next[(h ^ 1) as usize] = halves[(i + halves.len() - 1) % halves.len()];
        }
    }
    next
}

struct Cycle {
    first: u32,
    /// Twice the signed area: positive round a face, negative round a component from outside.
    area2: i128,
}

fn cycles(a: &Arrangement, next: &[u32]) -> (Vec<u32>, Vec<Cycle>) {
    let mut of = vec![NONE; next.len()];
    let mut cycles = Vec::new();
    for first in 0..next.len() as u32 {
        if of[first as usize] != NONE {
            continue;
        }
        let id = cycles.len() as u32;
        let (mut h, mut area2) = (first, 0i128);
        while of[h as usize] == NONE {
            of[h as usize] = id;
            let (p, q) = (a.points[origin(&a.edges, h) as usize], a.points[origin(&a.edges, h ^ 1) as usize]);
            area2 += i128::from(p.x()) * i128::from(q.y()) - i128::from(q.x()) * i128::from(p.y());
            h = next[h as usize];
        }
        cycles.push(Cycle { first, area2 });
    }
    (of, cycles)
}

/// Gives each cycle its face: bounded faces their own, outer boundaries of components the face they lie in.
fn place(
    a: &Arrangement,
    out: &[Outgoing],
    cycle_of: &[u32],
    cycles: &[Cycle],
    watch: &Watch,
) -> Result<(Vec<u32>, usize), SolidError> {
    let mut face = vec![NONE; cycles.len()];
    let mut count = 1;
    for (c, cycle) in cycles.iter().enumerate().filter(|(_, c)| c.area2 > 0) {
        debug_assert!(cycle.first != NONE);
        face[c] = count;
        count += 1;
    }
    // Leftmost vertex of each outer cycle; a ray to the left then only meets components already placed.
    let mut leftmost: Vec<(GridPoint, u32)> = vec![];
    let mut best: Vec<Option<GridPoint>> = vec![None; cycles.len()];
    for (v, halves) in out.iter().enumerate() {
        for &h in halves {
            let c = cycle_of[h as usize] as usize;
            if cycles[c].area2 <= 0 && best[c].is_none_or(|b| a.points[v] < b) {
                best[c] = Some(a.points[v]);
            }
        }
    }
    leftmost.extend((0u32..).zip(&best).filter_map(|(c, p)| p.map(|p| (p, c))));
    leftmost.sort_unstable();
    let by_band = ByBand::new(a);
    for (p, c) in leftmost {
        watch.check()?;
        face[c as usize] = match by_band.left_of(a, p) {
            Some(down) => face[cycle_of[down as usize] as usize],
            None => OUTSIDE,
        };
    }
    Ok((face, count as usize))
}

/// Edges by bands of y, to find what lies left of a point.
struct ByBand {
    bands: Bands,
    edges: Vec<Vec<u32>>,
}

impl ByBand {
    fn new(a: &Arrangement) -> Self {
        let ends = |e: &Edge| (a.points[e.a as usize], a.points[e.b as usize]);
        let bands = Bands::over(a.edges.iter().map(ends));
        let mut edges = vec![Vec::new(); bands.count()];
        for (i, (p, q)) in (0u32..).zip(a.edges.iter().map(ends)) {
            bands.reach(p, q).for_each(|band| edges[band].push(i));
        }
        Self { bands, edges }
    }

    /// The half-edge that runs down past `p`, nearest on the left: `p` sees the face on its left. The ray runs a hair
    /// above p.y, so ends at that very height count as below it.
    fn left_of(&self, a: &Arrangement, p: GridPoint) -> Option<u32> {
        let mut best: Option<(u32, At)> = None;
        for &i in &self.edges[self.bands.of(p.y())] {
            let e = &a.edges[i as usize];
            let (q, r) = (a.points[e.a as usize], a.points[e.b as usize]);
            if (q.y() > p.y()) == (r.y() > p.y()) {
                continue;
            }
            let (top, bottom, down) = if q.y() > r.y() { (q, r, 2 * i) } else { (r, q, 2 * i + 1) };
            let at = At::new(bottom, top, p.y());
            if at.is_left_of(p.x()) && best.as_ref().is_none_or(|(_, b)| b.cmp(&at) == Ordering::Less) {
                best = Some((down, at));
            }
        }
        best.map(|(h, _)| h)
    }
}

/// Where an edge crosses a height, as the exact fraction num / dy, with its slope to part ties.
struct At {
    num: i128,
    dx: i128,
    dy: i128,
}

impl At {
    fn new(bottom: GridPoint, top: GridPoint, y: i32) -> Self {
        let (dx, dy) = (i128::from(top.x() - bottom.x()), i128::from(top.y() - bottom.y()));
        Self { num: i128::from(bottom.x()) * dy + i128::from(y - bottom.y()) * dx, dx, dy }
    }

    fn is_left_of(&self, x: i32) -> bool {
        let own = i128::from(x) * self.dy;
        self.num < own || (self.num == own && self.dx < 0)
    }

    fn cmp(&self, other: &Self) -> Ordering {
        (self.num * other.dy).cmp(&(other.num * self.dy)).then_with(|| (self.dx * other.dy).cmp(&(other.dx * self.dy)))
    }
}
