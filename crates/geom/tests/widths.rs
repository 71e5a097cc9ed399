//! Widths against an independent distance transform: imageproc's exact Euclidean one (P. F. Felzenszwalb, D. P. Huttenlocher,
//! 'Distance transforms of sampled functions', 2012), on a raster of 8 micrometres.

use image::{GrayImage, Luma};
use imageproc::distance_transform::euclidean_squared_distance_transform;
use kachel_geom::{Mm, Point, Region, Ring, Width, widths};
use kachel_oracle::{Random, for_all};
use std::f64::consts::TAU;

/// Pixels a millimetre.
const FINE: f64 = 130.0;
/// Side of the raster, mm.
const SIDE: f64 = 7.8;

/// A wavy ring round the middle; radii stay between 0.6 and 1.4 of the mean one.
fn wavy(random: &mut Random, at: (f64, f64), mean: f64) -> Ring<Mm> {
    let waves: Vec<(f64, f64, f64)> =
        (2..6).map(|k| (f64::from(k), random.between(0.0, 0.1), random.between(0.0, TAU))).collect();
    let point = |k: i32| {
        let a = TAU * f64::from(k) / 240.0;
        let r = mean * (1.0 + waves.iter().map(|(n, high, turn)| high * (n * a + turn).cos()).sum::<f64>());
        Point::new(at.0 + r * a.cos(), at.1 + r * a.sin())
    };
    Ring((0..240).map(point).collect())
}

/// Distance from a place to the nearest pixel outside, mm.
fn distances(area: &Region) -> impl Fn(Point<Mm>) -> f64 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few hundred pixels")]
    let n = (SIDE * FINE) as u32;
    let mut outside = GrayImage::new(n, n);
    for row in 0..n {
        let y = (f64::from(row) + 0.5) / FINE - SIDE / 2.0;
        let spans = area.spans(y);
        for column in 0..n {
            let x = (f64::from(column) + 0.5) / FINE - SIDE / 2.0;
            if !spans.iter().any(|(from, to)| (*from..*to).contains(&x)) {
                outside.put_pixel(column, row, Luma([255]));
            }
        }
    }
    let squared = euclidean_squared_distance_transform(&outside);
    move |p| {
        let place = |v: f64| ((v + SIDE / 2.0) * FINE - 0.5).clamp(0.0, f64::from(n) - 2.0);
        let (x, y) = (place(p.x), place(p.y));
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to the raster")]
        let (left, top) = (x as u32, y as u32);
        let at = |i, j| squared.get_pixel(left + i, top + j).0[0].sqrt();
        // The middle lies on a ridge: the highest of the four is nearest to it.
        let across = at(0, 0).max(at(1, 0)).max(at(0, 1)).max(at(1, 1));
        // The border runs half a pixel before the centre of the first pixel outside, on average.
        (across - 0.5) / FINE
    }
}

/// The two places where the middle of the disc may be.
fn centres(w: &Width) -> [Point<Mm>; 2] {
    let (middle, chord) = (w.middle(), w.at.distance(w.opposite));
    let off = (w.across * w.across - chord * chord).max(0.0).sqrt() / 2.0;
    let (x, y) = ((w.opposite.y - w.at.y) / chord * off, (w.at.x - w.opposite.x) / chord * off);
    [Point::new(middle.x + x, middle.y + y), Point::new(middle.x - x, middle.y - y)]
}

#[test]
fn widths_are_those_of_a_distance_transform() {
    let measured = std::cell::Cell::new(0);
    for_all(200, |random| {
        let (large, small) = (random.between(2.2, 2.8), random.between(1.0, 1.5));
        let aside = (random.between(-0.3, 0.3), random.between(-0.3, 0.3));
        let outer = wavy(random, (0.0, 0.0), large);
        let mut hole = wavy(random, aside, small);
        hole.0.reverse();
        let area = Region::from_mm([&outer, &hole]).unwrap();
        let far = distances(&area);
        let all: Vec<Width> = widths(&area, 0.2, 1.5);
        for w in &all {
            let by_raster = 2.0 * centres(w).map(&far).into_iter().fold(0.0, f64::max);
            assert!((by_raster - w.across).abs() < 0.02, "{w:?}: {by_raster} by the raster");
        }
        measured.set(measured.get() + all.len());
    });
    assert!(measured.get() > 5000, "{} widths", measured.get());
}
