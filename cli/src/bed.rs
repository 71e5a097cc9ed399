//! `kachel bed`: several files arranged on the printer's bed.

use crate::make::{Opened, explain, write};
use crate::rehearse::{clock, tell_print};
use kachel_engine::tiers::Unit;
use kachel_engine::{
    Bed, BedEdit, BedFormat, BedPiece, Conflict, Engine, OnBeds, PrintView, Quality, Turns, Watch, bed_file,
    bed_print_view,
};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// All that `kachel bed` was asked for.
pub(crate) struct BedOrder {
    pub files: Vec<PathBuf>,
    pub recipe: String,
    pub copies: usize,
    pub gap: Option<String>,
    pub turns: Turns,
    pub quality: Quality,
    pub infill: Option<f64>,
    pub output: Option<PathBuf>,
    pub json: bool,
}

impl BedOrder {
    /// One copy of each, as usual.
    pub(crate) fn of_files(files: Vec<PathBuf>, output: PathBuf) -> Self {
        Self {
            files,
            recipe: "cutter-stamp".into(),
            copies: 1,
            gap: None,
            turns: Turns::Any,
            quality: Quality::Usual,
            infill: None,
            output: Some(output),
            json: false,
        }
    }
}

/// What came of it.
pub(crate) struct Arranged {
    files: Vec<PathBuf>,
    bed: Bed,
    on: OnBeds,
    prints: Vec<PrintView>,
    conflicts: Vec<Conflict>,
    refused: Vec<String>,
}

/// Arranges the files and says where what lies; files that cannot be made say why, and the others go on.
pub(crate) fn bed(order: &BedOrder) -> Result<(), String> {
    let made = arranged(order)?;
    if order.json {
        say!("{:#}", made.json());
    } else {
        made.tell();
    }
    Ok(())
}

/// Arranges the files and writes what is to be written.
pub(crate) fn arranged(order: &BedOrder) -> Result<Arranged, String> {
    // A name without a format is told before anything is made.
    let output = order.output.as_deref().map(|to| Ok::<_, String>((to, format_of(to)?))).transpose()?;
    let (engine, watch) = (Engine::default(), Watch::default());
    let mut on = OnBeds { designs: BTreeMap::new(), workshop: engine.workshop() };
    let mut refused = Vec::new();
    let name = order.output.as_deref().and_then(Path::file_stem).map(|s| s.to_string_lossy().into_owned());
    let mut edits = vec![BedEdit::Rename { name: name.unwrap_or_else(|| "Bed".into()) }];
    edits.extend(order.gap.clone().map(|gap| BedEdit::SetGap { value: gap.into() }));
    edits.push(BedEdit::SetTurns { turns: order.turns });
    edits.push(BedEdit::SetQuality { quality: order.quality });
    edits.push(BedEdit::SetInfill { infill: order.infill });
    for (k, file) in order.files.iter().enumerate() {
        // Numbers keep the files in their order, and two of one name apart.
        let design = format!("{k:05}");
        match Opened::read(&engine, file, &order.recipe) {
            Ok(o) => {
                let found = engine.on_bed(o.document, &|| Ok(o.bytes.clone()), &watch);
                if let Some(why) = &found.trouble {
                    refused.push(format!("{}: {why}", file.display()));
                    continue;
                }
                on.designs.insert(design.clone(), found);
                edits.push(BedEdit::SetCopies { design, copies: order.copies });
            }
            Err(why) => refused.push(format!("{}: {why}", file.display())),
        }
    }
    let apply = |bed: &Bed, edit: &BedEdit| bed.after(edit, Unit::Mm).map_err(|e| e.to_string());
    let mut bed = edits.iter().try_fold(Bed::new("Bed"), |bed, edit| apply(&bed, edit))?;
    let places = on.arranged(&bed, &watch).map_err(|e| explain(&e))?;
    bed = bed.arranged(&places).map_err(|e| e.to_string())?;
    refused.iter().for_each(|why| eprintln!("kachel: {why}"));
    if on.designs.is_empty() {
        return Err("none of the files gave an object".into());
    }
    let mut prints: Vec<PrintView> = Vec::new();
    for plate in 0..bed.plates() {
        let made = engine.print_bed(&bed, &on, plate, &watch).map_err(|e| explain(&e))?;
        let print = made.map(|p| bed_print_view(&on, &p));
        if let Some((output, format)) = output {
            let bytes = bed_file(&bed, &on, plate, format, print.as_ref()).map_err(|e| e.to_string())?;
            write(&of_plate(output, plate), &bytes)?;
        }
        prints.extend(print);
    }
    let conflicts = on.conflicts(&bed, &watch);
    Ok(Arranged { files: order.files.clone(), bed, on, prints, conflicts, refused })
}

fn format_of(output: &Path) -> Result<BedFormat, String> {
    match output.extension().and_then(|e| e.to_str()) {
        Some("3mf") => Ok(BedFormat::ThreeMf),
        Some("stl") => Ok(BedFormat::Stl),
        Some("zip") => Ok(BedFormat::Singles),
        Some("svg") => Ok(BedFormat::Sheet),
        Some("pdf") => Ok(BedFormat::Pdf),
        Some("png") => Ok(BedFormat::Png),
        _ => Err(format!("{} names no format; end it with .3mf, .stl, .zip, .pdf, .svg or .png", output.display())),
    }
}

/// `bed.3mf`, `bed-2.3mf` and so on.
fn of_plate(output: &Path, plate: usize) -> PathBuf {
    if plate == 0 {
        return output.into();
    }
    let stem = output.file_stem().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
    let extension = output.extension().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
    output.with_file_name(format!("{stem}-{}.{extension}", plate + 1))
}

impl Arranged {
    pub(crate) fn json(&self) -> serde_json::Value {
        let place = |p: &BedPiece| {
            let file = p.design.parse::<usize>().ok().and_then(|k| self.files.get(k));
            serde_json::json!({ "name": self.on.designs[&p.design].name, "file": file, "bed": p.place.map(|at| at.plate + 1),
                "pose": p.place.map(|at| at.pose) })
        };
        let total = |p: &PrintView| {
            serde_json::json!({ "seconds": p.seconds, "layers": p.tops.len(), "filaments": p.filaments, "changes": p.stops,
                "pauses": p.pauses })
        };
        let told = |c: &Conflict| serde_json::json!({ "kind": c.kind, "words": c.words.to_string(), "bed": c.plate.map(|n| n + 1) });
        serde_json::json!({
            "pieces": self.bed.pieces.iter().map(place).collect::<Vec<_>>(),
            "beds": self.prints.iter().map(total).collect::<Vec<_>>(),
            "seconds": self.prints.iter().map(|p| p.seconds).sum::<f64>(),
            "conflicts": self.conflicts.iter().map(told).collect::<Vec<_>>(), "refused": self.refused,
        })
    }

    pub(crate) fn tell(&self) {
        for (n, p) in self.prints.iter().enumerate() {
            let here = self.bed.pieces.iter().filter(|q| q.place.is_some_and(|at| at.plate == n));
            say!("Bed {}: {} pieces, {}, {} layers", n + 1, here.clone().count(), clock(p.seconds), p.tops.len());
            tell_print(p);
            for piece in here {
                let Some(at) = piece.place.map(|p| p.pose) else { continue };
                let name = &self.on.designs[&piece.design].name;
                say!("  {name}: {:.1} mm right, {:.1} mm up, {:.1}°", at.x, at.y, at.degrees);
            }
        }
        self.conflicts.iter().for_each(|c| say!("  {}", c.words));
    }
}
