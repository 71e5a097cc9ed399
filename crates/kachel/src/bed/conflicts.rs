//! What stands against printing a bed as it lies.

use super::{OnBeds, on_plate};
use kachel_check::SPARE_MM;
use kachel_design::{Bed, HEAD_ROOM_MM, PrintOrder, UNDER_HEAD_MM};
use kachel_geom::{BoolOp, Bounds, Mm, Region, Watch, combine, nearest_places, offset};
use kachel_words::{Message, mm, msg, size};
use rayon::prelude::*;

/// Something that stands against it.
#[derive(Clone, Debug, PartialEq)]
pub struct Conflict {
    /// Stable name of its kind.
    pub kind: &'static str,
    /// What is wrong and what to do, in a sentence or two.
    pub words: Message,
    /// The pieces, by their numbers.
    pub pieces: Vec<u32>,
    /// On which plate; none where they lie on none.
    pub plate: Option<usize>,
    /// Whether it cannot be printed so; else it is worth knowing.
    pub is_grave: bool,
}

/// Objects nearer than this grow together, mm: a line of the nozzle spreads.
const LEAST_GAP_MM: f64 = 0.4;
/// Overlaps under this area are rounding, mm2.
const CRUMB_MM2: f64 = 0.01;

/// A piece's outline where it lies.
struct Lying {
    id: u32,
    name: String,
    height: f64,
    /// Grown by half the least gap.
    area: Region,
    bounds: Bounds<Mm>,
}

impl OnBeds {
    /// Everything that stands against printing the bed.
    pub fn conflicts(&self, bed: &Bed, watch: &Watch) -> Vec<Conflict> {
        let mut all = self.missing(bed);
        for plate in 0..bed.plates() {
            if watch.check().is_err() {
                break;
            }
            let lying = self.lying(bed, plate);
            all.extend(self.beyond(&lying, plate));
            all.extend(overlaps(&lying, plate));
            all.extend(head_meets(bed, &lying, plate));
            all.extend(self.filaments_beyond(bed, plate));
        }
        all
    }

    /// Designs that are gone or have no solid, and pieces without a place.
    fn missing(&self, bed: &Bed) -> Vec<Conflict> {
        let mut all = Vec::new();
        for (id, design) in &self.designs {
            let mine = || bed.pieces.iter().filter(|p| p.design == *id);
            if let Some(why) = &design.trouble {
                let words = msg!("bed-no-object", design = &design.name, why = why.clone());
                let pieces = mine().map(|p| p.id).collect();
                all.push(Conflict { kind: "no-object", words, pieces, plate: None, is_grave: true });
                continue;
            }
            let left: Vec<u32> = mine().filter(|p| p.place.is_none()).map(|p| p.id).collect();
            if !left.is_empty() {
                let [w, d, _] = self.workshop.printer().bed;
                let sides =
                    design.shadow.as_ref().and_then(|s| s.bounds()).map_or([0.0; 2], |b| [b.width(), b.height()]);
                let (object, spare) = (size(sides).decimals(1), mm(SPARE_MM));
                let words =
                    msg!("bed-too-large", design = &design.name, object = object, bed = size([w, d]), spare = spare);
                all.push(Conflict { kind: "too-large", words, pieces: left, plate: None, is_grave: true });
            }
        }
        all
    }

    fn lying(&self, bed: &Bed, plate: usize) -> Vec<Lying> {
        let lie = |piece: &&kachel_design::BedPiece| {
            let (design, outline) = self.outline(piece)?;
            let (_, solid) = design.run.solid.as_ref()?;
            let area = offset(&piece.place?.pose.region(outline).ok()?, LEAST_GAP_MM / 2.0).ok()?;
            let bounds = area.bounds()?;
            let height = solid.skin.mesh().extent().1[2];
            Some(Lying { id: piece.id, name: design.name.clone(), height, area, bounds })
        };
        on_plate(bed, plate).collect::<Vec<_>>().par_iter().filter_map(lie).collect()
    }

    /// Over the edge, or too high.
    fn beyond(&self, lying: &[Lying], plate: usize) -> Vec<Conflict> {
        let [w, d, h] = self.workshop.printer().bed;
        let half = LEAST_GAP_MM / 2.0;
        let is_over = |l: &&Lying| {
            let b = l.bounds;
            b.min.x + half < -1e-6 || b.min.y + half < -1e-6 || b.max.x - half > w + 1e-6 || b.max.y - half > d + 1e-6
        };
        let over: Vec<&Lying> = lying.iter().filter(is_over).collect();
        let high: Vec<&Lying> = lying.iter().filter(|l| l.height > h).collect();
        let mut all = Vec::new();
        if !over.is_empty() {
            let words = of_pieces("bed-over-the-edge", &over);
            all.push(conflict("over-the-edge", words, &over, plate));
        }
        if !high.is_empty() {
            let most = high.iter().map(|l| l.height).fold(0.0, f64::max);
            let words = of_pieces("bed-too-high", &high).with("high", mm(most).decimals(2)).with("most", mm(h));
            all.push(conflict("too-high", words, &high, plate));
        }
        all
    }

    /// More filaments than the printer loads.
    fn filaments_beyond(&self, bed: &Bed, plate: usize) -> Option<Conflict> {
        let names = self.filaments(bed, plate);
        let loads = self.workshop.printer().filaments as usize;
        if names.len() <= loads {
            return None;
        }
        let called: Vec<&str> = names.iter().map(|f| self.workshop.filament(f).name.as_str()).collect();
        let words = msg!("bed-filaments", n = names.len(), names = called.join(", "), loads = loads);
        let pieces = on_plate(bed, plate).map(|p| p.id).collect();
        Some(Conflict { kind: "filaments", words, pieces, plate: Some(plate), is_grave: false })
    }
}

/// Where pieces are printed one by one: what the head would run into.
fn head_meets(bed: &Bed, lying: &[Lying], plate: usize) -> Vec<Conflict> {
    if bed.order == PrintOrder::Together || lying.len() < 2 {
        return vec![];
    }
    let mut all = Vec::new();
    let far = |a: &Lying, b: &Lying| {
        let (p, q) = (a.bounds, b.bounds);
        let beside = |a: f64, b: f64| a.max(b).max(0.0);
        beside(q.min.x - p.max.x, p.min.x - q.max.x).hypot(beside(q.min.y - p.max.y, p.min.y - q.max.y))
    };
    // The bounds are grown by half the least gap each; arranged pieces keep their distance between outlines, which is no less.
    let is_near = |a: &Lying, b: &Lying| {
        far(a, b) + LEAST_GAP_MM < HEAD_ROOM_MM - 0.5 && {
            let places = nearest_places(&a.area, &b.area);
            places.is_none_or(|(p, q)| p.distance(q) + LEAST_GAP_MM < HEAD_ROOM_MM - 0.5)
        }
    };
    let near: Vec<&Lying> = lying.iter().filter(|a| lying.iter().any(|b| a.id != b.id && is_near(a, b))).collect();
    if !near.is_empty() {
        let words = of_pieces("bed-head-room", &near).with("room", mm(HEAD_ROOM_MM));
        all.push(conflict("head-room", words, &near, plate));
    }
    let high: Vec<&Lying> = lying.iter().filter(|l| l.height > UNDER_HEAD_MM).collect();
    if !high.is_empty() {
        let words = of_pieces("bed-under-head", &high).with("most", mm(UNDER_HEAD_MM));
        all.push(conflict("under-head", words, &high, plate));
    }
    all
}

/// Pairs that lie on each other, or so near that they grow together.
fn overlaps(lying: &[Lying], plate: usize) -> Option<Conflict> {
    let meets = |a: &Lying, b: &Lying| {
        let (p, q) = (a.bounds, b.bounds);
        let apart = p.max.x < q.min.x || q.max.x < p.min.x || p.max.y < q.min.y || q.max.y < p.min.y;
        !apart && combine(&a.area, &b.area, BoolOp::Common).is_ok_and(|c| c.area_mm2() > CRUMB_MM2)
    };
    let pairs: Vec<(usize, usize)> = (0..lying.len()).flat_map(|i| (i + 1..lying.len()).map(move |k| (i, k))).collect();
    let met: Vec<(usize, usize)> = pairs.into_par_iter().filter(|(i, k)| meets(&lying[*i], &lying[*k])).collect();
    let first = met.first()?;
    let mut numbers: Vec<usize> = met.iter().flat_map(|(i, k)| [*i, *k]).collect();
    numbers.sort_unstable();
    numbers.dedup();
    let all: Vec<&Lying> = numbers.iter().map(|k| &lying[*k]).collect();
    let (a, b) = (&lying[first.0].name, &lying[first.1].name);
    let words = msg!("bed-overlap", n = met.len(), first = a, second = b, more = met.len() - 1);
    Some(conflict("overlap", words, &all, plate))
}

fn conflict(kind: &'static str, words: Message, lying: &[&Lying], plate: usize) -> Conflict {
    Conflict { kind, words, pieces: lying.iter().map(|l| l.id).collect(), plate: Some(plate), is_grave: true }
}

/// What is said of pieces: their number, and the name of the first.
fn of_pieces(code: &'static str, lying: &[&Lying]) -> Message {
    let piece = lying.first().map_or("", |l| l.name.as_str());
    msg!(code, n = lying.len(), piece = piece)
}
