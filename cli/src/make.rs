use crate::ink::{InkArgs, InkName};
use kachel_engine::artwork::{Crop, Straighten};
use kachel_engine::check::Cup;
use kachel_engine::tiers::Recipe;
use kachel_engine::trace::{ColourSettings, Ink};
use kachel_engine::{
    Axis, Document, Edit, Engine, EngineError, ExportFormat, FindingView, GeneralEdit, House, InUseView, KeyedPrint,
    Length, PictureEdit, PrintWish, ResultView, SizeOf, Stage, TierEdit, Watch, export, export_contours, import_design,
    in_use_view,
};
use std::path::{Path, PathBuf};
use std::time::Instant;

/// All that `kachel make` was asked for.
pub(crate) struct Order {
    pub picture: PathBuf,
    pub recipe: String,
    /// Measures with a recipe of their own.
    pub house: Option<House>,
    pub width: Option<String>,
    pub height: Option<String>,
    pub set: Vec<String>,
    pub name: Option<String>,
    pub ink: InkArgs,
    pub text: bool,
    pub output: PathBuf,
    pub json: bool,
}

pub(crate) fn explain(e: &EngineError) -> String {
    format!("{e}\n  {}", e.hint())
}

pub(crate) fn read(path: &Path) -> Result<Vec<u8>, String> {
    std::fs::read(path).map_err(|e| format!("{} cannot be read: {e}", path.display()))
}

pub(crate) fn write(path: &Path, bytes: &[u8]) -> Result<(), String> {
    // Beside its place first: whoever reads it finds the old file or the new one, never half of one.
    let mut part = path.as_os_str().to_owned();
    part.push(".part");
    let written = std::fs::write(&part, bytes).and_then(|()| std::fs::rename(&part, path));
    written.map_err(|e| {
        let _ = std::fs::remove_file(&part);
        format!("{} cannot be written: {e}", path.display())
    })
}

fn ink_edits(ink: &InkArgs) -> Vec<Edit> {
    let kind = |i| match i {
        InkName::LightDark => Ink::LightDark,
        InkName::Colours(_) => Ink::Colours,
        InkName::Alpha => Ink::Alpha,
        InkName::Pen => Ink::Pen,
    };
    let count = match ink.ink {
        Some(InkName::Colours(n)) => n,
        _ => None,
    };
    let colours = ColourSettings {
        count,
        picked: ink.pick.clone(),
        merged: ink.merge.clone(),
        ground: ink.ground_colour,
        with_ground: ink.ground,
    };
    let by_hand = ink.sheet.zip(ink.corners).map(|(sheet, corners)| Straighten { corners, sheet });
    let is_laid_anew = ink.no_sheet || by_hand.is_some();
    let find = ink.sheet.filter(|_| by_hand.is_none());
    let edits = [
        // A sheet that was found by itself has cropped the picture.
        is_laid_anew.then_some(PictureEdit::SetCrop { crop: None }.into()),
        is_laid_anew.then_some(PictureEdit::Straighten { straighten: by_hand }.into()),
        ink.no_sheet.then_some(GeneralEdit::UsualSize.into()),
        find.map(|sheet| PictureEdit::FindSheet { sheet: Some(sheet) }.into()),
        ink.ink.map(|i| PictureEdit::SetInk { ink: kind(i) }.into()),
        (colours != ColourSettings::default()).then_some(PictureEdit::SetColours { colours }.into()),
        ink.threshold.map(|t| PictureEdit::SetThreshold { threshold: Some(t) }.into()),
        ink.invert.map(|invert| PictureEdit::SetInvert { invert }.into()),
        ink.level.map(|level| PictureEdit::SetLevel { level }.into()),
        ink.flip.then_some(PictureEdit::Flip { axis: Axis::Width }.into()),
        ink.turn.map(|quarters| PictureEdit::Turn { quarters }.into()),
        ink.degrees.map(|degrees| PictureEdit::SetDegrees { degrees }.into()),
        ink.crop.map(|[x, y, width, height]| PictureEdit::SetCrop { crop: Some(Crop { x, y, width, height }) }.into()),
        ink.bend.map(|bend| PictureEdit::SetBend { bend }.into()),
        ink.min_area.map(|min_area| PictureEdit::SetMinArea { min_area }.into()),
        ink.min_gap.map(|min_gap| PictureEdit::SetMinGap { min_gap }.into()),
        ink.deviation.map(|deviation| PictureEdit::SetDeviation { deviation }.into()),
    ];
    edits.into_iter().flatten().collect()
}

/// A design with the bytes of its picture.
pub(crate) struct Opened {
    pub document: Document,
    pub bytes: Vec<u8>,
}

impl Opened {
    /// A 3MF comes as it is; a picture is made by the recipe of that name.
    pub(crate) fn read(engine: &Engine, file: &Path, recipe: &str) -> Result<Self, String> {
        let bytes = read(file)?;
        if !bytes.starts_with(b"PK") {
            let recipe = TierEdit::SetRecipe { recipe: recipe_named(recipe)?.kind }.into();
            return Self::of_picture(engine, file, bytes, None, &[recipe]);
        }
        let inside = import_design(&bytes).map_err(|e| e.to_string())?;
        let (document, bytes) =
            inside.ok_or_else(|| format!("{} holds a mesh, but no design of Kachel's", file.display()))?;
        Ok(Self { document, bytes })
    }

    fn of_picture(
        engine: &Engine,
        picture: &Path,
        bytes: Vec<u8>,
        name: Option<&str>,
        edits: &[Edit],
    ) -> Result<Self, String> {
        let stem = picture.file_stem().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
        let file = picture.file_name().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
        let watch = Watch::default();
        let new = engine.new_document(name.unwrap_or(&stem), &file, &bytes, &watch).map_err(|e| explain(&e))?;
        let applied = engine.apply(&new, edits, &|| Ok(bytes.clone()), &watch).map_err(|e| explain(&e))?;
        Ok(Self { document: applied.map_err(|e| e.to_string())?, bytes })
    }
}

/// A design from a picture file, edited, or from a 3MF that holds one.
pub(crate) struct Bench {
    engine: Engine,
    pub document: Document,
    bytes: Vec<u8>,
}

impl Bench {
    /// A 3MF comes as it is; a picture is made by the recipe of that name.
    pub(crate) fn of_file(file: &Path, recipe: &str) -> Result<Self, String> {
        let engine = Engine::default();
        let Opened { document, bytes } = Opened::read(&engine, file, recipe)?;
        Ok(Self { engine, document, bytes })
    }

    fn open(picture: &Path, name: Option<&str>, edits: &[Edit]) -> Result<Self, String> {
        let engine = Engine::default();
        let Opened { document, bytes } = Opened::of_picture(&engine, picture, read(picture)?, name, edits)?;
        Ok(Self { engine, document, bytes })
    }

    /// What is seen of the object in use; `None` where there is nothing to see.
    pub(crate) fn in_use(&self, run: &kachel_engine::Run) -> Result<Option<InUseView>, String> {
        let Some((key, _)) = &run.solid else { return Ok(None) };
        let shown = self.engine.in_use(key, Cup::default(), &Watch::default()).map_err(|e| explain(&e))?;
        Ok(shown.as_deref().and_then(Option::as_ref).map(|s| in_use_view(s, self.document.unit)))
    }

    /// The print of what was run.
    pub(crate) fn rehearse(&self, run: &kachel_engine::Run, wish: PrintWish) -> Result<KeyedPrint, String> {
        let made = self.engine.rehearse(run, wish, &Watch::default()).map_err(|e| explain(&e))?;
        made.ok_or_else(|| run.failed.as_ref().map_or_else(|| "nothing was made".into(), explain))
    }

    pub(crate) fn run(&self) -> kachel_engine::Run {
        self.run_until(Stage::Check)
    }

    fn run_until(&self, last: Stage) -> kachel_engine::Run {
        self.engine.run_until(&self.document, &|| Ok(self.bytes.clone()), last, &Watch::default())
    }
}

pub(crate) fn trace(
    picture: &Path,
    ink: &InkArgs,
    pen_width: Option<String>,
    output: &Path,
    json: bool,
) -> Result<(), String> {
    let start = Instant::now();
    let mut edits = ink_edits(ink);
    edits.extend(
        pen_width
            .map(|w| PictureEdit::SetPenWidth { value: Some(w).filter(|w| w != "drawn").map(Length::Typed) }.into()),
    );
    let bench = Bench::open(picture, None, &edits)?;
    let run = bench.run_until(Stage::Outline);
    let svg = match (export_contours(&bench.document, &run), &run.failed) {
        (Some(svg), _) => svg,
        (None, Some(e)) => return Err(explain(e)),
        (None, None) => return Err("there is nothing to trace".into()),
    };
    write(output, svg.as_bytes())?;
    let view = ResultView::new(&bench.document, &run, &[]);
    let traced = view.trace.ok_or("there is nothing to trace")?;
    let ink = view.patches.iter().filter(|p| p.is_ink).count();
    let ms = start.elapsed().as_secs_f64() * 1000.0;
    if json {
        let report = serde_json::json!({
            "file": output, "picture": view.picture.as_ref().map(|p| p.frame), "ink_patches": ink, "gaps": view.patches.len() - ink,
            "nodes": traced.nodes, "cut": traced.cut, "cut_is_automatic": traced.cut_is_automatic,
            "specks": traced.specks, "pinholes": traced.pinholes, "palette": traced.palette, "ms": ms,
        });
        say!("{report:#}");
    } else {
        say!(
            "{}: {ink} ink patches, {} gaps, {} nodes, cut at {:.1}, {ms:.0} ms",
            output.display(),
            view.patches.len() - ink,
            traced.nodes,
            traced.cut
        );
    }
    Ok(())
}

/// A finding for other programs.
pub(crate) fn finding_json(f: &FindingView) -> serde_json::Value {
    let mends: Vec<_> = f.mends.iter().map(|m| &m.words).collect();
    serde_json::json!({ "code": f.code, "weight": f.weight, "what": f.what, "why": f.why, "figures": f.figures,
        "mends": mends, "place": f.place, "places": f.places, "accepted": f.is_accepted })
}

fn format_of(order: &Order) -> Result<ExportFormat, String> {
    match order.output.extension().and_then(|e| e.to_str()).map(str::to_ascii_lowercase).as_deref() {
        Some("stl") if order.text => Ok(ExportFormat::StlText),
        Some("stl") => Ok(ExportFormat::Stl),
        Some("zip") => Ok(ExportFormat::StlParts),
        Some("3mf") => Ok(ExportFormat::ThreeMf),
        _ => Err(format!("{}: the name has to end in .stl, .3mf or .zip", order.output.display())),
    }
}

/// SOURCE_DATE_EPOCH (reproducible-builds.org) as xs:dateTime; nothing where it is not set.
fn source_date() -> Result<Option<String>, String> {
    let Ok(text) = std::env::var("SOURCE_DATE_EPOCH") else { return Ok(None) };
    let bad = || format!("SOURCE_DATE_EPOCH is '{text}', not a number of seconds");
    let seconds: i64 = text.trim().parse().map_err(|_| bad())?;
    kachel_server::time_of(seconds).map(Some).ok_or_else(bad)
}

/// What `--set NAME=VALUE` asks for.
pub(crate) fn measures(pairs: &[String]) -> Result<Vec<Edit>, String> {
    let edit = |pair: &String| {
        let (name, value) = pair.split_once('=').ok_or_else(|| format!("--set {pair}: write NAME=VALUE"))?;
        Ok(TierEdit::SetMeasure { name: name.trim().into(), value: value.into() }.into())
    };
    pairs.iter().map(edit).collect()
}

/// The recipe of that name, or which there are.
fn recipe_named(name: &str) -> Result<&'static Recipe, String> {
    Recipe::by_name(name).ok_or_else(|| {
        let known: Vec<&str> = kachel_engine::tiers::RECIPES.iter().map(|r| r.name).collect();
        format!("there is no recipe '{name}'; there are: {}", known.join(", "))
    })
}

pub(crate) fn make(order: &Order) -> Result<(), String> {
    let format = format_of(order)?;
    let created = source_date()?;
    let recipe = order.house.as_ref().map_or_else(|| recipe_named(&order.recipe), |h| Ok(h.recipe.recipe()))?;
    let mut edits = ink_edits(&order.ink);
    edits.push(order.house.as_ref().map_or(TierEdit::SetRecipe { recipe: recipe.kind }.into(), House::edit));
    edits.extend(measures(&order.set)?);
    // Of a cutter it is the cookie, margin included; so it comes after the measures.
    let of = if recipe.kind.is_cutter() { SizeOf::Edge } else { SizeOf::Drawing };
    for (axis, value) in [(Axis::Width, &order.width), (Axis::Height, &order.height)] {
        edits.extend(value.clone().map(|value| GeneralEdit::SetSize { axis, value: Length::Typed(value), of }.into()));
    }
    let bench = Bench::open(&order.picture, order.name.as_deref(), &edits)?;
    let run = bench.run();
    if run.solid.is_none() {
        return Err(run.failed.as_ref().map_or_else(|| "nothing was made".into(), explain));
    }
    let bytes =
        export(&bench.document, &run, &|| Ok(bench.bytes.clone()), format, created).map_err(|e| e.to_string())?;
    write(&order.output, &bytes)?;
    let view = ResultView::new(&bench.document, &run, &[]);
    let made = view.solid.ok_or("nothing was made")?;
    if order.json {
        let outline = view.outline.as_ref().map(|o| [o.width, o.height]);
        let findings: Vec<_> = view.findings.iter().map(finding_json).collect();
        let ms: serde_json::Map<String, serde_json::Value> =
            view.timings.iter().map(|t| (t.stage.clone(), t.ms.into())).collect();
        let report = serde_json::json!({
            "file": order.output, "size": made.size, "edge": outline, "volume": made.volume, "mass": made.mass,
            "sound": true, "triangles": made.triangles, "bodies": made.bodies, "parts": made.parts,
            "notes": view.notes, "findings": findings, "ms": ms,
        });
        say!("{report:#}");
        return Ok(());
    }
    let [x, y, z] = made.size;
    say!(
        "{}: {x:.2} x {y:.2} x {z:.2} mm, {:.2} cm3, {:.1} g, {} triangles, sound",
        order.output.display(),
        made.volume / 1000.0,
        made.mass,
        made.triangles
    );
    for note in &view.notes {
        say!("  {note}");
    }
    for f in &view.findings {
        say!("  {}: {}. {}", f.code, f.what, f.why);
    }
    Ok(())
}
