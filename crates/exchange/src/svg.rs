use crate::Credit;
use kachel_geom::{Curve, Segment, Space};
use std::fmt::Write as _;

/// Patches of one paint.
#[derive(Clone, Debug)]
pub struct SvgGroup<'a, S: Space> {
    /// Name of the group.
    pub name: String,
    /// sRGB of its paint.
    pub fill: [u8; 3],
    /// The patches, those of one name next to each other.
    pub patches: Vec<SvgPatch<'a, S>>,
}

/// One patch.
#[derive(Clone, Copy, Debug)]
pub struct SvgPatch<'a, S: Space> {
    /// Name of the group that the artwork has it in.
    pub group: Option<&'a str>,
    /// The outer contour and what is left out of it.
    pub curves: &'a [Curve<S>],
}

/// Patches as SVG: the viewBox is left, upper edge, width, height, y down, in pixels of the picture (pixel (0, 0) covering
/// \[0, 1\] x \[0, 1\]) or in millimetres, which `unit` then says: `""` or `"mm"`. One group a paint, in it groups with
/// the names that the artwork gave them, in these one path per patch with what is left out of it as subpaths,
/// even-odd, so that a gap is never painted. Title and credit are in the file, the credit in Dublin Core terms (DCMI
/// Metadata Terms, ISO 15836).
pub fn write_svg<S: Space>(view: [f64; 4], unit: &str, credit: &Credit, groups: &[SvgGroup<'_, S>]) -> String {
    let [x, y, w, h] = view;
    let escape = |t: &str| quick_xml::escape::escape(t).into_owned();
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"{x} {y} {w} {h}\" width=\"{w}{unit}\" height=\"{h}{unit}\">\n<title>{}</title>\n",
        escape(&credit.title)
    );
    let terms = [
        ("creator", &credit.designer),
        ("source", &credit.source),
        ("license", &credit.licence),
        ("rights", &credit.note),
    ];
    if terms.iter().any(|(_, v)| !v.is_empty()) {
        out.push_str("<metadata xmlns:dcterms=\"http://purl.org/dc/terms/\">\n");
        for (term, value) in terms.iter().filter(|(_, v)| !v.is_empty()) {
            let _ = writeln!(out, "<dcterms:{term}>{}</dcterms:{term}>", escape(value));
        }
        out.push_str("</metadata>\n");
    }
    for g in groups {
        let [r, green, b] = g.fill;
        let _ =
            writeln!(out, "<g id=\"{}\" fill=\"#{r:02x}{green:02x}{b:02x}\" fill-rule=\"evenodd\">", escape(&g.name));
        for named in g.patches.chunk_by(|a, b| a.group == b.group) {
            let name = named.first().and_then(|p| p.group);
            if let Some(name) = name {
                let _ = writeln!(out, "<g>\n<title>{}</title>", escape(name));
            }
            for patch in named {
                out.push_str("<path d=\"");
                patch.curves.iter().for_each(|c| write_curve(&mut out, c));
                out.push_str("\"/>\n");
            }
            if name.is_some() {
                out.push_str("</g>\n");
            }
        }
        out.push_str("</g>\n");
    }
    out.push_str("</svg>\n");
    out
}

/// Appends a curve as SVG path data, to a thousandth; a closed one with Z.
pub fn write_curve<S: Space>(out: &mut String, c: &Curve<S>) {
    let at = |p: &kachel_geom::Point<S>| format!("{} {}", number(p.x), number(p.y));
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
