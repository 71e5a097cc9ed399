//! Edits of what is done to the picture before it is traced. Turning and straightening move the frame in which choices
//! and the crop are kept; they are moved along.

use crate::document::Document;
use crate::edit::{Axis, Basis, Edit, EditError, in_range};
use kachel_artwork::{
    ArtworkError, Crop, Frame, MAX_STROKE_POINTS, MAX_STROKES, Prepare, Straighten, Stroke, StrokeKind,
};
use kachel_outline::{Size, moved_span};

pub(crate) const fn stroke_label(kind: StrokeKind) -> &'static str {
    match kind {
        StrokeKind::RubOut => "Rub out",
        StrokeKind::Draw => "Draw",
        StrokeKind::Fill => "Fill an area",
        StrokeKind::Clear => "Clear an area",
    }
}

impl From<ArtworkError> for EditError {
    fn from(e: ArtworkError) -> Self {
        Self::Artwork(e)
    }
}

pub(crate) fn apply(d: &mut Document, edit: &Edit, basis: &Basis<'_>) -> Result<(), EditError> {
    let is_drawing = basis.source.is_some_and(|s| s.is_drawing);
    match edit {
        Edit::SetLevel { .. } | Edit::AddStroke { .. } | Edit::Straighten { straighten: Some(_) } if is_drawing => {
            return Err(EditError::NoPixels);
        }
        Edit::SetLevel { level } => d.prepare.level = *level,
        Edit::AddStroke { stroke } => add_stroke(&mut d.prepare, stroke)?,
        Edit::ClearStrokes => d.prepare.strokes.clear(),
        Edit::Straighten { straighten } => {
            let frame = reframe(d, basis, |p| p.straighten = *straighten)?;
            if let (Some(Straighten { .. }), Some(mm_per_px)) = (straighten, frame.mm_per_px) {
                // A sheet of known size tells how large everything on it is.
                d.size = Size::Scale { mm_per_px };
            }
        }
        Edit::Turn { quarters } => {
            in_range("A turn", f64::from(*quarters), (-3.0, 3.0), |v| format!("{v} quarters"))?;
            reframe(d, basis, |p| {
                let turned = i16::from(p.quarter_turns) + i16::from(*quarters);
                p.quarter_turns = u8::try_from(turned.rem_euclid(4)).unwrap_or(0);
            })?;
            if quarters % 2 != 0 {
                d.size = match d.size {
                    Size::Width { mm } => Size::Height { mm },
                    Size::Height { mm } => Size::Width { mm },
                    scale => scale,
                };
            }
        }
        Edit::SetDegrees { degrees } => {
            in_range("A turn", *degrees, (-45.0, 45.0), |v| format!("{v} degrees"))?;
            reframe(d, basis, |p| p.degrees = *degrees)?;
        }
        Edit::Flip { axis } => {
            reframe(d, basis, |p| {
                // Flipping comes before turning: seen through a turn, it is a flip with the turn run backwards.
                let turns = if *axis == Axis::Width { 4 } else { 6 } - p.quarter_turns % 4;
                p.flip = !p.flip;
                p.quarter_turns = turns % 4;
                p.degrees = -p.degrees + 0.0;
            })?;
        }
        Edit::SetCrop { crop } => {
            d.prepare.crop = crop.map(|c| checked(c, d, basis)).transpose()?;
        }
        _ => {}
    }
    Ok(())
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
    let moved = |p: [f64; 2]| after.prepared(before.original(p));
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
    in_range("The brush", stroke.radius, (0.5, 500.0), |v| format!("{v} px"))?;
    let is_sound = |q: &[f64; 2]| q.iter().all(|v| v.is_finite() && v.abs() < 1e6);
    if stroke.points.is_empty() || !stroke.points.iter().all(is_sound) {
        return Err(EditError::NoPoint);
    }
    let too_many = |what, found, most| EditError::TooManyStrokes { what, found, most };
    if p.strokes.len() >= MAX_STROKES {
        return Err(too_many("strokes", p.strokes.len() + 1, MAX_STROKES));
    }
    let points = p.strokes.iter().map(|s| s.points.len()).sum::<usize>() + stroke.points.len();
    if points > MAX_STROKE_POINTS {
        return Err(too_many("points in strokes", points, MAX_STROKE_POINTS));
    }
    p.strokes.push(stroke.clone());
    Ok(())
}
