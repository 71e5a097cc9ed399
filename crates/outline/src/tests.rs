use super::*;
use kachel_geom::{Point, Px, Ring, Watch};
use kachel_trace::{Contour, Contours};

fn square(x: f64, y: f64, side: f64) -> Ring<Px> {
    // Ink on the left as seen on the screen.
    Ring([(0.0, 0.0), (0.0, 1.0), (1.0, 1.0), (1.0, 0.0)].map(|(a, b)| Point::new(x + a * side, y + b * side)).to_vec())
}

/// A frame of ink with a square of ink in its gap, and a second piece beside it.
fn contours() -> Contours {
    let mut gap = square(10.0, 10.0, 80.0);
    gap.0.reverse();
    let of = Contour::of_ring;
    let contours = vec![
        of(square(0.0, 0.0, 100.0), None, true),
        of(gap, Some(0), false),
        of(square(120.0, 0.0, 50.0), None, true),
        of(square(40.0, 40.0, 20.0), Some(1), true),
    ];
    Contours::of(200.0, 100.0, contours)
}

fn run(choices: &[Choice], size: Size) -> Result<Outline, OutlineError> {
    size_outline(&contours(), &Wanted { choices, ..Wanted::of_size(size) }, &Watch::default())
}

#[test]
fn first_guesses_follow_the_nesting() {
    let uses: Vec<(bool, Use)> =
        patches(&contours(), Aim::Cutter, Guesses::default()).iter().map(|p| (p.is_ink, p.use_)).collect();
    assert_eq!(uses, [(true, Use::Edge), (false, Use::Aside), (true, Use::Edge), (true, Use::Detail)]);
    let areas: Vec<f64> = patches(&contours(), Aim::Cutter, Guesses::default()).iter().map(|p| p.area_px2).collect();
    assert_eq!(areas, [3600.0, 6000.0, 2500.0, 400.0]);
}

#[test]
fn typing_a_width_sets_the_scale_and_pinning_it_lets_the_scale_follow() {
    let aside = [Choice { spot: Spot::new(Point::new(130.0, 10.0), true), use_: Use::Aside }];
    let pinned = run(&aside, Size::Width { mm: 90.0 }).unwrap();
    assert!((pinned.edge_bounds.width() - 90.0).abs() < 1e-3 && (pinned.mm_per_px - 0.9).abs() < 1e-12);
    let both = run(&[], Size::Width { mm: 90.0 }).unwrap();
    assert!((both.mm_per_px - 90.0 / 170.0).abs() < 1e-12);
    let scaled = run(&aside, Size::Scale { mm_per_px: 0.5 }).unwrap();
    assert!((scaled.edge_bounds.width() - 50.0).abs() < 1e-3);
    let high = run(&[], Size::Height { mm: 25.4 }).unwrap();
    assert!((high.edge_bounds.height() - 25.4).abs() < 1e-3);
}

#[test]
fn the_edge_is_filled_and_upright() {
    let o = run(&[], Size::Scale { mm_per_px: 0.1 }).unwrap();
    assert!((o.edge.area_mm2() - (100.0 + 25.0)).abs() < 1e-2, "{}", o.edge.area_mm2());
    assert_eq!(o.details.len(), 1);
    let d = o.details[0].1.bounds().unwrap();
    // The small square lies 50 px below the top edge, the origin 50 px below it: it is in the middle.
    assert!((d.centre().y).abs() < 1e-3 && (d.centre().x + 3.5).abs() < 1e-3, "{d:?}");
}

#[test]
fn a_choice_whose_patch_is_gone_is_kept_and_told() {
    let gone = Choice { spot: Spot::new(Point::new(190.0, 90.0), true), use_: Use::Edge };
    assert_eq!(run(&[gone], Size::Width { mm: 50.0 }).unwrap().lost, [gone]);
}

#[test]
fn refuses_sizes_and_choices_that_make_nothing() {
    let none: Vec<Choice> =
        [[5.0, 5.0], [130.0, 10.0]].map(|at| Choice { spot: Spot::new(at.into(), true), use_: Use::Aside }).to_vec();
    assert!(matches!(run(&none, Size::Width { mm: 90.0 }), Err(OutlineError::NoEdge)));
    for mm in [0.0, -5.0, f64::NAN, 1e9] {
        let r = run(&[], Size::Width { mm });
        assert!(matches!(r, Err(OutlineError::SizeOutOfRange { .. })), "{mm}: {r:?}");
    }
    // A gap 20 px wide chosen as the edge at 900 mm would put the other piece 5 m away.
    let far = [
        Choice { spot: Spot::new(Point::new(5.0, 5.0), true), use_: Use::Aside },
        Choice { spot: Spot::new(Point::new(130.0, 10.0), true), use_: Use::Detail },
        Choice { spot: Spot::new(Point::new(50.0, 50.0), true), use_: Use::Edge },
    ];
    assert!(matches!(run(&far, Size::Width { mm: 900.0 }), Err(OutlineError::OffGrid(_))));
}

#[test]
fn pen_lines_get_their_width_in_millimetres_whatever_the_scale() {
    let p = |x, y| Point::new(x, y);
    let line = kachel_geom::Curve { start: p(20.0, 20.0), segments: vec![kachel_geom::Segment::Line(p(120.0, 20.0))] };
    let mut c = Contours::of(200.0, 100.0, vec![]);
    c.lines = vec![kachel_trace::PenLine { curve: line, width: 5.0 }];
    let of = |size, pen| size_outline(&c, &Wanted { pen, ..Wanted::of_size(size) }, &Watch::default()).unwrap();
    // A stroke with round ends: length and width of the line plus a disc.
    let truth = |length: f64, width: f64| length * width + std::f64::consts::PI * width * width / 4.0;
    // Its edge is true to a five-hundredth of the width (the stated flatness), all along.
    let slack = |length: f64, width: f64| (2.0 * length + std::f64::consts::PI * width) * width / 500.0;
    let scaled = of(Size::Scale { mm_per_px: 0.5 }, Some(2.0));
    let off = scaled.edge.area_mm2() - truth(50.0, 2.0);
    assert!(off.abs() < slack(50.0, 2.0), "{off}");
    let pinned = of(Size::Width { mm: 90.0 }, Some(3.0));
    assert!(
        (pinned.edge_bounds.width() - 90.0).abs() < 0.01 && (pinned.edge_bounds.height() - 3.0).abs() < 0.03,
        "{:?}",
        pinned.edge_bounds
    );
    let drawn = of(Size::Scale { mm_per_px: 0.5 }, None);
    assert!((drawn.edge.area_mm2() - truth(50.0, 2.5)).abs() < slack(50.0, 2.5));
}

/// A square ring of a side about a point; ink turns one way, gaps the other, which nothing here depends on.
fn about(x: f64, y: f64, side: f64) -> Ring<Px> {
    square(x - side / 2.0, y - side / 2.0, side)
}

/// The uses that patches get, in their order.
fn guesses(rings: Vec<(Ring<Px>, Option<usize>, bool)>, aim: Aim) -> Vec<Use> {
    let of = |(ring, parent, is_ink)| kachel_trace::Contour::of_ring(ring, parent, is_ink);
    let contours = Contours::of(400.0, 400.0, rings.into_iter().map(of).collect());
    patches(&contours, aim, Guesses::default()).iter().map(|p| p.use_).collect()
}

const AIMS: [Aim; 6] = [Aim::Cutter, Aim::Plate, Aim::PlateInForm, Aim::Tag, Aim::Body, Aim::Lines];

#[test]
fn a_filled_face_with_open_eyes_is_guessed_by_the_kind_of_object() {
    let face = || {
        vec![
            (about(200.0, 200.0, 300.0), None, true),
            (about(140.0, 150.0, 50.0), Some(0), false),
            (about(260.0, 150.0, 50.0), Some(0), false),
            // A pupil, which is ink as the face is.
            (about(260.0, 150.0, 20.0), Some(2), true),
        ]
    };
    use Use::{Aside, Both, Detail, Edge};
    let expected = [
        // The pupil is what is drawn; eyes alone would be.
        (Aim::Cutter, [Edge, Aside, Aside, Detail]),
        (Aim::Plate, [Edge, Detail, Detail, Aside]),
        (Aim::PlateInForm, [Edge, Detail, Detail, Aside]),
        (Aim::Tag, [Both, Aside, Aside, Detail]),
        (Aim::Body, [Both, Aside, Aside, Detail]),
        (Aim::Lines, [Both, Aside, Aside, Detail]),
    ];
    for (aim, uses) in expected {
        assert_eq!(guesses(face(), aim), uses, "{aim:?}");
    }
    // An animal with an eye has a form of its own, which a plate has to show.
    let long =
        Ring([(20.0, 150.0), (20.0, 220.0), (380.0, 220.0), (380.0, 150.0)].map(|(x, y)| Point::new(x, y)).to_vec());
    let animal = vec![(long, None, true), (about(60.0, 180.0, 10.0), Some(0), false)];
    assert_eq!(guesses(animal, Aim::Plate), [Detail, Aside]);
    let open = || face()[..3].to_vec();
    assert_eq!(guesses(open(), Aim::Cutter), [Edge, Detail, Detail], "a stamp presses the eyes");
}

#[test]
fn colours_that_lie_in_each_other_are_drawn_in_turn() {
    use Use::{Aside, Both, Detail, Edge};
    // A badge: a border, a disc in it of another colour that nearly fills it, a radish on that, and a shine on the radish.
    let badge = || {
        vec![
            (about(200.0, 200.0, 300.0), None, true),
            (about(200.0, 200.0, 260.0), Some(0), true),
            (about(200.0, 200.0, 100.0), Some(1), true),
            (about(210.0, 190.0, 20.0), Some(2), true),
        ]
    };
    for aim in [Aim::Cutter, Aim::Plate, Aim::PlateInForm, Aim::Tag, Aim::Body] {
        assert_eq!(
            guesses(badge(), aim),
            [Edge, Aside, Detail, Aside],
            "{aim:?}: the radish shows, its shine is left open"
        );
    }
    // A beetle that fills little of its plate, with spots: it is drawn, the spots are left open.
    let beetle = || {
        vec![
            (about(200.0, 200.0, 300.0), None, true),
            (about(200.0, 200.0, 150.0), Some(0), true),
            (about(180.0, 180.0, 20.0), Some(1), true),
        ]
    };
    assert_eq!(guesses(beetle(), Aim::Tag), [Edge, Detail, Aside]);
    // Where the drawing itself is the body, the disc is an opening.
    assert_eq!(guesses(badge(), Aim::Lines), [Both, Aside, Detail, Aside]);
    // A long animal is drawn on a plate, so its eye of another colour is left open.
    let long =
        Ring([(20.0, 150.0), (20.0, 220.0), (380.0, 220.0), (380.0, 150.0)].map(|(x, y)| Point::new(x, y)).to_vec());
    assert_eq!(
        guesses(vec![(long, None, true), (about(60.0, 180.0, 10.0), Some(0), true)], Aim::Plate),
        [Detail, Aside]
    );
    // Designs that were begun before drew all of it.
    let contours =
        badge().into_iter().map(|(ring, parent, is_ink)| kachel_trace::Contour::of_ring(ring, parent, is_ink));
    let contours = Contours::of(400.0, 400.0, contours.collect());
    let before: Vec<Use> = patches(&contours, Aim::Tag, Guesses::ByObject).iter().map(|p| p.use_).collect();
    assert_eq!(before, [Edge, Detail, Detail, Detail]);
}

#[test]
fn line_art_in_one_piece_is_both() {
    // A square frame with a cross in it: one piece of ink with four gaps.
    let art = || {
        let gap = |x, y| (about(x, y, 140.0), Some(0), false);
        vec![
            (about(200.0, 200.0, 300.0), None, true),
            gap(125.0, 125.0),
            gap(275.0, 125.0),
            gap(125.0, 275.0),
            gap(275.0, 275.0),
        ]
    };
    for aim in AIMS {
        let outer = guesses(art(), aim)[0];
        assert_eq!(outer, if aim == Aim::Plate { Use::Detail } else { Use::Both }, "{aim:?}");
        assert!(guesses(art(), aim)[1..].iter().all(|u| *u == Use::Aside), "{aim:?}");
    }
    // One line all round with a dot in it: the line cuts, or is drawn.
    let ring = || {
        vec![
            (about(200.0, 200.0, 300.0), None, true),
            (about(200.0, 200.0, 280.0), Some(0), false),
            (about(200.0, 200.0, 40.0), Some(1), true),
        ]
    };
    assert_eq!(guesses(ring(), Aim::Cutter), [Use::Edge, Use::Aside, Use::Detail]);
    assert_eq!(guesses(ring(), Aim::Plate), [Use::Detail, Use::Aside, Use::Detail]);
    assert_eq!(guesses(ring(), Aim::Body), [Use::Both, Use::Aside, Use::Detail]);
}

#[test]
fn silhouettes_and_loose_pieces_are_guessed_by_the_kind_of_object() {
    let plain = || vec![(about(200.0, 200.0, 300.0), None, true)];
    let of = |aim| guesses(plain(), aim)[0];
    assert_eq!(AIMS.map(of), [Use::Edge, Use::Detail, Use::Both, Use::Both, Use::Edge, Use::Both]);
    let loose = || vec![(about(80.0, 80.0, 60.0), None, true), (about(300.0, 80.0, 60.0), None, true)];
    assert_eq!(guesses(loose(), Aim::Plate), [Use::Detail, Use::Detail]);
    assert_eq!(guesses(loose(), Aim::Cutter), [Use::Edge, Use::Edge]);
}

#[test]
fn a_plate_needs_no_edge_and_stays_where_it_is() {
    let contours = Contours::of(
        400.0,
        400.0,
        [about(100.0, 200.0, 60.0), about(300.0, 200.0, 60.0)]
            .map(|r| kachel_trace::Contour::of_ring(r, None, true))
            .to_vec(),
    );
    let plate = Wanted { aim: Aim::Plate, ..Wanted::of_size(Size::Scale { mm_per_px: 0.1 }) };
    let sized = |wanted: &Wanted<'_>| size_outline(&contours, wanted, &Watch::default()).unwrap();
    let still = sized(&plate);
    assert!(still.edge.is_empty() && still.details.len() == 2);
    assert_eq!((still.edge_bounds.width(), still.origin), (26.0, Point::new(200.0, 200.0)));
    let right = Spot::new(Point::new(300.0, 200.0), true);
    let moved = Change::Place {
        on: vec![right],
        by: [0.0, -37.0].into(),
        degrees: 0.0,
        scale: 1.0,
        stretch: 1.0,
        flip: false,
        is_copy: false,
    };
    let list = [Entry { id: 1, is_on: true, change: moved }];
    let after = sized(&Wanted { changes: &list, ..plate });
    let bounds = |o: &Outline| -> Vec<_> { o.details.iter().filter_map(|d| d.1.bounds()).collect() };
    assert_eq!(bounds(&still)[0], bounds(&after)[0], "the other one stays");
    assert!((bounds(&after)[1].min.y - bounds(&still)[1].min.y - 3.7).abs() < 1e-4);
    assert_eq!(after.middle, still.middle);
    // The circle round both squares has the diagonal of their box.
    let usual = sized(&Wanted { size: Size::Usual, usual: Usual::Across(60.0), ..plate });
    assert!((usual.mm_per_px - 60.0 / 260f64.hypot(60.0)).abs() < 1e-9);
    let again = sized(&Wanted { size: Size::Usual, usual: Usual::Across(60.0), changes: &list, ..plate });
    assert_eq!(again.mm_per_px, usual.mm_per_px, "a detail that is moved does not change the scale");
}

#[test]
fn openings_have_areas_of_their_own() {
    let contours = Contours::of(
        400.0,
        400.0,
        vec![
            kachel_trace::Contour::of_ring(about(200.0, 200.0, 300.0), None, true),
            kachel_trace::Contour::of_ring(about(200.0, 200.0, 100.0), Some(0), false),
        ],
    );
    let choices = [Choice { spot: Spot::new(Point::new(200.0, 200.0), false), use_: Use::Opening }];
    let wanted = Wanted { choices: &choices, ..Wanted::of_size(Size::Scale { mm_per_px: 0.1 }) };
    let o = size_outline(&contours, &wanted, &Watch::default()).unwrap();
    assert_eq!(o.openings.len(), 1);
    assert!((o.openings[0].1.area_mm2() - 100.0).abs() < 1e-3 && o.details.is_empty());
}

#[test]
fn what_is_drawn_on_an_empty_picture_has_its_usual_size() {
    let empty = Contours::of(2000.0, 1500.0, vec![]);
    let node = |x: f64, y: f64| Node { at: Point::new(x, y), before: None, after: None };
    let line = DrawnLine { nodes: vec![node(300.0, 200.0), node(900.0, 200.0), node(600.0, 700.0)], is_closed: true };
    let list = [Entry { id: 1, is_on: true, change: Change::Draw { line, width: None, use_: Use::Edge } }];
    let wanted = Wanted { changes: &list, ..Wanted::of_size(Size::Usual) };
    let o = size_outline(&empty, &wanted, &Watch::default()).unwrap();
    assert!((o.edge_bounds.width() - 90.0).abs() < 1e-3, "{:?}", o.edge_bounds);
    assert_eq!(o.patches.len(), 1);
    assert!(matches!(
        size_outline(&empty, &Wanted::of_size(Size::Usual), &Watch::default()),
        Err(OutlineError::NoEdge)
    ));
}
