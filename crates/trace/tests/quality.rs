//! A fixed part of the benchmark set with the bounds that the tracing keeps in its one default setting; the whole set
//! is in `benches/quality.rs`. Shapes and their sources: `conformance/README.md`.

mod support;

use kachel_artwork::{Paint, Prepare, prepare};
use kachel_geom::{Curve, Point, Px, Ring, Watch};
use kachel_trace::{TraceSettings, first_guess, trace};
use support::{Score, Variant, artwork, file, shape};

/// A silhouette, long curves, sharp corners, many holes, thin strokes, tiny details, letters.
const SHAPES: [&str; 9] = [
    "mdi-elephant",
    "mdi-music-clef-treble",
    "mdi-star",
    "mdi-octagon",
    "mdi-ferris-wheel",
    "bootstrap-bricks",
    "bootstrap-alphabet",
    "phosphor-bird-thin",
    "phosphor-acorn-fill",
];

fn scores(size: u32, variant: Variant) -> Vec<Score> {
    let one = |name: &&str| {
        let shape = shape(&file(name), size, if variant == Variant::Scan { 2.3 } else { 0.0 });
        let mut art = artwork(&shape.picture(variant, 7));
        if variant == Variant::Photo {
            let level = Prepare { level: true, ..Prepare::default() };
            art = prepare(&art, &level, Paint::default(), &Watch::default()).unwrap().unwrap();
        }
        let contours = trace(&art, &TraceSettings::default(), &Watch::default()).unwrap();
        let curves: Vec<Curve<Px>> = contours.contours.iter().map(|c| c.curve.clone()).collect();
        let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
        let score = shape.score(&curves, &rings);
        assert!(score.rings_are_right, "{name}, {size} px, {variant:?}: {:?}", score.rings);
        score
    };
    SHAPES.iter().map(one).collect()
}

fn mean(scores: &[Score], f: impl Fn(&Score) -> f64) -> f64 {
    scores.iter().map(f).sum::<f64>() / scores.len() as f64
}

#[test]
fn clean_pictures_become_accurate_sparse_and_sharp_contours() {
    for size in [512, 2048] {
        let all = scores(size, Variant::Clean);
        let corners: f64 = all.iter().map(|s| s.corners as f64).sum();
        let corner = all.iter().map(|s| s.corner * s.corners as f64).sum::<f64>() / corners;
        let (off, nodes) = (mean(&all, |s| s.mean), mean(&all, |s| s.nodes));
        assert!(off <= 0.04, "{size} px: mean error {off:.3} px");
        assert!(corner <= 0.4, "{size} px: corners off by {corner:.2} px");
        assert!(nodes <= 1.6, "{size} px: {nodes:.2} nodes a segment");
        assert!(all.iter().all(|s| s.p95 <= 0.15), "{size} px: {all:?}");
    }
}

#[test]
fn spoilt_pictures_keep_every_ring_and_most_of_the_accuracy() {
    for variant in [Variant::Jpeg, Variant::Blur, Variant::Noise, Variant::Scan, Variant::Photo] {
        let off = mean(&scores(512, variant), |s| s.mean);
        assert!(off <= 0.06, "{variant:?}: mean error {off:.3} px");
    }
}

#[test]
fn every_ring_of_small_pictures_is_found() {
    for file in support::files() {
        let shape = shape(&file, 128, 0.0);
        let art = artwork(&shape.picture(Variant::Clean, 7));
        let TraceSettings { min_area, min_gap, .. } = first_guess(&art);
        let settings = TraceSettings { min_area, min_gap, ..TraceSettings::default() };
        let contours = trace(&art, &settings, &Watch::default()).unwrap();
        let curves: Vec<Curve<Px>> = contours.contours.iter().map(|c| c.curve.clone()).collect();
        let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
        let score = shape.score(&curves, &rings);
        assert!(score.rings_are_right, "{}: {:?}", shape.name, score.rings);
        assert!(score.mean < 0.2, "{}: {score:?}", shape.name);
    }
}

/// A block of 40 px with a needle on it, so wide at its foot and so wide at its end, 60 px long; and the nearest node to its end.
fn needle(angle: f64, foot: f64, end: f64) -> f64 {
    let at = |along: f64, aside: f64| {
        let (sin, cos) = angle.sin_cos();
        Point::new(128.0 + along * cos - aside * sin, 128.0 + along * sin + aside * cos)
    };
    let side = |s: f64| [at(-40.0, 20.0 * s), at(0.0, 20.0 * s), at(0.0, foot / 2.0 * s), at(60.0, end / 2.0 * s)];
    let mut points = side(-1.0).to_vec();
    points.extend(side(1.0).into_iter().rev());
    let ring = Ring(points);
    let shape = support::Shape { name: "needle".into(), curves: vec![], rings: vec![ring], size: 256 };
    let art = artwork(&shape.picture(Variant::Clean, 7));
    let contours = trace(&art, &TraceSettings::default(), &Watch::default()).unwrap();
    let tip = at(60.0, 0.0);
    let nodes = contours.contours.iter().flat_map(|c| c.curve.ring(0.005).0);
    // How far it reaches along the needle.
    let reached = nodes.map(|p| (p.x - 128.0) * angle.cos() + (p.y - 128.0) * angle.sin()).fold(0.0, f64::max);
    reached - (tip.x - 128.0).hypot(tip.y - 128.0)
}

#[test]
fn needles_thinner_than_a_pixel_end_near_their_tips_and_blunt_ones_where_they_end() {
    for k in 0..24 {
        let angle = f64::from(k) * std::f64::consts::TAU / 24.0 + 0.1;
        for foot in [3.0, 5.0, 8.0] {
            let off = needle(angle, foot, 0.0);
            assert!(off.abs() < 1.0, "{angle:.2}, {foot} px at its foot: the tip is {off:.2} px off");
        }
        for (foot, end) in [(3.0, 1.6), (6.0, 2.5), (3.0, 3.0)] {
            let off = needle(angle, foot, end);
            assert!(off.abs() < 1.0, "{angle:.2}, {foot} to {end} px: the end is {off:.2} px off");
        }
    }
}

#[test]
fn one_bit_pictures_lose_their_stairs_and_keep_straight_edges_straight() {
    let off = mean(&scores(512, Variant::OneBit), |s| s.mean);
    assert!(off <= 0.25, "mean error {off:.3} px");
    // Eight edges, eight nodes: no stair is left.
    let octagon = shape(&file("mdi-octagon"), 512, 0.0);
    let contours =
        trace(&artwork(&octagon.picture(Variant::OneBit, 7)), &TraceSettings::default(), &Watch::default()).unwrap();
    assert!(contours.contours[0].curve.nodes() <= 9, "{}", contours.contours[0].curve.nodes());
}
