//! Check: what would go wrong at the printer or at the table. Soundness gates export, by type; all of this is advice.
//!
//! Each rule, or family of rules, is a file in [`rules`]; [`RULES`] lists them. A [`Finding`] carries the edits that mend
//! it, so a mend can be several changes of the design and is one undo.
//!
//! ```
//! use kachel_check::{RULES, Weight};
//!
//! let codes: Vec<_> = RULES.iter().flat_map(|r| r.codes).collect();
//! let floats = codes.iter().find(|c| c.name() == "floats").unwrap();
//! assert_eq!(floats.weight(), Weight::Fault);
//! ```

mod finding;
mod in_use;
mod look;
mod object;
mod report;
mod round;
mod rule;
pub mod rules;
mod spread;

pub use finding::{Code, Figure, FigureUnit, Finding, Mend, Place, Weight};
pub use in_use::{Cup, InUse, Material, Standing, Tilt, Used, in_use};
pub use look::check;
pub use object::Object;
pub use report::{Looked, Report};
pub use rule::{Fault, RULE_FAILED, Rule};
pub use rules::RULES;
pub use rules::bed::SPARE_MM;

#[cfg(test)]
mod tests;
