//! Errors as people and programs read them: RFC 9457 problem documents with a stable code and a hint.

use crate::db::DbError;
use crate::helper::HelperError;
use actix_web::http::StatusCode;
use actix_web::http::header::{CONTENT_TYPE, ETAG};
use actix_web::{HttpResponse, ResponseError};
use kachel_engine::artwork::{ArtworkError, PrepareError};
use kachel_engine::exchange::ExchangeError;
use kachel_engine::rehearse::NoTime;
use kachel_engine::solid::SolidError;
use kachel_engine::{EditError, EngineError, ExportError, FileNamesError, HouseError, ImportError, WorkshopError};
use kachel_printer::{PrinterError, StoreError};
use kachel_words::{Message, Unit, msg, said};
use serde::Serialize;
use ts_rs::TS;

/// The body of every refused request.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct Problem {
    /// Short and the same for every occurrence.
    pub title: String,
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
    Db(#[from] DbError),
    /// From the engine.
    Engine(#[from] EngineError),
    /// A refused edit, told in the design's unit.
    Edit(EditError, Unit),
    /// A file could not be written.
    Exchange(#[from] ExchangeError),
    /// From an export.
    Export(#[from] ExportError),
    /// A design could not be read out of a file.
    Import(#[from] ImportError),
    /// Workshop settings that cannot be worked with.
    Workshop(#[from] WorkshopError),
    /// A pattern that names no file.
    FileNames(#[from] FileNamesError),
    /// House measures that cannot be used.
    House(#[from] HouseError),
    /// A package without a design of ours.
    NoDesignInside,
    /// A file that should be a shelf is none, or a part of it cannot be read.
    NoShelfInside(Message),
    /// What is brought from another shelf is not taken, for this reason.
    NotBrought(Message),
    /// There is no such thing: the code of what it is called.
    Unknown(&'static str),
    /// The header If-Match is missing or is no version.
    NoVersion,
    /// An upload over the limit.
    UploadTooLarge {
        /// The limit.
        limit: usize,
    },
    /// A request that cannot be read.
    Malformed(Message),
    /// Host or Origin is not ours.
    Foreign,
    /// The pass phrase is missing or wrong.
    NoPassPhrase,
    /// Too many wrong pass phrases.
    TooManyTries,
    /// From the printer.
    Printer(#[from] PrinterError),
    /// The printer elsewhere, at this address, does not answer, for this reason.
    PrinterGone(String, String),
    /// A bed that cannot be printed as it is.
    BedRefused(Message),
    /// From the process that computes.
    Helper(#[from] HelperError),
    /// A body that stopped coming.
    Stalled {
        /// The limit.
        seconds: u64,
    },
    /// What was typed is no time.
    NoTime(NoTime),
    /// It took too long.
    TooSlow {
        /// The limit.
        seconds: u64,
    },
    /// A fault of the program.
    Fault,
}

said!(ApiError: |e| match e {
    ApiError::Db(e) => e.message(),
    ApiError::Engine(e) => e.message(),
    ApiError::Edit(e, _) => e.message(),
    ApiError::Exchange(e) => e.message(),
    ApiError::Export(e) => e.message(),
    ApiError::Import(e) => e.message(),
    ApiError::Workshop(e) => e.message(),
    ApiError::FileNames(e) => e.message(),
    ApiError::House(e) => e.message(),
    ApiError::NoDesignInside => msg!("no-design-inside"),
    ApiError::NoShelfInside(why) => msg!("no-shelf-inside", why = why.clone()),
    ApiError::NotBrought(why) | ApiError::BedRefused(why) => why.clone(),
    ApiError::Unknown(what) => msg!("no-such", what = msg!(*what)),
    ApiError::NoVersion => msg!("no-if-match"),
    ApiError::UploadTooLarge { limit } => msg!("upload-too-large", most = *limit),
    ApiError::Malformed(why) => msg!("malformed", why = why.clone()),
    ApiError::Foreign => msg!("foreign"),
    ApiError::NoPassPhrase => msg!("no-pass-phrase"),
    ApiError::TooManyTries => msg!("too-many-tries"),
    ApiError::Printer(e) => e.message(),
    ApiError::PrinterGone(address, why) => msg!("printer-gone", address = address, why = why),
    ApiError::Helper(e) => e.message(),
    ApiError::Stalled { seconds } => msg!("stalled", seconds = *seconds),
    ApiError::NoTime(e) => e.message(),
    ApiError::TooSlow { seconds } => msg!("too-slow", seconds = *seconds),
    ApiError::Fault => msg!("fault"),
});

impl ApiError {
    fn parts(&self) -> (StatusCode, &'static str) {
        use StatusCode as S;
        match self {
            Self::Db(e) => shelf_parts(e),
            Self::Engine(e) => (engine_status(e), e.code()),
            Self::Edit(e, _) => (S::UNPROCESSABLE_ENTITY, edit_code(e)),
            Self::Exchange(_) => (S::INTERNAL_SERVER_ERROR, "no-file"),
            Self::Export(ExportError::NoSolid) => (S::UNPROCESSABLE_ENTITY, "no-solid"),
            Self::Export(ExportError::EmptyBed) => (S::UNPROCESSABLE_ENTITY, "empty-bed"),
            Self::Export(ExportError::Overlap | ExportError::Move(_)) => (S::UNPROCESSABLE_ENTITY, "pieces-overlap"),
            Self::Export(
                ExportError::Picture(_) | ExportError::Exchange(_) | ExportError::Document(_) | ExportError::NoPicture,
            ) => (S::INTERNAL_SERVER_ERROR, "no-file"),
            Self::Import(_) => (S::UNPROCESSABLE_ENTITY, "damaged-package"),
            Self::House(_) => (S::UNPROCESSABLE_ENTITY, "house-refused"),
            Self::NoDesignInside => (S::UNPROCESSABLE_ENTITY, "no-design-inside"),
            Self::NoShelfInside(_) | Self::NotBrought(_) => (S::UNPROCESSABLE_ENTITY, "no-shelf-inside"),
            Self::Workshop(_) => (S::UNPROCESSABLE_ENTITY, "settings-refused"),
            Self::Unknown(_) => (S::NOT_FOUND, "not-found"),
            Self::NoVersion => (S::PRECONDITION_REQUIRED, "no-version"),
            Self::UploadTooLarge { .. } => (S::PAYLOAD_TOO_LARGE, "upload-too-large"),
            Self::FileNames(_) => (S::UNPROCESSABLE_ENTITY, "no-file-name"),
            Self::Malformed(_) => (S::BAD_REQUEST, "malformed"),
            Self::Foreign => (S::FORBIDDEN, "foreign"),
            Self::NoPassPhrase => (S::UNAUTHORIZED, "no-pass-phrase"),
            Self::TooManyTries => (S::TOO_MANY_REQUESTS, "too-many-tries"),
            Self::Printer(e) => printer_parts(e),
            Self::PrinterGone(..) => (S::BAD_GATEWAY, "printer-gone"),
            Self::BedRefused(_) => (S::UNPROCESSABLE_ENTITY, "not-printable"),
            Self::Helper(e) => (S::SERVICE_UNAVAILABLE, helper_code(e)),
            Self::Stalled { .. } => (S::REQUEST_TIMEOUT, "stalled"),
            Self::NoTime(_) => (S::UNPROCESSABLE_ENTITY, "no-time"),
            Self::TooSlow { .. } => (S::SERVICE_UNAVAILABLE, "too-slow"),
            Self::Fault => (S::INTERNAL_SERVER_ERROR, "fault"),
        }
    }

    fn value_and_limit(&self, unit: Unit) -> (Option<String>, Option<String>) {
        match self {
            Self::Edit(EditError::OutOfRange { value, min, max, .. }, _) => {
                let range = msg!("range", min = min.clone(), max = max.clone());
                (Some(value.said(unit)), Some(range.said(unit)))
            }
            Self::Edit(EditError::Text { length, min, max, .. }, _) => {
                (Some(length.to_string()), Some(msg!("range", min = *min, max = *max).said(unit)))
            }
            Self::UploadTooLarge { limit } => (None, Some(limit.to_string())),
            Self::Db(DbError::Stale { current }) => (None, Some(current.to_string())),
            _ => (None, None),
        }
    }

    /// The problem document. Its title is that of the code; the hint is the message's own, or that of the code.
    pub fn problem(&self) -> Problem {
        let (status, code) = self.parts();
        let unit = if let Self::Edit(_, unit) = self { *unit } else { Unit::Mm };
        let (value, limit) = self.value_and_limit(unit);
        let message = self.message();
        let of_code = Message::new(format!("problem-{code}"));
        let of_code = if of_code.is_known() { of_code } else { msg!("problem-no-result") };
        let hint = message.part("hint").or_else(|| of_code.part("hint"));
        let hint = hint.map_or_else(String::new, |hint| hint.said(unit));
        Problem {
            title: of_code.said(unit),
            status: status.as_u16(),
            detail: message.sentence(unit),
            code,
            value,
            limit,
            hint,
        }
    }
}

/// The code of a refused edit.
const fn edit_code(e: &EditError) -> &'static str {
    match e {
        EditError::Length(_) => "no-length",
        EditError::OutOfRange { .. } => "out-of-range",
        EditError::Measure(_) => "unknown-measure",
        EditError::Text { .. } => "text-length",
        EditError::Name { .. } => "name-length",
        EditError::TooManyChoices { .. } => "too-many-choices",
        EditError::NoPoint => "no-point",
        EditError::Change { .. } => "impossible-change",
        EditError::Pinned => "pinned",
        EditError::UnknownTier => "unknown-tier",
        EditError::UnknownChange => "unknown-change",
        EditError::UnknownPiece => "unknown-piece",
        EditError::TooManyPieces { .. } => "too-many-pieces",
        EditError::EqualPoints => "equal-points",
        EditError::NoFileSize => "no-file-size",
        EditError::NoSheet => "no-sheet",
        EditError::NoPixels => "no-pixels",
        EditError::TooManyStrokes { .. } => "too-many-strokes",
        EditError::Artwork(ArtworkError::Prepare(PrepareError::CornersCross)) => "corners-cross",
        EditError::Artwork(ArtworkError::Prepare(PrepareError::SheetSize)) => "sheet-size",
        EditError::Artwork(ArtworkError::Prepare(PrepareError::NothingLeft)) => "empty-crop",
        EditError::Artwork(_) => "no-picture",
        EditError::Outline(_) => "no-outline",
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

/// Status and code of what the printer refuses.
const fn printer_parts(e: &PrinterError) -> (StatusCode, &'static str) {
    use StatusCode as S;
    match e {
        PrinterError::Plan(_) => (S::UNPROCESSABLE_ENTITY, "plan-refused"),
        PrinterError::NotNow(_) => (S::CONFLICT, "not-now"),
        PrinterError::Speed => (S::UNPROCESSABLE_ENTITY, "out-of-range"),
        PrinterError::Store(StoreError::UnknownJob | StoreError::UnknownLayer) => (S::NOT_FOUND, "unknown-job"),
        PrinterError::Store(StoreError::QueueFull) => (S::CONFLICT, "queue-full"),
        PrinterError::Store(StoreError::File(_)) => (S::SERVICE_UNAVAILABLE, "no-printer"),
    }
}

/// Status and code of what the shelf refuses.
fn shelf_parts(e: &DbError) -> (StatusCode, &'static str) {
    use StatusCode as S;
    match e {
        DbError::UnknownWork("bed") => (S::NOT_FOUND, "unknown-bed"),
        DbError::UnknownWork(_) => (S::NOT_FOUND, "unknown-design"),
        DbError::UnknownStep => (S::NOT_FOUND, "unknown-step"),
        DbError::DamagedPicture => (S::INTERNAL_SERVER_ERROR, "damaged-picture"),
        DbError::NoShelf(_) => (S::INTERNAL_SERVER_ERROR, "no-shelf"),
        DbError::Removed => (S::SERVICE_UNAVAILABLE, "shelf-removed"),
        DbError::UnknownPicture => (S::NOT_FOUND, "unknown-picture"),
        DbError::Stale { .. } => (S::PRECONDITION_FAILED, "stale"),
        DbError::NoStep(_) => (S::CONFLICT, "no-step"),
        DbError::TooManySnapshots { .. } => (S::UNPROCESSABLE_ENTITY, "too-many-snapshots"),
        DbError::Labels(_) => (S::UNPROCESSABLE_ENTITY, "bad-label"),
        DbError::Full => (S::INSUFFICIENT_STORAGE, "disk-full"),
        DbError::NewerFile { .. } => (S::INTERNAL_SERVER_ERROR, "newer-file"),
        DbError::Document(_) => (S::INTERNAL_SERVER_ERROR, "damaged-design"),
        DbError::Other(_) => (S::INTERNAL_SERVER_ERROR, "shelf-not-usable"),
    }
}

const fn helper_code(e: &HelperError) -> &'static str {
    match e {
        HelperError::NotStarted(_) => "no-helper",
        HelperError::Died => "helper-died",
        HelperError::TooMuchMemory => "too-much-memory",
        HelperError::TooSlow => "too-slow",
        HelperError::Stopped => "stopped",
        HelperError::LeftAlone => "left-alone",
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
