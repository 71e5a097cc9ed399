use super::attachment::{attachment, media_type};
use super::shop::{Shared, Shop, compute, on_shelf};
use super::states::drawn_small;
use crate::problem::ApiError;
use actix_web::http::header::HeaderValue;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::EngineError;
use kachel_engine::artwork::Prepare;
use kachel_engine::exchange::zipped;
use kachel_engine::{ExportFormat, FileNames, Stage, Watch, export, export_contours, file_name, name_of, named_file};
use serde::Deserialize;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/picture", web::get().to(picture))
        .route("/api/designs/{id}/prepared", web::get().to(prepared))
        .route("/api/designs/{id}/thumbnail.svg", web::get().to(small))
        .route("/api/designs/{id}/contours.svg", web::get().to(contours))
        .route("/api/designs/{id}/export/{format}", web::get().to(object))
        .route("/api/designs/{id}/files.zip", web::get().to(several))
        .route("/api/designs/{id}/file-name", web::get().to(name));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/picture",
    operation_id = "files_picture",
    tag = "files",
    summary = "The picture as it was uploaded",
    params(("id" = String, Path, description = "The design")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn picture(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, bytes) = on_shelf(&shop, move |shop| {
        let d = shop.db.designs().get(&id)?.document;
        Ok((d.artwork.file_name.clone(), shop.db.picture(&d.artwork.hash)?))
    })
    .await?;
    Ok(attachment(&name, media_type(&bytes), bytes))
}

/// The picture as it is traced, for the screen: prepared, and in a format that every browser shows. The page asks for it
/// under the key of what was done to it, so that it may be kept.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/prepared",
    operation_id = "files_prepared",
    tag = "files",
    summary = "The picture as it is traced",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/png"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn prepared(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (bytes, media_type) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        if d.prepare == Prepare::default() {
            let bytes = shop.picture(&d).map_err(EngineError::Picture)?;
            let kind = media_type(&bytes);
            if kind != "image/tiff" {
                return Ok((bytes, kind));
            }
        }
        Ok(shop.engine.shown(&d, &|| shop.picture(&d), watch)?.to_file())
    })
    .await?;
    let extension = media_type.rsplit(['/', '+']).next().unwrap_or("png").trim_end_matches("+xml");
    let mut response = attachment(&format!("prepared.{extension}"), media_type, bytes);
    response.headers_mut().insert(CACHE_CONTROL, HeaderValue::from_static("private, max-age=3600"));
    Ok(response)
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/thumbnail.svg",
    operation_id = "files_small",
    tag = "files",
    summary = "The design as a small drawing in plan",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/svg+xml"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn small(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let svg =
        compute(&shop, &request, move |shop, watch| drawn_small(shop, &shop.db.designs().get(&id)?.document, watch))
            .await?;
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "image/svg+xml"))
        .insert_header((CACHE_CONTROL, "max-age=600"))
        .body(svg))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/contours.svg",
    operation_id = "files_contours",
    tag = "files",
    summary = "The contours, in pixels of the picture",
    params(("id" = String, Path, description = "The design"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/svg+xml"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn contours(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, svg) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        let run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Outline, watch);
        match (export_contours(&d, &run), run.failed) {
            (Some(svg), _) => Ok((file_name(&d.name, "svg"), svg)),
            (None, Some(e)) => Err(e.into()),
            (None, None) => Err(ApiError::Fault),
        }
    })
    .await?;
    Ok(attachment(&name, "image/svg+xml", svg.into_bytes()))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/export/{format}",
    operation_id = "files_object",
    tag = "files",
    summary = "The object as a file",
    params(("id" = String, Path, description = "The design"), ("format" = String, Path, description = "`stl`, `stl-text`, `stl-parts` (a ZIP of one STL a filament), `3mf`, `svg` (the outline in millimetres) or `png` (in plan)"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn object(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
) -> Result<HttpResponse, ApiError> {
    let (id, format) = path.into_inner();
    let format = ExportFormat::by_name(&format).ok_or(ApiError::Unknown("thing-file-format"))?;
    let (name, bytes) = compute(&shop, &request, move |shop, watch| object_of(shop, &id, format, watch)).await?;
    Ok(attachment(&name, format.media_type(), bytes))
}

/// A design's object as a file of each format, with their names: all of one state.
pub(super) fn objects_of(
    shop: &Shop,
    id: &str,
    formats: &[ExportFormat],
    watch: &Watch,
) -> Result<Vec<(String, Vec<u8>)>, ApiError> {
    let stored = shop.db.designs().get(id)?;
    let d = &stored.document;
    let mut run = shop.engine.run(d, &|| shop.picture(d), watch);
    // A finding never stops an export; a solid only exists when its mesh is sound.
    if run.solid.is_none() {
        return Err(run.failed.take().map_or(ApiError::Fault, Into::into));
    }
    let file = |format: &ExportFormat| {
        let bytes = export(d, &run, &|| shop.picture(d), *format, Some(stored.created_at.clone()))?;
        Ok((named_file(d, &run, *format), bytes))
    };
    formats.iter().map(file).collect()
}

/// The same of one format.
pub(super) fn object_of(
    shop: &Shop,
    id: &str,
    format: ExportFormat,
    watch: &Watch,
) -> Result<(String, Vec<u8>), ApiError> {
    objects_of(shop, id, &[format], watch)?.pop().ok_or(ApiError::Fault)
}

/// Formats by their names, with commas between them.
#[derive(Deserialize)]
pub(super) struct Several {
    formats: String,
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/files.zip",
    operation_id = "files_several",
    tag = "files",
    summary = "The object as several files, in one ZIP",
    params(("id" = String, Path, description = "The design"), ("formats" = String, Query, description = "Formats as of one file, with commas between them"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/zip"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn several(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    wanted: Query<Several>,
) -> Result<HttpResponse, ApiError> {
    let mut formats: Vec<ExportFormat> = Vec::new();
    for name in wanted.formats.split(',') {
        let format = ExportFormat::by_name(name).ok_or(ApiError::Unknown("thing-file-format"))?;
        // Named twice, it is one file.
        if !formats.contains(&format) {
            formats.push(format);
        }
    }
    let (name, bytes) = compute(&shop, &request, move |shop, watch| {
        let files = objects_of(shop, &id, &formats, watch)?;
        let all: Vec<(&str, &[u8])> = files.iter().map(|(name, bytes)| (name.as_str(), bytes.as_slice())).collect();
        let stem = files[0].0.rsplit_once('.').map_or("design", |(stem, _)| stem);
        Ok((format!("{stem}.zip"), zipped(&all)?))
    })
    .await?;
    Ok(attachment(&name, "application/zip", bytes))
}

/// A pattern to try.
#[derive(Deserialize)]
pub(super) struct Tried {
    pattern: FileNames,
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/file-name",
    operation_id = "files_name",
    tag = "files",
    summary = "What the design's STL would be called by a pattern of file names",
    params(("id" = String, Path, description = "The design"), ("pattern" = String, Query, description = "1 to 80 characters with {design}, {recipe}, {width} and {height} in them"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = String), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn name(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    tried: Query<Tried>,
) -> Result<Json<String>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let d = shop.db.designs().get(&id)?.document;
        let run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Solid, watch);
        let name = name_of(&d, &run, &tried.pattern)?;
        Ok(Json(file_name(&name, "stl")))
    })
    .await
}
