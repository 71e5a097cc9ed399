use super::{Look, Shared, Shop, compute, tagged, version};
use crate::db::Stored;
use crate::problem::ApiError;
use actix_multipart::Multipart;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use futures_util::TryStreamExt;
use kachel_engine::{Document, Edit, ResultView, Watch, import_design};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Largest upload, bytes; what Artwork reads at the most.
pub(crate) const MAX_UPLOAD: usize = 32 << 20;

/// A design with its result.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct DesignView {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// What the maker decided.
    pub document: Document,
    /// When it last changed.
    pub saved_at: String,
    /// What undo takes back.
    pub undo: Option<String>,
    /// What redo brings back.
    pub redo: Option<String>,
    /// What came out.
    pub result: ResultView,
}

/// A design as the shelf lists it.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct ShelfItem {
    /// Its name for the program.
    pub id: String,
    /// Changes with its picture.
    pub version: i64,
    /// What the maker calls it.
    pub name: String,
    /// Its recipe's label.
    pub recipe: &'static str,
    /// When it last changed.
    pub saved_at: String,
}

/// Changes that belong together: all or none.
#[derive(Deserialize, TS)]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Edits {
    /// In order.
    pub edits: Vec<Edit>,
}

impl Edits {
    /// What undo calls them: as the first one. An empty list is refused, since it would save a step that undoes nothing.
    fn label(&self) -> Result<String, ApiError> {
        let first = self.edits.first().ok_or_else(|| ApiError::Malformed("the list of edits is empty".into()))?;
        Ok(first.label())
    }
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs", web::get().to(list))
        .route("/api/designs", web::post().to(upload))
        .route("/api/designs/{id}", web::get().to(show))
        .route("/api/designs/{id}", web::delete().to(delete))
        .route("/api/designs/{id}/edits", web::post().to(edit))
        .route("/api/designs/{id}/preview", web::post().to(preview))
        .route("/api/designs/{id}/picture", web::put().to(replace))
        .route("/api/designs/{id}/undo", web::post().to(undo))
        .route("/api/designs/{id}/redo", web::post().to(redo))
        .route("/api/designs/{id}/duplicate", web::post().to(duplicate))
        .route("/api/designs/{id}/restore", web::post().to(restore));
}

pub(super) fn item(s: Stored) -> ShelfItem {
    let recipe = s.document.recipe.recipe().label;
    ShelfItem { id: s.id, version: s.version, name: s.document.name, recipe, saved_at: s.updated_at }
}

pub(super) fn answer(response: actix_web::HttpResponseBuilder, view: &DesignView) -> HttpResponse {
    tagged(response, view.version, view)
}

async fn list(shop: Shared, request: HttpRequest) -> Result<Json<Vec<ShelfItem>>, ApiError> {
    compute(&shop, &request, |shop, _| Ok(Json(shop.db.list()?.into_iter().map(item).collect()))).await
}

/// The first file of a form, and its name.
pub(super) async fn first_file(mut form: Multipart) -> Result<(String, Vec<u8>), ApiError> {
    let malformed = |e: actix_multipart::MultipartError| ApiError::Malformed(e.to_string());
    while let Some(mut field) = form.try_next().await.map_err(malformed)? {
        let Some(name) = field.content_disposition().and_then(|d| d.get_filename()).map(str::to_string) else {
            continue;
        };
        let mut bytes = Vec::new();
        while let Some(chunk) = field.try_next().await.map_err(malformed)? {
            if bytes.len() + chunk.len() > MAX_UPLOAD {
                return Err(ApiError::UploadTooLarge { limit: MAX_UPLOAD });
            }
            bytes.extend_from_slice(&chunk);
        }
        return Ok((name, bytes));
    }
    Err(ApiError::Malformed("there is no file in it".into()))
}

/// 'red_fox-2.png' names a design 'Red fox 2'.
fn name_of(file: &str) -> String {
    let stem = file.rsplit(['/', '\\']).next().unwrap_or(file);
    let stem = stem.rsplit_once('.').map_or(stem, |(s, _)| s);
    let words = stem.split(['_', '-', ' ']).filter(|w| !w.is_empty()).collect::<Vec<_>>().join(" ");
    let mut chars = words.chars().filter(|c| !c.is_control()).take(100);
    let name: String = chars.next().map(|c| c.to_uppercase().chain(chars).collect()).unwrap_or_default();
    if name.is_empty() { "New design".into() } else { name }
}

/// Makes a design and puts it on the shelf.
pub(super) fn create(shop: &Shop, file: &str, name: &str, bytes: &[u8], watch: &Watch) -> Result<Stored, ApiError> {
    // A 3MF of ours holds the design that it was made from.
    if bytes.starts_with(b"PK") {
        let (document, picture) = import_design(bytes)?.ok_or(ApiError::NoDesignInside)?;
        return Ok(shop.db.create(&document, &picture, "Opened from a 3MF")?);
    }
    let document = shop.engine.new_document(name, file, bytes, watch)?;
    Ok(shop.db.create(&document, bytes, "New design")?)
}

async fn upload(shop: Shared, request: HttpRequest, form: Multipart) -> Result<HttpResponse, ApiError> {
    let (file, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let short: String = file.chars().take(200).collect();
        let stored = create(shop, &short, &name_of(&file), &bytes, watch)?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Created(), &view))
}

/// Puts another picture under a design.
async fn replace(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    form: Multipart,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (file, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.get(&id)?.document;
        let short: String = file.chars().take(200).collect();
        let after = shop.engine.replace_picture(&before, &short, &bytes, &|| shop.picture(&before), watch)?;
        let stored = shop.db.replace(&id, version, &after, &bytes, "Another picture")?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

async fn show(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    let view = compute(&shop, &request, move |shop, watch| Ok(shop.view(shop.db.get(&id)?, *look, watch))).await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

async fn edit(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    edits: Json<Edits>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.get(&id)?;
        let label = edits.label()?;
        let after = shop.engine.apply(&before.document, &edits.edits, &|| shop.picture(&before.document), watch)??;
        let stored = shop.db.change(&id, version, &after, &label)?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

/// What the edits would give; nothing is saved.
async fn preview(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    edits: Json<Edits>,
) -> Result<Json<ResultView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        edits.label()?;
        let before = shop.db.get(&id)?;
        let after = shop.engine.apply(&before.document, &edits.edits, &|| shop.picture(&before.document), watch)??;
        Ok(Json(shop.result(&after, *look, watch)))
    })
    .await
}

async fn step(shop: Shared, request: HttpRequest, id: String, look: Look, by: i64) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let stored = shop.db.step(&id, version, by)?;
        Ok(shop.view(stored, look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

async fn undo(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), *look, -1).await
}

async fn redo(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), *look, 1).await
}

async fn duplicate(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let copy = compute(&shop, &request, move |shop, _| Ok(item(shop.db.duplicate(&id)?))).await?;
    Ok(HttpResponse::Created().json(copy))
}

async fn delete(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    compute(&shop, &request, move |shop, _| Ok(shop.db.delete(&id)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn restore(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<ShelfItem>, ApiError> {
    compute(&shop, &request, move |shop, _| Ok(Json(item(shop.db.restore(&id)?)))).await
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn file_names_become_names() {
        for (file, name) in [
            ("red_fox-2.png", "Red fox 2"),
            ("C:\\pictures\\owl.jpeg", "Owl"),
            ("../../.png", "New design"),
            ("", "New design"),
        ] {
            assert_eq!(name_of(file), name, "{file}");
        }
    }
}
