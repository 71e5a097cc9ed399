use super::attachment::attachment;
use super::shop::{Shared, Shop, first_file, on_shelf, tagged, version};
use crate::problem::ApiError;
use actix_multipart::Multipart;
use actix_web::web::{self, Json, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{Workshop, read_houses, write_houses};
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
    routes
        .route("/api/workshop", web::get().to(show))
        .route("/api/workshop", web::put().to(change))
        .route("/api/workshop/houses", web::get().to(houses))
        .route("/api/workshop/houses", web::post().to(bring));
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
pub(super) async fn show(shop: Shared) -> Result<HttpResponse, ApiError> {
    let view = on_shelf(&shop, |shop| {
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
    let view = on_shelf(&shop, move |shop| kept(shop, version, settings.into_inner())).await?;
    Ok(answer(&view))
}

fn kept(shop: &Shop, version: i64, workshop: Workshop) -> Result<WorkshopView, ApiError> {
    workshop.check()?;
    let version = shop.db.set_workshop(version, &workshop)?;
    shop.engine.set_workshop(workshop.clone());
    Ok(WorkshopView { version, workshop })
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/workshop/houses",
    operation_id = "workshop_houses",
    tag = "workshop",
    summary = "House measures as a file, for another workshop or for `kachel make --house`",
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/json"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn houses(shop: Shared) -> Result<HttpResponse, ApiError> {
    let text = on_shelf(&shop, |shop| Ok(write_houses(&shop.db.workshop()?.1.houses)?)).await?;
    Ok(attachment("house-measures.json", "application/json", text.into_bytes()))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/workshop/houses",
    operation_id = "workshop_bring",
    tag = "workshop",
    summary = "Adds house measures out of a file; those of a name that is there take its place",
    params(("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    request_body(content = crate::api::shop::Upload, content_type = "multipart/form-data"),
    responses((status = 200, description = "What was asked for", body = WorkshopView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn bring(shop: Shared, request: HttpRequest, form: Multipart) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (_, bytes) = first_file(form).await?;
    let view = on_shelf(&shop, move |shop| {
        let workshop = shop.db.workshop()?.1.with_houses(read_houses(&bytes)?)?;
        kept(shop, version, workshop)
    })
    .await?;
    Ok(answer(&view))
}
