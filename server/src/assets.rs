//! The front end, built into the program.

use crate::problem::ApiError;
use actix_web::http::header::{
    ACCEPT_ENCODING, CACHE_CONTROL, CONTENT_ENCODING, CONTENT_TYPE, ETAG, IF_NONE_MATCH, VARY,
};
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
        None if asked.starts_with("api/") || asked.starts_with("assets/") => {
            return Err(ApiError::Unknown("thing-page"));
        }
        None => ("index.html".into(), Assets::get("index.html").ok_or(ApiError::Unknown("thing-page"))?),
    };
    let packed = packings(&request).find_map(|(coding, end)| Some((coding, Assets::get(&format!("{name}{end}"))?)));
    let (coding, file) = packed.map_or((None, file), |(coding, file)| (Some(coding), file));
    let mut tag = String::from("\"");
    file.metadata.sha256_hash().iter().take(12).for_each(|b| {
        let _ = write!(tag, "{b:02x}");
    });
    tag.push('"');
    let matches = request.headers().get(IF_NONE_MATCH).is_some_and(|v| v.as_bytes() == tag.as_bytes());
    // Names under assets/ carry a hash of their content.
    let cache = if name.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let mut response = if matches { HttpResponse::NotModified() } else { HttpResponse::Ok() };
    response.insert_header((ETAG, tag)).insert_header((CACHE_CONTROL, cache)).insert_header((VARY, "accept-encoding"));
    if let Some(coding) = coding {
        response.insert_header((CONTENT_ENCODING, coding));
    }
    if matches {
        return Ok(response.finish());
    }
    let kind = mime_guess::from_path(&name).first_or_octet_stream();
    Ok(response.insert_header((CONTENT_TYPE, kind.as_ref())).body(file.data.into_owned()))
}

/// How a file may come, the smallest first: prepared when the front end was built.
fn packings(request: &HttpRequest) -> impl Iterator<Item = (&'static str, &'static str)> {
    let accepted = request.headers().get(ACCEPT_ENCODING).and_then(|v| v.to_str().ok()).unwrap_or_default().to_string();
    [("br", ".br"), ("gzip", ".gz")].into_iter().filter(move |(coding, _)| takes(&accepted, coding))
}

/// Whether a coding is among those accepted; one with a weight of 0 is refused (RFC 9110, 12.5.3).
fn takes(accepted: &str, coding: &str) -> bool {
    accepted.split(',').any(|one| {
        let mut parts = one.split(';').map(str::trim);
        let weight = |p: &str| p.strip_prefix("q=").and_then(|q| q.parse::<f64>().ok());
        parts.next() == Some(coding) && parts.filter_map(weight).all(|q| q > 0.0)
    })
}
