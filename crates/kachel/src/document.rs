use kachel_artwork::Prepare;
use kachel_outline::{Choice, OutlineEdit, Size};
use kachel_tiers::{MeasureError, Measures, RecipeKind, Unit};
use kachel_trace::TraceSettings;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// The version of documents that this program writes.
pub const VERSION: u32 = 3;
/// Longest name, characters.
pub const MAX_NAME: usize = 120;
/// Most choices of patches.
pub const MAX_CHOICES: usize = 5_000;

/// One saved piece of work: where the picture is, and everything that the maker decided.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Document {
    /// [`VERSION`] when it was written.
    pub version: u32,
    /// What the maker calls it.
    pub name: String,
    /// The picture.
    pub artwork: ArtworkRef,
    /// Whose picture it is.
    pub credit: Credit,
    /// Unit in which lengths are shown.
    pub unit: Unit,
    /// What is done to the picture before it is traced.
    pub prepare: Prepare,
    /// What counts as ink, and how it is followed.
    pub trace: TraceSettings,
    /// Width of all pen lines, mm; each as it was drawn where it is left out.
    pub pen_width: Option<f64>,
    /// Uses that the maker gave to patches.
    pub choices: Vec<Choice>,
    /// What is done to the outline, in this order.
    pub changes: Vec<OutlineEdit>,
    /// How large the edge is.
    pub size: Size,
    /// The rule that makes tiers.
    pub recipe: RecipeKind,
    /// Measures that differ from the recipe's defaults, mm.
    #[ts(type = "Record<string, number>")]
    pub measures: BTreeMap<String, f64>,
}

/// A picture, told by the hash of its bytes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct ArtworkRef {
    /// SHA-256 of the file, hexadecimal.
    pub hash: String,
    /// The name the file came with.
    pub file_name: String,
}

/// Whose picture it is and on what terms; carried into exports.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(deny_unknown_fields, default)]
pub struct Credit {
    /// Who drew or took it.
    pub maker: String,
    /// Where it comes from.
    pub source: String,
    /// Under which licence.
    pub licence: String,
    /// Note of a permission.
    pub note: String,
}

/// Why a stored document cannot be used.
#[derive(Debug, thiserror::Error)]
pub enum DocumentError {
    /// It was written by a newer program.
    #[error("the design was saved by a newer Kachel (version {found}; this one knows {VERSION})")]
    NewerVersion {
        /// Its version.
        found: u64,
    },
    /// It is not a document.
    #[error("the design cannot be read: {0}")]
    Damaged(String),
    /// A measure is out of its range.
    #[error(transparent)]
    Measure(#[from] MeasureError),
}

impl Document {
    /// Reads a document of any version up to [`VERSION`] and brings it up to date.
    pub fn from_json(text: &str) -> Result<Self, DocumentError> {
        let damaged = |e: serde_json::Error| DocumentError::Damaged(e.to_string());
        let mut value: serde_json::Value = serde_json::from_str(text).map_err(damaged)?;
        let version = value.get("version").and_then(serde_json::Value::as_u64).unwrap_or(0);
        match version {
            // One arm a version, each lifting `value` to the next.
            1 => {
                lift_1(&mut value);
                lift_2(&mut value);
            }
            2 => lift_2(&mut value),
            3 => {}
            0 => return Err(DocumentError::Damaged("it states no version".into())),
            found => return Err(DocumentError::NewerVersion { found }),
        }
        value["version"] = VERSION.into();
        let document: Self = serde_json::from_value(value).map_err(damaged)?;
        document.measures()?;
        Ok(document)
    }

    /// The document as text; equal documents give equal text.
    pub fn to_json(&self) -> String {
        serde_json::to_string(self).unwrap_or_default()
    }

    /// All measures of the recipe.
    pub fn measures(&self) -> Result<Measures, MeasureError> {
        Measures::new(self.recipe.recipe(), &self.measures)
    }
}

/// Version 2 knew no changes of the outline.
fn lift_2(value: &mut serde_json::Value) {
    value["changes"] = serde_json::json!([]);
}

/// Version 1 knew neither tools on the picture, nor corners, colours or pen lines; it dropped pinholes like specks.
fn lift_1(value: &mut serde_json::Value) {
    value["prepare"] = serde_json::json!(Prepare::default());
    value["pen_width"] = serde_json::Value::Null;
    let usual = TraceSettings::default();
    if let Some(trace) = value.get_mut("trace") {
        trace["min_gap"] = trace.get("min_area").cloned().unwrap_or_else(|| usual.min_gap.into());
        trace["bend"] = usual.bend.into();
        trace["colours"] = serde_json::json!(usual.colours);
    }
}
