//! A plate with lettering.

use crate::maker::{Maker, Put, chamfered, disc, placed, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{PlaqueForm, Relief, Screws, measures as m};
use crate::recipes::common::{border, corners, outside, pieces, relief_height, soft_edge};
use crate::recipes::plates::{rectangle, relief};
use crate::{Area, DoubtKind, EdgesOf, Role, TierError};
use kachel_geom::{BoolOp, Bounds, Mm, Point};
use kachel_outline::Shape;
use kachel_words::{mm, msg};

// Measures of a plaque: common practice, no source.
pub(super) const MEASURES: &[MeasureSpec] = &[
    MeasureSpec::choice(m::PLAQUE_FORM, "plate", PlaqueForm::OPTIONS),
    border("plate", (10.0, 0.0, 60.0)).worded("border-of-plaque"),
    pieces("plate"),
    MeasureSpec::height(m::THICKNESS, "plate", (5.0, 0.6, 30.0)),
    soft_edge("plate", (0.5, 0.0, 5.0)),
    MeasureSpec::choice(m::RELIEF, "lettering", Relief::OPTIONS).worded("relief-of-plaque"),
    outside("lettering"),
    relief_height("lettering", (5.0, 0.2, 30.0)).worded("relief-height-of-plaque"),
    MeasureSpec::length(m::FRAME_WIDTH, "frame", Picture::Thick, (2.0, 0.0, 30.0)),
    MeasureSpec::length(m::FRAME_HEIGHT, "frame", Picture::High, (2.0, 0.2, 30.0)),
    MeasureSpec::choice(m::SCREWS, "screws", Screws::OPTIONS),
    MeasureSpec::length(m::SCREW, "screws", Picture::Across, (4.0, 1.0, 12.0)),
    MeasureSpec::length(m::SINK, "screws", Picture::Edge, (1.5, 0.0, 6.0)),
];

pub(super) const CORNERS: &[MeasureSpec] = &corners(5.0);

pub(super) fn make(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let (border, thickness) = (maker.get(m::BORDER), maker.get(m::THICKNESS));
    let form = maker.choice(m::PLAQUE_FORM);
    let details = maker.drawing("details")?;
    let drawn = maker.joined(&details)?.bounds().filter(|_| form != PlaqueForm::Outline);
    let b = edge.bounds().into_iter().chain(drawn).reduce(Bounds::union);
    let b = b.unwrap_or(Bounds { min: Point::new(-1.0, -1.0), max: Point::new(1.0, 1.0) });
    let (w, h, at) = (b.width() + 2.0 * border, b.height() + 2.0 * border, b.centre());
    let plate = match form {
        PlaqueForm::Rectangle => placed(Shape::Rectangle { width: w, height: h, corner: 0.0 }, at)?,
        // The oval through the corners of the drawing's box would be far too large; its sides by sqrt 2 hold them.
        PlaqueForm::Oval => {
            let grow = |side: f64| (side - 2.0 * border) * 2f64.sqrt() + 2.0 * border;
            placed(Shape::Ellipse { width: grow(w), height: grow(h) }, at)?
        }
        PlaqueForm::RoundEnds => {
            let wide = w + h - 2.0 * border;
            placed(Shape::Rectangle { width: wide, height: h, corner: h / 2.0 }, at)?
        }
        PlaqueForm::Outline => maker.plans.grown(&edge, border)?,
        PlaqueForm::Rounded => rectangle(maker, w, h, at)?,
    };
    maker.stack.edge = plate.clone();
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    let frame = maker.get(m::FRAME_WIDTH);
    let body = Put::new(Role::Body, "plate", 0.0, thickness).top_by(m::THICKNESS, 0.0);
    maker.add(if frame > 0.0 { body } else { body.topped(soft) }, &plate)?;
    let mut room = plate.clone();
    if frame > 0.0 {
        room = maker.plans.grown(&plate, -frame)?;
        let ring = maker.plans.less(&plate, &room)?;
        let high = maker.get(m::FRAME_HEIGHT);
        let soft = softened(EdgesOf::Both, maker.get(m::SOFT_EDGE).min(frame / 3.0).min(high / 2.0));
        maker.add(
            Put::new(Role::Rim, "frame", 0.0, thickness + high).top_by(m::FRAME_HEIGHT, thickness).topped(soft),
            &ring,
        )?;
    }
    let drawing = maker.within(details, &room, None)?;
    relief(maker, &drawing, maker.choice(m::RELIEF), thickness, maker.get(m::RELIEF_HEIGHT), m::RELIEF_HEIGHT)?;
    screws(maker, &plate, thickness, frame)
}

fn screws(maker: &mut Maker<'_>, plate: &Area, thickness: f64, frame: f64) -> Result<(), TierError> {
    let how = maker.choice(m::SCREWS);
    let Some(b) = plate.bounds().filter(|_| how != Screws::None) else { return Ok(()) };
    let (across, sink) = (maker.get(m::SCREW), maker.get(m::SINK));
    let inset = frame + 1.0 + across / 2.0 + sink;
    let (x, y) = (b.width() / 2.0 - inset, b.height() / 2.0 - inset);
    let at = b.centre();
    let places: Vec<Point<Mm>> = match how {
        Screws::Two => [-1.0, 1.0].map(|k| Point::new(at.x + k * x, at.y)).to_vec(),
        Screws::Four | Screws::None => [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)]
            .map(|(i, j)| Point::new(at.x + i * x, at.y + j * y))
            .to_vec(),
    };
    let holes = places.iter().map(|p| disc(across, *p)).collect::<Result<Vec<_>, _>>()?;
    let holes = maker.plans.joined(&holes)?;
    let needed = maker.plans.grown(&holes, sink + 1.0)?;
    if !maker.plans.less(&needed, plate)?.is_empty() {
        let what = msg!("screw-hole-breaks-out", across = mm(across));
        let mend = maker.mend(m::BORDER, 15.0, |v| msg!("widen-border", to = v));
        maker.doubt(DoubtKind::BreaksOut, what, Some(needed.clone()), mend);
    }
    let mut mouth = chamfered(EdgesOf::Both, sink);
    mouth.way = crate::Way::Outward;
    mouth.depth = sink.min(thickness);
    let drawn: Vec<Area> =
        maker.stack.tiers.iter().filter(|t| t.role == Role::Detail).map(|t| t.footprint.clone()).collect();
    let drawn = maker.plans.joined(&drawn)?;
    let common = maker.plans.combined(&needed, &drawn, BoolOp::Common)?;
    if !common.is_empty() {
        let what = msg!("screw-hole-under-lettering");
        let mend = maker.mend(m::BORDER, 15.0, |v| msg!("widen-border", to = v));
        maker.doubt(DoubtKind::NoRoom, what, Some(common), mend);
    }
    maker.cut(Put::new(Role::Room, "screws", 0.0, thickness).topped(mouth), &holes)
}
