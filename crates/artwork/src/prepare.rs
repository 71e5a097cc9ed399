use crate::error::{ArtworkError, PrepareError};
use crate::frame::{Frame, apply};
use crate::model::{Area, Artwork, Drawing, Picture, luma};
use crate::settings::{Crop, Paint, Prepare};
use crate::{Doubt, level, tidy};
use kachel_geom::{BoolOp, Bounds, Curve, Point, Px, Ring, Stage, Watch, combine_rings};

impl Crop {
    /// The part of a frame that it keeps, in whole pixels: left, upper, right and lower edge.
    fn within(self, f: &Frame) -> Result<[f64; 4], PrepareError> {
        let clip = |v: f64, most: f64| v.round().clamp(0.0, most.ceil());
        let [x0, x1] = [self.x, self.x + self.width].map(|v| clip(v, f.width));
        let [y0, y1] = [self.y, self.y + self.height].map(|v| clip(v, f.height));
        if x1 - x0 >= 1.0 && y1 - y0 >= 1.0 { Ok([x0, y0, x1, y1]) } else { Err(PrepareError::NothingLeft) }
    }
}

/// Prepares artwork. `None` where nothing is to be done.
pub fn prepare(a: &Artwork, p: &Prepare, paint: Paint, watch: &Watch) -> Result<Option<Artwork>, ArtworkError> {
    let is_picture = matches!(a, Artwork::Picture(_));
    let (level, tidy) = (p.level && is_picture, !p.strokes.is_empty() && is_picture);
    // A drawing has no perspective.
    let geometry = if is_picture { p.clone() } else { Prepare { straighten: None, ..p.clone() } };
    let frame = Frame::of(a.size(), &geometry)?;
    let whole = [0.0, 0.0, frame.width, frame.height];
    let part = p.crop.map_or(Ok(whole), |c| c.within(&frame))?;
    // A sheet that somebody straightened by is seen, and one that nobody straightened by need not be.
    let moot = if geometry.straighten.is_some() { Doubt::SheetRunsOut } else { Doubt::HiddenCorner };
    let is_moot = a.doubts().contains(&moot);
    if frame.is_original() && part == whole && !level && !tidy && !is_moot {
        return Ok(None);
    }
    watch.enter(Stage::Artwork)?;
    match a {
        Artwork::Picture(picture) => {
            let mut now = picture.clone();
            if level {
                level::level(&mut now);
                watch.check()?;
            }
            tidy::tidy(&mut now, &p.strokes, &paint);
            watch.check()?;
            if !(frame.is_original() && part == whole) {
                now = warp(&now, &frame, part, paint, watch)?;
            }
            now.mm_per_px = frame.mm_per_px.or(picture.mm_per_px);
            now.doubts.retain(|d| *d != moot);
            Ok(Some(Artwork::Picture(now)))
        }
        Artwork::Drawing(d) => Ok(Some(Artwork::Drawing(moved(d, &frame, part)))),
    }
}

/// Where an output pixel is read from: four neighbours and their weights.
struct Sample {
    at: [usize; 4],
    weights: [f64; 4],
}

/// The part of the prepared picture, bilinear.
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "whole pixels within the picture")]
fn warp(
    p: &Picture,
    frame: &Frame,
    [x0, y0, x1, y1]: [f64; 4],
    paint: Paint,
    watch: &Watch,
) -> Result<Picture, ArtworkError> {
    let (w, h) = ((x1 - x0) as usize, (y1 - y0) as usize);
    let ground = luma(paint.ground);
    let mut grey = vec![ground; w * h];
    let mut colour = p.colour.is_some().then(|| vec![paint.ground; w * h]);
    let mut alpha = p.alpha.is_some().then(|| vec![0u8; w * h]);
    for y in 0..h {
        watch.step(y, h)?;
        for x in 0..w {
            let at = apply(&frame.to_original, [x0 + x as f64 + 0.5, y0 + y as f64 + 0.5]);
            let Some(s) = sample(p, at) else { continue };
            let mix = |f: &dyn Fn(usize) -> u8| {
                s.at.iter().zip(s.weights).map(|(i, w)| f64::from(f(*i)) * w).sum::<f64>().round() as u8
            };
            let i = y * w + x;
            grey[i] = mix(&|k| p.grey[k]);
            if let (Some(out), Some(from)) = (&mut colour, &p.colour) {
                out[i] = std::array::from_fn(|c| mix(&|k| from[k][c]));
            }
            if let (Some(out), Some(from)) = (&mut alpha, &p.alpha) {
                out[i] = mix(&|k| from[k]);
            }
        }
    }
    let (width, height) = (w as u32, h as u32);
    Ok(Picture {
        width,
        height,
        grey,
        colour,
        alpha,
        origin: (x0 as u32, y0 as u32),
        mm_per_px: None,
        doubts: p.doubts.clone(),
    })
}

#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "within the picture")]
fn sample(p: &Picture, [x, y]: [f64; 2]) -> Option<Sample> {
    let (w, h) = (f64::from(p.width), f64::from(p.height));
    if !(x >= 0.0 && y >= 0.0 && x <= w && y <= h) {
        return None;
    }
    let (x, y) = ((x - 0.5).clamp(0.0, w - 1.0), (y - 0.5).clamp(0.0, h - 1.0));
    let (left, top) = (x.floor(), y.floor());
    let (fx, fy) = (x - left, y - top);
    let (right, bottom) = ((left + 1.0).min(w - 1.0), (top + 1.0).min(h - 1.0));
    let at = |x: f64, y: f64| y as usize * p.width as usize + x as usize;
    Some(Sample {
        at: [at(left, top), at(right, top), at(left, bottom), at(right, bottom)],
        weights: [(1.0 - fx) * (1.0 - fy), fx * (1.0 - fy), (1.0 - fx) * fy, fx * fy],
    })
}

/// The drawing turned, flipped and cropped; its curves stay curves where the crop does not cut them.
fn moved(d: &Drawing, frame: &Frame, [x0, y0, x1, y1]: [f64; 4]) -> Drawing {
    let place = |p: Point<Px>| {
        let at = frame.prepared(p);
        Point::new(at.x - x0, at.y - y0)
    };
    let (width, height) = (x1 - x0, y1 - y0);
    let corners = [(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)].map(|(x, y)| Point::new(x, y));
    let window = [Ring(corners.to_vec())];
    let box_of = Bounds { min: corners[0], max: corners[2] };
    let area = |a: &Area| {
        let mut rings: Vec<Ring<Px>> = a.rings.iter().map(|r| Ring(r.0.iter().map(|p| place(*p)).collect())).collect();
        let mut curves: Option<Vec<Curve<Px>>> = a.curves.as_ref().map(|c| c.iter().map(|c| c.map(place)).collect());
        let b = Bounds::of(rings.iter().flat_map(|r| &r.0))?;
        if !(box_of.contains(b.min) && box_of.contains(b.max)) {
            rings = combine_rings(&rings, &window, BoolOp::Common);
            curves = None;
        }
        (!rings.is_empty()).then(|| Area { rings, curves, ..a.clone() })
    };
    let is_seen = |c: &Curve<Px>| c.bounds(1.0).is_some_and(|b| box_of.contains(b.centre()));
    Drawing {
        width,
        height,
        areas: d.areas.iter().filter_map(area).collect(),
        unpainted: d.unpainted.iter().map(|c| c.map(place)).filter(is_seen).collect(),
        strokes: d.strokes.iter().map(|(c, w)| (c.map(place), *w)).filter(|(c, _)| is_seen(c)).collect(),
        origin: (x0, y0),
        mm_per_unit: d.mm_per_unit,
        doubts: d.doubts.clone(),
    }
}
