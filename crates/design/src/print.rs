//! How things are printed: what a slicer is told.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What the inside of an object is filled with.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Infill {
    /// Straight lines, turned by a right angle from layer to layer.
    Lines,
    /// Straight lines both ways in each layer.
    Grid,
    /// Cells with six sides, which stand on each other.
    Honeycomb,
    /// Lines that follow the border.
    Concentric,
}

/// How fine it is printed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Quality {
    /// Layers of 0.28 mm.
    Draft,
    /// Layers as the printer has them.
    #[default]
    Usual,
    /// Layers of 0.12 mm.
    Fine,
}

impl Quality {
    /// Height of a layer, mm (common practice, no source), for a printer that usually lays layers of `usual` with this nozzle.
    pub fn layer(self, usual: f64, nozzle: f64) -> f64 {
        match self {
            Self::Draft => 0.28_f64.min(0.8 * nozzle),
            Self::Usual => usual,
            Self::Fine => 0.12,
        }
    }
}

/// What may differ from the workshop's settings for one print.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PrintWish {
    /// How fine.
    pub quality: Quality,
    /// Infill, 0 to 100 percent; the workshop's where it is left out.
    pub infill: Option<f64>,
}

impl PrintWish {
    /// The same with what is asked for this time.
    pub fn with(self, quality: Option<Quality>, infill: Option<f64>) -> Self {
        Self { quality: quality.unwrap_or(self.quality), infill: infill.or(self.infill) }
    }
}

/// Settings of the workshop for all prints. Defaults: common practice, no source.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct PrintSettings {
    /// Height of the first layer, mm.
    pub first_layer: f64,
    /// Lines along each border.
    pub walls: u32,
    /// Whether the outermost of them comes first; else it comes last.
    #[serde(default)]
    pub outer_first: bool,
    /// Layers that are filled solid below and above.
    pub solid_layers: u32,
    /// How much of the inside is filled, percent.
    pub infill: f64,
    /// With what.
    pub pattern: Infill,
    /// Lines round the object on the bed, away from it.
    pub skirt: u32,
    /// Width of a brim on the bed, mm; 0 for none.
    pub brim: f64,
    /// Speed of the outermost line, mm/s.
    pub outer_speed: f64,
    /// Speed of the other lines along borders, mm/s.
    pub wall_speed: f64,
    /// Speed of infill and solid layers, mm/s.
    pub fill_speed: f64,
    /// Speed of all lines of the first layer, mm/s.
    pub first_speed: f64,
    /// Speed from line to line, mm/s.
    pub travel_speed: f64,
    /// Acceleration, mm/s2.
    pub acceleration: f64,
    /// The most that the nozzle melts, mm3/s.
    pub flow: f64,
    /// A layer takes at least so long, s, so that it sets before the next.
    pub layer_time: f64,
    /// Until bed and nozzle are hot, s.
    pub heating: f64,
    /// Temperature of the nozzle, degrees Celsius.
    #[serde(default = "usual_nozzle_heat")]
    pub nozzle_heat: f64,
    /// Temperature of the bed, degrees Celsius.
    #[serde(default = "usual_bed_heat")]
    pub bed_heat: f64,
    /// For each change of filament, s.
    pub change: f64,
    /// Filament that each change purges, mm3.
    pub purge: f64,
}

/// Temperature of a nozzle that prints PLA, degrees Celsius (common practice, no source).
fn usual_nozzle_heat() -> f64 {
    210.0
}

/// Temperature of a bed for PLA, degrees Celsius (common practice, no source).
fn usual_bed_heat() -> f64 {
    60.0
}

impl Default for PrintSettings {
    fn default() -> Self {
        Self {
            first_layer: 0.2,
            walls: 3,
            outer_first: false,
            solid_layers: 4,
            infill: 15.0,
            pattern: Infill::Lines,
            skirt: 1,
            brim: 0.0,
            outer_speed: 25.0,
            wall_speed: 40.0,
            fill_speed: 45.0,
            first_speed: 15.0,
            travel_speed: 120.0,
            acceleration: 800.0,
            flow: 8.0,
            layer_time: 6.0,
            heating: 180.0,
            nozzle_heat: usual_nozzle_heat(),
            bed_heat: usual_bed_heat(),
            change: 60.0,
            purge: 120.0,
        }
    }
}

/// The highest layer that a nozzle lays, mm, to a hundredth: 0.8 of it (common practice, no source).
pub(crate) fn highest(nozzle: f64) -> f64 {
    (80.0 * nozzle).round() / 100.0
}

/// A setting that cannot be printed with: the code of what it is called, its value, and its range.
pub(crate) type Refused = (&'static str, f64, f64, f64);

impl PrintSettings {
    /// Settings that are out of their range; `line` and `nozzle` are the printer's, mm, `layer` its layer's height.
    pub(crate) fn refused(&self, nozzle: f64) -> Option<Refused> {
        let all: [Refused; 19] = [
            ("set-first-layer", self.first_layer, 0.02, highest(nozzle)),
            ("set-number-of-walls", f64::from(self.walls), 0.0, 40.0),
            ("set-number-of-solid-layers", f64::from(self.solid_layers), 0.0, 200.0),
            ("set-infill", self.infill, 0.0, 100.0),
            ("set-number-of-skirt-lines", f64::from(self.skirt), 0.0, 20.0),
            ("set-brim", self.brim, 0.0, 50.0),
            ("set-speed-of-outer-walls", self.outer_speed, 1.0, 1000.0),
            ("set-speed-of-walls", self.wall_speed, 1.0, 1000.0),
            ("set-speed-of-infill", self.fill_speed, 1.0, 1000.0),
            ("set-speed-of-the-first-layer", self.first_speed, 1.0, 1000.0),
            ("set-travel-speed", self.travel_speed, 1.0, 2000.0),
            ("set-acceleration", self.acceleration, 10.0, 50_000.0),
            ("set-highest-flow", self.flow, 0.1, 200.0),
            ("set-shortest-layer-time", self.layer_time, 0.0, 600.0),
            ("set-heating-time", self.heating, 0.0, 7200.0),
            ("set-nozzle-temperature", self.nozzle_heat, 150.0, 320.0),
            ("set-bed-temperature", self.bed_heat, 0.0, 130.0),
            ("set-time-of-a-change", self.change, 0.0, 3600.0),
            ("set-purge", self.purge, 0.0, 5000.0),
        ];
        let is_out = |r: &Refused| !(r.1 >= r.2 && r.1 <= r.3);
        all.into_iter().find(is_out).or_else(|| {
            let is_empty = self.walls == 0 && self.infill == 0.0 && self.solid_layers == 0;
            is_empty.then_some(("set-infill-alone", 0.0, 1.0, 100.0))
        })
    }
}
