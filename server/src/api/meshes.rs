//! Meshes for the solid view, and objects in use.

use super::shop::{Shared, compute};
use crate::problem::ApiError;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::check::Cup;
use kachel_engine::solid::Mesh;
use kachel_engine::tiers::Unit;
use kachel_engine::{DisplayPart, GRID_PER_MM, InUseView, Watch, in_use_view};
use serde::Deserialize;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/meshes/{key}", web::get().to(show))
        .route("/api/in-use/{key}", web::get().to(in_use))
        .route("/api/in-use/{key}/mesh", web::get().to(in_use_mesh));
}

/// Meshes of the tiers for the solid view. Header of four little-endian u32: 'KMSH', version 3, number of tiers, 0. Then
/// for each tier u32 role (its place in `Role`), u32 part (filament), u32 vertices, u32 triangles, u32 lines, f32 positions in mm,
/// u32 corners, u32 ends of lines along creases.
#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/meshes/{key}",
    operation_id = "meshes_show",
    tag = "files",
    summary = "The meshes of the single tiers, in the binary layout that `meshes.rs` states",
    params(("key" = String, Path, description = "`solid.key` of a result"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn show(shop: Shared, request: HttpRequest, key: Path<String>) -> Result<HttpResponse, ApiError> {
    let bytes = compute(&shop, &request, move |shop, watch: &Watch| {
        let parts = shop.engine.display(&key, watch)?.ok_or(ApiError::Unknown("thing-mesh"))?;
        Ok(encode(&parts))
    })
    .await?;
    // The key is a hash of everything that the mesh depends on.
    Ok(answer(bytes, "private, max-age=3600, immutable"))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/in-use/{key}",
    operation_id = "meshes_in_use",
    tag = "files",
    summary = "The object in use: the cookie that it cuts, how it hangs, and the like; null where there is nothing to see",
    params(("key" = String, Path, description = "`solid.key` of a result"), ("unit" = Option<kachel_engine::tiers::Unit>, Query, description = "Of lengths in sentences; `mm` where it is left out"), ("foot" = Option<f64>, Query, description = "Foot of the cup on a coaster, mm, 20 to 150; one that rocks where it is left out"), ("right" = Option<f64>, Query, description = "How far the cup stands to the right of the middle, mm"), ("up" = Option<f64>, Query, description = "How far up in plan, mm"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "What was asked for", body = Option<InUseView>), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn in_use(
    shop: Shared,
    request: HttpRequest,
    key: Path<String>,
    wish: Query<UseWish>,
) -> Result<Json<Option<InUseView>>, ApiError> {
    compute(&shop, &request, move |shop, watch: &Watch| {
        let shown = shop.engine.in_use(&key, wish.cup(), watch)?.ok_or(ApiError::Unknown("thing-solid"))?;
        Ok(Json(shown.as_ref().as_ref().map(|s| in_use_view(s, wish.unit))))
    })
    .await
}

/// What may be asked of an object in use.
#[derive(Deserialize)]
pub(super) struct UseWish {
    /// Of lengths in sentences.
    #[serde(default)]
    unit: Unit,
    /// Foot of the cup on a coaster, mm.
    foot: Option<f64>,
    /// How far it stands to the right of the middle, mm.
    #[serde(default)]
    right: f64,
    /// How far up, mm.
    #[serde(default)]
    up: f64,
}

impl UseWish {
    fn cup(&self) -> Cup {
        Cup { foot: self.foot, by: (self.right, self.up) }
    }
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/in-use/{key}/mesh",
    operation_id = "meshes_in_use_mesh",
    tag = "files",
    summary = "The meshes of what is shown with an object in use, in the binary layout that `meshes.rs` states",
    params(("key" = String, Path, description = "`solid.key` of a result"), ("foot" = Option<f64>, Query, description = "Foot of the cup on a coaster, mm, 20 to 150; one that rocks where it is left out"), ("right" = Option<f64>, Query, description = "How far the cup stands to the right of the middle, mm"), ("up" = Option<f64>, Query, description = "How far up in plan, mm"), ("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    responses((status = 200, description = "The file; part is a place in `materials`", body = Vec<u8>, content_type = "application/octet-stream"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn in_use_mesh(
    shop: Shared,
    request: HttpRequest,
    key: Path<String>,
    wish: Query<UseWish>,
) -> Result<HttpResponse, ApiError> {
    let bytes = compute(&shop, &request, move |shop, watch: &Watch| {
        let shown = shop.engine.in_use(&key, wish.cup(), watch)?.ok_or(ApiError::Unknown("thing-solid"))?;
        Ok(encode(shown.as_ref().as_ref().map_or(&[], |s| &s.parts)))
    })
    .await?;
    // Filaments and the printer's layer count too: not kept by the key alone.
    Ok(answer(bytes, "no-store"))
}

fn answer(bytes: Vec<u8>, kept: &'static str) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/octet-stream"))
        .insert_header((CACHE_CONTROL, kept))
        .body(bytes)
}

fn encode(parts: &[DisplayPart]) -> Vec<u8> {
    let mut out = Vec::new();
    let count = u32::try_from(parts.len()).unwrap_or(u32::MAX);
    out.extend_from_slice(b"KMSH");
    [3, count, 0].iter().for_each(|v: &u32| out.extend_from_slice(&v.to_le_bytes()));
    for (part, lines) in parts.iter().zip(DisplayPart::lines_of(parts)) {
        let mesh: &Mesh = part.mesh.mesh();
        let size = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
        let sizes = [mesh.vertices.len(), mesh.triangles.len(), lines.len()].map(size);
        for v in [part.role as u32, part.part].into_iter().chain(sizes) {
            out.extend_from_slice(&v.to_le_bytes());
        }
        #[expect(clippy::cast_possible_truncation, reason = "grid coordinates are exact in 32 bits")]
        for v in mesh.vertices.iter().flatten() {
            out.extend_from_slice(&((f64::from(*v) / GRID_PER_MM) as f32).to_le_bytes());
        }
        let indices = mesh.triangles.iter().flatten().chain(lines.iter().flatten());
        indices.for_each(|v| out.extend_from_slice(&v.to_le_bytes()));
    }
    out
}
