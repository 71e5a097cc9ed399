//! What a maker decides of a picture before it is traced.

use kachel_geom::{Point, Px};
use serde::{Deserialize, Serialize};

/// Most strokes of a design.
pub const MAX_STROKES: usize = 500;
/// Most points over all strokes.
pub const MAX_STROKE_POINTS: usize = 100_000;
/// A sheet or card of known size that lies in the photo.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Sheet {
    /// 210 x 297 mm (ISO 216).
    A4,
    /// 8.5 x 11 in (ANSI/ASME Y14.1, size A; from memory).
    Letter,
    /// A bank card: ID-1 of ISO/IEC 7810, 85.60 x 53.98 mm.
    Card,
    /// Any other rectangle.
    Other {
        /// Its longer side, mm.
        long: f64,
        /// Its shorter side, mm.
        short: f64,
    },
}

impl Sheet {
    /// Longer and shorter side, mm.
    pub const fn sides(self) -> (f64, f64) {
        match self {
            Self::A4 => (297.0, 210.0),
            Self::Letter => (279.4, 215.9),
            Self::Card => (85.60, 53.98),
            Self::Other { long, short } => (long, short),
        }
    }
}

/// What a stroke does.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum StrokeKind {
    /// Makes it ground.
    RubOut,
    /// Makes it ink.
    Draw,
    /// Makes the area of one shade round its first point ink.
    Fill,
    /// Makes the area of one shade round its first point ground.
    Clear,
}

/// One stroke of the brush.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Stroke {
    /// What it does.
    pub kind: StrokeKind,
    /// Where it runs, pixels of the original picture.
    pub points: Vec<Point<Px>>,
    /// Half the brush's width, pixels of the original picture, 0.5 to 500.
    pub radius: f64,
    /// The colour that it draws with where ink is found by colour.
    pub colour: Option<[u8; 3]>,
}
/// What is done to the picture before it is traced, in this order: level, tidy, straighten, flip, turn, crop.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Prepare {
    /// Divides the picture by its paper's brightness.
    pub level: bool,
    /// Strokes of the brush, in order.
    pub strokes: Vec<Stroke>,
    /// Makes a sheet that was photographed at a slant a rectangle again.
    pub straighten: Option<Straighten>,
    /// Swaps left and right.
    pub flip: bool,
    /// Quarter turns clockwise, 0 to 3.
    pub quarter_turns: u8,
    /// Degrees clockwise on top of these, -45 to 45.
    pub degrees: f64,
    /// The part that is kept, in pixels of the turned picture.
    pub crop: Option<Crop>,
}

/// Four corners of a sheet of known size.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Straighten {
    /// Clockwise from the top left one, pixels of the original picture.
    pub corners: [Point<Px>; 4],
    /// What lies there.
    pub sheet: Sheet,
}

/// A part of the picture.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Crop {
    /// Left edge.
    pub x: f64,
    /// Upper edge.
    pub y: f64,
    /// Width, at least 1.
    pub width: f64,
    /// Height, at least 1.
    pub height: f64,
}

/// Colours that strokes and bare corners get, so that they count as ink and as ground.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
pub struct Paint {
    /// sRGB of ink.
    pub ink: [u8; 3],
    /// sRGB of ground.
    pub ground: [u8; 3],
}

impl Default for Paint {
    fn default() -> Self {
        Self { ink: [0; 3], ground: [255; 3] }
    }
}
