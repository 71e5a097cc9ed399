use super::Shared;
use crate::problem::ApiError;
use actix_web::HttpResponse;
use actix_web::web::{self, Json, Path, ServiceConfig};
use serde::Serialize;
use ts_rs::TS;

/// How far a computation is.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct JobView {
    /// What it is doing, for people.
    pub words: &'static str,
    /// The share of it that is done, 0 to 1, where that is known.
    pub done: Option<f64>,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/jobs/{name}", web::get().to(show)).route("/api/jobs/{name}", web::delete().to(stop));
}

async fn show(shop: Shared, name: Path<String>) -> Result<Json<JobView>, ApiError> {
    let watch = shop.worker.job(&name).ok_or(ApiError::Unknown("computation"))?;
    let (stage, done) = watch.progress();
    Ok(Json(JobView { words: stage.words(), done }))
}

/// One that has ended meanwhile is as good as stopped.
async fn stop(shop: Shared, name: Path<String>) -> HttpResponse {
    if let Some(job) = shop.worker.job(&name) {
        job.stop();
    }
    HttpResponse::NoContent().finish()
}
