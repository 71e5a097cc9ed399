//! A local server can be reached from any web page that a browser shows, so every request has to name our host, and
//! every change has to come from our own page. Listening beyond this machine asks for a pass phrase.

use crate::problem::ApiError;
use crate::tries::Tries;
use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderMap, HeaderName, HeaderValue};
use actix_web::middleware::Next;
use actix_web::{Error, web};
use base64::Engine as _;
use std::net::IpAddr;
use std::sync::Arc;
use std::time::Instant;

/// Which requests are answered.
#[derive(Clone, Debug)]
pub struct Guard {
    /// Values of Host that are ours, with the port.
    pub hosts: Vec<String>,
    /// What Basic authentication has to give as its password, where the server listens beyond this machine.
    pub pass_phrase: Option<String>,
    /// Wrong ones are slowed down.
    pub tries: Arc<Tries>,
}

/// Scripts only from here; styles may be set by scripts, which the interface's primitives do.
const POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; \
    font-src 'self'; connect-src 'self'; worker-src 'self'; object-src 'none'; base-uri 'none'; form-action 'none'; \
    frame-ancestors 'none'";

impl Guard {
    fn allows(&self, request: &ServiceRequest) -> Result<(), ApiError> {
        let headers = request.headers();
        let is_ours = |host: &str| self.hosts.iter().any(|h| h.eq_ignore_ascii_case(host));
        if !text(headers, header::HOST).is_some_and(is_ours) {
            return Err(ApiError::Foreign);
        }
        if let Some(origin) = text(headers, header::ORIGIN)
            && !origin.strip_prefix("http://").is_some_and(is_ours)
        {
            return Err(ApiError::Foreign);
        }
        // A request of another site that sends no Origin (a picture, a form by GET) says so here.
        let site = headers.get("sec-fetch-site").and_then(|v| v.to_str().ok());
        if request.path().starts_with("/api/") && site.is_some_and(|s| s == "cross-site" || s == "same-site") {
            return Err(ApiError::Foreign);
        }
        let Some(phrase) = &self.pass_phrase else { return Ok(()) };
        // A browser asks once without; that is no try.
        if !headers.contains_key(header::AUTHORIZATION) {
            return Err(ApiError::NoPassPhrase);
        }
        let from = request.peer_addr().map_or(IpAddr::from([0, 0, 0, 0]), |a| a.ip());
        match self.tries.allow(from, Instant::now(), || knows(headers, phrase)) {
            Some(true) => Ok(()),
            Some(false) => Err(ApiError::NoPassPhrase),
            None => Err(ApiError::TooManyTries),
        }
    }
}

fn text(headers: &HeaderMap, name: HeaderName) -> Option<&str> {
    headers.get(name).and_then(|v| v.to_str().ok())
}

fn knows(headers: &HeaderMap, phrase: &str) -> bool {
    let given = text(headers, header::AUTHORIZATION)
        .and_then(|v| v.strip_prefix("Basic "))
        .and_then(|v| base64::engine::general_purpose::STANDARD.decode(v).ok())
        .and_then(|v| String::from_utf8(v).ok());
    let Some((_, password)) = given.as_deref().and_then(|v| v.split_once(':')) else { return false };
    // Every byte is looked at, so that the time does not depend on how many were right.
    password.len() == phrase.len() && password.bytes().zip(phrase.bytes()).fold(0, |d, (a, b)| d | (a ^ b)) == 0
}

/// The middleware.
pub async fn guard(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let verdict = match request.app_data::<web::Data<Guard>>() {
        Some(guard) => guard.allows(&request),
        None => Err(ApiError::Fault),
    };
    let mut response = match verdict {
        Ok(()) => next.call(request).await?.map_into_left_body(),
        Err(e) => request.error_response(e).map_into_right_body(),
    };
    let headers = response.headers_mut();
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
    ] {
        if !headers.contains_key(&name) {
            headers.insert(name, HeaderValue::from_static(value));
        }
    }
    Ok(response)
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::test::TestRequest;

    fn verdict(pass_phrase: Option<&str>, path: &str, headers: &[(&'static str, &str)]) -> Result<(), ApiError> {
        let guard = Guard {
            hosts: vec!["127.0.0.1:4270".into()],
            pass_phrase: pass_phrase.map(Into::into),
            tries: Arc::default(),
        };
        let mut request = TestRequest::get().uri(path);
        for (name, value) in headers {
            request = request.insert_header((*name, *value));
        }
        guard.allows(&request.to_srv_request())
    }

    const HOST: (&str, &str) = ("host", "127.0.0.1:4270");

    #[test]
    fn host_and_origin_have_to_be_ours_with_the_port() {
        assert!(verdict(None, "/", &[HOST]).is_ok());
        assert!(verdict(None, "/", &[HOST, ("origin", "http://127.0.0.1:4270")]).is_ok());
        for headers in [
            vec![],
            vec![("host", "127.0.0.1")],
            vec![("host", "127.0.0.1:4271")],
            vec![("host", "127.0.0.1:4270.evil.example")],
            vec![HOST, ("origin", "https://127.0.0.1:4270")],
            vec![HOST, ("origin", "http://127.0.0.1:4271")],
        ] {
            assert!(matches!(verdict(None, "/", &headers), Err(ApiError::Foreign)), "{headers:?}");
        }
    }

    #[test]
    fn other_sites_may_link_to_the_page_but_not_ask_the_api() {
        let link = [HOST, ("sec-fetch-site", "cross-site")];
        assert!(verdict(None, "/design/a/tiers", &link).is_ok());
        assert!(matches!(verdict(None, "/api/designs", &link), Err(ApiError::Foreign)));
        assert!(verdict(None, "/api/designs", &[HOST, ("sec-fetch-site", "same-origin")]).is_ok());
    }

    #[test]
    fn the_pass_phrase_is_compared_whole() {
        // base64 of 'a:secret words', 'a:secret word', 'a:secret wordz', and of no pair at all
        let right = "Basic YTpzZWNyZXQgd29yZHM=";
        assert!(verdict(Some("secret words"), "/", &[HOST, ("authorization", right)]).is_ok());
        for wrong in ["Basic YTpzZWNyZXQgd29yZA==", "Basic YTpzZWNyZXQgd29yZHo=", "Basic YWJj", "Basic ???", "Bearer x"]
        {
            let asked = verdict(Some("secret words"), "/", &[HOST, ("authorization", wrong)]);
            assert!(matches!(asked, Err(ApiError::NoPassPhrase)), "{wrong}");
        }
        assert!(matches!(verdict(Some("secret words"), "/", &[HOST]), Err(ApiError::NoPassPhrase)));
    }
}
