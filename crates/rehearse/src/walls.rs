//! Lines along the borders of an area.

use crate::model::{Kind, Lines};
use kachel_geom::{BoolOp, Mm, OffGrid, Point, Region, Width, combine, join_all, offset, thin_parts, widths};

/// What is laid along the borders of an area.
#[derive(Clone, Debug, Default)]
pub(crate) struct Walls {
    /// The lines.
    pub lines: Vec<Lines>,
    /// What is left inside them.
    pub inside: Region,
    /// Area that is thinner than half a line, mm2.
    pub left_out: f64,
}

/// Places of thin parts are so far apart, mm.
const STEP_MM: f64 = 0.3;
/// Remains of rounding under this area, mm2, are no thin parts.
const CRUMB_MM2: f64 = 0.02;

/// So many lines of a width along the borders. Where the area is thinner than two lines, one line of its own width runs along its
/// middle; where it is thinner than half a line, nothing is laid.
pub(crate) fn walls(area: &Region, count: u32, line: f64) -> Result<Walls, OffGrid> {
    let mut made = Walls { inside: area.clone(), ..Walls::default() };
    for k in 0..count {
        if made.inside.is_empty() {
            break;
        }
        // The inside of one ring and the outside of the next are the same offset: only the first can be anything.
        // Most areas are thick all over, which widths tell sooner than offsets.
        let least = 2.0 * line - 0.01;
        let may_be_thin = !widths(&made.inside, STEP_MM, least).is_empty();
        let thin = if may_be_thin { thin_parts(&made.inside, least)? } else { vec![] };
        let wide = if thin.is_empty() {
            made.inside.clone()
        } else {
            combine(&made.inside, &join_all(&thin)?, BoolOp::TakeAway)?
        };
        let kind = if k == 0 { Kind::Outer } else { Kind::Inner };
        for ring in offset(&wide, -line / 2.0)?.rings_mm() {
            made.lines.push(Lines { kind, points: ring.0, is_closed: true, width: line });
        }
        for part in thin.iter().filter(|p| p.area_mm2() > CRUMB_MM2) {
            let left_out = thin_lines(part, line, &mut made.lines);
            // Between walls a hair of air is no loss.
            if k == 0 {
                made.left_out += left_out;
            }
        }
        made.inside = offset(&wide, -line)?;
    }
    Ok(made)
}

/// Lays one line along the middle of a thin part; returns the area that is left out.
fn thin_lines(part: &Region, line: f64, lines: &mut Vec<Lines>) -> f64 {
    let all: Vec<Width> = widths(part, STEP_MM, 3.0 * line).into_iter().filter(|w| w.along > 0.0).collect();
    let mut left_out = 0.0;
    for chain in chains(&all) {
        let width = chain.iter().map(|w| w.across).sum::<f64>() / chain.len() as f64;
        if width < line / 2.0 {
            left_out += chain.iter().map(|w| w.along * w.across).sum::<f64>();
            continue;
        }
        let mut points: Vec<Point<Mm>> = chain.iter().map(Width::middle).collect();
        let is_closed = points.len() > 8 && points[0].distance(points[points.len() - 1]) < 2.5 * STEP_MM;
        if !is_closed {
            drawn_out(&mut points, width / 2.0);
        }
        if points.len() > 1 {
            let one = Lines { kind: Kind::Thin, points, is_closed, width };
            lines.push(one);
        }
    }
    left_out
}

/// Middles that follow each other along the border. Each stretch is met from both of its sides: the second time it is left out.
fn chains(all: &[Width]) -> Vec<Vec<Width>> {
    let mut kept: Vec<(usize, Point<Mm>)> = Vec::new();
    let mut chains: Vec<Vec<Width>> = Vec::new();
    let mut last: Option<Point<Mm>> = None;
    for (k, w) in all.iter().enumerate() {
        let at = w.middle();
        let is_known = kept.iter().any(|(j, p)| k - j > 4 && p.distance(at) < 0.8 * STEP_MM);
        if is_known {
            last = None;
            continue;
        }
        kept.push((k, at));
        match (last, chains.last_mut()) {
            (Some(p), Some(chain)) if p.distance(at) < 2.5 * STEP_MM => chain.push(*w),
            _ => chains.push(vec![*w]),
        }
        last = Some(at);
    }
    chains
}

/// Makes a line longer at both ends.
fn drawn_out(points: &mut Vec<Point<Mm>>, by: f64) {
    let beyond = |from: Point<Mm>, to: Point<Mm>| {
        let long = from.distance(to);
        (long > 1e-6).then(|| Point::new(to.x + (to.x - from.x) / long * by, to.y + (to.y - from.y) / long * by))
    };
    if let [first, second, ..] = points.as_slice()
        && let Some(p) = beyond(*second, *first)
    {
        points.insert(0, p);
    }
    if let [.., before, end] = points.as_slice()
        && let Some(p) = beyond(*before, *end)
    {
        points.push(p);
    }
}
