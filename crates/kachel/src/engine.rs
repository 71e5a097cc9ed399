use crate::document::{ArtworkRef, Credit, Document, DocumentError, VERSION};
use crate::edit::{Edit, EditError};
use kachel_artwork::{Artwork, ArtworkError};
use kachel_check::{Finding, Object};
use kachel_geom::{Stage, Stopped, Watch};
use kachel_outline::{Outline, OutlineError, Patch, Size, apply_choices, edge_box, patches, size_outline};
use kachel_solid::{Planar, Solid, SolidError, SoundMesh, arrange, extrude, extrude_tiers};
use kachel_tiers::{
    Footprints, MeasureError, Measures, RecipeKind, Role, Stack, TierError, Unit, cutter_footprints, cutter_stack,
};
use kachel_trace::{Contours, TraceError, first_guess, trace};
use lru::LruCache;
use serde::Serialize;
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Instant;

/// Gives the bytes of a picture, when they are needed at all.
pub type Picture<'a> = &'a (dyn Fn() -> std::io::Result<Vec<u8>> + Sync);

/// Stack of the thread that reads drawings, whose groups nest up to a thousand deep.
const DEEP_STACK: usize = 64 << 20;

/// Why a design has no result, or not a whole one.
#[derive(Debug, thiserror::Error)]
pub enum EngineError {
    /// The picture could not be fetched.
    #[error("the picture could not be read from the shelf: {0}")]
    Picture(#[from] std::io::Error),
    /// From the artwork stage.
    #[error(transparent)]
    Artwork(ArtworkError),
    /// From the trace stage.
    #[error(transparent)]
    Trace(TraceError),
    /// From the outline stage.
    #[error(transparent)]
    Outline(OutlineError),
    /// From the tiers stage.
    #[error(transparent)]
    Tier(TierError),
    /// From the solid stage.
    #[error(transparent)]
    Solid(SolidError),
    /// A stored document is not usable.
    #[error(transparent)]
    Document(#[from] DocumentError),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

/// Lifts a stage's error, so that a stop is a stop whichever stage it came from.
macro_rules! lift {
    ($($error:ident => $variant:ident),*) => {$(
        impl From<$error> for EngineError {
            fn from(e: $error) -> Self {
                match e {
                    $error::Stopped(s) => Self::Stopped(s),
                    e => Self::$variant(e),
                }
            }
        }
    )*};
}
lift!(ArtworkError => Artwork, TraceError => Trace, OutlineError => Outline, TierError => Tier, SolidError => Solid);

impl From<MeasureError> for EngineError {
    fn from(e: MeasureError) -> Self {
        Self::Tier(TierError::Measure(e))
    }
}

impl EngineError {
    /// Stable code.
    pub const fn code(&self) -> &'static str {
        match self {
            Self::Picture(_) => "picture-missing",
            Self::Artwork(ArtworkError::TooManyBytes { .. }) => "too-many-bytes",
            Self::Artwork(ArtworkError::UnknownFormat) => "unknown-format",
            Self::Artwork(ArtworkError::TooManyPixels { .. }) => "too-many-pixels",
            Self::Artwork(ArtworkError::TooManyShapes { .. } | ArtworkError::TooManyNodes) => "too-many-shapes",
            Self::Artwork(_) => "damaged-picture",
            Self::Trace(TraceError::NoInk) => "no-ink",
            Self::Trace(TraceError::AllInk) => "all-ink",
            Self::Trace(TraceError::OneColour) => "one-colour",
            Self::Trace(TraceError::NoAlpha) => "no-alpha",
            Self::Trace(TraceError::NothingPainted { .. }) => "nothing-painted",
            Self::Trace(TraceError::TooManyRings { .. } | TraceError::TooManyNodes { .. }) => "too-many-contours",
            Self::Trace(TraceError::Stopped(_)) | Self::Stopped(_) => "stopped",
            Self::Outline(OutlineError::NoEdge) => "no-edge",
            Self::Outline(OutlineError::SizeOutOfRange { .. }) => "size-out-of-range",
            Self::Outline(_) => "patch-too-far",
            Self::Tier(TierError::Measure(_)) => "measure-out-of-range",
            Self::Tier(_) => "object-too-large",
            Self::Solid(SolidError::Empty) => "nothing-left",
            Self::Solid(SolidError::TooLarge { .. }) => "solid-too-large",
            Self::Solid(_) => "unsound",
            Self::Document(DocumentError::NewerVersion { .. }) => "newer-version",
            Self::Document(_) => "damaged-design",
        }
    }

    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::Picture(_) => "Replace the picture, or restore the data directory from a copy.",
            Self::Artwork(e) => e.hint(),
            Self::Trace(e) => e.hint(),
            Self::Outline(e) => e.hint(),
            Self::Tier(e) => e.hint(),
            Self::Solid(e) => e.hint(),
            Self::Document(DocumentError::NewerVersion { .. }) => "Open it with the newer Kachel.",
            Self::Document(_) => "Go back to an earlier state of it.",
            Self::Stopped(_) => "Start it again.",
        }
    }

    /// The stage that gave up.
    pub const fn stage(&self) -> Stage {
        match self {
            Self::Picture(_) | Self::Artwork(_) => Stage::Artwork,
            Self::Trace(_) => Stage::Trace,
            Self::Outline(_) => Stage::Outline,
            Self::Tier(_) => Stage::Tiers,
            Self::Solid(_) => Stage::Solid,
            Self::Document(_) | Self::Stopped(_) => Stage::Waiting,
        }
    }
}

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
    /// The picture, while it is remembered.
    pub artwork: Option<Arc<Artwork>>,
    /// Its contours.
    pub contours: Option<Arc<Contours>>,
    /// The patches with their uses, even when they make no outline.
    pub patches: Vec<Patch>,
    /// The sized outline.
    pub outline: Option<Arc<Outline>>,
    /// Plan areas.
    pub footprints: Option<Arc<Footprints>>,
    /// The tiers.
    pub stack: Option<Arc<Stack>>,
    /// The solid, with the key by which [`Engine::display`] finds it.
    pub solid: Option<(String, Arc<Solid>)>,
    /// What Check says.
    pub findings: Arc<Vec<Finding>>,
    /// Why it went no further.
    pub failed: Option<EngineError>,
    /// How long it took.
    pub timings: Vec<Timing>,
}

/// A tier's own closed mesh, for showing.
#[derive(Clone, Debug)]
pub struct DisplayPart {
    /// What it is of the object.
    pub role: Role,
    /// Its mesh; tiers share their faces.
    pub mesh: SoundMesh,
}

/// Results by the hash of what went in.
struct Memo<T>(Mutex<LruCache<String, Arc<T>>>);

impl<T> Memo<T> {
    fn new(capacity: usize) -> Self {
        Self(Mutex::new(LruCache::new(NonZeroUsize::new(capacity).unwrap_or(NonZeroUsize::MIN))))
    }

    fn get(&self, key: &str) -> Option<Arc<T>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).get(key).cloned()
    }

    fn get_or<E>(&self, key: &str, make: impl FnOnce() -> Result<T, E>) -> Result<Arc<T>, E> {
        if let Some(found) = self.get(key) {
            return Ok(found);
        }
        // The lock is not held while computing: a second caller may compute the same once more, never wait.
        let made = Arc::new(make()?);
        self.0.lock().unwrap_or_else(PoisonError::into_inner).put(key.into(), Arc::clone(&made));
        Ok(made)
    }
}

/// What [`Engine::display`] starts from.
struct Built {
    planar: Arc<Planar>,
    stack: Arc<Stack>,
    solid: Arc<Solid>,
}

/// Runs stages and remembers their results.
pub struct Engine {
    artwork: Memo<Artwork>,
    contours: Memo<Contours>,
    outlines: Memo<Outline>,
    footprints: Memo<Footprints>,
    planar: Memo<Planar>,
    built: Memo<Built>,
    findings: Memo<Vec<Finding>>,
    display: Memo<Vec<DisplayPart>>,
}

impl Default for Engine {
    fn default() -> Self {
        Self {
            // Decoded pictures are the largest by far: up to 100 MB each.
            artwork: Memo::new(4),
            contours: Memo::new(48),
            outlines: Memo::new(48),
            footprints: Memo::new(48),
            planar: Memo::new(24),
            built: Memo::new(24),
            findings: Memo::new(64),
            display: Memo::new(12),
        }
    }
}

fn key(parts: &impl Serialize) -> String {
    let text = serde_json::to_vec(parts).unwrap_or_default();
    hex(&Sha256::digest(text))
}

/// What contours depend on.
fn contours_key(d: &Document) -> String {
    key(&(&d.artwork.hash, &d.trace))
}

/// What an outline depends on.
fn outline_key(d: &Document) -> String {
    key(&(contours_key(d), &d.choices, &d.size))
}

fn hex(bytes: &[u8]) -> String {
    bytes.iter().map(|b| format!("{b:02x}")).collect()
}

/// Runs a stage and notes its time if it had to work.
fn timed<T, E>(timings: &mut Vec<Timing>, stage: Stage, run: impl FnOnce() -> Result<T, E>) -> Result<T, E> {
    let start = Instant::now();
    let result = run();
    let ms = start.elapsed().as_secs_f64() * 1000.0;
    match timings.iter_mut().find(|t| t.stage == stage) {
        Some(t) => t.ms += ms,
        None => timings.push(Timing { stage, ms }),
    }
    result
}

impl Engine {
    /// The name under which a picture is kept: the SHA-256 of its bytes.
    pub fn hash(bytes: &[u8]) -> String {
        hex(&Sha256::digest(bytes))
    }

    /// Runs all stages, as far as they go.
    pub fn run(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Run {
        let mut run = Run::default();
        run.failed = self.stages(d, picture, watch, &mut run).err();
        run
    }

    fn stages(&self, d: &Document, picture: Picture<'_>, watch: &Watch, run: &mut Run) -> Result<(), EngineError> {
        let contours = self.trace(d, picture, watch, run)?;
        let outline_key = outline_key(d);
        let outline = timed(&mut run.timings, Stage::Outline, || {
            self.outlines.get_or(&outline_key, || size_outline(&contours, &d.choices, d.size, watch))
        });
        run.patches = match &outline {
            Ok(o) => o.patches.clone(),
            Err(_) => {
                let mut found = patches(&contours);
                apply_choices(&mut found, &d.choices);
                found
            }
        };
        let outline = outline?;
        run.outline = Some(Arc::clone(&outline));
        let m = d.measures()?;
        self.build(&outline_key, &outline, &contours, &m, d.recipe, watch, run)
    }

    fn trace(
        &self,
        d: &Document,
        picture: Picture<'_>,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<Arc<Contours>, EngineError> {
        let contours_key = contours_key(d);
        if let Some(contours) = self.contours.get(&contours_key) {
            // The picture is not decoded again for contours that are still known.
            run.artwork = self.artwork.get(&d.artwork.hash);
            run.contours = Some(Arc::clone(&contours));
            run.timings.extend([Stage::Artwork, Stage::Trace].map(|stage| Timing { stage, ms: 0.0 }));
            return Ok(contours);
        }
        let artwork = timed(&mut run.timings, Stage::Artwork, || self.artwork(&d.artwork.hash, picture, watch))?;
        run.artwork = Some(Arc::clone(&artwork));
        let contours = timed(&mut run.timings, Stage::Trace, || {
            self.contours.get_or(&contours_key, || trace(&artwork, &d.trace, watch))
        })?;
        run.contours = Some(Arc::clone(&contours));
        Ok(contours)
    }

    #[expect(clippy::too_many_arguments, reason = "one hand-over inside the engine")]
    fn build(
        &self,
        outline_key: &str,
        outline: &Outline,
        contours: &Contours,
        m: &Measures,
        recipe: RecipeKind,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(), EngineError> {
        let RecipeKind::Cutter = recipe;
        let plan = ["margin", "wall-thickness", "flange-width"].map(|n| m.get(n).to_bits());
        let plan_key = key(&(outline_key, plan));
        let footprints = timed(&mut run.timings, Stage::Tiers, || {
            self.footprints.get_or(&plan_key, || cutter_footprints(outline, m, watch))
        })?;
        run.footprints = Some(Arc::clone(&footprints));
        let stack = timed(&mut run.timings, Stage::Tiers, || cutter_stack(&footprints, m))?;
        let stack = Arc::new(stack);
        run.stack = Some(Arc::clone(&stack));
        let levels: Vec<_> = stack.tiers.iter().map(|t| (t.bottom.steps(), t.top.steps())).collect();
        let solid_key = key(&(&plan_key, &levels));
        let built = timed(&mut run.timings, Stage::Solid, || {
            self.built.get_or(&solid_key, || {
                // Heights do not change the arrangement, but a tier that has none is not in it.
                let planar = self.planar.get_or(&key(&(&plan_key, levels.len())), || arrange(&stack, watch))?;
                let solid = Arc::new(extrude(&planar, &stack, watch)?);
                Ok::<_, SolidError>(Built { planar, stack: Arc::clone(&stack), solid })
            })
        })?;
        run.solid = Some((solid_key.clone(), Arc::clone(&built.solid)));
        let measures: Vec<u64> = recipe.recipe().measures.iter().map(|s| m.get(s.name).to_bits()).collect();
        run.findings = timed(&mut run.timings, Stage::Check, || {
            self.findings.get_or(&key(&(&solid_key, &measures)), || {
                let object = Object {
                    contours,
                    outline,
                    measures: m,
                    footprints: &footprints,
                    stack: &stack,
                    solid: &built.solid,
                };
                kachel_check::check(&object, watch)
            })
        })?;
        Ok(())
    }

    fn artwork(&self, hash: &str, picture: Picture<'_>, watch: &Watch) -> Result<Arc<Artwork>, EngineError> {
        self.artwork.get_or(hash, || {
            watch.enter(Stage::Artwork)?;
            let bytes = picture()?;
            let decode = || Artwork::decode(&bytes, watch).map_err(EngineError::from);
            std::thread::scope(|s| {
                let thread = std::thread::Builder::new().stack_size(DEEP_STACK).spawn_scoped(s, decode)?;
                let lost = || EngineError::Artwork(ArtworkError::Damaged("the decoder gave up".into()));
                thread.join().unwrap_or_else(|_| Err(lost()))
            })
        })
    }

    /// The meshes of the single tiers of a solid that [`Engine::run`] gave, while it is remembered.
    pub fn display(&self, solid_key: &str, watch: &Watch) -> Result<Option<Arc<Vec<DisplayPart>>>, EngineError> {
        let Some(built) = self.built.get(solid_key) else { return Ok(None) };
        let parts = self.display.get_or(solid_key, || {
            let parts = extrude_tiers(&built.planar, &built.stack, watch)?;
            let role = |n: u32| built.stack.tiers[n as usize].role;
            Ok::<_, SolidError>(parts.into_iter().map(|p| DisplayPart { role: role(p.number), mesh: p.mesh }).collect())
        })?;
        Ok(Some(parts))
    }

    /// A new design from a picture: first guesses for the ink, the file's own size where it makes sense, else the
    /// recipe's usual one. Fails only where the picture cannot be decoded; a picture without ink is a design too.
    pub fn new_document(
        &self,
        name: &str,
        file_name: &str,
        bytes: &[u8],
        watch: &Watch,
    ) -> Result<Document, EngineError> {
        let hash = Self::hash(bytes);
        let artwork = self.artwork(&hash, &|| Ok(bytes.to_vec()), watch)?;
        let recipe = RecipeKind::Cutter;
        let mut d = Document {
            version: VERSION,
            name: name.into(),
            artwork: ArtworkRef { hash, file_name: file_name.into() },
            credit: Credit::default(),
            unit: Unit::Mm,
            trace: first_guess(&artwork),
            choices: vec![],
            size: Size::Scale { mm_per_px: 1.0 },
            recipe,
            measures: BTreeMap::new(),
        };
        let (w, h) = artwork.size();
        let usual = recipe.recipe().usual_size;
        let mut run = Run::default();
        let longest = match self.trace(&d, &|| Ok(bytes.to_vec()), watch, &mut run) {
            Ok(contours) => edge_box(&patches(&contours)).map_or(w.max(h), |b| b.width().max(b.height())),
            Err(EngineError::Stopped(s)) => return Err(s.into()),
            Err(_) => w.max(h),
        };
        // A file's own size makes sense where a hand could hold the object.
        let own = artwork.mm_per_px().filter(|s| (20.0..=300.0).contains(&(longest * s)));
        d.size = Size::Scale { mm_per_px: own.unwrap_or(usual / longest.max(1e-6)) };
        Ok(d)
    }

    /// The document after the edits, all or none.
    pub fn apply(
        &self,
        d: &Document,
        edits: &[Edit],
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<Result<Document, EditError>, EngineError> {
        let mut d = d.clone();
        for edit in edits {
            let mut outline = None;
            if edit.needs_outline() {
                let mut run = Run::default();
                match self.trace(&d, picture, watch, &mut run) {
                    Ok(contours) => outline = self.possible_outline(&d, &contours, watch)?,
                    Err(EngineError::Stopped(s)) => return Err(s.into()),
                    Err(_) => {}
                }
            }
            match edit.apply(&d, outline.as_deref()) {
                Ok(next) => d = next,
                Err(e) => return Ok(Err(e)),
            }
        }
        Ok(Ok(d))
    }

    /// The outline; where the size is impossible, that of a possible one, so that a new size can be set. `None` where
    /// nothing is the edge.
    fn possible_outline(
        &self,
        d: &Document,
        contours: &Contours,
        watch: &Watch,
    ) -> Result<Option<Arc<Outline>>, EngineError> {
        let sized = self.outlines.get_or(&outline_key(d), || size_outline(contours, &d.choices, d.size, watch));
        let usual = Size::Width { mm: d.recipe.recipe().usual_size };
        match sized.or_else(|e| match e {
            OutlineError::Stopped(_) => Err(e),
            _ => size_outline(contours, &d.choices, usual, watch).map(Arc::new),
        }) {
            Ok(outline) => Ok(Some(outline)),
            Err(OutlineError::Stopped(s)) => Err(s.into()),
            Err(_) => Ok(None),
        }
    }
}
