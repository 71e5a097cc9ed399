use regex_lite::{Captures, Regex};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

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
}

/// Text that is no length.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum LengthError {
    /// Nothing was typed.
    #[error("type a length, such as 3 mm or 1/8 in")]
    Empty,
    /// There is no number in front.
    #[error("'{text}' is not a length; type one such as 3 mm, 2,5 or 1/8 in")]
    NotANumber {
        /// What was typed, cut to 40 characters.
        text: String,
    },
    /// It is none of those that can be chosen.
    #[error("'{text}' cannot be chosen here; there are {known}")]
    NotAmong {
        /// What was typed, cut to 40 characters.
        text: String,
        /// What there is.
        known: String,
    },
    /// The unit is not known.
    #[error("'{unit}' is not a unit of length here; mm, cm and in are")]
    UnknownUnit {
        /// What stood behind the number, cut to 40 characters.
        unit: String,
    },
}

/// A length as people read it, with its unit: to a thousandth of a millimetre or a ten-thousandth of an inch.
pub fn show_length(mm: f64, unit: Unit) -> String {
    let (value, digits, name) = match unit {
        Unit::Mm => (mm, 1e3, "mm"),
        Unit::In => (mm / 25.4, 1e4, "in"),
    };
    format!("{} {name}", (value * digits).round() / digits + 0.0)
}

/// A sentence with its lengths and areas in a unit: sentences are made in millimetres, as in '30 × 20.5 mm' or '2 to 3 mm'.
/// None of them has digits that only come from floating point.
pub fn words_in(text: &str, unit: Unit) -> String {
    static LENGTHS: LazyLock<Regex> = LazyLock::new(|| {
        Regex::new(r"(\d+(?:\.\d+)?(?:(?: × | x | to | and )\d+(?:\.\d+)?)*) mm(²?)").expect("it is one")
    });
    static NUMBER: LazyLock<Regex> = LazyLock::new(|| Regex::new(r"\d+(?:\.\d+)?").expect("it is one"));
    let said = LENGTHS.replace_all(text, |c: &Captures<'_>| {
        let is_area = &c[2] == "²";
        let one = if is_area { unit.mm() * unit.mm() } else { unit.mm() };
        let number = |n: &Captures<'_>| match (n[0].parse::<f64>(), unit) {
            // As it was written, unless it is long.
            (Ok(_), Unit::Mm) if n[0].split_once('.').is_none_or(|(_, digits)| digits.len() <= 3) => n[0].to_string(),
            (Ok(mm), _) => ((mm / one * 1e3).round() / 1e3).to_string(),
            (Err(_), _) => n[0].to_string(),
        };
        let name = if unit == Unit::Mm { "mm" } else { "in" };
        format!("{} {name}{}", NUMBER.replace_all(&c[1], number), &c[2])
    });
    said.into_owned()
}

/// Reads a length in millimetres: a number (`3`, `2,5`, `.5`), a fraction (`1/8`) or both (`1 1/2`), then a unit
/// (`mm`, `cm`, `in`, `"`) or none, which means `unit`.
pub fn parse_length(text: &str, unit: Unit) -> Result<f64, LengthError> {
    let text = text.trim();
    if text.is_empty() {
        return Err(LengthError::Empty);
    }
    let short = |s: &str| s.chars().take(40).collect::<String>();
    let split = text.find(|c: char| !(c.is_ascii_digit() || " .,/+-\u{2212}".contains(c))).unwrap_or(text.len());
    let (number, name) = text.split_at(split);
    let value = parse_number(number.trim()).ok_or_else(|| LengthError::NotANumber { text: short(text) })?;
    let mm = match name.trim().to_ascii_lowercase().as_str() {
        "" => unit.mm(),
        "mm" => 1.0,
        "cm" => 10.0,
        "in" | "inch" | "inches" | "\"" | "\u{2033}" => 25.4,
        _ => return Err(LengthError::UnknownUnit { unit: short(name.trim()) }),
    };
    Ok(value * mm)
}

fn parse_number(text: &str) -> Option<f64> {
    let text = text.replace(',', ".").replace('\u{2212}', "-");
    let decimal = |s: &str| s.trim().parse::<f64>().ok().filter(|v| v.is_finite());
    let fraction = |s: &str| {
        let (a, b) = s.split_once('/')?;
        let (a, b) = (decimal(a)?, decimal(b)?);
        (b > 0.0).then(|| a / b)
    };
    if !text.contains('/') {
        return decimal(&text);
    }
    match text.rsplit_once(' ').map(|(w, f)| (w.trim(), f)) {
        Some((whole, part)) if !whole.contains('/') && !whole.is_empty() && !part.starts_with('/') => {
            let whole = decimal(whole)?;
            Some(whole + fraction(part)?.copysign(whole))
        }
        _ => fraction(&text),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn sentences_are_told_in_either_unit() {
        for (text, mm, inches) in [
            ("The wall is 7.619999999 mm thick", "The wall is 7.62 mm thick", "The wall is 0.3 in thick"),
            (
                "It is 30 × 20.5 × 4 mm; at most 254 mm",
                "It is 30 × 20.5 × 4 mm; at most 254 mm",
                "It is 1.181 × 0.807 × 0.157 in; at most 10 in",
            ),
            ("between 25.4 to 50.8 mm", "between 25.4 to 50.8 mm", "between 1 to 2 in"),
            ("645.16 mm² are cut off", "645.16 mm² are cut off", "1 in² are cut off"),
            ("25 loose pieces by 1.0 mm.", "25 loose pieces by 1.0 mm.", "25 loose pieces by 0.039 in."),
            ("no length in it", "no length in it", "no length in it"),
        ] {
            assert_eq!((words_in(text, Unit::Mm), words_in(text, Unit::In)), (mm.into(), inches.into()));
        }
    }

    #[test]
    fn reads_what_makers_type() {
        for (text, unit, mm) in [
            ("3", Unit::Mm, 3.0),
            ("3 mm", Unit::In, 3.0),
            ("1/8 in", Unit::Mm, 3.175),
            ("0.4in", Unit::Mm, 10.16),
            ("2,5", Unit::Mm, 2.5),
            ("1 1/2\"", Unit::Mm, 38.1),
            (" .5 CM ", Unit::Mm, 5.0),
            ("1", Unit::In, 25.4),
            ("-5", Unit::Mm, -5.0),
            ("1 / 16 in", Unit::Mm, 1.5875),
        ] {
            let got = parse_length(text, unit).unwrap_or_else(|e| panic!("{text}: {e}"));
            assert!((got - mm).abs() < 1e-12, "{text}: {got}");
        }
    }

    #[test]
    fn refuses_what_is_no_length() {
        for text in ["abc", "NaN", "mm", "1/0", "1//2", "--3", "1.2.3", "inf"] {
            assert!(matches!(parse_length(text, Unit::Mm), Err(LengthError::NotANumber { .. })), "{text}");
        }
        assert_eq!(parse_length("  ", Unit::Mm), Err(LengthError::Empty));
        assert_eq!(parse_length("3 ells", Unit::Mm), Err(LengthError::UnknownUnit { unit: "ells".into() }));
        assert_eq!(parse_length("1e9", Unit::Mm), Err(LengthError::UnknownUnit { unit: "e9".into() }));
    }

    #[test]
    fn any_number_with_any_unit_is_read_back() {
        let mut random = kachel_oracle::Random::new(5);
        for _ in 0..2000 {
            let value = (random.between(-500.0, 500.0) * 1000.0).round() / 1000.0;
            for (name, mm) in [("mm", 1.0), ("cm", 10.0), ("in", 25.4), ("\"", 25.4), ("", 1.0)] {
                let dot = format!("{value}{name}");
                assert_eq!(parse_length(&dot, Unit::Mm), Ok(value * mm), "{dot}");
                let comma = format!("  {} {name} ", value.to_string().replace('.', ","));
                assert_eq!(parse_length(&comma, Unit::Mm), Ok(value * mm), "{comma}");
            }
        }
    }

    #[test]
    fn any_text_is_read_or_refused_and_never_crashes() {
        let mut random = kachel_oracle::Random::new(9);
        let letters: Vec<char> = "0123456789.,/+- \u{2212}\u{2033}\"mcinXé\u{0}\u{1F9C1}".chars().collect();
        for _ in 0..20_000 {
            let text: String = (0..random.below(9)).map(|_| letters[random.below(letters.len())]).collect();
            match parse_length(&text, Unit::In) {
                Ok(mm) => assert!(mm.is_finite(), "{text:?}"),
                Err(e) => assert!(!e.to_string().is_empty()),
            }
        }
    }
}
