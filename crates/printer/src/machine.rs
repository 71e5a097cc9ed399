//! What the printer is doing, and what becomes of it as time goes by. Nothing here knows clocks or files.

use crate::plan::{Head, usual_heat};
use kachel_words::{msg, said};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

// Temperatures of a room, and how fast they change: common practice, no source.
/// The room, degrees Celsius.
const ROOM: f64 = 22.0;
/// Degrees a second, nozzle and plate.
const WARMING: [f64; 2] = [2.5, 0.4];
/// Seconds in which two thirds of the way to the room's temperature are gone, nozzle and plate.
const COOLING: [f64; 2] = [120.0, 600.0];
/// A print lets go of a plate that is colder, degrees Celsius.
const LETS_GO: f64 = 40.0;
/// This printer takes longer than planned, as real ones do: its corners are rounder and its fans slower.
const PACE: f64 = 1.05;
/// The same while it heats; it also finds its corners and levels the plate.
const HEATING_PACE: f64 = 1.25;

/// How many times as fast as real the printer may run.
pub const SPEEDS: (f64, f64) = (1.0, 600.0);

/// What can go wrong on purpose, so that makers learn what happens.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Failure {
    /// The spool is empty.
    FilamentOut,
    /// The first layer lets go of the plate.
    CameLoose,
    /// The power is cut.
    PowerCut,
}

/// How a job ended.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Outcome {
    /// All of it was printed.
    Finished,
    /// Somebody stopped it.
    Stopped,
    /// It came loose.
    Failed,
}

/// What the printer is doing.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum State {
    /// Nothing; the bed is clear.
    #[default]
    Idle,
    /// Bed and nozzle become hot.
    Heating,
    /// It lays lines.
    Printing,
    /// It waits for a change of filament, or for something to be put in.
    Waiting,
    /// Somebody paused it.
    Paused,
    /// The filament has run out.
    FilamentOut,
    /// The print has come loose.
    CameLoose,
    /// It has no power.
    Off,
    /// It is done; the print lies on the bed until somebody takes it off.
    Ended,
}

/// What somebody does to the printer.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Order {
    /// Halts it until it goes on.
    Pause,
    /// What it waits for is done, or the power is back.
    GoOn,
    /// Ends the job.
    Stop,
    /// The bed is clear.
    Clear,
}

impl Order {
    /// All orders.
    pub const ALL: [Self; 4] = [Self::Pause, Self::GoOn, Self::Stop, Self::Clear];

    const fn code(self) -> &'static str {
        match self {
            Self::Pause => "order-pause",
            Self::GoOn => "order-go-on",
            Self::Stop => "order-stop",
            Self::Clear => "order-clear",
        }
    }
}

/// The printer cannot do that now.
#[derive(Debug, PartialEq, Eq, thiserror::Error)]
pub struct NotNow {
    /// What it was told to do, and what it does: the codes of their messages.
    what: &'static str,
    state: &'static str,
}

said!(NotNow: |e| msg!("not-now", what = msg!(e.what), state = msg!(e.state)));

/// The printer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Machine {
    pub state: State,
    /// The job on the bed.
    pub job: Option<String>,
    /// How far the job is, in seconds of its plan.
    pub done: f64,
    /// Stops of the plan that lie behind it.
    pub passed: usize,
    /// How many times as fast as real it runs.
    pub speed: f64,
    /// Nozzle and plate, degrees Celsius.
    pub temperatures: [f64; 2],
    /// How hot both are kept for this job, degrees Celsius.
    #[serde(default = "usual_heat")]
    pub heat: [f64; 2],
    /// Seconds in which it heated and moved.
    pub took: f64,
    /// Seconds in which it waited for somebody.
    pub waited: f64,
    pub outcome: Option<Outcome>,
}

impl Default for Machine {
    fn default() -> Self {
        Self {
            state: State::Idle,
            job: None,
            done: 0.0,
            passed: 0,
            speed: SPEEDS.0,
            temperatures: [ROOM; 2],
            heat: usual_heat(),
            took: 0.0,
            waited: 0.0,
            outcome: None,
        }
    }
}

impl Machine {
    /// Begins a job.
    pub fn start(&mut self, job: String, heat: [f64; 2]) {
        let (speed, temperatures) = (self.speed, self.temperatures);
        *self = Self { state: State::Heating, job: Some(job), speed, temperatures, heat, ..Self::default() };
    }

    /// Lets so many of the printer's own seconds go by. `head` is of the job on the bed.
    pub fn advance(&mut self, head: Option<&Head>, seconds: f64) {
        let mut left = seconds;
        while left > 0.0 {
            let is_waiting = matches!(self.state, State::Waiting | State::Paused | State::FilamentOut);
            let is_hot = self.is_hot();
            let gone = match (self.state, head) {
                (State::Heating, Some(h)) => self.heat(h, left),
                (State::Printing, Some(h)) => self.print(h, left),
                _ => left,
            };
            self.warm(gone, is_hot);
            if is_waiting {
                self.waited += gone;
            }
            left -= gone;
        }
    }

    fn heat(&mut self, h: &Head, left: f64) -> f64 {
        let planned = (h.heating - self.done).max(0.0) * HEATING_PACE;
        let warming = (0..2).map(|k| (self.heat[k] - self.temperatures[k]).max(0.0) / WARMING[k]).fold(0.0, f64::max);
        let gone = planned.max(warming).min(left);
        self.done = self.done.max((self.done + gone / HEATING_PACE).min(h.heating));
        self.took += gone;
        if gone < left {
            self.state = State::Printing;
        }
        gone
    }

    fn print(&mut self, h: &Head, left: f64) -> f64 {
        let end = h.seconds();
        let stop = h.stops.get(self.passed).filter(|s| s.at <= end);
        let until = stop.map_or(end, |s| s.at.max(self.done));
        let needed = (until - self.done).max(0.0) * PACE;
        if needed > left {
            self.done += left / PACE;
            self.took += left;
            return left;
        }
        self.done = until;
        self.took += needed;
        match stop {
            Some(s) if s.by_itself => self.passed += 1,
            Some(_) => self.state = State::Waiting,
            None => self.end(Outcome::Finished),
        }
        needed
    }

    fn warm(&mut self, seconds: f64, is_hot: bool) {
        for k in 0..2 {
            let t = &mut self.temperatures[k];
            *t = if is_hot {
                (*t + WARMING[k] * seconds).min(self.heat[k].max(*t))
            } else {
                ROOM + (*t - ROOM) * (-seconds / COOLING[k]).exp()
            };
        }
    }

    fn end(&mut self, outcome: Outcome) {
        self.state = State::Ended;
        self.outcome = Some(outcome);
    }

    /// Whether bed and nozzle are kept hot.
    pub const fn is_hot(&self) -> bool {
        !matches!(self.state, State::Idle | State::Ended | State::CameLoose | State::Off)
    }

    /// Whether an order can be given now.
    pub const fn can(&self, order: Order) -> bool {
        use State as S;
        match order {
            Order::Pause => matches!(self.state, S::Heating | S::Printing),
            Order::GoOn => matches!(self.state, S::Waiting | S::Paused | S::FilamentOut | S::Off),
            Order::Stop => !matches!(self.state, S::Idle | S::Ended),
            Order::Clear => matches!(self.state, S::Ended),
        }
    }

    /// Whether this can go wrong now.
    pub const fn can_fail(&self, failure: Failure) -> bool {
        match failure {
            Failure::FilamentOut | Failure::CameLoose => matches!(self.state, State::Printing),
            Failure::PowerCut => !matches!(self.state, State::Idle | State::Ended | State::Off | State::CameLoose),
        }
    }

    /// Does what somebody says.
    pub fn order(&mut self, order: Order, head: Option<&Head>) -> Result<(), NotNow> {
        if !self.can(order) {
            return Err(self.not_now(order.code()));
        }
        match order {
            Order::Pause => self.state = State::Paused,
            Order::Stop => {
                self.end(if self.state == State::CameLoose { Outcome::Failed } else { Outcome::Stopped });
            }
            Order::Clear => {
                let (speed, temperatures) = (self.speed, self.temperatures);
                *self = Self { speed, temperatures, ..Self::default() };
            }
            Order::GoOn => self.go_on(head),
        }
        Ok(())
    }

    fn go_on(&mut self, head: Option<&Head>) {
        let is_heated = head.is_none_or(|h| self.done >= h.heating);
        match self.state {
            State::Waiting => {
                self.passed += 1;
                self.state = State::Printing;
            }
            // It came loose while the plate was cold.
            State::Off if is_heated && self.temperatures[1] < LETS_GO => self.state = State::CameLoose,
            State::Off => {
                if let Some((h, layer)) = head.and_then(|h| Some((h, h.layer_at(self.done)?))) {
                    self.done = h.begins(layer);
                    self.passed = h.stops.iter().filter(|s| s.at < self.done).count();
                }
                self.state = State::Heating;
            }
            _ => self.state = if is_heated { State::Printing } else { State::Heating },
        }
    }

    /// Lets something go wrong.
    pub fn fail(&mut self, failure: Failure) -> Result<(), NotNow> {
        if !self.can_fail(failure) {
            return Err(self.not_now("order-fail"));
        }
        self.state = match failure {
            Failure::FilamentOut => State::FilamentOut,
            Failure::CameLoose => State::CameLoose,
            Failure::PowerCut => State::Off,
        };
        Ok(())
    }

    /// How long the rest takes without anybody waited for, s.
    pub fn left(&self, h: &Head) -> f64 {
        (h.heating - self.done).max(0.0) * HEATING_PACE + (h.seconds() - self.done.max(h.heating)).max(0.0) * PACE
    }

    fn not_now(&self, what: &'static str) -> NotNow {
        let state = match self.state {
            State::Idle => "doing-nothing",
            State::Heating => "doing-heating",
            State::Printing => "doing-printing",
            State::Waiting => "doing-waiting",
            State::Paused => "doing-paused",
            State::FilamentOut => "doing-filament-out",
            State::CameLoose => "doing-came-loose",
            State::Off => "doing-off",
            State::Ended => "doing-ended",
        };
        NotNow { what, state }
    }
}

#[cfg(test)]
mod tests;
