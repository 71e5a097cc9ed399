//! Many pictures, one recipe.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::rehearsal::PrintWish;
use kachel_design::{Axis, Document, Edit, EditError, GeneralEdit, Length, SizeOf, TierEdit};
use kachel_geom::{Stage, Watch};
use kachel_tiers::RecipeKind;

/// Narrowest size that is looked for, as a share of the present one.
const LEAST: f64 = 0.2;
/// Halvings of that range: the size is found to a hundredth.
const HALVINGS: u32 = 7;

impl Engine {
    /// A new design as one of a set: of a recipe, and with its longest side at most so long.
    pub fn begin_as(
        &self,
        new: &Document,
        recipe: Option<RecipeKind>,
        longest: Option<&Length>,
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<Result<Document, EditError>, EngineError> {
        let mut document = new.clone();
        if let Some(recipe) = recipe {
            match self.apply(&document, &[TierEdit::SetRecipe { recipe }.into()], picture, watch)? {
                Ok(after) => document = after,
                Err(e) => return Ok(Err(e)),
            }
        }
        let Some(longest) = longest else { return Ok(Ok(document)) };
        let most = match longest.mm(document.unit) {
            Ok(mm) => mm,
            Err(e) => return Ok(Err(e.into())),
        };
        match self.longest_side(&document, picture, watch) {
            Some((axis, mm)) if mm > most => {
                let size = GeneralEdit::SetSize { axis, value: longest.clone(), of: SizeOf::Object };
                self.apply(&document, &[size.into()], picture, watch)
            }
            _ => Ok(Ok(document)),
        }
    }

    /// The longer side of the object in plan, mm; `None` where there is no object.
    fn longest_side(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Option<(Axis, f64)> {
        let run = self.run_until(d, picture, Stage::Solid, watch);
        let (min, max) = run.solid.as_ref()?.1.skin.mesh().extent();
        let [width, height] = [0, 1].map(|k| max[k] - min[k]);
        Some(if width >= height { (Axis::Width, width) } else { (Axis::Height, height) })
    }

    /// The largest size of the whole object that prints within so many seconds: its longer side and the design, made that size.
    /// `None` where a fifth of the present size takes longer still, or nothing can be printed.
    pub fn sized_within(
        &self,
        d: &Document,
        seconds: f64,
        wish: PrintWish,
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<Option<(f64, Document)>, EngineError> {
        let Some((axis, now)) = self.longest_side(d, picture, watch) else { return Ok(None) };
        let takes = |mm: f64| -> Result<Option<(f64, Document)>, EngineError> {
            let size: Edit = GeneralEdit::SetSize { axis, value: mm.into(), of: SizeOf::Object }.into();
            let Ok(after) = self.apply(d, &[size], picture, watch)? else { return Ok(None) };
            let run = self.run_until(&after, picture, Stage::Solid, watch);
            Ok(self.rehearse(&run, wish, watch)?.map(|r| (r.seconds, after)))
        };
        let (mut low, mut high) = (LEAST * now, now);
        let mut best = None;
        match takes(low)? {
            Some((t, after)) if t <= seconds => best = Some((low, after)),
            _ => return Ok(None),
        }
        for _ in 0..HALVINGS {
            watch.check()?;
            // Whole tenths are easier to type.
            let middle = (5.0 * (low + high)).round() / 10.0;
            match takes(middle)? {
                Some((t, after)) if t <= seconds => {
                    low = middle;
                    best = Some((middle, after));
                }
                _ => high = middle,
            }
        }
        Ok(best)
    }
}
