//! The stages in their order, each remembered by what went into it.

use crate::engine::{Arranged, Engine, Picture, Traced};
use crate::error::EngineError;
use crate::keys::{contours_key, key, outline_key, paint, prepared_key};
use crate::layers::{layer_heights, looked_at};
use crate::run::{Run, Timing, timed};
use kachel_artwork::{Artwork, ArtworkError, Frame, Prepare, prepare};
use kachel_check::Object;
use kachel_design::{Document, PatchFilament, Source, Workshop, bars_mm};
use kachel_geom::{Stage, Watch};
use kachel_outline::{Outline, Size, Steps, Wanted, found_patches, patch_at, size_outline_from};
use kachel_solid::{Solid, SolidError, arrange};
use kachel_tiers::{Cut, CutLine, Given, Measures, Stack, section, slice, stack};
use kachel_trace::{Contours, trace};
use kachel_words::msg;
use std::sync::Arc;

/// Stack of the thread that reads drawings, whose groups nest up to a thousand deep.
const DEEP_STACK: usize = 64 << 20;

/// Tiers, with the name under which they are remembered.
struct Laid {
    key: String,
    stack: Arc<Stack>,
    measures: Measures,
    /// Filaments that the design names and the workshop does not have.
    gone: Vec<String>,
}

/// Tiers and their solid, with the name under which they are remembered.
struct Piled {
    key: String,
    arranged: Arc<Arranged>,
    solid: Arc<Solid>,
    /// Filaments that the design names and the workshop does not have.
    gone: Vec<String>,
}

impl Engine {
    /// Runs all stages, as far as they go.
    pub fn run(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Run {
        self.run_until(d, picture, Stage::Check, watch)
    }

    /// Runs the stages up to `last`: to [`Stage::Outline`] or [`Stage::Tiers`] while a hand moves, or to the end.
    pub fn run_until(&self, d: &Document, picture: Picture<'_>, last: Stage, watch: &Watch) -> Run {
        let mut run = Run { workshop: self.workshop(), ..Run::default() };
        run.failed = self.stages(d, picture, last, watch, &mut run).err();
        run
    }

    /// Runs the stages up to the tiers, and makes their meshes as they are shown, while a hand moves: that takes half as long as the
    /// solid of a taper and those meshes.
    pub fn run_shown(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Run {
        let mut run = Run { workshop: self.workshop(), ..Run::default() };
        run.failed = self.show(d, picture, watch, &mut run).err();
        run
    }

    fn show(&self, d: &Document, picture: Picture<'_>, watch: &Watch, run: &mut Run) -> Result<(), EngineError> {
        let (_, outline, outline_key) = self.outline(d, picture, watch, run)?;
        let laid = self.lay(d, &outline_key, &outline, watch, run)?;
        let arranged = self.arrange(&laid, watch, run)?;
        let parts = timed(&mut run.timings, Stage::Solid, || self.tier_meshes(&laid.key, &arranged, watch))?;
        run.shown = Some((laid.key, parts));
        Ok(())
    }

    fn stages(
        &self,
        d: &Document,
        picture: Picture<'_>,
        last: Stage,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(), EngineError> {
        let (contours, outline, outline_key) = self.outline(d, picture, watch, run)?;
        if last == Stage::Outline {
            return Ok(());
        }
        let laid = self.lay(d, &outline_key, &outline, watch, run)?;
        if last == Stage::Tiers {
            return Ok(());
        }
        let piled = self.build(laid, watch, run)?;
        run.solid = Some((piled.key.clone(), Arc::clone(&piled.solid)));
        if last == Stage::Solid {
            return Ok(());
        }
        self.check(d, (&contours, &outline, &piled), watch, run)
    }

    /// Contours and outline, with the name of the outline.
    fn outline(
        &self,
        d: &Document,
        picture: Picture<'_>,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(Arc<Contours>, Arc<Outline>, String), EngineError> {
        let contours = self.trace(d, picture, watch, run)?;
        let outline_key = outline_key(d)?;
        let outline = timed(&mut run.timings, Stage::Outline, || {
            self.outlines.get_or_once(&outline_key, || self.sized(d, &contours, d.size, watch).map(Arc::new))
        });
        run.patches = match &outline {
            Ok(o) => o.patches.clone(),
            Err(_) => found_patches(&contours, &d.wanted()?, watch)?,
        };
        let outline = outline?;
        run.outline = Some(Arc::clone(&outline));
        Ok((contours, outline, outline_key))
    }

    pub(crate) fn trace(
        &self,
        d: &Document,
        picture: Picture<'_>,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<Arc<Contours>, EngineError> {
        run.picture_key = prepared_key(d)?;
        let contours_key = contours_key(d)?;
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
                self.contours.get_or_once(&contours_key, || {
                    let contours = Arc::new(trace(&artwork, &d.trace, watch)?);
                    Ok::<_, EngineError>(Arc::new(Traced { contours, source, frame }))
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
        let key = prepared_key(d)?;
        if let Some(known) = self.prepared.get(&key) {
            return Ok(known);
        }
        match prepare(&original, &d.prepare, paint(&d.trace), watch)? {
            Some(made) => self.prepared.get_or(key, |_| Ok(Arc::new(made))),
            None => Ok(original),
        }
    }

    /// The picture as it is traced: levelled, tidied, straightened, turned and cropped.
    pub fn shown(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Result<Arc<Artwork>, EngineError> {
        let original = self.artwork(&d.artwork.hash, picture, watch)?;
        self.prepared(d, original, watch)
    }

    /// What a design says of its tiers, and the filaments it names that the workshop does not have.
    pub(crate) fn given(d: &Document, outline: &Outline, workshop: &Workshop) -> (Given, Vec<String>) {
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

    fn lay(
        &self,
        d: &Document,
        outline_key: &str,
        outline: &Outline,
        watch: &Watch,
        run: &mut Run,
    ) -> Result<Laid, EngineError> {
        let m: Measures = d.measures()?;
        let (given, gone) = Self::given(d, outline, &run.workshop);
        let measures: Vec<_> = m.all().map(|(n, v)| (n, v.to_bits())).collect();
        let asked = (&given.filaments, &given.paints, &given.filament, &given.own, &given.bars);
        let stack_key = key(&(outline_key, d.recipe, &measures, asked))?;
        let stack = timed(&mut run.timings, Stage::Tiers, || {
            self.stacks
                .get_or_once(&stack_key, || stack(d.recipe, outline, &m, &given, &self.plans, watch).map(Arc::new))
        })?;
        run.stack = Some(Arc::clone(&stack));
        Ok(Laid { key: stack_key, stack, measures: m, gone })
    }

    fn arrange(&self, laid: &Laid, watch: &Watch, run: &mut Run) -> Result<Arc<Arranged>, EngineError> {
        if let Some(known) = self.arranged.get(&laid.key) {
            return Ok(known);
        }
        let slices = timed(&mut run.timings, Stage::Tiers, || slice(&laid.stack, &self.plans, watch)).map(Arc::new)?;
        let arranged = timed(&mut run.timings, Stage::Solid, || {
            self.arranged.get_or_once(&laid.key, || {
                // Heights do not change the arrangement.
                let make = || arrange(&slices, &self.sheets, watch).map(Arc::new);
                let planar = self.planar.get_or_once(&slices.plan_name(), make)?;
                let (stack, measures) = (Arc::clone(&laid.stack), laid.measures.clone());
                Ok::<_, SolidError>(Arc::new(Arranged { planar, stack, slices, measures }))
            })
        })?;
        Ok(arranged)
    }

    fn build(&self, laid: Laid, watch: &Watch, run: &mut Run) -> Result<Piled, EngineError> {
        let arranged = self.arrange(&laid, watch, run)?;
        let solid = timed(&mut run.timings, Stage::Solid, || self.solid(&laid.key, &arranged, watch))?;
        Ok(Piled { key: laid.key, arranged, solid, gone: laid.gone })
    }

    fn check(
        &self,
        d: &Document,
        (contours, outline, piled): (&Contours, &Outline, &Piled),
        watch: &Watch,
        run: &mut Run,
    ) -> Result<(), EngineError> {
        let Piled { key: stack_key, arranged, solid, gone } = piled;
        let Arranged { stack, measures, .. } = &**arranged;
        let (printer, heights) = (run.workshop.printer(), layer_heights(&run.workshop));
        let colours: Vec<[u8; 3]> = stack.filaments.iter().map(|f| run.workshop.filament(f).colour).collect();
        let about = (&d.credit, &d.credit_of, d.trace.deviation);
        let findings_key = key(&(stack_key, printer, heights.first, gone, &colours, about))?;
        run.report = timed(&mut run.timings, Stage::Check, || {
            self.reports.get_or_once(&findings_key, || {
                let layers = &looked_at(solid, heights)?;
                let object = Object {
                    contours,
                    outline,
                    measures,
                    stack,
                    solid,
                    layers,
                    printer,
                    colours: &colours,
                    gone,
                    has_own_bars: d.bars.is_some(),
                    credit: &d.credit,
                    credit_of: d.credit_of.as_deref(),
                    deviation: d.trace.deviation,
                };
                Ok::<_, EngineError>(Arc::new(kachel_check::check(&object, watch)?))
            })
        })?;
        Ok(())
    }

    /// The section of a stack along a line.
    pub fn section(&self, stack: &Stack, line: &CutLine) -> Result<Vec<Cut>, EngineError> {
        Ok(section(stack, line, &self.plans)?)
    }

    pub(crate) fn artwork(&self, hash: &str, picture: Picture<'_>, watch: &Watch) -> Result<Arc<Artwork>, EngineError> {
        self.artwork.get_or_once(&hash.to_string(), || {
            watch.enter(Stage::Artwork)?;
            let bytes = picture()?;
            let decode = || Artwork::decode(&bytes, watch).map(Arc::new).map_err(EngineError::from);
            std::thread::scope(|s| {
                let thread = std::thread::Builder::new().stack_size(DEEP_STACK).spawn_scoped(s, decode)?;
                let lost = || EngineError::Artwork(ArtworkError::Damaged(msg!("decoder-gave-up").to_string()));
                thread.join().unwrap_or_else(|_| Err(lost()))
            })
        })
    }

    fn sized(&self, d: &Document, contours: &Contours, size: Size, watch: &Watch) -> Result<Outline, EngineError> {
        let wanted = Wanted { size, ..d.wanted()? };
        let base = key(&(contours_key(d)?, wanted.choices, wanted.pen, wanted.aim, wanted.guesses))?;
        let memory = Some((&self.steps as &dyn Steps, base.as_str()));
        Ok(size_outline_from(contours, &wanted, memory, watch)?)
    }

    /// The outline; where the size is impossible, that of a possible one, so that a new size can be set. `None` where
    /// nothing is the edge.
    pub(crate) fn possible_outline(
        &self,
        d: &Document,
        contours: &Contours,
        watch: &Watch,
    ) -> Result<Option<Arc<Outline>>, EngineError> {
        let sized =
            self.outlines.get_or_once(&outline_key(d)?, || self.sized(d, contours, d.size, watch).map(Arc::new));
        match sized.or_else(|e| match e {
            EngineError::Stopped(_) => Err(e),
            _ => self.sized(d, contours, Size::Usual, watch).map(Arc::new),
        }) {
            Ok(outline) => Ok(Some(outline)),
            Err(EngineError::Stopped(s)) => Err(s.into()),
            Err(_) => Ok(None),
        }
    }
}
