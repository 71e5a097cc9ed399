//! Walks along the borders between areas, from junction to junction, and fits each once.

use crate::areas::{Areas, OUTSIDE};
use crate::palette::{Labels, along};
use crate::shape::{self, Style};
use kachel_geom::{Curve, Px, Ring, Stopped, Watch};
use kurbo::Point;
use std::collections::HashMap;

/// Pixels on either side of a border within which it is over.
const REACH: usize = 5;

/// Directions along the grid of pixel corners, clockwise on the screen: right, down, left, up.
pub(crate) const STEPS: [(isize, isize); 4] = [(1, 0), (0, 1), (-1, 0), (0, -1)];

/// One border between two areas, from junction to junction or once round.
pub(crate) struct Border {
    pub(crate) start: (isize, isize),
    pub(crate) end: (isize, isize),
    pub(crate) first: usize,
    pub(crate) last: usize,
    pub(crate) left: u32,
    pub(crate) right: u32,
    pub(crate) curve: Curve<Px>,
}

pub(crate) struct Follower<'a> {
    pub(crate) areas: &'a Areas,
    pub(crate) labels: &'a Labels,
    pub(crate) style: &'a Style,
    /// Where three or more borders meet: the corner's place, once known.
    pub(crate) junctions: HashMap<(isize, isize), Point>,
}

/// Colours whose lightness differs by this much are told apart by lightness alone: compression keeps it at every pixel, and
/// what else there is of a colour at every other one only.
const BY_LIGHTNESS: f64 = 45.0;

/// How much of a pixel is colour `b` rather than `a`.
fn share(a: [f64; 3], b: [f64; 3], c: [f64; 3]) -> f64 {
    // ITU-R BT.601, as JPEG (JFIF 1.02) has it.
    let light = |c: [f64; 3]| 0.299 * c[0] + 0.587 * c[1] + 0.114 * c[2];
    let way = light(b) - light(a);
    if way.abs() < BY_LIGHTNESS { along(a, b, c).0 } else { (light(c) - light(a)) / way }
}

/// The border lies no further than this, pixels, from where the two pixels meet: compression blurs what tells them apart.
const MOST_SHIFT: f64 = 2.5;

/// Sums for the point nearest to several lines, from the corner of the pixels.
#[derive(Default)]
pub(crate) struct Crossing {
    pub(crate) m: [f64; 3],
    pub(crate) v: kurbo::Vec2,
}

impl Crossing {
    /// Adds the line of a border that begins at the corner; its first points are blends of three colours.
    fn add(&mut self, corner: (isize, isize), points: &mut dyn Iterator<Item = &Point>) {
        let at = Point::new(corner.0 as f64, corner.1 as f64);
        let near: Vec<kurbo::Vec2> =
            points.take(7).map(|p| *p - at).filter(|d| (1.2..5.5).contains(&d.hypot())).collect();
        if near.len() < 3 {
            return;
        }
        let n = near.len() as f64;
        let mean = near.iter().fold(kurbo::Vec2::ZERO, |s, d| s + *d) / n;
        let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
        for d in &near {
            let d = *d - mean;
            (xx, xy, yy) = (xx + d.x * d.x, xy + d.x * d.y, yy + d.y * d.y);
        }
        let normal = kurbo::Vec2::from_angle(0.5 * (2.0 * xy).atan2(xx - yy)).turn_90();
        self.m = [self.m[0] + normal.x * normal.x, self.m[1] + normal.x * normal.y, self.m[2] + normal.y * normal.y];
        self.v += normal * mean.dot(normal);
    }

    /// How far the crossing lies from the corner: a pixel or so.
    fn shift(&self) -> kurbo::Vec2 {
        // Lines that are nearly one leave the place along them to the corner.
        let stiff = 0.02;
        let (a, b, c) = (self.m[0] + stiff, self.m[1], self.m[2] + stiff);
        let det = a * c - b * b;
        let d = kurbo::Vec2::new((self.v.x * c - self.v.y * b) / det, (self.v.y * a - self.v.x * b) / det);
        if d.hypot() <= 1.2 { d } else { d * (1.2 / d.hypot()) }
    }
}

/// A border's steps: corner and direction each.
pub(crate) type Steps = Vec<((isize, isize), usize)>;

impl Follower<'_> {
    pub(crate) fn run(mut self, watch: &Watch) -> Result<Vec<Border>, Stopped> {
        let (w, h) = (self.areas.w.cast_signed(), self.areas.h.cast_signed());
        let mut walks: Vec<Steps> = Vec::new();
        let mut done = vec![0u8; (self.areas.w + 1) * (self.areas.h + 1)];
        let at = |(x, y): (isize, isize)| (y * (w + 1) + x).cast_unsigned();
        // From junctions first, then what is left are loops.
        for is_loop in [false, true] {
            for y in 0..=h {
                watch.step(y.cast_unsigned(), areas_rows(h))?;
                for x in 0..=w {
                    let exits = self.exits((x, y));
                    if exits == 0 || (!is_loop && exits.count_ones() == 2) {
                        continue;
                    }
                    if !is_loop {
                        self.junctions.insert((x, y), Point::new(x as f64, y as f64));
                    }
                    for dir in (0..4).filter(|d| exits >> d & 1 == 1) {
                        if done[at((x, y))] >> dir & 1 == 0 {
                            walks.push(self.walk((x, y), dir, &mut done, at));
                        }
                    }
                }
            }
        }
        let tracks: Vec<Vec<Point>> = walks.iter().map(|s| self.points(s)).collect();
        self.place_junctions(&walks, &tracks);
        let mut out = Vec::with_capacity(walks.len());
        for (k, (steps, points)) in walks.iter().zip(tracks).enumerate() {
            watch.step(k, walks.len())?;
            out.push(self.border(steps, points));
        }
        Ok(out)
    }

    /// Directions in which borders leave a corner, as bits.
    fn exits(&self, corner: (isize, isize)) -> u8 {
        (0..4).filter(|d| self.areas.is_border(corner, *d)).fold(0, |m, d| m | 1 << d)
    }

    /// Follows one border and marks its steps as done, both ways.
    fn walk(&self, start: (isize, isize), dir: usize, done: &mut [u8], at: impl Fn((isize, isize)) -> usize) -> Steps {
        let mut steps = Vec::new();
        let (mut corner, mut dir) = (start, dir);
        loop {
            steps.push((corner, dir));
            let next = (corner.0 + STEPS[dir].0, corner.1 + STEPS[dir].1);
            done[at(corner)] |= 1 << dir;
            done[at(next)] |= 1 << ((dir + 2) % 4);
            corner = next;
            let exits = self.exits(corner);
            if corner == start || exits.count_ones() != 2 {
                return steps;
            }
            let onward = exits & !(1 << ((dir + 2) % 4));
            dir = onward.trailing_zeros() as usize % 4;
        }
    }

    /// Where each step's border runs between its two pixels.
    fn points(&self, steps: &Steps) -> Vec<Point> {
        let n = steps.len();
        let place = |k: usize| {
            let (c, _) = steps[k.min(n - 1)];
            Point::new(c.0 as f64, c.1 as f64)
        };
        let mut out = Vec::with_capacity(n);
        for (k, &(corner, dir)) in steps.iter().enumerate() {
            // Only steps along the border's general direction measure well across it.
            let along = place(k + 3) - place(k.saturating_sub(2));
            let is_level = dir % 2 == 0;
            if n > 6 && (along.x.abs() >= along.y.abs()) != is_level {
                continue;
            }
            out.push(self.crossing(corner, dir));
        }
        out
    }

    /// The border's place on the line through the centres of the two pixels, by how much of the pixels along it has
    /// which of the two colours.
    fn crossing(&self, corner: (isize, isize), dir: usize) -> Point {
        let [a, b] = Areas::sides(corner, dir);
        let middle =
            Point::new(corner.0 as f64 + STEPS[dir].0 as f64 * 0.5, corner.1 as f64 + STEPS[dir].1 as f64 * 0.5);
        let label = |(x, y): (isize, isize)| {
            let area = self.areas.at(x, y);
            (area != OUTSIDE).then(|| self.areas.labels[area as usize])
        };
        // The picture's own border is where it is.
        let (Some(la), Some(lb)) = (label(a), label(b)) else { return middle };
        let (ca, cb) = (self.labels.palette[usize::from(la)], self.labels.palette[usize::from(lb)]);
        let across = (b.0 - a.0, b.1 - a.1);
        // Part of colour b in pixels on b's side (sign 1) or of colour a on a's side.
        let mut shift = 0.0;
        for (start, step, is_b) in [(a, -1, false), (b, 1, true)] {
            let mut before = 2.0;
            for k in 0..REACH.cast_signed() {
                let (x, y) = (start.0 + across.0 * step * k, start.1 + across.1 * step * k);
                let Some(l) = label((x, y)) else { break };
                if l != if is_b { lb } else { la } {
                    break;
                }
                let i = y.cast_unsigned() * self.areas.w + x.cast_unsigned();
                let t = share(ca, cb, self.labels.pixels[i].map(f64::from));
                let foreign = if is_b { 1.0 - t } else { t }.clamp(0.0, 1.0);
                // Beyond the border the other colour only fades; where it grows, another border is near.
                if foreign > before + 0.02 {
                    break;
                }
                before = foreign;
                shift += if is_b { foreign } else { -foreign };
                if foreign < 0.02 {
                    break;
                }
            }
        }
        middle + kurbo::Vec2::new(across.0 as f64, across.1 as f64) * shift.clamp(-MOST_SHIFT, MOST_SHIFT)
    }

    /// A junction lies where the lines of the borders that meet there cross, by least squares; on the picture's own
    /// border it stays on that.
    fn place_junctions(&mut self, walks: &[Steps], tracks: &[Vec<Point>]) {
        let mut sums: HashMap<(isize, isize), Crossing> = HashMap::new();
        for (steps, points) in walks.iter().zip(tracks) {
            let (first, (last, dir)) = (steps[0].0, steps[steps.len() - 1]);
            let end = (last.0 + STEPS[dir].0, last.1 + STEPS[dir].1);
            if self.junctions.contains_key(&first) {
                sums.entry(first).or_default().add(first, &mut points.iter());
            }
            if self.junctions.contains_key(&end) {
                sums.entry(end).or_default().add(end, &mut points.iter().rev());
            }
        }
        let (w, h) = (self.areas.w.cast_signed(), self.areas.h.cast_signed());
        for (corner, at) in &mut self.junctions {
            if let Some(moved) = sums.get(corner).map(|s| *at + s.shift()) {
                *at = Point::new(
                    if corner.0 == 0 || corner.0 == w { at.x } else { moved.x },
                    if corner.1 == 0 || corner.1 == h { at.y } else { moved.y },
                );
            }
        }
    }

    fn border(&self, steps: &Steps, mut points: Vec<Point>) -> Border {
        let (start, first) = steps[0];
        let (before, last) = steps[steps.len() - 1];
        let end = (before.0 + STEPS[last].0, before.1 + STEPS[last].1);
        let [l, r] = Areas::sides(start, first);
        let (left, right) = (self.areas.at(l.0, l.1), self.areas.at(r.0, r.1));
        let curve = match (self.junctions.get(&start), self.junctions.get(&end)) {
            (Some(a), Some(b)) => {
                // Points as near to a junction as its own doubt say nothing.
                points.retain(|p| p.distance(*a) > 1.2 && p.distance(*b) > 1.2);
                points.insert(0, *a);
                points.push(*b);
                if left == OUTSIDE || right == OUTSIDE {
                    self.frame(steps, *a, *b)
                } else {
                    shape::open(&points, self.style)
                }
            }
            _ if left == OUTSIDE || right == OUTSIDE => {
                let at = Point::new(start.0 as f64, start.1 as f64);
                self.frame(steps, at, at)
            }
            _ => {
                let ring = Ring(points.iter().map(|p| kachel_geom::Point::new(p.x, p.y)).collect());
                shape::closed(&ring, self.style)
            }
        };
        Border { start, end, first, last, left, right, curve }
    }

    /// Along the picture's own border: straight, with its corners.
    fn frame(&self, steps: &Steps, a: Point, b: Point) -> Curve<Px> {
        let px = |p: Point| kachel_geom::Point::new(p.x, p.y);
        let mut segments = Vec::new();
        for pair in steps.windows(2) {
            if pair[0].1 != pair[1].1 {
                let c = pair[1].0;
                segments.push(kachel_geom::Segment::Line(kachel_geom::Point::new(c.0 as f64, c.1 as f64)));
            }
        }
        segments.push(kachel_geom::Segment::Line(px(b)));
        Curve { start: px(a), segments }
    }
}

pub(crate) const fn areas_rows(h: isize) -> usize {
    h.cast_unsigned() + 1
}
