//! The whole benchmark set: how far contours are off, how many nodes they have and how long they take, side by side
//! with libraries from the registry. `cargo bench -p kachel-trace [-- --each]`.

#[path = "../tests/support/mod.rs"]
mod support;

use kachel_artwork::{Paint, Prepare, prepare};
use kachel_geom::{Curve, Point, Px, Ring, Segment, Watch};
use kachel_trace::{TraceSettings, trace};
use std::time::Instant;
use support::{Score, Shape, VARIANTS, Variant, artwork, files, shape};

struct Row {
    score: Score,
    ms: f64,
}

fn ours(shape: &Shape, variant: Variant) -> Option<Row> {
    let mut art = artwork(&shape.picture(variant, 7));
    if variant == Variant::Photo {
        let level = Prepare { level: true, ..Prepare::default() };
        art = prepare(&art, &level, Paint::default(), &Watch::default()).ok()??;
    }
    let start = Instant::now();
    let contours = trace(&art, &TraceSettings::default(), &Watch::default()).ok()?;
    let ms = start.elapsed().as_secs_f64() * 1e3;
    let curves: Vec<Curve<Px>> = contours.contours.iter().map(|c| c.curve.clone()).collect();
    let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
    Some(Row { score: shape.score(&curves, &rings), ms })
}

/// A clustering tracer of the registry (visioncortex 0.9), cut midway and with the settings that its authors' own
/// command gives to black and white pictures.
fn clustering(shape: &Shape, variant: Variant) -> Option<Row> {
    use visioncortex::{BinaryImage, CompoundPathElement, PathSimplifyMode};
    let image = shape.picture(variant, 7);
    let start = Instant::now();
    let (w, h) = (image.width() as usize, image.height() as usize);
    let mut bits = BinaryImage::new_w_h(w, h);
    image.enumerate_pixels().filter(|(_, _, p)| p.0[0] < 128).for_each(|(x, y, _)| {
        bits.set_pixel(x as usize, y as usize, true);
    });
    let mut curves = Vec::new();
    for cluster in bits.to_clusters(false).clusters.iter().filter(|c| c.size() >= 16) {
        let path = cluster.to_compound_path(PathSimplifyMode::Spline, 60f64.to_radians(), 4.0, 10, 45f64.to_radians());
        for element in path.paths {
            let CompoundPathElement::Spline(spline) = element else { continue };
            let points: Vec<Point<Px>> = spline.points.iter().map(|p| Point::new(p.x, p.y)).collect();
            let segments = points[1..].chunks_exact(3).map(|c| Segment::Cubic(c[0], c[1], c[2])).collect();
            curves.push(Curve { start: points[0], segments });
        }
    }
    let ms = start.elapsed().as_secs_f64() * 1e3;
    let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
    Some(Row { score: shape.score(&curves, &rings), ms })
}

fn report(name: &str, size: u32, variant: Variant, rows: &[Option<Row>]) {
    let done: Vec<&Row> = rows.iter().flatten().collect();
    let n = done.len().max(1) as f64;
    let mean = |f: &dyn Fn(&Row) -> f64| done.iter().map(|r| f(r)).sum::<f64>() / n;
    let right = done.iter().filter(|r| r.score.rings_are_right).count();
    let corners: usize = done.iter().map(|r| r.score.corners).sum();
    let corner = done.iter().map(|r| r.score.corner * r.score.corners as f64).sum::<f64>() / corners.max(1) as f64;
    let worst = done.iter().map(|r| r.ms).fold(0.0, f64::max);
    println!(
        "{name:<16} {size:>5} {:<7} mean {:.3} px  p95 {:.3}  corners {corner:.2} px  nodes x{:.2}  rings right {right}/{}  {:.1} ms (worst {worst:.1})",
        format!("{variant:?}"),
        mean(&|r| r.score.mean),
        mean(&|r| r.score.p95),
        mean(&|r| r.score.nodes),
        rows.len(),
        mean(&|r| r.ms),
    );
}

fn main() {
    let each = std::env::args().any(|a| a == "--each");
    let only: Option<String> = std::env::args().skip_while(|a| a != "--only").nth(1);
    for size in [128, 512, 2048] {
        for variant in VARIANTS {
            if size == 2048 && variant != Variant::Clean {
                continue;
            }
            let turn = if variant == Variant::Scan { 2.3 } else { 0.0 };
            let files: Vec<_> =
                files().into_iter().filter(|f| only.as_ref().is_none_or(|o| f.to_string_lossy().contains(o))).collect();
            let shapes: Vec<Shape> = files.iter().map(|f| shape(f, size, turn)).collect();
            let rows: Vec<Option<Row>> = shapes.iter().map(|s| ours(s, variant)).collect();
            if each {
                for (s, r) in shapes.iter().zip(&rows) {
                    match r {
                        Some(r) => println!(
                            "  {:<28} mean {:.3} p95 {:.3} corners {:.2} ({}) nodes x{:.2} of {} rings {} {:?} {:.1} ms",
                            s.name,
                            r.score.mean,
                            r.score.p95,
                            r.score.corner,
                            r.score.corners,
                            r.score.nodes,
                            s.segments(),
                            r.score.rings_are_right,
                            r.score.rings,
                            r.ms
                        ),
                        None => println!("  {:<28} failed", s.name),
                    }
                }
            }
            report("kachel", size, variant, &rows);
            let theirs: Vec<Option<Row>> = shapes.iter().map(|s| clustering(s, variant)).collect();
            report("visioncortex", size, variant, &theirs);
        }
    }
}
