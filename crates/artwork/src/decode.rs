use crate::error::{ArtworkError, MAX_BYTES};
use crate::model::Artwork;
use crate::{drawing, picture};
use kachel_geom::Watch;

impl Artwork {
    /// Decodes a PNG, JPEG, WebP, GIF, BMP, TIFF or SVG; the format is detected from the bytes.
    pub fn decode(bytes: &[u8], watch: &Watch) -> Result<Self, ArtworkError> {
        if bytes.len() > MAX_BYTES {
            return Err(ArtworkError::TooManyBytes { bytes: bytes.len() });
        }
        if drawing::looks_like_svg(bytes) {
            return drawing::read(bytes, watch).map(Self::Drawing);
        }
        picture::read(bytes).map(Self::Picture)
    }
}
