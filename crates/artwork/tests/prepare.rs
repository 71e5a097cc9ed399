//! What is done to a picture before it is traced, against formulas and published sizes.

use kachel_artwork::{
    Artwork, ArtworkError, Crop, Frame, Paint, Picture, Prepare, PrepareError, Sheet, Straighten, Stroke, StrokeKind,
    prepare, unevenness,
};
use kachel_geom::{Point, Watch};
use kachel_oracle::Random;

fn done(p: &Picture, how: &Prepare) -> Result<Picture, ArtworkError> {
    match prepare(&Artwork::Picture(p.clone()), how, Paint::default(), &Watch::default())? {
        Some(Artwork::Picture(p)) => Ok(p),
        _ => Ok(p.clone()),
    }
}

fn drawn(width: u32, height: u32, grey: impl Fn(f64, f64) -> f64) -> Picture {
    let at = |i: u32| grey(f64::from(i % width) + 0.5, f64::from(i / width) + 0.5);
    Picture::of_grey(width, height, (0..width * height).map(|i| at(i).round().clamp(0.0, 255.0) as u8).collect())
}

#[test]
fn sheets_have_their_published_sizes() {
    assert_eq!(Sheet::A4.sides(), (297.0, 210.0), "ISO 216, A4");
    assert_eq!(Sheet::Card.sides(), (85.60, 53.98), "ISO/IEC 7810:2019, ID-1");
    assert_eq!(Sheet::Letter.sides(), (279.4, 215.9), "8.5 x 11 in of 25.4 mm, from memory");
}

/// A pinhole camera, by the textbook: points of a table turned about two axes and moved away, then divided by depth.
struct Camera {
    tilt: f64,
    turn: f64,
    away: f64,
}

impl Camera {
    fn sees(&self, [x, y]: [f64; 2]) -> [f64; 2] {
        let (st, ct) = self.turn.sin_cos();
        let (x, y) = (x * ct - y * st, x * st + y * ct);
        let (si, co) = self.tilt.sin_cos();
        let (y, z) = (y * co, self.away + y * si);
        [800.0 + 1400.0 * x / z, 600.0 + 1400.0 * y / z]
    }
}

#[test]
fn a_card_seen_at_a_slant_gives_true_shape_and_true_size() {
    let mut random = Random::new(5);
    for _ in 0..60 {
        let camera = Camera {
            tilt: random.between(-0.7, 0.7),
            turn: random.between(-0.6, 0.6),
            away: random.between(260.0, 420.0),
        };
        let (w, h) = (85.60, 53.98);
        let at = [[-w / 2.0, -h / 2.0], [w / 2.0, -h / 2.0], [w / 2.0, h / 2.0], [-w / 2.0, h / 2.0]];
        let straighten = Straighten { corners: at.map(|p| camera.sees(p).into()), sheet: Sheet::Card };
        let how = Prepare { straighten: Some(straighten), ..Prepare::default() };
        let frame = Frame::of((1600.0, 1200.0), &how).unwrap();
        let mm = frame.mm_per_px.unwrap();
        // Any two points beside the card are as far apart as on the table.
        for _ in 0..20 {
            let [a, b] = [0, 1].map(|_| [random.between(-60.0, 60.0), random.between(-60.0, 60.0)]);
            let [p, q] = [a, b].map(|v| frame.prepared(camera.sees(v).into()));
            let got = (p.x - q.x).hypot(p.y - q.y) * mm;
            let truth = (a[0] - b[0]).hypot(a[1] - b[1]);
            assert!((got - truth).abs() < 1e-6 * truth.max(1.0), "{got}, not {truth}");
            let back = frame.original(p);
            let there = camera.sees(a);
            assert!((back.x - there[0]).hypot(back.y - there[1]) < 1e-6);
        }
    }
}

#[test]
fn corners_that_cross_and_sheets_without_size_are_refused() {
    let square = [[100.0, 100.0], [300.0, 100.0], [300.0, 300.0], [100.0, 300.0]];
    let refused = |corners: [[f64; 2]; 4], sheet| {
        let how =
            Prepare { straighten: Some(Straighten { corners: corners.map(Point::from), sheet }), ..Prepare::default() };
        match Frame::of((400.0, 400.0), &how) {
            Err(ArtworkError::Prepare(e)) => Some(e),
            Err(e) => panic!("{e}"),
            Ok(_) => None,
        }
    };
    assert_eq!(refused(square, Sheet::Card), None);
    let [a, b, c, d] = square;
    for crossed in [[a, c, b, d], [a, b, d, c], [d, c, b, a], [a, a, c, d], [a, [200.0, 100.0], b, d]] {
        assert_eq!(refused(crossed, Sheet::A4), Some(PrepareError::CornersCross), "{crossed:?}");
    }
    assert_eq!(refused([[f64::NAN, 0.0], b, c, d], Sheet::A4), Some(PrepareError::CornersCross));
    for (long, short) in [(0.0, 0.0), (100.0, f64::NAN), (1e9, 10.0), (10.0, 20.0)] {
        assert_eq!(refused(square, Sheet::Other { long, short }), Some(PrepareError::SheetSize), "{long} x {short}");
    }
}

#[test]
fn turns_and_flips_go_where_they_say_and_come_back() {
    let p = drawn(30, 20, |x, y| if x < 10.0 && y < 5.0 { 0.0 } else { 255.0 });
    let dark = |p: &Picture| {
        let at: Vec<u32> = (0..p.width * p.height).filter(|i| p.grey[*i as usize] < 128).collect();
        (at.iter().map(|i| i % p.width).min().unwrap(), at.iter().map(|i| i / p.width).min().unwrap(), at.len())
    };
    let quarter = done(&p, &Prepare { quarter_turns: 1, ..Prepare::default() }).unwrap();
    assert_eq!((quarter.width, quarter.height), (20, 30));
    assert_eq!(dark(&quarter), (15, 0, 50), "clockwise: what was top left is top right");
    let flipped = done(&p, &Prepare { flip: true, ..Prepare::default() }).unwrap();
    assert_eq!(dark(&flipped), (20, 0, 50));
    for turns in 0..4 {
        let there = done(&p, &Prepare { quarter_turns: turns, ..Prepare::default() }).unwrap();
        let back = done(&there, &Prepare { quarter_turns: (4 - turns) % 4, ..Prepare::default() }).unwrap();
        assert_eq!(back.grey, p.grey, "{turns} quarters");
    }
    let askew = done(&p, &Prepare { degrees: 30.0, ..Prepare::default() }).unwrap();
    // w cos + h sin, and the other way round.
    assert_eq!((askew.width, askew.height), (36, 33));
    assert!((dark(&askew).2 as f64 - 50.0).abs() < 8.0);
}

#[test]
fn a_crop_keeps_its_part_where_it_was() {
    let p = drawn(40, 40, |x, y| x * 5.0 + y);
    let crop = Crop { x: 10.0, y: 4.0, width: 12.0, height: 8.0 };
    let part = done(&p, &Prepare { crop: Some(crop), ..Prepare::default() }).unwrap();
    assert_eq!((part.width, part.height, part.origin), (12, 8, (10, 4)));
    assert_eq!(part.grey[0], p.grey[4 * 40 + 10]);
    assert_eq!(part.grey[7 * 12 + 11], p.grey[11 * 40 + 21]);
    for crop in [
        Crop { x: 90.0, y: 0.0, width: 5.0, height: 5.0 },
        Crop { x: 0.0, y: 0.0, width: 0.2, height: 5.0 },
        Crop { x: f64::NAN, y: 0.0, width: 5.0, height: 5.0 },
        Crop { x: 0.0, y: 0.0, width: -5.0, height: 5.0 },
    ] {
        let how = Prepare { crop: Some(crop), ..Prepare::default() };
        assert!(matches!(done(&p, &how), Err(ArtworkError::Prepare(PrepareError::NothingLeft))), "{crop:?}");
    }
}

#[test]
fn levelling_makes_paper_even_and_leaves_even_paper_alone() {
    // Light that falls off as the cosine law has it, 1 : 2.5 over the picture, on a sheet with a dark bar.
    let light = |x: f64, y: f64| 1.0 / (1.0 + (x / 260.0).powi(2) + (y / 400.0).powi(2));
    let ink = |x: f64, y: f64| (40.0..160.0).contains(&x) && (60.0..84.0).contains(&y);
    let photo = drawn(200, 160, |x, y| 240.0 * light(x, y) * if ink(x, y) { 0.3 } else { 1.0 });
    assert!(unevenness(&photo) > 1.4, "{}", unevenness(&photo));
    let level = done(&photo, &Prepare { level: true, ..Prepare::default() }).unwrap();
    let paper: Vec<f64> = (0..200 * 160)
        .filter(|i| !ink(f64::from(i % 200) + 0.5, f64::from(i / 200) + 0.5))
        .map(|i| f64::from(level.grey[i as usize]))
        .collect();
    let (low, high) = paper.iter().fold((255.0f64, 0.0f64), |(l, h), v| (l.min(*v), h.max(*v)));
    assert!(high - low < 12.0, "paper from {low} to {high}");
    assert!(unevenness(&level) < 1.06);
    let even = drawn(200, 160, |x, y| if ink(x, y) { 30.0 } else { 235.0 });
    assert!(unevenness(&even) < 1.05, "{}", unevenness(&even));
}

fn stroke(kind: StrokeKind, points: &[[f64; 2]], radius: f64) -> Stroke {
    Stroke { kind, points: points.iter().map(|p| (*p).into()).collect(), radius, colour: None }
}

#[test]
fn strokes_draw_rub_out_and_fill_what_they_touch() {
    let p = drawn(80, 60, |x, y| {
        let on_frame = (10.0..50.0).contains(&x) && (10.0..50.0).contains(&y);
        if on_frame && !((14.0..46.0).contains(&x) && (14.0..46.0).contains(&y)) { 0.0 } else { 255.0 }
    });
    let dark = |p: &Picture| p.grey.iter().filter(|g| **g < 128).count() as f64;
    let frame = dark(&p);
    let after = |strokes: Vec<Stroke>| done(&p, &Prepare { strokes, ..Prepare::default() }).unwrap();
    let line = after(vec![stroke(StrokeKind::Draw, &[[56.0, 10.0], [56.0, 50.0]], 3.0)]);
    let truth = 40.0 * 6.0 + std::f64::consts::PI * 9.0;
    assert!((dark(&line) - frame - truth).abs() < 12.0, "{}", dark(&line) - frame);
    let filled = after(vec![stroke(StrokeKind::Fill, &[[30.0, 30.0]], 1.0)]);
    assert_eq!(dark(&filled) - frame, 32.0 * 32.0);
    let cleared = after(vec![stroke(StrokeKind::Clear, &[[12.0, 30.0]], 1.0)]);
    assert_eq!(dark(&cleared), 0.0, "all of the frame hangs together");
    let gone = after(vec![stroke(StrokeKind::RubOut, &[[0.0, 30.0], [80.0, 30.0]], 40.0)]);
    assert_eq!(dark(&gone), 0.0);
    // Outside the picture, and of no length, nothing happens and nothing breaks.
    let nothing = after(vec![
        stroke(StrokeKind::Fill, &[[-5.0, 900.0]], 1.0),
        stroke(StrokeKind::Draw, &[[-900.0, -900.0]], 5.0),
        stroke(StrokeKind::Draw, &[], 5.0),
    ]);
    assert_eq!(dark(&nothing), frame);
}

#[test]
fn any_way_of_preparing_gives_a_picture_or_a_reason() {
    let mut random = Random::new(99);
    let p = drawn(60, 44, |x, y| (x * y) % 256.0);
    for _ in 0..400 {
        let mut any = |low: f64, high: f64| random.between(low, high);
        let corners = std::array::from_fn(|_| [any(-20.0, 80.0), any(-20.0, 60.0)]);
        let crop = Crop { x: any(-50.0, 90.0), y: any(-50.0, 90.0), width: any(-9.0, 90.0), height: any(-9.0, 90.0) };
        let kinds = [StrokeKind::Draw, StrokeKind::RubOut, StrokeKind::Fill, StrokeKind::Clear];
        let strokes = (0..3)
            .map(|k| {
                stroke(
                    kinds[(k + any(0.0, 4.0) as usize) % 4],
                    &[[any(-90.0, 90.0), any(-9.0, 60.0)]; 2],
                    any(0.0, 90.0),
                )
            })
            .collect();
        let how = Prepare {
            level: any(0.0, 1.0) < 0.5,
            strokes,
            straighten: (any(0.0, 1.0) < 0.5)
                .then_some(Straighten { corners: corners.map(Point::from), sheet: Sheet::A4 }),
            flip: any(0.0, 1.0) < 0.5,
            quarter_turns: any(0.0, 4.0) as u8,
            degrees: any(-45.0, 45.0),
            crop: (any(0.0, 1.0) < 0.5).then_some(crop),
        };
        match done(&p, &how) {
            Ok(p) => assert_eq!(p.grey.len(), (p.width * p.height) as usize),
            Err(e) => assert!(!e.to_string().is_empty() && !e.hint().is_empty()),
        }
    }
}

/// Large shapes of few tones on paper of any tone, softened as by antialiasing and with a compressor's noise.
#[test]
fn flat_art_is_never_taken_for_uneven_light() {
    let mut random = Random::new(21);
    for case in 0..200 {
        let tones: Vec<f64> = (0..2 + random.below(3)).map(|_| random.between(20.0, 255.0)).collect();
        let shapes: Vec<([f64; 2], f64, usize)> = (0..1 + random.below(5))
            .map(|_| {
                let at = [random.between(0.0, 240.0), random.between(0.0, 240.0)];
                (at, random.between(15.0, 115.0), random.below(tones.len()))
            })
            .collect();
        let mut noise = Random::new(case + 1);
        let noise: Vec<f64> = (0..240 * 240).map(|_| noise.between(-1.5, 1.5)).collect();
        let art = drawn(240, 240, |x, y| {
            let mut tone = tones[0];
            for ([cx, cy], r, of) in &shapes {
                let inside = (r - (x - cx).hypot(y - cy) + 0.5).clamp(0.0, 1.0);
                tone += (tones[*of] - tone) * inside;
            }
            tone + noise[(y as usize) * 240 + x as usize]
        });
        let found = unevenness(&art);
        assert_eq!(found, 1.0, "case {case}: {tones:?}");
    }
}
