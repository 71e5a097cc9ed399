//! Finds a sheet of paper or a card in a photo: bright, with four straight sides, on something darker.

use crate::{Doubt, Picture};
use kachel_geom::{Point, Px};
use std::collections::VecDeque;

/// Longest side, pixels, of the small picture in which the sheet is looked for first.
const SMALL: usize = 400;
/// A sheet fills at least this share of its four sides' area: corners may be bent or rounded.
const LEAST_FILL: f64 = 0.94;
/// Share of the picture that a sheet covers, least and most.
const COVER: (f64, f64) = (0.06, 0.95);
/// A sheet is so much brighter than what it lies on.
const LEAST_CONTRAST: f64 = 25.0;
/// Places along a side at which its border is measured.
const PLACES: usize = 90;
/// Share of them that have to lie on one line, within [`ON_LINE_PX`].
const LEAST_ON_LINE: f64 = 0.5;
const ON_LINE_PX: f64 = 1.5;

/// A place of the picture or of its blocks, by index.
type At = [f64; 2];

/// Corners of the sheet, clockwise from the top left one, in pixels; `None` where there is none, where one of its corners lies
/// outside the picture, and in drawn art.
pub fn find_sheet(p: &Picture) -> Option<[Point<Px>; 4]> {
    Some(find_in(p, &Small::of_photo(p)?)?.map(Point::from))
}

fn find_in(p: &Picture, small: &Small) -> Option<[At; 4]> {
    let rough = small.sheet()?;
    let at = |[x, y]: At| [x * small.step, y * small.step];
    refined(p, rough.map(at), small.step)
}

/// Drawn art has pixels that equal the one beside them in this share of all places; a camera's noise leaves few.
const DRAWN_SHARE: f64 = 0.6;

fn is_drawn(p: &Picture) -> bool {
    let rows = p.grey.chunks(p.width.max(1) as usize);
    let (mut equal, mut all) = (0u64, 0u64);
    for pair in rows.flat_map(|row| row.windows(2)) {
        equal += u64::from(pair[0] == pair[1]);
        all += 1;
    }
    equal as f64 >= DRAWN_SHARE * all as f64
}

/// The picture by blocks.
struct Small {
    width: usize,
    height: usize,
    grey: Vec<f64>,
    /// Pixels of the picture along each side of a block.
    step: f64,
}

impl Small {
    /// Drawn art has no sheets.
    fn of_photo(p: &Picture) -> Option<Self> {
        (p.alpha.is_none() && !is_drawn(p)).then(|| Self::of(p))
    }

    fn of(p: &Picture) -> Self {
        let (w, h) = (p.width as usize, p.height as usize);
        let step = w.max(h).div_ceil(SMALL).max(1);
        let (width, height) = (w / step, h / step);
        let mean = |i: usize| {
            let (bx, by) = (i % width * step, i / width * step);
            let sum: u32 = (0..step * step).map(|k| u32::from(p.grey[(by + k / step) * w + bx + k % step])).sum();
            f64::from(sum) / (step * step) as f64
        };
        Self { width, height, grey: (0..width * height).map(mean).collect(), step: step as f64 }
    }

    /// The grey at a place of the picture.
    fn at(&self, [x, y]: At) -> f64 {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "held in the picture")]
        let block = |v: f64, n: usize| ((v / self.step).max(0.0) as usize).min(n - 1);
        self.grey[block(y, self.height) * self.width + block(x, self.width)]
    }

    /// The grey between the two classes of blocks (Otsu 1979).
    fn cut(&self) -> Option<f64> {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "means of bytes")]
        let bytes: Vec<u8> = self.grey.iter().map(|g| g.round() as u8).collect();
        let mut histogram = [0.0f64; 256];
        bytes.iter().for_each(|b| histogram[usize::from(*b)] += 1.0);
        let (all, sum) = (bytes.len() as f64, histogram.iter().enumerate().map(|(k, n)| k as f64 * n).sum::<f64>());
        let (mut n0, mut s0) = (0.0, 0.0);
        let mut best: Option<(f64, f64)> = None;
        for (k, n) in histogram.iter().enumerate() {
            (n0, s0) = (n0 + n, s0 + n * k as f64);
            let n1 = all - n0;
            if n0 > 0.0 && n1 > 0.0 {
                let (low, high) = (s0 / n0, (sum - s0) / n1);
                let between = n0 * n1 * (high - low).powi(2);
                if high - low > LEAST_CONTRAST && best.is_none_or(|b| between > b.0) {
                    best = Some((between, f64::midpoint(low, high)));
                }
            }
        }
        best.map(|b| b.1)
    }

    /// The bright pieces, each by the middles of its blocks.
    fn pieces(&self) -> Vec<Piece> {
        let Some(cut) = self.cut() else { return vec![] };
        let (w, h) = (self.width, self.height);
        let mut seen = vec![false; w * h];
        let mut all = Vec::new();
        for start in 0..w * h {
            if seen[start] || self.grey[start] < cut {
                continue;
            }
            seen[start] = true;
            let mut open = VecDeque::from([start]);
            let mut piece = Piece::default();
            while let Some(k) = open.pop_front() {
                let (x, y) = (k % w, k / w);
                let at = [x == 0, x + 1 == w, y == 0, y + 1 == h];
                (0..4).for_each(|side| piece.on_border[side] += usize::from(at[side]));
                piece.middles.push([x as f64 + 0.5, y as f64 + 0.5]);
                let beside =
                    [(x > 0, k.wrapping_sub(1)), (x + 1 < w, k + 1), (y > 0, k.wrapping_sub(w)), (y + 1 < h, k + w)];
                for (_, n) in beside.into_iter().filter(|(is_in, _)| *is_in) {
                    if !seen[n] && self.grey[n] >= cut {
                        seen[n] = true;
                        open.push_back(n);
                    }
                }
            }
            if piece.middles.len() >= FEWEST_BLOCKS {
                all.push(piece);
            }
        }
        all
    }

    /// The corners of the largest bright piece that touches no border, if it is a sheet.
    fn sheet(&self) -> Option<[At; 4]> {
        let whole = self.pieces().into_iter().filter(|p| p.on_border == [0; 4]);
        let hulls = whole.map(|p| hull(p.middles)).map(|hull| (area(&hull), hull));
        let (covered, hull) = hulls.max_by(|a, b| a.0.total_cmp(&b.0))?;
        let share = covered / (self.width * self.height) as f64;
        if !(COVER.0..=COVER.1).contains(&share) {
            return None;
        }
        let corners: [At; 4] = few_sides(hull, 4)?.try_into().ok()?;
        // The blocks' middles lie half a block inside.
        (covered / area(&corners) >= LEAST_FILL).then(|| from_top_left(corners))
    }

    /// Whether the largest bright piece is a sheet that runs out of the picture: it lies on one or two of its borders, and what
    /// is seen of it besides are straight sides.
    fn sheet_runs_out(&self) -> bool {
        let Some(piece) = self.pieces().into_iter().max_by_key(|p| p.middles.len()) else { return false };
        let (w, h) = (self.width as f64, self.height as f64);
        let long = [h, h, w, w];
        let on: usize = piece.on_border.iter().filter(|n| **n > 0).count();
        let runs = piece.on_border.iter().zip(long).any(|(n, side)| *n as f64 > 0.05 * side);
        let along: usize = piece.on_border.iter().sum();
        if !(1..=2).contains(&on) || !runs || along as f64 > MOST_ON_BORDER * 2.0 * (w + h) {
            return false;
        }
        let (bright, hull) = (piece.middles.len() as f64, hull(piece.middles));
        let covered = area(&hull);
        if covered < COVER.0 * w * h || bright < LEAST_BRIGHT * covered {
            return false;
        }
        // Four sides, and those along the borders.
        let Some(ring) = few_sides(hull, 4 + on) else { return false };
        let is_on_border = |p: At, q: At| {
            [(p[0], q[0], 0.5), (p[0], q[0], w - 0.5), (p[1], q[1], 0.5), (p[1], q[1], h - 0.5)]
                .iter()
                .any(|(a, b, at)| (a - at).abs() < 1.5 && (b - at).abs() < 1.5)
        };
        let sides = (0..ring.len()).map(|k| (ring[k], ring[(k + 1) % ring.len()]));
        let seen = sides.filter(|(p, q)| !is_on_border(*p, *q) && (q[0] - p[0]).hypot(q[1] - p[1]) > 0.2 * w.min(h));
        covered / area(&ring) >= LEAST_FILL && seen.count() >= 2
    }
}

/// A connected bright piece of the small picture.
#[derive(Default)]
struct Piece {
    middles: Vec<At>,
    /// Blocks on the left, right, upper and lower border of the picture.
    on_border: [usize; 4],
}

/// Smaller pieces are no sheets.
const FEWEST_BLOCKS: usize = 40;
/// A sheet that runs out lies on no more than this share of the picture's border: more of it is a ground.
const MOST_ON_BORDER: f64 = 0.4;
/// Share of a sheet that is bright at least, whatever is drawn on it.
const LEAST_BRIGHT: f64 = 0.5;

/// What lies on a corner is so much darker than the sheet beside it.
const DARKER: f64 = 0.75;

/// What is wrong with the sheet in a photo, if there is one: it runs out of the picture, or a corner of it is hidden.
pub(crate) fn sheet_doubt(p: &Picture) -> Option<Doubt> {
    let small = Small::of_photo(p)?;
    if let Some(corners) = find_in(p, &small) {
        // A corner is darker than the sheet along the sides beside it where something lies on it. Light alone changes little by
        // little.
        let toward = |a: At, b: At, t: f64| [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
        let is_hidden = |k: &usize| {
            let [before, here, after, across] = [3, 0, 1, 2].map(|n| corners[(k + n) % 4]);
            let inside = |side: At| small.at(toward(toward(here, side, 0.22), across, 0.04));
            let corner = [0.015, 0.025, 0.035].map(|t| small.at(toward(here, across, t)));
            let beside = inside(before).min(inside(after));
            corner.iter().filter(|g| **g < DARKER * beside).count() >= 2
        };
        return (0..4).any(|k| is_hidden(&k)).then_some(Doubt::HiddenCorner);
    }
    small.sheet_runs_out().then_some(Doubt::SheetRunsOut)
}

/// Twice-signed area by half: positive clockwise on the screen, y down.
fn area(ring: &[At]) -> f64 {
    let n = ring.len();
    (0..n).map(|i| ring[i][0] * ring[(i + 1) % n][1] - ring[(i + 1) % n][0] * ring[i][1]).sum::<f64>() / 2.0
}

fn cross(o: At, a: At, b: At) -> f64 {
    (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0])
}

/// The convex hull (A. M. Andrew, 'Another efficient algorithm for convex hulls in two dimensions', 1979), clockwise on the
/// screen.
fn hull(mut points: Vec<At>) -> Vec<At> {
    points.sort_by(|a, b| a[0].total_cmp(&b[0]).then(a[1].total_cmp(&b[1])));
    let half = |points: &mut dyn Iterator<Item = At>| {
        let mut chain: Vec<At> = Vec::new();
        for p in points {
            while chain.len() > 1 && cross(chain[chain.len() - 2], chain[chain.len() - 1], p) <= 0.0 {
                chain.pop();
            }
            chain.push(p);
        }
        chain.pop();
        chain
    };
    let mut all = half(&mut points.iter().copied());
    all.extend(half(&mut points.iter().rev().copied()));
    all
}

/// So many sides round a convex ring: sides go one by one, their neighbours being drawn out until they meet, each time the one
/// that adds the least area.
fn few_sides(mut ring: Vec<At>, count: usize) -> Option<Vec<At>> {
    while ring.len() > count {
        let n = ring.len();
        let without = |i: usize| {
            let [a, b, c, d] = [0, 1, 2, 3].map(|k| ring[(i + k) % n]);
            let at = meeting([a, b], [d, c])?;
            let added = cross(b, at, c).abs() / 2.0;
            // Sides that run apart never meet on the outside.
            (cross(b, c, at) < 0.0).then_some((added, i, at))
        };
        let (_, i, at) = (0..n).filter_map(without).min_by(|a, b| a.0.total_cmp(&b.0))?;
        ring[(i + 1) % n] = at;
        ring.remove((i + 2) % n);
    }
    Some(ring)
}

/// Where two lines meet.
fn meeting([a, b]: [At; 2], [c, d]: [At; 2]) -> Option<At> {
    let (u, v) = ([b[0] - a[0], b[1] - a[1]], [d[0] - c[0], d[1] - c[1]]);
    let det = u[0] * v[1] - u[1] * v[0];
    if det.abs() < 1e-9 {
        return None;
    }
    let t = ((c[0] - a[0]) * v[1] - (c[1] - a[1]) * v[0]) / det;
    Some([a[0] + t * u[0], a[1] + t * u[1]])
}

/// The same corners, beginning with the one nearest to the picture's top left.
fn from_top_left(mut corners: [At; 4]) -> [At; 4] {
    let first = (0..4).min_by(|a, b| {
        let s = |k: usize| corners[k][0] + corners[k][1];
        s(*a).total_cmp(&s(*b))
    });
    corners.rotate_left(first.unwrap_or(0));
    corners
}

/// Puts each side where the picture is steepest along it, to a fraction of a pixel, and lets the sides meet.
fn refined(p: &Picture, rough: [At; 4], step: f64) -> Option<[At; 4]> {
    let (w, h) = (f64::from(p.width), f64::from(p.height));
    let grey = |[x, y]: At| {
        let (x, y) = ((x - 0.5).clamp(0.0, w - 1.001), (y - 0.5).clamp(0.0, h - 1.001));
        let (i, j) = (x.floor(), y.floor());
        let (fx, fy) = (x - i, y - j);
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to the picture")]
        let at = |dx: usize, dy: usize| {
            let (x, y) = ((i as usize + dx).min(p.width as usize - 1), (j as usize + dy).min(p.height as usize - 1));
            f64::from(p.grey[y * p.width as usize + x])
        };
        (at(0, 0) * (1.0 - fx) + at(1, 0) * fx) * (1.0 - fy) + (at(0, 1) * (1.0 - fx) + at(1, 1) * fx) * fy
    };
    let side = |k: usize| {
        let (a, b) = (rough[k], rough[(k + 1) % 4]);
        let long = (b[0] - a[0]).hypot(b[1] - a[1]);
        // Outwards: to the left of a clockwise side.
        let out = [(b[1] - a[1]) / long, -(b[0] - a[0]) / long];
        let reach = 2.5 * step + 4.0;
        let found = (0..PLACES).filter_map(|i| {
            let t = 0.06 + 0.88 * i as f64 / (PLACES - 1) as f64;
            let at = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
            let along = |d: f64| [at[0] + d * out[0], at[1] + d * out[1]];
            // How much it darkens from here outwards, over two pixels.
            let falls = |d: f64| grey(along(d - 1.0)) - grey(along(d + 1.0));
            let count = (2.0 * reach / 0.5).ceil();
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "some dozens")]
            let all: Vec<(f64, f64)> =
                (0..=count as usize).map(|n| -reach + 0.5 * n as f64).map(|d| (d, falls(d))).collect();
            let k = (1..all.len() - 1).max_by(|i, j| all[*i].1.total_cmp(&all[*j].1))?;
            let [l, m, r] = [all[k - 1].1, all[k].1, all[k + 1].1];
            let bend = l - 2.0 * m + r;
            let off = if bend < 0.0 { (0.5 * (l - r) / bend).clamp(-1.0, 1.0) * 0.5 } else { 0.0 };
            (m > LEAST_CONTRAST / 2.0).then(|| along(all[k].0 + off))
        });
        line_through(&found.collect::<Vec<_>>())
    };
    let sides = [side(0)?, side(1)?, side(2)?, side(3)?];
    let corner = |k: usize| meeting(sides[(k + 3) % 4], sides[k]);
    let corners = [corner(0)?, corner(1)?, corner(2)?, corner(3)?];
    let inside = corners.iter().all(|c| (0.0..=w).contains(&c[0]) && (0.0..=h).contains(&c[1]));
    let is_near = corners.iter().zip(rough).all(|(c, r)| (c[0] - r[0]).hypot(c[1] - r[1]) < 6.0 * step + 8.0);
    (inside && is_near).then_some(corners)
}

/// The line through most of the points: least squares, points off the line counting ever less.
fn line_through(points: &[At]) -> Option<[At; 2]> {
    if points.len() < PLACES / 3 {
        return None;
    }
    let mut weights = vec![1.0; points.len()];
    let mut line = [[0.0; 2]; 2];
    for round in 0..12 {
        let total: f64 = weights.iter().sum();
        let mean = [0, 1].map(|k| points.iter().zip(&weights).map(|(p, w)| w * p[k]).sum::<f64>() / total);
        let moment = |i: usize, j: usize| {
            points.iter().zip(&weights).map(|(p, w)| w * (p[i] - mean[i]) * (p[j] - mean[j])).sum::<f64>()
        };
        let angle = 0.5 * (2.0 * moment(0, 1)).atan2(moment(0, 0) - moment(1, 1));
        let along = [angle.cos(), angle.sin()];
        line = [mean, [mean[0] + along[0], mean[1] + along[1]]];
        // Tukey's weights, with a scale that closes in.
        let scale = (24.0 * 0.7f64.powi(round)).max(ON_LINE_PX * 1.5);
        for (w, p) in weights.iter_mut().zip(points) {
            let off = (cross(line[0], line[1], *p) / scale).abs();
            *w = if off < 1.0 { (1.0 - off * off).powi(2) } else { 1e-9 };
        }
    }
    let on = points.iter().filter(|p| cross(line[0], line[1], **p).abs() < ON_LINE_PX).count();
    (on as f64 >= LEAST_ON_LINE * PLACES as f64).then_some(line)
}

/// How much longer one pair of sides of a rectangle is than the other, as a camera saw its corners: 1.41 for A4 (Z. Zhang and
/// L.-W. He, 'Whiteboard scanning and image enhancement', 2007, with the principal point in the picture's middle). Where the
/// corners leave the focal length open, that of a usual phone is taken.
pub fn proportion(corners: [Point<Px>; 4], (w, h): (f64, f64)) -> f64 {
    let m = corners.map(|c| [c.x - w / 2.0, c.y - h / 2.0, 1.0]);
    // Their order: top left, top right, bottom left, bottom right.
    let [m1, m2, m4, m3] = m;
    let cross =
        |a: [f64; 3], b: [f64; 3]| [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    let dot = |a: [f64; 3], b: [f64; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    let k2 = dot(cross(m1, m4), m3) / dot(cross(m2, m4), m3);
    let k3 = dot(cross(m1, m4), m2) / dot(cross(m3, m4), m2);
    let n2: [f64; 3] = std::array::from_fn(|i| k2 * m2[i] - m1[i]);
    let n3: [f64; 3] = std::array::from_fn(|i| k3 * m3[i] - m1[i]);
    let usual = 1.1 * w.max(h);
    let f2 = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
    let f2 =
        if f2.is_finite() && f2 > (0.5 * usual).powi(2) && f2 < (3.0 * usual).powi(2) { f2 } else { usual * usual };
    let long = |n: [f64; 3]| ((n[0] * n[0] + n[1] * n[1]) / f2 + n[2] * n[2]).sqrt();
    let ratio = long(n2) / long(n3);
    ratio.max(1.0 / ratio)
}
