//! What undo says that it takes back.

use super::{Axis, Edit, GeneralEdit, OutlineEdit, SizeOf, TierEdit};
use crate::document::Document;
use kachel_outline::Use;
use kachel_tiers::{MeasureSpec, Unit};
use kachel_words::{Message, mm, msg};

impl Edit {
    /// What it does to a document, as a maker would say it: 'Wall 18 mm high'.
    pub fn sentence(&self, before: &Document) -> Message {
        let unit = before.unit;
        match self {
            Self::Tiers(TierEdit::SetMeasure { name, value }) => {
                let spec = before.recipe.recipe().measure(name).ok();
                let said = spec.and_then(|s| value.of(s, unit).ok().map(|v| measured(s, v)));
                said.unwrap_or_else(|| self.label())
            }
            Self::Tiers(TierEdit::ResetMeasure { name }) => {
                let spec = before.recipe.recipe().measure(name).ok();
                spec.map_or_else(|| self.label(), |s| msg!("measure-usual", part = s.part(), label = s.label()))
            }
            Self::Tiers(TierEdit::SetRecipe { recipe }) => msg!("made-a", recipe = recipe.recipe().label()),
            Self::General(GeneralEdit::SetSize { axis, value, of }) => {
                let code = match (of, axis) {
                    (SizeOf::Drawing, Axis::Width) => "drawing-wide",
                    (SizeOf::Drawing, Axis::Height) => "drawing-high",
                    (SizeOf::Edge, Axis::Width) => "cookie-wide",
                    (SizeOf::Edge, Axis::Height) => "cookie-high",
                    (SizeOf::Object, Axis::Width) => "object-wide",
                    (SizeOf::Object, Axis::Height) => "object-high",
                };
                value.mm(unit).map_or_else(|_| self.label(), |v| msg!(code, value = mm(v)))
            }
            Self::General(GeneralEdit::Rename { name }) => msg!("called", name = name.trim()),
            Self::General(GeneralEdit::SetUnit { unit: Unit::Mm }) => msg!("in-millimetres"),
            Self::General(GeneralEdit::SetUnit { unit: Unit::In }) => msg!("in-inches"),
            Self::Outline(OutlineEdit::SetUses { choices }) => match choices.as_slice() {
                [first, more @ ..] if more.iter().all(|c| c.use_ == first.use_) => {
                    msg!("patches-used", n = choices.len(), used = msg!(used(first.use_)))
                }
                _ => self.label(),
            },
            Self::General(_) | Self::Picture(_) | Self::Outline(_) | Self::Tiers(_) => self.label(),
        }
    }
}

fn used(u: Use) -> &'static str {
    match u {
        Use::Edge => "used-as-edge",
        Use::Detail => "used-as-detail",
        Use::Both => "used-as-both",
        Use::Opening => "used-as-opening",
        Use::Aside => "used-aside",
    }
}

/// As the measure itself says it, or with its part and its name.
fn measured(spec: &MeasureSpec, value: f64) -> Message {
    let own = spec.label().with("part", spec.part()).with("value", spec.words(value));
    own.part("set")
        .unwrap_or_else(|| msg!("measure-set", part = spec.part(), label = spec.label(), value = spec.words(value)))
}
