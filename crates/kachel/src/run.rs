use crate::display::DisplayPart;
use crate::error::EngineError;
use kachel_artwork::Frame;
use kachel_check::Report;
use kachel_design::{Filament, Source, Workshop};
use kachel_geom::Stage;
use kachel_outline::{Outline, Patch};
use kachel_solid::Solid;
use kachel_tiers::Stack;
use kachel_trace::Contours;
use std::sync::Arc;
use std::time::Instant;

/// Milliseconds that a stage took; next to nothing where its result was remembered.
#[derive(Clone, Copy, Debug)]
pub struct Timing {
    /// The stage.
    pub stage: Stage,
    /// Milliseconds.
    pub ms: f64,
}

/// Everything that came out, as far as it went.
#[derive(Debug, Default)]
pub struct Run {
    /// What the picture is like, once it was decoded.
    pub source: Option<Source>,
    /// How the prepared picture lies on the original one.
    pub frame: Option<Frame>,
    /// Changes with what is done to the picture; empty before it was decoded.
    pub picture_key: String,
    /// Its contours.
    pub contours: Option<Arc<Contours>>,
    /// The patches with their uses, even when they make no outline.
    pub patches: Vec<Patch>,
    /// The sized outline.
    pub outline: Option<Arc<Outline>>,
    /// The workshop it was made for.
    pub workshop: Arc<Workshop>,
    /// The tiers.
    pub stack: Option<Arc<Stack>>,
    /// The solid, with the key by which [`Engine::display`] finds it.
    pub solid: Option<(String, Arc<Solid>)>,
    /// Where no more than that was asked for, the meshes of its tiers, with the same key.
    pub shown: Option<(String, Arc<Vec<DisplayPart>>)>,
    /// What Check says.
    pub report: Arc<Report>,
    /// Why it went no further.
    pub failed: Option<EngineError>,
    /// How long it took.
    pub timings: Vec<Timing>,
}

impl Run {
    /// The filament of a part, by the part's number in the stack.
    pub(crate) fn filament(&self, part: u32) -> &Filament {
        let name = self.stack.as_ref().and_then(|s| s.filaments.get(part as usize));
        self.workshop.filament(name.map_or("", String::as_str))
    }
}

/// Runs a stage and notes its time if it had to work.
pub(crate) fn timed<T, E>(timings: &mut Vec<Timing>, stage: Stage, run: impl FnOnce() -> Result<T, E>) -> Result<T, E> {
    let start = Instant::now();
    let result = run();
    let ms = start.elapsed().as_secs_f64() * 1000.0;
    match timings.iter_mut().find(|t| t.stage == stage) {
        Some(t) => t.ms += ms,
        None => timings.push(Timing { stage, ms }),
    }
    result
}
