//! Beds: designs that are printed together.

use super::shop::{Damage, Shared, Shop, compute, on_shelf, tagged, version};
use crate::db::{DbError, Shelved, Stored};
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{Bed, BedEdit, BedView, OnBeds, Watch, bed_view};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A bed with its result.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedOnShelf {
    /// Its name for the program.
    pub id: String,
    /// For If-Match.
    pub version: i64,
    /// What the maker decided.
    pub document: Bed,
    /// When it last changed.
    pub saved_at: String,
    /// What undo takes back.
    pub undo: Option<String>,
    /// What redo brings back.
    pub redo: Option<String>,
    /// What came out.
    pub result: BedView,
}

/// A bed as the shelf lists it.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedItem {
    /// Its name for the program.
    pub id: String,
    /// Changes with what lies on it.
    pub version: i64,
    /// What the maker calls it.
    pub name: String,
    /// How many pieces lie on it.
    pub pieces: usize,
    /// How many fillings of the printer's bed it is.
    pub plates: usize,
    /// When it last changed.
    pub saved_at: String,
    /// Why it cannot be opened, where it cannot.
    pub damage: Option<Damage>,
}

/// A new bed.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct NewBed {
    /// What it is called; 'Bed' and a number where it is left out.
    pub name: Option<String>,
    /// One copy of each of these designs lies on it.
    pub designs: Vec<String>,
}

/// Changes of a bed that belong together: all or none.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct BedEdits {
    /// In order.
    pub edits: Vec<BedEdit>,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/beds", web::get().to(list))
        .route("/api/beds", web::post().to(create))
        .route("/api/beds/{id}", web::get().to(show))
        .route("/api/beds/{id}", web::delete().to(delete))
        .route("/api/beds/{id}/edits", web::post().to(edit))
        .route("/api/beds/{id}/arrange", web::post().to(arrange))
        .route("/api/beds/{id}/undo", web::post().to(undo))
        .route("/api/beds/{id}/redo", web::post().to(redo))
        .route("/api/beds/{id}/duplicate", web::post().to(duplicate))
        .route("/api/beds/{id}/restore", web::post().to(restore))
        .route("/api/beds/{id}/rescue", web::post().to(rescue));
}

/// The designs that a bed names, each run to its solid.
pub(super) fn on_beds(shop: &Shop, bed: &Bed, watch: &Watch) -> Result<OnBeds, ApiError> {
    let mut designs = std::collections::BTreeMap::new();
    for id in bed.copies().keys() {
        let design = match shop.db.designs().get(id) {
            Ok(s) => {
                let d = s.document.clone();
                shop.engine.on_bed(s.document, &|| shop.picture(&d), watch)
            }
            Err(DbError::UnknownWork(_)) => {
                let name = shop.db.designs().last_name(id).unwrap_or_else(|_| msg!("a-design").to_string());
                shop.engine.not_on_bed(name, msg!("taken-off-shelf"))
            }
            Err(DbError::Document(e)) => shop.engine.not_on_bed(msg!("a-design").to_string(), e.message()),
            Err(e) => return Err(e.into()),
        };
        designs.insert((*id).to_string(), design);
    }
    Ok(OnBeds { designs, workshop: shop.engine.workshop() })
}

fn seen(s: Stored<Bed>, on: &OnBeds, watch: &Watch) -> BedOnShelf {
    let conflicts = on.conflicts(&s.document, watch);
    let result = bed_view(&s.document, on, conflicts);
    let unit = on.workshop.unit;
    BedOnShelf {
        id: s.id,
        version: s.version,
        document: s.document,
        saved_at: s.updated_at,
        undo: s.undo.map(|label| label.said(unit)),
        redo: s.redo.map(|label| label.said(unit)),
        result,
    }
}

/// The bed with places for what has none, and the designs on it.
fn placed(shop: &Shop, bed: &Bed, watch: &Watch) -> Result<(Bed, OnBeds), ApiError> {
    let on = on_beds(shop, bed, watch)?;
    let places = on.arranged(bed, watch)?;
    let unit = on.workshop.unit;
    let bed = bed.arranged(&places).map_err(|e| ApiError::Edit(e, unit))?;
    Ok((bed, on))
}

/// A stored bed with its result.
fn opened(shop: &Shop, s: Stored<Bed>, watch: &Watch) -> Result<BedOnShelf, ApiError> {
    let on = on_beds(shop, &s.document, watch)?;
    Ok(seen(s, &on, watch))
}

/// A bed with so many copies of designs, arranged.
pub(crate) fn new_bed(
    shop: &Shop,
    name: String,
    copies: &[(String, usize)],
    watch: &Watch,
) -> Result<(Bed, OnBeds), ApiError> {
    let unit = shop.engine.workshop().unit;
    let mut edits = vec![BedEdit::Rename { name }];
    edits.extend(copies.iter().map(|(design, n)| BedEdit::SetCopies { design: design.clone(), copies: *n }));
    let mut bed = Bed::new("Bed");
    for edit in &edits {
        bed = bed.after(edit, unit).map_err(|e| ApiError::Edit(e, unit))?;
    }
    placed(shop, &bed, watch)
}

fn answer(view: &BedOnShelf) -> HttpResponse {
    tagged(HttpResponse::Ok(), view.version, view)
}

fn item(s: Stored<Bed>) -> BedItem {
    let (pieces, plates) = (s.document.pieces.len(), s.document.plates());
    BedItem {
        id: s.id,
        version: s.version,
        name: s.document.name,
        pieces,
        plates,
        saved_at: s.updated_at,
        damage: None,
    }
}

/// A bed of the list, also where it cannot be read.
fn shelved(s: Shelved<Bed>) -> BedItem {
    match s {
        Shelved::Sound(s) => item(*s),
        Shelved::Damaged(d) => BedItem {
            damage: Some(Damage::of(&d)),
            id: d.id,
            version: d.version,
            name: d.name,
            pieces: 0,
            plates: 0,
            saved_at: d.updated_at,
        },
    }
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds",
    operation_id = "beds_list",
    tag = "beds",
    summary = "The beds on the shelf",
    responses((status = 200, description = "What was asked for", body = Vec<BedItem>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list(shop: Shared) -> Result<Json<Vec<BedItem>>, ApiError> {
    on_shelf(&shop, |shop| Ok(Json(shop.db.beds().list()?.into_iter().map(shelved).collect()))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds",
    operation_id = "beds_create",
    tag = "beds",
    summary = "A new bed with a copy of each of some designs",
    params(("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body = NewBed,
    responses((status = 201, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn create(shop: Shared, request: HttpRequest, new: Json<NewBed>) -> Result<HttpResponse, ApiError> {
    let view = compute(&shop, &request, move |shop, watch| {
        let name = match &new.name {
            Some(name) => name.clone(),
            None => format!("Bed {}", shop.db.beds().count()? + 1),
        };
        let copies: Vec<(String, usize)> = new.designs.iter().map(|d| (d.clone(), 1)).collect();
        let (bed, on) = new_bed(shop, name, &copies, watch)?;
        Ok(seen(shop.db.beds().add(&bed, &msg!("new-bed"))?, &on, watch))
    })
    .await?;
    Ok(tagged(HttpResponse::Created(), view.version, &view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds/{id}",
    operation_id = "beds_show",
    tag = "beds",
    summary = "A bed with what lies on it",
    params(("id" = String, Path, description = "The bed"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let view = compute(&shop, &request, move |shop, watch| opened(shop, shop.db.beds().get(&id)?, watch)).await?;
    Ok(answer(&view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/edits",
    operation_id = "beds_edit",
    tag = "beds",
    summary = "Changes a bed: all edits or none. A bed that nobody touched since it was arranged is arranged anew; else new pieces get places beside those that are there",
    params(("id" = String, Path, description = "The bed"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body = BedEdits,
    responses((status = 200, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn edit(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    edits: Json<BedEdits>,
) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let first = edits.edits.first().ok_or_else(|| ApiError::Malformed(msg!("no-edits")))?;
        let unit = shop.engine.workshop().unit;
        let mut bed = shop.db.beds().get(&id)?.document;
        for e in &edits.edits {
            bed = bed.after(e, unit).map_err(|e| ApiError::Edit(e, unit))?;
        }
        if !bed.is_by_hand && edits.edits.iter().any(BedEdit::rearranges) {
            bed = bed.taken_up();
        }
        let (bed, on) = placed(shop, &bed, watch)?;
        Ok(seen(shop.db.beds().change(&id, version, &bed, &first.label())?, &on, watch))
    })
    .await?;
    Ok(answer(&view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/arrange",
    operation_id = "beds_arrange",
    tag = "beds",
    summary = "Arranges all pieces anew",
    params(("id" = String, Path, description = "The bed"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn arrange(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| {
        let (bed, on) = placed(shop, &shop.db.beds().get(&id)?.document.taken_up(), watch)?;
        Ok(seen(shop.db.beds().change(&id, version, &bed, &msg!("arranged"))?, &on, watch))
    })
    .await?;
    Ok(answer(&view))
}

async fn step(shop: Shared, request: HttpRequest, id: String, by: i64) -> Result<HttpResponse, ApiError> {
    let version = version(&request)?;
    let view = compute(&shop, &request, move |shop, watch| opened(shop, shop.db.beds().step(&id, version, by)?, watch))
        .await?;
    Ok(answer(&view))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/undo",
    operation_id = "beds_undo",
    tag = "beds",
    summary = "One step back",
    params(("id" = String, Path, description = "The bed"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    responses((status = 200, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn undo(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), -1).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/redo",
    operation_id = "beds_redo",
    tag = "beds",
    summary = "One step forth",
    params(("id" = String, Path, description = "The bed"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    responses((status = 200, description = "What was asked for", body = BedOnShelf), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn redo(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    step(shop, request, id.into_inner(), 1).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/duplicate",
    operation_id = "beds_duplicate",
    tag = "beds",
    summary = "A copy of a bed",
    params(("id" = String, Path, description = "The bed")),
    responses((status = 201, description = "What was asked for", body = BedItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn duplicate(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let copy = on_shelf(&shop, move |shop| Ok(item(shop.db.beds().duplicate(&id)?))).await?;
    Ok(HttpResponse::Created().json(copy))
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/beds/{id}",
    operation_id = "beds_delete",
    tag = "beds",
    summary = "Takes a bed off the shelf; it can be restored",
    params(("id" = String, Path, description = "The bed")),
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn delete(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    on_shelf(&shop, move |shop| Ok(shop.db.beds().delete(&id)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/rescue",
    operation_id = "beds_rescue",
    tag = "beds",
    summary = "Goes back to the last state that can be read, where the present one cannot",
    params(("id" = String, Path, description = "The bed"), ("If-Match" = String, Header, description = "The version that the change is of, as in ETag")),
    responses((status = 200, description = "What was asked for", body = BedItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn rescue(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<Json<BedItem>, ApiError> {
    let version = version(&request)?;
    on_shelf(&shop, move |shop| Ok(Json(item(shop.db.beds().rescue(&id, version)?)))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/restore",
    operation_id = "beds_restore",
    tag = "beds",
    summary = "Puts a deleted bed back",
    params(("id" = String, Path, description = "The bed")),
    responses((status = 200, description = "What was asked for", body = BedItem), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn restore(shop: Shared, id: Path<String>) -> Result<Json<BedItem>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(item(shop.db.beds().restore(&id)?)))).await
}
