//! A size that is typed of the cookie or of the whole object: which size of the drawing gives it.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::run::Run;
use kachel_design::{Axis, Basis, Document, EditError, GeneralEdit, Length, SizeOf};
use kachel_geom::{Bounds, Watch};
use kachel_outline::Outline;
use kachel_tiers::{Op, stack};

/// Rounds in which the size is found, by secants. What is added is mostly the same at every size, so that two are enough; a
/// margin that unites loose pieces grows with them.
const ROUNDS: usize = 12;
/// The grid rounds a size by no more than this, mm.
const ROUNDING_MM: f64 = 2e-4;
/// Nearer than this, mm, it is the size that was typed.
const NEAR_MM: f64 = 1e-4;

/// A size as it was typed.
#[derive(Clone, Copy)]
pub(crate) struct Typed<'a> {
    pub axis: Axis,
    pub value: &'a Length,
    pub of: SizeOf,
}

impl Engine {
    /// By how much the cookie or the object will be larger than its drawing when it has the size that was typed, mm. `outline`
    /// is that of the document as it is.
    pub(crate) fn beyond(
        &self,
        d: &Document,
        Typed { axis, value, of }: Typed<'_>,
        outline: &Outline,
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<Result<f64, EditError>, EngineError> {
        let basis = Basis { outline: Some(outline), ..Basis::default() };
        let target = match value.mm(d.unit) {
            Ok(mm) => mm,
            Err(e) => return Ok(Err(e.into())),
        };
        let Some((drawn, made)) = self.sizes(d, axis, of, picture, watch)? else { return Ok(Ok(0.0)) };
        // What differs by the grid's rounding alone is equal, so that a typed size stays exact to the last digit.
        let mut beyond = if (made - drawn).abs() < ROUNDING_MM { 0.0 } else { made - drawn };
        let mut before: Option<(f64, f64)> = None;
        for _ in 0..ROUNDS {
            let edit = GeneralEdit::SetSize { axis, value: Length::Mm(target - beyond), of: SizeOf::Drawing };
            let tried = match kachel_design::Edit::from(edit).apply(d, &basis) {
                Ok(tried) => tried,
                Err(e) => return Ok(Err(e)),
            };
            let Some((_, made)) = self.sizes(&tried, axis, of, picture, watch)? else { break };
            let off = made - target;
            if off.abs() < NEAR_MM {
                break;
            }
            let slope = before.map_or(-1.0, |(b, o)| (off - o) / (beyond - b));
            before = Some((beyond, off));
            beyond -= off / if slope.is_finite() && slope < -0.1 { slope } else { -1.0 };
        }
        Ok(Ok(beyond))
    }

    /// How long the drawing and what is made of it are along an axis, mm.
    fn sizes(
        &self,
        d: &Document,
        axis: Axis,
        of: SizeOf,
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<Option<(f64, f64)>, EngineError> {
        let contours = self.trace(d, picture, watch, &mut Run::default())?;
        let Some(outline) = self.possible_outline(d, &contours, watch)? else { return Ok(None) };
        let along = |w: f64, h: f64| if axis == Axis::Width { w } else { h };
        let drawn = along(outline.edge_px.width(), outline.edge_px.height()) * outline.mm_per_px;
        if of == SizeOf::Drawing {
            return Ok(Some((drawn, drawn)));
        }
        let (given, _) = Self::given(d, &outline, &self.workshop());
        let made = stack(d.recipe, &outline, &d.measures()?, &given, &self.plans, watch)?;
        let all = made.tiers.iter().filter(|t| t.op == Op::Add).filter_map(|t| t.footprint.bounds());
        let bounds = if of == SizeOf::Edge { made.edge.bounds() } else { all.reduce(Bounds::union) };
        Ok(Some((drawn, bounds.map_or(drawn, |b| along(b.width(), b.height())))))
    }
}
