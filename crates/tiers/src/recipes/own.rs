//! The maker's own tiers, put into the stack.

use crate::maker::{Maker, Put};
use crate::own::{Footprint, OwnTier};
use crate::{Area, DoubtKind, Op, Role, Tier, TierError};
use kachel_outline::patch_at;
use kachel_words::msg;

/// Its plan area; `taken` is the recipe's tier whose place it takes.
fn area(tier: &OwnTier, maker: &mut Maker<'_>, taken: Option<&Tier>) -> Result<Area, TierError> {
    let base = match &tier.footprint {
        Footprint::Edge => maker.edge.clone(),
        Footprint::Details => {
            let all = maker.details("details")?;
            maker.joined(&all)?
        }
        Footprint::Patches { patches } => {
            let found: Vec<usize> = patches.iter().filter_map(|s| patch_at(&maker.outline.patches, s)).collect();
            let lost = patches.len() - found.len();
            if lost > 0 {
                let what = msg!("tier-lost-patches", tier = &tier.name, n = lost);
                maker.doubt(DoubtKind::LostPatch, what, None, None);
            }
            let areas = found.iter().map(|k| maker.plans.patch(maker.outline, *k)).collect::<Result<Vec<_>, _>>()?;
            maker.plans.joined(&areas)?
        }
        Footprint::Tier { .. } => match taken {
            Some(taken) => taken.footprint.clone(),
            None => {
                let what = msg!("tier-lost-tier", tier = &tier.name);
                maker.doubt(DoubtKind::LostPatch, what, None, None);
                Area::default()
            }
        },
    };
    let grown = maker.plans.grown(&base, tier.grow)?;
    Ok(match tier.rim {
        Some(width) if width > 0.0 => maker.plans.less(&grown, &maker.plans.grown(&grown, -width)?)?,
        _ => grown,
    })
}

/// Adds it to the stack, or cuts it out of it.
pub(super) fn put(tier: &OwnTier, maker: &mut Maker<'_>) -> Result<(), TierError> {
    if !tier.is_on {
        return Ok(());
    }
    let taken = match &tier.footprint {
        Footprint::Tier { key } => {
            let place = maker.stack.tiers.iter().position(|t| t.key == *key);
            place.map(|k| maker.stack.tiers.remove(k))
        }
        Footprint::Edge | Footprint::Details | Footprint::Patches { .. } => None,
    };
    let area = area(tier, maker, taken.as_ref())?;
    let key = tier.key();
    let put = Put::new(Role::Own, &key, tier.from, tier.to)
        .named(&tier.name)
        .of_own(tier.id)
        .topped(tier.top)
        .footed(tier.bottom);
    let op = if tier.is_cut { Op::Cut } else { Op::Add };
    if !maker.put(put, &area, op)? {
        // Heights that differ by less than a step of the grid are no height either.
        let what = msg!(if area.is_empty() { "tier-without-area" } else { "tier-without-height" }, tier = &tier.name);
        maker.doubt(DoubtKind::NoHeight, what, None, None);
    }
    Ok(())
}
