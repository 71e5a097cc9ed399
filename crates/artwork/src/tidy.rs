//! Tidying by brush: strokes in pixels of the original picture, so that whatever is turned or cropped later, they stay
//! where they were drawn.

use crate::model::{Picture, luma};
use crate::settings::{Paint, Stroke, StrokeKind};
use kachel_geom::Point;

/// How far a filled area may differ from where it was begun, of 255.
const FILL_TOLERANCE: i32 = 48;
/// Pixels by which a filled area grows, so that no fringe of soft edge is left.
const FILL_GROWTH: i32 = 2;

/// What a stroke leaves in a pixel.
struct Dab {
    grey: u8,
    colour: [u8; 3],
    alpha: u8,
}

pub(crate) fn tidy(p: &mut Picture, strokes: &[Stroke], paint: &Paint) {
    for s in strokes {
        let is_ink = matches!(s.kind, StrokeKind::Draw | StrokeKind::Fill);
        let colour = match (is_ink, s.colour) {
            (true, Some(c)) => c,
            (true, None) => paint.ink,
            (false, _) => paint.ground,
        };
        if p.colour.is_none() && colour.iter().any(|c| *c != colour[0]) {
            p.colour = Some(p.grey.iter().map(|g| [*g; 3]).collect());
        }
        let dab = Dab { grey: luma(colour), colour, alpha: if is_ink { 255 } else { 0 } };
        match s.kind {
            StrokeKind::RubOut | StrokeKind::Draw => brush(p, s, &dab),
            StrokeKind::Fill | StrokeKind::Clear => fill(p, s, &dab),
        }
    }
}

fn blend(p: &mut Picture, i: usize, dab: &Dab, cover: f64) {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "between two values of eight bits")]
    let mix = |a: u8, b: u8| (f64::from(a) + (f64::from(b) - f64::from(a)) * cover).round() as u8;
    p.grey[i] = mix(p.grey[i], dab.grey);
    if let Some(c) = &mut p.colour {
        c[i] = std::array::from_fn(|k| mix(c[i][k], dab.colour[k]));
    }
    if let Some(a) = &mut p.alpha {
        a[i] = mix(a[i], dab.alpha);
    }
}

/// The part of the picture that a box covers, as columns and rows.
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to the picture")]
fn covered(p: &Picture, low: [f64; 2], high: [f64; 2]) -> [std::ops::Range<usize>; 2] {
    let of = |k: usize, n: u32| {
        let end = |v: f64| v.clamp(0.0, f64::from(n)) as usize;
        end(low[k].floor())..end(high[k].ceil())
    };
    [of(0, p.width), of(1, p.height)]
}

fn brush(p: &mut Picture, s: &Stroke, dab: &Dab) {
    let w = p.width as usize;
    let reach = s.radius + 1.0;
    let fold = |k: usize, start: f64, f: fn(f64, f64) -> f64| s.points.iter().map(|q| q.xy()[k]).fold(start, f);
    let low = [0, 1].map(|k| fold(k, f64::INFINITY, f64::min) - reach);
    let high = [0, 1].map(|k| fold(k, f64::NEG_INFINITY, f64::max) + reach);
    let [columns, rows] = covered(p, low, high);
    if columns.is_empty() || rows.is_empty() {
        return;
    }
    // The most that any piece of the stroke covers of each pixel: overlapping pieces do not darken twice.
    let mut mask = vec![0f32; columns.len() * rows.len()];
    let ends = s.points.iter().skip(1).chain(s.points.first().filter(|_| s.points.len() == 1));
    for (a, b) in s.points.iter().zip(ends) {
        let low = [a.x.min(b.x) - reach, a.y.min(b.y) - reach];
        let high = [a.x.max(b.x) + reach, a.y.max(b.y) + reach];
        let [xs, ys] = covered(p, low, high);
        for y in ys {
            for x in xs.clone() {
                let off = Point::new(x as f64 + 0.5, y as f64 + 0.5).distance_to_segment(*a, *b);
                #[expect(clippy::cast_possible_truncation, reason = "0 to 1")]
                let cover = (s.radius - off + 0.5).clamp(0.0, 1.0) as f32;
                let m = &mut mask[(y - rows.start) * columns.len() + x - columns.start];
                *m = m.max(cover);
            }
        }
    }
    for y in rows.clone() {
        for x in columns.clone() {
            let cover = mask[(y - rows.start) * columns.len() + x - columns.start];
            if cover > 0.0 {
                blend(p, y * w + x, dab, f64::from(cover));
            }
        }
    }
}

fn fill(p: &mut Picture, s: &Stroke, dab: &Dab) {
    let Some([x, y]) = s.points.first().map(|p| p.xy()) else { return };
    let (w, h) = (p.width as usize, p.height as usize);
    let [xs, ys] = covered(p, [x, y], [x.floor() + 1.0, y.floor() + 1.0]);
    let (Some(x), Some(y)) = (xs.clone().next(), ys.clone().next()) else { return };
    let shade = |i: usize| {
        let [r, g, b] = p.colour_at(i).map(i32::from);
        [r, g, b, p.alpha.as_ref().map_or(255, |a| i32::from(a[i]))]
    };
    let seed = shade(y * w + x);
    let is_alike = |i: usize| shade(i).iter().zip(seed).all(|(a, b)| (a - b).abs() <= FILL_TOLERANCE);
    let mut reached = vec![false; w * h];
    let mut open = vec![(x, y)];
    reached[y * w + x] = true;
    while let Some((x, y)) = open.pop() {
        let next = [(x.wrapping_sub(1), y), (x + 1, y), (x, y.wrapping_sub(1)), (x, y + 1)];
        for (x, y) in next {
            if x < w && y < h && !reached[y * w + x] && is_alike(y * w + x) {
                reached[y * w + x] = true;
                open.push((x, y));
            }
        }
    }
    let grown: Vec<usize> = (0..w * h).filter(|i| reached[*i] || is_near(&reached, w, h, *i)).collect();
    for i in grown {
        blend(p, i, dab, 1.0);
    }
}

fn is_near(reached: &[bool], w: usize, h: usize, i: usize) -> bool {
    let (x, y) = ((i % w).cast_signed(), (i / w).cast_signed());
    let reach = FILL_GROWTH as isize;
    (-reach..=reach).any(|dy| {
        (-reach..=reach).any(|dx| {
            let (a, b) = (x + dx, y + dy);
            dx * dx + dy * dy <= reach * reach
                && a >= 0
                && b >= 0
                && a < w.cast_signed()
                && b < h.cast_signed()
                && reached[b.cast_unsigned() * w + a.cast_unsigned()]
        })
    })
}
