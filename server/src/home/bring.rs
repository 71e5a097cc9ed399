//! Bringing a shelf: part by part, so that one that cannot be read holds up none of the others.

use super::model::{CONTENTS, Contents, DesignAtHome, FORMAT, Written};
use crate::api::Shop;
use crate::db::Brought;
use crate::problem::ApiError;
use kachel_engine::{Bed, Document, Watch, Workshop, import_design};
use kachel_words::msg;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::fs::File;
use std::io::Read as _;
use std::path::Path;
use zip::ZipArchive;

/// Largest list of contents, picture and 3MF, bytes, unpacked.
const MOST_CONTENTS: u64 = 128 << 20;
const MOST_DOCUMENT: u64 = 64 << 20;
const MOST_PICTURE: u64 = 32 << 20;
const MOST_OBJECT: u64 = 512 << 20;
/// Most designs and beds of a shelf that is brought.
const MOST_WORKS: usize = 20_000;

/// What is brought at a time.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Part {
    /// What the workshop does not have yet.
    Workshop,
    /// A design, by its place.
    Design(usize),
    /// A bed, by its place, with the names that the designs have here.
    Bed(usize, HashMap<String, String>),
}

/// What is in a file, in short.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Outline {
    /// Names for the program and for people of its designs.
    pub designs: Vec<(String, String)>,
    /// Names of its beds for people.
    pub beds: Vec<String>,
}

impl Outline {
    /// All parts in their order, each with what it is called here: a design by its name for the program.
    pub(crate) fn parts(&self) -> Vec<(String, Part)> {
        let designs = self.designs.iter().enumerate().map(|(n, (id, _))| (id.clone(), Part::Design(n)));
        let beds = self.beds.iter().enumerate().map(|(n, name)| (name.clone(), Part::Bed(n, HashMap::new())));
        std::iter::once((msg!("the-workshop").to_string(), Part::Workshop)).chain(designs).chain(beds).collect()
    }

    /// What a person calls it.
    pub(crate) fn name_of(&self, what: &str) -> String {
        self.designs.iter().find(|(id, _)| id == what).map_or(what, |(_, name)| name).to_string()
    }
}

/// What is in a file.
pub(crate) fn open_outline(file: &Path) -> Result<Outline, ApiError> {
    let contents = open_contents(file)?;
    let name = |document: &serde_json::Value| document["name"].as_str().unwrap_or_default().to_string();
    let design = |d: &DesignAtHome| {
        let called = match &d.document {
            Some(Written::Here(document)) => name(document),
            Some(Written::Entry(_)) => d.name.clone(),
            None => d.id.clone(),
        };
        (d.id.clone(), called)
    };
    Ok(Outline {
        designs: contents.designs.iter().map(design).collect(),
        beds: contents.beds.iter().map(|b| name(&b.document)).collect(),
    })
}

fn open(file: &Path) -> Result<ZipArchive<File>, ApiError> {
    let file = File::open(file).map_err(|_| ApiError::NoShelfInside(msg!("file-gone")))?;
    ZipArchive::new(file).map_err(|_| ApiError::NoShelfInside(msg!("no-zip")))
}

fn entry(zip: &mut ZipArchive<File>, name: &str, most: u64) -> Result<Vec<u8>, ApiError> {
    let found = zip
        .by_name(name)
        .map_err(|e| ApiError::NoShelfInside(msg!("part-unread", name = name, why = e.to_string())))?;
    let mut bytes = Vec::new();
    let read = found.take(most + 1).read_to_end(&mut bytes);
    read.map_err(|e| ApiError::NoShelfInside(msg!("part-unread", name = name, why = e.to_string())))?;
    if bytes.len() as u64 > most {
        return Err(ApiError::NoShelfInside(msg!("part-larger-than-mb", name = name, most = most >> 20)));
    }
    Ok(bytes)
}

/// What is in a file. A ZIP of 3MF files alone is a shelf, too.
fn open_contents(file: &Path) -> Result<Contents, ApiError> {
    let mut zip = open(file)?;
    if zip.index_for_name(CONTENTS).is_none() {
        let design = |name: &str| DesignAtHome {
            id: name.into(),
            name: String::new(),
            document: None,
            picture: None,
            object: Some(name.into()),
            labels: vec![],
            snapshots: vec![],
        };
        let names = zip.file_names().flatten().filter(|n| n.to_lowercase().ends_with(".3mf"));
        let designs: Vec<_> = names.map(|n| design(&n)).collect();
        if designs.is_empty() {
            return Err(ApiError::NoShelfInside(msg!("no-shelf-no-3mf")));
        }
        return counted(Contents { kachel_shelf: FORMAT, workshop: None, designs, beds: vec![] });
    }
    let bytes = entry(&mut zip, CONTENTS, MOST_CONTENTS)?;
    let contents: Contents = serde_json::from_slice(&bytes)
        .map_err(|e| ApiError::NoShelfInside(msg!("part-unread", name = CONTENTS, why = e.to_string())))?;
    if contents.kachel_shelf > FORMAT {
        return Err(ApiError::NoShelfInside(msg!("made-by-newer")));
    }
    counted(contents)
}

fn counted(c: Contents) -> Result<Contents, ApiError> {
    match c.designs.len() + c.beds.len() {
        n if n > MOST_WORKS => Err(ApiError::NoShelfInside(msg!("too-many-works", n = n, most = MOST_WORKS))),
        _ => Ok(c),
    }
}

impl Part {
    /// With the names that designs have here.
    pub(crate) fn with_names(self, here: &HashMap<String, String>) -> Self {
        match self {
            Self::Bed(n, _) => Self::Bed(n, here.clone()),
            other => other,
        }
    }

    /// Puts it on the shelf.
    pub(crate) fn bring(&self, shop: &Shop, file: &Path, watch: &Watch) -> Result<Brought, ApiError> {
        let contents = open_contents(file)?;
        let missing = || ApiError::Malformed(msg!("no-such-part"));
        match self {
            Self::Workshop => workshop(shop, contents.workshop),
            Self::Design(n) => design(shop, file, contents.designs.get(*n).ok_or_else(missing)?, watch),
            Self::Bed(n, ids) => {
                let given = contents.beds.into_iter().nth(*n).ok_or_else(missing)?;
                let mut bed = Bed::from_json(&given.document.to_string()).map_err(crate::db::DbError::from)?;
                for piece in &mut bed.pieces {
                    if let Some(here) = ids.get(&piece.design) {
                        piece.design.clone_from(here);
                    }
                }
                bed.check().map_err(|e| ApiError::NoShelfInside(e.message()))?;
                Ok(shop.db.beds().bring(&given.id, &bed, &given.labels)?)
            }
        }
    }
}

/// Adds what is not there yet; of an untouched workshop nothing is kept.
fn workshop(shop: &Shop, given: Option<Workshop>) -> Result<Brought, ApiError> {
    let (version, own) = shop.db.workshop()?;
    let Some(given) = given else { return Ok(Brought::WasThere(String::new())) };
    let merged = if version == 0 { given } else { own.clone().joined(given) };
    if merged == own {
        return Ok(Brought::WasThere(String::new()));
    }
    merged.check()?;
    shop.db.set_workshop(version, &merged)?;
    shop.engine.set_workshop(merged);
    Ok(Brought::New(String::new()))
}

fn design(shop: &Shop, file: &Path, given: &DesignAtHome, watch: &Watch) -> Result<Brought, ApiError> {
    let mut zip = open(file)?;
    let (document, picture) = match (&given.document, &given.picture, &given.object) {
        (Some(document), Some(name), _) => (read(&mut zip, document)?, entry(&mut zip, name, MOST_PICTURE)?),
        (_, _, Some(object)) => {
            let bytes = entry(&mut zip, object, MOST_OBJECT)?;
            import_design(&bytes)?.ok_or(ApiError::NoDesignInside)?
        }
        _ => return Err(ApiError::NoDesignInside),
    };
    if kachel_engine::Engine::hash(&picture) != document.artwork.hash {
        return Err(ApiError::NoShelfInside(msg!("not-its-picture")));
    }
    let mut kept = Vec::new();
    for s in &given.snapshots {
        let own = read(&mut zip, &s.document)?;
        let picture = entry(&mut zip, &s.picture, MOST_PICTURE)?;
        kept.push((s.name.clone(), s.created_at.clone(), own, picture));
    }
    // What cannot be computed without harm is not put on the shelf, where every visit would compute it again.
    shop.engine.run(&document, &|| Ok(picture.clone()), watch);
    watch.check().map_err(kachel_engine::EngineError::from)?;
    Ok(shop.db.designs().bring_design(&given.id, (&document, &picture), &given.labels, &kept)?)
}

fn read(zip: &mut ZipArchive<File>, document: &Written) -> Result<Document, ApiError> {
    let text = match document {
        Written::Entry(name) => String::from_utf8_lossy(&entry(zip, name, MOST_DOCUMENT)?).into_owned(),
        Written::Here(document) => document.to_string(),
    };
    Ok(Document::from_json(&text).map_err(crate::db::DbError::from)?)
}
