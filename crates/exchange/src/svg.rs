use kachel_geom::{Curve, Point, Segment, Space};
use kachel_geom::Px;
use std::fmt::Write as _;

/// An ink patch with its gaps.
#[derive(Clone, Copy, Debug)]
pub struct SvgPatch<'a> {
    /// The outer contour and the gaps.
    pub curves: &'a [Curve<Px>],
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
        patch.curves.iter().for_each(|c| write_curve(&mut out, c));
        out.push_str("\"/>\n");
    }
    out.push_str("</g>\n</svg>\n");
    out
}

/// Appends a curve as SVG path data, to a thousandth; a closed one with Z.
pub fn write_curve<S: Space>(out: &mut String, c: &Curve<S>) {
    let at = |p: &Point<S>| format!("{} {}", number(p.x), number(p.y));
    let _ = write!(out, "M{}", at(&c.start));
    let last = c.segments.len().saturating_sub(1);
    for (i, s) in c.segments.iter().enumerate() {
        match s {
            // Z draws the last line of a closed curve.
            Segment::Line(_) if i == last && c.is_closed() => {}
            Segment::Line(p) => {
                let _ = write!(out, "L{}", at(p));
            }
            Segment::Cubic(a, b, p) => {
                let _ = write!(out, "C{} {} {}", at(a), at(b), at(p));
            }
        }
    }
    if c.is_closed() {
        out.push('Z');
    }
}

/// A thousandth of a pixel is plenty.
fn number(v: f64) -> f64 {
    (v * 1000.0).round() / 1000.0 + 0.0
}
