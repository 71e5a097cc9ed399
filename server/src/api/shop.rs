//! What every handler works with: the shelf, the stages, threads for them, and how designs are answered.

use crate::db::{Damaged, Db, Shelved, Stored};
use crate::gone::gone;
use crate::helper::Helper;
use crate::printer::Port;
use crate::problem::ApiError;
use crate::worker::Worker;
use actix_multipart::Multipart;
use actix_web::http::header::{ETAG, IF_MATCH};
use actix_web::web;
use actix_web::{HttpRequest, HttpResponse, HttpResponseBuilder};
use futures_util::TryStreamExt;
use kachel_engine::tiers::{CutLine, through_details};
use kachel_engine::{Document, Edit, Engine, ResultView, Stage, Watch};
use kachel_words::{Message, msg};
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use ts_rs::TS;

/// Largest upload, bytes; what Artwork reads at the most.
pub(crate) const MAX_UPLOAD: usize = 32 << 20;

/// A design with its result.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct DesignView {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// What the maker decided.
    pub document: Document,
    /// When it last changed.
    pub saved_at: String,
    /// What undo takes back.
    pub undo: Option<String>,
    /// What redo brings back.
    pub redo: Option<String>,
    /// What came out.
    pub result: ResultView,
}

/// A design as the shelf lists it.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct ShelfItem {
    /// Its name for the program.
    pub id: String,
    /// Changes with its picture.
    pub version: i64,
    /// What the maker calls it.
    pub name: String,
    /// Its recipe's label.
    pub recipe: String,
    /// When it last changed.
    pub saved_at: String,
    /// What the maker sorts it by, in the order of the alphabet.
    pub labels: Vec<String>,
    /// Whether its computation has failed so often that it is left alone until somebody asks.
    pub is_left_alone: bool,
    /// Why it cannot be opened, where it cannot.
    pub damage: Option<Damage>,
}

/// Why something on the shelf cannot be opened.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct Damage {
    /// In words.
    pub why: String,
    /// Whether an earlier state of it can.
    pub has_earlier: bool,
}

impl Damage {
    pub(super) fn of(d: &Damaged) -> Self {
        Self { why: d.why.clone(), has_earlier: d.has_earlier }
    }
}

/// What every handler works with.
pub struct Shop {
    /// The shelf.
    pub db: Db,
    /// The stages.
    pub engine: Engine,
    /// Threads for them.
    pub worker: Worker,
    /// The printer.
    pub port: Port,
    /// The process that computes, where it is another one.
    pub helper: Option<Arc<Helper>>,
    /// Whether this is that process.
    pub is_helper: bool,
}

pub(crate) type Shared = web::Data<Shop>;

/// How the page wants to see a design.
#[derive(Clone, Copy, Debug, Default, Deserialize)]
pub(super) struct Look {
    /// Where the section runs, mm from the middle of the edge, up; through what is drawn where it is left out.
    pub(super) section: Option<f64>,
    /// A point on its line to the right of the middle.
    pub(super) across: Option<f64>,
    /// How far the line is turned, degrees anticlockwise.
    pub(super) turned: Option<f64>,
    /// How far it is computed; to the end where it is left out.
    pub(super) until: Option<Until>,
}

/// A stage to stop after.
#[derive(Clone, Copy, Debug, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub(super) enum Until {
    Outline,
    Tiers,
    Shown,
    Solid,
}

impl Shop {
    pub(super) fn result(&self, d: &Document, look: Look, watch: &Watch) -> ResultView {
        let picture = || self.picture(d);
        let until = |last: Stage| self.engine.run_until(d, &picture, last, watch);
        let run = match look.until {
            Some(Until::Outline) => until(Stage::Outline),
            Some(Until::Tiers) => until(Stage::Tiers),
            Some(Until::Shown) => self.engine.run_shown(d, &picture, watch),
            Some(Until::Solid) => until(Stage::Solid),
            None => until(Stage::Check),
        };
        let or_nought = |v: Option<f64>| v.filter(|v| v.is_finite() && v.abs() < 1e4).unwrap_or(0.0);
        // The line is given as the picture reads; the stack of a tool is its mirror image.
        let mirror = if d.recipe.is_mirrored() { -1.0 } else { 1.0 };
        let at_first = || run.stack.as_deref().map_or(0.0, through_details);
        let section_at = look.section.map_or_else(at_first, |y| or_nought(Some(y)));
        let (x, y) = (mirror * or_nought(look.across), section_at);
        let line = CutLine { x, y, degrees: mirror * or_nought(look.turned) };
        let cuts = run.stack.as_ref().and_then(|s| self.engine.section(s, &line).ok()).unwrap_or_default();
        ResultView { section_at, ..ResultView::new(d, &run, &cuts) }
    }

    pub(super) fn picture(&self, d: &Document) -> std::io::Result<Vec<u8>> {
        self.db.picture(&d.artwork.hash).map_err(std::io::Error::other)
    }

    /// The document after the edits; a refusal speaks in its unit.
    pub(super) fn applied(&self, before: &Document, edits: &[Edit], watch: &Watch) -> Result<Document, ApiError> {
        let after = self.engine.apply(before, edits, &|| self.picture(before), watch)?;
        after.map_err(|e| ApiError::Edit(e, before.unit))
    }

    pub(super) fn view(&self, s: Stored, look: Look, watch: &Watch) -> DesignView {
        let result = self.result(&s.document, look, watch);
        let unit = s.document.unit;
        DesignView {
            id: s.id,
            version: s.version,
            document: s.document,
            saved_at: s.updated_at,
            undo: s.undo.map(|label| label.said(unit)),
            redo: s.redo.map(|label| label.said(unit)),
            result,
        }
    }
}

/// An answer that says in its ETag which version it is.
pub(super) fn tagged(mut response: HttpResponseBuilder, version: i64, body: &impl Serialize) -> HttpResponse {
    response.insert_header((ETAG, format!("\"{version}\""))).json(body)
}

/// What was asked for, or no content where it is not there any more.
pub(super) fn if_there(answer: Option<impl Serialize>) -> HttpResponse {
    answer.map_or_else(|| HttpResponse::NoContent().finish(), |found| HttpResponse::Ok().json(found))
}

/// The version in If-Match, as our ETags have it.
pub(super) fn version(request: &HttpRequest) -> Result<i64, ApiError> {
    let text = request.headers().get(IF_MATCH).and_then(|v| v.to_str().ok()).ok_or(ApiError::NoVersion)?;
    text.trim().trim_matches('"').parse().map_err(|_| ApiError::NoVersion)
}

/// The name that the page gave to the computation, to ask how far it is.
pub(crate) fn job(request: &HttpRequest) -> Option<String> {
    let name = request.headers().get("x-kachel-job")?.to_str().ok()?;
    (name.len() <= 64).then(|| name.to_string())
}

/// Runs `work` off the event loop.
pub(super) async fn compute<T: Send + 'static>(
    shop: &Shared,
    request: &HttpRequest,
    work: impl FnOnce(&Shop, &Watch) -> Result<T, ApiError> + Send + 'static,
) -> Result<T, ApiError> {
    let inner = Arc::clone(shop);
    let work = shop.worker.run(job(request), move |watch| {
        // The server changes it, too.
        if inner.is_helper {
            inner.engine.set_workshop(inner.db.workshop()?.1);
        }
        work(&inner, watch)
    });
    tokio::select! {
        done = work => done,
        () = gone(request) => Err(ApiError::Malformed(msg!("connection-closed"))),
    }
}

/// Reads or writes the shelf, or asks the printer, off the event loop; unlike what [`compute`] does, it waits for no geometry.
pub(super) async fn on_shelf<T: Send + 'static>(
    shop: &Shared,
    work: impl FnOnce(&Shop) -> Result<T, ApiError> + Send + 'static,
) -> Result<T, ApiError> {
    let inner = Arc::clone(shop);
    // The closure panicked; the shelf's transaction is rolled back.
    web::block(move || work(&inner)).await.map_err(|_| ApiError::Fault)?
}

/// A form with one file.
#[cfg(feature = "schema")]
#[derive(utoipa::ToSchema)]
pub(super) struct Upload {
    /// The file; its name names the design.
    #[expect(dead_code, reason = "only described: the form is read as it comes")]
    #[schema(value_type = String, format = Binary)]
    file: Vec<u8>,
}

/// The first file of a form, and its name.
pub(super) async fn first_file(mut form: Multipart) -> Result<(String, Vec<u8>), ApiError> {
    let malformed = |e: actix_multipart::MultipartError| ApiError::Malformed(Message::quoted(e));
    while let Some(mut field) = form.try_next().await.map_err(malformed)? {
        let Some(name) = field.content_disposition().and_then(|d| d.get_filename()).map(str::to_string) else {
            continue;
        };
        let mut bytes = Vec::new();
        while let Some(chunk) = field.try_next().await.map_err(malformed)? {
            if bytes.len() + chunk.len() > MAX_UPLOAD {
                return Err(ApiError::UploadTooLarge { limit: MAX_UPLOAD });
            }
            bytes.extend_from_slice(&chunk);
        }
        return Ok((name, bytes));
    }
    Err(ApiError::Malformed(msg!("no-file-in-it")))
}

pub(super) fn item(s: Stored) -> ShelfItem {
    let recipe = s.document.recipe.recipe().label().to_string();
    ShelfItem {
        id: s.id,
        version: s.version,
        name: s.document.name,
        recipe,
        saved_at: s.updated_at,
        labels: s.labels,
        is_left_alone: false,
        damage: None,
    }
}

/// A design of the list, also where it cannot be read.
pub(super) fn shelved(s: Shelved<Document>) -> ShelfItem {
    match s {
        Shelved::Sound(s) => item(*s),
        Shelved::Damaged(d) => ShelfItem {
            damage: Some(Damage::of(&d)),
            id: d.id,
            version: d.version,
            name: d.name,
            recipe: String::new(),
            labels: vec![],
            is_left_alone: false,
            saved_at: d.updated_at,
        },
    }
}

pub(super) fn answer(response: actix_web::HttpResponseBuilder, view: &DesignView) -> HttpResponse {
    tagged(response, view.version, view)
}
