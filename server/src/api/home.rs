//! The whole shelf, taken home and brought from elsewhere.

use super::attachment::disposition;
use super::files::object_of;
use super::shop::{Shared, Shop, compute, on_shelf};
use crate::db::{Brought, DbError};
use crate::gone::next_chunk;
use crate::helper::{Answer, Asked, Helper};
use crate::home::{Outline, Part, failed, open_outline, passing, take};
use crate::problem::ApiError;
use actix_web::body::SizedStream;
use actix_web::http::StatusCode;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{self, Bytes, Json, Path, Payload, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use futures_util::stream;
use kachel_engine::{ExportFormat, Watch};
use kachel_words::msg;
use serde::Serialize;
use std::collections::HashMap;
use std::fs::File;
use std::io::{Read as _, Seek as _, SeekFrom, Write as _};
use std::path::PathBuf;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use ts_rs::TS;
use uuid::Uuid;

/// Largest file that is brought, bytes.
const MOST: u64 = 4 << 30;
/// So much is handed out at a time, bytes.
const CHUNK: usize = 256 << 10;

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/shelf/home", web::get().to(home))
        .route("/api/shelf/home", web::post().to(bring))
        .route("/api/shelf/home/{file}", web::get().to(outline))
        .route("/api/shelf/home/{file}", web::post().to(part));
}

/// What came of a shelf that was brought.
#[derive(Debug, Default, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BroughtView {
    /// Designs that were put on the shelf.
    pub designs: usize,
    /// Beds that were.
    pub beds: usize,
    /// What was there already, just as it is.
    pub were_there: usize,
    /// What was not taken, and why.
    pub refused: Vec<RefusedView>,
}

/// A part of a shelf that was not taken.
#[derive(Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct RefusedView {
    /// Its name.
    pub what: String,
    /// Why.
    pub why: String,
}

/// A file that goes when nobody works on it any more.
struct Passing(PathBuf);

impl Drop for Passing {
    fn drop(&mut self) {
        let _ = std::fs::remove_file(&self.0);
    }
}

/// Set when whoever asked has gone.
struct Gone(Arc<AtomicBool>);

impl Drop for Gone {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/shelf/home",
    operation_id = "home_take",
    tag = "designs",
    summary = "The whole shelf as a ZIP: 3MF files, pictures, and what belongs together",
    responses((status = 200, description = "The file", body = Vec<u8>, content_type = "application/zip"), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn home(shop: Shared) -> Result<HttpResponse, ApiError> {
    let is_gone = Arc::new(AtomicBool::new(false));
    let _gone = Gone(Arc::clone(&is_gone));
    let (file, size) = on_shelf(&shop, move |shop| {
        let own = Passing(passing(&shop.db.directory(), false, Uuid::new_v4()));
        let open = File::options().read(true).write(true).create_new(true).open(&own.0);
        let mut file = open.map_err(|e| failed(&e))?;
        take(&shop.db, &mut file, |id| {
            if is_gone.load(Ordering::Relaxed) {
                return Err(DbError::Other(msg!("nobody-waits").to_string()));
            }
            Ok(object(shop, id))
        })?;
        let size = file.seek(SeekFrom::End(0)).and_then(|size| file.rewind().map(|()| size)).map_err(|e| failed(&e))?;
        // Its name goes here; what is open can still be read.
        Ok((file, size))
    })
    .await?;
    let chunks = stream::unfold(file, |mut file| async move {
        let read = web::block(move || {
            let mut chunk = vec![0; CHUNK];
            let n = file.read(&mut chunk)?;
            chunk.truncate(n);
            Ok::<_, std::io::Error>((Bytes::from(chunk), file))
        });
        match read.await {
            Ok(Ok((chunk, _))) if chunk.is_empty() => None,
            Ok(Ok((chunk, file))) => Some((Ok::<_, std::io::Error>(chunk), file)),
            _ => None,
        }
    });
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/zip"))
        .insert_header(disposition("kachel-shelf.zip"))
        .insert_header((CACHE_CONTROL, "no-cache"))
        .body(SizedStream::new(size, Box::pin(chunks))))
}

/// A design's 3MF; none where it has no object.
fn object(shop: &Shop, id: &str) -> Option<Vec<u8>> {
    let Some(helper) = &shop.helper else {
        return object_of(shop, id, ExportFormat::ThreeMf, &Watch::default()).ok().map(|(_, bytes)| bytes);
    };
    let answer = asked(helper, "GET", format!("/api/designs/{id}/export/3mf"), Bytes::new()).ok()?;
    (answer.status == 200).then_some(answer.body)
}

fn asked(helper: &Helper, method: &str, path: String, body: Bytes) -> Result<Answer, ApiError> {
    let headers = vec![("content-type".into(), "application/json".into())];
    Ok(helper.ask(&Asked { method: method.into(), path, headers, body, job: Uuid::new_v4().to_string() })?)
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/shelf/home",
    operation_id = "home_bring",
    tag = "designs",
    summary = "Puts what was taken home on this shelf, beside what is there; a ZIP of 3MF files will do, too",
    request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, description = "What came of it", body = BroughtView), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn bring(
    shop: Shared,
    request: HttpRequest,
    mut payload: Payload,
) -> Result<Json<BroughtView>, ApiError> {
    let name = Uuid::new_v4();
    let own = Passing(path_of(&shop, name));
    let mut file = File::create_new(&own.0).map_err(|e| failed(&e))?;
    let mut size = 0;
    while let Some(chunk) = next_chunk(&mut payload).await? {
        size += chunk.len() as u64;
        if size > MOST {
            return Err(ApiError::NoShelfInside(msg!("larger-than-gb", most = MOST >> 30)));
        }
        file = web::block(move || file.write_all(&chunk).map(|()| file))
            .await
            .map_err(|_| ApiError::Fault)?
            .map_err(|e| failed(&e))?;
    }
    drop(file);
    let outline: Outline = match &shop.helper {
        Some(helper) => answered(helper, "GET", name, Bytes::new()).await?,
        None => outline(shop.clone(), request.clone(), Path::from(name.to_string())).await?.into_inner(),
    };
    let mut view = BroughtView::default();
    let mut here: HashMap<String, String> = HashMap::new();
    let parts = outline.parts();
    for (what, part) in parts {
        let of_design = matches!(part, Part::Design(_)).then(|| what.clone());
        let part = part.with_names(&here);
        let is_bed = matches!(part, Part::Bed(..));
        let done = match &shop.helper {
            Some(helper) => {
                let body = serde_json::to_vec(&part).map_err(|_| ApiError::Fault)?;
                answered(helper, "POST", name, body.into()).await
            }
            None => bring_part(&shop, &request, name, part).await,
        };
        match done {
            Ok(Brought::New(id)) => {
                view.designs += usize::from(of_design.is_some());
                view.beds += usize::from(is_bed);
                of_design.map(|there| here.insert(there, id));
            }
            Ok(Brought::WasThere(id)) => {
                view.were_there += usize::from(of_design.is_some() || is_bed);
                of_design.map(|there| here.insert(there, id));
            }
            Err(e) => view.refused.push(RefusedView { what: outline.name_of(&what), why: e.to_string() }),
        }
    }
    Ok(Json(view))
}

fn named(file: &str) -> Result<Uuid, ApiError> {
    Uuid::parse_str(file).map_err(|_| ApiError::Unknown("thing-file"))
}

fn path_of(shop: &Shop, name: Uuid) -> PathBuf {
    passing(&shop.db.directory(), true, name)
}

/// What the helper answers about a file.
async fn answered<T: serde::de::DeserializeOwned>(
    helper: &Arc<Helper>,
    method: &'static str,
    name: Uuid,
    body: Bytes,
) -> Result<T, ApiError> {
    let helper = Arc::clone(helper);
    let work = web::block(move || asked(&helper, method, format!("/api/shelf/home/{name}"), body));
    let answer = work.await.map_err(|_| ApiError::Fault)??;
    if answer.status == StatusCode::OK.as_u16() {
        return serde_json::from_slice(&answer.body).map_err(|_| ApiError::Fault);
    }
    let problem: serde_json::Value = serde_json::from_slice(&answer.body).map_err(|_| ApiError::Fault)?;
    Err(ApiError::NotBrought(msg!("just", value = problem["detail"].as_str().unwrap_or_default())))
}

#[cfg_attr(feature = "schema", utoipa::path(
    get,
    path = "/api/shelf/home/{file}",
    operation_id = "home_outline",
    tag = "designs",
    summary = "What is in a file that is being brought",
    params(("file" = String, Path, description = "The file, while it is being brought")),
    responses((status = 200, description = "What was asked for", body = Outline), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn outline(shop: Shared, request: HttpRequest, file: Path<String>) -> Result<Json<Outline>, ApiError> {
    compute(&shop, &request, move |shop, _| Ok(Json(open_outline(&path_of(shop, named(&file)?))?))).await
}

#[cfg_attr(feature = "schema", utoipa::path(
    post,
    path = "/api/shelf/home/{file}",
    operation_id = "home_part",
    tag = "designs",
    summary = "Puts one part of a file that is being brought on the shelf",
    params(("file" = String, Path, description = "The file, while it is being brought")),
    request_body = Part,
    responses((status = 200, description = "What came of it", body = Brought), (status = "default", description = "Why not", body = crate::problem::Problem, content_type = "application/problem+json")),
))]
pub(super) async fn part(
    shop: Shared,
    request: HttpRequest,
    file: Path<String>,
    part: Json<Part>,
) -> Result<Json<Brought>, ApiError> {
    Ok(Json(bring_part(&shop, &request, named(&file)?, part.into_inner()).await?))
}

async fn bring_part(shop: &Shared, request: &HttpRequest, file: Uuid, part: Part) -> Result<Brought, ApiError> {
    compute(shop, request, move |shop, watch| part.bring(shop, &path_of(shop, file), watch)).await
}
