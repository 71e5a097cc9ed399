//! Contour following: marching squares on the signed distance of each grey from the cut, linear between pixel
//! centres; then each point is placed by how much of its row or column is covered, which for a straight antialiased or
//! blurred edge is exact.

use crate::error::{MAX_FOLLOWED, TraceError};
use crate::field::Field;
use kachel_geom::{Point, Px, Ring, Watch};

/// The contours, and how far the picture's edges reach in pixels: 1 for antialiased ones.
pub(crate) struct Followed {
    pub(crate) rings: Vec<Ring<Px>>,
    pub(crate) softness: f64,
}

/// What a ring weighs beside its points, in points.
const RING: usize = 6;

/// Points from which the softness is estimated.
const SOFTNESS_SAMPLES: usize = 20_000;

pub(crate) fn follow(field: &Field, watch: &Watch) -> Result<Followed, TraceError> {
    let mut visited = vec![false; field.values.len()];
    let mut rings = Vec::new();
    let mut followed = 0;
    let mut steepness: Vec<f32> = Vec::new();
    for y in 0..field.rows - 1 {
        watch.step(y, field.rows)?;
        let row = &field.values[y * field.stride..][..field.stride];
        for x in 0..field.stride - 1 {
            // Every contour runs down somewhere, with ground on the screen's left and ink on its right.
            if row[x] < 0.0 && row[x + 1] > 0.0 {
                let right = y * field.stride + x;
                if !visited[right] {
                    let most = MAX_FOLLOWED.saturating_sub(followed);
                    let ring = field.walk(right + 1, right, most, &mut visited, &mut steepness)?;
                    // A ring of its own weighs as much as some points.
                    followed += ring.0.len() + RING;
                    if followed > MAX_FOLLOWED {
                        return Err(TraceError::Noise);
                    }
                    rings.push(ring);
                }
            }
        }
    }
    Ok(Followed { rings, softness: field.softness(&mut steepness) })
}

impl Field {
    /// Walks once round, from the crossing between `left` (ink) and `right` (ground), ink always on the left.
    fn walk(
        &self,
        left: usize,
        right: usize,
        most: usize,
        visited: &mut [bool],
        steepness: &mut Vec<f32>,
    ) -> Result<Ring<Px>, TraceError> {
        let s = self.stride.cast_signed();
        let (mut l, mut r) = (left, right);
        // Points on the steeper axis are the better ones; the others serve where a ring has next to none.
        let (mut points, mut all) = (Vec::new(), Vec::new());
        loop {
            if points.len() > most {
                return Err(TraceError::Noise);
            }
            if all.len() < FEW {
                all.push(self.crossing(l, r));
            }
            if self.is_across(l, r) {
                points.push(self.placed(l, r));
                if steepness.len() < SOFTNESS_SAMPLES {
                    steepness.push((self.values[l] - self.values[r]).abs());
                }
            }
            // Forward is a quarter turn to the right of the step from the right sample to the left one, as seen
            // on the screen (y down).
            let forward = match l.cast_signed() - r.cast_signed() {
                1 => {
                    visited[r] = true;
                    s
                }
                -1 => -s,
                d if d == s => -1,
                _ => 1,
            };
            let ahead_l = l.wrapping_add_signed(forward);
            let ahead_r = r.wrapping_add_signed(forward);
            let (fl, fr) = (self.values[ahead_l] > 0.0, self.values[ahead_r] > 0.0);
            let turn_left = match (fl, fr) {
                (true, false) => {
                    (l, r) = (ahead_l, ahead_r);
                    if (l, r) == (left, right) {
                        break;
                    }
                    continue;
                }
                (false, false) => true,
                (true, true) => false,
                (false, true) => is_cut([self.values[l], self.values[ahead_r]], [self.values[r], self.values[ahead_l]]),
            };
            if turn_left {
                r = ahead_l;
            } else {
                l = ahead_r;
            }
            if (l, r) == (left, right) {
                break;
            }
        }
        Ok(Ring(if points.len() < FEW { all } else { points }))
    }

    /// Whether the step from `l` to `r` runs across the edge rather than along it.
    fn is_across(&self, l: usize, r: usize) -> bool {
        let v = &self.values;
        let other = if l.abs_diff(r) == 1 { self.stride } else { 1 };
        // Of the frame nothing is known beyond itself.
        let last = v.len() - 1;
        let at = |i: usize, up: bool| if up { v[(i + other).min(last)] } else { v[i.saturating_sub(other)] };
        let along = (at(l, true) - at(l, false)) + (at(r, true) - at(r, false));
        (v[l] - v[r]).abs() * 4.0 >= along.abs()
    }

    fn centre(&self, i: usize) -> (f64, f64) {
        ((i % self.stride) as f64 - 0.5, (i / self.stride) as f64 - 0.5)
    }

    /// Linear between the centres.
    fn crossing(&self, l: usize, r: usize) -> Point<Px> {
        let (vl, vr) = (f64::from(self.values[l]), f64::from(self.values[r]));
        let t = vl / (vl - vr);
        let ((lx, ly), (rx, ry)) = (self.centre(l), self.centre(r));
        Point::new(lx + t * (rx - lx), ly + t * (ry - ly))
    }

    /// The edge's place in its row or column by the covered length between full ink and plain ground; linear between
    /// the centres where they are not both near.
    fn placed(&self, l: usize, r: usize) -> Point<Px> {
        let step = r.cast_signed() - l.cast_signed();
        let v = &self.values;
        let climb = |from: usize, step: isize, sign: f32| {
            let mut at = from;
            for _ in 0..self.reach {
                let Some(next) = at.checked_add_signed(step).filter(|n| *n < v.len()) else { break };
                if (v[next] - v[at]) * sign <= self.contrast * 0.015 {
                    break;
                }
                at = next;
            }
            at
        };
        let (ink, ground) = (climb(l, -step, 1.0), climb(r, step, -1.0));
        let (full, none) = (v[ink], v[ground]);
        let is_whole = full - none >= self.contrast * 0.82;
        // A cut moved off the middle is meant to move the contour.
        let is_middle = (full + none).abs() <= self.contrast * 0.24;
        if !is_whole || !is_middle {
            return self.crossing(l, r);
        }
        let mut covered = 0.0;
        let mut at = ink;
        loop {
            covered += f64::from(((v[at] - none) / (full - none)).clamp(0.0, 1.0));
            if at == ground {
                break;
            }
            at = at.wrapping_add_signed(step);
        }
        let (x, y) = self.centre(ink);
        let move_by = (covered - 0.5) * f64::from(i32::try_from(step.signum()).unwrap_or(0));
        if step.abs() == 1 { Point::new(x + move_by, y) } else { Point::new(x, y + move_by) }
    }

    /// How far edges reach: 1 for antialiased ones, more for blurred ones.
    fn softness(&self, steepness: &mut [f32]) -> f64 {
        if steepness.is_empty() || self.contrast <= 0.0 {
            return 1.0;
        }
        let middle = steepness.len() / 2;
        let (_, median, _) = steepness.select_nth_unstable_by(middle, f32::total_cmp);
        // Half a pixel either way of a sharp edge leaves three quarters of the contrast between neighbours.
        (0.72 * f64::from(self.contrast) / f64::from(median.max(1e-3))).clamp(1.0, 5.0)
    }
}

/// Whether two corners of ink that meet across a saddle are apart: the mean of the four says so. The sum is the same to a bit from both
/// sides; else a line that comes by twice would turn once here and once there, run into itself and never end.
fn is_cut(ink: [f32; 2], ground: [f32; 2]) -> bool {
    (ink[0] + ink[1]) + (ground[0] + ground[1]) <= 0.0
}

/// Points of a ring that is too small to choose among.
const FEW: usize = 8;

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::for_all;

    #[test]
    fn a_saddle_is_the_same_from_both_sides() {
        let differs = std::cell::Cell::new(0);
        for_all(20_000, |random| {
            let mut value = || random.between(0.0, 1.0) as f32;
            let (a, b, c) = (value(), value(), value());
            // Nearly nothing in all, where rounding decides.
            let d = a + b - c;
            assert_eq!(is_cut([a, b], [-c, -d]), is_cut([b, a], [-d, -c]));
            differs.set(differs.get() + u32::from((a - c - d + b <= 0.0) != (b - d - c + a <= 0.0)));
        });
        assert!(differs.get() > 0, "summed in the order of the walk, it is not");
    }
}
