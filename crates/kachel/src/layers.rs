//! The layers of a print, as Check, the drawings and the measures count them.

use kachel_design::Workshop;
use kachel_solid::{LayerHeights, Layers, Solid};
use kachel_tiers::{Handle, TierError};

/// Layers that are looked at, at most.
const MOST_LAYERS: f64 = 2000.0;

/// How high layers are printed in this workshop.
pub(crate) fn layer_heights(workshop: &Workshop) -> LayerHeights {
    LayerHeights { first: workshop.print.first_layer, others: workshop.printer().layer }
}

/// The layers of a solid that are looked at: very fine ones several at a time.
pub(crate) fn looked_at(solid: &Solid, heights: LayerHeights) -> Result<Layers, TierError> {
    let least = solid.skin.mesh().extent().1[2] / MOST_LAYERS;
    let coarser = LayerHeights { first: heights.first.max(least), others: heights.others.max(least) };
    Ok(Layers::of(&solid.skin, coarser)?)
}

/// So many layers print up to a height, counted as the rehearsal cuts them: half a layer more is none.
pub(crate) fn layers_up_to(top: f64, heights: LayerHeights) -> u32 {
    u32::try_from(heights.count(top)).unwrap_or(u32::MAX)
}

/// Layers that a height prints as, and how high those are, mm. Where its handle says from where it is counted, these are the layers
/// in between; else they are like those above the first.
pub(crate) fn printed(heights: LayerHeights, mm: f64, handle: Option<&Handle>) -> (u32, f64) {
    let Some(h) = handle else {
        let plain = LayerHeights::even(heights.others);
        let layers = layers_up_to(mm, plain).max(1);
        return (layers, plain.end_of(layers as usize));
    };
    let (low, high) = if h.is_down { (h.base - mm, h.base) } else { (h.base, h.base + mm) };
    let (below, all) = (layers_up_to(low.max(0.0), heights), layers_up_to(high, heights));
    (all.saturating_sub(below), heights.end_of(all as usize) - heights.end_of(below as usize))
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
        let even = LayerHeights::even(0.2);
        assert_eq!(round(printed(even, 15.0, Some(&handle(0.0, false)))), (75, 15.0));
        assert_eq!(round(printed(even, 0.5, Some(&handle(4.0, false)))), (2, 0.4));
        // 0.3 and then 73 of 0.2, up to 14.9; the half layer above is none.
        let thick = LayerHeights { first: 0.3, others: 0.2 };
        assert_eq!(round(printed(thick, 15.0, Some(&handle(0.0, false)))), (74, 14.9));
        // Those above the first are as high as ever: up to 3.9, and on to 5.9.
        assert_eq!(round(printed(thick, 2.0, Some(&handle(4.0, false)))), (10, 2.0));
        // Stamp lines that hang 3 mm under a wall of 15 mm: 12.0 prints up to 11.9.
        assert_eq!(round(printed(thick, 3.0, Some(&handle(15.0, true)))), (15, 3.0));
        assert_eq!(round(printed(thick, 2.0, None)), (10, 2.0));
        // Less than half a layer is none.
        assert_eq!(round(printed(even, 0.08, Some(&handle(4.0, false)))), (0, 0.0));
    }
}
