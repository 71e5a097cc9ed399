//! Straight lines over an area.

use crate::model::{Kind, Lines};
use kachel_geom::{Mm, Point, Region, spans_between};

/// Lines of a width over an area, so far apart, in a direction, one after the other to and fro. They lie on the same grid in
/// every layer, so that layers rest on each other.
pub(crate) fn straight(area: &Region, kind: Kind, width: f64, apart: f64, degrees: f64) -> Vec<Lines> {
    let (sin, cos) = degrees.to_radians().sin_cos();
    let at = |along: f64, off: f64| Point::<Mm>::new(along * cos - off * sin, along * sin + off * cos);
    let mut all: Vec<Lines> = Vec::new();
    for (k, mut row) in rows(area, apart, (sin, cos)).into_iter().enumerate() {
        row.spans.retain(|s| s[1] - s[0] > width / 4.0);
        if k % 2 == 1 {
            row.spans.reverse();
            row.spans.iter_mut().for_each(|s| s.reverse());
        }
        let line =
            |[a, b]: [f64; 2]| Lines { kind, points: vec![at(a, row.off), at(b, row.off)], is_closed: false, width };
        all.extend(row.spans.iter().map(|s| line(*s)));
    }
    all
}

/// A line right across.
struct Row {
    /// How far it lies off the origin, mm.
    off: f64,
    /// From where to where along it the area reaches, mm.
    spans: Vec<[f64; 2]>,
}

/// All rows over an area; each edge is looked at once.
fn rows(area: &Region, apart: f64, (sin, cos): (f64, f64)) -> Vec<Row> {
    let turned = |p: Point<Mm>| (p.x * cos + p.y * sin, p.y * cos - p.x * sin);
    let rings = area.rings_mm();
    let across = || rings.iter().flat_map(|r| &r.0).map(|p| turned(*p).1);
    let (low, high) = across().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    let first = (low / apart - 0.5).ceil();
    let count = (high / apart - 0.5).ceil() - first;
    if !(count > 0.0 && count < MOST_ROWS) {
        return vec![];
    }
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "in range: see above")]
    let mut crossings: Vec<Vec<(f64, i32)>> = vec![vec![]; count as usize];
    for (a, b) in rings.iter().flat_map(|r| r.edges()) {
        let (a, b) = (turned(a), turned(b));
        let (from, to) = if a.1 < b.1 { (a.1, b.1) } else { (b.1, a.1) };
        // Rows at the lower end count, those at the upper end belong to the next edge.
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "held in the range")]
        let row = |v: f64| ((v / apart - 0.5).ceil() - first).clamp(0.0, count) as usize;
        let first_row = row(from);
        for (k, row) in crossings[first_row..row(to).max(first_row)].iter_mut().enumerate() {
            let k = k + first_row;
            let off = (first + k as f64 + 0.5) * apart;
            let along = a.0 + (off - a.1) / (b.1 - a.1) * (b.0 - a.0);
            row.push((along, if b.1 > a.1 { 1 } else { -1 }));
        }
    }
    let row = |(k, row)| Row {
        off: (first + k as f64 + 0.5) * apart,
        spans: spans_between(row).into_iter().map(|(a, b)| [a, b]).collect(),
    };
    crossings.into_iter().enumerate().map(row).collect()
}

/// Rows over an area, at most: two metres of lines of 0.02 mm.
const MOST_ROWS: f64 = 100_000.0;
