//! Meshes that are shown.

use kachel_check::InUse;
use kachel_solid::{Part, SoundMesh};
use kachel_tiers::{Role, Stack};
use rayon::prelude::*;

/// Where faces meet at more than this, a line is drawn.
const CREASE_DEG: f64 = 24.0;

/// Above so many triangles lines cost more to draw than they show.
const MOST_LINED: usize = 60_000;

/// The smallest and the largest coordinates of a box, mm.
pub(crate) type Extent = ([f64; 3], [f64; 3]);

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
    /// Parts that are the tiers of a stack, one by one.
    pub(crate) fn all_of(parts: Vec<Part>, stack: &Stack) -> Vec<Self> {
        let of = |p: Part| {
            let t = &stack.tiers[p.number as usize];
            Self { role: t.role, part: t.part, mesh: p.mesh }
        };
        parts.into_iter().map(of).collect()
    }

    /// The lines along the creases of each of them, from vertex to vertex; none where there are very many triangles.
    pub fn lines_of(all: &[Self]) -> Vec<Vec<[u32; 2]>> {
        if all.iter().map(|p| p.mesh.mesh().triangles.len()).sum::<usize>() >= MOST_LINED {
            return vec![Vec::new(); all.len()];
        }
        all.par_iter().map(|p| p.mesh.creases(CREASE_DEG)).collect()
    }

    /// The box round all of them.
    pub(crate) fn extent_of(all: &[Self]) -> Option<Extent> {
        let boxes = all.iter().map(|p| p.mesh.mesh().extent());
        boxes.reduce(|(a, b), (c, d)| {
            (std::array::from_fn(|k| f64::min(a[k], c[k])), std::array::from_fn(|k| f64::max(b[k], d[k])))
        })
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
