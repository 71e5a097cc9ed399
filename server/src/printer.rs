//! The practice printer beside the shelf, opened when it is needed.

use kachel_printer::{Practice, PrinterError};
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};

/// Where the printer is. Its file may be missing or in use by another; what has to do with it then says so, the rest goes on.
pub struct Port {
    path: PathBuf,
    open: Mutex<Option<Arc<Practice>>>,
}

impl Port {
    /// A printer whose memory is this file.
    pub fn at(path: PathBuf) -> Self {
        Self { path, open: Mutex::default() }
    }

    /// The printer.
    pub fn printer(&self) -> Result<Arc<Practice>, PrinterError> {
        let mut open = self.open.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(printer) = &*open {
            return Ok(Arc::clone(printer));
        }
        let printer = Arc::new(Practice::open(&self.path)?);
        *open = Some(Arc::clone(&printer));
        Ok(printer)
    }
}
