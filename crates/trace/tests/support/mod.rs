//! Shapes with ground truth, pictures of them, and how far contours are off. Used by the tests and by the benchmark.

#![allow(dead_code, reason = "the tests and the benchmark each use a part")]

use ab_glyph_rasterizer::{Rasterizer, point};
use image::{GrayImage, Luma};
use kachel_artwork::{Artwork, Picture};
use kachel_geom::{BoolOp, Curve, Point, Px, Ring, Segment, combine_rings, normalise};
use kachel_oracle::Random;
use std::path::Path;

/// Flatness of the truth, pixels: far below anything that is measured.
const FLAT: f64 = 0.002;

/// Pieces that only close a gap left by rounded coordinates, pixels.
const TINY: f64 = 0.3;

/// A shape at its size in pixels.
pub struct Shape {
    pub name: String,
    pub curves: Vec<Curve<Px>>,
    /// Not crossing, ink by non-zero winding.
    pub rings: Vec<Ring<Px>>,
    pub size: u32,
}

/// Pictures of a shape.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Variant {
    Clean,
    Jpeg,
    Blur,
    Noise,
    Scan,
    Photo,
    OneBit,
}

pub const VARIANTS: [Variant; 7] =
    [Variant::Clean, Variant::Jpeg, Variant::Blur, Variant::Noise, Variant::Scan, Variant::Photo, Variant::OneBit];

/// How far contours are off.
#[derive(Clone, Copy, Debug, Default)]
pub struct Score {
    /// Area of the symmetric difference by the truth's perimeter, pixels.
    pub mean: f64,
    /// 95th percentile of the distance of the contours from the truth, pixels.
    pub p95: f64,
    /// Mean distance of the truth's corners from the nearest node, pixels.
    pub corner: f64,
    pub corners: usize,
    /// Nodes by segments of the source.
    pub nodes: f64,
    pub rings_are_right: bool,
    /// Outer contours and holes, of the truth and found.
    pub rings: [(usize, usize); 2],
}

/// Reads a shape's SVG at a size; all of them are filled paths in a square viewBox.
pub fn shape(file: &Path, size: u32, turn: f64) -> Shape {
    let text = std::fs::read_to_string(file).unwrap();
    let tree = resvg::usvg::Tree::from_str(&text, &resvg::usvg::Options::default()).unwrap();
    let scale = f64::from(size) / f64::from(tree.size().width());
    let middle = f64::from(size) / 2.0;
    let (sin, cos) = turn.to_radians().sin_cos();
    // Turned shapes are made smaller, so that they stay inside.
    let shrink = if turn == 0.0 { 1.0 } else { 0.9 };
    let place = |x: f32, y: f32| {
        let (x, y) = ((f64::from(x) * scale - middle) * shrink, (f64::from(y) * scale - middle) * shrink);
        Point::new(middle + cos * x - sin * y, middle + sin * x + cos * y)
    };
    let mut curves = Vec::new();
    collect(tree.root(), &place, &mut curves);
    let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(FLAT)).collect();
    let even_odd = text.contains("evenodd");
    Shape {
        name: file.file_stem().unwrap().to_string_lossy().into_owned(),
        rings: normalise(&rings, even_odd),
        curves,
        size,
    }
}

fn collect(group: &resvg::usvg::Group, place: &impl Fn(f32, f32) -> Point<Px>, out: &mut Vec<Curve<Px>>) {
    use resvg::usvg::Node;
    use resvg::usvg::tiny_skia_path::PathSegment;
    for node in group.children() {
        match node {
            Node::Group(g) => collect(g, place, out),
            Node::Path(p) => {
                let data = p.data().clone().transform(p.abs_transform()).unwrap();
                let at = |q: resvg::usvg::tiny_skia_path::Point| place(q.x, q.y);
                for s in data.segments() {
                    let last = out.last().map_or(Point::new(0.0, 0.0), Curve::end);
                    let add = |out: &mut Vec<Curve<Px>>, s: Segment<Px>| out.last_mut().unwrap().segments.push(s);
                    match s {
                        PathSegment::MoveTo(q) => out.push(Curve { start: at(q), segments: vec![] }),
                        PathSegment::LineTo(q) => add(out, Segment::Line(at(q))),
                        PathSegment::QuadTo(c, q) => {
                            let (c, q) = (at(c), at(q));
                            let toward =
                                |a: Point<Px>| Point::new(a.x + (c.x - a.x) * 2.0 / 3.0, a.y + (c.y - a.y) * 2.0 / 3.0);
                            add(out, Segment::Cubic(toward(last), toward(q), q));
                        }
                        PathSegment::CubicTo(c, d, q) => add(out, Segment::Cubic(at(c), at(d), at(q))),
                        PathSegment::Close => {}
                    }
                }
            }
            _ => {}
        }
    }
    for c in out.iter_mut().filter(|c| !c.segments.is_empty() && !c.is_closed()) {
        // Ends that nearly meet, do.
        if c.end().distance(c.start) > 0.02 {
            c.segments.push(Segment::Line(c.start));
        } else {
            let start = c.start;
            match c.segments.last_mut().unwrap() {
                Segment::Line(p) | Segment::Cubic(_, _, p) => *p = start,
            }
        }
    }
    out.retain(|c| c.segments.len() > 1);
}

impl Shape {
    /// The exactly covered part of every pixel, 0 to 1.
    pub fn coverage(&self) -> Vec<f32> {
        let n = self.size as usize;
        let mut raster = Rasterizer::new(n, n);
        #[expect(clippy::cast_possible_truncation, reason = "pixels need no 53 bits")]
        let of = |p: Point<Px>| point(p.x as f32, p.y as f32);
        for ring in &self.rings {
            ring.edges().for_each(|(a, b)| raster.draw_line(of(a), of(b)));
        }
        let mut out = vec![0.0; n * n];
        raster.for_each_pixel(|i, a| out[i] = a.abs().min(1.0));
        out
    }

    pub fn perimeter(&self) -> f64 {
        self.rings.iter().map(Ring::perimeter).sum()
    }

    /// Where the outline turns by 45 degrees, or by 15 between straight pieces of some length.
    pub fn corners(&self) -> Vec<Point<Px>> {
        let mut out = Vec::new();
        for c in &self.curves {
            let pieces: Vec<(Point<Px>, Segment<Px>)> =
                c.pieces().filter(|(from, s)| from.distance(s.end()) > TINY).collect();
            for (k, (from, segment)) in pieces.iter().enumerate() {
                let (before, last) = pieces[(k + pieces.len() - 1) % pieces.len()];
                let (a, b) = (direction_out(before, &last), direction_in(*from, segment));
                let turn = (a.0 * b.1 - a.1 * b.0).atan2(a.0 * b.0 + a.1 * b.1).abs().to_degrees();
                let long = |p: Point<Px>, s: &Segment<Px>| matches!(s, Segment::Line(q) if p.distance(*q) > 8.0);
                let least = if long(before, &last) && long(*from, segment) { 15.0 } else { 45.0 };
                let near_edge = |v: f64| v < 2.0 || v > f64::from(self.size) - 2.0;
                let is_seen = self.rings.iter().flat_map(|r| &r.0).any(|p| p.distance(*from) < 0.05);
                if turn > least && is_seen && !near_edge(from.x) && !near_edge(from.y) {
                    out.push(*from);
                }
            }
        }
        out
    }

    pub fn segments(&self) -> usize {
        self.curves.iter().flat_map(Curve::pieces).filter(|(from, s)| from.distance(s.end()) > TINY).count()
    }

    /// A picture of the shape, dark on light.
    pub fn picture(&self, variant: Variant, seed: u64) -> GrayImage {
        let n = self.size;
        let covered = self.coverage();
        let mut random = Random::new(seed);
        let mut grey: Vec<f64> = covered.iter().map(|c| 245.0 - 220.0 * f64::from(*c)).collect();
        match variant {
            Variant::Clean => {}
            Variant::OneBit => grey = covered.iter().map(|c| if *c >= 0.5 { 0.0 } else { 255.0 }).collect(),
            Variant::Jpeg => {
                let mut bytes = Vec::new();
                let plain = to_image(n, &grey);
                image::codecs::jpeg::JpegEncoder::new_with_quality(&mut bytes, 60).encode_image(&plain).unwrap();
                return image::load_from_memory(&bytes).unwrap().to_luma8();
            }
            Variant::Blur => {
                let plain = to_image(n, &grey);
                return image::imageops::blur(&plain, 1.5);
            }
            Variant::Noise => grey.iter_mut().for_each(|g| *g += 14.0 * normal(&mut random)),
            Variant::Scan => {
                for _ in 0..60 {
                    let (x, y) = (random.between(2.0, f64::from(n) - 2.0), random.between(2.0, f64::from(n) - 2.0));
                    let r = random.between(0.5, 1.3);
                    let dark = random.below(2) == 0;
                    for (i, g) in grey.iter_mut().enumerate() {
                        let (px, py) = ((i % n as usize) as f64 + 0.5, (i / n as usize) as f64 + 0.5);
                        if (px - x).hypot(py - y) < r {
                            *g = if dark { 40.0 } else { 240.0 };
                        }
                    }
                }
                let soft = image::imageops::blur(&to_image(n, &grey), 0.7);
                grey = soft.pixels().map(|p| f64::from(p.0[0]) + 5.0 * normal(&mut random)).collect();
            }
            Variant::Photo => {
                let soft = image::imageops::blur(&to_image(n, &grey), 0.9);
                let side = f64::from(n);
                grey = soft
                    .pixels()
                    .enumerate()
                    .map(|(i, p)| {
                        let (x, y) = ((i % n as usize) as f64 / side, (i / n as usize) as f64 / side);
                        // A lamp at one corner, and the lens's fall-off.
                        let light =
                            0.30 + 0.70 * (1.0 - x * 0.55 - y * 0.45) - 0.12 * ((x - 0.5).powi(2) + (y - 0.5).powi(2));
                        f64::from(p.0[0]) * light + 2.0 * normal(&mut random)
                    })
                    .collect();
            }
        }
        to_image(n, &grey)
    }

    /// Compares closed curves with the truth.
    pub fn score(&self, found: &[Curve<Px>], rings: &[Ring<Px>]) -> Score {
        let found_rings = normalise(rings, true);
        let common = combine_rings(&self.rings, &found_rings, BoolOp::Common);
        let area = |rings: &[Ring<Px>]| rings.iter().map(Ring::area).sum::<f64>().abs();
        let wrong = area(&self.rings) + area(&found_rings) - 2.0 * area(&common);
        let index = Index::new(&self.rings, self.size);
        let mut off: Vec<f64> = Vec::new();
        for (a, b) in found_rings.iter().flat_map(Ring::edges) {
            let steps = a.distance(b).ceil().max(1.0);
            for k in 0..steps as u32 {
                let t = f64::from(k) / steps;
                off.push(index.distance(Point::new(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t)));
            }
        }
        off.sort_by(f64::total_cmp);
        let nodes: Vec<Point<Px>> = found.iter().flat_map(Curve::node_points).collect();
        let corners = self.corners();
        let nearest = |c: &Point<Px>| nodes.iter().map(|n| n.distance(*c)).fold(20.0, f64::min);
        let sign = |rings: &[Ring<Px>]| {
            // Slivers of the truth's own making do not count.
            let rings: Vec<&Ring<Px>> = rings.iter().filter(|r| r.area().abs() > 1.0).collect();
            let sum = rings.iter().map(|r| r.area()).sum::<f64>().signum();
            let outer = rings.iter().filter(|r| r.area() * sum > 0.0).count();
            (outer, rings.len() - outer)
        };
        Score {
            mean: wrong / self.perimeter(),
            p95: off.get(off.len() * 95 / 100).copied().unwrap_or(f64::INFINITY),
            corner: if corners.is_empty() {
                0.0
            } else {
                corners.iter().map(nearest).sum::<f64>() / corners.len() as f64
            },
            corners: corners.len(),
            nodes: nodes.len() as f64 / self.segments() as f64,
            rings_are_right: sign(&self.rings) == sign(rings),
            rings: [sign(&self.rings), sign(rings)],
        }
    }
}

fn direction_in(from: Point<Px>, s: &Segment<Px>) -> (f64, f64) {
    let to = match s {
        Segment::Line(p) => *p,
        Segment::Cubic(a, b, p) => [a, b, p].into_iter().copied().find(|q| q.distance(from) > 1e-3).unwrap_or(*p),
    };
    (to.x - from.x, to.y - from.y)
}

fn direction_out(from: Point<Px>, s: &Segment<Px>) -> (f64, f64) {
    let end = s.end();
    let back = match s {
        Segment::Line(_) => from,
        Segment::Cubic(a, b, _) => [b, a, &from].into_iter().copied().find(|q| q.distance(end) > 1e-3).unwrap_or(from),
    };
    (end.x - back.x, end.y - back.y)
}

/// The truth's edges by cells.
struct Index {
    cells: Vec<Vec<(Point<Px>, Point<Px>)>>,
    across: usize,
}

const CELL: f64 = 8.0;

impl Index {
    fn new(rings: &[Ring<Px>], size: u32) -> Self {
        let across = (f64::from(size) / CELL).ceil() as usize + 1;
        let mut cells = vec![Vec::new(); across * across];
        for (a, b) in rings.iter().flat_map(Ring::edges) {
            let steps = (a.distance(b) / 2.0).ceil().max(1.0) as u32;
            for k in 0..=steps {
                let t = f64::from(k) / f64::from(steps);
                let cell = Self::cell(across, Point::new(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t));
                if cells[cell].last() != Some(&(a, b)) {
                    cells[cell].push((a, b));
                }
            }
        }
        Self { cells, across }
    }

    fn cell(across: usize, p: Point<Px>) -> usize {
        let of = |v: f64| ((v / CELL).max(0.0) as usize).min(across - 1);
        of(p.y) * across + of(p.x)
    }

    /// Distance to the nearest edge, up to a cell's width.
    fn distance(&self, p: Point<Px>) -> f64 {
        let mut best = CELL;
        for dy in [-1.0, 0.0, 1.0] {
            for dx in [-1.0, 0.0, 1.0] {
                let cell = Self::cell(self.across, Point::new(p.x + dx * CELL, p.y + dy * CELL));
                for (a, b) in &self.cells[cell] {
                    best = best.min(p.distance_to_segment(*a, *b));
                }
            }
        }
        best
    }
}

#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to eight bits")]
fn to_image(n: u32, grey: &[f64]) -> GrayImage {
    GrayImage::from_fn(n, n, |x, y| Luma([grey[(y * n + x) as usize].round().clamp(0.0, 255.0) as u8]))
}

/// Box and Muller 1958: a standard normal variable from two uniform ones.
fn normal(random: &mut Random) -> f64 {
    let (u, v) = (random.unit().max(1e-12), random.unit());
    (-2.0 * u.ln()).sqrt() * (std::f64::consts::TAU * v).cos()
}

/// The picture as artwork.
pub fn artwork(image: &GrayImage) -> Artwork {
    Artwork::Picture(Picture::of_grey(image.width(), image.height(), image.as_raw().clone()))
}

/// All shapes of the set, by name.
pub fn files() -> Vec<std::path::PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("conformance/shapes");
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path()).collect();
    files.retain(|f| f.extension().is_some_and(|e| e == "svg"));
    files.sort();
    files
}

/// The file of one shape.
pub fn file(name: &str) -> std::path::PathBuf {
    files().into_iter().find(|f| f.file_stem().is_some_and(|s| s == name)).unwrap()
}
