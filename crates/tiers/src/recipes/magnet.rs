//! A body with pockets for disc magnets.

use crate::maker::{Maker, Put, disc, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{MagnetSize, Pocket, Relief, measures as m};
use crate::recipes::common::{border, outside, pieces, soft_edge};
use crate::recipes::plates::{relief, roomy};
use crate::{DoubtKind, DoubtMend, EdgesOf, MendBy, Role, TierError};
use kachel_geom::Point;
use kachel_words::{mm, msg};

// Measures of a magnet: common practice, no source; disc magnets come in these sizes.
const fn disc_mm(size: MagnetSize) -> Option<(f64, f64)> {
    match size {
        MagnetSize::D6x2 => Some((6.0, 2.0)),
        MagnetSize::D8x3 => Some((8.0, 3.0)),
        MagnetSize::D10x2 => Some((10.0, 2.0)),
        MagnetSize::D12x3 => Some((12.0, 3.0)),
        MagnetSize::Free => None,
    }
}
pub(super) const MEASURES: &[MeasureSpec] = &[
    border("body", (1.0, 0.0, 30.0)).worded("border-of-magnet"),
    pieces("body"),
    outside("details"),
    MeasureSpec::height(m::THICKNESS, "body", (5.0, 1.0, 30.0)).worded("thickness-of-magnet"),
    soft_edge("body", (0.5, 0.0, 5.0)),
    MeasureSpec::length(m::RELIEF_HEIGHT, "details", Picture::High, (1.0, 0.0, 20.0)).worded("relief-height-of-magnet"),
    MeasureSpec::choice(m::MAGNET, "pockets", MagnetSize::OPTIONS),
    MeasureSpec::length(m::MAGNET_ACROSS, "pockets", Picture::Across, (5.0, 1.0, 60.0)),
    MeasureSpec::length(m::MAGNET_HIGH, "pockets", Picture::High, (1.0, 0.3, 20.0)),
    MeasureSpec::length(m::CLEARANCE, "pockets", Picture::Gap, (0.2, 0.0, 1.0)),
    MeasureSpec::count(m::POCKETS, "pockets", (1.0, 0.0, 12.0)),
    MeasureSpec::choice(m::POCKET, "pockets", Pocket::OPTIONS),
    MeasureSpec::length(m::POCKET_X, "pockets", Picture::Gap, (0.0, -200.0, 200.0)),
    MeasureSpec::length(m::POCKET_Y, "pockets", Picture::Gap, (0.0, -200.0, 200.0)),
];
/// Filament below a magnet that is closed in, mm: two layers and a little.
const FLOOR_MM: f64 = 0.6;
/// Filament round a pocket, mm: two lines.
const ROUND_MM: f64 = 0.8;

pub(super) fn make(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let thickness = maker.get(m::THICKNESS);
    let body = maker.plans.grown(&edge, maker.get(m::BORDER))?;
    maker.stack.edge = body.clone();
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    maker.add(Put::new(Role::Body, "body", 0.0, thickness).top_by(m::THICKNESS, 0.0).topped(soft), &body)?;
    let drawing = maker.drawing("details")?;
    let drawing = maker.within(drawing, &body, None)?;
    relief(maker, &drawing, Relief::Raised, thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    let free = (maker.get(m::MAGNET_ACROSS), maker.get(m::MAGNET_HIGH));
    let (across, high) = disc_mm(maker.choice(m::MAGNET)).unwrap_or(free);
    let air = maker.get(m::CLEARANCE);
    let (across, high) = (across + 2.0 * air, high + air);
    let count = maker.count(m::POCKETS);
    let is_closed = maker.choice(m::POCKET) == Pocket::Closed;
    let from = if is_closed { FLOOR_MM } else { 0.0 };
    if count > 0 && from + high > thickness - FLOOR_MM + 1e-9 {
        let need = ((from + high + FLOOR_MM) * 5.0).ceil() / 5.0;
        let high = mm(high).decimals(1);
        let what = msg!("pocket-too-high", high = high, from = mm(from), body = mm(thickness));
        let mend = maker.mend(m::THICKNESS, need, |v| msg!("thicken-body", to = v));
        maker.doubt(DoubtKind::TooDeep, what, None, mend);
    }
    let mut places = roomy(maker, &body, across + 2.0 * ROUND_MM, count)?;
    if places.len() < count {
        let (across, round) = (mm(across).decimals(1), mm(ROUND_MM));
        let what = msg!("no-room-for-pockets", n = places.len(), of = count, across = across, round = round);
        let mend = maker.mend(m::POCKETS, places.len() as f64, |_| msg!("as-many-as-fit"));
        maker.doubt(DoubtKind::NoRoom, what, None, mend);
    }
    if let Some(first) = places.first_mut() {
        let by = (maker.get(m::POCKET_X), maker.get(m::POCKET_Y));
        if by != (0.0, 0.0) {
            *first = Point::new(first.x + by.0, first.y + by.1);
            let needed = disc(across + 2.0 * ROUND_MM, *first)?;
            let outside = maker.plans.less(&needed, &body)?;
            if !outside.is_empty() {
                let by = MendBy::Measures(vec![(m::POCKET_X, 0.0), (m::POCKET_Y, 0.0)]);
                let mend = DoubtMend { words: msg!("move-it-back"), by };
                maker.doubt(DoubtKind::BreaksOut, msg!("pocket-near-edge"), Some(needed), Some(mend));
            }
        }
    }
    let discs = places.iter().map(|p| disc(across, *p)).collect::<Result<Vec<_>, _>>()?;
    let pockets = maker.plans.joined(&discs)?;
    maker.cut(Put::new(Role::Room, "pockets", from, from + high), &pockets)?;
    if is_closed && !pockets.is_empty() {
        maker.stack.pauses.push(from + high);
    }
    Ok(())
}
