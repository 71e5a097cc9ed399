//! What is seen of measures, tiers and the section.

use super::paths::region_path;
use crate::layers::{layer_heights, printed};
use crate::run::Run;
use kachel_design::{Document, Workshop};
use kachel_geom::{Mm, Point};
use kachel_tiers::{Bar, Cut, Hung, MeasureKind, MeasureSpec, Moves, Op, Picture, Stack, Unit};
use kachel_words::Message;
use serde::Serialize;
use ts_rs::TS;

/// One measure.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct MeasureView {
    /// Stable name.
    pub name: &'static str,
    /// Part of the object.
    pub group: String,
    /// Short name.
    pub label: String,
    /// What it does.
    pub meaning: String,
    /// The drawing beside it.
    pub picture: Picture,
    /// Whether it is a length; else a whole number, or the place of one of `options`.
    pub is_length: bool,
    /// What can be chosen.
    pub options: Vec<OptionView>,
    /// Value.
    pub value: f64,
    /// Value of a new design.
    pub default: f64,
    /// Smallest value.
    pub min: f64,
    /// Largest value.
    pub max: f64,
    /// Step of the arrow keys.
    pub step: f64,
    /// Whole layers that a height prints as.
    pub layers: Option<u32>,
    /// The height that prints.
    pub prints: Option<f64>,
}

/// One of several.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct OptionView {
    /// Stable name.
    pub name: &'static str,
    /// Its words.
    pub label: String,
}

/// One tier.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TierView {
    /// By this its filament is kept.
    pub key: String,
    /// What it is of the object.
    pub role: &'static str,
    /// What it is called.
    pub name: String,
    /// SVG path of its footprint, mm, y down.
    pub path: String,
    /// Underside above the bed.
    pub bottom: f64,
    /// Upper side above the bed.
    pub top: f64,
    /// Whether it is cut out of the others.
    pub is_cut: bool,
    /// Its filament.
    pub filament: String,
    /// sRGB of it.
    pub colour: [u8; 3],
    /// What can be dragged of it.
    pub handles: Vec<HandleView>,
    /// How far in and down the finish of its upper edge goes; none where it is square.
    pub finish: Option<[f64; 2]>,
}

/// A length that can be dragged in the section.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct HandleView {
    /// What it moves.
    pub moves: Moves,
    /// The measure of that name, or of an own tier the length of that name.
    pub name: String,
    /// The own tier.
    pub own: Option<u32>,
    /// The height at which the measure is 0.
    pub base: f64,
    /// Whether it rises downwards.
    pub is_down: bool,
}

/// One cut face of the section.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct CutView {
    /// The tier's place in the list.
    pub tier: usize,
    /// What it is of the object.
    pub role: &'static str,
    /// Whether it is cut out of the others.
    pub is_cut: bool,
    /// Corners: along the cutting line and above the bed.
    pub corners: Vec<[f64; 2]>,
}

/// The measures of a design's recipe; `run` says how they are printed.
pub fn measures(d: &Document, run: &Run) -> Vec<MeasureView> {
    let heights = layer_heights(&run.workshop);
    let handle_of = |name: &str| {
        let all = run.stack.iter().flat_map(|s| &s.tiers).flat_map(|t| &t.handles);
        all.into_iter()
            .find(|h| h.name == name && h.own.is_none() && h.moves != Moves::Inset && h.moves != Moves::Depth)
    };
    let view = |spec: &'static MeasureSpec| {
        let value = d.measures.get(spec.name).copied().unwrap_or(spec.default);
        let printed = spec.is_height().then(|| printed(heights, value, handle_of(spec.name)));
        let label = spec.label();
        let options = match spec.kind {
            MeasureKind::Choice(of) => {
                let option = |(name, code): &(&'static str, &'static str)| OptionView {
                    name,
                    label: Message::new(*code).said(d.unit),
                };
                of.iter().map(option).collect()
            }
            _ => vec![],
        };
        MeasureView {
            name: spec.name,
            group: spec.part().said(d.unit),
            label: label.said(d.unit),
            meaning: label.said_part("meaning", d.unit),
            picture: spec.picture,
            is_length: matches!(spec.kind, MeasureKind::Length | MeasureKind::Height),
            options,
            value,
            default: spec.default,
            min: spec.min,
            max: spec.max,
            step: spec.step,
            layers: printed.map(|(n, _)| n),
            prints: printed.map(|(_, mm)| mm),
        }
    };
    d.recipe.recipe().all().map(view).collect()
}

pub(super) fn tiers(stack: &Stack, workshop: &Workshop, unit: Unit) -> Vec<TierView> {
    let view = |t: &kachel_tiers::Tier| {
        let filament = stack.filaments.get(t.part as usize).map_or("", String::as_str);
        let f = &t.top_finish;
        TierView {
            key: t.key.clone(),
            role: t.role.name(),
            name: t.name.said(unit),
            path: region_path(&t.footprint),
            bottom: t.bottom.mm(),
            top: t.top.mm(),
            is_cut: t.op == Op::Cut,
            filament: filament.into(),
            colour: workshop.filament(filament).colour,
            handles: t.handles.iter().map(handle).collect(),
            finish: (!f.is_plain()).then_some([f.inset, f.depth]),
        }
    };
    stack.tiers.iter().map(view).collect()
}

fn handle(h: &kachel_tiers::Handle) -> HandleView {
    HandleView { moves: h.moves, name: h.name.clone(), own: h.own, base: h.base, is_down: h.is_down }
}

pub(super) fn cut(c: &Cut, stack: Option<&Stack>) -> CutView {
    let role = stack.and_then(|s| s.tiers.get(c.tier)).map_or(c.role, |t| t.role).name();
    CutView { tier: c.tier, role, is_cut: c.is_cut, corners: c.corners.iter().map(|(x, z)| [*x, *z]).collect() }
}

/// The hole or loop that something hangs by.
#[derive(Clone, Copy, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct HungView {
    /// Its middle: right and up, mm.
    pub at: Point<Mm>,
    /// The middle of the object, from which its place can be measured, mm.
    pub middle: Point<Mm>,
    /// Across the hole, mm.
    pub across: f64,
}

impl HungView {
    pub(super) fn of(h: Hung) -> Self {
        Self { at: h.at, middle: h.middle, across: h.across }
    }
}

/// The bars that are in the stack, in pixels of the picture.
pub(super) fn bars(run: &Run) -> Vec<Bar> {
    let (Some(stack), Some(outline)) = (&run.stack, &run.outline) else { return vec![] };
    stack.bars.iter().map(|b| Bar { from: outline.px(b.from), to: outline.px(b.to) }).collect()
}
