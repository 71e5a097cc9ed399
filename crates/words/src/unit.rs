use serde::{Deserialize, Serialize};

/// Units in which lengths are shown and typed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Unit {
    /// Millimetres.
    #[default]
    Mm,
    /// Inches of 25.4 mm (exact since 1959).
    In,
}

impl Unit {
    /// Millimetres in one of it.
    pub const fn mm(self) -> f64 {
        match self {
            Self::Mm => 1.0,
            Self::In => 25.4,
        }
    }

    /// Its symbol.
    pub const fn symbol(self) -> &'static str {
        match self {
            Self::Mm => "mm",
            Self::In => "in",
        }
    }
}

/// A length as people read it, with its unit: to a thousandth of a millimetre or a ten-thousandth of an inch.
pub(crate) fn show_length(mm: f64, unit: Unit) -> String {
    let digits = match unit {
        Unit::Mm => 1e3,
        Unit::In => 1e4,
    };
    format!("{} {}", (mm / unit.mm() * digits).round() / digits + 0.0, unit.symbol())
}
