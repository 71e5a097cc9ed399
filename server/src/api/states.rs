//! Earlier states of a design, laid beside the present one.

use super::shop::{Look, Shared, Shop, compute, on_shelf};
use crate::problem::ApiError;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::{DifferenceView, Document, ResultView, Stage, Watch, differences, thumbnail};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A step of a design's history.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct StepView {
    /// Counts from 1, the state in which the design began.
    pub number: i64,
    /// The change that led to it.
    pub label: String,
    /// When it was made.
    pub created_at: String,
    /// Whether it is what is on the bench.
    pub is_present: bool,
}

/// The state that another is laid beside: the present one, unless it says which.
#[derive(Default, Deserialize)]
pub(super) struct Against {
    /// A step of undo.
    step: Option<i64>,
    /// A snapshot.
    kept: Option<String>,
}

impl Against {
    fn document(&self, shop: &Shop, id: &str) -> Result<Document, ApiError> {
        Ok(match (&self.kept, self.step) {
            (Some(kept), _) => shop.db.snapshot(id, kept)?.document,
            (None, Some(step)) => shop.db.designs().at_step(id, step)?,
            (None, None) => shop.db.designs().get(id)?.document,
        })
    }
}

/// A state's small drawing in plan. It may be kept: neither steps nor snapshots change.
pub(super) fn small(svg: String) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "image/svg+xml"))
        .insert_header((CACHE_CONTROL, "private, max-age=600"))
        .body(svg)
}

/// What it shows.
pub(super) fn drawn_small(shop: &Shop, d: &Document, watch: &Watch) -> Result<String, ApiError> {
    let run = shop.engine.run_until(d, &|| shop.picture(d), Stage::Tiers, watch);
    thumbnail(&run).ok_or(ApiError::Unknown("thing-thumbnail"))
}

/// An earlier state with what it gives, beside the present one or another.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct StateView {
    /// The document as it was.
    pub document: Document,
    /// What came out, in the unit of the state that it is laid beside.
    pub result: ResultView,
    /// In what the two differ.
    pub differs: Vec<DifferenceView>,
}

impl StateView {
    pub(super) fn of(
        shop: &Shop,
        id: &str,
        document: Document,
        against: &Against,
        look: Look,
        watch: &Watch,
    ) -> Result<Json<Self>, ApiError> {
        let present = against.document(shop, id)?;
        // Words are compared, so both speak of the same unit.
        let shown = Document { unit: present.unit, ..document.clone() };
        let result = shop.result(&shown, look, watch);
        let differs = differences(&result, &shop.result(&present, look, watch), present.unit);
        Ok(Json(Self { document, result, differs }))
    }
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/steps", web::get().to(list))
        .route("/api/designs/{id}/steps/{number}", web::get().to(show))
        .route("/api/designs/{id}/steps/{number}/thumbnail.svg", web::get().to(step_small));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/steps",
    operation_id = "steps_list",
    tag = "designs",
    summary = "The last 200 steps that undo and redo go through, the last first",
    params(("id" = String, Path, description = "The design")),
    responses((status = 200, description = "What was asked for", body = Vec<StepView>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list(shop: Shared, id: Path<String>) -> Result<Json<Vec<StepView>>, ApiError> {
    on_shelf(&shop, move |shop| {
        // One that cannot be read has its steps all the same.
        let unit = shop.db.designs().get(&id).map(|s| s.document.unit).unwrap_or_default();
        let step = |s: crate::db::Step| StepView {
            number: s.number,
            label: s.label.said(unit),
            created_at: s.created_at,
            is_present: s.is_present,
        };
        Ok(Json(shop.db.designs().steps(&id)?.into_iter().map(step).collect()))
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/steps/{number}",
    operation_id = "steps_show",
    tag = "designs",
    summary = "What a step gave, and in what the present state or another differs from it",
    params(("id" = String, Path, description = "The design"), ("number" = i64, Path, description = "The step; 1 is the state in which the design began"), ("section" = Option<f64>, Query, description = "Where the section runs, mm up from the middle of the edge; left out: through what is drawn"), ("across" = Option<f64>, Query, description = "A point on its line, mm right of the middle"), ("turned" = Option<f64>, Query, description = "Degrees anticlockwise"), ("until" = Option<String>, Query, description = "`outline` stops after the outline, `tiers` before there is a solid, `shown` after the meshes of its tiers, `solid` before anything is checked"), ("step" = Option<i64>, Query, description = "A step that it is laid beside"), ("kept" = Option<String>, Query, description = "A snapshot that it is laid beside; the present state where neither is named"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = StateView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, i64)>,
    look: Query<Look>,
    against: Query<Against>,
) -> Result<Json<StateView>, ApiError> {
    let (id, number) = path.into_inner();
    compute(&shop, &request, move |shop, watch| {
        StateView::of(shop, &id, shop.db.designs().at_step(&id, number)?, &against, *look, watch)
    })
    .await
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/steps/{number}/thumbnail.svg",
    operation_id = "steps_small",
    tag = "designs",
    summary = "What a step gave, as a small drawing in plan",
    params(("id" = String, Path, description = "The design"), ("number" = i64, Path, description = "The step; 1 is the state in which the design began"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = String, content_type = "image/svg+xml"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn step_small(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, i64)>,
) -> Result<HttpResponse, ApiError> {
    let (id, number) = path.into_inner();
    let draw = move |shop: &Shop, watch: &Watch| drawn_small(shop, &shop.db.designs().at_step(&id, number)?, watch);
    Ok(small(compute(&shop, &request, draw).await?))
}
