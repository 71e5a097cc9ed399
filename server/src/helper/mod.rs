//! The process that computes. The server reads no foreign file and makes no geometry itself: it hands such requests to a second
//! process of the same program, so that whatever happens there, the server goes on answering.
//!
//! | who | what |
//! |---|---|
//! | the server | pages, the shelf's lists, the printer; takes requests in and hands answers out |
//! | the helper | everything else under `/api/`, with the same handlers, on the same file |
//!
//! The helper listens on this machine only and asks for a token that nobody else knows. It ends when the server does: its standard
//! input closes then. [`keeper`] watches its memory and its time, and ends it; the next request starts another one.

mod child;
mod flights;
mod keeper;
mod own;

use crate::problem::ApiError;
use child::Running;
use flights::Flights;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use ureq::Agent;

pub use own::serve;

/// Memory that the helper may use, bytes; beyond it is ended.
const MOST_MEMORY: u64 = 1 << 30;
/// Address space that it may ask for, bytes: what asks for more at once is refused by the system.
const MOST_ADDRESSES: u64 = 6 << 30;
/// Memory above which a helper that has nothing to do makes room for a new one, bytes.
const IDLE_MEMORY: u64 = 400 << 20;
/// How long a computation may go on after it was told to stop.
const STOPS_WITHIN: Duration = Duration::from_millis(400);
/// How long a request may take: what the helper allows itself, and some.
const LONGEST: Duration = Duration::from_secs(126);
/// A computation that ended the helper so often is left alone.
const MOST_DEATHS: u32 = 2;

/// The header with the token, and the one with the name of a computation.
const TOKEN: &str = "x-kachel-token";
const JOB: &str = "x-kachel-job";

/// How the helper is started.
#[derive(Clone, Debug)]
pub struct HelperConfig {
    /// The program; it is started with `helper`.
    pub program: PathBuf,
    /// Where data lives.
    pub data: PathBuf,
    /// Where the server listens, which takes prints for the printer.
    pub server: std::net::SocketAddr,
    /// Whether it offers ways to harm it, for tests.
    pub can_be_harmed: bool,
}

/// Why there is no answer.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum HelperError {
    /// It could not be started.
    #[error("the part of Kachel that computes could not be started: {0}")]
    NotStarted(String),
    /// It ended during the computation.
    #[error("this computation ended the part of Kachel that computes; what was saved is safe")]
    Died,
    /// It needed too much memory.
    #[error("this needs more than {} MB of memory and was stopped", MOST_MEMORY >> 20)]
    TooMuchMemory,
    /// It took too long.
    #[error("this took longer than {} s and was stopped", LONGEST.as_secs())]
    TooSlow,
    /// Somebody stopped it.
    #[error("stopped")]
    Stopped,
    /// It has ended the helper before.
    #[error("the computation of this design has failed {MOST_DEATHS} times, so it is left alone")]
    LeftAlone,
}

/// A request on its way.
pub struct Asked {
    pub method: String,
    /// With its query.
    pub path: String,
    pub headers: Vec<(String, String)>,
    pub body: Vec<u8>,
    /// The name of its computation.
    pub job: String,
}

/// What came back.
pub struct Answer {
    pub status: u16,
    pub headers: Vec<(String, Vec<u8>)>,
    pub body: Vec<u8>,
}

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
            .build()
            .into();
        let helper = Arc::new(Self { config, agent, running: Mutex::default(), flights: Flights::default() });
        keeper::watch(Arc::downgrade(&helper));
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
    fn ended(&self, running: &Arc<Running>, flight: flights::Flight<'_>) -> HelperError {
        let why = running.end(HelperError::Died);
        let mut now = self.running.lock().unwrap_or_else(PoisonError::into_inner);
        if now.as_ref().is_some_and(|r| r.number == running.number) {
            *now = None;
        }
        drop(now);
        flight.crashed(why)
    }

    /// Tells a computation to stop; one that does not is ended with the helper.
    pub fn stop(&self, job: &str) {
        if self.flights.stop(job, STOPS_WITHIN)
            && let Some(running) = self.running.lock().unwrap_or_else(PoisonError::into_inner).clone()
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
        let mut running = self.running.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(r) = running.as_ref().filter(|r| r.is_alive()) {
            return Ok(Arc::clone(r));
        }
        let number = running.as_ref().map_or(0, |r| r.number) + self.flights.next_number();
        let new = Arc::new(Running::start(&self.config, number).map_err(|e| HelperError::NotStarted(e.to_string()))?);
        *running = Some(Arc::clone(&new));
        Ok(new)
    }
}

/// The design or bed that a path is about.
fn work_of(path: &str) -> Option<&str> {
    let path = path.split('?').next().unwrap_or(path);
    let rest = path.strip_prefix("/api/designs/").or_else(|| path.strip_prefix("/api/beds/"))?;
    rest.split('/').next().filter(|id| !id.is_empty())
}

/// What stays with the server: lists, the printer, what was timed. The rest of the interface goes to the helper.
pub fn stays(method: &str, path: &str) -> bool {
    let parts: Vec<&str> = path.trim_start_matches('/').split('/').collect();
    match (method, parts.as_slice()) {
        (_, ["api", "printer" | "taken" | "recipes" | "openapi.json", ..]) => true,
        (_, ["api", "shelf", "labels"]) => true,
        ("GET", ["api", "designs" | "beds" | "samples" | "workshop"]) => true,
        ("GET", ["api", "samples", _, "picture"]) => true,
        ("GET", ["api", "designs", _, "picture" | "steps" | "snapshots"]) => true,
        ("DELETE", ["api", "designs" | "beds", _] | ["api", "designs", _, "snapshots", _]) => true,
        ("POST", ["api", "designs" | "beds", _, "restore" | "rescue" | "duplicate" | "try-again"]) => true,
        (_, ["api", ..]) => false,
        _ => true,
    }
}

impl From<HelperError> for ApiError {
    fn from(e: HelperError) -> Self {
        Self::Helper(e)
    }
}

/// The path of the shelf's file.
fn shelf_in(data: &Path) -> PathBuf {
    data.join("kachel.db")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lists_stay_and_geometry_goes() {
        for (method, path) in [
            ("GET", "/"),
            ("GET", "/assets/index.js"),
            ("GET", "/api/designs"),
            ("DELETE", "/api/designs/1"),
            ("GET", "/api/printer/jobs/1/shape"),
            ("POST", "/api/beds/1/restore"),
        ] {
            assert!(stays(method, path), "{method} {path}");
        }
        for (method, path) in [
            ("POST", "/api/designs"),
            ("GET", "/api/designs/1"),
            ("GET", "/api/designs/1/thumbnail.svg"),
            ("GET", "/api/beds/1"),
            ("PUT", "/api/workshop"),
            ("GET", "/api/meshes/k"),
        ] {
            assert!(!stays(method, path), "{method} {path}");
        }
        assert_eq!(work_of("/api/designs/abc/edits?x=1"), Some("abc"));
        assert_eq!(work_of("/api/beds/b"), Some("b"));
        assert_eq!(work_of("/api/designs?x"), None);
    }
}
