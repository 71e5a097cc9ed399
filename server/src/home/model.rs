//! What `shelf.json` holds.

use kachel_engine::{Document, Workshop};
use serde::{Deserialize, Serialize};

/// Written into each file; a higher one was made by a newer program.
pub(super) const FORMAT: u32 = 1;
pub(super) const CONTENTS: &str = "shelf.json";

/// A shelf.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct Contents {
    pub(crate) kachel_shelf: u32,
    pub(crate) workshop: Option<Workshop>,
    pub(crate) designs: Vec<DesignAtHome>,
    pub(crate) beds: Vec<BedAtHome>,
}

/// A document, as the program writes it, of whatever version.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[serde(untagged)]
pub(crate) enum Written {
    /// By its name in the ZIP: a design is then read without the thousand others.
    Entry(String),
    /// In the list itself.
    Here(serde_json::Value),
}

/// A design of it.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct DesignAtHome {
    /// Its name for the program, by which beds name it.
    pub(crate) id: String,
    /// What people call it.
    #[serde(default)]
    pub(crate) name: String,
    /// Left out where the 3MF holds it.
    pub(crate) document: Option<Written>,
    /// The name of its picture in the ZIP.
    pub(crate) picture: Option<String>,
    /// The name of its 3MF in the ZIP.
    pub(crate) object: Option<String>,
    pub(crate) labels: Vec<String>,
    pub(crate) snapshots: Vec<SnapshotAtHome>,
}

/// A kept state of it.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct SnapshotAtHome {
    pub(crate) name: String,
    pub(crate) created_at: String,
    pub(crate) document: Written,
    pub(crate) picture: String,
}

/// A bed of it.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct BedAtHome {
    pub(crate) id: String,
    pub(crate) document: serde_json::Value,
    pub(crate) labels: Vec<String>,
}

/// The name of a picture in the ZIP.
pub(super) fn picture_name(d: &Document) -> String {
    format!("pictures/{}", d.artwork.hash)
}
