//! The helper, seen from the server: started where it is needed, asked, watched, ended.

use super::child::Running;
use super::flights::{Flight, Flights};
use super::held::held;
use super::model::{Answer, Asked, HelperConfig, HelperError, IDLE_LINE, LONGEST, MOST_DEATHS, MOST_MEMORY};
use super::routes::work_of;
use std::sync::{Arc, Mutex, Weak};
use std::time::Duration;
use ureq::Agent;

/// Memory above which a helper that has nothing to do makes room for a new one, bytes.
const IDLE_MEMORY: u64 = 400 << 20;
/// How long a computation may go on after it was told to stop.
const STOPS_WITHIN: Duration = Duration::from_millis(400);
/// Its memory and its time are looked at so often.
const EVERY: Duration = Duration::from_millis(50);

/// The helper, seen from the server.
pub struct Helper {
    config: HelperConfig,
    agent: Agent,
    running: Mutex<Option<Arc<Running>>>,
    flights: Flights,
}

impl Helper {
    /// One that is started with the first request, or by [`Helper::warm_up`].
    pub fn new(config: HelperConfig) -> Arc<Self> {
        let agent = Agent::config_builder()
            .http_status_as_error(false)
            .max_idle_connections_per_host(32)
            .max_idle_connections(32)
            .max_idle_age(IDLE_LINE)
            .build()
            .into();
        let helper = Arc::new(Self { config, agent, running: Mutex::default(), flights: Flights::default() });
        watch(Arc::downgrade(&helper));
        helper
    }

    /// Starts it, so that the first request does not wait for that.
    pub fn warm_up(&self) {
        if let Err(e) = self.running() {
            eprintln!("kachel: {e}");
        }
    }

    /// Asks it. Where it ends meanwhile, what changes nothing is asked once more.
    pub fn ask(&self, asked: &Asked) -> Result<Answer, HelperError> {
        let work = work_of(&asked.path);
        if work.is_some_and(|w| self.flights.deaths(w) >= MOST_DEATHS) {
            return Err(HelperError::LeftAlone);
        }
        let changes_nothing =
            asked.method == "GET" || asked.path.split('?').next().is_some_and(|p| p.ends_with("/preview"));
        let first = self.ask_once(asked, work);
        match first {
            Err(HelperError::Died | HelperError::TooMuchMemory)
                if changes_nothing && work.is_none_or(|w| self.flights.deaths(w) < MOST_DEATHS) =>
            {
                self.ask_once(asked, work)
            }
            done => done,
        }
    }

    fn ask_once(&self, asked: &Asked, work: Option<&str>) -> Result<Answer, HelperError> {
        let running = self.running()?;
        let flight = self.flights.begin(running.number, &asked.job, work);
        match running.ask(&self.agent, asked) {
            Ok(answer) => {
                flight.landed();
                Ok(answer)
            }
            Err(_) => Err(self.ended(&running, flight)),
        }
    }

    /// Why a helper gave no answer; it is taken out of service.
    fn ended(&self, running: &Arc<Running>, flight: Flight<'_>) -> HelperError {
        let why = running.end(HelperError::Died);
        let mut now = held(&self.running);
        if now.as_ref().is_some_and(|r| r.number == running.number) {
            *now = None;
        }
        drop(now);
        flight.crashed(why)
    }

    /// Tells a computation to stop; one that does not is ended with the helper.
    pub fn stop(&self, job: &str) {
        if self.flights.stop(job, STOPS_WITHIN)
            && let Some(running) = held(&self.running).clone()
        {
            running.tell_to_stop(&self.agent, job);
        }
    }

    /// Lets a design be computed again that was left alone.
    pub fn forgive(&self, work: &str) {
        self.flights.forgive(work);
    }

    /// Whether a design is left alone.
    pub fn leaves_alone(&self, work: &str) -> bool {
        self.flights.deaths(work) >= MOST_DEATHS
    }

    /// The helper, started where there is none.
    fn running(&self) -> Result<Arc<Running>, HelperError> {
        let mut running = held(&self.running);
        if let Some(r) = running.as_ref().filter(|r| r.is_alive()) {
            return Ok(Arc::clone(r));
        }
        let number = self.flights.next_number();
        let new = Arc::new(Running::start(&self.config, number).map_err(|e| HelperError::NotStarted(e.to_string()))?);
        *running = Some(Arc::clone(&new));
        Ok(new)
    }
}

/// Goes on until the server is closed.
fn watch(helper: Weak<Helper>) {
    std::thread::spawn(move || {
        loop {
            std::thread::sleep(EVERY);
            let Some(helper) = helper.upgrade() else { return };
            let running = held(&helper.running).clone();
            let Some(running) = running else { continue };
            let memory = running.memory().unwrap_or_default();
            if memory > MOST_MEMORY {
                running.end(HelperError::TooMuchMemory);
            } else if let Some(why) = helper.flights.overdue(running.number, LONGEST) {
                running.end(why);
            } else if memory > IDLE_MEMORY && helper.flights.is_idle(running.number) {
                // What it remembers goes with it; the next request starts one that remembers nothing.
                let mut now = held(&helper.running);
                if helper.flights.is_idle(running.number) {
                    *now = None;
                }
            }
        }
    });
}
