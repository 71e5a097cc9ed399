//! What prints really took; later estimates of the same printer follow it.

use super::shop::{Shared, Shop, on_shelf};
use crate::db::TimedPrint;
use crate::problem::ApiError;
use actix_web::web::{self, Json, ServiceConfig};
use kachel_engine::rehearse::{Correction, Taken, parse_time};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What prints of the chosen printer took.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TakenView {
    /// The printer, as the workshop calls it.
    pub printer: String,
    /// It takes so many times the planned time; none where nothing was timed.
    pub factor: Option<f64>,
    /// And so much more, s.
    pub constant: Option<f64>,
    /// The prints, the last first.
    pub prints: Vec<TakenItem>,
}

/// A print that was timed.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TakenItem {
    /// What was printed.
    pub name: String,
    /// How long it was planned to take, s.
    pub planned: f64,
    /// How long it took, s.
    pub took: f64,
    /// When that was told.
    pub at: String,
}

/// What a print really took.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct ReallyTook {
    /// What was printed.
    pub name: String,
    /// How long it was planned to take, s.
    pub planned: f64,
    /// How long it took, as it is typed: `95`, `95 min`, `1h35` or `1:35`.
    pub took: String,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/taken", web::get().to(show))
        .route("/api/taken", web::post().to(add))
        .route("/api/taken", web::delete().to(reset));
}

/// How the chosen printer differs from its plans.
pub(super) fn correction(shop: &Shop) -> Result<Option<Correction>, ApiError> {
    Ok(fitted(&shop.db.taken(&shop.engine.workshop().printer().name)?))
}

fn fitted(prints: &[TimedPrint]) -> Option<Correction> {
    let all: Vec<Taken> = prints.iter().map(|t| Taken { planned: t.planned, took: t.took }).collect();
    Correction::of(&all)
}

fn seen(shop: &Shop) -> Result<Json<TakenView>, ApiError> {
    let printer = shop.engine.workshop().printer().name.clone();
    let prints = shop.db.taken(&printer)?;
    let by = fitted(&prints);
    let prints =
        prints.into_iter().map(|t| TakenItem { name: t.name, planned: t.planned, took: t.took, at: t.at }).collect();
    Ok(Json(TakenView { printer, factor: by.map(|c| c.factor), constant: by.map(|c| c.constant), prints }))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/taken",
    operation_id = "taken_show",
    tag = "print",
    summary = "What prints of the chosen printer took, and how it differs from its plans",
    responses((status = 200, description = "What was asked for", body = TakenView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared) -> Result<Json<TakenView>, ApiError> {
    on_shelf(&shop, seen).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/taken",
    operation_id = "taken_add",
    tag = "print",
    summary = "Tells what a print really took",
    request_body = ReallyTook,
    responses((status = 200, description = "What was asked for", body = TakenView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn add(shop: Shared, told: Json<ReallyTook>) -> Result<Json<TakenView>, ApiError> {
    on_shelf(&shop, move |shop| {
        let took = parse_time(&told.took).map_err(ApiError::NoTime)?;
        if !(1.0..=1e8).contains(&told.planned) {
            return Err(ApiError::Malformed(msg!("planned-time")));
        }
        let name: String = told.name.chars().take(120).collect();
        shop.db.add_taken(None, &shop.engine.workshop().printer().name, &name, told.planned, took)?;
        seen(shop)
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    delete,
    path = "/api/taken",
    operation_id = "taken_reset",
    tag = "print",
    summary = "Forgets what prints of the chosen printer took",
    responses((status = 200, description = "What was asked for", body = TakenView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn reset(shop: Shared) -> Result<Json<TakenView>, ApiError> {
    on_shelf(&shop, |shop| {
        shop.db.forget_taken(&shop.engine.workshop().printer().name)?;
        seen(shop)
    })
    .await
}
