//! A plate for a cup.

use crate::maker::{Maker, Put, about, disc, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{CoasterForm, Relief, measures as m};
use crate::recipes::common::{border, corners, outside, pieces, rim_height, rim_width, soft_edge};
use crate::recipes::plates::{fits, lay, middle, rectangle, relief};
use crate::{EdgesOf, Role, TierError};
use kachel_outline::rounded_polygon;

// Measures of a coaster: common practice, no source.
pub(super) const MEASURES: &[MeasureSpec] = &[
    MeasureSpec::choice(m::COASTER_FORM, "plate", CoasterForm::OPTIONS),
    MeasureSpec::length(m::ACROSS, "plate", Picture::Across, (80.0, 20.0, 200.0)),
    border("plate", (3.0, 0.0, 30.0)),
    pieces("plate"),
    MeasureSpec::height(m::THICKNESS, "plate", (5.0, 0.6, 20.0)),
    soft_edge("plate", (0.5, 0.0, 5.0)),
    MeasureSpec::choice(
        m::RELIEF,
        "details",
        &[
            Relief::Engraved.option(),
            Relief::Raised.option(),
            Relief::Cut.option(),
            Relief::Inlaid.option(),
            Relief::Nothing.option(),
        ],
    ),
    outside("details"),
    MeasureSpec::length(m::RELIEF_DEPTH, "details", Picture::Deep, (2.5, 0.2, 20.0)),
    rim_width((0.0, 0.0, 30.0)),
    rim_height((1.5, 0.2, 20.0)),
];

pub(super) const CORNERS: &[MeasureSpec] = &corners(6.0);

pub(super) const HEXAGON: &[MeasureSpec] =
    &[MeasureSpec::length(m::CORNER_HEXAGON, "plate", Picture::Corner, (0.0, 0.0, 60.0))];

pub(super) fn make(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let (across, thickness) = (maker.get(m::ACROSS), maker.get(m::THICKNESS));
    let form = maker.choice(m::COASTER_FORM);
    let at = if form == CoasterForm::Outline { middle(&edge) } else { lay(maker)? };
    let plate = match form {
        CoasterForm::Square => rectangle(maker, across, across, at)?,
        // Across the flats: a hexagon's corners lie 2 / sqrt 3 farther out.
        CoasterForm::Hexagon => {
            about([rounded_polygon(6, across * 2.0 / 3f64.sqrt(), maker.get(m::CORNER_HEXAGON))], at)?
        }
        CoasterForm::Outline => maker.plans.grown(&edge, maker.get(m::BORDER))?,
        CoasterForm::Disc => disc(across, at)?,
    };
    maker.stack.edge = plate.clone();
    let rim = maker.get(m::RIM_WIDTH);
    let has_rim = rim > 0.0;
    let soft = softened(EdgesOf::Outer, maker.get(m::SOFT_EDGE).min(thickness / 2.0));
    let body = Put::new(Role::Body, "plate", 0.0, thickness).top_by(m::THICKNESS, 0.0);
    maker.add(if has_rim { body } else { body.topped(soft) }, &plate)?;
    if has_rim {
        let ring = maker.plans.less(&plate, &maker.plans.grown(&plate, -rim)?)?;
        let top = thickness + maker.get(m::RIM_HEIGHT);
        let soft = softened(EdgesOf::Both, maker.get(m::SOFT_EDGE).min(rim / 3.0).min(maker.get(m::RIM_HEIGHT) / 2.0));
        maker.add(Put::new(Role::Rim, "rim", 0.0, top).top_by(m::RIM_HEIGHT, thickness).topped(soft), &ring)?;
    }
    let drawing = maker.drawing("details")?;
    let room = if has_rim { maker.plans.grown(&plate, -rim)? } else { plate };
    let mends = if form == CoasterForm::Outline { vec![] } else { fits(maker, &drawing, &room, at, across)? };
    let drawing = maker.within(drawing, &room, mends)?;
    let how = maker.choice(m::RELIEF);
    relief(maker, &drawing, how, thickness, maker.get(m::RELIEF_DEPTH), m::RELIEF_DEPTH)
}
