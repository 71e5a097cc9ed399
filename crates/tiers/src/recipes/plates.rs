//! What plates have in common: roomy places, reliefs, and drawings that fit.

use crate::maker::{Maker, Put};
use crate::names::{Measure, Relief, measures as m};
use crate::{Area, DoubtKind, Role, TierError};
use kachel_geom::{Edges, Mm, Point};

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
        let what = format!("Details {by} mm deep go through a plate of {top} mm");
        let half = (top / 2.0 * 10.0).round() / 10.0;
        let mend = maker.mend(measure, half, |v| format!("Make them {v} deep"));
        maker.doubt(DoubtKind::TooDeep, what, None, Some(mend));
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
    }
}

/// A drawing that does not fit its plate is said, not cut off in silence.
pub(super) fn fits(
    maker: &mut Maker<'_>,
    drawing: &[(String, Area)],
    plate: &Area,
    across: f64,
) -> Result<(), TierError> {
    let all = maker.joined(drawing)?;
    let outside = maker.plans.less(&all, plate)?;
    if outside.area_mm2() > 0.5 {
        let what = format!("The drawing reaches beyond the plate of {across} mm");
        let side = all.bounds().map_or(across, |b| b.width().hypot(b.height())).ceil();
        let mend = maker.mend(m::ACROSS, side, |v| format!("Make it {v} across"));
        maker.doubt(DoubtKind::NoRoom, what, outside.bounds(), Some(mend));
    }
    Ok(())
}

pub(super) fn middle(area: &Area) -> Point<Mm> {
    area.bounds().map_or(Point::new(0.0, 0.0), |b| b.centre())
}
