//! Lines over an area: straight ones, honeycomb, and lines that follow the border.

use crate::model::{Kind, Lines};
use kachel_geom::{Mm, OffGrid, Point, Region, offset, spans_between};

/// Lines of a width over an area, so far apart, in a direction, one after the other to and fro. They lie on the same grid in
/// every layer, so that layers rest on each other.
pub(crate) fn straight(area: &Region, kind: Kind, width: f64, apart: f64, degrees: f64) -> Vec<Lines> {
    let (sin, cos) = degrees.to_radians().sin_cos();
    let at = |along: f64, off: f64| Point::<Mm>::new(along * cos - off * sin, along * sin + off * cos);
    let line = |off: f64, [a, b]: [f64; 2]| vec![at(a, off), at(b, off)];
    let rows = rows(area, apart, |p, q| vec![(turned(p, sin, cos), turned(q, sin, cos))]);
    to_and_fro(rows.into_iter().enumerate(), width).map(|(_, off, span)| open(kind, width, line(off, span))).collect()
}

/// Cells with six sides, as waves of which each second runs the other way round: where two of them meet, their lines lie beside each
/// other. `apart` is how far straight lines of the same density would lie apart.
pub(crate) fn honeycomb(area: &Region, kind: Kind, width: f64, apart: f64) -> Vec<Lines> {
    // In 3 sides along the rows a wave is 4 sides long, so its rows lie a third further apart.
    let every = apart * 4.0 / 3.0;
    let wave = Wave { rise: every - width };
    if wave.rise < width {
        return straight(area, kind, width, apart, 0.0);
    }
    let mut all = Vec::new();
    for is_odd in [false, true] {
        let rows = rows(area, every, |p, q| wave.pieces(p, q, is_odd));
        // Both sets of rows are made over the whole area: every second row of each is wanted.
        let wanted = rows.into_iter().enumerate().filter(|(_, row)| (row.number.rem_euclid(2) == 1) == is_odd);
        all.extend(
            to_and_fro(wanted, width).map(|(row, off, span)| (row, open(kind, width, wave.line(off, span, is_odd)))),
        );
    }
    all.sort_by_key(|(row, _)| *row);
    all.into_iter().map(|(_, line)| line).collect()
}

/// Lines along the border, so far apart.
pub(crate) fn concentric(area: &Region, kind: Kind, width: f64, apart: f64) -> Result<Vec<Lines>, OffGrid> {
    let mut all = Vec::new();
    let mut left = offset(area, -apart / 2.0)?;
    while !left.is_empty() {
        all.extend(left.rings_mm().into_iter().map(|r| Lines { kind, points: r.0, is_closed: true, width }));
        left = offset(&left, -apart)?;
    }
    Ok(all)
}

fn open(kind: Kind, width: f64, points: Vec<Point<Mm>>) -> Lines {
    Lines { kind, points, is_closed: false, width }
}

/// A wave of a honeycomb: level, up, level, down, each as long as the others.
struct Wave {
    /// How far it rises.
    rise: f64,
}

impl Wave {
    /// Length of a side along the row: level ones are twice as long as sloped ones.
    fn half_side(&self) -> f64 {
        self.rise / 3.0_f64.sqrt()
    }

    /// Where along the row the wave bends: between 0 and 1, 1 and 3, 3 and 4, 4 and 6 half sides it rises, is level, falls, is level.
    const BENDS: [f64; 4] = [0.0, 1.0, 3.0, 4.0];

    /// How high it lies at a place along the row, above the middle of the row.
    fn height(&self, along: f64, is_odd: bool) -> f64 {
        let at = (along / self.half_side()).rem_euclid(6.0);
        let share = if at < 1.0 {
            at
        } else if at < 3.0 {
            1.0
        } else if at < 4.0 {
            4.0 - at
        } else {
            0.0
        };
        (if is_odd { 0.5 - share } else { share - 0.5 }) * self.rise
    }

    /// The first bend after a place along the row.
    fn bend_after(&self, along: f64) -> f64 {
        let at = along / self.half_side();
        let round = (at / 6.0).floor() * 6.0;
        let next = Self::BENDS.iter().chain(&[6.0, 7.0]).map(|b| round + b).find(|b| *b > at + 1e-9);
        next.unwrap_or(round + 7.0) * self.half_side()
    }

    /// All bends between two places along the row.
    fn bends(&self, from: f64, to: f64) -> impl Iterator<Item = f64> {
        std::iter::successors(Some(self.bend_after(from)), |at| Some(self.bend_after(*at)))
            .take_while(move |at| *at < to)
    }

    /// An edge in pieces between bends, as it would lie if the wave were straight.
    fn pieces(&self, p: Point<Mm>, q: Point<Mm>, is_odd: bool) -> Vec<(Flat, Flat)> {
        let (from, to) = (p.x.min(q.x), p.x.max(q.x));
        let mut cuts: Vec<f64> = self.bends(from, to).collect();
        if p.x > q.x {
            cuts.reverse();
        }
        let y = |x: f64| p.y + (x - p.x) / (q.x - p.x) * (q.y - p.y);
        let inner = cuts.into_iter().map(|x| (x, y(x)));
        let all: Vec<(f64, f64)> = std::iter::once((p.x, p.y)).chain(inner).chain([(q.x, q.y)]).collect();
        let flat = |(x, y): (f64, f64)| (x, y - self.height(x, is_odd));
        all.windows(2).map(|w| (flat(w[0]), flat(w[1]))).collect()
    }

    /// The wave along a row.
    fn line(&self, off: f64, [a, b]: [f64; 2], is_odd: bool) -> Vec<Point<Mm>> {
        let (from, to) = (a.min(b), a.max(b));
        let mut along: Vec<f64> = std::iter::once(from).chain(self.bends(from, to)).chain([to]).collect();
        if a > b {
            along.reverse();
        }
        along.into_iter().map(|x| Point::new(x, off + self.height(x, is_odd))).collect()
    }
}

/// A place along rows, and off them.
type Flat = (f64, f64);

fn turned(p: Point<Mm>, sin: f64, cos: f64) -> Flat {
    (p.x * cos + p.y * sin, p.y * cos - p.x * sin)
}

/// A line right across.
struct Row {
    /// Which it is of all in the plane.
    number: i64,
    /// How far it lies off the origin, mm.
    off: f64,
    /// From where to where along it the area reaches, mm.
    spans: Vec<[f64; 2]>,
}

/// The spans of rows, one after the other, each second row backwards; what is shorter than a quarter of a line is left out.
fn to_and_fro(rows: impl Iterator<Item = (usize, Row)>, width: f64) -> impl Iterator<Item = (usize, f64, [f64; 2])> {
    rows.flat_map(move |(k, mut row)| {
        row.spans.retain(|s| s[1] - s[0] > width / 4.0);
        if k % 2 == 1 {
            row.spans.reverse();
            row.spans.iter_mut().for_each(|s| s.reverse());
        }
        row.spans.into_iter().map(move |s| (k, row.off, s))
    })
}

/// All rows over an area; each edge is looked at once. `flat` says how an edge lies to the rows, in pieces.
fn rows(area: &Region, apart: f64, flat: impl Fn(Point<Mm>, Point<Mm>) -> Vec<(Flat, Flat)>) -> Vec<Row> {
    let rings = area.rings_mm();
    let edges: Vec<(Flat, Flat)> = rings.iter().flat_map(|r| r.edges()).flat_map(|(a, b)| flat(a, b)).collect();
    let across = || edges.iter().map(|(a, _)| a.1);
    let (low, high) = across().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    let first = (low / apart - 0.5).ceil();
    let count = (high / apart - 0.5).ceil() - first;
    if !(count > 0.0 && count < MOST_ROWS) {
        return vec![];
    }
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "in range: see above")]
    let mut crossings: Vec<Vec<(f64, i32)>> = vec![vec![]; count as usize];
    for (a, b) in edges {
        let (from, to) = if a.1 < b.1 { (a.1, b.1) } else { (b.1, a.1) };
        // Rows at the lower end count, those at the upper end belong to the next edge.
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "held in the range")]
        let row = |v: f64| ((v / apart - 0.5).ceil() - first).clamp(0.0, count) as usize;
        let first_row = row(from);
        for (k, row) in crossings[first_row..row(to).max(first_row)].iter_mut().enumerate() {
            let k = k + first_row;
            let off = (first + k as f64 + 0.5) * apart;
            let along = a.0 + (off - a.1) / (b.1 - a.1) * (b.0 - a.0);
            row.push((along, if b.1 > a.1 { 1 } else { -1 }));
        }
    }
    #[expect(clippy::cast_possible_truncation, reason = "on the grid")]
    let row = |(k, row)| Row {
        number: first as i64 + k as i64,
        off: (first + k as f64 + 0.5) * apart,
        spans: spans_between(row).into_iter().map(|(a, b)| [a, b]).collect(),
    };
    crossings.into_iter().enumerate().map(row).collect()
}

/// Rows over an area, at most: two metres of lines of 0.02 mm.
const MOST_ROWS: f64 = 100_000.0;
