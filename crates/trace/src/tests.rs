use super::*;
use kachel_artwork::{Artwork, Picture};
use kachel_geom::{Curve, Px, Ring, Watch};
use kachel_oracle::{Random, for_all};
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
    Artwork::Picture(Picture::of_grey(size, size, grey))
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
    let a = Artwork::Picture(Picture::of_grey(4, 4, grey));
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
    let flat = |g| Artwork::Picture(Picture::of_grey(9, 9, vec![g; 81]));
    assert!(matches!(run(&flat(200), &TraceSettings::default()), Err(TraceError::OneColour)));
    let one = Artwork::Picture(Picture::of_grey(1, 1, vec![0]));
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
    let a = Artwork::Picture(Picture::of_grey(200, 200, grey));
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
fn hairlines_are_guessed_as_pen_lines_and_filled_shapes_are_not() {
    let grey = |w: u32, h: u32, is_ink: &dyn Fn(f64, f64) -> bool| {
        let at = |i: u32| is_ink(f64::from(i % w) + 0.5, f64::from(i / w) + 0.5);
        Artwork::Picture(Picture::of_grey(w, h, (0..w * h).map(|i| if at(i) { 0 } else { 255 }).collect()))
    };
    let ring = |width: f64| move |x: f64, y: f64| ((x - 120.0).hypot(y - 100.0) - 70.0).abs() < width / 2.0;
    assert_eq!(first_guess(&grey(240, 200, &ring(1.4))).ink, Ink::Pen, "one bit, about one pixel wide");
    let drawn = grey(240, 200, &ring(1.4));
    let lines = run(&drawn, &first_guess(&drawn)).unwrap().lines;
    let long: f64 = lines.iter().map(|l| l.curve.ring(0.05).perimeter()).sum();
    assert!(lines.len() == 1 && (long / (TAU * 70.0) - 1.0).abs() < 0.02, "{} lines, {long}", lines.len());
    assert_eq!(first_guess(&grey(240, 200, &ring(9.0))).ink, Ink::LightDark, "line art");
    assert_eq!(first_guess(&grey(240, 200, &|x, y| (x - 120.0).hypot(y - 100.0) < 70.0)).ink, Ink::LightDark);
    let mut dust = Random::new(3);
    let dust: Vec<bool> = (0..240 * 200).map(|_| dust.below(300) == 0).collect();
    let specks = grey(240, 200, &|x, y| dust[y as usize * 240 + x as usize]);
    assert_eq!(first_guess(&specks).ink, Ink::LightDark, "specks are no strokes");
}

#[test]
fn a_blank_picture_is_traced_by_hand() {
    let blank = Artwork::Picture(Picture::of_grey(60, 40, vec![250; 2400]));
    let settings = first_guess(&blank);
    assert_eq!(settings.ink, Ink::None);
    let nothing = run(&blank, &settings).unwrap();
    assert!(nothing.contours.is_empty() && nothing.lines.is_empty());
    assert_eq!((nothing.width, nothing.height), (60.0, 40.0));
    // Whatever is in the picture, by hand means by hand.
    let disc = render(64, |x, y| (x - 32.0).hypot(y - 32.0) < 20.0);
    assert!(run(&disc, &settings).unwrap().contours.is_empty());
}

#[test]
fn the_first_guess_looks_at_border_and_transparency() {
    let dark_border = render(64, |x, y| (x - 32.0).hypot(y - 32.0) > 20.0);
    assert!(first_guess(&dark_border).invert);
    let white_on_clear = Artwork::Picture(Picture {
        alpha: Some((0..64).map(|i| if i % 8 < 4 { 255 } else { 0 }).collect()),
        ..Picture::of_grey(8, 8, vec![255; 64])
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
    for_all(60, |random| {
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
                assert!((ink_area(&c) - dark).abs() < 1e-3, "{} against {dark}", ink_area(&c));
                for (y, x) in (0..20).flat_map(|y| (0..20).map(move |x| (y, x))) {
                    let at = kachel_geom::Point::new(x as f64 + 0.5, y as f64 + 0.5);
                    let inside = c.contours.iter().filter(|c| c.ring.contains(at)).count() % 2 == 1;
                    assert_eq!(inside, cells[y][x], "at {x}, {y}");
                }
            }
            Err(TraceError::NoInk) => assert_eq!(dark, 0.0),
            Err(TraceError::AllInk) => assert_eq!(dark, 400.0),
            Err(e) => panic!("{e}"),
        }
    });
}

#[test]
fn noise_keeps_its_nesting() {
    for_all(20, |random| {
        let grey: Vec<u8> = (0..64 * 64).map(|_| random.bits() as u8).collect();
        let a = Artwork::Picture(Picture::of_grey(64, 64, grey));
        let c = run(&a, &TraceSettings { min_area: 0.0, deviation: 0.0, ..Default::default() }).unwrap();
        for (i, contour) in c.contours.iter().enumerate() {
            // Ink and gap alternate; a contour comes after its parent and lies within its box.
            match contour.parent {
                None => assert!(contour.is_ink),
                Some(p) => {
                    assert!(p < i && c.contours[p].is_ink != contour.is_ink);
                    let (inner, outer) = (contour.ring.bounds().unwrap(), c.contours[p].ring.bounds().unwrap());
                    assert!(outer.contains(inner.min) && outer.contains(inner.max));
                }
            }
            assert_eq!(contour.ring.area() < 0.0, contour.is_ink, "ink lies on the left");
        }
    });
}

#[test]
fn too_many_contours_are_refused() {
    let grey: Vec<u8> =
        (0..600u32 * 600).map(|i| if (i % 600) % 6 < 3 && (i / 600) % 6 < 3 { 0 } else { 255 }).collect();
    let a = Artwork::Picture(Picture::of_grey(600, 600, grey));
    let all = TraceSettings { min_area: 0.0, ..Default::default() };
    assert!(matches!(run(&a, &all), Err(TraceError::TooManyRings { rings: 10_000 })));
    assert!(matches!(run(&a, &TraceSettings::default()), Err(TraceError::NoInk)));
}

/// A colour and where it lies.
type Painted<'a> = ([u8; 3], &'a dyn Fn(f64, f64) -> bool);

/// Renders coloured areas, later ones over earlier, with 8 x 8 samples a pixel.
fn render_colours(size: u32, areas: &[Painted]) -> Artwork {
    let mut colour = Vec::new();
    for y in 0..size {
        for x in 0..size {
            let mut sum = [0u32; 3];
            for i in 0..64 {
                let at = |base: u32, k: u32| f64::from(base) + (f64::from(k) + 0.5) / 8.0;
                let (px, py) = (at(x, i % 8), at(y, i / 8));
                let seen = areas.iter().rev().find(|(_, inside)| inside(px, py)).map_or([255; 3], |a| a.0);
                (0..3).for_each(|k| sum[k] += u32::from(seen[k]));
            }
            colour.push(sum.map(|s| ((s + 32) / 64) as u8));
        }
    }
    Artwork::Picture(Picture::of_colour(size, size, colour))
}

fn by_colour() -> TraceSettings {
    TraceSettings { ink: Ink::Colours, ..Default::default() }
}

const NAVY: [u8; 3] = [20, 40, 110];
const RED: [u8; 3] = [200, 40, 30];
const CREAM: [u8; 3] = [250, 235, 190];
const GREEN: [u8; 3] = [40, 140, 70];

/// A badge on white paper: a navy disc, in it a cream disc halved by red, and a green star-like square on the middle.
fn badge() -> Artwork {
    let disc = |r: f64| move |x: f64, y: f64| (x - 120.3).hypot(y - 118.8) < r;
    let half = move |x: f64, y: f64| disc(70.4)(x, y) && y > 118.8 + 0.2 * (x - 120.3);
    let square = |x: f64, y: f64| (x - 120.3).abs() + (y - 118.8).abs() < 30.0;
    render_colours(240, &[(NAVY, &disc(100.2)), (CREAM, &disc(70.4)), (RED, &half), (GREEN, &square)])
}

#[test]
fn a_flat_picture_gives_its_own_colours_and_no_blends() {
    let c = run(&badge(), &by_colour()).unwrap();
    let mut found: Vec<[u8; 3]> = c.palette.iter().map(|s| s.colour).collect();
    found.sort_unstable();
    let mut truth = vec![NAVY, RED, CREAM, GREEN, [255, 255, 255]];
    truth.sort_unstable();
    assert_eq!(found, truth);
    assert_eq!(c.palette.iter().filter(|s| s.is_ground).map(|s| s.colour).collect::<Vec<_>>(), [[255, 255, 255]]);
    // Navy ring, cream half, red half, green square: the ground is left out.
    assert_eq!(c.contours.len(), 4, "{:?}", c.contours.iter().map(|c| (c.colour, c.ring.area())).collect::<Vec<_>>());
    let area = |colour: [u8; 3]| {
        let k = c.palette.iter().position(|s| s.colour == colour).unwrap();
        let all = c.contours.iter().filter(|c| c.colour == Some(k as u8));
        -all.map(|c| c.curve.area() + c.holes.iter().map(Curve::area).sum::<f64>()).sum::<f64>()
    };
    let disc = |r: f64| PI * r * r;
    let square = 2.0 * 30.0 * 30.0;
    for (colour, truth, border) in [
        (NAVY, disc(100.2) - disc(70.4), TAU * 170.6),
        (GREEN, square, 170.0),
        (CREAM, (disc(70.4) - square) / 2.0, 380.0),
        (RED, (disc(70.4) - square) / 2.0, 380.0),
    ] {
        let error = (area(colour) - truth).abs() / border;
        assert!(error < 0.1, "{colour:?}: {error} px");
    }
    assert_eq!(c.contours[0].holes.len(), 1, "one hole in the navy ring, although three areas lie in it");
}

#[test]
fn cream_on_white_is_a_colour_of_its_own() {
    let disc = |r: f64| move |x: f64, y: f64| (x - 60.0).hypot(y - 60.0) < r;
    let (red, cream) = ([170, 40, 50], [250, 246, 236]);
    let a = render_colours(120, &[([255; 3], &|_, _| true), (red, &disc(50.0)), (cream, &disc(30.0))]);
    let c = run(&a, &by_colour()).unwrap();
    let mut found: Vec<[u8; 3]> = c.palette.iter().map(|s| s.colour).collect();
    found.sort_unstable();
    assert_eq!(found, [red, cream, [255; 3]]);
    assert_eq!(c.contours.len(), 2);
}

#[test]
fn small_areas_of_colour_go_to_their_neighbours_and_are_shown() {
    let disc = |x: f64, y: f64, r: f64| move |u: f64, v: f64| (u - x).hypot(v - y) < r;
    let (big, dot, hole) = (disc(60.0, 60.0, 45.0), disc(60.0, 60.0, 1.6), disc(80.0, 60.0, 1.7));
    let a = render_colours(120, &[([255; 3], &|_, _| true), (NAVY, &big), (RED, &dot), ([255; 3], &hole)]);
    let c =
        run(&a, &TraceSettings { colours: ColourSettings { picked: vec![RED], ..Default::default() }, ..by_colour() });
    let c = c.unwrap();
    assert_eq!((c.contours.len(), c.specks, c.pinholes, c.dropped.len()), (1, 1, 1, 2));
    assert!(c.contours[0].holes.is_empty());
    let at: Vec<_> = c.dropped.iter().map(|d| d.bounds(0.1).unwrap().centre()).collect();
    assert!(at.iter().any(|p| p.distance(kachel_geom::Point::new(60.0, 60.0)) < 1.5), "{at:?}");
}

#[test]
fn areas_of_colour_tile_the_picture_exactly() {
    let settings = TraceSettings { colours: ColourSettings { with_ground: true, ..Default::default() }, ..by_colour() };
    let c = run(&badge(), &settings).unwrap();
    let all: f64 = c.contours.iter().map(|c| c.curve.area() + c.holes.iter().map(Curve::area).sum::<f64>()).sum();
    // Shared borders are the same curves run both ways, so that nothing but rounding is left.
    assert!((all + 240.0 * 240.0).abs() < 1e-6, "{all}");
}

#[test]
fn colours_are_counted_merged_picked_and_the_ground_changed() {
    let count = |s: ColourSettings| {
        let c = run(&badge(), &TraceSettings { colours: s, ..by_colour() }).unwrap();
        (c.palette.len(), c.contours.len())
    };
    assert_eq!(count(ColourSettings { count: Some(2), ..Default::default() }).0, 2);
    let merged = ColourSettings { merged: vec![[RED, CREAM]], ..Default::default() };
    assert_eq!(count(merged).1, 3, "red and cream are one disc");
    let other = ColourSettings { ground: Some(NAVY), ..Default::default() };
    let c = run(&badge(), &TraceSettings { colours: other, ..by_colour() }).unwrap();
    // The paper is ink now; the navy ring is a gap in it.
    assert!(c.contours.iter().any(|c| !c.is_ink && c.parent.is_some()));
    let picked = ColourSettings { picked: vec![[255, 0, 255]], ..Default::default() };
    assert!(
        run(&badge(), &TraceSettings { colours: picked, ..by_colour() })
            .unwrap()
            .palette
            .iter()
            .any(|s| s.colour == [255, 0, 255])
    );
}

#[test]
fn what_is_transparent_is_ground_by_colour_too() {
    // A white disc on nothing: over white paper it would be lost.
    let n = 64u32;
    let alpha: Vec<u8> = (0..n * n)
        .map(|i| if (f64::from(i % n) - 31.5).hypot(f64::from(i / n) - 31.5) < 20.0 { 255 } else { 0 })
        .collect();
    let p = Picture { alpha: Some(alpha), ..Picture::of_grey(n, n, vec![255; (n * n) as usize]) };
    let c = run(&Artwork::Picture(p), &by_colour()).unwrap();
    assert_eq!(c.contours.len(), 1);
    assert!((c.contours[0].ring.area().abs() - PI * 400.0).abs() < 40.0);
}

#[test]
fn a_drawing_keeps_its_own_curves_and_colours() {
    let text = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><rect width='100' height='100' fill='#ffffff'/>
      <g id='eyes'><circle cx='30' cy='30' r='10' fill='#204080'/></g><path d='M50 50C60 40 80 40 90 50L70 90Z' fill='#c02010'/></svg>";
    let c = run(&svg(text), &by_colour()).unwrap();
    assert_eq!(c.contours.len(), 2);
    // usvg makes four cubics of a circle; the path has a cubic and two lines.
    let mut nodes: Vec<usize> = c.contours.iter().map(|c| c.curve.nodes()).collect();
    nodes.sort_unstable();
    assert_eq!(nodes, [3, 4]);
    let dark = run(&svg(text), &TraceSettings::default()).unwrap();
    assert!(dark.contours.iter().any(|c| c.curve.nodes() == 3));
}

fn pen() -> TraceSettings {
    TraceSettings { ink: Ink::Pen, ..Default::default() }
}

/// Distance from a segment.
fn off(x: f64, y: f64, a: (f64, f64), b: (f64, f64)) -> f64 {
    let p = |(x, y)| kachel_geom::Point::<Px>::new(x, y);
    p((x, y)).distance_to_segment(p(a), p(b))
}

#[test]
fn pen_lines_run_in_the_middle_and_join_at_crossings() {
    let (a, b) = ((30.0, 40.0), (170.0, 150.0));
    let (c, d) = ((40.0, 160.0), (160.0, 30.0));
    let art = render(200, |x, y| off(x, y, a, b) < 4.0 || off(x, y, c, d) < 4.0);
    let found = run(&art, &pen()).unwrap();
    assert_eq!(found.lines.len(), 2, "two strokes that cross are two lines: {:?}", found.lines);
    for line in &found.lines {
        assert!((line.width - 8.0).abs() < 0.5, "{}", line.width);
        for p in line.curve.flatten(0.05) {
            let nearest = off(p.x, p.y, a, b).min(off(p.x, p.y, c, d));
            assert!(nearest < 0.4, "{p:?} is {nearest} px off the middle");
        }
        let ends = [line.curve.start, line.curve.end()];
        for e in ends {
            let near = [a, b, c, d].iter().map(|t| (e.x - t.0).hypot(e.y - t.1)).fold(9.0, f64::min);
            assert!(near < 1.0, "{e:?} ends {near} px from where the stroke does");
        }
    }
    // Given their own width again they cover what was drawn.
    let again = inked(&found, PenWidth::Drawn, &Watch::default()).unwrap();
    let truth = run(&art, &TraceSettings::default()).unwrap();
    assert!((ink_area(&again) - ink_area(&truth)).abs() < ink_area(&truth) * 0.02);
}

#[test]
fn a_ring_drawn_with_a_pen_is_one_closed_line() {
    let art = render(160, |x, y| ((x - 80.0).hypot(y - 80.0) - 50.0).abs() < 3.0);
    let found = run(&art, &pen()).unwrap();
    assert_eq!(found.lines.len(), 1);
    assert!(found.lines[0].curve.is_closed());
    assert!(found.lines[0].curve.flatten(0.05).iter().all(|p| ((p.x - 80.0).hypot(p.y - 80.0) - 50.0).abs() < 0.4));
    let wide = inked(&found, PenWidth::Pixels(10.0), &Watch::default()).unwrap();
    assert_eq!(wide.contours.len(), 2);
    let truth = PI * (55.0f64.powi(2) - 45.0f64.powi(2));
    assert!((ink_area(&wide) - truth).abs() < truth * 0.01, "{} against {truth}", ink_area(&wide));
}

#[test]
fn unpainted_lines_of_a_drawing_become_pen_lines() {
    let text = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><path d='M10 10C40 0 60 90 90 50' fill='none'/></svg>";
    assert!(matches!(run(&svg(text), &TraceSettings::default()), Err(TraceError::NothingPainted { lines: 1 })));
    let found = run(&svg(text), &pen()).unwrap();
    assert_eq!(found.lines.len(), 1);
    assert_eq!(found.lines[0].curve.nodes(), 1, "its own curve");
}

#[test]
fn pinholes_are_filled_and_counted() {
    let a = render(128, |x, y| (x - 64.0).hypot(y - 64.0) < 40.0 && (x - 70.0).hypot(y - 60.0) > 1.4);
    let c = run(&a, &TraceSettings::default()).unwrap();
    assert_eq!((c.contours.len(), c.pinholes, c.dropped.len()), (1, 1, 1));
    assert_eq!(run(&a, &TraceSettings { min_gap: 0.0, ..Default::default() }).unwrap().contours.len(), 2);
}

#[test]
fn an_octagon_keeps_its_eight_corners_and_a_circle_has_none() {
    let inside = |x: f64, y: f64| {
        (0..8).all(|k| {
            let a = f64::from(k) * TAU / 8.0 + 0.2;
            (x - 64.0) * a.cos() + (y - 64.0) * a.sin() < 45.0
        })
    };
    let c = run(&render(128, inside), &TraceSettings::default()).unwrap();
    assert_eq!(c.contours[0].curve.nodes(), 8);
    assert!(c.contours[0].curve.segments.iter().all(|s| matches!(s, kachel_geom::Segment::Line(_))));
    let truth = 45.0 / (PI / 8.0).cos();
    for p in c.contours[0].curve.node_points() {
        assert!(((p.x - 64.0).hypot(p.y - 64.0) - truth).abs() < 0.2, "{p:?}");
    }
}

/// A shape of a random picture: disc, half plane, ring or square.
fn random_shape(random: &mut Random, size: f64) -> Box<dyn Fn(f64, f64) -> bool> {
    let (cx, cy) = (random.between(0.25, 0.75) * size, random.between(0.25, 0.75) * size);
    let r = random.between(0.12, 0.3) * size;
    let a = random.between(0.0, TAU);
    match random.below(4) {
        0 => Box::new(move |x, y| (x - cx).hypot(y - cy) < r),
        1 => Box::new(move |x, y| (x - cx) * a.cos() + (y - cy) * a.sin() < 0.0),
        2 => Box::new(move |x, y| ((x - cx).hypot(y - cy) - r).abs() < r * 0.3),
        _ => Box::new(move |x, y| {
            let (u, v) = ((x - cx) * a.cos() + (y - cy) * a.sin(), (y - cy) * a.cos() - (x - cx) * a.sin());
            u.abs().max(v.abs()) < r
        }),
    }
}

#[test]
fn borders_between_colours_lie_where_they_were_drawn() {
    const COLOURS: [[u8; 3]; 7] = [[255, 255, 255], NAVY, RED, GREEN, [240, 200, 60], [120, 60, 140], [30, 160, 180]];
    let mut all = 0.0;
    for seed in 1..=8 {
        let mut random = Random::new(seed);
        let size = 160u32;
        let count = 3 + random.below(5);
        let shapes: Vec<_> = (1..count).map(|k| (COLOURS[k], random_shape(&mut random, f64::from(size)))).collect();
        let areas: Vec<Painted> = shapes.iter().map(|(c, f)| (*c, f.as_ref() as _)).collect();
        let truth = |x: f64, y: f64| areas.iter().rev().find(|(_, f)| f(x, y)).map_or([255; 3], |a| a.0);
        let settings = TraceSettings {
            colours: ColourSettings { with_ground: true, ..Default::default() },
            min_area: 6.0,
            min_gap: 6.0,
            ..by_colour()
        };
        let c = run(&render_colours(size, &areas), &settings).unwrap();
        let rings: Vec<Vec<Ring<Px>>> = c
            .contours
            .iter()
            .map(|k| std::iter::once(&k.curve).chain(&k.holes).map(|c| c.ring(0.01)).collect())
            .collect();
        let found = |p| {
            let at = rings.iter().position(|r| r.iter().filter(|r| r.contains(p)).count() % 2 == 1);
            at.map(|k| c.palette[usize::from(c.contours[k].colour.unwrap())].colour)
        };
        // Wrong area by length of border, both counted on a fine grid (Crofton's formula for the length).
        let (mut wrong, mut crossings) = (0.0, 0.0);
        let step = 0.5;
        let steps = (f64::from(size) / step) as u32;
        for j in 0..steps {
            for i in 0..steps {
                let (x, y) = ((f64::from(i) + 0.5) * step, (f64::from(j) + 0.5) * step);
                let here = truth(x, y);
                crossings +=
                    f64::from(u8::from(truth(x + step, y) != here)) + f64::from(u8::from(truth(x, y + step) != here));
                if found(kachel_geom::Point::new(x, y)) != Some(here) {
                    wrong += step * step;
                }
            }
        }
        let error = wrong / (crossings * step * PI / 4.0);
        all += error / 8.0;
        assert!(error < 0.15, "seed {seed}, {count} colours: {error} px");
    }
    assert!(all < 0.1, "{all} px on average");
}

/// The grey picture blurred by a Gaussian of that deviation.
fn blurred(a: &Artwork, size: u32, deviation: f32) -> Artwork {
    let Artwork::Picture(p) = a else { panic!("a picture") };
    let image = image::GrayImage::from_raw(size, size, p.grey.clone()).unwrap();
    Artwork::Picture(Picture::of_grey(size, size, image::imageops::blur(&image, deviation).into_raw()))
}

#[test]
fn small_round_tips_in_a_blurred_picture_are_no_corners() {
    let deviation = 1.5;
    for r in [5.0, 6.5, 9.0, 14.0] {
        // A rod with round ends and, in a plate beside it, a round hole of the same radius.
        let (x0, y0, x1, y1) = (40.3, 44.7, 110.0, 80.2);
        let hole = (150.6, 150.2);
        let a = render(220, |x, y| {
            let plate = (110.0..200.0).contains(&x) && (110.0..200.0).contains(&y);
            off(x, y, (x0, y0), (x1, y1)) < r || (plate && (x - hole.0).hypot(y - hole.1) > r)
        });
        let c = run(&blurred(&a, 220, deviation), &TraceSettings::default()).unwrap();
        let rod = c.contours.iter().find(|c| c.is_ink && c.ring.contains(kachel_geom::Point::new(70.0, 60.0))).unwrap();
        // Blur draws round borders in by about half of its variance over the radius.
        let recess = f64::from(deviation * deviation) / (2.0 * r);
        let worst = |c: &Contour, far: &dyn Fn(f64, f64) -> f64, truth: f64| {
            c.ring.0.iter().map(|p| (far(p.x, p.y) - truth).abs()).fold(0.0, f64::max)
        };
        let miss = worst(rod, &|x, y| off(x, y, (x0, y0), (x1, y1)), r);
        assert!(miss < recess + 0.35, "rod of radius {r}: {miss} px off");
        let gap = c.contours.iter().find(|c| !c.is_ink).unwrap();
        let miss = worst(gap, &|x, y| (x - hole.0).hypot(y - hole.1), r - recess);
        assert!(miss < 0.3, "hole of radius {r}: {miss} px off");
    }
    // A square as small keeps its four corners.
    for side in [14.0, 20.0] {
        let a = render(64, |x, y| (x - 32.2).abs() < side / 2.0 && (y - 31.6).abs() < side / 2.0);
        let c = run(&blurred(&a, 64, deviation), &TraceSettings::default()).unwrap();
        assert_eq!(c.contours[0].curve.nodes(), 4, "a square of {side} px");
        assert!((ink_area(&c) - side * side).abs() < 0.04 * side * side, "{} px2 of {side} squared", ink_area(&c));
    }
}

#[test]
fn what_leaves_the_picture_ends_at_its_border() {
    // Arms that bend as they leave, blurred: beside the corner at the border no point says how the curve ends.
    let size = 200;
    for bend in [0.0, 0.004, -0.004, 0.008] {
        let a = render(size, |x, y| (y - 100.0 - bend * (x - 120.0).powi(2)).abs() < 24.0 && x > 30.0);
        let c = run(&blurred(&a, size, 1.5), &TraceSettings::default()).unwrap();
        for p in &c.contours[0].ring.0 {
            assert!((0.0..=f64::from(size) + 0.05).contains(&p.x), "bend {bend}: {} {} lies outside", p.x, p.y);
        }
        let truth = 48.0 * 170.0;
        assert!((ink_area(&c) / truth - 1.0).abs() < 0.01, "bend {bend}: {} px2, not {truth}", ink_area(&c));
    }
}
