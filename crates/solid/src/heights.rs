//! Where slopes pass the corners of faces. A height belongs to a wedge (a face at a vertex), not to a vertex: over one
//! vertex a slope may end low in one face and high in the next, with an upright piece of wall between them.

use crate::error::SolidError;
use crate::label::{Labels, Slope};
use crate::planar::Planar;
use kachel_geom::{Grid, GridPoint, Mm, Point};
use kachel_tiers::CHORD_MM;
use rayon::prelude::*;

/// Heights within a slab, 0 at its lower level and 1 at its upper one; by half-edge, for the wedge on its left at its
/// origin. NaN where the face on the left has one owner all the way up.
#[derive(Clone, Debug)]
pub(crate) struct SlabHeights {
    pub corner: Vec<f64>,
    low: i32,
    high: i32,
}

/// Only what lies on an end of a slope lies on a level: everything else keeps off it, so that parts do not touch there.
const OFF: f64 = 1e-4;

impl SlabHeights {
    /// Grid height of a wedge's corner.
    pub(crate) fn z(&self, half: u32) -> Option<i32> {
        let t = self.corner[half as usize];
        (!t.is_nan()).then(|| if t > 0.0 && t < 1.0 { self.inner_z(t) } else { self.z_of(t) })
    }

    /// The height of all wedges at a vertex, by their half-edges, where it is the same.
    pub(crate) fn common(&self, halves: &[u32]) -> Option<f64> {
        let mut all = halves.iter().map(|h| self.corner[*h as usize]).filter(|t| !t.is_nan());
        let first = all.next()?;
        all.all(|t| t == first).then_some(first)
    }

    /// Grid height of a height within the slab.
    pub(crate) fn z_of(&self, t: f64) -> i32 {
        #[expect(clippy::cast_possible_truncation, reason = "between two grid heights")]
        let up = (f64::from(self.high - self.low) * t).round() as i32;
        self.low + up
    }

    /// The same for a point within a slope, which must not touch a level.
    pub(crate) fn inner_z(&self, t: f64) -> i32 {
        let (low, high) = (self.low + 1, (self.high - 1).max(self.low + 1));
        self.z_of(t).clamp(low, high)
    }
}

/// Where a slope passes over a point, from how far the point is from the slope's base.
fn pass(planar: &Planar, slope: &Slope, p: GridPoint) -> f64 {
    let p = p.mm();
    let far = planar.borders.nearest(&planar.regions, slope.base(), p).map_or(f64::INFINITY, |q| q.distance(p));
    let share = (far / slope.width()).clamp(0.0, 1.0);
    if slope.is_from_low { share } else { 1.0 - share }
}

/// Steps in which a ridge is closed in on.
const HALVINGS: u32 = 14;

/// The place on the ridge (or in the valley) uphill of a point: straight away from the nearest place of the slope's base,
/// as far as that stays the nearest. The point itself where several slopes meet.
pub(crate) fn uphill(planar: &Planar, labels: &Labels, column: u32, p: GridPoint) -> GridPoint {
    let [ramp] = labels.columns[column as usize - 1].ramps.as_slice() else { return p };
    let slope = &labels.slopes[ramp.slope as usize];
    let at = p.mm();
    let Some(foot) = planar.borders.nearest(&planar.regions, slope.base(), at) else { return p };
    let own = foot.distance(at);
    if own < 1e-9 {
        return p;
    }
    let along = |d: f64| Point::new(foot.x + (at.x - foot.x) * d / own, foot.y + (at.y - foot.y) * d / own);
    let is_nearest = |d: f64| {
        let q = along(d);
        planar.borders.nearest(&planar.regions, slope.base(), q).is_some_and(|n| n.distance(q) > d - 1e-6)
    };
    let (mut reached, mut missed) = (own, slope.width());
    if is_nearest(missed) {
        return p;
    }
    for _ in 0..HALVINGS {
        let d = f64::midpoint(reached, missed);
        if is_nearest(d) { reached = d } else { missed = d }
    }
    GridPoint::from_mm(along(reached)).unwrap_or(p)
}

/// The height of a column's slope over a point inside its face.
pub(crate) fn height_at(planar: &Planar, labels: &Labels, column: u32, p: GridPoint) -> f64 {
    let column = &labels.columns[column as usize - 1];
    let at: Vec<f64> = column.ramps.iter().map(|r| pass(planar, &labels.slopes[r.slope as usize], p)).collect();
    column.switch(&at)
}

/// Which of a slope's ends an edge of the arrangement belongs to.
fn ends_at(planar: &Planar, slope: &Slope, edge: u32) -> (bool, bool) {
    let windings = &planar.graph.arrangement.edges[edge as usize].windings;
    let on = |areas: &[u32]| windings.iter().any(|w| areas.contains(&w.region));
    (on(&slope.low), on(&slope.high))
}

/// The wedge of a face at a vertex: from half-edge `first` to half-edge `last`, both leaving the vertex.
struct Wedge {
    vertex: u32,
    first: u32,
    last: u32,
}

fn corner_of(planar: &Planar, slope: &Slope, w: &Wedge) -> f64 {
    let sum = |edges: &mut dyn Iterator<Item = u32>| {
        edges.map(|h| ends_at(planar, slope, h / 2)).fold((false, false), |a, b| (a.0 | b.0, a.1 | b.1))
    };
    let sides = sum(&mut [w.first, w.last].into_iter());
    let of = |ends: (bool, bool)| match ends {
        (true, false) => Some(0.0),
        (false, true) => Some(1.0),
        _ => None,
    };
    if let Some(t) = of(sides) {
        return t;
    }
    if sides == (true, true) {
        // Both ends meet here: the slope is upright, and its lower end is as good as any.
        return 0.0;
    }
    let all = sum(&mut planar.graph.out[w.vertex as usize].iter().copied());
    if let Some(t) = of(all) {
        return t;
    }
    pass(planar, slope, planar.graph.arrangement.points[w.vertex as usize]).clamp(OFF, 1.0 - OFF)
}

/// The heights of all wedges, slab by slab; `None` where a slab has no slopes.
pub(crate) fn find(planar: &Planar, labels: &Labels, levels: &[Grid]) -> Result<Vec<Option<SlabHeights>>, SolidError> {
    (0..labels.slabs)
        .map(|slab| {
            if !labels.has_slopes(slab) {
                return Ok(None);
            }
            let (low, high) = (levels[slab].steps(), levels[slab + 1].steps());
            let mut heights =
                SlabHeights { corner: vec![f64::NAN; planar.graph.arrangement.edges.len() * 2], low, high };
            corners(planar, labels, slab, &mut heights);
            uncross(planar, labels.sloped_row(slab), &mut heights)?;
            Ok(Some(heights))
        })
        .collect()
}

/// Rounds of dividing edges along which a slope bends.
pub(crate) const MAX_BENDS: usize = 4;

/// How often an edge, and its parts, are divided in one of them.
const MAX_DEPTH: usize = 4;

/// Edges shorter than this (mm) are not divided.
const SHORTEST_MM: f64 = 0.05;

/// Places on edges at which a slope passes too far from the line between its heights over both ends: where an upright face
/// cuts a slope, the line between the two bends with the slope's own foot.
pub(crate) fn bends(planar: &Planar, labels: &Labels, heights: &[Option<SlabHeights>]) -> Vec<GridPoint> {
    let on_edge = |edge: u32| -> Vec<GridPoint> {
        let mut places = vec![];
        let e = &planar.graph.arrangement.edges[edge as usize];
        let [a, b] = [e.a, e.b].map(|v| planar.graph.arrangement.points[v as usize].mm());
        let (left, right) = planar.graph.sides(edge as usize);
        let [la, lb, ra, rb] = planar.graph.corners(edge);
        for (slab, h) in heights.iter().enumerate().filter_map(|(slab, h)| Some((slab, h.as_ref()?))) {
            let row = labels.sloped_row(slab);
            let columns = [row[left as usize], row[right as usize]];
            // Within one slope there is no line.
            if columns[0] == columns[1] {
                continue;
            }
            for (column, wedges) in columns.into_iter().zip([[la, lb], [ra, rb]]).filter(|(column, _)| *column != 0) {
                let ramps = &labels.columns[column as usize - 1].ramps;
                let slopes = || ramps.iter().map(|r| &labels.slopes[r.slope as usize]);
                // Along its own foot or top it does not.
                if slopes().any(|s| ends_at(planar, s, edge) != (false, false)) {
                    continue;
                }
                let width = slopes().map(Slope::width).fold(0.0, f64::max);
                let height = |p: GridPoint| height_at(planar, labels, column, p);
                bend(
                    [(a, h.corner[wedges[0] as usize]), (b, h.corner[wedges[1] as usize])],
                    width,
                    &height,
                    MAX_DEPTH,
                    &mut places,
                );
                // What bends in other slabs, or on the other side, is looked at between these places.
                if !places.is_empty() {
                    return places;
                }
            }
        }
        places
    };
    (0..planar.graph.arrangement.edges.len() as u32).into_par_iter().flat_map_iter(on_edge).collect()
}

/// Finds the place between two heights where a slope bends most, and more on both sides of it.
fn bend(
    [(a, low), (b, high)]: [(Point<Mm>, f64); 2],
    width: f64,
    height: &impl Fn(GridPoint) -> f64,
    depth: usize,
    places: &mut Vec<GridPoint>,
) {
    if depth == 0 || a.distance(b) < SHORTEST_MM {
        return;
    }
    let miss_at = |share: f64| {
        let p = GridPoint::from_mm(Point::new(a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share)).ok()?;
        let t = height(p);
        let miss = (t - (low + (high - low) * share)).abs() * width;
        (miss > CHORD_MM).then_some((p, t, miss))
    };
    let most = [0.25, 0.5, 0.75].into_iter().filter_map(miss_at).max_by(|p, q| p.2.total_cmp(&q.2));
    if let Some((p, t, _)) = most {
        places.push(p);
        bend([(a, low), (p.mm(), t)], width, height, depth - 1, places);
        bend([(p.mm(), t), (b, high)], width, height, depth - 1, places);
    }
}

fn corners(planar: &Planar, labels: &Labels, slab: usize, heights: &mut SlabHeights) {
    let faces = &planar.graph;
    let row = labels.sloped_row(slab);
    for (vertex, halves) in (0u32..).zip(&faces.out) {
        let column = |h: u32| row[faces.left[h as usize] as usize];
        let n = halves.len();
        for (i, &h) in halves.iter().enumerate() {
            let own = column(h);
            // A wedge begins where the face before it is of another kind.
            if own == 0 || (n > 1 && column(halves[(i + n - 1) % n]) == own) {
                continue;
            }
            let mut end = i + 1;
            while end < i + n && column(halves[end % n]) == own {
                end += 1;
            }
            let wedge = Wedge { vertex, first: h, last: halves[end % n] };
            let column = &labels.columns[own as usize - 1];
            let at: Vec<f64> =
                column.ramps.iter().map(|r| corner_of(planar, &labels.slopes[r.slope as usize], &wedge)).collect();
            let t = column.switch(&at);
            (i..end).for_each(|k| heights.corner[halves[k % n] as usize] = t);
        }
    }
}

/// The lines along which the slopes on both sides of an edge meet it must not cross: where they would, one of them is
/// moved to the other's end.
fn uncross(planar: &Planar, row: &[u32], heights: &mut SlabHeights) -> Result<(), SolidError> {
    let faces = &planar.graph;
    for _ in 0..64 {
        let mut is_clean = true;
        for e in 0..faces.arrangement.edges.len() as u32 {
            let [la, lb, ra, rb] = faces.corners(e);
            let t = |h: u32| heights.corner[h as usize];
            let (a, b) = (t(la) - t(ra), t(lb) - t(rb));
            if a * b < 0.0 {
                is_clean = false;
                // Upwards only, so that this comes to an end.
                let (lift, to) = if a < 0.0 { (la, t(ra)) } else { (ra, t(la)) };
                lift_wedge(planar, row, heights, lift, to);
            }
        }
        if is_clean {
            return Ok(());
        }
    }
    Err(SolidError::Unsettled("slopes-cross"))
}

/// Moves all of a wedge at a vertex.
fn lift_wedge(planar: &Planar, row: &[u32], heights: &mut SlabHeights, half: u32, to: f64) {
    let faces = &planar.graph;
    let halves = &faces.out[faces.origin(half) as usize];
    let n = halves.len();
    let Some(i) = halves.iter().position(|h| *h == half) else { return };
    let column = |h: u32| row[faces.left[h as usize] as usize];
    let is_same = |k: usize| column(halves[k % n]) == column(half);
    let up = (i..i + n).take_while(|k| is_same(*k)).count();
    let down = (1..n).take_while(|k| is_same(i + n - k)).count();
    for k in (i + n - down)..(i + n + up) {
        heights.corner[halves[k % n] as usize] = to;
    }
}
