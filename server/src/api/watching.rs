//! Whether something has changed, for pages that somebody else may be working on too. Asked for often, so it computes nothing.

use super::shop::{Shared, on_shelf};
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, ServiceConfig};
use serde::Serialize;
use ts_rs::TS;

/// What a design or bed is at.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct VersionView {
    /// Its version.
    pub version: i64,
    /// Of a bed the sum of its designs' versions, which rises when one of them changes; of a design 0.
    pub of_designs: i64,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/version", web::get().to(design))
        .route("/api/beds/{id}/version", web::get().to(bed));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/version",
    operation_id = "watching_design",
    tag = "designs",
    summary = "Its version, to see whether somebody has changed it",
    params(("id" = String, Path, description = "The design")),
    responses((status = 200, description = "What was asked for", body = VersionView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn design(shop: Shared, id: Path<String>) -> Result<Json<VersionView>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(VersionView { version: shop.db.designs().version(&id)?, of_designs: 0 }))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds/{id}/version",
    operation_id = "watching_bed",
    tag = "beds",
    summary = "Its version and that of its designs, to see whether somebody has changed them",
    params(("id" = String, Path, description = "The bed")),
    responses((status = 200, description = "What was asked for", body = VersionView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn bed(shop: Shared, id: Path<String>) -> Result<Json<VersionView>, ApiError> {
    on_shelf(&shop, move |shop| {
        let bed = shop.db.beds().get(&id)?;
        let designs = bed.document.copies();
        // One that is gone counts for nothing, so that its going is seen.
        let of_designs = designs.keys().filter_map(|d| shop.db.designs().version(d).ok()).sum();
        Ok(Json(VersionView { version: bed.version, of_designs }))
    })
    .await
}
