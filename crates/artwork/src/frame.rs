//! Frames: the original picture's pixels, and the prepared picture's after straightening, flipping and turning.

use crate::error::{ArtworkError, PrepareError, WORKING_PIXELS};
use crate::linear::solve;
use crate::settings::{Prepare, Sheet};
use kachel_geom::{Point, Px};

/// A projective map of the plane, by rows.
pub(crate) type Matrix = [f64; 9];

const IDENTITY: Matrix = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0];
/// How far beyond the sheet a straightened picture reaches, in sides of the sheet: towards the horizon it has no end.
const REACH: f64 = 3.0;

/// How the prepared picture lies on the original one.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Frame {
    /// Pixels across of the prepared picture, before the crop.
    pub width: f64,
    /// Pixels down.
    pub height: f64,
    /// From prepared pixels to original ones; projective, by rows.
    pub to_original: [f64; 9],
    /// The other way.
    pub from_original: [f64; 9],
    /// Millimetres a pixel, where the picture was straightened by a sheet of known size.
    pub mm_per_px: Option<f64>,
}

impl Frame {
    /// The frame of a picture or drawing of that size.
    pub fn of((width, height): (f64, f64), p: &Prepare) -> Result<Self, ArtworkError> {
        let mut size = (width, height);
        let mut m = IDENTITY;
        let mut mm_per_px = None;
        if let Some(s) = &p.straighten {
            let (map, to, scale) = straightened(size, s.corners, s.sheet)?;
            (m, size, mm_per_px) = (map, to, Some(scale));
        }
        if p.flip {
            m = multiply([-1.0, 0.0, size.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0], m);
        }
        for _ in 0..p.quarter_turns % 4 {
            // Clockwise on the screen: what was left is above.
            m = multiply([0.0, -1.0, size.1, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0], m);
            size = (size.1, size.0);
        }
        if p.degrees != 0.0 {
            let (sin, cos) = p.degrees.to_radians().sin_cos();
            let to = (size.0 * cos.abs() + size.1 * sin.abs(), size.0 * sin.abs() + size.1 * cos.abs());
            let (cx, cy) = (size.0 / 2.0, size.1 / 2.0);
            let turn = [
                cos,
                -sin,
                to.0 / 2.0 - cos * cx + sin * cy,
                sin,
                cos,
                to.1 / 2.0 - sin * cx - cos * cy,
                0.0,
                0.0,
                1.0,
            ];
            m = multiply(turn, m);
            size = (to.0.ceil(), to.1.ceil());
        }
        let to_original = inverse(m).ok_or(PrepareError::CornersCross)?;
        Ok(Self { width: size.0, height: size.1, to_original, from_original: m, mm_per_px })
    }

    /// Whether nothing was moved.
    pub fn is_original(&self) -> bool {
        self.from_original == IDENTITY
    }

    /// A point of the prepared picture in the original one.
    pub fn original(&self, p: Point<Px>) -> Point<Px> {
        apply(&self.to_original, p.xy()).into()
    }

    /// A point of the original picture in the prepared one.
    pub fn prepared(&self, p: Point<Px>) -> Point<Px> {
        apply(&self.from_original, p.xy()).into()
    }
}

pub(crate) fn apply(m: &Matrix, [x, y]: [f64; 2]) -> [f64; 2] {
    let w = m[6] * x + m[7] * y + m[8];
    [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w]
}

fn multiply(a: Matrix, b: Matrix) -> Matrix {
    std::array::from_fn(|i| (0..3).map(|k| a[i / 3 * 3 + k] * b[k * 3 + i % 3]).sum())
}

fn inverse(m: Matrix) -> Option<Matrix> {
    let cofactor = |r: usize, c: usize| {
        let [a, b] = [(r + 1) % 3, (r + 2) % 3];
        let [d, e] = [(c + 1) % 3, (c + 2) % 3];
        m[a * 3 + d] * m[b * 3 + e] - m[a * 3 + e] * m[b * 3 + d]
    };
    let det: f64 = (0..3).map(|c| m[c] * cofactor(0, c)).sum();
    (det.abs() > 1e-12).then(|| std::array::from_fn(|i| cofactor(i % 3, i / 3) / det))
}

/// The map that makes the four corners (clockwise from the top left one) a rectangle in the sheet's proportion, the size
/// of the straightened picture, and its millimetres a pixel.
fn straightened(
    size: (f64, f64),
    corners: [Point<Px>; 4],
    sheet: Sheet,
) -> Result<(Matrix, (f64, f64), f64), PrepareError> {
    let corners = corners.map(Point::xy);
    if !corners.iter().flatten().all(|v| v.is_finite()) {
        return Err(PrepareError::CornersCross);
    }
    let side = |a: usize, b: usize| (corners[a][0] - corners[b][0]).hypot(corners[a][1] - corners[b][1]);
    // Clockwise and convex, with y down: every turn is to the right and none is next to none.
    let turns = (0..4).all(|i| {
        let [a, b, c] = [corners[i], corners[(i + 1) % 4], corners[(i + 2) % 4]];
        let cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
        cross > 0.02 * side(i, (i + 1) % 4) * side((i + 1) % 4, (i + 2) % 4) && side(i, (i + 1) % 4) > 4.0
    });
    if !turns {
        return Err(PrepareError::CornersCross);
    }
    let (long, short) = sheet.sides();
    if !(short > 1.0 && long < 5000.0 && long >= short) {
        return Err(PrepareError::SheetSize);
    }
    let is_wide = side(0, 1) + side(2, 3) >= side(1, 2) + side(3, 0);
    let (w_mm, h_mm) = if is_wide { (long, short) } else { (short, long) };
    let area =
        (0..4).map(|i| corners[i][0] * corners[(i + 1) % 4][1] - corners[(i + 1) % 4][0] * corners[i][1]).sum::<f64>()
            / 2.0;
    let mut px_per_mm = (area / (w_mm * h_mm)).sqrt();
    let map = |scale: f64| {
        let (w, h) = (w_mm * scale, h_mm * scale);
        homography(corners, [[0.0, 0.0], [w, 0.0], [w, h], [0.0, h]])
    };
    let m = map(px_per_mm).ok_or(PrepareError::CornersCross)?;
    let (w, h) = (w_mm * px_per_mm, h_mm * px_per_mm);
    // What of the picture can be seen on this side of the horizon, not too far from the sheet.
    let (mut low, mut high) = ([0.0f64, 0.0], [w, h]);
    for k in 0..=64 {
        let t = f64::from(k) / 64.0;
        for q in [[t, 0.0], [t, 1.0], [0.0, t], [1.0, t]] {
            let q = [q[0] * size.0, q[1] * size.1];
            let [x, y] = if m[6] * q[0] + m[7] * q[1] + m[8] > 1e-9 { apply(&m, q) } else { continue };
            low = [low[0].min(x), low[1].min(y)];
            high = [high[0].max(x), high[1].max(y)];
        }
    }
    low = [low[0].max(-REACH * w), low[1].max(-REACH * h)];
    high = [high[0].min((1.0 + REACH) * w), high[1].min((1.0 + REACH) * h)];
    let pixels = (high[0] - low[0]) * (high[1] - low[1]);
    let shrink = (WORKING_PIXELS as f64 / pixels).sqrt().min(1.0);
    px_per_mm *= shrink;
    let m = map(px_per_mm).ok_or(PrepareError::CornersCross)?;
    let (low, high) = (low.map(|v| (v * shrink).floor()), high.map(|v| (v * shrink).ceil()));
    let shift = [1.0, 0.0, -low[0], 0.0, 1.0, -low[1], 0.0, 0.0, 1.0];
    Ok((multiply(shift, m), (high[0] - low[0], high[1] - low[1]), 1.0 / px_per_mm))
}

/// The projective map that takes four points to four others.
fn homography(from: [[f64; 2]; 4], to: [[f64; 2]; 4]) -> Option<Matrix> {
    let mut a = Vec::with_capacity(8);
    let mut b = Vec::with_capacity(8);
    for ([x, y], [u, v]) in from.into_iter().zip(to) {
        a.push(vec![x, y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y]);
        a.push(vec![0.0, 0.0, 0.0, x, y, 1.0, -v * x, -v * y]);
        b.extend([u, v]);
    }
    let h = solve(a, b)?;
    let mut m = IDENTITY;
    m[..8].copy_from_slice(&h);
    Some(m)
}
