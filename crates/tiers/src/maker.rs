//! What recipes have in common: the outline's areas, and the stack as it grows.

use crate::laid::Laid;
use crate::names::{Choice, ChoiceMeasure, Crumbs, Measure, Outside, measures as m};
use crate::own::Given;
use crate::tie;
use crate::{
    Area, Doubt, DoubtKind, DoubtMend, EdgesOf, Finish, FinishShape, Handle, MeasureKind, Measures, MendBy, Moves, Op,
    Plans, Role, Stack, Tier, TierError, Way,
};
use kachel_geom::{BoolOp, Grid, Mm, Point, Region, Ring, Watch};
use kachel_outline::{Outline, PatchId, Shape};
use kachel_words::{Message, Value, area as square, list, msg};
use std::collections::BTreeMap;

/// Less of a drawing than this, mm², is cut off without a word: roundings, and lines that end at the edge.
const LEAST_LOST_MM2: f64 = 0.5;

/// A nozzle of 0.4 mm prints no pieces and leaves no holes smaller than this, mm²: common practice, no source.
const CRUMB_MM2: f64 = 0.16;

/// Makes a stack.
pub(crate) struct Maker<'a> {
    pub outline: &'a Outline,
    pub m: &'a Measures,
    pub given: &'a Given,
    pub plans: &'a Plans,
    pub watch: &'a Watch,
    pub stack: Stack,
    /// The edge with its margin, filled.
    pub edge: Area,
    /// Details by their patches, without crumbs.
    pub details: Vec<(PatchId, Area)>,
    /// Pieces and holes that were too small to print, and were left out.
    pub crumbs: [usize; 2],
    /// How the drawing lies on its plate, where it was moved there.
    pub laid: Option<Laid>,
}

/// Where a tier goes and what it is.
pub(crate) struct Put<'k> {
    pub role: Role,
    pub key: &'k str,
    /// What the maker calls it; the recipe's own word where it is left out.
    pub name: Option<&'k str>,
    pub from: f64,
    pub to: f64,
    pub top: Finish,
    pub bottom: Finish,
    pub handles: Vec<Handle>,
}

impl<'k> Put<'k> {
    pub(crate) fn new(role: Role, key: &'k str, from: f64, to: f64) -> Self {
        Self { role, key, name: None, from, to, top: Finish::default(), bottom: Finish::default(), handles: vec![] }
    }

    pub(crate) fn named(mut self, name: &'k str) -> Self {
        self.name = Some(name);
        self
    }

    pub(crate) fn topped(mut self, f: Finish) -> Self {
        self.top = f;
        self
    }

    fn handle(mut self, moves: Moves, name: &str, base: f64, is_down: bool) -> Self {
        self.handles.push(Handle { moves, name: name.into(), own: None, base, is_down });
        self
    }

    /// Its top is a measure above a height.
    pub(crate) fn top_by(self, measure: Measure, base: f64) -> Self {
        self.handle(Moves::Top, measure.name(), base, false)
    }

    /// Its top is a measure below a height.
    pub(crate) fn top_under(self, measure: Measure, base: f64) -> Self {
        self.handle(Moves::Top, measure.name(), base, true)
    }

    /// Its bottom is a measure below a height.
    pub(crate) fn bottom_under(self, measure: Measure, base: f64) -> Self {
        self.handle(Moves::Bottom, measure.name(), base, true)
    }

    /// Its upper edge's finish goes in and down by these.
    pub(crate) fn finish_by(self, inset: Measure, depth: Measure) -> Self {
        self.handle(Moves::Inset, inset.name(), 0.0, false).handle(Moves::Depth, depth.name(), 0.0, false)
    }

    pub(crate) fn of_own(mut self, id: u32) -> Self {
        for (moves, name) in
            [(Moves::Top, "to"), (Moves::Bottom, "from"), (Moves::Inset, "top-inset"), (Moves::Depth, "top-depth")]
        {
            self.handles.push(Handle { moves, name: name.into(), own: Some(id), base: 0.0, is_down: false });
        }
        self
    }

    pub(crate) fn footed(mut self, f: Finish) -> Self {
        self.bottom = f;
        self
    }
}

/// Tiers that are more than their role, for which recipes have words.
const NAMED: [&str; 10] =
    ["plate", "backing", "frame", "details", "below", "screws", "pockets", "hole", "socket", "openings"];

/// What a recipe calls a tier.
fn words(key: &str, role: Role) -> Message {
    if NAMED.contains(&key) { Message::new(format!("tier-{key}")) } else { role.words() }
}

/// A rounded edge; square where it is 0.
pub(crate) fn softened(edges: EdgesOf, radius: f64) -> Finish {
    Finish { shape: FinishShape::Round, way: Way::Inward, edges, inset: radius, depth: radius }
}

/// A bevel of 45 degrees; square where it is 0.
pub(crate) fn chamfered(edges: EdgesOf, width: f64) -> Finish {
    Finish { shape: FinishShape::Chamfer, way: Way::Inward, edges, inset: width, depth: width }
}

/// A shape about a point.
pub(crate) fn placed(shape: Shape, at: Point<Mm>) -> Result<Area, TierError> {
    about(shape.region()?.rings_mm(), at)
}

/// Rings about the middle, put about a point.
pub(crate) fn about(rings: impl IntoIterator<Item = Ring<Mm>>, at: Point<Mm>) -> Result<Area, TierError> {
    let moved = |r: Ring<Mm>| Ring(r.0.into_iter().map(|p| Point::new(p.x + at.x, p.y + at.y)).collect());
    let rings: Vec<Ring<Mm>> = rings.into_iter().map(moved).collect();
    Ok(Region::from_mm(&rings)?.into())
}

/// A disc.
pub(crate) fn disc(across: f64, at: Point<Mm>) -> Result<Area, TierError> {
    placed(Shape::Ellipse { width: across, height: across }, at)
}

impl Maker<'_> {
    pub(crate) fn get(&self, measure: Measure) -> f64 {
        self.m.get(measure)
    }

    pub(crate) fn count(&self, measure: Measure) -> usize {
        self.m.count(measure)
    }

    /// What is chosen; the usual one where the recipe has no such choice.
    pub(crate) fn choice<C: Choice>(&self, measure: ChoiceMeasure<C>) -> C {
        self.m.choice(measure).unwrap_or(C::ALL[0])
    }

    /// A mend by a measure. `None` where the measure's range does not reach the value: less of it would not mend.
    pub(crate) fn mend(&self, measure: Measure, value: f64, words: impl FnOnce(Value) -> Message) -> Option<DoubtMend> {
        let spec = self.m.spec(measure)?;
        let words = words(spec.words(value));
        (spec.held(value) == value).then_some(DoubtMend { words, by: MendBy::Measure(measure, value) })
    }

    /// A mend by another choice.
    pub(crate) fn mend_by<C: Choice>(&self, measure: ChoiceMeasure<C>, choice: C, words: Message) -> DoubtMend {
        let of = match self.m.spec(measure).map(|s| s.kind) {
            Some(MeasureKind::Choice(of)) => of,
            _ => &[],
        };
        let place = of.iter().position(|o| o.0 == choice.name()).unwrap_or(0);
        DoubtMend { words, by: MendBy::Measure(measure.into(), place as f64) }
    }

    pub(crate) fn doubt(
        &mut self,
        kind: DoubtKind,
        what: Message,
        place: Option<Area>,
        mends: impl IntoIterator<Item = DoubtMend>,
    ) {
        self.stack.doubts.push(Doubt { kind, what, place, mends: mends.into_iter().collect() });
    }

    /// The place of a filament among the stack's parts.
    fn part(&mut self, filament: &str) -> u32 {
        let known = self.stack.filaments.iter().position(|f| f == filament);
        let place = known.unwrap_or_else(|| {
            self.stack.filaments.push(filament.into());
            self.stack.filaments.len() - 1
        });
        u32::try_from(place).unwrap_or(u32::MAX)
    }

    fn filament_of(&self, key: &str) -> String {
        self.given.filaments.get(key).unwrap_or(&self.given.filament).clone()
    }

    /// Adds a tier, in the outline's own frame. One without area, or without height on the grid, is left out: then it says
    /// no.
    pub(crate) fn put(&mut self, put: Put<'_>, area: &Area, op: Op) -> Result<bool, TierError> {
        let filament = self.filament_of(put.key);
        self.put_in(put, area, op, &filament)
    }

    pub(crate) fn put_in(&mut self, put: Put<'_>, area: &Area, op: Op, filament: &str) -> Result<bool, TierError> {
        self.watch.check()?;
        let (bottom, top) = (Grid::from_mm(put.from)?, Grid::from_mm(put.to)?);
        let area = &self.without_crumbs(area);
        if area.is_empty() || top <= bottom {
            return Ok(false);
        }
        let part = if op == Op::Add { self.part(filament) } else { 0 };
        self.stack.tiers.push(Tier {
            key: put.key.into(),
            name: put.name.map_or_else(|| words(put.key, put.role).into(), Value::from),
            top_finish: put.top,
            bottom_finish: put.bottom,
            handles: put.handles,
            ..Tier::upright(put.role, area.clone(), (bottom, top), op, part)
        });
        Ok(true)
    }

    pub(crate) fn add(&mut self, put: Put<'_>, area: &Area) -> Result<(), TierError> {
        self.put(put, area, Op::Add).map(drop)
    }

    pub(crate) fn cut(&mut self, put: Put<'_>, area: &Area) -> Result<(), TierError> {
        self.put(put, area, Op::Cut).map(drop)
    }

    /// All details by filament, as they are laid on the plate: those of patches with one of their own, and the rest under
    /// the tier's.
    pub(crate) fn drawing(&self, key: &str) -> Result<Vec<(String, Area)>, TierError> {
        self.details(key)?.into_iter().map(|(f, a)| Ok((f, self.lay(a)?))).collect()
    }

    /// What a body of its own form is made about: the edge, or the details where nothing is the edge.
    pub(crate) fn drawn(&self) -> Result<Area, TierError> {
        if self.edge.is_empty() { self.joined(&self.details("details")?) } else { Ok(self.edge.clone()) }
    }

    /// The same as they are in the outline.
    pub(crate) fn details(&self, key: &str) -> Result<Vec<(String, Area)>, TierError> {
        let own = self.filament_of(key);
        let mut by: BTreeMap<&str, Vec<Area>> = BTreeMap::new();
        for (id, area) in &self.details {
            let filament = self.given.paints.get(&id.index()).map_or(own.as_str(), String::as_str);
            by.entry(filament).or_default().push(area.clone());
        }
        by.into_iter().map(|(f, areas)| Ok((f.to_string(), self.plans.joined(&areas)?))).collect()
    }

    /// All of a drawing as one area.
    pub(crate) fn joined(&self, drawing: &[(String, Area)]) -> Result<Area, TierError> {
        let all: Vec<Area> = drawing.iter().map(|(_, a)| a.clone()).collect();
        Ok(self.plans.joined(&all)?)
    }

    /// Adds a drawing, each filament as a tier of its own.
    pub(crate) fn put_drawing(
        &mut self,
        drawing: &[(String, Area)],
        make: impl Fn(&'static str) -> Put<'static>,
    ) -> Result<(), TierError> {
        for (filament, area) in drawing {
            self.put_in(make("details"), area, Op::Add, filament)?;
        }
        Ok(())
    }

    /// What of a drawing lies on `body`. What is cut off is told with what mends it, unless the maker wants it cut.
    pub(crate) fn within(
        &mut self,
        drawing: Vec<(String, Area)>,
        body: &Area,
        mends: impl IntoIterator<Item = DoubtMend>,
    ) -> Result<Vec<(String, Area)>, TierError> {
        let all = self.joined(&drawing)?;
        let lost = self.plans.less(&all, body)?;
        let is_told = !self.m.has(m::OUTSIDE) || self.choice(m::OUTSIDE) == Outside::Told;
        if is_told && lost.area_mm2() > LEAST_LOST_MM2 {
            let is_all = lost.area_mm2() > all.area_mm2() - LEAST_LOST_MM2;
            let what = if is_all { "all-cut-off" } else { "part-cut-off" };
            let what = msg!(what, area = square(lost.area_mm2()).decimals(1));
            let mut mends: Vec<DoubtMend> = mends.into_iter().collect();
            if self.m.has(m::OUTSIDE) {
                mends.push(self.mend_by(m::OUTSIDE, Outside::Grown, msg!("grow-edge-round-it")));
                mends.push(self.mend_by(m::OUTSIDE, Outside::Cut, msg!("cut-it-off")));
            }
            let outside = self.reaching_out(body)?;
            // Not where nothing would be left to make anything of.
            let is_rest = !self.edge.is_empty() || outside.len() < self.details.len();
            if !outside.is_empty() && is_rest {
                let words = msg!("put-patches-aside", n = outside.len());
                mends.push(DoubtMend { words, by: MendBy::Aside(outside) });
            }
            self.doubt(DoubtKind::CutOff, what, Some(lost), mends);
        }
        drawing.into_iter().map(|(f, a)| Ok((f, self.plans.combined(&a, body, BoolOp::Common)?))).collect()
    }

    /// Detail patches that reach over a body, as they are laid on it.
    fn reaching_out(&self, body: &Area) -> Result<Vec<usize>, TierError> {
        let mut out = Vec::new();
        for (id, area) in &self.details {
            let rest = self.plans.less(&self.lay(area.clone())?, body)?;
            if rest.area_mm2() > LEAST_LOST_MM2 {
                out.push(id.index());
            }
        }
        Ok(out)
    }

    /// An area as it is laid on the plate.
    pub(crate) fn lay(&self, area: Area) -> Result<Area, TierError> {
        match self.laid {
            Some(laid) => Ok(self.plans.laid(&area, laid)?),
            None => Ok(area),
        }
    }

    /// Ties loose pieces to what holds them, with the recipe's bars.
    pub(crate) fn tie(&mut self, loose: &Area, holds: &Area, height: f64) -> Result<(), TierError> {
        let width = self.get(m::BAR_WIDTH);
        if width <= 0.0 || loose.is_empty() {
            return Ok(());
        }
        let bars = match &self.given.bars {
            Some(own) => tie::attached(own, loose, holds, width)?,
            None => self.plans.shortest_bars(loose, holds, width, self.count(m::BARS)),
        };
        let area = tie::area(&bars, width)?;
        self.stack.bars = bars;
        self.add(Put::new(Role::Bar, "bars", 0.0, height), &area)
    }

    /// The area without what is too small to print, unless the maker wants that. How many pieces and holes those were is
    /// counted for the note.
    pub(crate) fn without_crumbs(&mut self, area: &Area) -> Area {
        if !self.m.has(m::CRUMBS) || self.choice(m::CRUMBS) == Crumbs::Kept {
            return area.clone();
        }
        match area.without_crumbs(CRUMB_MM2) {
            (_, [0, 0]) => area.clone(),
            (left, gone) => {
                (0..2).for_each(|k| self.crumbs[k] += gone[k]);
                left.into()
            }
        }
    }

    /// Takes the details over from the outline.
    pub(crate) fn take_details(&mut self) {
        let of_outline = self.outline.details.iter();
        self.details = of_outline.map(|(id, r)| (*id, self.without_crumbs(&Area::new(r.clone())))).collect();
    }

    /// Cuts openings right through everything that there is.
    pub(crate) fn cut_openings(&mut self) -> Result<(), TierError> {
        let all: Vec<Area> = self.outline.openings.iter().map(|(_, r)| Area::new(r.clone())).collect();
        let Some(top) = self.stack.tiers.iter().map(|t| t.top.mm()).reduce(f64::max).filter(|_| !all.is_empty()) else {
            return Ok(());
        };
        let openings = self.lay(self.plans.joined(&all)?)?;
        self.cut(Put::new(Role::Room, "openings", 0.0, top), &openings)
    }

    /// The stack is complete; it is mirrored if need be.
    pub(crate) fn finish(mut self, is_mirrored: bool) -> Stack {
        let some = |n: usize, code: &'static str| (n > 0).then(|| msg!(code, n = n));
        let gone: Vec<Message> =
            [some(self.crumbs[0], "crumbs"), some(self.crumbs[1], "tiny-holes")].into_iter().flatten().collect();
        if !gone.is_empty() {
            self.stack.notes.push(msg!("crumbs-left-out", what = list(gone)));
        }
        if is_mirrored {
            self.stack.is_mirrored = true;
            for t in &mut self.stack.tiers {
                t.footprint = self.plans.mirrored(&t.footprint);
            }
            self.stack.edge = self.plans.mirrored(&self.stack.edge);
            self.stack.doubts.iter_mut().for_each(|d| d.place = d.place.take().map(|a| a.mirrored().into()));
        }
        self.stack
    }
}
