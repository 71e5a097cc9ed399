//! Points added to triangulated slopes, until no triangle misses its slope: on ridges, and off the levels.

use crate::error::SolidError;
use crate::heights::{SlabHeights, height_at, uphill};
use crate::label::Labels;
use crate::planar::Planar;
use crate::sheet::{Directed, FAILED, Face, Owners, Sheet, UndirectedEdge, beside, handle, plane};
use crate::slope_data::{Corner, Ground, Refined};
use kachel_geom::{GRID_PER_MM, GridPoint, Point, orient};
use rayon::prelude::*;
use smallvec::SmallVec;
use spade::handles::{FixedFaceHandle, FixedUndirectedEdgeHandle, InnerTag};
use spade::{PositionInTriangulation, Triangulation};
use std::panic::{AssertUnwindSafe, catch_unwind};

/// How far (mm in plan) a triangle may miss its slope before a point is added: less than the chords of a round corner do,
/// as all of a slope's triangles miss it on one side.
const MISS_MM: f64 = 0.6 * kachel_tiers::CHORD_MM;
/// A triangle whose steepness differs by less than this share from its slope's lies on it.
const STEEPNESS: f64 = 0.01;
/// Where triangles are compared with their slopes: shares of the corners.
const SAMPLES: [[f64; 3]; 4] = [[1.0 / 3.0; 3], [0.6, 0.2, 0.2], [0.2, 0.6, 0.2], [0.2, 0.2, 0.6]];
/// Rounds of adding points.
const MAX_ROUNDS: usize = 16;
/// How far (grid steps) an added point keeps from others: nearer, it would only make slivers.
const SHORTEST: i32 = 6;
/// The same on edges that lie in a level where they must not: slivers do less harm than an edge that crosses a flat face.
const SHORTEST_IN_LEVEL: i32 = 2;
/// So many edges or triangles are worth a thread.
const AT_ONCE: usize = 128;
/// Triangles that are crossed on the way to a ridge; a finish is a few triangles wide.
const MOST_STEPS: usize = 256;

/// Where a border lies in the arrangement: its vertices there, and the columns of its kinds there, by kind; and who its owners are.
pub(crate) struct Place {
    pub(crate) names: Vec<u32>,
    pub(crate) columns: Vec<u32>,
    pub(crate) owners: Owners,
}

/// A vertex of the triangulation in plan.
fn point(planar: &Planar, names: &[u32], added: &[(GridPoint, f64)], vertex: usize) -> GridPoint {
    match names.get(vertex) {
        Some(v) => planar.graph.arrangement.points[*v as usize],
        None => added[vertex - names.len()].0,
    }
}

/// The corner of a triangle at a vertex, whose next corner is `next`.
pub(crate) fn corner(planar: &Planar, names: &[u32], added: &[(GridPoint, f64)], vertex: usize, next: usize) -> Corner {
    match names.get(vertex) {
        Some(v) => Corner::Wedge(planar.graph.wedge_of(*v, point(planar, names, added, next))),
        None => Corner::Added((vertex - names.len()) as u32),
    }
}

/// A point to add, in which column and near which corner.
struct Wanted {
    at: GridPoint,
    column: u32,
    near: usize,
    /// How far it has to be from other corners.
    apart: i32,
}

impl Wanted {
    fn new(at: GridPoint, column: u32, f: Face<'_>) -> Self {
        Self { at, column, near: f.vertices()[0].index(), apart: SHORTEST }
    }
}

/// A triangulation of a slab's sloped faces while points are added to it.
struct Work<'a> {
    planar: &'a Planar,
    labels: &'a Labels,
    heights: &'a SlabHeights,
    sheet: Sheet<'a, u32>,
    place: &'a Place,
    /// The kind of each triangle, 0 outside slopes.
    kinds: Vec<u32>,
    /// The height at each of the arrangement's vertices, where all its wedges have the same.
    common: Vec<Option<f64>>,
    /// What was added to the arrangement's vertices.
    added: Vec<(GridPoint, f64)>,
}

pub(crate) fn refine(
    planar: &Planar,
    labels: &Labels,
    heights: &SlabHeights,
    ground: &Ground,
    place: &Place,
) -> Result<Refined, SolidError> {
    let Some(sheet) = Sheet::new(&ground.border)? else { return Ok(Refined::default()) };
    let kinds = kinds_of(&sheet);
    let common = place.names.iter().map(|v| heights.common(&planar.graph.out[*v as usize])).collect();
    let mut work = Work { planar, labels, heights, sheet, place, kinds, common, added: vec![] };
    let mut look = Look::all(&work.sheet);
    for _ in 0..MAX_ROUNDS {
        match work.refine(&look)? {
            Some(next) => look = next,
            None => break,
        }
    }
    debug_assert_eq!(work.kinds, kinds_of(&work.sheet));
    Ok(work.finish(ground))
}

fn kinds_of(sheet: &Sheet<'_, u32>) -> Vec<u32> {
    sheet.kinds().into_iter().map(Option::unwrap_or_default).collect()
}

/// What a round looks at: triangles and edges that are new, or that still miss their slope. The others are as they
/// were when nothing was wanted there.
struct Look {
    faces: Vec<FixedFaceHandle<InnerTag>>,
    edges: Vec<FixedUndirectedEdgeHandle>,
}

impl Look {
    fn all(sheet: &Sheet<'_, u32>) -> Self {
        Self { faces: sheet.cdt.fixed_inner_faces().collect(), edges: sheet.cdt.fixed_undirected_edges().collect() }
    }
}

/// What a search among kept edges finds. The triangulation may run in circles there and panics when it notices, before it
/// has changed anything: then a point is left out, and a triangle stays as it is.
fn searched<T>(search: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(search)).ok()
}

impl Work<'_> {
    /// The column that a triangle belongs to, 0 outside slopes.
    fn column(&self, f: Face<'_>) -> u32 {
        self.place.columns[self.kinds[f.index()] as usize]
    }

    fn point(&self, vertex: usize) -> GridPoint {
        point(self.planar, &self.place.names, &self.added, vertex)
    }

    fn corner(&self, vertex: usize, next: usize) -> Corner {
        corner(self.planar, &self.place.names, &self.added, vertex, next)
    }

    /// The height at a vertex, seen in the direction of another one.
    fn height(&self, vertex: usize, next: usize) -> f64 {
        if let Some(Some(t)) = self.common.get(vertex) {
            return *t;
        }
        match self.corner(vertex, next) {
            Corner::Wedge(half) => self.heights.corner[half as usize],
            Corner::Added(k) => self.added[k as usize].1,
        }
    }

    /// The heights at a triangle's corners.
    fn ends(&self, f: Face<'_>) -> [f64; 3] {
        let [a, b, c] = f.vertices().map(|v| v.index());
        [self.height(a, b), self.height(b, c), self.height(c, a)]
    }

    /// Adds points where edges or triangles miss the slope; what to look at next, if any was added.
    fn refine(&mut self, look: &Look) -> Result<Option<Look>, SolidError> {
        let cdt = &self.sheet.cdt;
        let edges = look.edges.par_iter().with_min_len(AT_ONCE);
        let at_edges = edges.filter_map(|e| Some((*e, self.at_level_edge(cdt.undirected_edge(*e))?)));
        let faces = look.faces.par_iter().with_min_len(AT_ONCE);
        let at_faces = faces.filter_map(|f| Some((*f, self.at_face(cdt.face(*f))?)));
        let ((edges, mut wanted), (faces, more)): ((Vec<_>, Vec<_>), (Vec<_>, Vec<_>)) =
            (at_edges.unzip(), at_faces.unzip());
        let mut next = Look { faces, edges };
        wanted.extend(more);
        // Those that several triangles want come once, wherever each of them found it.
        wanted.sort_unstable_by_key(|w| (w.at, w.column, w.apart, w.near));
        wanted.dedup_by_key(|w| (w.at, w.column));
        let before = self.added.len();
        for w in wanted {
            self.insert(w)?;
        }
        if self.added.len() == before {
            return Ok(None);
        }
        for k in before..self.added.len() {
            for f in self
                .sheet
                .cdt
                .vertex(handle(self.place.names.len() + k))
                .out_edges()
                .filter_map(|e| e.face().as_inner())
            {
                next.faces.push(f.fix());
                next.edges.extend(f.adjacent_edges().map(|e| e.as_undirected().fix()));
            }
        }
        next.faces.sort_unstable();
        next.faces.dedup();
        next.edges.sort_unstable();
        next.edges.dedup();
        Ok(Some(next))
    }

    /// The point to add where a triangle misses its slope.
    fn at_face(&self, f: Face<'_>) -> Option<Wanted> {
        let column = self.column(f);
        if column == 0 || self.is_on_slope(column, f) {
            return None;
        }
        self.miss(column, f).map(|p| self.at_ridge(f, p))
    }

    fn insert(&mut self, w: Wanted) -> Result<(), SolidError> {
        let cdt = &mut self.sheet.cdt;
        let (corners, kind): (SmallVec<[usize; 3]>, u32) =
            match searched(|| cdt.locate_with_hint(plane(w.at), handle(w.near))) {
                Some(PositionInTriangulation::OnFace(f)) => {
                    (cdt.face(f).vertices().iter().map(|v| v.index()).collect(), self.kinds[f.index()])
                }
                Some(PositionInTriangulation::OnEdge(e)) if !cdt.directed_edge(e).is_constraint_edge() => {
                    let e = cdt.directed_edge(e);
                    (e.vertices().iter().map(|v| v.index()).collect(), self.kinds[e.face().index()])
                }
                _ => return Ok(()),
            };
        let Some(near) = corners.iter().copied().min_by_key(|v| self.apart(*v, w.at)) else { return Ok(()) };
        if self.apart(near, w.at) < w.apart {
            return Ok(());
        }
        let cdt = &mut self.sheet.cdt;
        let Some(inserted) = searched(|| cdt.insert_with_hint(plane(w.at), handle(near))) else { return Ok(()) };
        let inserted = inserted.map_err(|_| FAILED)?;
        if inserted.index() != self.place.names.len() + self.added.len() {
            return Err(FAILED);
        }
        // All triangles that have changed meet there, and no kept edge parts them.
        self.kinds.resize(cdt.num_all_faces(), 0);
        for f in cdt.vertex(inserted).out_edges().filter_map(|e| e.face().as_inner()) {
            self.kinds[f.index()] = kind;
        }
        // A ridge is kept off the levels, however low it is.
        let t = height_at(self.planar, self.labels, w.column, w.at).clamp(1e-3, 1.0 - 1e-3);
        self.added.push((w.at, t));
        Ok(())
    }

    /// How far a corner is from a point, grid steps along the axes.
    fn apart(&self, vertex: usize, p: GridPoint) -> i32 {
        let v = self.point(vertex);
        (v.x() - p.x()).abs().max((v.y() - p.y()).abs())
    }

    /// Whether an edge lies in a level, and in which: in the upper one?
    fn level_of(&self, e: Directed<'_>) -> Option<bool> {
        let (a, b) = (e.from().index(), e.to().index());
        let ends = [self.height(a, b), self.height(b, a)];
        (ends == [0.0; 2] || ends == [1.0; 2]).then_some(ends[0] == 1.0)
    }

    /// The triangle on the left of an edge within a slope that lies in a level: a slope touches a level only along its ends.
    fn in_level<'w>(&self, e: Directed<'w>) -> Option<Face<'w>> {
        let face = e.face().as_inner().filter(|f| !e.is_constraint_edge() && self.column(*f) != 0)?;
        self.level_of(e).map(|_| face)
    }

    /// The point to add on such an edge.
    fn at_level_edge(&self, e: UndirectedEdge<'_>) -> Option<Wanted> {
        let e = e.as_directed();
        let face = self.in_level(e)?;
        let column = self.column(face);
        let (p, q) = (self.point(e.from().index()), self.point(e.to().index()));
        if self.apart(e.from().index(), q) < 2 * SHORTEST_IN_LEVEL {
            return None;
        }
        // The middle, or beside it where a corner is in the way: with corners on both its sides the edge is none any more.
        let middle = ((p.x() + q.x()) / 2, (p.y() + q.y()) / 2);
        let long = p.mm().distance(q.mm()) * GRID_PER_MM;
        #[expect(clippy::cast_possible_truncation, reason = "a step or two")]
        let aside = [q.y() - p.y(), p.x() - q.x()]
            .map(|c| (f64::from(c) / long * f64::from(SHORTEST_IN_LEVEL + 1)).round() as i32);
        let both = || [Some(face), e.rev().face().as_inner()].into_iter().flatten();
        let place = |k: i32| {
            let at = GridPoint::new(middle.0 + k * aside[0], middle.1 + k * aside[1])?;
            // Rounded to the grid, it lies in one of the two triangles.
            let f = both().filter(|f| self.column(*f) == column).find(|f| self.holds(*f, at))?;
            let is_clear = f.vertices().iter().all(|v| self.apart(v.index(), at) >= SHORTEST_IN_LEVEL);
            is_clear.then(|| if k == 0 { self.at_ridge(f, at) } else { Wanted::new(at, column, f) })
        };
        let found = [0, 1, -1].into_iter().find_map(place)?;
        Some(Wanted { apart: SHORTEST_IN_LEVEL, ..found })
    }

    /// Whether a triangle holds a point, or has it on its edge.
    fn holds(&self, f: Face<'_>, p: GridPoint) -> bool {
        let [a, b, c] = f.vertices().map(|v| self.point(v.index()));
        [(a, b), (b, c), (c, a)].iter().all(|(from, to)| orient(*from, *to, p) >= 0)
    }

    /// Whether a triangle rises as steeply as its column's only slope: a distance grows by 1 a millimetre, away from its
    /// base, so over a ridge a triangle rises less, and over a foot it does not rise at all.
    fn is_on_slope(&self, column: u32, f: Face<'_>) -> bool {
        if !self.is_plain(column) {
            return false;
        }
        let [a, b, c] = f.vertices().map(|v| self.point(v.index()).mm());
        let (u, v) = ((b.x - a.x, b.y - a.y), (c.x - a.x, c.y - a.y));
        let [low, du, dv] = self.ends(f).map(|t| t * self.width(column));
        let (du, dv) = (du - low, dv - low);
        let rise = (du * v.1 - dv * u.1).hypot(dv * u.0 - du * v.0) / (u.0 * v.1 - u.1 * v.0);
        (rise - 1.0).abs() < STEEPNESS
    }

    /// Where a triangle misses its slope most, if too far.
    fn miss(&self, column: u32, f: Face<'_>) -> Option<GridPoint> {
        let corners = f.vertices().map(|v| self.point(v.index()).mm());
        let ends = self.ends(f);
        let width = self.width(column);
        // A slope touches a level only along its ends.
        let is_level = ends == [0.0; 3] || ends == [1.0; 3];
        let may = if is_level { -1.0 } else { MISS_MM };
        let miss_at = |shares: [f64; 3]| {
            let mean = |k: [f64; 3]| shares.iter().zip(k).map(|(s, k)| s * k).sum::<f64>();
            let p = GridPoint::from_mm(Point::new(mean(corners.map(|p| p.x)), mean(corners.map(|p| p.y)))).ok()?;
            // Rounded to the grid, it may fall out of a sliver.
            self.holds(f, p).then_some(())?;
            let miss = (height_at(self.planar, self.labels, column, p) - mean(ends)).abs() * width;
            (miss > may).then_some((p, miss))
        };
        SAMPLES.into_iter().filter_map(miss_at).max_by(|a, b| a.1.total_cmp(&b.1)).map(|(p, _)| p)
    }

    /// The ridge uphill of a point in a triangle, where that lies in the same slope and is no corner yet, else the point
    /// itself.
    fn at_ridge(&self, f: Face<'_>, p: GridPoint) -> Wanted {
        let column = self.column(f);
        let ridge = uphill(self.planar, self.labels, column, p);
        let is_corner = |f: Face<'_>| f.vertices().iter().any(|v| self.apart(v.index(), ridge) < SHORTEST);
        match self.walk(f, p, ridge) {
            Some(there) if !is_corner(there) => Wanted::new(ridge, column, there),
            _ => Wanted::new(p, column, f),
        }
    }

    /// The triangle that holds a point, straight from a point of another one and over no kept edge.
    fn walk<'f>(&self, mut f: Face<'f>, from: GridPoint, to: GridPoint) -> Option<Face<'f>> {
        for _ in 0..MOST_STEPS {
            if self.holds(f, to) {
                return Some(f);
            }
            let is_beyond = |e: &Directed<'f>| {
                let (a, b) = (self.point(e.from().index()), self.point(e.to().index()));
                let is_crossed = orient(from, to, a) <= 0 && orient(from, to, b) >= 0;
                orient(a, b, to) < 0 && is_crossed
            };
            let over = f.adjacent_edges().into_iter().find(is_beyond)?;
            if over.is_constraint_edge() {
                return None;
            }
            f = over.rev().face().as_inner()?;
        }
        None
    }

    /// Whether a column has a single slope: then edges from its foot to its top follow it.
    fn is_plain(&self, column: u32) -> bool {
        self.labels.columns[column as usize - 1].ramps.len() == 1
    }

    fn width(&self, column: u32) -> f64 {
        let ramps = &self.labels.columns[column as usize - 1].ramps;
        ramps.iter().map(|r| self.labels.slopes[r.slope as usize].width()).fold(0.0, f64::max)
    }

    fn finish(self, ground: &Ground) -> Refined {
        let triangle = |f: Face<'_>| {
            let column = (self.kinds[f.index()] as usize).checked_sub(1)?;
            Some((f.vertices().map(|v| v.index() as u32), ground.columns[column].ends()))
        };
        let triangles = self.sheet.cdt.inner_faces().filter_map(triangle).collect();
        Refined { triangles, ridges: self.ridges(), stuck: self.stuck(), added: self.added }
    }

    fn stuck(&self) -> Vec<[GridPoint; 2]> {
        let line = |e: Directed<'_>| [e.from(), e.to()].map(|v| self.point(v.index()));
        let all = self.sheet.cdt.undirected_edges().map(|e| e.as_directed());
        let edges = all.filter(|e| self.in_level(*e).is_some()).map(line);
        // A triangle that is a face of its own has kept edges only.
        let alone = self.sheet.cdt.inner_faces().filter(|f| self.column(*f) != 0).filter_map(|f| {
            let edges = f.adjacent_edges();
            let levels = edges.map(|e| e.is_constraint_edge().then(|| self.level_of(e)).flatten());
            let is_level = levels[0].is_some() && levels.iter().all(|l| *l == levels[0]);
            let longest = edges.into_iter().max_by(|a, b| a.length_2().total_cmp(&b.length_2()))?;
            is_level.then(|| line(longest))
        });
        edges.chain(alone).collect()
    }

    /// The highest place of each connected slope that ends in a ridge.
    fn ridges(&self) -> Vec<(GridPoint, f64)> {
        let mut seen = vec![false; self.kinds.len()];
        let mut ridges = Vec::new();
        for first in self.sheet.cdt.inner_faces() {
            let column = self.column(first);
            if column == 0 || std::mem::replace(&mut seen[first.index()], true) {
                continue;
            }
            let mut highest: Option<(GridPoint, f64)> = None;
            let mut queue = vec![first];
            while let Some(face) = queue.pop() {
                for (v, t) in face.vertices().into_iter().zip(self.ends(face)) {
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
