//! Taking the shelf home.

use super::model::{BedAtHome, CONTENTS, Contents, DesignAtHome, FORMAT, SnapshotAtHome, Written, picture_name};
use crate::db::{Db, DbError, Shelved, Stored};
use kachel_engine::{Bed, Document, file_name};
use kachel_words::msg;
use std::collections::BTreeSet;
use std::fs::File;
use std::io::Write;
use zip::CompressionMethod;
use zip::write::{SimpleFileOptions, ZipWriter};

/// The file that is taken home, or brought, cannot be written or read.
pub(crate) fn failed(e: &dyn std::fmt::Display) -> DbError {
    DbError::Other(msg!("file-not-written", why = e.to_string()).to_string())
}

/// The ZIP, and which pictures are in it.
struct Packer<'a> {
    db: &'a Db,
    zip: ZipWriter<&'a mut File>,
    pictures: BTreeSet<String>,
}

impl Packer<'_> {
    fn put(&mut self, name: &str, bytes: &[u8], how: CompressionMethod) -> Result<(), DbError> {
        let how = SimpleFileOptions::default().compression_method(how).large_file(true);
        self.zip.start_file(name, how).map_err(|e| failed(&e))?;
        self.zip.write_all(bytes).map_err(|e| failed(&e))
    }

    /// The name of a document's picture, which is put in once.
    fn picture(&mut self, d: &Document) -> Result<String, DbError> {
        let name = picture_name(d);
        if self.pictures.insert(name.clone()) {
            // Compressed already, all but the rarest.
            self.put(&name, &self.db.picture(&d.artwork.hash)?, CompressionMethod::Stored)?;
        }
        Ok(name)
    }

    fn document(&mut self, name: String, d: &Document) -> Result<Written, DbError> {
        self.put(&name, d.to_json()?.as_bytes(), CompressionMethod::Deflated)?;
        Ok(Written::Entry(name))
    }

    fn snapshots(&mut self, id: &str) -> Result<Vec<SnapshotAtHome>, DbError> {
        let mut all = Vec::new();
        for listed in self.db.snapshots(id)?.into_iter().rev().filter(|s| s.recipe.is_ok()) {
            let kept = self.db.snapshot(id, &listed.id)?;
            let picture = self.picture(&kept.document)?;
            let document = self.document(format!("documents/{id} {}.json", listed.id), &kept.document)?;
            all.push(SnapshotAtHome { name: kept.name, created_at: kept.created_at, document, picture });
        }
        Ok(all)
    }
}

/// Writes all that can be read into a file. `object` gives a design's 3MF, or none where it has no object.
pub(crate) fn take(
    db: &Db,
    file: &mut File,
    mut object: impl FnMut(&str) -> Result<Option<Vec<u8>>, DbError>,
) -> Result<(), DbError> {
    let mut packer = Packer { db, zip: ZipWriter::new(file), pictures: BTreeSet::new() };
    let mut designs = Vec::new();
    // The oldest first, so that they come back in their order.
    let sound = db.designs().list()?.into_iter().rev().filter_map(Shelved::sound);
    for (n, stored) in sound.enumerate() {
        let d = &stored.document;
        let snapshots = packer.snapshots(&stored.id)?;
        let made = object(&stored.id)?;
        let name = made.as_ref().map(|_| format!("designs/{:04} {}", n + 1, file_name(&d.name, "3mf")));
        if let (Some(name), Some(bytes)) = (&name, &made) {
            // A ZIP itself.
            packer.put(name, bytes, CompressionMethod::Stored)?;
        }
        let picture = Some(packer.picture(d)?);
        let document = Some(packer.document(format!("documents/{}.json", stored.id), d)?);
        designs.push(DesignAtHome {
            id: stored.id,
            name: stored.document.name,
            document,
            picture,
            object: name,
            labels: stored.labels,
            snapshots,
        });
    }
    let bed = |b: Stored<Bed>| {
        let document = serde_json::to_value(&b.document).map_err(|e| failed(&e))?;
        Ok::<_, DbError>(BedAtHome { id: b.id, document, labels: b.labels })
    };
    let beds = db.beds().list()?.into_iter().rev().filter_map(Shelved::sound).map(bed).collect::<Result<_, _>>()?;
    let contents = Contents { kachel_shelf: FORMAT, workshop: Some(db.workshop()?.1), designs, beds };
    let text = serde_json::to_vec_pretty(&contents).map_err(|e| failed(&e))?;
    packer.put(CONTENTS, &text, CompressionMethod::Deflated)?;
    packer.zip.finish().map_err(|e| failed(&e))?.flush().map_err(|e| failed(&e))
}
