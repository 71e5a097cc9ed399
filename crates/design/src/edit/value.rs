use super::error::{EditError, in_range};
use kachel_tiers::{LengthError, MeasureSpec, Unit, parse_length};
use kachel_words::{Message, Value as Said, mm as length};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A length: in millimetres, or as somebody typed it, with or without a unit. It is parsed once, where the edit is applied.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(untagged)]
pub enum Length {
    /// Millimetres.
    Mm(f64),
    /// Text such as `3`, `3 mm`, `1/8 in` or `2,5`.
    Typed(String),
}

impl Length {
    /// Millimetres; a number without a unit is in `unit`.
    pub fn mm(&self, unit: Unit) -> Result<f64, LengthError> {
        match self {
            Self::Mm(mm) if mm.is_finite() => Ok(*mm),
            Self::Mm(mm) => Err(LengthError::NotANumber { text: mm.to_string() }),
            Self::Typed(text) => parse_length(text, unit),
        }
    }

    /// The length, if it is in range; otherwise what it is of, in the range's own words.
    pub(crate) fn within(&self, what: Message, range: (f64, f64), unit: Unit) -> Result<f64, EditError> {
        let mm = self.mm(unit)?;
        in_range(what, mm, range, length)?;
        // Typed inches may miss a bound by a rounding.
        Ok(mm.clamp(range.0, range.1))
    }

    /// As undo names it.
    pub(crate) fn words(&self) -> Said {
        match self {
            Self::Mm(mm) => length(*mm),
            Self::Typed(text) => text.trim().into(),
        }
    }
}

impl From<&str> for Length {
    fn from(text: &str) -> Self {
        Self::Typed(text.into())
    }
}

impl From<String> for Length {
    fn from(text: String) -> Self {
        Self::Typed(text)
    }
}

impl From<f64> for Length {
    fn from(mm: f64) -> Self {
        Self::Mm(mm)
    }
}

/// The value of a measure: a number (millimetres of a length, a count, or the place of a choice in its list), or text as
/// somebody typed it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(untagged)]
pub enum Value {
    /// The number itself.
    Number(f64),
    /// A length with or without a unit, a whole number, or the name of a choice.
    Typed(String),
}

impl Value {
    /// The number that it gives a measure; a length without a unit is in `unit`.
    pub(crate) fn of(&self, spec: &MeasureSpec, unit: Unit) -> Result<f64, LengthError> {
        match self {
            Self::Number(number) => Ok(*number),
            Self::Typed(text) => spec.parse(text, unit),
        }
    }
}

impl From<&str> for Value {
    fn from(text: &str) -> Self {
        Self::Typed(text.into())
    }
}

impl From<String> for Value {
    fn from(text: String) -> Self {
        Self::Typed(text)
    }
}

impl From<f64> for Value {
    fn from(number: f64) -> Self {
        Self::Number(number)
    }
}
