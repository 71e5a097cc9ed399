//! Borders between the colours of a labelled picture. Each border is followed and fitted once, and the areas on both
//! sides take the same curve, so that they share it exactly: no gaps, no overlaps.

use crate::Contour;
use crate::palette::{Labels, along};
use crate::shape::{self, Style};
use kachel_geom::{Bounds, Curve, Px, Ring, Stopped, Watch, interior_point};
use kurbo::Point;
use std::collections::{BTreeMap, HashMap};

/// Beyond the picture.
const OUTSIDE: u32 = u32::MAX;
/// Pixels on either side of a border within which it is over.
const REACH: usize = 3;

/// Directions along the grid of pixel corners, clockwise on the screen: right, down, left, up.
const STEPS: [(isize, isize); 4] = [(1, 0), (0, 1), (-1, 0), (0, -1)];

/// Connected areas of one colour.
struct Areas {
    w: usize,
    h: usize,
    of: Vec<u32>,
    labels: Vec<u8>,
    sizes: Vec<usize>,
}

impl Areas {
    /// Areas connected by the sides of pixels.
    fn new(labels: &[u8], w: usize, h: usize) -> Self {
        let mut of = vec![OUTSIDE; w * h];
        let (mut found, mut sizes) = (Vec::new(), Vec::new());
        let mut open = Vec::new();
        for start in 0..w * h {
            if of[start] != OUTSIDE {
                continue;
            }
            let name = u32::try_from(found.len()).unwrap_or(OUTSIDE - 1);
            let label = labels[start];
            of[start] = name;
            open.push(start);
            let mut size = 0;
            while let Some(i) = open.pop() {
                size += 1;
                for j in neighbours(i, w, h) {
                    if of[j] == OUTSIDE && labels[j] == label {
                        of[j] = name;
                        open.push(j);
                    }
                }
            }
            found.push(label);
            sizes.push(size);
        }
        Self { w, h, of, labels: found, sizes }
    }

    /// The area of the pixel, `OUTSIDE` beyond the picture.
    fn at(&self, x: isize, y: isize) -> u32 {
        match (usize::try_from(x), usize::try_from(y)) {
            (Ok(x), Ok(y)) if x < self.w && y < self.h => self.of[y * self.w + x],
            _ => OUTSIDE,
        }
    }

    /// Pixels to the left and right of the step from a corner: each the pixel with that corner.
    const fn sides((x, y): (isize, isize), dir: usize) -> [(isize, isize); 2] {
        match dir {
            0 => [(x, y - 1), (x, y)],
            1 => [(x, y), (x - 1, y)],
            2 => [(x - 1, y), (x - 1, y - 1)],
            _ => [(x - 1, y - 1), (x, y - 1)],
        }
    }

    fn is_border(&self, corner: (isize, isize), dir: usize) -> bool {
        let [a, b] = Self::sides(corner, dir);
        self.at(a.0, a.1) != self.at(b.0, b.1)
    }
}

fn neighbours(i: usize, w: usize, h: usize) -> impl Iterator<Item = usize> {
    let (x, y) = (i % w, i / w);
    let all = [(x > 0, i.wrapping_sub(1)), (x + 1 < w, i + 1), (y > 0, i.wrapping_sub(w)), (y + 1 < h, i + w)];
    all.into_iter().filter(|(is_in, _)| *is_in).map(|(_, j)| j)
}

/// Gives small areas to the neighbour with which they share most of their border; returns their labels and boxes.
fn absorb(labels: &mut [u8], areas: &Areas, least: impl Fn(u8) -> f64) -> Vec<(u8, Bounds<Px>)> {
    let small = |a: u32| (areas.sizes[a as usize] as f64) < least(areas.labels[a as usize]);
    let mut shared: HashMap<u32, HashMap<u8, usize>> = HashMap::new();
    for (i, &a) in areas.of.iter().enumerate() {
        if small(a) {
            for j in neighbours(i, areas.w, areas.h) {
                if areas.of[j] != a && !small(areas.of[j]) {
                    *shared.entry(a).or_default().entry(labels[j]).or_default() += 1;
                }
            }
        }
    }
    let heirs: HashMap<u32, u8> = shared
        .into_iter()
        .filter_map(|(a, by)| by.into_iter().max_by_key(|(l, n)| (*n, *l)).map(|(l, _)| (a, l)))
        .collect();
    let mut boxes: BTreeMap<u32, Bounds<Px>> = BTreeMap::new();
    for (i, a) in areas.of.iter().enumerate() {
        if let Some(l) = heirs.get(a) {
            labels[i] = *l;
            let at = |d: usize| kachel_geom::Point::new((i % areas.w + d) as f64, (i / areas.w + d) as f64);
            let pixel = Bounds { min: at(0), max: at(1) };
            boxes.entry(*a).and_modify(|b| *b = b.union(pixel)).or_insert(pixel);
        }
    }
    boxes.into_iter().map(|(a, b)| (areas.labels[a as usize], b)).collect()
}

/// One border between two areas, from junction to junction or once round.
struct Border {
    start: (isize, isize),
    end: (isize, isize),
    first: usize,
    last: usize,
    left: u32,
    right: u32,
    curve: Curve<Px>,
}

/// What following gives: an area's contour each, and the boxes of those that were given to their neighbours.
pub(crate) struct Bordered {
    pub(crate) contours: Vec<Contour>,
    pub(crate) specks: Vec<Bounds<Px>>,
    pub(crate) pinholes: Vec<Bounds<Px>>,
}

/// Least sizes (pixels) of areas: of ink and of ground.
pub(crate) struct Least {
    pub(crate) ink: f64,
    pub(crate) ground: f64,
}

pub(crate) fn follow(
    mut l: Labels,
    least: &Least,
    style: &Style,
    watch: &Watch,
) -> Result<(Bordered, Labels), Stopped> {
    let (w, h) = (l.width, l.height);
    let first = Areas::new(&l.labels, w, h);
    let ground = l.ground;
    let gone = absorb(&mut l.labels, &first, |label| if Some(label) == ground { least.ground } else { least.ink });
    let areas = if gone.is_empty() { first } else { Areas::new(&l.labels, w, h) };
    watch.check()?;
    let borders = Follower { areas: &areas, labels: &l, style, junctions: HashMap::new() }.run(watch)?;
    let rings = assemble(&borders, &areas);
    let contours = contours(rings, &areas, &l, watch)?;
    let of = |is_ground: bool| gone.iter().filter(|g| (Some(g.0) == ground) == is_ground).map(|g| g.1).collect();
    Ok((Bordered { contours, specks: of(false), pinholes: of(true) }, l))
}

struct Follower<'a> {
    areas: &'a Areas,
    labels: &'a Labels,
    style: &'a Style,
    /// Where three or more borders meet: the corner's place, once known.
    junctions: HashMap<(isize, isize), Point>,
}

/// Sums for the point nearest to several lines, from the corner of the pixels.
#[derive(Default)]
struct Crossing {
    m: [f64; 3],
    v: kurbo::Vec2,
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
type Steps = Vec<((isize, isize), usize)>;

impl Follower<'_> {
    fn run(mut self, watch: &Watch) -> Result<Vec<Border>, Stopped> {
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
                let (t, _) = along(ca, cb, self.labels.pixels[i].map(f64::from));
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
        middle + kurbo::Vec2::new(across.0 as f64, across.1 as f64) * shift.clamp(-1.0, 1.0)
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

const fn areas_rows(h: isize) -> usize {
    h.cast_unsigned() + 1
}

/// Each area's closed curves, the area on the left of each as it runs.
fn assemble(borders: &[Border], areas: &Areas) -> HashMap<u32, Vec<Curve<Px>>> {
    // By the corner and the direction in which it is left: which border, and whether backwards.
    let mut exits: HashMap<((isize, isize), usize), (usize, bool)> = HashMap::new();
    let mut rings: HashMap<u32, Vec<Curve<Px>>> = HashMap::new();
    let mut is_loop = vec![false; borders.len()];
    for (k, b) in borders.iter().enumerate() {
        let is_round = b.start == b.end && areas_exits(areas, b.start).count_ones() == 2;
        if is_round {
            is_loop[k] = true;
            rings.entry(b.left).or_default().push(b.curve.clone());
            rings.entry(b.right).or_default().push(b.curve.reversed());
        } else {
            exits.insert((b.start, b.first), (k, false));
            exits.insert((b.end, (b.last + 2) % 4), (k, true));
        }
    }
    let mut done = vec![[false; 2]; borders.len()];
    for (k, b) in borders.iter().enumerate() {
        for backwards in [false, true] {
            let area = if backwards { b.right } else { b.left };
            if is_loop[k] || done[k][usize::from(backwards)] || area == OUTSIDE {
                continue;
            }
            let mut ring: Option<Curve<Px>> = None;
            let mut next = Some((k, backwards));
            while let Some((k, back)) = next {
                if std::mem::replace(&mut done[k][usize::from(back)], true) {
                    break;
                }
                let b = &borders[k];
                let piece = if back { b.curve.reversed() } else { b.curve.clone() };
                match &mut ring {
                    None => ring = Some(piece),
                    Some(r) => r.segments.extend(piece.segments),
                }
                let (corner, dir) = if back { (b.start, (b.first + 2) % 4) } else { (b.end, b.last) };
                // The area keeps to the left: the sharpest left turn that has it there.
                next = [(dir + 3) % 4, dir, (dir + 1) % 4]
                    .into_iter()
                    .find(|d| {
                        let [l, r] = Areas::sides(corner, *d);
                        areas.at(l.0, l.1) == area && areas.at(r.0, r.1) != area
                    })
                    .and_then(|d| exits.get(&(corner, d)).copied());
            }
            if let Some(r) = ring {
                rings.entry(area).or_default().push(r);
            }
        }
    }
    rings.remove(&OUTSIDE);
    rings
}

fn areas_exits(areas: &Areas, corner: (isize, isize)) -> u8 {
    (0..4).filter(|d| areas.is_border(corner, *d)).fold(0, |m, d| m | 1 << d)
}

/// Square pixels under which a fitted ring is nothing but a line there and back.
const FLATTENED: f64 = 1e-3;

/// Areas as contours, each after what lies round it. Ground that reaches the picture's border is left out.
fn contours(
    rings: HashMap<u32, Vec<Curve<Px>>>,
    areas: &Areas,
    l: &Labels,
    watch: &Watch,
) -> Result<Vec<Contour>, Stopped> {
    let mut at_border = vec![false; areas.labels.len()];
    let (w, h) = (areas.w, areas.h);
    let corner = |x: usize, y: usize| kachel_geom::Point::new(x as f64, y as f64);
    let picture = Bounds { min: corner(0, 0), max: corner(w, h) };
    (0..w).for_each(|x| [x, (h - 1) * w + x].iter().for_each(|i| at_border[areas.of[*i] as usize] = true));
    (0..h).for_each(|y| [y * w, y * w + w - 1].iter().for_each(|i| at_border[areas.of[*i] as usize] = true));
    let mut found: Vec<(f64, Contour)> = Vec::new();
    for (area, mut curves) in rings {
        let label = areas.labels[area as usize];
        let is_ink = l.ground != Some(label);
        if !is_ink && at_border[area as usize] {
            continue;
        }
        // What a wide deviation has flattened to a line is no area any more; its neighbours meet there.
        curves.retain(|c| c.nodes() >= 2 && c.area().abs() > FLATTENED);
        curves.iter_mut().for_each(|c| *c = c.held(&picture));
        // With y down and the area on the left, its outer ring has a negative area, and a hole a positive one.
        let Some(outer) = (0..curves.len()).min_by(|a, b| curves[*a].area().total_cmp(&curves[*b].area())) else {
            continue;
        };
        let outer = curves.swap_remove(outer);
        let mut c = Contour::of_curve(outer, None, is_ink);
        c.holes = curves;
        c.colour = Some(label);
        found.push((c.ring.area().abs(), c));
    }
    found.sort_by(|a, b| {
        b.0.total_cmp(&a.0)
            .then(a.1.ring.0[0].x.total_cmp(&b.1.ring.0[0].x))
            .then(a.1.ring.0[0].y.total_cmp(&b.1.ring.0[0].y))
    });
    let mut out: Vec<Contour> = Vec::with_capacity(found.len());
    for (i, (_, mut c)) in found.into_iter().enumerate() {
        watch.step(i, areas.labels.len())?;
        let holes: Vec<Ring<Px>> = c.holes.iter().map(|h| h.ring(crate::FLATNESS)).collect();
        let own: Vec<&Ring<Px>> = std::iter::once(&c.ring).chain(&holes).collect();
        let probe = interior_point(&own);
        c.parent = probe.and_then(|p| (0..i).rev().find(|j| out[*j].ring.contains(p)));
        if !c.is_ink {
            // A gap's contour runs as the ink's hole does.
            c.curve = c.curve.reversed();
            c.ring.0.reverse();
        }
        out.push(c);
    }
    Ok(out)
}
