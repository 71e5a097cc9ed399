use crate::borders::{self, Least};
use crate::shape::{self, Style};
use crate::{
    Contours, Ink, MAX_RINGS, Swatch, TraceError, TraceSettings, blocks, cut, field, follow, guess, nest, palette, pen,
};
use kachel_artwork::{Picture, luma};
use kachel_geom::{Bounds, Curve, Point, Px, Ring, Watch};
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering::Relaxed};

/// Roughness (pixels) of a contour between pixels that are either ink or ground, after smoothing.
const ONE_BIT_GRAIN: f64 = 0.14;
/// How far compression noise moves an edge, pixels for each share of the contrast.
const WAVES: f64 = 1.4;
/// What is left of the stairs of such a contour beside its roughness, pixels.
const STAIRS: f64 = 0.17;
/// Specks that are handed on to be shown.
const MOST_DROPPED: usize = 2_000;

pub(crate) fn trace(p: &Picture, s: &TraceSettings, watch: &Watch) -> Result<Contours, TraceError> {
    let style = Style { deviation: s.deviation, bend: s.bend.to_radians(), softness: 1.0, grain: Some(0.0) };
    if s.ink == Ink::Colours {
        return colours(p, s, &style, watch);
    }
    let cut = cut::cut_picture(p, s)?;
    let has_hairlines = s.ink == Ink::Pen && guess::are_hairlines(p, cut.at, cut.light_is_ink);
    let field = field::Field::new(p, &cut, has_hairlines);
    let mut out = Contours::empty(f64::from(p.width), f64::from(p.height));
    (out.cut, out.cut_is_automatic) = (cut.at, cut.automatic);
    out.histogram = field.histogram.to_vec();
    if s.ink == Ink::Pen {
        (out.lines, out.dropped) = pen::follow(&field, &style, s.min_area, watch)?;
        out.specks = out.dropped.len();
        return Ok(out);
    }
    let followed = follow::follow(&field, watch)?;
    let grain = Some(if field.is_one_bit { ONE_BIT_GRAIN } else { WAVES * field.compression });
    let deviation = style.deviation + if field.is_one_bit && style.deviation > 0.0 { STAIRS } else { 0.0 };
    fit(followed.rings, s, &Style { softness: followed.softness, grain, deviation, ..style }, &mut out, watch)?;
    Ok(out)
}

/// Nests and fits rings, without those that are too small.
fn fit(
    rings: Vec<Ring<Px>>,
    s: &TraceSettings,
    style: &Style,
    out: &mut Contours,
    watch: &Watch,
) -> Result<(), TraceError> {
    // The direction of a ring separates ink from gaps: ink is on the left, y down.
    let (kept, small): (Vec<Ring<Px>>, Vec<Ring<Px>>) = rings.into_iter().partition(|r| {
        let area = r.area();
        area.abs() >= if area < 0.0 { s.min_area } else { s.min_gap }.max(1e-9)
    });
    out.specks = small.iter().filter(|r| r.area() < 0.0).count();
    out.pinholes = small.len() - out.specks;
    out.dropped = small.iter().take(MOST_DROPPED).map(Curve::from_ring).collect();
    if kept.len() > MAX_RINGS {
        return Err(TraceError::TooManyRings { rings: kept.len() });
    }
    out.contours = nest::nest(kept, watch)?;
    // Nothing of a picture lies outside it, where two sides that run into its border may seem to meet.
    let picture = Bounds { min: Point::new(0.0, 0.0), max: Point::new(out.width, out.height) };
    let (total, done) = (out.contours.len(), AtomicUsize::new(0));
    out.contours.par_iter_mut().try_for_each(|c| {
        watch.step(done.fetch_add(1, Relaxed), total)?;
        c.set_curve(shape::closed(&c.ring, style).held(&picture));
        Ok(())
    })
}

fn colours(p: &Picture, s: &TraceSettings, style: &Style, watch: &Watch) -> Result<Contours, TraceError> {
    let labels = palette::label(p, &s.colours, watch)?;
    let compression = blocks::noise((labels.width, labels.height), |x, y| {
        let k = y * labels.width + x;
        Some((labels.labels[k], f32::from(luma(labels.pixels[k]))))
    });
    let style = &Style { grain: Some(WAVES * compression), ..*style };
    let least = Least { ink: s.min_area, ground: s.min_gap };
    let (bordered, labels) = borders::follow(labels, &least, style, watch)?;
    let mut out = Contours::empty(f64::from(p.width), f64::from(p.height));
    out.contours = bordered.contours;
    (out.specks, out.pinholes) = (bordered.specks.len(), bordered.pinholes.len());
    let gone = bordered.specks.iter().chain(&bordered.pinholes).take(MOST_DROPPED);
    out.dropped = gone.map(|b| Curve::from_ring(&Ring(b.corners().to_vec()))).collect();
    let mut counts = vec![0usize; labels.palette.len()];
    labels.labels.iter().for_each(|l| counts[usize::from(*l)] += 1);
    let all = labels.labels.len().max(1) as f64;
    let swatch = |(k, c): (usize, &[f64; 3])| Swatch {
        colour: palette::rounded(*c),
        share: counts[k] as f64 / all,
        is_ground: labels.ground.is_some_and(|g| usize::from(g) == k),
    };
    out.palette = labels.palette.iter().enumerate().map(swatch).collect();
    Ok(out)
}
