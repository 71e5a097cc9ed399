//! How long the nozzle takes along a line.

use kachel_geom::{Mm, Point};

/// How the nozzle moves.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Motion {
    /// Speed along straight lines, mm/s.
    pub speed: f64,
    /// Acceleration along the line and towards the middle of a bend, mm/s2.
    pub acceleration: f64,
}

/// How far the nozzle may pass beside a corner, mm: from this and the acceleration comes the speed in it.
const DEVIATION_MM: f64 = 0.05;

/// Seconds along a line, from rest to rest: speed rises and falls evenly (trapezoids), and looks ahead to corners.
///
/// In a corner the speed is that of a circle that touches both sides and passes the corner at [`DEVIATION_MM`]: v2 = a d s / (1 - s),
/// s being the sine of half the angle between the sides (junction deviation, S. K. Jeon, 'Improving Grbl: cornering algorithm',
/// 2011; from memory).
pub fn seconds_along(points: &[Point<Mm>], is_closed: bool, m: Motion) -> f64 {
    let mut all: Vec<Point<Mm>> = points.to_vec();
    if is_closed {
        all.extend(points.first());
    }
    let pieces: Vec<(f64, [f64; 2])> = all
        .windows(2)
        .map(|p| (p[0].distance(p[1]), p))
        .filter(|(long, _)| *long > 1e-9)
        .map(|(long, p)| (long, [(p[1].x - p[0].x) / long, (p[1].y - p[0].y) / long]))
        .collect();
    let n = pieces.len();
    if n == 0 {
        return 0.0;
    }
    // Squares of the speeds at the nodes: no faster than its corner ...
    let mut v2 = vec![0.0; n + 1];
    for k in 1..n {
        let (u, w) = (pieces[k - 1].1, pieces[k].1);
        let cos = -(u[0] * w[0] + u[1] * w[1]);
        let s = ((1.0 - cos) / 2.0).max(0.0).sqrt();
        let corner = if s > 1.0 - 1e-9 { f64::INFINITY } else { m.acceleration * DEVIATION_MM * s / (1.0 - s) };
        v2[k] = corner.min(m.speed * m.speed);
    }
    // ... than braking before the next node and speeding up since the last one allow.
    for k in (0..n).rev() {
        v2[k] = f64::min(v2[k], v2[k + 1] + 2.0 * m.acceleration * pieces[k].0);
    }
    for k in 0..n {
        v2[k + 1] = f64::min(v2[k + 1], v2[k] + 2.0 * m.acceleration * pieces[k].0);
    }
    (0..n).map(|k| seconds(pieces[k].0, v2[k], v2[k + 1], m)).sum()
}

/// Seconds along one straight piece between two speeds, given as squares.
fn seconds(long: f64, from2: f64, to2: f64, m: Motion) -> f64 {
    let a = m.acceleration;
    // The highest speed that rising and falling evenly reach.
    let peak2 = (a * long + (from2 + to2) / 2.0).min(m.speed * m.speed).max(from2.max(to2));
    let (from, to, peak) = (from2.sqrt(), to2.sqrt(), peak2.sqrt());
    let ramps = (2.0 * peak2 - from2 - to2) / (2.0 * a);
    (2.0 * peak - from - to) / a + (long - ramps).max(0.0) / peak
}
