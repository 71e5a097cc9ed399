use crate::{Mm, OffGrid, Point, Region, Ring};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Where something lies and how far it is turned: first turned about its origin, then moved.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Pose {
    /// To the right, mm.
    pub x: f64,
    /// Upwards in plan, mm.
    pub y: f64,
    /// Anticlockwise, degrees.
    pub degrees: f64,
}

impl Pose {
    /// Cosine and sine of the turn; exact for quarters.
    pub fn turn(&self) -> [f64; 2] {
        let d = self.degrees.rem_euclid(360.0);
        match d {
            0.0 => [1.0, 0.0],
            90.0 => [0.0, 1.0],
            180.0 => [-1.0, 0.0],
            270.0 => [0.0, -1.0],
            _ => [d.to_radians().cos(), d.to_radians().sin()],
        }
    }

    /// Where a point comes to lie.
    pub fn point(&self, p: Point<Mm>) -> Point<Mm> {
        let [c, s] = self.turn();
        Point::new(p.x * c - p.y * s + self.x, p.x * s + p.y * c + self.y)
    }

    /// Where rings come to lie.
    pub fn rings(&self, rings: &[Ring<Mm>]) -> Vec<Ring<Mm>> {
        rings.iter().map(|r| Ring(r.0.iter().map(|p| self.point(*p)).collect())).collect()
    }

    /// Where an area comes to lie, on the grid.
    pub fn region(&self, region: &Region) -> Result<Region, OffGrid> {
        Region::from_mm(&self.rings(&region.rings_mm()))
    }
}
