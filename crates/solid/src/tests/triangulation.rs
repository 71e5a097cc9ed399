//! Triangulations of random areas, against their definition and a library.

use crate::arrange::Arrangement;
use crate::faces::Faces;
use crate::sheet::{Border, Side};
use crate::sweep::{Tangled, triangulation};
use crate::triangulation::Triangulation;
use kachel_geom::{GridPoint, Region, Watch, orient};
use kachel_oracle::{Random, for_all};
use spade::handles::FixedVertexHandle;
use spade::{ConstrainedDelaunayTriangulation, Point2, Triangulation as _};
use std::collections::BTreeMap;

/// Areas of three kinds and holes, bounded by two rings that cross each other and themselves, on a lattice of `most` places.
fn drawn(random: &mut Random, most: usize) -> Border<Option<u8>> {
    let nodes = 3 + random.below(40);
    let mut ring = || {
        let at = |random: &mut Random| i32::try_from(random.below(most) * (1 << 20) / most).unwrap();
        (0..nodes).map(|_| GridPoint::new(at(random), at(random)).unwrap()).collect()
    };
    let regions = [Region::new([ring()]), Region::new([ring()])];
    let arrangement = Arrangement::new(&regions, &Watch::default()).unwrap();
    let faces = Faces::new(arrangement, 2, &Watch::default()).unwrap();
    let kind = |f: u32| if f == 0 { None } else { [None, Some(1), Some(2), Some(3)][random.below(4)] };
    let kinds: Vec<Option<u8>> = (0..faces.count as u32).map(kind).collect();
    Border::of(&faces, &kinds).0
}

/// Twice the area under an edge, by its coordinates.
fn under(p: GridPoint, q: GridPoint) -> i128 {
    i128::from(p.x()) * i128::from(q.y()) - i128::from(q.x()) * i128::from(p.y())
}

/// Whether d lies in the circle through a, b and c: the determinant of the textbooks (Guibas and Stolfi, 1985, from memory).
fn in_circle(corners: [GridPoint; 3], d: GridPoint) -> bool {
    let [a, b, c] = corners.map(|p| {
        let (x, y) = (i128::from(p.x() - d.x()), i128::from(p.y() - d.y()));
        [x, y, x * x + y * y]
    });
    let minor = |p: [i128; 3], q: [i128; 3]| p[0] * q[1] - p[1] * q[0];
    a[2] * minor(b, c) - b[2] * minor(a, c) + c[2] * minor(a, b) > 0
}

fn check(border: &Border<Option<u8>>, points: &[GridPoint], found: &Triangulation<u8>) {
    // Each side of each edge of an area once; every other edge twice, by the same kind.
    let mut uses: BTreeMap<(u32, u32), (u8, u32)> = BTreeMap::new();
    let mut areas: BTreeMap<u8, i128> = BTreeMap::new();
    for (t, kind) in found.triangles() {
        let [a, b, c] = t.map(|v| points[v as usize]);
        assert!(orient(a, b, c) > 0, "a triangle of no area");
        *areas.entry(kind).or_default() += i128::from(orient(a, b, c));
        for k in 0..3 {
            let before = uses.insert((t[k], t[(k + 1) % 3]), (kind, t[(k + 2) % 3]));
            assert_eq!(before, None, "an edge is used twice");
        }
    }
    let mut rings: BTreeMap<u8, i128> = BTreeMap::new();
    for ([a, b], [left, right]) in &border.edges {
        for (from, to, kind) in [(*a, *b, left), (*b, *a, right)] {
            assert_eq!(uses.remove(&(from, to)).map(|u| u.0), *kind, "beside an edge");
            if let Some(kind) = kind {
                *rings.entry(*kind).or_default() += under(points[from as usize], points[to as usize]);
            }
        }
    }
    assert_eq!(areas, rings);
    for ((a, b), (kind, c)) in &uses {
        let (other, d) = uses[&(*b, *a)];
        assert_eq!(*kind, other, "two kinds beside an edge within one");
        let corners = [*a, *b, *c].map(|v| points[v as usize]);
        assert!(!in_circle(corners, points[d as usize]), "not Delaunay");
    }
}

#[test]
fn areas_are_covered_once_by_the_constrained_delaunay_triangulation() {
    for_all(400, |random| {
        let most = [6, 30, 5000][random.below(3)];
        let border = drawn(random, most);
        let found = triangulation(&border).unwrap();
        check(&border, &border.points, &found);
        assert_eq!(found.len() as usize, theirs(&border));
    });
}

/// How many triangles a library of its own makes within areas: those beside an edge know theirs, the others learn it from their
/// neighbours, as it triangulates all around, too.
fn theirs(border: &Border<Option<u8>>) -> usize {
    let plane = |p: &GridPoint| Point2::new(f64::from(p.x()), f64::from(p.y()));
    let vertices = border.points.iter().map(plane).collect();
    let edges = border.edges.iter().map(|(ends, _)| ends.map(|v| v as usize)).collect();
    let cdt: ConstrainedDelaunayTriangulation<Point2<f64>> =
        ConstrainedDelaunayTriangulation::bulk_load_cdt(vertices, edges).unwrap();
    let mut of: Vec<Option<Option<u8>>> = vec![None; cdt.num_all_faces()];
    let mut queue = Vec::new();
    for (ends, sides) in &border.edges {
        let [a, b] = ends.map(|v| FixedVertexHandle::from_index(v as usize));
        let e = cdt.get_edge_from_neighbors(a, b).unwrap();
        for (face, side) in [e.face(), e.rev().face()].into_iter().zip(sides) {
            if let Some(face) = face.as_inner() {
                of[face.index()] = Some(*side);
                queue.push(face);
            }
        }
    }
    while let Some(face) = queue.pop() {
        for e in face.adjacent_edges().into_iter().filter(|e| !e.is_constraint_edge()) {
            if let Some(over) = e.rev().face().as_inner().filter(|over| of[over.index()].is_none()) {
                of[over.index()] = of[face.index()];
                queue.push(over);
            }
        }
    }
    of.into_iter().filter(|kind| kind.flatten().is_some()).count()
}

#[test]
fn corners_that_are_added_leave_it_the_constrained_delaunay_triangulation() {
    let on_edges = std::cell::Cell::new(0);
    for_all(300, |random| {
        let most = [6, 30, 5000][random.below(3)];
        let border = drawn(random, most);
        let mut found = triangulation(&border).unwrap();
        let mut points = border.points.clone();
        for _ in 0..random.below(60) {
            if found.len() == 0 {
                return;
            }
            let t = u32::try_from(random.below(found.len() as usize)).unwrap();
            let corners = found.corners(t).map(|v| points[v as usize]);
            let edge = found.edges_of(t).iter().position(|e| e.is_some() && random.below(3) == 0);
            // Within it, or in the middle of an edge, where that is a place of the grid.
            let shares = edge.map_or([1, 1, 1], |k| [usize::from(k != 1), usize::from(k != 2), usize::from(k != 0)]);
            let mean = |c: fn(GridPoint) -> i32| {
                let sum: i32 = corners.iter().zip(shares).map(|(p, s)| c(*p) * i32::try_from(s).unwrap()).sum();
                sum / if edge.is_some() { 2 } else { 3 }
            };
            let at = GridPoint::new(mean(GridPoint::x), mean(GridPoint::y)).unwrap();
            let [a, b, c] = corners;
            let sides = [(a, b), (b, c), (c, a)].map(|(p, q)| orient(p, q, at));
            if corners.contains(&at) || sides.iter().any(|s| *s < 0) {
                continue;
            }
            points.push(at);
            let v = points.len() as u32 - 1;
            match found.insert(t, &points) {
                Some(changed) => assert!(changed.iter().all(|t| found.corners(*t).contains(&v))),
                None => {
                    assert!(sides.iter().zip(found.edges_of(t)).any(|(s, e)| *s == 0 && e.is_none()));
                    points.pop();
                }
            }
            on_edges.set(on_edges.get() + usize::from(sides.contains(&0)));
        }
        check(&border, &points, &found);
    });
    assert!(on_edges.get() > 500, "{on_edges:?}");
}

#[test]
fn edges_that_cross_or_do_not_close_are_refused_or_cover_no_place_backwards() {
    let refused = std::cell::Cell::new(0);
    for_all(2000, |random| {
        let n = 3 + random.below(12);
        let at = |random: &mut Random| i32::try_from(random.below(9)).unwrap();
        let mut points: Vec<GridPoint> = (0..n).map(|_| GridPoint::new(at(random), at(random)).unwrap()).collect();
        points.sort_unstable();
        points.dedup();
        let n = points.len();
        let kind = |random: &mut Random| [None, None, Some(1), Some(2)][random.below(4)];
        let mut edges: Vec<Side<Option<u8>>> = Vec::new();
        for _ in 0..random.below(2 * n) {
            let ends = [random.below(n) as u32, random.below(n) as u32];
            if ends[0] != ends[1] {
                edges.push((ends, [kind(random), kind(random)]));
            }
        }
        let border = Border { points, edges };
        match triangulation(&border) {
            Err(Tangled) => refused.set(refused.get() + 1),
            Ok(found) => found.triangles().for_each(|(t, _)| {
                let [a, b, c] = t.map(|v| border.points[v as usize]);
                assert!(orient(a, b, c) > 0);
            }),
        }
    });
    assert!(refused.get() > 1000, "{refused:?}");
}
