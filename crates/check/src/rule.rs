//! What a rule is, and what rules have in common.

use crate::finding::Code;
use crate::object::Object;
use crate::report::Report;
use kachel_design::{Edit, GeneralEdit, Length, TierEdit, Value};
use kachel_geom::{OffGrid, Stopped};
use kachel_tiers::{Choice, ChoiceMeasure, Handle, Measure, MeasureKind};
use kachel_words::{Message, msg};

/// Why a rule could not run.
#[derive(Debug, thiserror::Error)]
pub enum Fault {
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
    /// An area that the rule needs does not fit the grid.
    #[error(transparent)]
    OffGrid(#[from] OffGrid),
}

/// One rule, or a family of them.
#[derive(Clone, Copy, Debug)]
pub struct Rule {
    /// What it looks at, to stand behind 'Check looks at': the code of its message.
    pub looks_at: &'static str,
    /// Kinds of findings that it has.
    pub codes: &'static [Code],
    /// Looks, and adds what it finds.
    pub run: fn(&Object<'_>, &mut Report) -> Result<(), Fault>,
}

/// A rule that could not run.
pub const RULE_FAILED: Code = Code::poor("rule-failed");

/// The edit that gives a measure a value.
pub(crate) fn set(measure: impl Into<Measure>, value: f64) -> Edit {
    TierEdit::SetMeasure { name: measure.into().name().into(), value: Value::Number(value) }.into()
}

/// The edit that makes the whole drawing larger or smaller by a factor.
pub(crate) fn scaled(o: &Object<'_>, factor: f64) -> Edit {
    GeneralEdit::SetScale { mm_per_px: o.outline.mm_per_px * factor }.into()
}

/// The edit that puts an end of a tier at a height above the bed, mm.
pub(crate) fn moved(h: &Handle, to: f64) -> Edit {
    let value = Length::Mm((to * 1000.0).round() / 1000.0);
    TierEdit::SetHeight { name: h.name.clone(), own: h.own, base: h.base, is_down: h.is_down, from: 0.0, value }.into()
}

/// The edit that chooses something. `None` where the recipe does not offer it.
pub(crate) fn choose<C: Choice>(o: &Object<'_>, measure: ChoiceMeasure<C>, choice: C) -> Option<Edit> {
    let MeasureKind::Choice(of) = o.measures.spec(measure)?.kind else { return None };
    of.iter().position(|option| option.0 == choice.name()).map(|place| set(measure, place as f64))
}

/// A value that mends something, held within the range of the measure it is for.
pub(crate) fn held(o: &Object<'_>, measure: impl Into<Measure>, value: f64) -> f64 {
    o.measures.spec(measure).map_or(value, |s| s.held(value))
}

/// One place, or so many of them.
pub(crate) fn places(n: usize) -> Message {
    msg!("places", n = n)
}
