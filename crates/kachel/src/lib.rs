//! The engine of Kachel: it knows the order of the stages, and nothing else does.
//!
//! 1. [`kachel_artwork`]: bytes become [`Artwork`](kachel_artwork::Artwork).
//! 2. [`kachel_trace`]: artwork becomes [`Contours`](kachel_trace::Contours), in pixels.
//! 3. [`kachel_outline`]: contours become an [`Outline`](kachel_outline::Outline), in millimetres.
//! 4. [`kachel_tiers`]: outline and recipe become a [`Stack`](kachel_tiers::Stack).
//! 5. [`kachel_solid`]: the stack becomes a [`Solid`](kachel_solid::Solid).
//! 6. [`kachel_check`]: everything so far becomes findings.
//! 7. [`kachel_exchange`]: the solid becomes files.
//!
//! A design is a [`Document`] (settings and choices). Results are never stored: [`Engine::run`] computes them and
//! remembers them by the hash of what went in. Every change of a document is an [`Edit`].

mod document;
mod edit;
mod engine;
mod export;
mod outline_edit;
mod picture_edit;
mod pieces;
mod samples;
mod tier_edit;
mod tier_view;
mod view;
mod workshop;

pub use document::{ArtworkRef, Credit, Document, DocumentError, Guide, PatchFilament, VERSION};
pub use edit::{Axis, Basis, Closing, Edit, EditError};
pub use engine::{DisplayPart, Engine, EngineError, Picture, Run, Source, Timing};
pub use export::{ExportError, ExportFormat, ImportError, export, export_contours, file_name, import_design};
pub use pieces::{copied, export_outline, import_patches, patch_nodes};
pub use samples::{SAMPLE_LICENCE, SAMPLES, Sample};
pub use tier_view::{ChangeView, CutView, HandleView, MeasureView, OptionView, PartView, SolidView, TierView};
pub use view::{
    AstrayView, FindingView, OutlineView, PatchView, PictureView, ProblemView, ResultView, SwatchView, TimingView,
    TraceView, thumbnail,
};
pub use workshop::{Filament, Workshop, WorkshopError};

pub use kachel_artwork as artwork;
pub use kachel_check as check;
pub use kachel_exchange as exchange;
pub use kachel_geom::{GRID_PER_MM, Stage, Stopped, Watch};
pub use kachel_outline as outline;
pub use kachel_solid as solid;
pub use kachel_tiers as tiers;
pub use kachel_trace as trace;

#[cfg(test)]
mod tests;
