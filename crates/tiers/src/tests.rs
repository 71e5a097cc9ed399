use super::*;
use crate::measures as m;
use kachel_geom::{Bounds, Grid, Mm, Point, Px, Region, Ring, Watch};
use kachel_outline::{Aim, Guesses, Outline};
use kachel_words::Message;
use std::collections::BTreeMap;

mod drawing;
mod holes;

fn square(half: f64) -> Region {
    let ring: Ring<Mm> = Ring(
        [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Point::new(x * half, y * half)).to_vec(),
    );
    Region::from_mm([&ring]).unwrap()
}

fn outline() -> Outline {
    Outline {
        nodes: 0,
        patches: vec![],
        mm_per_px: 1.0,
        origin: Point::<Px>::new(0.0, 0.0),
        middle: Point::new(0.0, 0.0),
        edge_px: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge_bounds: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge: square(20.0),
        details: vec![],
        openings: vec![],
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
    let cutter = Measures::new(RecipeKind::Cutter.recipe(), &BTreeMap::new()).unwrap();
    let want = [(m::WALL_THICKNESS, 1.6), (m::WALL_HEIGHT, 15.0), (m::FLANGE_WIDTH, 3.0), (m::FLANGE_HEIGHT, 2.0)];
    want.iter().for_each(|(n, v)| assert_eq!(cutter.get(*n), *v, "{n:?}"));
    // The blade: 0.5 to 0.6 mm in over the last 3 mm, leaving about 1 mm at the tip.
    assert_eq!([m::TAPER_IN, m::TAPER_DOWN, m::MARGIN].map(|n| cutter.get(n)), [0.5, 3.0, 0.0]);
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
        let parts = ["meaning", "bed"].map(|part| r.label().part(part));
        assert!(r.label().is_known() && parts.iter().all(Option::is_some) && r.kind.recipe() == r);
        for s in r.all() {
            assert!(s.part().is_known() && s.label().is_known() && s.label().part("meaning").is_some(), "{}", s.name);
            if let MeasureKind::Choice(of) = s.kind {
                assert!(of.iter().all(|(_, code)| Message::new(*code).is_known()), "{}", s.name);
            }
        }
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
    assert_eq!(e.to_string(), "Wall height: 1000000000 mm is outside 2 mm to 60 mm");
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
    let contours = kachel_trace::Contours::of(
        100.0,
        100.0,
        vec![
            kachel_trace::Contour::of_ring(ring(20.0), None, true),
            kachel_trace::Contour::of_ring(ring(half + 2.0), Some(0), false),
            kachel_trace::Contour::of_ring(ring(half), Some(1), true),
        ],
    );
    o.patches = kachel_outline::patches(&contours, Aim::Cutter, Guesses::default());
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
    assert!(((a.x - b.x).hypot(a.y - b.y) - 15.0).abs() < 1e-3);
    let bar = stack.tiers.iter().find(|t| t.role == Role::Bar).unwrap();
    assert_eq!(bar.top.mm(), 2.0, "as high as the flange");
    let lines = make(RecipeKind::CutterStamp, &with_detail(5.0), &[("stamp-as", 1.0)], &Given::default()).unwrap();
    // A line of 1.2 mm along 40 mm: 48 mm2, and four rounded corners outside less four square ones inside.
    assert!((area(&lines, "stamp") - (48.0 + std::f64::consts::PI * 0.36 - 4.0 * 0.36)).abs() < 0.05);
    // A dot of 0.4 mm is made 0.75 mm wide, so that a nozzle of 0.4 mm prints it.
    let dot = |least: &[(&str, f64)]| {
        area(&make(RecipeKind::CutterStamp, &with_detail(0.2), least, &Given::default()).unwrap(), "stamp")
    };
    assert!((dot(&[("stamp-least", 0.0)]) - 0.16).abs() < 1e-3);
    let disc = std::f64::consts::PI * 0.375 * 0.375;
    assert!((disc..1.6 * disc).contains(&dot(&[])), "{} mm2", dot(&[]));
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
        make(kind, &with_detail(12.0), changed, &Given::default()).unwrap().doubts
    };
    type Case<'a> = (RecipeKind, &'a [(&'a str, f64)], DoubtKind);
    let cases: &[Case<'_>] = &[
        (RecipeKind::Coaster, &[("relief-depth", 6.0)], DoubtKind::TooDeep),
        (RecipeKind::Magnet, &[("thickness", 2.0)], DoubtKind::TooDeep),
        (RecipeKind::Magnet, &[("pockets", 12.0), ("magnet", 3.0)], DoubtKind::NoRoom),
        (RecipeKind::KeyTag, &[("longest", 20.0)], DoubtKind::TooLong),
        (RecipeKind::Cutter, &[("back", 1.0), ("opening", 60.0)], DoubtKind::NoRoom),
        (RecipeKind::Stamp, &[("relief", 1.0), ("relief-height", 9.0)], DoubtKind::TooDeep),
        (RecipeKind::Stamp, &[("grip", 1.0), ("plate-height", 1.0)], DoubtKind::NoRoom),
        (RecipeKind::Plaque, &[("screws", 2.0), ("border", 0.0)], DoubtKind::NoRoom),
    ];
    for (kind, changed, expected) in cases {
        let found = doubts(*kind, changed);
        let doubt = found.iter().find(|d| d.kind == *expected).unwrap_or_else(|| panic!("{kind:?}: {found:?}"));
        let Some(DoubtMend { words, by: MendBy::Measure(measure, value) }) = doubt.mends.first() else { continue };
        assert!(words.is_known());
        let name = measure.name();
        let mut mended: Vec<(&str, f64)> = changed.iter().filter(|(n, _)| *n != name).copied().collect();
        mended.push((name, *value));
        let left = doubts(*kind, &mended);
        assert!(!left.contains(doubt), "{kind:?}: {left:?}");
    }
}

#[test]
fn corners_softened_over_the_mouth_of_a_gap_leave_no_hollow_behind_it() {
    // A plate of 40 by 30 with a hollow of 8 by 8 inside, open to the left through a slit 1.2 wide and 6 long.
    let mut o = outline();
    let ring: Ring<Mm> = Ring(
        [
            (0.0, 0.0),
            (40.0, 0.0),
            (40.0, 30.0),
            (0.0, 30.0),
            (0.0, 15.6),
            (6.0, 15.6),
            (6.0, 19.0),
            (14.0, 19.0),
            (14.0, 11.0),
            (6.0, 11.0),
            (6.0, 14.4),
            (0.0, 14.4),
        ]
        .map(|(x, y)| Point::new(x, y))
        .to_vec(),
    );
    o.edge = Region::from_mm([&ring]).unwrap();
    let soft = |mm: f64| make(RecipeKind::Cutter, &o, &[("soft-corners", mm)], &Given::default()).unwrap();
    // A radius of half the slit just seals it.
    let open = soft(0.5);
    assert_eq!((open.doubts.len(), open.edge.rings().len()), (0, 1));
    assert!((open.edge.area_mm2() - (1200.0 - 64.0 - 7.2)).abs() < 1.0, "{}", open.edge.area_mm2());
    let sealed = soft(0.8);
    // Four rounded corners, and the dimple before the slit.
    assert!((1197.5..1200.0).contains(&sealed.edge.area_mm2()), "{}", sealed.edge.area_mm2());
    let [doubt] = sealed.doubts.as_slice() else { panic!("{:?}", sealed.doubts) };
    assert_eq!(doubt.kind, DoubtKind::Sealed);
    // The hollow, less its rounded corners and what the slit's mouth takes.
    assert!((doubt.place.as_ref().unwrap().area_mm2() - 64.0).abs() < 1.5);
    let Some(MendBy::Measure(_, value)) = doubt.mends.first().map(|m| m.by.clone()) else { panic!("{doubt:?}") };
    assert!((0.45..=0.6).contains(&value), "{value}");
    assert_eq!(soft(value).doubts, []);
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

fn own(id: u32, footprint: Footprint, from: f64, to: f64) -> OwnTier {
    OwnTier {
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
    }
}

#[test]
fn own_tiers_come_last_and_a_loosened_one_takes_its_place() {
    let given = |own: Vec<OwnTier>| Given { own, ..Given::default() };
    let empty = make(RecipeKind::FreeStack, &outline(), &[], &given(vec![]));
    assert!(matches!(empty, Err(TierError::NoTiers)), "an empty stack says what to do");
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
        Footprint::Patches { patches: vec![kachel_outline::Spot::new(Point::new(900.0, 900.0), true)] },
        0.0,
        4.0,
    );
    let stack = make(RecipeKind::Cutter, &outline(), &[], &given(vec![lost])).unwrap();
    assert_eq!(stack.doubts.iter().map(|d| d.kind).collect::<Vec<_>>(), [DoubtKind::LostPatch, DoubtKind::NoHeight]);
    let mut upside_down = own(6, Footprint::Edge, 3.0, 3.0);
    assert!(upside_down.refusal().unwrap().to_string().contains("3 mm"));
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

fn bounds(stack: &Stack, key: &str) -> Bounds<Mm> {
    let all = stack.tiers.iter().filter(|t| t.key == key).filter_map(|t| t.footprint.bounds());
    all.reduce(Bounds::union)
        .unwrap_or_else(|| panic!("{key}: {:?}", stack.tiers.iter().map(|t| &t.key).collect::<Vec<_>>()))
}

fn of(kind: RecipeKind, changed: &[(&str, f64)]) -> Stack {
    make(kind, &with_detail(5.0), changed, &Given::default()).unwrap()
}

#[test]
fn plates_have_the_areas_of_their_forms() {
    // Plane geometry: a disc, a square less its rounded corners, a hexagon by its flats (sqrt 3 / 2 d^2).
    let area = |form: f64| area(&of(RecipeKind::Coaster, &[("form", form)]), "plate");
    let (d, pi) = (80.0, std::f64::consts::PI);
    assert!((area(0.0) / (pi / 4.0 * d * d) - 1.0).abs() < 5e-4);
    assert!((area(1.0) - (d * d - (4.0 - pi) * 36.0)).abs() < 0.2);
    assert!((area(2.0) / (3f64.sqrt() / 2.0 * d * d) - 1.0).abs() < 1e-5);
    // Each corner loses what its arc leaves of the kite round it: r^2 (n tan(pi / n) - pi) in all.
    let round = self::area(&of(RecipeKind::Coaster, &[("form", 2.0), ("corner-hexagon", 8.0)]), "plate");
    assert!((round - (3f64.sqrt() / 2.0 * d * d - 64.0 * (2.0 * 3f64.sqrt() - pi))).abs() < 0.2, "{round}");
    // Rounder than it is wide, it is its inner circle.
    let all = self::area(&of(RecipeKind::Coaster, &[("form", 2.0), ("corner-hexagon", 60.0)]), "plate");
    assert!((all / (pi / 4.0 * d * d) - 1.0).abs() < 5e-4, "{all}");
    // The outline of 40 mm grown by 3 mm: Steiner's formula.
    assert!((area(3.0) - (1600.0 + 160.0 * 3.0 + pi * 9.0)).abs() < 0.5);
    let rim = of(RecipeKind::Coaster, &[("rim-width", 4.0)]);
    assert!((self::area(&rim, "rim") / (pi / 4.0 * (80.0f64.powi(2) - 72.0f64.powi(2))) - 1.0).abs() < 1e-3);
}

#[test]
fn a_plaque_is_as_much_larger_than_its_drawing_as_its_border_says() {
    for (form, width) in [(0.0, 60.0), (1.0, 60.0), (2.0, 40.0 * 2f64.sqrt() + 20.0), (3.0, 100.0), (4.0, 60.0)] {
        let b = bounds(&of(RecipeKind::Plaque, &[("form", form)]), "plate");
        assert!((b.width() - width).abs() < 0.02, "{form}: {} against {width}", b.width());
    }
    let screwed = of(RecipeKind::Plaque, &[("screws", 2.0), ("border", 20.0)]);
    assert_eq!(screwed.doubts, []);
    let holes = screwed.tiers.iter().find(|t| t.key == "screws").unwrap();
    assert_eq!((holes.footprint.rings().len(), holes.op), (4, Op::Cut));
    assert_eq!((holes.top_finish.way, holes.top_finish.inset), (Way::Outward, 1.5), "countersunk");
}

#[test]
fn a_stamp_is_mirrored_slides_into_its_cutter_and_takes_its_grip() {
    let partner = of(RecipeKind::Stamp, &[("clearance", 0.4)]);
    assert!((bounds(&partner, "plate").width() - (40.0 - 0.8)).abs() < 1e-3, "0.4 mm of air on both sides");
    assert!(partner.is_mirrored);
    let gripped = of(RecipeKind::Stamp, &[("grip", 1.0)]);
    let socket = gripped.tiers.iter().find(|t| t.key == "socket").unwrap();
    let peg = gripped.tiers.iter().rev().find(|t| t.key == "grip").unwrap();
    let across = |t: &Tier| t.footprint.bounds().unwrap().width();
    assert!((across(socket) - across(peg) - 0.4).abs() < 0.02, "0.2 mm of air round the peg");
    assert!(peg.top.mm() - peg.bottom.mm() < socket.top.mm() - socket.bottom.mm(), "the plate rests on the grip");
    let (plate, grip) = (bounds(&gripped, "plate"), bounds(&gripped, "grip"));
    assert!(grip.max.x < plate.min.x || grip.min.x > plate.max.x, "it stands beside the plate");
}

#[test]
fn magnets_lie_in_the_body_with_room_round_them() {
    let three = of(RecipeKind::Magnet, &[("pockets", 3.0), ("magnet", 1.0)]);
    let pockets = three.tiers.iter().find(|t| t.key == "pockets").unwrap();
    assert_eq!(pockets.footprint.rings().len(), 3);
    // 8 x 3 mm with 0.2 mm of air all round.
    assert!((pockets.top.mm() - 3.2).abs() < 1e-3 && pockets.bottom == Grid::default());
    let r = 4.2;
    let each = std::f64::consts::PI * r * r;
    assert!((pockets.footprint.area_mm2() / (3.0 * each) - 1.0).abs() < 2e-3);
    let body = &three.tiers[0].footprint;
    let walled = kachel_geom::offset(&pockets.footprint, 0.79).unwrap();
    let outside = kachel_geom::combine(&walled, body, kachel_geom::BoolOp::TakeAway).unwrap();
    assert!(outside.area_mm2() < 1e-3, "two lines of filament round each");
    let closed = of(RecipeKind::Magnet, &[("pocket", 1.0), ("magnet", 0.0)]);
    assert!(
        (closed.pauses[0] - 2.8).abs() < 1e-9,
        "0.6 mm of floor, 2 mm of magnet, 0.2 mm of air: {:?}",
        closed.pauses
    );
}

#[test]
fn a_key_tag_has_its_hole_on_the_side_asked_for_with_filament_round_it() {
    for (side, axis) in [(0.0, (0.0, 1.0)), (1.0, (-1.0, 0.0)), (2.0, (1.0, 0.0))] {
        let tag = of(RecipeKind::KeyTag, &[("side", side)]);
        let (hole, backing) = (bounds(&tag, "hole"), bounds(&tag, "backing"));
        assert!((hole.width() - 5.0).abs() < 0.02);
        let (x, y) = (hole.centre().x, hole.centre().y);
        assert!(x * axis.0 + y * axis.1 > 20.0, "{side}: {x} {y}");
        let ring = [backing.max.x - hole.max.x, hole.min.x - backing.min.x, backing.max.y - hole.max.y];
        let least = [ring[2], ring[1], ring[0]][side as usize];
        assert!((least - 3.0).abs() < 0.02, "{side}: {ring:?}");
    }
}

#[test]
fn a_token_reads_right_from_below_too() {
    // A detail left of the middle lies right of it on the underside.
    let mut o = with_detail(5.0);
    let shifted: Vec<Ring<Mm>> = square(3.0)
        .rings_mm()
        .into_iter()
        .map(|r| Ring(r.0.into_iter().map(|p| Point::new(p.x - 8.0, p.y)).collect()))
        .collect();
    o.details[0].1 = Region::from_mm(&shifted).unwrap();
    let token = make(RecipeKind::Token, &o, &[("form", 1.0), ("back", 1.0)], &Given::default()).unwrap();
    assert!((bounds(&token, "details").centre().x + 8.0).abs() < 1e-3);
    assert!((bounds(&token, "below").centre().x - 8.0).abs() < 1e-3);
    let below = token.tiers.iter().find(|t| t.key == "below").unwrap();
    assert_eq!((below.op, below.bottom.mm()), (Op::Cut, 0.0));
}

#[test]
fn a_pendant_hangs_together() {
    let pendant = of(RecipeKind::Pendant, &[("ring-gap", 4.0)]);
    let all: Vec<&Region> = pendant.tiers.iter().filter(|t| t.op == Op::Add).map(|t| &*t.footprint).collect();
    let joined = kachel_geom::join_all(all).unwrap();
    let pieces = joined.rings_mm().iter().filter(|r| r.area() > 0.0).count();
    assert_eq!(pieces, 1, "ring, lines and loop are one piece, by {} bars", pendant.bars.len());
    assert!(!pendant.bars.is_empty());
}

#[test]
fn a_backed_cutter_leaves_an_opening_and_dents_of_its_flange_are_filled() {
    let backed = of(RecipeKind::Cutter, &[("back", 1.0), ("opening", 12.0), ("taper-in", 0.0)]);
    // The outline grown by wall and flange, less the opening of 16 mm.
    let flange = area(&backed, "flange");
    let (reach, pi) = (4.6, std::f64::consts::PI);
    let outer = 1600.0 + 160.0 * reach + pi * reach * reach;
    assert!((flange - (outer - 256.0)).abs() < 0.5, "{flange}");
    // A notch of 6 mm in the edge: filled by a closing of 4 mm.
    let mut notched = outline();
    let ring: Ring<Mm> = Ring(
        [(-20.0, -20.0), (20.0, -20.0), (20.0, 20.0), (8.0, 20.0), (0.0, 0.0), (-8.0, 20.0), (-20.0, 20.0)]
            .map(|(x, y)| Point::new(x, y))
            .to_vec(),
    );
    notched.edge = Region::from_mm([&ring]).unwrap();
    let flange = |dents: f64| {
        area(&make(RecipeKind::Cutter, &notched, &[("flange-dents", dents)], &Given::default()).unwrap(), "flange")
    };
    assert!(flange(4.0) > flange(0.0) + 5.0);
}

/// A measure that no recipe has could never be set; one that is not in the list of names could never be asked for.
#[test]
fn every_name_of_a_measure_is_some_recipe_s_and_its_choices_are_those_of_its_enum() {
    let names = include_str!("names.rs");
    let listed: Vec<&str> = names.split_once("pub mod measures").unwrap().1.split('"').skip(1).step_by(2).collect();
    let known: Vec<&str> = RECIPES.iter().flat_map(Recipe::all).map(|s| s.name).collect();
    assert!(listed.len() > 60, "{}", listed.len());
    listed.iter().for_each(|n| assert!(known.contains(n), "{n} is no recipe's"));
    known.iter().for_each(|n| assert!(listed.contains(n), "{n} has no name"));
    let coaster = Measures::new(RecipeKind::Coaster.recipe(), &BTreeMap::new()).unwrap();
    assert_eq!(
        coaster.choice(m::RELIEF),
        Some(Relief::Engraved),
        "a coaster is engraved unless the maker says otherwise"
    );
    assert_eq!(coaster.choice(m::BACK), None);
}

/// A tier lower than a step of the grid used to be dropped in silence, and the tier before it got its name.
#[test]
fn a_tier_under_a_step_of_the_grid_is_told_and_renames_no_other() {
    let named = |id, name: &str, from, to| OwnTier { name: name.into(), ..own(id, Footprint::Edge, from, to) };
    let given = Given { own: vec![named(1, "Base", 0.0, 3.0), named(2, "Film", 3.0, 3.00001)], ..Given::default() };
    let stack = make(RecipeKind::FreeStack, &outline(), &[], &given).unwrap();
    let names: Vec<String> = stack.tiers.iter().map(|t| t.name.to_string()).collect();
    assert_eq!(names, ["Base"]);
    assert_eq!(stack.doubts.len(), 1);
    assert!(stack.doubts[0].what.to_string().contains("'Film' has no height"), "{:?}", stack.doubts);
}
