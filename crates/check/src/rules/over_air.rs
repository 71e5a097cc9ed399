//! Pieces of layers with air under them, and how they are held.

use crate::object::Object;
use crate::rule::Fault;
use kachel_geom::{BoolOp, Bounds, Edges, Mm, Point, Region, combine, offset, regions};
use kachel_tiers::{Op, Way};
use std::sync::Arc;

/// Lines stick out so far without support, mm: two to three of them (common practice, no source).
pub(super) const MOST_OUT_MM: f64 = 1.2;
/// Rounding, mm. Each layer may stick out by its height, which is 45 degrees, and by this.
const NEAR_MM: f64 = 0.05;
/// Smaller pieces of a layer, mm2, are less than a line's end.
const LEAST_MM2: f64 = 0.1;
/// Directions in which a slicer may draw the lines of a bridge.
const DIRECTIONS: u32 = 12;
/// Lines over a piece that are looked at in each direction.
const LINES: f64 = 40.0;

/// How a piece of a layer is held.
pub(super) enum Held {
    /// By nothing at all.
    Nowhere,
    /// On one side; it sticks out by this, mm.
    Beside(f64),
    /// At both ends of its lines, which are so long, mm.
    Across(f64),
}

/// A piece of a layer with air under it.
pub(super) struct Piece {
    /// What it covers.
    pub(super) area: Region,
    /// The layer's ends above the bed, mm.
    pub(super) heights: (f64, f64),
    /// The layer's number, from 0.
    pub(super) layer: usize,
    pub(super) held: Held,
}

/// Pieces of layers that reach further out than the layers under them hold.
pub(super) fn pieces(o: &Object<'_>) -> Result<Vec<Piece>, Fault> {
    let mut all = Vec::new();
    for (below, pair) in o.layers.all.windows(2).enumerate() {
        let [under, layer] = pair else { continue };
        if Arc::ptr_eq(&under.area, &layer.area) || !may_reach_out(o, layer.bottom, layer.top) {
            continue;
        }
        let allowed = layer.top - layer.bottom + NEAR_MM;
        let free = combine(&layer.area, &offset(&under.area, allowed)?, BoolOp::TakeAway)?;
        if free.area_mm2() < LEAST_MM2 {
            continue;
        }
        let rings = under.area.rings_mm();
        let edges = Edges::of(&rings);
        let whole = regions(&layer.area)?;
        for piece in regions(&free)?.into_iter().filter(|p| p.area_mm2() >= LEAST_MM2) {
            let held =
                if begins_here(&piece, &whole, &under.area)? { Held::Nowhere } else { held(&piece, &edges, allowed) };
            all.push(Piece { area: piece, heights: (layer.bottom, layer.top), layer: below + 1, held });
        }
    }
    Ok(all)
}

/// Whether something in the stack grows between two heights: most layers only repeat the one below, or narrow.
fn may_reach_out(o: &Object<'_>, bottom: f64, top: f64) -> bool {
    // What lies between the middles of two layers counts for the upper one.
    let (low, high) = (bottom - (top - bottom), top);
    let is_in = |z: f64| (low..=high).contains(&z);
    o.stack.tiers.iter().any(|t| {
        let (from, to) = (t.bottom.mm(), t.top.mm());
        match t.op {
            // It begins, or a sloped underside widens it.
            Op::Add => {
                is_in(from)
                    || (!t.bottom_finish.is_plain() && from <= high && low <= from + t.bottom_finish.depth)
                    || (t.top_finish.way == Way::Outward && to - t.top_finish.depth <= high && low <= to)
            }
            // It ends, and what is over it begins; or it narrows.
            Op::Cut => {
                is_in(to)
                    || (!t.top_finish.is_plain() && to - t.top_finish.depth <= high && low <= to)
                    || (!t.bottom_finish.is_plain() && from <= high && low <= from + t.bottom_finish.depth)
            }
        }
    })
}

/// Whether the connected part of the layer that a piece belongs to has nothing under it.
fn begins_here(piece: &Region, whole: &[Region], under: &Region) -> Result<bool, Fault> {
    let Some(b) = piece.bounds() else { return Ok(false) };
    for part in whole.iter().filter(|w| w.bounds().is_some_and(|w| w.overlaps(&b))) {
        if !combine(part, piece, BoolOp::Common)?.is_empty() {
            return Ok(combine(part, under, BoolOp::Common)?.is_empty());
        }
    }
    Ok(false)
}

/// How a piece is held: in the direction in which its lines are shortest, or by one side. `edges` are those of the layer under
/// it, whose lines reach out by `allowed` (mm).
fn held(piece: &Region, edges: &Edges, allowed: f64) -> Held {
    let rings = piece.rings_mm();
    let Some(b) = piece.bounds() else { return Held::Beside(0.0) };
    let is_held = |p: Point<Mm>| edges.distance(p) < allowed + 0.03;
    let mut out = rings.iter().flat_map(|r| &r.0).map(|p| edges.distance(*p)).fold(0.0, f64::max);
    let mut best = f64::INFINITY;
    for k in 0..DIRECTIONS {
        let degrees = f64::from(k) * 180.0 / f64::from(DIRECTIONS);
        let mut worst: f64 = 0.0;
        for (from, to, at) in lines(piece, &b, degrees) {
            let reach = [0.0, 0.25, 0.5, 0.75, 1.0].map(|t| edges.distance(at(from + t * (to - from))));
            let reach = reach.into_iter().fold(0.0, f64::max);
            out = out.max(reach);
            if [at(from), at(to)].iter().all(|p| is_held(*p)) {
                worst = worst.max(to - from + 2.0 * allowed);
            } else if reach > MOST_OUT_MM {
                // What hardly sticks out needs no bridge.
                worst = f64::INFINITY;
            }
        }
        best = best.min(worst);
    }
    if best.is_finite() && out > MOST_OUT_MM { Held::Across(best) } else { Held::Beside(out) }
}

/// Lines over a piece in a direction: from where to where, and what is there.
fn lines(piece: &Region, b: &Bounds<Mm>, degrees: f64) -> Vec<(f64, f64, impl Fn(f64) -> Point<Mm> + use<>)> {
    let (sin, cos) = degrees.to_radians().sin_cos();
    let c = b.centre();
    let half = b.width().hypot(b.height()) / 2.0;
    let step = (2.0 * half / LINES).max(0.2);
    let count = (half / step).ceil();
    let mut all = Vec::new();
    let mut k = -count;
    while k <= count {
        let through = Point::new(c.x - sin * step * (k + 0.37), c.y + cos * step * (k + 0.37));
        let at = move |t: f64| Point::new(through.x + t * cos, through.y + t * sin);
        all.extend(piece.spans_along(through, degrees).into_iter().map(|(from, to)| (from, to, at)));
        k += 1.0;
    }
    all
}
