use super::shop::{Look, Shared, Shop, answer, compute, item, on_shelf, version};
use super::states::{Against, StateView, drawn_small, small};
use crate::db::Listed;
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::Watch;
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A kept state of a design.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SnapshotView {
    /// Its name for the program.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// When it was kept.
    pub created_at: String,
    /// Its recipe's label; none where it cannot be read.
    pub recipe: Option<String>,
    /// Why it cannot be opened, where it cannot.
    pub damage: Option<String>,
}

/// What a snapshot is called.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct SnapshotName {
    /// 1 to 80 characters.
    pub name: String,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/snapshots", web::get().to(list))
        .route("/api/designs/{id}/snapshots", web::post().to(keep))
        .route("/api/designs/{id}/snapshots/{snapshot}", web::get().to(show))
        .route("/api/designs/{id}/snapshots/{snapshot}", web::delete().to(forget))
        .route("/api/designs/{id}/snapshots/{snapshot}/thumbnail.svg", web::get().to(kept_small))
        .route("/api/designs/{id}/snapshots/{snapshot}/go-back", web::post().to(go_back))
        .route("/api/designs/{id}/snapshots/{snapshot}/branch", web::post().to(branch));
}

fn view(s: Listed) -> SnapshotView {
    let recipe = s.recipe.as_ref().ok().map(|r| r.recipe().label().to_string());
    SnapshotView { id: s.id, name: s.name, created_at: s.created_at, recipe, damage: s.recipe.err() }
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/snapshots",
    operation_id = "snapshots_list",
    tag = "snapshots",
    summary = "Kept states of a design, the last first",
    params(("id" = String, Path, description = "The design")),
    responses((status = 200, description = "What was asked for", body = Vec<SnapshotView>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list(shop: Shared, id: Path<String>) -> Result<Json<Vec<SnapshotView>>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(shop.db.snapshots(&id)?.into_iter().map(view).collect()))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/snapshots",
    operation_id = "snapshots_keep",
    tag = "snapshots",
    summary = "Keeps the present state under a name",
    params(("id" = String, Path, description = "The design")),
    request_body = SnapshotName,
    responses((status = 201, description = "What was asked for", body = SnapshotView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn keep(shop: Shared, id: Path<String>, name: Json<SnapshotName>) -> Result<HttpResponse, ApiError> {
    let kept = on_shelf(&shop, move |shop| {
        let name = name.name.trim();
        if !(1..=80).contains(&name.chars().count()) {
            return Err(ApiError::Malformed(msg!("snapshot-name")));
        }
        Ok(view(shop.db.keep(&id, name)?))
    })
    .await?;
    Ok(HttpResponse::Created().json(kept))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/snapshots/{snapshot}",
    operation_id = "snapshots_show",
    tag = "snapshots",
    summary = "What a kept state gives, and in what the present one or another differs from it",
    params(("id" = String, Path, description = "The design"), ("snapshot" = String, Path, description = "The snapshot"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("step" = Option<i64>, Query, description = "A step that it is laid beside"), ("kept" = Option<String>, Query, description = "A snapshot that it is laid beside; the present state where neither is named"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::states::StateView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
    look: Query<Look>,
    against: Query<Against>,
) -> Result<Json<StateView>, ApiError> {
    let (id, snapshot) = path.into_inner();
    compute(&shop, &request, move |shop, watch| {
        StateView::of(shop, &id, shop.db.snapshot(&id, &snapshot)?.document, &against, *look, watch)
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/snapshots/{snapshot}/thumbnail.svg",
    operation_id = "snapshots_small",
    tag = "snapshots",
    summary = "A kept state as a small drawing in plan",
    params(("id" = String, Path, description = "The design"), ("snapshot" = String, Path, description = "The snapshot"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/svg+xml"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn kept_small(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
) -> Result<HttpResponse, ApiError> {
    let (id, snapshot) = path.into_inner();
    let draw = move |shop: &Shop, watch: &Watch| drawn_small(shop, &shop.db.snapshot(&id, &snapshot)?.document, watch);
    Ok(small(compute(&shop, &request, draw).await?))
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/designs/{id}/snapshots/{snapshot}",
    operation_id = "snapshots_forget",
    tag = "snapshots",
    summary = "Forgets a kept state",
    params(("id" = String, Path, description = "The design"), ("snapshot" = String, Path, description = "The snapshot")),
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn forget(shop: Shared, path: Path<(String, String)>) -> Result<HttpResponse, ApiError> {
    let (id, snapshot) = path.into_inner();
    on_shelf(&shop, move |shop| Ok(shop.db.forget(&id, &snapshot)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The design as it was: a change like any other, so that it can be undone.
#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/snapshots/{snapshot}/go-back",
    operation_id = "snapshots_go_back",
    tag = "snapshots",
    summary = "Makes a kept state the present one; undo takes it back",
    params(("id" = String, Path, description = "The design"), ("snapshot" = String, Path, description = "The snapshot"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn go_back(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (id, snapshot) = path.into_inner();
    let view = compute(&shop, &request, move |shop, watch| {
        let s = shop.db.snapshot(&id, &snapshot)?;
        let stored = shop.db.designs().change(&id, version, &s.document, &msg!("back-to", name = &s.name))?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/snapshots/{snapshot}/branch",
    operation_id = "snapshots_branch",
    tag = "snapshots",
    summary = "A design of its own from a kept state",
    params(("id" = String, Path, description = "The design"), ("snapshot" = String, Path, description = "The snapshot")),
    responses((status = 201, description = "What was asked for", body = crate::api::shop::ShelfItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn branch(shop: Shared, path: Path<(String, String)>) -> Result<HttpResponse, ApiError> {
    let (id, snapshot) = path.into_inner();
    let copy = on_shelf(&shop, move |shop| Ok(item(shop.db.branch(&id, &snapshot)?))).await?;
    Ok(HttpResponse::Created().json(copy))
}
