//! What is seen of the printer.

use crate::machine::{Failure, Machine, Order, Outcome, SPEEDS, State};
use crate::plan::{Head, PlanFilament, PlanGroup, PlanStop};
use crate::store::Row;
use kachel_words::{Message, msg};
use serde::Serialize;
use ts_rs::TS;

/// The printer at work.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PrinterView {
    /// What it is doing.
    pub state: State,
    /// The same in words.
    pub headline: String,
    /// What happened and what to do, where there is something to say.
    pub advice: Option<String>,
    /// What it can be told now.
    pub orders: Vec<Order>,
    /// What can go wrong now.
    pub failures: Vec<Failure>,
    /// The nozzle's temperature, degrees Celsius.
    pub nozzle: f64,
    /// What it is to be.
    pub nozzle_to: f64,
    /// The plate's temperature, degrees Celsius.
    pub plate: f64,
    /// What it is to be.
    pub plate_to: f64,
    /// How many times as fast as real it runs.
    pub speed: f64,
    /// The least and the most of that.
    pub speeds: [f64; 2],
    /// What lies on the bed.
    pub job: Option<WorkView>,
    /// What waits, the next first.
    pub queue: Vec<JobItem>,
    /// What has ended, the last first.
    pub ended: Vec<JobItem>,
}

/// The job on the bed.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct WorkView {
    /// Its name for the program.
    pub id: String,
    /// What is printed.
    pub name: String,
    /// The bed that it was planned for: width and depth, mm.
    pub bed: [f64; 2],
    /// The layer in hand, 1 being the lowest; 0 before the first.
    pub layer: usize,
    /// How much of that layer is laid, 0 to 1.
    pub share_of_layer: f64,
    /// How many layers it has.
    pub layers: usize,
    /// Upper end of the layer in hand, mm.
    pub height: f64,
    /// How much of all is done, 0 to 1.
    pub share: f64,
    /// How long the rest takes at the speed of a real printer, s; waiting is left out.
    pub left: f64,
    /// In which the printer heated and moved, s.
    pub took: f64,
    /// The filament that is loaded.
    pub filament: PlanFilament,
    /// What somebody has to do next, and when, s from the start.
    pub next: Option<PlanStop>,
}

/// A layer of a job from outside: the lines that are seen.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct ShapeLayer {
    /// Its number, 1 being the lowest.
    pub number: usize,
    /// Its upper end above the bed, mm.
    pub top: f64,
    /// Its outermost lines.
    pub groups: Vec<PlanGroup>,
}

/// A job that waits, or has ended.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct JobItem {
    /// Its name for the program.
    pub id: String,
    /// What is printed.
    pub name: String,
    /// The printer that it was planned for, as the workshop calls it.
    pub printer: String,
    /// How long it was planned to take, s.
    pub seconds: f64,
    /// How much filament it takes, g.
    pub grams: f64,
    /// How it ended; none while it waits.
    pub outcome: Option<Outcome>,
    /// In which the printer heated and moved, s; waiting is left out.
    pub took: f64,
    /// In which it waited for somebody, s.
    pub waited: f64,
}

pub(crate) fn item(r: Row) -> JobItem {
    JobItem {
        seconds: r.head.seconds(),
        printer: r.head.printer.clone(),
        grams: r.head.filaments.iter().map(|f| f.grams).sum(),
        id: r.id,
        name: r.name,
        outcome: r.outcome,
        took: r.took,
        waited: r.waited,
    }
}

pub(crate) fn view(m: &Machine, job: Option<(&str, &Head)>, queue: Vec<JobItem>, ended: Vec<JobItem>) -> PrinterView {
    let to = |hot: f64| if m.is_hot() { hot } else { 0.0 };
    let work = job.zip(m.job.as_ref()).map(|((name, h), id)| work(m, id, name, h));
    let said = words(m, job.map(|j| j.1), work.as_ref());
    let advice = said.part("advice").map(|advice| advice.to_string());
    let headline = said.to_string();
    PrinterView {
        state: m.state,
        headline,
        advice,
        orders: Order::ALL.into_iter().filter(|o| m.can(*o)).collect(),
        failures: [Failure::FilamentOut, Failure::CameLoose, Failure::PowerCut]
            .into_iter()
            .filter(|f| m.can_fail(*f))
            .collect(),
        nozzle: m.temperatures[0],
        nozzle_to: to(m.heat[0]),
        plate: m.temperatures[1],
        plate_to: to(m.heat[1]),
        speed: m.speed,
        speeds: [SPEEDS.0, SPEEDS.1],
        job: work,
        queue,
        ended,
    }
}

fn work(m: &Machine, id: &str, name: &str, h: &Head) -> WorkView {
    let layer = h.layer_at(m.done);
    let share_of_layer = layer.map_or(0.0, |k| {
        let (from, to) = (h.begins(k), h.untils[k]);
        if to > from { ((m.done - from) / (to - from)).clamp(0.0, 1.0) } else { 1.0 }
    });
    WorkView {
        id: id.into(),
        name: name.into(),
        bed: h.bed,
        layer: layer.map_or(0, |k| k + 1),
        share_of_layer,
        layers: h.untils.len(),
        height: layer.map_or(0.0, |k| h.tops[k]),
        share: if h.seconds() > 0.0 { m.done / h.seconds() } else { 1.0 },
        left: m.left(h),
        took: m.took,
        filament: h.filament_at(m.done).clone(),
        next: h.stops.iter().skip(m.passed).find(|s| !s.by_itself).cloned(),
    }
}

/// What the printer would say. The part `advice` is what to do about it.
fn words(m: &Machine, h: Option<&Head>, w: Option<&WorkView>) -> Message {
    let at = w.map_or(0, |w| w.layer);
    match m.state {
        State::Idle => msg!("bed-is-clear"),
        State::Heating => msg!("it-heats"),
        State::Printing => msg!("it-prints", layer = at, layers = w.map_or(0, |w| w.layers)),
        State::Waiting => {
            let what = h.and_then(|h| h.stops.get(m.passed)).map(|s| msg!("just", value = &s.what));
            msg!("it-waits", what = what.unwrap_or(msg!("it-only-waits")))
        }
        State::Paused => msg!("it-is-paused"),
        State::FilamentOut => msg!("filament-has-run-out"),
        State::CameLoose if at <= 1 => msg!("print-is-loose"),
        State::CameLoose => msg!("print-is-loose-in", layer = at),
        State::Off => msg!("power-is-off"),
        State::Ended => match m.outcome {
            Some(Outcome::Finished) => msg!("print-finished"),
            Some(Outcome::Failed) => msg!("print-failed"),
            _ => msg!("print-stopped"),
        },
    }
}
