//! A bed's print before it is printed.

use super::{OnBeds, on_plate};
use crate::engine::Engine;
use crate::error::EngineError;
use crate::keys::key;
use crate::rehearsal::{KeyedPrint, LinesView, Pause, PrintView, lines_view, settings, view_of};
use kachel_design::{Bed, Filament, PrintOrder, PrintWish};
use kachel_geom::{Pose, Watch};
use kachel_rehearse::{Laid, Object, PrintedPart, print};
use kachel_words::msg;
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// The print of a plate.
#[derive(Debug)]
pub struct BedPrint {
    /// Its layers.
    pub rehearsal: KeyedPrint,
    /// The filaments by their numbers in it.
    filaments: Vec<Filament>,
    /// Heights, mm, at which somebody puts something in, with what.
    pauses: Vec<Pause>,
    /// Numbers of the pieces, in the order of the rehearsal's objects.
    pieces: Vec<u32>,
    wish: PrintWish,
}

/// A layer of a bed.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedLayerView {
    /// Its number, 1 being the lowest.
    pub layer: usize,
    /// Its lower end above the bed, mm.
    pub bottom: f64,
    /// Its upper end, mm.
    pub top: f64,
    /// How long it takes, s.
    pub seconds: f64,
    /// Until it is finished, from the start, s.
    pub until: f64,
    /// What is equal is told once, with all places where it is laid.
    pub groups: Vec<GroupView>,
    /// How high the pieces are when it is finished; those that are not begun are left out.
    pub built: Vec<BuiltView>,
}

/// How far a piece has come.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BuiltView {
    /// Its number on the bed.
    pub piece: u32,
    /// Upper end of its last layer above the bed, mm.
    pub height: f64,
}

/// Lines that are laid in several places.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct GroupView {
    /// The lines.
    pub lines: Vec<LinesView>,
    /// Where, from the bed's front left corner.
    pub poses: Vec<Pose>,
}

impl Engine {
    /// The print of a plate; `None` where nothing on it can be printed.
    pub fn print_bed(
        &self,
        bed: &Bed,
        on: &OnBeds,
        plate: usize,
        watch: &Watch,
    ) -> Result<Option<BedPrint>, EngineError> {
        let wish = PrintWish { quality: bed.quality, infill: bed.infill };
        let names = on.filaments(bed, plate);
        let mut lying: Vec<(Arc<Laid>, Pose, Vec<u32>)> = Vec::new();
        let mut made_of: Vec<(&String, Pose)> = Vec::new();
        let mut pauses: Vec<Pause> = Vec::new();
        let mut pieces: Vec<u32> = Vec::new();
        for piece in on_plate(bed, plate) {
            let (Some(design), Some(place)) = (on.designs.get(&piece.design), piece.place) else { continue };
            let (Some(laid), Some((solid, _))) = (self.laid(&design.run, wish, watch)?, &design.run.solid) else {
                continue;
            };
            made_of.push((solid, place.pose));
            pieces.push(piece.id);
            let number = |name: &String| names.iter().position(|n| n == name).unwrap_or_default() as u32;
            lying.push((laid, place.pose, design.filaments().iter().map(number).collect()));
            for height in design.run.stack.iter().flat_map(|s| &s.pauses) {
                // Printed together, all copies wait for their magnets at once.
                let object = (bed.order == PrintOrder::OneByOne).then_some(lying.len() - 1);
                let pause = Pause { height: *height, what: msg!("put-magnet-into", design = &design.name), object };
                if !pauses.contains(&pause) {
                    pauses.push(pause);
                }
            }
        }
        if lying.is_empty() {
            return Ok(None);
        }
        pauses.sort_by(|a, b| a.height.total_cmp(&b.height));
        let (printer, settings) = (on.workshop.printer(), settings(&on.workshop, wish));
        let numbers: Vec<&Vec<u32>> = lying.iter().map(|(.., filaments)| filaments).collect();
        let name = key(&(made_of, numbers, printer.layer_of(wish.quality), printer.line, &settings, bed.order))?;
        let rehearsal = self.rehearsals.get_or_once(&name, || {
            let objects: Vec<Object<'_>> =
                lying.iter().map(|(laid, pose, filaments)| Object { laid, pose: *pose, filaments }).collect();
            Ok::<_, EngineError>(Arc::new(print(&objects, printer.line, &settings, bed.order, watch)?))
        })?;
        let filaments: Vec<&Filament> = names.iter().map(|n| on.workshop.filament(n)).collect();
        let rehearsal = KeyedPrint::new(&name, &filaments, rehearsal)?;
        let filaments = filaments.into_iter().cloned().collect();
        Ok(Some(BedPrint { rehearsal, filaments, pauses, pieces, wish }))
    }
}

impl BedPrint {
    fn filament(&self, number: u32) -> &Filament {
        &self.filaments[number as usize]
    }
}

/// What is seen of a plate's print.
pub fn bed_print_view(on: &OnBeds, p: &BedPrint) -> PrintView {
    view_of(&p.rehearsal, &on.workshop, &|n| p.filament(n), &p.pauses, (p.wish, on.workshop.unit))
}

/// What is seen of a layer of it; 1 is the lowest.
pub fn bed_layer_view(p: &BedPrint, layer: usize) -> Option<BedLayerView> {
    let l = p.rehearsal.layers.get(layer.checked_sub(1)?)?;
    let mut groups: Vec<(&PrintedPart, Vec<Pose>)> = Vec::new();
    for part in &l.parts {
        let pose = part.object.map_or(Pose::default(), |k| p.rehearsal.poses[k]);
        let is_same = |q: &PrintedPart| {
            q.filament == part.filament
                && q.lines.len() == part.lines.len()
                && q.lines.iter().zip(&part.lines).all(|(a, b)| Arc::ptr_eq(a, b))
        };
        match groups.iter_mut().find(|(q, _)| is_same(q)) {
            Some((_, poses)) => poses.push(pose),
            None => groups.push((part, vec![pose])),
        }
    }
    let group = |(part, poses): (&PrintedPart, Vec<Pose>)| GroupView {
        lines: lines_view(std::iter::once((part.filament, &part.lines[..])), &|n| p.filament(n)),
        poses,
    };
    let groups = groups.into_iter().map(group).collect();
    let built = built(p, layer);
    Some(BedLayerView { layer, bottom: l.bottom, top: l.top, seconds: l.seconds, until: l.until, groups, built })
}

/// How high the pieces are after so many layers.
fn built(p: &BedPrint, layers: usize) -> Vec<BuiltView> {
    let mut heights = vec![0.0_f64; p.pieces.len()];
    for l in &p.rehearsal.layers[..layers] {
        for k in l.parts.iter().filter_map(|part| part.object) {
            heights[k] = heights[k].max(l.top);
        }
    }
    let begun = std::iter::zip(&p.pieces, heights).filter(|(_, height)| *height > 0.0);
    begun.map(|(piece, height)| BuiltView { piece: *piece, height }).collect()
}
