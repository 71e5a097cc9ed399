use crate::{ArtworkError, MAX_PIXELS, Picture, luma_over_white};
use image::{DynamicImage, ImageDecoder, ImageError, ImageFormat, ImageReader, Limits};
use std::io::Cursor;

pub(crate) fn read(bytes: &[u8]) -> Result<Picture, ArtworkError> {
    let format = image::guess_format(bytes).map_err(|_| ArtworkError::UnknownFormat)?;
    if !matches!(format, ImageFormat::Png | ImageFormat::Jpeg) {
        return Err(ArtworkError::UnknownFormat);
    }
    let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
    // The decoder's own scratch memory is bounded too: 8 bytes a pixel cover 16-bit RGBA.
    let mut limits = Limits::default();
    limits.max_alloc = Some(MAX_PIXELS * 8 + (64 << 20));
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(damaged)?;
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MAX_PIXELS {
        return Err(ArtworkError::TooManyPixels { width, height });
    }
    let orientation = decoder.orientation().map_err(damaged)?;
    let mut image = DynamicImage::from_decoder(decoder).map_err(damaged)?;
    image.apply_orientation(orientation);
    Ok(flatten(image))
}

fn damaged(e: ImageError) -> ArtworkError {
    ArtworkError::Damaged(e.to_string())
}

fn flatten(image: DynamicImage) -> Picture {
    let (width, height) = (image.width(), image.height());
    if !image.color().has_alpha() {
        return Picture { width, height, grey: image.into_luma8().into_raw(), alpha: None };
    }
    let rgba = image.into_rgba8();
    let alpha: Vec<u8> = rgba.pixels().map(|p| p.0[3]).collect();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "luma is 0 to 255")]
    let grey = rgba
        .pixels()
        .map(|p| {
            let [r, g, b, a] = p.0.map(f64::from);
            luma_over_white([r, g, b], a / 255.0).round() as u8
        })
        .collect();
    let alpha = alpha.iter().any(|&a| a < 255).then_some(alpha);
    Picture { width, height, grey, alpha }
}
