//! Two states of one design, and in what they differ.

use super::{FindingView, MeasureView, ResultView};
use kachel_words::{Message, Unit, mm, msg, number, size};
use serde::Serialize;
use ts_rs::TS;

/// What a line of a comparison is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Compared {
    /// The whole object; these lines are there even where both states are the same.
    Object,
    /// A measure of the recipe.
    Measure,
    /// A finding of Check.
    Finding,
    /// A figure that Check measured.
    Measured,
}

/// A line of a comparison.
#[derive(Clone, Debug, PartialEq, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct DifferenceView {
    /// What it is about.
    pub of: Compared,
    /// Its name.
    pub what: String,
    /// How it was in the earlier state; `None` where it was not there.
    pub then: Option<String>,
    /// How it is now; `None` where it is no more.
    pub now: Option<String>,
}

/// A line of one state.
struct Line {
    /// By this the line of the other state is found.
    key: String,
    /// Its name.
    what: String,
    /// Its words.
    said: String,
}

/// In what two states differ. Both are to be shown in the same unit, which is that of the words.
pub fn differences(then: &ResultView, now: &ResultView, unit: Unit) -> Vec<DifferenceView> {
    let object = |(of_then, of_now): (Fact, Fact)| DifferenceView {
        of: Compared::Object,
        what: Message::new(of_now.0).said(unit),
        then: of_then.1,
        now: of_now.1,
    };
    let mut all: Vec<_> = facts(then, unit).into_iter().zip(facts(now, unit)).map(object).collect();
    // Another recipe has other measures: then the recipe is the difference.
    if then.recipe == now.recipe {
        all.extend(paired(Compared::Measure, &measures(then, unit), &measures(now, unit)));
    }
    all.extend(paired(Compared::Finding, &findings(then), &findings(now)));
    all.extend(paired(Compared::Measured, &measured(then), &measured(now)));
    all
}

type Fact = (&'static str, Option<String>);

/// Of the whole object.
fn facts(r: &ResultView, unit: Unit) -> [Fact; 4] {
    let s = r.solid.as_ref();
    let sized = |sides: [f64; 3]| size(sides).decimals(2).said(unit);
    [
        ("fact-recipe", Some(r.recipe.clone())),
        ("fact-size", s.map(|s| sized(s.size))),
        ("fact-volume", s.map(|s| msg!("cubic-centimetres", n = number(s.volume / 1000.0).decimals(2)).said(unit))),
        ("fact-layers", s.map(|s| s.layers.to_string())),
    ]
}

fn measures(r: &ResultView, unit: Unit) -> Vec<Line> {
    let said = |m: &MeasureView| {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a place among options")]
        let chosen = m.options.get(m.value as usize);
        match chosen {
            Some(o) => o.label.clone(),
            None if m.is_length => mm(m.value).decimals(2).said(unit),
            None => m.value.to_string(),
        }
    };
    let line = |m: &MeasureView| Line {
        key: m.name.into(),
        // Choices are mostly called as what they are of.
        what: if m.group == m.label {
            m.label.clone()
        } else {
            msg!("fact-measure", part = &m.group, label = &m.label).said(unit)
        },
        said: said(m),
    };
    r.measures.iter().map(line).collect()
}

/// Findings of one kind are taken in their order.
fn findings(r: &ResultView) -> Vec<Line> {
    let nth = |k: usize| r.findings[..k].iter().filter(|f| f.code == r.findings[k].code).count();
    let line = |(k, f): (usize, &FindingView)| Line {
        key: format!("{} {}", f.code, nth(k)),
        what: Message::new(format!("kind-{}", f.code)).to_string(),
        said: f.what.clone(),
    };
    r.findings.iter().enumerate().map(line).collect()
}

fn measured(r: &ResultView) -> Vec<Line> {
    r.looked.iter().map(|l| Line { key: l.what.clone(), what: l.what.clone(), said: l.said.clone() }).collect()
}

/// What both have with other words, and what only one of them has; in the order of the present state, what is gone last.
fn paired(of: Compared, then: &[Line], now: &[Line]) -> Vec<DifferenceView> {
    let said = |all: &[Line], key: &str| all.iter().find(|l| l.key == key).map(|l| l.said.clone());
    let gone = then.iter().filter(|l| said(now, &l.key).is_none());
    let line = |l: &Line| DifferenceView { of, what: l.what.clone(), then: said(then, &l.key), now: said(now, &l.key) };
    now.iter().chain(gone).map(line).filter(|d| d.then != d.now).collect()
}
