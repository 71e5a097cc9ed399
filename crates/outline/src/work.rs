//! What is done to single areas: pure functions on regions, in millimetres.

use kachel_geom::{
    BoolOp, GRID_PER_MM, Mm, OffGrid, Point, Region, Ring, combine, combine_rings, join_all, nearest_places, offset,
    opened, regions, stroke,
};

/// A turn and a scaling about a point, which then goes elsewhere.
pub(crate) struct Turn {
    pub(crate) about: Point<Mm>,
    pub(crate) degrees: f64,
    /// Factors to the right and upwards, before the turn; less than 0 flips.
    pub(crate) scale: (f64, f64),
    pub(crate) to: Point<Mm>,
}

impl Turn {
    pub(crate) fn point(&self, p: Point<Mm>) -> Point<Mm> {
        let (x, y) = ((p.x - self.about.x) * self.scale.0, (p.y - self.about.y) * self.scale.1);
        let (sin, cos) = exact_turn(self.degrees);
        Point::new(self.to.x + x * cos - y * sin, self.to.y + x * sin + y * cos)
    }
}

/// Sine and cosine, without rounding for quarter turns: those stay exactly on the grid.
fn exact_turn(degrees: f64) -> (f64, f64) {
    match degrees.rem_euclid(360.0) {
        0.0 => (0.0, 1.0),
        90.0 => (1.0, 0.0),
        180.0 => (0.0, -1.0),
        270.0 => (-1.0, 0.0),
        d => d.to_radians().sin_cos(),
    }
}

fn moved(r: &Region, is_flipped: bool, to: impl Fn(&Point<Mm>) -> Point<Mm>) -> Result<Region, OffGrid> {
    let ring = |r: &Ring<Mm>| {
        let mut points: Vec<Point<Mm>> = r.0.iter().map(&to).collect();
        if is_flipped {
            points.reverse();
        }
        Ring(points)
    };
    Region::from_mm(&r.rings_mm().iter().map(ring).collect::<Vec<_>>())
}

pub(crate) fn turned(r: &Region, turn: &Turn) -> Result<Region, OffGrid> {
    moved(r, turn.scale.0 * turn.scale.1 < 0.0, |p| turn.point(*p))
}

/// The mirror image across a line. What lies on the line itself stays, so that a seam has one set of points.
pub(crate) fn mirrored(r: &Region, through: Point<Mm>, degrees: f64) -> Result<Region, OffGrid> {
    // Reflection across a line at the angle a: by cos 2a and sin 2a.
    let (sin, cos) = exact_turn(2.0 * degrees);
    let (along_y, along_x) = exact_turn(degrees);
    moved(r, true, |p| {
        let (x, y) = (p.x - through.x, p.y - through.y);
        // Rounding to the grid takes a point up to a step off the line.
        if (x * along_y - y * along_x).abs() * GRID_PER_MM <= 1.5 {
            return *p;
        }
        Point::new(through.x + x * cos + y * sin, through.y + x * sin - y * cos)
    })
}

/// Whether any of the points lies on the left of the line, and on its right, by more than rounding.
pub(crate) fn sides_of(points: impl Iterator<Item = Point<Mm>>, through: Point<Mm>, degrees: f64) -> [bool; 2] {
    let (sin, cos) = exact_turn(degrees);
    let aside = points.map(|p| (p.y - through.y) * cos - (p.x - through.x) * sin);
    aside.fold([false, false], |[left, right], d| [left || d > ASIDE_MM, right || d < -ASIDE_MM])
}

/// Points nearer to a line than this lie on it, mm.
const ASIDE_MM: f64 = 0.01;

/// What lies on the left of the line, and its mirror image on the right.
pub(crate) fn completed(r: &Region, through: Point<Mm>, degrees: f64) -> Result<Region, OffGrid> {
    let half = combine(r, &left_of(through, degrees, r)?, BoolOp::Common)?;
    join_all([&half, &mirrored(&half, through, degrees)?])
}

/// What lies on the left of the line, as far as the region reaches.
fn left_of(through: Point<Mm>, degrees: f64, r: &Region) -> Result<Region, OffGrid> {
    let Some(b) = r.bounds() else { return Ok(Region::default()) };
    let (sin, cos) = exact_turn(degrees);
    // Along the line and to its left, as far as the farthest corner.
    let corners = b.corners();
    let along = |p: &Point<Mm>| (p.x - through.x) * cos + (p.y - through.y) * sin;
    let aside = |p: &Point<Mm>| (p.y - through.y) * cos - (p.x - through.x) * sin;
    let range = |f: &dyn Fn(&Point<Mm>) -> f64| {
        corners.iter().map(f).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    };
    let ((a0, a1), (_, far)) = (range(&along), range(&aside));
    if far <= 0.0 {
        return Ok(Region::default());
    }
    let (a0, a1, far) = (a0 - 1.0, a1 + 1.0, far + 1.0);
    let at = |a: f64, d: f64| Point::new(through.x + a * cos - d * sin, through.y + a * sin + d * cos);
    Region::from_mm(&[Ring(vec![at(a0, 0.0), at(a1, 0.0), at(a1, far), at(a0, far)])])
}

/// Turn from which on a bend between two straight sides is a corner that smoothing keeps.
const CORNER_TURN: f64 = 25.0 * std::f64::consts::PI / 180.0;

/// The region without dents and bumps that a disc of that radius does not fit into; corners whose sides are straight for
/// twice the radius stay.
pub(crate) fn smoothed(r: &Region, radius: f64) -> Result<Region, OffGrid> {
    let corners: Vec<Point<Mm>> = r.rings_mm().iter().flat_map(|ring| corners_of(ring, 2.0 * radius)).collect();
    let is_corner = |piece: &Region| {
        let Some(b) = piece.bounds() else { return false };
        let near = |p: &&Point<Mm>| {
            (b.min.x - 0.02..=b.max.x + 0.02).contains(&p.x) && (b.min.y - 0.02..=b.max.y + 0.02).contains(&p.y)
        };
        corners.iter().any(|p| near(&p))
    };
    let small = |from: &Region, without: &Region, is_bump: bool| -> Result<Vec<(bool, Region)>, OffGrid> {
        let found = regions(&combine(from, without, BoolOp::TakeAway)?)?;
        Ok(found.into_iter().filter(|p| !is_corner(p)).map(|p| (is_bump, p)).collect())
    };
    let closed = offset(&offset(r, radius)?, -radius)?;
    let mut all = small(r, &opened(r, radius)?, true)?;
    all.extend(small(&closed, r, false)?);
    all.sort_by_key(|piece| std::cmp::Reverse(piece.1.area2_steps()));
    // Beside a dent the disc misses a little of its brim too, and beside a bump a little of its foot: those stay.
    let touch = |a: &Region, b: &Region| match (a.bounds(), b.bounds()) {
        (Some(a), Some(b)) => {
            a.min.x <= b.max.x + 0.05
                && b.min.x <= a.max.x + 0.05
                && a.min.y <= b.max.y + 0.05
                && b.min.y <= a.max.y + 0.05
        }
        _ => false,
    };
    let mut taken: Vec<(bool, Region)> = Vec::new();
    for (is_bump, piece) in all {
        if !taken.iter().any(|(other, t)| *other != is_bump && touch(t, &piece)) {
            taken.push((is_bump, piece));
        }
    }
    let of = |kind: bool| join_all(taken.iter().filter(|t| t.0 == kind).map(|t| &t.1));
    let shaved = combine(r, &of(true)?, BoolOp::TakeAway)?;
    join_all([&shaved, &of(false)?])
}

/// Corners of a ring whose two sides are straight over `side` mm.
fn corners_of(ring: &Ring<Mm>, side: f64) -> Vec<Point<Mm>> {
    let p = &ring.0;
    let n = p.len();
    // Where the line is after `side` mm, one way or the other, if it is straight up to there.
    let end = |from: usize, forward: bool| -> Option<Point<Mm>> {
        let step = |i: usize| if forward { (i + 1) % n } else { (i + n - 1) % n };
        let (mut at, mut gone) = (from, 0.0);
        let mut passed = Vec::new();
        while gone < side {
            let next = step(at);
            if next == from {
                return None;
            }
            let length = p[at].distance(p[next]);
            if gone + length >= side {
                let t = (side - gone) / length;
                let far = Point::new(p[at].x + (p[next].x - p[at].x) * t, p[at].y + (p[next].y - p[at].y) * t);
                let is_straight = passed.iter().all(|q: &Point<Mm>| q.distance_to_segment(p[from], far) <= 0.06 * side);
                return is_straight.then_some(far);
            }
            gone += length;
            at = next;
            passed.push(p[at]);
        }
        None
    };
    let turn = |a: Point<Mm>, b: Point<Mm>, c: Point<Mm>| {
        let (u, v) = ((b.x - a.x, b.y - a.y), (c.x - b.x, c.y - b.y));
        (u.0 * v.1 - u.1 * v.0).atan2(u.0 * v.0 + u.1 * v.1).abs()
    };
    (0..n)
        .filter(|i| {
            let (Some(a), Some(c)) = (end(*i, false), end(*i, true)) else { return false };
            turn(a, p[*i], c) >= CORNER_TURN
        })
        .map(|i| p[i])
        .collect()
}

/// Both sides of a cut. Without a gap the line goes straight on beyond its ends, and both sides share their border.
pub(crate) fn cut(r: &Region, line: &[Point<Mm>], gap: f64) -> Result<Vec<Region>, OffGrid> {
    if gap > 0.0 {
        return Ok(vec![combine(r, &stroke(line, gap, false)?, BoolOp::TakeAway)?]);
    }
    let (Some(b), [first, .., last]) = (r.bounds(), line) else { return Ok(vec![r.clone()]) };
    let reach = 2.0 * (b.width() + b.height()) + 2.0 * first.distance(*last) + 10.0;
    let beyond = |from: Point<Mm>, at: Point<Mm>| {
        let d = from.distance(at).max(1e-9);
        Point::new(at.x + (at.x - from.x) / d * reach, at.y + (at.y - from.y) / d * reach)
    };
    let (start, end) = (beyond(line[1], *first), beyond(line[line.len() - 2], *last));
    // Round about the left side, far outside.
    let middle = b.centre();
    let angle = |p: Point<Mm>| (p.y - middle.y).atan2(p.x - middle.x);
    let radius = start.distance(middle).max(end.distance(middle));
    let (from, mut to) = (angle(end), angle(start));
    while to <= from {
        to += 2.0 * std::f64::consts::PI;
    }
    let around = (0..=16).map(|k| from + (to - from) * f64::from(k) / 16.0);
    let mut ring: Vec<Point<Mm>> = std::iter::once(start).chain(line.iter().copied()).chain([end]).collect();
    ring.extend(around.map(|a| Point::new(middle.x + radius * 2.0 * a.cos(), middle.y + radius * 2.0 * a.sin())));
    // The loop reaches far; only what lies over the region goes on the grid.
    let frame = [
        (b.min.x - 1.0, b.min.y - 1.0),
        (b.max.x + 1.0, b.min.y - 1.0),
        (b.max.x + 1.0, b.max.y + 1.0),
        (b.min.x - 1.0, b.max.y + 1.0),
    ];
    let frame = Ring(frame.map(|(x, y)| Point::new(x, y)).to_vec());
    let side = Region::from_mm(&combine_rings(&[Ring(ring)], &[frame], BoolOp::Common))?;
    Ok(vec![combine(r, &side, BoolOp::Common)?, combine(r, &side, BoolOp::TakeAway)?])
}

/// The regions with bars between them, one after the other at the nearest places, all of one width.
pub(crate) fn bridged(all: &[Region], width: f64) -> Result<Region, OffGrid> {
    let mut whole = all.first().cloned().unwrap_or_default();
    for next in all.iter().skip(1) {
        if let Some((a, b)) = nearest_places(&whole, next) {
            let (dx, dy) = (b.x - a.x, b.y - a.y);
            let d = dx.hypot(dy);
            // A bar as wide as it should be also where the borders are round: half its width further in.
            let in_by = |p: Point<Mm>, s: f64| {
                if d < 1e-9 { p } else { Point::new(p.x + dx / d * s, p.y + dy / d * s) }
            };
            let bar = stroke(&[in_by(a, -width / 2.0), in_by(b, width / 2.0)], width, false)?;
            whole = join_all([&whole, next, &bar])?;
        }
    }
    Ok(whole)
}
