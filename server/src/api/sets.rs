//! Designs of a set, against what the maker allows each of them.

use super::shop::{Shared, Shop, compute};
use super::taken::correction;
use crate::problem::ApiError;
use actix_web::HttpRequest;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use kachel_engine::check::Weight;
use kachel_engine::rehearse::parse_time;
use kachel_engine::tiers::{Op, RecipeKind, Tier, Unit};
use kachel_engine::{
    Axis, Document, Edit, GeneralEdit, Length, MeasureView, ProblemView, Run, SizeOf, Stage, Watch, measures,
    print_view,
};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What is allowed.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Allowed {
    /// The longest print, as it is typed: `35 min`, `1h30`.
    limit: Option<String>,
}

/// A design of a set.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SetMember {
    /// For If-Match.
    pub version: i64,
    /// In which its lengths are shown.
    pub unit: Unit,
    /// Its recipe.
    pub recipe: RecipeKind,
    /// The recipe's measures.
    pub measures: Vec<MeasureView>,
    /// What is printed of it, from below.
    pub tiers: Vec<MemberTier>,
    /// What it came to.
    pub made: Option<MemberMade>,
    /// Why it came to nothing.
    pub problem: Option<ProblemView>,
}

/// A tier of a design of a set.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct MemberTier {
    /// By this its filament is kept.
    pub key: String,
    /// What it is called.
    pub name: String,
    /// Its filament.
    pub filament: String,
}

/// What a design of a set came to.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct MemberMade {
    /// Width, depth and height, mm.
    pub size: [f64; 3],
    /// How long it takes, s; corrected by what earlier prints took.
    pub seconds: f64,
    /// Findings of the two heavier weights.
    pub findings: usize,
    /// Whether it takes longer than is allowed.
    pub is_over: bool,
    /// The longer side with which it would keep the limit, mm; none where no size does.
    pub within: Option<f64>,
    /// What makes it that size.
    pub edits: Vec<Edit>,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/designs/{id}/member", web::get().to(show));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/designs/{id}/member",
    operation_id = "sets_show",
    tag = "designs",
    summary = "A design of a set: its measures and filaments, its size, its time, and the size that keeps a limit",
    params(("id" = String, Path, description = "The design"), ("limit" = Option<String>, Query, description = "The longest print, such as `35 min`"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = SetMember), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(
    shop: Shared,
    request: HttpRequest,
    id: Path<String>,
    allowed: Query<Allowed>,
) -> Result<Json<SetMember>, ApiError> {
    compute(&shop, &request, move |shop, watch| {
        let typed = allowed.limit.as_deref().filter(|t| !t.trim().is_empty());
        let limit = typed.map(parse_time).transpose().map_err(ApiError::NoTime)?;
        let there = shop.db.designs().get(&id)?;
        let d = there.document;
        let picture = || shop.picture(&d);
        let run = shop.engine.run_until(&d, &picture, Stage::Check, watch);
        let problem = run.failed.as_ref().map(|e| ProblemView::of(e, d.unit));
        let made = if problem.is_none() { Some(made(shop, &d, &run, limit, watch)?) } else { None };
        Ok(Json(SetMember {
            version: there.version,
            unit: d.unit,
            recipe: d.recipe,
            measures: measures(&d, &run),
            tiers: tiers(&run),
            made,
            problem,
        }))
    })
    .await
}

fn tiers(run: &Run) -> Vec<MemberTier> {
    let Some(stack) = &run.stack else { return vec![] };
    let tier = |t: &Tier| MemberTier {
        key: t.key.clone(),
        name: t.name.to_string(),
        filament: stack.filaments.get(t.part as usize).cloned().unwrap_or_default(),
    };
    stack.tiers.iter().filter(|t| t.op == Op::Add).map(tier).collect()
}

/// Its size, its time, and the size that keeps a limit (s).
fn made(shop: &Shop, d: &Document, run: &Run, limit: Option<f64>, watch: &Watch) -> Result<MemberMade, ApiError> {
    let wish = d.print;
    let printed = shop.engine.rehearse(run, wish, watch)?.ok_or(ApiError::Unknown("thing-solid"))?;
    let view = print_view(run, &printed, wish, d.unit).corrected(correction(shop)?);
    let seconds = view.likely.map_or(view.seconds, |l| l.seconds);
    let size = run.solid.as_ref().ok_or(ApiError::Unknown("thing-solid"))?.1.skin.mesh().size();
    let findings = run.report.findings.iter().filter(|f| f.code.weight() != Weight::Note).count();
    let is_over = limit.is_some_and(|limit| seconds > limit);
    // The limit holds for the likely time, the search is by the planned one.
    let planned = limit.filter(|_| is_over).map(|limit| limit * view.seconds / seconds);
    let found = match planned {
        Some(planned) => shop.engine.sized_within(d, planned, wish, &|| shop.picture(d), watch)?,
        None => None,
    };
    let within = found.map(|(mm, _)| mm);
    let axis = if size[0] >= size[1] { Axis::Width } else { Axis::Height };
    let edit = |mm: f64| GeneralEdit::SetSize { axis, value: Length::Mm(mm), of: SizeOf::Object }.into();
    Ok(MemberMade { size, seconds, findings, is_over, within, edits: within.map(edit).into_iter().collect() })
}
