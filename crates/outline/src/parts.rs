//! What changes are made of.

use crate::drawn::DrawnLine;
use crate::patch::{Patch, Use};
use crate::spot::Likeness;
use kachel_geom::Mm;
use serde::{Deserialize, Serialize};

/// Which end of a box.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Side {
    /// Left, or upper.
    Start,
    /// The middle.
    Middle,
    /// Right, or lower.
    End,
}

/// What patches are lined up with.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum LineUpWith {
    /// The box of the edge: the whole object.
    Object,
    /// The box round all of them.
    Each,
    /// The first one, which stays.
    First,
}

/// What a traced patch was like when its nodes were taken over, so that it is seen when the picture has moved on.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Seen {
    /// Its area, square pixels.
    pub area: f64,
    /// Left, upper, right and lower end of its box, pixels.
    pub span: [f64; 4],
}

/// Pixels by which the box of a patch may differ before it has moved on.
const SAME_PX: f64 = 0.75;

impl Seen {
    /// What the patch is like now.
    pub fn of(p: &Patch) -> Self {
        Self { area: p.area_px2, span: Likeness::of(p).span }
    }

    /// Whether a patch like `now` is still the same one.
    pub fn is_like(&self, now: &Self) -> bool {
        let near = self.span.iter().zip(&now.span).all(|(a, b)| (a - b).abs() <= SAME_PX);
        near && (self.area - now.area).abs() <= 0.01 * self.area.abs().max(10.0)
    }
}

/// A patch that comes from elsewhere.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Piece {
    /// Its closed lines, mm, y down; what lies in an even number of them is left out.
    #[ts(type = "Array<unknown>")]
    pub lines: Vec<DrawnLine<Mm>>,
    /// Its use.
    #[serde(rename = "use")]
    pub use_: Use,
}
