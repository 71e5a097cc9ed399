use super::shop::{Look, Shared, ShelfItem, Shop, answer, compute, first_file, item, on_shelf, shelved, version};
use crate::db::Stored;
use crate::problem::ApiError;
use actix_multipart::Multipart;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::tiers::RecipeKind;
use kachel_engine::{Credit, Edit, EngineError, Length, ResultView, Watch, import_design, offered_credit};
use kachel_words::msg;
use serde::Deserialize;
use ts_rs::TS;

/// Changes that belong together: all or none.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Edits {
    /// In order.
    pub edits: Vec<Edit>,
}

impl Edits {
    /// The first one, by which undo calls them. An empty list is refused, since it would save a step that undoes nothing.
    fn first(&self) -> Result<&Edit, ApiError> {
        self.edits.first().ok_or_else(|| ApiError::Malformed(msg!("no-edits")))
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
        .route("/api/designs/{id}/offered-credit", web::get().to(offered))
        .route("/api/designs/{id}/undo", web::post().to(undo))
        .route("/api/designs/{id}/redo", web::post().to(redo))
        .route("/api/designs/{id}/duplicate", web::post().to(duplicate))
        .route("/api/designs/{id}/restore", web::post().to(restore))
        .route("/api/designs/{id}/rescue", web::post().to(rescue))
        .route("/api/designs/{id}/try-again", web::post().to(try_again));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs",
    operation_id = "designs_list",
    tag = "designs",
    summary = "The shelf",
    responses((status = 200, description = "What was asked for", body = Vec<crate::api::shop::ShelfItem>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list(shop: Shared) -> Result<Json<Vec<ShelfItem>>, ApiError> {
    on_shelf(&shop, |shop| {
        let mut all: Vec<ShelfItem> = shop.db.designs().list()?.into_iter().map(shelved).collect();
        if let Some(helper) = &shop.helper {
            all.iter_mut().for_each(|d| d.is_left_alone = helper.leaves_alone(&d.id));
        }
        Ok(Json(all))
    })
    .await
}

/// 'red_fox-2.png' names a design 'Red fox 2'.
fn name_of(file: &str) -> String {
    let stem = file.rsplit(['/', '\\']).next().unwrap_or(file);
    let stem = stem.rsplit_once('.').map_or(stem, |(s, _)| s);
    let words = stem.split(['_', '-', ' ']).filter(|w| !w.is_empty()).collect::<Vec<_>>().join(" ");
    let mut chars = words.chars().filter(|c| !c.is_control()).take(100);
    let name: String = chars.next().map(|c| c.to_uppercase().chain(chars).collect()).unwrap_or_default();
    if name.is_empty() { msg!("new-design").to_string() } else { name }
}

/// As what a picture begins.
#[derive(Clone, Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct BeginAs {
    /// The recipe; the usual one where it is left out.
    recipe: Option<RecipeKind>,
    /// The object's longest side is at most this, as it is typed.
    longest: Option<String>,
    /// House measures, by their name; they bring their recipe along.
    house: Option<String>,
}

/// Makes a design and puts it on the shelf.
pub(super) fn create(
    shop: &Shop,
    file: &str,
    name: &str,
    bytes: &[u8],
    by: &BeginAs,
    watch: &Watch,
) -> Result<Stored, ApiError> {
    // A 3MF of ours holds the design that it was made from.
    if bytes.starts_with(b"PK") {
        let (document, picture) = import_design(bytes)?.ok_or(ApiError::NoDesignInside)?;
        // What cannot be computed without harm is not put on the shelf, where every visit would compute it again.
        shop.engine.run(&document, &|| Ok(picture.clone()), watch);
        return Ok(shop.db.designs().create(&document, &picture, &msg!("opened-3mf"))?);
    }
    let mut new = shop.engine.new_document(name, file, bytes, watch)?;
    if let Some(house) = &by.house {
        let edit = shop.engine.workshop().house(house).ok_or(ApiError::Unknown("thing-house-measures"))?.edit();
        let edited = shop.engine.apply(&new, &[edit], &|| Ok(bytes.to_vec()), watch)?;
        new = edited.map_err(|e| ApiError::Edit(e, new.unit))?;
    }
    let longest = by.longest.as_deref().map(Length::from);
    let begun = shop.engine.begin_as(&new, by.recipe, longest.as_ref(), &|| Ok(bytes.to_vec()), watch)?;
    let document = begun.map_err(|e| ApiError::Edit(e, new.unit))?;
    Ok(shop.db.designs().create(&document, bytes, &msg!("new-design"))?)
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs",
    operation_id = "designs_upload",
    tag = "designs",
    summary = "A new design from a picture, or from a 3MF that Kachel wrote",
    params(("recipe" = Option<String>, Query, description = "As what it begins, such as `key-tag`; the usual recipe where it is left out"), ("longest" = Option<String>, Query, description = "The longest side of the object is at most this, such as `70 mm`"), ("house" = Option<String>, Query, description = "House measures by their name, with their recipe"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body(content = crate::api::shop::Upload, content_type = "multipart/form-data"),
    responses((status = 201, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn upload(
    shop: Shared,
    request: HttpRequest,
    by: Query<BeginAs>,
    form: Multipart,
) -> Result<HttpResponse, ApiError> {
    let (file, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let short: String = file.chars().take(200).collect();
        let stored = create(shop, &short, &name_of(&file), &bytes, &by, watch)?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Created(), &view))
}

/// What becomes of the credit when a design gets another picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
enum CreditOf {
    /// It goes along, and is the new picture's, too.
    Keep,
    /// It was the old picture's.
    Clear,
}

#[derive(Clone, Copy, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Replacement {
    credit: Option<CreditOf>,
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/offered-credit",
    operation_id = "designs_offered_credit",
    tag = "designs",
    summary = "What the picture's file says of its maker and its terms; empty where it says nothing",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = kachel_engine::Credit), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn offered(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<Credit>, ApiError> {
    compute(&shop, &request, move |shop, _| {
        let document = shop.db.designs().get(&id)?.document;
        Ok(Json(offered_credit(&shop.picture(&document).map_err(EngineError::Picture)?)))
    })
    .await
}

/// Puts another picture under a design.
#[cfg_attr(feature = "schema", utoipa::path(
    put,
    path = "/api/designs/{id}/picture",
    operation_id = "designs_replace",
    tag = "designs",
    summary = "Another picture under the same design",
    params(("id" = String, Path, description = "The design"), ("credit" = Option<String>, Query, description = "`clear` empties the credit, which was the old picture's; `keep` says that it holds for the new one; left out, it goes along, and Check asks"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body(content = crate::api::shop::Upload, content_type = "multipart/form-data"),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn replace(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    with: Query<Replacement>,
    form: Multipart,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let (file, bytes) = first_file(form).await?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.designs().get(&id)?.document;
        let short: String = file.chars().take(200).collect();
        let mut after = shop.engine.replace_picture(&before, &short, &bytes, &|| shop.picture(&before), watch)?;
        let stated = offered_credit(&bytes).maker;
        match with.credit {
            Some(CreditOf::Clear) => (after.credit, after.credit_of) = (Credit::default(), None),
            // Not where the file names somebody else.
            Some(CreditOf::Keep) if stated.is_empty() || stated == after.credit.maker => after.credit_of = None,
            // Check asks.
            _ => {}
        }
        let stored = shop.db.designs().replace(&id, version, &after, &bytes, &msg!("another-picture"))?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}",
    operation_id = "designs_show",
    tag = "designs",
    summary = "A design with its result",
    params(("id" = String, Path, description = "The design"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    let view =
        compute(&shop, &request, move |shop, watch| Ok(shop.view(shop.db.designs().get(&id)?, *look, watch))).await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/edits",
    operation_id = "designs_edit",
    tag = "designs",
    summary = "Changes a design: all edits or none",
    params(("id" = String, Path, description = "The design"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body = Edits,
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn edit(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    edits: Json<Edits>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let before = shop.db.designs().get(&id)?;
        let label = edits.first()?.sentence(&before.document);
        let after = shop.applied(&before.document, &edits.edits, watch)?;
        let stored = shop.db.designs().change(&id, version, &after, &label)?;
        Ok(shop.view(stored, *look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

/// What the edits would give; nothing is saved. Without any it is the design as it is, seen as the page wants to see it.
#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/preview",
    operation_id = "designs_preview",
    tag = "designs",
    summary = "What edits would give; nothing is saved",
    params(("id" = String, Path, description = "The design"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body = Edits,
    responses((status = 200, description = "What was asked for", body = ResultView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn preview(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
    edits: Json<Edits>,
) -> Result<Json<ResultView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let before = shop.db.designs().get(&id)?;
        let after = shop.applied(&before.document, &edits.edits, watch)?;
        Ok(Json(shop.result(&after, *look, watch)))
    })
    .await
}

async fn step(shop: Shared, request: HttpRequest, id: String, look: Look, by: i64) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let stored = shop.db.designs().step(&id, version, by)?;
        Ok(shop.view(stored, look, watch))
    })
    .await?;
    Ok(answer(HttpResponse::Ok(), &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/undo",
    operation_id = "designs_undo",
    tag = "designs",
    summary = "One step back",
    params(("id" = String, Path, description = "The design"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn undo(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), *look, -1).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/redo",
    operation_id = "designs_redo",
    tag = "designs",
    summary = "One step forth",
    params(("id" = String, Path, description = "The design"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn redo(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    look: Query<Look>,
) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), *look, 1).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/duplicate",
    operation_id = "designs_duplicate",
    tag = "designs",
    summary = "A copy of a design",
    params(("id" = String, Path, description = "The design")),
    responses((status = 201, description = "What was asked for", body = crate::api::shop::ShelfItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn duplicate(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let copy = on_shelf(&shop, move |shop| Ok(item(shop.db.designs().duplicate(&id)?))).await?;
    Ok(HttpResponse::Created().json(copy))
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/designs/{id}",
    operation_id = "designs_delete",
    tag = "designs",
    summary = "Takes a design off the shelf; it can be restored",
    params(("id" = String, Path, description = "The design")),
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn delete(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    on_shelf(&shop, move |shop| Ok(shop.db.designs().delete(&id)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/rescue",
    operation_id = "designs_rescue",
    tag = "designs",
    summary = "Goes back to the last state that can be read, where the present one cannot",
    params(("id" = String, Path, description = "The design"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::ShelfItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn rescue(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<ShelfItem>, ApiError> {
    let version = version(&request)?;
    on_shelf(&shop, move |shop| Ok(Json(item(shop.db.designs().rescue(&id, version)?)))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/try-again",
    operation_id = "designs_try_again",
    tag = "designs",
    summary = "Lets a design be computed again that was left alone because its computation had failed",
    params(("id" = String, Path, description = "The design")),
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn try_again(shop: Shared, id: Path<String>) -> HttpResponse {
    if let Some(helper) = &shop.helper {
        helper.forgive(&id);
    }
    HttpResponse::NoContent().finish()
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/restore",
    operation_id = "designs_restore",
    tag = "designs",
    summary = "Puts a deleted design back",
    params(("id" = String, Path, description = "The design")),
    responses((status = 200, description = "What was asked for", body = crate::api::shop::ShelfItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn restore(shop: Shared, id: Path<String>) -> Result<Json<ShelfItem>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(item(shop.db.designs().restore(&id)?)))).await
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
