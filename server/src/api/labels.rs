//! Several designs at once: labels, and files.

use super::attachment::attachment;
use super::shop::{Shared, compute, on_shelf};
use crate::problem::ApiError;
use actix_web::web::{self, Json, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::exchange::zipped;
use kachel_engine::{ExportFormat, export, file_name, name_of};
use kachel_words::msg;
use serde::Deserialize;
use ts_rs::TS;

/// Most designs at once.
const MOST: usize = 2000;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/shelf/labels", web::post().to(label)).route("/api/shelf/files", web::post().to(files));
}

/// Labels to give to designs, and to take away from them.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct LabelChange {
    /// The designs; 1 to 2000.
    pub designs: Vec<String>,
    /// Labels that all of them get; up to 30 characters each.
    pub add: Vec<String>,
    /// Labels that all of them lose.
    pub remove: Vec<String>,
}

/// Designs whose files are wanted.
#[derive(Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct FilesWanted {
    /// The designs; 1 to 2000.
    pub designs: Vec<String>,
    /// The format of each file.
    #[ts(type = "\"3mf\" | \"stl\"")]
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub format: ExportFormat,
}

fn counted(designs: &[String]) -> Result<(), ApiError> {
    match designs.len() {
        1..=MOST => Ok(()),
        n => Err(ApiError::Malformed(msg!("designs-named", n = n, most = MOST))),
    }
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/shelf/labels",
    operation_id = "shelf_labels",
    tag = "designs",
    summary = "Gives labels to designs, and takes others away: all or none",
    request_body = LabelChange,
    responses((status = 204, description = "Done"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn label(shop: Shared, change: Json<LabelChange>) -> Result<HttpResponse, ApiError> {
    counted(&change.designs)?;
    on_shelf(&shop, move |shop| Ok(shop.db.designs().label(&change.designs, &change.add, &change.remove)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/shelf/files",
    operation_id = "shelf_files",
    tag = "files",
    summary = "A ZIP with a file of each design, named by the workshop's pattern. A design without a solid is named in missing.txt instead",
    params(("X-Kachel-Job" = Option<String>, Header, description = "A name by which the computation can be asked about and stopped; up to 64 characters")),
    request_body = FilesWanted,
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/zip"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn files(
    shop: Shared,
    request: HttpRequest,
    wanted: Json<FilesWanted>,
) -> Result<HttpResponse, ApiError> {
    counted(&wanted.designs)?;
    let bytes = compute(&shop, &request, move |shop, watch| {
        let mut files: Vec<(String, Vec<u8>)> = vec![];
        let mut missing = String::new();
        for id in &wanted.designs {
            watch.check().map_err(kachel_engine::EngineError::from)?;
            let stored = shop.db.designs().get(id)?;
            let d = &stored.document;
            let run = shop.engine.run(d, &|| shop.picture(d), watch);
            if run.solid.is_none() {
                missing += &format!("{}: {}\n", d.name, run.failed.map_or(msg!("no-solid-made"), |e| e.message()));
                continue;
            }
            let name = name_of(d, &run, &run.workshop.file_names)?;
            let bytes = export(d, &run, &|| shop.picture(d), wanted.format, Some(stored.created_at.clone()))?;
            files.push((free_name(&files, &name, wanted.format.extension()), bytes));
        }
        if !missing.is_empty() {
            files.push(("missing.txt".into(), missing.into_bytes()));
        }
        Ok(zipped(&files.iter().map(|(n, b)| (n.as_str(), b.as_slice())).collect::<Vec<_>>())?)
    })
    .await?;
    Ok(attachment("designs.zip", "application/zip", bytes))
}

/// A file name that none of the others has: two designs may have one name.
fn free_name(files: &[(String, Vec<u8>)], name: &str, extension: &str) -> String {
    let all = std::iter::once(name.to_string()).chain((2..).map(|n| format!("{name} {n}")));
    let taken = |n: &String| files.iter().any(|(f, _)| f.to_lowercase() == n.to_lowercase());
    all.map(|n| file_name(&n, extension)).find(|n| !taken(n)).unwrap_or_default()
}
