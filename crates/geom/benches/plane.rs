//! Join and grow in the plane, side by side with an independent library each in one run: joining is i_overlay's, beside
//! clipper2-rust; growing has lines of ours that clipper2-rust unites, beside i_overlay's and
//! clipper2-rust's own. Run by `make bench`.

use clipper2_rust::{EndType, FillRule, JoinType, Path64, Paths64, Point64, inflate_paths_64, union_64};
use criterion::{Criterion, criterion_group, criterion_main};
use i_overlay::mesh::float::outline::offset::OutlineOffset;
use i_overlay::mesh::float::style::{LineJoin, OutlineStyle};
use imageproc::distance_transform::euclidean_squared_distance_transform;
use kachel_geom::{
    ARC_TOLERANCE_MM, BoolOp, GRID_PER_MM, Point, Region, Ring, SOURCE_DEVIATION_MM, combine, offset, simplify, widths,
};
use std::f64::consts::TAU;
use std::hint::black_box;

/// A wavy blob of `n` nodes, 80 mm across, its middle at `x`.
fn blob(n: u32, x: f64) -> Region {
    let at = |k: u32| {
        let a = TAU * f64::from(k) / f64::from(n);
        let r = 40.0 + 3.0 * (11.0 * a).sin() + 0.4 * (97.0 * a).cos();
        Point::new(x + r * a.cos(), r * a.sin())
    };
    Region::from_mm(&[Ring((0..n).map(at).collect())]).unwrap()
}

fn theirs(r: &Region) -> Paths64 {
    let path = |ring: &Vec<kachel_geom::GridPoint>| -> Path64 {
        ring.iter().map(|p| Point64::new(i64::from(p.x()), i64::from(p.y()))).collect()
    };
    r.rings().iter().map(path).collect()
}

fn plane(c: &mut Criterion) {
    let (a, b) = (blob(5000, -10.0), blob(5000, 14.0));
    c.bench_function("two areas of 5000 nodes joined: kachel", |t| {
        t.iter(|| black_box(combine(&a, &b, BoolOp::Join).unwrap()));
    });
    let both: Paths64 = theirs(&a).into_iter().chain(theirs(&b)).collect();
    c.bench_function("two areas of 5000 nodes joined: clipper2-rust", |t| {
        t.iter(|| black_box(union_64(&both, &Paths64::new(), FillRule::NonZero)));
    });
    c.bench_function("an area of 5000 nodes grown by 1 mm: kachel", |t| {
        t.iter(|| black_box(offset(&a, 1.0).unwrap()));
    });
    // With fewer nodes first, as ours.
    let simple = || -> Vec<Ring<_>> { a.rings_mm().iter().map(|r| simplify(r, SOURCE_DEVIATION_MM)).collect() };
    c.bench_function("an area of 5000 nodes grown by 1 mm: i_overlay", |t| {
        let angle = 2.0 * (1.0 - ARC_TOLERANCE_MM).acos();
        let style = OutlineStyle::new(1.0).line_join(LineJoin::Round(angle));
        t.iter(|| {
            let contours: Vec<Vec<[f64; 2]>> =
                simple().iter().map(|r| r.0.iter().map(|p| [p.x, p.y]).collect()).collect();
            black_box(contours.outline(&style))
        });
    });
    c.bench_function("an area of 5000 nodes grown by 1 mm: clipper2-rust", |t| {
        t.iter(|| {
            let paths = theirs(&Region::from_mm(&simple()).unwrap());
            let arc = ARC_TOLERANCE_MM * GRID_PER_MM;
            black_box(inflate_paths_64(&paths, GRID_PER_MM, JoinType::Round, EndType::Polygon, 2.0, arc))
        });
    });
}

/// Side of a pixel of the distance transform, mm.
const PIXEL_MM: f64 = 0.02;

/// How wide a wall of 2000 nodes is at its thinnest: by shrinking discs, and by the exact distance transform of imageproc, whose
/// raster is ready before it is timed.
fn widths_of(c: &mut Criterion) {
    let outer = blob(1000, 0.0);
    let wall = outer.with_hole(&offset(&outer, -1.6).unwrap());
    c.bench_function("thinnest width of a wall: kachel", |t| {
        t.iter(|| black_box(widths(&wall, 0.3, 3.0).iter().map(|w| w.across).fold(f64::INFINITY, f64::min)));
    });
    let b = wall.bounds().unwrap().grown(1.0);
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few thousand pixels")]
    let (wide, high) = ((b.width() / PIXEL_MM) as u32, (b.height() / PIXEL_MM) as u32);
    // White is outside: the transform gives the distance from there.
    let mut raster = image::GrayImage::from_pixel(wide, high, image::Luma([255]));
    for y in 0..high {
        for (from, to) in wall.spans(b.min.y + (f64::from(y) + 0.5) * PIXEL_MM) {
            let column = |x: f64| (x - b.min.x) / PIXEL_MM - 0.5;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "within the raster")]
            let inside = column(from).ceil() as u32..=column(to).floor() as u32;
            inside.for_each(|x| raster.put_pixel(x, y, image::Luma([0])));
        }
    }
    let mut group = c.benchmark_group("thinnest width of a wall");
    group.sample_size(10);
    group.bench_function("imageproc, distance transform at 0.02 mm", |t| {
        t.iter(|| black_box(euclidean_squared_distance_transform(&raster).width()));
    });
    group.finish();
}

criterion_group!(benches, plane, widths_of);
criterion_main!(benches);
