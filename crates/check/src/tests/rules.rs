//! Each rule by a true, a false and a borderline case.

use super::*;
use crate::rules::{air, cookies, cover, credits, cup, dough, flange, hangs, heavy, holds, layering, shows, thin};

/// What Check measured, by its heading.
fn said(o: &Object<'_>, what: &str) -> String {
    let report = check(o, &Watch::default()).unwrap();
    report
        .looked
        .iter()
        .find(|l| l.what == what)
        .unwrap_or_else(|| panic!("{what}: {:?}", report.looked))
        .said
        .to_string()
}

fn contours(rings: &[Ring<Px>], is_ink: impl Fn(usize) -> bool) -> Contours {
    let all = rings.iter().enumerate().map(|(k, r)| Contour::of_ring(r.clone(), (k > 0).then_some(0), is_ink(k)));
    Contours::of(400.0, 400.0, all.collect())
}

/// A coaster's drawing stands out of it.
const RAISED: &[(&str, f64)] = &[("relief", 1.0)];

/// A ring and a square away from it.
fn beside(ring: Ring<Px>) -> Contours {
    let all = [ring, rect(120.0, 110.0, 130.0, 130.0)].map(|r| Contour::of_ring(r, None, true));
    Contours::of(400.0, 400.0, all.to_vec())
}

fn of<T>(kind: RecipeKind, drawn: &Contours, changed: &[(&str, f64)], look: impl FnOnce(&Object<'_>) -> T) -> T {
    made(kind, drawn, changed, &Given::default(), &Printer::default(), &[], look)
}

fn has(found: &[Finding], code: Code) -> bool {
    found.iter().any(|f| f.code == code)
}

#[test]
fn the_thinnest_place_is_told_as_it_is() {
    // A square cutter: its wall is the thinnest, also where nothing is wrong.
    let told =
        check_with(&plain_square(), &[("wall-thickness", 1.6), ("taper-in", 0.0)], |o| said(o, "looked-thinnest"));
    assert_eq!(told, "1.60 mm, at 'Wall'");
}

fn check_with<T>(
    pieces: &[(Option<usize>, Ring<Px>)],
    changed: &[(&str, f64)],
    look: impl FnOnce(&Object<'_>) -> T,
) -> T {
    with_object(pieces, changed, |i, parent| parent.is_none() || i % 2 == 0, look)
}

#[test]
fn a_tip_thinner_than_a_line_is_found_and_blunted() {
    let tip = |inset: f64| run(&plain_square(), &[("wall-thickness", 1.2), ("taper-in", inset)]);
    // True: 1.2 - 0.95 mm; in the middle of the last layer a little more.
    let found = tip(0.95);
    assert_eq!(codes(&found), [thin::THIN_TIP], "{found:?}");
    assert!(found[0].what.to_string().starts_with("'Wall' ends 0.28 mm thin"), "{}", found[0].what);
    let [Edit::Tiers(TierEdit::SetMeasure { name, value: Value::Number(inset) })] = edits(&found[0]) else {
        panic!("{:?}", found[0].mends)
    };
    assert_eq!(name, "taper-in");
    assert_eq!(codes(&tip(*inset)), [], "mended");
    // Borderline: one line of 0.4 mm holds.
    assert_eq!(codes(&tip(0.8)), []);
}

#[test]
fn thin_raised_lines_are_found_thickened_and_told_as_wide_as_they_are() {
    let line = |width: f64| beside(rect(100.0, 100.0, 150.0, 100.0 + width));
    let found = of(RecipeKind::Coaster, &line(0.31), RAISED, checked);
    assert!(has(&found, thin::THIN_PLACE), "{found:?}");
    let thin = found.iter().find(|f| f.code == thin::THIN_PLACE).unwrap();
    assert!((thin.figures[0].value - 0.31).abs() < 0.005, "{thin:?}");
    assert!(matches!(edits(thin), [Edit::Outline(OutlineEdit::AddChange { .. })]));
    // Borderline: exactly 0.75 passes. False: 2 mm.
    for width in [0.75, 2.0] {
        assert!(!has(&of(RecipeKind::Coaster, &line(width), RAISED, checked), thin::THIN_PLACE), "{width}");
    }
}

#[test]
fn engraved_lines_that_close_up_are_found() {
    let engraved = |width: f64| {
        let drawn = beside(rect(100.0, 100.0, 150.0, 100.0 + width));
        of(RecipeKind::Coaster, &drawn, &[], checked)
    };
    assert!(has(&engraved(0.3), thin::NARROW_GAP));
    assert!(!has(&engraved(0.4), thin::NARROW_GAP) && !has(&engraved(1.0), thin::NARROW_GAP));
}

#[test]
fn bridges_are_as_long_as_their_shortest_lines() {
    // A roof over a room of 54 x 44 mm, whose walls are 3 mm thick: lines run the short way.
    let roof = |walls: f64| own_tiers(&[(0.0, 5.0, 0.0), (0.0, 5.0, -walls), (5.0, 7.0, 0.0)], true);
    let found = roof(3.0);
    let bridge = found.iter().find(|f| f.code == air::BRIDGE).unwrap();
    assert!((bridge.figures[0].value - 44.0).abs() < 0.3, "{bridge:?}");
    // Borderline and false: a room of 8 mm.
    assert!(!has(&roof(21.0), air::BRIDGE));
}

#[test]
fn a_cutter_that_cuts_several_cookies_says_so_and_unites_them() {
    let two = [(None, rect(0.0, 0.0, 20.0, 40.0)), (None, rect(24.0, 0.0, 60.0, 40.0))];
    let found = run(&two, &[("pieces", 1.0)]);
    let several = found.iter().find(|f| f.code == cookies::SEVERAL_COOKIES).unwrap();
    assert_eq!(several.what.to_string(), "It cuts 2 separate cookies");
    let [Edit::Tiers(TierEdit::SetMeasure { name, value: Value::Number(margin) })] = several.mends[1].edits.as_slice()
    else {
        panic!("{:?}", several.mends)
    };
    assert_eq!(name, "margin");
    assert!(!has(&run(&two, &[("pieces", 1.0), ("margin", *margin)]), cookies::SEVERAL_COOKIES), "mended by {margin}");
    assert!(!has(&run(&two, &[]), cookies::SEVERAL_COOKIES), "united by itself");
    assert_eq!(check_with(&plain_square(), &[], |o| said(o, "looked-cuts")), "one cookie");
}

#[test]
fn a_cup_rocks_on_raised_dots_and_stands_on_a_ring_and_on_an_engraving() {
    // A ridge through the middle carries a foot at two opposite places only.
    let ridge = contours(&[rect(195.0, 150.0, 205.0, 250.0)], |_| true);
    let found = of(RecipeKind::Coaster, &ridge, &[("across", 100.0), ("relief", 1.0)], checked);
    let rocks = found.iter().find(|f| f.code == cup::CUP_ROCKS).unwrap();
    assert!(rocks.what.to_string().starts_with("A cup with a foot of 50 to 85 mm rocks"), "{}", rocks.what);
    assert!(!has(&of(RecipeKind::Coaster, &ridge, &[("across", 100.0)], checked), cup::CUP_ROCKS), "engraved: mended");
    // Borderline: a rim as high carries a foot that reaches it, but not a smaller one.
    let flat = contours(&[rect(198.0, 198.0, 202.0, 202.0)], |_| true);
    let told = of(RecipeKind::Coaster, &flat, &[("across", 100.0), ("relief", 1.0)], |o| said(o, "looked-cup"));
    assert_eq!(told, "steady, with a foot of 50 to 85 mm", "the dot is under no foot");
}

#[test]
fn what_hangs_askew_is_told_with_its_angle() {
    // The recipe puts the hole over the middle of the weight; by hand it goes 15 mm to the right of it.
    let even = contours(&[rect(100.0, 100.0, 150.0, 160.0)], |_| true);
    let by_hand = [("hang", 1.0), ("hole-at", 1.0), ("hole-x", 15.0), ("hole-y", 25.0)];
    let found = of(RecipeKind::Ornament, &even, &by_hand, checked);
    let askew = found.iter().find(|f| f.code == hangs::HANGS_ASKEW).unwrap();
    // atan(15 / 25), and a little less for the hole, which weighs nothing.
    assert!((askew.figures[0].value - 30.96).abs() < 0.6, "{askew:?}");
    assert_eq!(of(RecipeKind::Ornament, &even, &[], |o| said(o, "looked-hangs")), "straight");
    assert!(!has(&of(RecipeKind::Ornament, &even, &[], checked), hangs::HANGS_ASKEW));
}

#[test]
fn a_short_neck_between_two_corners_is_found_where_it_is_thin_enough() {
    // Two triangles, point to point: no strand, but all that holds them together.
    let bow = |neck: f64| {
        let (n, places) =
            (neck / 2.0, [(100.0, -20.0), (120.0, -0.0), (140.0, -20.0), (140.0, 20.0), (120.0, 0.0), (100.0, 20.0)]);
        let at = |(x, y): (f64, f64)| {
            if x == 120.0 { (x, 120.0 + if y.is_sign_negative() { -n } else { n }) } else { (x, 120.0 + y) }
        };
        let ring: Vec<_> = places.into_iter().map(at).rev().map(|(x, y)| kachel_geom::Point::new(x, y)).collect();
        Contours::of(400.0, 400.0, vec![Contour::of_ring(Ring(ring), None, true)])
    };
    let found = |neck| of(RecipeKind::Magnet, &bow(neck), &[("soft-edge", 0.0), ("border", 0.0)], checked);
    let thin = found(0.4).into_iter().find(|f| f.code == thin::THIN_PLACE);
    assert!(thin.is_some_and(|f| (f.figures[0].value - 0.4).abs() < 0.05), "{:?}", found(0.4));
    assert!(!has(&found(0.7), thin::THIN_PLACE), "a short neck is held by what is beside it");
}

#[test]
fn narrow_parts_and_slits_of_a_cookie_are_told_and_a_margin_mends_them() {
    // A dumb-bell with a handle of 3 mm; and a square with a slit of 2 mm.
    let bell = |handle: f64| {
        let (low, high) = (120.0 - handle / 2.0, 120.0 + handle / 2.0);
        let xy = [(100.0, 100.0), (130.0, 100.0), (130.0, low), (150.0, low), (150.0, 100.0), (180.0, 100.0)];
        let back = [(180.0, 140.0), (150.0, 140.0), (150.0, high), (130.0, high), (130.0, 140.0), (100.0, 140.0)];
        contours(&[Ring(xy.into_iter().chain(back).map(|(x, y)| kachel_geom::Point::new(x, y)).collect())], |_| true)
    };
    let wall = ("wall-thickness", 1.6);
    let found = |drawn: &Contours, margin| of(RecipeKind::Cutter, drawn, &[("margin", margin), wall], checked);
    let narrow = found(&bell(3.0), 0.0).into_iter().find(|f| f.code == dough::NARROW_NECK).unwrap();
    assert!((narrow.figures[0].value - 3.0).abs() < 0.01 && narrow.places.len() == 1, "{narrow:?}");
    assert_eq!(edits(&narrow), measure(m::MARGIN, 0.6));
    assert!(!has(&found(&bell(3.0), 0.6), dough::NARROW_NECK), "mended");
    assert!(!has(&found(&bell(4.0), 0.0), dough::NARROW_NECK), "borderline: exactly 4 mm holds");

    let slit = |wide: f64| {
        let (left, right) = (130.0 - wide / 2.0, 130.0 + wide / 2.0);
        let xy = [(100.0, 100.0), (160.0, 100.0), (160.0, 160.0), (right, 160.0), (right, 120.0), (left, 120.0)];
        let back = [(left, 160.0), (100.0, 160.0)];
        contours(&[Ring(xy.into_iter().chain(back).map(|(x, y)| kachel_geom::Point::new(x, y)).collect())], |_| true)
    };
    // Walls of 1.6 mm stand in the slit.
    let slit = |between: f64| slit(between + 3.2);
    let narrow = found(&slit(2.0), 0.0).into_iter().find(|f| f.code == dough::NARROW_SLIT).unwrap();
    assert!((narrow.figures[0].value - 2.0).abs() < 0.01, "{narrow:?}");
    assert!(!has(&found(&slit(3.0), 0.0), dough::NARROW_SLIT), "borderline");
    assert!(!has(&found(&slit(-1.0), 0.0), dough::NARROW_SLIT), "the walls are one: no dough is between them");
}

#[test]
fn light_over_dark_is_told_where_the_dark_shows_through() {
    // Light details on a plate of soot.
    let drawn = contours(&[rect(195.0, 150.0, 205.0, 250.0)], |_| true);
    let given = |plate: &str, details: &str| Given {
        filaments: BTreeMap::from([("plate".to_string(), plate.into()), ("details".to_string(), details.into())]),
        filament: "honey".into(),
        ..Given::default()
    };
    let found = |given: &Given, high: f64| {
        let changed = [("relief", 1.0), ("across", 120.0), ("relief-depth", high)];
        made(RecipeKind::Coaster, &drawn, &changed, given, &Printer::default(), &[], checked)
    };
    let thin = found(&given("soot", "chalk"), 0.4).into_iter().find(|f| f.code == shows::SHOWS_THROUGH);
    let thin = thin.unwrap();
    assert!((thin.figures[0].value - 0.4).abs() < 1e-3, "{thin:?}");
    assert_eq!(thin.mends[0].words.to_string(), "Make it 0.6 mm thick");
    assert!(!has(&found(&given("soot", "chalk"), 0.6), shows::SHOWS_THROUGH), "borderline");
    assert!(!has(&found(&given("chalk", "soot"), 0.4), shows::SHOWS_THROUGH), "dark over light");
    assert!(!has(&found(&given("soot", "soot"), 0.4), shows::SHOWS_THROUGH), "one filament");
}

#[test]
fn what_is_tall_on_a_small_foot_and_sharp_corners_that_lift_are_told() {
    // A pin, 3 mm across and 5 mm high.
    let pin = |side: f64| contours(&[rect(100.0, 100.0, 100.0 + side, 100.0 + side)], |_| true);
    let found = |side| of(RecipeKind::Ornament, &pin(side), &[("hang", 0.0), ("soft-edge", 0.0)], checked);
    assert!(!has(&found(20.0), holds::SMALL_FOOT));
    let tall = |side: f64| of(RecipeKind::Magnet, &pin(side), &[("thickness", 30.0)], checked);
    assert!(has(&tall(3.0), holds::SMALL_FOOT));
    assert!(!has(&tall(12.0), holds::SMALL_FOOT));
    let plaque = |side: f64, corner: f64| {
        let changed = [("across", side), ("corner", corner)];
        of(RecipeKind::Coaster, &pin(20.0), &[("form", 1.0), changed[0], changed[1]], checked)
    };
    let lift = |side, corner| has(&plaque(side, corner), holds::CORNERS_LIFT);
    assert!(lift(150.0, 0.0) && !lift(150.0, 5.0) && !lift(100.0, 0.0));
}

#[test]
fn heights_between_layers_are_told_and_put_on_layers() {
    let flange = |mm: f64| run(&plain_square(), &[("flange-height", mm), ("flange-edge", 0.2)]);
    let found = flange(0.33);
    assert_eq!(codes(&found), [layering::BETWEEN_LAYERS], "{found:?}");
    // The second layer's middle, at 0.3 mm, lies under the face.
    assert!(
        found[0].what.to_string().contains("'Flange' ends at 0.33 mm and is printed to 0.40 mm"),
        "{}",
        found[0].what
    );
    let [Edit::Tiers(TierEdit::SetHeight { name, value: Length::Mm(mm), .. })] = edits(&found[0]) else {
        panic!("{:?}", found[0].mends)
    };
    assert_eq!((name.as_str(), *mm), ("flange-height", 0.4));
    // Mended; borderline, 0.06 of 0.46 mm; false, whole layers, and what is so high that it does not show.
    for mm in [0.4, 0.46, 0.6, 1.75] {
        assert_eq!(codes(&flange(mm)), [], "{mm}");
    }
}

#[test]
fn layers_are_looked_at_as_they_are_printed_under_a_first_one_of_another_height() {
    // 0.3 mm and then 0.2 each: a flange of 0.41 mm is printed to 0.5 mm, not to 0.4.
    let heights = LayerHeights { first: 0.3, others: 0.2 };
    let flange = |mm: f64| {
        let changed = [("flange-height", mm), ("flange-edge", 0.2)];
        with_object(
            &plain_square(),
            &changed,
            |_, parent| parent.is_none(),
            |o| {
                let layers = &Layers::of(&o.solid.skin, heights).unwrap();
                checked(&Object { layers, ..*o })
            },
        )
    };
    let found = flange(0.41);
    assert_eq!(codes(&found), [layering::BETWEEN_LAYERS], "{found:?}");
    let to = edits(&found[0]).iter().find_map(|e| match e {
        Edit::Tiers(TierEdit::SetHeight { name, value: Length::Mm(mm), .. }) if name == "flange-height" => Some(*mm),
        _ => None,
    });
    assert_eq!(to, Some(0.5));
    assert_eq!(codes(&flange(0.5)), []);
}

#[test]
fn what_counts_from_a_moved_height_moves_with_it() {
    let found = of(
        RecipeKind::Coaster,
        &beside(rect(100.0, 100.0, 150.0, 105.0)),
        &[("relief", 1.0), ("thickness", 0.68), ("relief-depth", 0.25), (m::SOFT_EDGE.name(), 0.0)],
        checked,
    );
    let all = found.iter().find(|f| f.code == layering::BETWEEN_LAYERS).unwrap();
    let to: Vec<f64> = edits(all)
        .iter()
        .map(|e| match e {
            Edit::Tiers(TierEdit::SetHeight { base, is_down: false, value: Length::Mm(mm), .. }) => mm - base,
            _ => panic!("{e:?}"),
        })
        .collect();
    // A body of whole layers, and a relief that keeps its own height over it.
    assert!(to.iter().zip([0.6, 0.2]).all(|(a, b)| (a - b).abs() < 1e-9) && to.len() == 2, "{to:?} {all:?}");
}

#[test]
fn a_roof_of_few_layers_over_a_hollow_is_told_and_thickened() {
    // A hollow of 18 x 8 mm, 2 mm high.
    let roofed = |roof: f64| own_tiers(&[(0.0, 3.0 + roof, 0.0), (1.0, 3.0, -21.0)], true);
    let found = roofed(0.4);
    let thin = found.iter().find(|f| f.code == cover::THIN_COVER).unwrap_or_else(|| panic!("{found:?}"));
    assert!(thin.what.to_string().starts_with("2 layers lie over a hollow, at one place"), "{}", thin.what);
    let b = thin.bounds().unwrap();
    assert!((b.width() - 18.0).abs() < 1.0 && (b.height() - 8.0).abs() < 1.0, "{b:?}");
    let to: Vec<f64> = thin
        .mends
        .iter()
        .flat_map(|m| &m.edits)
        .map(|e| match e {
            Edit::Tiers(TierEdit::SetHeight { value: Length::Mm(mm), .. }) => *mm,
            _ => panic!("{e:?}"),
        })
        .collect();
    // Three layers: a higher body, or a lower hollow.
    assert_eq!(to, [3.6, 2.8]);
    // Borderline: three layers close it. False: a hollow that is open above.
    assert_eq!(codes(&roofed(0.6)), []);
    assert_eq!(codes(&own_tiers(&[(0.0, 3.0, 0.0), (1.0, 4.0, -21.0)], true)), []);
}

#[test]
fn a_narrow_foot_and_a_square_edge_are_felt_by_the_hand() {
    let foot = |wall: f64, flange: f64| run(&plain_square(), &[("wall-thickness", wall), ("flange-width", flange)]);
    let found = foot(1.2, 1.0);
    assert_eq!(codes(&found), [flange::NARROW_FLANGE], "{found:?}");
    assert_eq!(edits(&found[0]), measure(m::FLANGE_WIDTH, 1.8));
    // Borderline: 3 mm in all. False: the usual foot.
    for (wall, flange) in [(1.2, 1.8), (1.6, 3.0)] {
        assert_eq!(codes(&foot(wall, flange)), [], "{wall} {flange}");
    }
    let bevelled = |mm: f64| run(&plain_square(), &[("flange-edge", mm)]);
    let found = bevelled(0.0);
    assert_eq!(codes(&found), [flange::SHARP_FLANGE], "{found:?}");
    assert_eq!(edits(&found[0]), measure(m::FLANGE_EDGE, 0.5));
    assert_eq!(codes(&bevelled(0.2)), []);
    assert_eq!(codes(&bevelled(0.5)), []);
}

#[test]
fn an_opening_near_the_wall_is_told_with_its_distance() {
    let backed = |mm: f64| {
        let drawn = Contours::of(400.0, 400.0, vec![Contour::of_ring(rect(100.0, 100.0, 160.0, 150.0), None, true)]);
        of(RecipeKind::Cutter, &drawn, &[("back", 1.0), ("opening", mm)], checked)
    };
    let found = backed(2.0);
    assert_eq!(codes(&found), [flange::OPENING_NEAR_WALL], "{found:?}");
    assert!(found[0].what.to_string().contains("within 2.00 mm of the wall"), "{}", found[0].what);
    assert_eq!(edits(&found[0]), measure(m::OPENING, 3.0));
    for mm in [3.0, 10.0] {
        assert_eq!(codes(&backed(mm)), [], "{mm}");
    }
}

#[test]
fn licences_that_allow_no_selling_are_known_by_their_words() {
    let told = |licence: &str, note: &str| {
        let credit = Credit { licence: licence.into(), note: note.into(), ..Credit::default() };
        check_with(&plain_square(), &[], |o| checked(&Object { credit: &credit, ..*o }))
    };
    for licence in ["CC BY-NC 4.0", "Creative Commons NonCommercial", "for personal use only", "Not for sale!"] {
        assert_eq!(codes(&told(licence, "")), [credits::NOT_FOR_SALE], "{licence}");
    }
    // A permission is noted; licences that allow it, and words that only hold the letters.
    assert_eq!(codes(&told("CC BY-NC 4.0", "asked her, 3 May: may be sold")), []);
    for licence in ["CC BY 4.0", "CC0", "ancient", "", "no licence known"] {
        assert_eq!(codes(&told(licence, "")), [], "{licence}");
    }
}

#[test]
fn a_credit_of_an_earlier_picture_is_told_until_it_is_said_to_be_right() {
    let credit = Credit { maker: "Tilda Rook".into(), ..Credit::default() };
    let told = |credit: &Credit, of: Option<&str>| {
        check_with(&plain_square(), &[], |o| checked(&Object { credit, credit_of: of, ..*o }))
    };
    let found = told(&credit, Some("beet.png"));
    assert_eq!(codes(&found), [credits::CREDIT_OF_ANOTHER]);
    assert!(found[0].what.to_string().contains("'beet.png'"), "{}", found[0].what);
    let kept: Edit = GeneralEdit::SetCredit { credit: credit.clone() }.into();
    assert_eq!(edits(&found[0]), [kept]);
    // Of this picture, and where nothing is stated.
    assert_eq!(codes(&told(&credit, None)), []);
    assert_eq!(codes(&told(&Credit::default(), Some("beet.png"))), []);
}

#[test]
fn a_heavy_mesh_is_told_with_its_nodes_and_its_file() {
    // A wheel of so many teeth: each node stands in some ten triangles of a cutter.
    let wheel = |nodes: u32| {
        let at = |k: u32| {
            let (sin, cos) = (f64::from(k) / f64::from(nodes) * std::f64::consts::TAU).sin_cos();
            let r = 150.0 + if k.is_multiple_of(2) { 0.05 } else { 0.0 };
            Point::new(200.0 + r * cos, 200.0 - r * sin)
        };
        vec![(None, Ring((0..nodes).map(at).collect()))]
    };
    let rule = RULES.iter().find(|r| r.codes.contains(&heavy::HEAVY)).unwrap();
    let heavy =
        |nodes| check_with(&wheel(nodes), &[], |o| look(std::slice::from_ref(rule), o, &Watch::default()).unwrap());
    let found = heavy(24_000).findings;
    assert_eq!(codes(&found), [heavy::HEAVY]);
    assert!(found[0].figures[0].value > 200_000.0 && found[0].what.to_string().contains("24000 nodes"), "{found:?}");
    let light = heavy(2_000);
    assert_eq!(codes(&light.findings), []);
    assert!(light.looked[0].said.to_string().starts_with("2000 nodes, "), "{light:?}");
}
