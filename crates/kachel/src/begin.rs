//! How a design begins, takes another picture, and takes edits.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::keys::hash;
use crate::run::Run;
use crate::sizing::Typed;
use kachel_artwork::{self as artwork, Artwork, Frame, Prepare, find_sheet, unevenness};
use kachel_design::{
    ArtworkRef, Basis, Credit, Document, Edit, EditError, GeneralEdit, Needs, PrintWish, SizeOf, Source, VERSION,
    lay_by,
};
use kachel_geom::{Point, Px, Watch};
use kachel_outline::{Guesses, Size, found_patches, sized_box};
use kachel_tiers::RecipeKind;
use kachel_trace::{Ink, TraceSettings, first_guess, otsu_cut};
use std::collections::BTreeMap;

/// Paper that is this much brighter in one place than in another is levelled from the start.
const UNEVEN: f64 = 1.3;

/// Width of the lines of a picture of hairlines, mm: three printed ones, more than the least of every recipe.
const PEN_MM: f64 = 1.2;

/// Something is drawn on a sheet whose two classes of grey are at least so far apart.
const DRAWN: f64 = 30.0;

fn has_ink(p: &artwork::Picture) -> bool {
    otsu_cut(&p.grey).is_some_and(|c| c.contrast >= DRAWN)
}

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
        let mut d = Document {
            version: VERSION,
            name: name.into(),
            artwork: ArtworkRef { hash, file_name: file_name.into() },
            credit: Credit::default(),
            credit_of: None,
            unit: self.workshop().unit,
            prepare: Prepare::default(),
            trace: TraceSettings::default(),
            pen_width: None,
            guesses: Guesses::default(),
            choices: vec![],
            changes: vec![],
            pins: vec![],
            guides: vec![],
            print: PrintWish::default(),
            accepted: vec![],
            size: Size::Usual,
            recipe,
            measures: BTreeMap::new(),
            other_measures: BTreeMap::new(),
            tiers: vec![],
            bars: None,
            filaments: BTreeMap::new(),
            paints: vec![],
        };
        let source = || Ok(bytes.to_vec());
        if let Artwork::Picture(p) = &*artwork {
            self.lay_out(&mut d, p, &source, watch)?;
        }
        d.trace = first_guess(&*self.shown(&d, &source, watch)?);
        if d.trace.ink == Ink::Pen {
            d.pen_width = Some(PEN_MM);
        }
        let (w, h) = artwork.size();
        let mut run = Run::default();
        let longest = match self.trace(&d, &source, watch, &mut run) {
            Ok(contours) => {
                let found = found_patches(&contours, &d.wanted()?, watch)?;
                sized_box(&found).map_or(w.max(h), |b| b.width().max(b.height()))
            }
            Err(EngineError::Stopped(s)) => return Err(s.into()),
            Err(_) => w.max(h),
        };
        // A file's own size makes sense where a hand could hold the object.
        let own = artwork.mm_per_px().filter(|s| (20.0..=300.0).contains(&(longest * s)));
        let by_sheet = run.frame.and_then(|f| f.mm_per_px);
        if let Some(mm_per_px) = by_sheet.or(own) {
            d.size = Size::Scale { mm_per_px };
        }
        Ok(d)
    }

    /// Lays a picture out: by a sheet that lies in it with something on it, else as it is; and levels its light where that is
    /// uneven.
    fn lay_out(
        &self,
        d: &mut Document,
        p: &artwork::Picture,
        source: Picture<'_>,
        watch: &Watch,
    ) -> Result<(), EngineError> {
        let uneven = |p: &artwork::Picture| p.alpha.is_none() && unevenness(p) > UNEVEN;
        if let Some(corners) = find_sheet(p) {
            let (straighten, crop) = lay_by(corners, None, d.unit, (f64::from(p.width), f64::from(p.height)))?;
            let mut laid = d.clone();
            laid.prepare = Prepare { straighten: Some(straighten), crop: Some(crop), ..Prepare::default() };
            if let Artwork::Picture(on_it) = &*self.shown(&laid, source, watch)?
                && has_ink(on_it)
            {
                laid.prepare.level = uneven(on_it);
                *d = laid;
                return Ok(());
            }
        }
        d.prepare.level = uneven(p);
        Ok(())
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
        if hash != d.artwork.hash && d.credit != Credit::default() {
            after.credit_of.get_or_insert_with(|| d.artwork.file_name.clone());
        }
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
            let moved = |p: Point<Px>| Point::new(p.x * to.width / from.width, p.y * to.height / from.height);
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
            let (mut outline, mut source, mut sheet) = (None, None, None);
            match edit.needs() {
                Needs::Nothing => {}
                Needs::Picture => source = Some(Source::of(&*self.artwork(&d.artwork.hash, picture, watch)?)),
                Needs::Sheet => {
                    let artwork = self.artwork(&d.artwork.hash, picture, watch)?;
                    source = Some(Source::of(&artwork));
                    sheet = if let Artwork::Picture(p) = &*artwork { find_sheet(p) } else { None };
                }
                Needs::Outline => match self.trace(&d, picture, watch, &mut Run::default()) {
                    Ok(contours) => outline = self.possible_outline(&d, &contours, watch)?,
                    Err(EngineError::Stopped(s)) => return Err(s.into()),
                    // Without contours there is no outline; edits that need one refuse by themselves.
                    Err(_) => {}
                },
            }
            let beyond = match (edit, &outline) {
                // Lengths in millimetres, such as a pen's width, make even the drawing's size depend on the scale.
                (Edit::General(GeneralEdit::SetSize { axis, value, of }), Some(o))
                    if *of != SizeOf::Drawing || d.pen_width.is_some() || !d.changes.is_empty() =>
                {
                    match self.beyond(&d, Typed { axis: *axis, value, of: *of }, o, picture, watch)? {
                        Ok(beyond) => beyond,
                        Err(e) => return Ok(Err(e)),
                    }
                }
                _ => 0.0,
            };
            match edit.apply(&d, &Basis { outline: outline.as_deref(), source, sheet, beyond }) {
                Ok(next) => d = next,
                Err(e) => return Ok(Err(e)),
            }
        }
        Ok(Ok(d))
    }
}
