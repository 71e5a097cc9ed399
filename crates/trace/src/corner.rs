//! Corners of a followed line. Pixels round every corner off; it is rebuilt by meeting the two sides, each followed
//! from outside the rounded part.

use crate::track::{Side, Track};
use kurbo::{Point, Vec2};

/// Where the line bends sharply.
#[derive(Clone, Copy)]
pub(crate) struct Corner {
    /// Index of the nearest point of the track.
    pub(crate) index: usize,
    /// Where the sides meet.
    pub(crate) at: Point,
    /// Arc length on either side within which points are rounded off and say nothing.
    pub(crate) rounded: f64,
}

/// What makes a corner.
#[derive(Clone, Copy)]
pub(crate) struct Bend {
    /// Smallest turn, radians.
    pub(crate) any: f64,
    /// Smallest turn where both sides are straight, radians.
    pub(crate) straight: f64,
    /// How far pixels round a corner off, pixels: about 1 where the edge is one pixel wide.
    pub(crate) softness: f64,
}

/// Longest side that is looked at, pixels.
const LONGEST: f64 = 16.0;
/// Shortest side of a corner between straight runs, pixels.
const STRAIGHT: f64 = 6.0;

/// Softness from which on round tips and corners can be distinguished by how fast they turn.
const BLURRED: f64 = 1.6;

pub(crate) fn find(track: &Track, bend: Bend) -> Vec<Corner> {
    let n = track.len();
    if n < 6 {
        return Vec::new();
    }
    #[expect(clippy::cast_possible_truncation, reason = "a few points")]
    let reach = ((2.6 + bend.softness) / track.spacing()).round().clamp(2.0, (n / 3).max(2) as f64) as isize;
    let turns: Vec<f64> = (0..n).map(|i| turn_at(track, i, reach)).collect();
    let floor = (bend.straight.min(bend.any) * 0.5).max(track.grain * 1.5 / 3.0);
    let mut candidates: Vec<usize> =
        (0..n).filter(|&i| turns[i].abs() > floor && is_peak(track, &turns, i, reach)).collect();
    // A weak corner counts between straight runs only: there a longer look shows no more turn. A bow shows twice as much.
    let weak = bend.any.min(0.5);
    candidates.retain(|&i| {
        turns[i].abs() >= weak || turn_at(track, i, 2 * reach).abs() < 1.5 * turns[i].abs() + 0.05 + 3.0 * track.grain
    });
    candidates.sort_by(|a, b| turns[*b].abs().total_cmp(&turns[*a].abs()));
    // Blurred into each other, two corners look like one.
    let apart = 1.0 + bend.softness * if bend.softness < BLURRED { 0.5 } else { 1.2 };
    let mut found: Vec<Corner> = Vec::new();
    for i in candidates {
        if let Some(corner) = needle(track, i, bend).or_else(|| examine(track, i, bend))
            && found.iter().all(|c| c.at.distance(corner.at) > apart)
        {
            found.push(corner);
        }
    }
    found.sort_by_key(|c| c.index);
    found
}

/// Turn between the chords before and after, radians.
fn turn_at(track: &Track, i: usize, reach: isize) -> f64 {
    let (Some(before), Some(after)) = (track.step(i, -reach), track.step(i, reach)) else { return 0.0 };
    let (a, b) = (track.points[i] - track.points[before], track.points[after] - track.points[i]);
    a.cross(b).atan2(a.dot(b))
}

fn is_peak(track: &Track, turns: &[f64], i: usize, reach: isize) -> bool {
    let here = turns[i].abs();
    (1..=(reach + 1) / 2).all(|k| {
        let after = track.step(i, k).map_or(0.0, |j| turns[j].abs());
        let before = track.step(i, -k).map_or(0.0, |j| turns[j].abs());
        // Of equal neighbours the first is the peak.
        here > before && here >= after
    })
}

/// Follows both sides from outside the rounded part and decides.
fn examine(track: &Track, i: usize, bend: Bend) -> Option<Corner> {
    let slack = 0.09 + 2.5 * track.grain;
    let mut skip = 0.35 + 0.85 * bend.softness;
    let mut best: Option<Corner> = None;
    // An acute tip is rounded off further: look again from where the first answer says that it begins.
    for _ in 0..3 {
        let Some(before) = track.side(i, false, skip, LONGEST, slack) else { break };
        let Some(after) = track.side(i, true, skip, LONGEST, slack) else { break };
        let Some(corner) = meet(track, i, skip, &before, &after, bend) else { break };
        let wanted = (corner.at.distance(track.points[i]) + 0.8 * bend.softness).max(skip);
        best = Some(Corner { rounded: wanted, ..corner });
        if wanted < skip + 0.3 {
            break;
        }
        skip = wanted;
    }
    best
}

/// Beside a needle's end its two sides are looked at from these distances on, pixels.
const BESIDE: [f64; 7] = [3.0, 5.0, 8.0, 12.0, 17.0, 23.0, 30.0];
/// Length of a needle's sides that is looked at, pixels: its tip is far away, so their directions have to be exact.
const LONG_SIDE: f64 = 40.0;
/// Where the sides of a needle are this far apart, pixels, pixels between them are wholly ink: nearer, the line lies inside them.
const RESOLVED: f64 = 2.0;
/// Beyond this angle, radians, a tip is a corner like others.
const NEEDLE: f64 = 0.35;
/// Sides at less than this angle, radians, meet too far away to be told.
const PARALLEL: f64 = 0.02;
/// How wide a needle can be where the line ends, pixels: it covers about half a pixel there.
const ENDS_AT: (f64, f64) = (0.3, 1.1);

/// The tip of a needle. Where it is thinner than a pixel the line leaves its sides and ends too early; the tip is where they
/// meet, as they are further back.
fn needle(track: &Track, i: usize, bend: Bend) -> Option<Corner> {
    if bend.softness >= BLURRED {
        return None;
    }
    let slack = 0.09 + 2.5 * track.grain;
    for skip in BESIDE {
        let side = |forward| track.side(i, forward, skip, LONG_SIDE, slack);
        // Near the end the line may lie anywhere.
        let (Some(before), Some(after)) = (side(false), side(true)) else { continue };
        let (p, q) = (before.at(skip), after.at(skip));
        if p.distance(q) < RESOLVED {
            continue;
        }
        let (u, v) = (before.direction(skip), after.direction(skip));
        let det = u.cross(v);
        let inner = det.abs().atan2(u.dot(v));
        let is_straight = before.is_straight && after.is_straight && before.length.min(after.length) >= STRAIGHT;
        if !is_straight || p.distance(q) > 3.0 * RESOLVED || !(PARALLEL..=NEEDLE).contains(&inner) {
            return None;
        }
        let at = p + u * ((q - p).cross(v) / det);
        let beyond = (at - track.points[i]).dot(-(u + v) / (u + v).hypot());
        let width = 2.0 * beyond * (inner / 2.0).tan();
        let is_needle = beyond > 1.0 && (ENDS_AT.0..=ENDS_AT.1).contains(&width);
        return is_needle.then_some(Corner { index: i, at, rounded: skip });
    }
    None
}

/// Whether the line turns within a blurred corner's reach as much as a blurred corner does. Of a right angle blurred by a
/// Gaussian of deviation s (half the softness) three fifths of the turn lie within 0.75 s of the tip (computed from where
/// the product of two normal distributions is a half); a round tip that was drawn turns more slowly.
fn is_as_sharp_as_blur_leaves_it(track: &Track, i: usize, turn: f64, softness: f64) -> bool {
    if softness < BLURRED {
        return true;
    }
    let (near, half) = (0.375 * softness, 0.5);
    let direction = |d: f64| track.along(i, d + half) - track.along(i, d - half);
    let (a, b) = (direction(-near), direction(near));
    a.cross(b).atan2(a.dot(b)).abs() + track.grain >= 0.35 * turn
}

/// The turn between two sides, each followed from `skip` pixels beside the place, less what it would be if they went on
/// bending as they do: all of it at a corner, next to none on a small round tip.
fn unexplained(skip: f64, before: &Side, after: &Side) -> f64 {
    let turn = |a: Vec2, b: Vec2| a.cross(b).atan2(a.dot(b));
    let bends = |side: &Side| {
        let whole = turn(side.direction(skip), side.direction(skip + side.length));
        if side.is_straight { 0.0 } else { whole / side.length.max(1.0) * skip }
    };
    // The side before is followed backwards, so it bends the other way.
    turn(-before.direction(skip), after.direction(skip)) - bends(after) + bends(before)
}

fn meet(track: &Track, i: usize, skip: f64, before: &Side, after: &Side, bend: Bend) -> Option<Corner> {
    // Both sides run away from the corner; along the track the first one comes in.
    let angle = |db: f64, da: f64| {
        let (a, b) = (-before.direction(db), after.direction(da));
        a.cross(b).atan2(a.dot(b)).abs()
    };
    let both_straight = before.is_straight && after.is_straight && before.length.min(after.length) >= STRAIGHT;
    let least = if both_straight { bend.straight } else { bend.any };
    if angle(0.0, 0.0) < least || unexplained(skip, before, after).abs() < least {
        return None;
    }
    // Newton's method for the crossing of two parabolas, from the corner as the pixels show it.
    let (mut db, mut da) = (0.0, 0.0);
    for _ in 0..4 {
        let gap = after.at(da) - before.at(db);
        let (u, v) = (before.velocity(db), after.velocity(da));
        let det = u.cross(v);
        if det.abs() < 1e-3 {
            break;
        }
        // before(db) + u x = after(da) + v y
        db += gap.cross(v) / det;
        da += gap.cross(u) / det;
        let far = 12.0 * bend.softness.max(1.0);
        (db, da) = (db.clamp(-far, far), da.clamp(-far, far));
    }
    let at = before.at(db).midpoint(after.at(da));
    let turn = angle(db, da);
    let inner = (std::f64::consts::PI - turn).max(0.05);
    // How far an antialiased edge recedes from its corner grows with the corner's sharpness; what is rounder is meant.
    // Blurred by a Gaussian of half the softness, it recedes by 0.385 of that softness at a right angle.
    let recess = 1.0 / (inner / 2.0).tan();
    let reach = if bend.softness < BLURRED {
        (0.42 + 0.45 * recess) * bend.softness
    } else {
        0.3 + 1.4 * 0.385 * recess * bend.softness
    } + 2.0 * track.grain;
    (turn >= least
        && at.distance(track.points[i]) <= reach
        && is_as_sharp_as_blur_leaves_it(track, i, turn, bend.softness)
        && before.at(db).distance(after.at(da)) < 0.5)
        .then_some(Corner { index: i, at, rounded: bend.softness })
}
