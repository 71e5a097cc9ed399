//! Holes to hang things by: where they are, and the filament round them.

use crate::maker::{Maker, disc, placed};
use crate::measure::{MeasureSpec, Picture};
use crate::model::Hung;
use crate::names::{HoleAt, TagSide, measures as m};
use crate::{Area, TierError};
use kachel_geom::{Edges, Mm, Point, Region, Ring, stroke};
use kachel_outline::Shape;

/// Measures of the place of a hole or loop.
pub(super) const HOLE_PLACE: &[MeasureSpec] = &place("hole");
/// The same for a loop.
pub(super) const LOOP_PLACE: &[MeasureSpec] = &place("loop");

const fn place(group: &'static str) -> [MeasureSpec; 5] {
    let shift = (0.0, -200.0, 200.0);
    [
        MeasureSpec::choice(m::HOLE_AT, group, HoleAt::OPTIONS),
        MeasureSpec::length(m::HOLE_X, group, Picture::Gap, shift),
        MeasureSpec::length(m::HOLE_Y, group, Picture::Gap, shift),
        MeasureSpec::length(m::HOLE_ALONG, group, Picture::Gap, (0.0, -1000.0, 1000.0)),
        MeasureSpec::length(m::HOLE_OUT, group, Picture::Outwards, (0.0, -60.0, 60.0)),
    ]
}

/// Where a hole is unless the maker puts it elsewhere.
#[derive(Clone, Copy)]
pub(super) struct Usual {
    /// A place of the border.
    pub border: Point<Mm>,
    /// From there out of the body: a unit vector along an axis.
    pub out: (f64, f64),
    /// Whether the hole lies in the body, else in an eyelet on its border.
    pub is_inside: bool,
}

/// Away from a body at its top.
pub(super) const UP: (f64, f64) = (0.0, 1.0);
/// A ring's foot goes this much of the ring's width into the body.
const FOOT: f64 = 0.8;
/// Width of a foot by that of the ring.
const FOOT_WIDTH: f64 = 0.7;

/// Makes the hole of a body: the filament that is added round it, and the hole.
pub(super) fn hang(
    maker: &mut Maker<'_>,
    body: &Area,
    usual: Usual,
    hole: f64,
    round: f64,
) -> Result<(Area, Area), TierError> {
    let Some(b) = body.bounds() else { return Ok(<_>::default()) };
    let centre = b.centre();
    // From the border to the hole's middle.
    let off = if usual.is_inside { -(round + hole / 2.0) } else { hole / 2.0 + round * 0.35 };
    let along = |p: Point<Mm>, out: (f64, f64), d: f64| Point::new(p.x + out.0 * d, p.y + out.1 * d);
    let how = maker.choice(m::HOLE_AT);
    let at = match how {
        HoleAt::Own => along(usual.border, usual.out, off),
        HoleAt::Middle => Point::new(centre.x + maker.get(m::HOLE_X), centre.y + maker.get(m::HOLE_Y)),
        HoleAt::Edge => {
            let (p, out) = walked(body, usual, maker.get(m::HOLE_ALONG));
            along(p, out, off + maker.get(m::HOLE_OUT))
        }
    };
    maker.stack.hung = Some(Hung { at, middle: centre, across: hole });
    let ring = if how == HoleAt::Own && !usual.is_inside {
        eyelet(usual, at, hole, round)?
    } else {
        boss(body, at, hole, round)?
    };
    Ok((ring, disc(hole, at)?))
}

/// The ring of an eyelet on a border, with a foot into the body.
fn eyelet(usual: Usual, middle: Point<Mm>, hole: f64, round: f64) -> Result<Area, TierError> {
    let across = hole + 2.0 * round;
    let Usual { border, out, .. } = usual;
    // The hole stays clear of the edge below it; the foot goes into the body by less than a ring is wide.
    let (high, low) = (hole / 2.0 + round * 0.35, -round * FOOT);
    let (wide, long) = (across * FOOT_WIDTH, high - low);
    let (width, height) = if out.0 == 0.0 { (wide, long) } else { (long, wide) };
    let half = f64::midpoint(high, low);
    let at = Point::new(border.x + out.0 * half, border.y + out.1 * half);
    let foot = placed(Shape::Rectangle { width, height, corner: 0.0 }, at)?;
    Ok(kachel_geom::join_all([&*disc(across, middle)?, &*foot])?.into())
}

/// The filament round a hole anywhere: a disc, and a foot to the body where the hole lies outside it.
fn boss(body: &Area, middle: Point<Mm>, hole: f64, round: f64) -> Result<Area, TierError> {
    let across = hole + 2.0 * round;
    let ring = disc(across, middle)?;
    if body.winding(middle) != 0 {
        return Ok(ring);
    }
    let rings = body.rings_mm();
    let Some(near) = Edges::of(&rings).nearest(middle) else { return Ok(ring) };
    let d = near.distance(middle);
    if d < 1e-6 {
        return Ok(ring);
    }
    let by = 1.0 + round * FOOT / d;
    let end = Point::new(middle.x + (near.x - middle.x) * by, middle.y + (near.y - middle.y) * by);
    let foot = stroke(&[middle, end], across * FOOT_WIDTH, false)?;
    Ok(kachel_geom::join_all([&*ring, &foot])?.into())
}

/// The place of a body's border that lies so far from the usual one, clockwise, and the way out of the body there.
fn walked(body: &Region, usual: Usual, by: f64) -> (Point<Mm>, (f64, f64)) {
    let unmoved = (usual.border, usual.out);
    let rings = body.rings_mm();
    // Outer borders run anticlockwise.
    let outer = rings.into_iter().filter(|r| r.area() > 0.0);
    let distance = |r: &Ring<Mm>| Edges::of([r]).distance(usual.border);
    let Some(mut ring) = outer.min_by(|a, b| distance(a).total_cmp(&distance(b))) else { return unmoved };
    ring.0.reverse();
    let (mut nearest, mut start, mut all) = (f64::INFINITY, 0.0, 0.0);
    for (a, b) in ring.edges() {
        let (dx, dy, long) = (b.x - a.x, b.y - a.y, a.distance(b));
        let on = (((usual.border.x - a.x) * dx + (usual.border.y - a.y) * dy) / (long * long)).clamp(0.0, 1.0);
        let d = Point::<Mm>::new(a.x + on * dx, a.y + on * dy).distance(usual.border);
        if d < nearest {
            (nearest, start) = (d, all + on * long);
        }
        all += long;
    }
    let mut left = (start + by).rem_euclid(all);
    for (a, b) in ring.edges() {
        let long = a.distance(b);
        if left <= long {
            let (ux, uy) = ((b.x - a.x) / long, (b.y - a.y) / long);
            // Clockwise the body lies on the right.
            return (Point::new(a.x + ux * left, a.y + uy * left), (-uy, ux));
        }
        left -= long;
    }
    unmoved
}

/// Straight above the centre of mass, as far up as there is body.
pub(super) fn above_centre(body: &Region, is_inside: bool) -> Option<Usual> {
    let centre = centroid(body);
    let top = top_at(body, centre.x)?;
    Some(Usual { border: Point::new(centre.x, top), out: UP, is_inside })
}

/// On the middle of a side.
pub(super) fn on_side(body: &Region, side: TagSide) -> Option<Usual> {
    let b = body.bounds()?;
    let middle = b.centre();
    let across = body.spans(middle.y);
    let (border, out) = match side {
        TagSide::Left => (Point::new(across.first().map_or(b.min.x, |s| s.0), middle.y), (-1.0, 0.0)),
        TagSide::Right => (Point::new(across.last().map_or(b.max.x, |s| s.1), middle.y), (1.0, 0.0)),
        TagSide::Top => (Point::new(middle.x, top_at(body, middle.x).unwrap_or(b.max.y)), UP),
    };
    Some(Usual { border, out, is_inside: false })
}

/// The centre of mass of a plate: first moments by the divergence theorem.
pub(super) fn centroid(area: &Region) -> Point<Mm> {
    let (mut a, mut x, mut y) = (0.0, 0.0, 0.0);
    for ring in area.rings_mm() {
        for (p, q) in ring.edges() {
            let cross = p.x * q.y - q.x * p.y;
            a += cross;
            x += (p.x + q.x) * cross;
            y += (p.y + q.y) * cross;
        }
    }
    if a == 0.0 { Point::new(0.0, 0.0) } else { Point::new(x / (3.0 * a), y / (3.0 * a)) }
}

/// The upper end of the area on the upright line through `x`.
pub(super) fn top_at(area: &Region, x: f64) -> Option<f64> {
    let mut top: Option<f64> = None;
    for ring in area.rings_mm() {
        for (a, b) in ring.edges() {
            if (a.x > x) != (b.x > x) {
                let y = a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y);
                top = Some(top.map_or(y, |t: f64| t.max(y)));
            }
        }
    }
    top
}
