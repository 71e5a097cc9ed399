//! Roofs over a hollow, and of how many layers they are.

use super::over_air::{Held, Piece};
use crate::rule::{Fault, moved, places};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{BoolOp, combine, interior_point};
use kachel_tiers::{Moves, Op};
use kachel_words::{Message, mm, msg};

/// A roof over a hollow is of few layers.
pub const THIN_COVER: Code = Code::poor("thin-cover");

/// So many layers close a roof; fewer sag and show holes (common practice, no source).
const LEAST_LAYERS: usize = 3;
/// Smaller holes of a roof do not count, mm2.
const LEAST_MM2: f64 = 1.0;

/// Tells of roofs of few layers. `pieces` are what is laid over the air.
pub(super) fn told(o: &Object<'_>, pieces: &[Piece], found: &mut Report) -> Result<(), Fault> {
    let mut thin: Vec<(usize, &Piece)> = Vec::new();
    for piece in pieces.iter().filter(|p| matches!(p.held, Held::Across(_))) {
        let layers = layers_over(o, piece)?;
        if layers < LEAST_LAYERS {
            thin.push((layers, piece));
        }
    }
    let Some((layers, lowest)) = thin.iter().min_by_key(|(n, _)| *n) else { return Ok(()) };
    let what = msg!("thin-cover", layers = *layers, places = places(thin.len()), least = LEAST_LAYERS);
    let height = LEAST_LAYERS as f64 * o.printer.layer;
    found.push(
        Finding::new(THIN_COVER, what)
            .figure(Figure::count("number-of-layers", *layers, Some(LEAST_LAYERS)))
            .at_all(thin.iter().map(|(_, p)| Place::of_region(&p.area).between(p.heights.0, p.heights.1)))
            .mended_by(mends(o, lowest, lowest.heights.0 + height)),
    );
    Ok(())
}

/// Layers that lie on each other from a piece on.
fn layers_over(o: &Object<'_>, piece: &Piece) -> Result<usize, Fault> {
    for n in 1..LEAST_LAYERS {
        let Some(over) = o.layers.all.get(piece.layer + n) else { return Ok(n) };
        if combine(&piece.area, &over.area, BoolOp::TakeAway)?.area_mm2() >= LEAST_MM2 {
            return Ok(n);
        }
    }
    Ok(LEAST_LAYERS)
}

/// Raises what lies over the hollow to `top` (mm), or lets the hollow end lower.
fn mends(o: &Object<'_>, piece: &Piece, top: f64) -> Vec<Mend> {
    let rings = piece.area.rings_mm();
    let Some(at) = interior_point(&rings.iter().collect::<Vec<_>>()) else { return vec![] };
    let (bottom, middle) = (piece.heights.0, f64::midpoint(piece.heights.0, piece.heights.1));
    let by = |end: f64, moves: Moves, to: f64, words: Message, op: Op| {
        let is_it = |t: &&kachel_tiers::Tier| {
            t.op == op && (t.top.mm() - end).abs() < o.printer.layer && t.footprint.winding(at) != 0
        };
        let handle = o.stack.tiers.iter().rev().filter(is_it).flat_map(|t| &t.handles).find(|h| h.moves == moves)?;
        Some(Mend::by(words, moved(handle, to)))
    };
    let is_over = |t: &&kachel_tiers::Tier| t.op == Op::Add;
    let roof = o.covering(at, middle).find(is_over).map_or(top, |t| t.top.mm());
    let lower = roof - (top - bottom);
    [
        by(roof, Moves::Top, top, msg!("thicken-roof", thick = mm(top - bottom).decimals(2)), Op::Add),
        (lower > 0.0).then(|| by(bottom, Moves::Top, lower, msg!("lower-hollow"), Op::Cut)).flatten(),
    ]
    .into_iter()
    .flatten()
    .collect()
}
