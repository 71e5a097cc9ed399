//! Whatever the engine shows is worded in the language files. Here they have wide letters (U+FF01 and on): what is not wide was
//! worded elsewhere, and no translation would reach it. A process of its own, because a program has one language.

use kachel_check::Cup;
use kachel_engine::design::{Bed, BedEdit};
use kachel_engine::{
    Conflict, Document, Edit, Engine, OnBeds, PrintWish, Quality, ResultView, Run, SAMPLES, Sample, TierEdit, Watch,
    bed_print_view, bed_view, differences, in_use_view, print_view,
};
use kachel_tiers::{RECIPES, Unit};
use kachel_words::{Words, speak};
use serde_json::Value;
use std::collections::BTreeSet;

/// Fields that people read.
const READ: [&str; 19] = [
    "what",
    "why",
    "said",
    "words",
    "label",
    "meaning",
    "group",
    "message",
    "hint",
    "notes",
    "recipe",
    "bed_words",
    "title",
    "says",
    "leaves_out",
    "trouble",
    "name",
    "then",
    "now",
];
/// Symbols of units, which every language has.
const UNITS: [&str; 8] = ["mm", "in", "px", "STL", "MB", "g", "N", "cm"];

/// What people read of a value and is not wide: where it stands, and what it is.
fn narrow(value: &Value, at: &str, found: &mut BTreeSet<String>) {
    match value {
        Value::Object(all) => all.iter().for_each(|(k, v)| narrow(v, k, found)),
        Value::Array(all) => all.iter().for_each(|v| narrow(v, at, found)),
        Value::String(text) if READ.contains(&at) => {
            let mut words = text.split(|c: char| !c.is_ascii_alphabetic()).filter(|w| !w.is_empty());
            if words.any(|w| !UNITS.contains(&w)) {
                found.insert(format!("{at}: {text}"));
            }
        }
        _ => {}
    }
}

fn look(view: &impl serde::Serialize, found: &mut BTreeSet<String>) {
    narrow(&serde_json::to_value(view).unwrap(), "", found);
}

/// Stable names stand in some fields that are called `name` or `recipe`: they are no words.
fn is_stable(line: &str) -> bool {
    let text = line.split_once(": ").map_or(line, |(_, text)| text);
    text.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-')
}

struct Made {
    document: Document,
    run: Run,
}

fn make(engine: &Engine, sample: &Sample, edits: &[Edit]) -> Made {
    let (watch, bytes) = (Watch::default(), || Ok(sample.bytes.to_vec()));
    let document = engine.new_document("1", sample.file_name, sample.bytes, &watch).unwrap();
    let document = edits.iter().fold(document, |d, e| {
        // What one recipe refuses is no matter here.
        engine.apply(&d, std::slice::from_ref(e), &bytes, &watch).unwrap().unwrap_or(d)
    });
    let run = engine.run(&document, &bytes, &watch);
    Made { document, run }
}

/// Measures at which most recipes have something to say.
fn hostile() -> Vec<Edit> {
    [
        ("wall-thickness", 0.3),
        ("wall-height", 3.0),
        ("flange-height", 8.0),
        ("flange-width", 0.5),
        ("flange-edge", 0.0),
        ("stamp-under-wall", 0.2),
        ("soft-corners", 5.0),
        ("relief-depth", 12.0),
        ("relief-height", 9.0),
        ("thickness", 1.3),
        ("across", 25.0),
        ("border", 0.0),
        ("pockets", 5.0),
        ("screws", 2.0),
        ("line-least", 0.0),
        ("bar-width", 0.0),
        ("longest", 20.0),
        ("grip", 1.0),
        ("plate-height", 1.1),
        ("pieces", 1.0),
        ("back", 1.0),
        ("opening", 90.0),
    ]
    .map(|(name, value)| {
        TierEdit::SetMeasure { name: name.into(), value: kachel_engine::design::Value::Number(value) }.into()
    })
    .to_vec()
}

#[test]
fn everything_that_is_shown_comes_from_the_language_files() {
    assert!(speak(Words::widened()), "nothing was said before");
    let engine = Engine::default();
    let watch = Watch::default();
    let mut found = BTreeSet::new();
    let mut codes = BTreeSet::new();
    for sample in ["hedgehog", "ladybird", "swap-badge"].map(|id| Sample::by_id(id).unwrap()) {
        for recipe in RECIPES {
            let choose: Edit = TierEdit::SetRecipe { recipe: recipe.kind }.into();
            let usual = make(&engine, sample, std::slice::from_ref(&choose));
            let odd = make(&engine, sample, &[vec![choose], hostile()].concat());
            for made in [&usual, &odd] {
                let view = ResultView::new(&made.document, &made.run, &[]);
                codes.extend(view.findings.iter().map(|f| f.code));
                look(&view, &mut found);
                if let Some((key, _)) = &made.run.solid {
                    let shown = engine.in_use(key, Cup::default(), &watch).unwrap().unwrap();
                    if let Some(shown) = shown.as_ref() {
                        look(&in_use_view(shown, Unit::Mm), &mut found);
                    }
                }
            }
            let [then, now] = [&usual, &odd].map(|m| ResultView::new(&m.document, &m.run, &[]));
            look(&differences(&then, &now, Unit::Mm), &mut found);
        }
        let made = make(&engine, sample, &[]);
        let wish = PrintWish { quality: Quality::Usual, infill: Some(5.0) };
        if let Some(print) = engine.rehearse(&made.run, wish, &watch).unwrap() {
            look(&print_view(&made.run, &print, wish, Unit::Mm), &mut found);
        }
    }
    // A bed that is too small, with pieces on each other.
    let sample = Sample::by_id("hedgehog").unwrap();
    let document = make(&engine, sample, &[]).document;
    let mut bed = Bed::new("1");
    bed = bed.after(&BedEdit::SetCopies { design: "a".into(), copies: 2 }, Unit::Mm).unwrap();
    let lying = engine.on_bed(document, &|| Ok(sample.bytes.to_vec()), &watch);
    let on = OnBeds { designs: [("a".to_string(), lying)].into(), workshop: engine.workshop() };
    bed = bed.arranged(&on.arranged(&bed, &watch).unwrap()).unwrap();
    let piled: Vec<_> = bed.pieces.iter().map(|p| p.id).collect();
    for piece in piled {
        let put = BedEdit::PutAt { piece, right: Some(10.0.into()), up: Some(10.0.into()), degrees: None };
        bed = bed.after(&put, Unit::Mm).unwrap();
    }
    let conflicts: Vec<Conflict> = on.conflicts(&bed, &watch);
    assert!(conflicts.len() >= 2, "{conflicts:?}");
    if let Some(print) = engine.print_bed(&bed, &on, 0, &watch).unwrap() {
        look(&bed_print_view(&on, &print), &mut found);
    }
    look(&bed_view(&bed, &on, conflicts), &mut found);
    for sample in SAMPLES {
        look(
            &serde_json::json!({ "title": sample.title().to_string(), "label": sample.kind_words().to_string() }),
            &mut found,
        );
    }
    found.retain(|line| !is_stable(line));
    assert!(found.is_empty(), "{found:#?}");
    assert!(codes.len() >= 15, "few findings to look at: {codes:?}");
}
