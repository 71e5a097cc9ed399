use super::{Shared, compute};
use crate::problem::ApiError;
use actix_web::http::header::HeaderValue;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE, ContentDisposition, DispositionParam, DispositionType};
use actix_web::web::{self, Path, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use kachel_engine::EngineError;
use kachel_engine::artwork::Prepare;
use kachel_engine::solid::Mesh;
use kachel_engine::{DisplayPart, ExportFormat, GRID_PER_MM, Watch, export, export_contours, file_name, thumbnail};

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes
        .route("/api/designs/{id}/picture", web::get().to(picture))
        .route("/api/designs/{id}/prepared", web::get().to(prepared))
        .route("/api/designs/{id}/thumbnail.svg", web::get().to(small))
        .route("/api/designs/{id}/contours.svg", web::get().to(contours))
        .route("/api/designs/{id}/export/{format}", web::get().to(object))
        .route("/api/meshes/{key}", web::get().to(mesh));
}

/// A file to save, never to open in place: what was uploaded is not to be trusted.
pub(super) fn attachment(name: &str, media_type: &str, bytes: Vec<u8>) -> HttpResponse {
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name.chars().filter(char::is_ascii).collect()), extended(name)],
    };
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, media_type))
        .insert_header(disposition)
        .insert_header((CACHE_CONTROL, "no-cache"))
        .body(bytes)
}

/// RFC 6266: names beyond ASCII go into filename*.
fn extended(name: &str) -> DispositionParam {
    use actix_web::http::header::{Charset, ExtendedValue};
    DispositionParam::FilenameExt(ExtendedValue {
        charset: Charset::Ext("UTF-8".into()),
        language_tag: None,
        value: name.as_bytes().to_vec(),
    })
}

pub(super) fn media_type(bytes: &[u8]) -> &'static str {
    match bytes {
        [0x89, b'P', b'N', b'G', ..] => "image/png",
        [0xff, 0xd8, ..] => "image/jpeg",
        [b'G', b'I', b'F', ..] => "image/gif",
        [b'B', b'M', ..] => "image/bmp",
        [b'R', b'I', b'F', b'F', ..] => "image/webp",
        [b'I', b'I', ..] | [b'M', b'M', ..] => "image/tiff",
        _ => "image/svg+xml",
    }
}

async fn picture(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, bytes) = compute(&shop, &request, move |shop, _| {
        let d = shop.db.get(&id)?.document;
        Ok((d.artwork.file_name.clone(), shop.db.picture(&d.artwork.hash)?))
    })
    .await?;
    Ok(attachment(&name, media_type(&bytes), bytes))
}

/// The picture as it is traced, for the screen: prepared, and in a format that every browser shows. The page asks for it
/// under the key of what was done to it, so that it may be kept.
async fn prepared(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (bytes, media_type) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.get(&id)?.document;
        if d.prepare == Prepare::default() {
            let bytes = shop.picture(&d).map_err(EngineError::Picture)?;
            let kind = media_type(&bytes);
            if kind != "image/tiff" {
                return Ok((bytes, kind));
            }
        }
        Ok(shop.engine.shown(&d, &|| shop.picture(&d), watch)?.to_file())
    })
    .await?;
    let extension = media_type.rsplit(['/', '+']).next().unwrap_or("png").trim_end_matches("+xml");
    let mut response = attachment(&format!("prepared.{extension}"), media_type, bytes);
    response.headers_mut().insert(CACHE_CONTROL, HeaderValue::from_static("private, max-age=3600"));
    Ok(response)
}

async fn small(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let svg = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.get(&id)?.document;
        let run = shop.engine.run(&d, &|| shop.picture(&d), watch);
        thumbnail(&run).ok_or(ApiError::Unknown("thumbnail"))
    })
    .await?;
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "image/svg+xml"))
        .insert_header((CACHE_CONTROL, "max-age=600"))
        .body(svg))
}

async fn contours(shop: Shared, request: HttpRequest, id: Path<String>) -> Result<HttpResponse, ApiError> {
    let (name, svg) = compute(&shop, &request, move |shop, watch| {
        let d = shop.db.get(&id)?.document;
        let run = shop.engine.run(&d, &|| shop.picture(&d), watch);
        match (export_contours(&d, &run), run.failed) {
            (Some(svg), _) => Ok((file_name(&d.name, "svg"), svg)),
            (None, Some(e)) => Err(e.into()),
            (None, None) => Err(ApiError::Fault),
        }
    })
    .await?;
    Ok(attachment(&name, "image/svg+xml", svg.into_bytes()))
}

async fn object(shop: Shared, request: HttpRequest, path: Path<(String, String)>) -> Result<HttpResponse, ApiError> {
    let (id, format) = path.into_inner();
    let format = match format.as_str() {
        "stl" => ExportFormat::Stl,
        "stl-text" => ExportFormat::StlText,
        "stl-parts" => ExportFormat::StlParts,
        "3mf" => ExportFormat::ThreeMf,
        _ => return Err(ApiError::Unknown("file format")),
    };
    let (name, bytes) = compute(&shop, &request, move |shop, watch| {
        let stored = shop.db.get(&id)?;
        let d = &stored.document;
        let mut run = shop.engine.run(d, &|| shop.picture(d), watch);
        // A finding never stops an export; a solid only exists when its mesh is sound.
        match (run.solid.is_some(), run.failed.take()) {
            (true, _) => {
                let bytes = export(d, &run, &|| shop.picture(d), format, Some(stored.created_at.clone()))?;
                Ok((file_name(&d.name, format.extension()), bytes))
            }
            (false, Some(e)) => Err(e.into()),
            (false, None) => Err(ApiError::Fault),
        }
    })
    .await?;
    Ok(attachment(&name, format.media_type(), bytes))
}

/// Meshes of the tiers for the solid view. Header of four little-endian u32: 'KMSH', version 2, number of tiers, 0. Then
/// for each tier u32 role (its place in `Role`), u32 part (filament), u32 vertices, u32 triangles, f32 positions in mm,
/// u32 corners.
async fn mesh(shop: Shared, request: HttpRequest, key: Path<String>) -> Result<HttpResponse, ApiError> {
    let bytes = compute(&shop, &request, move |shop, watch: &Watch| {
        let parts = shop.engine.display(&key, watch)?.ok_or(ApiError::Unknown("mesh"))?;
        Ok(encode(&parts))
    })
    .await?;
    // The key is a hash of everything that the mesh depends on.
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/octet-stream"))
        .insert_header((CACHE_CONTROL, "private, max-age=3600, immutable"))
        .body(bytes))
}

fn encode(parts: &[DisplayPart]) -> Vec<u8> {
    let mut out = Vec::new();
    let count = u32::try_from(parts.len()).unwrap_or(u32::MAX);
    out.extend_from_slice(b"KMSH");
    [2, count, 0].iter().for_each(|v: &u32| out.extend_from_slice(&v.to_le_bytes()));
    for part in parts {
        let mesh: &Mesh = part.mesh.mesh();
        let size = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
        for v in [part.role as u32, part.part, size(mesh.vertices.len()), size(mesh.triangles.len())] {
            out.extend_from_slice(&v.to_le_bytes());
        }
        #[expect(clippy::cast_possible_truncation, reason = "grid coordinates are exact in 32 bits")]
        for v in mesh.vertices.iter().flatten() {
            out.extend_from_slice(&((f64::from(*v) / GRID_PER_MM) as f32).to_le_bytes());
        }
        mesh.triangles.iter().flatten().for_each(|v| out.extend_from_slice(&v.to_le_bytes()));
    }
    out
}
