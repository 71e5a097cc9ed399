//! Many pictures, one recipe.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use kachel_design::{Axis, Document, Edit, EditError, GeneralEdit, Length, PrintWish, SizeOf, TierEdit};
use kachel_geom::{Stage, Watch};
use kachel_tiers::RecipeKind;

/// How often a size is set anew until no side is too long, and by how much one may be, mm.
const MOST_SIZINGS: u32 = 4;
const EXACT_MM: f64 = 1e-3;
/// Smallest size that is looked for, in tenths of the present one.
const LEAST_TENTHS: u32 = 2;
/// Halvings of a tenth: the size is found to a hundredth.
const HALVINGS: u32 = 4;

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
        // A loop or hole keeps its size, so the other side may be the longer one afterwards.
        for _ in 0..MOST_SIZINGS {
            let Some((axis, _)) = self.longest_side(&document, picture, watch).filter(|(_, mm)| *mm > most + EXACT_MM)
            else {
                break;
            };
            let size = GeneralEdit::SetSize { axis, value: longest.clone(), of: SizeOf::Object };
            match self.apply(&document, &[size.into()], picture, watch)? {
                Ok(after) => document = after,
                Err(e) => return Ok(Err(e)),
            }
        }
        Ok(Ok(document))
    }

    /// The longer side of the object in plan, mm; `None` where there is no object.
    fn longest_side(&self, d: &Document, picture: Picture<'_>, watch: &Watch) -> Option<(Axis, f64)> {
        let run = self.run_until(d, picture, Stage::Solid, watch);
        let [width, height, _] = run.solid.as_ref()?.1.skin.mesh().size();
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
        let (mut high, mut best) = (now, None);
        // From the largest down: what is too small to be made at all is no answer.
        for tenths in (LEAST_TENTHS..10).rev() {
            watch.check()?;
            let size = now * f64::from(tenths) / 10.0;
            match takes(size)? {
                Some((t, after)) if t <= seconds => {
                    best = Some((size, after));
                    break;
                }
                _ => high = size,
            }
        }
        let Some((mut low, _)) = best else { return Ok(None) };
        for _ in 0..HALVINGS {
            watch.check()?;
            let middle = f64::midpoint(low, high);
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
