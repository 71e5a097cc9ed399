//! Edge finishes: sound on anything, and as large as fine slicing says.

use super::*;
use kachel_geom::offset;

fn finish(shape: FinishShape, edges: EdgesOf, inset: f64, depth: f64) -> Finish {
    Finish { shape, way: Way::Inward, edges, inset, depth }
}

pub(super) fn taper(inset: f64, depth: f64) -> Finish {
    finish(FinishShape::Taper, EdgesOf::Both, inset, depth)
}

pub(super) fn topped(mut t: Tier, f: Finish) -> Tier {
    t.top_finish = f;
    t
}

/// What a tier covers at a height between two levels, by plane Booleans and offsets alone. Between levels a finish runs
/// straight.
fn covers(t: &Tier, z: f64, (from, to): (f64, f64)) -> Region {
    let (bottom, top) = (t.bottom.mm(), t.top.mm());
    if z < bottom || z > top {
        return Region::default();
    }
    let (mut low, mut high) = (t.bottom_finish, t.top_finish);
    let wanted = [low, high].iter().filter(|f| !f.is_plain()).map(|f| f.depth).sum::<f64>();
    let squeeze = ((top - bottom) / wanted).min(1.0);
    low.depth *= squeeze;
    high.depth *= squeeze;
    let share = (z - from) / (to - from);
    let between = |a: f64, b: f64| a + (b - a) * share;
    let used = if !high.is_plain() && top - z < high.depth {
        Some((high, between(high.shrunk(top - from), high.shrunk(top - to))))
    } else if !low.is_plain() && z - bottom < low.depth {
        Some((low, between(low.shrunk(from - bottom), low.shrunk(to - bottom))))
    } else {
        None
    };
    let Some((f, d)) = used else { return (*t.footprint).clone() };
    let footprint = normal(&t.footprint);
    let filled = footprint.filled();
    let holes = combine(&filled, &footprint, BoolOp::TakeAway).unwrap();
    match f.edges {
        EdgesOf::Both => offset(&footprint, -d).unwrap(),
        EdgesOf::Outer => combine(&offset(&filled, -d).unwrap(), &holes, BoolOp::TakeAway).unwrap(),
        EdgesOf::Inner => combine(&filled, &offset(&holes, d).unwrap(), BoolOp::TakeAway).unwrap(),
    }
}

pub(super) fn normal(r: &Region) -> Region {
    kachel_geom::join_all([r]).unwrap()
}

/// The area of the whole stack at a height.
pub(super) fn area(tiers: &[Tier], z: f64, levels: (f64, f64)) -> f64 {
    let all = tiers.iter().fold(Region::default(), |all, t| {
        let op = if t.op == Op::Add { BoolOp::Join } else { BoolOp::TakeAway };
        combine(&all, &covers(t, z, levels), op).unwrap()
    });
    all.area_mm2()
}

/// Fine slicing: Simpson's rule between neighbouring levels (and bends of finishes), `n` pieces each.
fn sliced_volume(tiers: &[Tier], n: u32) -> f64 {
    let stack = Stack { tiers: tiers.to_vec(), ..Stack::default() };
    let slices = slice(&stack, &Plans::default(), &Watch::default()).unwrap();
    let mut total = 0.0;
    for pair in slices.levels.windows(2) {
        let (a, b) = (pair[0].mm(), pair[1].mm());
        // Just inside: at a level itself tiers begin and end.
        let at = |i: u32| area(tiers, (a + 1e-7) + (b - a - 2e-7) * f64::from(i) / f64::from(2 * n), (a, b));
        let sum: f64 = (0..n).map(|i| at(2 * i) + 4.0 * at(2 * i + 1) + at(2 * i + 2)).sum();
        total += sum * (b - a) / f64::from(6 * n);
    }
    total
}

fn agrees(tiers: Vec<Tier>, n: u32, tolerance: f64, described: &str) {
    let truth = sliced_volume(&tiers, n);
    let got = build(tiers).unwrap_or_else(|e| panic!("{e}: {described}")).skin.mesh().volume();
    assert!((got / truth - 1.0).abs() < tolerance, "{got} against {truth} ({:e}): {described}", got / truth - 1.0);
}

#[test]
fn a_tapered_square_is_a_frustum() {
    // Volume of a frustum: h / 3 (A + B + sqrt(A B)) (Heron of Alexandria, Metrica II, from memory); exact here.
    let solid = build(vec![topped(add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 6.0), taper(2.0, 6.0))]).unwrap();
    let truth = 6.0 / 3.0 * (400.0 + 256.0 + 320.0);
    let got = solid.skin.mesh().volume();
    assert!((got - truth).abs() < 1e-2, "{got} against {truth}");
    assert_eq!(solid.skin.mesh().vertices.len(), 8);
}

#[test]
fn a_finish_wider_than_the_shape_ends_in_a_ridge() {
    // A hipped roof over a 40 x 10 rectangle, 5 high where a finish of 10 in over 10 mm would go on: a prism over the ridge
    // of 30 mm and two half pyramids.
    let roof = build(vec![topped(add(rect(-20.0, -5.0, 20.0, 5.0), 0.0, 10.0), taper(10.0, 10.0))]).unwrap();
    let mesh = roof.skin.mesh();
    let truth = 30.0 * 10.0 * 5.0 / 2.0 + 10.0 * 10.0 * 5.0 / 3.0;
    assert!((mesh.volume() / truth - 1.0).abs() < 1e-4, "{} against {truth}", mesh.volume());
    assert!((mesh.extent().1[2] - 5.0).abs() < 0.02, "the ridge is where it vanishes: {:?}", mesh.extent());
}

#[test]
fn a_cut_narrower_than_its_finish_ends_in_a_valley() {
    let plate = add(rect(-30.0, -10.0, 30.0, 10.0), 0.0, 12.0);
    let mut groove = tier(rect(-20.0, -5.0, 20.0, 5.0), 2.0, 12.0, Op::Cut, 0);
    groove.bottom_finish = taper(10.0, 10.0);
    let got = build(vec![plate, groove]).unwrap().skin.mesh().volume();
    let truth = 60.0 * 20.0 * 12.0 - (30.0 * 10.0 * 5.0 / 2.0 + 10.0 * 10.0 * 5.0 / 3.0);
    assert!((got / truth - 1.0).abs() < 1e-4, "{got} against {truth}");
}

#[test]
fn a_blade_keeps_its_inner_face_upright() {
    // Outer edges only: where the taper eats through the wall, the inner face ends where the slope meets it.
    for (inset, seed) in [(0.5, 1), (1.1, 2), (3.0, 3)] {
        let mut random = Random::new(seed);
        let edge = random.blob(0.0, 0.0, 30.0, 80);
        let wall = offset(&edge, 1.6).unwrap().with_hole(&edge);
        let blade = finish(FinishShape::Taper, EdgesOf::Outer, inset, 3.0);
        // A wall is little volume along long lines, which the slices' offsets follow within 5 micrometres.
        agrees(vec![topped(add(wall, 0.0, 12.0), blade)], 8, 1.5e-4, &format!("inset {inset}"));
    }
}

#[test]
fn an_upright_face_cuts_a_slope_along_its_bends() {
    // Along the slot's straight upper face the slope rises from the slanted sides, runs level under the upper side and
    // falls again, though the face has no corners there.
    let outer = region(&[(-9.0, 0.0), (9.0, 0.0), (5.0, 4.0), (-5.0, 4.0)]);
    let gap = rect(-6.0, 0.5, 6.0, 2.0);
    let tapered = finish(FinishShape::Taper, EdgesOf::Outer, 3.0, 6.0);
    let t = topped(add(outer.with_hole(&gap), 0.0, 8.0), tapered);
    // The object is small, so the chords within the slope count for more.
    agrees(vec![t], 32, 2e-4, "a trapezium with a slot");
}

#[test]
fn rounds_follow_their_arc() {
    // A disc with a rounded rim: Pappus's centroid theorem (Collection VII, from memory). What the rim loses is a square
    // less a quarter disc, r^2 (1 - pi/4), on its centroid's way round.
    let n = 720;
    let disc: Vec<(f64, f64)> =
        (0..n).map(|i| f64::from(i) / f64::from(n) * TAU).map(|a| (40.0 * a.cos(), 40.0 * a.sin())).collect();
    let r = 2.0;
    let solid =
        build(vec![topped(add(region(&disc), 0.0, 5.0), finish(FinishShape::Round, EdgesOf::Both, r, r))]).unwrap();
    let lost_area = r * r * (1.0 - TAU / 8.0);
    // Its moment about the rim: the square's less the quarter disc's, whose centroid is 4 r / (3 pi) from its corner.
    let moment = r.powi(3) / 2.0 - TAU / 8.0 * r * r * (r - 4.0 * r / (1.5 * TAU));
    let centroid = moment / lost_area;
    let truth = TAU / 2.0 * 1600.0 * 5.0 - lost_area * TAU * (40.0 - centroid);
    let short = truth - solid.skin.mesh().volume();
    // Chords lie inside the arc, by no more than they may.
    let most = kachel_tiers::CHORD_MM * TAU / 4.0 * r * TAU * 40.0;
    assert!(short > -0.1 && short < most, "{short} of {truth}");
}

fn any_finish(random: &mut Random, most: f64) -> Finish {
    use FinishShape::{Chamfer, Round, Square, Taper};
    let shape = [Square, Taper, Chamfer, Round][random.below(4)];
    let way = if random.unit() < 0.8 { Way::Inward } else { Way::Outward };
    let edges = [EdgesOf::Both, EdgesOf::Outer, EdgesOf::Inner][random.below(3)];
    let inset = random.between(0.1, most);
    let depth = if shape == Round { inset } else { random.between(0.1, most) };
    Finish { shape, way, edges, inset, depth }
}

/// Blobs with holes; sometimes the same one again, so that edges are shared.
pub(super) fn random_stack(random: &mut Random) -> Vec<Tier> {
    let mut known: Vec<Region> = Vec::new();
    (0..1 + random.below(8))
        .map(|i| {
            let footprint = match known.len() {
                0 => None,
                n if random.unit() < 0.25 => Some(known[random.below(n)].clone()),
                _ => None,
            };
            let footprint = footprint.unwrap_or_else(|| {
                if random.unit() < 0.15 {
                    let nodes = 3 + random.below(6) as u32;
                    return normal(&random.tangle(nodes));
                }
                let (x, y, r) = (random.between(-8.0, 8.0), random.between(-8.0, 8.0), random.between(3.0, 14.0));
                let nodes = 8 + random.below(60) as u32;
                let blob = random.blob(x, y, r, nodes);
                if random.unit() < 0.4 {
                    let hole = random.blob(x, y, r * 0.45, nodes / 2);
                    blob.with_hole(&hole)
                } else {
                    blob
                }
            });
            known.push(footprint.clone());
            // Whole millimetres, so that tiers meet.
            let bottom = random.between(0.0, 5.0).floor();
            let height = 1.0 + random.between(0.0, 6.0).floor();
            let op = if i > 0 && random.unit() < 0.25 { Op::Cut } else { Op::Add };
            let part = random.below(3) as u32;
            let mut t = tier(footprint, bottom, bottom + height, op, part);
            t.top_finish = any_finish(random, 3.0);
            if random.unit() < 0.5 {
                t.bottom_finish = any_finish(random, 1.5);
            }
            t
        })
        .collect()
}

/// How far the slopes may lie off on average, mm, beyond [`VOLUME_SHARE`]: the slices' offsets and ours follow lines and arcs
/// within 5 micrometres each, which counts where a body is small or all slopes...
const SLICING_MM: f64 = 0.0006;
/// ... or smaller than any print, mm3.
const SLICING_MM3: f64 = 0.02;
/// What a volume may be off by.
const VOLUME_SHARE: f64 = 1e-4;

/// The area of what is neither level nor upright.
fn slope_area(mesh: &Mesh) -> f64 {
    let corner = |v: u32| mesh.vertices[v as usize].map(|c| f64::from(c) / GRID_PER_MM);
    let area = |t: &[u32; 3]| {
        let [a, b, c] = t.map(corner);
        let (u, v) = ([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
        let normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        let long = normal.iter().map(|n| n * n).sum::<f64>().sqrt();
        let is_slope = normal[2] != 0.0 && normal[2].abs() < 0.9999 * long;
        if is_slope { long / 2.0 } else { 0.0 }
    };
    mesh.triangles.iter().map(area).sum()
}

/// Builds a stack and compares it with fine slicing: what is wrong with it.
fn fault(tiers: &[Tier]) -> Result<(), String> {
    let solid = match build(tiers.to_vec()) {
        Ok(solid) => solid,
        Err(SolidError::Empty) => return Ok(()),
        Err(e) => return Err(e.to_string()),
    };
    let parts: f64 = solid.parts.iter().map(|p| p.mesh.mesh().volume()).sum();
    let skin = solid.skin.mesh().volume();
    if (parts - skin).abs() > 1e-3 * skin + SLICING_MM3 {
        return Err(format!("parts of {parts} fill a skin of {skin}"));
    }
    let mut meshes = solid.parts.iter().map(|p| &p.mesh).chain([&solid.skin]);
    if let Some(crossing) = meshes.find_map(|m| kachel_oracle::crossing(&m.mesh().vertices, &m.mesh().triangles)) {
        return Err(format!("crossing triangles {crossing:?}"));
    }
    let truth = sliced_volume(tiers, 6);
    let may = VOLUME_SHARE * truth + solid.mended_mm3 + SLICING_MM3.max(SLICING_MM * slope_area(solid.skin.mesh()));
    let is_equal = (skin - truth).abs() <= may;
    if is_equal { Ok(()) } else { Err(format!("{skin} against {truth}, within {may}")) }
}

/// Judges the random stacks of these seeds; what failed.
fn soak(seeds: std::ops::Range<u64>) -> Vec<String> {
    use rayon::prelude::*;
    let run = |seed: u64| {
        let begun = std::time::Instant::now();
        let tiers = random_stack(&mut Random::new(seed));
        let judged = std::panic::catch_unwind(|| fault(&tiers));
        if begun.elapsed().as_secs() >= 20 {
            println!("seed {seed}: {:.0?}", begun.elapsed());
        }
        let wrong = judged.unwrap_or_else(|_| Err("panicked".into())).err()?;
        Some(format!("seed {seed}: {wrong}"))
    };
    // Told as they come too: a long run must not be at its end to be worth something.
    seeds.into_par_iter().filter_map(run).inspect(|failure| println!("{failure}")).collect()
}

#[test]
pub(super) fn random_stacks_with_finishes_are_sound_and_as_large_as_fine_slicing_says() {
    for_all_shared(200, |random| {
        let tiers = random_stack(random);
        fault(&tiers).unwrap_or_else(|e| panic!("{e}: {tiers:?}"));
    });
}

#[test]
#[ignore = "long; make soak"]
fn ten_thousand_random_stacks_are_sound_and_as_large_as_fine_slicing_says() {
    // KACHEL_SOAK=2000 runs fewer, KACHEL_SOAK_FROM=7000 others.
    let most = std::env::var("KACHEL_SOAK").ok().and_then(|n| n.parse().ok()).unwrap_or(10_000);
    let first = std::env::var("KACHEL_SOAK_FROM").ok().and_then(|n| n.parse().ok()).unwrap_or(1_000);
    assert_eq!(soak(first..first + most), Vec::<String>::new());
}

#[test]
fn single_finishes_on_blobs_agree_with_fine_slicing() {
    for_all(24, |random| {
        let blob = random.blob(0.0, 0.0, 20.0, 60);
        let hole = random.blob(0.0, 0.0, 8.0, 30);
        let mut t = add(blob.with_hole(&hole), 0.0, 8.0);
        t.top_finish = any_finish(random, 3.0);
        let described = format!("{:?}", t.top_finish);
        agrees(vec![t], 6, 1e-4, &described);
    });
}

#[test]
fn wide_finishes_that_close_necks_agree_with_fine_slicing() {
    use rayon::prelude::*;
    // Spikes of 1 to 3 mm: most of the slope ends in ridges.
    (1..=60_u64).into_par_iter().for_each(|seed| {
        let mut random = Random::new(seed * 911);
        let blob = random.blob(0.0, 0.0, 14.0, 50);
        let hole = random.blob(0.0, 0.0, 5.0, 20);
        let mut t = add(if seed % 2 == 0 { blob } else { blob.with_hole(&hole) }, 0.0, 5.0);
        t.top_finish = any_finish(&mut random, 3.0);
        let described = format!("seed {seed}: {:?}", t.top_finish);
        agrees(vec![t], 6, 1e-4, &described);
    });
}

#[test]
fn stacks_of_finishes_agree_with_fine_slicing() {
    for_all(16, |random| {
        let tiers: Vec<Tier> = (0..3)
            .map(|i| {
                let (x, y) = (random.between(-9.0, 9.0), random.between(-9.0, 9.0));
                let blob = random.blob(x, y, 14.0, 50);
                let op = if i == 2 && random.unit() < 0.5 { Op::Cut } else { Op::Add };
                let mut t = tier(blob, f64::from(i), f64::from(i) + 5.0, op, 0);
                t.top_finish = any_finish(random, 1.5);
                t
            })
            .collect();
        let described = format!("{:?}", tiers.iter().map(|t| t.top_finish).collect::<Vec<_>>());
        agrees(tiers, 6, 5e-5, &described);
    });
}

fn manifold_of(tiers: Vec<Tier>) -> Manifold<f64> {
    let solid = build(tiers).unwrap();
    let mesh = solid.skin.mesh();
    let positions: Vec<f64> = mesh.vertices.iter().flatten().map(|&v| f64::from(v) / 16384.0).collect();
    let indices: Vec<usize> = mesh.triangles.iter().flatten().map(|&v| v as usize).collect();
    Manifold::new(&positions, &indices).unwrap()
}

#[test]
fn finished_stacks_agree_with_an_independent_mesh_boolean() {
    // boolmesh (test only) unites single finished tiers, and takes a flared cut away; our one arrangement does it at once.
    for seed in 1..=6 {
        let mut random = Random::new(seed * 50_021);
        let mut one = |x: f64, (z0, z1): (f64, f64), op: Op, way: Way| {
            let y = random.between(-3.0, 3.0);
            let blob = random.blob(x, y, 11.0, 40);
            let f = Finish { shape: FinishShape::Chamfer, way, edges: EdgesOf::Both, inset: 0.8, depth: 1.3 };
            topped(tier(blob, z0, z1, op, 0), f)
        };
        let [a, b] = [one(0.0, (0.0, 5.0), Op::Add, Way::Inward), one(7.0, (0.4, 7.0), Op::Add, Way::Inward)];
        let c = one(3.0, (3.1, 9.0), Op::Cut, Way::Outward);
        let as_added = |t: &Tier| manifold_of(vec![Tier { op: Op::Add, ..t.clone() }]);
        let both = compute_boolean(&as_added(&a), &as_added(&b), OpType::Add).unwrap();
        let cut = compute_boolean(&both, &as_added(&c), OpType::Subtract).unwrap();
        let theirs = reference_volume(&cut);
        let ours = volume(vec![a, b, c]);
        assert!((ours / theirs - 1.0).abs() < 1e-3, "seed {seed}: {ours} against {theirs}");
    }
}

#[test]
fn a_tapered_inlay_and_its_pocket_share_their_slope() {
    let plate = add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 4.0);
    let mut inlay = tier(rect(-5.0, -5.0, 5.0, 5.0), 1.0, 4.0, Op::Add, 1);
    inlay.top_finish = taper(2.0, 3.0);
    let solid = build(vec![plate, inlay]).unwrap();
    let volumes: Vec<f64> = solid.parts.iter().map(|p| p.mesh.mesh().volume()).collect();
    assert!((volumes.iter().sum::<f64>() - 1600.0).abs() < 1e-9, "nothing between them, nothing twice");
    let frustum = 3.0 / 3.0 * (100.0 + 36.0 + 60.0);
    assert!((volumes[1] - frustum).abs() < 1e-2, "{} against {frustum}", volumes[1]);
    let pocket = &solid.parts[0].mesh.mesh().vertices;
    assert!(solid.parts[1].mesh.mesh().vertices.iter().filter(|v| v[2] < 4 << 14).all(|v| pocket.contains(v)));
    assert_eq!(solid.skin.mesh().volume(), 1600.0);
}

#[test]
fn overlapping_finishes_of_two_filaments_fill_the_skin() {
    // Two roofs over the same 40 x 10 rectangle: the lower one's wedge between the two slopes belongs to nobody else.
    for (first, second) in [(1.0, 2.5), (2.5, 1.0), (3.0, 3.0)] {
        let roof = |inset: f64, part: u32| {
            let mut t = tier(rect(-20.0, -5.0, 20.0, 5.0), 0.0, 6.0, Op::Add, part);
            t.top_finish = taper(inset, 4.0);
            t
        };
        let solid = build(vec![roof(first, 0), roof(second, 1)]).unwrap();
        let parts: f64 = solid.parts.iter().map(|p| p.mesh.mesh().volume()).sum();
        let skin = solid.skin.mesh().volume();
        assert!((parts / skin - 1.0).abs() < 1e-4, "{first} and {second} in: {parts} mm3 of {skin}");
        // The skin is the union: a prism, and a frustum over it that goes in by the lesser inset (prismatoid rule).
        let inset = f64::min(first, second);
        let area = |d: f64| (40.0 - 2.0 * d) * (10.0 - 2.0 * d);
        let truth = 2.0 * 400.0 + 4.0 / 6.0 * (area(0.0) + 4.0 * area(inset / 2.0) + area(inset));
        assert!((skin / truth - 1.0).abs() < 1e-4, "{first} and {second} in: {skin} mm3, not {truth}");
    }
}

#[test]
fn a_wedge_of_air_between_two_slopes_stays_air() {
    // A block that narrows by 4 mm a side, and on its middle one that widens by as much: over the first one's slope air, and
    // over that the second one.
    let narrowing = topped(add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 6.0), taper(4.0, 4.0));
    let mut widening = add(rect(-4.0, -10.0, 4.0, 10.0), 0.0, 6.0);
    widening.top_finish = Finish { way: Way::Outward, ..taper(4.0, 4.0) };
    agrees(vec![narrowing.clone(), widening.clone()], 24, 1e-4, "both added");
    // The same wedge of filament, where one of the two is cut.
    widening.op = Op::Cut;
    widening.top_finish.way = Way::Inward;
    agrees(vec![narrowing, widening], 24, 1e-4, "one cut");
}

#[test]
fn knife_edges_on_the_bed_and_touching_feet_are_sound() {
    // Tapered from the bed up: no upright part at all. Two of them share a corner, two an edge.
    let blade = |r: Region| topped(add(r, 0.0, 3.0), taper(1.0, 3.0));
    let corner = build(vec![blade(rect(0.0, 0.0, 6.0, 6.0)), blade(rect(6.0, 6.0, 12.0, 12.0))]).unwrap();
    assert_eq!(corner.skin.mesh().bodies().len(), 2);
    let edge = build(vec![blade(rect(0.0, 0.0, 6.0, 6.0)), blade(rect(6.0, 0.0, 12.0, 6.0))]).unwrap();
    let each = 3.0 / 3.0 * (36.0 + 16.0 + 24.0);
    assert!((edge.skin.mesh().volume() - 2.0 * each).abs() < 0.2, "{}", edge.skin.mesh().volume());
    // The same in another filament, upside down, standing in the first.
    let mut hanging = tier(rect(2.0, 2.0, 9.0, 4.0), 0.0, 3.0, Op::Add, 1);
    hanging.bottom_finish = taper(0.9, 3.0);
    build(vec![blade(rect(0.0, 0.0, 6.0, 6.0)), hanging]).unwrap();
}

#[test]
fn ridges_are_told_where_a_tier_never_reaches_its_height() {
    let narrow = topped(add(rect(-20.0, -1.0, 20.0, 1.0), 0.0, 6.0), taper(2.0, 4.0));
    let ridges = build(vec![narrow]).unwrap().ridges;
    assert!(!ridges.is_empty());
    // Half of 2 mm is half of the inset: the ridge lies half-way up the finish.
    let highest = ridges.iter().map(|r| r[2]).fold(0.0, f64::max);
    assert!((highest - 4.0).abs() < 0.02, "{ridges:?}");
    let wide = topped(add(rect(-20.0, -5.0, 20.0, 5.0), 0.0, 6.0), taper(2.0, 4.0));
    assert!(build(vec![wide]).unwrap().ridges.is_empty());
}

#[test]
fn a_changed_taper_triangulates_only_the_level_and_the_slope_that_it_changes() {
    let mut random = Random::new(41);
    let (wide, narrow) = (random.blob(0.0, 0.0, 30.0, 90), random.blob(0.0, 0.0, 15.0, 50));
    let stack = |inset: f64| Stack {
        tiers: vec![
            topped(add(wide.clone(), 0.0, 2.0), finish(FinishShape::Chamfer, EdgesOf::Both, 0.5, 0.5)),
            topped(add(narrow.clone(), 0.0, 9.0), taper(inset, 3.0)),
        ],
        ..Stack::default()
    };
    let watch = Watch::default();
    let made = |inset: f64, sheets: &Sheets| {
        let sliced = slice(&stack(inset), &Plans::default(), &watch).unwrap();
        extrude(&arrange(&sliced, sheets, &watch).unwrap(), &stack(inset), &sliced, &watch).unwrap()
    };
    let sheets = Sheets::default();
    made(0.7, &sheets);
    let (levels, slopes) = sheets.kept();
    assert_eq!(slopes, 2);
    let second = made(0.8, &sheets);
    assert_eq!(sheets.kept(), (levels + 1, slopes + 1), "only the tip and its slope are others");
    assert_eq!(second.skin.mesh(), made(0.8, &Sheets::default()).skin.mesh(), "what is kept equals what is made");
}

#[test]
fn tiers_one_by_one_take_their_slopes_from_the_part_that_they_make() {
    let mut random = Random::new(42);
    let (wide, narrow) = (random.blob(0.0, 0.0, 30.0, 90), random.blob(0.0, 0.0, 15.0, 50));
    // Deep enough to end in ridges.
    let tiers = vec![
        topped(add(wide, 0.0, 2.0), finish(FinishShape::Chamfer, EdgesOf::Both, 0.5, 0.5)),
        topped(add(narrow, 0.0, 9.0), taper(12.0, 3.0)),
    ];
    let (stack, watch) = (Stack { tiers, ..Stack::default() }, Watch::default());
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    let one_by_one = |sheets: &Sheets, solid: Option<&Solid>| {
        let planar = arrange(&slices, sheets, &watch).unwrap();
        extrude_tiers(&planar, &stack, &slices, solid, &watch).unwrap()
    };
    let sheets = Sheets::default();
    let solid = extrude(&arrange(&slices, &sheets, &watch).unwrap(), &stack, &slices, &watch).unwrap();
    let (_, slopes) = sheets.kept();
    let known = one_by_one(&sheets, Some(&solid));
    assert_eq!(sheets.kept().1, slopes, "no slope is made anew");
    let anew = one_by_one(&Sheets::default(), Some(&solid));
    let meshes = |parts: &[crate::Part]| parts.iter().map(|p| (p.number, p.mesh.mesh().clone())).collect::<Vec<_>>();
    assert_eq!(meshes(&known), meshes(&anew), "what is kept equals what is made");
}

#[test]
fn a_changed_height_of_a_finished_stack_triangulates_nothing_anew() {
    let mut random = Random::new(77);
    let blob = random.blob(0.0, 0.0, 18.0, 90);
    let stack = |top: f64| Stack {
        tiers: vec![add(blob.clone(), 0.0, 2.0), topped(add(blob.clone(), 0.0, top), taper(0.7, 3.0))],
        ..Stack::default()
    };
    let watch = Watch::default();
    let sliced = |top: f64| slice(&stack(top), &Plans::default(), &watch).unwrap();
    let planar = arrange(&sliced(9.0), &Sheets::default(), &watch).unwrap();
    let made = |planar: &Planar, top: f64| extrude(planar, &stack(top), &sliced(top), &watch).unwrap();
    let first = made(&planar, 9.0);
    let higher = made(&planar, 12.6);
    let fresh = made(&arrange(&sliced(12.6), &Sheets::default(), &watch).unwrap(), 12.6);
    assert_eq!(higher.skin.mesh(), fresh.skin.mesh(), "what is remembered equals what is made");
    assert_eq!(first.skin.mesh().triangles, higher.skin.mesh().triangles, "only heights differ");
}

#[test]
fn tiers_one_by_one_begin_with_the_corners_of_their_solid() {
    // A slope that bends along the straight face of a slot, on a plate.
    let outer = region(&[(-9.0, 0.0), (9.0, 0.0), (5.0, 4.0), (-5.0, 4.0)]);
    let tapered = finish(FinishShape::Taper, EdgesOf::Outer, 3.0, 6.0);
    let wall = outer.with_hole(&rect(-6.0, 0.5, 6.0, 2.0));
    let tiers = vec![add(rect(-12.0, -2.0, 12.0, 6.0), 0.0, 2.0), topped(add(wall, 0.0, 8.0), tapered)];
    let (stack, watch) = (Stack { tiers, ..Stack::default() }, Watch::default());
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    let planar = arrange(&slices, &Sheets::default(), &watch).unwrap();
    let solid = extrude(&planar, &stack, &slices, &watch).unwrap();
    assert!(!solid.corners.is_empty());
    let volume = |solid: Option<&Solid>| {
        let tiers = extrude_tiers(&planar, &stack, &slices, solid, &watch).unwrap();
        tiers.iter().map(|t| t.mesh.mesh().volume()).sum::<f64>()
    };
    let (with, without) = (volume(Some(&solid)), volume(None));
    assert!((with - without).abs() < 1e-5 * without, "{with} and {without}");
}
