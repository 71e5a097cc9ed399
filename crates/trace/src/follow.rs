//! Contour following: marching squares on the signed distance of each grey from the cut, linear between pixel
//! centres, so that an antialiased straight edge is met to a few hundredths of a pixel.

use crate::cut::Cut;
use kachel_artwork::Picture;
use kachel_geom::{Point, Px, Ring, Stopped, Watch};

/// Samples with a frame of one, positive in ink, never 0.
struct Field {
    stride: usize,
    rows: usize,
    values: Vec<f32>,
}

pub(crate) fn follow(p: &Picture, cut: &Cut, watch: &Watch) -> Result<Vec<Ring<Px>>, Stopped> {
    let field = Field::new(p, cut);
    let mut visited = vec![false; field.values.len()];
    let mut rings = Vec::new();
    for y in 0..field.rows - 1 {
        watch.step(y, field.rows)?;
        for x in 0..field.stride - 1 {
            let right = y * field.stride + x;
            // Every contour runs down somewhere, with ground on the screen's left and ink on its right.
            if field.values[right] < 0.0 && field.values[right + 1] > 0.0 && !visited[right] {
                rings.push(field.walk(right + 1, right, &mut visited));
            }
        }
    }
    Ok(rings)
}

impl Field {
    fn new(p: &Picture, cut: &Cut) -> Self {
        let (w, h) = (p.width as usize, p.height as usize);
        let stride = w + 2;
        let source = if cut.by_alpha { p.alpha.as_deref().unwrap_or(&p.grey) } else { &p.grey };
        #[expect(clippy::cast_possible_truncation, reason = "a grey needs no 53 bits")]
        let table: [f32; 256] = std::array::from_fn(|g| {
            let v = (cut.at - g as f64) as f32;
            let v = if cut.light_is_ink { -v } else { v };
            if v == 0.0 { -1e-3 } else { v }
        });
        let mut values = vec![-1.0f32; stride * (h + 2)];
        for y in 0..h {
            let row = &mut values[(y + 1) * stride + 1..][..w];
            for (v, g) in row.iter_mut().zip(&source[y * w..][..w]) {
                *v = table[usize::from(*g)];
            }
        }
        let mut field = Self { stride, rows: h + 2, values };
        if is_one_bit(source) {
            field.soften();
        }
        field.frame();
        field
    }

    /// Takes the stairs out of a picture without greys: binomial weights 1 2 1, both ways.
    fn soften(&mut self) {
        let (s, old) = (self.stride, self.values.clone());
        for y in 1..self.rows - 1 {
            for x in 1..s - 1 {
                let at = |dy: isize, dx: isize| {
                    let clamp = |v: usize, d: isize, n: usize| v.saturating_add_signed(d).clamp(1, n - 2);
                    old[clamp(y, dy, self.rows) * s + clamp(x, dx, s)]
                };
                let row = |dy| at(dy, -1) + 2.0 * at(dy, 0) + at(dy, 1);
                let v = (row(-1) + 2.0 * row(0) + row(1)) / 16.0;
                self.values[y * s + x] = if v == 0.0 { -1e-3 } else { v };
            }
        }
    }

    /// Sets the frame so that ink at the picture's border ends exactly there.
    fn frame(&mut self) {
        let (s, r) = (self.stride, self.rows);
        for x in 1..s - 1 {
            self.values[x] = -self.values[s + x].abs();
            self.values[(r - 1) * s + x] = -self.values[(r - 2) * s + x].abs();
        }
        for y in 1..r - 1 {
            self.values[y * s] = -self.values[y * s + 1].abs();
            self.values[y * s + s - 1] = -self.values[y * s + s - 2].abs();
        }
    }

    /// Walks once round, from the crossing between `left` (ink) and `right` (ground), ink always on the left.
    fn walk(&self, left: usize, right: usize, visited: &mut [bool]) -> Ring<Px> {
        let s = self.stride.cast_signed();
        let (mut l, mut r) = (left, right);
        let mut points = Vec::new();
        loop {
            points.push(self.crossing(l, r));
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
                // A saddle: the mean of the four says whether the ink is connected across.
                (false, true) => self.values[l] + self.values[r] + self.values[ahead_l] + self.values[ahead_r] <= 0.0,
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
        Ring(points)
    }

    fn crossing(&self, l: usize, r: usize) -> Point<Px> {
        let (vl, vr) = (f64::from(self.values[l]), f64::from(self.values[r]));
        let t = vl / (vl - vr);
        let at = |i: usize| ((i % self.stride) as f64 - 0.5, (i / self.stride) as f64 - 0.5);
        let ((lx, ly), (rx, ry)) = (at(l), at(r));
        Point::new(lx + t * (rx - lx), ly + t * (ry - ly))
    }
}

fn is_one_bit(source: &[u8]) -> bool {
    let first = source.first().copied().unwrap_or(0);
    let other = source.iter().copied().find(|&g| g != first);
    other.is_some_and(|o| source.iter().all(|&g| g == first || g == o))
}
