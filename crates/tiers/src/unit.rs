use kachel_words::{Unit, msg, said};

/// Text that is no length.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum LengthError {
    /// Nothing was typed.
    Empty,
    /// There is no number in front.
    NotANumber {
        /// What was typed, cut to 40 characters.
        text: String,
    },
    /// It is none of those that can be chosen.
    NotAmong {
        /// What was typed, cut to 40 characters.
        text: String,
        /// What there is.
        known: String,
    },
    /// The unit is not known.
    UnknownUnit {
        /// What stood behind the number, cut to 40 characters.
        unit: String,
    },
}

said!(LengthError: |e| match e {
    LengthError::Empty => msg!("no-length"),
    LengthError::NotANumber { text } => msg!("not-a-length", text = text),
    LengthError::NotAmong { text, known } => msg!("not-among", text = text, known = known),
    LengthError::UnknownUnit { unit } => msg!("unknown-unit", typed = unit),
});

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
