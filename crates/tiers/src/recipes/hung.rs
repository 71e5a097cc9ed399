use crate::maker::{Maker, Put, placed, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{Hang, Relief, TagSide, measures as m};
use crate::recipes::common::{
    border, hole, hole_round, outside, pieces, relief_height, rim_height, rim_width, soft_edge,
};
use crate::recipes::hole::{UP, Usual, above_centre, centroid, hang, on_side, top_at};
use crate::recipes::plates;
use crate::{Area, DoubtKind, DoubtMend, EdgesOf, MendBy, Role, TierError};
use kachel_geom::{BoolOp, Point, Region};
use kachel_outline::Shape;
use kachel_words::{mm, msg};

// Measures of an ornament: common practice, no source.
pub(super) const ORNAMENT: &[MeasureSpec] = &[
    border("body", (0.0, 0.0, 30.0)).worded("border-of-ornament"),
    pieces("body"),
    MeasureSpec::height(m::THICKNESS, "body", (2.5, 0.6, 20.0)).worded("thickness-of-ornament"),
    soft_edge("body", (0.5, 0.0, 5.0)),
    MeasureSpec::choice(m::HANG, "hole", Hang::OPTIONS),
    hole((6.5, 1.0, 30.0)),
    hole_round((2.4, 0.8, 20.0)),
    MeasureSpec::choice(m::RELIEF, "details", Relief::OPTIONS).worded("relief-of-ornament"),
    outside("details"),
    relief_height("details", (1.0, 0.2, 20.0)),
];

// Measures of a key tag: common practice, no source.
pub(super) const KEY_TAG: &[MeasureSpec] = &[
    border("backing", (3.0, 0.0, 20.0)).worded("border-of-key-tag"),
    pieces("backing"),
    MeasureSpec::height(m::THICKNESS, "backing", (3.0, 0.6, 10.0)).worded("thickness-of-key-tag"),
    soft_edge("backing", (0.5, 0.0, 3.0)),
    hole((5.0, 2.0, 15.0)).worded("hole-of-key-tag"),
    hole_round((3.0, 1.0, 10.0)),
    MeasureSpec::choice(m::TAG_SIDE, "hole", TagSide::OPTIONS),
    MeasureSpec::choice(m::RELIEF, "details", Relief::OPTIONS).worded("relief-of-key-tag"),
    outside("details"),
    relief_height("details", (1.0, 0.2, 10.0)).worded("relief-height-of-key-tag"),
    rim_width((1.2, 0.0, 10.0)),
    rim_height((1.0, 0.2, 10.0)).worded("rim-height-of-key-tag"),
    MeasureSpec::length(m::LONGEST, "backing", Picture::Across, (70.0, 20.0, 200.0)),
];

// Measures of a pendant: common practice, no source.
pub(super) const PENDANT: &[MeasureSpec] = &[
    MeasureSpec::height(m::THICKNESS, "lines", (2.4, 0.6, 10.0)).worded("thickness-of-pendant"),
    MeasureSpec::length(m::GROW, "lines", Picture::Thick, (0.0, 0.0, 5.0)),
    MeasureSpec::length(m::LINE_LEAST, "lines", Picture::Thick, (0.8, 0.0, 5.0)),
    soft_edge("lines", (0.4, 0.0, 3.0)).worded("soft-edge-of-pendant"),
    MeasureSpec::length(m::RING_WIDTH, "ring", Picture::Thick, (2.0, 0.0, 20.0)),
    MeasureSpec::length(m::RING_GAP, "ring", Picture::Gap, (0.0, 0.0, 20.0)),
    MeasureSpec::length(m::LOOP, "loop", Picture::Across, (4.0, 1.0, 20.0)),
    MeasureSpec::length(m::LOOP_ROUND, "loop", Picture::Thick, (1.6, 0.8, 10.0)),
];

pub(super) fn ornament(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let body = maker.plans.grown(&edge, maker.get(m::BORDER))?;
    let thickness = maker.get(m::THICKNESS);
    let how = maker.choice(m::HANG);
    let (hole, round) = (maker.get(m::HOLE), maker.get(m::HOLE_ROUND));
    let usual = above_centre(&body, how == Hang::Hole).filter(|_| how != Hang::Nothing);
    let (whole, opening) = hung(maker, &body, usual, hole, round)?;
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    maker.add(Put::new(Role::Body, "body", 0.0, thickness).top_by(m::THICKNESS, 0.0).topped(soft), &whole)?;
    let drawing = maker.drawing("details")?;
    let drawing = maker.within(drawing, &body, None)?;
    plates::relief(maker, &drawing, maker.choice(m::RELIEF), thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    let top = thickness + maker.get(m::RELIEF_HEIGHT);
    maker.cut(Put::new(Role::Room, "hole", 0.0, top), &opening)
}

/// A body with the filament round its hole, and the hole.
fn hung(
    maker: &mut Maker<'_>,
    body: &Area,
    usual: Option<Usual>,
    hole: f64,
    round: f64,
) -> Result<(Area, Area), TierError> {
    let Some(usual) = usual else { return Ok((body.clone(), Area::default())) };
    let (ring, opening) = hang(maker, body, usual, hole, round)?;
    Ok((maker.plans.joined(&[body.clone(), ring])?, opening))
}

pub(super) fn key_tag(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let body: Area = maker.plans.grown(&edge, maker.get(m::BORDER))?.filled().into();
    let thickness = maker.get(m::THICKNESS);
    let (hole, round) = (maker.get(m::HOLE), maker.get(m::HOLE_ROUND));
    let usual = on_side(&body, maker.choice(m::TAG_SIDE));
    let (whole, opening) = hung(maker, &body, usual, hole, round)?;
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
        if side > most + LONGER_MM {
            let what = msg!("tag-too-long", long = mm(side).decimals(1), most = mm(most));
            let by = MendBy::Whole { is_width: b.width() >= b.height(), mm: most };
            let mend = Some(DoubtMend { words: msg!("make-it-long", to = mm(most)), by });
            maker.doubt(DoubtKind::TooLong, what, None, mend);
        }
    }
    Ok(())
}

/// A size that is asked for is found within this, mm.
const LONGER_MM: f64 = 0.02;

pub(super) fn pendant(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let thickness = maker.get(m::THICKNESS);
    let drawing = maker.drawing("lines")?;
    let drawn = maker.plans.grown(&maker.joined(&drawing)?, maker.get(m::GROW))?;
    let least = maker.get(m::LINE_LEAST);
    let lines = if least > 0.0 { maker.plans.thickened(&drawn, least)? } else { drawn };
    let Some(b) = lines.bounds() else {
        maker.doubt(DoubtKind::NoHeight, msg!("pendant-without-lines"), None, None);
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
    let x = if width > 0.0 { at.x } else { centroid(&body).x };
    let border = Point::new(x, top_at(&body, x).unwrap_or(b.max.y));
    let (bail, opening) = hang(maker, &body, Usual { border, out: UP, is_inside: false }, hole, round)?;
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
