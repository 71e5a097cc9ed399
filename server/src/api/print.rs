//! A print before it is printed.

use super::shop::{Shared, Shop, compute, if_there};
use super::taken::correction;
use crate::problem::ApiError;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{Document, KeyedPrint, PrintView, PrintWish, Quality, Run, Stage, Watch, layer_view, print_view};
use serde::Deserialize;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/print", web::get().to(show))
        .route("/api/designs/{id}/print/{layer}", web::get().to(layer));
}

/// How a print is looked at; as the design says where it is left out.
#[derive(Clone, Copy, Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Asked {
    quality: Option<Quality>,
    infill: Option<f64>,
}

/// A layer of that print.
#[derive(Clone, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct LayerAsked {
    quality: Option<Quality>,
    infill: Option<f64>,
    of: Option<String>,
}

/// The print of a design, with what it was made of.
pub(super) struct Rehearsed {
    pub document: Document,
    pub run: Run,
    pub made: KeyedPrint,
    pub wish: PrintWish,
}

pub(super) fn rehearsed(shop: &Shop, id: &str, asked: Asked, watch: &Watch) -> Result<Rehearsed, ApiError> {
    let d = shop.db.designs().get(id)?.document;
    let wish = d.print.with(asked.quality, asked.infill);
    let mut run = shop.engine.run_until(&d, &|| shop.picture(&d), Stage::Solid, watch);
    if let Some(failed) = run.failed.take() {
        return Err(failed.into());
    }
    let made = shop.engine.rehearse(&run, wish, watch)?.ok_or(ApiError::Unknown("thing-solid"))?;
    Ok(Rehearsed { document: d, run, made, wish })
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/print",
    operation_id = "print_show",
    tag = "print",
    summary = "How long the print takes, how much filament, and when somebody has to be there",
    params(("id" = String, Path, description = "The design"), ("quality" = Option<kachel_engine::Quality>, Query, description = "How fine; as the design says where it is left out"), ("infill" = Option<f64>, Query, description = "Infill, 0 to 100 percent; as the design, else the workshop, says where it is left out"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = PrintView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    asked: Query<Asked>,
) -> Result<Json<PrintView>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let r = rehearsed(shop, &id, *asked, watch)?;
        Ok(Json(print_view(&r.run, &r.made, r.wish, r.document.unit).corrected(correction(shop)?)))
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/print/{layer}",
    operation_id = "print_layer",
    tag = "print",
    summary = "The lines of a layer",
    params(("id" = String, Path, description = "The design"), ("layer" = usize, Path, description = "Its number, 1 being the lowest"), ("quality" = Option<kachel_engine::Quality>, Query, description = "How fine; as the design says where it is left out"), ("infill" = Option<f64>, Query, description = "Infill, 0 to 100 percent; as the design, else the workshop, says where it is left out"), ("of" = Option<String>, Query, description = "The `key` of the print that is meant: a design that was changed meanwhile has another one"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = kachel_engine::LayerView), (status = 204, description = "The print is another one by now"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn layer(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
    asked: Query<LayerAsked>,
) -> Result<HttpResponse, ApiError> {
    let found = compute(&shop, &request, move |shop, watch| {
        let (id, layer) = &*path;
        let LayerAsked { quality, infill, of } = &*asked;
        let r = rehearsed(shop, id, Asked { quality: *quality, infill: *infill }, watch)?;
        layer_of(&r.made, of.as_deref(), || layer_view(&r.run, &r.made, *layer))
    })
    .await?;
    Ok(if_there(found))
}

/// A layer of the print that is meant; none where it is another one by now. A page learns of a change a moment later than the shelf,
/// and asks for layers that the new print may not have.
pub(super) fn layer_of<T>(
    print: &KeyedPrint,
    meant: Option<&str>,
    layer: impl FnOnce() -> Option<T>,
) -> Result<Option<T>, ApiError> {
    if meant.is_some_and(|key| key != print.key) {
        return Ok(None);
    }
    layer().ok_or(ApiError::Unknown("thing-layer")).map(Some)
}
