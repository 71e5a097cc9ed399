//! What files are called.

use kachel_words::{msg, said};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Most characters of a pattern.
const MOST: usize = 80;

/// What stands in braces.
const WORDS: [&str; 4] = ["design", "recipe", "width", "height"];

/// A pattern for the names of files, such as `{design} {recipe} {width}`.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
#[ts(export)]
pub struct FileNames(pub String);

impl Default for FileNames {
    fn default() -> Self {
        Self("{design}".into())
    }
}

/// What a file is of.
#[derive(Clone, Copy, Debug)]
pub struct Named<'a> {
    /// The design's name.
    pub design: &'a str,
    /// The recipe's label.
    pub recipe: &'a str,
    /// Width and height of the object in plan with their unit, such as `96 mm`; empty before there is one.
    pub size: [&'a str; 2],
}

/// A pattern that names no file.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum FileNamesError {
    /// Too short or too long.
    Length,
    /// Unknown words in braces, or a brace alone.
    Unknown(String),
}

said!(FileNamesError: |e| match e {
    FileNamesError::Length => msg!("file-name-length", most = MOST),
    FileNamesError::Unknown(word) => msg!("no-file-name-word", word = word),
});

impl FileNames {
    /// The name of a file, without its extension; for the program to clean.
    pub fn of(&self, named: Named<'_>) -> Result<String, FileNamesError> {
        if !(1..=MOST).contains(&self.0.trim().chars().count()) {
            return Err(FileNamesError::Length);
        }
        let mut out = String::new();
        let mut rest = self.0.as_str();
        while let Some((before, after)) = rest.split_once('{') {
            let (word, behind) = after.split_once('}').ok_or_else(|| FileNamesError::Unknown(after.to_string()))?;
            out.push_str(before);
            out.push_str(match WORDS.iter().position(|w| *w == word.trim()) {
                Some(0) => named.design,
                Some(1) => named.recipe,
                Some(k @ (2 | 3)) => named.size[k - 2],
                _ => return Err(FileNamesError::Unknown(word.to_string())),
            });
            rest = behind;
        }
        out.push_str(rest);
        Ok(out)
    }

    /// Refuses what names no file.
    pub fn check(&self) -> Result<(), FileNamesError> {
        self.of(Named { design: "", recipe: "", size: ["", ""] }).map(|_| ())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn patterns_are_filled_and_nonsense_says_what_there_is() {
        let named = Named { design: "Hedgehog", recipe: "Coaster", size: ["80 mm", "75 mm"] };
        let of = |pattern: &str| FileNames(pattern.into()).of(named);
        assert_eq!(FileNames::default().of(named).unwrap(), "Hedgehog");
        assert_eq!(of("{recipe} {design}, { width } by {height}").unwrap(), "Coaster Hedgehog, 80 mm by 75 mm");
        assert_eq!(of("spring fair").unwrap(), "spring fair");
        assert_eq!(of("{colour}"), Err(FileNamesError::Unknown("colour".into())));
        assert!(of("{design").unwrap_err().to_string().contains("{design}, {recipe}, {width} and {height} are"));
        assert_eq!(of("  "), Err(FileNamesError::Length));
        assert_eq!(of(&"x".repeat(81)), Err(FileNamesError::Length));
        // A name is not read as a pattern.
        assert_eq!(FileNames::default().of(Named { design: "{recipe}", ..named }).unwrap(), "{recipe}");
    }
}
