//! Mends, tried before they are offered.

use super::shop::{Shared, compute};
use crate::problem::ApiError;
use actix_web::HttpRequest;
use actix_web::web::{self, Json, Path, ServiceConfig};
use kachel_engine::MendsView;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/designs/{id}/mends", web::get().to(show));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/mends",
    operation_id = "mends_show",
    tag = "designs",
    summary = "Which mends of its findings mend nothing, and what mends all that can be mended without harm",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = MendsView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<MendsView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        let picture = || shop.picture(&d);
        let run = shop.engine.run(&d, &picture, watch);
        Ok(Json(shop.engine.tried_mends(&d, &run, &picture, watch)?))
    })
    .await
}
