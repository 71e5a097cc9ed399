//! Errors as people and programs read them: RFC 9457 problem documents with a stable code and a hint.

use crate::db::DbError;
use crate::helper::HelperError;
use actix_web::http::StatusCode;
use actix_web::http::header::{CONTENT_TYPE, ETAG};
use actix_web::{HttpResponse, ResponseError};
use kachel_engine::artwork::{ArtworkError, PrepareError};
use kachel_engine::exchange::ExchangeError;
use kachel_engine::solid::SolidError;
use kachel_engine::tiers::{Unit, words_in};
use kachel_engine::{EditError, EngineError, ExportError, FileNamesError, HouseError, ImportError, WorkshopError};
use kachel_printer::{PrinterError, StoreError};
use serde::Serialize;
use ts_rs::TS;

/// The body of every refused request.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct Problem {
    /// Short and the same for every occurrence.
    pub title: &'static str,
    /// HTTP status.
    pub status: u16,
    /// What happened, for people.
    pub detail: String,
    /// Stable code.
    pub code: &'static str,
    /// What was asked for.
    pub value: Option<String>,
    /// What is allowed.
    pub limit: Option<String>,
    /// What to do.
    pub hint: String,
}

/// Why a request was refused.
#[derive(Debug, thiserror::Error)]
pub enum ApiError {
    /// From the shelf.
    #[error(transparent)]
    Db(#[from] DbError),
    /// From the engine.
    #[error(transparent)]
    Engine(#[from] EngineError),
    /// A refused edit, told in the design's unit.
    #[error("{}", words_in(&.0.to_string(), *.1))]
    Edit(EditError, Unit),
    /// A file could not be written.
    #[error(transparent)]
    Exchange(#[from] ExchangeError),
    /// From an export.
    #[error(transparent)]
    Export(#[from] ExportError),
    /// A design could not be read out of a file.
    #[error(transparent)]
    Import(#[from] ImportError),
    /// Workshop settings that cannot be worked with.
    #[error(transparent)]
    Workshop(#[from] WorkshopError),
    /// A pattern that names no file.
    #[error(transparent)]
    FileNames(#[from] FileNamesError),
    /// House measures that cannot be used.
    #[error(transparent)]
    House(#[from] HouseError),
    /// A package without a design of ours.
    #[error("this 3MF holds a mesh, but no design of Kachel's")]
    NoDesignInside,
    /// A file that should be a shelf is none, or a part of it cannot be read.
    #[error("this is no shelf that can be read: {0}")]
    NoShelfInside(String),
    /// What is brought from another shelf is not taken, for this reason.
    #[error("{0}")]
    NotBrought(String),
    /// There is no such thing.
    #[error("there is no such {0}")]
    Unknown(&'static str),
    /// The header If-Match is missing or is no version.
    #[error("a change has to say in If-Match which version it changes")]
    NoVersion,
    /// An upload over the limit.
    #[error("the upload is larger than {limit} bytes")]
    UploadTooLarge {
        /// The limit.
        limit: usize,
    },
    /// A request that cannot be read.
    #[error("the request cannot be read: {0}")]
    Malformed(String),
    /// Host or Origin is not ours.
    #[error("this server only answers pages of its own")]
    Foreign,
    /// The pass phrase is missing or wrong.
    #[error("this server asks for its pass phrase")]
    NoPassPhrase,
    /// Too many wrong pass phrases.
    #[error("too many wrong pass phrases")]
    TooManyTries,
    /// From the printer.
    #[error(transparent)]
    Printer(#[from] PrinterError),
    /// The printer elsewhere does not answer.
    #[error("{0}")]
    PrinterGone(String),
    /// A bed that cannot be printed as it is.
    #[error("{0}")]
    NotPrintable(String),
    /// From the process that computes.
    #[error(transparent)]
    Helper(#[from] HelperError),
    /// A body that stopped coming.
    #[error("nothing came for {seconds} s, so the request was given up")]
    Stalled {
        /// The limit.
        seconds: u64,
    },
    /// What was typed is no time.
    #[error("{0}")]
    NoTime(String),
    /// It took too long.
    #[error("this took longer than {seconds} s and was stopped")]
    TooSlow {
        /// The limit.
        seconds: u64,
    },
    /// A fault of the program.
    #[error("something went wrong in Kachel itself")]
    Fault,
}

impl ApiError {
    fn parts(&self) -> (StatusCode, &'static str, &'static str, &str) {
        use StatusCode as S;
        match self {
            Self::Db(e) => shelf_parts(e),
            Self::Engine(e) => (engine_status(e), "No result", e.code(), e.hint()),
            Self::Edit(e, _) => {
                let (title, code, hint) = edit_parts(e);
                (S::UNPROCESSABLE_ENTITY, title, code, hint)
            }
            Self::Exchange(_) => (S::INTERNAL_SERVER_ERROR, "No file", "no-file", "Try another format."),
            Self::Export(ExportError::NoSolid) => {
                (S::UNPROCESSABLE_ENTITY, "No solid", "no-solid", "Mend what the bench says first.")
            }
            Self::Export(ExportError::EmptyBed) => {
                (S::UNPROCESSABLE_ENTITY, "Empty bed", "empty-bed", "Put designs on it first.")
            }
            Self::Export(ExportError::Overlap | ExportError::Move(_)) => {
                (S::UNPROCESSABLE_ENTITY, "Pieces overlap", "pieces-overlap", "Arrange the bed, or move them by hand.")
            }
            Self::Export(
                ExportError::Picture(_) | ExportError::Exchange(_) | ExportError::Document(_) | ExportError::NoPicture,
            ) => (S::INTERNAL_SERVER_ERROR, "No file", "no-file", "Try another format."),
            Self::Import(_) | Self::House(_) | Self::NoDesignInside | Self::NoShelfInside(_) | Self::NotBrought(_) => {
                self.file_parts()
            }
            Self::Workshop(_) => {
                (S::UNPROCESSABLE_ENTITY, "Settings refused", "settings-refused", "Type a value in the range.")
            }
            Self::Unknown(_) => (S::NOT_FOUND, "Not found", "not-found", "Go back to the shelf."),
            Self::NoVersion => (S::PRECONDITION_REQUIRED, "Version needed", "no-version", "Load the design again."),
            Self::UploadTooLarge { .. } => (
                S::PAYLOAD_TOO_LARGE,
                "Upload too large",
                "upload-too-large",
                "Scale the picture down; 2000 pixels across are plenty.",
            ),
            Self::FileNames(_) => (
                S::UNPROCESSABLE_ENTITY,
                "No file name",
                "no-file-name",
                "Write {design}, {recipe}, {width} or {height} where they belong.",
            ),
            Self::Malformed(_) => (S::BAD_REQUEST, "Malformed request", "malformed", "Load the page again."),
            Self::Foreign => (S::FORBIDDEN, "Foreign page", "foreign", "Open Kachel by the address it printed."),
            Self::NoPassPhrase => {
                (S::UNAUTHORIZED, "Pass phrase needed", "no-pass-phrase", "Ask who started the server.")
            }
            Self::TooManyTries => {
                (S::TOO_MANY_REQUESTS, "Too many tries", "too-many-tries", "Wait a minute, then type it once more.")
            }
            Self::Printer(e) => printer_parts(e),
            Self::PrinterGone(_) => (
                S::BAD_GATEWAY,
                "No printer",
                "printer-gone",
                "Nothing is lost. See whether it is on and within reach, then try again.",
            ),
            Self::NotPrintable(_) => {
                (S::UNPROCESSABLE_ENTITY, "Not printable", "not-printable", "Mend what the bed says first.")
            }
            Self::Helper(e) => helper_parts(e),
            Self::Stalled { .. } => {
                (S::REQUEST_TIMEOUT, "Stalled", "stalled", "See whether the connection holds, then try again.")
            }
            Self::NoTime(_) => (S::UNPROCESSABLE_ENTITY, "No time", "no-time", "Type hours and minutes."),
            Self::TooSlow { .. } => {
                (S::SERVICE_UNAVAILABLE, "Too slow", "too-slow", "Put some patches aside or use a smaller picture.")
            }
            Self::Fault => {
                (S::INTERNAL_SERVER_ERROR, "Fault", "fault", "Nothing is lost. Load the page again; please report it.")
            }
        }
    }

    /// Of a file that came in.
    fn file_parts(&self) -> (StatusCode, &'static str, &'static str, &'static str) {
        let (title, code, hint) = match self {
            Self::Import(_) => (
                "Damaged file",
                "damaged-package",
                "Export it again from where it was made, or start from the picture.",
            ),
            Self::House(_) => {
                ("House measures refused", "house-refused", "Take a file that Kachel wrote, or choose another name.")
            }
            Self::NoDesignInside => (
                "No design inside",
                "no-design-inside",
                "Kachel opens 3MF files that it wrote itself; start from a picture instead.",
            ),
            _ => (
                "No shelf inside",
                "no-shelf-inside",
                "Take a ZIP that Kachel wrote when a shelf was taken home, or one of 3MF files that it wrote.",
            ),
        };
        (StatusCode::UNPROCESSABLE_ENTITY, title, code, hint)
    }

    fn value_and_limit(&self) -> (Option<String>, Option<String>) {
        match self {
            Self::Edit(EditError::OutOfRange { value, min, max, .. }, _) => {
                (Some(value.clone()), Some(format!("{min} to {max}")))
            }
            Self::Edit(EditError::Text { length, min, max, .. }, _) => {
                (Some(length.to_string()), Some(format!("{min} to {max}")))
            }
            Self::UploadTooLarge { limit } => (None, Some(limit.to_string())),
            Self::Db(DbError::Stale { current }) => (None, Some(current.to_string())),
            _ => (None, None),
        }
    }

    /// The problem document.
    pub fn problem(&self) -> Problem {
        let (status, title, code, hint) = self.parts();
        let (value, limit) = self.value_and_limit();
        Problem { title, status: status.as_u16(), detail: self.to_string(), code, value, limit, hint: hint.into() }
    }
}

/// Title, code and hint of a refused edit.
fn edit_parts(e: &EditError) -> (&'static str, &'static str, &'static str) {
    match e {
        EditError::Length(_) => ("No length", "no-length", "Type a number with a unit, or without."),
        EditError::OutOfRange { .. } => ("Out of range", "out-of-range", "Type a value in the range."),
        EditError::Measure(_) => ("Unknown measure", "unknown-measure", "Choose one of those named."),
        EditError::Text { .. } => ("Text too long", "text-length", "Type a text of that length."),
        EditError::Name { .. } => ("Name too long", "name-length", "Choose a tier and a filament from the lists."),
        EditError::TooManyChoices { .. } => ("Too many choices", "too-many-choices", "Raise the speck size instead."),
        EditError::NoPoint => ("No point", "no-point", "Click a patch in the plan."),
        EditError::Change { .. } => ("No such change", "impossible-change", "Choose other patches or values."),
        EditError::Pinned => ("Pinned", "pinned", "Let go of the pin at Outline."),
        EditError::UnknownTier => ("Unknown tier", "unknown-tier", "Look at the stack again."),
        EditError::UnknownChange => ("Unknown change", "unknown-change", "Look at the list again."),
        EditError::UnknownPiece => ("Unknown piece", "unknown-piece", "Look at the bed again."),
        EditError::TooManyPieces { .. } => {
            ("Too many pieces", "too-many-pieces", "Type fewer copies, or start another bed.")
        }
        EditError::EqualPoints => ("Equal points", "equal-points", "Mark two points that are far apart."),
        EditError::NoFileSize => ("No size in the file", "no-file-size", "Type a width, or mark a distance."),
        EditError::NoSheet => ("No sheet found", "no-sheet", "Drag its four corners onto it by hand."),
        EditError::NoPixels => ("No pixels", "no-pixels", "Use Outline for what is in an SVG."),
        EditError::TooManyStrokes { .. } => ("Too many strokes", "too-many-strokes", "Tidy with fewer, wider strokes."),
        EditError::Artwork(e) => {
            let code = match e {
                ArtworkError::Prepare(PrepareError::CornersCross) => "corners-cross",
                ArtworkError::Prepare(PrepareError::SheetSize) => "sheet-size",
                ArtworkError::Prepare(PrepareError::NothingLeft) => "empty-crop",
                _ => "no-picture",
            };
            ("Picture not prepared", code, e.hint())
        }
        EditError::Outline(e) => ("No outline", "no-outline", e.hint()),
    }
}

/// An unsound mesh, or settings that cannot be written, are faults of the program; the rest is what was asked for.
const fn engine_status(e: &EngineError) -> StatusCode {
    match e {
        EngineError::Solid(SolidError::Unsound(_) | SolidError::Unsettled(_))
        | EngineError::Picture(_)
        | EngineError::Key(_) => StatusCode::INTERNAL_SERVER_ERROR,
        EngineError::Artwork(_)
        | EngineError::Trace(_)
        | EngineError::Outline(_)
        | EngineError::Tier(_)
        | EngineError::Solid(SolidError::Empty | SolidError::TooLarge { .. } | SolidError::Stopped(_))
        | EngineError::Infill(_)
        | EngineError::Rehearse(_)
        | EngineError::Pack(_)
        | EngineError::Document(_)
        | EngineError::Stopped(_) => StatusCode::UNPROCESSABLE_ENTITY,
    }
}

/// Status, title, code and hint of what the shelf refuses.
fn printer_parts(e: &PrinterError) -> (StatusCode, &'static str, &'static str, &'static str) {
    use StatusCode as S;
    match e {
        PrinterError::Plan(_) => {
            (S::UNPROCESSABLE_ENTITY, "Plan refused", "plan-refused", "Send the bed or the design again.")
        }
        PrinterError::NotNow(_) => (S::CONFLICT, "Not now", "not-now", "Look at what the printer is doing."),
        PrinterError::Speed => {
            (S::UNPROCESSABLE_ENTITY, "Out of range", "out-of-range", "Choose a speed in the range.")
        }
        PrinterError::Store(StoreError::UnknownJob | StoreError::UnknownLayer) => {
            (S::NOT_FOUND, "Unknown job", "unknown-job", "Look at the queue again: it was changed meanwhile.")
        }
        PrinterError::Store(StoreError::QueueFull) => {
            (S::CONFLICT, "Queue full", "queue-full", "Take jobs out of the printer's queue first.")
        }
        PrinterError::Store(StoreError::File(_)) => (
            S::SERVICE_UNAVAILABLE,
            "No printer",
            "no-printer",
            "The shelf is safe. Look at the file printer.db in the data directory: whether it is there, and the disk has room.",
        ),
    }
}

fn shelf_parts(e: &DbError) -> (StatusCode, &'static str, &'static str, &'static str) {
    use StatusCode as S;
    match e {
        DbError::UnknownWork("bed") => (S::NOT_FOUND, "Unknown bed", "unknown-bed", "Go back to the shelf."),
        DbError::UnknownWork(_) => (S::NOT_FOUND, "Unknown design", "unknown-design", "Go back to the shelf."),
        DbError::UnknownStep => {
            (S::NOT_FOUND, "Unknown step", "unknown-step", "Look at the list of steps again: it was changed meanwhile.")
        }
        DbError::DamagedPicture => (
            S::INTERNAL_SERVER_ERROR,
            "Damaged picture",
            "damaged-picture",
            "Give the design its picture once more, at Artwork under 'Another picture'.",
        ),
        DbError::NoShelf(_) => (S::INTERNAL_SERVER_ERROR, "No shelf", "no-shelf", "Put a copy in its place."),
        DbError::Removed => (
            S::SERVICE_UNAVAILABLE,
            "The shelf is gone",
            "shelf-removed",
            "Stop Kachel. What was there is kept among its copies; put it in place with `kachel restore`, and start again.",
        ),
        DbError::UnknownPicture => (S::NOT_FOUND, "Unknown picture", "unknown-picture", "Go back to the shelf."),
        DbError::Stale { .. } => {
            (S::PRECONDITION_FAILED, "Changed meanwhile", "stale", "Load the newer state, then make the change again.")
        }
        DbError::NoStep(_) => (S::CONFLICT, "No such step", "no-step", "There is nothing more in that direction."),
        DbError::TooManySnapshots { .. } => {
            (S::UNPROCESSABLE_ENTITY, "Too many snapshots", "too-many-snapshots", "Forget some of them first.")
        }
        DbError::Labels(_) => (S::UNPROCESSABLE_ENTITY, "No such label", "bad-label", "Take another word."),
        DbError::Full => (
            S::INSUFFICIENT_STORAGE,
            "Disk full",
            "disk-full",
            "Make room on the disk; everything saved so far is kept.",
        ),
        DbError::NewerFile { .. } => (S::INTERNAL_SERVER_ERROR, "Newer data", "newer-file", "Start the newer Kachel."),
        DbError::Document(_) => {
            (S::INTERNAL_SERVER_ERROR, "Unreadable design", "damaged-design", "Start the newer Kachel, or undo.")
        }
        DbError::Other(_) => {
            (S::INTERNAL_SERVER_ERROR, "Shelf not usable", "shelf-not-usable", "Check the disk and the data directory.")
        }
    }
}

fn helper_parts(e: &HelperError) -> (StatusCode, &'static str, &'static str, &'static str) {
    use StatusCode as S;
    match e {
        HelperError::NotStarted(_) => {
            (S::SERVICE_UNAVAILABLE, "Cannot compute", "no-helper", "Nothing is lost. Start Kachel again.")
        }
        HelperError::Died => (
            S::SERVICE_UNAVAILABLE,
            "Computation failed",
            "helper-died",
            "Try again; if it fails once more, undo the last change or use another picture.",
        ),
        HelperError::TooMuchMemory => (
            S::SERVICE_UNAVAILABLE,
            "Too much memory",
            "too-much-memory",
            "Use a smaller or plainer picture, or put some patches aside.",
        ),
        HelperError::TooSlow => {
            (S::SERVICE_UNAVAILABLE, "Too slow", "too-slow", "Put some patches aside or use a smaller picture.")
        }
        HelperError::Stopped => (S::SERVICE_UNAVAILABLE, "Stopped", "stopped", "The last good result is still shown."),
        HelperError::LeftAlone => (
            S::SERVICE_UNAVAILABLE,
            "Left alone",
            "left-alone",
            "It is on the shelf as it was saved. Try it again, go back to an earlier state, or delete it.",
        ),
    }
}

impl ResponseError for ApiError {
    fn status_code(&self) -> StatusCode {
        self.parts().0
    }

    fn error_response(&self) -> HttpResponse {
        let mut response = HttpResponse::build(self.status_code());
        response.insert_header((CONTENT_TYPE, "application/problem+json"));
        match self {
            Self::Db(DbError::Stale { current }) => {
                response.insert_header((ETAG, format!("\"{current}\"")));
            }
            Self::NoPassPhrase => {
                response.insert_header(("WWW-Authenticate", "Basic realm=\"Kachel\", charset=\"UTF-8\""));
            }
            _ => {}
        }
        // A problem is plain text and numbers; if it cannot be written, the status is still right.
        match serde_json::to_string(&self.problem()) {
            Ok(text) => response.body(text),
            Err(_) => response.body(r#"{"title":"Fault","code":"fault"}"#),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_unsound_mesh_is_our_fault_and_a_bad_measure_is_not() {
        let unsettled: EngineError = SolidError::Unsettled("edges").into();
        assert_eq!(ApiError::Engine(unsettled).status_code(), StatusCode::INTERNAL_SERVER_ERROR);
        let empty: EngineError = SolidError::Empty.into();
        assert_eq!(ApiError::Engine(empty).status_code(), StatusCode::UNPROCESSABLE_ENTITY);
    }
}
