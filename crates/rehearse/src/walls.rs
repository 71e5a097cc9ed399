//! Lines along the borders of an area.

use crate::model::{Kind, Lines};
use kachel_geom::{Memo, Mm, Name, OffGrid, Point, Region, Width, offset, widths_and_room};
use std::collections::HashMap;
use std::sync::Arc;

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

/// Walls that were made before, by their area, how many they are and how wide: other infill, speeds or neighbours make none anew.
#[derive(Debug)]
pub struct KnownWalls(Memo<(Name, u32, u64), Arc<Walls>>);

/// So many areas keep their walls.
const MOST_KNOWN: usize = 512;

impl Default for KnownWalls {
    fn default() -> Self {
        Self(Memo::new(MOST_KNOWN))
    }
}

impl KnownWalls {
    /// The walls of an area; see [`walls`].
    pub(crate) fn walls(&self, area: &Region, count: u32, line: f64) -> Result<Arc<Walls>, OffGrid> {
        self.0.get_or((Name::of(area), count, line.to_bits()), |_| Ok(Arc::new(walls(area, count, line)?)))
    }

    /// How many areas keep their walls.
    #[cfg(test)]
    pub(crate) fn len(&self) -> usize {
        self.0.len()
    }
}

/// Places of thin parts are so far apart, mm.
const STEP_MM: f64 = 0.3;
/// Remains of rounding under this area, mm2, are no thin parts.
const CRUMB_MM2: f64 = 0.02;

/// Two lines fit where the area is narrower than both by this, mm: offsets that came before may be off by as much, and the lines
/// only lie on each other a little.
const SLACK_MM: f64 = 0.04;

/// So many lines of a width along the borders. Where the area is thinner than two lines, one line of its own width runs along its
/// middle; where it is thinner than half a line, nothing is laid.
fn walls(area: &Region, count: u32, line: f64) -> Result<Walls, OffGrid> {
    let mut made = Walls { inside: area.clone(), ..Walls::default() };
    for k in 0..count {
        if made.inside.is_empty() {
            break;
        }
        let Parted { narrow, middles, inside } = parted(&made.inside, line)?;
        let left_out = thin_lines(&narrow, line, &mut made.lines);
        // Between walls a hair of air is no loss.
        if k == 0 {
            made.left_out += left_out;
        }
        let kind = if k == 0 { Kind::Outer } else { Kind::Inner };
        for ring in middles.rings_mm() {
            made.lines.push(Lines { kind, points: from_seam(ring.0), is_closed: true, width: line });
        }
        made.inside = inside;
    }
    Ok(made)
}

/// A turn of the line by more hides where it begins, degrees (common practice, no source).
const SEAM_DEG: f64 = 30.0;

/// A closed line that begins where its seam is seen least: at its sharpest corner, of equal ones at the one furthest back; a round
/// line at its back.
fn from_seam(mut ring: Vec<Point<Mm>>) -> Vec<Point<Mm>> {
    let n = ring.len();
    let turn = |k: usize| {
        let (a, b, c) = (ring[(k + n - 1) % n], ring[k], ring[(k + 1) % n]);
        let cross = (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
        let dot = (b.x - a.x) * (c.x - b.x) + (b.y - a.y) * (c.y - b.y);
        cross.atan2(dot).to_degrees().abs()
    };
    // To whole degrees: corners that are meant to be equal differ by the grid.
    let hides = |k: usize| Some(turn(k)).filter(|t| *t > SEAM_DEG).map_or(0.0, f64::round);
    let better = |a: &usize, b: &usize| {
        hides(*a).total_cmp(&hides(*b)).then(ring[*a].y.total_cmp(&ring[*b].y)).then(ring[*b].x.total_cmp(&ring[*a].x))
    };
    if let Some(seam) = (0..n).max_by(better) {
        ring.rotate_left(seam);
    }
    ring
}

/// An area by whether two lines fit.
struct Parted {
    /// Widths along it where they do not.
    narrow: Vec<Width>,
    /// What the middles of lines run round where they do.
    middles: Region,
    /// What is left inside those.
    inside: Region,
}

fn parted(area: &Region, line: f64) -> Result<Parted, OffGrid> {
    let least = 2.0 * line - SLACK_MM;
    // Most areas are thick or thin all over, which widths tell sooner than offsets.
    let (narrow, has_room) = widths_and_room(area, STEP_MM, least);
    let (middles, inside) = match (narrow.is_empty(), has_room) {
        (true, _) => (offset(area, -line / 2.0)?, offset(area, -line)?),
        (false, false) => (Region::default(), Region::default()),
        (false, true) => {
            // Where the middles of discs lie that are as wide as two lines. Lines that run round it leave it free but for the slack.
            let core = offset(area, -least / 2.0)?;
            (offset(&core, (least - line) / 2.0)?, core)
        }
    };
    Ok(Parted { narrow, middles, inside })
}

/// Lays lines along the middle of thin parts; returns the area that is left out.
fn thin_lines(narrow: &[Width], line: f64, lines: &mut Vec<Lines>) -> f64 {
    let all: Vec<Width> = narrow.iter().filter(|w| w.along > 0.0).copied().collect();
    let mut left_out = 0.0;
    for chain in chains(&all) {
        let width = chain.iter().map(|w| w.across).sum::<f64>() / chain.len() as f64;
        let area = chain.iter().map(|w| w.along * w.across).sum::<f64>();
        if area < CRUMB_MM2 {
            continue;
        }
        if width < line / 2.0 {
            left_out += area;
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

/// Middles nearer to each other than this are one place, mm.
const SAME_MM: f64 = 0.8 * STEP_MM;

/// A middle, and which of all it is.
type Numbered = (usize, Point<Mm>);

/// Middles that follow each other along the border. Each stretch is met from both of its sides: the second time it is left out.
fn chains(all: &[Width]) -> Vec<Vec<Width>> {
    // By squares of that side: what is near a place lies in its own or a neighbouring one.
    #[expect(clippy::cast_possible_truncation, reason = "on the grid")]
    let square = |p: Point<Mm>| ((p.x / SAME_MM).floor() as i64, (p.y / SAME_MM).floor() as i64);
    let mut kept: HashMap<(i64, i64), Vec<Numbered>> = HashMap::new();
    let mut chains: Vec<Vec<Width>> = Vec::new();
    let mut last: Option<Point<Mm>> = None;
    for (k, w) in all.iter().enumerate() {
        let at = w.middle();
        let (x, y) = square(at);
        let mut near = (x - 1..=x + 1).flat_map(|x| (y - 1..=y + 1).map(move |y| (x, y))).filter_map(|s| kept.get(&s));
        if near.any(|all| all.iter().any(|(j, p)| k - j > 4 && p.distance(at) < SAME_MM)) {
            last = None;
            continue;
        }
        kept.entry((x, y)).or_default().push((k, at));
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

#[cfg(test)]
mod tests {
    use super::*;

    fn begins(points: &[(f64, f64)]) -> (f64, f64) {
        let all = from_seam(points.iter().map(|(x, y)| Point::new(*x, *y)).collect());
        assert_eq!(all.len(), points.len());
        (all[0].x, all[0].y)
    }

    #[test]
    fn a_seam_hides_in_the_sharpest_corner_and_a_round_one_lies_at_the_back() {
        // A spike among right corners; equal corners: the upper left one.
        assert_eq!(
            begins(&[(0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (11.0, 10.0), (10.0, 4.0), (9.0, 10.0), (0.0, 10.0)]).0,
            10.0
        );
        assert_eq!(begins(&[(0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (0.0, 10.0)]), (0.0, 10.0));
        let round: Vec<(f64, f64)> = (0..90)
            .map(|k| (f64::from(k) * 4.0 + 1.0).to_radians().sin_cos())
            .map(|(s, c)| (10.0 * c, 10.0 * s))
            .collect();
        assert!(begins(&round).1 > 9.99);
    }
}
