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
    size_outline(&contours(), choices, &[], size, None, &Watch::default())
}

#[test]
fn first_guesses_follow_the_nesting() {
    let uses: Vec<(bool, Use)> = patches(&contours()).iter().map(|p| (p.is_ink, p.use_)).collect();
    assert_eq!(uses, [(true, Use::Edge), (false, Use::Aside), (true, Use::Edge), (true, Use::Detail)]);
    let areas: Vec<f64> = patches(&contours()).iter().map(|p| p.area_px2).collect();
    assert_eq!(areas, [3600.0, 6000.0, 2500.0, 400.0]);
}

#[test]
fn typing_a_width_sets_the_scale_and_pinning_it_lets_the_scale_follow() {
    let aside = [Choice { spot: Spot::new([130.0, 10.0], true), use_: Use::Aside }];
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
    let gone = Choice { spot: Spot::new([190.0, 90.0], true), use_: Use::Edge };
    assert_eq!(run(&[gone], Size::Width { mm: 50.0 }).unwrap().lost, [gone]);
}

#[test]
fn refuses_sizes_and_choices_that_make_nothing() {
    let none: Vec<Choice> =
        [[5.0, 5.0], [130.0, 10.0]].map(|at| Choice { spot: Spot::new(at, true), use_: Use::Aside }).to_vec();
    assert!(matches!(run(&none, Size::Width { mm: 90.0 }), Err(OutlineError::NoEdge)));
    for mm in [0.0, -5.0, f64::NAN, 1e9] {
        let r = run(&[], Size::Width { mm });
        assert!(matches!(r, Err(OutlineError::SizeOutOfRange { .. })), "{mm}: {r:?}");
    }
    // A gap 20 px wide chosen as the edge at 900 mm would put the other piece 5 m away.
    let far = [
        Choice { spot: Spot::new([5.0, 5.0], true), use_: Use::Aside },
        Choice { spot: Spot::new([130.0, 10.0], true), use_: Use::Detail },
        Choice { spot: Spot::new([50.0, 50.0], true), use_: Use::Edge },
    ];
    assert!(matches!(run(&far, Size::Width { mm: 900.0 }), Err(OutlineError::OffGrid(_))));
}

#[test]
fn pen_lines_get_their_width_in_millimetres_whatever_the_scale() {
    let p = |x, y| Point::new(x, y);
    let line = kachel_geom::Curve { start: p(20.0, 20.0), segments: vec![kachel_geom::Segment::Line(p(120.0, 20.0))] };
    let mut c = Contours::of(200.0, 100.0, vec![]);
    c.lines = vec![kachel_trace::PenLine { curve: line, width: 5.0 }];
    let of = |size, pen| size_outline(&c, &[], &[], size, pen, &Watch::default()).unwrap();
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
