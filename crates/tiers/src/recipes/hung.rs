use crate::maker::{Maker, Put, disc, placed, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{Hang, Relief, TagSide, measures as m};
use crate::recipes::common::{
    border, hole, hole_round, outside, pieces, relief_height, rim_height, rim_width, soft_edge,
};
use crate::recipes::plates;
use crate::{Area, DoubtKind, EdgesOf, Role, TierError};
use kachel_geom::{BoolOp, Mm, Point, Region};
use kachel_outline::Shape;

// Measures of an ornament: common practice, no source.
pub(super) const ORNAMENT: &[MeasureSpec] = &[
    border("Body", "How far the body reaches beyond the drawing", (0.0, 0.0, 30.0)),
    pieces("Body"),
    MeasureSpec::height(m::THICKNESS, "Body", "Thickness", "Height of the body", (2.5, 0.6, 20.0)),
    soft_edge("Body", "Radius of its upper edge", (0.5, 0.0, 5.0)),
    MeasureSpec::choice(m::HANG, "Hole", "Hangs by", "An eyelet outside the edge, or a hole inside it", Hang::OPTIONS),
    hole("Across the hole", (6.5, 1.0, 30.0)),
    hole_round((2.4, 0.8, 20.0)),
    MeasureSpec::choice(m::RELIEF, "Details", "Details", "How details lie on the body", Relief::OPTIONS),
    outside("Details"),
    relief_height("Details", "How far they stand out, or how deep they go", (1.0, 0.2, 20.0)),
];

// Measures of a key tag: common practice, no source.
pub(super) const KEY_TAG: &[MeasureSpec] = &[
    border("Backing", "How far the backing reaches beyond the drawing", (3.0, 0.0, 20.0)),
    pieces("Backing"),
    MeasureSpec::height(m::THICKNESS, "Backing", "Thickness", "Height of the backing", (3.0, 0.6, 10.0)),
    soft_edge("Backing", "Radius of its upper edge", (0.5, 0.0, 3.0)),
    hole("Across the hole for the ring", (5.0, 2.0, 15.0)),
    hole_round((3.0, 1.0, 10.0)),
    MeasureSpec::choice(m::TAG_SIDE, "Hole", "Where", "On which side of the tag", TagSide::OPTIONS),
    MeasureSpec::choice(m::RELIEF, "Details", "Details", "How the drawing lies on the backing", Relief::OPTIONS),
    outside("Details"),
    relief_height("Details", "How far it stands out, or how deep it goes", (1.0, 0.2, 10.0)),
    rim_width((1.2, 0.0, 10.0)),
    rim_height("How far the border stands out", (1.0, 0.2, 10.0)),
    MeasureSpec::length(
        m::LONGEST,
        "Backing",
        "At most",
        "Longest side that still goes into a pocket",
        Picture::Across,
        (70.0, 20.0, 200.0),
    ),
];

// Measures of a pendant: common practice, no source.
pub(super) const PENDANT: &[MeasureSpec] = &[
    MeasureSpec::height(m::THICKNESS, "Lines", "Thickness", "Height of the lines", (2.4, 0.6, 10.0)),
    MeasureSpec::length(
        m::GROW,
        "Lines",
        "Wider by",
        "How much wider than drawn the lines are, on each side",
        Picture::Thick,
        (0.0, 0.0, 5.0),
    ),
    soft_edge("Lines", "Radius of their upper edge", (0.4, 0.0, 3.0)),
    MeasureSpec::length(
        m::RING_WIDTH,
        "Ring",
        "Width",
        "Width of the ring round it all; 0 leaves it away",
        Picture::Thick,
        (2.0, 0.0, 20.0),
    ),
    MeasureSpec::length(
        m::RING_GAP,
        "Ring",
        "Gap",
        "How far the ring stays away from the drawing; bars bridge it",
        Picture::Gap,
        (0.0, 0.0, 20.0),
    ),
    MeasureSpec::length(
        m::LOOP,
        "Loop",
        "Hole across",
        "Across the hole of the loop",
        Picture::Across,
        (4.0, 1.0, 20.0),
    ),
    MeasureSpec::length(
        m::LOOP_ROUND,
        "Loop",
        "Filament round it",
        "How much filament is round that hole",
        Picture::Thick,
        (1.6, 0.8, 10.0),
    ),
];

/// Away from a body at its top.
const UP: (f64, f64) = (0.0, 1.0);

/// Twice the first moments of an area over its own: the centre of mass of a plate (divergence theorem).
fn centroid(area: &Region) -> Point<Mm> {
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
fn top_at(area: &Region, x: f64) -> Option<f64> {
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

/// An eyelet over a place of the border: its ring, with a foot into the body, and its hole. `out` is the unit vector along an
/// axis that points away from the body.
fn eyelet(at: Point<Mm>, out: (f64, f64), hole: f64, round: f64) -> Result<(Area, Area), TierError> {
    let across = hole + 2.0 * round;
    let along = |d: f64| Point::new(at.x + out.0 * d, at.y + out.1 * d);
    // The hole stays clear of the edge below it; the foot goes into the body by less than a ring is wide.
    let (high, low) = (hole / 2.0 + round * 0.35, -round * 0.8);
    let (wide, long) = (across * 0.7, high - low);
    let (width, height) = if out.0 == 0.0 { (wide, long) } else { (long, wide) };
    let foot = placed(Shape::Rectangle { width, height, corner: 0.0 }, along(f64::midpoint(high, low)))?;
    let middle = along(high);
    let ring = kachel_geom::join_all([&*disc(across, middle)?, &*foot])?;
    Ok((ring.into(), disc(hole, middle)?))
}

/// Hangs a body: an eyelet or a hole straight above the centre of mass, as far up as there is body.
fn hang(maker: &mut Maker<'_>, body: &Area, how: Hang, hole: f64, round: f64) -> Result<(Area, Area), TierError> {
    let nothing = || (body.clone(), Area::default());
    let centre = centroid(body);
    let Some(top) = top_at(body, centre.x) else { return Ok(nothing()) };
    if how == Hang::Eyelet {
        let (ring, hole) = eyelet(Point::new(centre.x, top), UP, hole, round)?;
        return Ok((maker.plans.joined(&[body.clone(), ring])?, hole));
    }
    let at = Point::new(centre.x, top - round - hole / 2.0);
    let needed = disc(hole + 1.8 * round, at)?;
    if !maker.plans.less(&needed, body)?.is_empty() {
        let what =
            format!("A hole of {hole} mm with {round} mm round it breaks out of the edge above the centre of mass");
        let mend = maker.mend_by(m::HANG, Hang::Eyelet, "Hang it by an eyelet");
        maker.doubt(DoubtKind::BreaksOut, what, needed.bounds(), Some(mend));
    }
    Ok((body.clone(), disc(hole, at)?))
}

pub(super) fn ornament(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let body = maker.plans.grown(&edge, maker.get(m::BORDER))?;
    let thickness = maker.get(m::THICKNESS);
    let how = maker.choice(m::HANG);
    let (hole, round) = (maker.get(m::HOLE), maker.get(m::HOLE_ROUND));
    let (whole, opening) =
        if how == Hang::Nothing { (body.clone(), Area::default()) } else { hang(maker, &body, how, hole, round)? };
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    maker.add(Put::new(Role::Body, "body", 0.0, thickness).top_by(m::THICKNESS, 0.0).topped(soft), &whole)?;
    let drawing = maker.drawing("details")?;
    let drawing = maker.within(drawing, &body, None)?;
    plates::relief(maker, &drawing, maker.choice(m::RELIEF), thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    let top = thickness + maker.get(m::RELIEF_HEIGHT);
    maker.cut(Put::new(Role::Room, "hole", 0.0, top), &opening)
}

pub(super) fn key_tag(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let body = maker.plans.grown(&edge, maker.get(m::BORDER))?.filled().into();
    let thickness = maker.get(m::THICKNESS);
    let (hole, round) = (maker.get(m::HOLE), maker.get(m::HOLE_ROUND));
    let (whole, opening) = tab(maker, &body, hole, round)?;
    maker.stack.edge = body.clone();
    let (rim, high) = (maker.get(m::RIM_WIDTH), maker.get(m::RIM_HEIGHT));
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    let backing = Put::new(Role::Body, "backing", 0.0, thickness).top_by(m::THICKNESS, 0.0);
    maker.add(if rim > 0.0 { backing } else { backing.topped(soft) }, &whole)?;
    let mut room = body;
    if rim > 0.0 {
        let inside = maker.plans.grown(&whole, -rim)?;
        let ring = maker.plans.less(&whole, &inside)?;
        let soft = softened(EdgesOf::Both, maker.get(m::SOFT_EDGE).min(rim / 3.0).min(high / 2.0));
        maker.add(
            Put::new(Role::Rim, "rim", 0.0, thickness + high).top_by(m::RIM_HEIGHT, thickness).topped(soft),
            &ring,
        )?;
        room = maker.plans.combined(&room, &inside, BoolOp::Common)?;
    }
    let drawing = maker.drawing("details")?;
    let drawing = maker.within(drawing, &room, None)?;
    plates::relief(maker, &drawing, maker.choice(m::RELIEF), thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    let top = thickness + maker.get(m::RELIEF_HEIGHT).max(high);
    maker.cut(Put::new(Role::Room, "hole", 0.0, top), &opening)?;
    if let Some(b) = whole.bounds() {
        let (side, most) = (b.width().max(b.height()), maker.get(m::LONGEST));
        if side > most + 1e-6 {
            let what = format!("The tag is {side:.1} mm long; at most {most} mm go into a pocket");
            let mend = maker.mend(m::LONGEST, side.ceil(), |v| format!("Let it be {v} long"));
            maker.doubt(DoubtKind::TooLong, what, None, Some(mend));
        }
    }
    Ok(())
}

/// The tab with the hole of a key tag: on the middle of a side.
fn tab(maker: &Maker<'_>, body: &Area, hole: f64, round: f64) -> Result<(Area, Area), TierError> {
    let Some(b) = body.bounds() else { return Ok((body.clone(), Area::default())) };
    let middle = b.centre();
    let across = || body.spans(middle.y);
    let (at, out) = match maker.choice(m::TAG_SIDE) {
        TagSide::Left => (Point::new(across().first().map_or(b.min.x, |s| s.0), middle.y), (-1.0, 0.0)),
        TagSide::Right => (Point::new(across().last().map_or(b.max.x, |s| s.1), middle.y), (1.0, 0.0)),
        TagSide::Top => (Point::new(middle.x, top_at(body, middle.x).unwrap_or(b.max.y)), UP),
    };
    let (ring, hole) = eyelet(at, out, hole, round)?;
    Ok((maker.plans.joined(&[body.clone(), ring])?, hole))
}

pub(super) fn pendant(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let thickness = maker.get(m::THICKNESS);
    let drawing = maker.drawing("lines")?;
    let lines = maker.plans.grown(&maker.joined(&drawing)?, maker.get(m::GROW))?;
    let Some(b) = lines.bounds() else {
        maker.doubt(DoubtKind::NoHeight, "There are no lines to make a pendant of".into(), None, None);
        return Ok(());
    };
    let (width, gap) = (maker.get(m::RING_WIDTH), maker.get(m::RING_GAP));
    let at = b.centre();
    let reach = lines.rings_mm().iter().flat_map(|r| &r.0).map(|p| p.distance(at)).fold(0.0, f64::max);
    // Without a gap the ring overlaps the farthest lines by half its width.
    let inner = if gap > 0.0 { reach + gap } else { (reach - width / 2.0).max(0.5) };
    let ring: Area = if width > 0.0 {
        placed(Shape::Ring { width: 2.0 * (inner + width), hole: 2.0 * inner }, at)?
    } else {
        Area::default()
    };
    let body = if width > 0.0 { maker.plans.joined(&[lines.clone(), ring.clone()])? } else { lines.clone() };
    let (hole, round) = (maker.get(m::LOOP), maker.get(m::LOOP_ROUND));
    let centre = centroid(&body);
    let x = if width > 0.0 { at.x } else { centre.x };
    let top = top_at(&body, x).unwrap_or(b.max.y);
    let (bail, opening) = eyelet(Point::new(x, top), UP, hole, round)?;
    maker.stack.edge = body.filled().into();
    let soft = softened(EdgesOf::Both, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    let holds = if width > 0.0 { maker.plans.joined(&[ring.clone(), bail.clone()])? } else { bail.clone() };
    // One body, so that its softened edges run through where lines meet; by filament, the later ones lie within it.
    let main = maker.plans.joined(&[body.clone(), bail])?;
    maker.add(Put::new(Role::Body, "body", 0.0, thickness).top_by(m::THICKNESS, 0.0).topped(soft), &main)?;
    let loose = if width > 0.0 { lines.clone() } else { largest_last(&lines) };
    let holds = if width > 0.0 { holds } else { maker.plans.joined(&[holds, largest(&lines)])? };
    maker.tie(&loose, &holds, thickness)?;
    maker.cut(Put::new(Role::Loop, "hole", 0.0, thickness), &opening)
}

fn largest(area: &Area) -> Area {
    let all = crate::tie::pieces(area);
    all.into_iter().max_by_key(Region::area2_steps).unwrap_or_default().into()
}

/// All pieces but the largest.
fn largest_last(area: &Area) -> Area {
    let mut all = crate::tie::pieces(area);
    all.sort_by_key(Region::area2_steps);
    all.pop();
    Region::new(all.into_iter().flat_map(|r| r.rings().to_vec())).into()
}
