//! `kachel check`: what an experienced maker would say, for people and for loops over many files.

use crate::make::{Bench, finding_json};
use kachel_engine::ResultView;
use kachel_engine::check::Weight;
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
    let bench = Bench::of_file(file, recipe)?;
    let (document, run) = (&bench.document, bench.run());
    let view = ResultView::new(document, &run, &[]);
    // What cannot be made at all weighs most.
    let failed = view.problem.as_ref().map(|_| Weight::Fault);
    // What the maker of a design knows of counts no more.
    let told = run.report.findings.iter().zip(&view.findings).filter(|(_, seen)| !seen.is_accepted);
    let heaviest = told.map(|(f, _)| f.code.weight()).chain(failed).min();
    let used = bench.in_use(&run)?;
    if json {
        let findings: Vec<_> = view.findings.iter().map(finding_json).collect();
        let report = serde_json::json!({ "file": file, "recipe": document.recipe, "heaviest": heaviest.map(Weight::name),
            "problem": view.problem, "notes": view.notes, "findings": findings,
            "in_use": used.as_ref().map(|u| serde_json::json!({ "title": u.title, "says": u.says, "leaves_out": u.leaves_out })),
            "looked": view.looked.iter().map(|l| (l.what.clone(), l.said.clone())).collect::<std::collections::BTreeMap<_, _>>() });
        say!("{report:#}");
        return Ok(code(heaviest));
    }
    say!("{}: {}", file.display(), heaviest.map_or("all well".into(), |w| w.words().to_string()));
    if let Some(p) = &view.problem {
        say!("  {}: {}. {}", p.code, p.message, p.hint);
    }
    for note in &view.notes {
        say!("  {note}");
    }
    for (f, seen) in run.report.findings.iter().zip(&view.findings) {
        say!("  {} ({}): {}. {}", seen.code, f.code.weight().words(), seen.what, seen.why);
    }
    for l in &view.looked {
        say!("  {}: {}", l.what, l.said);
    }
    if let Some(u) = &used {
        say!("  {}: {}", u.title, u.says);
    }
    Ok(code(heaviest))
}
