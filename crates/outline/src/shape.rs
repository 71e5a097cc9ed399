use crate::ranges::{bad, is_length, lengths};
use kachel_geom::{BoolOp, Mm, OffGrid, Point, Region, Ring, combine, join_all, stroke};
use kachel_words::Message;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// A shape of its own; lengths in mm.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "form", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Shape {
    /// A circle, or longer one way.
    Ellipse {
        /// Width.
        width: f64,
        /// Height.
        height: f64,
    },
    /// A rectangle.
    Rectangle {
        /// Width.
        width: f64,
        /// Height.
        height: f64,
        /// Radius of its corners.
        corner: f64,
    },
    /// A regular polygon.
    Polygon {
        /// 3 to 60.
        sides: u8,
        /// Across its corners.
        width: f64,
    },
    /// A star.
    Star {
        /// 3 to 60.
        points: u8,
        /// Across its tips.
        width: f64,
        /// Across its inner corners.
        inner: f64,
    },
    /// A ring.
    Ring {
        /// Across.
        width: f64,
        /// Across its hole.
        hole: f64,
    },
    /// A ring with a foot that reaches into what it is fixed to, downwards.
    Eyelet {
        /// Across the ring.
        width: f64,
        /// Across its hole.
        hole: f64,
        /// From the middle of the hole to the end of the foot.
        foot: f64,
    },
}

impl Shape {
    /// The length (mm) of that name, where it has one.
    pub(crate) fn length_mut(&mut self, name: &str) -> Option<&mut f64> {
        match (self, name) {
            (
                Self::Ellipse { width, .. }
                | Self::Rectangle { width, .. }
                | Self::Polygon { width, .. }
                | Self::Star { width, .. }
                | Self::Ring { width, .. }
                | Self::Eyelet { width, .. },
                "width",
            ) => Some(width),
            (Self::Ellipse { height, .. } | Self::Rectangle { height, .. }, "height") => Some(height),
            (Self::Rectangle { corner, .. }, "corner") => Some(corner),
            (Self::Star { inner, .. }, "inner") => Some(inner),
            (Self::Ring { hole, .. } | Self::Eyelet { hole, .. }, "hole") => Some(hole),
            (Self::Eyelet { foot, .. }, "foot") => Some(foot),
            _ => None,
        }
    }

    /// Why it can never be made.
    pub(crate) fn refusal(self) -> Option<Message> {
        let all_are = |all: &[f64]| (!all.iter().all(|v| is_length(*v))).then(lengths);
        let holed = |hole: f64, width: f64| bad(!(hole > 0.0 && hole < width), "ring-hole-range");
        match self {
            Self::Ellipse { width, height } => all_are(&[width, height]),
            Self::Rectangle { width, height, corner } => all_are(&[width, height]).or_else(|| {
                let is_corner = corner >= 0.0 && corner <= width.min(height) / 2.0 + 1e-9;
                bad(!is_corner, "corner-range")
            }),
            Self::Polygon { sides: n, width } => {
                all_are(&[width]).or_else(|| bad(!(3..=60).contains(&n), "sides-range"))
            }
            Self::Star { points: n, width, inner } => all_are(&[width])
                .or_else(|| bad(!(3..=60).contains(&n), "points-range"))
                .or_else(|| bad(!(inner > 0.0 && inner < width), "star-range")),
            Self::Ring { width, hole } => all_are(&[width]).or_else(|| holed(hole, width)),
            Self::Eyelet { width, hole, foot } => {
                all_are(&[width, foot]).or_else(|| holed(hole, width)).or_else(|| bad(foot < hole / 2.0, "foot-range"))
            }
        }
    }

    /// Its area about the middle.
    pub fn region(self) -> Result<Region, OffGrid> {
        let Self::Eyelet { width, hole, foot } = self else { return Region::from_mm(&self.rings()) };
        let bar = stroke(&[Point::new(0.0, 0.0), Point::new(0.0, -foot)], width * 0.6, false)?;
        let round = |width| Region::from_mm(&Self::Ellipse { width, height: width }.rings());
        combine(&join_all([&round(width)?, &bar])?, &round(hole)?, BoolOp::TakeAway)
    }

    /// Its rings about the middle, outer one anticlockwise.
    fn rings(self) -> Vec<Ring<Mm>> {
        let round = |w: f64, h: f64| {
            let n = steps(w.max(h) / 2.0);
            around(n, 0.0, |a| Point::new(w / 2.0 * a.cos(), h / 2.0 * a.sin()))
        };
        match self {
            Self::Ellipse { width, height } => vec![round(width, height)],
            Self::Rectangle { width, height, corner } => vec![rounded_rectangle(width, height, [corner; 4])],
            Self::Polygon { sides, width } => {
                vec![rounded_polygon(u32::from(sides), width, 0.0)]
            }
            Self::Star { points, width, inner } => {
                let n = 2 * u32::from(points);
                let tip = |k: u32| if k.is_multiple_of(2) { width / 2.0 } else { inner / 2.0 };
                let at = |k: u32| {
                    let a = PI / 2.0 + f64::from(k) * 2.0 * PI / f64::from(n);
                    Point::new(tip(k) * a.cos(), tip(k) * a.sin())
                };
                vec![Ring((0..n).map(at).collect())]
            }
            Self::Ring { width, hole } | Self::Eyelet { width, hole, .. } => {
                let mut inner = round(hole, hole);
                inner.0.reverse();
                vec![round(width, width), inner]
            }
        }
    }
}

/// A rectangle about the middle, anticlockwise, each corner with a radius of its own (mm): upper right, upper left, lower left,
/// lower right.
pub fn rounded_rectangle(width: f64, height: f64, corners: [f64; 4]) -> Ring<Mm> {
    let sides = [(1.0, 1.0), (-1.0, 1.0), (-1.0, -1.0), (1.0, -1.0)];
    let ring = corners.into_iter().zip(sides).enumerate().flat_map(|(k, (corner, (right, up)))| {
        let (cx, cy) = (right * (width / 2.0 - corner), up * (height / 2.0 - corner));
        let quarter = if corner > 0.0 { (steps(corner) / 4).max(1) } else { 0 };
        (0..=quarter).map(move |i| {
            let along = if quarter == 0 { 0.0 } else { f64::from(i) / f64::from(quarter) };
            let a = (k as f64 + along) * PI / 2.0;
            Point::new(cx + corner * a.cos(), cy + corner * a.sin())
        })
    });
    Ring(ring.collect())
}

/// A regular polygon about the middle, anticlockwise, one corner at the top; `width` is that of the circle round its sharp corners,
/// mm, and each corner has this radius, mm, or the largest that fits.
pub fn rounded_polygon(sides: u32, width: f64, radius: f64) -> Ring<Mm> {
    let turn = 2.0 * PI / f64::from(sides);
    let inner = width / 2.0 * (turn / 2.0).cos();
    let radius = radius.min(inner);
    if radius <= 0.0 {
        return around(sides, PI / 2.0, |a| Point::new(width / 2.0 * a.cos(), width / 2.0 * a.sin()));
    }
    // The arcs' middles lie on a smaller polygon of the same form.
    let off = (inner - radius) / (turn / 2.0).cos();
    let pieces = steps(radius).div_ceil(sides);
    let ring = (0..sides).flat_map(|k| {
        let way = PI / 2.0 + f64::from(k) * turn;
        (0..=pieces).map(move |i| {
            let a = way + (f64::from(i) / f64::from(pieces) - 0.5) * turn;
            Point::new(off * way.cos() + radius * a.cos(), off * way.sin() + radius * a.sin())
        })
    });
    Ring(ring.collect())
}

/// Largest distance (mm) of a drawn arc from its chords.
const ARC_MM: f64 = 0.004;

/// Chords of a full turn that miss a circle of that radius by no more than [`ARC_MM`].
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few hundred")]
fn steps(radius: f64) -> u32 {
    let a = 2.0 * (1.0 - (ARC_MM / radius.max(ARC_MM)).min(0.5)).acos();
    ((2.0 * PI / a).ceil() as u32).clamp(12, 4000).next_multiple_of(4)
}

fn around(n: u32, start: f64, at: impl Fn(f64) -> Point<Mm>) -> Ring<Mm> {
    Ring((0..n).map(|k| at(start + f64::from(k) * 2.0 * PI / f64::from(n))).collect())
}
