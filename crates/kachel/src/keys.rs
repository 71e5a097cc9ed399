//! What results depend on: each is remembered by the hash of what went into it.

use crate::error::EngineError;
use kachel_artwork::Paint;
use kachel_design::Document;
use kachel_trace::{Ink, TraceSettings};
use serde::Serialize;
use sha2::{Digest, Sha256};

/// The SHA-256 of some bytes, hexadecimal.
pub(crate) fn hash(bytes: &[u8]) -> String {
    Sha256::digest(bytes).iter().map(|b| format!("{b:02x}")).collect()
}

/// The hash of what can be written down. What cannot is an error: an empty key would be one for everything.
pub(crate) fn key(parts: &impl Serialize) -> Result<String, EngineError> {
    serde_json::to_vec(parts).map(|text| hash(&text)).map_err(|e| EngineError::Key(e.to_string()))
}

/// Colours that the brush and bare corners get: what counts as ink and as ground by the settings.
pub(crate) fn paint(t: &TraceSettings) -> Paint {
    let plain = Paint::default();
    match t.ink {
        Ink::LightDark | Ink::Pen if t.invert => Paint { ink: plain.ground, ground: plain.ink },
        Ink::Colours => Paint { ground: t.colours.ground.unwrap_or(plain.ground), ..plain },
        Ink::LightDark | Ink::Pen | Ink::Alpha | Ink::None => plain,
    }
}

/// What the prepared picture depends on.
pub(crate) fn prepared_key(d: &Document) -> Result<String, EngineError> {
    key(&(&d.artwork.hash, &d.prepare, paint(&d.trace)))
}

/// What contours depend on.
pub(crate) fn contours_key(d: &Document) -> Result<String, EngineError> {
    key(&(prepared_key(d)?, &d.trace))
}

/// What an outline depends on.
pub(crate) fn outline_key(d: &Document) -> Result<String, EngineError> {
    let w = d.wanted()?;
    key(&(contours_key(d)?, w.choices, w.changes, w.size, w.pen, (w.aim, w.guesses, w.usual)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashMap;

    #[test]
    fn what_cannot_be_written_has_no_key() {
        // JSON has no keys that are pairs.
        let unwritable = HashMap::from([((1, 2), 3)]);
        assert!(matches!(key(&unwritable), Err(EngineError::Key(_))));
        assert_ne!(key(&(1, "a")).unwrap(), key(&(1, "b")).unwrap());
        // NIST's example for SHA-256 of three bytes (FIPS 180-4, examples; from memory).
        assert!(hash(b"abc").starts_with("ba7816bf8f01cfea414140de5dae2223"));
    }
}
