//! A coin, counter or medallion.

use crate::maker::{Maker, Put, chamfered, disc};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{Relief, TokenBack, TokenForm, measures as m};
use crate::recipes::common::{border, outside, pieces, relief_height, soft_edge};
use crate::recipes::plates::{fits, lay, middle, relief};
use crate::{DoubtKind, EdgesOf, Role, TierError};
use kachel_geom::{BoolOp, Mm, Point};
use kachel_words::{mm, msg};

// Measures of a token: common practice, no source.
pub(super) const MEASURES: &[MeasureSpec] = &[
    MeasureSpec::choice(m::TOKEN_FORM, "body", TokenForm::OPTIONS).worded("form-of-token"),
    MeasureSpec::length(m::ACROSS, "body", Picture::Across, (30.0, 8.0, 150.0)).worded("across-of-token"),
    border("body", (1.0, 0.0, 20.0)).worded("border-of-token"),
    MeasureSpec::height(m::THICKNESS, "body", (4.0, 0.6, 20.0)).worded("thickness-of-token"),
    pieces("body"),
    soft_edge("body", (0.4, 0.0, 3.0)).worded("soft-edge-of-token"),
    MeasureSpec::choice(m::RELIEF, "top", Relief::OPTIONS).worded("relief-of-token"),
    outside("top"),
    relief_height("top", (0.5, 0.2, 10.0)).worded("relief-height-of-token"),
    MeasureSpec::choice(m::TOKEN_BACK, "below", TokenBack::OPTIONS).worded("back-of-token"),
    MeasureSpec::length(m::BACK_DEPTH, "below", Picture::Deep, (0.6, 0.2, 10.0)),
];

pub(super) fn make(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let (across, thickness) = (maker.get(m::ACROSS), maker.get(m::THICKNESS));
    let is_disc = maker.choice(m::TOKEN_FORM) == TokenForm::Disc;
    let at = if is_disc { lay(maker)? } else { middle(&edge) };
    let body = if is_disc { disc(across, at)? } else { maker.plans.grown(&edge, maker.get(m::BORDER))? };
    maker.stack.edge = body.clone();
    let soft = chamfered(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 3.0));
    maker
        .add(Put::new(Role::Body, "body", 0.0, thickness).top_by(m::THICKNESS, 0.0).topped(soft).footed(soft), &body)?;
    let drawing = maker.drawing("details")?;
    let room = maker.plans.grown(&body, -maker.get(m::SOFT_EDGE))?;
    let mends = if is_disc { fits(maker, &drawing, &room, at, across)? } else { vec![] };
    let drawing = maker.within(drawing, &room, mends)?;
    relief(maker, &drawing, maker.choice(m::RELIEF), thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    let back = maker.choice(m::TOKEN_BACK);
    if back == TokenBack::None {
        return Ok(());
    }
    // Read from below, so it is mirrored about the body's middle.
    let depth = maker.get(m::BACK_DEPTH);
    if depth >= thickness {
        let what = msg!("details-below-too-deep", deep = mm(depth), body = mm(thickness));
        let mend = maker.mend(m::BACK_DEPTH, 0.6, |v| msg!("make-them-deep", to = v));
        maker.doubt(DoubtKind::TooDeep, what, None, mend);
    }
    let x = middle(&body).x;
    let all = maker.joined(&drawing)?;
    let turned = all
        .rings_mm()
        .into_iter()
        .map(|r| kachel_geom::Ring(r.0.into_iter().rev().map(|p| Point::<Mm>::new(2.0 * x - p.x, p.y)).collect()));
    let turned = kachel_geom::Region::from_mm(&turned.collect::<Vec<_>>())?;
    let turned = maker.plans.combined(&turned.into(), &room, BoolOp::Common)?;
    if back == TokenBack::Engraved {
        maker.cut(Put::new(Role::Room, "below", 0.0, depth), &turned)
    } else {
        maker.add(Put::new(Role::Detail, "below", 0.0, depth), &turned)
    }
}
