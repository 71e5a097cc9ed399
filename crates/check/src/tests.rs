use super::*;
use crate::look::look;
use crate::rules::{
    air, bed, cookies, dough, filaments, finishes, floats, heights, loose, low_tiers, picture, recipe, thin, walls,
};
use kachel_design::{Axis, Credit, Edit, GeneralEdit, Length, OutlineEdit, Printer, SizeOf, TierEdit, Value};
use kachel_geom::{Point, Px, Ring, Stopped, Watch};
use kachel_outline::{Size, Wanted, size_outline};
use kachel_solid::{LayerHeights, Layers, Sheets, arrange, extrude};
use kachel_tiers::{
    Finish, Footprint, Given, Measure, Measures, OwnTier, Plans, RecipeKind, measures as m, slice, stack,
};
use kachel_trace::{Contour, Contours};
use kachel_words::Message;
use std::collections::BTreeMap;

fn rect(x0: f64, y0: f64, x1: f64, y1: f64) -> Ring<Px> {
    Ring([(x0, y0), (x0, y1), (x1, y1), (x1, y0)].map(|(x, y)| Point::new(x, y)).to_vec())
}

/// Checks a cutter of these contours (parent, ring), 1 mm a pixel; ink and gap alternate.
fn run(pieces: &[(Option<usize>, Ring<Px>)], changed: &[(&str, f64)]) -> Vec<Finding> {
    check_cutter(pieces, changed, |i, parent| parent.is_none() || i % 2 == 0)
}

fn run_as(pieces: &[(Option<usize>, Ring<Px>)], is_ink: impl Fn(usize, Option<usize>) -> bool) -> Vec<Finding> {
    check_cutter(pieces, &[("bar-width", 0.0)], is_ink)
}

fn check_cutter(
    pieces: &[(Option<usize>, Ring<Px>)],
    changed: &[(&str, f64)],
    is_ink: impl Fn(usize, Option<usize>) -> bool,
) -> Vec<Finding> {
    with_object(pieces, changed, is_ink, checked)
}

fn with_object<T>(
    pieces: &[(Option<usize>, Ring<Px>)],
    changed: &[(&str, f64)],
    is_ink: impl Fn(usize, Option<usize>) -> bool,
    look: impl FnOnce(&Object<'_>) -> T,
) -> T {
    let contours = pieces
        .iter()
        .enumerate()
        .map(|(i, (parent, ring))| Contour::of_ring(ring.clone(), *parent, is_ink(i, *parent)))
        .collect();
    let contours = Contours::of(400.0, 400.0, contours);
    made(RecipeKind::CutterStamp, &contours, changed, &Given::default(), &Printer::default(), &[], look)
}

/// Makes the object, 1 mm a pixel, and looks at it.
fn made<T>(
    kind: RecipeKind,
    contours: &Contours,
    changed: &[(&str, f64)],
    given: &Given,
    printer: &Printer,
    gone: &[String],
    look: impl FnOnce(&Object<'_>) -> T,
) -> T {
    let watch = Watch::default();
    let changed: BTreeMap<String, f64> = changed.iter().map(|(n, v)| ((*n).to_string(), *v)).collect();
    let measures = &Measures::new(kind.recipe(), &changed).unwrap();
    let wanted = Wanted { aim: kind.aim(measures), ..Wanted::of_size(Size::Scale { mm_per_px: 1.0 }) };
    let outline = &size_outline(contours, &wanted, &watch).unwrap();
    let plans = Plans::default();
    let stack = &stack(kind, outline, measures, given, &plans, &watch).unwrap();
    let slices = slice(stack, &plans, &watch).unwrap();
    let solid = &extrude(&arrange(&slices, &Sheets::default(), &watch).unwrap(), stack, &slices, &watch).unwrap();
    let layers = &Layers::of(&solid.skin, LayerHeights::even(printer.layer)).unwrap();
    // Soot is dark, every other filament light.
    let colour = |name: &String| if name == "soot" { [40, 36, 34] } else { [240, 238, 230] };
    let colours = &stack.filaments.iter().map(colour).collect::<Vec<_>>();
    let (credit, credit_of, deviation, has_own_bars) = (&Credit::default(), None, 0.25, false);
    look(&Object {
        contours,
        outline,
        measures,
        stack,
        solid,
        layers,
        printer,
        colours,
        gone,
        has_own_bars,
        credit,
        credit_of,
        deviation,
    })
}

fn checked(o: &Object<'_>) -> Vec<Finding> {
    check(o, &Watch::default()).unwrap().findings
}

/// The edits of a finding's mend.
fn edits(f: &Finding) -> &[Edit] {
    f.mends.first().map_or(&[], |m| &m.edits)
}

fn measure(measure: Measure, value: f64) -> Vec<Edit> {
    vec![TierEdit::SetMeasure { name: measure.name().into(), value: Value::Number(value) }.into()]
}

fn put_aside(f: &Finding) -> Vec<[f64; 2]> {
    let last = f.mends.last().map_or(&[][..], |m| &m.edits);
    let [Edit::Outline(OutlineEdit::SetUses { choices })] = last else { panic!("{f:?}") };
    choices.iter().map(|c| c.spot.at.xy()).collect()
}

fn plain_square() -> Vec<(Option<usize>, Ring<Px>)> {
    vec![(None, rect(100.0, 100.0, 160.0, 150.0))]
}

/// A frame, its gap, and a bar of ink inside.
fn framed(bar: Ring<Px>) -> Vec<(Option<usize>, Ring<Px>)> {
    let mut gap = rect(105.0, 105.0, 155.0, 145.0);
    gap.0.reverse();
    vec![(None, rect(100.0, 100.0, 160.0, 150.0)), (Some(0), gap), (Some(1), bar)]
}

fn codes(found: &[Finding]) -> Vec<Code> {
    found.iter().map(|f| f.code).collect()
}

#[test]
fn a_clean_default_cutter_has_no_findings() {
    assert_eq!(run(&plain_square(), &[]), []);
}

#[test]
fn a_loose_line_is_found_where_it_is_and_can_be_put_aside() {
    // The bar is left of the middle in the picture, so right of it in the tool.
    // Tied by itself, unless the maker wants no bars.
    assert_eq!(codes(&run(&framed(rect(110.0, 110.0, 114.0, 140.0)), &[])), []);
    let found = run(&framed(rect(110.0, 110.0, 114.0, 140.0)), &[("bar-width", 0.0)]);
    assert_eq!(codes(&found), [loose::LOOSE_PART]);
    let place = found[0].bounds().unwrap();
    assert!((place.centre().x - 18.0).abs() < 0.01, "{place:?}");
    // Its own outline, not its box alone, from the bed to its top.
    let disc = Ring(
        (0..24)
            .map(|k| f64::from(k) * -15.0_f64.to_radians())
            .map(|a| Point::new(130.0 + 5.0 * a.cos(), 125.0 + 5.0 * a.sin()))
            .collect(),
    );
    let round = run(&framed(disc), &[("bar-width", 0.0)]);
    assert_eq!((round[0].places[0].outline[0].0.len(), round[0].places[0].heights), (24, Some((0.0, 12.0))));
    assert!((put_aside(&found[0])[0][0] - 112.0).abs() < 0.1);
}

#[test]
fn a_line_that_reaches_the_wall_is_not_loose() {
    let found = run(&framed(rect(110.0, 110.0, 114.0, 150.5)), &[]);
    assert_eq!(codes(&found), []);
}

#[test]
fn thin_lines_are_found_and_tips_are_not() {
    let found = run(&framed(rect(110.0, 110.0, 110.5, 150.5)), &[("stamp-least", 0.0)]);
    assert_eq!(codes(&found), [thin::THIN_LINE]);
    assert_eq!(edits(&found[0]), measure(m::STAMP_LEAST, 0.75));
    assert_eq!(codes(&run(&framed(rect(110.0, 110.0, 110.5, 150.5)), &[])), [], "thickened by default");
    let outlined = run(&framed(rect(110.0, 110.0, 120.0, 150.5)), &[("stamp-as", 1.0), ("stamp-line", 0.6)]);
    assert_eq!(edits(&outlined[0]), measure(m::STAMP_LINE, 0.75));
    let mut many = framed(rect(110.0, 110.0, 110.5, 150.5));
    many.extend((1..7).map(|i| f64::from(i) * 5.0 + 110.0).map(|x| (Some(1), rect(x, 110.0, x + 0.5, 150.5))));
    let found = check_cutter(&many, &[("stamp-least", 0.0)], |i, parent| parent.is_none() || i >= 2);
    assert_eq!(codes(&found), [thin::THIN_LINE]);
    assert_eq!(
        found[0].what.to_string(),
        "'Stamp lines' is 0.50 mm thin, at 7 places; 0.75 mm is the least that holds"
    );
    assert_eq!(found[0].places.len(), 7);
    let tip = Ring(vec![Point::new(110.0, 120.0), Point::new(120.0, 151.0), Point::new(130.0, 151.0)]);
    assert_eq!(codes(&run(&framed(tip), &[])), []);
}

#[test]
fn measures_that_spoil_the_tool_are_found_with_values_and_a_mend() {
    let found = run(&plain_square(), &[("wall-thickness", 0.4), ("taper-in", 0.0)]);
    assert_eq!(codes(&found), [walls::THIN_WALL]);
    assert!(found[0].what.to_string().contains("0.4 mm") && found[0].what.to_string().contains("0.75 mm"));
    assert_eq!(edits(&found[0]), measure(m::WALL_THICKNESS, 0.8));
    let high = run(&plain_square(), &[("flange-height", 15.0)]);
    assert_eq!(codes(&high), [heights::FLANGE_TOO_HIGH]);
    let bar = || framed(rect(110.0, 110.0, 114.0, 150.5));
    assert_eq!(codes(&run(&bar(), &[("stamp-under-wall", 0.0)])), [heights::STAMP_TOO_HIGH]);
    assert_eq!(codes(&run(&bar(), &[("stamp-under-wall", 20.0)])), [heights::STAMP_VANISHES]);
}

/// What a mend's button says is what it does, also where the usual value lies outside what the wall leaves room for.
#[test]
fn the_words_of_a_mend_name_the_value_that_it_sets() {
    let low = [("wall-height", 3.0), ("flange-height", 3.0), ("taper-down", 1.0)];
    let found = run(&plain_square(), &low);
    assert_eq!(codes(&found), [heights::FLANGE_TOO_HIGH]);
    assert_eq!(found[0].mends.first().unwrap().words.to_string(), "Make the flange 1.5 mm high");
    assert_eq!(edits(&found[0]), measure(m::FLANGE_HEIGHT, 1.5));
    let bar = framed(rect(110.0, 110.0, 114.0, 150.5));
    let found = run(&bar, &[("wall-height", 4.0), ("stamp-under-wall", 4.0)]);
    let stamp = found.iter().find(|f| f.code == heights::STAMP_VANISHES).unwrap();
    assert_eq!(stamp.mends.first().unwrap().words.to_string(), "Let them end 2 mm under the wall");
    assert_eq!(edits(stamp), measure(m::STAMP_UNDER_WALL, 2.0));
    // A drawing that no coaster can hold: the button offers the largest one there is.
    let wide = coaster(&[("relief", 1.0), ("across", 40.0)], &Printer { filaments: 4, ..Printer::default() }, &[]);
    let Mend { words, edits } = &wide[0].mends[1];
    let [Edit::Tiers(TierEdit::SetMeasure { value: Value::Number(v), .. })] = edits.as_slice() else { panic!() };
    assert!(words.to_string().contains(&format!("{v} mm")), "{words}: {v}");
}

#[test]
fn too_large_for_the_bed_says_which_width_would_fit() {
    let found = run(&[(None, rect(0.0, 0.0, 300.0, 200.0))], &[]);
    assert_eq!(codes(&found), [bed::LARGER_THAN_BED]);
    // 220 mm less wall and flange on both sides (2 x 4.6 mm).
    let width = GeneralEdit::SetSize { axis: Axis::Width, value: Length::Mm(210.8), of: SizeOf::Drawing };
    assert_eq!(edits(&found[0]), [width.into()]);
    assert_eq!(found[0].figures.len(), 1, "only the width is too large");
}

#[test]
fn a_wall_thicker_than_the_shape_and_several_pieces() {
    let found = run(&[(None, rect(0.0, 0.0, 1.0, 40.0)), (None, rect(30.0, 0.0, 60.0, 40.0))], &[("pieces", 1.0)]);
    assert_eq!(codes(&found), [loose::SEVERAL_PIECES, cookies::SEVERAL_COOKIES, dough::NARROW_NECK]);
    let thin = run(&[(None, rect(0.0, 0.0, 1.0, 40.0))], &[]);
    assert_eq!(codes(&thin), [walls::WALL_THICKER_THAN_SHAPE, dough::NARROW_NECK]);
}

#[test]
fn many_loose_lines_are_one_finding_with_their_places_mended_together() {
    let mut pieces = framed(rect(110.0, 110.0, 111.0, 112.0));
    pieces.pop();
    for i in 0..20 {
        let (x, y) = (108.0 + f64::from(i % 5) * 9.0, 108.0 + f64::from(i / 5) * 9.0);
        pieces.push((Some(1), rect(x, y, x + 4.0, y + 4.0)));
    }
    // Contours are ink where they lie in a gap.
    let found = run_as(&pieces, |i, parent| parent.is_none() || i >= 2);
    assert_eq!(codes(&found), [loose::LOOSE_PART]);
    assert_eq!((found[0].what.to_string().as_str(), found[0].places.len()), ("20 stamp lines are loose", 20));
    let words: Vec<String> = found[0].mends.iter().map(|m| m.words.to_string()).collect();
    assert_eq!(words, ["Tie them with bars", "Put all 20 aside"]);
    assert_eq!(put_aside(&found[0]).len(), 20);
}

#[test]
fn codes_are_stable_words_and_each_belongs_to_one_rule() {
    let all: Vec<Code> = RULES.iter().flat_map(|r| r.codes).copied().chain([RULE_FAILED]).collect();
    let mut names: Vec<&str> = all.iter().map(|c| c.name()).collect();
    assert!(names.iter().all(|n| n.chars().all(|c| c.is_ascii_lowercase() || c == '-')));
    assert!(RULES.iter().all(|r| !r.codes.is_empty() && Message::new(r.looks_at).is_known()));
    names.sort_unstable();
    names.dedup();
    assert_eq!(names.len(), all.len());
}

/// `docs/rules.md` is made of the registry.
#[test]
fn the_page_of_rules_is_current() {
    let mut page = String::from(
        "# What Check looks at\n\nMade from the list of rules in `crates/check/src/rules/mod.rs`. To make it anew: \
         `KACHEL_WRITE_DOCS=1 cargo test -p kachel-check page_of_rules`.\n\n| Check looks at | findings |\n|---|---|\n",
    );
    for rule in RULES {
        let codes: Vec<String> =
            rule.codes.iter().map(|c| format!("`{}` ({})", c.name(), c.weight().words())).collect();
        page.push_str(&format!("| {} | {} |\n", Message::new(rule.looks_at), codes.join(", ")));
    }
    page.push_str(&format!("\nA rule that cannot run is a finding itself: `{}`.\n", RULE_FAILED.name()));
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/rules.md");
    if std::env::var_os("KACHEL_WRITE_DOCS").is_some() {
        std::fs::write(&file, &page).unwrap();
    }
    assert_eq!(std::fs::read_to_string(&file).unwrap_or_default(), page, "docs/rules.md is stale");
}

#[test]
fn a_rule_that_cannot_run_says_so_and_the_others_go_on() {
    fn fails(_: &Object<'_>, _: &mut Report) -> Result<(), Fault> {
        Err(kachel_geom::Grid::from_mm(5000.0).unwrap_err().into())
    }
    fn finds(_: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
        found.push(Finding::new(picture::RUNS_OUT, Message::new("something")));
        Ok(())
    }
    fn stopped(_: &Object<'_>, _: &mut Report) -> Result<(), Fault> {
        Err(Stopped.into())
    }
    let rule = |run| Rule { looks_at: "something", codes: &[], run };
    with_object(
        &plain_square(),
        &[],
        |_, parent| parent.is_none(),
        |o| {
            let watch = Watch::default();
            let found = look(&[rule(fails), rule(finds)], o, &watch).unwrap().findings;
            assert_eq!(codes(&found), [RULE_FAILED, picture::RUNS_OUT]);
            assert!(
                found[0].what.to_string().contains("something") && found[0].what.to_string().contains("5000"),
                "{}",
                found[0].what
            );
            assert_eq!(look(&[rule(stopped)], o, &watch), Err(Stopped));
        },
    );
}

#[test]
fn trade_values_are_the_bounds() {
    // Common practice, no source: an upright wall under 0.75 mm and a stamp line under 0.75 mm are too thin.
    assert_eq!(codes(&run(&plain_square(), &[("wall-thickness", 0.75), ("taper-in", 0.0)])), []);
    assert_eq!(codes(&run(&plain_square(), &[("wall-thickness", 0.74), ("taper-in", 0.0)])), [walls::THIN_WALL]);
    let as_drawn = [("stamp-least", 0.0)];
    let line = |width: f64| codes(&run(&framed(rect(110.0, 110.0, 110.0 + width, 150.5)), &as_drawn));
    assert_eq!(line(0.8), []);
    assert_eq!(line(0.7), [thin::THIN_LINE]);
    // The bed, 220 x 220 x 250 mm: 210.8 mm of edge fit with wall and flange, 211 do not.
    let on_bed = |wide: f64, deep: f64| codes(&run(&[(None, rect(0.0, 0.0, wide, deep))], &[]));
    assert_eq!(on_bed(206.7, 100.0), [], "2 mm to spare on each side");
    assert_eq!(on_bed(210.7, 100.0), [bed::TIGHT_ON_BED]);
    assert_eq!(on_bed(211.0, 211.0), [bed::LARGER_THAN_BED]);
    // A strip of 250 mm fits from corner to corner, which is 311 mm long.
    assert_eq!(on_bed(250.0, 12.0), [bed::TIGHT_ON_BED]);
    assert_eq!(on_bed(300.0, 12.0), [bed::LARGER_THAN_BED]);
}

/// Checks a coaster of a square with an inlaid square, each in its filament.
fn coaster(changed: &[(&str, f64)], printer: &Printer, gone: &[String]) -> Vec<Finding> {
    let contours = framed(rect(120.0, 115.0, 140.0, 135.0));
    let contours = contours
        .iter()
        .enumerate()
        .map(|(i, (parent, ring))| Contour::of_ring(ring.clone(), *parent, parent.is_none() || i % 2 == 0))
        .collect();
    let given = Given {
        filaments: BTreeMap::from([("details".to_string(), "soot".to_string())]),
        filament: "honey".into(),
        ..Given::default()
    };
    made(RecipeKind::Coaster, &Contours::of(400.0, 400.0, contours), changed, &given, printer, gone, checked)
}

#[test]
fn filaments_side_by_side_need_a_printer_that_loads_them() {
    let one = Printer::default();
    let four = Printer { filaments: 4, ..Printer::default() };
    let inlaid = [("relief", 3.0), ("across", 100.0)];
    assert_eq!(codes(&coaster(&inlaid, &one, &[])), [filaments::COLOURS_IN_ONE_LAYER]);
    assert_eq!(codes(&coaster(&inlaid, &four, &[])), []);
    // Raised, they change from layer to layer, by hand if need be.
    assert_eq!(codes(&coaster(&[("relief", 1.0), ("across", 100.0)], &one, &[])), []);
    let gone = coaster(&inlaid, &four, &["celadon".into()]);
    assert_eq!(edits(&gone[0]), [TierEdit::DropFilament { filament: "celadon".into() }.into()]);
}

#[test]
fn what_the_recipe_doubts_is_found_with_its_mend() {
    let four = Printer { filaments: 4, ..Printer::default() };
    let deep = coaster(&[("relief-depth", 7.0), ("across", 100.0)], &four, &[]);
    // Cut through, what the drawing encloses falls out.
    assert_eq!(codes(&deep), [recipe::TOO_DEEP, loose::SEVERAL_PIECES]);
    assert!(deep[0].what.to_string().contains("7 mm") && deep[0].what.to_string().contains("5 mm"), "{}", deep[0].what);
    assert_eq!(edits(&deep[0]), measure(m::RELIEF_DEPTH, 2.5));
    let small = coaster(&[("relief", 1.0), ("across", 40.0)], &four, &[]);
    assert_eq!(codes(&small), [recipe::CUT_OFF]);
    let words: Vec<String> = small[0].mends.iter().map(|m| m.words.to_string()).collect();
    assert_eq!(words[0], "Fit the drawing inside");
    assert!(small[0].bounds().is_some());
    let thin =
        coaster(&[("relief", 1.0), ("across", 100.0), ("relief-depth", 0.2)], &Printer { layer: 0.3, ..four }, &[]);
    assert_eq!(codes(&thin), [low_tiers::UNDER_A_LAYER]);
}

#[test]
fn a_finish_wider_than_the_wall_says_what_is_left() {
    let found = run(&plain_square(), &[("taper-in", 3.2), ("wall-thickness", 1.6)]);
    assert_eq!(codes(&found), [finishes::FINISH_TOO_WIDE]);
    // Half of the taper's 3 mm is left: 13.5 of 15 mm.
    assert!(
        found[0].what.to_string().contains("13.50 mm") && found[0].what.to_string().contains("15.00 mm"),
        "{}",
        found[0].what
    );
    assert!(found[0].bounds().is_some());
}

/// A free stack of own tiers (bottom, top), each a millimetre smaller than the one before, and what Check says of it.
fn own_stack(heights: &[(f64, f64)]) -> Vec<Finding> {
    let tiers: Vec<(f64, f64, f64)> = heights.iter().enumerate().map(|(k, (a, b))| (*a, *b, -(k as f64))).collect();
    own_tiers(&tiers, false)
}

/// The same of tiers (bottom, top, grown by); the second one may be cut out of what is there.
fn own_tiers(tiers: &[(f64, f64, f64)], second_is_cut: bool) -> Vec<Finding> {
    let ring = rect(100.0, 100.0, 160.0, 150.0);
    let contours = Contours::of(400.0, 400.0, vec![Contour::of_ring(ring, None, true)]);
    let own = |(k, (from, to, grow)): (usize, &(f64, f64, f64))| OwnTier {
        id: k as u32 + 1,
        name: format!("Tier {}", k + 1),
        footprint: Footprint::Edge,
        grow: *grow,
        rim: None,
        from: *from,
        to: *to,
        is_cut: second_is_cut && k == 1,
        top: Finish::default(),
        bottom: Finish::default(),
        is_on: true,
    };
    let given = Given { own: tiers.iter().enumerate().map(own).collect(), ..Given::default() };
    made(RecipeKind::FreeStack, &contours, &[], &given, &Printer::default(), &[], checked)
}

#[test]
fn what_sticks_out_over_the_air_is_found_and_let_down() {
    // True: 4 mm all round, 5 mm above the bed.
    let found = own_tiers(&[(0.0, 5.0, 0.0), (5.0, 8.0, 4.0)], false);
    assert_eq!(codes(&found), [air::OVERHANG]);
    assert_eq!(found[0].what.to_string(), "4.0 mm stick out over the air, at one place");
    let (low, high) = found[0].places[0].heights.unwrap();
    assert!((low - 5.0).abs() < 1e-9 && (high - 5.2).abs() < 1e-9, "one layer: {low} to {high}");
    let down: Edit = TierEdit::SetTierLength { id: 2, name: "from".into(), value: Length::Mm(0.0) }.into();
    assert_eq!(edits(&found[0]), [down]);
    assert_eq!(codes(&own_tiers(&[(0.0, 5.0, 0.0), (0.0, 8.0, 4.0)], false)), [], "mended");
    // Borderline, and false: lines hold so far, and a roof that rests on its sides all round is a bridge.
    assert_eq!(codes(&own_tiers(&[(0.0, 5.0, 0.0), (5.0, 8.0, 1.15)], false)), []);
    assert_eq!(codes(&own_tiers(&[(0.0, 5.0, 0.0), (5.0, 8.0, 1.3)], false)), [air::OVERHANG]);
    let roof = [(0.0, 5.0, 0.0), (0.0, 5.0, -3.0), (5.0, 7.0, 0.0)];
    let found = codes(&own_tiers(&roof, true));
    assert!(!found.contains(&air::OVERHANG) && found.contains(&air::BRIDGE), "{found:?}");
}

#[test]
fn a_body_that_begins_in_the_air_is_found_with_its_height_and_put_on_the_bed() {
    // True: 1 mm of air under it.
    let found = own_stack(&[(1.0, 3.0)]);
    assert_eq!(codes(&found), [floats::FLOATS]);
    assert_eq!(found[0].what.to_string(), "One body begins 1.00 mm above the bed");
    assert_eq!(found[0].places[0].heights, Some((1.0, 3.0)));
    let length = |name: &str, mm: f64| -> Edit {
        TierEdit::SetTierLength { id: 1, name: name.into(), value: Length::Mm(mm) }.into()
    };
    assert_eq!(edits(&found[0]), [length("from", 0.0), length("to", 2.0)]);
    // A second body over a gap: it floats and is another piece.
    let gap = own_stack(&[(0.0, 2.0), (2.4, 4.0)]);
    assert_eq!(codes(&gap), [floats::FLOATS, loose::SEVERAL_PIECES]);
    // False: stacked without a gap. Borderline: the grid's own step is no gap that prints.
    assert_eq!(codes(&own_stack(&[(0.0, 2.0), (2.0, 4.0)])), []);
    assert_eq!(codes(&own_stack(&[(0.0005, 2.0)])), []);
}

#[test]
fn ink_that_runs_out_of_the_picture_is_told_with_its_sides() {
    let seen = |ring: Ring<Px>, is_picture: bool| {
        let mut contours = Contours::of(400.0, 300.0, vec![Contour::of_ring(ring, None, true)]);
        contours.histogram = if is_picture { vec![1; 256] } else { vec![] };
        made(RecipeKind::Ornament, &contours, &[], &Given::default(), &Printer::default(), &[], checked)
    };
    let out: Vec<Finding> = seen(rect(200.0, 100.0, 400.0, 200.0), true);
    let out: Vec<&Finding> = out.iter().filter(|f| f.code == picture::RUNS_OUT).collect();
    assert_eq!(out[0].what.to_string(), "Ink runs out of the picture over its right border");
    assert_eq!(out[0].figures, [Figure::mm("along-border", 100.0, None)]);
    let place = out[0].places[0].bounds().unwrap();
    assert_eq!((place.min.x, place.height()), (99.0, 102.0), "a millimetre round its right side");
    let corner = seen(rect(0.0, 0.0, 200.0, 200.0), true);
    assert!(corner.iter().any(|f| f.what.to_string().ends_with("left and upper borders")), "{corner:?}");
    for (ring, is_picture) in [(rect(2.0, 2.0, 200.0, 200.0), true), (rect(0.0, 0.0, 200.0, 200.0), false)] {
        assert!(!seen(ring, is_picture).iter().any(|f| f.code == picture::RUNS_OUT));
    }
}

mod rules;
