//! Geometry runs off the event loop, a few at a time, and stops when whoever asked for it goes away.

use crate::problem::ApiError;
use actix_web::rt::time::timeout;
use actix_web::web;
use kachel_engine::Watch;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::sync::Semaphore;

/// Longest time that one request may compute.
const LIMIT: Duration = Duration::from_secs(120);
/// Computations at a time: one can use 600 MB on the largest picture.
const AT_ONCE: usize = 2;
/// Jobs that are remembered by name.
const MAX_JOBS: usize = 64;

/// Starts computations and knows those under way by the name that the page gave them.
pub struct Worker {
    free: Semaphore,
    jobs: Mutex<HashMap<String, Arc<Watch>>>,
}

impl Default for Worker {
    fn default() -> Self {
        Self { free: Semaphore::new(AT_ONCE), jobs: Mutex::default() }
    }
}

/// Stops the computation when the handler's future is dropped, which is what happens when the request goes away.
struct StopOnDrop<'w> {
    worker: &'w Worker,
    name: Option<String>,
    watch: Arc<Watch>,
}

impl Drop for StopOnDrop<'_> {
    fn drop(&mut self) {
        self.watch.stop();
        if let Some(name) = &self.name {
            self.worker.jobs.lock().unwrap_or_else(PoisonError::into_inner).remove(name);
        }
    }
}

impl Worker {
    /// Runs `work` on a thread of its own.
    pub async fn run<T: Send + 'static>(
        &self,
        name: Option<String>,
        work: impl FnOnce(&Watch) -> Result<T, ApiError> + Send + 'static,
    ) -> Result<T, ApiError> {
        let watch = Arc::new(Watch::default());
        if let Some(name) = &name {
            let mut jobs = self.jobs.lock().unwrap_or_else(PoisonError::into_inner);
            if jobs.len() < MAX_JOBS {
                jobs.insert(name.clone(), Arc::clone(&watch));
            }
        }
        let guard = StopOnDrop { worker: self, name, watch };
        let _permit = self.free.acquire().await.map_err(|_| ApiError::Fault)?;
        let watch = Arc::clone(&guard.watch);
        match timeout(LIMIT, web::block(move || work(&watch))).await {
            Ok(Ok(result)) => result,
            // The closure panicked; the document on disk is untouched.
            Ok(Err(_)) => Err(ApiError::Fault),
            Err(_) => Err(ApiError::TooSlow { seconds: LIMIT.as_secs() }),
        }
    }

    /// The computation under way of that name.
    pub fn job(&self, name: &str) -> Option<Arc<Watch>> {
        self.jobs.lock().unwrap_or_else(PoisonError::into_inner).get(name).cloned()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::rt::System;
    use actix_web::rt::time::{sleep, timeout};
    use kachel_engine::{EngineError, Stage};
    use std::sync::atomic::{AtomicBool, Ordering};

    fn endless(watch: &Watch) -> Result<(), ApiError> {
        watch.enter(Stage::Solid).map_err(EngineError::from)?;
        loop {
            watch.check().map_err(EngineError::from)?;
            std::thread::sleep(Duration::from_millis(2));
        }
    }

    #[test]
    fn a_computation_stops_when_its_request_goes_away() {
        System::new().block_on(async {
            let worker = Worker::default();
            let ended = Arc::new(AtomicBool::new(false));
            let told = Arc::clone(&ended);
            let work = worker.run(Some("job".into()), move |watch| {
                let result = endless(watch);
                told.store(true, Ordering::SeqCst);
                result
            });
            // The future is dropped when the time is up, as it is when a client hangs up.
            assert!(timeout(Duration::from_millis(60), work).await.is_err());
            for _ in 0..200 {
                if ended.load(Ordering::SeqCst) {
                    break;
                }
                sleep(Duration::from_millis(5)).await;
            }
            assert!(ended.load(Ordering::SeqCst));
            assert!(worker.job("job").is_none());
        });
    }

    #[test]
    fn it_can_be_asked_how_far_it_is_and_told_to_stop() {
        System::new().block_on(async {
            let worker = Arc::new(Worker::default());
            let other = Arc::clone(&worker);
            let running = actix_web::rt::spawn(async move { other.run(Some("job".into()), endless).await });
            while worker.job("job").is_none_or(|w| w.progress().0 != Stage::Solid) {
                sleep(Duration::from_millis(2)).await;
            }
            worker.job("job").unwrap().stop();
            let result = running.await.unwrap();
            assert!(matches!(result, Err(ApiError::Engine(EngineError::Stopped(_)))), "{result:?}");
        });
    }

    #[test]
    fn a_panic_is_a_fault_and_not_the_end() {
        System::new().block_on(async {
            let worker = Worker::default();
            let result = worker.run(None, |_| -> Result<(), ApiError> { panic!("on purpose") }).await;
            assert!(matches!(result, Err(ApiError::Fault)));
            assert!(worker.run(None, |_| Ok(())).await.is_ok());
        });
    }
}
