//! How requests come in: their bodies are read whole, within limits of size and time, and what has to be computed is handed on to the
//! helper.

use crate::api::{MAX_PLAN, MAX_UPLOAD, Shared, job};
use crate::gone::{gone, next_chunk};
use crate::helper::{Answer, Asked, Helper, stays};
use crate::problem::ApiError;
use crate::texts::HAS;
use actix_web::body::{BoxBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::http::StatusCode;
use actix_web::http::header::{self, HeaderName, HeaderValue};
use actix_web::middleware::Next;
use actix_web::web::{self, Bytes, BytesMut};
use actix_web::{Error, HttpMessage as _, HttpRequest, HttpResponse};
use kachel_words::msg;
use std::sync::Arc;
use tokio::sync::Semaphore;
use uuid::Uuid;

/// Largest body, bytes: a picture, and the form round it.
const MOST: usize = MAX_UPLOAD + (64 << 10);
/// Bodies above this are large, bytes, and so many of them are held at a time; others wait outside.
const LARGE: usize = 1 << 20;
const LARGE_AT_ONCE: usize = 3;
/// Requests that wait for the helper at a time; others wait before they get a thread.
const ASKING_AT_ONCE: usize = 48;

/// What bounds the requests that are taken in.
pub struct Gates {
    large: Semaphore,
    asking: Semaphore,
}

impl Default for Gates {
    fn default() -> Self {
        Self { large: Semaphore::new(LARGE_AT_ONCE), asking: Semaphore::new(ASKING_AT_ONCE) }
    }
}

/// The middleware.
pub async fn arrive(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let (Some(shop), Some(gates)) =
        (request.app_data::<Shared>().cloned(), request.app_data::<web::Data<Gates>>().cloned())
    else {
        return Err(ApiError::Fault.into());
    };
    let stated = request.headers().get(header::CONTENT_LENGTH).and_then(|v| v.to_str().ok()?.parse::<usize>().ok());
    let has_body = stated.is_some_and(|n| n > 0) || request.headers().contains_key(header::TRANSFER_ENCODING);
    // Held until the answer has been made: the body lives as long.
    let mut _held = None;
    let mut body = Bytes::new();
    // A whole shelf goes to the disk as it comes.
    if request.path() == "/api/shelf/home" {
        return Ok(next.call(request).await?.map_into_boxed_body());
    }
    if has_body {
        // A printer takes whole prints.
        let most = if request.path().starts_with("/api/printer") { MAX_PLAN } else { MOST };
        if stated.is_some_and(|n| n > most) {
            return Err(ApiError::UploadTooLarge { limit: limit_of(most) }.into());
        }
        if stated.is_none_or(|n| n > LARGE) {
            _held = Some(gates.large.acquire().await.map_err(|_| ApiError::Fault)?);
        }
        body = whole(request.take_payload(), most).await?;
    }
    let helper = shop.helper.clone().filter(|_| !stays(request.method().as_str(), request.path()));
    let Some(helper) = helper else {
        request.set_payload(Payload::from(body));
        return Ok(next.call(request).await?.map_into_boxed_body());
    };
    let _asking = match (request.method().as_str(), request.path()) {
        // Whoever wants to stop something does not wait behind it.
        (_, path) if path.starts_with("/api/jobs/") => None,
        _ => Some(gates.asking.acquire().await.map_err(|_| ApiError::Fault)?),
    };
    let (request, _) = request.into_parts();
    let response = asked(&helper, &request, body).await.unwrap_or_else(HttpResponse::from_error);
    Ok(ServiceResponse::new(request, response))
}

/// What a person is told of a limit: of a picture, without the form round it.
const fn limit_of(most: usize) -> usize {
    if most == MOST { MAX_UPLOAD } else { most }
}

/// A body, read to its end.
async fn whole(mut payload: Payload, most: usize) -> Result<Bytes, ApiError> {
    let mut all = BytesMut::new();
    while let Some(chunk) = next_chunk(&mut payload).await? {
        if all.len() + chunk.len() > most {
            return Err(ApiError::UploadTooLarge { limit: limit_of(most) });
        }
        all.extend_from_slice(&chunk);
    }
    Ok(all.freeze())
}

/// Stops a computation when nobody waits for it any more.
struct StopOnDrop {
    helper: Arc<Helper>,
    job: String,
    is_done: bool,
}

impl Drop for StopOnDrop {
    fn drop(&mut self) {
        if !self.is_done {
            let (helper, job) = (Arc::clone(&self.helper), self.job.clone());
            std::thread::spawn(move || helper.stop(&job));
        }
    }
}

/// Asks the helper, for as long as somebody waits for the answer.
async fn asked(helper: &Arc<Helper>, request: &HttpRequest, body: Bytes) -> Result<HttpResponse, ApiError> {
    let (method, path) = (request.method().to_string(), request.path());
    if let Some(name) = path.strip_prefix("/api/jobs/").filter(|_| method == "DELETE") {
        // Told here as well, so that what does not stop is ended.
        let (helper, name) = (Arc::clone(helper), name.to_string());
        web::block(move || helper.stop(&name)).await.map_err(|_| ApiError::Fault)?;
        return Ok(HttpResponse::NoContent().finish());
    }
    let job = job(request).unwrap_or_else(|| Uuid::new_v4().to_string());
    let keep =
        |name: &HeaderName| matches!(name.as_str(), "content-type" | "if-match" | "if-none-match" | "accept" | HAS);
    let text = |v: &HeaderValue| v.to_str().ok().map(ToString::to_string);
    let headers = request.headers().iter().filter(|(n, _)| keep(n));
    let asked = Asked {
        method,
        path: request.uri().path_and_query().map_or_else(|| path.to_string(), ToString::to_string),
        headers: headers.filter_map(|(n, v)| Some((n.to_string(), text(v)?))).collect(),
        body,
        job: job.clone(),
    };
    let mut guard = StopOnDrop { helper: Arc::clone(helper), job, is_done: false };
    let inner = Arc::clone(helper);
    let work = web::block(move || inner.ask(&asked));
    let answer = tokio::select! {
        answer = work => answer.map_err(|_| ApiError::Fault)?,
        () = gone(request) => return Err(ApiError::Malformed(msg!("connection-closed"))),
    };
    guard.is_done = true;
    Ok(handed_on(answer?))
}

fn handed_on(answer: Answer) -> HttpResponse {
    let mut response = HttpResponse::build(StatusCode::from_u16(answer.status).unwrap_or(StatusCode::BAD_GATEWAY));
    for (name, value) in answer.headers {
        // These are of the way between the two.
        if !matches!(name.as_str(), "connection" | "content-length" | "transfer-encoding" | "date") {
            response.append_header((name, value));
        }
    }
    response.body(answer.body)
}
