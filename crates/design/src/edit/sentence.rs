//! What undo says that it takes back.

use super::{Axis, Edit, GeneralEdit, Length, OutlineEdit, SizeOf, TierEdit, Value};
use crate::document::Document;
use kachel_outline::Use;
use kachel_tiers::{MeasureKind, MeasureSpec, Unit, parse_length, show_length};

impl Edit {
    /// What it does to a document, as a maker would say it: 'Wall 18 mm high'. Lengths are in the document's unit.
    pub fn sentence(&self, before: &Document) -> String {
        let unit = before.unit;
        match self {
            Self::Tiers(TierEdit::SetMeasure { name, value }) => {
                let spec = before.recipe.recipe().measure(name).ok();
                let said = spec.and_then(|s| value_of(s, value, unit).map(|v| measured(s, v, unit)));
                said.unwrap_or_else(|| self.label())
            }
            Self::Tiers(TierEdit::ResetMeasure { name }) => {
                let spec = before.recipe.recipe().measure(name).ok();
                spec.map_or_else(|| self.label(), |s| format!("{}: {} as usual", s.group, lower(s.label)))
            }
            Self::Tiers(TierEdit::SetRecipe { recipe }) => format!("Made a {}", lower(recipe.recipe().label)),
            Self::General(GeneralEdit::SetSize { axis, value, of }) => {
                let what = match of {
                    SizeOf::Drawing => "Drawing",
                    SizeOf::Edge => "Cookie",
                    SizeOf::Object => "Whole object",
                };
                let how = if *axis == Axis::Width { "wide" } else { "high" };
                mm_of(value, unit).map_or_else(|| self.label(), |mm| format!("{what} {} {how}", show_length(mm, unit)))
            }
            Self::General(GeneralEdit::Rename { name }) => format!("Called '{}'", name.trim()),
            Self::General(GeneralEdit::SetUnit { unit: Unit::Mm }) => "In millimetres".into(),
            Self::General(GeneralEdit::SetUnit { unit: Unit::In }) => "In inches".into(),
            Self::Outline(OutlineEdit::SetUses { choices }) => match choices.as_slice() {
                [one] => format!("A patch {}", used(one.use_)),
                [first, more @ ..] if more.iter().all(|c| c.use_ == first.use_) => {
                    format!("{} patches: each {}", choices.len(), used(first.use_))
                }
                _ => self.label(),
            },
            Self::General(_) | Self::Picture(_) | Self::Outline(_) | Self::Tiers(_) => self.label(),
        }
    }
}

fn used(u: Use) -> &'static str {
    match u {
        Use::Edge => "shapes the object",
        Use::Detail => "is drawn on it",
        Use::Both => "shapes the object and is drawn",
        Use::Opening => "is cut through",
        Use::Aside => "is put aside",
    }
}

fn mm_of(value: &Length, unit: Unit) -> Option<f64> {
    match value {
        Length::Mm(mm) => Some(*mm),
        Length::Typed(text) => parse_length(text, unit).ok(),
    }
}

fn value_of(spec: &MeasureSpec, value: &Value, unit: Unit) -> Option<f64> {
    match value {
        Value::Number(v) => Some(*v),
        Value::Typed(text) => spec.parse(text, unit).ok(),
    }
}

fn measured(spec: &MeasureSpec, value: f64, unit: Unit) -> String {
    let is_length = matches!(spec.kind, MeasureKind::Length | MeasureKind::Height);
    let said = if is_length { show_length(value, unit) } else { spec.words(value) };
    let how = match spec.label {
        "Height" => "high",
        "Thickness" => "thick",
        "Width" => "wide",
        "Depth" => "deep",
        "Across" => "across",
        _ => return format!("{}: {} {}", spec.group, lower(spec.label), if is_length { said } else { lower(&said) }),
    };
    format!("{} {said} {how}", spec.group)
}

/// A label within a sentence; what begins with two capitals, as initials do, keeps them.
fn lower(label: &str) -> String {
    let mut letters = label.chars();
    match (letters.next(), letters.next()) {
        (Some(a), Some(b)) if b.is_lowercase() || b == ' ' => a.to_lowercase().chain(label.chars().skip(1)).collect(),
        _ => label.into(),
    }
}
