//! The maker's own tiers.

use crate::maker::{Maker, Put};
use crate::{Area, DoubtKind, Finish, Op, Role, Tier, TierError};
use kachel_outline::{Spot, patch_at};
use serde::{Deserialize, Serialize};

/// Most own tiers of a design.
pub const MAX_OWN: usize = 60;

/// What an own tier stands on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
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

    /// Its plan area; `taken` is the recipe's tier whose place it takes.
    fn area(&self, maker: &mut Maker<'_>, taken: Option<&Tier>) -> Result<Area, TierError> {
        let base = match &self.footprint {
            Footprint::Edge => maker.edge()?,
            Footprint::Details => {
                let all = maker.details("details")?;
                maker.joined(&all)?
            }
            Footprint::Patches { patches } => {
                let found: Vec<usize> = patches.iter().filter_map(|s| patch_at(&maker.outline.patches, s)).collect();
                let lost = patches.len() - found.len();
                if lost > 0 {
                    maker.doubt(
                        DoubtKind::LostPatch,
                        format!("'{}' has lost {lost} of its patches", self.name),
                        None,
                        None,
                    );
                }
                let areas =
                    found.iter().map(|k| maker.plans.patch(maker.outline, *k)).collect::<Result<Vec<_>, _>>()?;
                maker.plans.joined(&areas)?
            }
            Footprint::Tier { .. } => match taken {
                Some(tier) => tier.footprint.clone(),
                None => {
                    let what = format!("'{}' has lost the recipe's tier it stands on", self.name);
                    maker.doubt(DoubtKind::LostPatch, what, None, None);
                    Area::default()
                }
            },
        };
        let grown = maker.plans.grown(&base, self.grow)?;
        Ok(match self.rim {
            Some(width) if width > 0.0 => maker.plans.less(&grown, &maker.plans.grown(&grown, -width)?)?,
            _ => grown,
        })
    }

    pub(crate) fn put(&self, maker: &mut Maker<'_>) -> Result<(), TierError> {
        if !self.is_on {
            return Ok(());
        }
        let taken = match &self.footprint {
            Footprint::Tier { key } => {
                let place = maker.stack.tiers.iter().position(|t| t.key == *key);
                place.map(|k| maker.stack.tiers.remove(k))
            }
            Footprint::Edge | Footprint::Details | Footprint::Patches { .. } => None,
        };
        let area = self.area(maker, taken.as_ref())?;
        let key = self.key();
        let put = Put::new(Role::Own, &key, self.from, self.to)
            .named(&self.name)
            .of_own(self.id)
            .topped(self.top)
            .footed(self.bottom);
        let op = if self.is_cut { Op::Cut } else { Op::Add };
        if !maker.put(put, &area, op)? {
            // Heights that differ by less than a step of the grid are no height either.
            let what = format!("'{}' has no {}", self.name, if area.is_empty() { "area" } else { "height" });
            maker.doubt(DoubtKind::NoHeight, what, None, None);
        }
        Ok(())
    }

    /// Why it can never be made.
    pub fn refusal(&self) -> Option<String> {
        let heights = [self.from, self.to];
        let finishes = [self.top, self.bottom];
        let lengths = [self.grow.abs(), self.rim.unwrap_or(0.0)];
        if !heights.iter().all(|h| (0.0..=300.0).contains(h)) {
            return Some("heights can be 0 to 300 mm".into());
        }
        if self.from >= self.to {
            return Some(format!("the top ({} mm) has to lie above the bottom ({} mm)", self.to, self.from));
        }
        if !lengths.iter().all(|l| (0.0..=100.0).contains(l)) {
            return Some("a footprint can be grown, shrunk or rimmed by 0 to 100 mm".into());
        }
        if !finishes.iter().all(|f| (0.0..=50.0).contains(&f.inset) && (0.0..=100.0).contains(&f.depth)) {
            return Some("a finish can go 0 to 50 mm in and 0 to 100 mm down".into());
        }
        let n = self.name.chars().count();
        (n == 0 || n > 60).then(|| "a tier's name has 1 to 60 characters".into())
    }
}
