//! What becomes of the drawing: loose pieces, details over the edge, openings, and its place on a plate.

use super::*;
use kachel_words::Message;

fn said(notes: &[Message]) -> Vec<String> {
    notes.iter().map(Message::to_string).collect()
}

/// Squares of 10 mm about places on a line.
fn squares(at: &[f64]) -> Region {
    let ring = |x: &f64| {
        Ring::<Mm>([(-5.0, -5.0), (5.0, -5.0), (5.0, 5.0), (-5.0, 5.0)].map(|(a, b)| Point::new(x + a, b)).to_vec())
    };
    Region::from_mm(&at.iter().map(ring).collect::<Vec<_>>()).unwrap()
}

fn with_edge(edge: Region) -> Outline {
    Outline { edge_bounds: edge.bounds().unwrap(), edge, ..outline() }
}

/// The pieces that everything added makes in plan.
fn pieces(stack: &Stack) -> usize {
    let added: Vec<&Region> = stack.tiers.iter().filter(|t| t.op == Op::Add).map(|t| &*t.footprint).collect();
    crate::tie::pieces(&kachel_geom::join_all(added).unwrap()).len()
}

#[test]
fn loose_pieces_become_one_by_the_smallest_margin() {
    // Gaps of 4 and of 7 mm: the wider one counts.
    let o = with_edge(squares(&[-17.0, -3.0, 14.0]));
    for kind in [RecipeKind::Cutter, RecipeKind::Ornament, RecipeKind::Magnet, RecipeKind::KeyTag, RecipeKind::Stamp] {
        let made = make(kind, &o, &[], &Given::default()).unwrap();
        assert_eq!(pieces(&made), 1, "{kind:?}");
    }
    let ornament = make(RecipeKind::Ornament, &o, &[], &Given::default()).unwrap();
    assert_eq!(said(&ornament.notes), ["The 3 loose pieces of the edge are united by a margin of 4.0 mm."]);
    let edge = ornament.tiers[0].footprint.bounds().unwrap();
    assert!((edge.width() - (41.0 + 2.0 * 4.0)).abs() < 1e-3, "half of 7 mm and half a millimetre for the neck");
    // The tag's border of 3 mm bridges 4 mm by itself, but not 7.
    let tag = make(RecipeKind::KeyTag, &o, &[], &Given::default()).unwrap();
    assert_eq!(said(&tag.notes), ["The 3 loose pieces of the edge are united by a margin of 1.0 mm."]);
    let near = with_edge(squares(&[-7.0, 7.0]));
    assert!(make(RecipeKind::KeyTag, &near, &[], &Given::default()).unwrap().notes.is_empty());
    // Who wants them apart gets them apart.
    let apart = make(RecipeKind::Ornament, &o, &[("pieces", 1.0), ("hang", 2.0)], &Given::default()).unwrap();
    assert!(pieces(&apart) == 3 && apart.notes.is_empty());
}

#[test]
fn details_over_the_edge_are_told_cut_or_taken_along() {
    // A detail of 10 mm whose middle lies on the right side of an edge 40 mm wide.
    let mut o = with_detail(5.0);
    let over =
        Ring::<Mm>([(15.0, -5.0), (25.0, -5.0), (25.0, 5.0), (15.0, 5.0)].map(|(x, y)| Point::new(x, y)).to_vec());
    o.details = vec![(o.patches[2].id, Region::from_mm([&over]).unwrap())];
    let kinds = [RecipeKind::CutterStamp, RecipeKind::Ornament, RecipeKind::Magnet];
    for kind in kinds {
        let of = |outside: f64| make(kind, &o, &[("outside", outside), ("border", 0.0)], &Given::default()).unwrap();
        let told = of(0.0);
        let doubt = told.doubts.iter().find(|d| d.kind == DoubtKind::CutOff).unwrap();
        // A stamp line may end in the wall, which is 1.6 mm thick.
        let over = if kind == RecipeKind::CutterStamp { "34.0 mm²" } else { "50.0 mm²" };
        assert!(doubt.what.to_string().contains(over), "{kind:?}: {}", doubt.what);
        let words: Vec<String> = doubt.mends.iter().map(|m| m.words.to_string()).collect();
        assert_eq!(words, ["Grow the edge round it", "Cut it off", "Put it aside"]);
        assert_eq!(doubt.mends[2].by, MendBy::Aside(vec![2]));
        let is_cut_off = |s: &Stack| s.doubts.iter().any(|d| d.kind == DoubtKind::CutOff);
        assert!(!is_cut_off(&of(1.0)), "{kind:?}: the maker wants it cut");
        let grown = of(2.0);
        assert!(!is_cut_off(&grown), "{kind:?}");
        assert!(grown.edge.bounds().unwrap().width() > 46.0, "{kind:?}: 1.5 mm round what sticks out");
    }
}

#[test]
fn openings_go_right_through_every_recipe() {
    for recipe in RECIPES {
        let mut o = with_detail(5.0);
        let hole =
            Ring::<Mm>([(8.0, 8.0), (12.0, 8.0), (12.0, 12.0), (8.0, 12.0)].map(|(x, y)| Point::new(x, y)).to_vec());
        let mut given = Given::default();
        if recipe.kind == RecipeKind::FreeStack {
            given.own = vec![own(1, Footprint::Edge, 0.0, 3.0)];
        }
        o.openings = vec![(o.patches[1].id, Region::from_mm([&hole]).unwrap())];
        let made = make(recipe.kind, &o, &[], &given).unwrap();
        let last = made.tiers.last().unwrap();
        assert_eq!((last.key.as_str(), last.op, last.bottom.mm()), ("openings", Op::Cut, 0.0), "{}", recipe.name);
        let top = made.tiers.iter().map(|t| t.top).max().unwrap();
        assert_eq!(last.top, top, "{}", recipe.name);
        assert_eq!(last.footprint.area_mm2(), 16.0, "{}", recipe.name);
    }
}

#[test]
fn a_drawing_is_moved_and_turned_on_its_plate() {
    // Something off the middle, so that box and circle differ.
    let mut o = outline();
    let l: Ring<Mm> = Ring(
        [(-6.0, -6.0), (6.0, -6.0), (6.0, -2.0), (-2.0, -2.0), (-2.0, 6.0), (-6.0, 6.0)]
            .map(|(x, y)| Point::new(x, y))
            .to_vec(),
    );
    o.edge = Region::default();
    o.middle = Point::new(1.0, 2.0);
    o.details = vec![(with_detail(5.0).patches[2].id, Region::from_mm([&l]).unwrap())];
    let of = |changed: &[(&str, f64)]| {
        let made = make(RecipeKind::Coaster, &o, changed, &Given::default()).unwrap();
        let at = made.tiers.iter().find(|t| t.key == "plate").unwrap().footprint.bounds().unwrap().centre();
        assert_eq!(made.plate, Some(at), "what the plan's handle is drawn at");
        let by = |key: &str| made.tiers.iter().find(|t| t.key == key).unwrap().footprint.bounds().unwrap();
        (by("plate").centre(), by("details"))
    };
    let (plate, still) = of(&[]);
    assert_eq!(plate, Point::new(1.0, 2.0), "its own place");
    assert_eq!(of(&[("place", 1.0)]).0, Point::new(0.0, 0.0), "the middle of its box");
    let circle = of(&[("place", 2.0)]).0;
    assert!(circle.distance(Point::new(0.0, 0.0)) < 0.01, "the box's corners are the farthest: {circle:?}");
    let moved = of(&[("shift-x", 3.0), ("shift-y", 3.7)]).1;
    assert!((moved.min.x - still.min.x - 3.0).abs() < 1e-4 && (moved.max.y - still.max.y - 3.7).abs() < 1e-4);
    // A quarter to the left about (1, 2): x becomes 1 - (y - 2), y becomes 2 + (x - 1).
    let turned = of(&[("turn", 90.0)]).1;
    assert!((turned.min.x - (3.0 - still.max.y)).abs() < 1e-4 && (turned.max.y - (1.0 + still.max.x)).abs() < 1e-4);
}

#[test]
fn what_does_not_fit_a_plate_is_made_to_fit() {
    let mut o = outline();
    o.edge = Region::default();
    let scaled = |k: f64| {
        let bar: Ring<Mm> = Ring(
            [(-45.0, -8.0), (45.0, -8.0), (45.0, 8.0), (-45.0, 8.0)].map(|(x, y)| Point::new(x * k, y * k)).to_vec(),
        );
        vec![(with_detail(5.0).patches[2].id, Region::from_mm([&bar]).unwrap())]
    };
    o.details = scaled(1.0);
    for (kind, changed) in [
        (RecipeKind::Coaster, vec![]),
        (RecipeKind::Coaster, vec![("form", 1.0)]),
        (RecipeKind::Coaster, vec![("form", 2.0), ("rim-width", 4.0)]),
        (RecipeKind::Token, vec![("across", 60.0)]),
    ] {
        let told = make(kind, &o, &changed, &Given::default()).unwrap();
        let doubt = told.doubts.iter().find(|d| d.kind == DoubtKind::CutOff).unwrap();
        let MendBy::Scale(factor) = doubt.mends[0].by else { panic!("{:?}", doubt.mends) };
        assert_eq!(told.fit, Some(factor));
        let fitted = Outline { details: scaled(factor), ..o.clone() };
        assert!(make(kind, &fitted, &changed, &Given::default()).unwrap().doubts.is_empty(), "{kind:?} {changed:?}");
        // And as large as can be: a little more, and it is too near to the rim.
        let MendBy::Measure(across, value) = doubt.mends[1].by else { panic!("{:?}", doubt.mends) };
        let mut larger: Vec<(&str, f64)> = changed.iter().filter(|c| c.0 != across.name()).copied().collect();
        larger.push((across.name(), value));
        assert!(make(kind, &o, &larger, &Given::default()).unwrap().doubts.is_empty(), "{kind:?} {larger:?}");
    }
}

#[test]
fn what_no_nozzle_prints_is_left_out_and_counted() {
    let shifted = |r: Region, x: f64, y: f64| {
        let moved = |r: Ring<Mm>| Ring(r.0.into_iter().map(|p| Point::new(p.x + x, p.y + y)).collect());
        Region::from_mm(&r.rings_mm().into_iter().map(moved).collect::<Vec<_>>()).unwrap()
    };
    // A detail of 10 mm with a hole of 0.3 mm, a crumb of 0.3 mm and a grain of 0.5 mm, which prints.
    let mut o = with_detail(5.0);
    let parts =
        [square(5.0).with_hole(&square(0.15)), shifted(square(0.15), 8.0, 0.0), shifted(square(0.25), -8.0, 0.0)];
    o.details[0].1 = kachel_geom::join_all(&parts).unwrap();
    let made = |changed: &[(&str, f64)]| make(RecipeKind::Coaster, &o, changed, &Given::default()).unwrap();
    let raised = made(&[("relief", 1.0)]);
    assert!((area(&raised, "details") - 100.25).abs() < 1e-3, "{}", area(&raised, "details"));
    assert_eq!(said(&raised.notes), ["1 crumb and 1 tiny hole smaller than a nozzle prints: left out."]);
    let kept = made(&[("relief", 1.0), ("crumbs", 1.0)]);
    assert!((area(&kept, "details") - 100.25).abs() < 1e-3, "a hole of 0.09 mm2 for a crumb as large");
    assert_eq!((kept.notes.len(), crate::tie::pieces(&kept.tiers.last().unwrap().footprint).len()), (0, 3));
    // Of a stamp it goes before lines are thickened, not as a thick line.
    let stamp = make(RecipeKind::CutterStamp, &o, &[], &Given::default()).unwrap();
    assert!(said(&stamp.notes).iter().any(|n| n.starts_with("1 crumb")), "{:?}", stamp.notes);
}

#[test]
fn a_section_begins_through_what_is_drawn() {
    let square = |x: f64, y: f64, half: f64| {
        let corner = |(a, b): (f64, f64)| Point::<Mm>::new(x + a * half, y + b * half);
        Ring([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(corner).to_vec())
    };
    let of = |details: &[Ring<Mm>], changed: &[(&str, f64)]| {
        let o = with_detail(5.0);
        let details = vec![(o.details[0].0, Region::from_mm(details).unwrap())];
        let edge = Region::from_mm([&square(0.0, 0.0, 30.0)]).unwrap();
        let o = Outline { edge_bounds: edge.bounds().unwrap(), edge, details, ..o };
        crate::through_details(&make(RecipeKind::CutterStamp, &o, changed, &Given::default()).unwrap())
    };
    let at = |details: &[Ring<Mm>]| of(details, &[]);
    assert_eq!(at(&[square(3.0, 1.0, 4.0)]), 0.0, "the middle meets it");
    assert_eq!(at(&[square(0.0, 14.2, 3.0), square(0.0, -20.0, 3.0)]), 14.0, "the nearest, on half a millimetre");
    let hair = [(-5.0, -12.3), (5.0, -12.3), (5.0, -12.22), (-5.0, -12.22)].map(|(x, y)| Point::<Mm>::new(x, y));
    let thin = of(&[Ring(hair.to_vec())], &[("stamp-least", 0.0)]);
    assert!((thin + 12.26).abs() < 1e-3, "no half millimetre meets it: {thin}");
    let plain = make(RecipeKind::Cutter, &with_edge(squares(&[0.0])), &[], &Given::default()).unwrap();
    assert_eq!(crate::through_details(&plain), 0.0);
}
