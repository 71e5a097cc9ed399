//! Fillings of a bed: their prints and their files.

use super::attachment::attachment;
use super::beds::on_beds;
use super::print::layer_of;
use super::shop::{Shared, Shop, compute, if_there};
use super::taken::correction;
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{
    Bed, BedFormat, BedPrint, OnBeds, PrintView, Watch, bed_file, bed_layer_view, bed_print_view, file_name,
};
use serde::Deserialize;

/// Which filling of the bed.
#[derive(Clone, Copy, Debug, Deserialize)]
pub(super) struct Plate {
    /// 0 is the first.
    #[serde(default)]
    plate: usize,
}

/// A layer of its print.
#[derive(Clone, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct LayerAsked {
    of: Option<String>,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/beds/{id}/plates/{plate}/print", web::get().to(print))
        .route("/api/beds/{id}/plates/{plate}/print/{layer}", web::get().to(layer))
        .route("/api/beds/{id}/export/{format}", web::get().to(export));
}

pub(super) fn rehearsed(
    shop: &Shop,
    id: &str,
    plate: usize,
    watch: &Watch,
) -> Result<(Bed, OnBeds, BedPrint), ApiError> {
    let bed = shop.db.beds().get(id)?.document;
    let on = on_beds(shop, &bed, watch)?;
    let made = shop.engine.print_bed(&bed, &on, plate, watch)?.ok_or(ApiError::Unknown("thing-plate"))?;
    Ok((bed, on, made))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds/{id}/plates/{plate}/print",
    operation_id = "beds_print",
    tag = "beds",
    summary = "How long a plate takes, how much filament, and when somebody has to be there",
    params(("id" = String, Path, description = "The bed"), ("plate" = usize, Path, description = "Which filling of the bed, 0 being the first"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = PrintView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn print(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
) -> Result<Json<PrintView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let (_, on, made) = rehearsed(shop, &path.0, path.1, watch)?;
        Ok(Json(bed_print_view(&on, &made).corrected(correction(shop)?)))
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds/{id}/plates/{plate}/print/{layer}",
    operation_id = "beds_layer",
    tag = "beds",
    summary = "The lines of a layer of a plate",
    params(("id" = String, Path, description = "The bed"), ("plate" = usize, Path, description = "Which filling of the bed, 0 being the first"), ("layer" = usize, Path, description = "The layer's number, 1 being the lowest"), ("of" = Option<String>, Query, description = "The `key` of the print that is meant: a bed that was changed meanwhile has another one"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = kachel_engine::BedLayerView), (status = 204, description = "The print is another one by now"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn layer(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize, usize)>,
    asked: Query<LayerAsked>,
) -> Result<HttpResponse, ApiError> {
    let found = compute(&shop, &request, move |shop, watch| {
        let (.., made) = rehearsed(shop, &path.0, path.1, watch)?;
        layer_of(&made.rehearsal, asked.of.as_deref(), || bed_layer_view(&made, path.2))
    })
    .await?;
    Ok(if_there(found))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/beds/{id}/export/{format}",
    operation_id = "beds_export",
    tag = "beds",
    summary = "A plate as a file; the origin is the bed's front left corner",
    params(("id" = String, Path, description = "The bed"), ("format" = String, Path, description = "`3mf`, `stl` (all in one), `singles` (a ZIP of one STL a design), `sheet` (SVG to print), `pdf` (the same on A4) or `png`"), ("plate" = Option<usize>, Query, description = "Which filling of the bed, 0 being the first"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn export(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, String)>,
    which: Query<Plate>,
) -> Result<HttpResponse, ApiError> {
    let (id, format) = path.into_inner();
    let format = BedFormat::by_name(&format).ok_or(ApiError::Unknown("thing-file-format"))?;
    let (name, bytes) = compute(&shop, &request, move |shop, watch| {
        let bed = shop.db.beds().get(&id)?.document;
        let on = on_beds(shop, &bed, watch)?;
        // A sheet says when somebody has to be there.
        let print = if matches!(format, BedFormat::Sheet | BedFormat::Pdf) {
            shop.engine.print_bed(&bed, &on, which.plate, watch)?.map(|made| bed_print_view(&on, &made))
        } else {
            None
        };
        let bytes = bed_file(&bed, &on, which.plate, format, print.as_ref())?;
        Ok((file_name(&bed.plate_name(which.plate), format.extension()), bytes))
    })
    .await?;
    Ok(attachment(&name, format.media_type(), bytes))
}
