use super::designs::{answer, item};
use super::{Look, Shared, compute, version};
use crate::db::Snapshot;
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{Document, ResultView};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A kept state of a design.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct SnapshotView {
    /// Its name for the program.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// When it was kept.
    pub created_at: String,
    /// Its recipe's label.
    pub recipe: &'static str,
}

/// A snapshot with what it gives, to be compared.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct KeptView {
    /// The snapshot.
    pub snapshot: SnapshotView,
    /// The document as it was.
    pub document: Document,
    /// What came out.
    pub result: ResultView,
}

/// What a snapshot is called.
#[derive(Deserialize, TS)]
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
        .route("/api/designs/{id}/snapshots/{snapshot}/go-back", web::post().to(go_back))
        .route("/api/designs/{id}/snapshots/{snapshot}/branch", web::post().to(branch));
}

fn view(s: &Snapshot) -> SnapshotView {
    SnapshotView {
        id: s.id.clone(),
        name: s.name.clone(),
        created_at: s.created_at.clone(),
        recipe: s.document.recipe.recipe().label,
    }
}

async fn list(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<Vec<SnapshotView>>, ApiError> {
    compute(&shop, &request, move |shop, _| Ok(Json(shop.db.snapshots(&id)?.iter().map(view).collect()))).await
}

async fn keep(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    name: Json<SnapshotName>,
) -> Result<HttpResponse, ApiError> {
    let kept = compute(&shop, &request, move |shop, _| {
        let name = name.name.trim();
        if !(1..=80).contains(&name.chars().count()) {
            return Err(ApiError::Malformed("a snapshot's name has 1 to 80 characters".into()));
        }
        Ok(view(&shop.db.keep(&id, name)?))
    })
    .await?;
    Ok(HttpResponse::Created().json(kept))
}

async fn show(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
    look: Query<Look>,
) -> Result<Json<KeptView>, ApiError> {
    let (id, snapshot) = path.into_inner();
    compute(&shop, &request, move |shop, watch| {
        let s = shop.db.snapshot(&id, &snapshot)?;
        let result = shop.result(&s.document, *look, watch);
        Ok(Json(KeptView { snapshot: view(&s), document: s.document, result }))
    })
    .await
}

async fn forget(shop: Shared, request: HttpRequest, path: Path<(String, String)>) -> Result<HttpResponse, ApiError> {
    let (id, snapshot) = path.into_inner();
    compute(&shop, &request, move |shop, _| Ok(shop.db.forget(&id, &snapshot)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The design as it was: a change like any other, so that it can be undone.
async fn go_back(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (id, snapshot) = path.into_inner();
    let view = compute(&shop, &request, move |shop, watch| {
        let s = shop.db.snapshot(&id, &snapshot)?;
        let stored = shop.db.change(&id, version, &s.document, &format!("Back to '{}'", s.name))?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

async fn branch(shop: Shared, request: HttpRequest, path: Path<(String, String)>) -> Result<HttpResponse, ApiError> {
    let (id, snapshot) = path.into_inner();
    let copy = compute(&shop, &request, move |shop, _| Ok(item(shop.db.branch(&id, &snapshot)?))).await?;
    Ok(HttpResponse::Created().json(copy))
}
