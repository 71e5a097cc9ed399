//! What is seen of the solid.

use crate::export::part_name;
use crate::run::Run;
use kachel_design::Document;
use kachel_solid::{Layers, Solid};
use kachel_tiers::colour_changes;
use serde::Serialize;
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
    pub layers: usize,
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
    /// Triangles.
    pub triangles: usize,
    /// Volume, mm3.
    pub volume: f64,
    /// Mass, g, filled solid.
    pub mass: f64,
}

pub(super) fn solid(d: &Document, key: &str, s: &Solid, run: &Run) -> SolidView {
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
        size: mesh.size(),
        reach: std::array::from_fn(|k| 2.0 * max[k].max(-min[k])),
        volume: mesh.volume(),
        mass: parts.iter().map(|p| p.mass).sum(),
        cost,
        currency: run.workshop.currency.clone(),
        layers: Layers::count(max[2], run.workshop.print.first_layer, layer),
        triangles: mesh.triangles.len(),
        bodies: s.bodies.len(),
        parts,
        changes,
        pauses: stack.map(|s| s.pauses.clone()).unwrap_or_default(),
    }
}
