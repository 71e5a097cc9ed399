use crate::maker::{Maker, Put, chamfered};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{Back, StampAs, measures as m};
use crate::recipes::common::outside;
use crate::{Area, DoubtKind, EdgesOf, Finish, FinishShape, Plans, Role, TierError, Way};
use kachel_geom::{BoolOp, combine};
use kachel_words::{area, mm, msg};

// Measures of a cutter: common practice, no source.
pub(super) const WALL: &[MeasureSpec] = &[
    MeasureSpec::length(m::WALL_THICKNESS, "wall", Picture::Thick, (1.6, 0.2, 10.0)),
    MeasureSpec::height(m::WALL_HEIGHT, "wall", (15.0, 2.0, 60.0)),
    MeasureSpec::length(m::TAPER_IN, "wall", Picture::Edge, (0.5, 0.0, 9.0)),
    MeasureSpec::length(m::TAPER_DOWN, "wall", Picture::Deep, (3.0, 0.2, 50.0)),
    MeasureSpec::length(m::SOFT_CORNERS, "wall", Picture::Corner, (0.0, 0.0, 5.0)),
];

pub(super) const FLANGE: &[MeasureSpec] = &[
    MeasureSpec::length(m::FLANGE_WIDTH, "flange", Picture::Outwards, (3.0, 0.0, 30.0)),
    MeasureSpec::length(m::FLANGE_IN, "flange", Picture::Inwards, (0.0, 0.0, 10.0)),
    MeasureSpec::height(m::FLANGE_HEIGHT, "flange", (2.0, 0.2, 20.0)),
    MeasureSpec::length(m::FLANGE_EDGE, "flange", Picture::Edge, (0.5, 0.0, 5.0)),
    MeasureSpec::length(m::FLANGE_DENTS, "flange", Picture::Gap, (0.0, 0.0, 20.0)),
];

pub(super) const BACK: &[MeasureSpec] = &[
    MeasureSpec::choice(m::BACK, "flange", Back::OPTIONS),
    MeasureSpec::length(m::OPENING, "flange", Picture::Inwards, (10.0, 1.0, 100.0)),
];

pub(super) const STAMP: &[MeasureSpec] = &[
    MeasureSpec::length(m::STAMP_UNDER_WALL, "stamp-lines", Picture::Deep, (3.0, 0.0, 58.0)),
    MeasureSpec::choice(m::STAMP_AS, "stamp-lines", StampAs::OPTIONS),
    MeasureSpec::length(m::STAMP_LINE, "stamp-lines", Picture::Thick, (1.2, 0.4, 10.0)),
    MeasureSpec::length(m::STAMP_LEAST, "stamp-lines", Picture::Thick, (0.75, 0.0, 5.0)),
    outside("stamp-lines"),
];

/// Sharp corners opened and closed by a radius.
fn rounded(plans: &Plans, edge: &Area, r: f64) -> Result<Area, TierError> {
    let opened = plans.grown(&plans.grown(edge, -r)?, 2.0 * r)?;
    let soft = plans.grown(&opened, -r)?;
    // What is narrower than the radius everywhere keeps its corners rather than its being.
    Ok(if soft.is_empty() { edge.clone() } else { soft })
}

/// The edge with its corners softened. Where that closes the mouth of a gap, no hollow is left behind it: dough would stay in
/// there.
fn soft(maker: &mut Maker<'_>) -> Result<Area, TierError> {
    let edge = maker.edge.clone();
    let r = maker.get(m::SOFT_CORNERS);
    if r == 0.0 {
        return Ok(edge);
    }
    let soft = rounded(maker.plans, &edge, r)?;
    let filled = soft.filled();
    let hollow = combine(&filled, &soft, BoolOp::TakeAway)?;
    if hollow.is_empty() {
        return Ok(soft);
    }
    // The largest radius that leaves the gap open.
    let (mut least, mut most) = (0.0, r);
    while most - least > SOFT_STEP_MM / 2.0 {
        let middle = f64::midpoint(least, most);
        let tried = rounded(maker.plans, &edge, middle)?;
        if *tried == tried.filled() { least = middle } else { most = middle }
    }
    let less = (least / SOFT_STEP_MM).floor() * SOFT_STEP_MM;
    let mend = maker.mend(m::SOFT_CORNERS, less, |v| msg!("soften-less", by = v));
    let what = msg!("gap-sealed", radius = mm(r), area = area(hollow.area_mm2()).decimals(1));
    maker.doubt(DoubtKind::Sealed, what, Some(hollow.into()), mend);
    Ok(filled.into())
}

/// Steps in which a smaller radius is offered, mm.
const SOFT_STEP_MM: f64 = 0.1;

/// What is left open of the flange inside the wall: the opening of a backed cutter, or what the flange does not reach
/// inwards. `None` where it ends at the wall.
fn opened(maker: &mut Maker<'_>, edge: &Area) -> Result<Option<Area>, TierError> {
    if maker.choice(m::BACK) == Back::Backed {
        let opening = maker.plans.grown(edge, -maker.get(m::OPENING))?;
        if opening.is_empty() {
            let what = msg!("no-room-for-opening", by = mm(maker.get(m::OPENING)));
            let mend = maker.mend(m::OPENING, 5.0, |v| msg!("make-it", to = v));
            maker.doubt(DoubtKind::NoRoom, what, None, mend);
        }
        Ok(Some(opening))
    } else if maker.get(m::FLANGE_IN) > 0.0 {
        Ok(Some(maker.plans.grown(edge, -maker.get(m::FLANGE_IN))?))
    } else {
        Ok(None)
    }
}

pub(super) fn make(maker: &mut Maker<'_>, with_stamp: bool) -> Result<(), TierError> {
    let edge = soft(maker)?;
    maker.stack.edge = edge.clone();
    let (thickness, width, dents) =
        (maker.get(m::WALL_THICKNESS), maker.get(m::FLANGE_WIDTH), maker.get(m::FLANGE_DENTS));
    let plans = maker.plans;
    let details = if with_stamp { maker.drawing("stamp")? } else { vec![] };
    let printed = Stamped::of(maker);
    // The offsets are most of the work and know nothing of each other.
    let (outer, foot, lines) = std::thread::scope(|s| {
        let foot = s.spawn(|| {
            let reach = thickness + width;
            if width == 0.0 {
                return Ok(Area::default());
            }
            let foot = plans.grown(&edge, reach + dents)?;
            if dents > 0.0 { plans.grown(&foot, -dents) } else { Ok(foot) }
        });
        let outer = plans.grown(&edge, thickness);
        let lines: Result<Vec<(String, Area)>, TierError> =
            details.into_iter().map(|(filament, area)| Ok((filament, printed.area(plans, &area)?))).collect();
        // A panic over there is a panic here: it must not pass for an object that is too large.
        (outer, foot.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic)), lines)
    });
    let (outer, foot) = (outer?, foot?);
    // Lines end in the wall.
    let lines = maker.within(lines?, &outer, None)?;
    maker.watch.step(1, 3)?;
    let height = maker.get(m::FLANGE_HEIGHT);
    let wall_top = maker.get(m::WALL_HEIGHT);
    let inner = opened(maker, &edge)?;
    let softened = chamfered(EdgesOf::Outer, maker.get(m::FLANGE_EDGE).min(height));
    let wall: Area = outer.with_hole(&edge).into();
    // Below the wall the flange goes on only where it reaches inwards; else the two stand side by side.
    let base = match (&inner, foot.is_empty()) {
        (None, true) => Area::default(),
        (None, false) => foot.with_hole(&outer).into(),
        (Some(inner), true) => outer.with_hole(inner).into(),
        (Some(inner), false) => foot.with_hole(inner).into(),
    };
    maker.add(Put::new(Role::Flange, "flange", 0.0, height).top_by(m::FLANGE_HEIGHT, 0.0).topped(softened), &base)?;
    let taper = Finish {
        shape: FinishShape::Taper,
        way: Way::Inward,
        edges: EdgesOf::Outer,
        inset: maker.get(m::TAPER_IN),
        depth: maker.get(m::TAPER_DOWN),
    };
    maker.add(
        Put::new(Role::Wall, "wall", 0.0, wall_top)
            .top_by(m::WALL_HEIGHT, 0.0)
            .finish_by(m::TAPER_IN, m::TAPER_DOWN)
            .topped(taper),
        &wall,
    )?;
    maker.watch.step(2, 3)?;
    if !with_stamp {
        return Ok(());
    }
    let top = wall_top - maker.get(m::STAMP_UNDER_WALL);
    for (filament, area) in &lines {
        maker.put_in(
            Put::new(Role::Stamp, "stamp", 0.0, top).top_under(m::STAMP_UNDER_WALL, wall_top),
            area,
            crate::Op::Add,
            filament,
        )?;
    }
    let all = maker.joined(&lines)?;
    if top > 0.0 {
        // Bars reach the wall, or what of the flange lies inside it.
        let holds: Area = match &inner {
            Some(inner) => outer.with_hole(inner).into(),
            None => wall,
        };
        maker.tie(&all, &holds, if foot.is_empty() { top.min(height) } else { height.min(top) })?;
    }
    Ok(())
}

/// How details become stamp lines.
enum Stamped {
    /// As the areas they are, none of them thinner than so much.
    Areas { least: f64 },
    /// As lines of that width along their contours.
    Lines { width: f64 },
}

impl Stamped {
    fn of(maker: &Maker<'_>) -> Self {
        if maker.choice(m::STAMP_AS) == StampAs::Lines {
            Self::Lines { width: maker.get(m::STAMP_LINE) }
        } else {
            Self::Areas { least: maker.get(m::STAMP_LEAST) }
        }
    }

    fn area(&self, plans: &Plans, area: &Area) -> Result<Area, TierError> {
        Ok(match *self {
            Self::Areas { least: 0.0 } => area.clone(),
            Self::Areas { least } => plans.thickened(area, least)?,
            Self::Lines { width } => plans.less(&plans.grown(area, width / 2.0)?, &plans.grown(area, -width / 2.0)?)?,
        })
    }
}
