use crate::document::MAX_CHOICES;
use kachel_artwork::ArtworkError;
use kachel_outline::OutlineError;
use kachel_pack::MAX_PIECES;
use kachel_tiers::{LengthError, MeasureError};
use kachel_words::{Message, Value, msg, number, said};

/// Why an edit was refused. Nothing was changed.
#[derive(Debug, thiserror::Error)]
pub enum EditError {
    /// What was typed is no length.
    Length(#[from] LengthError),
    /// A length outside its range.
    OutOfRange {
        /// What it is.
        what: Message,
        /// What was asked for.
        value: Value,
        /// Smallest value, with its unit.
        min: Value,
        /// Largest value, with its unit.
        max: Value,
    },
    /// There is no such measure.
    Measure(MeasureError),
    /// An empty or overlong name, or overlong credit.
    Text {
        /// What it is: the code of its message.
        what: &'static str,
        /// How long it is.
        length: usize,
        /// Fewest characters.
        min: usize,
        /// Most characters.
        max: usize,
    },
    /// A name of a tier or filament that is none.
    Name {
        /// What it names: the code of its message.
        what: &'static str,
        /// How long it is.
        length: usize,
        /// Most characters.
        max: usize,
    },
    /// Too many choices.
    TooManyChoices {
        /// How many there would be.
        found: usize,
    },
    /// A point that is no point.
    NoPoint,
    /// A change that can never be applied.
    Change {
        /// Why not.
        why: Message,
    },
    /// The patch is pinned.
    Pinned,
    /// There is no such tier.
    UnknownTier,
    /// There is no such entry.
    UnknownChange,
    /// There is no such piece on the bed.
    UnknownPiece,
    /// More pieces than a bed holds.
    TooManyPieces {
        /// How many there would be.
        found: usize,
    },
    /// Two points that are one.
    EqualPoints,
    /// The file states no size that makes sense.
    NoFileSize,
    /// No sheet was found in the picture.
    NoSheet,
    /// A tool for pixels on a picture of lines.
    NoPixels,
    /// Too many strokes, or too many points in them.
    TooManyStrokes {
        /// Strokes or points of strokes: the code of the message.
        what: &'static str,
        /// How many there would be.
        found: usize,
        /// How many there can be.
        most: usize,
    },
    /// The picture cannot be prepared so.
    Artwork(#[from] ArtworkError),
    /// The size cannot be set while nothing is the edge.
    Outline(#[from] OutlineError),
}

said!(EditError: |e| match e {
    EditError::Length(e) => e.message(),
    EditError::OutOfRange { what, value, min, max } => {
        msg!("out-of-range", what = what.clone(), value = value.clone(), min = min.clone(), max = max.clone())
    }
    EditError::Measure(e) => e.message(),
    EditError::Text { what, length, min, max } => {
        msg!("text-length", what = Message::new(*what), n = *length, min = *min, max = *max)
    }
    EditError::Name { what, length, max } => msg!("name-length", what = Message::new(*what), n = *length, max = *max),
    EditError::TooManyChoices { found } => msg!("too-many-choices", n = *found, most = MAX_CHOICES),
    EditError::NoPoint => msg!("no-point"),
    EditError::Change { why } => msg!("impossible-change", why = why.clone()),
    EditError::Pinned => msg!("pinned"),
    EditError::UnknownTier => msg!("unknown-tier"),
    EditError::UnknownChange => msg!("unknown-change"),
    EditError::UnknownPiece => msg!("unknown-piece"),
    EditError::TooManyPieces { found } => msg!("too-many-pieces", n = *found, most = MAX_PIECES),
    EditError::EqualPoints => msg!("equal-points"),
    EditError::NoFileSize => msg!("no-file-size"),
    EditError::NoSheet => msg!("no-sheet"),
    EditError::NoPixels => msg!("no-pixels"),
    EditError::TooManyStrokes { what, found, most } => msg!(*what, n = *found, most = *most),
    EditError::Artwork(e) => e.message(),
    EditError::Outline(e) => e.message(),
});

pub(crate) fn in_range(
    what: Message,
    value: f64,
    (min, max): (f64, f64),
    show: impl Fn(f64) -> Value,
) -> Result<(), EditError> {
    // Typed inches may miss a bound by a rounding.
    if value >= min - 1e-9 && value <= max + 1e-9 {
        return Ok(());
    }
    Err(EditError::OutOfRange { what, value: show(value), min: show(min), max: show(max) })
}

/// A number in a unit that is no length: the code of the message that says both.
pub(crate) fn in_unit(code: &'static str) -> impl Fn(f64) -> Value {
    move |v| msg!(code, n = number(v)).into()
}

/// Infill in percent, where some is said.
pub(crate) fn infill_in_range(infill: Option<f64>) -> Result<(), EditError> {
    infill.map_or(Ok(()), |v| in_range(msg!("field-infill"), v, (0.0, 100.0), in_unit("percent")))
}

/// Text without control characters, if it has a length in range.
pub(crate) fn text(what: &'static str, value: &str, min: usize, max: usize) -> Result<String, EditError> {
    let value = value.trim();
    let length = value.chars().count();
    if length < min || length > max {
        return Err(EditError::Text { what, length, min, max });
    }
    Ok(value.chars().map(|c| if c.is_control() { ' ' } else { c }).collect())
}
