//! Edits of what is done to the picture and of how it is traced. Turning and straightening move the frame in which
//! choices and the crop are kept; they are moved along.

use super::error::{EditError, in_range, in_unit};
use super::{Axis, Basis, Length, Needs};
use crate::document::Document;
use kachel_artwork::{
    ArtworkError, Crop, Frame, MAX_STROKE_POINTS, MAX_STROKES, Prepare, Sheet, Straighten, Stroke, StrokeKind,
    proportion,
};
use kachel_geom::{Bounds, Point, Px};
use kachel_outline::{Size, is_near, moved_span};
use kachel_tiers::Unit;
use kachel_trace::{ColourSettings, Ink, MAX_COLOURS};
use kachel_words::{Message, msg, number};
use serde::{Deserialize, Serialize};
use strum::VariantNames;
use ts_rs::TS;

/// Range of the width of pen lines, mm.
const PEN_RANGE_MM: (f64, f64) = (0.1, 50.0);
/// Range of areas that are left out as too small, square pixels.
const SMALL_RANGE_PX2: (f64, f64) = (0.0, 10_000.0);

/// What is done to the picture, and how it is traced.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, VariantNames, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[strum(serialize_all = "kebab-case")]
pub enum PictureEdit {
    /// Chooses how ink is found.
    SetInk {
        /// The way.
        ink: Ink,
    },
    /// Cuts grey at a value, or automatically.
    SetThreshold {
        /// 1 to 254, or none for automatic.
        threshold: Option<u8>,
    },
    /// Swaps ink and ground.
    SetInvert {
        /// Whether they are swapped.
        invert: bool,
    },
    /// Sets under which area specks are dropped.
    SetMinArea {
        /// Square pixels, 0 to 10 000.
        min_area: f64,
    },
    /// Sets under which area gaps are filled.
    SetMinGap {
        /// Square pixels, 0 to 10 000.
        min_gap: f64,
    },
    /// Sets from which turn on a bend is a corner.
    SetBend {
        /// Degrees, 5 to 120.
        bend: f64,
    },
    /// Sets how colours are distinguished.
    SetColours {
        /// All of it.
        colours: ColourSettings,
    },
    /// Gives all pen lines one width, or lets each be as wide as it was drawn.
    SetPenWidth {
        /// The length.
        value: Option<Length>,
    },
    /// Sets how closely contours are followed.
    SetDeviation {
        /// Pixels, 0 to 5.
        deviation: f64,
    },
    /// Levels uneven light, or not.
    SetLevel {
        /// Whether it is levelled.
        level: bool,
    },
    /// Draws on the picture.
    AddStroke {
        /// The stroke, in pixels of the original picture.
        stroke: Stroke,
    },
    /// Takes every stroke off the picture.
    ClearStrokes,
    /// Makes a photographed sheet a rectangle of its true size, or takes that back.
    Straighten {
        /// The sheet and its corners.
        straighten: Option<Straighten>,
    },
    /// Finds the sheet that lies in the photo, makes it a rectangle of its true size, and keeps what lies on it.
    FindSheet {
        /// What sheet it is; none takes a card for a card, and paper for what is usual where the design's unit is.
        sheet: Option<Sheet>,
    },
    /// Turns the picture by quarters.
    Turn {
        /// Quarter turns clockwise, -3 to 3.
        quarters: i8,
    },
    /// Turns the picture by a few degrees more.
    SetDegrees {
        /// Degrees clockwise, -45 to 45.
        degrees: f64,
    },
    /// Flips the picture.
    Flip {
        /// Along which axis: its width swaps left and right.
        axis: Axis,
    },
    /// Keeps a part of the picture, or all of it.
    SetCrop {
        /// The part, in pixels of the turned picture.
        crop: Option<Crop>,
    },
}

impl PictureEdit {
    /// What it has to know.
    pub const fn needs(&self) -> Needs {
        match self {
            Self::SetInk { .. }
            | Self::SetThreshold { .. }
            | Self::SetInvert { .. }
            | Self::SetMinArea { .. }
            | Self::SetMinGap { .. }
            | Self::SetBend { .. }
            | Self::SetColours { .. }
            | Self::SetPenWidth { .. }
            | Self::SetDeviation { .. }
            | Self::ClearStrokes => Needs::Nothing,
            Self::SetLevel { .. }
            | Self::AddStroke { .. }
            | Self::Straighten { .. }
            | Self::Turn { .. }
            | Self::SetDegrees { .. }
            | Self::Flip { .. }
            | Self::SetCrop { .. } => Needs::Picture,
            Self::FindSheet { .. } => Needs::Sheet,
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::SetInk { .. } => msg!("undo-ink"),
            Self::SetThreshold { threshold: None } => msg!("undo-threshold-auto"),
            Self::SetThreshold { threshold: Some(t) } => msg!("undo-threshold", n = usize::from(*t)),
            Self::SetInvert { .. } => msg!("undo-invert"),
            Self::SetMinArea { .. } => msg!("undo-specks"),
            Self::SetMinGap { .. } => msg!("undo-pinholes"),
            Self::SetBend { bend } => msg!("undo-bend", n = number(*bend)),
            Self::SetColours { .. } => msg!("undo-colours"),
            Self::SetPenWidth { value: Some(v) } => msg!("undo-pen-width", value = v.words()),
            Self::SetPenWidth { value: None } => msg!("undo-pen-as-drawn"),
            Self::SetDeviation { .. } => msg!("undo-deviation"),
            Self::SetLevel { level: true } => msg!("undo-level"),
            Self::SetLevel { level: false } => msg!("undo-unlevel"),
            Self::AddStroke { stroke } => msg!(stroke_label(stroke.kind)),
            Self::ClearStrokes => msg!("undo-clear-strokes"),
            Self::Straighten { straighten: Some(_) } => msg!("undo-straighten"),
            Self::Straighten { straighten: None } => msg!("undo-unstraighten"),
            Self::FindSheet { .. } => msg!("undo-sheet"),
            Self::Turn { .. } => msg!("undo-quarter-turn"),
            Self::SetDegrees { degrees } => msg!("undo-degrees", n = number(*degrees)),
            Self::Flip { .. } => msg!("undo-flip"),
            Self::SetCrop { crop: Some(_) } => msg!("undo-crop"),
            Self::SetCrop { crop: None } => msg!("undo-uncrop"),
        }
    }

    /// Whether it works on pixels, which a drawing does not have.
    const fn needs_pixels(&self) -> bool {
        matches!(
            self,
            Self::SetLevel { .. }
                | Self::AddStroke { .. }
                | Self::Straighten { straighten: Some(_) }
                | Self::FindSheet { .. }
        )
    }

    pub(super) fn apply(&self, d: &mut Document, basis: &Basis<'_>) -> Result<(), EditError> {
        if self.needs_pixels() && basis.source.is_some_and(|s| s.is_drawing) {
            return Err(EditError::NoPixels);
        }
        match self {
            Self::SetInk { .. }
            | Self::SetThreshold { .. }
            | Self::SetInvert { .. }
            | Self::SetMinArea { .. }
            | Self::SetMinGap { .. }
            | Self::SetDeviation { .. }
            | Self::SetBend { .. }
            | Self::SetColours { .. }
            | Self::SetPenWidth { .. } => self.apply_to_tracing(d)?,
            Self::SetLevel { level } => d.prepare.level = *level,
            Self::AddStroke { stroke } => add_stroke(&mut d.prepare, stroke)?,
            Self::ClearStrokes => d.prepare.strokes.clear(),
            Self::Straighten { straighten } => straightened(d, basis, *straighten)?,
            Self::FindSheet { sheet } => {
                let size = basis.source.map_or((1.0, 1.0), |s| s.size);
                let found = lay_by(basis.sheet.ok_or(EditError::NoSheet)?, *sheet, d.unit, size)?;
                d.prepare.crop = None;
                straightened(d, basis, Some(found.0))?;
                d.prepare.crop = Some(checked(found.1, d, basis)?);
            }
            Self::Turn { quarters } => {
                in_range(msg!("field-turn"), f64::from(*quarters), (-3.0, 3.0), in_unit("quarters"))?;
                reframe(d, basis, |p| {
                    let turned = i16::from(p.quarter_turns) + i16::from(*quarters);
                    p.quarter_turns = u8::try_from(turned.rem_euclid(4)).unwrap_or(0);
                })?;
                if quarters % 2 != 0 {
                    d.size = match d.size {
                        Size::Width { mm } => Size::Height { mm },
                        Size::Height { mm } => Size::Width { mm },
                        other @ (Size::Usual | Size::Scale { .. }) => other,
                    };
                }
            }
            Self::SetDegrees { degrees } => {
                in_range(msg!("field-turn"), *degrees, (-45.0, 45.0), in_unit("in-degrees"))?;
                reframe(d, basis, |p| p.degrees = *degrees)?;
            }
            Self::Flip { axis } => {
                reframe(d, basis, |p| {
                    // Flipping comes before turning: seen through a turn, it is a flip with the turn run backwards.
                    let turns = if *axis == Axis::Width { 4 } else { 6 } - p.quarter_turns % 4;
                    p.flip = !p.flip;
                    p.quarter_turns = turns % 4;
                    p.degrees = -p.degrees + 0.0;
                })?;
            }
            Self::SetCrop { crop } => {
                d.prepare.crop = crop.map(|c| checked(c, d, basis)).transpose()?;
            }
        }
        Ok(())
    }

    /// What of it is a setting of tracing; the rest is done to the picture before.
    fn apply_to_tracing(&self, d: &mut Document) -> Result<(), EditError> {
        match self {
            Self::SetInk { ink } => {
                d.trace.ink = *ink;
                d.trace.threshold = None;
            }
            Self::SetThreshold { threshold } => {
                if let Some(t) = threshold {
                    in_range(msg!("field-threshold"), f64::from(*t), (1.0, 254.0), number)?;
                }
                d.trace.threshold = *threshold;
            }
            Self::SetInvert { invert } => d.trace.invert = *invert,
            Self::SetMinArea { min_area } => {
                in_range(msg!("field-speck-size"), *min_area, SMALL_RANGE_PX2, in_unit("square-pixels"))?;
                d.trace.min_area = *min_area;
            }
            Self::SetMinGap { min_gap } => {
                in_range(msg!("field-pinhole-size"), *min_gap, SMALL_RANGE_PX2, in_unit("square-pixels"))?;
                d.trace.min_gap = *min_gap;
            }
            Self::SetDeviation { deviation } => {
                in_range(msg!("field-deviation"), *deviation, (0.0, 5.0), in_unit("pixels"))?;
                d.trace.deviation = *deviation;
            }
            Self::SetBend { bend } => {
                in_range(msg!("field-turn-of-a-corner"), *bend, (5.0, 120.0), in_unit("in-degrees"))?;
                d.trace.bend = *bend;
            }
            Self::SetColours { colours } => {
                if let Some(n) = colours.count {
                    in_range(msg!("field-number-of-colours"), f64::from(n), (2.0, MAX_COLOURS as f64), number)?;
                }
                let most = MAX_COLOURS as f64;
                in_range(msg!("field-number-of-picked-colours"), colours.picked.len() as f64, (0.0, most), number)?;
                in_range(
                    msg!("field-number-of-merged-colours"),
                    colours.merged.len() as f64,
                    (0.0, 4.0 * most),
                    number,
                )?;
                d.trace.colours = colours.clone();
            }
            Self::SetPenWidth { value } => {
                let width = value.as_ref().map(|v| v.within(msg!("field-pen-width"), PEN_RANGE_MM, d.unit));
                d.pen_width = width.transpose()?;
            }
            Self::SetLevel { .. }
            | Self::AddStroke { .. }
            | Self::ClearStrokes
            | Self::Straighten { .. }
            | Self::FindSheet { .. }
            | Self::Turn { .. }
            | Self::SetDegrees { .. }
            | Self::Flip { .. }
            | Self::SetCrop { .. } => {}
        }
        Ok(())
    }
}

/// Longer than this by its width, a sheet is a card: half-way between A4 (1.41) and ID-1 (1.59).
const CARD_FROM: f64 = 1.5;
/// What is left out along the border of a sheet, as a share of its shorter side: shadows, and edges that are not quite
/// straight.
const OFF_THE_SHEET: f64 = 0.012;

/// How a picture is laid by a sheet found in it: straightened, and cropped to what lies on the sheet.
pub fn lay_by(
    corners: [Point<Px>; 4],
    sheet: Option<Sheet>,
    unit: Unit,
    size: (f64, f64),
) -> Result<(Straighten, Crop), ArtworkError> {
    let paper = if unit == Unit::In { Sheet::Letter } else { Sheet::A4 };
    let guessed = if proportion(corners, size) > CARD_FROM { Sheet::Card } else { paper };
    let straighten = Straighten { corners, sheet: sheet.unwrap_or(guessed) };
    let frame = Frame::of(size, &Prepare { straighten: Some(straighten), ..Prepare::default() })?;
    let mut all = Bounds::<Px>::EMPTY;
    corners.iter().for_each(|c| all.add(frame.prepared(*c)));
    let off = OFF_THE_SHEET * all.width().min(all.height());
    let crop = Crop {
        x: all.min.x + off,
        y: all.min.y + off,
        width: all.width() - 2.0 * off,
        height: all.height() - 2.0 * off,
    };
    Ok((straighten, crop))
}

/// Straightens by a sheet, or no longer. A sheet of known size gives the scale of everything on it.
fn straightened(d: &mut Document, basis: &Basis<'_>, by: Option<Straighten>) -> Result<(), EditError> {
    let frame = reframe(d, basis, |p| p.straighten = by)?;
    if let (Some(Straighten { .. }), Some(mm_per_px)) = (by, frame.mm_per_px) {
        d.size = Size::Scale { mm_per_px };
    }
    Ok(())
}

const fn stroke_label(kind: StrokeKind) -> &'static str {
    match kind {
        StrokeKind::RubOut => "stroke-rub-out",
        StrokeKind::Draw => "stroke-draw",
        StrokeKind::Fill => "stroke-fill",
        StrokeKind::Clear => "stroke-clear",
    }
}

fn frame(p: &Prepare, basis: &Basis<'_>) -> Result<Frame, EditError> {
    let size = basis.source.map_or((1.0, 1.0), |s| s.size);
    Ok(Frame::of(size, p)?)
}

/// The crop, if it keeps anything.
fn checked(c: Crop, d: &Document, basis: &Basis<'_>) -> Result<Crop, EditError> {
    let all = [c.x, c.y, c.width, c.height];
    let f = frame(&d.prepare, basis)?;
    let (x0, y0) = (c.x.max(0.0), c.y.max(0.0));
    let (x1, y1) = ((c.x + c.width).min(f.width), (c.y + c.height).min(f.height));
    if !all.iter().all(|v| v.is_finite()) || x1 - x0 < 1.0 || y1 - y0 < 1.0 {
        return Err(ArtworkError::from(kachel_artwork::PrepareError::NothingLeft).into());
    }
    Ok(Crop { x: x0, y: y0, width: x1 - x0, height: y1 - y0 })
}

/// Changes how the picture lies, and moves what is kept in its frame along with it.
fn reframe(d: &mut Document, basis: &Basis<'_>, change: impl FnOnce(&mut Prepare)) -> Result<Frame, EditError> {
    let before = frame(&d.prepare, basis)?;
    let mut prepare = d.prepare.clone();
    change(&mut prepare);
    let after = frame(&prepare, basis)?;
    let moved = |p: Point<Px>| after.prepared(before.original(p));
    prepare.crop = prepare.crop.and_then(|c| {
        let [l, t, r, b] = moved_span([c.x, c.y, c.x + c.width, c.y + c.height], moved);
        let (x, y) = (l.max(0.0), t.max(0.0));
        let crop = Crop { x, y, width: r.min(after.width) - x, height: b.min(after.height) - y };
        (crop.width >= 1.0 && crop.height >= 1.0).then_some(crop)
    });
    d.move_places(moved);
    d.prepare = prepare;
    Ok(after)
}

fn add_stroke(p: &mut Prepare, stroke: &Stroke) -> Result<(), EditError> {
    in_range(msg!("field-brush"), stroke.radius, (0.5, 500.0), in_unit("pixels"))?;
    if stroke.points.is_empty() || !stroke.points.iter().all(is_near) {
        return Err(EditError::NoPoint);
    }
    let too_many = |what, found, most| EditError::TooManyStrokes { what, found, most };
    if p.strokes.len() >= MAX_STROKES {
        return Err(too_many("too-many-strokes", p.strokes.len() + 1, MAX_STROKES));
    }
    let points = p.strokes.iter().map(|s| s.points.len()).sum::<usize>() + stroke.points.len();
    if points > MAX_STROKE_POINTS {
        return Err(too_many("too-many-stroke-points", points, MAX_STROKE_POINTS));
    }
    p.strokes.push(stroke.clone());
    Ok(())
}
