//! 3MF, after the 3MF Core Specification 1.3.0 (section numbers from memory): a package (chapter 2) with one model part;
//! `millimeter` as unit and well-known metadata (3.4); one mesh object per part (4.1), under one object of components
//! (4.2) and one build item (3.4.3) when there are several, so that slicers keep them together; base materials with sRGB
//! display colours (5.1); a thumbnail (2.1.2). The design itself travels as further parts of the package, which others
//! leave alone.

use crate::{
    Credit, DesignInside, ExchangeError, MAX_BYTES, MAX_TRIANGLES, Material, NamedMesh, Welder, damaged, mm, unread,
};
use kachel_geom::Pose;
use kachel_solid::Mesh;
use kachel_words::msg;
use quick_xml::escape::escape;
use quick_xml::events::{BytesStart, Event};
use std::collections::HashMap;
use std::fmt::Write as _;
use std::io::{Cursor, Read};

const FORMAT: &str = "3MF";
const CORE: &str = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02";
const TYPES_HEAD: &str = r#"<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
 <Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
 <Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
"#;
const RELATIONS_HEAD: &str = r#"<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
 <Relationship Id="model" Target="/3D/3dmodel.model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
"#;
const THUMBNAIL_TYPE: &str = "http://schemas.openxmlformats.org/package/2006/relationships/metadata/thumbnail";
const THUMBNAIL: &str = "Metadata/thumbnail.png";
const DESIGN: &str = "Kachel/design.json";
const PICTURE: &str = "Kachel/picture.bin";
/// Largest design and picture that are read out of a package, bytes.
const MAX_DESIGN: u64 = 32 << 20;
const MODEL: &str = "3D/3dmodel.model";
/// Components within components that are followed.
const MAX_DEPTH: usize = 8;
/// Objects and components that are visited.
const MAX_COMPONENTS: usize = 10_000;

/// Writes the parts as one model that lies at the origin's corner of the bed, with a thumbnail (PNG) and the design that
/// it was made from where they are given.
pub fn write_threemf(
    parts: &[NamedMesh],
    credit: &Credit,
    thumbnail: Option<&[u8]>,
    design: Option<&DesignInside>,
) -> Result<Vec<u8>, ExchangeError> {
    let low = |k: usize| parts.iter().map(|p| p.mesh.mesh().extent().0[k]).fold(f64::INFINITY, f64::min);
    let (x, y, z) = (-low(0) + 0.0, -low(1) + 0.0, -low(2) + 0.0);
    let object = ObjectOnBed { name: credit.title.clone(), parts: parts.to_vec() };
    let model = model(&[object], &[(0, [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, x, y, z])], credit);
    package(&model, thumbnail, design)
}

/// An object that lies on a bed once or several times.
#[derive(Clone, Debug)]
pub struct ObjectOnBed {
    /// Its name.
    pub name: String,
    /// Its parts.
    pub parts: Vec<NamedMesh>,
}

/// Writes a bed: each object once, and one build item for each place where it lies. The origin is the bed's front left corner.
pub fn write_threemf_bed(
    objects: &[ObjectOnBed],
    items: &[(usize, Pose)],
    credit: &Credit,
    thumbnail: Option<&[u8]>,
) -> Result<Vec<u8>, ExchangeError> {
    let item = |(object, pose): &(usize, Pose)| {
        let [c, s] = pose.turn();
        (*object, [c, s, 0.0, -s + 0.0, c, 0.0, 0.0, 0.0, 1.0, pose.x, pose.y, 0.0])
    };
    let items: Vec<(usize, Transform)> = items.iter().map(item).collect();
    package(&model(objects, &items, credit), thumbnail, None)
}

fn package(model: &str, thumbnail: Option<&[u8]>, design: Option<&DesignInside>) -> Result<Vec<u8>, ExchangeError> {
    let (mut types, mut relations) = (TYPES_HEAD.to_string(), RELATIONS_HEAD.to_string());
    let mut files: Vec<(&str, &[u8])> = vec![(MODEL, model.as_bytes())];
    if let Some(png) = thumbnail {
        types.push_str(" <Default Extension=\"png\" ContentType=\"image/png\"/>\n");
        let _ =
            writeln!(relations, " <Relationship Id=\"thumbnail\" Target=\"/{THUMBNAIL}\" Type=\"{THUMBNAIL_TYPE}\"/>");
        files.push((THUMBNAIL, png));
    }
    if let Some(design) = design {
        types.push_str(" <Default Extension=\"json\" ContentType=\"application/json\"/>\n");
        types.push_str(" <Default Extension=\"bin\" ContentType=\"application/octet-stream\"/>\n");
        let _ = writeln!(relations, " <Relationship Id=\"design\" Target=\"/{DESIGN}\" Type=\"urn:kachel:design\"/>");
        let _ =
            writeln!(relations, " <Relationship Id=\"picture\" Target=\"/{PICTURE}\" Type=\"urn:kachel:picture\"/>");
        files.push((DESIGN, design.document.as_bytes()));
        files.push((PICTURE, &design.picture));
    }
    types.push_str("</Types>\n");
    relations.push_str("</Relationships>\n");
    files.insert(0, ("_rels/.rels", relations.as_bytes()));
    files.insert(0, ("[Content_Types].xml", types.as_bytes()));
    crate::zipped(&files)
}

/// The design inside a package of ours; `None` where there is none. At most 32 MB of each part are unpacked, and names of
/// parts are never used as paths.
pub fn read_design(bytes: &[u8]) -> Result<Option<DesignInside>, ExchangeError> {
    let mut zip = zip::ZipArchive::new(Cursor::new(bytes)).map_err(|e| unread(FORMAT, e))?;
    let mut part = |name: &str| -> Result<Option<Vec<u8>>, ExchangeError> {
        let file = match zip.by_name(name) {
            Ok(file) => file,
            Err(zip::result::ZipError::FileNotFound) => return Ok(None),
            Err(e) => return Err(unread(FORMAT, e)),
        };
        let mut out = Vec::new();
        file.take(MAX_DESIGN + 1).read_to_end(&mut out).map_err(|e| unread(FORMAT, e))?;
        if out.len() as u64 > MAX_DESIGN {
            return Err(ExchangeError::TooLarge {
                what: "too-many-file-bytes",
                found: out.len() as u64,
                limit: MAX_DESIGN,
            });
        }
        Ok(Some(out))
    };
    let (Some(document), Some(picture)) = (part(DESIGN)?, part(PICTURE)?) else { return Ok(None) };
    let document = String::from_utf8(document).map_err(|e| unread(FORMAT, e))?;
    Ok(Some(DesignInside { document, picture }))
}

/// What is known of the two, with a comma where both are.
fn joined(words: &[&str]) -> String {
    words.iter().filter(|w| !w.is_empty()).copied().collect::<Vec<_>>().join(", ")
}

fn model(objects: &[ObjectOnBed], items: &[(usize, Transform)], credit: &Credit) -> String {
    let mut out = format!(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<model unit=\"millimeter\" xml:lang=\"en-US\" xmlns=\"{CORE}\">\n"
    );
    let version = concat!("Kachel ", env!("CARGO_PKG_VERSION"));
    let created = credit.created.as_deref().unwrap_or_default();
    for (name, value) in [
        ("Title", credit.title.as_str()),
        ("Designer", &credit.designer),
        ("Copyright", &joined(&[&credit.designer, &credit.source])),
        ("LicenseTerms", &joined(&[&credit.licence, &credit.note])),
        ("Application", version),
        ("CreationDate", created),
    ] {
        if !value.is_empty() {
            let _ = writeln!(out, " <metadata name=\"{name}\">{}</metadata>", escape(value));
        }
    }
    out.push_str(" <resources>\n");
    // Each material once; parts name theirs by its place.
    let mut materials: Vec<&Material> = Vec::new();
    for m in objects.iter().flat_map(|o| &o.parts).filter_map(|p| p.material.as_ref()) {
        if !materials.contains(&m) {
            materials.push(m);
        }
    }
    // Each object takes as many numbers as it has parts, and one more for the whole.
    let base = objects.iter().map(|o| o.parts.len() + 1).sum::<usize>() + 1;
    if !materials.is_empty() {
        let _ = writeln!(out, "  <basematerials id=\"{base}\">");
        for m in &materials {
            let [r, g, b] = m.colour;
            let name = escape(&m.name);
            let _ = writeln!(out, "   <base name=\"{name}\" displaycolor=\"#{r:02X}{g:02X}{b:02X}\"/>");
        }
        out.push_str("  </basematerials>\n");
    }
    let mut wholes = Vec::with_capacity(objects.len());
    let mut first = 1;
    for o in objects {
        for (id, part) in (first..).zip(&o.parts) {
            let place = part.material.as_ref().and_then(|m| materials.iter().position(|k| *k == m));
            object(&mut out, id, part, place.map(|p| (base, p)));
        }
        let group = first + o.parts.len();
        if o.parts.len() > 1 {
            let _ =
                writeln!(out, "  <object id=\"{group}\" type=\"model\" name=\"{}\">\n   <components>", escape(&o.name));
            for id in first..group {
                let _ = writeln!(out, "    <component objectid=\"{id}\"/>");
            }
            out.push_str("   </components>\n  </object>\n");
        }
        wholes.push(if o.parts.len() > 1 { group } else { first });
        first = group + 1;
    }
    out.push_str(" </resources>\n <build>\n");
    for (o, transform) in items {
        let numbers = transform.map(|v| v.to_string()).join(" ");
        let _ = writeln!(out, "  <item objectid=\"{}\" transform=\"{numbers}\"/>", wholes[*o]);
    }
    out.push_str(" </build>\n</model>\n");
    out
}

fn object(out: &mut String, id: usize, part: &NamedMesh, material: Option<(usize, usize)>) {
    let mesh = part.mesh.mesh();
    let material = material.map(|(base, place)| format!(" pid=\"{base}\" pindex=\"{place}\"")).unwrap_or_default();
    let _ = writeln!(
        out,
        "  <object id=\"{id}\" type=\"model\" name=\"{}\"{material}>\n   <mesh>\n    <vertices>",
        escape(&part.name)
    );
    for v in &mesh.vertices {
        let [x, y, z] = v.map(mm);
        let _ = writeln!(out, "     <vertex x=\"{x}\" y=\"{y}\" z=\"{z}\"/>");
    }
    out.push_str("    </vertices>\n    <triangles>\n");
    for [a, b, c] in &mesh.triangles {
        let _ = writeln!(out, "     <triangle v1=\"{a}\" v2=\"{b}\" v3=\"{c}\"/>");
    }
    out.push_str("    </triangles>\n   </mesh>\n  </object>\n");
}

/// One mesh as it lies on the bed.
#[derive(Clone, Debug)]
pub struct ReadPart {
    /// Its name, or empty.
    pub name: String,
    /// Its mesh, rounded to the grid.
    pub mesh: Mesh,
}

#[derive(Default)]
struct Object {
    name: String,
    vertices: Vec<[f64; 3]>,
    triangles: Vec<[usize; 3]>,
    components: Vec<(u32, Transform)>,
}

/// Rows of a 3MF transform: x' = x m00 + y m10 + z m20 + m30, and so on.
type Transform = [f64; 12];
const IDENTITY: Transform = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0];

fn moved(p: [f64; 3], m: &Transform) -> [f64; 3] {
    std::array::from_fn(|k| p[0] * m[k] + p[1] * m[3 + k] + p[2] * m[6 + k] + m[9 + k])
}

/// Reads what a 3MF puts on the bed. Only the model part is unpacked, at most [`MAX_BYTES`] of it; names of other
/// package parts are never used as paths.
pub fn read_threemf(bytes: &[u8]) -> Result<Vec<ReadPart>, ExchangeError> {
    let mut zip = zip::ZipArchive::new(Cursor::new(bytes)).map_err(|e| unread(FORMAT, e))?;
    let mut text = String::new();
    let file = zip.by_name(MODEL).map_err(|e| unread(FORMAT, e))?;
    file.take(MAX_BYTES as u64 + 1).read_to_string(&mut text).map_err(|e| unread(FORMAT, e))?;
    if text.len() > MAX_BYTES {
        return Err(ExchangeError::TooLarge {
            what: "too-many-file-bytes",
            found: text.len() as u64,
            limit: MAX_BYTES as u64,
        });
    }
    let (objects, items, scale) = parse(&text)?;
    let mut found = Found::default();
    for (id, place) in items {
        collect(&objects, id, &[place], scale, &mut found)?;
    }
    Ok(found.parts)
}

type Parsed = (HashMap<u32, Object>, Vec<(u32, Transform)>, f64);

fn parse(text: &str) -> Result<Parsed, ExchangeError> {
    let mut reader = quick_xml::Reader::from_str(text);
    let (mut objects, mut items, mut scale) = (HashMap::new(), Vec::new(), 1.0);
    let mut current: Option<(u32, Object)> = None;
    loop {
        let event = reader.read_event().map_err(|e| unread(FORMAT, e))?;
        match &event {
            Event::Start(e) | Event::Empty(e) => {
                let get = |name| attribute(e, name);
                match (e.local_name().as_ref(), current.as_mut()) {
                    ("model", _) => scale = unit(get("unit").as_deref().unwrap_or("millimeter"))?,
                    ("object", _) => {
                        let object = Object { name: get("name").unwrap_or_default(), ..Object::default() };
                        current = Some((number(e, "id")?, object));
                    }
                    ("vertex", Some((_, o))) => o.vertices.push([number(e, "x")?, number(e, "y")?, number(e, "z")?]),
                    ("triangle", Some((_, o))) => {
                        o.triangles.push([number(e, "v1")?, number(e, "v2")?, number(e, "v3")?])
                    }
                    ("component", Some((_, o))) => o.components.push((number(e, "objectid")?, transform(e)?)),
                    ("item", _) => items.push((number(e, "objectid")?, transform(e)?)),
                    _ => {}
                }
            }
            Event::End(e) if e.local_name().as_ref() == "object" => objects.extend(current.take()),
            Event::Eof => return Ok((objects, items, scale)),
            _ => {}
        }
    }
}

fn attribute(e: &BytesStart<'_>, name: &str) -> Option<String> {
    let a = e.try_get_attribute(name).ok()??;
    quick_xml::escape::unescape(&a.value).ok().map(std::borrow::Cow::into_owned)
}

fn number<T: std::str::FromStr>(e: &BytesStart<'_>, name: &str) -> Result<T, ExchangeError> {
    let bad = || {
        let tag = e.local_name().as_ref().to_string();
        damaged(FORMAT, msg!("no-valid-attribute", tag = tag, name = name))
    };
    attribute(e, name).and_then(|v| v.trim().parse().ok()).ok_or_else(bad)
}

fn transform(e: &BytesStart<'_>) -> Result<Transform, ExchangeError> {
    let Some(text) = attribute(e, "transform") else { return Ok(IDENTITY) };
    let numbers: Vec<f64> = text.split_ascii_whitespace().map_while(|w| w.parse().ok()).collect();
    Transform::try_from(numbers).map_err(|_| damaged(FORMAT, msg!("no-transform")))
}

/// Section 3.4, table of units.
fn unit(name: &str) -> Result<f64, ExchangeError> {
    Ok(match name {
        "micron" => 1e-3,
        "millimeter" => 1.0,
        "centimeter" => 10.0,
        "inch" => 25.4,
        "foot" => 304.8,
        "meter" => 1000.0,
        _ => return Err(damaged(FORMAT, msg!("unknown-file-unit", typed = name))),
    })
}

/// What is found on the way through the components.
#[derive(Default)]
struct Found {
    parts: Vec<ReadPart>,
    visits: usize,
    triangles: usize,
}

fn collect(
    objects: &HashMap<u32, Object>,
    id: u32,
    places: &[Transform],
    scale: f64,
    found: &mut Found,
) -> Result<(), ExchangeError> {
    // Counted as they are met: components that hold nothing but components double with each level.
    found.visits += 1;
    let object = objects.get(&id).ok_or_else(|| damaged(FORMAT, msg!("no-such-object", id = id)))?;
    if places.len() > MAX_DEPTH || found.visits > MAX_COMPONENTS {
        return Err(damaged(FORMAT, msg!("too-many-components")));
    }
    for (component, place) in &object.components {
        let inner: Vec<Transform> = std::iter::once(*place).chain(places.iter().copied()).collect();
        collect(objects, *component, &inner, scale, found)?;
    }
    if !object.triangles.is_empty() {
        found.triangles += object.triangles.len();
        if found.triangles > MAX_TRIANGLES {
            return Err(damaged(FORMAT, msg!("stands-for-too-many")));
        }
        let mut welder = Welder::default();
        let at = |v: usize| {
            let p = object.vertices.get(v).ok_or_else(|| damaged(FORMAT, msg!("no-such-vertex", n = v)))?;
            Ok(places.iter().fold(*p, moved).map(|c| c * scale))
        };
        for &[a, b, c] in &object.triangles {
            welder.triangle([at(a)?, at(b)?, at(c)?])?;
        }
        found.parts.push(ReadPart { name: object.name.clone(), mesh: welder.mesh });
    }
    Ok(())
}
