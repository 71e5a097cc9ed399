use super::*;
use kachel_geom::{BoolOp, Bounds, Mm, Point, Pose, Region, Ring, Watch, combine, offset};
use kachel_oracle::{Random, for_all};
use std::f64::consts::TAU;

fn region(points: &[(f64, f64)]) -> Region {
    Region::from_mm([&Ring(points.iter().map(|&(x, y)| Point::<Mm>::new(x, y)).collect())]).unwrap()
}

fn rect(w: f64, h: f64) -> Region {
    region(&[(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)])
}

/// A star, leaf or blob of so many rays.
fn star(rays: u32, out: f64, inner: f64) -> Region {
    let at = |k: u32| {
        let (a, r) = (TAU * f64::from(k) / f64::from(2 * rays), if k.is_multiple_of(2) { out } else { inner });
        (r * a.cos(), r * a.sin())
    };
    region(&(0..2 * rays).map(at).collect::<Vec<_>>())
}

/// A ring, such as a cutter.
fn ring(r: f64, wall: f64) -> Region {
    star(60, r, r).with_hole(&star(60, r - wall, r - wall))
}

/// What makers put together: cutters, tags, leaves, tokens, brackets.
fn mixed(random: &mut Random) -> (Vec<Region>, Vec<usize>) {
    let mut shapes = Vec::new();
    for _ in 0..8 {
        let size = random.between(10.0, 32.0);
        shapes.push(match random.below(6) {
            0 => ring(size + 8.0, 3.0),
            1 => star(3 + random.below(6) as u32, size, size * random.between(0.3, 0.7)),
            2 => rect(2.0 * size, size * random.between(0.4, 1.0)),
            3 => region(&[
                (0.0, 0.0),
                (2.0 * size, 0.0),
                (2.0 * size, 8.0),
                (8.0, 8.0),
                (8.0, 2.0 * size),
                (0.0, 2.0 * size),
            ]),
            4 => region(&[(0.0, 0.0), (2.2 * size, 0.0), (0.6 * size, 1.7 * size)]),
            _ => star(40, size, size),
        });
    }
    let pieces = (0..50).map(|_| random.below(8)).collect();
    (shapes, pieces)
}

const BED: Wish = Wish { bed: [220.0, 220.0], edge: 2.0, gap: 2.0, turns: Turns::Any };

fn lying(shapes: &[Region], pieces: &[usize], places: &[Option<Place>]) -> Vec<(usize, Region)> {
    let lie = |(piece, place): (&usize, &Option<Place>)| {
        let place = place.as_ref()?;
        Some((place.plate, place.pose.region(&shapes[*piece]).unwrap()))
    };
    pieces.iter().zip(places).filter_map(lie).collect()
}

fn box_of(r: &Region) -> Bounds<Mm> {
    r.bounds().unwrap()
}

/// Every pair is the gap apart, and everything the edge from the border; measured on the true outlines.
fn assert_lies_well(all: &[(usize, Region)], wish: &Wish) {
    let grown: Vec<Region> = all.iter().map(|(_, r)| offset(r, wish.gap / 2.0 - 0.005).unwrap()).collect();
    for (i, (plate, r)) in all.iter().enumerate() {
        let b = box_of(r);
        assert!(b.min.x > wish.edge - 1e-3 && b.max.x < wish.bed[0] - wish.edge + 1e-3, "{b:?}");
        assert!(b.min.y > wish.edge - 1e-3 && b.max.y < wish.bed[1] - wish.edge + 1e-3, "{b:?}");
        for k in i + 1..all.len() {
            if all[k].0 == *plate {
                assert!(combine(&grown[i], &grown[k], BoolOp::Common).unwrap().is_empty(), "{i} and {k}");
            }
        }
    }
}

#[test]
fn pieces_keep_their_gap_and_stay_on_the_bed() {
    for_all(6, |random| {
        let (shapes, pieces) = mixed(random);
        for turns in [Turns::None, Turns::Quarter, Turns::Any] {
            let wish = Wish { turns, gap: random.between(0.5, 6.0), ..BED };
            let places = pack(&shapes, &pieces, &[], &wish, &Watch::default()).unwrap();
            assert!(places.iter().all(Option::is_some));
            assert_lies_well(&lying(&shapes, &pieces, &places), &wish);
        }
    });
}

/// Height of the bed that a set fills, mm.
fn filled_height(shapes: &[Region], pieces: &[usize], turns: Turns) -> f64 {
    let wish = Wish { bed: [220.0, 1500.0], turns, ..BED };
    let places = pack(shapes, pieces, &[], &wish, &Watch::default()).unwrap();
    assert!(places.iter().all(|p| p.is_some_and(|p| p.plate == 0)));
    lying(shapes, pieces, &places).iter().map(|(_, r)| box_of(r).max.y).fold(0.0, f64::max)
}

#[test]
fn true_outlines_lie_a_tenth_denser_than_boxes_on_ten_mixed_sets() {
    let mut random = Random::new(11);
    for set in 0..10 {
        let (shapes, pieces) = mixed(&mut random);
        let boxes: Vec<Region> = shapes
            .iter()
            .map(|s| {
                let b = box_of(s);
                rect(b.width(), b.height())
            })
            .collect();
        let (theirs, ours) =
            (filled_height(&boxes, &pieces, Turns::Quarter), filled_height(&shapes, &pieces, Turns::Any));
        assert!(theirs / ours > 1.1, "set {set}: boxes fill {theirs:.0} mm, outlines {ours:.0} mm");
    }
}

#[test]
fn small_things_lie_inside_a_cutter() {
    let shapes = [ring(100.0, 4.0), star(20, 30.0, 30.0)];
    let places = pack(&shapes, &[0, 1, 1, 1], &[], &BED, &Watch::default()).unwrap();
    assert!(places.iter().all(|p| p.is_some_and(|p| p.plate == 0)), "{places:?}");
}

#[test]
fn what_lies_fixed_stays_and_is_not_touched() {
    let shapes = [rect(80.0, 80.0), star(5, 40.0, 20.0)];
    let fixed = [
        (0, Place { plate: 0, pose: Pose { x: 71.3, y: 63.9, degrees: 31.0 } }),
        (1, Place { plate: 0, pose: Pose { x: 170.2, y: 170.7, degrees: 7.5 } }),
    ];
    let pieces = [1; 12];
    let places = pack(&shapes, &pieces, &fixed, &BED, &Watch::default()).unwrap();
    let mut all = lying(&shapes, &pieces, &places);
    for (shape, place) in &fixed {
        all.push((place.plate, place.pose.region(&shapes[*shape]).unwrap()));
    }
    assert_lies_well(&all, &BED);
}

#[test]
fn beds_are_begun_as_they_are_needed_and_what_is_too_large_finds_none() {
    let shapes = [rect(100.0, 100.0), rect(300.0, 10.0), rect(20.0, 20.0)];
    let pieces = [0, 0, 0, 0, 0, 1, 2];
    let places = pack(&shapes, &pieces, &[], &Wish { turns: Turns::Quarter, ..BED }, &Watch::default()).unwrap();
    let plates: Vec<Option<usize>> = places.iter().map(|p| p.map(|p| p.plate)).collect();
    assert_eq!(plates, [Some(0), Some(0), Some(0), Some(0), Some(1), None, Some(1)]);
    // Diagonally more than 220 mm fit on 220 x 220 mm.
    let any = pack(&[rect(285.0, 6.0)], &[0], &[], &BED, &Watch::default()).unwrap();
    assert!(any[0].is_some_and(|p| (p.pose.degrees / 45.0) % 2.0 == 1.0), "{any:?}");
}

#[test]
fn odd_orders_are_answered() {
    let watch = Watch::default();
    let square = [rect(10.0, 10.0)];
    assert_eq!(pack(&square, &[], &[], &BED, &watch).unwrap(), []);
    assert_eq!(pack(&square, &[0], &[], &Wish { bed: [1.0, 1.0], ..BED }, &watch).unwrap(), [None]);
    assert_eq!(pack(&[Region::default()], &[0], &[], &BED, &watch).unwrap(), [None]);
    assert!(matches!(pack(&square, &[0; 2001], &[], &BED, &watch), Err(PackError::TooMany(2001))));
    let all = pack(&square, &[0; 2000], &[], &BED, &watch).unwrap();
    assert!(all.iter().all(Option::is_some));
    watch.stop();
    assert!(matches!(pack(&square, &[0; 20], &[], &BED, &watch), Err(PackError::Stopped(_))));
}

#[test]
fn the_same_pieces_always_lie_the_same() {
    let mut random = Random::new(5);
    let (shapes, pieces) = mixed(&mut random);
    let once = || pack(&shapes, &pieces, &[], &BED, &Watch::default()).unwrap();
    assert_eq!(once(), once());
}
