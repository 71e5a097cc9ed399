//! The practice printer: a simulated device that heats, prints layer by layer in its own time, halts where somebody has to be there,
//! and can be told to fail. It keeps its queue in a file of its own, and knows nothing of designs: a [`Plan`] is all that it gets.
//!
//! ```
//! use kachel_printer::{Order, Plan, PlanFilament, PlanLayer, Practice, State};
//! use std::time::Duration;
//!
//! # let path = std::env::temp_dir().join(format!("kachel-printer-{}", std::process::id()));
//! let printer = Practice::open(&path)?;
//! printer.send(&Plan {
//!     name: "Leaf".into(),
//!     printer: "Practice printer".into(),
//!     bed: [220.0, 220.0],
//!     heating: 180.0,
//!     filaments: vec![PlanFilament { name: "Celadon".into(), colour: [169, 203, 176], grams: 4.0 }],
//!     heat: [210.0, 60.0],
//!     begins_with: 0,
//!     layers: vec![PlanLayer { top: 0.2, until: 300.0, groups: vec![] }],
//!     stops: vec![],
//! })?;
//! assert_eq!(printer.view()?.state, State::Heating);
//! printer.let_pass(Duration::from_secs(600))?;
//! assert_eq!(printer.view()?.headline, "Finished");
//! printer.order(Order::Clear)?;
//! # for end in ["", "-wal", "-shm"] {
//! #     let _ = std::fs::remove_file(format!("{}{end}", path.display()));
//! # }
//! # Ok::<(), kachel_printer::PrinterError>(())
//! ```

mod machine;
mod plan;
mod practice;
mod schema;
mod store;
mod view;

pub use machine::{Failure, NotNow, Order, Outcome, SPEEDS, State};
pub use plan::{Plan, PlanError, PlanFilament, PlanGroup, PlanLayer, PlanLines, PlanStop};
pub use practice::{Practice, PrinterError};
pub use store::{MAX_WAITING, StoreError};
pub use view::{JobItem, PrinterView, ShapeLayer, WorkView};

#[cfg(test)]
mod tests;
