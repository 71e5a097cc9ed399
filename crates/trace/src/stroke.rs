use crate::contours::{Contour, Contours, give_holes};
use crate::nest;
use crate::shape::{self, Style};
use kachel_geom::{Curve, Edges, Point, Px, Ring, Segment, Space, Stopped, Watch, normalise, simplify};
use kurbo::{BezPath, PathEl, Stroke, StrokeOpts};

/// How wide pen lines become.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum PenWidth {
    /// Each as wide as it was drawn.
    Drawn,
    /// All of them this wide, pixels.
    Pixels(f64),
}

/// Flatness of the outlines of pen lines by their width: a line of 2 mm is true to 4 um, however coarse the picture.
const FLATNESS_BY_WIDTH: f64 = 1.0 / 500.0;

/// Steps of the fitting across the thinnest line.
const STEPS_BY_WIDTH: f64 = 32.0;

/// The contours with the pen lines given a width: round ends, round joins, joined where they overlap.
pub fn inked(c: &Contours, width: PenWidth, watch: &Watch) -> Result<Contours, Stopped> {
    if c.lines.is_empty() {
        return Ok(c.clone());
    }
    let of = |line: &crate::PenLine| match width {
        PenWidth::Drawn => line.width,
        PenWidth::Pixels(w) => w,
    };
    let thinnest = c.lines.iter().map(of).fold(f64::INFINITY, f64::min);
    let tolerance = (thinnest * FLATNESS_BY_WIDTH).clamp(1e-3, 0.02);
    let mut rings: Vec<Ring<Px>> = Vec::new();
    for (i, line) in c.lines.iter().enumerate() {
        watch.step(i, c.lines.len())?;
        let style = Stroke::new(of(line).max(0.05)).with_caps(kurbo::Cap::Round).with_join(kurbo::Join::Round);
        let area = kurbo::stroke(path(&line.curve), &style, &StrokeOpts::default(), tolerance);
        let mut ring: Vec<Point<Px>> = Vec::new();
        kurbo::flatten(area, tolerance, |el| match el {
            PathEl::MoveTo(p) => {
                rings.push(Ring(std::mem::take(&mut ring)));
                ring.push(Point::new(p.x, p.y));
            }
            PathEl::LineTo(p) => ring.push(Point::new(p.x, p.y)),
            _ => {}
        });
        rings.push(Ring(ring));
    }
    rings.retain(|r| r.0.len() >= 3);
    watch.check()?;
    let mut contours: Vec<Contour> = nest::nest(normalise(&rings, false), watch)?;
    // The fitting knows edges of pictures: a line's round end has to be many steps long there.
    let finer = (STEPS_BY_WIDTH / thinnest.max(0.05)).max(1.0);
    let style = Style { deviation: tolerance * finer, bend: 0.6, softness: 0.2, grain: Some(0.0) };
    let times = |p: Point<Px>, k: f64| Point::new(p.x * k, p.y * k);
    for contour in &mut contours {
        watch.check()?;
        let large = Ring(contour.ring.0.iter().map(|p| times(*p, finer)).collect());
        contour.set_curve(shape::closed(&densified(&large), &style).map(|p| times(p, 1.0 / finer)));
    }
    give_holes(&mut contours);
    Ok(Contours { contours, ..c.clone() })
}

/// Steps of the fitting that the deviation is long.
const STEPS_BY_DEVIATION: f64 = 0.3;
/// Most steps along a line that is fitted; beyond that the deviation is taken more coarsely.
const MOST_STEPS: f64 = 60_000.0;

/// A line of straight pieces as curves: as few as stay within `deviation` of its points. What turns by more than
/// 0.6 radians, or lies between straight pieces and turns by 15 degrees, stays a corner. A closed line ends where it
/// starts. The points of a `shaky` line are a hand's: what they shake comes on top of the deviation. Otherwise the
/// deviation holds: where no curve keeps it, straight pieces do.
pub fn refit<S: Space>(points: &[Point<S>], is_closed: bool, shaky: bool, deviation: f64) -> Curve<S> {
    let line = Ring(points.to_vec());
    let length: f64 = line.perimeter();
    if points.len() < 2 || deviation <= 0.0 || length <= 0.0 {
        return if is_closed { Curve::from_ring(&line) } else { polyline(points) };
    }
    let finer = (STEPS_BY_DEVIATION / deviation).min(MOST_STEPS / length);
    // Half for the fitting, half for what it takes as straight or as a corner.
    let style = Style { deviation: deviation * finer / 2.0, bend: 0.6, softness: 0.2, grain: shaky.then_some(0.0) };
    let large: Vec<Point<Px>> = points.iter().map(|p| Point::new(p.x * finer, p.y * finer)).collect();
    let fitted = if is_closed {
        shape::closed(&densified(&Ring(large)), &style)
    } else {
        let last = large.last().copied();
        // An open line is densified as a ring without its closing edge.
        let mut dense: Vec<kurbo::Point> = Vec::new();
        for pair in large.windows(2) {
            let piece = densified(&Ring(pair.to_vec())).0;
            dense.extend(piece[..piece.len() / 2].iter().map(|p| kurbo::Point::new(p.x, p.y)));
        }
        dense.extend(last.map(|p| kurbo::Point::new(p.x, p.y)));
        shape::open(&dense, &style)
    };
    let fitted = fitted.map(|p| Point::new(p.x / finer, p.y / finer));
    if !shaky && is_closed && farthest(&line, &fitted, deviation) > deviation {
        return Curve::from_ring(&simplify(&line, deviation));
    }
    fitted
}

/// Largest distance of the line's points from the curve and of the curve from the line.
fn farthest<S: Space>(line: &Ring<S>, curve: &Curve<S>, deviation: f64) -> f64 {
    let flat = curve.ring(deviation / 20.0);
    let (mine, theirs) = (Edges::of([line]), Edges::of([&flat]));
    let from = |r: &Ring<S>, to: &Edges| r.0.iter().map(|p| to.distance(*p)).fold(0.0, f64::max);
    from(line, &theirs).max(from(&flat, &mine))
}

fn polyline<S: Space>(points: &[Point<S>]) -> Curve<S> {
    let start = points.first().copied().unwrap_or(Point::new(0.0, 0.0));
    Curve { start, segments: points.iter().skip(1).map(|p| Segment::Line(*p)).collect() }
}

/// Long edges cut into steps of about a pixel, as a followed contour has.
pub(crate) fn densified(ring: &Ring<Px>) -> Ring<Px> {
    let mut out = Vec::with_capacity(ring.0.len());
    for (a, b) in ring.edges() {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "pixels of a picture")]
        let steps = a.distance(b).ceil().clamp(1.0, 400.0) as u32;
        for k in 0..steps {
            let t = f64::from(k) / f64::from(steps);
            out.push(Point::new(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t));
        }
    }
    Ring(out)
}

fn path(c: &Curve<Px>) -> BezPath {
    let at = |p: Point<Px>| kurbo::Point::new(p.x, p.y);
    let mut out = BezPath::new();
    out.move_to(at(c.start));
    for s in &c.segments {
        match s {
            Segment::Line(p) => out.line_to(at(*p)),
            Segment::Cubic(a, b, p) => out.curve_to(at(*a), at(*b), at(*p)),
        }
    }
    if c.is_closed() {
        out.close_path();
    }
    out
}
