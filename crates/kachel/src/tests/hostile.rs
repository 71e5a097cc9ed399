//! Documents from outside, with any number in any place: refused, or computed without harm.

use super::*;
use serde_json::Value as Json;

/// Places of all numbers of a document.
fn numbers(value: &Json, at: &str, out: &mut Vec<String>) {
    match value {
        Json::Number(_) => out.push(at.to_string()),
        Json::Array(all) => all.iter().enumerate().for_each(|(k, v)| numbers(v, &format!("{at}/{k}"), out)),
        Json::Object(all) => all.iter().for_each(|(k, v)| numbers(v, &format!("{at}/{k}"), out)),
        Json::Null | Json::Bool(_) | Json::String(_) => {}
    }
}

#[test]
fn any_number_in_any_place_of_a_document_is_refused_or_does_no_harm() {
    let mut design = Design::from_bytes(
        b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M10 10h80v80h-80zM70 60h10v20h-10z'/></svg>",
    );
    let spot = Spot::of(&design.run().patches[0]);
    let at = |x: f64, y: f64| Point::new(x, y);
    let node = |x: f64, y: f64| Node { at: at(x, y), before: None, after: Some(at(x + 3.0, y)) };
    let line = DrawnLine { nodes: vec![node(20.0, 20.0), node(60.0, 30.0), node(40.0, 80.0)], is_closed: true };
    let add = |change: Change| OutlineEdit::AddChange { change, before: None }.into();
    design
        .edit(&[
            add(Change::Shape {
                shape: Shape::Ring { width: 9.0, hole: 4.0 },
                at: at(30.0, 30.0),
                degrees: 5.0,
                use_: Use::Detail,
            }),
            add(Change::Draw { line, width: None, use_: Use::Detail }),
            add(Change::Grow { on: vec![spot], by: 0.5, corner: Corner::Round }),
            OutlineEdit::SetGuides { guides: vec![kachel_design::Guide { is_upright: true, at: 50.0 }] }.into(),
            OutlineEdit::SetUses { choices: vec![Choice { spot, use_: Use::Both }] }.into(),
            TierEdit::SetBars { bars: Some(vec![kachel_tiers::Bar { from: at(10.0, 10.0), to: at(80.0, 80.0) }]) }
                .into(),
            TierEdit::AddTier {
                tier: kachel_tiers::OwnTier { from: 2.0, to: 5.0, grow: 0.4, ..own_tier(&mut Random::new(7)) },
            }
            .into(),
            measure("wall-height", "14"),
            width("60 mm"),
        ])
        .unwrap();
    let whole: Json = serde_json::from_str(&design.document.to_json().unwrap()).unwrap();
    let mut places = Vec::new();
    numbers(&whole, "", &mut places);
    assert!(places.len() > 40, "{}", places.len());
    let mut computed = 0;
    for place in &places {
        for hostile in [1e300, 1e20, -1e9, 1e6, 0.0, -1.0, 1e-300] {
            let mut changed = whole.clone();
            *changed.pointer_mut(place).unwrap() = hostile.into();
            let Ok(document) = Document::from_json(&changed.to_string()) else { continue };
            if document.refusal().is_some() {
                continue;
            }
            computed += 1;
            let tried = Design { document, ..design.clone() };
            let run = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| tried.run()));
            let run = run.unwrap_or_else(|_| panic!("{place} = {hostile}"));
            assert!(run.failed.is_some() || run.solid.is_some(), "{place} = {hostile}");
        }
    }
    assert!(computed > 20, "{computed}");
}
