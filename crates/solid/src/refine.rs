//! Points added to triangulated slopes, until no triangle misses its slope: on ridges, and off the levels.

use crate::error::SolidError;
use crate::heights::{SlabHeights, height_at, uphill};
use crate::label::Labels;
use crate::planar::Planar;
use crate::sheet::{FAILED, Owners};
use crate::slope_data::{Corner, Ground, Refined};
use crate::sweep::{self, Tangled};
use crate::triangulation::{HalfEdge, Triangulation};
use kachel_geom::{GRID_PER_MM, GridPoint, Point, orient};
use rayon::prelude::*;
use smallvec::SmallVec;

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

/// The corner of a triangle at a vertex, seen in the direction of its next corner.
pub(crate) fn corner(planar: &Planar, names: &[u32], vertex: u32, next: GridPoint) -> Corner {
    match names.get(vertex as usize) {
        Some(v) => Corner::Wedge(planar.graph.wedge_of(*v, next)),
        None => Corner::Added(vertex - names.len() as u32),
    }
}

/// A point to add in a triangle.
struct Wanted {
    at: GridPoint,
    triangle: u32,
    /// How far it has to be from other corners.
    apart: i32,
}

impl Wanted {
    fn new(at: GridPoint, triangle: u32) -> Self {
        Self { at, triangle, apart: SHORTEST }
    }
}

/// A triangulation of a slab's sloped faces while points are added to it.
struct Work<'a> {
    planar: &'a Planar,
    labels: &'a Labels,
    heights: &'a SlabHeights,
    place: &'a Place,
    /// Kinds are places in the place's columns.
    sheet: Triangulation<u32>,
    /// The border's points, then those that were added.
    points: Vec<GridPoint>,
    /// The height at each of the arrangement's vertices, where all its wedges have the same.
    common: Vec<Option<f64>>,
    /// The heights of what was added.
    added: Vec<f64>,
}

pub(crate) fn refine(
    planar: &Planar,
    labels: &Labels,
    heights: &SlabHeights,
    ground: &Ground,
    place: &Place,
) -> Result<Refined, SolidError> {
    let sheet = sweep::triangulation(&ground.border).map_err(|Tangled| FAILED)?;
    let common = place.names.iter().map(|v| heights.common(&planar.graph.out[*v as usize])).collect();
    let points = ground.border.points.clone();
    let mut work = Work { planar, labels, heights, place, sheet, points, common, added: vec![] };
    let mut look = Look { triangles: (0..work.sheet.len()).collect(), edges: (0..work.sheet.edges()).collect() };
    for _ in 0..MAX_ROUNDS {
        match work.refine(look) {
            Some(next) => look = next,
            None => break,
        }
    }
    Ok(work.finish(ground))
}

/// What a round looks at: triangles and edges that are new, or that still miss their slope. The others are as they
/// were when nothing was wanted there.
struct Look {
    triangles: Vec<u32>,
    edges: Vec<u32>,
}

impl Work<'_> {
    /// The column that a triangle belongs to.
    fn column(&self, t: u32) -> u32 {
        self.place.columns[self.sheet.kind(t) as usize]
    }

    fn point(&self, vertex: u32) -> GridPoint {
        self.points[vertex as usize]
    }

    fn corner_points(&self, t: u32) -> [GridPoint; 3] {
        self.sheet.corners(t).map(|v| self.point(v))
    }

    /// The height at a vertex, seen in the direction of another one.
    fn height(&self, vertex: u32, next: u32) -> f64 {
        if let Some(Some(t)) = self.common.get(vertex as usize) {
            return *t;
        }
        match corner(self.planar, &self.place.names, vertex, self.point(next)) {
            Corner::Wedge(half) => self.heights.corner[half as usize],
            Corner::Added(k) => self.added[k as usize],
        }
    }

    /// The heights at a triangle's corners.
    fn ends(&self, t: u32) -> [f64; 3] {
        let [a, b, c] = self.sheet.corners(t);
        [self.height(a, b), self.height(b, c), self.height(c, a)]
    }

    /// Adds points where edges or triangles miss the slope; what to look at next, if any was added.
    fn refine(&mut self, look: Look) -> Option<Look> {
        let edges = look.edges.par_iter().with_min_len(AT_ONCE);
        let at_edges = edges.filter_map(|e| Some((*e, self.at_level_edge(*e)?)));
        let triangles = look.triangles.par_iter().with_min_len(AT_ONCE);
        let at_triangles = triangles.filter_map(|t| Some((*t, self.at_triangle(*t)?)));
        let ((edges, mut wanted), (triangles, more)): ((Vec<_>, Vec<_>), (Vec<_>, Vec<_>)) =
            (at_edges.unzip(), at_triangles.unzip());
        wanted.extend(more);
        // Those that several triangles want come once, wherever each of them found it.
        wanted.sort_unstable_by_key(|w| (w.at, self.sheet.kind(w.triangle), w.apart, w.triangle));
        wanted.dedup_by_key(|w| (w.at, self.sheet.kind(w.triangle)));
        let changed = self.add(&mut wanted);
        if changed.is_empty() {
            return None;
        }
        let mut next = Look { triangles, edges };
        next.edges.extend(changed.iter().flat_map(|t| self.sheet.edges_of(*t)).flatten());
        next.triangles.extend(changed);
        for all in [&mut next.triangles, &mut next.edges] {
            all.sort_unstable();
            all.dedup();
        }
        Some(next)
    }

    /// The point to add where a triangle misses its slope.
    fn at_triangle(&self, t: u32) -> Option<Wanted> {
        if self.is_on_slope(t) {
            return None;
        }
        self.miss(t).map(|p| self.at_ridge(t, p))
    }

    /// Adds points where there is room for them; the triangles that have changed.
    fn add(&mut self, wanted: &mut [Wanted]) -> Vec<u32> {
        let mut all = Vec::new();
        // Which points are to come in a triangle: a point that is added changes triangles around it.
        let mut within: Vec<SmallVec<[u32; 2]>> = vec![SmallVec::new(); self.sheet.len() as usize];
        for (i, w) in (0..).zip(&*wanted) {
            within[w.triangle as usize].push(i);
        }
        for i in 0..wanted.len() {
            let Wanted { at, triangle, apart } = wanted[i];
            within[triangle as usize].retain(|k| *k as usize != i);
            debug_assert!(self.holds(triangle, at));
            if self.corner_points(triangle).iter().any(|p| far(*p, at) < apart) {
                continue;
            }
            self.points.push(at);
            let Some(changed) = self.sheet.insert(triangle, &self.points) else {
                self.points.pop();
                continue;
            };
            // A ridge is kept off the levels, however low it is.
            let t = height_at(self.planar, self.labels, self.column(triangle), at).clamp(1e-3, 1.0 - 1e-3);
            self.added.push(t);
            within.resize(self.sheet.len() as usize, SmallVec::new());
            let to_come: SmallVec<[u32; 8]> =
                changed.iter().flat_map(|t| std::mem::take(&mut within[*t as usize])).collect();
            for k in to_come {
                let w = &mut wanted[k as usize];
                // Together they cover what they covered before.
                w.triangle = changed.iter().copied().find(|t| self.holds(*t, w.at)).unwrap_or(w.triangle);
                within[w.triangle as usize].push(k);
            }
            all.extend(changed);
        }
        all
    }

    /// Whether an edge lies in a level, and in which: in the upper one?
    fn level_of(&self, a: u32, b: u32) -> Option<bool> {
        let ends = [self.height(a, b), self.height(b, a)];
        (ends == [0.0; 2] || ends == [1.0; 2]).then_some(ends[0] == 1.0)
    }

    /// The ends of an edge within a slope that lies in a level: a slope touches a level only along its ends.
    fn in_level(&self, edge: u32) -> Option<[u32; 2]> {
        let [a, b] = self.sheet.ends(self.sheet.halves(edge)[0]);
        self.level_of(a, b).map(|_| [a, b])
    }

    /// The point to add on such an edge.
    fn at_level_edge(&self, edge: u32) -> Option<Wanted> {
        let [p, q] = self.in_level(edge)?.map(|v| self.point(v));
        if far(p, q) < 2 * SHORTEST_IN_LEVEL {
            return None;
        }
        // The middle, or beside it where a corner is in the way: with corners on both its sides the edge is none any more.
        let middle = ((p.x() + q.x()) / 2, (p.y() + q.y()) / 2);
        let long = p.mm().distance(q.mm()) * GRID_PER_MM;
        #[expect(clippy::cast_possible_truncation, reason = "a step or two")]
        let aside = [q.y() - p.y(), p.x() - q.x()]
            .map(|c| (f64::from(c) / long * f64::from(SHORTEST_IN_LEVEL + 1)).round() as i32);
        let both = self.sheet.halves(edge).map(HalfEdge::triangle);
        let place = |k: i32| {
            let at = GridPoint::new(middle.0 + k * aside[0], middle.1 + k * aside[1])?;
            // Rounded to the grid, it lies in one of the two triangles.
            let t = both.into_iter().find(|t| self.holds(*t, at))?;
            let is_clear = self.corner_points(t).iter().all(|v| far(*v, at) >= SHORTEST_IN_LEVEL);
            is_clear.then(|| if k == 0 { self.at_ridge(t, at) } else { Wanted::new(at, t) })
        };
        let found = [0, 1, -1].into_iter().find_map(place)?;
        Some(Wanted { apart: SHORTEST_IN_LEVEL, ..found })
    }

    /// Whether a triangle holds a point, or has it on its edge.
    fn holds(&self, t: u32, p: GridPoint) -> bool {
        let [a, b, c] = self.corner_points(t);
        [(a, b), (b, c), (c, a)].iter().all(|(from, to)| orient(*from, *to, p) >= 0)
    }

    /// Whether a triangle rises as steeply as its column's only slope: a distance grows by 1 a millimetre, away from its
    /// base, so over a ridge a triangle rises less, and over a foot it does not rise at all.
    fn is_on_slope(&self, t: u32) -> bool {
        let column = self.column(t);
        if !self.is_plain(column) {
            return false;
        }
        let [a, b, c] = self.corner_points(t).map(GridPoint::mm);
        let (u, v) = ((b.x - a.x, b.y - a.y), (c.x - a.x, c.y - a.y));
        let [low, du, dv] = self.ends(t).map(|t| t * self.width(column));
        let (du, dv) = (du - low, dv - low);
        let rise = (du * v.1 - dv * u.1).hypot(dv * u.0 - du * v.0) / (u.0 * v.1 - u.1 * v.0);
        (rise - 1.0).abs() < STEEPNESS
    }

    /// Where a triangle misses its slope most, if too far.
    fn miss(&self, t: u32) -> Option<GridPoint> {
        let column = self.column(t);
        let corners = self.corner_points(t).map(GridPoint::mm);
        let ends = self.ends(t);
        let width = self.width(column);
        // A slope touches a level only along its ends.
        let is_level = ends == [0.0; 3] || ends == [1.0; 3];
        let may = if is_level { -1.0 } else { MISS_MM };
        let miss_at = |shares: [f64; 3]| {
            let mean = |k: [f64; 3]| shares.iter().zip(k).map(|(s, k)| s * k).sum::<f64>();
            let p = GridPoint::from_mm(Point::new(mean(corners.map(|p| p.x)), mean(corners.map(|p| p.y)))).ok()?;
            // Rounded to the grid, it may fall out of a sliver.
            self.holds(t, p).then_some(())?;
            let miss = (height_at(self.planar, self.labels, column, p) - mean(ends)).abs() * width;
            (miss > may).then_some((p, miss))
        };
        SAMPLES.into_iter().filter_map(miss_at).max_by(|a, b| a.1.total_cmp(&b.1)).map(|(p, _)| p)
    }

    /// The ridge uphill of a point in a triangle, where that lies in the same slope and is no corner yet, else the point
    /// itself.
    fn at_ridge(&self, t: u32, p: GridPoint) -> Wanted {
        let ridge = uphill(self.planar, self.labels, self.column(t), p);
        let is_corner = |t: u32| self.corner_points(t).iter().any(|v| far(*v, ridge) < SHORTEST);
        match self.walk(t, p, ridge) {
            Some(there) if !is_corner(there) => Wanted::new(ridge, there),
            _ => Wanted::new(p, t),
        }
    }

    /// The triangle that holds a point, straight from a point of another one and over no border.
    fn walk(&self, mut t: u32, from: GridPoint, to: GridPoint) -> Option<u32> {
        for _ in 0..MOST_STEPS {
            if self.holds(t, to) {
                return Some(t);
            }
            let [a, b, c] = self.corner_points(t);
            let is_beyond = |(a, b): (GridPoint, GridPoint)| {
                let is_crossed = orient(from, to, a) <= 0 && orient(from, to, b) >= 0;
                orient(a, b, to) < 0 && is_crossed
            };
            let over = [(a, b), (b, c), (c, a)].into_iter().position(is_beyond)?;
            t = self.sheet.beside(t)[over]?;
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
        let (ridges, stuck) = (self.ridges(), self.stuck());
        let triangles =
            self.sheet.triangles().map(|(corners, kind)| (corners, ground.columns[kind as usize].ends())).collect();
        let places = &self.points[self.place.names.len()..];
        Refined { triangles, ridges, stuck, added: places.iter().copied().zip(self.added).collect() }
    }

    fn stuck(&self) -> Vec<[GridPoint; 2]> {
        let edges = (0..self.sheet.edges()).filter_map(|e| self.in_level(e));
        // A triangle that is an area of its own.
        let alone = (0..self.sheet.len()).filter(|t| self.sheet.edges_of(*t) == [None; 3]).filter_map(|t| {
            let [a, b, c] = self.sheet.corners(t);
            let edges = [[a, b], [b, c], [c, a]];
            let levels = edges.map(|[a, b]| self.level_of(a, b));
            let is_level = levels[0].is_some() && levels.iter().all(|l| *l == levels[0]);
            let long = |[a, b]: [u32; 2]| self.point(a).mm().distance(self.point(b).mm());
            let longest = edges.into_iter().max_by(|e, f| long(*e).total_cmp(&long(*f)))?;
            is_level.then_some(longest)
        });
        edges.chain(alone).map(|ends| ends.map(|v| self.point(v))).collect()
    }

    /// The highest place of each connected slope that ends in a ridge.
    fn ridges(&self) -> Vec<(GridPoint, f64)> {
        let mut seen = vec![false; self.sheet.len() as usize];
        let mut ridges = Vec::new();
        for first in 0..self.sheet.len() {
            if std::mem::replace(&mut seen[first as usize], true) {
                continue;
            }
            let mut highest: Option<(GridPoint, f64)> = None;
            let mut queue = vec![first];
            while let Some(triangle) = queue.pop() {
                for (p, t) in self.corner_points(triangle).into_iter().zip(self.ends(triangle)) {
                    if highest.is_none_or(|h| t > h.1) {
                        highest = Some((p, t));
                    }
                }
                let beside = self.sheet.beside(triangle).into_iter().flatten();
                queue.extend(beside.filter(|over| !std::mem::replace(&mut seen[*over as usize], true)));
            }
            let column = self.column(first);
            let is_from_low = self.labels.columns[column as usize - 1]
                .ramps
                .iter()
                .all(|r| self.labels.slopes[r.slope as usize].is_from_low && r.is_below);
            ridges.extend(highest.filter(|h| h.1 < 1.0 && is_from_low));
        }
        ridges
    }
}

/// How far two points are from each other, grid steps along the axes.
fn far(a: GridPoint, b: GridPoint) -> i32 {
    (a.x() - b.x()).abs().max((a.y() - b.y()).abs())
}
