use super::attachment::{attachment, media_type};
use super::shop::{Look, Shared, answer, compute};
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{Basis, Edit, GeneralEdit, SAMPLE_LICENCE, SAMPLES, Sample};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A picture that ships with Kachel.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SampleView {
    /// Stable name.
    pub id: &'static str,
    /// What it shows.
    pub title: String,
    /// What kind of picture it is.
    pub kind: String,
    /// Under which licence.
    pub licence: &'static str,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/samples", web::get().to(list))
        .route("/api/samples/{id}", web::post().to(start))
        .route("/api/samples/{id}/picture", web::get().to(picture));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/samples",
    operation_id = "samples_list",
    tag = "samples",
    summary = "Pictures that ship with Kachel",
    responses((status = 200, description = "What was asked for", body = Vec<SampleView>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list() -> Json<Vec<SampleView>> {
    Json(
        SAMPLES
            .iter()
            .map(|s| SampleView {
                id: s.id,
                title: s.title().to_string(),
                kind: s.kind_words().to_string(),
                licence: SAMPLE_LICENCE,
            })
            .collect(),
    )
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/samples/{id}/picture",
    operation_id = "samples_picture",
    tag = "samples",
    summary = "The sample's picture",
    params(("id" = String, Path, description = "The sample"), ("small" = Option<bool>, Query, description = "`true` for one to be chosen from, at most 220 x 150 pixels")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn picture(id: Path<String>, wish: Query<Wish>) -> Result<HttpResponse, ApiError> {
    let sample = Sample::by_id(&id).ok_or(ApiError::Unknown("thing-sample"))?;
    let bytes = if wish.small { sample.small } else { sample.bytes };
    Ok(attachment(sample.file_name, media_type(bytes), bytes.to_vec()))
}

/// How large a sample's picture is to be.
#[derive(Deserialize)]
pub(super) struct Wish {
    #[serde(default)]
    small: bool,
}

/// Starts a design from a sample, with its credit filled in.
#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/samples/{id}",
    operation_id = "samples_start",
    tag = "samples",
    summary = "A new design from one of them",
    params(("id" = String, Path, description = "The sample"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 201, description = "What was asked for", body = crate::api::shop::DesignView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn start(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let sample = Sample::by_id(&id).ok_or(ApiError::Unknown("thing-sample"))?;
    let view = compute(&shop, &request, move |shop, watch| {
        let new = shop.engine.new_document(&sample.title().to_string(), sample.file_name, sample.bytes, watch)?;
        let credit: Edit = GeneralEdit::SetCredit { credit: sample.credit() }.into();
        let document = credit.apply(&new, &Basis::default()).map_err(|e| ApiError::Edit(e, new.unit))?;
        let stored = shop.db.designs().create(&document, sample.bytes, &msg!("new-design"))?;
        Ok(shop.view(stored, Look::default(), watch))
    })
    .await?;
    Ok(answer(HttpResponse::Created(), &view))
}
