use crate::sheet::sheet_doubt;
use crate::{ArtworkError, Doubt, MAX_PIXELS, Picture, WORKING_PIXELS, luma, resolution};
use image::{DynamicImage, ImageDecoder, ImageError, ImageFormat, ImageReader, Limits};
use kachel_words::Message;
use std::borrow::Cow;
use std::io::Cursor;

/// Bytes of a decoded picture at the most: 12 000 x 12 000 pixels of four bytes.
const MAX_DECODED: u64 = MAX_PIXELS * 4;

pub(crate) fn read(bytes: &[u8]) -> Result<Picture, ArtworkError> {
    let format = image::guess_format(bytes).map_err(|_| ArtworkError::UnknownFormat)?;
    let plain = if format == ImageFormat::Png { without_profile(bytes) } else { Cow::Borrowed(bytes) };
    let mut reader = ImageReader::with_format(Cursor::new(&*plain), format);
    // The decoder's own scratch memory is bounded too.
    let mut limits = Limits::default();
    limits.max_alloc = Some(MAX_DECODED + (64 << 20));
    reader.limits(limits);
    let mut decoder = match reader.into_decoder() {
        Ok(d) => d,
        Err(ImageError::Unsupported(_)) if !is_known(format) => return Err(ArtworkError::UnknownFormat),
        Err(e) => return Err(damaged(e)),
    };
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MAX_PIXELS || decoder.total_bytes() > MAX_DECODED {
        return Err(ArtworkError::TooManyPixels { width, height });
    }
    let orientation = decoder.orientation().map_err(damaged)?;
    let mut image = DynamicImage::from_decoder(decoder).map_err(damaged)?;
    image.apply_orientation(orientation);
    let mut doubts = Vec::new();
    if format == ImageFormat::Jpeg && is_cut_off(bytes) {
        doubts.push(Doubt::CutOff);
    }
    if resolution::pictures(&plain, format) > 1 {
        doubts.push(Doubt::FirstOfSeveral);
    }
    let mut mm_per_px = resolution::mm_per_px(bytes, format);
    let size = (image.width(), image.height());
    if let Some((w, h)) = working_size(size.0, size.1) {
        // A box filter: every pixel of the original counts, and edges stay as sharp as they can.
        image = image.thumbnail_exact(w, h);
        mm_per_px = mm_per_px.map(|s| s * f64::from(size.0) / f64::from(w));
        doubts.push(Doubt::Reduced { from: size, to: (w, h) });
    }
    let mut picture = Picture { mm_per_px, doubts, ..flatten(image) };
    picture.doubts.extend(sheet_doubt(&picture));
    Ok(picture)
}

/// A PNG without its colour profile and its compressed texts: nobody looks at them here, and the decoder would unpack them whole.
/// Chunks: length, name, data, check sum (PNG, third edition, W3C 2025, 5.3, from memory).
fn without_profile(bytes: &[u8]) -> Cow<'_, [u8]> {
    const LEFT_OUT: [&[u8]; 3] = [b"iCCP", b"zTXt", b"iTXt"];
    let mut parts: Vec<&[u8]> = vec![];
    let mut kept_from = 0;
    let mut at = 8;
    while let Some(head) = bytes.get(at..at + 8) {
        let long = u32::from_be_bytes([head[0], head[1], head[2], head[3]]) as usize;
        let end = at.saturating_add(12).saturating_add(long).min(bytes.len());
        if LEFT_OUT.contains(&&head[4..8]) {
            parts.push(&bytes[kept_from..at]);
            kept_from = end;
        }
        at = end;
    }
    if parts.is_empty() {
        return Cow::Borrowed(bytes);
    }
    parts.push(&bytes[kept_from..]);
    Cow::Owned(parts.concat())
}

const fn is_known(format: ImageFormat) -> bool {
    use ImageFormat::{Bmp, Gif, Jpeg, Png, Tiff, WebP};
    matches!(format, Png | Jpeg | WebP | Gif | Bmp | Tiff)
}

fn damaged(e: ImageError) -> ArtworkError {
    match e {
        ImageError::Unsupported(what) => ArtworkError::UnknownKind(Message::quoted(what)),
        e => ArtworkError::Damaged(e.to_string()),
    }
}

/// The size at which a picture over [`WORKING_PIXELS`] is worked on.
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "smaller than what it was")]
fn working_size(w: u32, h: u32) -> Option<(u32, u32)> {
    let pixels = u64::from(w) * u64::from(h);
    (pixels > WORKING_PIXELS).then(|| {
        let k = (WORKING_PIXELS as f64 / pixels as f64).sqrt();
        let of = |v: u32| ((f64::from(v) * k).floor() as u32).max(1);
        (of(w), of(h))
    })
}

/// JPEG, ITU-T T.81 (1992), B.1.1.3: a picture ends with the marker EOI, FF D9. What cameras append after it does not
/// matter, nor does the end of a thumbnail in front of the last scan (SOS, FF DA).
fn is_cut_off(bytes: &[u8]) -> bool {
    let last = |marker: u8| bytes.windows(2).rposition(|w| w == [0xff, marker]);
    last(0xd9).is_none_or(|end| last(0xda).is_some_and(|scan| scan > end))
}

fn flatten(image: DynamicImage) -> Picture {
    let (width, height) = (image.width(), image.height());
    if !image.color().has_color() && !image.color().has_alpha() {
        return Picture::of_grey(width, height, image.into_luma8().into_raw());
    }
    let mut alpha: Option<Vec<u8>> = None;
    let pixels: Vec<[u8; 3]> = if image.color().has_alpha() {
        let rgba = image.into_rgba8();
        if rgba.pixels().any(|p| p.0[3] < 255) {
            alpha = Some(rgba.pixels().map(|p| p.0[3]).collect());
        }
        rgba.pixels()
            .map(|p| {
                let [r, g, b, a] = p.0.map(u32::from);
                #[expect(clippy::cast_possible_truncation, reason = "a mean of values of eight bits")]
                let over = |c: u32| ((c * a + 255 * (255 - a) + 127) / 255) as u8;
                [over(r), over(g), over(b)]
            })
            .collect()
    } else {
        image.into_rgb8().pixels().map(|p| p.0).collect()
    };
    let grey = pixels.iter().map(|c| luma(*c)).collect();
    let has_colour = pixels.iter().any(|[r, g, b]| r != g || g != b);
    Picture { alpha, colour: has_colour.then_some(pixels), ..Picture::of_grey(width, height, grey) }
}
