//! The printer's own interface. It takes plans and knows nothing of designs, so that another printer's stand-in that answers the
//! same could be put in its place.

use super::send::SentJob;
use super::shop::{Shared, Shop, on_shelf};
use crate::problem::ApiError;
use actix_web::body::{BoxBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::StatusCode;
use actix_web::middleware::Next;
use actix_web::web::{self, Json, Path, Payload, ServiceConfig};
use actix_web::{FromRequest as _, HttpResponse};
use kachel_printer::{Failure, Order, Plan, PlanGroup, PrinterView, ShapeLayer};
use kachel_words::Message;
use serde::Deserialize;
use ts_rs::TS;

/// Largest plan, bytes.
pub(crate) const MAX_PLAN: usize = 64 << 20;

/// What the printer is told.
#[derive(Clone, Copy, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct OrderGiven {
    /// The order.
    pub order: Order,
}

/// What goes wrong.
#[derive(Clone, Copy, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct FailureAsked {
    /// The failure.
    pub failure: Failure,
}

/// How fast the printer runs.
#[derive(Clone, Copy, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Speed {
    /// How many times as fast as a real one, 1 to 600.
    pub speed: f64,
}

/// A place of the queue.
#[derive(Clone, Copy, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct QueuePlace {
    /// 0 is the next.
    pub to: usize,
}

/// What is asked of the printer goes to the one that is elsewhere, where there is such a one.
pub(crate) async fn elsewhere(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, actix_web::Error> {
    let shop = request.app_data::<Shared>().cloned();
    let Some(shop) = shop.filter(|s| s.port.is_away() && request.path().starts_with("/api/printer")) else {
        return Ok(next.call(request).await?.map_into_boxed_body());
    };
    let (request, mut payload) = request.into_parts();
    let body = Payload::from_request(&request, &mut payload).await?;
    let bytes = body.to_bytes_limited(MAX_PLAN).await.map_err(|_| ApiError::UploadTooLarge { limit: MAX_PLAN })??;
    let (method, path) = (request.method().to_string(), request.path().to_string());
    let asked = web::block(move || shop.port.forward(&method, &path, &bytes)).await;
    let (status, answer) = asked.map_err(|_| ApiError::Fault)??;
    let status = StatusCode::from_u16(status).map_err(|_| ApiError::Fault)?;
    let kind = if status.is_success() { "application/json" } else { "application/problem+json" };
    let response = HttpResponse::build(status).content_type(kind).body(answer);
    Ok(ServiceResponse::new(request, response))
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/printer", web::get().to(show))
        .route("/api/printer/jobs", web::post().to(take))
        .route("/api/printer/jobs/{id}", web::delete().to(remove))
        .route("/api/printer/jobs/{id}/again", web::post().to(again))
        .route("/api/printer/jobs/{id}/place", web::put().to(place))
        .route("/api/printer/jobs/{id}/layers/{layer}", web::get().to(layer))
        .route("/api/printer/jobs/{id}/shape", web::get().to(shape))
        .route("/api/printer/orders", web::post().to(order))
        .route("/api/printer/failures", web::post().to(fail))
        .route("/api/printer/speed", web::put().to(speed));
}

/// What is seen of the printer after something was done.
async fn then_seen(
    shop: Shared,
    what: impl FnOnce(&Shop) -> Result<(), ApiError> + Send + 'static,
) -> Result<Json<PrinterView>, ApiError> {
    on_shelf(&shop, move |shop| {
        what(shop)?;
        Ok(Json(shop.port.printer()?.view()?))
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/printer",
    operation_id = "printer_show",
    tag = "printer",
    summary = "What the printer is doing, and what waits",
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, |_| Ok(())).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/printer/jobs",
    operation_id = "printer_take",
    tag = "printer",
    summary = "Takes a plan into the queue; it begins at once where the bed is clear",
    request_body = Plan,
    responses((status = 201, description = "It is in the queue", body = SentJob), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn take(shop: Shared, body: Payload) -> Result<HttpResponse, ApiError> {
    let bytes = body.to_bytes_limited(MAX_PLAN).await.map_err(|_| ApiError::UploadTooLarge { limit: MAX_PLAN })?;
    let bytes = bytes.map_err(|e| ApiError::Malformed(Message::quoted(e)))?;
    let plan: Plan = serde_json::from_slice(&bytes).map_err(|e| ApiError::Malformed(Message::quoted(e)))?;
    let id = on_shelf(&shop, move |shop| Ok(shop.port.printer()?.send(&plan)?)).await?;
    Ok(HttpResponse::Created().json(SentJob { id }))
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/printer/jobs/{id}",
    operation_id = "printer_remove",
    tag = "printer",
    summary = "Forgets a job that waits or has ended",
    params(("id" = String, Path, description = "The job")),
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn remove(shop: Shared, id: Path<String>) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, move |shop| Ok(shop.port.printer()?.remove(&id)?)).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/printer/jobs/{id}/again",
    operation_id = "printer_again",
    tag = "printer",
    summary = "The same job once more, at the end of the queue",
    params(("id" = String, Path, description = "The job")),
    responses((status = 201, description = "It is in the queue", body = SentJob), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn again(shop: Shared, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let id = on_shelf(&shop, move |shop| Ok(shop.port.printer()?.again(&id)?)).await?;
    Ok(HttpResponse::Created().json(SentJob { id }))
}

#[cfg_attr(feature = "schema", utoipa::path(
    put,
    path = "/api/printer/jobs/{id}/place",
    operation_id = "printer_place",
    tag = "printer",
    summary = "Puts a waiting job at a place of the queue",
    params(("id" = String, Path, description = "The job")),
    request_body = QueuePlace,
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn place(
    shop: Shared,
    id: Path<String>,
    place: Json<QueuePlace>,
) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, move |shop| Ok(shop.port.printer()?.reorder(&id, place.to)?)).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/printer/jobs/{id}/layers/{layer}",
    operation_id = "printer_layer",
    tag = "printer",
    summary = "The lines of a layer of a job",
    params(("id" = String, Path, description = "The job"), ("layer" = usize, Path, description = "Its number, 1 being the lowest")),
    responses((status = 200, description = "What was asked for", body = Vec<PlanGroup>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn layer(shop: Shared, path: Path<(String, usize)>) -> Result<Json<Vec<PlanGroup>>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(shop.port.printer()?.layer(&path.0, path.1)?))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/printer/jobs/{id}/shape",
    operation_id = "printer_shape",
    tag = "printer",
    summary = "A job as it is seen from outside: the outermost lines of some of its layers",
    params(("id" = String, Path, description = "The job")),
    responses((status = 200, description = "What was asked for", body = Vec<ShapeLayer>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn shape(shop: Shared, id: Path<String>) -> Result<Json<Vec<ShapeLayer>>, ApiError> {
    on_shelf(&shop, move |shop| Ok(Json(shop.port.printer()?.shape(&id)?))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/printer/orders",
    operation_id = "printer_order",
    tag = "printer",
    summary = "Tells the printer to pause, to go on, to stop, or that its bed is clear",
    request_body = OrderGiven,
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn order(shop: Shared, given: Json<OrderGiven>) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, move |shop| Ok(shop.port.printer()?.order(given.order)?)).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/printer/failures",
    operation_id = "printer_fail",
    tag = "printer",
    summary = "Lets something go wrong, so that makers learn what happens",
    request_body = FailureAsked,
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn fail(shop: Shared, asked: Json<FailureAsked>) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, move |shop| Ok(shop.port.printer()?.fail(asked.failure)?)).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    put,
    path = "/api/printer/speed",
    operation_id = "printer_speed",
    tag = "printer",
    summary = "How many times as fast as a real one it runs",
    request_body = Speed,
    responses((status = 200, description = "What was asked for", body = PrinterView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn speed(shop: Shared, asked: Json<Speed>) -> Result<Json<PrinterView>, ApiError> {
    then_seen(shop, move |shop| Ok(shop.port.printer()?.set_speed(asked.speed)?)).await
}
