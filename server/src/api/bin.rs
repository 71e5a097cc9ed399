//! The bin: what was taken off the shelf.

use super::shop::{Shared, on_shelf};
use crate::problem::ApiError;
use actix_web::HttpResponse;
use actix_web::web::{self, Json, ServiceConfig};
use serde::Serialize;
use ts_rs::TS;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/bin", web::get().to(show)).route("/api/bin", web::delete().to(empty));
}

/// Something in the bin.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BinItem {
    /// Its name for the program.
    pub id: String,
    /// `design` or `bed`.
    #[ts(type = "\"design\" | \"bed\"")]
    pub kind: String,
    /// What the maker called it.
    pub name: String,
    /// When it was taken off the shelf.
    pub deleted_at: String,
}

/// The bin.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BinView {
    /// What lies in it, the last first.
    pub items: Vec<BinItem>,
    /// How much of the file it takes, bytes.
    #[ts(type = "number")]
    pub bytes: i64,
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/bin",
    operation_id = "bin_show",
    tag = "designs",
    summary = "What was taken off the shelf, and how much room it takes",
    responses((status = 200, description = "What was asked for", body = BinView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared) -> Result<Json<BinView>, ApiError> {
    on_shelf(&shop, |shop| {
        let (all, bytes) = shop.db.bin()?;
        let items = all.into_iter().map(|b| BinItem { id: b.id, kind: b.kind, name: b.name, deleted_at: b.deleted_at });
        Ok(Json(BinView { items: items.collect(), bytes }))
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/bin",
    operation_id = "bin_empty",
    tag = "designs",
    summary = "Empties the bin for good; the shelf's file shrinks",
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn empty(shop: Shared) -> Result<HttpResponse, ApiError> {
    on_shelf(&shop, |shop| Ok(shop.db.empty_bin()?)).await?;
    Ok(HttpResponse::NoContent().finish())
}
