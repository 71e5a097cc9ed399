use super::*;
use boolmesh::prelude::{Manifold, OpType, compute_boolean};
use kachel_geom::{BoolOp, GRID_PER_MM, Grid, GridPoint, Mm, Point, Region, Ring, Watch, combine};
use kachel_oracle::{Random, for_all, for_all_shared};
use kachel_tiers::{EdgesOf, Finish, FinishShape, Op, Plans, Role, Stack, Tier, Way, slice};
use std::f64::consts::TAU;

fn region(points: &[(f64, f64)]) -> Region {
    let ring: Ring<Mm> = Ring(points.iter().map(|&(x, y)| Point::new(x, y)).collect());
    Region::from_mm([&ring]).unwrap()
}

fn rect(x0: f64, y0: f64, x1: f64, y1: f64) -> Region {
    region(&[(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
}

fn tier(footprint: Region, bottom: f64, top: f64, op: Op, part: u32) -> Tier {
    let heights = (Grid::from_mm(bottom).unwrap(), Grid::from_mm(top).unwrap());
    Tier::upright(Role::Wall, footprint, heights, op, part)
}

fn add(footprint: Region, bottom: f64, top: f64) -> Tier {
    tier(footprint, bottom, top, Op::Add, 0)
}

fn build(tiers: Vec<Tier>) -> Result<Solid, SolidError> {
    let stack = Stack { tiers, ..Stack::default() };
    let watch = Watch::default();
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    extrude(&arrange(&slices, &Sheets::default(), &watch)?, &stack, &slices, &watch)
}

fn volume(tiers: Vec<Tier>) -> f64 {
    build(tiers).unwrap().skin.mesh().volume()
}

/// Random shapes.
trait Shapes {
    fn blob(&mut self, x: f64, y: f64, r: f64, nodes: u32) -> Region;
    fn tangle(&mut self, nodes: u32) -> Region;
}

impl Shapes for Random {
    /// A star-shaped blob; nodes rise in angle, so it does not cross itself.
    fn blob(&mut self, x: f64, y: f64, r: f64, nodes: u32) -> Region {
        let wobble: Vec<f64> = (0..nodes).map(|_| self.between(0.6, 1.0)).collect();
        let at = |i: u32| f64::from(i) / f64::from(nodes) * TAU;
        let points: Vec<(f64, f64)> = (0..nodes)
            .map(|i| (x + r * wobble[i as usize] * at(i).cos(), y + r * wobble[i as usize] * at(i).sin()))
            .collect();
        region(&points)
    }

    /// A ring of random points, crossing itself as it likes, on a coarse lattice so that points and edges coincide.
    fn tangle(&mut self, nodes: u32) -> Region {
        let points: Vec<(f64, f64)> =
            (0..nodes).map(|_| (self.between(0.0, 8.0).floor(), self.between(0.0, 8.0).floor())).collect();
        region(&points)
    }
}

#[test]
fn blobs_with_holes_have_grid_area_times_grid_height() {
    for_all(60, |random| {
        let nodes = 20 + (random.unit() * 300.0) as u32;
        let outer = random.blob(3.0, -2.0, 40.0, nodes);
        let holes: Vec<Region> = (0..4)
            .map(|i| {
                let (a, r) = (f64::from(i) * TAU / 4.0 + 0.3, random.between(2.0, 6.0));
                random.blob(3.0 + 13.0 * a.cos(), -2.0 + 13.0 * a.sin(), r, nodes / 2)
            })
            .collect();
        let holed = holes.iter().fold(outer, |o, h| o.with_hole(h));
        let height = random.between(0.2, 30.0);
        let area = holed.area_mm2();
        let solid = build(vec![add(holed, 0.0, height)]).unwrap();
        assert_eq!(solid.touches, []);
        let truth = area * Grid::from_mm(height).unwrap().mm();
        let got = solid.skin.mesh().volume();
        assert!((got / truth - 1.0).abs() < 1e-9, "{got} against {truth}");
    });
}

#[test]
fn a_cutter_of_three_tiers_adds_up() {
    let (edge, wall, flange) =
        (rect(-20.0, -10.0, 20.0, 10.0), rect(-22.0, -12.0, 22.0, 12.0), rect(-25.0, -15.0, 25.0, 15.0));
    let stamp = rect(-5.0, -1.0, 5.0, 1.0);
    let solid = build(vec![
        add(flange.with_hole(&wall), 0.0, 2.0),
        add(wall.with_hole(&edge), 0.0, 15.0),
        add(stamp, 0.0, 12.0),
    ])
    .unwrap();
    let truth = (1500.0 - 1056.0) * 2.0 + (1056.0 - 800.0) * 15.0 + 20.0 * 12.0;
    assert_eq!(solid.skin.mesh().volume(), truth);
    let bodies = solid.skin.mesh().bodies();
    assert_eq!(bodies.iter().map(|b| b.volume).collect::<Vec<_>>(), [truth - 240.0, 240.0]);
    assert_eq!(bodies[1].z, (0.0, 12.0));
    assert_eq!(solid.skin.mesh().extent(), ([-25.0, -15.0, 0.0], [25.0, 15.0, 15.0]));
}

#[test]
fn a_cut_takes_away_and_a_later_tier_fills_again() {
    let block = || add(rect(0.0, 0.0, 10.0, 10.0), 0.0, 10.0);
    let pocket = || tier(rect(2.0, 2.0, 8.0, 8.0), 2.0, 8.0, Op::Cut, 0);
    // A hidden hollow: its skin is an inner one, and the body stays one.
    let hollow = build(vec![block(), pocket()]).unwrap();
    assert_eq!(hollow.skin.mesh().volume(), 1000.0 - 216.0);
    assert_eq!(hollow.skin.mesh().bodies().len(), 1);
    assert_eq!(volume(vec![block(), pocket(), add(rect(4.0, 4.0, 6.0, 6.0), 0.0, 10.0)]), 1000.0 - 216.0 + 24.0);
}

#[test]
fn squares_that_touch_in_a_point_are_opened() {
    let solid = build(vec![add(rect(0.0, 0.0, 5.0, 5.0), 0.0, 3.0), add(rect(5.0, 5.0, 9.0, 9.0), 0.0, 3.0)]).unwrap();
    assert!(!solid.touches.is_empty());
    assert_eq!(solid.skin.mesh().bodies().len(), 2, "a touch is no connection");
    assert!((solid.skin.mesh().volume() - 123.0).abs() < 1e-3);
}

#[test]
fn a_touch_is_told_once_a_place_however_many_slabs_it_runs_through() {
    let squares = |top: f64| {
        vec![
            add(rect(0.0, 0.0, 5.0, 5.0), 0.0, top),
            add(rect(5.0, 5.0, 9.0, 9.0), 0.0, top),
            add(rect(-9.0, -9.0, 0.0, 0.0), 0.0, 2.0),
        ]
    };
    let mut stack = squares(3.0);
    stack.push(add(rect(-20.0, -20.0, -15.0, -15.0), 0.0, 1.0));
    let touches = build(stack).unwrap().touches;
    let mut places: Vec<(i32, i32)> = touches.iter().map(|p| (p.x.round() as i32, p.y.round() as i32)).collect();
    places.sort_unstable();
    assert_eq!(places, [(0, 0), (5, 5)]);
    // Two filaments side by side touch nothing.
    let side = vec![add(rect(0.0, 0.0, 5.0, 5.0), 0.0, 3.0), tier(rect(5.0, 0.0, 9.0, 5.0), 0.0, 3.0, Op::Add, 1)];
    assert!(build(side).unwrap().touches.is_empty());
}

#[test]
fn slabs_that_meet_along_an_edge_are_opened() {
    let solid = build(vec![add(rect(0.0, 0.0, 5.0, 5.0), 0.0, 3.0), add(rect(5.0, 0.0, 9.0, 5.0), 3.0, 6.0)]).unwrap();
    assert!(!solid.touches.is_empty());
    assert!((solid.skin.mesh().volume() - 135.0).abs() < 0.1);
    // The whole chain of edges of an island standing in a pool's rim.
    let (pool, rim) = (rect(2.0, 2.0, 8.0, 8.0), rect(0.0, 0.0, 10.0, 10.0));
    let solid = build(vec![add(rim.with_hole(&pool), 0.0, 2.0), add(pool, 2.0, 4.0)]).unwrap();
    assert_eq!(solid.skin.mesh().bodies().len(), 2);
}

#[test]
fn cubes_that_touch_in_a_corner_only_are_opened() {
    let solid = build(vec![add(rect(0.0, 0.0, 5.0, 5.0), 0.0, 3.0), add(rect(5.0, 5.0, 9.0, 9.0), 3.0, 6.0)]).unwrap();
    assert!(!solid.touches.is_empty());
    assert_eq!(solid.skin.mesh().bodies().len(), 2);
}

#[test]
fn holes_that_touch_leave_a_sound_mesh() {
    let plate = || add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 2.0);
    let hole = |r| tier(r, 0.0, 2.0, Op::Cut, 0);
    let solid = build(vec![plate(), hole(rect(-4.0, -4.0, 0.0, 0.0)), hole(rect(0.0, 0.0, 4.0, 4.0))]).unwrap();
    assert!((solid.skin.mesh().volume() - (400.0 - 32.0) * 2.0).abs() < 1e-3);
    // Air from above and air from below that meet in an edge within the plate.
    let above = tier(rect(-5.0, -5.0, 0.0, 5.0), 1.0, 2.0, Op::Cut, 0);
    let below = tier(rect(0.0, -5.0, 5.0, 5.0), 0.0, 1.0, Op::Cut, 0);
    build(vec![plate(), above, below]).unwrap();
}

#[test]
fn parts_share_their_faces_and_never_overlap() {
    let plate = add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 3.0);
    let inlay = tier(rect(-4.0, -4.0, 4.0, 4.0), 1.5, 3.0, Op::Add, 1);
    let solid = build(vec![plate, inlay]).unwrap();
    let volumes: Vec<f64> = solid.parts.iter().map(|p| p.mesh.mesh().volume()).collect();
    assert_eq!(volumes, [1200.0 - 96.0, 96.0]);
    assert_eq!(solid.skin.mesh().volume(), 1200.0);
    // Every vertex of the inlay is a vertex of the pocket it lies in.
    let pocket = &solid.parts[0].mesh.mesh().vertices;
    assert!(solid.parts[1].mesh.mesh().vertices.iter().filter(|v| v[2] < 3 << 14).all(|v| pocket.contains(v)));
}

#[test]
fn tangles_with_shared_edges_and_touching_points_are_sound() {
    for seed in 1..=300 {
        let mut random = Random::new(seed * 7919);
        let tiers: Vec<Tier> = (0..1 + (random.unit() * 6.0) as u32)
            .map(|i| {
                let nodes = 3 + (random.unit() * 9.0) as u32;
                let footprint = random.tangle(nodes);
                let bottom = random.between(0.0, 4.0).floor();
                let op = if i > 0 && random.unit() < 0.3 { Op::Cut } else { Op::Add };
                let part = (random.unit() * 2.0) as u32;
                tier(footprint, bottom, bottom + 1.0 + random.between(0.0, 4.0).floor(), op, part)
            })
            .collect();
        let described = format!("seed {seed}: {tiers:?}");
        match build(tiers) {
            Ok(solid) => {
                let parts: f64 = solid.parts.iter().map(|p| p.mesh.mesh().volume()).sum();
                let skin = solid.skin.mesh().volume();
                // Both runs open pinches of their own.
                assert!((parts - skin).abs() < 0.05, "{parts} against {skin}, {described}");
            }
            Err(SolidError::Empty) => {}
            Err(e) => panic!("{e}, {described}"),
        }
    }
}

#[test]
fn crossing_blobs_agree_with_plane_booleans() {
    // Independent of the arrangement: unions and differences by i_overlay, slab by slab.
    for seed in 1..=25 {
        let mut random = Random::new(seed * 104_729);
        let [a, b, c] = [(0.0, 0.0), (9.0, 2.0), (3.0, -7.0)].map(|(x, y)| random.blob(x, y, 14.0, 90));
        let join = |p: &Region, q: &Region| combine(p, q, BoolOp::Join).unwrap();
        let less = |p: &Region, q: &Region| combine(p, q, BoolOp::TakeAway).unwrap();
        let ab = join(&a, &b);
        let truth = ab.area_mm2() * 2.0 + less(&ab, &c).area_mm2() * 3.0 + b.area_mm2();
        let got =
            volume(vec![add(a, 0.0, 5.0), add(b.clone(), 0.0, 5.0), tier(c, 2.0, 5.0, Op::Cut, 0), add(b, 5.0, 6.0)]);
        assert!((got / truth - 1.0).abs() < 1e-6, "seed {seed}: {got} against {truth}");
    }
}

fn prism(r: &Region, z0: f64, z1: f64) -> Manifold<f64> {
    let solid = build(vec![add(r.clone(), z0, z1)]).unwrap();
    let mesh = solid.skin.mesh();
    let positions: Vec<f64> = mesh.vertices.iter().flatten().map(|&v| f64::from(v) / 16384.0).collect();
    let indices: Vec<usize> = mesh.triangles.iter().flatten().map(|&v| v as usize).collect();
    Manifold::new(&positions, &indices).unwrap()
}

fn reference_volume(m: &Manifold<f64>) -> f64 {
    m.hs.chunks_exact(3)
        .map(|t| {
            let [a, b, c] = [0, 1, 2].map(|k| m.ps[t[k].tail]);
            a.x * (b.y * c.z - b.z * c.y) + a.y * (b.z * c.x - b.x * c.z) + a.z * (b.x * c.y - b.y * c.x)
        })
        .sum::<f64>()
        / 6.0
}

#[test]
fn stacks_agree_with_an_independent_mesh_boolean() {
    // boolmesh (test only) unites the same prisms.
    for seed in 1..=8 {
        let mut random = Random::new(seed * 31_337);
        let blobs: Vec<(Region, f64, f64)> = (0..4)
            .map(|_| {
                let (x, y) = (random.between(-10.0, 10.0), random.between(-10.0, 10.0));
                let (z, h) = (random.between(0.0, 4.0), random.between(1.0, 6.0));
                (random.blob(x, y, 12.0, 40), z, z + h)
            })
            .collect();
        let reference = blobs
            .iter()
            .map(|(r, z0, z1)| prism(r, *z0, *z1))
            .reduce(|m, n| compute_boolean(&m, &n, OpType::Add).unwrap())
            .unwrap();
        let ours = volume(blobs.into_iter().map(|(r, z0, z1)| add(r, z0, z1)).collect());
        let theirs = reference_volume(&reference);
        assert!((ours / theirs - 1.0).abs() < 1e-6, "seed {seed}: {ours} against {theirs}");
    }
}

#[test]
fn start_node_order_and_mirror_do_not_matter() {
    let mut random = Random::new(5);
    let blob = random.blob(0.0, 0.0, 20.0, 77);
    let mut turned = blob.rings()[0].clone();
    turned.rotate_left(13);
    let reference = volume(vec![add(blob.clone(), 0.0, 3.0)]);
    assert_eq!(volume(vec![add(Region::new([turned]), 0.0, 3.0)]), reference);
    assert_eq!(volume(vec![add(blob.mirrored(), 0.0, 3.0)]), reference);
}

#[test]
fn the_checker_finds_what_is_wrong() {
    let solid = build(vec![add(rect(0.0, 0.0, 5.0, 5.0), 0.0, 3.0)]).unwrap();
    let good = solid.skin.mesh().clone();
    let broken = |change: &dyn Fn(&mut Mesh)| {
        let mut m = good.clone();
        change(&mut m);
        SoundMesh::prove(m).unwrap_err().0
    };
    assert!(matches!(broken(&|m| m.triangles.clear()), Unsound::Empty));
    assert!(matches!(broken(&|m| m.triangles.truncate(m.triangles.len() - 1)), Unsound::OpenEdge { .. }));
    assert!(matches!(broken(&|m| m.triangles[0].swap(0, 1)), Unsound::OpenEdge { .. }));
    assert!(matches!(broken(&|m| m.triangles.iter_mut().for_each(|t| t.swap(0, 1))), Unsound::NoVolume));
    assert!(matches!(broken(&|m| m.triangles[0] = [0, 1, 99]), Unsound::Index { triangle: 0 }));
    assert!(matches!(broken(&|m| m.triangles[0] = [0, 1, 1]), Unsound::Degenerate { triangle: 0 }));
    assert!(matches!(broken(&|m| m.vertices.push(m.vertices[0])), Unsound::DoubleVertex { .. }));
    // Two boxes that share one corner: every edge is fine, the corner is not.
    let shared = broken(&|m| {
        let at = m.vertices.iter().position(|v| *v == [5 << 14, 5 << 14, 3 << 14]).unwrap() as u32;
        let from = m.vertices.len() as u32;
        let corner = m.vertices[at as usize];
        let copies: Vec<[i32; 3]> = m.vertices.iter().map(|v| std::array::from_fn(|k| 2 * corner[k] - v[k])).collect();
        let name = |v: u32| if v == at { at } else { from + v };
        // A point reflection turns triangles inside out; swapping two corners turns them back.
        let more: Vec<[u32; 3]> = m.triangles.iter().map(|t| [name(t[0]), name(t[2]), name(t[1])]).collect();
        m.vertices.extend(copies);
        m.vertices[(from + at) as usize] = [-1, -1, -1];
        m.triangles.extend(more);
    });
    assert!(matches!(shared, Unsound::Fan { .. }), "{shared}");
}

#[test]
fn refuses_too_much_and_nothing() {
    assert!(matches!(build(vec![]), Err(SolidError::Empty)));
    let many = (0..130).map(|i| add(rect(0.0, 0.0, 1.0, 1.0), f64::from(i), f64::from(i) + 0.5)).collect();
    assert!(matches!(build(many), Err(SolidError::TooLarge { what: "too-many-levels", .. })));
    let stack = Stack { tiers: vec![add(rect(0.0, 0.0, 1.0, 1.0), 0.0, 1.0)], ..Stack::default() };
    let watch = Watch::default();
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    watch.stop();
    assert!(matches!(arrange(&slices, &Sheets::default(), &watch), Err(SolidError::Stopped(_))));
}

#[test]
fn a_long_sliver_across_many_edges_settles() {
    // Nearly parallel edges that cross at tiny angles are where rounding breeds new crossings.
    let teeth: Vec<(f64, f64)> = (0..400)
        .flat_map(|i| [(f64::from(i) * 0.1, 0.0), (f64::from(i) * 0.1 + 0.05, 0.01)])
        .chain([(40.0, -5.0), (0.0, -5.0)])
        .collect();
    let p = |x, y| GridPoint::new(x, y).unwrap();
    let sliver = Region::new([vec![p(-999, 80), p(999_983, 83), p(999_991, 90), p(-1013, 85)]]);
    build(vec![add(region(&teeth), 0.0, 2.0), add(sliver, 1.0, 3.0)]).unwrap();
}

/// Unit cubes: 1 where there is filament. The independent, slow truth for stacks of rectangles on whole millimetres.
struct Cubes([[[bool; SIDE]; SIDE]; SIDE]);

const SIDE: usize = 7;

impl Cubes {
    fn of(tiers: &[(usize, usize, usize, usize, usize, usize, Op)]) -> Self {
        let mut cubes = [[[false; SIDE]; SIDE]; SIDE];
        for &(x0, x1, y0, y1, z0, z1, op) in tiers {
            for layer in &mut cubes[z0..z1] {
                layer[y0..y1].iter_mut().for_each(|row| row[x0..x1].fill(op == Op::Add));
            }
        }
        Self(cubes)
    }

    fn volume(&self) -> usize {
        self.0.iter().flatten().flatten().filter(|c| **c).count()
    }

    /// Pieces that hang together by faces, not by edges or corners only.
    fn pieces(&self) -> usize {
        let mut left = self.0;
        let mut pieces = 0;
        for start in 0..SIDE * SIDE * SIDE {
            let mut queue = vec![(start % SIDE, start / SIDE % SIDE, start / SIDE / SIDE)];
            let mut size = 0;
            while let Some((x, y, z)) = queue.pop() {
                if !std::mem::take(&mut left[z][y][x]) {
                    continue;
                }
                size += 1;
                let around = [(-1, 0, 0), (1, 0, 0), (0, -1, 0), (0, 1, 0), (0, 0, -1), (0, 0, 1)];
                queue.extend(around.iter().filter_map(|(dx, dy, dz)| {
                    let at = |v: usize, d: isize| v.checked_add_signed(d).filter(|v| *v < SIDE);
                    Some((at(x, *dx)?, at(y, *dy)?, at(z, *dz)?))
                }));
            }
            pieces += usize::from(size > 0);
        }
        pieces
    }
}

#[test]
fn stacks_of_rectangles_are_their_counted_cubes() {
    for_all(500, |random| {
        let mut span = || {
            let from = random.below(SIDE - 1);
            (from, from + 1 + random.below(SIDE - from))
        };
        let mut boxes = Vec::new();
        for i in 0..7 {
            let ((x0, x1), (y0, y1), (z0, z1)) = (span(), span(), span());
            let op = if i > 0 && (x0 + y1 + z0) % 3 == 0 { Op::Cut } else { Op::Add };
            boxes.push((x0, x1.min(SIDE), y0, y1.min(SIDE), z0, z1.min(SIDE), op));
        }
        let cubes = Cubes::of(&boxes);
        let tiers = boxes
            .iter()
            .map(|&(x0, x1, y0, y1, z0, z1, op)| {
                let footprint = rect(x0 as f64, y0 as f64, x1 as f64, y1 as f64);
                tier(footprint, z0 as f64, z1 as f64, op, 0)
            })
            .collect();
        match build(tiers) {
            Ok(solid) => {
                let (got, truth) = (solid.skin.mesh().volume(), cubes.volume() as f64);
                if solid.touches.is_empty() {
                    assert_eq!(got, truth, "{boxes:?}");
                } else {
                    // An opened touch takes at most a strip of some micrometres along it.
                    assert!((got - truth).abs() < 0.3, "{got} against {truth}, {boxes:?}");
                }
                assert_eq!(solid.skin.mesh().bodies().len(), cubes.pieces(), "{boxes:?}");
            }
            Err(SolidError::Empty) => assert_eq!(cubes.volume(), 0),
            Err(e) => panic!("{e}, {boxes:?}"),
        }
    });
}

#[test]
fn building_again_reuses_triangulations_and_gives_the_same_bytes() {
    let mut random = Random::new(11);
    let (a, b) = (random.blob(0.0, 0.0, 20.0, 120), random.blob(2.0, 1.0, 12.0, 80));
    let stack =
        |top: f64| Stack { tiers: vec![add(a.clone(), 0.0, 2.0), add(b.clone(), 0.0, top)], ..Stack::default() };
    let watch = Watch::default();
    let sliced = |top: f64| slice(&stack(top), &Plans::default(), &watch).unwrap();
    let planar = arrange(&sliced(9.0), &Sheets::default(), &watch).unwrap();
    let made = |planar: &Planar, top: f64| extrude(planar, &stack(top), &sliced(top), &watch).unwrap();
    let first = made(&planar, 9.0);
    let higher = made(&planar, 12.5);
    let again = made(&planar, 9.0);
    let fresh = made(&arrange(&sliced(12.5), &Sheets::default(), &watch).unwrap(), 12.5);
    assert_eq!(first.skin.mesh(), again.skin.mesh());
    assert_eq!(higher.skin.mesh(), fresh.skin.mesh());
    assert_eq!(first.skin.mesh().triangles, higher.skin.mesh().triangles, "only heights differ");
}

mod layers;
mod slopes;
mod triangulation;
