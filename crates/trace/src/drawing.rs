use crate::combine::{self, Piece};
use crate::shape::{self, Style};
use crate::stroke::densified;
use crate::{Contour, Contours, Ink, PenLine, Swatch, TraceError, TraceSettings, cut, nest};
use kachel_artwork::{Area, Drawing};
use kachel_geom::{BoolOp, Bounds, Curve, Point, Px, Ring, Watch};

/// Side that a drawing is fitted at, so that deviations mean the same whatever its units.
const SIDE: f64 = 2048.0;
/// Deviation at that size: half of what its own curves were flattened to.
const DEVIATION: f64 = 0.06;
/// Colours nearer than this (Euclidean, of 255) are one.
const SAME_COLOUR: f64 = 10.0;

pub(crate) fn trace(d: &Drawing, s: &TraceSettings, watch: &Watch) -> Result<Contours, TraceError> {
    let mut out = Contours::empty(d.width, d.height);
    if s.ink == Ink::Pen {
        out.lines = lines(d);
        return if out.lines.is_empty() { Err(TraceError::NoLines) } else { Ok(out) };
    }
    if d.areas.is_empty() {
        return Err(TraceError::NothingPainted { lines: d.unpainted.len() });
    }
    if s.ink == Ink::Colours {
        colours(d, s, &mut out, watch)?;
        return Ok(out);
    }
    let cut = cut::cut_drawing(s)?;
    (out.cut, out.cut_is_automatic) = (cut.at, cut.automatic);
    let is_ink = |a: &Area| if cut.by_alpha { !cut.light_is_ink } else { (a.grey > cut.at) == cut.light_is_ink };
    let ink = combine::combine(d, cut.light_is_ink, is_ink, watch)?;
    out.contours = contours(ink, s, &mut out, watch)?;
    Ok(out)
}

/// The drawing's unpainted lines, or where it has none the middles of its strokes.
fn lines(d: &Drawing) -> Vec<PenLine> {
    let hair = d.width.max(d.height) / 200.0;
    if d.unpainted.is_empty() {
        return d.strokes.iter().map(|(curve, width)| PenLine { curve: curve.clone(), width: *width }).collect();
    }
    d.unpainted.iter().map(|curve| PenLine { curve: curve.clone(), width: hair }).collect()
}

/// Nested contours of what is seen of one kind of paint. Pieces that nothing cut keep the drawing's own curves.
fn contours(
    pieces: Vec<Piece>,
    s: &TraceSettings,
    out: &mut Contours,
    watch: &Watch,
) -> Result<Vec<Contour>, TraceError> {
    let mut own: Vec<Own> = Vec::new();
    let mut rings: Vec<Ring<Px>> = Vec::new();
    for piece in pieces {
        if let Some(curves) = piece.curves {
            own.extend(curves.into_iter().filter_map(|c| Own::new(c, piece.group.clone())));
        }
        rings.extend(piece.rings);
    }
    let before = rings.len();
    rings.retain(|r| r.area().abs() >= s.min_area.max(1e-9) * (out.width.max(out.height) / SIDE).powi(2).min(1.0));
    out.specks += before - rings.len();
    let mut found = nest::nest(rings, watch)?;
    let scale = SIDE / out.width.max(out.height).max(1e-9);
    let style = Style {
        deviation: DEVIATION.max(s.deviation.min(1.0)),
        bend: s.bend.to_radians(),
        softness: 0.2,
        grain: Some(0.0),
    };
    own.sort_by(|a, b| a.bounds.min.x.total_cmp(&b.bounds.min.x));
    let total = found.len();
    for (i, c) in found.iter_mut().enumerate() {
        watch.step(i, total)?;
        // The curve whose line this is, run the right way round.
        let mine = Own::of(&own, &c.ring);
        c.group = mine.and_then(|m| m.group.clone());
        if s.deviation <= 0.0 {
            continue;
        }
        if let Some(Own { curve, area, .. }) = mine {
            let is_turned = area * c.ring.area() < 0.0;
            c.set_curve(if is_turned { curve.reversed() } else { curve.clone() });
            continue;
        }
        let large = Ring(c.ring.0.iter().map(|p| Point::new(p.x * scale, p.y * scale)).collect());
        let curve = shape::closed(&densified(&large), &style);
        c.set_curve(curve.map(|p| Point::new(p.x / scale, p.y / scale)));
    }
    Ok(found)
}

/// A curve of the drawing's own, and what it is known by.
struct Own {
    bounds: Bounds<Px>,
    area: f64,
    curve: Curve<Px>,
    group: Option<String>,
}

impl Own {
    fn new(curve: Curve<Px>, group: Option<String>) -> Option<Self> {
        let ring = curve.ring(crate::FLATNESS);
        Some(Self { bounds: ring.bounds()?, area: ring.area(), curve, group })
    }

    /// The one whose line the ring is. `all` are sorted by their left ends, so that few of thousands are looked at.
    fn of<'a>(all: &'a [Self], ring: &Ring<Px>) -> Option<&'a Self> {
        let (b, area) = (ring.bounds()?, ring.area().abs());
        let off = b.width().max(b.height()).max(1e-9) * 1e-3;
        let near = |u: f64, v: f64| (u - v).abs() <= off;
        let first = all.partition_point(|o| o.bounds.min.x < b.min.x - off);
        all[first..].iter().take_while(|o| o.bounds.min.x <= b.min.x + off).find(|o| {
            let a = &o.bounds;
            near(a.min.y, b.min.y)
                && near(a.max.x, b.max.x)
                && near(a.max.y, b.max.y)
                && (o.area.abs() - area).abs() <= area * 2e-3
        })
    }
}

/// Each colour as it is seen, later paint over earlier.
fn colours(d: &Drawing, s: &TraceSettings, out: &mut Contours, watch: &Watch) -> Result<(), TraceError> {
    let mut palette: Vec<[u8; 3]> = Vec::new();
    let far = |a: [u8; 3], b: [u8; 3]| (0..3).map(|k| (f64::from(a[k]) - f64::from(b[k])).powi(2)).sum::<f64>().sqrt();
    let merged = |c: [u8; 3]| s.colours.merged.iter().find(|m| far(m[0], c) < SAME_COLOUR).map_or(c, |m| m[1]);
    for a in &d.areas {
        let c = merged(a.colour);
        if !palette.iter().any(|p| far(*p, c) < SAME_COLOUR) {
            palette.push(c);
        }
    }
    let most = usize::from(s.colours.count.unwrap_or(crate::MAX_COLOURS as u8)).clamp(1, crate::MAX_COLOURS);
    while palette.len() > most {
        // The later of the two nearest goes.
        let pairs = (0..palette.len()).flat_map(|j| (0..j).map(move |i| (i, j)));
        let Some((_, j)) =
            pairs.min_by(|a, b| far(palette[a.0], palette[a.1]).total_cmp(&far(palette[b.0], palette[b.1])))
        else {
            break;
        };
        palette.remove(j);
    }
    let nearest =
        |c: [u8; 3]| (0..palette.len()).min_by(|a, b| far(palette[*a], c).total_cmp(&far(palette[*b], c))).unwrap_or(0);
    let labels: Vec<usize> = d.areas.iter().map(|a| nearest(merged(a.colour))).collect();
    // The lowest area is the ground where it fills the page.
    let fills = |a: &Area| a.rings.iter().map(Ring::area).sum::<f64>().abs() >= 0.98 * d.width * d.height;
    let ground = match (s.colours.with_ground, s.colours.ground) {
        (true, _) => None,
        (false, Some(c)) => Some(nearest(c)),
        (false, None) => d.areas.first().filter(|a| fills(a)).map(|_| labels[0]),
    };
    let page = d.width * d.height;
    for (k, colour) in palette.iter().enumerate() {
        let op = |label: usize| if label == k { BoolOp::Join } else { BoolOp::TakeAway };
        let all: Vec<(&Area, BoolOp)> = d.areas.iter().zip(&labels).map(|(a, label)| (a, op(*label))).collect();
        let seen = combine::paint(vec![], &all, watch)?;
        let share = seen.iter().flat_map(|p| &p.rings).map(Ring::area).sum::<f64>().abs() / page.max(1e-9);
        out.palette.push(Swatch { colour: *colour, share, is_ground: ground == Some(k) });
        if ground == Some(k) {
            continue;
        }
        let found = contours(seen, s, out, watch)?;
        // Gaps of one colour may be filled by another: only ink becomes a patch, with its gaps as holes.
        let mut places = vec![None; found.len()];
        let mut kept: Vec<Contour> = Vec::new();
        for (i, c) in found.iter().enumerate() {
            if c.is_ink {
                places[i] = Some(kept.len());
                let mut c = c.clone();
                c.parent = None;
                #[expect(clippy::cast_possible_truncation, reason = "at most 12")]
                let label = k as u8;
                c.colour = Some(label);
                kept.push(c);
            } else if let Some(p) = c.parent.and_then(|p| places[p]) {
                kept[p].holes.push(c.curve.clone());
            }
        }
        out.contours.extend(kept);
    }
    nest_colours(&mut out.contours, watch)
}

/// Parents by containment, larger contours first.
fn nest_colours(contours: &mut [Contour], watch: &Watch) -> Result<(), TraceError> {
    contours.sort_by(|a, b| b.ring.area().abs().total_cmp(&a.ring.area().abs()));
    for i in 0..contours.len() {
        watch.check().map_err(TraceError::from)?;
        let holes: Vec<Ring<Px>> = contours[i].holes.iter().map(|h| h.ring(crate::FLATNESS)).collect();
        let own: Vec<&Ring<Px>> = std::iter::once(&contours[i].ring).chain(&holes).collect();
        let probe = kachel_geom::interior_point(&own);
        contours[i].parent = probe.and_then(|p| (0..i).rev().find(|j| contours[*j].ring.contains(p)));
    }
    Ok(())
}
