use crate::display::{DisplayPart, Shown};
use crate::error::EngineError;
use crate::keys;
use kachel_artwork::{Artwork, Frame};
use kachel_check::Report;
use kachel_design::{Source, Workshop};
use kachel_geom::{Memo, Name, Region, Watch};
use kachel_outline::{Outline, Step, Steps};
use kachel_rehearse::{KnownWalls, Laid, Rehearsal};
use kachel_solid::{Planar, Sheets, Solid, SolidError, extrude, extrude_tiers};
use kachel_tiers::{Measures, Plans, Slices, Stack};
use kachel_trace::Contours;
use std::sync::{Arc, PoisonError, RwLock};

/// Gives the bytes of a picture, when they are needed at all.
pub type Picture<'a> = &'a (dyn Fn() -> std::io::Result<Vec<u8>> + Sync);

/// Contours with what they were made from.
pub(crate) struct Traced {
    pub(crate) contours: Arc<Contours>,
    pub(crate) source: Source,
    pub(crate) frame: Frame,
}

/// Steps of lists of changes. Each holds all patches of its design.
pub(crate) struct StepMemory(Memo<Name, Arc<Step>>);

impl Steps for StepMemory {
    fn get(&self, name: Name) -> Option<Arc<Step>> {
        self.0.get(&name)
    }

    fn put(&self, name: Name, step: Step) {
        self.0.put(name, Arc::new(step));
    }
}

/// Results by the hash of what went in, each made once however many ask at the same time: a preview and the change that it
/// previews often do.
type Known<T> = Memo<String, Arc<T>>;

/// What solids and the meshes of single tiers are made from.
pub(crate) struct Arranged {
    pub(crate) planar: Arc<Planar>,
    pub(crate) stack: Arc<Stack>,
    pub(crate) slices: Arc<Slices>,
    pub(crate) measures: Measures,
}

/// Runs stages and remembers their results.
pub struct Engine {
    pub(crate) artwork: Known<Artwork>,
    pub(crate) prepared: Known<Artwork>,
    pub(crate) contours: Known<Traced>,
    pub(crate) outlines: Known<Outline>,
    pub(crate) steps: StepMemory,
    pub(crate) plans: Plans,
    pub(crate) sheets: Sheets,
    pub(crate) stacks: Known<Stack>,
    pub(crate) planar: Memo<Vec<Name>, Arc<Planar>>,
    pub(crate) arranged: Known<Arranged>,
    pub(crate) solids: Known<Solid>,
    pub(crate) reports: Known<Report>,
    pub(crate) display: Known<Vec<DisplayPart>>,
    pub(crate) walls: KnownWalls,
    pub(crate) laid: Known<Laid>,
    pub(crate) rehearsals: Known<Rehearsal>,
    pub(crate) shadows: Known<Region>,
    pub(crate) in_use: Known<Option<Shown>>,
    pub(crate) workshop: RwLock<Arc<Workshop>>,
}

impl Default for Engine {
    fn default() -> Self {
        Self {
            // Decoded pictures are the largest by far: up to 100 MB each.
            artwork: Memo::new(4),
            prepared: Memo::new(4),
            // As many designs as lie on a full bed, and some.
            contours: Memo::new(64),
            outlines: Memo::new(64),
            steps: StepMemory(Memo::new(24)),
            plans: Plans::default(),
            sheets: Sheets::default(),
            stacks: Memo::new(64),
            planar: Memo::new(48),
            arranged: Memo::new(64),
            solids: Memo::new(64),
            reports: Memo::new(64),
            display: Memo::new(12),
            walls: KnownWalls::default(),
            laid: Memo::new(64),
            rehearsals: Memo::new(6),
            shadows: Memo::new(200),
            in_use: Memo::new(12),
            workshop: RwLock::default(),
        }
    }
}

impl Engine {
    /// The name under which a picture is kept: the SHA-256 of its bytes.
    pub fn hash(bytes: &[u8]) -> String {
        keys::hash(bytes)
    }

    /// The settings that all designs share.
    pub fn workshop(&self) -> Arc<Workshop> {
        Arc::clone(&self.workshop.read().unwrap_or_else(PoisonError::into_inner))
    }

    /// Takes other settings; they have been checked.
    pub fn set_workshop(&self, workshop: Workshop) {
        *self.workshop.write().unwrap_or_else(PoisonError::into_inner) = Arc::new(workshop);
    }

    /// The meshes of the single tiers of a solid that [`Engine::run`] or [`Engine::run_shown`] gave, while it is remembered.
    pub fn display(&self, solid_key: &str, watch: &Watch) -> Result<Option<Arc<Vec<DisplayPart>>>, EngineError> {
        let key = solid_key.to_string();
        let Some(arranged) = self.arranged.get(&key) else { return Ok(None) };
        Ok(Some(self.tier_meshes(&key, &arranged, watch)?))
    }

    pub(crate) fn tier_meshes(
        &self,
        key: &String,
        a: &Arranged,
        watch: &Watch,
    ) -> Result<Arc<Vec<DisplayPart>>, EngineError> {
        let make = || {
            let solid = self.solids.get(key);
            let parts = extrude_tiers(&a.planar, &a.stack, &a.slices, solid.as_deref(), watch)?;
            Ok::<_, SolidError>(Arc::new(DisplayPart::all_of(parts, &a.stack)))
        };
        Ok(self.display.get_or_once(key, make)?)
    }

    /// The solid of an arrangement.
    pub(crate) fn solid(&self, key: &String, a: &Arranged, watch: &Watch) -> Result<Arc<Solid>, SolidError> {
        self.solids.get_or_once(key, || extrude(&a.planar, &a.stack, &a.slices, watch).map(Arc::new))
    }
}
