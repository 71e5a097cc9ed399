//! Objects in use, against areas, places and masses that are worked out here.

use super::*;
use crate::Shown;
use kachel_check::{Cup, Material, Standing};
use kachel_geom::Mm;
use kachel_tiers::{Role, Unit};

/// A plate 100 by 60 with a line at its left side, in the picture's pixels.
const PLATE: &str = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 120 80'><path fill-rule='evenodd' \
    d='M10 10h100v60h-100zM20 20h10v40h-10z'/></svg>";

fn of(kind: RecipeKind, svg: &str) -> (Design, std::sync::Arc<Option<Shown>>) {
    let mut design = Design::from_bytes(svg.as_bytes());
    design.edit(&[TierEdit::SetRecipe { recipe: kind }.into(), width("50 mm")]).unwrap();
    let key = design.run().solid.unwrap().0;
    let shown = design.engine.in_use(&key, Cup::default(), &quiet()).unwrap().unwrap();
    (design, shown)
}

/// Volume and the middle in x and y of all that is of a material, by its meshes' tetrahedra.
fn mass_of<'a>(parts: impl Iterator<Item = &'a kachel_solid::Mesh>) -> (f64, [f64; 2]) {
    let (mut all, mut sum) = (0.0, [0.0; 2]);
    for mesh in parts {
        let at = |v: u32| mesh.vertices[v as usize].map(|c| f64::from(c) / kachel_geom::GRID_PER_MM);
        for t in &mesh.triangles {
            let [a, b, c] = t.map(at);
            let six = a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0])
                + a[2] * (b[0] * c[1] - b[1] * c[0]);
            all += six / 6.0;
            (0..2).for_each(|k| sum[k] += six / 24.0 * (a[k] + b[k] + c[k]));
        }
    }
    (all, sum.map(|s| s / all))
}

#[test]
fn a_cookie_has_the_edge_the_lines_and_the_side_of_the_picture() {
    let (design, shown) = of(RecipeKind::CutterStamp, PLATE);
    let shown = shown.as_ref().as_ref().unwrap();
    let run = design.run();
    let stack = run.stack.unwrap();
    let top = |role| stack.tiers.iter().filter(|t| t.role == role).map(|t| t.top.mm()).fold(0.0, f64::max);
    let stamp: f64 = stack.tiers.iter().filter(|t| t.role == Role::Stamp).map(|t| t.footprint.area_mm2()).sum();
    let depth = 6.0 - (top(Role::Wall) - top(Role::Stamp));
    assert!(depth > 0.5 && depth < 6.0 && stamp > 50.0, "{depth} {stamp}");
    let (volume, middle) = mass_of(shown.parts.iter().map(|p| p.mesh.mesh()));
    let whole = stack.edge.area_mm2() * 6.0;
    assert!((volume - (whole - stamp * depth)).abs() < 1e-3, "{volume} of {whole}");
    // The line is at the left of the picture, so the cookie lacks dough there; the tool, its mirror image, has it at the right.
    assert!(middle[0] > 0.05, "{middle:?}");
    let line = stack.tiers.iter().find(|t| t.role == Role::Stamp).unwrap().footprint.bounds().unwrap();
    assert!(line.min.x > 0.0);
    assert!(
        shown.in_use.is_beside && shown.in_use.answer(Unit::Mm).contains("One cookie"),
        "{}",
        shown.in_use.answer(Unit::Mm)
    );
    assert!(
        shown.in_use.answer(Unit::Mm).contains(&format!("Lines sink {depth:.1} mm")),
        "{}",
        shown.in_use.answer(Unit::Mm)
    );
}

#[test]
fn a_thin_neck_of_a_cookie_is_marked_and_told() {
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 120 80'><path d='M10 10h40v28h20v-28h40v60h-40v-28h-20v28h-40z'/></svg>";
    let (_, shown) = of(RecipeKind::Cutter, svg);
    let u = &shown.as_ref().as_ref().unwrap().in_use;
    // 4 of 100 pixels of 50 mm, so 2 mm, and twice the margin that the cutter's recipe has by default: none.
    assert!(u.answer(Unit::Mm).contains("narrowest part is 2.0 mm"), "{}", u.answer(Unit::Mm));
    let b = u.places[0].bounds().unwrap();
    assert!(b.min.x > -6.0 && b.max.x < 6.0 && b.height() < 3.0, "{b:?}");
}

#[test]
fn what_hangs_comes_to_rest_with_its_mass_under_the_nail() {
    // A boot: its mass lies to one side of the hole.
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M10 10h20v60h60v20h-80z'/></svg>";
    for kind in [RecipeKind::Ornament, RecipeKind::KeyTag, RecipeKind::Pendant] {
        let (design, shown) = of(kind, svg);
        let shown = shown.as_ref().as_ref().unwrap();
        let run = design.run();
        let (stack, (_, solid)) = (run.stack.unwrap(), run.solid.unwrap());
        let (_, mass) = mass_of(std::iter::once(solid.skin.mesh()));
        let hung = stack.hung.unwrap();
        let turn = shown.in_use.upright.unwrap().to_radians();
        let turned = |p: [f64; 2]| [p[0] * turn.cos() - p[1] * turn.sin(), p[0] * turn.sin() + p[1] * turn.cos()];
        let [hole, middle] = [turned([hung.at.x, hung.at.y]), turned(mass)];
        // As it is printed, in layers of 0.2 mm, it is a little heavier or lighter at rounded edges than its mesh.
        let off = (middle[0] - hole[0]).atan2(hole[1] - middle[1]).to_degrees();
        assert!(off.abs() < 0.5 && middle[1] < hole[1], "{kind:?}: {off} degrees off");
        // The nail touches the hole's upper edge from within.
        let nail = shown.in_use.stack.tiers[0].footprint.bounds().unwrap();
        let at = Point::<Mm>::new(f64::midpoint(nail.min.x, nail.max.x), f64::midpoint(nail.min.y, nail.max.y));
        let apart = at.distance(hung.at) + nail.width() / 2.0;
        assert!((apart - hung.across / 2.0).abs() < 0.01, "{apart} in {}", hung.across);
    }
}

#[test]
fn a_stamp_prints_what_its_uppermost_layer_covers_the_right_way_round() {
    let (design, shown) = of(RecipeKind::Stamp, PLATE);
    let shown = shown.as_ref().as_ref().unwrap();
    let ink = Material::ALL.iter().position(|m| *m == Material::Ink).unwrap();
    let inked = shown.parts.iter().filter(|p| p.part as usize == ink).map(|p| p.mesh.mesh());
    let (volume, middle) = mass_of(inked);
    // Ink is drawn 0.4 mm thick, to the nearest grid step.
    let mm = design.run().outline.unwrap().mm_per_px;
    assert!((volume / 0.4 - (6000.0 - 400.0) * mm * mm).abs() < 0.5, "{volume}");
    assert!(middle[0] > 0.1, "the gap is at the left: {middle:?}");
}

#[test]
fn a_magnet_says_what_it_has_to_pull() {
    let (design, shown) = of(RecipeKind::Magnet, PLATE);
    let says = &shown.as_ref().as_ref().unwrap().in_use.answer(Unit::Mm);
    // Weight over friction: m g / 0.2.
    let grams = design.view().solid.unwrap().mass;
    let newton = grams * 9.806_65e-3 / 0.2;
    assert!(says.contains(&format!("{grams:.1} g")) && says.contains(&format!("{newton:.2} N")), "{says}");
    assert_eq!(shown.as_ref().as_ref().unwrap().in_use.places.len(), 1, "one pocket");
}

#[test]
fn a_cup_that_rocks_is_told_and_its_holds_are_marked() {
    let plain = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M30 30h40v40h-40z'/></svg>";
    let (_, shown) = of(RecipeKind::Coaster, plain);
    let u = &shown.as_ref().as_ref().unwrap().in_use;
    assert!(u.answer(Unit::Mm).starts_with("A cup stands steady on it"), "{}", u.answer(Unit::Mm));
    // One bar, raised, on one side: a cup leans on it.
    let bar = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M5 20h6v60h-6z'/></svg>";
    let mut design = Design::from_bytes(bar.as_bytes());
    let edits = [
        TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(),
        measure("relief", "raised"),
        measure("shift-x", "-30"),
        measure("rim-width", "0"),
    ];
    design.edit(&edits).unwrap();
    let key = design.run().solid.unwrap().0;
    let shown = design.engine.in_use(&key, Cup::default(), &quiet()).unwrap().unwrap();
    let u = &shown.as_ref().as_ref().unwrap().in_use;
    assert!(u.answer(Unit::Mm).contains("rocks"), "{}", u.answer(Unit::Mm));
    assert!(weighty(&design.view()).contains(&"cup-rocks"), "Check and the view say the same");
    assert_eq!(u.places.len(), 1);
    // It tips about the bar's inner side, until the far side of its foot touches the plate.
    let run = design.run();
    let stack = run.stack.unwrap();
    let tier = |role: Role| stack.tiers.iter().find(|t| t.role == role).unwrap();
    let (bar, plate) = (tier(Role::Detail), tier(Role::Body));
    let Standing { cup, tilt } = u.standing.unwrap();
    let reach = cup.foot.unwrap() / 2.0 - bar.footprint.bounds().unwrap().max.x;
    let expected = ((tilt.unwrap().height - plate.top.mm()) / reach).atan().to_degrees();
    let tilt = tilt.unwrap();
    // The foot is a ring 2 mm wide, held at places two degrees apart.
    assert!((tilt.degrees - expected).abs() < 0.1, "{} against {expected} degrees", tilt.degrees);
    assert!((tilt.height - bar.top.mm()).abs() < 0.2, "in whole layers: {}", tilt.height);
    // Its right side goes down: the line runs up the page.
    assert!((tilt.along.rem_euclid(360.0) - 90.0).abs() < 3.0, "{}", tilt.along);
}

#[test]
fn a_cup_is_another_one_and_stands_elsewhere() {
    let plain = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M48 48h4v4h-4z'/></svg>";
    let mut design = Design::from_bytes(plain.as_bytes());
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(), width("6 mm")]).unwrap();
    let key = design.run().solid.unwrap().0;
    let with = |foot: f64, by: (f64, f64)| {
        let cup = Cup { foot: Some(foot), by };
        let shown = design.engine.in_use(&key, cup, &quiet()).unwrap().unwrap();
        let u = shown.as_ref().as_ref().unwrap().in_use.clone();
        (u.answer(Unit::Mm), u.standing.unwrap())
    };
    let (says, standing) = with(45.0, (0.0, 0.0));
    assert_eq!((says.as_str(), standing.tilt), ("A cup with a foot of 45 mm stands steady in the middle.", None));
    let (says, _) = with(45.0, (10.0, -8.0));
    assert_eq!(says, "A cup with a foot of 45 mm stands steady 10 mm right and 8 mm down from the middle.");
    // Most of its foot beyond the plate: it tips over the edge, to the table.
    let (says, standing) = with(60.0, (60.0, 0.0));
    assert!(says.contains("rocks 60 mm right"), "{says}");
    assert!(standing.tilt.unwrap().degrees > 1.0);
    // Numbers that are none change nothing, and others are held.
    let (_, standing) = with(f64::NAN, (f64::INFINITY, 1e300));
    assert_eq!(standing.cup.by, (0.0, 150.0));
    assert!(standing.cup.foot.unwrap() > 0.0);
}

#[test]
fn every_recipe_has_a_view_and_says_what_it_leaves_out() {
    let kinds = kachel_tiers::RECIPES.iter().map(|r| r.kind);
    for kind in kinds {
        let (_, shown) = of(kind, PLATE);
        let shown = shown.as_ref().as_ref().unwrap_or_else(|| panic!("{kind:?}"));
        let view = crate::in_use_view(shown, Unit::In);
        assert!(!view.title.is_empty() && view.says.ends_with('.') && !view.leaves_out.is_empty(), "{kind:?}");
        assert!(!view.says.contains(" mm"), "inches everywhere: {}", view.says);
        assert_eq!(view.size.is_some(), !shown.parts.is_empty());
    }
    let engine = Engine::default();
    assert!(engine.in_use("nothing", Cup::default(), &quiet()).unwrap().is_none());
}
