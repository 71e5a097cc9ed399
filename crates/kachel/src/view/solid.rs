//! What is seen of the solid.

use crate::display::{DisplayPart, Extent};
use crate::export::part_name;
use crate::layers::{layer_heights, layers_up_to};
use crate::run::Run;
use kachel_design::Document;
use kachel_solid::{Mesh, Solid};
use kachel_tiers::colour_changes;
use serde::Serialize;
use std::collections::BTreeMap;
use ts_rs::TS;

/// The solid.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
    /// Triangles of the skin; while a hand moves, of its tiers one by one.
    pub triangles: usize,
    /// Separate bodies; not counted while a hand moves.
    pub bodies: Option<usize>,
    /// Its parts.
    pub parts: Vec<PartView>,
    /// For a printer that loads one filament: at which height which one goes in; none where that cannot be done.
    pub changes: Option<Vec<ChangeView>>,
    /// Heights at which the print pauses, to put something in.
    pub pauses: Vec<f64>,
}

/// A change of filament by hand.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PartView {
    /// Its name in files.
    pub name: String,
    /// Its filament's words.
    pub filament: String,
    /// sRGB of it.
    pub colour: [u8; 3],
    /// Triangles; while a hand moves, of its tiers one by one.
    pub triangles: usize,
    /// Volume, mm3.
    pub volume: f64,
    /// Mass, g, filled solid.
    pub mass: f64,
}

/// What is known of a solid and of its parts, by their numbers.
struct Seen {
    extent: Extent,
    volume: f64,
    triangles: usize,
    bodies: Option<usize>,
    parts: Vec<(u32, PartSeen)>,
}

#[derive(Clone, Copy, Default)]
struct PartSeen {
    triangles: usize,
    volume: f64,
}

impl PartSeen {
    fn of(mesh: &Mesh) -> Self {
        Self { triangles: mesh.triangles.len(), volume: mesh.volume() }
    }
}

pub(super) fn solid(d: &Document, key: &str, s: &Solid, run: &Run) -> SolidView {
    let mesh = s.skin.mesh();
    let seen = Seen {
        extent: mesh.extent(),
        volume: mesh.volume(),
        triangles: mesh.triangles.len(),
        bodies: Some(s.bodies.len()),
        parts: s.parts.iter().map(|p| (p.number, PartSeen::of(p.mesh.mesh()))).collect(),
    };
    view(d, key, seen, run)
}

/// The same of the meshes of its tiers, which lie beside each other.
pub(super) fn shown(d: &Document, key: &str, tiers: &[DisplayPart], run: &Run) -> SolidView {
    let mut parts: BTreeMap<u32, PartSeen> = BTreeMap::new();
    for t in tiers {
        let (seen, of) = (PartSeen::of(t.mesh.mesh()), parts.entry(t.part).or_default());
        of.triangles += seen.triangles;
        of.volume += seen.volume;
    }
    let seen = Seen {
        extent: DisplayPart::extent_of(tiers).unwrap_or_default(),
        volume: parts.values().map(|p| p.volume).sum(),
        triangles: parts.values().map(|p| p.triangles).sum(),
        bodies: None,
        parts: parts.into_iter().collect(),
    };
    view(d, key, seen, run)
}

fn view(d: &Document, key: &str, seen: Seen, run: &Run) -> SolidView {
    let (min, max) = seen.extent;
    let (stack, heights) = (run.stack.as_deref(), layer_heights(&run.workshop));
    let part = |(number, p): &(u32, PartSeen)| {
        let f = run.filament(*number);
        PartView {
            name: part_name(d, seen.parts.len(), &f.name),
            filament: f.name.clone(),
            colour: f.colour,
            triangles: p.triangles,
            volume: p.volume,
            mass: p.volume / 1000.0 * f.density,
        }
    };
    let parts: Vec<PartView> = seen.parts.iter().map(part).collect();
    let price = |((number, _), view): (&(u32, PartSeen), &PartView)| view.mass / 1000.0 * run.filament(*number).price;
    let cost = seen.parts.iter().zip(&parts).map(price).sum();
    let changes = stack.and_then(colour_changes).map(|all| {
        let change = |c: kachel_tiers::ColourChange| ChangeView {
            height: c.height,
            layer: layers_up_to(c.height, heights) + 1,
            filament: run.filament(c.part).name.clone(),
        };
        all.into_iter().map(change).collect()
    });
    SolidView {
        key: key.into(),
        size: std::array::from_fn(|k| max[k] - min[k]),
        reach: std::array::from_fn(|k| 2.0 * max[k].max(-min[k])),
        volume: seen.volume,
        mass: parts.iter().map(|p| p.mass).sum(),
        cost,
        currency: run.workshop.currency.clone(),
        layers: layers_up_to(max[2], heights),
        triangles: seen.triangles,
        bodies: seen.bodies,
        parts,
        changes,
        pauses: stack.map(|s| s.pauses.clone()).unwrap_or_default(),
    }
}
