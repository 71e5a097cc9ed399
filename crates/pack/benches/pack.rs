//! Fifty pieces arranged on beds of 220 mm. Run by `make bench`.

use criterion::{Criterion, criterion_group, criterion_main};
use kachel_geom::{Mm, Point, Region, Ring, Watch};
use kachel_pack::{Turns, Wish, pack};
use std::f64::consts::TAU;
use std::hint::black_box;

/// A wavy leaf of 300 nodes with a hole.
fn leaf(k: u32) -> Region {
    let ring = |r: f64, way: f64| {
        let at = |n: u32| {
            let a = way * TAU * f64::from(n) / 300.0;
            let r = r * (1.0 + 0.25 * (f64::from(3 + k % 5) * a).sin());
            Point::<Mm>::new(r * a.cos(), 0.8 * r * a.sin())
        };
        Ring((0..300).map(at).collect())
    };
    let size = 12.0 + 1.7 * f64::from(k);
    Region::from_mm(&[ring(size, 1.0), ring(0.5 * size, -1.0)]).unwrap()
}

fn fifty(c: &mut Criterion) {
    let shapes: Vec<Region> = (0..10).map(leaf).collect();
    let pieces: Vec<usize> = (0..50).map(|k| k % 10).collect();
    let wish = Wish { bed: [220.0, 220.0], edge: 2.0, gap: 3.0, turns: Turns::Any };
    let mut group = c.benchmark_group("bed");
    group.sample_size(10);
    group.bench_function("50 pieces of 10 shapes arranged, any turns", |t| {
        t.iter(|| black_box(pack(&shapes, &pieces, &[], &wish, &Watch::default()).unwrap()));
    });
    let different: Vec<Region> = (0..50).map(|k| leaf(k % 16)).collect();
    let each: Vec<usize> = (0..50).collect();
    group.bench_function("50 different pieces arranged, any turns", |t| {
        t.iter(|| black_box(pack(&different, &each, &[], &wish, &Watch::default()).unwrap()));
    });
    group.finish();
}

criterion_group!(benches, fifty);
criterion_main!(benches);
