//! Uneven light: the paper's brightness is fitted over the whole picture, and the picture divided by it.

use crate::Picture;
use crate::linear::solve;

/// Blocks along each side from which the paper's brightness is estimated.
const BLOCKS: usize = 24;
/// Terms of a polynomial of degree 3 in two variables.
const TERMS: usize = 10;
/// Grey that paper gets.
const PAPER: f64 = 245.0;
/// Weight of a block that is darker than the fit: most likely it has ink on it.
const INK_WEIGHT: f64 = 0.03;
/// Pixels between places at which the fit is computed; it is linear in between.
const STEP: usize = 16;

/// Logarithm of the paper's brightness over the picture, both sides from -1 to 1.
struct Light([f64; TERMS]);

fn terms(x: f64, y: f64) -> [f64; TERMS] {
    [1.0, x, y, x * x, x * y, y * y, x * x * x, x * x * y, x * y * y, y * y * y]
}

impl Light {
    fn at(&self, x: f64, y: f64) -> f64 {
        terms(x, y).iter().zip(self.0).map(|(t, c)| t * c).sum::<f64>().exp()
    }

    fn of(blocks: &[(f64, f64, f64)]) -> Option<Self> {
        let mut light = Self([0.0; TERMS]);
        let mut weights = first_weights(blocks);
        // Asymmetric least squares: blocks below the fit count little, so that it settles on the paper.
        for _ in 0..12 {
            let mut a = vec![vec![0.0; TERMS]; TERMS];
            let mut b = vec![0.0; TERMS];
            for ((x, y, bright), w) in blocks.iter().zip(&weights) {
                let t = terms(*x, *y);
                for i in 0..TERMS {
                    b[i] += w * t[i] * bright.ln();
                    (0..TERMS).for_each(|j| a[i][j] += w * t[i] * t[j]);
                }
            }
            // A touch of stiffness, so that corners without paper do not run away.
            (1..TERMS).for_each(|i| a[i][i] += 0.02);
            light = Self(solve(a, b)?.try_into().ok()?);
            for ((x, y, bright), w) in blocks.iter().zip(&mut weights) {
                let off = bright.ln() - light.at(*x, *y).ln();
                *w = if off < -0.25 {
                    INK_WEIGHT * 0.02
                } else if off < -0.03 {
                    INK_WEIGHT
                } else {
                    1.0
                };
            }
        }
        Some(light)
    }
}

/// Two classes of blocks that are further apart than this (logarithm of brightness) are paper and ink: light alone
/// changes slowly.
const APART: f64 = 0.9;

/// Where whole blocks are ink they count for nothing from the start, or a large shape would be taken for a shadow.
fn first_weights(blocks: &[(f64, f64, f64)]) -> Vec<f64> {
    let mut logs: Vec<f64> = blocks.iter().map(|b| b.2.ln()).collect();
    logs.sort_by(f64::total_cmp);
    let sums: Vec<f64> = std::iter::once(0.0)
        .chain(logs.iter().scan(0.0, |s, v| {
            *s += v;
            Some(*s)
        }))
        .collect();
    let n = logs.len();
    // The split with the largest variance between the classes (Otsu 1979, on values instead of bins).
    let mean = |a: usize, b: usize| (sums[b] - sums[a]) / (b - a) as f64;
    let between = |k: usize| (k * (n - k)) as f64 * (mean(k, n) - mean(0, k)).powi(2);
    let split = (1..n).max_by(|a, b| between(*a).total_cmp(&between(*b)));
    match split {
        Some(k) if mean(k, n) - mean(0, k) > APART => {
            blocks.iter().map(|b| if b.2.ln() >= logs[k] { 1.0 } else { INK_WEIGHT * 0.02 }).collect()
        }
        _ => vec![1.0; n],
    }
}

/// Middle (both sides from -1 to 1) and brightness of each block: that under which 85 of 100 pixels are.
fn blocks(p: &Picture) -> Vec<(f64, f64, f64)> {
    let (w, h) = (p.width as usize, p.height as usize);
    let (nx, ny) = (BLOCKS.min(w), BLOCKS.min(h));
    let mut out = Vec::with_capacity(nx * ny);
    for by in 0..ny {
        for bx in 0..nx {
            let (x0, x1) = (bx * w / nx, (bx + 1) * w / nx);
            let (y0, y1) = (by * h / ny, (by + 1) * h / ny);
            let stride = (((x1 - x0) * (y1 - y0)) / 900).max(1);
            let mut greys: Vec<u8> =
                (y0..y1).flat_map(|y| (x0..x1).map(move |x| y * w + x)).step_by(stride).map(|i| p.grey[i]).collect();
            let at = (greys.len() * 85 / 100).min(greys.len() - 1);
            let (_, bright, _) = greys.select_nth_unstable(at);
            let middle = |a: usize, b: usize, n: usize| (a + b) as f64 / n as f64 - 1.0;
            out.push((middle(x0, x1, w), middle(y0, y1, h), f64::from((*bright).max(1))));
        }
    }
    out
}

/// Flat art has so many tones at most ...
const TONES: usize = 4;
/// ... each this wide (logarithm of brightness) ...
const TONE: f64 = 0.02;
/// ... and blocks of those tones fill this share of it.
const FLAT_SHARE: f64 = 0.7;

/// Whether brightness jumps from a few tones to others, as in drawn art. Light changes little by little, so that blocks of
/// unevenly lit paper are of as many tones as there are.
fn is_flat(blocks: &[(f64, f64, f64)]) -> bool {
    let mut logs: Vec<f64> = blocks.iter().map(|b| b.2.ln()).collect();
    logs.sort_by(f64::total_cmp);
    let all = logs.len();
    let mut of_tones = 0;
    for _ in 0..TONES {
        // The window of a tone's width with the most blocks in it.
        let (mut from, mut best) = (0, (0, 0));
        for to in 0..logs.len() {
            while logs[to] - logs[from] > TONE {
                from += 1;
            }
            if to + 1 - from > best.0 {
                best = (to + 1 - from, from);
            }
        }
        of_tones += best.0;
        logs.drain(best.1..best.1 + best.0);
    }
    of_tones as f64 >= FLAT_SHARE * all as f64
}

/// How much the paper's brightness differs over the picture, brightest by darkest; 1 where it cannot be estimated, and for
/// art of flat tones.
pub fn unevenness(p: &Picture) -> f64 {
    let blocks = blocks(p);
    if is_flat(&blocks) {
        return 1.0;
    }
    let Some(light) = Light::of(&blocks) else { return 1.0 };
    let grid = || (-4..=4).flat_map(|y| (-4..=4).map(move |x| (f64::from(x) / 4.5, f64::from(y) / 4.5)));
    let (mut low, mut high) = (f64::INFINITY, 0.0f64);
    for (x, y) in grid() {
        let v = light.at(x, y);
        (low, high) = (low.min(v), high.max(v));
    }
    // Blocks of paper lie near the fit; where few do, there is no paper to speak of.
    let near = blocks.iter().filter(|(x, y, b)| (b.ln() - light.at(*x, *y).ln()).abs() < 0.08).count();
    let is_paper = near * 2 > BLOCKS.min(p.width as usize) * BLOCKS.min(p.height as usize);
    if is_paper && low > 1.0 { high / low } else { 1.0 }
}

/// The picture with its paper even.
pub(crate) fn level(p: &mut Picture) {
    let Some(light) = Light::of(&blocks(p)) else { return };
    let (w, h) = (p.width as usize, p.height as usize);
    let (nx, ny) = (w / STEP + 2, h / STEP + 2);
    let scale = |k: usize, n: usize| (2 * k * STEP) as f64 / n as f64 - 1.0;
    // Beyond the blocks' middles the fit is held, and nothing is brightened more than eightfold.
    let inside = |v: f64| v.clamp(-0.97, 0.97);
    #[expect(clippy::cast_possible_truncation, reason = "factors need no 53 bits")]
    let gain: Vec<f32> = (0..ny)
        .flat_map(|y| (0..nx).map(move |x| (x, y)))
        .map(|(x, y)| (PAPER / light.at(inside(scale(x, w)), inside(scale(y, h)))).clamp(0.5, 8.0) as f32)
        .collect();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to eight bits")]
    let lift = |v: u8, g: f32| (f32::from(v) * g).round().min(255.0) as u8;
    for y in 0..h {
        let (row, fy) = (y / STEP, (y % STEP) as f32 / STEP as f32);
        for x in 0..w {
            let (col, fx) = (x / STEP, (x % STEP) as f32 / STEP as f32);
            let at = |r: usize, c: usize| gain[r * nx + c];
            let top = at(row, col) + (at(row, col + 1) - at(row, col)) * fx;
            let bottom = at(row + 1, col) + (at(row + 1, col + 1) - at(row + 1, col)) * fx;
            let g = top + (bottom - top) * fy;
            let i = y * w + x;
            p.grey[i] = lift(p.grey[i], g);
            if let Some(c) = &mut p.colour {
                c[i] = c[i].map(|v| lift(v, g));
            }
        }
    }
}
