//! What cannot be read is refused with words.

use crate::problem::ApiError;
use actix_web::web::{JsonConfig, PathConfig, QueryConfig, ServiceConfig};
use kachel_words::Message;

/// Largest JSON body, bytes.
const MAX_JSON: usize = 4 << 20;

/// Reads bodies, queries and paths so.
pub fn read_strictly(routes: &mut ServiceConfig) {
    routes
        .app_data(
            JsonConfig::default().limit(MAX_JSON).error_handler(|e, _| ApiError::Malformed(Message::quoted(e)).into()),
        )
        .app_data(QueryConfig::default().error_handler(|e, _| ApiError::Malformed(Message::quoted(e)).into()))
        .app_data(PathConfig::default().error_handler(|e, _| ApiError::Malformed(Message::quoted(e)).into()));
}
