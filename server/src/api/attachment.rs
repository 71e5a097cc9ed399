//! Files that go out as attachments, so that no browser shows what somebody uploaded as a page of ours.

use actix_web::HttpResponse;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE, ContentDisposition, DispositionParam, DispositionType};

/// A file to save, never to open in place: what was uploaded is not to be trusted.
pub(super) fn attachment(name: &str, media_type: &str, bytes: Vec<u8>) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, media_type))
        .insert_header(disposition(name))
        .insert_header((CACHE_CONTROL, "no-cache"))
        .body(bytes)
}

/// A file to be saved under a name.
pub(super) fn disposition(name: &str) -> ContentDisposition {
    ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name.chars().filter(char::is_ascii).collect()), extended(name)],
    }
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
