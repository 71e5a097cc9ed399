use std::sync::{Mutex, MutexGuard, PoisonError};

/// What a lock guards, also where somebody panicked over it: nothing here is left half done.
pub(super) fn held<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}
