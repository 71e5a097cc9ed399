//! Default objects of the tracing set's shapes: how low their triangles get, and what Check says of them.
//!
//! Slicers drop a triangle whose altitude is lost in a file's rounding. The shapes are openly licensed (their notices lie beside
//! them).

use kachel_engine::{Engine, Run, TierEdit};
use kachel_geom::{GRID_PER_MM, Watch};
use kachel_solid::Mesh;
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// A triangle is no lower, mm: a third of a grid step.
const LEAST_MM: f64 = 1e-5;

/// The lowest altitude of a mesh's triangles, mm, and how many are too low.
fn lowest(mesh: &Mesh) -> (f64, usize) {
    let altitude = |t: &[u32; 3]| {
        let [a, b, c] = t.map(|v| mesh.vertices[v as usize].map(|c| f64::from(c) / GRID_PER_MM));
        let less = |p: [f64; 3], q: [f64; 3]| [0, 1, 2].map(|k| p[k] - q[k]);
        let length = |v: [f64; 3]| v.iter().map(|x| x * x).sum::<f64>().sqrt();
        let (u, v) = (less(b, a), less(c, a));
        let cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        length(cross) / length(u).max(length(v)).max(length(less(c, b)))
    };
    let all: Vec<f64> = mesh.triangles.iter().map(altitude).collect();
    (all.iter().copied().fold(f64::INFINITY, f64::min), all.iter().filter(|a| **a < LEAST_MM).count())
}

/// A shape of the tracing set, black on nothing.
fn pixels(svg: &str, size: u32) -> image::RgbaImage {
    let tree = resvg::usvg::Tree::from_str(svg, &resvg::usvg::Options::default()).unwrap();
    let mut pixels = resvg::tiny_skia::Pixmap::new(size, size).unwrap();
    #[expect(clippy::cast_precision_loss, reason = "a few hundred pixels")]
    let scale = size as f32 / tree.size().width();
    resvg::render(&tree, resvg::tiny_skia::Transform::from_scale(scale, scale), &mut pixels.as_mut());
    image::RgbaImage::from_raw(size, size, pixels.take()).unwrap()
}

/// The shape in an ink on a ground.
fn painted(svg: &str, size: u32, ink: [u8; 3], ground: [u8; 3]) -> image::RgbImage {
    let shape = pixels(svg, size);
    image::RgbImage::from_fn(size, size, |x, y| {
        let share = f32::from(shape.get_pixel(x, y).0[3]) / 255.0;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "between two bytes")]
        let mixed = |k: usize| (f32::from(ground[k]) * (1.0 - share) + f32::from(ink[k]) * share).round() as u8;
        image::Rgb([0, 1, 2].map(mixed))
    })
}

fn png(image: impl Into<image::DynamicImage>) -> Vec<u8> {
    let mut bytes = std::io::Cursor::new(Vec::new());
    image.into().write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    bytes.into_inner()
}

const BLACK: [u8; 3] = [0, 0, 0];
const WHITE: [u8; 3] = [255, 255, 255];

/// Runs a shape's pictures through all recipes as they come; what is to be known of each is told with its picture and recipe.
fn made<T>(
    file: &Path,
    pictures: impl Fn(&str) -> Vec<(&'static str, Vec<u8>)>,
    known: impl Fn(&str, &'static str, &Run) -> T,
) -> Vec<T> {
    let name = file.file_stem().unwrap().to_string_lossy().into_owned();
    let (engine, watch) = (Engine::default(), Watch::default());
    let mut all = vec![];
    for (picture, bytes) in pictures(&std::fs::read_to_string(file).unwrap()) {
        let document = engine.new_document(&name, picture, &bytes, &watch).unwrap();
        let read = || Ok(bytes.clone());
        for recipe in kachel_tiers::RECIPES {
            let edit = TierEdit::SetRecipe { recipe: recipe.kind }.into();
            let document = engine.apply(&document, &[edit], &read, &watch).unwrap().unwrap();
            let run = engine.run(&document, &read, &watch);
            assert!(run.failed.is_none(), "{name} {picture}, {}: {:?}", recipe.name, run.failed);
            all.push(known(&format!("{name} {picture}"), recipe.name, &run));
        }
    }
    all
}

/// The default objects of a shape, read as lines and as pixels: what it is, its lowest triangle and how many are too low.
fn objects(file: &Path) -> Vec<(String, f64, usize)> {
    let pictures =
        |svg: &str| vec![("drawing.svg", svg.as_bytes().to_vec()), ("usual.png", png(painted(svg, 512, BLACK, WHITE)))];
    let meshes = |picture: &str, recipe: &'static str, run: &Run| {
        let solid = &run.solid.as_ref().unwrap().1;
        let low = |mesh: &Mesh| {
            let (lowest, count) = lowest(mesh);
            (format!("{picture}, {recipe}: {lowest:e} mm"), lowest, count)
        };
        solid.parts.iter().map(|p| &p.mesh).chain([&solid.skin]).map(|m| low(m.mesh())).collect::<Vec<_>>()
    };
    made(file, pictures, meshes).into_iter().flatten().collect()
}

fn files() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../trace/conformance/shapes");
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path()).collect();
    files.retain(|f| f.extension().is_some_and(|e| e == "svg"));
    files.sort();
    assert!(files.len() >= 38, "the tracing set");
    files
}

fn look(every: usize) -> Vec<(String, f64, usize)> {
    let files = files();
    let chosen: Vec<_> = files.iter().step_by(every).collect();
    chosen.par_iter().flat_map(|f| objects(f)).collect()
}

#[test]
fn no_triangle_of_a_default_object_is_lower_than_a_hundred_thousandth() {
    let low: Vec<_> = look(6).into_iter().filter(|o| o.2 > 0).collect();
    assert!(low.is_empty(), "{low:?}");
}

/// Run by `make soak`. What remains has its feet two or three steps apart; wider welds would undo corners that slopes need.
#[test]
#[ignore = "all shapes take minutes"]
fn few_triangles_of_all_default_objects_are_lower() {
    let all = look(1);
    let low: Vec<_> = all.iter().filter(|o| o.2 > 0).collect();
    println!("{} of {} meshes hold triangles lower than {LEAST_MM} mm: {low:#?}", low.len(), all.len());
    assert!(low.len() <= all.len() / 100 && low.iter().all(|o| o.1 > LEAST_MM / 4.0), "{low:?}");
}

/// What makers bring of a shape.
fn pictures(svg: &str) -> Vec<(&'static str, Vec<u8>)> {
    let jpeg = |image: image::RgbImage| {
        let mut bytes = Vec::new();
        image.write_with_encoder(image::codecs::jpeg::JpegEncoder::new_with_quality(&mut bytes, 60)).unwrap();
        bytes
    };
    vec![
        ("drawing.svg", svg.as_bytes().to_vec()),
        ("large.png", png(painted(svg, 1000, BLACK, WHITE))),
        ("usual.png", png(painted(svg, 512, BLACK, WHITE))),
        ("small.png", png(painted(svg, 160, BLACK, WHITE))),
        ("inverted.png", png(painted(svg, 512, WHITE, BLACK))),
        ("pale.png", png(painted(svg, 512, [170, 190, 205], [250, 248, 240]))),
        ("clear.png", png(pixels(svg, 400))),
        ("sent.jpg", jpeg(painted(svg, 600, [150, 40, 30], [245, 240, 230]))),
    ]
}

/// Recipes and findings that cannot be printed or used, and why a default object may raise them all the same.
const REASONS: &[(&str, &str, &str)] = &[
    ("free-stack", "several-pieces", "it takes a drawing in pieces as it is"),
    ("magnet", "no-room", "it needs more room than a thin drawing has"),
];

/// What Check says of one object.
struct Told {
    picture: String,
    recipe: &'static str,
    /// Code and weight.
    findings: Vec<(&'static str, &'static str)>,
}

/// What Check says of a shape's pictures in all recipes.
fn told(file: &Path) -> Vec<Told> {
    made(file, pictures, |picture, recipe, run| {
        let findings = run.report.findings.iter().map(|f| (f.code.name(), f.code.weight().name())).collect();
        Told { picture: picture.into(), recipe, findings }
    })
}

/// Printed by `make bench`: 304 pictures in all recipes, and what Check says of them.
#[test]
#[ignore = "takes minutes"]
fn default_objects_of_three_hundred_pictures_can_be_printed() {
    let all: Vec<Told> = files().par_iter().flat_map(|f| told(f)).collect();
    let mut table: BTreeMap<(&str, &str), BTreeMap<&str, usize>> = BTreeMap::new();
    for t in &all {
        for (code, weight) in &t.findings {
            *table.entry((weight, code)).or_default().entry(t.recipe).or_default() += 1;
        }
    }
    let without = all.iter().filter(|t| t.findings.iter().all(|f| f.1 == "note")).count();
    let count = all.len() / kachel_tiers::RECIPES.len();
    println!("{} objects of {count} pictures; nothing to mend in {without}", all.len());
    for ((weight, code), recipes) in &table {
        let list: Vec<String> = recipes.iter().map(|(r, n)| format!("{r} {n}")).collect();
        println!("{weight:<6} {code:<18} {}", list.join(", "));
    }
    for (recipe, code, why) in REASONS {
        println!("{code} of {recipe}: {why}");
    }
    for t in &all {
        let unlisted =
            t.findings.iter().find(|f| f.1 == "fault" && !REASONS.iter().any(|r| (r.0, r.1) == (t.recipe, f.0)));
        assert_eq!(unlisted, None, "{} as {}", t.picture, t.recipe);
    }
}
