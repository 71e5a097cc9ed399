//! Answers without the long texts that the page has already. Most of what a change of a design answers with are outlines as path data, and
//! most of those are as they were.
//!
//! | | |
//! |---|---|
//! | request | `X-Kachel-Has`: names of texts, with commas; empty for none |
//! | answer | `X-Kachel-Texts: 1`, and `{"texts": {NAME: TEXT}, "answer": ...}` instead of the answer alone |
//! | in the answer | `{"$text": NAME}` in the place of each text of [`LONG`] bytes and more |
//!
//! A name is a part of the SHA-256 of its text, so nothing has to be remembered here of who has what. Requests without the header are answered as ever.

use actix_web::Error;
use actix_web::body::{BoxBody, EitherBody, MessageBody, to_bytes};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{CONTENT_TYPE, HeaderName, HeaderValue};
use actix_web::middleware::Next;
use kachel_engine::Engine;
use serde_json::{Map, Value, json};
use std::collections::HashSet;

/// What the page says that it has.
pub const HAS: &str = "x-kachel-has";
/// Marks an answer with a table of texts.
const TEXTS: HeaderName = HeaderName::from_static("x-kachel-texts");
/// A text of so many bytes is long.
const LONG: usize = 200;
/// Hexadecimal digits of a name: 64 bits.
const DIGITS: usize = 16;

/// The middleware.
pub async fn only_new(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<EitherBody<impl MessageBody, BoxBody>>, Error> {
    let has = request.headers().get(HAS).and_then(|v| v.to_str().ok());
    let has: Option<HashSet<String>> = has.map(|v| v.split(',').map(str::to_string).collect());
    let response = next.call(request).await?;
    let is_json = response.headers().get(CONTENT_TYPE).is_some_and(|t| t == "application/json");
    let Some(has) = has.filter(|_| is_json && response.status().is_success()) else {
        return Ok(response.map_into_left_body());
    };
    let (request, response) = response.into_parts();
    let (mut head, body) = response.into_parts();
    let mut bytes = to_bytes(body).await.map_err(Into::into)?;
    let shorter = serde_json::from_slice(&bytes).and_then(|answer| serde_json::to_vec(&without(answer, &has)));
    if let Ok(shorter) = shorter {
        bytes = shorter.into();
        head.headers_mut().insert(TEXTS, HeaderValue::from_static("1"));
    }
    Ok(ServiceResponse::new(request, head.set_body(BoxBody::new(bytes))).map_into_right_body())
}

/// An answer with its long texts beside it, those that the page has left out.
fn without(mut answer: Value, has: &HashSet<String>) -> Value {
    let mut texts = Map::new();
    take_out(&mut answer, has, &mut texts);
    json!({ "texts": texts, "answer": answer })
}

fn take_out(value: &mut Value, has: &HashSet<String>, texts: &mut Map<String, Value>) {
    match value {
        Value::String(text) if text.len() >= LONG => {
            let name = Engine::hash(text.as_bytes())[..DIGITS].to_string();
            let text = std::mem::replace(value, json!({ "$text": name }));
            if !has.contains(&name) {
                texts.insert(name, text);
            }
        }
        Value::Array(all) => all.iter_mut().for_each(|v| take_out(v, has, texts)),
        Value::Object(all) => all.values_mut().for_each(|v| take_out(v, has, texts)),
        _ => {}
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn long_texts_go_once_and_what_is_there_not_at_all() {
        let (a, b) = ("a".repeat(LONG), "b".repeat(LONG + 1));
        let answer = json!({ "short": "a", "paths": [a, b, { "again": a }], "n": 1.5 });
        let name = |text: &str| Engine::hash(text.as_bytes())[..DIGITS].to_string();
        let sent = without(answer, &HashSet::from([name(&b)]));
        assert_eq!(sent["texts"], json!({ name(&a): a }));
        let told = |text: &str| json!({ "$text": name(text) });
        let want = json!({ "short": "a", "paths": [told(&a), told(&b), { "again": told(&a) }], "n": 1.5 });
        assert_eq!(sent["answer"], want);
    }
}
