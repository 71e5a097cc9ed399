//! Which part owns each face in each slab.

use crate::faces::Faces;
use crate::pinch::Mend;
use kachel_geom::Grid;
use kachel_tiers::{Op, Stack};

/// Nobody: air.
pub(crate) const VOID: u16 = 0;

/// Whether parts are told apart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Owners {
    /// Each filament owns what it prints.
    ByPart,
    /// Everything is one body.
    One,
    /// Each tier owns what it adds, for showing them apart.
    ByTier,
}

/// Owners by slab and face: `VOID`, or the part's number plus one. Upright walls only need one label a slab; sloped
/// finishes will need one just above its lower and one just below its upper level.
#[derive(Clone, Debug)]
pub(crate) struct Labels {
    pub slabs: usize,
    faces: usize,
    owner: Vec<u16>,
}

impl Labels {
    /// The owner in a slab; slabs below the first and above the last are air.
    pub(crate) fn owner(&self, slab: isize, face: u32) -> u16 {
        match usize::try_from(slab) {
            Ok(s) if s < self.slabs => self.owner[s * self.faces + face as usize],
            _ => VOID,
        }
    }

    /// All owners that occur, `VOID` left out.
    pub(crate) fn parts(&self) -> Vec<u16> {
        let mut parts: Vec<u16> = self.owner.iter().copied().filter(|&o| o != VOID).collect();
        parts.sort_unstable();
        parts.dedup();
        parts
    }
}

pub(crate) fn label(faces: &Faces, stack: &Stack, levels: &[Grid], owners: Owners, mends: &[Mend]) -> Labels {
    let slabs = levels.len().saturating_sub(1);
    let mut owner = vec![VOID; slabs * faces.count];
    for slab in 0..slabs {
        let row = &mut owner[slab * faces.count..][..faces.count];
        for (region, tier) in stack.tiers.iter().enumerate() {
            if tier.bottom > levels[slab] || tier.top < levels[slab + 1] {
                continue;
            }
            let to = match (tier.op, owners) {
                (Op::Cut, _) => VOID,
                (Op::Add, Owners::One) => 1,
                (Op::Add, Owners::ByTier) => u16::try_from(region + 1).unwrap_or(u16::MAX),
                (Op::Add, Owners::ByPart) => u16::try_from(tier.part + 1).unwrap_or(u16::MAX),
            };
            (0u32..).zip(row.iter_mut()).filter(|(f, _)| faces.is_inside(*f, region)).for_each(|(_, o)| *o = to);
        }
        for (i, mend) in mends.iter().enumerate().filter(|(_, m)| m.slab == slab) {
            let region = stack.tiers.len() + i;
            (0u32..)
                .zip(row.iter_mut())
                .filter(|(f, _)| faces.is_inside(*f, region))
                .for_each(|(_, o)| *o = mend.owner);
        }
    }
    Labels { slabs, faces: faces.count, owner }
}
