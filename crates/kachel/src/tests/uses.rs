//! What patches are for, by the kind of object, and in designs that were made before guesses knew it.

use super::*;

const FACE: &str = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path fill-rule='evenodd' \
    d='M10 10h80v80h-80zM25 30h15v15h-15zM60 30h15v15h-15z'/></svg>";

fn engraved(design: &Design) -> f64 {
    let stack = design.run().stack.unwrap();
    stack.tiers.iter().filter(|t| t.key == "details").map(|t| t.footprint.area_mm2()).sum()
}

#[test]
fn a_filled_face_sinks_its_eyes_into_a_coaster() {
    let mut design = Design::from_bytes(FACE.as_bytes());
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into()]).unwrap();
    let mm = design.run().outline.unwrap().mm_per_px;
    assert!((engraved(&design) - 2.0 * 225.0 * mm * mm).abs() < 1e-3, "two eyes and nothing else");
    assert!(design.view().findings.is_empty());
    // Chosen, the face is drawn too.
    let face = Choice { spot: Spot::new(Point::new(15.0, 50.0), true), use_: Use::Both };
    design.edit(&[OutlineEdit::SetUses { choices: vec![face] }.into()]).unwrap();
    assert!(engraved(&design) > 6000.0 * mm * mm);
    // A choice stays through recipes, a guess is made anew.
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Ornament }.into()]).unwrap();
    let uses: Vec<Use> = design.run().patches.iter().map(|p| p.use_).collect();
    assert_eq!(uses, [Use::Both, Use::Aside, Use::Aside]);
}

#[test]
fn designs_made_before_guesses_knew_the_object_are_what_they_were() {
    let mut design = Design::from_bytes(FACE.as_bytes());
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(), width("40 mm")]).unwrap();
    let mut old: serde_json::Value = serde_json::from_str(&design.document.to_json().unwrap()).unwrap();
    old["version"] = 6.into();
    old.as_object_mut().unwrap().remove("guesses");
    design.document = Document::from_json(&old.to_string()).unwrap();
    let kept: Vec<_> = design.document.measures.keys().collect();
    assert_eq!(kept, ["crumbs", "pieces", "place"], "with its crumbs, loose, and by its box");
    let mm = design.run().outline.unwrap().mm_per_px;
    // The face was sunk, eyes left standing.
    assert!((engraved(&design) - (6400.0 - 450.0) * mm * mm).abs() < 1e-3);
    // Another recipe guesses as a new design does.
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Token }.into()]).unwrap();
    assert_eq!(design.document.guesses, kachel_outline::Guesses::default());
}

#[test]
fn no_default_of_any_recipe_raises_a_finding() {
    let drawings = [
        ("a filled square", "<path d='M20 20h60v60h-60z'/>".to_string()),
        ("a shape 3 : 1", "<path d='M0 30h99v33h-99z'/>".into()),
        (
            "a filled face with open eyes",
            "<path fill-rule='evenodd' d='M10 10h80v80h-80zM25 30h15v15h-15zM60 30h15v15h-15z'/>".into(),
        ),
        (
            "a leaf of loose pieces",
            (0..25).map(|k| format!("<circle cx='{}' cy='{}' r='7'/>", 10 + 20 * (k % 5), 10 + 20 * (k / 5))).collect(),
        ),
    ];
    for (what, drawing) in drawings {
        let svg = format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'>{drawing}</svg>");
        let mut design = Design::from_bytes(svg.as_bytes());
        for recipe in kachel_tiers::RECIPES {
            // A free stack makes no promise to be in one piece.
            if recipe.kind == RecipeKind::FreeStack {
                continue;
            }
            design.edit(&[TierEdit::SetRecipe { recipe: recipe.kind }.into()]).unwrap();
            let found: Vec<String> = design.view().findings.into_iter().map(|f| f.what).collect();
            assert!(found.is_empty(), "{what}, {}: {found:?}", recipe.name);
            assert_eq!(design.view().solid.unwrap().bodies, Some(1), "{what}, {}", recipe.name);
        }
    }
}
