//! Files of a bed.

use super::OnBeds;
use super::lying::{Lying, lying};
use super::sheet::{lines, pdf};
use crate::credit::credit;
use crate::export::{ExportError, file_name, named_parts, rendered};
use crate::rehearsal::PrintView;
use crate::view::{region_path, seen_from_above};
use kachel_design::Bed;
use kachel_exchange::{Credit, ObjectOnBed, write_stl_binary, write_threemf_bed, xml_text, zipped};
use kachel_geom::Pose;
use kachel_solid::SoundMesh;
use kachel_tiers::Op;
use std::fmt::Write as _;

/// Files of a plate. The origin of all of them is the bed's front left corner.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum BedFormat {
    /// 3MF: each object once, with its parts and colours, and one build item for each place.
    ThreeMf,
    /// Binary STL of everything.
    Stl,
    /// A ZIP of one STL a design, named after it, with the number of copies.
    Singles,
    /// A sheet to print: numbered outlines, names, credits, filaments, heights to change at; as SVG.
    Sheet,
    /// The same on pages of A4, as PDF.
    Pdf,
    /// A picture of the plate.
    Png,
}

impl BedFormat {
    /// By its name in addresses.
    pub fn by_name(name: &str) -> Option<Self> {
        Some(match name {
            "3mf" => Self::ThreeMf,
            "stl" => Self::Stl,
            "singles" => Self::Singles,
            "sheet" => Self::Sheet,
            "pdf" => Self::Pdf,
            "png" => Self::Png,
            _ => return None,
        })
    }

    /// File extension.
    pub const fn extension(self) -> &'static str {
        match self {
            Self::ThreeMf => "3mf",
            Self::Stl => "stl",
            Self::Singles => "zip",
            Self::Sheet => "svg",
            Self::Pdf => "pdf",
            Self::Png => "png",
        }
    }

    /// Media type.
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::ThreeMf => "model/3mf",
            Self::Stl => "model/stl",
            Self::Singles => "application/zip",
            Self::Sheet => "image/svg+xml",
            Self::Pdf => "application/pdf",
            Self::Png => "image/png",
        }
    }
}

/// Writes a plate of a bed, 0 being the first. A sheet says also what `print` says has to be done on the way.
pub fn bed_file(
    bed: &Bed,
    on: &OnBeds,
    plate: usize,
    format: BedFormat,
    print: Option<&PrintView>,
) -> Result<Vec<u8>, ExportError> {
    let all = lying(bed, on, plate);
    if all.is_empty() {
        return Err(ExportError::EmptyBed);
    }
    Ok(match format {
        BedFormat::ThreeMf => {
            let (objects, items) = objects(&all);
            let small = rendered(&picture(&all, on, &[]));
            write_threemf_bed(&objects, &items, &joint_credit(bed, &all), small.as_deref())?
        }
        BedFormat::Stl => {
            let meshes: Vec<SoundMesh> = all.iter().map(|l| l.solid.skin.moved(&l.pose)).collect::<Result<_, _>>()?;
            let together = SoundMesh::together(&meshes).map_err(|_| ExportError::Overlap)?;
            write_stl_binary(&together, &bed.name)?
        }
        BedFormat::Singles => singles(&all)?,
        BedFormat::Sheet => picture(&all, on, &lines(&all, print, on.workshop.unit)).into_bytes(),
        BedFormat::Pdf => pdf(&bed.name, &all, on, &lines(&all, print, on.workshop.unit)),
        BedFormat::Png => rendered(&picture(&all, on, &[])).ok_or(ExportError::NoPicture)?,
    })
}

/// Each design once, and where it lies.
fn objects(all: &[Lying<'_>]) -> (Vec<ObjectOnBed>, Vec<(usize, Pose)>) {
    let mut ids: Vec<&str> = Vec::new();
    let mut objects = Vec::new();
    let mut items = Vec::new();
    for l in all {
        let known = ids.iter().position(|id| *id == l.piece.design);
        let at = known.unwrap_or_else(|| {
            ids.push(&l.piece.design);
            objects.push(ObjectOnBed {
                name: l.design.name.clone(),
                parts: named_parts(l.document, &l.design.run, l.solid),
            });
            objects.len() - 1
        });
        items.push((at, l.pose));
    }
    (objects, items)
}

/// Whose pictures they are, each once.
fn joint_credit(bed: &Bed, all: &[Lying<'_>]) -> Credit {
    let credits: Vec<Credit> = all.iter().map(|l| credit(l.document, None)).collect();
    let each = |of: fn(&Credit) -> &String| {
        let mut words: Vec<&str> = credits.iter().map(|c| of(c).as_str()).filter(|w| !w.is_empty()).collect();
        words.sort_unstable();
        words.dedup();
        words.join("; ")
    };
    Credit {
        title: bed.name.clone(),
        designer: each(|c| &c.designer),
        source: each(|c| &c.source),
        licence: each(|c| &c.licence),
        note: each(|c| &c.note),
        created: None,
    }
}

/// One STL a design.
fn singles(all: &[Lying<'_>]) -> Result<Vec<u8>, ExportError> {
    let mut files: Vec<(String, Vec<u8>)> = Vec::new();
    let mut done: Vec<&str> = Vec::new();
    for l in all {
        if done.contains(&l.piece.design.as_str()) {
            continue;
        }
        done.push(&l.piece.design);
        let copies = all.iter().filter(|k| k.piece.design == l.piece.design).count();
        let name = if copies > 1 { format!("{} {copies}x", l.design.name) } else { l.design.name.clone() };
        // Two designs may have one name.
        let name = match files.iter().filter(|(n, _)| *n == file_name(&name, "stl")).count() {
            0 => name,
            _ => format!("{name} {}", done.len()),
        };
        files.push((
            file_name(&name, "stl"),
            write_stl_binary(&l.solid.skin.from_corner_of(&l.solid.skin), &l.design.name)?,
        ));
    }
    Ok(zipped(&files.iter().map(|(n, b)| (n.as_str(), b.as_slice())).collect::<Vec<_>>())?)
}

/// Height of a line of the list under a sheet, mm.
const LINE_MM: f64 = 6.0;

/// The plate from above; with lines to stand under it, each piece has its number.
fn picture(all: &[Lying<'_>], on: &OnBeds, lines: &[String]) -> String {
    let [w, d, _] = on.workshop.printer().bed;
    let is_sheet = !lines.is_empty();
    let height = d + 2.0 + LINE_MM * (lines.len() as f64 + 1.0) * f64::from(u8::from(is_sheet));
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{w}mm\" height=\"{height}mm\" viewBox=\"0 0 {w} {height}\" \
         font-family=\"sans-serif\"><rect width=\"{w}\" height=\"{d}\" fill=\"#fffaf0\" stroke=\"#8a8f86\" stroke-width=\"0.5\"/>"
    );
    for (k, l) in all.iter().enumerate() {
        // The bed's y runs up, the page's down.
        let _ = write!(out, "<g transform=\"translate({} {}) rotate({})\">", l.pose.x, d - l.pose.y, -l.pose.degrees);
        for t in l.design.run.stack.iter().flat_map(|s| seen_from_above(s)) {
            let [r, g, b] = if t.op == Op::Cut { [255, 250, 240] } else { l.design.run.filament(t.part).colour };
            // A thin line tells tiers of one filament apart.
            let _ = write!(
                out,
                "<path fill=\"#{r:02x}{g:02x}{b:02x}\" stroke=\"#1f2b2d\" stroke-opacity=\"0.35\" stroke-width=\"0.2\" d=\"{}\"/>",
                region_path(&t.footprint)
            );
        }
        if let Some(shadow) = &l.design.shadow {
            let _ = write!(
                out,
                "<path fill=\"none\" stroke=\"#1f2b2d\" stroke-width=\"0.3\" d=\"{}\"/>",
                region_path(shadow)
            );
        }
        out.push_str("</g>");
        if is_sheet {
            let (x, y) = (l.pose.x, d - l.pose.y);
            let _ = write!(
                out,
                "<circle cx=\"{x}\" cy=\"{y}\" r=\"3.4\" fill=\"#ffffff\" stroke=\"#1f2b2d\" stroke-width=\"0.3\"/>\
                 <text x=\"{x}\" y=\"{}\" font-size=\"4\" text-anchor=\"middle\">{}</text>",
                y + 1.4,
                k + 1
            );
        }
    }
    for (k, words) in lines.iter().enumerate() {
        let y = d + LINE_MM * (k as f64 + 1.3);
        let _ = write!(out, "<text x=\"2\" y=\"{y}\" font-size=\"4\">{}</text>", xml_text(words));
    }
    out.push_str("</svg>");
    out
}
