//! Sheets in photos that a textbook camera took of a table, against the corners that it saw them at.

use kachel_artwork::{Artwork, Doubt, Frame, Picture, Prepare, Sheet, Straighten, find_sheet, proportion};
use kachel_geom::{Point, Watch};
use kachel_oracle::Random;

const SIZE: (f64, f64) = (1200.0, 900.0);

/// A pinhole camera over a table, by the textbook.
struct Camera {
    tilt: f64,
    turn: f64,
    away: f64,
    focus: f64,
    middle: [f64; 2],
}

impl Camera {
    fn sees(&self, [x, y]: [f64; 2]) -> [f64; 2] {
        let (st, ct) = self.turn.sin_cos();
        let (x, y) = (x * ct - y * st + self.middle[0], x * st + y * ct + self.middle[1]);
        let (si, co) = self.tilt.sin_cos();
        let (y, z) = (y * co, self.away + y * si);
        [SIZE.0 / 2.0 + self.focus * x / z, SIZE.1 / 2.0 + self.focus * y / z]
    }

    /// The place on the table that a pixel shows.
    fn shows(&self, [u, v]: [f64; 2]) -> [f64; 2] {
        let (u, v) = ((u - SIZE.0 / 2.0) / self.focus, (v - SIZE.1 / 2.0) / self.focus);
        let (si, co) = self.tilt.sin_cos();
        let y = self.away * v / (co - v * si);
        let x = u * (self.away + y * si) - self.middle[0];
        let (y, (st, ct)) = (y - self.middle[1], self.turn.sin_cos());
        [x * ct + y * st, -x * st + y * ct]
    }
}

/// A photo of a sheet with a dark blob on it, on grained wood, in light from one side, with a soft shadow and noise.
fn photo(seed: u64, sides: (f64, f64)) -> (Picture, [[f64; 2]; 4]) {
    spoilt_photo(seed, sides, [0.0; 2], None)
}

/// The same with the sheet shifted (by shares of the picture), or with a thumb over one of its corners.
fn spoilt_photo(seed: u64, sides: (f64, f64), shift: [f64; 2], thumb: Option<usize>) -> (Picture, [[f64; 2]; 4]) {
    let mut random = Random::new(seed);
    let upright = random.below(2) == 0;
    let (w, h) = if upright { (sides.1, sides.0) } else { sides };
    let fits = (SIZE.1 * 0.72 / h).min(SIZE.0 * 0.72 / w);
    let focus = random.between(1000.0, 1500.0);
    let (tilt, turn) = (random.between(-0.45, 0.45), random.between(-0.25, 0.25));
    let px_per_mm = fits * random.between(0.65, 0.95);
    let shift = [shift[0] * SIZE.0 / px_per_mm, shift[1] * SIZE.1 / px_per_mm];
    let camera = Camera {
        tilt,
        turn,
        away: focus / px_per_mm,
        focus,
        middle: [random.between(-0.06, 0.06) * w + shift[0], random.between(-0.06, 0.06) * h + shift[1]],
    };
    let corners =
        [[-w / 2.0, -h / 2.0], [w / 2.0, -h / 2.0], [w / 2.0, h / 2.0], [-w / 2.0, h / 2.0]].map(|p| camera.sees(p));
    let blob = w.min(h) * random.between(0.15, 0.35);
    let wood = random.between(60.0, 125.0);
    let light = [random.between(-0.25, 0.25), random.between(-0.25, 0.25)];
    let shadow = [random.between(-0.5, 0.5) * w, random.between(-0.5, 0.5) * h];
    let mut noise = Random::new(seed + 1000);
    let mut grey = Vec::new();
    for y in 0..SIZE.1 as u32 {
        for x in 0..SIZE.0 as u32 {
            // 2 x 2 samples a pixel.
            let mut sum = 0.0;
            for (dx, dy) in [(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)] {
                let [px, py] = [f64::from(x) + dx, f64::from(y) + dy];
                let [tx, ty] = camera.shows([px, py]);
                let is_sheet = tx.abs() < w / 2.0 && ty.abs() < h / 2.0;
                let is_ink = tx.hypot(ty) < blob * (1.0 + 0.2 * (5.0 * ty.atan2(tx)).sin());
                let grain = wood + 10.0 * (ty / 9.0 + (tx / 60.0).sin()).sin();
                let covers = |k: usize| {
                    let [x, y] = [[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]][k];
                    (tx - x * w / 2.0).hypot(ty - y * h / 2.0) < 0.09 * w.min(h)
                };
                let tone = if thumb.is_some_and(covers) {
                    105.0
                } else if is_ink {
                    45.0
                } else if is_sheet {
                    238.0
                } else {
                    grain
                };
                let lit = 1.0 + light[0] * (px / SIZE.0 - 0.5) + light[1] * (py / SIZE.1 - 0.5);
                let away = (tx - shadow[0]).hypot(ty - shadow[1]) / w;
                sum += tone * lit * (1.0 - 0.18 * (-away * away * 4.0).exp());
            }
            grey.push((sum / 4.0 + noise.between(-5.0, 5.0)).round().clamp(0.0, 255.0) as u8);
        }
    }
    (Picture::of_grey(SIZE.0 as u32, SIZE.1 as u32, grey), corners)
}

fn off(found: [[f64; 2]; 4], truth: [[f64; 2]; 4]) -> f64 {
    let far = |k: usize| {
        let d = |n: usize| (found[(n + k) % 4][0] - truth[n][0]).hypot(found[(n + k) % 4][1] - truth[n][1]);
        (0..4).map(d).fold(0.0, f64::max)
    };
    // Which corner comes first is told by the picture's top left, and may be either of two at 45 degrees.
    (0..4).map(far).fold(f64::INFINITY, f64::min)
}

#[test]
fn sheets_in_forty_photos_are_found_to_two_pixels_and_half_a_percent() {
    let kinds = [Sheet::A4, Sheet::Card, Sheet::Letter];
    for seed in 0..40 {
        let sheet = kinds[seed as usize % 3];
        let (picture, truth) = photo(seed + 1, sheet.sides());
        let found = find_sheet(&picture).unwrap_or_else(|| panic!("photo {seed}: none found")).map(Point::xy);
        let d = off(found, truth);
        assert!(d < 2.0, "photo {seed}: {d:.2} px off");
        // The true size by the found corners and by the true ones.
        let scale = |corners: [[f64; 2]; 4]| {
            let corners = corners.map(Point::from);
            let how = Prepare { straighten: Some(Straighten { corners, sheet }), ..Prepare::default() };
            let frame = Frame::of(SIZE, &how).unwrap();
            // Across the sheet's middle, in millimetres.
            let [a, b] = [[0.25, 0.5], [0.75, 0.5]].map(|[u, v]| {
                let mix = |k: usize| {
                    let top = truth[0][k] * (1.0 - u) + truth[1][k] * u;
                    let low = truth[3][k] * (1.0 - u) + truth[2][k] * u;
                    top * (1.0 - v) + low * v
                };
                frame.prepared([mix(0), mix(1)].into())
            });
            (a.x - b.x).hypot(a.y - b.y) * frame.mm_per_px.unwrap()
        };
        assert!((scale(found) / scale(truth) - 1.0).abs() < 0.005, "photo {seed}");
    }
}

/// The photo as a file gives it, with what is told of it.
fn told(p: &Picture) -> Vec<Doubt> {
    let mut png = std::io::Cursor::new(Vec::new());
    let image = image::GrayImage::from_raw(p.width, p.height, p.grey.clone()).unwrap();
    image.write_to(&mut png, image::ImageFormat::Png).unwrap();
    Artwork::decode(&png.into_inner(), &Watch::default()).unwrap().doubts().to_vec()
}

#[test]
fn a_sheet_that_is_not_seen_wholly_is_told() {
    for seed in 0..12 {
        let sides = Sheet::A4.sides();
        assert_eq!(told(&photo(seed + 1, sides).0), [], "photo {seed}, whole");
        let (covered, truth) = spoilt_photo(seed + 1, sides, [0.0; 2], Some(seed as usize % 4));
        assert_eq!(told(&covered), [Doubt::HiddenCorner], "photo {seed}");
        let found = find_sheet(&covered).unwrap_or_else(|| panic!("photo {seed}: none found")).map(Point::xy);
        assert!(off(found, truth) < 4.0, "photo {seed}: {:.2} px off", off(found, truth));
        let way = [[0.45, 0.0], [-0.45, 0.0], [0.4, 0.35], [-0.4, -0.35]][seed as usize % 4];
        let (cut, _) = spoilt_photo(seed + 1, sides, way, None);
        assert_eq!(told(&cut), [Doubt::SheetRunsOut], "photo {seed}, {way:?}");
    }
    // The sample's sheet is lit from one side: its corners are 253, 175, 112 and 158.
    let sample = std::fs::read("../../samples/leaf-photo.jpg").unwrap();
    assert_eq!(Artwork::decode(&sample, &Watch::default()).unwrap().doubts(), []);
    // Round and dark things, and paper all over, are no sheets.
    let noise = |x: u32, y: u32| f64::from((x * 31 + y * 17) % 9) - 4.0;
    let of = |f: &dyn Fn(f64, f64) -> f64| {
        let grey = (0..600 * 400).map(|k| (f(f64::from(k % 600), f64::from(k / 600)) + noise(k % 600, k / 600)) as u8);
        told(&Picture::of_grey(600, 400, grey.collect()))
    };
    assert_eq!(of(&|x, y| if (x - 620.0).hypot(y - 200.0) < 180.0 { 235.0 } else { 90.0 }), []);
    assert_eq!(of(&|x, y| if (x - 300.0).hypot(y - 200.0) < 120.0 { 60.0 } else { 235.0 }), []);
    assert_eq!(of(&|x, _| if x < 300.0 { 235.0 } else { 90.0 }), [], "a ground of two halves");
}

#[test]
fn a_cards_proportion_is_told_from_a_papers() {
    // ISO/IEC 7810 ID-1: 1.586; ISO 216: the root of 2.
    for seed in 0..40 {
        for (sheet, least, most) in [(Sheet::A4, 1.2, 1.5), (Sheet::Card, 1.5, 1.8)] {
            let found = proportion(seen(seed + 1, sheet.sides()).map(Point::from), SIZE);
            assert!((least..most).contains(&found), "{seed}: {found} for {sheet:?}");
        }
    }
}

/// The corners of a sheet in a photo taken from nearly above.
fn seen(seed: u64, (w, h): (f64, f64)) -> [[f64; 2]; 4] {
    let mut random = Random::new(seed);
    let focus = random.between(1000.0, 1500.0);
    let camera = Camera {
        tilt: random.between(-0.35, 0.35),
        turn: random.between(-0.25, 0.25),
        away: focus * h / (SIZE.1 * random.between(0.5, 0.7)),
        focus,
        middle: [0.0, 0.0],
    };
    [[-w / 2.0, -h / 2.0], [w / 2.0, -h / 2.0], [w / 2.0, h / 2.0], [-w / 2.0, h / 2.0]].map(|p| camera.sees(p))
}

#[test]
fn what_is_no_sheet_is_not_taken_for_one() {
    let drawn = |is_light: &dyn Fn(f64, f64) -> bool, noise: f64| {
        let mut random = Random::new(9);
        let grey = (0..400u32 * 300)
            .map(|i| {
                let (x, y) = (f64::from(i % 400), f64::from(i / 400));
                let tone = if is_light(x, y) { 235.0 } else { 60.0 + 20.0 * (x / 30.0).sin() + y / 10.0 };
                (tone + random.between(-noise, noise)).clamp(0.0, 255.0) as u8
            })
            .collect();
        Picture::of_grey(400, 300, grey)
    };
    let in_box = |x: f64, y: f64| (60.0..340.0).contains(&x) && (50.0..250.0).contains(&y);
    assert!(find_sheet(&drawn(&in_box, 4.0)).is_some(), "the test itself: a sheet");
    assert_eq!(find_sheet(&drawn(&|x, y| (x - 200.0).hypot(y - 150.0) < 110.0, 4.0)), None, "a plate");
    assert_eq!(find_sheet(&drawn(&|x, y| x > 120.0 && in_box(x.min(300.0), y), 4.0)), None, "runs out of the picture");
    let bite = |x: f64, y: f64| in_box(x, y) && (x - 330.0).hypot(y - 60.0) > 90.0;
    assert_eq!(find_sheet(&drawn(&bite, 4.0)), None, "a corner is hidden");
    let art = Picture::of_grey(
        400,
        300,
        (0..400u32 * 300).map(|i| if in_box(f64::from(i % 400), f64::from(i / 400)) { 255 } else { 20 }).collect(),
    );
    assert_eq!(find_sheet(&art), None, "a drawn rectangle");
    assert_eq!(find_sheet(&Picture::of_grey(3, 2, vec![7; 6])), None);
    assert_eq!(find_sheet(&Picture::of_grey(300, 1, vec![200; 300])), None);
}
