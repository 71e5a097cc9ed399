//! How long the nozzle takes for lines and the ways between them.

use crate::model::{Kind, Lines};
use crate::motion::{Motion, seconds_along};
use kachel_design::PrintSettings;
use kachel_geom::{Mm, Point};
use std::sync::Arc;

/// Up to so many lines are put in the order of the shortest way; more stay in the order in which they were made.
const MOST_ORDERED: usize = 500;

/// What lines cover, mm2.
pub(crate) fn area_of(lines: &[Arc<Vec<Lines>>]) -> f64 {
    lines.iter().flat_map(|l| l.iter()).map(|l| l.length() * l.width).sum()
}

/// How long the nozzle takes from place to place.
pub(crate) fn travel(from: Point<Mm>, to: Point<Mm>, s: &PrintSettings) -> f64 {
    seconds_along(&[from, to], false, Motion { speed: s.travel_speed, acceleration: s.acceleration })
}

/// How long lines take, and the ways between them.
pub(crate) fn printing(lines: &[Arc<Vec<Lines>>], height: f64, is_first: bool, s: &PrintSettings) -> f64 {
    let mut at: Option<Point<Mm>> = None;
    let mut seconds = 0.0;
    for group in lines {
        let mut left: Vec<&Lines> = group.iter().collect();
        if left.len() > MOST_ORDERED {
            left.iter().for_each(|l| seconds += along(l, &mut at, height, is_first, s));
            continue;
        }
        while !left.is_empty() {
            let far = |l: &Lines| match at {
                Some(p) => ends(l).into_iter().map(|e| e.distance(p)).fold(f64::INFINITY, f64::min),
                None => 0.0,
            };
            let next = (0..left.len()).min_by(|a, b| far(left[*a]).total_cmp(&far(left[*b]))).unwrap_or(0);
            seconds += along(left.remove(next), &mut at, height, is_first, s);
        }
    }
    seconds
}

/// Where a line can be begun.
fn ends(l: &Lines) -> Vec<Point<Mm>> {
    match (l.is_closed, l.points.first(), l.points.last()) {
        (true, Some(p), _) => vec![*p],
        (false, Some(p), Some(q)) => vec![*p, *q],
        _ => vec![],
    }
}

/// The way to a line and along it.
fn along(l: &Lines, at: &mut Option<Point<Mm>>, height: f64, is_first: bool, s: &PrintSettings) -> f64 {
    let (Some(first), Some(last)) = (l.points.first(), l.points.last()) else { return 0.0 };
    let (begin, end) = match *at {
        _ if l.is_closed => (*first, *first),
        Some(p) if last.distance(p) < first.distance(p) => (*last, *first),
        _ => (*first, *last),
    };
    let wanted = match l.kind {
        _ if is_first => s.first_speed,
        Kind::Outer | Kind::Thin => s.outer_speed,
        Kind::Inner | Kind::Skirt | Kind::Brim => s.wall_speed,
        Kind::Solid | Kind::Infill => s.fill_speed,
    };
    let speed = wanted.min(s.flow / (l.width * height).max(1e-9));
    let way = at.map_or(0.0, |p| travel(p, begin, s));
    *at = Some(end);
    way + seconds_along(&l.points, l.is_closed, Motion { speed, acceleration: s.acceleration })
}
