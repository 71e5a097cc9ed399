//! Meshes that are shown.

use kachel_check::InUse;
use kachel_solid::{Part, SoundMesh};
use kachel_tiers::{Role, Stack};

/// A tier's own closed mesh, for showing.
#[derive(Clone, Debug)]
pub struct DisplayPart {
    /// What it is of the object.
    pub role: Role,
    /// The part (filament) it belongs to.
    pub part: u32,
    /// Its mesh; tiers share their faces.
    pub mesh: SoundMesh,
}

impl DisplayPart {
    /// A part that is one tier of a stack.
    pub(crate) fn of(p: Part, stack: &Stack) -> Self {
        let t = &stack.tiers[p.number as usize];
        Self { role: t.role, part: t.part, mesh: p.mesh }
    }
}

/// An object in use, with the meshes of what is shown with it.
#[derive(Clone, Debug)]
pub struct Shown {
    /// What it is.
    pub in_use: InUse,
    /// Meshes of its tiers; parts are places in [`Material::ALL`].
    pub parts: Vec<DisplayPart>,
}
