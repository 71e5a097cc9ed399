//! House measures, out of the workshop or out of a file.

use crate::make::read;
use kachel_engine::{House, read_houses};
use kachel_server::Db;
use std::path::Path;

/// The house measures that are asked for: a file of one, or a name in the workshop that lies in `data`.
pub(crate) fn house(asked: &str, data: &Path) -> Result<House, String> {
    let file = Path::new(asked);
    if file.extension().is_some_and(|e| e.eq_ignore_ascii_case("json")) {
        let all = read_houses(&read(file)?).map_err(|e| format!("{asked}: {e}"))?;
        let count = all.len();
        let [one] = <[House; 1]>::try_from(all)
            .map_err(|_| format!("{asked} holds {count} house measures; --house takes a file of one, or a name"))?;
        return Ok(one);
    }
    let shelf = data.join("kachel.db");
    if !shelf.is_file() {
        return Err(format!(
            "there is no shelf in {}; say where it is with --data, or name a file of house measures",
            data.display()
        ));
    }
    let opened = Db::open(&shelf, None).and_then(|db| db.workshop());
    let (_, workshop) = opened.map_err(|e| format!("the shelf in {} cannot be read: {e}", data.display()))?;
    workshop.house(asked).cloned().ok_or_else(|| {
        let names: Vec<&str> = workshop.houses.iter().map(|h| h.name.as_str()).collect();
        let known = if names.is_empty() { "keeps none".into() } else { format!("keeps: {}", names.join(", ")) };
        format!("the workshop knows no house measures called '{asked}'; it {known}")
    })
}
