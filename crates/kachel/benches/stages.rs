//! The stages, timed in one run; the solid side by side with mesh Booleans (boolmesh) of ready-made prisms.
//! Run by `make bench`; the workloads are built before timing and the same every time.

use boolmesh::prelude::{Manifold, OpType, compute_boolean};
use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use kachel_artwork::Artwork;
use kachel_engine::check::{Object, RULES, Report, check};
use kachel_engine::outline::{Outline, Size, Wanted, size_outline};
use kachel_engine::rehearse::{Job, rehearse};
use kachel_engine::solid::{LayerHeights, Layers, Sheets, SoundMesh, arrange, extrude};
use kachel_engine::tiers::{Given, Measures, Op, Plans, RecipeKind, Role, Slices, Stack, Tier, slice, stack};
use kachel_engine::trace::{Contour, Contours, TraceSettings, trace};
use kachel_engine::{Credit, Engine, PrintSettings, Printer, Sample, TierEdit, Watch, outline};
use kachel_geom::{Grid, Point, Region, Ring};
use kachel_words::Message;
use std::collections::BTreeMap;
use std::f64::consts::TAU;
use std::hint::black_box;
use std::io::Cursor;

/// As in the program itself.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

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
    let mut o = size_outline(&contours, &Wanted::of_size(Size::Width { mm: 90.0 }), &Watch::default()).unwrap();
    // The outline stage leaves out nodes; here the number is the point.
    let mm = |p: &Point<_>| Point::new((p.x - 500.0) * o.mm_per_px, (500.0 - p.y) * o.mm_per_px);
    let ring = Ring(contours.contours[0].ring.0.iter().map(mm).collect());
    o.edge = Region::from_mm([&ring]).unwrap();
    assert_eq!(o.edge.nodes(), nodes as usize);
    o
}

fn measures(changed: &[(&str, f64)]) -> Measures {
    let changed: BTreeMap<String, f64> = changed.iter().map(|(n, v)| ((*n).to_string(), *v)).collect();
    Measures::new(RecipeKind::CutterStamp.recipe(), &changed).unwrap()
}

/// Tiers and slices.
fn tiers(outline: &Outline, changed: &[(&str, f64)], plans: &Plans) -> (Stack, Slices) {
    let watch = Watch::default();
    let made = stack(RecipeKind::CutterStamp, outline, &measures(changed), &Given::default(), plans, &watch).unwrap();
    let slices = slice(&made, plans, &watch).unwrap();
    (made, slices)
}

fn solid((stack, slices): (Stack, Slices), sheets: &Sheets) -> SoundMesh {
    let watch = Watch::default();
    extrude(&arrange(&slices, sheets, &watch).unwrap(), &stack, &slices, &watch).unwrap().skin
}

fn cutters(c: &mut Criterion) {
    let watch = Watch::default();
    for nodes in [500, 2000, 10_000] {
        let mut outline: outline::Outline = outline_of(nodes);
        // Details: a ring of lines inside, tied to the flange.
        let inner = kachel_geom::offset(&outline.edge, -8.0).unwrap();
        let line = inner.with_hole(&kachel_geom::offset(&outline.edge, -9.2).unwrap());
        outline.details = vec![(outline.patches[0].id, line)];
        c.bench_function(&format!("cutter of {nodes} nodes, taper and details, tiers and solid from nothing"), |b| {
            b.iter(|| solid(tiers(&outline, &[], &Plans::default()), &Sheets::default()));
        });
        let plans = Plans::default();
        let (_, first) = tiers(&outline, &[], &plans);
        let sheets = Sheets::default();
        let planar = arrange(&first, &sheets, &watch).unwrap();
        let mut height = 10.0;
        c.bench_function(&format!("cutter of {nodes} nodes, only the wall's height changed"), |b| {
            b.iter(|| {
                height = if height > 20.0 { 10.0 } else { height + 0.2 };
                let (stack, slices) = tiers(&outline, &[("wall-height", height)], &plans);
                extrude(&planar, &stack, &slices, &watch).unwrap().skin
            });
        });
        let mut taper = 0.3;
        c.bench_function(&format!("cutter of {nodes} nodes, only the taper changed"), |b| {
            b.iter(|| {
                taper = if taper > 0.9 { 0.3001 } else { taper + 0.001 };
                solid(tiers(&outline, &[("taper-in", taper)], &plans), &sheets)
            });
        });
    }
}

fn prism(footprint: &Region, top: f64) -> SoundMesh {
    let heights = (Grid::default(), Grid::from_mm(top).unwrap());
    let tier = Tier::upright(Role::Wall, footprint.clone(), heights, Op::Add, 0);
    let stack = Stack { tiers: vec![tier], ..Stack::default() };
    let slices = slice(&stack, &Plans::default(), &Watch::default()).unwrap();
    solid((stack, slices), &Sheets::default())
}

fn manifold(mesh: &SoundMesh) -> Manifold<f64> {
    let positions: Vec<f64> = mesh.mesh().vertices.iter().flatten().map(|&v| f64::from(v) / 16384.0).collect();
    let corners: Vec<usize> = mesh.mesh().triangles.iter().flatten().map(|&v| v as usize).collect();
    Manifold::new(&positions, &corners).unwrap()
}

/// The tiers of each recipe as ready-made prisms, united one after the other by mesh Booleans, against one arrangement.
/// Tiers that are cut are left away on both sides, as are finishes.
fn side_by_side(c: &mut Criterion) {
    for kind in [
        RecipeKind::CutterStamp,
        RecipeKind::Coaster,
        RecipeKind::KeyTag,
        RecipeKind::Plaque,
        RecipeKind::Token,
        RecipeKind::Stamp,
    ] {
        let mut outline = outline_of(1000);
        let inner = kachel_geom::offset(&outline.edge, -8.0).unwrap();
        outline.details = vec![(outline.patches[0].id, inner)];
        let mut changed = BTreeMap::from([("across".to_string(), 120.0)]);
        if kind == RecipeKind::Coaster {
            // Raised, so that there is something to unite.
            changed.insert("relief".to_string(), 1.0);
        }
        let m = Measures::new(kind.recipe(), &changed).unwrap();
        let (plans, watch) = (Plans::default(), Watch::default());
        let mut made = stack(kind, &outline, &m, &Given::default(), &plans, &watch).unwrap();
        made.tiers.retain(|t| t.op == Op::Add);
        for t in &mut made.tiers {
            (t.top_finish, t.bottom_finish) =
                (kachel_engine::tiers::Finish::default(), kachel_engine::tiers::Finish::default());
            // A mesh Boolean wants prisms that overlap rather than touch.
            t.bottom = Grid::default();
        }
        let mut group = c.benchmark_group(format!("{}: footprints given", kind.recipe().name));
        group.bench_function("kachel, one arrangement", |b| {
            b.iter(|| solid((made.clone(), slice(&made, &plans, &watch).unwrap()), &Sheets::default()));
        });
        let prisms: Vec<Manifold<f64>> =
            made.tiers.iter().map(|t| manifold(&prism(&t.footprint, t.top.mm()))).collect();
        group.bench_function("boolmesh, uniting ready-made prisms", |b| {
            b.iter(|| {
                let (first, rest) = prisms.split_first()?;
                rest.iter()
                    .try_fold(first.clone(), |m, n| compute_boolean(black_box(&m), n, OpType::Add).ok())
                    .map(|m| m.nf)
            });
        });
        group.finish();
    }
}

/// What is asked of a finished solid: its layers, Check and the rehearsal of its print.
fn after_the_solid(c: &mut Criterion) {
    let watch = Watch::default();
    let mut outline = outline_of(2000);
    let inner = kachel_geom::offset(&outline.edge, -8.0).unwrap();
    let line = inner.with_hole(&kachel_geom::offset(&outline.edge, -9.2).unwrap());
    outline.details = vec![(outline.patches[0].id, line)];
    let (stack, slices) = tiers(&outline, &[], &Plans::default());
    let solid = extrude(&arrange(&slices, &Sheets::default(), &watch).unwrap(), &stack, &slices, &watch).unwrap();
    let (contours, measures, printer) = (Contours::of(1000.0, 1000.0, vec![]), measures(&[]), Printer::default());
    c.bench_function("cutter of 2000 nodes, cut into 75 layers", |b| {
        b.iter(|| Layers::of(&solid.skin, LayerHeights::even(0.2)).unwrap().all.len());
    });
    let layers = Layers::of(&solid.skin, LayerHeights::even(0.2)).unwrap();
    let object = Object {
        contours: &contours,
        outline: &outline,
        measures: &measures,
        stack: &stack,
        solid: &solid,
        layers: &layers,
        printer: &printer,
        colours: &[],
        gone: &[],
        has_own_bars: false,
        credit: &Credit::default(),
        credit_of: None,
        deviation: 0.25,
    };
    c.bench_function("cutter of 2000 nodes, all rules of Check", |b| {
        b.iter(|| check(&object, &watch).unwrap().looked.len());
    });
    for rule in RULES {
        c.bench_function(&format!("cutter of 2000 nodes, {}", Message::new(rule.looks_at)), |b| {
            b.iter(|| (rule.run)(&object, &mut Report::default()).is_ok());
        });
    }
    let parts: Vec<_> = solid.parts.iter().map(|p| (p.number, &p.mesh)).collect();
    let settings = PrintSettings::default();
    let job = Job { skin: &solid.skin, parts: &parts, layer: 0.2, line: 0.4, settings: &settings };
    c.bench_function("cutter of 2000 nodes, 75 layers rehearsed", |b| {
        b.iter(|| rehearse(&job, &watch).unwrap().seconds);
    });
    let disc: Vec<Point<_>> =
        (0..720).map(|k| f64::from(k) / 720.0 * TAU).map(|a| Point::new(40.0 * a.cos(), 40.0 * a.sin())).collect();
    let plate = prism(&Region::from_mm([&Ring(disc)]).unwrap(), 5.0);
    let parts = [(0, &plate)];
    let job = Job { skin: &plate, parts: &parts, layer: 0.2, line: 0.4, settings: &settings };
    c.bench_function("coaster of 80 mm, 25 layers rehearsed", |b| {
        b.iter(|| rehearse(&job, &watch).unwrap().seconds);
    });
}

/// Every mend that Check offers, taken, computed and looked at again; nothing is remembered but the object itself.
fn mends(c: &mut Criterion) {
    let (watch, sample) = (Watch::default(), Sample::by_id("ladybird").unwrap());
    let picture = || Ok(sample.bytes.to_vec());
    let made = || {
        let engine = Engine::default();
        let document = engine.new_document("Ladybird", sample.file_name, sample.bytes, &watch).unwrap();
        // Nothing ties its spots.
        let loose = TierEdit::SetMeasure { name: "bar-width".into(), value: "0".into() };
        let document = engine.apply(&document, &[loose.into()], &picture, &watch).unwrap().unwrap();
        let run = engine.run(&document, &picture, &watch);
        (engine, document, run)
    };
    let offered: usize = made().2.report.findings.iter().map(|f| f.mends.len()).sum();
    assert!(offered > 0);
    c.bench_function(&format!("ladybird with loose spots, its {offered} mends tried"), |b| {
        b.iter_batched(
            made,
            |(engine, document, run)| engine.tried_mends(&document, &run, &picture, &watch).unwrap().useless.len(),
            BatchSize::PerIteration,
        );
    });
}

criterion_group! {
    name = stages;
    config = Criterion::default().sample_size(20).without_plots();
    targets = traces, cutters, after_the_solid, mends, side_by_side
}
criterion_main!(stages);
