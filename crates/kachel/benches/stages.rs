//! The stages, timed in one run; the solid side by side with mesh Booleans (boolmesh) of ready-made prisms.
//! Run by `make bench`; the workloads are built before timing and the same every time.

use boolmesh::prelude::{Manifold, OpType, compute_boolean};
use criterion::{Criterion, criterion_group, criterion_main};
use kachel_artwork::Artwork;
use kachel_engine::outline::{Outline, Size, size_outline};
use kachel_engine::solid::{SoundMesh, arrange, extrude};
use kachel_engine::tiers::{Footprints, Measures, Op, RecipeKind, Role, Stack, Tier, cutter_footprints, cutter_stack};
use kachel_engine::trace::{Contour, Contours, TraceSettings, trace};
use kachel_engine::{Watch, outline};
use kachel_geom::{Grid, Point, Region, Ring};
use std::collections::BTreeMap;
use std::f64::consts::TAU;
use std::hint::black_box;
use std::io::Cursor;

/// A flower with two holes, antialiased by its distance from the edge, as PNG.
fn picture(side: u32) -> Vec<u8> {
    let s = f64::from(side);
    let image = image::GrayImage::from_fn(side, side, |x, y| {
        let (dx, dy) = (f64::from(x) + 0.5 - s / 2.0, f64::from(y) + 0.5 - s / 2.0);
        let (r, a) = (dx.hypot(dy), dy.atan2(dx));
        let petal = s * (0.34 + 0.09 * (9.0 * a).cos() + 0.01 * (61.0 * a).sin());
        let hole = |hx: f64| s * 0.06 - (dx - hx).hypot(dy);
        let inside = (petal - r).min(-hole(s * 0.13)).min(-hole(-s * 0.13));
        image::Luma([(127.5 - (inside * 255.0).clamp(-127.5, 127.5)) as u8])
    });
    let mut bytes = Vec::new();
    image.write_to(&mut Cursor::new(&mut bytes), image::ImageFormat::Png).unwrap();
    bytes
}

fn traces(c: &mut Criterion) {
    let watch = Watch::default();
    for side in [512, 2048] {
        let bytes = picture(side);
        c.bench_function(&format!("picture of {side} px to contours, decoding included"), |b| {
            b.iter(|| {
                let artwork = Artwork::decode(black_box(&bytes), &watch).unwrap();
                trace(&artwork, &TraceSettings::default(), &watch).unwrap().contours.len()
            });
        });
    }
}

/// A wavy outline of exactly this many nodes, 90 mm wide.
fn outline_of(nodes: u32) -> Outline {
    let ring = Ring(
        (0..nodes)
            .rev()
            .map(|i| f64::from(i) / f64::from(nodes) * TAU)
            .map(|a| (a, 400.0 + 60.0 * (11.0 * a).sin() + 15.0 * (47.0 * a).cos()))
            .map(|(a, r)| Point::new(500.0 + r * a.cos(), 500.0 + r * a.sin()))
            .collect(),
    );
    let contours = Contours::of(1000.0, 1000.0, vec![Contour::of_ring(ring, None, true)]);
    let mut o = size_outline(&contours, &[], &[], Size::Width { mm: 90.0 }, None, &Watch::default()).unwrap();
    // The outline stage leaves out nodes; here the number is the point.
    let mm = |p: &Point<_>| Point::new((p.x - 500.0) * o.mm_per_px, (500.0 - p.y) * o.mm_per_px);
    let ring = Ring(contours.contours[0].ring.0.iter().map(mm).collect());
    o.edge = Region::from_mm([&ring]).unwrap();
    assert_eq!(o.edge.nodes(), nodes as usize);
    o
}

fn measures(height: f64) -> Measures {
    Measures::new(RecipeKind::Cutter.recipe(), &BTreeMap::from([("wall-height".to_string(), height)])).unwrap()
}

fn cutters(c: &mut Criterion) {
    let watch = Watch::default();
    for nodes in [500, 2000, 10_000] {
        let outline: outline::Outline = outline_of(nodes);
        c.bench_function(&format!("cutter of {nodes} nodes, tiers and solid from nothing"), |b| {
            b.iter(|| {
                let m = measures(15.0);
                let stack = cutter_stack(&cutter_footprints(&outline, &m, &watch).unwrap(), &m).unwrap();
                extrude(&arrange(&stack, &watch).unwrap(), &stack, &watch).unwrap().skin
            });
        });
        let m = measures(15.0);
        let footprints = cutter_footprints(&outline, &m, &watch).unwrap();
        let planar = arrange(&cutter_stack(&footprints, &m).unwrap(), &watch).unwrap();
        let mut height = 10.0;
        c.bench_function(&format!("cutter of {nodes} nodes, only the wall's height changed"), |b| {
            b.iter(|| {
                height = if height > 20.0 { 10.0 } else { height + 0.2 };
                let stack = cutter_stack(&footprints, &measures(height)).unwrap();
                extrude(&planar, &stack, &watch).unwrap().skin
            });
        });
    }
}

fn prism(footprint: &Region, top: f64) -> SoundMesh {
    let top = Grid::from_mm(top).unwrap();
    let tier =
        Tier { role: Role::Wall, footprint: footprint.clone(), bottom: Grid::default(), top, op: Op::Add, part: 0 };
    let stack = Stack { tiers: vec![tier], is_mirrored: false };
    let watch = Watch::default();
    extrude(&arrange(&stack, &watch).unwrap(), &stack, &watch).unwrap().skin
}

fn manifold(mesh: &SoundMesh) -> Manifold<f64> {
    let positions: Vec<f64> = mesh.mesh().vertices.iter().flatten().map(|&v| f64::from(v) / 16384.0).collect();
    let corners: Vec<usize> = mesh.mesh().triangles.iter().flatten().map(|&v| v as usize).collect();
    Manifold::new(&positions, &corners).unwrap()
}

/// Flange and wall overlap here, as a mesh Boolean needs them: two prisms that share only their undersides.
fn side_by_side(c: &mut Criterion) {
    let watch = Watch::default();
    let m = measures(15.0);
    let f: Footprints = cutter_footprints(&outline_of(2000), &m, &watch).unwrap();
    let whole_flange = kachel_geom::combine(&f.flange, &f.wall, kachel_geom::BoolOp::Join).unwrap();
    let mut group = c.benchmark_group("2000 nodes: flange and wall, footprints given");
    group.bench_function("kachel, one arrangement", |b| {
        b.iter(|| {
            let stack = cutter_stack(&f, &m).unwrap();
            extrude(&arrange(&stack, &watch).unwrap(), &stack, &watch).unwrap().skin
        });
    });
    let (a, b) = (manifold(&prism(&whole_flange, 2.0)), manifold(&prism(&f.wall, 15.0)));
    group.bench_function("boolmesh, uniting ready-made prisms", |bench| {
        bench.iter(|| compute_boolean(black_box(&a), black_box(&b), OpType::Add).map(|m| m.nf));
    });
    group.finish();
}

criterion_group! {
    name = stages;
    config = Criterion::default().sample_size(20).without_plots();
    targets = traces, cutters, side_by_side
}
criterion_main!(stages);
