//! Mending: thin places, dents, nodes, cuts, bridges; and where patches lie.

use super::*;

/// A patch drawn as a polygon in pixels, and what the changes make of it: areas of the pieces, largest first, mm2.
fn pieces(places: &[[f64; 2]], then: impl Fn(Vec<Spot>) -> Change) -> Vec<f64> {
    let own = Change::Draw { line: drawn(places, true), width: None, use_: Use::Detail };
    let inside =
        kachel_geom::interior_point(&[&Ring(places.iter().map(|p| Point::<Px>::new(p[0], p[1])).collect())]).unwrap();
    let spot = Spot::new(Point::new(inside.x, inside.y), true);
    let o = run(&[own, then(vec![spot])]);
    assert_eq!(o.astray, []);
    let mut all: Vec<f64> = o.details.iter().map(|d| d.1.area_mm2()).collect();
    all.sort_by(|a, b| b.total_cmp(a));
    all
}

/// A block of 10 x 10 mm with a tongue of 10 x 1 mm on its right side.
const TONGUE: [[f64; 2]; 8] = [
    [500.0, 400.0],
    [600.0, 400.0],
    [600.0, 445.0],
    [700.0, 445.0],
    [700.0, 455.0],
    [600.0, 455.0],
    [600.0, 500.0],
    [500.0, 500.0],
];

#[test]
fn only_what_is_thin_becomes_thicker() {
    let all = pieces(&TONGUE, |on| Change::Thicken { on, width: 2.0 });
    assert_eq!(all.len(), 1);
    // The tongue is 2 mm wide afterwards, with a round tip; the block is as it was. Its middle line ends half its width before its tip
    // and is looked at every 0.2 mm.
    let (most, step) = (100.0 + 9.5 * 2.0 + PI / 2.0, 0.2);
    assert!((most - step * 2.0..most + 0.05).contains(&all[0]), "{} mm2, not {most}", all[0]);
    let same = pieces(&TONGUE, |on| Change::Thicken { on, width: 0.8 });
    near(same[0], 110.0, 0.05);
    // Corners of a rectangle are no thin places.
    let plate = [[500.0, 400.0], [600.0, 400.0], [600.0, 460.0], [500.0, 460.0]];
    near(pieces(&plate, |on| Change::Thicken { on, width: 4.0 })[0], 60.0, 0.05);
}

#[test]
fn the_thinnest_place_is_found() {
    let o = run(&[Change::Draw { line: drawn(&TONGUE, true), width: None, use_: Use::Detail }]);
    let k = o.patches.iter().position(|p| p.use_ == Use::Detail).unwrap();
    let found = o.thinnest(k).unwrap().unwrap();
    near(found.width, 1.0, 0.03);
    assert!((600.0..=700.0).contains(&found.at.x) && (445.0..=455.0).contains(&found.at.y), "{found:?}");
    // The ring of 6 and 4 mm is 2 mm wide all round; the disc of 20 mm is nowhere thinner.
    let at = |s: Spot| o.patches.iter().position(|p| p.is_ink && p.contains(Point::new(s.at.x, s.at.y))).unwrap();
    near(o.thinnest(at(RING)).unwrap().unwrap().width, 2.0, 0.05);
    near(o.thinnest(at(LEFT)).unwrap().map_or(20.0, |t| t.width), 20.0, 0.3);
    assert!(o.thinnest(999).unwrap().is_none());
}

#[test]
fn small_dents_and_bumps_go_and_corners_stay() {
    // A plate of 30 x 20 mm with a bump of 0.6 x 0.6 mm on top and a dent of 0.6 x 0.6 mm below.
    let plate = [
        [400.0, 400.0],
        [500.0, 400.0],
        [500.0, 394.0],
        [506.0, 394.0],
        [506.0, 400.0],
        [700.0, 400.0],
        [700.0, 600.0],
        [603.0, 600.0],
        [603.0, 594.0],
        [597.0, 594.0],
        [597.0, 600.0],
        [400.0, 600.0],
    ];
    let before = 600.0 + 0.36 - 0.36;
    near(pieces(&plate, |on| Change::Smooth { on, radius: 0.1 })[0], before, 0.05);
    let o = pieces(&plate, |on| Change::Smooth { on, radius: 1.0 });
    near(o[0], 600.0, 0.1);
    // Its four corners are sharp as ever: rounding them by 1 mm would take 4 - pi mm2.
    assert!(o[0] > 600.0 - 0.1 * (4.0 - PI), "{}", o[0]);
}

#[test]
fn fewer_nodes_stay_within_the_stated_deviation() {
    let disc: Vec<[f64; 2]> = super::disc(600.0, 450.0, 80.0, false).0.iter().map(|p| [p.x, p.y]).collect();
    for deviation in [0.01, 0.05, 0.2] {
        let own = Change::Draw { line: drawn(&disc, true), width: None, use_: Use::Detail };
        let on = vec![Spot::new(Point::new(600.0, 450.0), true)];
        let o = run(&[own, Change::Fewer { on, deviation }]);
        let patch = o.patches.iter().find(|p| p.use_ == Use::Detail).unwrap();
        assert!(patch.curves[0].nodes() <= 24, "{} nodes of 720 are left at {deviation}", patch.curves[0].nodes());
        for p in &patch.curves[0].flatten(0.01) {
            let off = (p.distance(Point::new(600.0, 450.0)) - 80.0).abs() * K;
            assert!(off <= deviation + 0.004, "{off} mm off, {deviation} allowed");
        }
    }
}

#[test]
fn a_rough_line_keeps_the_deviation_too() {
    // A disc of 8 mm with a ripple of 0.08 mm, as fine as its nodes are.
    let rough: Vec<[f64; 2]> = (0..600)
        .map(|k| (f64::from(k) / 600.0 * 2.0 * PI, if k % 2 == 0 { 80.0 } else { 79.2 }))
        .map(|(a, r)| [600.0 + r * a.cos(), 450.0 + r * a.sin()])
        .collect();
    for (deviation, fewest) in [(0.01, 400), (0.1, 4)] {
        let own = Change::Draw { line: drawn(&rough, true), width: None, use_: Use::Detail };
        let on = vec![Spot::new(Point::new(600.0, 450.0), true)];
        let o = run(&[own, Change::Fewer { on, deviation }]);
        let curve = &o.patches.iter().find(|p| p.use_ == Use::Detail).unwrap().curves[0];
        let edges = kachel_geom::Edges::of([&curve.ring(0.005)]);
        let off = rough.iter().map(|p| edges.distance(Point::<Px>::new(p[0], p[1])) * K).fold(0.0, f64::max);
        assert!(off <= deviation + 0.004, "{off} mm off, {deviation} allowed, {} nodes", curve.nodes());
        assert!(curve.nodes() >= fewest && curve.nodes() <= 600, "{} nodes at {deviation}", curve.nodes());
    }
}

#[test]
fn a_cut_leaves_both_sides_or_a_gap_between_them() {
    let plate = [[500.0, 400.0], [600.0, 400.0], [600.0, 460.0], [500.0, 460.0]];
    // The line ends inside the plate: without a gap it goes straight on.
    let line = drawn(&[[530.0, 420.0], [530.0, 440.0]], false);
    let halves = pieces(&plate, |on| Change::Cut { on, line: line.clone(), gap: 0.0 });
    assert_eq!(halves.len(), 2);
    near(halves[0], 42.0, 1e-3);
    near(halves[1], 18.0, 1e-3);
    let across = drawn(&[[530.0, 380.0], [530.0, 480.0]], false);
    let apart = pieces(&plate, |on| Change::Cut { on, line: across.clone(), gap: 1.0 });
    near(apart.iter().sum::<f64>(), 54.0, 0.02);
    // A bent cut shares its border: what one side has the other lacks.
    let bent = drawn(&[[520.0, 380.0], [550.0, 430.0], [580.0, 380.0]], false);
    let both = pieces(&plate, |on| Change::Cut { on, line: bent.clone(), gap: 0.0 });
    near(both.iter().sum::<f64>(), 60.0, 1e-3);
}

#[test]
fn a_bridge_joins_at_the_nearest_places() {
    // Ring (radius 6 mm) and left disc (radius 10 mm) are 25.7 mm apart by their middles.
    let o = run(&[Change::Bridge { on: vec![LEFT, RING], width: 2.0 }]);
    let gap = 60f64.hypot(250.0) * K - 16.0;
    let whole = PI * 100.0 + PI * 20.0;
    let bar = area(&o, LEFT.at) - whole;
    // A bar over the gap, a little more where the borders curve away from it.
    assert!((gap * 2.0..=gap * 2.0 + 1.0).contains(&bar), "{bar} mm2 over {gap} mm");
    assert_eq!(area(&o, LEFT.at), area(&o, RING.at), "they are one patch");
}

#[test]
fn quarters_are_completed_across_both_lines() {
    // A disc of radius 6 mm to the upper left of the lines gives four, two millimetres apart.
    let disc: Vec<[f64; 2]> = super::disc(530.0, 430.0, 60.0, false).0.iter().map(|p| [p.x, p.y]).collect();
    let four =
        pieces(&disc, |on| Change::Mirror { on, through: [600.0, 500.0].into(), degrees: 90.0, is_quarter: true });
    assert_eq!(four.len(), 4);
    four.iter().for_each(|a| near(*a, PI * 36.0, 0.05));
    // Over the lines it becomes one piece with a seam that is none: the upper left quarter four times.
    let one =
        pieces(&disc, |on| Change::Mirror { on, through: [530.0, 430.0].into(), degrees: 90.0, is_quarter: true });
    assert_eq!(one.len(), 1);
    near(one[0], PI * 36.0, 0.05);
}

#[test]
fn seams_are_welded_wherever_the_line_runs() {
    let disc: Vec<[f64; 2]> = super::disc(530.0, 430.0, 60.0, false).0.iter().map(|p| [p.x, p.y]).collect();
    let mut random = Random::new(4);
    for _ in 0..60 {
        let through = [530.0 + random.between(-20.0, 20.0), 430.0 + random.between(-20.0, 20.0)];
        let degrees = [90.0, 0.0, 45.0, random.between(-180.0, 180.0)][random.below(4)];
        let is_quarter = random.below(2) == 0;
        let mirror = |on| Change::Mirror { on, through: through.into(), degrees, is_quarter };
        let all = pieces(&disc, mirror);
        assert_eq!(all.len(), 1, "through {through:?} at {degrees}: {all:?}");
    }
}

#[test]
fn copies_flips_and_stretches_keep_curves_and_areas() {
    let how = |stretch, flip, is_copy| Change::Place {
        on: vec![RING],
        by: [250.0, 0.0].into(),
        degrees: 0.0,
        scale: 1.0,
        stretch,
        flip,
        is_copy,
    };
    let o = run(&[how(1.0, false, true)]);
    near(area(&o, RING.at), PI * 20.0, 0.2);
    near(area(&o, [510.0, 400.0]), PI * 20.0, 0.2);
    near(area(&run(&[how(1.5, true, false)]), [510.0, 380.0]), PI * 30.0, 0.3);
}

fn left_and_top(o: &Outline, at: [f64; 2]) -> (f64, f64) {
    let hits = o.patches.iter().filter(|p| p.is_ink && p.contains(Point::new(at[0], at[1])));
    let p = hits.min_by(|a, b| a.area_px2.total_cmp(&b.area_px2)).unwrap();
    let b = p.rings[0].bounds().unwrap();
    (b.min.x, b.min.y)
}

#[test]
fn patches_are_lined_up_and_spaced_out() {
    let up = |with, across, down| run(&[Change::LineUp { on: vec![LEFT, RING], across, down, with }]);
    // By their left ends: that of the first one, 100 px; of both, the same.
    for with in [LineUpWith::First, LineUpWith::Each] {
        let o = up(with, Some(Side::Start), None);
        near(left_and_top(&o, [105.0, 450.0]).0, 100.0, 0.05);
    }
    // On the middle of the object, which reaches from 100 to 420 px and from 100 to 510 px.
    let o = run(&[Change::LineUp {
        on: vec![RING],
        across: Some(Side::Middle),
        down: Some(Side::Start),
        with: LineUpWith::Object,
    }]);
    let (left, top) = left_and_top(&o, [260.0, 110.0]);
    near(left, 200.0, 0.05);
    near(top, 100.0, 0.05);
    // Three discs of 2 mm: the middle one comes to lie with equal gaps.
    let dot = |x: f64| Change::Shape {
        shape: Shape::Ellipse { width: 2.0, height: 2.0 },
        at: [x, 550.0].into(),
        degrees: 0.0,
        use_: Use::Detail,
    };
    let on = [500.0, 540.0, 700.0].map(|x| Spot::new(Point::new(x, 550.0), true)).to_vec();
    let o = run(&[dot(500.0), dot(540.0), dot(700.0), Change::SpaceOut { on, is_down: false }]);
    near(left_and_top(&o, [600.0, 550.0]).0, 590.0, 0.05);
}

#[test]
fn nodes_are_those_of_curves_whatever_was_done() {
    // A disc mirrored on a line through its middle is drawn by about as many nodes, however many pieces work on areas has left.
    let mirror = Change::Mirror { on: vec![LEFT], through: LEFT.at, degrees: 90.0, is_quarter: false };
    let (before, after) = (run(&[]), run(&[mirror]));
    let pieces = |o: &Outline| {
        let left = o.patches.iter().find(|p| p.is_ink && p.contains(LEFT.at)).unwrap();
        left.curves.iter().map(kachel_geom::Curve::nodes).sum::<usize>()
    };
    assert!(pieces(&after) > 40, "{} pieces", pieces(&after));
    let nodes = after.nodes - (before.nodes - pieces(&before));
    assert!((3..20).contains(&nodes), "{nodes} nodes");
}
