use actix_web::web::{self, Json, ServiceConfig};
use kachel_engine::tiers::{RECIPES, RecipeKind, Unit};
use serde::Serialize;
use ts_rs::TS;

/// A recipe as it can be chosen.
#[derive(Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct RecipeView {
    /// Which one.
    pub kind: RecipeKind,
    /// Its name.
    pub label: String,
    /// What it makes.
    pub meaning: String,
    /// Which face is printed down.
    pub bed: String,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/recipes", web::get().to(list));
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/recipes",
    operation_id = "recipes_list",
    tag = "recipes",
    summary = "The recipes",
    responses((status = 200, description = "What was asked for", body = Vec<RecipeView>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn list() -> Json<Vec<RecipeView>> {
    let view = |r: &kachel_engine::tiers::Recipe| {
        let part = |name| r.label().said_part(name, Unit::Mm);
        RecipeView { kind: r.kind, label: r.label().to_string(), meaning: part("meaning"), bed: part("bed") }
    };
    Json(RECIPES.iter().map(view).collect())
}
