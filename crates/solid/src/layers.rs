//! What a mesh covers at a height: the area that a printer lays there.

use crate::mesh::Mesh;
use crate::soundness::SoundMesh;
use foldhash::{HashMap, HashMapExt};
use kachel_geom::{GRID_PER_MM, Grid, GridPoint, OffGrid, Point, Region};
use rayon::prelude::*;
use std::sync::Arc;

/// How high the layers of a print are, mm: the first may be of another height than the others.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LayerHeights {
    /// The first.
    pub first: f64,
    /// Each of the others.
    pub others: f64,
}

impl LayerHeights {
    /// All of one height.
    pub fn even(height: f64) -> Self {
        Self { first: height, others: height }
    }

    /// Lower and upper ends of the layers of an object so high: those whose middle lies in it.
    fn up_to(self, top: f64) -> impl Iterator<Item = (f64, f64)> {
        let both = (0_usize..).map(move |k| (self.end_of(k), self.end_of(k + 1)));
        both.take_while(move |(bottom, end)| f64::midpoint(*bottom, *end) < top && end > bottom)
    }

    /// How high so many layers are, mm.
    pub fn end_of(self, layers: usize) -> f64 {
        if layers == 0 { 0.0 } else { self.first + self.others * (layers - 1) as f64 }
    }

    /// How many layers an object so high is printed in.
    pub fn count(self, top: f64) -> usize {
        self.up_to(top).count()
    }
}

/// The areas that a solid covers, from the bed up. Neighbouring layers of equal area share it.
#[derive(Clone, Debug)]
pub struct Layers {
    /// How high they are.
    pub heights: LayerHeights,
    /// One layer each.
    pub all: Vec<Layer>,
}

/// One printed layer.
#[derive(Clone, Debug)]
pub struct Layer {
    /// Its lower end above the bed, mm.
    pub bottom: f64,
    /// Its upper end above the bed, mm.
    pub top: f64,
    /// What the solid covers at its middle height.
    pub area: Arc<Region>,
}

impl Layers {
    /// Cuts a mesh at the middle heights of layers.
    ///
    /// Layers are stacked as long as their middle lies in the solid, as a slicer does.
    pub fn of(mesh: &SoundMesh, heights: LayerHeights) -> Result<Self, OffGrid> {
        let ends: Vec<(f64, f64)> = heights.up_to(mesh.mesh().extent().1[2]).collect();
        let sorted = Sorted::of(mesh.mesh());
        let each = ends.len().div_ceil(rayon::current_num_threads()).max(LEAST_TOGETHER);
        let parts: Vec<Vec<Layer>> = ends.par_chunks(each).map(|part| sorted.cut(part)).collect::<Result<_, _>>()?;
        let mut all: Vec<Layer> = Vec::with_capacity(ends.len());
        for part in parts {
            // What goes on from one part into the next is one area, too.
            let goes_on = match (all.last(), part.first()) {
                (Some(before), Some(next)) if before.area.rings() == next.area.rings() => {
                    Some((Arc::clone(&next.area), Arc::clone(&before.area)))
                }
                _ => None,
            };
            all.extend(part.into_iter().map(|l| match &goes_on {
                Some((next, before)) if Arc::ptr_eq(&l.area, next) => Layer { area: Arc::clone(before), ..l },
                _ => l,
            }));
        }
        Ok(Self { heights, all })
    }

    /// Runs of layers of equal area: the number of the first of each, and how many they are.
    pub fn runs(&self) -> Vec<(usize, usize)> {
        let mut runs: Vec<(usize, usize)> = Vec::new();
        for (k, layer) in self.all.iter().enumerate() {
            match runs.last_mut() {
                Some((first, count)) if Arc::ptr_eq(&self.all[*first].area, &layer.area) => *count += 1,
                _ => runs.push((k, 1)),
            }
        }
        runs
    }
}

/// So many layers are cut one after the other, at least: what one has met the next one knows.
const LEAST_TOGETHER: usize = 8;

/// A mesh, sorted to be cut at rising heights.
struct Sorted<'m> {
    mesh: &'m Mesh,
    /// Triangles from the lowest up.
    order: Vec<usize>,
    /// All heights of vertices, rising.
    heights: Vec<i32>,
}

impl<'m> Sorted<'m> {
    fn of(mesh: &'m Mesh) -> Self {
        let mut order: Vec<usize> = (0..mesh.triangles.len()).collect();
        order.sort_by_cached_key(|t| mesh.triangles[*t].map(|v| mesh.vertices[v as usize][2]).into_iter().min());
        let mut heights: Vec<i32> = mesh.vertices.iter().map(|v| v[2]).collect();
        heights.sort_unstable();
        heights.dedup();
        Self { mesh, order, heights }
    }

    /// Layers that follow each other, by their lower and upper ends.
    fn cut(&self, heights: &[(f64, f64)]) -> Result<Vec<Layer>, OffGrid> {
        let mut all: Vec<Layer> = Vec::with_capacity(heights.len());
        let mut cutter = Cutter { mesh: self.mesh, sorted: self, met: 0, active: vec![], last: None };
        for &(bottom, top) in heights {
            let middle = f64::midpoint(bottom, top);
            let area = match all.last() {
                Some(l) if cutter.is_as_before(middle)? => Arc::clone(&l.area),
                last => {
                    let rings = cutter.rings(middle)?;
                    match last {
                        Some(l) if l.area.rings() == rings => Arc::clone(&l.area),
                        _ => Arc::new(Region::new(rings)),
                    }
                }
            };
            all.push(Layer { bottom, top, area });
        }
        Ok(all)
    }
}

/// Triangles by their lower ends, so that rising heights meet each once.
struct Cutter<'m> {
    mesh: &'m Mesh,
    sorted: &'m Sorted<'m>,
    /// How many triangles have been met.
    met: usize,
    active: Vec<usize>,
    /// Where it was cut last, in half steps, and whether everything stood upright there.
    last: Option<(i64, bool)>,
}

type Edge = (u32, u32);

impl Cutter<'_> {
    /// A height in half steps, half a grid step off the grid: no vertex lies there, so each triangle is met by two of its edges or
    /// none.
    fn half_steps(mm: f64) -> Result<i64, OffGrid> {
        Ok(2 * i64::from(Grid::from_mm(mm)?.steps()) + 1)
    }

    /// Whether nothing begins, ends or slopes between the last cut and this height.
    fn is_as_before(&self, mm: f64) -> Result<bool, OffGrid> {
        let Some((last, true)) = self.last else { return Ok(false) };
        let z2 = Self::half_steps(mm)?;
        let next = self.sorted.heights.partition_point(|z| 2 * i64::from(*z) < last);
        Ok(self.sorted.heights.get(next).is_none_or(|z| 2 * i64::from(*z) > z2))
    }

    fn z(&self, v: u32) -> i64 {
        i64::from(self.mesh.vertices[v as usize][2])
    }

    /// The rings at a height, outer ones anticlockwise, each beginning at its smallest point; the rings in order.
    fn rings(&mut self, mm: f64) -> Result<Vec<Vec<GridPoint>>, OffGrid> {
        let z2 = Self::half_steps(mm)?;
        while let Some(t) = self.sorted.order.get(self.met) {
            if self.mesh.triangles[*t].iter().all(|v| 2 * self.z(*v) > z2) {
                break;
            }
            self.active.push(*t);
            self.met += 1;
        }
        let mut active = std::mem::take(&mut self.active);
        active.retain(|t| self.mesh.triangles[*t].iter().any(|v| 2 * self.z(*v) > z2));
        let is_above = |v: u32| 2 * self.z(v) > z2;
        // From where a triangle's border goes down to where it goes up: the solid lies to the left.
        let mut next: HashMap<Edge, Edge> = HashMap::with_capacity(active.len());
        let mut is_upright: HashMap<Edge, [Option<u32>; 2]> = HashMap::with_capacity(active.len());
        for t in &active {
            let [a, b, c] = self.mesh.triangles[*t];
            let (mut down, mut up) = (None, None);
            for (from, to, other) in [(a, b, c), (b, c, a), (c, a, b)] {
                let edge = (from.min(to), from.max(to));
                match (is_above(from), is_above(to)) {
                    (true, false) => down = Some((edge, other)),
                    (false, true) => up = Some((edge, other)),
                    _ => {}
                }
            }
            if let (Some((down, far)), Some((up, other))) = (down, up) {
                next.insert(down, up);
                is_upright.entry(down).or_default()[0] = Some(far);
                is_upright.entry(up).or_default()[1] = Some(other);
            }
        }
        let is_upright_all = active.iter().all(|t| self.are_in_line(&self.mesh.triangles[*t]));
        self.last = Some((z2, is_upright_all));
        self.active = active;
        // Where both triangles at an edge stand upright in one plane, the ring runs straight on.
        let bends = |edge: &Edge| match is_upright.get(edge) {
            Some([Some(p), Some(q)]) => !self.are_in_line(&[edge.0, edge.1, *p, *q]),
            _ => true,
        };
        let mut rings = Vec::new();
        let mut starts: Vec<Edge> = next.keys().copied().collect();
        starts.sort_unstable();
        for start in starts {
            let mut ring: Vec<GridPoint> = Vec::new();
            let mut at = start;
            while let Some(to) = next.remove(&at) {
                if bends(&at) {
                    let p = self.crossing(at, z2)?;
                    if ring.last() != Some(&p) {
                        ring.push(p);
                    }
                }
                at = to;
            }
            while ring.len() > 1 && ring.first() == ring.last() {
                ring.pop();
            }
            if ring.len() > 2 {
                let first = (0..ring.len()).min_by_key(|k| (ring[*k].x(), ring[*k].y())).unwrap_or(0);
                ring.rotate_left(first);
                rings.push(ring);
            }
        }
        rings.sort_by_cached_key(|r| r.iter().map(|p| (p.x(), p.y())).collect::<Vec<_>>());
        Ok(rings)
    }

    /// Whether vertices lie on one line in plan; exact.
    fn are_in_line(&self, all: &[u32]) -> bool {
        let at = |v: u32| self.mesh.vertices[v as usize];
        let a = at(all[0]);
        let Some(b) = all.iter().map(|v| at(*v)).find(|b| (b[0], b[1]) != (a[0], a[1])) else { return true };
        let (ux, uy) = (i64::from(b[0]) - i64::from(a[0]), i64::from(b[1]) - i64::from(a[1]));
        all.iter().map(|v| at(*v)).all(|c| {
            let (vx, vy) = (i64::from(c[0]) - i64::from(a[0]), i64::from(c[1]) - i64::from(a[1]));
            ux * vy == uy * vx
        })
    }

    /// Where an edge passes a height, given in half steps, on the grid.
    fn crossing(&self, (a, b): Edge, z2: i64) -> Result<GridPoint, OffGrid> {
        let (p, q) = (self.mesh.vertices[a as usize].map(f64::from), self.mesh.vertices[b as usize].map(f64::from));
        #[expect(clippy::cast_precision_loss, reason = "heights are far below 2^53 steps")]
        let t = (z2 as f64 / 2.0 - p[2]) / (q[2] - p[2]);
        let mm = |k: usize| (p[k] + t * (q[k] - p[k])) / GRID_PER_MM;
        GridPoint::from_mm(Point::new(mm(0), mm(1)))
    }
}
