use crate::credit::credit;
use crate::engine::{Engine, Picture};
use crate::pieces::export_outline;
use crate::run::Run;
use crate::view::thumbnail;
use kachel_design::{Document, DocumentError, FileNames, FileNamesError, Named};
use kachel_exchange::{
    DesignInside, ExchangeError, Material, NamedMesh, SvgGroup, SvgPatch, read_design, write_stl_binary,
    write_stl_text, write_stl_zip, write_svg, write_threemf,
};
use kachel_geom::Px;
use kachel_solid::{Part, Solid};
use kachel_tiers::Unit;
use kachel_words::{msg, said};
use serde::{Deserialize, Serialize};

/// File formats of an object.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ExportFormat {
    /// Binary STL.
    Stl,
    /// Text STL.
    StlText,
    /// One binary STL a filament, in a ZIP.
    StlParts,
    /// 3MF.
    #[serde(rename = "3mf")]
    ThreeMf,
    /// The outline as SVG, in millimetres.
    Svg,
    /// The object in plan, as a picture.
    Png,
}

impl ExportFormat {
    /// File extension.
    pub const fn extension(self) -> &'static str {
        match self {
            Self::Stl | Self::StlText => "stl",
            Self::StlParts => "zip",
            Self::ThreeMf => "3mf",
            Self::Svg => "svg",
            Self::Png => "png",
        }
    }

    /// The format that is called so in addresses.
    pub fn by_name(name: &str) -> Option<Self> {
        serde_json::from_value(serde_json::Value::from(name)).ok()
    }

    /// A name that tells it from another file of its extension.
    fn named(self, name: &str) -> String {
        match self {
            Self::StlText => msg!("file-as-text", name = name).to_string(),
            Self::StlParts => msg!("file-by-filament", name = name).to_string(),
            _ => name.into(),
        }
    }

    /// Media type.
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Stl | Self::StlText => "model/stl",
            Self::StlParts => "application/zip",
            Self::ThreeMf => "model/3mf",
            Self::Svg => "image/svg+xml",
            Self::Png => "image/png",
        }
    }
}

/// A design's name as a file name.
pub fn file_name(name: &str, extension: &str) -> String {
    let all: Vec<char> = name.chars().collect();
    let is_digit = |k: Option<usize>| k.and_then(|k| all.get(k)).is_some_and(char::is_ascii_digit);
    // A point only within a number.
    let keeps = |k: usize, c: char| {
        c.is_alphanumeric() || "-_ ".contains(c) || (c == '.' && is_digit(k.checked_sub(1)) && is_digit(Some(k + 1)))
    };
    let safe: String = all.iter().enumerate().map(|(k, &c)| if keeps(k, c) { c } else { ' ' }).collect();
    let safe = safe.split_whitespace().collect::<Vec<_>>().join("-");
    let nameless = || msg!("nameless-file").to_string();
    format!("{}.{extension}", if safe.is_empty() { nameless() } else { safe })
}

/// What the file of a run is called, by the workshop's pattern or another, without its extension.
pub fn name_of(d: &Document, run: &Run, names: &FileNames) -> Result<String, FileNamesError> {
    let size = run.solid.as_ref().map(|(_, s)| s.skin.mesh().size());
    let side = |k: usize| match (size, d.unit) {
        (None, _) => String::new(),
        (Some(size), Unit::Mm) => format!("{:.0}mm", size[k]),
        (Some(size), Unit::In) => format!("{:.1}in", size[k] / Unit::In.mm()),
    };
    let (width, height) = (side(0), side(1));
    let recipe = d.recipe.recipe().label().to_string();
    names.of(Named { design: &d.name, recipe: &recipe, size: [&width, &height] })
}

/// The same with the format's extension; by the design's name where the pattern is damaged.
pub fn named_file(d: &Document, run: &Run, format: ExportFormat) -> String {
    let name = name_of(d, run, &run.workshop.file_names).unwrap_or_else(|_| d.name.clone());
    file_name(&format.named(&name), format.extension())
}

/// The name of a part in files.
pub(crate) fn part_name(d: &Document, parts: usize, filament: &str) -> String {
    if parts == 1 { d.name.clone() } else { format!("{}, {filament}", d.name) }
}

/// The parts of a solid with their names and filaments.
pub(crate) fn named_parts(d: &Document, run: &Run, solid: &Solid) -> Vec<NamedMesh> {
    let named = |p: &Part| {
        let f = run.filament(p.number);
        let material = Some(Material { name: f.name.clone(), colour: f.colour });
        NamedMesh { name: part_name(d, solid.parts.len(), &f.name), mesh: p.mesh.clone(), material }
    };
    solid.parts.iter().map(named).collect()
}

/// Writes the solid of a run. In every file the box of the whole object begins at the origin, as 3MF asks for. The picture goes into a
/// 3MF, so that it can be opened as a design again.
pub fn export(
    d: &Document,
    run: &Run,
    picture: Picture<'_>,
    format: ExportFormat,
    created: Option<String>,
) -> Result<Vec<u8>, ExportError> {
    let (_, solid) = run.solid.as_ref().ok_or(ExportError::NoSolid)?;
    let parts = || named_parts(d, run, solid);
    Ok(match format {
        ExportFormat::Stl => write_stl_binary(&solid.skin.from_corner_of(&solid.skin), &d.name)?,
        ExportFormat::StlText => write_stl_text(&solid.skin.from_corner_of(&solid.skin), &d.name),
        ExportFormat::StlParts => {
            let cornered = |p: NamedMesh| NamedMesh { mesh: p.mesh.from_corner_of(&solid.skin), ..p };
            write_stl_zip(&parts().into_iter().map(cornered).collect::<Vec<_>>())?
        }
        ExportFormat::Svg => export_outline(d, run).ok_or(ExportError::NoSolid)?.into_bytes(),
        ExportFormat::Png => {
            let seen = thumbnail(run).ok_or(ExportError::NoSolid)?;
            rendered_at(&seen, PICTURE_PX).ok_or(ExportError::NoPicture)?
        }
        ExportFormat::ThreeMf => {
            let small = thumbnail(run).and_then(|svg| rendered(&svg));
            let inside = DesignInside { document: d.to_json()?, picture: picture()? };
            write_threemf(&parts(), &credit(d, created), small.as_deref(), Some(&inside))?
        }
    })
}

/// Why there is no file.
#[derive(Debug, thiserror::Error)]
pub enum ExportError {
    /// The run gave no solid.
    NoSolid,
    /// Nothing on the bed can be printed.
    EmptyBed,
    /// Two pieces lie on each other.
    Overlap,
    /// A picture could not be drawn.
    NoPicture,
    /// A piece lies too far from the bed.
    Move(#[from] kachel_solid::MoveError),
    /// The picture could not be fetched.
    Picture(#[from] std::io::Error),
    /// From the writer.
    Exchange(#[from] ExchangeError),
    /// The design that goes into a 3MF cannot be written.
    Document(#[from] DocumentError),
}

said!(ExportError: |e| match e {
    ExportError::NoSolid => msg!("no-solid"),
    ExportError::EmptyBed => msg!("empty-bed"),
    ExportError::Overlap => msg!("pieces-overlap"),
    ExportError::NoPicture => msg!("no-picture-drawn"),
    ExportError::Move(e) => msg!("piece-cannot-lie", why = e.message()),
    ExportError::Picture(why) => msg!("picture-missing", why = why.to_string()),
    ExportError::Exchange(e) => e.message(),
    ExportError::Document(e) => e.message(),
});

/// Longer side of a thumbnail, pixels.
const THUMBNAIL_PX: f32 = 512.0;

/// Longer side of a picture to take home, pixels.
const PICTURE_PX: f32 = 1600.0;

/// An SVG without text as PNG on white, as large as a thumbnail.
pub(crate) fn rendered(svg: &str) -> Option<Vec<u8>> {
    rendered_at(svg, THUMBNAIL_PX)
}

fn rendered_at(svg: &str, longest: f32) -> Option<Vec<u8>> {
    use resvg::{tiny_skia, usvg};
    let tree = usvg::Tree::from_str(svg, &usvg::Options::default()).ok()?;
    let scale = longest / tree.size().width().max(tree.size().height());
    let side = |v: f32| {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to `longest`")]
        let px = (v * scale).round().clamp(1.0, longest) as u32;
        px
    };
    let mut pixels = tiny_skia::Pixmap::new(side(tree.size().width()), side(tree.size().height()))?;
    pixels.fill(tiny_skia::Color::WHITE);
    resvg::render(&tree, tiny_skia::Transform::from_scale(scale, scale), &mut pixels.as_mut());
    pixels.encode_png().ok()
}

/// A design out of a 3MF of ours, with its picture; `None` where the file has none inside.
pub fn import_design(bytes: &[u8]) -> Result<Option<(Document, Vec<u8>)>, ImportError> {
    let Some(inside) = read_design(bytes)? else { return Ok(None) };
    let document = Document::from_json(&inside.document)?;
    if let Some(why) = document.refusal() {
        return Err(DocumentError::Damaged(why).into());
    }
    if Engine::hash(&inside.picture) != document.artwork.hash {
        return Err(ImportError::OtherPicture);
    }
    Ok(Some((document, inside.picture)))
}

/// Why a design could not be read out of a file.
#[derive(Debug, thiserror::Error)]
pub enum ImportError {
    /// From the reader.
    Exchange(#[from] ExchangeError),
    /// The document is not usable.
    Document(#[from] DocumentError),
    /// The picture is not the one of the document.
    OtherPicture,
}

said!(ImportError: |e| match e {
    ImportError::Exchange(e) => e.message(),
    ImportError::Document(e) => e.message(),
    ImportError::OtherPicture => msg!("other-picture"),
});

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
