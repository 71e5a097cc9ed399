//! Times as a maker types them.

use kachel_words::{msg, said};

/// What is no time.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub struct NoTime;

said!(NoTime: |e| {
    let NoTime = e;
    msg!("no-time")
});

/// `35`, `35 min`, `1:30`, `1h30` or `1 h 30 min` as seconds: a minute to eleven days.
pub fn parse_time(text: &str) -> Result<f64, NoTime> {
    let plain = text.trim().to_ascii_lowercase();
    let plain = plain.strip_suffix("min").or_else(|| plain.strip_suffix('m')).unwrap_or(&plain);
    let (hours, minutes) = plain.split_once(['h', ':']).unwrap_or(("0", plain));
    let number = |s: &str| if s.trim().is_empty() { Ok(0.0) } else { s.trim().parse::<f64>().map_err(|_| NoTime) };
    let (hours, minutes) = (number(hours)?, number(minutes)?);
    let seconds = 3600.0 * hours + 60.0 * minutes;
    if hours >= 0.0 && minutes >= 0.0 && (60.0..=1e6).contains(&seconds) { Ok(seconds) } else { Err(NoTime) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn times_are_read_as_they_are_written() {
        for (text, minutes) in [
            ("35", 35.0),
            ("35min", 35.0),
            (" 90 min ", 90.0),
            ("1h30", 90.0),
            ("1 h 05 min", 65.0),
            ("1:30", 90.0),
            ("2h", 120.0),
            ("1.5h", 90.0),
        ] {
            assert_eq!(parse_time(text), Ok(60.0 * minutes), "{text}");
        }
        for text in ["", "soon", "0", "-5", "1h-30", "nan", "inf", "1e99", "30s", "1:2:3"] {
            assert_eq!(parse_time(text), Err(NoTime), "{text}");
        }
    }
}
