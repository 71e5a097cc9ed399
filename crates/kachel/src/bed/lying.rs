//! What lies on a plate.

use super::{OnBed, OnBeds, on_plate};
use kachel_design::{Bed, BedPiece, Document};
use kachel_geom::Pose;
use kachel_solid::Solid;

/// A piece that can be printed.
pub(super) struct Lying<'a> {
    pub(super) piece: &'a BedPiece,
    pub(super) pose: Pose,
    pub(super) design: &'a OnBed,
    pub(super) document: &'a Document,
    pub(super) solid: &'a Solid,
}

/// What of a plate can be printed.
pub(super) fn lying<'a>(bed: &'a Bed, on: &'a OnBeds, plate: usize) -> Vec<Lying<'a>> {
    let lie = |piece: &'a BedPiece| {
        let design = on.designs.get(&piece.design)?;
        let (_, solid) = design.run.solid.as_ref()?;
        Some(Lying { piece, pose: piece.place?.pose, design, document: design.document.as_ref()?, solid })
    };
    on_plate(bed, plate).filter_map(lie).collect()
}
