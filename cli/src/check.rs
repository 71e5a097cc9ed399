//! `kachel check`: what an experienced maker would say, for people and for loops over many files.

use crate::make::{explain, read, recipe_named};
use kachel_engine::check::Weight;
use kachel_engine::{Engine, ResultView, Stage, TierEdit, Watch, import_design};
use std::path::Path;

/// Exit codes by the heaviest that is found.
const fn code(weight: Option<Weight>) -> u8 {
    match weight {
        None | Some(Weight::Note) => 0,
        Some(Weight::Poor) => 3,
        Some(Weight::Fault) => 4,
    }
}

/// Looks over a picture's object, or a design's, and says what it finds.
pub(crate) fn check(file: &Path, recipe: &str, json: bool) -> Result<u8, String> {
    let (engine, watch, bytes) = (Engine::default(), Watch::default(), read(file)?);
    let (document, picture) = if bytes.starts_with(b"PK") {
        let inside = import_design(&bytes).map_err(|e| e.to_string())?;
        inside.ok_or_else(|| format!("{} holds a mesh, but no design of Kachel's", file.display()))?
    } else {
        let recipe = recipe_named(recipe)?.kind;
        let name = file.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
        let new = engine.new_document(&name, &name, &bytes, &watch).map_err(|e| explain(&e))?;
        let edits = [TierEdit::SetRecipe { recipe }.into()];
        let made = engine.apply(&new, &edits, &|| Ok(bytes.clone()), &watch).map_err(|e| explain(&e))?;
        (made.map_err(|e| e.to_string())?, bytes)
    };
    let run = engine.run_until(&document, &|| Ok(picture.clone()), Stage::Check, &watch);
    let view = ResultView::new(&document, &run, &[]);
    // What cannot be made at all weighs most.
    let failed = view.problem.as_ref().map(|_| Weight::Fault);
    let heaviest = run.findings.iter().map(|f| f.code.weight()).chain(failed).min();
    if json {
        let findings: Vec<_> = view
            .findings
            .iter()
            .map(|f| {
                let mends: Vec<_> = f.mends.iter().map(|m| &m.words).collect();
                serde_json::json!({ "code": f.code, "weight": f.weight, "what": f.what, "why": f.why,
                    "figures": f.figures, "mends": mends, "place": f.place })
            })
            .collect();
        let report = serde_json::json!({ "file": file, "recipe": document.recipe, "heaviest": heaviest.map(Weight::name),
            "problem": view.problem, "notes": view.notes, "findings": findings });
        say!("{report:#}");
        return Ok(code(heaviest));
    }
    say!("{}: {}", file.display(), heaviest.map_or("all well", Weight::words));
    if let Some(p) = &view.problem {
        say!("  {}: {}. {}", p.code, p.message, p.hint);
    }
    for note in &view.notes {
        say!("  {note}");
    }
    for (f, seen) in run.findings.iter().zip(&view.findings) {
        say!("  {} ({}): {}. {}", seen.code, f.code.weight().words(), seen.what, seen.why);
    }
    Ok(code(heaviest))
}
