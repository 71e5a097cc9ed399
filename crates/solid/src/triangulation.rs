//! Triangles that know their neighbours, and the constrained Delaunay triangulation made of them by turning edges. All comparisons are
//! exact.

use kachel_geom::{GridPoint, orient};

/// No edge, no triangle, no vertex.
pub(crate) const NONE: u32 = u32::MAX;

/// A triangle, anticlockwise, with the kind of the area it lies in.
pub(crate) type Triangle<T> = ([u32; 3], T);

/// Triangles of areas. Their edges may be turned; borders of areas are no edges.
pub(crate) struct Flips<T> {
    corners: Vec<[u32; 3]>,
    kinds: Vec<T>,
    /// Of each triangle, the edges from its corners to the next ones; `NONE` on a border.
    sides: Vec<[u32; 3]>,
    /// Of each edge, its two triangles: three times the triangle, plus the side.
    edges: Vec<[u32; 2]>,
}

impl<T> Flips<T> {
    /// With room for so many triangles.
    pub(crate) fn for_about(triangles: usize) -> Self {
        let (corners, kinds) = (Vec::with_capacity(triangles), Vec::with_capacity(triangles));
        let (sides, edges) = (Vec::with_capacity(triangles), Vec::with_capacity(2 * triangles));
        Self { corners, kinds, sides, edges }
    }

    /// Another edge, whose triangles are still to come.
    pub(crate) fn edge(&mut self) -> u32 {
        self.edges.push([NONE; 2]);
        self.edges.len() as u32 - 1
    }

    /// Another triangle, with the edges from its corners to the next ones.
    pub(crate) fn add(&mut self, corners: [u32; 3], sides: [u32; 3], kind: T) {
        let first = 3 * self.corners.len() as u32;
        self.corners.push(corners);
        self.sides.push(sides);
        self.kinds.push(kind);
        for (at, side) in (first..).zip(sides).filter(|(_, side)| *side != NONE) {
            let of = &mut self.edges[side as usize];
            of[usize::from(of[0] != NONE)] = at;
        }
    }

    /// Turns edges until each triangle's circle holds no corner of its neighbours. Each turn lowers the surface over the triangles that
    /// touches a paraboloid at its corners, so it ends.
    pub(crate) fn delaunay(mut self, points: &[GridPoint]) -> Vec<Triangle<T>> {
        let mut doubtful: Vec<u32> = (0..self.edges.len() as u32).collect();
        while let Some(edge) = doubtful.pop() {
            if let Some(around) = self.flip(edge, points) {
                doubtful.extend(around.iter().filter(|e| **e != NONE));
            }
        }
        self.corners.into_iter().zip(self.kinds).collect()
    }

    /// Turns an edge within its two triangles if their angles over it are more than half a turn together; the sides around.
    fn flip(&mut self, edge: u32, points: &[GridPoint]) -> Option<[u32; 4]> {
        let [one, other] = self.edges[edge as usize];
        let (t, i, u, j) = ((one / 3) as usize, one % 3, (other / 3) as usize, other % 3);
        let of = |all: &[[u32; 3]], t: usize, k: u32| all[t][(k % 3) as usize];
        let (a, b, c) = (of(&self.corners, t, i), of(&self.corners, t, i + 1), of(&self.corners, t, i + 2));
        let d = of(&self.corners, u, j + 2);
        // Cosine and sine of the angle between the ways to two corners, both times the ways' lengths.
        let angle = |at: u32, from: u32, to: u32| {
            let [o, p, q] = [at, from, to].map(|v| points[v as usize]);
            let along = |x: fn(GridPoint) -> i32| i64::from(x(p) - x(o)) * i64::from(x(q) - x(o));
            (i128::from(along(GridPoint::x) + along(GridPoint::y)), i128::from(orient(o, p, q)))
        };
        let ((cos_c, sin_c), (cos_d, sin_d)) = (angle(c, a, b), angle(d, b, a));
        if sin_c * cos_d + cos_c * sin_d >= 0 {
            return None;
        }
        let (bc, ca) = (of(&self.sides, t, i + 1), of(&self.sides, t, i + 2));
        let (ad, db) = (of(&self.sides, u, j + 1), of(&self.sides, u, j + 2));
        (self.corners[t], self.sides[t]) = ([a, d, c], [ad, edge, ca]);
        (self.corners[u], self.sides[u]) = ([d, b, c], [db, bc, edge]);
        let (t, u) = (3 * t as u32, 3 * u as u32);
        for (side, was, is) in [(bc, t, u + 1), (ca, t, t + 2), (ad, u, t), (db, u, u)] {
            if side != NONE {
                let of = &mut self.edges[side as usize];
                let k = usize::from(of[0] / 3 != was / 3);
                of[k] = is;
            }
        }
        self.edges[edge as usize] = [t + 1, u + 2];
        Some([bc, ca, ad, db])
    }
}
