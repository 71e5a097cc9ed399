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
mod tests {
    use super::*;
    use crate::plan::{PlanFilament, PlanStop};

    /// Four layers of 100 s after 100 s of heating, with a change that needs somebody before the third.
    fn head() -> Head {
        let filament = |name: &str| PlanFilament { name: name.into(), colour: [0; 3], grams: 1.0 };
        Head {
            printer: "Practice printer".into(),
            bed: [220.0, 220.0],
            heating: 100.0,
            heat: usual_heat(),
            filaments: vec![filament("Celadon"), filament("Cobalt")],
            begins_with: 0,
            tops: vec![0.2, 0.4, 0.6, 0.8],
            untils: vec![200.0, 300.0, 400.0, 500.0],
            stops: vec![PlanStop {
                at: 300.0,
                layer: 3,
                what: "Change to Cobalt".into(),
                filament: Some(1),
                by_itself: false,
            }],
        }
    }

    fn started() -> Machine {
        let mut m = Machine::default();
        m.start("job".into(), usual_heat());
        m
    }

    #[test]
    fn a_job_heats_prints_waits_for_its_change_and_ends() {
        let (h, mut m) = (head(), started());
        m.advance(Some(&h), 60.0);
        assert_eq!(m.state, State::Heating);
        m.advance(Some(&h), 60.0);
        assert_eq!((m.state, m.temperatures), (State::Heating, [210.0, 60.0]), "125 s in all");
        m.advance(Some(&h), 1000.0);
        assert_eq!((m.state, m.done), (State::Waiting, 300.0));
        assert_eq!((h.layer_at(m.done), h.filament_at(m.done).name.as_str()), (Some(1), "Celadon"));
        // 200 s of plan in 210 s; what is over is waiting.
        assert!((m.took - 335.0).abs() < 1e-9 && (m.waited - 785.0).abs() < 1e-9, "{m:?}");
        m.order(Order::GoOn, Some(&h)).unwrap();
        m.advance(Some(&h), 1.0);
        assert_eq!(h.filament_at(m.done).name, "Cobalt");
        assert!((m.left(&h) - 209.0).abs() < 1e-9);
        m.advance(Some(&h), 300.0);
        assert_eq!((m.state, m.outcome, m.done), (State::Ended, Some(Outcome::Finished), 500.0));
        assert!((m.took - 545.0).abs() < 1e-9);
        assert!(m.temperatures[0] < 210.0, "it cools");
        m.order(Order::Clear, Some(&h)).unwrap();
        assert_eq!((m.state, m.job), (State::Idle, None));
    }

    #[test]
    fn however_time_is_cut_the_same_comes_out() {
        let h = head();
        let run = |steps: &[f64]| {
            let mut m = started();
            steps.iter().for_each(|s| m.advance(Some(&h), *s));
            m
        };
        let (one, many) = (run(&[200.0]), run(&[0.5; 400]));
        assert_eq!(one.state, many.state);
        assert!((one.done - many.done).abs() < 1e-6 && (one.took - many.took).abs() < 1e-6, "{one:?} {many:?}");
        assert!((one.temperatures[1] - many.temperatures[1]).abs() < 1e-6);
    }

    #[test]
    fn a_change_that_the_printer_makes_itself_does_not_halt_it() {
        let mut h = head();
        h.stops[0].by_itself = true;
        let mut m = started();
        m.advance(Some(&h), 10_000.0);
        assert_eq!((m.outcome, m.waited), (Some(Outcome::Finished), 0.0));
    }

    #[test]
    fn it_is_paused_goes_on_and_is_stopped() {
        let (h, mut m) = (head(), started());
        m.advance(Some(&h), 50.0);
        for _ in 0..2 {
            m.order(Order::Pause, Some(&h)).unwrap();
            let before = m.done;
            m.advance(Some(&h), 500.0);
            assert_eq!((m.state, m.done), (State::Paused, before));
            m.order(Order::GoOn, Some(&h)).unwrap();
            m.advance(Some(&h), 100.0);
        }
        assert_eq!(m.state, State::Printing);
        assert_eq!(
            m.order(Order::Clear, Some(&h)).unwrap_err().to_string(),
            "The printer cannot be cleared while it prints"
        );
        m.order(Order::Stop, Some(&h)).unwrap();
        assert_eq!((m.state, m.outcome), (State::Ended, Some(Outcome::Stopped)));
        assert!(m.order(Order::GoOn, Some(&h)).is_err() && m.fail(Failure::PowerCut).is_err());
    }

    #[test]
    fn filament_that_runs_out_halts_it_and_a_new_spool_lets_it_go_on() {
        let (h, mut m) = (head(), started());
        assert!(m.fail(Failure::FilamentOut).is_err(), "nothing runs while it heats");
        m.advance(Some(&h), 150.0);
        m.fail(Failure::FilamentOut).unwrap();
        let before = m.done;
        m.advance(Some(&h), 3600.0);
        assert_eq!((m.state, m.done), (State::FilamentOut, before));
        m.order(Order::GoOn, Some(&h)).unwrap();
        m.advance(Some(&h), 10.0);
        assert!(m.done > before);
    }

    #[test]
    fn a_loose_print_can_only_be_stopped() {
        let (h, mut m) = (head(), started());
        m.advance(Some(&h), 150.0);
        m.fail(Failure::CameLoose).unwrap();
        assert!(m.order(Order::GoOn, Some(&h)).is_err());
        m.order(Order::Stop, Some(&h)).unwrap();
        assert_eq!(m.outcome, Some(Outcome::Failed));
    }

    #[test]
    fn after_a_power_cut_it_begins_its_layer_again_unless_the_plate_has_grown_cold() {
        let cut = |for_seconds: f64| {
            let (h, mut m) = (head(), started());
            // In the second layer.
            m.advance(Some(&h), 125.0 + 1.05 * 150.0);
            m.fail(Failure::PowerCut).unwrap();
            m.advance(Some(&h), for_seconds);
            m.order(Order::GoOn, Some(&h)).unwrap();
            (h, m)
        };
        let (h, mut m) = cut(30.0);
        assert_eq!((m.state, m.done), (State::Heating, 200.0));
        m.advance(Some(&h), 600.0);
        assert_eq!((m.state, m.done), (State::Waiting, 300.0));
        // 38 degrees over the room fall to 18 in 600 s ln(38 / 18) = 448 s (Newton's law of cooling).
        assert_eq!(cut(440.0).1.state, State::Heating);
        assert_eq!(cut(460.0).1.state, State::CameLoose);
    }
}
