//! Whether whoever asked is still there. A client that closes its connection in the usual way sends no more and reads no more, and
//! nobody hears of it before the answer is written: so the connection is looked at.

use crate::problem::ApiError;
use actix_web::HttpRequest;
use actix_web::dev::Extensions;
use actix_web::error::PayloadError;
use actix_web::rt::net::TcpStream;
use actix_web::rt::time::{sleep, timeout};
use actix_web::web::Bytes;
use futures_util::{Stream, StreamExt as _};
use kachel_words::Message;
use std::any::Any;
use std::os::fd::AsFd;
use std::sync::Arc;
use std::time::Duration;

/// A body that brings no byte for so long is given up.
const STALLED: Duration = Duration::from_secs(10);

/// What comes next of a body; `None` at its end.
pub async fn next_chunk(
    body: &mut (impl Stream<Item = Result<Bytes, PayloadError>> + Unpin),
) -> Result<Option<Bytes>, ApiError> {
    let next = timeout(STALLED, body.next()).await.map_err(|_| ApiError::Stalled { seconds: STALLED.as_secs() })?;
    next.transpose().map_err(|e| ApiError::Malformed(Message::quoted(e)))
}

/// So often.
const EVERY: Duration = Duration::from_millis(100);

/// The connection of a request.
#[derive(Clone)]
struct Line(Arc<std::net::TcpStream>);

/// Remembers the connection with whatever comes over it.
pub fn remember(connection: &dyn Any, about: &mut Extensions) {
    let stream = connection.downcast_ref::<TcpStream>();
    if let Some(own) = stream.and_then(|s| s.as_fd().try_clone_to_owned().ok()) {
        about.insert(Line(Arc::new(own.into())));
    }
}

/// Ends when whoever asked is gone; never where that cannot be told.
pub async fn gone(request: &HttpRequest) {
    let Some(line) = request.conn_data::<Line>().cloned() else { return std::future::pending().await };
    // Both ends of the copy share one mode, which never blocks.
    while !matches!(line.0.peek(&mut [0]), Ok(0)) {
        sleep(EVERY).await;
    }
}
