//! Straight lines over an area.

use crate::model::{Kind, Lines};
use kachel_geom::{Mm, Point, Region};

/// Lines of a width over an area, so far apart, in a direction, one after the other to and fro. They lie on the same grid in every
/// layer, so that layers rest on each other.
pub(crate) fn straight(area: &Region, kind: Kind, width: f64, apart: f64, degrees: f64) -> Vec<Lines> {
    let Some(b) = area.bounds() else { return vec![] };
    let (sin, cos) = degrees.to_radians().sin_cos();
    let across = b.corners().map(|p| p.y * cos - p.x * sin);
    let (low, high) = across.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(*v), h.max(*v)));
    let mut all: Vec<Lines> = Vec::new();
    let mut k = (low / apart - 0.5).ceil();
    let mut is_back = false;
    while (k + 0.5) * apart < high {
        let off = (k + 0.5) * apart;
        let through = Point::new(-sin * off, cos * off);
        let at = |t: f64| Point::<Mm>::new(through.x + t * cos, through.y + t * sin);
        let mut row: Vec<[f64; 2]> = area
            .spans_along(through, degrees)
            .into_iter()
            .map(|(a, b)| [a, b])
            .filter(|s| s[1] - s[0] > width / 4.0)
            .collect();
        if is_back {
            row.reverse();
            row.iter_mut().for_each(|s| s.reverse());
        }
        is_back = !is_back;
        all.extend(row.into_iter().map(|[a, b]| Lines { kind, points: vec![at(a), at(b)], is_closed: false, width }));
        k += 1.0;
    }
    all
}
