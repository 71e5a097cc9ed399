//! Whatever the picture and the settings: contours or a reason, never a panic, and always the same.

use kachel_artwork::{Artwork, Picture};
use kachel_geom::Watch;
use kachel_oracle::{Random, for_all};
use kachel_trace::{ColourSettings, Contours, Ink, PenWidth, TraceError, TraceSettings, inked, trace};

fn any_picture(random: &mut Random) -> Picture {
    let (w, h) = (1 + random.below(70) as u32, 1 + random.below(70) as u32);
    let few = [[250, 250, 250], [20, 30, 40], [200, 40, 60], [60, 140, 80], [240, 200, 90]];
    let kind = random.below(5);
    let mut at = |i: u32| -> [u8; 3] {
        let (x, y) = (i % w, i / w);
        match kind {
            0 => std::array::from_fn(|_| random.bits() as u8),
            1 => few[((x / 9) * 7 + (y / 11) * 3) as usize % 5],
            2 => [((x * 255) / w) as u8; 3],
            3 => few[usize::from((x * x + y * y) % 97 < 40)],
            _ => few[random.below(5)],
        }
    };
    let colour: Vec<[u8; 3]> = (0..w * h).map(&mut at).collect();
    let mut p = Picture::of_colour(w, h, colour);
    if random.below(3) == 0 {
        p.alpha = Some((0..w * h).map(|i| if i % w > w / 2 { 0 } else { random.bits() as u8 }).collect());
    }
    p
}

fn any_settings(random: &mut Random) -> TraceSettings {
    let mut colour = || -> [u8; 3] { std::array::from_fn(|_| random.bits() as u8) };
    let (picked, merged, ground) = (vec![colour()], vec![[colour(), colour()]], colour());
    let colours = ColourSettings {
        count: [None, Some(2), Some(5), Some(12)][random.below(4)],
        picked: if random.below(2) == 0 { vec![] } else { picked },
        merged: if random.below(2) == 0 { vec![] } else { merged },
        ground: (random.below(2) == 0).then_some(ground),
        with_ground: random.below(3) == 0,
    };
    TraceSettings {
        ink: [Ink::LightDark, Ink::Colours, Ink::Alpha, Ink::Pen][random.below(4)],
        threshold: (random.below(2) == 0).then(|| 1 + random.below(254) as u8),
        invert: random.below(2) == 0,
        min_area: [0.0, 1.0, 12.0, 400.0][random.below(4)],
        min_gap: [0.0, 1.0, 12.0, 400.0][random.below(4)],
        deviation: [0.0, 0.05, 0.1, 1.0, 3.0][random.below(5)],
        bend: random.between(15.0, 100.0),
        colours,
    }
}

#[test]
fn any_picture_with_any_settings_gives_contours_or_a_reason() {
    let given = std::cell::Cell::new(0);
    for_all(700, |random| {
        let a = Artwork::Picture(any_picture(random));
        let s = any_settings(random);
        let run = || trace(&a, &s, &Watch::default());
        let c = match run() {
            Ok(c) => c,
            Err(e) => {
                assert!(!e.to_string().is_empty() && !e.hint().is_empty());
                return;
            }
        };
        given.set(given.get() + 1);
        let (w, h) = a.size();
        let nodes = |c: &Contours| c.contours.iter().map(|c| c.curve.nodes()).sum::<usize>();
        for contour in &c.contours {
            assert!(contour.curve.is_closed() && contour.ring.0.len() >= 3, "{contour:?} {s:?}");
            let all = contour
                .curve
                .node_points()
                .iter()
                .all(|p| (-0.5..=w + 0.5).contains(&p.x) && (-0.5..=h + 0.5).contains(&p.y));
            assert!(all, "{w} x {h}: {s:?} {:?}", contour.curve);
            assert!(contour.parent.is_none_or(|p| p < c.contours.len()));
        }
        assert_eq!(nodes(&run().unwrap()), nodes(&c), "the same again");
        if s.ink == Ink::Pen {
            inked(&c, PenWidth::Drawn, &Watch::default()).unwrap();
            inked(&c, PenWidth::Pixels(3.0), &Watch::default()).unwrap();
        }
    });
    assert!(given.get() > 300, "{} of 700", given.get());
}

#[test]
fn all_ink_and_no_ink_say_so() {
    for grey in [0, 255] {
        let a = Artwork::Picture(Picture::of_grey(20, 20, vec![grey; 400]));
        for ink in [Ink::LightDark, Ink::Colours, Ink::Pen] {
            for threshold in [None, Some(1), Some(254)] {
                let s = TraceSettings { ink, threshold, ..TraceSettings::default() };
                match trace(&a, &s, &Watch::default()) {
                    // A sheet that is ink all over is one patch.
                    Ok(c) => assert!(c.contours.len() + c.lines.len() <= 1, "{grey} {ink:?} {threshold:?}"),
                    Err(e) => assert!(!matches!(e, TraceError::Stopped(_)) && !e.hint().is_empty()),
                }
            }
        }
    }
}
