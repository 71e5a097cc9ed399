//! What is shown while a hand moves: the meshes of the tiers, without a solid.

use super::*;
use kachel_check::Cup;

impl Design {
    /// Made by an engine that knows nothing yet.
    fn shown(&self) -> (Engine, Run) {
        let engine = Engine::default();
        let run = engine.run_shown(&self.document, &|| Ok(self.bytes.clone()), &quiet());
        (engine, run)
    }
}

#[test]
fn the_tiers_meshes_have_the_solids_size_volume_and_filaments() {
    let tapered = |kind| kind == RecipeKind::Cutter || kind == RecipeKind::CutterStamp;
    for sample in ["ladybird", "hedgehog"] {
        let mut design = Design::sample(sample);
        for recipe in kachel_tiers::RECIPES {
            design.edit(&[TierEdit::SetRecipe { recipe: recipe.kind }.into()]).unwrap();
            if tapered(recipe.kind) {
                // Through the wall: its slopes end in ridges.
                design.edit(&[measure("taper-in", "2 mm")]).unwrap();
            }
            let what = format!("{sample}, {}", recipe.name);
            let (engine, run) = design.shown();
            assert!(run.failed.is_none() && run.solid.is_none(), "{what}: {:?}", run.failed);
            let shown = ResultView::new(&design.document, &run, &[]).solid.unwrap();
            let made = design.view().solid.unwrap();
            assert_eq!((shown.bodies, &shown.key), (None, &made.key), "{what}");
            assert_eq!((shown.size, shown.reach, shown.layers), (made.size, made.reach, made.layers), "{what}");
            let near = |a: f64, b: f64| (a - b).abs() < 1e-4 * b;
            assert!(near(shown.volume, made.volume) && near(shown.cost, made.cost), "{what}: {}", shown.volume);
            let filaments = |s: &SolidView| s.parts.iter().map(|p| p.filament.clone()).collect::<Vec<_>>();
            assert_eq!(filaments(&shown), filaments(&made), "{what}");
            assert!(shown.parts.iter().zip(&made.parts).all(|(a, b)| near(a.mass, b.mass)), "{what}");
            // The key finds the meshes, and whatever needs the solid makes it.
            let meshes = engine.display(&shown.key, &quiet()).unwrap().unwrap();
            assert_eq!(meshes.iter().map(|p| p.mesh.mesh().triangles.len()).sum::<usize>(), shown.triangles);
            assert!(engine.in_use(&shown.key, Cup::default(), &quiet()).unwrap().is_some(), "{what}");
        }
    }
}

#[test]
fn what_cannot_be_made_is_not_shown_and_says_why() {
    let mut design = Design::sample("ladybird");
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::FreeStack }.into()]).unwrap();
    design.document.tiers.clear();
    let (_, run) = design.shown();
    assert_eq!(run.failed.map(|e| e.to_string()), design.run().failed.map(|e| e.to_string()));
    assert!(run.shown.is_none() && design.run().failed.is_some_and(|e| e.code() == "no-tiers"));
}
