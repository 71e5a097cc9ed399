use actix_web::web::{self, Json, ServiceConfig};
use kachel_engine::tiers::{RECIPES, RecipeKind};
use serde::Serialize;
use ts_rs::TS;

/// A recipe as it can be chosen.
#[derive(Serialize, TS)]
#[ts(export)]
pub struct RecipeView {
    /// Which one.
    pub kind: RecipeKind,
    /// Its name.
    pub label: &'static str,
    /// What it makes.
    pub meaning: &'static str,
    /// Which face is printed down.
    pub bed: &'static str,
}

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/recipes", web::get().to(list));
}

async fn list() -> Json<Vec<RecipeView>> {
    let view =
        |r: &kachel_engine::tiers::Recipe| RecipeView { kind: r.kind, label: r.label, meaning: r.meaning, bed: r.bed };
    Json(RECIPES.iter().map(view).collect())
}
