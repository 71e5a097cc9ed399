//! House measures, out of the workshop or out of a file.

use crate::make::read;
use crate::shelf;
use clap::Args;
use kachel_engine::{House, read_houses};
use std::path::{Path, PathBuf};

/// House measures, as they are asked for.
#[derive(Args)]
pub(crate) struct HouseArgs {
    /// House measures with their recipe: a name in the workshop, or a file of one set of them (.json)
    #[arg(long, value_name = "NAME|FILE.json", conflicts_with = "recipe")]
    house: Option<String>,
    /// Where the shelf lies whose workshop has the house measures
    #[arg(long, value_name = "DIR", default_value = "data")]
    data: PathBuf,
}

impl HouseArgs {
    /// Those that are asked for, if any are.
    pub fn house(&self) -> Result<Option<House>, String> {
        self.house.as_ref().map(|asked| house(asked, &self.data)).transpose()
    }
}

/// A file of one, or a name in the workshop that lies in `data`.
fn house(asked: &str, data: &Path) -> Result<House, String> {
    let file = Path::new(asked);
    if file.extension().is_some_and(|e| e.eq_ignore_ascii_case("json")) {
        let all = read_houses(&read(file)?).map_err(|e| format!("{asked}: {e}"))?;
        let count = all.len();
        let [one] = <[House; 1]>::try_from(all)
            .map_err(|_| format!("{asked} holds {count} house measures; --house takes a file of one, or a name"))?;
        return Ok(one);
    }
    let db = shelf::open(data, ", or name a file of house measures")?;
    let (_, workshop) = db.workshop().map_err(|e| format!("the shelf in {} cannot be read: {e}", data.display()))?;
    workshop.house(asked).cloned().ok_or_else(|| {
        let names: Vec<&str> = workshop.houses.iter().map(|h| h.name.as_str()).collect();
        let known = if names.is_empty() { "keeps none".into() } else { format!("keeps: {}", names.join(", ")) };
        format!("the workshop knows no house measures called '{asked}'; it {known}")
    })
}
