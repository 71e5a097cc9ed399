use crate::document::{ArtworkRef, Credit, Document, DocumentError, PatchFilament, VERSION};
use crate::edit::{Basis, Edit, EditError};
use crate::tier_edit::bars_mm;
use crate::workshop::{Filament, Workshop};
use kachel_artwork::{Artwork, ArtworkError, Frame, Paint, Prepare, PrepareError, prepare, unevenness};
use kachel_check::{Finding, Object};
use kachel_geom::{Stage, Stopped, Watch};
use kachel_outline::{
    Outline, OutlineError, Patch, Size, Step, Steps, apply_choices, edge_box, found_patches, patch_at,
    size_outline_from,
};
use kachel_solid::{Planar, Sheets, Solid, SolidError, SoundMesh, arrange, extrude, extrude_tiers};
use kachel_tiers::{
    Cut, CutLine, Given, MeasureError, Measures, Plans, RecipeKind, Role, Slices, Stack, TierError, section, slice,
    stack,
};
use kachel_trace::{Contours, Ink, TraceError, TraceSettings, first_guess, trace};
use lru::LruCache;
use serde::Serialize;
use sha2::{Digest, Sha256};
use std::collections::{BTreeMap, HashMap};
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError, RwLock};
use std::time::Instant;

/// Gives the bytes of a picture, when they are needed at all.
pub type Picture<'a> = &'a (dyn Fn() -> std::io::Result<Vec<u8>> + Sync);

/// Paper that is this much brighter in one place than in another is levelled from the start.
const UNEVEN: f64 = 1.3;

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
            Self::Artwork(ArtworkError::UnknownFormat | ArtworkError::UnknownKind(_)) => "unknown-format",
            Self::Artwork(ArtworkError::TooManyPixels { .. }) => "too-many-pixels",
            Self::Artwork(ArtworkError::TooManyShapes { .. } | ArtworkError::TooManyNodes) => "too-many-shapes",
            Self::Artwork(ArtworkError::Prepare(PrepareError::CornersCross)) => "corners-cross",
            Self::Artwork(ArtworkError::Prepare(PrepareError::SheetSize)) => "sheet-size",
            Self::Artwork(ArtworkError::Prepare(PrepareError::NothingLeft)) => "empty-crop",
            Self::Artwork(_) => "damaged-picture",
            Self::Trace(TraceError::NoInk) => "no-ink",
            Self::Trace(TraceError::AllInk) => "all-ink",
            Self::Trace(TraceError::OneColour) => "one-colour",
            Self::Trace(TraceError::NoAlpha) => "no-alpha",
            Self::Trace(TraceError::NothingPainted { .. }) => "nothing-painted",
            Self::Trace(TraceError::NoLines) => "no-lines",
            Self::Trace(TraceError::TooManyRings { .. } | TraceError::TooManyNodes { .. }) => "too-many-contours",
            Self::Trace(TraceError::Stopped(_)) | Self::Stopped(_) => "stopped",
            Self::Outline(OutlineError::NoEdge) => "no-edge",
            Self::Outline(OutlineError::NothingLeft { .. }) => "nothing-left",
            Self::Outline(OutlineError::SizeOutOfRange { .. }) => "size-out-of-range",
            Self::Outline(_) => "patch-too-far",
            Self::Tier(TierError::Measure(_)) => "measure-out-of-range",
            Self::Tier(TierError::NoTiers) => "no-tiers",
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

/// What a picture is like before anything is done to it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Source {
    /// Width and height, pixels or user units.
    pub size: (f64, f64),
    /// Size of a pixel by the file's own word.
    pub mm_per_px: Option<f64>,
    /// Whether it is made of lines and curves.
    pub is_drawing: bool,
    /// Whether parts of it are transparent.
    pub has_alpha: bool,
    /// Lines of a drawing that nothing paints.
    pub unpainted: usize,
}

impl Source {
    fn of(a: &Artwork) -> Self {
        let (is_drawing, has_alpha, unpainted) = match a {
            Artwork::Picture(p) => (false, p.alpha.is_some(), 0),
            Artwork::Drawing(d) => (true, true, d.unpainted.len()),
        };
        Self { size: a.size(), mm_per_px: a.mm_per_px(), is_drawing, has_alpha, unpainted }
    }
}

/// Contours with what they were made from.
struct Traced {
    contours: Arc<Contours>,
    source: Source,
    frame: Frame,
}

/// Everything that came out, as far as it went.
#[derive(Debug, Default)]
pub struct Run {
    /// What the picture is like, once it was decoded.
    pub source: Option<Source>,
    /// How the prepared picture lies on the original one.
    pub frame: Option<Frame>,
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
    /// What Check says.
    pub findings: Arc<Vec<Finding>>,
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

/// Results by the hash of what went in.
struct Memo<T> {
    known: Mutex<LruCache<String, Arc<T>>>,
    /// What is being computed, each with a lock that is held until it is done.
    begun: Mutex<HashMap<String, Arc<Mutex<()>>>>,
}

fn locked<T>(m: &Mutex<T>) -> MutexGuard<'_, T> {
    m.lock().unwrap_or_else(PoisonError::into_inner)
}

impl<T> Memo<T> {
    fn new(capacity: usize) -> Self {
        let capacity = NonZeroUsize::new(capacity).unwrap_or(NonZeroUsize::MIN);
        Self { known: Mutex::new(LruCache::new(capacity)), begun: Mutex::default() }
    }

    fn get(&self, key: &str) -> Option<Arc<T>> {
        locked(&self.known).get(key).cloned()
    }

    /// Computes once, however many ask at the same time: a preview and the change that it previews often do. Where the
    /// first to ask is stopped or fails, the next one computes for itself.
    fn get_or<E>(&self, key: &str, make: impl FnOnce() -> Result<T, E>) -> Result<Arc<T>, E> {
        if let Some(found) = self.get(key) {
            return Ok(found);
        }
        let turn = Arc::clone(locked(&self.begun).entry(key.into()).or_default());
        let _mine = locked(&turn);
        if let Some(found) = self.get(key) {
            return Ok(found);
        }
        let made = make().map(Arc::new);
        if let Ok(made) = &made {
            locked(&self.known).put(key.into(), Arc::clone(made));
        }
        locked(&self.begun).remove(key);
        made
    }
}

/// Steps of lists of changes. Each holds all patches of its design.
struct StepMemory(Mutex<LruCache<u128, Arc<Step>>>);

impl Steps for StepMemory {
    fn get(&self, name: u128) -> Option<Arc<Step>> {
        locked(&self.0).get(&name).cloned()
    }

    fn put(&self, name: u128, step: Step) {
        locked(&self.0).put(name, Arc::new(step));
    }
}

/// What [`Engine::display`] starts from.
struct Built {
    planar: Arc<Planar>,
    stack: Arc<Stack>,
    slices: Arc<Slices>,
    solid: Arc<Solid>,
}

/// Runs stages and remembers their results.
pub struct Engine {
    artwork: Memo<Artwork>,
    prepared: Memo<Artwork>,
    contours: Memo<Traced>,
    outlines: Memo<Outline>,
    steps: StepMemory,
    plans: Plans,
    sheets: Sheets,
    stacks: Memo<Stack>,
    planar: Memo<Planar>,
    built: Memo<Built>,
    findings: Memo<Vec<Finding>>,
    display: Memo<Vec<DisplayPart>>,
    workshop: RwLock<Arc<Workshop>>,
}

impl Default for Engine {
    fn default() -> Self {
        Self {
            // Decoded pictures are the largest by far: up to 100 MB each.
            artwork: Memo::new(4),
            prepared: Memo::new(4),
            contours: Memo::new(48),
            outlines: Memo::new(48),
            steps: StepMemory(Mutex::new(LruCache::new(const { NonZeroUsize::new(24).unwrap() }))),
            plans: Plans::default(),
            sheets: Sheets::default(),
            stacks: Memo::new(48),
            planar: Memo::new(24),
            built: Memo::new(24),
            findings: Memo::new(64),
            display: Memo::new(12),
            workshop: RwLock::default(),
        }
    }
}

fn key(parts: &impl Serialize) -> String {
    let text = serde_json::to_vec(parts).unwrap_or_default();
    hex(&Sha256::digest(text))
}

/// Colours that the brush and bare corners get: what counts as ink and as ground by the settings.
fn paint(t: &TraceSettings) -> Paint {
    let plain = Paint::default();
    match t.ink {
        Ink::LightDark | Ink::Pen if t.invert => Paint { ink: plain.ground, ground: plain.ink },
        Ink::Colours => Paint { ground: t.colours.ground.unwrap_or(plain.ground), ..plain },
        Ink::LightDark | Ink::Pen | Ink::Alpha => plain,
    }
}

/// What the prepared picture depends on.
pub(crate) fn prepared_key(d: &Document) -> String {
    key(&(&d.artwork.hash, &d.prepare, paint(&d.trace)))
}

/// What contours depend on.
fn contours_key(d: &Document) -> String {
    key(&(prepared_key(d), &d.trace))
}

/// What an outline depends on.
fn outline_key(d: &Document) -> String {
    key(&(contours_key(d), &d.choices, &d.changes, &d.size, d.pen_width))
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
        self.run_until(d, picture, Stage::Check, watch)
    }

    /// Runs the stages up to `last`: to [`Stage::Outline`] for contours while a hand moves, or to the end.
    pub fn run_until(&self, d: &Document, picture: Picture<'_>, last: Stage, watch: &Watch) -> Run {
        let mut run = Run { workshop: self.workshop(), ..Run::default() };
        run.failed = self.stages(d, picture, last, watch, &mut run).err();
        run
    }

    fn stages(
        &self,
        d: &Document,
        picture: Picture<'_>,
        last: Stage,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(), EngineError> {
        let contours = self.trace(d, picture, watch, run)?;
        let outline_key = outline_key(d);
        let outline = timed(&mut run.timings, Stage::Outline, || {
            self.outlines.get_or(&outline_key, || self.sized(d, &contours, d.size, watch))
        });
        run.patches = match &outline {
            Ok(o) => o.patches.clone(),
            Err(_) => {
                let mut found = found_patches(&contours, d.size, d.pen_width, watch)?;
                apply_choices(&mut found, &d.choices);
                found
            }
        };
        let outline = outline?;
        run.outline = Some(Arc::clone(&outline));
        if last == Stage::Outline {
            return Ok(());
        }
        self.build(d, &outline_key, &outline, &contours, watch, run)
    }

    fn trace(
        &self,
        d: &Document,
        picture: Picture<'_>,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<Arc<Contours>, EngineError> {
        let contours_key = contours_key(d);
        let traced = if let Some(known) = self.contours.get(&contours_key) {
            // The picture is not decoded again for contours that are still known.
            run.timings.extend([Stage::Artwork, Stage::Trace].map(|stage| Timing { stage, ms: 0.0 }));
            known
        } else {
            let (artwork, source, frame) = timed(&mut run.timings, Stage::Artwork, || {
                let original = self.artwork(&d.artwork.hash, picture, watch)?;
                run.source = Some(Source::of(&original));
                let frame = Frame::of(original.size(), &d.prepare)?;
                run.frame = Some(frame);
                let artwork = self.prepared(d, original, watch)?;
                Ok::<_, EngineError>((artwork, run.source, frame))
            })?;
            let source = source.unwrap_or_else(|| Source::of(&artwork));
            timed(&mut run.timings, Stage::Trace, || {
                self.contours.get_or(&contours_key, || {
                    let contours = Arc::new(trace(&artwork, &d.trace, watch)?);
                    Ok::<_, TraceError>(Traced { contours, source, frame })
                })
            })?
        };
        (run.source, run.frame) = (Some(traced.source), Some(traced.frame));
        run.contours = Some(Arc::clone(&traced.contours));
        Ok(Arc::clone(&traced.contours))
    }

    fn prepared(&self, d: &Document, original: Arc<Artwork>, watch: &Watch) -> Result<Arc<Artwork>, EngineError> {
        if d.prepare == Prepare::default() {
            return Ok(original);
        }
        let key = prepared_key(d);
        if let Some(known) = self.prepared.get(&key) {
            return Ok(known);
        }
        match prepare(&original, &d.prepare, paint(&d.trace), watch)? {
            Some(made) => self.prepared.get_or(&key, || Ok(made)),
            None => Ok(original),
        }
    }

    /// The picture as it is traced: levelled, tidied, straightened, turned and cropped.
    pub fn shown(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Result<Arc<Artwork>, EngineError> {
        let original = self.artwork(&d.artwork.hash, picture, watch)?;
        self.prepared(d, original, watch)
    }

    /// The settings that all designs share.
    pub fn workshop(&self) -> Arc<Workshop> {
        Arc::clone(&self.workshop.read().unwrap_or_else(PoisonError::into_inner))
    }

    /// Takes other settings; they have been checked.
    pub fn set_workshop(&self, workshop: Workshop) {
        *self.workshop.write().unwrap_or_else(PoisonError::into_inner) = Arc::new(workshop);
    }

    /// What a design says of its tiers, and the filaments it names that the workshop does not have.
    fn given(d: &Document, outline: &Outline, workshop: &Workshop) -> (Given, Vec<String>) {
        let mut gone: Vec<String> = Vec::new();
        let mut known = |f: &String| {
            let is_known = workshop.filaments.iter().any(|w| w.id == *f);
            if !is_known && !gone.contains(f) {
                gone.push(f.clone());
            }
            is_known
        };
        let filaments = d.filaments.iter().filter(|(_, f)| known(f)).map(|(k, f)| (k.clone(), f.clone())).collect();
        let paint = |p: &PatchFilament| {
            let filament = p.filament.clone()?;
            let patch = patch_at(&outline.patches, &p.spot)?;
            Some((patch, filament))
        };
        let paints = d.paints.iter().filter_map(paint).filter(|(_, f)| known(f)).collect();
        let given = Given {
            filaments,
            paints,
            filament: workshop.filaments[0].id.clone(),
            own: d.tiers.clone(),
            bars: bars_mm(d, outline),
        };
        (given, gone)
    }

    fn build(
        &self,
        d: &Document,
        outline_key: &str,
        outline: &Outline,
        contours: &Contours,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(), EngineError> {
        let m: Measures = d.measures()?;
        let (given, gone) = Self::given(d, outline, &run.workshop);
        let measures: Vec<_> = m.all().map(|(n, v)| (n, v.to_bits())).collect();
        let asked = (&given.filaments, &given.paints, &given.filament, &given.own, &given.bars);
        let stack_key = key(&(outline_key, d.recipe, &measures, asked));
        let stack = timed(&mut run.timings, Stage::Tiers, || {
            self.stacks.get_or(&stack_key, || stack(d.recipe, outline, &m, &given, &self.plans, watch))
        })?;
        run.stack = Some(Arc::clone(&stack));
        let built = match self.built.get(&stack_key) {
            Some(known) => known,
            None => {
                let slices =
                    timed(&mut run.timings, Stage::Tiers, || slice(&stack, &self.plans, watch)).map(Arc::new)?;
                timed(&mut run.timings, Stage::Solid, || {
                    self.built.get_or(&stack_key, || {
                        // Heights do not change the arrangement.
                        let planar =
                            self.planar.get_or(&key(&slices.plan_name()), || arrange(&slices, &self.sheets, watch))?;
                        let solid = Arc::new(extrude(&planar, &stack, &slices, watch)?);
                        let (stack, slices) = (Arc::clone(&stack), Arc::clone(&slices));
                        Ok::<_, SolidError>(Built { planar, stack, slices, solid })
                    })
                })?
            }
        };
        run.solid = Some((stack_key.clone(), Arc::clone(&built.solid)));
        let printer = run.workshop.printer();
        run.findings = timed(&mut run.timings, Stage::Check, || {
            self.findings.get_or(&key(&(&stack_key, printer, &gone)), || {
                let object = Object {
                    contours,
                    outline,
                    measures: &m,
                    stack: &stack,
                    solid: &built.solid,
                    printer,
                    gone: &gone,
                    has_own_bars: d.bars.is_some(),
                };
                kachel_check::check(&object, watch)
            })
        })?;
        Ok(())
    }

    /// The section of a stack along a line.
    pub fn section(&self, stack: &Stack, line: &CutLine) -> Result<Vec<Cut>, EngineError> {
        Ok(section(stack, line, &self.plans)?)
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
            let parts = extrude_tiers(&built.planar, &built.stack, &built.slices, watch)?;
            let shown = |p: kachel_solid::Part| {
                let t = &built.stack.tiers[p.number as usize];
                DisplayPart { role: t.role, part: t.part, mesh: p.mesh }
            };
            Ok::<_, SolidError>(parts.into_iter().map(shown).collect())
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
        let recipe = RecipeKind::CutterStamp;
        let mut prepare = Prepare::default();
        if let Artwork::Picture(p) = &*artwork {
            prepare.level = p.alpha.is_none() && unevenness(p) > UNEVEN;
        }
        let mut d = Document {
            version: VERSION,
            name: name.into(),
            artwork: ArtworkRef { hash, file_name: file_name.into() },
            credit: Credit::default(),
            unit: self.workshop().unit,
            prepare,
            trace: TraceSettings::default(),
            pen_width: None,
            choices: vec![],
            changes: vec![],
            pins: vec![],
            guides: vec![],
            size: Size::Scale { mm_per_px: 1.0 },
            recipe,
            measures: BTreeMap::new(),
            other_measures: BTreeMap::new(),
            tiers: vec![],
            bars: None,
            filaments: BTreeMap::new(),
            paints: vec![],
        };
        let source = || Ok(bytes.to_vec());
        d.trace = first_guess(&*self.shown(&d, &source, watch)?);
        let (w, h) = artwork.size();
        let usual = recipe.recipe().usual_size;
        let mut run = Run::default();
        let longest = match self.trace(&d, &source, watch, &mut run) {
            Ok(contours) => {
                let found = found_patches(&contours, d.size, d.pen_width, watch)?;
                edge_box(&found).map_or(w.max(h), |b| b.width().max(b.height()))
            }
            Err(EngineError::Stopped(s)) => return Err(s.into()),
            Err(_) => w.max(h),
        };
        // A file's own size makes sense where a hand could hold the object.
        let own = artwork.mm_per_px().filter(|s| (20.0..=300.0).contains(&(longest * s)));
        d.size = Size::Scale { mm_per_px: own.unwrap_or(usual / longest.max(1e-6)) };
        Ok(d)
    }

    /// The design with another picture. Settings, patches' uses and the object's size are kept; strokes, corners and the
    /// crop only where the new picture has the old one's size in pixels.
    pub fn replace_picture(
        &self,
        d: &Document,
        file_name: &str,
        bytes: &[u8],
        old: Picture<'_>,
        watch: &Watch,
    ) -> Result<Document, EngineError> {
        let hash = Self::hash(bytes);
        let new = || Ok(bytes.to_vec());
        let size = self.artwork(&hash, &new, watch)?.size();
        let mut after = d.clone();
        after.artwork = ArtworkRef { hash, file_name: file_name.into() };
        let mut before = Run::default();
        let old_outline = match self.trace(d, old, watch, &mut before) {
            Ok(contours) => self.possible_outline(d, &contours, watch)?,
            Err(EngineError::Stopped(s)) => return Err(s.into()),
            Err(_) => None,
        };
        if before.source.is_none_or(|s| s.size != size) {
            after.prepare = Prepare { strokes: vec![], straighten: None, crop: None, ..after.prepare };
        }
        if let (Some(from), Ok(to)) = (before.frame, Frame::of(size, &after.prepare)) {
            let moved = |[x, y]: [f64; 2]| [x * to.width / from.width, y * to.height / from.height];
            after.move_places(moved);
        }
        if let (Some(outline), Size::Scale { mm_per_px }) = (old_outline, d.size) {
            let side = |b: &kachel_geom::Bounds<_>| b.width().max(b.height());
            let mm = side(&outline.edge_px) * mm_per_px;
            if let Ok(contours) = self.trace(&after, &new, watch, &mut Run::default())
                && let Some(outline) = self.possible_outline(&after, &contours, watch)?
            {
                after.size = Size::Scale { mm_per_px: mm / side(&outline.edge_px) };
            }
        }
        Ok(after)
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
            let mut source = None;
            if edit.needs_outline() {
                let mut run = Run::default();
                match self.trace(&d, picture, watch, &mut run) {
                    Ok(contours) => outline = self.possible_outline(&d, &contours, watch)?,
                    Err(EngineError::Stopped(s)) => return Err(s.into()),
                    Err(_) => {}
                }
                source = run.source;
            }
            if source.is_none() && edit.needs_picture() {
                source = Some(Source::of(&*self.artwork(&d.artwork.hash, picture, watch)?));
            }
            match edit.apply(&d, &Basis { outline: outline.as_deref(), source }) {
                Ok(next) => d = next,
                Err(e) => return Ok(Err(e)),
            }
        }
        Ok(Ok(d))
    }

    fn sized(&self, d: &Document, contours: &Contours, size: Size, watch: &Watch) -> Result<Outline, OutlineError> {
        let base = key(&(contours_key(d), &d.choices, d.pen_width));
        let memory = Some((&self.steps as &dyn Steps, base.as_str()));
        size_outline_from(contours, &d.choices, &d.changes, size, d.pen_width, memory, watch)
    }

    /// The outline; where the size is impossible, that of a possible one, so that a new size can be set. `None` where
    /// nothing is the edge.
    fn possible_outline(
        &self,
        d: &Document,
        contours: &Contours,
        watch: &Watch,
    ) -> Result<Option<Arc<Outline>>, EngineError> {
        let sized = self.outlines.get_or(&outline_key(d), || self.sized(d, contours, d.size, watch));
        let usual = Size::Width { mm: d.recipe.recipe().usual_size };
        match sized.or_else(|e| match e {
            OutlineError::Stopped(_) => Err(e),
            _ => self.sized(d, contours, usual, watch).map(Arc::new),
        }) {
            Ok(outline) => Ok(Some(outline)),
            Err(OutlineError::Stopped(s)) => Err(s.into()),
            Err(_) => Ok(None),
        }
    }
}
