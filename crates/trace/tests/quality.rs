//! A fixed part of the benchmark set with the bounds that the tracing keeps in its one default setting; the whole set
//! is in `benches/quality.rs`. Shapes and their sources: `conformance/README.md`.

mod support;

use kachel_artwork::{Paint, Prepare, prepare};
use kachel_geom::{Curve, Px, Ring, Watch};
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
        assert!(off <= 0.08, "{variant:?}: mean error {off:.3} px");
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
