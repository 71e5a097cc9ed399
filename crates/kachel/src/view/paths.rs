//! Lines as SVG paths.

use kachel_geom::{Curve, Px, Region, Ring, Space};
use std::fmt::Write as _;

pub(super) fn curves_path<'a>(curves: impl IntoIterator<Item = &'a Curve<Px>>) -> String {
    let mut path = String::new();
    curves.into_iter().for_each(|c| kachel_exchange::write_curve(&mut path, c));
    path
}

pub(crate) fn region_path(r: &Region) -> String {
    rings_path(&r.rings_mm())
}

/// Rings with y up as a path with y down.
pub(super) fn rings_path<S: Space>(rings: &[Ring<S>]) -> String {
    let mut path = String::new();
    rings.iter().for_each(|ring| write_ring(&mut path, ring.0.iter().map(|p| (p.x, -p.y))));
    path
}

/// Appends a closed subpath, to a thousandth.
fn write_ring(path: &mut String, points: impl Iterator<Item = (f64, f64)>) {
    let short = |v: f64| (v * 1000.0).round() / 1000.0 + 0.0;
    for (i, (x, y)) in points.enumerate() {
        let _ = write!(path, "{}{} {}", if i == 0 { 'M' } else { 'L' }, short(x), short(y));
    }
    path.push('Z');
}
