//! `kachel set`: many pictures, one recipe, limits on size and time.

use crate::bed::{BedOrder, arranged};
use crate::make::{Opened, explain, measures, write};
use crate::rehearse::clock;
use kachel_engine::tiers::Unit;
use kachel_engine::{Edit, Engine, ExportFormat, House, Length, Stage, Watch, export, file_name, print_view};
use std::path::{Path, PathBuf};

/// All that `kachel set` was asked for.
pub(crate) struct SetOrder {
    pub pictures: Vec<PathBuf>,
    pub recipe: String,
    /// Measures with a recipe of their own.
    pub house: Option<House>,
    pub longest: Option<String>,
    pub set: Vec<String>,
    /// Longest print of each, s.
    pub limit: Option<f64>,
    /// Whether designs over the limit are made smaller.
    pub fit: bool,
    pub bed: bool,
    pub output: PathBuf,
    pub json: bool,
}

/// What became of a picture.
struct Made {
    picture: PathBuf,
    file: Option<PathBuf>,
    size: Option<[f64; 3]>,
    seconds: Option<f64>,
    /// Longer side, mm, with which it keeps the limit, where it does not.
    within_limit: Option<f64>,
    findings: usize,
    refused: Option<String>,
}

impl Made {
    fn json(&self) -> serde_json::Value {
        serde_json::json!({
            "picture": self.picture, "file": self.file, "size": self.size, "seconds": self.seconds,
            "within_limit": self.within_limit, "findings": self.findings, "refused": self.refused,
        })
    }
}

/// Makes the set; broken pictures say why, and the others go on.
pub(crate) fn set(order: &SetOrder) -> Result<(), String> {
    std::fs::create_dir_all(&order.output).map_err(|e| format!("{} cannot be made: {e}", order.output.display()))?;
    let engine = Engine::default();
    let mut all: Vec<Made> = Vec::new();
    for picture in &order.pictures {
        let made = one(order, &engine, picture, &all).unwrap_or_else(|why| Made {
            picture: picture.clone(),
            file: None,
            size: None,
            seconds: None,
            within_limit: None,
            findings: 0,
            refused: Some(why),
        });
        if !order.json {
            tell(order, &made);
        }
        all.push(made);
    }
    let files: Vec<PathBuf> = all.iter().filter_map(|m| m.file.clone()).collect();
    if files.is_empty() {
        return Err("none of the pictures gave an object".into());
    }
    let bed = if order.bed { Some(arranged(&BedOrder::of_files(files, order.output.join("bed.3mf")))?) } else { None };
    if order.json {
        say!(
            "{:#}",
            serde_json::json!({ "set": all.iter().map(Made::json).collect::<Vec<_>>(), "bed": bed.map(|b| b.json()) })
        );
    } else if let Some(bed) = bed {
        bed.tell();
    }
    Ok(())
}

fn one(order: &SetOrder, engine: &Engine, picture: &Path, before: &[Made]) -> Result<Made, String> {
    let watch = Watch::default();
    let opened = Opened::read(engine, picture, &order.recipe)?;
    let bytes = || Ok(opened.bytes.clone());
    let mut edits: Vec<Edit> = order.house.iter().map(House::edit).collect();
    edits.extend(measures(&order.set)?);
    let edited = engine.apply(&opened.document, &edits, &bytes, &watch).map_err(|e| explain(&e))?;
    let longest = order.longest.as_deref().map(Length::from);
    let begun = engine.begin_as(&edited.map_err(|e| e.to_string())?, None, longest.as_ref(), &bytes, &watch);
    let mut document = begun.map_err(|e| explain(&e))?.map_err(|e| e.to_string())?;
    let wish = document.print;
    let rehearsed = |d: &kachel_engine::Document| {
        let run = engine.run_until(d, &bytes, Stage::Check, &watch);
        let print = engine.rehearse(&run, wish, &watch).map_err(|e| explain(&e))?;
        let print = print.ok_or_else(|| run.failed.as_ref().map_or_else(|| "nothing was made".into(), explain))?;
        Ok::<_, String>((print_view(&run, &print, wish, Unit::Mm).seconds, run))
    };
    let (mut seconds, mut run) = rehearsed(&document)?;
    let mut within_limit = None;
    if let Some(limit) = order.limit.filter(|limit| seconds > *limit) {
        let found = engine.sized_within(&document, limit, wish, &bytes, &watch).map_err(|e| explain(&e))?;
        if let Some((mm, smaller)) = found {
            within_limit = Some(mm);
            if order.fit {
                document = smaller;
                (seconds, run) = rehearsed(&document)?;
            }
        }
    }
    let named = |name: &str| order.output.join(file_name(name, "3mf"));
    let is_free = |file: &PathBuf| !before.iter().any(|m| m.file.as_ref() == Some(file));
    // Two pictures may have one name.
    let numbered = (2..).map(|n| named(&format!("{} {n}", document.name)));
    let file = std::iter::once(named(&document.name)).chain(numbered).find(is_free).ok_or("no name is free")?;
    let packed = export(&document, &run, &bytes, ExportFormat::ThreeMf, None).map_err(|e| e.to_string())?;
    write(&file, &packed)?;
    let size = run.solid.as_ref().map(|(_, s)| s.skin.mesh().size());
    let heavy = |f: &&kachel_engine::check::Finding| f.code.weight() != kachel_engine::check::Weight::Note;
    let findings = run.report.findings.iter().filter(heavy).count();
    Ok(Made {
        picture: picture.into(),
        file: Some(file),
        size,
        seconds: Some(seconds),
        within_limit,
        findings,
        refused: None,
    })
}

fn tell(order: &SetOrder, m: &Made) {
    let name = m.picture.display();
    let (Some([x, y, z]), Some(seconds)) = (m.size, m.seconds) else {
        say!("{name}: {}", m.refused.as_deref().unwrap_or("nothing was made"));
        return;
    };
    let findings = if m.findings == 0 { String::new() } else { format!(", {} findings", m.findings) };
    let limit = match (order.limit, m.within_limit) {
        (Some(_), Some(mm)) if order.fit => format!(", made {mm:.1} mm long to keep the limit"),
        (Some(limit), Some(mm)) => format!(", over {}: {mm:.1} mm long it keeps to that", clock(limit)),
        (Some(limit), None) if seconds > limit => format!(", over {} at any size", clock(limit)),
        _ => String::new(),
    };
    say!("{name}: {x:.1} x {y:.1} x {z:.1} mm, {}{findings}{limit}", clock(seconds));
}
