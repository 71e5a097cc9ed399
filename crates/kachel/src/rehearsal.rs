//! The print of a design before it is printed, and what is seen of it.

use crate::engine::Engine;
use crate::error::EngineError;
use crate::keys::key;
use crate::run::Run;
use kachel_design::{Filament, PrintOrder, PrintSettings, PrintWish, Workshop};
use kachel_geom::{Mm, Point, Pose, Watch};
use kachel_rehearse::{Correction, Job, Kind, Laid, Lines, Object, PrintedLayer, Rehearsal, lay, print};
use kachel_words::{Message, Unit, area, msg, number};
use serde::Serialize;
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::ops::Deref;
use std::sync::Arc;
use ts_rs::TS;

/// The print.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PrintView {
    /// The same for as long as the print is the same; its layers are asked for with it.
    pub key: String,
    /// Until the last line is laid, heating included, s.
    pub seconds: f64,
    /// What it is likely to take on this printer, where prints of it were timed.
    pub likely: Option<LikelyView>,
    /// Heating, s.
    pub heating: f64,
    /// Temperatures of nozzle and bed, degrees Celsius.
    pub heat: [f64; 2],
    /// Upper end of each layer above the bed, mm.
    pub tops: Vec<f64>,
    /// Until each layer is finished, from the start, s.
    pub untils: Vec<f64>,
    /// Filament by colour.
    pub filaments: Vec<FilamentUse>,
    /// The filament that it begins with, by its place among them.
    pub begins_with: usize,
    /// Changes of filament after the first.
    pub stops: Vec<StopView>,
    /// Whether the printer loads as many filaments as there are, and changes them by itself.
    pub changes_itself: bool,
    /// Pauses to put something in.
    pub pauses: Vec<StopView>,
    /// Area that is thinner than half a line and is left out, in the layer that has most of it, mm2.
    pub left_out: f64,
    /// Of which currency the prices are.
    pub currency: String,
    /// Infill, percent.
    pub infill: f64,
    /// Height of a layer, mm.
    pub layer: f64,
    /// What to know about these settings.
    pub notes: Vec<String>,
}

/// What a print is likely to take, by what earlier ones took.
#[derive(Clone, Copy, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct LikelyView {
    /// s.
    pub seconds: f64,
    /// So many times the planned time ...
    pub factor: f64,
    /// ... and so much more, s.
    pub constant: f64,
    /// From how many prints.
    pub prints: usize,
}

impl PrintView {
    /// With what earlier prints tell of it.
    #[must_use]
    pub fn corrected(mut self, by: Option<Correction>) -> Self {
        self.likely = by.map(|c| LikelyView {
            seconds: c.likely(self.seconds),
            factor: c.factor,
            constant: c.constant,
            prints: c.prints,
        });
        self
    }
}

/// How much of a filament a print takes.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct FilamentUse {
    /// The filament's words.
    pub filament: String,
    /// sRGB of it.
    pub colour: [u8; 3],
    /// Of filament 1.75 mm across, what is purged included, m.
    pub metres: f64,
    /// g.
    pub grams: f64,
    /// In the workshop's currency.
    pub price: f64,
}

/// Something that happens before a layer.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct StopView {
    /// Before which layer, 1 being the lowest.
    pub layer: usize,
    /// Its lower end above the bed, mm.
    pub height: f64,
    /// When, s from the start.
    pub at: f64,
    /// What happens, in words.
    pub what: String,
    /// The filament that comes in, by its place among the print's; none where something else happens.
    pub filament: Option<usize>,
}

/// A layer.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct LayerView {
    /// Its number, 1 being the lowest.
    pub layer: usize,
    /// Its lower end above the bed, mm.
    pub bottom: f64,
    /// Its upper end, mm.
    pub top: f64,
    /// How long it takes, s.
    pub seconds: f64,
    /// Until it is finished, from the start, s.
    pub until: f64,
    /// Its lines, those of one kind, width and filament together.
    pub lines: Vec<LinesView>,
}

/// Lines of one kind.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct LinesView {
    /// What they are for.
    #[ts(type = "\"skirt\" | \"brim\" | \"outer\" | \"inner\" | \"thin\" | \"solid\" | \"infill\"")]
    pub kind: &'static str,
    /// Their width, mm.
    pub width: f64,
    /// sRGB of their filament.
    pub colour: [u8; 3],
    /// Their middles as an SVG path, mm, y down, as printed.
    pub path: String,
}

/// A print with its key: what it was made of, the filaments' looks included.
#[derive(Clone, Debug)]
pub struct KeyedPrint {
    /// The same for as long as the print is the same.
    pub key: String,
    /// The print.
    pub rehearsal: Arc<Rehearsal>,
}

impl KeyedPrint {
    /// `name` is what the rehearsal is remembered by.
    pub(crate) fn new(name: &str, filaments: &[&Filament], rehearsal: Arc<Rehearsal>) -> Result<Self, EngineError> {
        Ok(Self { key: key(&(name, filaments))?, rehearsal })
    }
}

impl Deref for KeyedPrint {
    type Target = Rehearsal;

    fn deref(&self) -> &Rehearsal {
        &self.rehearsal
    }
}

/// Diameter of filament, mm.
const FILAMENT_MM: f64 = 1.75;
/// Tops filled over less infill than this, percent, keep holes (common practice, no source).
const LEAST_INFILL: f64 = 10.0;

impl Engine {
    /// The print of a design that [`Engine::run`] has run. `None` where it has no solid.
    pub fn rehearse(&self, run: &Run, wish: PrintWish, watch: &Watch) -> Result<Option<KeyedPrint>, EngineError> {
        let Some((solid_key, _)) = &run.solid else { return Ok(None) };
        if let Some(infill) = wish.infill.filter(|v| !(0.0..=100.0).contains(v)) {
            return Err(EngineError::Infill(infill));
        }
        let Some(laid) = self.laid(run, wish, watch)? else { return Ok(None) };
        let (printer, settings) = (run.workshop.printer(), settings(&run.workshop, wish));
        let name = key(&(solid_key, printer.layer_of(wish.quality), printer.line, &settings))?;
        let made = self.rehearsals.get_or_once(&name, || {
            let object = Object { laid: &laid, pose: Pose::default(), filaments: &laid.parts };
            Ok::<_, EngineError>(Arc::new(print(&[object], printer.line, &settings, PrintOrder::Together, watch)?))
        })?;
        let filaments: Vec<_> = laid.parts.iter().map(|part| run.filament(*part)).collect();
        Ok(Some(KeyedPrint::new(&name, &filaments, made)?))
    }

    /// The lines of a design, layer by layer. `None` where it has no solid.
    pub(crate) fn laid(&self, run: &Run, wish: PrintWish, watch: &Watch) -> Result<Option<Arc<Laid>>, EngineError> {
        let Some((solid_key, solid)) = &run.solid else { return Ok(None) };
        let (printer, settings) = (run.workshop.printer(), settings(&run.workshop, wish));
        let layer = printer.layer_of(wish.quality);
        let name = key(&(solid_key, layer, printer.line, &settings))?;
        let made = self.laid.get_or_once(&name, || {
            let parts: Vec<_> = solid.parts.iter().map(|p| (p.number, &p.mesh)).collect();
            let job = Job { skin: &solid.skin, parts: &parts, layer, line: printer.line, settings: &settings };
            Ok::<_, EngineError>(Arc::new(lay(&job, &self.walls, watch)?))
        })?;
        Ok(Some(made))
    }
}

/// The workshop's settings, as far as a print does not differ.
pub(crate) fn settings(workshop: &Workshop, wish: PrintWish) -> PrintSettings {
    let usual = &workshop.print;
    PrintSettings { infill: wish.infill.unwrap_or(usual.infill), ..usual.clone() }
}

/// What is seen of a print.
pub fn print_view(run: &Run, r: &KeyedPrint, wish: PrintWish, unit: Unit) -> PrintView {
    let pause = |height: &f64| Pause { height: *height, what: msg!("put-magnet-in"), object: None };
    let pauses: Vec<Pause> = run.stack.iter().flat_map(|s| &s.pauses).map(pause).collect();
    view_of(r, &run.workshop, &|part| run.filament(part), &pauses, (wish, unit))
}

/// Where somebody puts something in.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Pause {
    /// How high the object is then, mm.
    pub height: f64,
    /// What happens.
    pub what: Message,
    /// In which object of the print; none where it is all of them.
    pub object: Option<usize>,
}

/// What is seen of a print of anything.
pub(crate) fn view_of<'a>(
    r: &KeyedPrint,
    workshop: &Workshop,
    filament: &dyn Fn(u32) -> &'a Filament,
    pauses: &[Pause],
    (wish, unit): (PrintWish, Unit),
) -> PrintView {
    let settings = settings(workshop, wish);
    let filaments = r.uses.iter().map(|u| {
        let f = filament(u.filament);
        let volume = u.volume + u.purged;
        let grams = volume / 1000.0 * f.density;
        FilamentUse {
            filament: f.name.clone(),
            colour: f.colour,
            metres: volume / (std::f64::consts::PI / 4.0 * FILAMENT_MM * FILAMENT_MM) / 1000.0,
            grams,
            price: grams / 1000.0 * f.price,
        }
    });
    let place_of = |number: u32| r.uses.iter().position(|u| u.filament == number);
    let first = r.layers.iter().flat_map(|l| &l.parts).next();
    let stop = |s: &kachel_rehearse::Stop| StopView {
        layer: s.layer,
        height: s.height,
        at: s.at,
        what: msg!("change-to", filament = &filament(s.filament).name).said(unit),
        filament: place_of(s.filament),
    };
    let pause = |p: &Pause| {
        let is_of = |l: &PrintedLayer| p.object.is_none_or(|k| l.parts.iter().any(|q| q.object == Some(k)));
        let k = r.layers.iter().position(|l| l.bottom > p.height - 1e-6 && is_of(l))?;
        let at = if k == 0 { settings.heating } else { r.layers[k - 1].until };
        Some(StopView { layer: k + 1, height: r.layers[k].bottom, at, what: p.what.said(unit), filament: None })
    };
    let mut notes = Vec::new();
    if settings.infill < LEAST_INFILL && settings.solid_layers > 0 {
        notes.push(msg!("tops-keep-holes", percent = number(settings.infill)));
    }
    if settings.solid_layers == 0 {
        notes.push(msg!("top-stays-open"));
    }
    let left_out = r.layers.iter().map(|l| l.left_out).fold(0.0, f64::max);
    if left_out > 0.5 {
        notes.push(msg!("thin-left-out", area = area(left_out).decimals(1)));
    }
    PrintView {
        key: r.key.clone(),
        seconds: r.seconds,
        likely: None,
        heating: settings.heating,
        heat: [settings.nozzle_heat, settings.bed_heat],
        tops: r.layers.iter().map(|l| l.top).collect(),
        untils: r.layers.iter().map(|l| l.until).collect(),
        filaments: filaments.collect(),
        begins_with: first.and_then(|p| place_of(p.filament)).unwrap_or_default(),
        stops: r.stops.iter().map(stop).collect(),
        changes_itself: workshop.printer().filaments as usize >= r.uses.len(),
        pauses: pauses.iter().filter_map(pause).collect(),
        left_out,
        currency: workshop.currency.clone(),
        infill: settings.infill,
        layer: workshop.printer().layer_of(wish.quality),
        notes: notes.iter().map(|n| n.said(unit)).collect(),
    }
}

/// What is seen of a layer; 1 is the lowest.
pub fn layer_view(run: &Run, r: &Rehearsal, layer: usize) -> Option<LayerView> {
    let l = r.layers.get(layer.checked_sub(1)?)?;
    let lines = lines_view(l.parts.iter().map(|p| (p.filament, &p.lines[..])), &|part| run.filament(part));
    Some(LayerView { layer, bottom: l.bottom, top: l.top, seconds: l.seconds, until: l.until, lines })
}

/// What is seen of lines, each group with its filament's number.
pub(crate) fn lines_view<'a, 'f>(
    groups: impl Iterator<Item = (u32, &'a [Arc<Vec<Lines>>])>,
    filament: &dyn Fn(u32) -> &'f Filament,
) -> Vec<LinesView> {
    // Kind first, so that what is printed first is drawn first; widths to a hundredth.
    let mut sorted: BTreeMap<(u32, Kind, i64), String> = BTreeMap::new();
    for (number, all) in groups {
        for line in all.iter().flat_map(|l| l.iter()) {
            #[expect(clippy::cast_possible_truncation, reason = "hundredths of some millimetres")]
            let width = (line.width * 100.0).round() as i64;
            let path = sorted.entry((number, line.kind, width)).or_default();
            write_line(path, &line.points, line.is_closed);
        }
    }
    let lines = sorted.into_iter().map(|((number, kind, width), path)| LinesView {
        kind: kind.name(),
        width: width as f64 / 100.0,
        colour: filament(number).colour,
        path,
    });
    lines.collect()
}

/// Appends a line, to a hundredth.
fn write_line(path: &mut String, points: &[Point<Mm>], is_closed: bool) {
    let short = |v: f64| (v * 100.0).round() / 100.0 + 0.0;
    for (i, p) in points.iter().enumerate() {
        let _ = write!(path, "{}{} {}", if i == 0 { 'M' } else { 'L' }, short(p.x), short(-p.y));
    }
    if is_closed {
        path.push('Z');
    }
}
