//! The engine of Kachel: it knows the order of the stages, and nothing else does.
//!
//! 1. [`kachel_artwork`]: bytes become [`Artwork`](kachel_artwork::Artwork).
//! 2. [`kachel_trace`]: artwork becomes [`Contours`](kachel_trace::Contours), in pixels.
//! 3. [`kachel_outline`]: contours become an [`Outline`](kachel_outline::Outline), in millimetres.
//! 4. [`kachel_tiers`]: outline and recipe become a [`Stack`](kachel_tiers::Stack).
//! 5. [`kachel_solid`]: the stack becomes a [`Solid`](kachel_solid::Solid).
//! 6. [`kachel_check`]: everything so far becomes findings.
//! 7. [`kachel_rehearse`]: the solid becomes layers of lines, when somebody asks for them.
//! 8. [`kachel_exchange`]: the solid becomes files.
//!
//! [`Engine::on_bed`] and what follows on it put designs together: [`kachel_pack`] arranges them.
//!
//! A design is a [`Document`](kachel_design::Document) (settings and choices). Results are never stored: [`Engine::run`] computes them and
//! remembers them by the hash of what went in. Every change of a document is an
//! [`Edit`](kachel_design::Edit).
//!
//! ```
//! use kachel_engine::{Engine, ExportFormat, Sample, Watch, export};
//!
//! let picture = Sample::by_id("hedgehog").unwrap().bytes;
//! let bytes = || Ok(picture.to_vec());
//! let engine = Engine::default();
//! let design = engine.new_document("Hedgehog", "hedgehog.svg", picture, &Watch::default())?;
//! let run = engine.run(&design, &bytes, &Watch::default());
//! let stl = export(&design, &run, &bytes, ExportFormat::Stl, None)?;
//! assert!(stl.len() > 10_000);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod bed;
mod begin;
mod credit;
mod display;
mod engine;
mod error;
mod export;
mod in_use;
mod keys;
mod layers;
mod mending;
mod pieces;
mod rehearsal;
mod run;
mod samples;
mod sets;
mod sizing;
mod stages;
mod view;

pub use bed::{
    BedDesignView, BedFormat, BedLayerView, BedPrint, BedShape, BedSolid, BedView, BuiltView, Conflict, ConflictView,
    GroupView, OnBed, OnBeds, bed_file, bed_layer_view, bed_print_view, bed_view,
};
pub use display::{DisplayPart, Shown};
pub use engine::{Engine, Picture};
pub use error::EngineError;
pub use export::{
    ExportError, ExportFormat, ImportError, export, export_contours, file_name, import_design, name_of, named_file,
};
pub use in_use::{InUseView, in_use_view};
pub use mending::{MendsView, SafeMends};
pub use pieces::{copied, export_outline, import_patches, offered_credit, patch_nodes};
pub use rehearsal::{
    FilamentUse, KeyedPrint, LayerView, LikelyView, LinesView, PrintView, StopView, layer_view, print_view,
};
pub use run::{Run, Timing};
pub use samples::{SAMPLE_LICENCE, SAMPLES, Sample};
pub use view::{
    AstrayView, ChangeView, Compared, CutView, DifferenceView, FigureView, FindingView, HandleView, LookedView,
    MeasureView, MendView, OptionView, OutlineView, PartView, PatchView, PictureView, PlaceView, ProblemView,
    ResultView, SolidView, SwatchView, TierView, TimingView, TraceView, differences, measures, thumbnail,
};

pub use kachel_artwork as artwork;
pub use kachel_check as check;
pub use kachel_design as design;
pub use kachel_design::*;
pub use kachel_exchange as exchange;
pub use kachel_geom::{GRID_PER_MM, Point, Pose, Px, Stage, Stopped, Watch};
pub use kachel_outline as outline;
pub use kachel_pack as pack;
pub use kachel_rehearse as rehearse;
pub use kachel_solid as solid;
pub use kachel_tiers as tiers;
pub use kachel_trace as trace;

#[cfg(test)]
mod tests;
