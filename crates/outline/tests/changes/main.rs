//! The list of changes: areas by formula, order, what survives another size, and whatever is asked of it.

mod draw;
mod known;
mod mend;
mod write;

use kachel_geom::{Corner, Point, Px, Ring, Watch};
use kachel_oracle::{Random, for_all};
use kachel_outline::{
    Align, Change, Choice, DrawnLine, Entry, Face, Guesses, LineUpWith, Node, Outline, OutlineError, Shape, Side, Size,
    Spot, Text, Use, Wanted, size_outline,
};
use kachel_trace::{Contour, Contours};
use std::f64::consts::PI;

fn disc(x: f64, y: f64, r: f64, is_hole: bool) -> Ring<Px> {
    let n = 720;
    let at = |k: i32| {
        let a = f64::from(if is_hole { -k } else { k }) * 2.0 * PI / f64::from(n);
        Point::new(x + r * a.cos(), y - r * a.sin())
    };
    Ring((0..n).map(at).collect())
}

/// Two discs of radius 100 px, 120 px apart; a ring of 60 and 40 px further down, and its gap. Of the overlap nothing is
/// said here: both are patches of their own, as two colours would be.
fn contours() -> Contours {
    let ink = |r: Ring<Px>| Contour::of_ring(r, None, true);
    Contours::of(
        800.0,
        600.0,
        vec![
            ink(disc(200.0, 200.0, 100.0, false)),
            ink(disc(320.0, 200.0, 100.0, false)),
            ink(disc(260.0, 450.0, 60.0, false)),
            Contour::of_ring(disc(260.0, 450.0, 40.0, true), Some(2), false),
        ],
    )
}

const LEFT: Spot = Spot::new(Point::new(120.0, 200.0), true);
const RIGHT: Spot = Spot::new(Point::new(400.0, 200.0), true);
const RING: Spot = Spot::new(Point::new(260.0, 400.0), true);
/// Millimetres a pixel.
const K: f64 = 0.1;

fn list(changes: &[Change]) -> Vec<Entry> {
    changes.iter().zip(1..).map(|(c, id)| Entry { id, is_on: true, change: c.clone() }).collect()
}

fn run_at(changes: &[Change], mm_per_px: f64) -> Result<Outline, OutlineError> {
    size_outline(
        &contours(),
        &Wanted { changes: &list(changes), guesses: Guesses::ByNesting, ..Wanted::of_size(Size::Scale { mm_per_px }) },
        &Watch::default(),
    )
}

fn run(changes: &[Change]) -> Outline {
    run_at(changes, K).unwrap()
}

fn grow(on: Vec<Spot>, by: f64) -> Change {
    Change::Grow { on, by, corner: Corner::Round }
}

fn placed(on: Vec<Spot>, by: [f64; 2], degrees: f64, scale: f64) -> Change {
    Change::Place { on, by: by.into(), degrees, scale, stretch: 1.0, flip: false, is_copy: false }
}

fn drawn(places: &[[f64; 2]], is_closed: bool) -> DrawnLine {
    let node = |at: &[f64; 2]| Node { at: (*at).into(), before: None, after: None };
    DrawnLine { nodes: places.iter().map(node).collect(), is_closed }
}

fn text(words: &str) -> Text {
    Text {
        words: words.into(),
        face: Face::Plain,
        size: 5.0,
        spacing: 0.0,
        leading: 1.6,
        align: Align::Middle,
        arc: 0.0,
    }
}

/// Area of the ink patch round the point, mm2.
fn area(o: &Outline, at: impl Into<Point<Px>>) -> f64 {
    let p = at.into();
    let hit = o.patches.iter().filter(|q| q.is_ink && q.contains(p)).map(|q| q.area_px2);
    hit.fold(f64::INFINITY, f64::min) * o.mm_per_px * o.mm_per_px
}

/// Area common to two circles of radius `r` whose middles are `d` apart (circle-circle intersection, any handbook).
fn lens(r: f64, d: f64) -> f64 {
    2.0 * r * r * (d / (2.0 * r)).acos() - d / 2.0 * (4.0 * r * r - d * d).sqrt()
}

fn near(got: f64, truth: f64, tolerance: f64) {
    assert!((got - truth).abs() <= tolerance, "{got}, not {truth}");
}

#[test]
fn joining_taking_away_and_keeping_what_is_common_have_their_areas() {
    let (r, d) = (10.0, 12.0);
    let one = PI * r * r;
    // Flattening to 5 um takes up to that along the border.
    let slack = 2.0 * PI * r * 0.006 + 0.05;
    let on = vec![LEFT, RIGHT];
    near(area(&run(&[Change::Join { on: on.clone() }]), LEFT.at), 2.0 * one - lens(r, d), 2.0 * slack);
    near(area(&run(&[Change::Common { on }]), [260.0, 200.0]), lens(r, d), slack);
    let o = run(&[Change::TakeAway { from: vec![LEFT], what: vec![RIGHT] }]);
    near(area(&o, LEFT.at), one - lens(r, d), slack);
    let aside = o.patches.iter().find(|p| p.is_ink && p.contains(Point::new(400.0, 200.0))).unwrap();
    assert_eq!(aside.use_, Use::Aside, "what was taken away is still there to be used");
}

#[test]
fn holes_rims_and_growth_have_their_areas() {
    let at = RING.at;
    near(area(&run(&[]), at), PI * (36.0 - 16.0), 0.2);
    let filled = run(&[Change::FillHoles { on: vec![RING] }]);
    near(area(&filled, at), PI * 36.0, 0.2);
    assert_eq!(filled.patches.iter().filter(|p| !p.is_ink).count(), 0, "the gap is none any more");
    let rim = run(&[Change::Rim { on: vec![LEFT], width: 2.0 }]);
    assert_eq!(rim.patches.iter().filter(|p| !p.is_ink).count(), 2, "what the rim leaves out is a gap, too");
    near(area(&rim, [105.0, 200.0]), PI * (100.0 - 64.0), 0.3);
    let grown = run(&[grow(vec![RING], 1.0)]);
    near(area(&grown, at), PI * (49.0 - 9.0), 0.3);
    let gone = run(&[grow(vec![RING], -1.5)]);
    assert!(gone.astray.iter().any(|a| a.id == 1 && a.is_empty && a.lost.is_empty()), "{:?}", gone.astray);
    assert_eq!(area(&gone, at), f64::INFINITY);
}

#[test]
fn a_change_that_leaves_no_edge_is_named() {
    let none = Choice { spot: RIGHT, use_: Use::Aside };
    let away = Choice { spot: RING, use_: Use::Aside };
    let shrunk = list(&[grow(vec![LEFT], -20.0)]);
    let at = |choices: &[Choice], edits: &[Entry]| {
        size_outline(
            &contours(),
            &Wanted {
                choices,
                changes: edits,
                guesses: Guesses::ByNesting,
                ..Wanted::of_size(Size::Scale { mm_per_px: K })
            },
            &Watch::default(),
        )
    };
    let e = at(&[none, away], &shrunk).unwrap_err();
    assert!(matches!(e, OutlineError::NothingLeft { .. }) && e.to_string().contains("Grow or shrink"), "{e}");
    // Without the change it is the choices alone.
    assert!(matches!(at(&[none, away, Choice { spot: LEFT, use_: Use::Aside }], &[]), Err(OutlineError::NoEdge)));
}

#[test]
fn typed_lengths_stay_when_the_size_changes() {
    for k in [0.05, 0.1, 0.4] {
        let o = run_at(&[Change::Rim { on: vec![LEFT], width: 2.0 }], k).unwrap();
        let (outer, inner) = (100.0 * k, 100.0 * k - 2.0);
        near(area(&o, [100.5, 200.0]), PI * (outer * outer - inner * inner), 0.4);
    }
    // With a pinned side the object has it with the change, not without.
    let grow = [grow(vec![LEFT, RIGHT], 3.0)];
    let o = size_outline(
        &contours(),
        &Wanted { changes: &list(&grow), guesses: Guesses::ByNesting, ..Wanted::of_size(Size::Width { mm: 50.0 }) },
        &Watch::default(),
    )
    .unwrap();
    near(o.edge_bounds.width(), 50.0, 1e-3);
    // The arcs of the growth are chords within 5 um.
    near(o.mm_per_px * 320.0 + 6.0, 50.0, 0.02);
}

#[test]
fn shapes_have_their_areas_and_their_use() {
    let add = |shape: Shape, degrees: f64| {
        let change = Change::Shape { shape, at: [600.0, 450.0].into(), degrees, use_: Use::Detail };
        let o = run(&[change]);
        assert_eq!(o.details.len(), 1);
        o.details[0].1.area_mm2()
    };
    near(add(Shape::Ellipse { width: 8.0, height: 4.0 }, 30.0), PI * 8.0, 0.1);
    near(add(Shape::Rectangle { width: 9.0, height: 5.0, corner: 1.0 }, 0.0), 45.0 - (4.0 - PI), 0.05);
    near(add(Shape::Rectangle { width: 9.0, height: 5.0, corner: 0.0 }, 17.0), 45.0, 1e-3);
    // A regular hexagon 10 mm across its corners: 3/2 sqrt 3 r^2.
    near(add(Shape::Polygon { sides: 6, width: 10.0 }, 5.0), 1.5 * 3f64.sqrt() * 25.0, 1e-3);
    // A star of n points: n R r sin(pi / n).
    near(add(Shape::Star { points: 5, width: 10.0, inner: 4.0 }, 0.0), 5.0 * 5.0 * 2.0 * (PI / 5.0).sin(), 1e-3);
    near(add(Shape::Ring { width: 10.0, hole: 6.0 }, 0.0), PI * (25.0 - 9.0), 0.15);
}

#[test]
fn mirrored_halves_are_the_same_to_the_grid_and_repeats_close_up() {
    // An upright line through the middle of the left disc keeps its left half.
    let o = run(&[Change::Mirror { on: vec![LEFT], through: [200.0, 200.0].into(), degrees: 90.0, is_quarter: false }]);
    let patch = o.patches.iter().find(|p| p.is_ink && p.contains(Point::new(150.0, 200.0))).unwrap();
    near(patch.area_px2 * K * K, PI * 100.0, 0.3);
    let ring = &patch.rings[0].0;
    let step = 1.0 / 16384.0 / K;
    for p in ring {
        let image = Point::new(400.0 - p.x, p.y);
        let best = ring.iter().map(|q: &Point<Px>| q.distance(image)).fold(f64::INFINITY, f64::min);
        assert!(best <= step * 1.5, "{p:?} has no image within a step: {best}");
    }
    // Six copies that do not meet have six times the area; as one ring of them round the centre.
    let o = run(&[Change::Repeat { on: vec![RING], centre: [260.0, 150.0].into(), times: 6, is_mirrored: true }]);
    let all: f64 = o.patches.iter().filter(|p| p.is_ink).map(|p| p.area_px2 * K * K).sum();
    near(all, 2.0 * PI * 100.0 + 6.0 * PI * 20.0, 2.5);
}

#[test]
fn patches_are_moved_turned_and_scaled_about_their_middle() {
    let place = |by, degrees, scale| run(&[placed(vec![RING], by, degrees, scale)]);
    let moved = place([200.0, -50.0], 0.0, 1.0);
    near(area(&moved, [460.0, 350.0]), PI * 20.0, 0.2);
    assert_eq!(area(&moved, RING.at), f64::INFINITY, "it is not where it was");
    near(area(&place([0.0, 0.0], 45.0, 1.0), RING.at), PI * 20.0, 0.2);
    near(area(&place([0.0, 0.0], 0.0, 1.5), [260.0, 375.0]), PI * 20.0 * 2.25, 0.5);
    // Two about their common middle: they change places by half a turn.
    let o = run(&[placed(vec![LEFT, RIGHT], [0.0, 0.0], 180.0, 1.0)]);
    let inks = |o: &Outline| o.patches.iter().filter(|p| p.is_ink).count();
    assert_eq!(inks(&o), inks(&run(&[])));
}

#[test]
fn places_move_along_with_the_picture() {
    let at = [10.0, 20.0];
    let spot = Spot::new(at.into(), true);
    let all = [
        Change::TakeAway { from: vec![spot], what: vec![spot] },
        Change::Mirror { on: vec![spot], through: at.into(), degrees: 90.0, is_quarter: false },
        Change::Repeat { on: vec![spot], centre: at.into(), times: 3, is_mirrored: false },
        Change::Shape { shape: Shape::Ring { width: 8.0, hole: 4.0 }, at: at.into(), degrees: 0.0, use_: Use::Edge },
        grow(vec![spot], 1.0),
    ];
    for mut c in all {
        let before = serde_json::to_string(&c).unwrap();
        c.move_places(|p| Point::new(p.y, p.x));
        let after = serde_json::to_string(&c).unwrap();
        assert_eq!(before.matches("[10.0,20.0]").count(), after.matches("[20.0,10.0]").count(), "{after}");
        assert!(!after.contains("[10.0,20.0]"), "{after}");
    }
}

#[test]
fn directions_turn_and_flip_with_the_picture() {
    // A quarter turn clockwise about 0, y down: right becomes down.
    let turned = |p: Point<Px>| Point::new(-p.y, p.x);
    let flipped = |p: Point<Px>| Point::new(800.0 - p.x, p.y);
    let mut place = placed(vec![LEFT], [10.0, 0.0], 30.0, 1.0);
    place.move_places(turned);
    let Change::Place { by, degrees, .. } = place else { panic!() };
    assert!((by.x.abs() < 1e-9 && (by.y - 10.0).abs() < 1e-9) && degrees == 30.0, "{by:?} {degrees}");
    let mirror =
        |degrees| Change::Mirror { on: vec![LEFT], through: [200.0, 200.0].into(), degrees, is_quarter: false };
    let after = |mut c: Change, moved: fn(Point<Px>) -> Point<Px>| {
        c.move_places(moved);
        let Change::Mirror { degrees, .. } = c else { panic!() };
        degrees
    };
    near(after(mirror(90.0), turned), 0.0, 1e-9);
    // What was kept on the left of an upright line lies on its right in a flipped picture.
    near(after(mirror(90.0), flipped), -90.0, 1e-9);
    let before = run(&[mirror(90.0)]).edge.area_mm2();
    let mut c = mirror(90.0);
    c.move_places(flipped);
    let mirrored: Vec<Contour> = contours()
        .contours
        .iter()
        .map(|c| {
            Contour::of_ring(
                Ring(c.ring.0.iter().rev().map(|p| Point::new(800.0 - p.x, p.y)).collect()),
                c.parent,
                c.is_ink,
            )
        })
        .collect();
    let mut spot = c.clone();
    if let Change::Mirror { on, .. } = &mut spot {
        assert_eq!(on[0].at.x, 800.0 - LEFT.at.x);
    }
    let picture = Contours::of(800.0, 600.0, mirrored);
    let o = size_outline(
        &picture,
        &Wanted { changes: &list(&[c]), guesses: Guesses::ByNesting, ..Wanted::of_size(Size::Scale { mm_per_px: K }) },
        &Watch::default(),
    )
    .unwrap();
    near(o.edge.area_mm2(), before, 0.01);
}

#[test]
fn order_counts_and_what_is_switched_off_does_nothing() {
    let grow = grow(vec![RING], 1.0);
    let fill = Change::FillHoles { on: vec![RING] };
    let (a, b) = (run(&[grow.clone(), fill.clone()]), run(&[fill.clone(), grow.clone()]));
    near(area(&a, RING.at), area(&b, RING.at), 0.05);
    let rim = Change::Rim { on: vec![RING], width: 1.0 };
    let (a, b) = (run(&[fill.clone(), rim.clone()]), run(&[rim, fill.clone()]));
    near(area(&a, [260.0, 392.0]), PI * (36.0 - 25.0), 0.2);
    near(area(&b, [260.0, 392.0]), PI * 36.0, 0.2);
    let mut edits = list(&[grow, fill]);
    edits.iter_mut().for_each(|e| e.is_on = false);
    let o = size_outline(
        &contours(),
        &Wanted { changes: &edits, guesses: Guesses::ByNesting, ..Wanted::of_size(Size::Scale { mm_per_px: K }) },
        &Watch::default(),
    )
    .unwrap();
    assert_eq!(area(&o, RING.at), area(&run(&[]), RING.at));
}

#[test]
fn a_patch_that_is_gone_is_told_and_nothing_else_fails() {
    let nowhere = Spot::new(Point::new(700.0, 50.0), true);
    let o = run(&[grow(vec![RING, nowhere], 1.0), Change::FillHoles { on: vec![nowhere] }]);
    let told: Vec<(u32, usize, bool)> = o.astray.iter().map(|a| (a.id, a.lost.len(), a.is_empty)).collect();
    assert_eq!(told, [(1, 1, false), (2, 1, false)]);
    near(area(&o, RING.at), PI * (49.0 - 9.0), 0.3);
    // A choice may mean what a change has made.
    let shape = Change::Shape {
        shape: Shape::Ellipse { width: 5.0, height: 5.0 },
        at: [700.0, 50.0].into(),
        degrees: 0.0,
        use_: Use::Detail,
    };
    let aside = Choice { spot: Spot::new(Point::new(700.0, 50.0), true), use_: Use::Aside };
    let size = Size::Scale { mm_per_px: K };
    let o = size_outline(
        &contours(),
        &Wanted { choices: &[aside], changes: &list(&[shape]), guesses: Guesses::ByNesting, ..Wanted::of_size(size) },
        &Watch::default(),
    )
    .unwrap();
    assert!(o.details.is_empty() && o.lost.is_empty());
}

fn any_change(random: &mut Random) -> Change {
    let spot = |r: &mut Random| Spot::new(Point::new(r.between(50.0, 500.0), r.between(80.0, 520.0)), r.below(4) > 0);
    let on: Vec<Spot> = (0..1 + random.below(3)).map(|_| spot(random)).collect();
    let length = random.between(0.1, 30.0);
    let at = [random.between(0.0, 800.0), random.between(0.0, 600.0)];
    let degrees = [0.0, 90.0, 33.0, -71.5][random.below(4)];
    let corner = [Corner::Round, Corner::Mitred, Corner::Square][random.below(3)];
    let line = |r: &mut Random, is_closed| {
        let places: Vec<[f64; 2]> = (0..2 + r.below(9)).map(|_| spot(r).at.xy()).collect();
        let mut line = drawn(&places, is_closed);
        for n in &mut line.nodes {
            n.before = (r.below(2) == 0).then(|| spot(r).at);
            n.after = (r.below(2) == 0).then(|| spot(r).at);
        }
        line
    };
    match random.below(20) {
        10 => Change::Thicken { on, width: length / 8.0 },
        11 => Change::Cut { on, line: line(random, false), gap: [0.0, length / 20.0][random.below(2)] },
        12 => Change::Bridge { on: vec![LEFT, on[0], RING], width: length / 10.0 },
        13 => Change::Fewer { on, deviation: length / 100.0 },
        14 => Change::Smooth { on, radius: length / 20.0 },
        15 => Change::Nodes { on, lines: vec![line(random, true)], use_: Use::Detail, seen: None },
        16 => {
            let width = (random.below(2) == 0).then_some(length / 10.0);
            Change::Draw { line: line(random, width.is_none()), width, use_: Use::Detail }
        }
        17 => Change::LineUp { on, across: Some(Side::End), down: Some(Side::Middle), with: LineUpWith::Object },
        18 => Change::SpaceOut { on: vec![LEFT, on[0], RING], is_down: random.below(2) == 0 },
        19 => Change::Text {
            text: Text { arc: [0.0, length, -length][random.below(3)], ..text("Fjord 7\nøy") },
            at: at.into(),
            degrees,
            use_: Use::Detail,
        },
        0 => Change::Join { on },
        1 => Change::Common { on },
        2 => Change::TakeAway { from: on, what: vec![spot(random)] },
        3 => Change::FillHoles { on },
        4 => Change::Rim { on, width: length / 5.0 },
        5 => Change::Grow { on, by: if random.below(2) == 0 { length / 4.0 } else { -length / 8.0 }, corner },
        6 => Change::Place {
            on,
            by: [length, -length].into(),
            degrees,
            scale: random.between(0.5, 1.6),
            stretch: random.between(0.5, 1.6),
            flip: random.below(2) == 0,
            is_copy: random.below(2) == 0,
        },
        7 => Change::Mirror { on, through: at.into(), degrees, is_quarter: false },
        8 => Change::Repeat {
            on,
            centre: at.into(),
            times: 2 + random.below(6) as u8,
            is_mirrored: random.below(2) == 0,
        },
        _ => Change::Shape {
            shape: [
                Shape::Ellipse { width: length, height: length / 2.0 },
                Shape::Rectangle { width: length, height: length, corner: length / 5.0 },
                Shape::Star { points: 7, width: length, inner: length / 3.0 },
                Shape::Ring { width: length, hole: length * 0.9 },
            ][random.below(4)],
            at: at.into(),
            degrees,
            use_: if random.below(2) == 0 { Use::Edge } else { Use::Detail },
        },
    }
}

#[test]
fn any_list_gives_an_outline_or_a_reason_and_always_the_same() {
    for_all(60, |random| {
        let changes: Vec<Change> = (0..1 + random.below(8)).map(|_| any_change(random)).collect();
        let outcome = |o: Result<Outline, OutlineError>| match o {
            Ok(o) => Ok((o.edge.clone(), o.details.iter().map(|d| d.1.clone()).collect::<Vec<_>>(), o.astray)),
            Err(e) => {
                assert!(!e.to_string().is_empty() && !e.hint().is_empty());
                Err(e.to_string())
            }
        };
        assert_eq!(outcome(run_at(&changes, K)), outcome(run_at(&changes, K)), "{changes:?}");
        if let Ok(o) = run_at(&changes, K) {
            for p in &o.patches {
                assert!(p.contains(p.anchor), "a patch has no point of its own");
                assert!(p.area_px2 > 0.0);
            }
        }
    });
}

#[test]
fn what_can_never_be_applied_is_refused_with_a_reason() {
    let nan = Spot::new(Point::new(f64::NAN, 0.0), true);
    let shape = |shape| Change::Shape { shape, at: [0.0, 0.0].into(), degrees: 0.0, use_: Use::Edge };
    for c in [
        Change::Join { on: vec![LEFT] },
        grow(vec![LEFT], 0.0),
        grow(vec![LEFT], f64::NAN),
        grow(vec![nan], 1.0),
        grow(vec![], 1.0),
        Change::Rim { on: vec![LEFT], width: 1e9 },
        Change::TakeAway { from: vec![LEFT], what: vec![] },
        placed(vec![LEFT], [f64::INFINITY, 0.0], 0.0, 1.0),
        placed(vec![LEFT], [0.0, 0.0], 0.0, 0.0),
        Change::Repeat { on: vec![LEFT], centre: [0.0, 0.0].into(), times: 25, is_mirrored: false },
        shape(Shape::Polygon { sides: 2, width: 5.0 }),
        shape(Shape::Star { points: 5, width: 5.0, inner: 5.0 }),
        shape(Shape::Ring { width: 5.0, hole: 6.0 }),
        shape(Shape::Rectangle { width: 5.0, height: 5.0, corner: 3.0 }),
        shape(Shape::Ellipse { width: f64::NAN, height: 5.0 }),
    ] {
        assert!(c.refusal().is_some_and(|w| w.is_known()), "{c:?}");
    }
    assert_eq!(grow(vec![LEFT], -1.0).refusal(), None);
}

#[test]
fn a_full_list_of_changes_is_applied() {
    let spot = [RING, LEFT, RIGHT];
    let changes: Vec<Change> = (0..kachel_outline::MAX_CHANGES)
        .map(|k| match k % 4 {
            0 => placed(vec![spot[k % 3]], [0.01, 0.0], 0.0, 1.0),
            1 => grow(vec![spot[k % 3]], if k % 8 == 1 { 0.05 } else { -0.05 }),
            2 => Change::FillHoles { on: vec![spot[k % 3]] },
            _ => Change::Shape {
                shape: Shape::Ellipse { width: 1.0, height: 1.0 },
                at: [(k % 37) as f64 * 20.0, (k / 37) as f64 * 10.0].into(),
                degrees: 0.0,
                use_: Use::Detail,
            },
        })
        .collect();
    let o = run(&changes);
    assert_eq!(o.astray.iter().filter(|a| !a.lost.is_empty()).count(), 0, "{:?}", o.astray.first());
    assert!(o.details.len() > 450, "{}", o.details.len());
}
