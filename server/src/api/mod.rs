//! The routes, one file a noun.

mod designs;
mod files;
mod jobs;
mod outline;
mod samples;

use crate::db::{Db, Stored};
use crate::problem::ApiError;
use crate::worker::Worker;
use actix_web::HttpRequest;
use actix_web::http::header::IF_MATCH;
use actix_web::web::{self, ServiceConfig};
use kachel_engine::{Document, Engine, ResultView, Stage, Watch};
use serde::Deserialize;
use std::sync::Arc;

pub use designs::{DesignView, Edits, ShelfItem};
pub use jobs::JobView;
pub use outline::SideView;
pub use samples::SampleView;

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
        .configure(jobs::configure);
}

impl Shop {
    fn result(&self, d: &Document, look: Look, watch: &Watch) -> ResultView {
        let last = match look.until {
            Some(Until::Outline) => Stage::Outline,
            None => Stage::Check,
        };
        let run = self.engine.run_until(d, &|| self.picture(d), last, watch);
        ResultView::new(d, &run, look.section.filter(|y| y.is_finite()).unwrap_or(0.0))
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
