//! Corners of a followed line. Pixels round every corner off; it is rebuilt by meeting the two sides, each followed
//! from outside the rounded part.

use crate::track::{Side, Track};
use kurbo::Point;

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
    let mut found: Vec<Corner> = Vec::new();
    for i in candidates {
        if let Some(corner) = examine(track, i, bend)
            && found.iter().all(|c| c.at.distance(corner.at) > 1.0 + bend.softness * 0.5)
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
        let Some(corner) = meet(track, i, &before, &after, bend) else { break };
        let wanted = (corner.at.distance(track.points[i]) + 0.8 * bend.softness).max(skip);
        best = Some(Corner { rounded: wanted, ..corner });
        if wanted < skip + 0.3 {
            break;
        }
        skip = wanted;
    }
    best
}

fn meet(track: &Track, i: usize, before: &Side, after: &Side, bend: Bend) -> Option<Corner> {
    // Both sides run away from the corner; along the track the first one comes in.
    let angle = |db: f64, da: f64| {
        let (a, b) = (-before.direction(db), after.direction(da));
        a.cross(b).atan2(a.dot(b)).abs()
    };
    let both_straight = before.is_straight && after.is_straight && before.length.min(after.length) >= STRAIGHT;
    let least = if both_straight { bend.straight } else { bend.any };
    if angle(0.0, 0.0) < least {
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
    let reach = (0.42 + 0.45 / (inner / 2.0).tan()) * bend.softness + 2.0 * track.grain;
    (turn >= least && at.distance(track.points[i]) <= reach && before.at(db).distance(after.at(da)) < 0.5)
        .then_some(Corner { index: i, at, rounded: bend.softness })
}
