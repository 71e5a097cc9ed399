use crate::maker::{Maker, Put, disc, placed, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::names::{Grip, StampPlate, StampRelief, measures as m};
use crate::recipes::common::{border, outside, pieces, relief_height};
use crate::{Area, DoubtKind, EdgesOf, Role, TierError};
use kachel_geom::{BoolOp, Bounds, Mm, Point};
use kachel_outline::Shape;
use kachel_words::{mm, msg};

/// Across the peg that joins grip and plate, mm.
const PEG_MM: f64 = 8.0;
/// Distance of the grip from the plate on the bed, mm.
const BESIDE_MM: f64 = 6.0;

// Measures of a stamp: common practice, no source.
pub(super) const MEASURES: &[MeasureSpec] = &[
    MeasureSpec::choice(m::PLATE, "plate", StampPlate::OPTIONS),
    border("plate", (2.0, 0.0, 30.0)).worded("border-of-stamp"),
    pieces("plate"),
    MeasureSpec::length(m::CLEARANCE, "plate", Picture::Gap, (0.0, 0.0, 2.0)).worded("clearance-of-stamp"),
    MeasureSpec::height(m::PLATE_HEIGHT, "plate", (4.0, 0.6, 30.0)),
    MeasureSpec::length(m::PLATE_EDGE, "plate", Picture::Edge, (0.0, 0.0, 5.0)),
    MeasureSpec::choice(m::STAMP_RELIEF, "relief", StampRelief::OPTIONS).worded("relief-of-stamp"),
    outside("relief"),
    relief_height("relief", (2.0, 0.2, 20.0)).worded("relief-height-of-stamp"),
    MeasureSpec::choice(m::GRIP, "grip", Grip::OPTIONS),
    MeasureSpec::height(m::GRIP_HEIGHT, "grip", (20.0, 5.0, 80.0)),
    MeasureSpec::length(m::GRIP_WIDTH, "grip", Picture::Across, (16.0, 11.0, 60.0)),
    MeasureSpec::length(m::PEG_CLEARANCE, "grip", Picture::Gap, (0.2, 0.0, 1.0)),
];

/// A plate about the edge: grown, or a form round it.
pub(super) fn plate(maker: &Maker<'_>, form: StampPlate, edge: &Area, border: f64) -> Result<Area, TierError> {
    let b = edge.bounds().unwrap_or(Bounds { min: Point::new(-1.0, -1.0), max: Point::new(1.0, 1.0) });
    let (w, h, at) = (b.width() + 2.0 * border, b.height() + 2.0 * border, b.centre());
    match form {
        StampPlate::Disc => {
            let reach = edge.rings_mm().iter().flat_map(|r| &r.0).map(|p| p.distance(at)).fold(0.0, f64::max);
            disc(2.0 * (reach + border), at)
        }
        StampPlate::Rectangle => {
            placed(Shape::Rectangle { width: w, height: h, corner: 2.0_f64.min(w.min(h) / 2.0) }, at)
        }
        StampPlate::Outline => Ok(maker.plans.grown(edge, border)?),
    }
}

pub(super) fn make(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge.clone();
    let form = maker.choice(m::PLATE);
    let clearance = maker.get(m::CLEARANCE);
    // The partner of a cutter lies inside its edge.
    let border = if clearance > 0.0 { -clearance } else { maker.get(m::BORDER) };
    let form = if clearance > 0.0 { StampPlate::Outline } else { form };
    let base = if form == StampPlate::Outline { edge } else { maker.drawn()? };
    let plate = plate(maker, form, &base, border)?;
    let (height, relief) = (maker.get(m::PLATE_HEIGHT), maker.get(m::RELIEF_HEIGHT));
    let is_sunk = maker.choice(m::STAMP_RELIEF) == StampRelief::Sunk;
    let drawing = maker.drawing("details")?;
    let drawing = maker.within(drawing, &plate, None)?;
    let edge_finish = softened(EdgesOf::Outer, maker.get(m::PLATE_EDGE).min(height / 2.0));
    maker.add(Put::new(Role::Body, "plate", 0.0, height).top_by(m::PLATE_HEIGHT, 0.0).topped(edge_finish), &plate)?;
    if is_sunk {
        if relief >= height {
            let what = msg!("details-too-deep", deep = mm(relief), plate = mm(height));
            let mend = maker.mend(m::RELIEF_HEIGHT, height / 2.0, |v| msg!("make-them-deep", to = v));
            maker.doubt(DoubtKind::TooDeep, what, None, mend);
        }
        let all = maker.joined(&drawing)?;
        maker.cut(
            Put::new(Role::Detail, "details", (height - relief).max(0.0), height)
                .bottom_under(m::RELIEF_HEIGHT, height),
            &all,
        )?;
    } else {
        maker.put_drawing(&drawing, |key| {
            Put::new(Role::Detail, key, height, height + relief).top_by(m::RELIEF_HEIGHT, height)
        })?;
    }
    grip(maker, &plate, height)
}

fn grip(maker: &mut Maker<'_>, plate: &Area, height: f64) -> Result<(), TierError> {
    let (is_knob, is_bar) = (maker.choice(m::GRIP) == Grip::Knob, maker.choice(m::GRIP) == Grip::Bar);
    let Some(b) = plate.bounds().filter(|_| is_knob || is_bar) else { return Ok(()) };
    let clearance = maker.get(m::PEG_CLEARANCE);
    let floor = 1.2;
    let depth = height - floor;
    if depth < 1.0 {
        let what = msg!("no-room-for-socket", plate = mm(height));
        let mend = maker.mend(m::PLATE_HEIGHT, 4.0, |v| msg!("plate-high", to = v));
        maker.doubt(DoubtKind::NoRoom, what, None, mend);
        return Ok(());
    }
    // Where the plate is thickest, so that the socket stays inside it.
    let middle = super::plates::roomiest(maker, plate, PEG_MM + 2.0 * clearance + 3.0)?;
    let Some(socket_at) = middle else {
        let what = msg!("nowhere-for-socket", across = mm(PEG_MM + 2.0 * clearance).decimals(1));
        maker.doubt(DoubtKind::NoRoom, what, None, None);
        return Ok(());
    };
    let socket = disc(PEG_MM + 2.0 * clearance, socket_at)?;
    maker.cut(Put::new(Role::Room, "socket", 0.0, depth), &socket)?;
    let (width, tall) = (maker.get(m::GRIP_WIDTH), maker.get(m::GRIP_HEIGHT));
    let length = if is_bar { (b.width().min(b.height()) * 0.8).max(width) } else { width };
    let at: Point<Mm> = Point::new(b.max.x + BESIDE_MM + length / 2.0, b.centre().y);
    let body = if is_bar {
        placed(Shape::Rectangle { width: length, height: width, corner: width / 3.0 }, at)?
    } else {
        disc(width, at)?
    };
    let soft = softened(EdgesOf::Both, (width / 6.0).min(2.0));
    maker.add(Put::new(Role::Grip, "grip", 0.0, tall).top_by(m::GRIP_HEIGHT, 0.0).footed(soft), &body)?;
    // A hair shorter than its socket is deep, so that the plate rests on the grip.
    let peg = maker.plans.combined(&disc(PEG_MM, at)?, &body, BoolOp::Common)?;
    maker.add(Put::new(Role::Grip, "grip", tall, tall + depth - 0.3), &peg)
}
