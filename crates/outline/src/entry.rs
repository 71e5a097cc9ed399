use crate::change::Change;
use crate::parts::Seen;
use crate::spot::Spot;
use serde::{Deserialize, Serialize};

/// An entry of the list.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Entry {
    /// Its name within the design; never used again.
    pub id: u32,
    /// Whether it is applied.
    pub is_on: bool,
    /// What it does.
    pub change: Change,
}

/// An entry that does not do all that it was meant to.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Astray {
    /// The entry.
    pub id: u32,
    /// Those of its patches that are gone.
    pub lost: Vec<Spot>,
    /// Whether it leaves nothing of what it works on.
    pub is_empty: bool,
    /// What its patch is like now, where the picture has moved on since its nodes were taken over.
    pub moved_on: Option<Seen>,
    /// Distance of the two ends of a line that is open and has no width, mm.
    pub gap: Option<f64>,
    /// Letters that its face does not have.
    pub missing: Vec<char>,
}

impl Astray {
    /// Whether there is anything to be said.
    pub(crate) fn is_something(&self) -> bool {
        *self != Self { id: self.id, ..Self::default() }
    }
}
