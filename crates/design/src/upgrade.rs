//! Brings documents of older versions up to date, one version at a time.

use kachel_artwork::Prepare;
use kachel_outline::Guesses;
use kachel_tiers::{Crumbs, MeasureError, Pieces, Place, Recipe, Unit, measures as names};
use kachel_trace::TraceSettings;
use kachel_words::{Message, msg, said};
use serde_json::{Map, Value};

/// The version of documents that this program writes.
pub const VERSION: u32 = 13;
/// Why a stored document cannot be used.
#[derive(Debug, thiserror::Error)]
pub enum DocumentError {
    /// It was written by a newer program.
    NewerVersion {
        /// Its version.
        found: u64,
    },
    /// It is not a document.
    Damaged(Message),
    /// It cannot be written as text.
    Unwritable(String),
    /// A measure is out of its range.
    Measure(#[from] MeasureError),
}

said!(DocumentError: |e| match e {
    DocumentError::NewerVersion { found } => msg!("newer-version", found = *found, known = VERSION),
    DocumentError::Damaged(why) => msg!("damaged-design", why = why.clone()),
    DocumentError::Unwritable(why) => msg!("unwritable-design", why = why),
    DocumentError::Measure(e) => msg!("damaged-design", why = e.message()),
});

/// What a library says of text that is no document.
pub(crate) fn unread(why: &serde_json::Error) -> DocumentError {
    DocumentError::Damaged(Message::quoted(why))
}

/// Lifts a document of any version up to [`VERSION`] to this one.
pub(crate) fn upgrade(value: &mut Value) -> Result<(), DocumentError> {
    match value.get("version").and_then(Value::as_u64).unwrap_or(0) {
        0 => return Err(DocumentError::Damaged(msg!("no-version-stated"))),
        found if found > u64::from(VERSION) => return Err(DocumentError::NewerVersion { found }),
        old => LIFTS.iter().skip(usize::try_from(old - 1).unwrap_or(0)).for_each(|lift| lift(value)),
    }
    value["version"] = VERSION.into();
    Ok(())
}

/// What brings a document of version 1, 2 and so on up to the next one.
const LIFTS: [fn(&mut Value); VERSION as usize - 1] =
    [lift_1, lift_2, lift_3, lift_4, lift_5, lift_6, lift_7, lift_8, lift_9, lift_10, lift_11, lift_12];

/// Version 13 tells ink within ink of another colour apart. What was begun before keeps its guesses, which it states.
fn lift_12(value: &mut Value) {
    if value.get("guesses").is_none() {
        value["guesses"] = serde_json::json!(Guesses::ByObject);
    }
}

/// Version 12 knows how the design is printed.
fn lift_11(value: &mut Value) {
    value["print"] = serde_json::json!({ "quality": "usual", "infill": null });
}

/// Version 11 knows which picture the credit was entered for.
fn lift_10(value: &mut Value) {
    value["credit_of"] = Value::Null;
}

/// Version 9 left the thin lines of a pendant as they were drawn.
fn lift_9(value: &mut Value) {
    each_measures(value, |recipe, measures| {
        let least = names::LINE_LEAST.name();
        if recipe.measure(least).is_ok() {
            measures.entry(least).or_insert(0.0.into());
        }
    });
}

/// Version 9 knows findings that the maker has accepted.
fn lift_8(value: &mut Value) {
    value["accepted"] = Value::Array(vec![]);
}

/// Version 7 held every loose piece by one bar unless it was told otherwise, and kept what is too small to print.
fn lift_7(value: &mut Value) {
    each_measures(value, |recipe, measures| {
        let kept = names::CRUMBS.name();
        let kept_place = recipe.measure(kept).ok().and_then(|s| s.parse(Crumbs::Kept.option().0, Unit::Mm).ok());
        for (name, value) in [(names::BARS.name(), Some(1.0)), (kept, kept_place)] {
            if let (Ok(_), Some(value)) = (recipe.measure(name), value) {
                measures.entry(name).or_insert(value.into());
            }
        }
    });
}

/// Lets `with` work on the measures of the design's recipe, and on those that it keeps of others.
fn each_measures(value: &mut Value, with: impl Fn(&Recipe, &mut Map<String, Value>)) {
    let recipe = value.get("recipe").and_then(Value::as_str).unwrap_or_default().to_string();
    let one = |recipe: &str, measures: &mut Value| {
        if let (Some(recipe), Some(measures)) = (Recipe::by_name(recipe), measures.as_object_mut()) {
            with(recipe, measures);
        }
    };
    if let Some(measures) = value.get_mut("measures") {
        one(&recipe, measures);
    }
    for (recipe, measures) in value.get_mut("other_measures").and_then(Value::as_object_mut).into_iter().flatten() {
        one(recipe, measures);
    }
}

/// Version 6 guessed uses by nesting alone, left loose pieces loose, and put the middle of the edge's box in a plate's middle.
fn lift_6(value: &mut Value) {
    value["guesses"] = serde_json::json!(Guesses::ByNesting);
    each_measures(value, |recipe, measures| {
        let apart = (names::PIECES.name(), Pieces::Apart.option().0);
        let in_box = (names::PLACE.name(), Place::Box.option().0);
        for (name, choice) in [apart, in_box] {
            let place = recipe.measure(name).ok().and_then(|s| s.parse(choice, Unit::Mm).ok());
            if let Some(place) = place {
                measures.insert(name.into(), place.into());
            }
        }
    });
}

/// Version 5 had the place of a patch beside its use and its filament.
fn lift_5(value: &mut Value) {
    for list in ["choices", "paints"] {
        for entry in value.get_mut(list).and_then(Value::as_array_mut).into_iter().flatten() {
            let Some(entry) = entry.as_object_mut() else { continue };
            let [at, is_ink] = ["at", "is_ink"].map(|k| entry.remove(k).unwrap_or_default());
            entry.insert("spot".into(), serde_json::json!({ "at": at, "is_ink": is_ink }));
        }
    }
}

/// Version 4 had one recipe, whose details were stamp lines; its wall was square, as was its flange, and nothing was tied.
fn lift_4(value: &mut Value) {
    value["recipe"] = "cutter-stamp".into();
    if let Some(measures) = value.get_mut("measures").and_then(Value::as_object_mut) {
        for name in ["taper-in", "flange-edge", "bar-width"] {
            measures.entry(name).or_insert_with(|| 0.0.into());
        }
    }
    value["other_measures"] = serde_json::json!({});
    value["tiers"] = serde_json::json!([]);
    value["bars"] = Value::Null;
    value["filaments"] = serde_json::json!({});
    value["paints"] = serde_json::json!([]);
}

/// Version 3 knew neither pins nor guides.
fn lift_3(value: &mut Value) {
    value["pins"] = serde_json::json!([]);
    value["guides"] = serde_json::json!([]);
}

/// Version 2 knew no changes of the outline.
fn lift_2(value: &mut Value) {
    value["changes"] = serde_json::json!([]);
}

/// Version 1 knew neither tools on the picture, nor corners, colours or pen lines; it dropped pinholes like specks.
fn lift_1(value: &mut Value) {
    value["prepare"] = serde_json::json!(Prepare::default());
    value["pen_width"] = Value::Null;
    let usual = TraceSettings::default();
    // What is no object is refused when the document is read.
    if let Some(trace) = value.get_mut("trace").and_then(Value::as_object_mut) {
        let gap = trace.get("min_area").cloned().unwrap_or_else(|| usual.min_gap.into());
        trace.insert("min_gap".into(), gap);
        trace.insert("bend".into(), usual.bend.into());
        trace.insert("colours".into(), serde_json::json!(usual.colours));
    }
}

#[cfg(test)]
mod tests {
    use crate::Document;

    #[test]
    fn old_documents_of_any_shape_are_refused_with_words() {
        for version in 0..=super::VERSION + 1 {
            for rest in [
                "",
                r#","trace":5"#,
                r#","trace":[1,2],"measures":"x""#,
                r#","trace":{"min_area":null},"other_measures":[3]"#,
                r#","recipe":7,"measures":{"wall-height":"high"},"tiers":{},"guesses":4"#,
                r#","prepare":1,"choices":"no","size":[]"#,
            ] {
                let text = format!("{{\"version\":{version}{rest}}}");
                assert!(Document::from_json(&text).is_err(), "{text}");
            }
        }
        for text in ["", "null", "[]", "7", "{\"version\":\"1\"}", "[{\"version\":1}]"] {
            assert!(Document::from_json(text).is_err(), "{text}");
        }
    }
}
