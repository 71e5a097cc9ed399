//! What is laid over the air: pieces that begin in it, what sticks out into it, and bridges.

use crate::rule::{Fault, Rule, counted};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::{Length, TierEdit};
use kachel_geom::{BoolOp, Bounds, Edges, Mm, Point, Region, combine, offset, regions};
use kachel_solid::Body;
use kachel_tiers::{Op, Way};
use std::collections::BTreeSet;
use std::sync::Arc;

pub(super) const RULE: Rule = Rule { looks_at: "what is laid over the air", codes: &[OVERHANG, BRIDGE, ISLAND], run };

/// Something sticks out over the air further than lines hold.
pub const OVERHANG: Code = Code::poor("overhang");
/// Lines have to span a wide gap.
pub const BRIDGE: Code = Code::poor("bridge");
/// A piece begins in the air and is joined to the rest further up.
pub const ISLAND: Code = Code::fault("island");

/// Lines stick out so far without support, mm: two to three of them (common practice, no source).
const MOST_OUT_MM: f64 = 1.2;
/// Lines drawn over a gap sag from about this span on, mm (common practice, no source).
const MOST_SPAN_MM: f64 = 10.0;
/// Rounding, mm. Each layer may stick out by its height, which is 45 degrees, and by this.
const NEAR_MM: f64 = 0.05;
/// Smaller pieces of a layer, mm2, are less than a line's end.
const LEAST_MM2: f64 = 0.1;
/// Directions in which a slicer may draw the lines of a bridge.
const DIRECTIONS: u32 = 12;
/// Lines over a piece that are looked at in each direction.
const LINES: f64 = 40.0;

/// How a piece of a layer is held.
enum Held {
    /// By nothing at all.
    Nowhere,
    /// On one side; it sticks out by this, mm.
    Beside(f64),
    /// At both ends of its lines, which are so long, mm.
    Across(f64),
}

/// A piece of a layer with air under it.
struct Piece {
    area: Region,
    /// The layer's ends above the bed, mm.
    heights: (f64, f64),
    held: Held,
}

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let pieces = pieces(o)?;
    let longest = |of: fn(&Held) -> Option<f64>| {
        let all = pieces.iter().filter_map(|p| of(&p.held).map(|mm| (mm, p)));
        all.max_by(|a, b| a.0.total_cmp(&b.0))
    };
    let out = longest(|h| if let Held::Beside(mm) = h { Some(*mm) } else { None });
    let span = longest(|h| if let Held::Across(mm) = h { Some(*mm) } else { None });
    let place = |p: &Piece| Place::of_region(&p.area).between(p.heights.0, p.heights.1);
    for (what, longest) in [("Longest overhang", out), ("Longest bridge", span)] {
        match longest {
            Some((mm, p)) => found.looked(what, format!("{mm:.1} mm, {:.2} mm above the bed", p.heights.0), [place(p)]),
            None => found.looked(what, "none", []),
        }
    }
    let of = |is: &dyn Fn(&Held) -> bool| pieces.iter().filter(|p| is(&p.held)).collect::<Vec<&Piece>>();
    // A body that nothing joins to the rest has a finding of its own.
    let is_body = |p: &Piece| {
        let is_at = |b: &Body| b.z.0 > p.heights.0 - (p.heights.1 - p.heights.0) && b.z.0 < p.heights.1;
        let inside = p.area.bounds();
        o.solid.bodies.iter().any(|b| is_at(b) && inside.is_some_and(|i| b.bounds.union(i) == b.bounds))
    };
    let islands: Vec<&Piece> = of(&|h| matches!(h, Held::Nowhere)).into_iter().filter(|p| !is_body(p)).collect();
    if let Some(lowest) = islands.iter().map(|p| p.heights.0).reduce(f64::min) {
        let begin = if islands.len() == 1 { "begins" } else { "begin" };
        let what =
            format!("{} {begin} in the air, {lowest:.2} mm above the bed", counted(islands.len(), "piece", "pieces"));
        let why = "It is joined to the rest only further up, so its first lines are laid into the air. Let it reach down, or \
                   turn the object over.";
        found.push(
            Finding::new(ISLAND, what, why)
                .figure(Figure::mm("height above the bed", lowest, Some(0.0)))
                .at_all(islands.iter().map(|p| place(p)))
                .mended(let_down(o, &islands)),
        );
    }
    let far = of(&|h| matches!(h, Held::Beside(mm) if *mm > MOST_OUT_MM));
    if let Some((mm, _)) = out.filter(|_| !far.is_empty()) {
        let what = format!("{mm:.1} mm stick out over the air, at {}", counted(far.len(), "place", "places"));
        let why = "Lines hold about 1.2 mm beyond what is under them, then they hang. Let it reach down to the bed, slope its \
                   underside, or give the object supports in the slicer.";
        found.push(
            Finding::new(OVERHANG, what, why)
                .figure(Figure::mm("sticks out by", mm, Some(MOST_OUT_MM)))
                .at_all(far.iter().map(|p| place(p)))
                .mended(let_down(o, &far)),
        );
    }
    let wide = of(&|h| matches!(h, Held::Across(mm) if *mm > MOST_SPAN_MM));
    if let Some((mm, _)) = span.filter(|_| !wide.is_empty()) {
        let what = format!("Lines have to span {mm:.1} mm of air, at {}", counted(wide.len(), "place", "places"));
        let why = "Lines sag from about 10 mm on. Turn the object over, put something under it, or give it supports in the slicer.";
        found.push(
            Finding::new(BRIDGE, what, why)
                .figure(Figure::mm("longest bridge", mm, Some(MOST_SPAN_MM)))
                .at_all(wide.iter().map(|p| place(p)))
                .mended(let_down(o, &wide)),
        );
    }
    Ok(())
}

/// Pieces of layers that reach further out than the layers under them hold.
fn pieces(o: &Object<'_>) -> Result<Vec<Piece>, Fault> {
    let mut all = Vec::new();
    for pair in o.layers.all.windows(2) {
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
            all.push(Piece { area: piece, heights: (layer.bottom, layer.top), held });
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

/// Lets the maker's own tiers that begin at the pieces reach down to the bed. `None` where the recipe's own do: those cannot be
/// let down without asking what they are for.
fn let_down(o: &Object<'_>, pieces: &[&Piece]) -> Option<Mend> {
    let mut ids = BTreeSet::new();
    for piece in pieces {
        let b = piece.area.bounds()?;
        let begins = o.stack.tiers.iter().filter(|t| {
            let z = t.bottom.mm();
            t.op == Op::Add
                && z > piece.heights.0 - (piece.heights.1 - piece.heights.0)
                && z < piece.heights.1
                && t.footprint.bounds().is_some_and(|f| f.overlaps(&b))
        });
        for tier in begins {
            ids.insert(tier.handles.iter().find_map(|h| h.own)?);
        }
    }
    let down = |id| TierEdit::SetTierLength { id, name: "from".into(), value: Length::Mm(0.0) }.into();
    (!ids.is_empty())
        .then(|| Mend { words: "Let it reach down to the bed".into(), edits: ids.into_iter().map(down).collect() })
}
