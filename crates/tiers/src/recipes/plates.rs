//! What plates have in common: roomy places, reliefs, and drawings that fit.

use crate::laid::Laid;
use crate::maker::{Maker, Put, about};
use crate::names::{Corners, Measure, Place, Relief, measures as m};
use crate::{Area, DoubtKind, DoubtMend, MendBy, Role, TierError};
use kachel_geom::{Circle, Edges, Mm, Point, Ring};
use kachel_outline::rounded_rectangle;
use kachel_words::{mm, msg};

/// Places that are looked at along each side for a roomy one.
const GRID: u32 = 48;

/// The place in an area that is farthest from its border, for something so far across; `None` where it does not fit.
pub(super) fn roomiest(maker: &Maker<'_>, area: &Area, across: f64) -> Result<Option<Point<Mm>>, TierError> {
    Ok(roomy(maker, area, across, 1)?.first().copied())
}

/// As many such places as asked for, or as there are.
pub(super) fn roomy(maker: &Maker<'_>, area: &Area, across: f64, count: usize) -> Result<Vec<Point<Mm>>, TierError> {
    let Some(b) = area.bounds() else { return Ok(vec![]) };
    let rings = area.rings_mm();
    let edges = Edges::of(&rings);
    let mut found: Vec<Point<Mm>> = Vec::new();
    let room = |p: Point<Mm>, found: &[Point<Mm>]| {
        let others = found.iter().map(|q| q.distance(p) - across / 2.0 - 0.4).fold(f64::INFINITY, f64::min);
        edges.distance(p).min(others)
    };
    for _ in 0..count {
        maker.watch.check()?;
        let mut best: Option<(f64, Point<Mm>)> = None;
        let look = |p: Point<Mm>, best: &mut Option<(f64, Point<Mm>)>| {
            let r = room(p, &found);
            if best.is_none_or(|(known, _)| r > known + 1e-9) {
                *best = Some((r, p));
            }
        };
        for row in 0..GRID {
            let y = b.min.y + b.height() * (f64::from(row) + 0.5) / f64::from(GRID);
            for (from, to) in area.spans(y) {
                let step = b.width() / f64::from(GRID);
                let mut x = from + ((to - from) % step) / 2.0;
                while x < to {
                    look(Point::new(x, y), &mut best);
                    x += step;
                }
            }
        }
        let mut step = (b.width().max(b.height())) / f64::from(GRID);
        while step > 0.01 {
            let Some((known, at)) = best else { break };
            for (dx, dy) in
                [(1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0), (0.7, 0.7), (-0.7, 0.7), (0.7, -0.7), (-0.7, -0.7)]
            {
                let p = Point::new(at.x + dx * step, at.y + dy * step);
                if area.winding(p) != 0 {
                    look(p, &mut best);
                }
            }
            if best.is_none_or(|b| b.0 <= known + 1e-9) {
                step /= 2.0;
            }
        }
        match best {
            Some((r, p)) if r >= across / 2.0 => found.push(p),
            _ => break,
        }
    }
    Ok(found)
}

/// A rectangular plate about a point, with the radii of its corners.
pub(super) fn rectangle(maker: &Maker<'_>, width: f64, height: f64, at: Point<Mm>) -> Result<Area, TierError> {
    // As rounded_rectangle has them.
    let own = [m::CORNER_UR, m::CORNER_UL, m::CORNER_LL, m::CORNER_LR];
    let corners = if maker.choice(m::CORNERS) == Corners::Own { own } else { [m::CORNER; 4] };
    let corners = corners.map(|c| maker.get(c).min(width.min(height) / 2.0));
    about([rounded_rectangle(width, height, corners)], at)
}

/// What lies on or in a plate's top: raised, engraved, cut through or inlaid.
pub(super) fn relief(
    maker: &mut Maker<'_>,
    drawing: &[(String, Area)],
    how: Relief,
    top: f64,
    by: f64,
    measure: Measure,
) -> Result<(), TierError> {
    let is_too_deep = matches!(how, Relief::Engraved | Relief::Inlaid) && by >= top;
    if is_too_deep {
        let what = msg!("details-too-deep", deep = mm(by), plate = mm(top));
        let half = (top / 2.0 * 10.0).round() / 10.0;
        let mend = maker.mend(measure, half, |v| msg!("make-them-deep", to = v));
        maker.doubt(DoubtKind::TooDeep, what, None, mend);
    }
    let low = (top - by).max(0.0);
    match how {
        Relief::Raised => {
            maker.put_drawing(drawing, |key| Put::new(Role::Detail, key, top, top + by).top_by(measure, top))
        }
        Relief::Inlaid => {
            maker.put_drawing(drawing, |key| Put::new(Role::Detail, key, low, top).bottom_under(measure, top))
        }
        Relief::Engraved | Relief::Cut => {
            let all = maker.joined(drawing)?;
            let low = if how == Relief::Cut { 0.0 } else { low };
            maker.cut(Put::new(Role::Room, "details", low, top).bottom_under(measure, top), &all)
        }
        Relief::Nothing => Ok(()),
    }
}

/// What brings a drawing that reaches over a plate's room back onto it: a smaller drawing, or a larger plate. None where it
/// fits.
pub(super) fn fits(
    maker: &mut Maker<'_>,
    drawing: &[(String, Area)],
    room: &Area,
    at: Point<Mm>,
    across: f64,
) -> Result<Vec<DoubtMend>, TierError> {
    let all = maker.joined(drawing)?;
    let inside = maker.plans.grown(room, -maker.get(m::FROM_RIM))?;
    // A drawing is scaled about the place of the plate's middle, which moves along with it.
    let about = maker.laid.map_or(at, |l| Point::new(at.x + l.by.0, at.y + l.by.1));
    // The largest scale at which every node of the drawing keeps away from the room's border.
    let border = inside.rings_mm();
    let share = all
        .rings_mm()
        .iter()
        .flat_map(|r| &r.0)
        .filter_map(|p| Some(way_out(&border, about, *p)? / p.distance(about).max(f64::MIN_POSITIVE)))
        .fold(f64::INFINITY, f64::min);
    let can_fit = share.is_finite() && inside.winding(about) != 0;
    maker.stack.fit = can_fit.then_some(share);
    if maker.plans.less(&all, room)?.is_empty() {
        return Ok(vec![]);
    }
    let mut mends = Vec::new();
    if can_fit && share < 1.0 {
        mends.push(DoubtMend { words: msg!("fit-inside"), by: MendBy::Scale(share) });
    }
    if can_fit && maker.laid.is_none_or(|l| l.by == (0.0, 0.0)) {
        let side = (across / share).ceil();
        mends.extend(maker.mend(m::ACROSS, side, |v| msg!("plate-across", to = v)));
    }
    Ok(mends)
}

/// How far it is from `at` through `p` to the border.
fn way_out(border: &[Ring<Mm>], at: Point<Mm>, p: Point<Mm>) -> Option<f64> {
    let far = p.distance(at);
    if far == 0.0 {
        return None;
    }
    let (ux, uy) = ((p.x - at.x) / far, (p.y - at.y) / far);
    let mut nearest: Option<f64> = None;
    for (a, b) in border.iter().flat_map(Ring::edges) {
        let (ax, ay, ex, ey) = (a.x - at.x, a.y - at.y, b.x - a.x, b.y - a.y);
        let d = ux * ey - uy * ex;
        if d == 0.0 {
            continue;
        }
        let (along, on) = ((ax * ey - ay * ex) / d, (ax * uy - ay * ux) / d);
        if along > 0.0 && (0.0..=1.0).contains(&on) {
            nearest = Some(nearest.map_or(along, |n: f64| n.min(along)));
        }
    }
    nearest
}

/// Lays the drawing on a plate with a form of its own: the place of the plate's middle.
pub(super) fn lay(maker: &mut Maker<'_>) -> Result<Point<Mm>, TierError> {
    let drawn = maker.drawn()?;
    let at = match maker.choice(m::PLACE) {
        Place::Own => maker.outline.middle,
        Place::Box => middle(&drawn),
        Place::Circle => {
            let nodes: Vec<Point<Mm>> = drawn.rings_mm().into_iter().flat_map(|r| r.0).collect();
            Circle::round(&nodes).map_or(maker.outline.middle, |c| c.centre)
        }
    };
    let by = (maker.get(m::SHIFT_X), maker.get(m::SHIFT_Y));
    let degrees = maker.get(m::TURN);
    maker.stack.plate = Some(at);
    maker.laid = (by != (0.0, 0.0) || degrees != 0.0).then_some(Laid { about: at, degrees, by });
    Ok(at)
}

pub(super) fn middle(area: &Area) -> Point<Mm> {
    area.bounds().map_or(Point::new(0.0, 0.0), |b| b.centre())
}
