//! Compressed pictures: as many nodes as the clean ones, no crumbs, every colour, smooth outer contours.

mod support;

use image::{Rgb, RgbImage};
use kachel_artwork::Artwork;
use kachel_geom::{Curve, Point, Px, Ring, Watch};
use kachel_trace::{Contours, Ink, TraceSettings, first_guess, trace};
use support::{Shape, file, shape};

/// As most programs write a JPEG: colours at half the resolution (4:2:0), and then compressed.
fn jpeg(picture: &RgbImage, quality: u8) -> Artwork {
    let (w, h) = picture.dimensions();
    // BT.601 as JFIF has it.
    let chroma = |p: &Rgb<u8>| {
        let [r, g, b] = p.0.map(f64::from);
        let y = 0.299 * r + 0.587 * g + 0.114 * b;
        (y, (b - y) / 1.772, (r - y) / 1.402)
    };
    let mut half = RgbImage::new(w, h);
    for by in (0..h).step_by(2) {
        for bx in (0..w).step_by(2) {
            let block: Vec<(u32, u32)> =
                [(0, 0), (1, 0), (0, 1), (1, 1)].map(|(i, j)| ((bx + i).min(w - 1), (by + j).min(h - 1))).to_vec();
            let all: Vec<_> = block.iter().map(|(x, y)| chroma(picture.get_pixel(*x, *y))).collect();
            let (cb, cr) = (all.iter().map(|c| c.1).sum::<f64>() / 4.0, all.iter().map(|c| c.2).sum::<f64>() / 4.0);
            for ((x, y), (luma, ..)) in block.iter().zip(&all) {
                let (r, b) = (luma + 1.402 * cr, luma + 1.772 * cb);
                let g = (luma - 0.299 * r - 0.114 * b) / 0.587;
                half.put_pixel(*x, *y, Rgb([r, g, b].map(|v| v.round().clamp(0.0, 255.0) as u8)));
            }
        }
    }
    let mut bytes = Vec::new();
    image::codecs::jpeg::JpegEncoder::new_with_quality(&mut bytes, quality).encode_image(&half).unwrap();
    of_colour(&image::load_from_memory(&bytes).unwrap().to_rgb8())
}

fn of_colour(picture: &RgbImage) -> Artwork {
    let mut bytes = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    Artwork::decode(&bytes.into_inner(), &Watch::default()).unwrap()
}

/// Shapes in flat colours over each other on a ground.
fn painted(size: u32, ground: [f64; 3], layers: &[(&Shape, [f64; 3])]) -> RgbImage {
    let mut all = vec![ground; (size * size) as usize];
    for (shape, colour) in layers {
        for (to, c) in all.iter_mut().zip(shape.coverage()) {
            (0..3).for_each(|k| to[k] += (colour[k] - to[k]) * f64::from(c));
        }
    }
    RgbImage::from_fn(size, size, |x, y| Rgb(all[(y * size + x) as usize].map(|v| v.round() as u8)))
}

fn traced(art: &Artwork) -> (TraceSettings, Contours) {
    let settings = first_guess(art);
    let contours = trace(art, &settings, &Watch::default()).unwrap();
    (settings, contours)
}

fn nodes(c: &Contours) -> usize {
    c.contours.iter().map(|c| c.curve.nodes()).sum()
}

/// Three shapes of the set over each other, and a small one.
fn logo(size: u32) -> (Shape, RgbImage) {
    let base = shape(&file("mdi-octagon"), size, 0.0);
    let star = shape(&file("mdi-star"), size, 0.0);
    let small = |s: &Shape, k: f64, x: f64, y: f64| {
        let move_to = |p: &Point<Px>| Point::new(p.x * k + x, p.y * k + y);
        Shape {
            name: String::new(),
            curves: s.curves.iter().map(|c| c.map(|p| move_to(&p))).collect(),
            rings: s.rings.iter().map(|r| Ring(r.0.iter().map(move_to).collect())).collect(),
            size: s.size,
        }
    };
    let n = f64::from(size);
    let star_in = small(&star, 0.5, 0.25 * n, 0.2 * n);
    let dot = small(&base, 0.2, 0.4 * n, 0.65 * n);
    let grain = small(&base, 0.068, 0.2 * n, 0.45 * n);
    let picture = painted(
        size,
        [255.0; 3],
        &[
            (&base, [38.0, 70.0, 140.0]),
            (&star_in, [217.0, 151.0, 79.0]),
            (&dot, [178.0, 58.0, 72.0]),
            (&grain, [230.0, 225.0, 210.0]),
        ],
    );
    (base, picture)
}

/// A letter, sharp corners, straight and round sides, thin strokes.
const SHAPES: [&str; 5] =
    ["bootstrap-alphabet", "mdi-star", "mdi-elephant", "phosphor-acorn-fill", "mdi-music-clef-treble"];

#[test]
fn compressed_ink_gets_as_many_nodes_as_clean_ink_and_no_crumbs() {
    let mut shares = Vec::new();
    for name in SHAPES {
        let shape = shape(&file(name), 512, 0.0);
        for ink in [[20.0; 3], [190.0, 40.0, 40.0], [190.0, 205.0, 180.0]] {
            let clean = painted(512, [250.0; 3], &[(&shape, ink)]);
            let (_, plain) = traced(&of_colour(&clean));
            for (quality, most) in [(85, 0.08), (70, 0.1), (40, 0.14)] {
                let (settings, c) = traced(&jpeg(&clean, quality));
                let what = format!("{name}, {ink:?}, quality {quality}");
                assert_eq!(settings.ink, Ink::LightDark, "{what}");
                assert_eq!((c.contours.len(), c.specks), (plain.contours.len(), 0), "{what}");
                let share = nodes(&c) as f64 / nodes(&plain) as f64;
                assert!(
                    share <= if name == "bootstrap-alphabet" && quality >= 70 { 1.5 } else { 1.8 },
                    "{what}: {share}"
                );
                shares.push(share);
                let curves: Vec<Curve<Px>> = c.contours.iter().map(|c| c.curve.clone()).collect();
                let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
                let score = shape.score(&curves, &rings);
                assert!(score.rings_are_right && score.mean <= most, "{what}: {score:?}");
            }
        }
    }
    let mean = shares.iter().sum::<f64>() / shares.len() as f64;
    assert!(mean <= 1.2, "{mean}");
}

#[test]
fn every_colour_of_a_compressed_logo_is_found_and_its_outside_is_smooth() {
    for size in [400, 512, 700] {
        let (base, picture) = logo(size);
        let (_, plain) = traced(&of_colour(&picture));
        for quality in [85, 70, 55, 40] {
            let (settings, c) = traced(&jpeg(&picture, quality));
            let what = format!("{size} px, quality {quality}");
            assert_eq!(settings.ink, Ink::Colours, "{what}");
            // The smallest has 0.2 % of the pixels; none is made of the blends and waves along the borders.
            let palette: Vec<[u8; 3]> = c.palette.iter().map(|s| s.colour).collect();
            assert_eq!(palette.len(), 5, "{what}: {palette:?}");
            assert_eq!(c.contours.len(), 4, "{what}: crumbs");
            assert!(nodes(&c) <= nodes(&plain) * 2, "{what}: {} nodes of {}", nodes(&c), nodes(&plain));
            let outer = c.contours.iter().filter(|c| c.parent.is_none());
            let curves: Vec<Curve<Px>> = outer.map(|c| c.curve.clone()).collect();
            let rings: Vec<Ring<Px>> = curves.iter().map(|c| c.ring(0.005)).collect();
            let score = base.score(&curves, &rings);
            assert!(score.mean <= 0.05 && score.p95 <= 0.25, "{what}: {score:?}");
        }
    }
}
