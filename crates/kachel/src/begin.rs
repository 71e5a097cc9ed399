//! How a design begins, takes another picture, and takes edits.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::keys::hash;
use crate::run::Run;
use kachel_artwork::{Artwork, Frame, Prepare, unevenness};
use kachel_design::{ArtworkRef, Basis, Credit, Document, Edit, EditError, Needs, Source, VERSION};
use kachel_geom::Watch;
use kachel_outline::{Size, edge_box, found_patches};
use kachel_tiers::RecipeKind;
use kachel_trace::{TraceSettings, first_guess};
use std::collections::BTreeMap;

/// Paper that is this much brighter in one place than in another is levelled from the start.
const UNEVEN: f64 = 1.3;

impl Engine {
    /// A new design from a picture: first guesses for the ink, the file's own size where it makes sense, else the
    /// recipe's usual one. Fails only where the picture cannot be decoded; a picture without ink is a design too.
    pub fn new_document(
        &self,
        name: &str,
        file_name: &str,
        bytes: &[u8],
        watch: &Watch,
    ) -> Result<Document, EngineError> {
        let hash = hash(bytes);
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
        let hash = hash(bytes);
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
            let (mut outline, mut source) = (None, None);
            match edit.needs() {
                Needs::Nothing => {}
                Needs::Picture => source = Some(Source::of(&*self.artwork(&d.artwork.hash, picture, watch)?)),
                Needs::Outline => match self.trace(&d, picture, watch, &mut Run::default()) {
                    Ok(contours) => outline = self.possible_outline(&d, &contours, watch)?,
                    Err(EngineError::Stopped(s)) => return Err(s.into()),
                    // Without contours there is no outline; edits that need one refuse by themselves.
                    Err(_) => {}
                },
            }
            match edit.apply(&d, &Basis { outline: outline.as_deref(), source }) {
                Ok(next) => d = next,
                Err(e) => return Ok(Err(e)),
            }
        }
        Ok(Ok(d))
    }
}
