use crate::document::Document;
use crate::engine::Run;
use kachel_exchange::{
    Credit, ExchangeError, NamedMesh, SvgGroup, SvgPatch, write_stl_binary, write_stl_text, write_svg, write_threemf,
};
use kachel_geom::Px;
use kachel_solid::{Part, Solid};
use serde::{Deserialize, Serialize};

/// File formats of an object.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ExportFormat {
    /// Binary STL.
    Stl,
    /// Text STL.
    StlText,
    /// 3MF.
    #[serde(rename = "3mf")]
    ThreeMf,
}

impl ExportFormat {
    /// File extension.
    pub const fn extension(self) -> &'static str {
        match self {
            Self::Stl | Self::StlText => "stl",
            Self::ThreeMf => "3mf",
        }
    }

    /// Media type.
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Stl | Self::StlText => "model/stl",
            Self::ThreeMf => "model/3mf",
        }
    }
}

/// A design's name as a file name.
pub fn file_name(name: &str, extension: &str) -> String {
    let safe: String = name.chars().map(|c| if c.is_alphanumeric() || "-_ ".contains(c) { c } else { ' ' }).collect();
    let safe = safe.split_whitespace().collect::<Vec<_>>().join("-");
    format!("{}.{extension}", if safe.is_empty() { "design" } else { &safe })
}

/// The name of a part in files.
pub(crate) fn part_name(d: &Document, solid: &Solid, part: &Part) -> String {
    if solid.parts.len() == 1 { d.name.clone() } else { format!("{} {}", d.name, part.number + 1) }
}

/// Writes the solid.
pub fn export(
    d: &Document,
    solid: &Solid,
    format: ExportFormat,
    created: Option<String>,
) -> Result<Vec<u8>, ExchangeError> {
    match format {
        ExportFormat::Stl => write_stl_binary(&solid.skin, &d.name),
        ExportFormat::StlText => Ok(write_stl_text(&solid.skin, &d.name)),
        ExportFormat::ThreeMf => {
            let named = |p: &Part| NamedMesh { name: part_name(d, solid, p), mesh: p.mesh.clone() };
            let parts: Vec<NamedMesh> = solid.parts.iter().map(named).collect();
            write_threemf(&parts, &credit(d, created))
        }
    }
}

pub(crate) fn credit(d: &Document, created: Option<String>) -> Credit {
    let c = d.credit.clone();
    let (designer, source, licence, note) = (c.maker, c.source, c.licence, c.note);
    Credit { title: d.name.clone(), designer, source, licence, note, created }
}

/// Writes the contours as SVG in pixels of the picture, one group a colour; `None` before they are traced.
pub fn export_contours(d: &Document, run: &Run) -> Option<String> {
    let c = run.contours.as_ref()?;
    let ink = || run.patches.iter().filter(|p| p.is_ink);
    let of = |k: Option<u8>| {
        let mine = ink().filter(|p| p.colour == k);
        let mut all: Vec<_> = mine.map(|p| SvgPatch { group: p.group.as_deref(), curves: &p.curves }).collect();
        all.sort_by_key(|p| p.group);
        all
    };
    let mut groups: Vec<SvgGroup<Px>> = Vec::new();
    if c.palette.is_empty() {
        groups.push(SvgGroup { name: "ink".into(), fill: [0; 3], patches: of(None) });
    }
    for (k, s) in c.palette.iter().enumerate().filter(|(_, s)| !s.is_ground) {
        let patches = of(u8::try_from(k).ok());
        if !patches.is_empty() {
            groups.push(SvgGroup { name: format!("colour-{}", k + 1), fill: s.colour, patches });
        }
    }
    Some(write_svg([c.origin.0, c.origin.1, c.width, c.height], "", &credit(d, None), &groups))
}
