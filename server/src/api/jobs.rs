use super::shop::{Shared, if_there};
use actix_web::HttpResponse;
use actix_web::web::{self, Path, ServiceConfig};
use serde::Serialize;
use ts_rs::TS;

/// How far a computation is.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct JobView {
    /// What it is doing, for people.
    pub words: String,
    /// The share of it that is done, 0 to 1, where that is known.
    pub done: Option<f64>,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/jobs/{name}", web::get().to(show)).route("/api/jobs/{name}", web::delete().to(stop));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/jobs/{name}",
    operation_id = "jobs_show",
    tag = "jobs",
    summary = "How far a computation is; nothing where none of that name is under way",
    params(("name" = String, Path, description = "The name given in X-Kachel-Job")),
    responses((status = 200, description = "What was asked for", body = JobView), (status = 204, description = "None of that name is under way"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared, name: Path<String>) -> HttpResponse {
    // One that has ended meanwhile is no error: the page asks while the answer is on its way.
    if_there(shop.worker.job(&name).map(|watch| {
        let (stage, done) = watch.progress();
        JobView { words: stage.words().to_string(), done }
    }))
}

/// A job that has ended meanwhile counts as stopped.
#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/jobs/{name}",
    operation_id = "jobs_stop",
    tag = "jobs",
    summary = "Stops a computation",
    params(("name" = String, Path, description = "The name given in X-Kachel-Job")),
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn stop(shop: Shared, name: Path<String>) -> HttpResponse {
    if let Some(job) = shop.worker.job(&name) {
        job.stop();
    }
    HttpResponse::NoContent().finish()
}
