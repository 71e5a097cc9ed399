//! The rules, one file each or a family. To add one: its file, and its name in the list below.

use crate::{Code, Finding, Object};
use kachel_design::{Edit, TierEdit, Value};
use kachel_geom::{OffGrid, Stopped};
use kachel_tiers::{Measure, MeasureSpec};

/// Why a rule could not run.
#[derive(Debug, thiserror::Error)]
pub enum Fault {
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
    /// An area that the rule needs does not fit the grid.
    #[error(transparent)]
    OffGrid(#[from] OffGrid),
}

/// One rule, or a family of them.
#[derive(Clone, Copy, Debug)]
pub struct Rule {
    /// What it looks at, to stand behind 'Check looks at'.
    pub looks_at: &'static str,
    /// Kinds of findings that it has.
    pub codes: &'static [Code],
    /// Looks, and adds what it finds.
    pub run: fn(&Object<'_>, &mut Vec<Finding>) -> Result<(), Fault>,
}

/// A rule that could not run.
pub const RULE_FAILED: Code = Code::new("rule-failed");

macro_rules! rules {
    ($($name:ident),* $(,)?) => {
        $(pub mod $name;)*

        /// All rules, in the order in which their findings are listed.
        pub const RULES: &[Rule] = &[$($name::RULE),*];
    };
}

rules![bed, heights, walls, recipe, low_tiers, finishes, filaments, loose, thin_lines, picture, changes, choices];

/// The edit that gives a measure a value.
fn set(measure: impl Into<Measure>, value: f64) -> Edit {
    TierEdit::SetMeasure { name: measure.into().name().into(), value: Value::Number(value) }.into()
}

/// A value that mends something, held within the range of the measure it is for.
fn held(o: &Object<'_>, measure: impl Into<Measure>, value: f64) -> f64 {
    let spec: Option<&MeasureSpec> = o.measures.spec(measure);
    spec.map_or(value, |s| value.clamp(s.min, s.max))
}

/// `1 place`, `3 places`.
fn counted(n: usize, one: &str, many: &str) -> String {
    if n == 1 { format!("one {one}") } else { format!("{n} {many}") }
}
