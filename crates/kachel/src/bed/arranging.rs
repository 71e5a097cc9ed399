use super::OnBeds;
use crate::error::EngineError;
use kachel_check::SPARE_MM;
use kachel_design::{Bed, Moved, Place};
use kachel_geom::{Bounds, Mm, Region, Ring, Watch};
use kachel_pack::{Wish, pack};
use kachel_rehearse::reach_round;
use std::collections::BTreeMap;

impl OnBeds {
    /// Finds places for the pieces that have none, beside the others; those that are too large for the bed get none.
    pub fn arranged(&self, bed: &Bed, watch: &Watch) -> Result<Vec<Moved>, EngineError> {
        let mut numbers: BTreeMap<&str, usize> = BTreeMap::new();
        let mut shapes: Vec<Region> = Vec::new();
        for piece in &bed.pieces {
            if let (None, Some((_, outline))) = (numbers.get(piece.design.as_str()), self.outline(piece)) {
                numbers.insert(&piece.design, shapes.len());
                shapes.push((**outline).clone());
            }
        }
        let (mut fixed, mut wanted) = (Vec::new(), Vec::new());
        for piece in &bed.pieces {
            let Some(shape) = numbers.get(piece.design.as_str()) else { continue };
            match piece.place {
                Some(place) => fixed.push((*shape, place)),
                None => wanted.push((piece.id, *shape)),
            }
        }
        let (printer, print) = (self.workshop.printer(), &self.workshop.print);
        let [width, depth, _] = printer.bed;
        // Brims lie between the pieces too.
        let gap = bed.apart() + 2.0 * print.brim;
        let wish =
            Wish { bed: [width, depth], edge: SPARE_MM + reach_round(print, printer.line), gap, turns: bed.turns };
        let pieces: Vec<usize> = wanted.iter().map(|(_, shape)| *shape).collect();
        let mut places = pack(&shapes, &pieces, &fixed, &wish, watch)?;
        if fixed.is_empty() {
            centre(&shapes, &pieces, &mut places, wish.bed);
        }
        let moved =
            wanted.iter().zip(places).filter_map(|((piece, _), place)| Some(Moved { piece: *piece, place: place? }));
        Ok(moved.collect())
    }
}

/// Moves what lies on each plate to the middle of the bed: the edges of beds are often cooler.
fn centre(shapes: &[Region], pieces: &[usize], places: &mut [Option<Place>], bed: [f64; 2]) {
    let mut boxes: BTreeMap<usize, Bounds<Mm>> = BTreeMap::new();
    for (place, shape) in places.iter().zip(pieces) {
        let Some(place) = place else { continue };
        for b in place.pose.rings(&shapes[*shape].rings_mm()).iter().filter_map(Ring::bounds) {
            boxes.entry(place.plate).and_modify(|all| *all = all.union(b)).or_insert(b);
        }
    }
    for place in places.iter_mut().flatten() {
        let Some(b) = boxes.get(&place.plate) else { continue };
        place.pose.x += bed[0] / 2.0 - f64::midpoint(b.min.x, b.max.x);
        place.pose.y += bed[1] / 2.0 - f64::midpoint(b.min.y, b.max.y);
    }
}
