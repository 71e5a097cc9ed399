//! The routes, one file a noun.

mod designs;
mod files;
mod jobs;
mod outline;
mod recipes;
mod samples;
mod snapshots;
mod workshop;

use crate::db::{Db, Stored};
use crate::problem::ApiError;
use crate::worker::Worker;
use actix_web::http::header::{ETAG, IF_MATCH};
use actix_web::web::{self, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse, HttpResponseBuilder};
use kachel_engine::tiers::CutLine;
use kachel_engine::{Document, Engine, ResultView, Stage, Watch};
use serde::{Deserialize, Serialize};
use std::sync::Arc;

pub use designs::{DesignView, Edits, ShelfItem};
pub use jobs::JobView;
pub use outline::SideView;
pub use recipes::RecipeView;
pub use samples::SampleView;
pub use snapshots::{KeptView, SnapshotName, SnapshotView};
pub use workshop::WorkshopView;

/// What every handler works with.
pub struct Shop {
    /// The shelf.
    pub db: Db,
    /// The stages.
    pub engine: Engine,
    /// Threads for them.
    pub worker: Worker,
}

type Shared = web::Data<Shop>;

/// How the page wants to see a design.
#[derive(Clone, Copy, Debug, Default, Deserialize)]
struct Look {
    /// Where the section runs, mm from the middle of the edge, up.
    section: Option<f64>,
    /// A point on its line to the right of the middle.
    across: Option<f64>,
    /// How far the line is turned, degrees anticlockwise.
    turned: Option<f64>,
    /// How far it is computed; to the end where it is left out.
    until: Option<Until>,
}

/// A stage to stop after.
#[derive(Clone, Copy, Debug, Deserialize)]
#[serde(rename_all = "kebab-case")]
enum Until {
    Outline,
}

pub(crate) fn configure(routes: &mut ServiceConfig) {
    routes
        .configure(designs::configure)
        .configure(files::configure)
        .configure(outline::configure)
        .configure(samples::configure)
        .configure(recipes::configure)
        .configure(workshop::configure)
        .configure(snapshots::configure)
        .configure(jobs::configure);
}

impl Shop {
    fn result(&self, d: &Document, look: Look, watch: &Watch) -> ResultView {
        let last = match look.until {
            Some(Until::Outline) => Stage::Outline,
            None => Stage::Check,
        };
        let run = self.engine.run_until(d, &|| self.picture(d), last, watch);
        let or_nought = |v: Option<f64>| v.filter(|v| v.is_finite() && v.abs() < 1e4).unwrap_or(0.0);
        // The line is given as the picture reads; the stack of a tool is its mirror image.
        let mirror = if d.recipe.is_mirrored() { -1.0 } else { 1.0 };
        let (x, y) = (mirror * or_nought(look.across), or_nought(look.section));
        let line = CutLine { x, y, degrees: mirror * or_nought(look.turned) };
        let cuts = run.stack.as_ref().and_then(|s| self.engine.section(s, &line).ok()).unwrap_or_default();
        ResultView::new(d, &run, &cuts)
    }

    fn picture(&self, d: &Document) -> std::io::Result<Vec<u8>> {
        self.db.picture(&d.artwork.hash).map_err(std::io::Error::other)
    }

    fn view(&self, s: Stored, look: Look, watch: &Watch) -> DesignView {
        let result = self.result(&s.document, look, watch);
        DesignView {
            id: s.id,
            version: s.version,
            document: s.document,
            saved_at: s.updated_at,
            undo: s.undo,
            redo: s.redo,
            result,
        }
    }
}

/// An answer that says in its ETag which version it is.
fn tagged(mut response: HttpResponseBuilder, version: i64, body: &impl Serialize) -> HttpResponse {
    response.insert_header((ETAG, format!("\"{version}\""))).json(body)
}

/// The version in If-Match, as our ETags have it.
fn version(request: &HttpRequest) -> Result<i64, ApiError> {
    let text = request.headers().get(IF_MATCH).and_then(|v| v.to_str().ok()).ok_or(ApiError::NoVersion)?;
    text.trim().trim_matches('"').parse().map_err(|_| ApiError::NoVersion)
}

/// The name that the page gave to the computation, to ask how far it is.
fn job(request: &HttpRequest) -> Option<String> {
    let name = request.headers().get("x-kachel-job")?.to_str().ok()?;
    (name.len() <= 64).then(|| name.to_string())
}

/// Runs `work` off the event loop.
async fn compute<T: Send + 'static>(
    shop: &Shared,
    request: &HttpRequest,
    work: impl FnOnce(&Shop, &Watch) -> Result<T, ApiError> + Send + 'static,
) -> Result<T, ApiError> {
    let inner = Arc::clone(shop);
    shop.worker.run(job(request), move |watch| work(&inner, watch)).await
}
