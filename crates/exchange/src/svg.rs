use kachel_geom::{Px, Ring};
use std::fmt::Write as _;

/// An ink patch with its gaps.
#[derive(Clone, Copy, Debug)]
pub struct SvgPatch<'a> {
    /// The outer contour and the gaps.
    pub rings: &'a [Ring<Px>],
}

/// Contours as SVG: the viewBox is in pixels of the picture, pixel (0, 0) covering \[0, 1\] x \[0, 1\], y down; one path
/// per ink patch with its gaps as subpaths, even-odd, so that a gap is never painted.
pub fn write_contours_svg<'a>(
    width: f64,
    height: f64,
    title: &str,
    patches: impl Iterator<Item = SvgPatch<'a>>,
) -> String {
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {height}\" width=\"{width}\" height=\"{height}\">\n\
         <title>{}</title>\n<g fill=\"#000\" fill-rule=\"evenodd\">\n",
        quick_xml::escape::escape(title)
    );
    for patch in patches {
        out.push_str("<path d=\"");
        for ring in patch.rings {
            for (i, p) in ring.0.iter().enumerate() {
                let _ = write!(out, "{}{} {}", if i == 0 { 'M' } else { 'L' }, number(p.x), number(p.y));
            }
            out.push('Z');
        }
        out.push_str("\"/>\n");
    }
    out.push_str("</g>\n</svg>\n");
    out
}

/// A thousandth of a pixel is plenty.
fn number(v: f64) -> f64 {
    (v * 1000.0).round() / 1000.0 + 0.0
}
