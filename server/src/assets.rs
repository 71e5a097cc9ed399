//! The front end, built into the program.

use crate::problem::ApiError;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE, ETAG, IF_NONE_MATCH};
use actix_web::{HttpRequest, HttpResponse, web};
use rust_embed::RustEmbed;
use std::fmt::Write as _;

#[derive(RustEmbed)]
#[folder = "../web/dist"]
struct Assets;

/// Serves a file of the front end; every path that is none is the page itself, which knows what to show.
pub async fn asset(request: HttpRequest, path: web::Path<String>) -> Result<HttpResponse, ApiError> {
    let asked = path.into_inner();
    let (name, file) = match Assets::get(&asked) {
        Some(file) => (asked, file),
        None if asked.starts_with("api/") || asked.starts_with("assets/") => return Err(ApiError::Unknown("page")),
        None => ("index.html".into(), Assets::get("index.html").ok_or(ApiError::Unknown("page"))?),
    };
    let mut tag = String::from("\"");
    file.metadata.sha256_hash().iter().take(12).for_each(|b| {
        let _ = write!(tag, "{b:02x}");
    });
    tag.push('"');
    let matches = request.headers().get(IF_NONE_MATCH).is_some_and(|v| v.as_bytes() == tag.as_bytes());
    // Names under assets/ carry a hash of their content.
    let cache = if name.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let mut response = if matches { HttpResponse::NotModified() } else { HttpResponse::Ok() };
    response.insert_header((ETAG, tag)).insert_header((CACHE_CONTROL, cache));
    if matches {
        return Ok(response.finish());
    }
    let kind = mime_guess::from_path(&name).first_or_octet_stream();
    Ok(response.insert_header((CONTENT_TYPE, kind.as_ref())).body(file.data.into_owned()))
}
