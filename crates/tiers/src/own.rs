//! The maker's own tiers.

use crate::finish::Finish;
use crate::tie::Tie;
use kachel_outline::Spot;
use kachel_words::{Message, mm, msg, span};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// What a design says of its tiers beside the measures.
#[derive(Clone, Debug, Default)]
pub struct Given {
    /// Filaments of tiers, by the tiers' keys.
    pub filaments: BTreeMap<String, String>,
    /// Filaments of patches, by their places in the outline.
    pub paints: BTreeMap<usize, String>,
    /// The filament of everything else.
    pub filament: String,
    /// The maker's own tiers, after the recipe's.
    pub own: Vec<OwnTier>,
    /// The maker's own tie bars, mm in the outline's frame; `None` ties by itself.
    pub bars: Option<Vec<Tie>>,
}

/// Most own tiers of a design.
pub const MAX_OWN: usize = 60;

/// What an own tier stands on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "of", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Footprint {
    /// The object's edge, filled.
    Edge,
    /// All details.
    Details,
    /// Some patches.
    Patches {
        /// Each by a point in it.
        patches: Vec<Spot>,
    },
    /// What a tier of the recipe stands on; the recipe then leaves that tier to its owner.
    Tier {
        /// The tier's key.
        key: String,
    },
}

/// A tier of the maker's own.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct OwnTier {
    /// Its name for the program; no two are equal.
    pub id: u32,
    /// What the maker calls it.
    pub name: String,
    /// What it stands on.
    pub footprint: Footprint,
    /// How far that is grown, mm; negative shrinks it.
    pub grow: f64,
    /// Only a rim of this width, mm, along the border; all of it where it is left out.
    pub rim: Option<f64>,
    /// Underside above the bed, mm.
    pub from: f64,
    /// Upper side above the bed, mm.
    pub to: f64,
    /// Whether it is cut out of what is there.
    pub is_cut: bool,
    /// What is done to its upper edge.
    pub top: Finish,
    /// What is done to its lower edge.
    pub bottom: Finish,
    /// Whether it is in the stack.
    pub is_on: bool,
}

impl OwnTier {
    /// By this its filament is kept, and the section's handles name it.
    pub fn key(&self) -> String {
        format!("own-{}", self.id)
    }

    /// Why it can never be made.
    pub fn refusal(&self) -> Option<Message> {
        let heights = [self.from, self.to];
        let finishes = [self.top, self.bottom];
        let lengths = [self.grow.abs(), self.rim.unwrap_or(0.0)];
        if !heights.iter().all(|h| (0.0..=300.0).contains(h)) {
            return Some(msg!("tier-height-range", range = span(0.0, 300.0)));
        }
        if self.from >= self.to {
            return Some(msg!("tier-upside-down", top = mm(self.to), bottom = mm(self.from)));
        }
        if !lengths.iter().all(|l| (0.0..=100.0).contains(l)) {
            return Some(msg!("tier-growth-range", range = span(0.0, 100.0)));
        }
        if !finishes.iter().all(|f| (0.0..=50.0).contains(&f.inset) && (0.0..=100.0).contains(&f.depth)) {
            return Some(msg!("tier-finish-range", inset = span(0.0, 50.0), depth = span(0.0, 100.0)));
        }
        let n = self.name.chars().count();
        (n == 0 || n > 60).then(|| msg!("tier-name-length"))
    }
}
