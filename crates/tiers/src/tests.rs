use super::*;
use kachel_geom::{Bounds, Mm, Point, Px, Region, Ring, Watch};
use kachel_outline::Outline;
use std::collections::BTreeMap;

fn square(half: f64) -> Region {
    let ring: Ring<Mm> = Ring(
        [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Point::new(x * half, y * half)).to_vec(),
    );
    Region::from_mm([&ring]).unwrap()
}

fn outline() -> Outline {
    Outline {
        patches: vec![],
        mm_per_px: 1.0,
        origin: Point::<Px>::new(0.0, 0.0),
        edge_px: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge_bounds: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge: square(20.0),
        details: vec![],
        lost: vec![],
        astray: vec![],
    }
}

fn make(kind: RecipeKind, outline: &Outline, changed: &[(&str, f64)], given: &Given) -> Result<Stack, TierError> {
    let changed: BTreeMap<String, f64> = changed.iter().map(|(n, v)| ((*n).to_string(), *v)).collect();
    let m = Measures::new(kind.recipe(), &changed)?;
    stack(kind, outline, &m, given, &Plans::default(), &Watch::default())
}

fn build(changed: &[(&str, f64)]) -> Result<Stack, TierError> {
    make(RecipeKind::Cutter, &outline(), changed, &Given::default())
}

#[test]
fn defaults_are_those_of_the_trade() {
    // Common practice, no source: wall 1.6 mm thick and 15 mm high, flange 3 mm out and 2 mm high, stamp 3 mm lower.
    let m = Measures::new(RecipeKind::Cutter.recipe(), &BTreeMap::new()).unwrap();
    let want = [("wall-thickness", 1.6), ("wall-height", 15.0), ("flange-width", 3.0), ("flange-height", 2.0)];
    want.iter().for_each(|(n, v)| assert_eq!(m.get(n), *v, "{n}"));
    // The blade: 0.5 to 0.6 mm in over the last 3 mm, leaving about 1 mm at the tip.
    assert_eq!((m.get("taper-in"), m.get("taper-down"), m.get("margin")), (0.5, 3.0, 0.0));
    let of = |kind: RecipeKind, name: &str| kind.recipe().measure(name).unwrap().default;
    let trade = [
        (RecipeKind::CutterStamp, "stamp-under-wall", 3.0),
        (RecipeKind::CutterStamp, "bar-width", 2.0),
        (RecipeKind::Coaster, "across", 80.0),
        (RecipeKind::Coaster, "thickness", 5.0),
        (RecipeKind::Coaster, "relief-depth", 2.5),
        (RecipeKind::Token, "thickness", 4.0),
        (RecipeKind::Token, "across", 30.0),
        (RecipeKind::Token, "relief-height", 0.5),
        (RecipeKind::KeyTag, "thickness", 3.0),
        (RecipeKind::KeyTag, "hole", 5.0),
        (RecipeKind::KeyTag, "longest", 70.0),
        (RecipeKind::Ornament, "thickness", 2.5),
        (RecipeKind::Plaque, "thickness", 5.0),
        (RecipeKind::Plaque, "relief-height", 5.0),
        (RecipeKind::Plaque, "corner", 5.0),
    ];
    trade.iter().for_each(|(kind, name, value)| assert_eq!(of(*kind, name), *value, "{name}"));
    assert!((6.35..=7.6).contains(&of(RecipeKind::Ornament, "hole")), "0.25 to 0.3 in");
    for r in RECIPES {
        r.all().for_each(|s| s.check(s.default).unwrap_or_else(|e| panic!("{}: {e}", r.name)));
        let mut names: Vec<&str> = r.all().map(|s| s.name).collect();
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), r.all().count(), "{}: every measure once", r.name);
        assert!(!r.bed.is_empty() && r.kind.recipe() == r);
    }
}

#[test]
fn a_square_cutter_has_steiners_areas_and_lies_on_the_bed() {
    let stack = build(&[]).unwrap();
    let area = |role| stack.tiers.iter().find(|t| t.role == role).unwrap().footprint.area_mm2();
    // Steiner: the ring between the offsets a and b of a convex shape has the area P (b - a) + pi (b^2 - a^2).
    let ring = |a: f64, b: f64| 160.0 * (b - a) + std::f64::consts::PI * (b * b - a * a);
    assert!((area(Role::Wall) - ring(0.0, 1.6)).abs() < 0.1);
    assert!((area(Role::Flange) - ring(1.6, 4.6)).abs() < 0.2);
    assert!(stack.is_mirrored && stack.tiers.iter().all(|t| t.bottom == Grid::default()));
}

#[test]
fn margin_moves_the_edge_and_no_flange_is_possible() {
    let stack = build(&[("margin", 2.0), ("flange-width", 0.0)]).unwrap();
    assert_eq!(stack.tiers.len(), 1);
    let b = stack.tiers[0].footprint.bounds().unwrap();
    assert!((b.max.x - 23.6).abs() < 1e-3, "20 + margin 2 + wall 1.6, not {}", b.max.x);
}

fn cut_at(stack: &Stack, line: CutLine) -> Vec<Cut> {
    section(stack, &line, &Plans::default()).unwrap()
}

fn across(c: &Cut) -> (f64, f64) {
    let xs = || c.corners.iter().map(|c| c.0);
    (xs().fold(f64::INFINITY, f64::min), xs().fold(f64::NEG_INFINITY, f64::max))
}

#[test]
fn the_section_shows_both_walls_to_scale_with_their_blades() {
    let cuts = cut_at(&build(&[]).unwrap(), CutLine::default());
    let walls: Vec<&Cut> = cuts.iter().filter(|c| c.role == Role::Wall).collect();
    assert_eq!(walls.len(), 2);
    let left = walls.iter().find(|c| across(c).0 < 0.0).unwrap();
    assert!((across(left).0 + 21.6).abs() < 1e-3 && (across(left).1 + 20.0).abs() < 1e-3);
    let top: Vec<f64> = left.corners.iter().filter(|p| p.1 > 14.9).map(|p| p.0).collect();
    assert!((top[0] - top[1]).abs() - 1.1 < 1e-3, "1.6 mm less 0.5: {top:?}");
    assert!(left.corners.iter().any(|p| (p.1 - 12.0).abs() < 1e-3), "the taper goes 3 mm down");
    assert!(top.iter().any(|x| (x + 20.0).abs() < 1e-3), "the inner face stays upright: {top:?}");
    assert!(cut_at(&build(&[]).unwrap(), CutLine { y: 99.0, ..CutLine::default() }).is_empty());
    // Turned by 45 degrees the square is cut along its diagonal.
    let turned = cut_at(&build(&[("taper-in", 0.0)]).unwrap(), CutLine { degrees: 45.0, ..CutLine::default() });
    let wall = turned.iter().filter(|c| c.role == Role::Wall).map(|c| across(c).1).fold(0.0, f64::max);
    let corner = 20.0 * 2f64.sqrt() + 1.6;
    assert!((wall - corner).abs() < 0.01, "round corners reach {corner}, not {wall}");
}

#[test]
fn refuses_by_name_and_range() {
    let e = build(&[("wall-height", 1e9)]).unwrap_err();
    assert_eq!(e.to_string(), "Wall height: 1000000000 mm is outside 2 to 60 mm");
    assert!(build(&[("wall-height", f64::NAN)]).is_err());
    let unknown = RecipeKind::Cutter.recipe().measure("wall").unwrap_err();
    assert!(unknown.to_string().contains("wall-thickness"));
}

/// A square patch of ink as a detail of the outline.
fn with_detail(half: f64) -> Outline {
    let mut o = outline();
    let ring = |half: f64| {
        Ring::<Px>(
            [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Point::new(x * half, y * half)).to_vec(),
        )
    };
    o.patches = kachel_outline::patches(&kachel_trace::Contours::of(
        100.0,
        100.0,
        vec![
            kachel_trace::Contour::of_ring(ring(20.0), None, true),
            kachel_trace::Contour::of_ring(ring(half + 2.0), Some(0), false),
            kachel_trace::Contour::of_ring(ring(half), Some(1), true),
        ],
    ));
    o.details = vec![(o.patches[2].id, square(half))];
    o
}

fn area(stack: &Stack, key: &str) -> f64 {
    stack.tiers.iter().filter(|t| t.key == key).map(|t| t.footprint.area_mm2()).sum()
}

#[test]
fn details_of_a_cutter_become_stamp_lines_that_are_tied() {
    let stack = make(RecipeKind::CutterStamp, &with_detail(5.0), &[], &Given::default()).unwrap();
    assert_eq!(area(&stack, "stamp"), 100.0);
    assert_eq!(stack.bars.len(), 1);
    // From 5 mm to the inner face of the wall at 20 mm.
    let [a, b] = [stack.bars[0].from, stack.bars[0].to];
    assert!(((a[0] - b[0]).hypot(a[1] - b[1]) - 15.0).abs() < 1e-3);
    let bar = stack.tiers.iter().find(|t| t.role == Role::Bar).unwrap();
    assert_eq!(bar.top.mm(), 2.0, "as high as the flange");
    let lines = make(RecipeKind::CutterStamp, &with_detail(5.0), &[("stamp-as", 1.0)], &Given::default()).unwrap();
    // A line of 1.2 mm along 40 mm: 48 mm2, and four rounded corners outside less four square ones inside.
    assert!((area(&lines, "stamp") - (48.0 + std::f64::consts::PI * 0.36 - 4.0 * 0.36)).abs() < 0.05);
    let untied = make(RecipeKind::CutterStamp, &with_detail(5.0), &[("bar-width", 0.0)], &Given::default()).unwrap();
    assert!(untied.bars.is_empty());
    let plain = make(RecipeKind::Cutter, &with_detail(5.0), &[], &Given::default()).unwrap();
    assert_eq!(area(&plain, "stamp"), 0.0);
}

#[test]
fn every_recipe_makes_something_of_a_plain_outline_without_a_doubt() {
    for outline in [outline(), with_detail(5.0)] {
        for r in RECIPES.iter().filter(|r| r.kind != RecipeKind::FreeStack) {
            let scale: &[(&str, f64)] = if r.kind == RecipeKind::Token { &[("across", 60.0)] } else { &[] };
            let stack = make(r.kind, &outline, scale, &Given::default()).unwrap();
            // Of no lines there is no pendant.
            if r.kind == RecipeKind::Pendant && outline.patches.is_empty() {
                assert_eq!(stack.doubts.iter().map(|d| d.kind).collect::<Vec<_>>(), [DoubtKind::NoHeight]);
                continue;
            }
            assert!(!stack.tiers.is_empty(), "{}", r.name);
            assert_eq!(stack.doubts, [], "{}", r.name);
            assert_eq!(stack.is_mirrored, r.kind.is_mirrored());
            assert!(stack.tiers.iter().all(|t| t.top > t.bottom && !t.footprint.is_empty()));
        }
    }
}

#[test]
fn contradictions_are_doubts_that_name_both_values_and_mend_themselves() {
    let doubts = |kind: RecipeKind, changed: &[(&str, f64)]| {
        make(kind, &with_detail(5.0), changed, &Given::default()).unwrap().doubts
    };
    type Case<'a> = (RecipeKind, &'a [(&'a str, f64)], DoubtKind);
    let cases: &[Case<'_>] = &[
        (RecipeKind::Coaster, &[("relief-depth", 6.0)], DoubtKind::TooDeep),
        (RecipeKind::Magnet, &[("thickness", 2.0)], DoubtKind::TooDeep),
        (RecipeKind::Magnet, &[("pockets", 12.0), ("magnet", 3.0)], DoubtKind::NoRoom),
        (RecipeKind::Ornament, &[("hang", 1.0), ("hole", 30.0), ("hole-round", 20.0)], DoubtKind::BreaksOut),
        (RecipeKind::KeyTag, &[("longest", 20.0)], DoubtKind::TooLong),
        (RecipeKind::Cutter, &[("back", 1.0), ("opening", 60.0)], DoubtKind::NoRoom),
        (RecipeKind::Stamp, &[("relief", 1.0), ("relief-height", 9.0)], DoubtKind::TooDeep),
        (RecipeKind::Stamp, &[("grip", 1.0), ("plate-height", 1.0)], DoubtKind::NoRoom),
        (RecipeKind::Plaque, &[("screws", 2.0), ("border", 0.0)], DoubtKind::NoRoom),
    ];
    for (kind, changed, expected) in cases {
        let found = doubts(*kind, changed);
        let doubt = found.iter().find(|d| d.kind == *expected).unwrap_or_else(|| panic!("{kind:?}: {found:?}"));
        let Some((words, measure, value)) = &doubt.mend else { continue };
        assert!(!words.is_empty());
        let mut mended: Vec<(&str, f64)> = changed.iter().filter(|(n, _)| n != measure).copied().collect();
        mended.push((measure, *value));
        let left = doubts(*kind, &mended);
        assert!(!left.contains(doubt), "{kind:?}: {left:?}");
    }
}

#[test]
fn an_ornament_hangs_from_straight_above_its_centre_of_mass() {
    // An L: its centre of mass by hand, the mean of two rectangles weighed by their areas.
    let mut o = outline();
    let ring: Ring<Mm> = Ring(
        [(0.0, 0.0), (40.0, 0.0), (40.0, 10.0), (10.0, 10.0), (10.0, 50.0), (0.0, 50.0)]
            .map(|(x, y)| Point::new(x, y))
            .to_vec(),
    );
    o.edge = Region::from_mm([&ring]).unwrap();
    let centre = (400.0 * 20.0 + 400.0 * 5.0) / 800.0;
    let stack = make(RecipeKind::Ornament, &o, &[], &Given::default()).unwrap();
    let hole = stack.tiers.iter().find(|t| t.key == "hole").unwrap().footprint.bounds().unwrap();
    assert!((hole.centre().x - centre).abs() < 1e-3, "{} against {centre}", hole.centre().x);
    assert!((hole.width() - 6.5).abs() < 0.02);
}

#[test]
fn own_tiers_come_last_and_a_loosened_one_takes_its_place() {
    let own = |id, footprint, from, to| OwnTier {
        id,
        name: "Mine".into(),
        footprint,
        grow: 0.0,
        rim: None,
        from,
        to,
        is_cut: false,
        top: Finish::default(),
        bottom: Finish::default(),
        is_on: true,
    };
    let given = |own: Vec<OwnTier>| Given { own, ..Given::default() };
    let free = make(RecipeKind::FreeStack, &outline(), &[], &given(vec![own(1, Footprint::Edge, 0.0, 3.0)])).unwrap();
    assert_eq!((free.tiers.len(), area(&free, "own-1")), (1, 1600.0));
    let mut rim = own(1, Footprint::Edge, 0.0, 3.0);
    (rim.grow, rim.rim) = (-1.0, Some(2.0));
    let free = make(RecipeKind::FreeStack, &outline(), &[], &given(vec![rim])).unwrap();
    assert!((area(&free, "own-1") - (38.0 * 38.0 - 34.0 * 34.0)).abs() < 0.1);
    let loosened = own(4, Footprint::Tier { key: "flange".into() }, 0.0, 4.0);
    let stack = make(RecipeKind::Cutter, &outline(), &[], &given(vec![loosened])).unwrap();
    assert_eq!(area(&stack, "flange"), 0.0);
    assert_eq!(stack.tiers.last().map(|t| (t.key.as_str(), t.top.mm())), Some(("own-4", 4.0)));
    let lost = own(
        5,
        Footprint::Patches { patches: vec![kachel_outline::Spot { at: [900.0, 900.0], is_ink: true }] },
        0.0,
        4.0,
    );
    let stack = make(RecipeKind::Cutter, &outline(), &[], &given(vec![lost])).unwrap();
    assert_eq!(stack.doubts.iter().map(|d| d.kind).collect::<Vec<_>>(), [DoubtKind::LostPatch, DoubtKind::NoHeight]);
    let mut upside_down = own(6, Footprint::Edge, 3.0, 3.0);
    assert!(upside_down.refusal().unwrap().contains("3 mm"));
    upside_down.to = f64::NAN;
    assert!(upside_down.refusal().is_some());
}

#[test]
fn filaments_that_lie_above_each_other_change_by_layer_and_beside_each_other_cannot() {
    let given = Given {
        filaments: BTreeMap::from([("details".into(), "honey".into())]),
        filament: "soot".into(),
        ..Given::default()
    };
    let raised = make(RecipeKind::Coaster, &with_detail(5.0), &[("relief", 1.0)], &given).unwrap();
    let changes = colour_changes(&raised).unwrap();
    assert_eq!(
        changes.iter().map(|c| (c.height, raised.filaments[c.part as usize].as_str())).collect::<Vec<_>>(),
        [(0.0, "soot"), (5.0, "honey")]
    );
    let inlaid = make(RecipeKind::Coaster, &with_detail(5.0), &[("relief", 3.0)], &given).unwrap();
    assert!(colour_changes(&inlaid).is_none());
}
