//! Requests that the helper works at, and what became of them.

use super::held::held;
use super::model::HelperError;
use std::collections::HashMap;
use std::sync::Mutex;
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant};

/// Designs whose computation has failed are remembered, so many at the most.
const MOST_REMEMBERED: usize = 10_000;

#[derive(Default)]
pub(super) struct Flights {
    under_way: Mutex<HashMap<u64, State>>,
    deaths: Mutex<HashMap<String, u32>>,
    next: AtomicU64,
}

struct State {
    helper: u64,
    job: String,
    since: Instant,
    /// When it has to have ended, where it was told to stop.
    until: Option<Instant>,
}

/// A request that the helper works at.
pub(super) struct Flight<'f> {
    all: &'f Flights,
    number: u64,
    work: Option<String>,
}

impl Flights {
    pub fn next_number(&self) -> u64 {
        self.next.fetch_add(1, Ordering::Relaxed) + 1
    }

    pub fn begin(&self, helper: u64, job: &str, work: Option<&str>) -> Flight<'_> {
        let number = self.next_number();
        let state = State { helper, job: job.into(), since: Instant::now(), until: None };
        held(&self.under_way).insert(number, state);
        Flight { all: self, number, work: work.map(Into::into) }
    }

    /// Tells all of this name to end within a time; whether there are any.
    pub fn stop(&self, job: &str, within: Duration) -> bool {
        let mut under_way = held(&self.under_way);
        let mine = under_way.values_mut().filter(|s| s.job == job);
        mine.map(|s| _ = s.until.get_or_insert_with(|| Instant::now() + within)).count() > 0
    }

    /// Why this helper has to be ended: something in it does not stop, or takes too long.
    pub fn overdue(&self, helper: u64, longest: Duration) -> Option<HelperError> {
        let now = Instant::now();
        let under_way = held(&self.under_way);
        let mine = || under_way.values().filter(|s| s.helper == helper);
        if mine().any(|s| s.until.is_some_and(|until| until < now)) {
            return Some(HelperError::Stopped);
        }
        mine().any(|s| now - s.since > longest).then_some(HelperError::TooSlow)
    }

    pub fn is_idle(&self, helper: u64) -> bool {
        !held(&self.under_way).values().any(|s| s.helper == helper)
    }

    pub fn deaths(&self, work: &str) -> u32 {
        held(&self.deaths).get(work).copied().unwrap_or_default()
    }

    pub fn forgive(&self, work: &str) {
        held(&self.deaths).remove(work);
    }
}

impl Flight<'_> {
    /// It was answered: its design is sound.
    pub fn landed(self) {
        if let Some(work) = &self.work {
            self.all.forgive(work);
        }
    }

    /// The helper ended for this reason. Others may have been the cause: what they ask again alone clears their names.
    pub fn crashed(self, why: HelperError) -> HelperError {
        let was_told = held(&self.all.under_way).get(&self.number).is_some_and(|s| s.until.is_some());
        let why = match why {
            // Somebody else's computation did not stop.
            HelperError::Stopped if !was_told => HelperError::Died,
            _ if was_told => HelperError::Stopped,
            why => why,
        };
        let counts = matches!(why, HelperError::Died | HelperError::TooMuchMemory);
        if let Some(work) = self.work.as_ref().filter(|_| counts) {
            let mut deaths = held(&self.all.deaths);
            if deaths.len() < MOST_REMEMBERED {
                *deaths.entry(work.clone()).or_default() += 1;
            }
        }
        why
    }
}

impl Drop for Flight<'_> {
    fn drop(&mut self) {
        held(&self.all.under_way).remove(&self.number);
    }
}
