//! Watches the helper's memory and time.

use super::{Helper, HelperError, IDLE_MEMORY, LONGEST, MOST_MEMORY};
use std::sync::{PoisonError, Weak};
use std::time::Duration;

/// So often.
const EVERY: Duration = Duration::from_millis(50);

/// Goes on until the server is closed.
pub(super) fn watch(helper: Weak<Helper>) {
    std::thread::spawn(move || {
        loop {
            std::thread::sleep(EVERY);
            let Some(helper) = helper.upgrade() else { return };
            let running = helper.running.lock().unwrap_or_else(PoisonError::into_inner).clone();
            let Some(running) = running else { continue };
            let memory = running.memory().unwrap_or_default();
            if memory > MOST_MEMORY {
                running.end(HelperError::TooMuchMemory);
            } else if let Some(why) = helper.flights.overdue(running.number, LONGEST) {
                running.end(why);
            } else if memory > IDLE_MEMORY && helper.flights.is_idle(running.number) {
                // What it remembers goes with it; the next request starts one that remembers nothing.
                let mut now = helper.running.lock().unwrap_or_else(PoisonError::into_inner);
                if helper.flights.is_idle(running.number) {
                    *now = None;
                }
            }
        }
    });
}
