//! Prepared artwork as a file that a browser shows.

use crate::{Artwork, Drawing, Picture};
use image::codecs::png::{CompressionType, FilterType, PngEncoder};
use image::{ExtendedColorType, ImageEncoder};
use std::fmt::Write as _;

impl Artwork {
    /// A PNG of the picture (over white), or an SVG of the drawing's areas, with its media type.
    pub fn to_file(&self) -> (Vec<u8>, &'static str) {
        match self {
            Self::Picture(p) => (png(p), "image/png"),
            Self::Drawing(d) => (svg(d).into_bytes(), "image/svg+xml"),
        }
    }
}

/// Written for the screen beside it: fast rather than small.
fn png(p: &Picture) -> Vec<u8> {
    let mut out = Vec::new();
    let encoder = PngEncoder::new_with_quality(&mut out, CompressionType::Fast, FilterType::Sub);
    let done = match &p.colour {
        Some(c) => encoder.write_image(c.as_flattened(), p.width, p.height, ExtendedColorType::Rgb8),
        None => encoder.write_image(&p.grey, p.width, p.height, ExtendedColorType::L8),
    };
    // Writing to memory fails only where width and height do not fit the pixels, which a picture's do.
    debug_assert!(done.is_ok());
    out
}

fn svg(d: &Drawing) -> String {
    let (w, h) = (d.width, d.height);
    let mut out =
        format!("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {w} {h}\" width=\"{w}\" height=\"{h}\">");
    for a in &d.areas {
        let [r, g, b] = a.colour;
        let _ = write!(out, "<path fill=\"#{r:02x}{g:02x}{b:02x}\" d=\"");
        for ring in &a.rings {
            for (i, p) in ring.0.iter().enumerate() {
                let _ = write!(out, "{}{:.3} {:.3}", if i == 0 { 'M' } else { 'L' }, p.x, p.y);
            }
            out.push('Z');
        }
        out.push_str("\"/>");
    }
    out.push_str("</svg>");
    out
}
