//! Designs that are printed together.

mod arranging;
mod conflicts;
mod files;
mod lying;
mod print;
mod sheet;
mod view;

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::run::Run;
use kachel_design::{Bed, BedPiece, Document, Workshop};
use kachel_geom::{Mm, Region, Stage, Watch, simplify};
use kachel_words::{Message, msg};
use std::collections::BTreeMap;
use std::sync::Arc;

pub use conflicts::Conflict;
pub use files::{BedFormat, bed_file};
pub use print::{BedLayerView, BedPrint, BuiltView, GroupView, bed_layer_view, bed_print_view};
pub use view::{BedDesignView, BedShape, BedSolid, BedView, ConflictView, bed_view};

/// A design that lies on a bed, as far as it came.
#[derive(Debug)]
pub struct OnBed {
    /// What it is called; for one that is gone, what it was called.
    pub name: String,
    /// Its document; none where it is no longer on the shelf, or cannot be read.
    pub document: Option<Document>,
    /// What came out.
    pub run: Run,
    /// What it covers from above.
    pub(crate) shadow: Option<Arc<Region>>,
    /// Why nothing of it can be printed.
    pub trouble: Option<Message>,
}

/// All designs of a bed, by their names for the program.
#[derive(Debug)]
pub struct OnBeds {
    /// The designs.
    pub designs: BTreeMap<String, OnBed>,
    /// The workshop they were made for.
    pub workshop: Arc<Workshop>,
}

/// Outlines on a bed are simplified by this, mm: far below any gap.
const OUTLINE_MM: f64 = 0.02;

impl Engine {
    /// A design that is to lie on a bed.
    pub fn on_bed(&self, d: Document, picture: Picture<'_>, watch: &Watch) -> OnBed {
        let run = self.run_until(&d, picture, Stage::Solid, watch);
        let (shadow, trouble) = match (self.shadow(&run), &run.failed) {
            (Ok(Some(shadow)), _) => (Some(shadow), None),
            (Ok(None), Some(e)) => (None, Some(msg!("with-hint", why = e.message(), hint = e.message().part("hint")))),
            (Ok(None), None) => (None, Some(msg!("it-has-no-solid"))),
            (Err(e), _) => (None, Some(e.message())),
        };
        OnBed { name: d.name.clone(), document: Some(d), run, shadow, trouble }
    }

    /// A design that is no longer there.
    pub fn not_on_bed(&self, name: String, trouble: Message) -> OnBed {
        let run = Run { workshop: self.workshop(), ..Run::default() };
        OnBed { name, document: None, run, shadow: None, trouble: Some(trouble) }
    }

    /// What a solid covers from above; `None` where there is none.
    fn shadow(&self, run: &Run) -> Result<Option<Arc<Region>>, EngineError> {
        let Some((key, solid)) = &run.solid else { return Ok(None) };
        let made = self.shadows.get_or_once(key, || {
            let off = |e| EngineError::Rehearse(kachel_rehearse::RehearseError::OffGrid(e));
            let exact = solid.skin.mesh().shadow().map_err(off)?;
            let rings: Vec<_> = exact.rings_mm().iter().map(|r| simplify::<Mm>(r, OUTLINE_MM)).collect();
            Ok::<_, EngineError>(Arc::new(Region::from_mm(&rings).map_err(off)?))
        })?;
        Ok(Some(made))
    }
}

impl OnBeds {
    /// The piece's design with its outline, where it can be printed.
    fn outline(&self, piece: &BedPiece) -> Option<(&OnBed, &Arc<Region>)> {
        let design = self.designs.get(&piece.design)?;
        Some((design, design.shadow.as_ref()?))
    }

    /// Filaments of all designs on a plate, each once, in the order in which they come up.
    fn filaments(&self, bed: &Bed, plate: usize) -> Vec<String> {
        let mut all: Vec<String> = Vec::new();
        for piece in on_plate(bed, plate) {
            for name in self.designs.get(&piece.design).into_iter().flat_map(OnBed::filaments) {
                if !all.contains(&name) {
                    all.push(name);
                }
            }
        }
        all
    }
}

impl OnBed {
    /// The filament of each part, by its name for designs.
    fn filaments(&self) -> Vec<String> {
        let parts = self.run.solid.iter().flat_map(|(_, s)| &s.parts);
        parts.map(|p| self.run.filament(p.number).id.clone()).collect()
    }
}

/// Pieces that lie on a plate.
fn on_plate(bed: &Bed, plate: usize) -> impl Iterator<Item = &BedPiece> {
    bed.pieces.iter().filter(move |p| p.place.is_some_and(|at| at.plate == plate))
}
