//! A print as a printer takes it.

use kachel_geom::Pose;
use kachel_words::{msg, said};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Most layers of a plan.
const MAX_LAYERS: usize = 20_000;
/// Most changes and pauses of a plan.
const MAX_STOPS: usize = 20_000;
/// What lines can be for.
const KINDS: [&str; 7] = ["skirt", "brim", "outer", "inner", "thin", "solid", "infill"];
/// Longest name, characters.
const MAX_NAME: usize = 200;
/// Longest print, s: a year.
const MAX_SECONDS: f64 = 366.0 * 86_400.0;

/// A filament that a plan prints with.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PlanFilament {
    /// What it is called.
    pub name: String,
    /// sRGB of it.
    pub colour: [u8; 3],
    /// How much the print takes, g.
    pub grams: f64,
}

/// What has to be done before a layer, or within it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PlanStop {
    /// When, s from the start.
    pub at: f64,
    /// In which layer, 1 being the lowest.
    pub layer: usize,
    /// What has to be done, in words.
    pub what: String,
    /// The filament that comes in, by its place in the plan; none where something else is done.
    pub filament: Option<usize>,
    /// Whether the printer does it without anybody.
    pub by_itself: bool,
}

/// Lines of one kind, width and filament.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PlanLines {
    /// What they are for: skirt, brim, outer, inner, thin, solid or infill.
    #[ts(type = "\"skirt\" | \"brim\" | \"outer\" | \"inner\" | \"thin\" | \"solid\" | \"infill\"")]
    pub kind: String,
    /// Their width, mm.
    pub width: f64,
    /// sRGB of their filament.
    pub colour: [u8; 3],
    /// Their middles as an SVG path, mm, y down.
    pub path: String,
}

/// Lines that are laid in several places.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PlanGroup {
    /// The lines.
    pub lines: Vec<PlanLines>,
    /// Where, from the bed's front left corner.
    pub poses: Vec<Pose>,
}

/// A layer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PlanLayer {
    /// Its upper end above the bed, mm.
    pub top: f64,
    /// Until it is finished, s from the start.
    pub until: f64,
    /// Its lines, in the order in which they are laid.
    pub groups: Vec<PlanGroup>,
}

/// A print as a printer takes it: all its layers, and what has to be done on the way. Times count from the start, heating included.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Plan {
    /// What is printed.
    pub name: String,
    /// The printer that it was planned for, as the workshop calls it.
    pub printer: String,
    /// The bed that it was planned for: width and depth, mm.
    pub bed: [f64; 2],
    /// Until bed and nozzle are hot, s.
    pub heating: f64,
    /// How hot nozzle and plate are kept, degrees Celsius.
    #[serde(default = "usual_heat")]
    pub heat: [f64; 2],
    /// The filaments.
    pub filaments: Vec<PlanFilament>,
    /// The one that is printed first, by its place among them.
    pub begins_with: usize,
    /// From the bed up.
    pub layers: Vec<PlanLayer>,
    /// In the order of their times.
    pub stops: Vec<PlanStop>,
}

/// Why a plan is refused.
#[derive(Debug, PartialEq, Eq, thiserror::Error)]
pub enum PlanError {
    /// Nothing is printed.
    Empty,
    /// Too much of something.
    TooMany {
        /// Of what: the code of the message.
        what: &'static str,
        /// How many there are.
        found: usize,
        /// How many there can be.
        most: usize,
    },
    /// A value that no print has.
    Nonsense(&'static str),
}

said!(PlanError: |e| match e {
    PlanError::Empty => msg!("plan-without-layers"),
    PlanError::TooMany { what, found, most } => msg!(*what, n = *found, most = *most),
    PlanError::Nonsense(what) => msg!("plan-nonsense", what = msg!(*what)),
});

/// Nozzle and plate while PLA is printed, degrees Celsius (common practice, no source).
pub(crate) fn usual_heat() -> [f64; 2] {
    [210.0, 60.0]
}

/// A plan without its lines: what the printer knows of a job as a whole.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub(crate) struct Head {
    pub printer: String,
    pub bed: [f64; 2],
    pub heating: f64,
    #[serde(default = "usual_heat")]
    pub heat: [f64; 2],
    pub filaments: Vec<PlanFilament>,
    /// The filament that is printed first.
    pub begins_with: usize,
    pub tops: Vec<f64>,
    pub untils: Vec<f64>,
    pub stops: Vec<PlanStop>,
}

impl Plan {
    /// Refuses what no printer can print.
    pub fn check(&self) -> Result<(), PlanError> {
        let most = |what, found: usize, most| {
            if found > most { Err(PlanError::TooMany { what, found, most }) } else { Ok(()) }
        };
        if self.layers.is_empty() {
            return Err(PlanError::Empty);
        }
        most("plan-layers", self.layers.len(), MAX_LAYERS)?;
        most("plan-stops", self.stops.len(), MAX_STOPS)?;
        most("plan-name-length", self.name.chars().count(), MAX_NAME)?;
        most("plan-printer-length", self.printer.chars().count(), MAX_NAME)?;
        most("plan-filaments", self.filaments.len(), 64)?;
        let is = |what, holds: bool| if holds { Ok(()) } else { Err(PlanError::Nonsense(what)) };
        is("plan-of-name", !self.name.trim().is_empty())?;
        is(
            "plan-of-filament",
            !self.filaments.is_empty() && self.filaments.iter().all(|f| f.grams >= 0.0 && f.grams < 1e6),
        )?;
        is("plan-of-first-filament", self.begins_with < self.filaments.len())?;
        is("plan-of-bed", self.bed.iter().all(|side| (1.0..=5000.0).contains(side)))?;
        is("plan-of-heating-time", (0.0..=86_400.0).contains(&self.heating))?;
        is("plan-of-temperatures", self.heat.iter().all(|t| (0.0..=400.0).contains(t)))?;
        // Pieces that are printed one by one begin at the bed anew.
        is("plan-of-heights", self.layers.iter().all(|l| (0.0..=5000.0).contains(&l.top)))?;
        is("plan-of-times", rises(self.layers.iter().map(|l| l.until), self.heating, MAX_SECONDS))?;
        is("plan-of-stops", rises(self.stops.iter().map(|s| s.at), 0.0, MAX_SECONDS))?;
        let lines = || self.layers.iter().flat_map(|l| &l.groups).flat_map(|g| &g.lines);
        let is_line = |l: &PlanLines| KINDS.contains(&l.kind.as_str()) && (0.0..=50.0).contains(&l.width);
        is("plan-of-lines", lines().all(is_line))?;
        let count = self.layers.len();
        is("plan-of-stops", self.stops.iter().all(|s| (1..=count).contains(&s.layer)))?;
        is("plan-of-stops", self.stops.iter().all(|s| s.filament.is_none_or(|f| f < self.filaments.len())))
    }

    pub(crate) fn head(&self) -> Head {
        Head {
            printer: self.printer.clone(),
            bed: self.bed,
            heating: self.heating,
            heat: self.heat,
            filaments: self.filaments.clone(),
            begins_with: self.begins_with,
            tops: self.layers.iter().map(|l| l.top).collect(),
            untils: self.layers.iter().map(|l| l.until).collect(),
            stops: self.stops.clone(),
        }
    }
}

/// Whether no value is lower than the one before it, and all lie between two limits. NaN does not.
fn rises(mut values: impl Iterator<Item = f64>, from: f64, to: f64) -> bool {
    let mut last = from;
    values.all(|v| v >= std::mem::replace(&mut last, v) && v <= to)
}

impl Head {
    /// Until the last line is laid, s from the start.
    pub fn seconds(&self) -> f64 {
        self.untils.last().copied().unwrap_or_default().max(self.heating)
    }

    /// The layer in hand so long after the start, from 0. `None` while nothing is laid yet.
    pub fn layer_at(&self, seconds: f64) -> Option<usize> {
        (seconds > self.heating)
            .then(|| self.untils.partition_point(|until| *until < seconds).min(self.untils.len().saturating_sub(1)))
    }

    /// When a layer begins, s from the start.
    pub fn begins(&self, layer: usize) -> f64 {
        if layer == 0 { self.heating } else { self.untils[layer - 1] }
    }

    /// The filament that is loaded so long after the start, stops that lie there not counted.
    pub fn filament_at(&self, seconds: f64) -> &PlanFilament {
        let last = self.stops.iter().take_while(|s| s.at < seconds).filter_map(|s| s.filament).last();
        &self.filaments[last.unwrap_or(self.begins_with)]
    }
}
