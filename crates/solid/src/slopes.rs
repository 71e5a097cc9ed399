//! The skin of slopes: each slab's sloped faces triangulated in plan, every corner with its height. Where a shape is
//! thinner than its finish the two sides of a slope meet in a ridge (or in a valley, in a cut): no corner lies there, so
//! points are added wherever a straight edge would miss the true height.

use crate::heights::{SlabHeights, height_at, uphill};
use crate::label::{Column, Labels, Slope};
use crate::sheet::{Cache, FAILED, Face, Sheet, beside, plane};
use crate::{Planar, SolidError};
use kachel_geom::GridPoint;
use spade::{PositionInTriangulation, Triangulation};
use std::collections::HashMap;
use std::sync::Arc;

/// How far (mm in plan) an edge may miss a slope before a point is added.
const MISS_MM: f64 = 0.02;
/// Rounds of adding points.
const MAX_ROUNDS: usize = 6;
/// Edges shorter than this (grid steps) are not divided.
const SHORTEST: f64 = 6.0;

/// A corner of a sloped triangle.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Corner {
    /// A wedge of the arrangement, by its half-edge.
    Wedge(u32),
    /// An added point, by its place in [`SlopeMesh::added`].
    Added(u32),
}

/// A slab's slopes, anticlockwise from above, with the owners below and above. They do not depend on any height.
#[derive(Debug, Default)]
pub(crate) struct SlopeMesh {
    pub triangles: Vec<([Corner; 3], (u16, u16))>,
    /// Places in plan and heights within the slab.
    pub added: Vec<(GridPoint, f64)>,
    /// The highest places of slopes that never reach their upper end.
    pub ridges: Vec<(GridPoint, f64)>,
}

/// Everything that a slab's slopes depend on.
#[derive(Debug, PartialEq, Eq, Hash)]
pub(crate) struct Key {
    row: Vec<u32>,
    columns: Vec<Column>,
    slopes: Vec<Slope>,
}

/// Slopes by what they depend on.
pub(crate) type SlopeCache = Cache<Key, SlopeMesh>;

/// Kept for one arrangement; a round edge has up to a dozen slabs.
pub(crate) const MAX_SLOPES: usize = 64;

/// A slab's slopes, made when they are not known.
pub(crate) fn mesh(
    planar: &Planar,
    labels: &Labels,
    slab: usize,
    heights: &SlabHeights,
) -> Result<Arc<SlopeMesh>, SolidError> {
    let row = labels.sloped_row(slab).to_vec();
    let key = Key { row, columns: labels.columns.clone(), slopes: labels.slopes.clone() };
    planar.slopes.get_or(key, |_| triangulate(planar, labels, slab, heights))
}

/// A triangulation of a slab's sloped faces while points are added to it.
struct Work<'a> {
    planar: &'a Planar,
    labels: &'a Labels,
    row: &'a [u32],
    slab: usize,
    heights: &'a SlabHeights,
    sheet: Sheet<u32>,
    /// What was added to the arrangement's vertices.
    added: Vec<(GridPoint, f64)>,
}

fn triangulate(planar: &Planar, labels: &Labels, slab: usize, heights: &SlabHeights) -> Result<SlopeMesh, SolidError> {
    let row = labels.sloped_row(slab);
    let Some(sheet) = Sheet::new(&planar.graph, row)? else { return Ok(SlopeMesh::default()) };
    let mut work = Work { planar, labels, row, slab, heights, sheet, added: vec![] };
    for _ in 0..MAX_ROUNDS {
        if !work.refine()? {
            break;
        }
    }
    Ok(work.finish())
}

impl Work<'_> {
    /// The column that each triangle belongs to, 0 outside slopes.
    fn columns(&self) -> Vec<u32> {
        self.sheet.kinds().into_iter().map(Option::unwrap_or_default).collect()
    }

    fn point(&self, vertex: usize) -> GridPoint {
        match self.sheet.names.get(vertex) {
            Some(v) => self.planar.graph.arrangement.points[*v as usize],
            None => self.added[vertex - self.sheet.names.len()].0,
        }
    }

    /// The corner of a triangle at a vertex, whose next corner is `next`.
    fn corner(&self, vertex: usize, next: usize) -> Corner {
        match self.sheet.names.get(vertex) {
            Some(v) => Corner::Wedge(self.planar.graph.wedge_of(*v, self.point(next))),
            None => Corner::Added((vertex - self.sheet.names.len()) as u32),
        }
    }

    fn corners(&self, f: Face<'_>) -> [Corner; 3] {
        let [a, b, c] = f.vertices().map(|v| v.index());
        [self.corner(a, b), self.corner(b, c), self.corner(c, a)]
    }

    fn height(&self, c: Corner) -> f64 {
        match c {
            Corner::Wedge(half) => self.heights.corner[half as usize],
            Corner::Added(k) => self.added[k as usize].1,
        }
    }

    /// Adds points where edges or triangles miss the slope; whether any was added.
    fn refine(&mut self) -> Result<bool, SolidError> {
        let columns = self.columns();
        let mut wanted: Vec<(GridPoint, u32)> = Vec::new();
        for e in self.sheet.cdt.undirected_edges().filter(|e| !e.is_constraint_edge()) {
            let e = e.as_directed();
            let Some(face) = e.face().as_inner() else { continue };
            let column = columns[face.index()];
            if column == 0 {
                continue;
            }
            let (a, b) = (e.from().index(), e.to().index());
            let ends = [self.height(self.corner(a, b)), self.height(self.corner(b, a))];
            let is_across = ends == [0.0, 1.0] || ends == [1.0, 0.0];
            let (p, q) = (self.point(a), self.point(b));
            let length = f64::from(q.x() - p.x()).hypot(f64::from(q.y() - p.y()));
            if length < SHORTEST || (is_across && self.is_plain(column)) {
                continue;
            }
            let Some(middle) = GridPoint::new((p.x() + q.x()) / 2, (p.y() + q.y()) / 2) else { continue };
            let is_level = ends == [0.0; 2] || ends == [1.0; 2];
            wanted.extend(self.missed(&columns, column, middle, f64::midpoint(ends[0], ends[1]), is_level));
        }
        for f in self.sheet.cdt.inner_faces() {
            let column = columns[f.index()];
            if column == 0 {
                continue;
            }
            let ends = self.corners(f).map(|c| self.height(c));
            // From an edge of the foot to a corner of the top, or the other way round: as flat as the slope itself.
            let is_on_slope = ends.iter().all(|t| *t == 0.0 || *t == 1.0) && ends.iter().any(|t| *t != ends[0]);
            if is_on_slope && self.is_plain(column) {
                continue;
            }
            let sum = f
                .vertices()
                .map(|v| self.point(v.index()))
                .iter()
                .fold((0, 0), |s, p| (s.0 + p.x() / 3, s.1 + p.y() / 3));
            let Some(middle) = GridPoint::new(sum.0, sum.1) else { continue };
            let mean = ends.iter().sum::<f64>() / 3.0;
            wanted.extend(self.missed(&columns, column, middle, mean, ends == [0.0; 3] || ends == [1.0; 3]));
        }
        wanted.sort_unstable();
        wanted.dedup();
        let before = self.added.len();
        for (p, column) in wanted {
            if matches!(self.sheet.cdt.locate(plane(p)), PositionInTriangulation::OnVertex(_)) {
                continue;
            }
            self.sheet.cdt.insert(plane(p)).map_err(|_| FAILED)?;
            // A ridge is kept off the levels, however low it is.
            let t = height_at(self.planar, self.labels, column, p).clamp(1e-3, 1.0 - 1e-3);
            self.added.push((p, t));
        }
        Ok(self.added.len() > before)
    }

    /// A point to add, with its column, where the slope misses a height; the ridge uphill of it, where that lies in the same slope.
    fn missed(
        &self,
        columns: &[u32],
        column: u32,
        middle: GridPoint,
        height: f64,
        is_level: bool,
    ) -> Option<(GridPoint, u32)> {
        // Rounded to the grid, it may fall out of a sliver.
        if self.column_at(columns, middle) != Some(column) {
            return None;
        }
        let t = height_at(self.planar, self.labels, column, middle);
        if !is_level && (t - height).abs() * self.width(column) <= MISS_MM {
            return None;
        }
        let ridge = uphill(self.planar, self.labels, column, middle);
        let at = if self.column_at(columns, ridge) == Some(column) { ridge } else { middle };
        Some((at, column))
    }

    /// The column over a point strictly inside a slope.
    fn column_at(&self, columns: &[u32], p: GridPoint) -> Option<u32> {
        let face = match self.sheet.cdt.locate(plane(p)) {
            PositionInTriangulation::OnFace(f) => f,
            PositionInTriangulation::OnEdge(e) => {
                let e = self.sheet.cdt.directed_edge(e);
                e.face().as_inner().filter(|_| !e.is_constraint_edge())?.fix()
            }
            _ => return None,
        };
        Some(columns[face.index()]).filter(|c| *c != 0)
    }

    /// Whether a column has a single slope: then edges from its foot to its top follow it.
    fn is_plain(&self, column: u32) -> bool {
        self.labels.columns[column as usize - 1].ramps.len() == 1
    }

    fn width(&self, column: u32) -> f64 {
        let ramps = &self.labels.columns[column as usize - 1].ramps;
        ramps.iter().map(|r| self.labels.slopes[r.slope as usize].width()).fold(0.0, f64::max)
    }

    fn finish(self) -> SlopeMesh {
        let columns = self.columns();
        let slab = self.slab.cast_signed();
        let owners: HashMap<u32, (u16, u16)> = (0u32..)
            .zip(self.row)
            .filter(|(_, c)| **c != 0)
            .map(|(f, c)| (*c, (self.labels.lower(slab, f), self.labels.upper(slab, f))))
            .collect();
        let triangle = |f: Face<'_>| {
            let column = columns[f.index()];
            let owner = *owners.get(&column)?;
            Some((self.corners(f), owner))
        };
        let triangles = self.sheet.cdt.inner_faces().filter_map(triangle).collect();
        SlopeMesh { triangles, ridges: self.ridges(&columns), added: self.added }
    }

    /// The highest place of each connected slope that ends in a ridge.
    fn ridges(&self, columns: &[u32]) -> Vec<(GridPoint, f64)> {
        let mut seen = vec![false; columns.len()];
        let mut ridges = Vec::new();
        for first in self.sheet.cdt.inner_faces() {
            let column = columns[first.index()];
            if column == 0 || std::mem::replace(&mut seen[first.index()], true) {
                continue;
            }
            let mut highest: Option<(GridPoint, f64)> = None;
            let mut queue = vec![first];
            while let Some(face) = queue.pop() {
                for (v, corner) in face.vertices().into_iter().zip(self.corners(face)) {
                    let t = self.height(corner);
                    if highest.is_none_or(|h| t > h.1) {
                        highest = Some((self.point(v.index()), t));
                    }
                }
                queue.extend(beside(face).filter(|over| !std::mem::replace(&mut seen[over.index()], true)));
            }
            let is_from_low = |c: u32| {
                self.labels.columns[c as usize - 1]
                    .ramps
                    .iter()
                    .all(|r| self.labels.slopes[r.slope as usize].is_from_low && r.is_below)
            };
            ridges.extend(highest.filter(|h| h.1 < 1.0 && is_from_low(column)));
        }
        ridges
    }
}
