//! House measures: those of a recipe that a workshop keeps under a name.

use crate::document::Document;
use crate::edit::{Edit, TierEdit};
use kachel_tiers::{MeasureError, RecipeKind};
use kachel_words::{Message, msg, said};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use ts_rs::TS;

/// Most house measures of a workshop.
pub const MAX_HOUSES: usize = 100;
/// Largest file of house measures, bytes.
pub const MAX_HOUSE_FILE: usize = 1 << 20;
/// Longest name, characters.
const MAX_NAME: usize = 60;
/// What a file of them says that it is.
const FORMAT: &str = "kachel house measures";

/// A recipe with measures, under a name.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct House {
    /// What the maker calls them, such as 'My thin cutter'.
    pub name: String,
    /// The recipe.
    pub recipe: RecipeKind,
    /// Measures that differ from the recipe's defaults, mm.
    #[ts(type = "Record<string, number>")]
    pub measures: BTreeMap<String, f64>,
}

/// Why house measures are refused.
#[derive(Debug, thiserror::Error)]
pub enum HouseError {
    /// No name, or too long a one.
    Name,
    /// Two of one name.
    Twice(String),
    /// Too many of them.
    TooMany,
    /// The recipe has no such measure, or not that value.
    Measure {
        /// Which house measures.
        name: String,
        /// What is the matter.
        why: MeasureError,
    },
    /// What is no file of house measures.
    NoFile(Message),
}

said!(HouseError: |e| match e {
    HouseError::Name => msg!("house-name", most = MAX_NAME),
    HouseError::Twice(name) => msg!("house-twice", name = name),
    HouseError::TooMany => msg!("too-many-houses", most = MAX_HOUSES),
    HouseError::Measure { name, why } => msg!("house-measure", name = name, why = why.message()),
    HouseError::NoFile(why) => msg!("no-house-file", why = why.clone()),
});

/// A file of house measures.
#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct HouseFile {
    format: String,
    houses: Vec<House>,
}

impl House {
    /// The measures of a design, under a name.
    pub fn of(name: &str, d: &Document) -> Self {
        Self { name: name.trim().into(), recipe: d.recipe, measures: d.measures.clone() }
    }

    /// The edit that gives them to a design.
    pub fn edit(&self) -> Edit {
        TierEdit::SetMeasures { recipe: self.recipe, measures: self.measures.clone() }.into()
    }

    /// By what names are told apart: capitals and room round them do not count.
    pub(crate) fn key(name: &str) -> String {
        name.trim().to_lowercase()
    }

    fn check(&self) -> Result<(), HouseError> {
        if !(1..=MAX_NAME).contains(&self.name.trim().chars().count()) {
            return Err(HouseError::Name);
        }
        let recipe = self.recipe.recipe();
        let wrong = |why| HouseError::Measure { name: self.name.clone(), why };
        self.measures.iter().try_for_each(|(name, value)| recipe.measure(name)?.check(*value)).map_err(wrong)
    }
}

/// Refuses house measures that cannot be used.
pub(crate) fn check_houses(all: &[House]) -> Result<(), HouseError> {
    if all.len() > MAX_HOUSES {
        return Err(HouseError::TooMany);
    }
    let mut names = BTreeSet::new();
    all.iter().try_for_each(|h| {
        h.check()?;
        if names.insert(House::key(&h.name)) { Ok(()) } else { Err(HouseError::Twice(h.name.clone())) }
    })
}

/// House measures as a file.
pub fn write_houses(all: &[House]) -> Result<String, HouseError> {
    let file = HouseFile { format: FORMAT.into(), houses: all.to_vec() };
    serde_json::to_string_pretty(&file).map_err(|e| HouseError::NoFile(Message::quoted(e)))
}

/// House measures out of a file.
pub fn read_houses(bytes: &[u8]) -> Result<Vec<House>, HouseError> {
    if bytes.len() > MAX_HOUSE_FILE {
        return Err(HouseError::NoFile(msg!("file-too-large")));
    }
    let file: HouseFile = serde_json::from_slice(bytes).map_err(|e| HouseError::NoFile(Message::quoted(e)))?;
    if file.format != FORMAT {
        return Err(HouseError::NoFile(msg!("says-it-is", format = file.format)));
    }
    check_houses(&file.houses)?;
    Ok(file.houses)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn thin() -> House {
        let measures = [("wall-thickness", 0.8), ("flange-width", 2.5)].map(|(n, v)| (n.to_string(), v));
        House { name: "My thin cutter".into(), recipe: RecipeKind::Cutter, measures: measures.into() }
    }

    #[test]
    fn a_file_holds_what_was_written() {
        let all = vec![thin(), House { name: "Thick".into(), measures: BTreeMap::new(), ..thin() }];
        assert_eq!(read_houses(write_houses(&all).unwrap().as_bytes()).unwrap(), all);
    }

    #[test]
    fn what_cannot_be_used_is_refused_with_its_name() {
        let with = |change: &dyn Fn(&mut House)| {
            let mut h = thin();
            change(&mut h);
            check_houses(&[h]).unwrap_err().to_string()
        };
        assert!(with(&|h| h.name = "  ".into()).contains("1 to 60"));
        assert!(with(&|h| _ = h.measures.insert("wall-thickness".into(), 99.0)).starts_with("'My thin cutter': "));
        assert!(with(&|h| _ = h.measures.insert("relief".into(), 1.0)).contains("relief"));
        assert!(with(&|h| _ = h.measures.insert("wall-thickness".into(), f64::NAN)).contains("My thin cutter"));
        let twice = [thin(), House { name: " MY THIN CUTTER ".into(), ..thin() }];
        assert!(matches!(check_houses(&twice), Err(HouseError::Twice(_))));
        assert!(matches!(check_houses(&vec![thin(); MAX_HOUSES + 1]), Err(HouseError::TooMany)));
        for bytes in
            [&b"{}"[..], b"not json", br#"{"format":"else","houses":[]}"#, br#"{"format":"kachel house measures"}"#]
        {
            assert!(matches!(read_houses(bytes), Err(HouseError::NoFile(_))));
        }
    }
}
