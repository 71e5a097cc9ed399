//! Points added to triangulated slopes, until no triangle misses its slope: on ridges, and off the levels.

use crate::error::SolidError;
use crate::heights::{SlabHeights, height_at, uphill};
use crate::label::Labels;
use crate::planar::Planar;
use crate::sheet::{Directed, FAILED, Face, Owners, Sheet, beside, plane};
use crate::slope_data::{Corner, Ground, Refined};
use foldhash::{HashMap, HashMapExt};
use kachel_geom::{GRID_PER_MM, GridPoint, Point, orient};
use spade::handles::FixedVertexHandle;
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
    sheet: Sheet<u32>,
    place: &'a Place,
    /// What was added to the arrangement's vertices.
    added: Vec<(GridPoint, f64)>,
    /// Where triangles that do not rise as they should miss their slope, by their corners.
    missed: HashMap<[usize; 3], Option<GridPoint>>,
}

pub(crate) fn refine(
    planar: &Planar,
    labels: &Labels,
    heights: &SlabHeights,
    ground: &Ground,
    place: &Place,
) -> Result<Refined, SolidError> {
    let Some(sheet) = Sheet::new(&ground.border)? else { return Ok(Refined::default()) };
    let mut work = Work { planar, labels, heights, sheet, place, added: vec![], missed: HashMap::new() };
    for _ in 0..MAX_ROUNDS {
        if !work.refine()? {
            break;
        }
    }
    Ok(work.finish(ground))
}

/// What a search among kept edges finds. The triangulation may run in circles there and panics when it notices, before it
/// has changed anything: then a point is left out, and a triangle stays as it is.
fn searched<T>(search: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(search)).ok()
}

impl Work<'_> {
    /// The column that each triangle belongs to, 0 outside slopes.
    fn columns(&self) -> Vec<u32> {
        self.sheet.kinds().into_iter().map(|kind| self.place.columns[kind.unwrap_or_default() as usize]).collect()
    }

    fn point(&self, vertex: usize) -> GridPoint {
        point(self.planar, &self.place.names, &self.added, vertex)
    }

    fn corner(&self, vertex: usize, next: usize) -> Corner {
        corner(self.planar, &self.place.names, &self.added, vertex, next)
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
        let mut wanted = self.level_edges(&columns);
        let mut missed = std::mem::take(&mut self.missed);
        for f in self.sheet.cdt.inner_faces() {
            let column = columns[f.index()];
            if column == 0 || self.is_on_slope(column, f) {
                continue;
            }
            let found = missed.entry(f.vertices().map(|v| v.index())).or_insert_with(|| self.miss(column, f));
            wanted.extend(found.map(|p| self.at_ridge(&columns, f, p)));
        }
        self.missed = missed;
        // Those that several triangles want come once, wherever each of them found it.
        wanted.sort_unstable_by_key(|w| (w.at, w.column, w.apart, w.near));
        wanted.dedup_by_key(|w| (w.at, w.column));
        let before = self.added.len();
        for w in wanted {
            self.insert(w)?;
        }
        Ok(self.added.len() > before)
    }

    fn insert(&mut self, w: Wanted) -> Result<(), SolidError> {
        let hint = FixedVertexHandle::from_index;
        let cdt = &mut self.sheet.cdt;
        let corners: Vec<usize> = match searched(|| cdt.locate_with_hint(plane(w.at), hint(w.near))) {
            Some(PositionInTriangulation::OnFace(f)) => cdt.face(f).vertices().iter().map(|v| v.index()).collect(),
            Some(PositionInTriangulation::OnEdge(e)) if !cdt.directed_edge(e).is_constraint_edge() => {
                cdt.directed_edge(e).vertices().iter().map(|v| v.index()).collect()
            }
            _ => return Ok(()),
        };
        let Some(near) = corners.iter().copied().min_by_key(|v| self.apart(*v, w.at)) else { return Ok(()) };
        if self.apart(near, w.at) < w.apart {
            return Ok(());
        }
        let cdt = &mut self.sheet.cdt;
        let Some(inserted) = searched(|| cdt.insert_with_hint(plane(w.at), hint(near))) else { return Ok(()) };
        if inserted.map_err(|_| FAILED)?.index() != self.place.names.len() + self.added.len() {
            return Err(FAILED);
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
        let ends = [self.height(self.corner(a, b)), self.height(self.corner(b, a))];
        (ends == [0.0; 2] || ends == [1.0; 2]).then_some(ends[0] == 1.0)
    }

    /// The edges within slopes that lie in a level, each with a triangle on its left: a slope touches a level only along its
    /// ends.
    fn edges_in_levels<'w>(&'w self, columns: &'w [u32]) -> impl Iterator<Item = (Directed<'w>, Face<'w>)> {
        let edges = self.sheet.cdt.undirected_edges().filter(|e| !e.is_constraint_edge()).map(|e| e.as_directed());
        let within = edges.filter_map(|e| Some((e, e.face().as_inner()?))).filter(|(_, f)| columns[f.index()] != 0);
        within.filter(|(e, _)| self.level_of(*e).is_some())
    }

    /// Points to add on such edges.
    fn level_edges(&self, columns: &[u32]) -> Vec<Wanted> {
        let mut wanted = Vec::new();
        for (e, face) in self.edges_in_levels(columns) {
            let column = columns[face.index()];
            let (p, q) = (self.point(e.from().index()), self.point(e.to().index()));
            if self.apart(e.from().index(), q) < 2 * SHORTEST_IN_LEVEL {
                continue;
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
                let f = both().filter(|f| columns[f.index()] == column).find(|f| self.holds(*f, at))?;
                let is_clear = f.vertices().iter().all(|v| self.apart(v.index(), at) >= SHORTEST_IN_LEVEL);
                is_clear.then(|| if k == 0 { self.at_ridge(columns, f, at) } else { Wanted::new(at, column, f) })
            };
            let found = [0, 1, -1].into_iter().find_map(place);
            wanted.extend(found.map(|w| Wanted { apart: SHORTEST_IN_LEVEL, ..w }));
        }
        wanted
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
        let [low, du, dv] = self.corners(f).map(|c| self.height(c) * self.width(column));
        let (du, dv) = (du - low, dv - low);
        let rise = (du * v.1 - dv * u.1).hypot(dv * u.0 - du * v.0) / (u.0 * v.1 - u.1 * v.0);
        (rise - 1.0).abs() < STEEPNESS
    }

    /// Where a triangle misses its slope most, if too far.
    fn miss(&self, column: u32, f: Face<'_>) -> Option<GridPoint> {
        let corners = f.vertices().map(|v| self.point(v.index()).mm());
        let ends = self.corners(f).map(|c| self.height(c));
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
    fn at_ridge(&self, columns: &[u32], f: Face<'_>, p: GridPoint) -> Wanted {
        let column = columns[f.index()];
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
        let columns = self.columns();
        let kinds = self.sheet.kinds();
        let triangle = |f: Face<'_>| {
            let kind = kinds[f.index()].filter(|kind| *kind != 0)?;
            Some((f.vertices().map(|v| v.index() as u32), ground.columns[kind as usize - 1].ends()))
        };
        let triangles = self.sheet.cdt.inner_faces().filter_map(triangle).collect();
        Refined { triangles, ridges: self.ridges(&columns), stuck: self.stuck(&columns), added: self.added }
    }

    fn stuck(&self, columns: &[u32]) -> Vec<[GridPoint; 2]> {
        let line = |e: Directed<'_>| [e.from(), e.to()].map(|v| self.point(v.index()));
        let edges = self.edges_in_levels(columns).map(|(e, _)| line(e));
        // A triangle that is a face of its own has kept edges only.
        let alone = self.sheet.cdt.inner_faces().filter(|f| columns[f.index()] != 0).filter_map(|f| {
            let edges = f.adjacent_edges();
            let levels = edges.map(|e| e.is_constraint_edge().then(|| self.level_of(e)).flatten());
            let is_level = levels[0].is_some() && levels.iter().all(|l| *l == levels[0]);
            let longest = edges.into_iter().max_by(|a, b| a.length_2().total_cmp(&b.length_2()))?;
            is_level.then(|| line(longest))
        });
        edges.chain(alone).collect()
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
