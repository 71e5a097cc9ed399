use super::shop::{Shared, compute, tagged, version};
use crate::problem::ApiError;
use actix_web::web::{self, Json, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::Workshop;
use serde::Serialize;
use ts_rs::TS;

/// The workshop's settings.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct WorkshopView {
    /// For If-Match.
    pub version: i64,
    /// The settings.
    pub workshop: Workshop,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/workshop", web::get().to(show)).route("/api/workshop", web::put().to(change));
}

fn answer(view: &WorkshopView) -> HttpResponse {
    tagged(HttpResponse::Ok(), view.version, view)
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/workshop",
    operation_id = "workshop_show",
    tag = "workshop",
    summary = "Printers, filaments, unit and currency",
    responses((status = 200, description = "What was asked for", body = WorkshopView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let view = compute(&shop, &request, |shop, _| {
        let (version, workshop) = shop.db.workshop()?;
        Ok(WorkshopView { version, workshop })
    })
    .await?;
    Ok(answer(&view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    put,
    path = "/api/workshop",
    operation_id = "workshop_change",
    tag = "workshop",
    summary = "Changes them",
    params(("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    request_body = Workshop,
    responses((status = 200, description = "What was asked for", body = WorkshopView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn change(
    shop: Shared,
    request: HttpRequest,
    settings: Json<Workshop>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, _| {
        let workshop = settings.into_inner();
        workshop.check()?;
        let version = shop.db.set_workshop(version, &workshop)?;
        shop.engine.set_workshop(workshop.clone());
        Ok(WorkshopView { version, workshop })
    })
    .await?;
    Ok(answer(&view))
}
