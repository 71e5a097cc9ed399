use super::*;
use kachel_artwork::Picture;
use kachel_geom::testing::Random;
use std::f64::consts::{PI, TAU};

/// Renders a shape with 8 x 8 samples a pixel: dark 20 on light 240.
fn render(size: u32, inside: impl Fn(f64, f64) -> bool) -> Artwork {
    let mut grey = Vec::new();
    for y in 0..size {
        for x in 0..size {
            let covered = (0..64)
                .filter(|i| {
                    let at = |base: u32, k: u32| f64::from(base) + (f64::from(k) + 0.5) / 8.0;
                    inside(at(x, i % 8), at(y, i / 8))
                })
                .count();
            grey.push((240.0 - 220.0 * covered as f64 / 64.0).round() as u8);
        }
    }
    Artwork::Picture(Picture { width: size, height: size, grey, alpha: None })
}

fn run(a: &Artwork, s: &TraceSettings) -> Result<Contours, TraceError> {
    trace(a, s, &Watch::default())
}

fn svg(text: &str) -> Artwork {
    Artwork::decode(text.as_bytes(), &Watch::default()).unwrap()
}

fn ink_area(c: &Contours) -> f64 {
    // Ink on the left, y down: outer contours have negative shoelace areas.
    -c.contours.iter().map(|c| c.ring.area()).sum::<f64>()
}

#[test]
fn an_antialiased_annulus_has_its_area_and_its_nesting() {
    let (outer, inner) = (100.3, 41.7);
    let a = render(256, |x, y| (inner..outer).contains(&(x - 127.2).hypot(y - 128.6)));
    let c = run(&a, &TraceSettings::default()).unwrap();
    assert_eq!(c.contours.len(), 2);
    assert!(c.contours[0].is_ink && !c.contours[1].is_ink);
    assert_eq!(c.contours[1].parent, Some(0));
    let truth = PI * (outer * outer - inner * inner);
    // Mean boundary error: wrong area by length of boundary.
    let error = (ink_area(&c) - truth).abs() / (TAU * (outer + inner));
    assert!(error < 0.05, "{error} px");
    for (contour, r) in c.contours.iter().zip([outer, inner]) {
        let worst = contour.ring.0.iter().map(|p| ((p.x - 127.2).hypot(p.y - 128.6) - r).abs()).fold(0.0, f64::max);
        assert!(worst < 0.15, "{worst} px off the circle");
        assert!(contour.curve.nodes() <= 8, "{} nodes", contour.curve.nodes());
    }
}

#[test]
fn ink_ends_exactly_at_the_border_of_the_picture() {
    let a = render(64, |x, _| x < 20.0);
    let c = run(&a, &TraceSettings::default()).unwrap();
    let b = c.contours[0].ring.bounds().unwrap();
    assert!((b.min.x, b.min.y).0.abs() < 1e-6 && b.min.y.abs() < 1e-6 && (b.max.y - 64.0).abs() < 1e-6, "{b:?}");
    assert!((b.max.x - 20.0).abs() < 0.02, "{b:?}");
}

#[test]
fn inverting_gives_the_complement() {
    let a = render(128, |x, y| (x - 64.0).hypot(y - 64.0) < 30.0);
    let plain = run(&a, &TraceSettings::default()).unwrap();
    let swapped = run(&a, &TraceSettings { invert: true, ..Default::default() }).unwrap();
    assert!((ink_area(&plain) + ink_area(&swapped) - 128.0 * 128.0).abs() < 1.0);
    assert_eq!(swapped.contours.len(), 2);
}

#[test]
fn a_saddle_gives_rings_that_do_not_touch() {
    let grey = vec![255, 250, 255, 255, 255, 0, 255, 255, 255, 255, 0, 255, 255, 255, 255, 255];
    let a = Artwork::Picture(Picture { width: 4, height: 4, grey, alpha: None });
    let c = run(&a, &TraceSettings { min_area: 0.1, deviation: 0.0, ..Default::default() }).unwrap();
    assert!(c.contours.iter().all(|c| c.is_ink));
}

#[test]
fn specks_are_dropped_and_counted() {
    let a = render(128, |x, y| (x - 64.0).hypot(y - 64.0) < 30.0 || (x - 10.0).hypot(y - 10.0) < 1.5);
    let c = run(&a, &TraceSettings::default()).unwrap();
    assert_eq!((c.contours.len(), c.specks), (1, 1));
}

#[test]
fn the_automatic_cut_lies_midway_between_otsus_classes() {
    // imageproc's Otsu level is the independent reference for the classes.
    let Artwork::Picture(p) = render(128, |x, y| (x - 50.0).hypot(y - 64.0) < 37.0) else { unreachable!() };
    let reference = image::GrayImage::from_raw(128, 128, p.grey.clone()).unwrap();
    let level = imageproc::contrast::otsu_level(&reference);
    let mean = |dark: bool| {
        let class: Vec<f64> = p.grey.iter().filter(|&&g| (g <= level) == dark).map(|&g| f64::from(g)).collect();
        class.iter().sum::<f64>() / class.len() as f64
    };
    let cut = otsu_cut(&p.grey).unwrap();
    assert!((cut.at - f64::midpoint(mean(true), mean(false))).abs() < 1e-9, "{} against level {level}", cut.at);
    assert!((cut.at - 130.0).abs() < 2.0, "half covered is half way between 20 and 240");
}

#[test]
fn pictures_without_a_shape_say_so() {
    let flat = |g| Artwork::Picture(Picture { width: 9, height: 9, grey: vec![g; 81], alpha: None });
    assert!(matches!(run(&flat(200), &TraceSettings::default()), Err(TraceError::OneColour)));
    let one = Artwork::Picture(Picture { width: 1, height: 1, grey: vec![0], alpha: None });
    assert!(matches!(run(&one, &TraceSettings::default()), Err(TraceError::OneColour)));
    let threshold = |t| TraceSettings { threshold: Some(t), ..Default::default() };
    assert!(matches!(run(&flat(200), &threshold(100)), Err(TraceError::NoInk)));
    assert!(matches!(run(&flat(20), &threshold(100)), Err(TraceError::AllInk)));
    let alpha = TraceSettings { ink: Ink::Alpha, ..Default::default() };
    assert!(matches!(run(&flat(20), &alpha), Err(TraceError::NoAlpha)));
    let unpainted =
        svg("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><path fill='none' d='M0 0h9'/></svg>");
    assert!(matches!(run(&unpainted, &TraceSettings::default()), Err(TraceError::NothingPainted { lines: 1 })));
}

#[test]
fn stopping_stops() {
    let a = render(64, |x, _| x < 20.0);
    let watch = Watch::default();
    watch.stop();
    assert!(matches!(trace(&a, &TraceSettings::default(), &watch), Err(TraceError::Stopped(_))));
}

#[test]
fn one_bit_pictures_lose_their_stairs() {
    let grey: Vec<u8> = (0..200u32 * 200).map(|i| if (i % 200) * 3 + (i / 200) < 400 { 0 } else { 255 }).collect();
    let a = Artwork::Picture(Picture { width: 200, height: 200, grey, alpha: None });
    let c = run(&a, &TraceSettings { deviation: 0.5, ..Default::default() }).unwrap();
    assert!(c.contours[0].ring.0.len() <= 8, "{:?}", c.contours[0].ring);
}

#[test]
fn paint_order_decides_what_is_seen() {
    let c = run(
        &svg("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><rect width='100' height='100' fill='white'/>
              <rect x='10' y='10' width='80' height='80'/><rect x='20' y='20' width='60' height='60' fill='#fff'/>
              <rect x='30' y='30' width='20' height='20' fill='#222'/></svg>"),
        &TraceSettings::default(),
    )
    .unwrap();
    assert_eq!(
        c.contours.iter().map(|c| (c.is_ink, c.parent)).collect::<Vec<_>>(),
        [(true, None), (false, Some(0)), (true, Some(1))]
    );
    assert!((ink_area(&c) - (6400.0 - 3600.0 + 400.0)).abs() < 1e-3);
}

#[test]
fn drawings_agree_with_an_independent_renderer() {
    // resvg's pixels at 4 times the size are the reference for fills, strokes, rules, clips and order.
    let text = r##"<svg xmlns="http://www.w3.org/2000/svg" width="120" height="90" viewBox="0 0 120 90">
      <rect width="120" height="90" fill="#fafafa"/>
      <path fill-rule="evenodd" d="M10 10H60V60H10ZM25 25H45V45H25Z" fill="#111"/>
      <g transform="rotate(15 80 40)"><ellipse cx="85" cy="40" rx="25" ry="15" fill="#303030"/>
        <path d="M65 40 C75 20 95 60 105 40" stroke="white" stroke-width="4" fill="none" stroke-linecap="round"/></g>
      <circle cx="30" cy="70" r="12" fill="none" stroke="#000" stroke-width="5" stroke-dasharray="9 4"/>
      <clipPath id="c"><rect x="70" y="60" width="30" height="14"/></clipPath>
      <polygon clip-path="url(#c)" points="60,88 85,55 110,88" fill="#224422"/>
    </svg>"##;
    let c = run(&svg(text), &TraceSettings { min_area: 0.0, deviation: 0.0, ..Default::default() }).unwrap();
    let scale = 4u32;
    let tree = resvg::usvg::Tree::from_str(text, &resvg::usvg::Options::default()).unwrap();
    let mut pixels = resvg::tiny_skia::Pixmap::new(120 * scale, 90 * scale).unwrap();
    let zoom = resvg::tiny_skia::Transform::from_scale(scale as f32, scale as f32);
    resvg::render(&tree, zoom, &mut pixels.as_mut());
    let (mut wrong, mut dark) = (0.0, 0.0);
    for y in 0..90 * scale {
        for x in 0..120 * scale {
            let at = centre(x, y, scale);
            let inside = c.contours.iter().filter(|c| c.ring.contains(at)).count() % 2 == 1;
            let seen = pixels.pixel(x, y).unwrap().red() < 128;
            dark += f64::from(u8::from(seen));
            wrong += f64::from(u8::from(seen != inside));
        }
    }
    assert!(wrong / dark < 0.004, "{wrong} of {dark} dark pixels differ");
}

fn centre(x: u32, y: u32, scale: u32) -> kachel_geom::Point<Px> {
    let at = |v: u32| (f64::from(v) + 0.5) / f64::from(scale);
    kachel_geom::Point::new(at(x), at(y))
}

#[test]
fn the_first_guess_looks_at_border_and_transparency() {
    let dark_border = render(64, |x, y| (x - 32.0).hypot(y - 32.0) > 20.0);
    assert!(first_guess(&dark_border).invert);
    let white_on_clear = Artwork::Picture(Picture {
        width: 8,
        height: 8,
        grey: vec![255; 64],
        alpha: Some((0..64).map(|i| if i % 8 < 4 { 255 } else { 0 }).collect()),
    });
    assert_eq!(first_guess(&white_on_clear).ink, Ink::Alpha);
    let white_lines = svg(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><circle cx='4' cy='4' r='3' fill='#fff'/></svg>",
    );
    assert_eq!(run(&white_lines, &first_guess(&white_lines)).unwrap().contours.len(), 1);
    assert_eq!(run(&white_on_clear, &first_guess(&white_on_clear)).unwrap().contours.len(), 1);
}

#[test]
fn paint_order_of_many_rectangles_is_that_of_painted_cells() {
    // Independent of the combiner: each rectangle painted into an array of cells.
    for seed in 1..=60 {
        let mut random = Random::new(seed);
        let mut cells = [[false; 20]; 20];
        let mut body = String::new();
        for _ in 0..25 {
            let (x, y) = (random.below(18), random.below(18));
            let (w, h) = (1 + random.below(20 - x), 1 + random.below(20 - y));
            let dark = random.below(2) == 0;
            cells[y..y + h].iter_mut().for_each(|row| row[x..x + w].fill(dark));
            let fill = if dark { "#111" } else { "#eee" };
            body += &format!("<rect x='{x}' y='{y}' width='{w}' height='{h}' fill='{fill}'/>");
        }
        let drawing = svg(&format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 20 20'>{body}</svg>"));
        let settings = TraceSettings { min_area: 0.0, deviation: 0.0, ..Default::default() };
        let dark = cells.iter().flatten().filter(|c| **c).count() as f64;
        match run(&drawing, &settings) {
            Ok(c) => {
                assert!((ink_area(&c) - dark).abs() < 1e-3, "seed {seed}: {} against {dark}", ink_area(&c));
                for (y, x) in (0..20).flat_map(|y| (0..20).map(move |x| (y, x))) {
                    let at = kachel_geom::Point::new(x as f64 + 0.5, y as f64 + 0.5);
                    let inside = c.contours.iter().filter(|c| c.ring.contains(at)).count() % 2 == 1;
                    assert_eq!(inside, cells[y][x], "seed {seed} at {x}, {y}");
                }
            }
            Err(TraceError::NoInk) => assert_eq!(dark, 0.0, "seed {seed}"),
            Err(TraceError::AllInk) => assert_eq!(dark, 400.0, "seed {seed}"),
            Err(e) => panic!("seed {seed}: {e}"),
        }
    }
}

#[test]
fn noise_keeps_its_nesting() {
    for seed in 1..=20 {
        let mut random = Random::new(seed);
        let grey: Vec<u8> = (0..64 * 64).map(|_| random.bits() as u8).collect();
        let a = Artwork::Picture(Picture { width: 64, height: 64, grey, alpha: None });
        let c = run(&a, &TraceSettings { min_area: 0.0, deviation: 0.0, ..Default::default() }).unwrap();
        for (i, contour) in c.contours.iter().enumerate() {
            // Ink and gap alternate; a contour comes after its parent and lies within its box.
            match contour.parent {
                None => assert!(contour.is_ink),
                Some(p) => {
                    assert!(p < i && c.contours[p].is_ink != contour.is_ink, "seed {seed}");
                    let (inner, outer) = (contour.ring.bounds().unwrap(), c.contours[p].ring.bounds().unwrap());
                    assert!(outer.contains(inner.min) && outer.contains(inner.max), "seed {seed}");
                }
            }
            assert_eq!(contour.ring.area() < 0.0, contour.is_ink, "ink lies on the left");
        }
    }
}

#[test]
fn too_many_contours_are_refused() {
    let grey: Vec<u8> =
        (0..600u32 * 600).map(|i| if (i % 600) % 6 < 3 && (i / 600) % 6 < 3 { 0 } else { 255 }).collect();
    let a = Artwork::Picture(Picture { width: 600, height: 600, grey, alpha: None });
    let all = TraceSettings { min_area: 0.0, ..Default::default() };
    assert!(matches!(run(&a, &all), Err(TraceError::TooManyRings { rings: 10_000 })));
    assert!(matches!(run(&a, &TraceSettings::default()), Err(TraceError::NoInk)));
}
