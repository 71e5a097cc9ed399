//! Triangles of areas that know their neighbours, and the constrained Delaunay triangulation made of them by turning edges, to which
//! corners may be added. All comparisons are exact.

use kachel_geom::{GridPoint, orient};
use smallvec::{SmallVec, smallvec};
use std::collections::VecDeque;

/// No edge, no triangle, no vertex.
pub(crate) const NONE: u32 = u32::MAX;

/// A triangle, anticlockwise, with the kind of the area it lies in.
pub(crate) type Triangle<T> = ([u32; 3], T);

/// Triangles that a new corner has changed: all that meet there.
pub(crate) type Changed = SmallVec<[u32; 8]>;

/// An edge as one of its triangles has it, from a corner to the next one: three times the triangle, plus the corner's place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct HalfEdge(u32);

impl HalfEdge {
    fn new(triangle: u32, corner: u32) -> Self {
        Self(3 * triangle + corner % 3)
    }

    pub(crate) fn triangle(self) -> u32 {
        self.0 / 3
    }

    /// The next one of the same triangle.
    fn next(self) -> Self {
        Self::new(self.triangle(), self.0 % 3 + 1)
    }

    fn of<A: Copy>(self, all: &[[A; 3]]) -> A {
        all[self.triangle() as usize][(self.0 % 3) as usize]
    }
}

/// No half-edge yet.
const OPEN: HalfEdge = HalfEdge(NONE);

/// An edge from `a` to `b` with what is around it: its triangles on the left, with the corner `c`, and on the right, with `d`; and their
/// other sides, from `b` to `c` and so on round.
struct Around {
    triangles: [u32; 2],
    corners: [u32; 4],
    halves: [HalfEdge; 4],
    edges: [u32; 4],
}

/// Those edges that are no borders.
fn inner(edges: impl IntoIterator<Item = u32>) -> VecDeque<u32> {
    edges.into_iter().filter(|e| *e != NONE).collect()
}

/// Triangles of areas. Their edges may be turned; borders of areas are no edges.
#[derive(Debug)]
pub(crate) struct Triangulation<T> {
    corners: Vec<[u32; 3]>,
    kinds: Vec<T>,
    /// Of each triangle, the edges from its corners to the next ones; `NONE` on a border.
    edges_of: Vec<[u32; 3]>,
    /// Of each edge, its halves: in the one triangle and in the other.
    edges: Vec<[HalfEdge; 2]>,
    /// Of each edge, whether it is to be looked at.
    waits: Vec<bool>,
}

impl<T: Copy> Triangulation<T> {
    /// With room for so many triangles.
    pub(crate) fn for_about(triangles: usize) -> Self {
        let (corners, kinds) = (Vec::with_capacity(triangles), Vec::with_capacity(triangles));
        let (edges_of, edges) = (Vec::with_capacity(triangles), Vec::with_capacity(2 * triangles));
        Self { corners, kinds, edges_of, edges, waits: Vec::new() }
    }

    /// Another edge, whose triangles are still to come.
    pub(crate) fn edge(&mut self) -> u32 {
        self.edges.push([OPEN; 2]);
        self.waits.push(false);
        self.edges.len() as u32 - 1
    }

    /// Another triangle, with the edges from its corners to the next ones.
    pub(crate) fn add(&mut self, corners: [u32; 3], edges: [u32; 3], kind: T) {
        let t = self.len();
        self.corners.push(corners);
        self.edges_of.push(edges);
        self.kinds.push(kind);
        for (k, edge) in (0..).zip(edges).filter(|(_, edge)| *edge != NONE) {
            let halves = &mut self.edges[edge as usize];
            halves[usize::from(halves[0] != OPEN)] = HalfEdge::new(t, k);
        }
    }

    pub(crate) fn triangles(&self) -> impl ExactSizeIterator<Item = Triangle<T>> {
        self.corners.iter().copied().zip(self.kinds.iter().copied())
    }

    pub(crate) fn len(&self) -> u32 {
        self.corners.len() as u32
    }

    pub(crate) fn edges(&self) -> u32 {
        self.edges.len() as u32
    }

    pub(crate) fn corners(&self, triangle: u32) -> [u32; 3] {
        self.corners[triangle as usize]
    }

    pub(crate) fn kind(&self, triangle: u32) -> T {
        self.kinds[triangle as usize]
    }

    /// The edges of a triangle, from its corners to the next ones; `None` on a border.
    pub(crate) fn edges_of(&self, triangle: u32) -> [Option<u32>; 3] {
        self.edges_of[triangle as usize].map(|e| Some(e).filter(|e| *e != NONE))
    }

    /// The halves of an edge, one in each of its two triangles.
    pub(crate) fn halves(&self, edge: u32) -> [HalfEdge; 2] {
        self.edges[edge as usize]
    }

    /// From where to where a half-edge goes, its triangle on the left.
    pub(crate) fn ends(&self, half: HalfEdge) -> [u32; 2] {
        [half.of(&self.corners), half.next().of(&self.corners)]
    }

    /// The triangles beside one, over its edges; `None` over a border.
    pub(crate) fn beside(&self, triangle: u32) -> [Option<u32>; 3] {
        let over = |edge: u32| {
            let [one, other] = self.edges[edge as usize].map(HalfEdge::triangle);
            if one == triangle { other } else { one }
        };
        self.edges_of(triangle).map(|e| e.map(over))
    }

    /// Turns edges until each triangle's circle holds no corner of its neighbours.
    pub(crate) fn settle(&mut self, points: &[GridPoint]) {
        self.turn((0..self.edges()).collect(), points, |_| ());
    }

    /// Turns what has to be among these edges, and what has to be then. Each turn lowers the surface over the triangles that touches a
    /// paraboloid at its corners, so it ends.
    fn turn(&mut self, mut doubtful: VecDeque<u32>, points: &[GridPoint], mut turned: impl FnMut([HalfEdge; 2])) {
        doubtful.iter().for_each(|e| self.waits[*e as usize] = true);
        // First come, first served: with the latest first, twice as many are looked at.
        while let Some(edge) = doubtful.pop_front() {
            self.waits[edge as usize] = false;
            if self.must_turn(edge, points) {
                turned(self.edges[edge as usize]);
                let around = self.turn_one(edge).into_iter().filter(|e| *e != NONE);
                doubtful.extend(around.filter(|e| !std::mem::replace(&mut self.waits[*e as usize], true)));
            }
        }
    }

    /// Whether the angles of its two triangles over an edge are more than half a turn together.
    fn must_turn(&self, edge: u32, points: &[GridPoint]) -> bool {
        let at = |half: HalfEdge| points[half.of(&self.corners) as usize];
        let [one, other] = self.edges[edge as usize];
        // Cosine and sine of an angle, both times the lengths of its arms.
        let angle = |o: GridPoint, p: GridPoint, q: GridPoint| {
            let along = |x: fn(GridPoint) -> i32| i64::from(x(p) - x(o)) * i64::from(x(q) - x(o));
            (i128::from(along(GridPoint::x) + along(GridPoint::y)), i128::from(orient(o, p, q)))
        };
        let (a, b) = (at(one), at(other));
        let (cos_c, sin_c) = angle(at(one.next().next()), a, b);
        let (cos_d, sin_d) = angle(at(other.next().next()), b, a);
        sin_c * cos_d + cos_c * sin_d < 0
    }

    fn around(&self, edge: u32) -> Around {
        let [one, other] = self.edges[edge as usize];
        let halves = [one.next(), one.next().next(), other.next(), other.next().next()];
        let [b, c, a, d] = halves.map(|h| h.of(&self.corners));
        let edges = halves.map(|h| h.of(&self.edges_of));
        Around { triangles: [one, other].map(HalfEdge::triangle), corners: [a, b, c, d], halves, edges }
    }

    /// Turns an edge within its two triangles; the edges around.
    fn turn_one(&mut self, edge: u32) -> [u32; 4] {
        let Around { triangles: [t, u], corners: [a, b, c, d], halves, edges } = self.around(edge);
        let [bc, ca, ad, db] = edges;
        self.put(t, [a, d, c], [ad, edge, ca]);
        self.put(u, [d, b, c], [db, bc, edge]);
        let [at_t, at_u] = [t, u].map(|t| move |k| HalfEdge::new(t, k));
        self.hand_over(edges, halves, [at_u(1), at_t(2), at_t(0), at_u(0)]);
        self.edges[edge as usize] = [at_t(1), at_u(2)];
        edges
    }

    fn put(&mut self, t: u32, corners: [u32; 3], edges: [u32; 3]) {
        (self.corners[t as usize], self.edges_of[t as usize]) = (corners, edges);
    }

    /// Halves of these edges, no two of them the same, are others now.
    fn hand_over<const N: usize>(&mut self, edges: [u32; N], were: [HalfEdge; N], are: [HalfEdge; N]) {
        for (edge, (was, is)) in edges.into_iter().zip(were.into_iter().zip(are)).filter(|(edge, _)| *edge != NONE) {
            let halves = &mut self.edges[edge as usize];
            halves[usize::from(halves[0] != was)] = is;
        }
    }

    /// Adds a corner, the last one of `points`, within a triangle or on an edge of it that is no border. `None` on a border.
    pub(crate) fn insert(&mut self, triangle: u32, points: &[GridPoint]) -> Option<Changed> {
        let v = points.len() as u32 - 1;
        let on = (0..3).map(|k| HalfEdge::new(triangle, k)).find(|s| {
            let [a, b] = self.ends(*s).map(|v| points[v as usize]);
            orient(a, b, points[v as usize]) == 0
        });
        let (mut changed, doubtful) = match on {
            None => self.divide_triangle(triangle, v),
            Some(half) => self.divide_edge(half, v)?,
        };
        self.turn(doubtful, points, |halves| changed.extend(halves.map(HalfEdge::triangle)));
        changed.sort_unstable();
        changed.dedup();
        Some(changed)
    }

    fn divide_triangle(&mut self, t: u32, v: u32) -> (Changed, VecDeque<u32>) {
        let [a, b, c] = self.corners(t);
        let [ab, bc, ca] = self.edges_of[t as usize];
        let kind = self.kind(t);
        let (u, w) = (self.len(), self.len() + 1);
        let [av, bv, cv] = std::array::from_fn(|_| self.edge());
        self.put(t, [a, b, v], [ab, bv, av]);
        (self.edges[av as usize][0], self.edges[bv as usize][0]) = (HalfEdge::new(t, 2), HalfEdge::new(t, 1));
        self.hand_over([bc, ca], [HalfEdge::new(t, 1), HalfEdge::new(t, 2)], [OPEN; 2]);
        self.add([b, c, v], [bc, cv, bv], kind);
        self.add([c, a, v], [ca, av, cv], kind);
        (smallvec![t, u, w], inner([ab, bc, ca]))
    }

    /// Divides an edge and its two triangles.
    fn divide_edge(&mut self, half: HalfEdge, v: u32) -> Option<(Changed, VecDeque<u32>)> {
        let edge = Some(half.of(&self.edges_of)).filter(|e| *e != NONE)?;
        let Around { triangles: [t, u], corners: [a, b, c, d], halves, edges } = self.around(edge);
        let [bc, ca, ad, db] = edges;
        let kind = self.kind(t);
        let (t2, u2) = (self.len(), self.len() + 1);
        let [vb, vc, vd] = std::array::from_fn(|_| self.edge());
        self.hand_over(edges, halves, [OPEN, HalfEdge::new(t, 2), HalfEdge::new(u, 1), OPEN]);
        self.put(t, [a, v, c], [edge, vc, ca]);
        self.put(u, [v, a, d], [edge, ad, vd]);
        self.edges[edge as usize] = [HalfEdge::new(t, 0), HalfEdge::new(u, 0)];
        (self.edges[vc as usize][0], self.edges[vd as usize][0]) = (HalfEdge::new(t, 1), HalfEdge::new(u, 2));
        self.add([v, b, c], [vb, bc, vc], kind);
        self.add([b, v, d], [vb, vd, db], kind);
        Some((smallvec![t, t2, u, u2], inner(edges)))
    }
}
