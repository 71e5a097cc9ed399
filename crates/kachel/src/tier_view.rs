//! What the interface sees of tiers, section and solid. Lengths are millimetres.

use crate::document::Document;
use crate::engine::Run;
use crate::export::part_name;
use crate::view::region_path;
use crate::workshop::Workshop;
use kachel_solid::Solid;
use kachel_tiers::{Bar, Cut, MeasureKind, MeasureSpec, Moves, Op, Picture, Stack, colour_changes};
use serde::Serialize;
use ts_rs::TS;

/// One measure.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct MeasureView {
    /// Stable name.
    pub name: &'static str,
    /// Part of the object.
    pub group: &'static str,
    /// Short name.
    pub label: &'static str,
    /// What it does.
    pub meaning: &'static str,
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
#[ts(export)]
pub struct OptionView {
    /// Stable name.
    pub name: &'static str,
    /// Its words.
    pub label: &'static str,
}

/// One tier.
#[derive(Clone, Debug, Serialize, TS)]
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

/// The solid.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct SolidView {
    /// By this its mesh is fetched.
    pub key: String,
    /// Size of the whole object.
    pub size: [f64; 3],
    /// Width and height of the box round the outline's middle that holds all of it: a second piece may stand on one side.
    pub reach: [f64; 2],
    /// Volume, mm3.
    pub volume: f64,
    /// Mass, g, filled solid.
    pub mass: f64,
    /// Price of that much filament.
    pub cost: f64,
    /// Of which currency.
    pub currency: String,
    /// Printed layers.
    pub layers: u32,
    /// Triangles of the skin.
    pub triangles: usize,
    /// Separate bodies.
    pub bodies: usize,
    /// Its parts.
    pub parts: Vec<PartView>,
    /// For a printer that loads one filament: at which height which one goes in; none where that cannot be done.
    pub changes: Option<Vec<ChangeView>>,
    /// Heights at which the print pauses, to put something in.
    pub pauses: Vec<f64>,
}

/// A change of filament by hand.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct ChangeView {
    /// From this height on.
    pub height: f64,
    /// From this layer on, 1 being the first.
    pub layer: u32,
    /// The filament's words.
    pub filament: String,
}

/// One part.
#[derive(Clone, Debug, Serialize, TS)]
#[ts(export)]
pub struct PartView {
    /// Its name in files.
    pub name: String,
    /// Its filament's words.
    pub filament: String,
    /// sRGB of it.
    pub colour: [u8; 3],
    /// Triangles.
    pub triangles: usize,
    /// Volume, mm3.
    pub volume: f64,
    /// Mass, g, filled solid.
    pub mass: f64,
}

fn whole_layers(mm: f64, layer: f64) -> u32 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at most some thousand layers")]
    let n = (mm / layer).round().max(1.0) as u32;
    n
}

pub(crate) fn measures(d: &Document, layer: f64) -> Vec<MeasureView> {
    let view = |spec: &'static MeasureSpec| {
        let value = d.measures.get(spec.name).copied().unwrap_or(spec.default);
        let layers = spec.is_height().then(|| whole_layers(value, layer));
        let options = match spec.kind {
            MeasureKind::Choice(of) => of.iter().map(|(name, label)| OptionView { name, label }).collect(),
            _ => vec![],
        };
        MeasureView {
            name: spec.name,
            group: spec.group,
            label: spec.label,
            meaning: spec.meaning,
            picture: spec.picture,
            is_length: matches!(spec.kind, MeasureKind::Length | MeasureKind::Height),
            options,
            value,
            default: spec.default,
            min: spec.min,
            max: spec.max,
            step: spec.step,
            layers,
            prints: layers.map(|n| f64::from(n) * layer),
        }
    };
    d.recipe.recipe().all().map(view).collect()
}

pub(crate) fn tiers(stack: &Stack, workshop: &Workshop) -> Vec<TierView> {
    let view = |t: &kachel_tiers::Tier| {
        let filament = stack.filaments.get(t.part as usize).map_or("", String::as_str);
        let f = &t.top_finish;
        TierView {
            key: t.key.clone(),
            role: t.role.name(),
            name: t.name.clone(),
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

pub(crate) fn cut(c: &Cut, stack: Option<&Stack>) -> CutView {
    let role = stack.and_then(|s| s.tiers.get(c.tier)).map_or(c.role, |t| t.role).name();
    CutView { tier: c.tier, role, is_cut: c.is_cut, corners: c.corners.iter().map(|(x, z)| [*x, *z]).collect() }
}

/// The bars that are in the stack, in pixels of the picture.
pub(crate) fn bars(run: &Run) -> Vec<Bar> {
    let (Some(stack), Some(outline)) = (&run.stack, &run.outline) else { return vec![] };
    let px = |p: [f64; 2]| outline.px(kachel_geom::Point::new(p[0], p[1]));
    stack.bars.iter().map(|b| Bar { from: px(b.from), to: px(b.to) }).collect()
}

pub(crate) fn solid(d: &Document, key: &str, s: &Solid, run: &Run) -> SolidView {
    let mesh = s.skin.mesh();
    let (min, max) = mesh.extent();
    let (stack, layer) = (run.stack.as_deref(), run.workshop.printer().layer);
    let part = |p: &kachel_solid::Part| {
        let (f, volume) = (run.filament(p.number), p.mesh.mesh().volume());
        PartView {
            name: part_name(d, s, &f.name),
            filament: f.name.clone(),
            colour: f.colour,
            triangles: p.mesh.mesh().triangles.len(),
            volume,
            mass: volume / 1000.0 * f.density,
        }
    };
    let parts: Vec<PartView> = s.parts.iter().map(part).collect();
    let cost = s.parts.iter().zip(&parts).map(|(p, view)| view.mass / 1000.0 * run.filament(p.number).price).sum();
    let changes = stack.and_then(colour_changes).map(|all| {
        let change = |c: kachel_tiers::ColourChange| {
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at most some thousand layers")]
            let layer = (c.height / layer).round() as u32 + 1;
            ChangeView { height: c.height, layer, filament: run.filament(c.part).name.clone() }
        };
        all.into_iter().map(change).collect()
    });
    SolidView {
        key: key.into(),
        size: std::array::from_fn(|k| max[k] - min[k]),
        reach: std::array::from_fn(|k| 2.0 * max[k].max(-min[k])),
        volume: mesh.volume(),
        mass: parts.iter().map(|p| p.mass).sum(),
        cost,
        currency: run.workshop.currency.clone(),
        layers: whole_layers(max[2] - min[2], layer),
        triangles: mesh.triangles.len(),
        bodies: mesh.bodies().len(),
        parts,
        changes,
        pauses: stack.map(|s| s.pauses.clone()).unwrap_or_default(),
    }
}
