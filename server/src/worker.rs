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
