//! Prints on their way to the printer.

use super::shop::{Shared, Shop, compute};
use super::{plates, print};
use crate::problem::ApiError;
use actix_web::web::{self, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::Pose;
use kachel_engine::{
    GroupView, LinesView, PrintView, StopView, Watch, bed_layer_view, bed_print_view, layer_view, print_view,
};
use kachel_printer::{Plan, PlanFilament, PlanGroup, PlanLayer, PlanLines, PlanStop};
use serde::Serialize;
use ts_rs::TS;

/// A job that the printer has taken.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SentJob {
    /// Its name for the printer.
    pub id: String,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/send", web::post().to(design))
        .route("/api/beds/{id}/plates/{plate}/send", web::post().to(plate));
}

/// The plan of a print, without its layers.
fn plan(name: String, printer: String, bed: [f64; 2], view: &PrintView) -> Plan {
    let filament =
        |f: &kachel_engine::FilamentUse| PlanFilament { name: f.filament.clone(), colour: f.colour, grams: f.grams };
    let stop = |s: &StopView| PlanStop {
        at: s.at,
        layer: s.layer,
        what: s.what.clone(),
        filament: s.filament,
        by_itself: s.filament.is_some() && view.changes_itself,
    };
    let mut stops: Vec<PlanStop> = view.stops.iter().chain(&view.pauses).map(stop).collect();
    stops.sort_by(|a, b| a.at.total_cmp(&b.at));
    Plan {
        name,
        printer,
        bed,
        heating: view.heating,
        heat: view.heat,
        filaments: view.filaments.iter().map(filament).collect(),
        begins_with: view.begins_with,
        layers: vec![],
        stops,
    }
}

fn layer(top: f64, until: f64, groups: Vec<GroupView>) -> PlanLayer {
    let lines = |l: LinesView| PlanLines { kind: l.kind.into(), width: l.width, colour: l.colour, path: l.path };
    let group = |g: GroupView| PlanGroup { lines: g.lines.into_iter().map(lines).collect(), poses: g.poses };
    PlanLayer { top, until, groups: groups.into_iter().map(group).collect() }
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/designs/{id}/send",
    operation_id = "send_design",
    tag = "print",
    summary = "Sends the print of a design to the printer, in the middle of its bed",
    params(("id" = String, Path, description = "The design"), ("quality" = Option<kachel_engine::Quality>, Query, description = "How fine; as the design says where it is left out"), ("infill" = Option<f64>, Query, description = "Infill, 0 to 100 percent; as the design, else the workshop, says where it is left out"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 201, description = "It is in the queue", body = SentJob), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn design(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    asked: Query<print::Asked>,
) -> Result<HttpResponse, ApiError> {
    let job = compute(&shop, &request, move |shop, watch| {
        let print::Rehearsed { document, run, made, wish } = print::rehearsed(shop, &id, *asked, watch)?;
        let printer = run.workshop.printer();
        let [width, depth, _] = printer.bed;
        let poses = vec![Pose { x: width / 2.0, y: depth / 2.0, degrees: 0.0 }];
        let mut plan =
            plan(document.name, printer.name.clone(), [width, depth], &print_view(&run, &made, wish, document.unit));
        plan.layers = (1..=made.layers.len())
            .filter_map(|n| layer_view(&run, &made, n))
            .map(|l| layer(l.top, l.until, vec![GroupView { lines: l.lines, poses: poses.clone() }]))
            .collect();
        Ok(SentJob { id: shop.port.send(&plan)? })
    })
    .await?;
    Ok(HttpResponse::Created().json(job))
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/beds/{id}/plates/{plate}/send",
    operation_id = "send_plate",
    tag = "beds",
    summary = "Sends a plate to the printer",
    params(("id" = String, Path, description = "The bed"), ("plate" = usize, Path, description = "Which filling of the bed, 0 being the first"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 201, description = "It is in the queue", body = SentJob), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn plate(
    shop: Shared,
    request: HttpRequest,
    path: Path<(String, usize)>,
) -> Result<HttpResponse, ApiError> {
    let job = compute(&shop, &request, move |shop, watch| {
        Ok(SentJob { id: shop.port.send(&plan_of_plate(shop, &path.0, path.1, watch)?)? })
    })
    .await?;
    Ok(HttpResponse::Created().json(job))
}

/// The plan of a plate of a bed.
pub(crate) fn plan_of_plate(shop: &Shop, id: &str, plate: usize, watch: &Watch) -> Result<Plan, ApiError> {
    let (bed, on, made) = plates::rehearsed(shop, id, plate, watch)?;
    if let Some(why) = on.conflicts(&bed, watch).iter().find(|c| c.is_grave && c.plate == Some(plate)) {
        return Err(ApiError::BedRefused(why.words.clone()));
    }
    let printer = on.workshop.printer();
    let [width, depth, _] = printer.bed;
    let mut plan = plan(bed.plate_name(plate), printer.name.clone(), [width, depth], &bed_print_view(&on, &made));
    plan.layers = (1..=made.rehearsal.layers.len())
        .filter_map(|n| bed_layer_view(&made, n))
        .map(|l| layer(l.top, l.until, l.groups))
        .collect();
    Ok(plan)
}
