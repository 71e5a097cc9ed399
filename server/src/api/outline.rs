//! Patches in and out of a design, and their nodes.

use super::designs::{answer, first_file};
use super::files::attachment;
use super::{Look, Shared, compute, version};
use crate::problem::ApiError;
use actix_multipart::Multipart;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::outline::{Change, DrawnLine};
use kachel_engine::{Edit, Stage, copied, export_outline, file_name, import_patches, patch_nodes};
use serde::Deserialize;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/outline.svg", web::get().to(drawing))
        .route("/api/designs/{id}/nodes/{patch}", web::get().to(nodes))
        .route("/api/designs/{id}/copy", web::get().to(copy))
        .route("/api/designs/{id}/patches", web::post().to(add));
}

/// The outline as SVG in millimetres.
async fn drawing(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, svg) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.get(&id)?.document;
        let run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Outline, watch);
        let svg = export_outline(&d, &run).ok_or(ApiError::Unknown("outline"))?;
        Ok((file_name(&format!("{} outline", d.name), "svg"), svg))
    })
    .await?;
    Ok(attachment(&name, "image/svg+xml", svg.into_bytes()))
}

/// The lines round a patch as nodes, pixels of the picture.
async fn nodes(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
) -> Result<Json<Vec<DrawnLine>>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let (id, patch) = &*path;
        let d = shop.db.get(id)?.document;
        let run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Outline, watch);
        Ok(Json(patch_nodes(&run, *patch).ok_or(ApiError::Unknown("patch"))?))
    })
    .await
}

/// Which patches: their places in the list, with commas.
#[derive(Deserialize)]
struct Which {
    patches: String,
}

/// Patches as a change that adds them to any design.
async fn copy(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    which: Query<Which>,
) -> Result<Json<Change>, ApiError> {
    let which: Vec<usize> = which.patches.split(',').filter_map(|n| n.trim().parse().ok()).collect();
    compute(&shop, &request, move |shop, watch| {
        let d = shop.db.get(&id)?.document;
        let run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Outline, watch);
        Ok(Json(copied(&run, &which).ok_or(ApiError::Unknown("patch"))?))
    })
    .await
}

/// Adds the patches of an SVG.
async fn add(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    form: Multipart,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (_, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.get(&id)?.document;
        let edits = [Edit::AddChange { change: import_patches(&bytes, watch)?, before: None }];
        let after = shop.engine.apply(&before, &edits, &|| shop.picture(&before), watch)??;
        let stored = shop.db.change(&id, version, &after, "Patches from an SVG")?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}
