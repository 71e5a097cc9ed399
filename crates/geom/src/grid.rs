use crate::{Mm, Point};
use kachel_words::{mm, msg, said};
use std::fmt;

/// Grid steps in a millimetre (2^14, so a step is 61 nm).
pub const GRID_PER_MM: f64 = 16384.0;
/// Largest absolute grid coordinate: 2^24 steps, the last integer that 32-bit floats count exactly.
pub const LIMIT: i32 = 1 << 24;
/// [`LIMIT`] in millimetres.
pub const LIMIT_MM: f64 = LIMIT as f64 / GRID_PER_MM;

/// A length that does not fit the grid (not a number, or beyond [`LIMIT_MM`]).
#[derive(Clone, Copy, Debug, PartialEq, thiserror::Error)]
pub struct OffGrid {
    /// The length that was refused, in millimetres.
    pub mm: f64,
}

said!(OffGrid: |e| msg!("off-grid", length = mm(e.mm), most = mm(LIMIT_MM)));

/// A length on the grid, in steps of 2^-14 mm, at most [`LIMIT`] in size.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Grid(i32);

impl Grid {
    /// Rounds a length in millimetres to the nearest grid step.
    pub fn from_mm(mm: f64) -> Result<Self, OffGrid> {
        let steps = (mm * GRID_PER_MM).round();
        if steps.abs() <= f64::from(LIMIT) {
            #[expect(clippy::cast_possible_truncation, reason = "the range was checked")]
            return Ok(Self(steps as i32));
        }
        Err(OffGrid { mm })
    }

    /// The number of grid steps.
    pub const fn steps(self) -> i32 {
        self.0
    }

    /// The length in millimetres; exact.
    pub fn mm(self) -> f64 {
        f64::from(self.0) / GRID_PER_MM
    }
}

/// A point on the grid; cannot be built out of range, so differences fit `i32` and cross
/// products of differences fit `i64` (2^25 * 2^25 * 2 = 2^51).
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct GridPoint {
    x: i32,
    y: i32,
}

impl GridPoint {
    /// A point from grid steps; `None` when a coordinate exceeds [`LIMIT`].
    pub fn new(x: i32, y: i32) -> Option<Self> {
        (x.unsigned_abs() <= LIMIT as u32 && y.unsigned_abs() <= LIMIT as u32).then_some(Self { x, y })
    }

    /// The nearest grid point to a point in millimetres.
    pub fn from_mm(p: Point<Mm>) -> Result<Self, OffGrid> {
        Ok(Self { x: Grid::from_mm(p.x)?.0, y: Grid::from_mm(p.y)?.0 })
    }

    /// Abscissa in steps.
    pub const fn x(self) -> i32 {
        self.x
    }

    /// Ordinate in steps.
    pub const fn y(self) -> i32 {
        self.y
    }

    /// The point in millimetres; exact.
    pub fn mm(self) -> Point<Mm> {
        Point::new(f64::from(self.x) / GRID_PER_MM, f64::from(self.y) / GRID_PER_MM)
    }

    /// The mirror image about the upright axis x = 0.
    #[must_use]
    pub const fn mirrored(self) -> Self {
        Self { x: -self.x, y: self.y }
    }
}

impl fmt::Debug for GridPoint {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "[{}, {}]", self.x, self.y)
    }
}

/// Twice the signed area of the triangle a, b, c: positive when it turns left. Exact.
pub fn orient(a: GridPoint, b: GridPoint, c: GridPoint) -> i64 {
    let (abx, aby) = (i64::from(b.x - a.x), i64::from(b.y - a.y));
    let (acx, acy) = (i64::from(c.x - a.x), i64::from(c.y - a.y));
    abx * acy - aby * acx
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_grid_length_up_to_the_limit_is_exact_in_single_precision() {
        // IEEE 754-2019, table 3.5: binary32 has p = 24, so integers up to 2^24 are exact.
        let mut steps: i32 = 1;
        while steps <= LIMIT {
            for s in [steps - 1, steps, -steps] {
                let mm = f64::from(s) / GRID_PER_MM;
                assert_eq!(f64::from(mm as f32), mm, "{s} steps");
            }
            steps = steps * 2 + 1;
        }
        assert_eq!(LIMIT_MM, 1024.0);
    }

    #[test]
    fn refuses_what_is_no_length() {
        for bad in [f64::NAN, f64::INFINITY, 1024.1, -1e9] {
            assert!(Grid::from_mm(bad).is_err(), "{bad}");
        }
        assert_eq!(Grid::from_mm(25.4).map(Grid::steps), Ok(416_154));
        assert!(GridPoint::new(LIMIT + 1, 0).is_none());
        assert!(GridPoint::new(i32::MIN, 0).is_none());
    }

    #[test]
    fn orientation_is_exact_at_the_corners_of_the_range() {
        let p = |x, y| GridPoint::new(x, y).unwrap();
        let (a, b) = (p(-LIMIT, -LIMIT), p(LIMIT, LIMIT));
        assert_eq!(orient(a, b, p(0, 0)), 0);
        assert!(orient(a, b, p(0, 1)) > 0);
        assert!(orient(a, b, p(1, 0)) < 0);
    }
}
