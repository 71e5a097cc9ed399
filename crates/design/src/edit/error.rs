use crate::document::MAX_CHOICES;
use kachel_artwork::ArtworkError;
use kachel_outline::OutlineError;
use kachel_pack::MAX_PIECES;
use kachel_tiers::{LengthError, MeasureError};

/// Why an edit was refused. Nothing was changed.
#[derive(Debug, thiserror::Error)]
pub enum EditError {
    /// What was typed is no length.
    #[error(transparent)]
    Length(#[from] LengthError),
    /// A length outside its range.
    #[error("{what} can be {min} to {max}; {value} is outside")]
    OutOfRange {
        /// What it is.
        what: String,
        /// What was asked for.
        value: String,
        /// Smallest value, with its unit.
        min: String,
        /// Largest value, with its unit.
        max: String,
    },
    /// There is no such measure.
    #[error(transparent)]
    Measure(MeasureError),
    /// An empty or overlong name, or overlong credit.
    #[error("{what} has {length} characters; it can have {min} to {max}")]
    Text {
        /// What it is.
        what: &'static str,
        /// How long it is.
        length: usize,
        /// Fewest characters.
        min: usize,
        /// Most characters.
        max: usize,
    },
    /// A name of a tier or filament that is none.
    #[error("{what} is named by 1 to {max} characters; this name has {length}")]
    Name {
        /// What it names.
        what: &'static str,
        /// How long it is.
        length: usize,
        /// Most characters.
        max: usize,
    },
    /// Too many choices.
    #[error("{found} choices; the most is {MAX_CHOICES}")]
    TooManyChoices {
        /// How many there would be.
        found: usize,
    },
    /// A point that is no point.
    #[error("a place has to be two finite numbers")]
    NoPoint,
    /// A change that can never be applied.
    #[error("{why}")]
    Change {
        /// Why not.
        why: String,
    },
    /// The patch is pinned.
    #[error("that patch is pinned; let go of it first")]
    Pinned,
    /// There is no such tier.
    #[error("that tier is no longer in the stack")]
    UnknownTier,
    /// There is no such entry.
    #[error("that change is no longer in the list")]
    UnknownChange,
    /// There is no such piece on the bed.
    #[error("that piece no longer lies on the bed")]
    UnknownPiece,
    /// More pieces than a bed holds.
    #[error("{found} pieces are more than {MAX_PIECES}; put them on several beds")]
    TooManyPieces {
        /// How many there would be.
        found: usize,
    },
    /// Two points that are one.
    #[error("the two points lie on each other; put them further apart")]
    EqualPoints,
    /// The file states no size that makes sense.
    #[error("the file does not say how large its picture is")]
    NoFileSize,
    /// No sheet was found in the picture.
    #[error("no sheet with four straight sides was found in the picture")]
    NoSheet,
    /// A tool for pixels on a picture of lines.
    #[error("an SVG has no pixels to draw on or to level; choose patches at Outline instead")]
    NoPixels,
    /// Too many strokes, or too many points in them.
    #[error("{found} {what}; the most is {most}")]
    TooManyStrokes {
        /// Strokes or points of strokes.
        what: &'static str,
        /// How many there would be.
        found: usize,
        /// How many there can be.
        most: usize,
    },
    /// The picture cannot be prepared so.
    #[error(transparent)]
    Artwork(#[from] ArtworkError),
    /// The size cannot be set while nothing is the edge.
    #[error(transparent)]
    Outline(#[from] OutlineError),
}

pub(crate) fn in_range(
    what: &str,
    value: f64,
    (min, max): (f64, f64),
    show: impl Fn(f64) -> String,
) -> Result<(), EditError> {
    // Typed inches may miss a bound by a rounding.
    if value >= min - 1e-9 && value <= max + 1e-9 {
        return Ok(());
    }
    Err(EditError::OutOfRange { what: what.into(), value: show(value), min: show(min), max: show(max) })
}

/// Infill in percent, where some is said.
pub(crate) fn infill_in_range(infill: Option<f64>) -> Result<(), EditError> {
    infill.map_or(Ok(()), |v| in_range("The infill", v, (0.0, 100.0), |v| format!("{v} %")))
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
