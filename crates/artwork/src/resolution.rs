//! How large a file says that its picture is, and how many pictures it holds.

use image::codecs::gif::GifDecoder;
use image::codecs::png::PngDecoder;
use image::codecs::webp::WebPDecoder;
use image::{AnimationDecoder, ImageFormat};
use std::io::Cursor;

const MM_PER_INCH: f64 = 25.4;
/// Resolutions that programs write for want of a better one; they say nothing about size (common practice, no source).
const MEANINGLESS_DPI: [f64; 4] = [1.0, 72.0, 96.0, 100.0];

/// Size of a pixel, where the file states one that makes sense.
pub(crate) fn mm_per_px(bytes: &[u8], format: ImageFormat) -> Option<f64> {
    let dpi = match format {
        ImageFormat::Png => png(bytes),
        ImageFormat::Jpeg => jfif(bytes).or_else(|| exif_dpi(bytes)),
        ImageFormat::Tiff => exif_dpi(bytes),
        ImageFormat::Bmp => bmp(bytes),
        _ => None,
    }?;
    let is_meant = (20.0..=5000.0).contains(&dpi) && MEANINGLESS_DPI.iter().all(|m| (dpi - m).abs() > 0.6);
    is_meant.then(|| MM_PER_INCH / dpi)
}

fn be32(bytes: &[u8], at: usize) -> Option<u32> {
    Some(u32::from_be_bytes(bytes.get(at..at + 4)?.try_into().ok()?))
}

/// PNG, third edition, 11.3.4.3: pHYs holds pixels a unit along x and y, and unit 1 is the metre.
fn png(bytes: &[u8]) -> Option<f64> {
    let mut at = 8;
    loop {
        let length = be32(bytes, at)? as usize;
        match bytes.get(at + 4..at + 8)? {
            b"pHYs" => {
                let (x, y) = (be32(bytes, at + 8)?, be32(bytes, at + 12)?);
                let is_metre = *bytes.get(at + 16)? == 1;
                return (is_metre && x == y).then(|| f64::from(x) * MM_PER_INCH / 1000.0);
            }
            b"IDAT" | b"IEND" => return None,
            _ => at = at.checked_add(length)?.checked_add(12)?,
        }
    }
}

/// JFIF 1.02: in APP0 after the identifier and the version, the units (1 dots an inch, 2 dots a centimetre) and the
/// densities along x and y.
fn jfif(bytes: &[u8]) -> Option<f64> {
    let app0 = bytes.get(2..20)?;
    if app0[..2] != [0xff, 0xe0] || &app0[4..9] != b"JFIF\0" {
        return None;
    }
    let density = |k: usize| f64::from(u16::from_be_bytes([app0[k], app0[k + 1]]));
    let (x, y) = (density(12), density(14));
    match app0[11] {
        1 if x == y => Some(x),
        2 if x == y => Some(x * 2.54),
        _ => None,
    }
}

/// Exif 2.32 and TIFF 6.0, section 8: XResolution, in the unit of ResolutionUnit (2 inch, 3 centimetre).
fn exif_dpi(bytes: &[u8]) -> Option<f64> {
    use exif::{In, Tag, Value};
    let exif = exif::Reader::new().read_from_container(&mut Cursor::new(bytes)).ok()?;
    let rational = |tag| match &exif.get_field(tag, In::PRIMARY)?.value {
        Value::Rational(v) => v.first().filter(|r| r.denom != 0).map(exif::Rational::to_f64),
        _ => None,
    };
    let (x, y) = (rational(Tag::XResolution)?, rational(Tag::YResolution)?);
    let unit = exif.get_field(Tag::ResolutionUnit, In::PRIMARY).and_then(|f| f.value.get_uint(0)).unwrap_or(2);
    match unit {
        2 if (x - y).abs() < 0.5 => Some(x),
        3 if (x - y).abs() < 0.5 => Some(x * 2.54),
        _ => None,
    }
}

/// BITMAPINFOHEADER: pixels a metre along x and y at bytes 38 and 42 (from memory).
fn bmp(bytes: &[u8]) -> Option<f64> {
    let le = |at: usize| Some(u32::from_le_bytes(bytes.get(at..at + 4)?.try_into().ok()?));
    let (header, x, y) = (le(14)?, le(38)?, le(42)?);
    (header >= 40 && x == y && x > 0).then(|| f64::from(x) * MM_PER_INCH / 1000.0)
}

/// Pictures in the file; 2 stands for any more.
pub(crate) fn pictures(bytes: &[u8], format: ImageFormat) -> usize {
    let input = || Cursor::new(bytes);
    match format {
        ImageFormat::Gif => {
            GifDecoder::new(input()).map_or(1, |d| d.into_frames().take(2).filter(Result::is_ok).count())
        }
        ImageFormat::Png => match PngDecoder::new(input()).map(|d| d.is_apng()) {
            Ok(Ok(true)) => 2,
            _ => 1,
        },
        ImageFormat::WebP => WebPDecoder::new(input()).map_or(1, |d| if d.has_animation() { 2 } else { 1 }),
        ImageFormat::Tiff => tiff_pages(bytes),
        _ => 1,
    }
}

/// TIFF 6.0, section 2: the header points to the first directory, and each directory to the next after its entries of
/// twelve bytes.
fn tiff_pages(bytes: &[u8]) -> usize {
    let is_little = bytes.starts_with(b"II");
    let u16_at = |at: usize| {
        let b: [u8; 2] = bytes.get(at..at + 2)?.try_into().ok()?;
        Some(if is_little { u16::from_le_bytes(b) } else { u16::from_be_bytes(b) })
    };
    let u32_at = |at: usize| {
        let b: [u8; 4] = bytes.get(at..at + 4)?.try_into().ok()?;
        Some(if is_little { u32::from_le_bytes(b) } else { u32::from_be_bytes(b) } as usize)
    };
    let next = || {
        let first = u32_at(4)?;
        let entries = usize::from(u16_at(first)?);
        u32_at(first + 2 + entries * 12)
    };
    if next().is_some_and(|n| n != 0) { 2 } else { 1 }
}
