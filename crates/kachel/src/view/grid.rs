//! The layers of a print: the first may be of another height than the others.

use kachel_design::Workshop;
use kachel_solid::Layers;
use kachel_tiers::Handle;

/// Heights of layers, mm.
#[derive(Clone, Copy)]
pub struct Grid {
    pub first: f64,
    pub layer: f64,
}

impl Grid {
    pub fn of(workshop: &Workshop) -> Self {
        Self { first: workshop.print.first_layer, layer: workshop.printer().layer }
    }

    /// So many layers print up to a height, counted as the rehearsal cuts them: half a layer more is none.
    pub fn count(self, top: f64) -> u32 {
        u32::try_from(Layers::count(top, self.first, self.layer)).unwrap_or(u32::MAX)
    }

    /// How high so many layers are.
    pub fn height(self, layers: u32) -> f64 {
        Layers::end_of(layers as usize, self.first, self.layer)
    }

    /// Layers that a height prints as, and how high those are. Where its handle says from where it is counted, these are the
    /// layers in between; else they are like those above the first.
    pub fn printed(self, mm: f64, handle: Option<&Handle>) -> (u32, f64) {
        let Some(h) = handle else {
            let plain = Self { first: self.layer, ..self };
            let layers = plain.count(mm).max(1);
            return (layers, plain.height(layers));
        };
        let (low, high) = if h.is_down { (h.base - mm, h.base) } else { (h.base, h.base + mm) };
        let (below, all) = (self.count(low.max(0.0)), self.count(high));
        (all.saturating_sub(below), self.height(all) - self.height(below))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_tiers::Moves;

    fn handle(base: f64, is_down: bool) -> Handle {
        Handle { moves: Moves::Top, name: "height".into(), own: None, base, is_down }
    }

    #[test]
    fn a_height_is_counted_from_where_it_begins() {
        let round = |(n, mm): (u32, f64)| (n, (mm * 1e6).round() / 1e6);
        let even = Grid { first: 0.2, layer: 0.2 };
        assert_eq!(round(even.printed(15.0, Some(&handle(0.0, false)))), (75, 15.0));
        assert_eq!(round(even.printed(0.5, Some(&handle(4.0, false)))), (2, 0.4));
        // 0.3 and then 73 of 0.2, up to 14.9; the half layer above is none.
        let thick = Grid { first: 0.3, layer: 0.2 };
        assert_eq!(round(thick.printed(15.0, Some(&handle(0.0, false)))), (74, 14.9));
        // Those above the first are as high as ever: up to 3.9, and on to 5.9.
        assert_eq!(round(thick.printed(2.0, Some(&handle(4.0, false)))), (10, 2.0));
        // Stamp lines that hang 3 mm under a wall of 15 mm: 12.0 prints up to 11.9.
        assert_eq!(round(thick.printed(3.0, Some(&handle(15.0, true)))), (15, 3.0));
        assert_eq!(round(thick.printed(2.0, None)), (10, 2.0));
        // Less than half a layer is none.
        assert_eq!(round(even.printed(0.08, Some(&handle(4.0, false)))), (0, 0.0));
    }
}
