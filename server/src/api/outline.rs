//! Patches in and out of a design, and their nodes.

use super::attachment::attachment;
use super::shop::{Look, Shared, Shop, answer, compute, first_file, version};
use crate::problem::ApiError;
use actix_multipart::Multipart;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::outline::{Change, DrawnLine, Seen, Spot, Thinnest, Use, patch_at};
use kachel_engine::{
    Document, EngineError, OutlineEdit, Run, Stage, Watch, copied, export_outline, file_name, import_patches,
    patch_nodes,
};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/outline.svg", web::get().to(drawing))
        .route("/api/designs/{id}/nodes/{patch}", web::get().to(nodes))
        .route("/api/designs/{id}/side/{entry}", web::get().to(side))
        .route("/api/designs/{id}/thinnest/{patch}", web::get().to(thinnest))
        .route("/api/designs/{id}/copy", web::get().to(copy))
        .route("/api/designs/{id}/patches", web::post().to(add))
        .route("/api/designs/{id}/outline-of/{other}", web::post().to(take));
}

/// The stages up to the outline.
fn outlined(shop: &Shop, d: &Document, watch: &Watch) -> Run {
    shop.engine.run_until(d, &|| shop.picture(d), Stage::Outline, watch)
}

/// The outline as SVG in millimetres.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/outline.svg",
    operation_id = "outline_drawing",
    tag = "outline",
    summary = "The outline, in millimetres",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/svg+xml"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn drawing(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, svg) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        let run = outlined(shop, &d, watch);
        let svg = export_outline(&d, &run).ok_or(ApiError::Unknown("thing-outline"))?;
        Ok((file_name(&msg!("outline-file", name = d.name).to_string(), "svg"), svg))
    })
    .await?;
    Ok(attachment(&name, "image/svg+xml", svg.into_bytes()))
}

/// The lines round a patch as nodes, pixels of the picture.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/nodes/{patch}",
    operation_id = "outline_nodes",
    tag = "outline",
    summary = "The lines round a patch as nodes for a hand to move",
    params(("id" = String, Path, description = "The design"), ("patch" = usize, Path, description = "Its place in the list of patches"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = Vec<DrawnLine>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn nodes(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
) -> Result<Json<Vec<DrawnLine>>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let (id, patch) = &*path;
        let d = shop.db.designs().get(id)?.document;
        let run = outlined(shop, &d, watch);
        Ok(Json(patch_nodes(&run, *patch).ok_or(ApiError::Unknown("thing-patch"))?))
    })
    .await
}

/// A patch as it was before an entry of the list of changes.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SideView {
    /// The patch.
    pub spot: Spot,
    /// Its use.
    #[serde(rename = "use")]
    pub use_: Use,
    /// What it was like.
    pub seen: Seen,
    /// Its lines.
    pub lines: Vec<DrawnLine>,
}

/// What an entry mirrors or repeats, before it does.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/side/{entry}",
    operation_id = "outline_side",
    tag = "outline",
    summary = "One side of what an entry mirrors or repeats",
    params(("id" = String, Path, description = "The design"), ("entry" = u32, Path, description = "The entry's name"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = SideView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn side(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, u32)>,
) -> Result<Json<SideView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let (id, entry) = &*path;
        let mut d = shop.db.designs().get(id)?.document;
        let unknown = || ApiError::Unknown("thing-patch");
        let at = d.changes.iter().position(|c| c.id == *entry).ok_or_else(unknown)?;
        let spot = *d.changes[at].change.spots().first().ok_or_else(unknown)?;
        d.changes.truncate(at);
        let run = outlined(shop, &d, watch);
        let k = patch_at(&run.patches, &spot).ok_or_else(unknown)?;
        let p = &run.patches[k];
        let lines = patch_nodes(&run, k).ok_or_else(unknown)?;
        Ok(Json(SideView { spot, use_: p.use_, seen: Seen::of(p), lines }))
    })
    .await
}

/// Where a patch is thinnest; null where it is nowhere thin.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/thinnest/{patch}",
    operation_id = "outline_thinnest",
    tag = "outline",
    summary = "Where a patch is thinnest; null where it is 20 mm wide or wider",
    params(("id" = String, Path, description = "The design"), ("patch" = usize, Path, description = "Its place in the list of patches"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = Option<Thinnest>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn thinnest(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
) -> Result<Json<Option<Thinnest>>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let (id, patch) = &*path;
        let d = shop.db.designs().get(id)?.document;
        let run = outlined(shop, &d, watch);
        let outline = run.outline.as_ref().ok_or(ApiError::Unknown("thing-outline"))?;
        Ok(Json(outline.thinnest(*patch).map_err(kachel_engine::EngineError::from)?))
    })
    .await
}

/// Which patches: their places in the list, with commas.
#[derive(Deserialize)]
pub(super) struct Which {
    patches: String,
}

/// Patches as a change that adds them to any design.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/copy",
    operation_id = "outline_copy",
    tag = "outline",
    summary = "Patches as they can be put into another design",
    params(("id" = String, Path, description = "The design"), ("patches" = String, Query, description = "Their places in the list, with commas between them"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = Change), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn copy(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    which: Query<Which>,
) -> Result<Json<Change>, ApiError> {
    let which: Vec<usize> = which.patches.split(',').filter_map(|n| n.trim().parse().ok()).collect();
    compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        let run = outlined(shop, &d, watch);
        Ok(Json(copied(&run, &which).ok_or(ApiError::Unknown("thing-patch"))?))
    })
    .await
}

/// Adds the patches of an SVG.
#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/patches",
    operation_id = "outline_add",
    tag = "outline",
    summary = "Adds the patches of an SVG",
    params(("id" = String, Path, description = "The design"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body(content = crate::api::shop::Upload, content_type = "multipart/form-data"),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn add(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    form: Multipart,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (_, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.designs().get(&id)?.document;
        let edits = [OutlineEdit::AddChange { change: import_patches(&bytes, watch)?, before: None }.into()];
        let after = shop.applied(&before, &edits, watch)?;
        let stored = shop.db.designs().change(&id, version, &after, &msg!("patches-from-svg"))?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/outline-of/{other}",
    operation_id = "outline_take",
    tag = "outline",
    summary = "Gives a design the outline of another: picture, changes, uses and size; recipe, measures and tiers stay",
    params(("id" = String, Path, description = "The design"), ("other" = String, Path, description = "The design whose outline it gets"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn take(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (id, other) = path.into_inner();
    let view = compute(&shop, &request, move |shop, watch| {
        let other = shop.db.designs().get(&other)?.document;
        let after = shop.db.designs().get(&id)?.document.with_outline_of(&other);
        let picture = shop.picture(&other).map_err(EngineError::Picture)?;
        let label = msg!("outline-of", design = &other.name);
        let stored = shop.db.designs().replace(&id, version, &after, &picture, &label)?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}
