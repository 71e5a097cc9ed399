//! Compression noise: what a compressed edge leaves in the blocks of 8 pixels that it runs through.

/// Side of a block, as in JPEG (ITU-T T.81).
const SIDE: usize = 8;
/// Pixels nearer than this to another class are part of the edge.
const CLEAR: usize = 3;
/// Fewest pixels of a class in a block that say something.
const FEWEST: usize = 5;
/// Less noise than this, by the contrast, is rounding.
const ROUNDING: f64 = 0.004;

/// Spread of values about the means of their groups.
#[derive(Default)]
struct Spread {
    squares: f64,
    count: f64,
}

impl Spread {
    /// Adds a group, and hands out its mean.
    fn add(&mut self, values: &[f32]) -> f64 {
        let n = values.len() as f64;
        let mean = values.iter().map(|v| f64::from(*v)).sum::<f64>() / n;
        self.squares += values.iter().map(|v| (f64::from(*v) - mean).powi(2)).sum::<f64>();
        self.count += n - 1.0;
        mean
    }

    fn variance(&self) -> f64 {
        if self.count > 0.0 { self.squares / self.count } else { 0.0 }
    }
}

/// Standard deviation of compression noise by the contrast of the edges: how much more pixels of a class differ in blocks with
/// an edge than in blocks without. Grain of a camera or a scanner is in both, and an edge's own blur does not reach so far.
/// `of` tells class and value of a pixel; none where it belongs to no class for sure.
pub(crate) fn noise((w, h): (usize, usize), of: impl Fn(usize, usize) -> Option<(u8, f32)>) -> f64 {
    if w < 2 * SIDE || h < 2 * SIDE {
        return 0.0;
    }
    let is = |x: usize, y: usize, class: u8| of(x, y).is_some_and(|o| o.0 == class);
    let is_clear = |x: usize, y: usize, class: u8| {
        is(x.saturating_sub(CLEAR), y, class)
            && is((x + CLEAR).min(w - 1), y, class)
            && is(x, y.saturating_sub(CLEAR), class)
            && is(x, (y + CLEAR).min(h - 1), class)
    };
    let (mut edged, mut flat) = (Spread::default(), Spread::default());
    let (mut contrast, mut edges) = (0.0, 0.0);
    for by in (0..h - SIDE + 1).step_by(SIDE) {
        for bx in (0..w - SIDE + 1).step_by(SIDE) {
            let all = (0..SIDE * SIDE).map(|k| (bx + k % SIDE, by + k / SIDE));
            let mut classes: Vec<(u8, Vec<f32>)> = Vec::with_capacity(2);
            let mut is_whole = true;
            for (x, y) in all {
                let Some((class, value)) = of(x, y) else {
                    is_whole = false;
                    continue;
                };
                let place = classes.iter().position(|c| c.0 == class).unwrap_or_else(|| {
                    classes.push((class, Vec::with_capacity(SIDE * SIDE)));
                    classes.len() - 1
                });
                if is_clear(x, y, class) {
                    classes[place].1.push(value);
                }
            }
            let count = classes.len();
            classes.retain(|c| c.1.len() >= FEWEST);
            if count > 1 {
                let means: Vec<f64> = classes.iter().map(|c| edged.add(&c.1)).collect();
                if let [a, b, ..] = means[..] {
                    contrast += (a - b).abs();
                    edges += 1.0;
                }
            } else if is_whole {
                classes.iter().for_each(|c| {
                    flat.add(&c.1);
                });
            }
        }
    }
    if edges == 0.0 || contrast <= 0.0 {
        return 0.0;
    }
    let noise = (edged.variance() - flat.variance()).max(0.0).sqrt() * edges / contrast;
    if noise < ROUNDING { 0.0 } else { noise }
}

#[cfg(test)]
mod tests {
    use super::*;
    use image::codecs::jpeg::JpegEncoder;

    /// A dark disc on light, as a picture of 160 pixels, with something done to each of them.
    fn disc(spoilt: impl Fn(u32, u32, f64) -> f64) -> image::GrayImage {
        image::GrayImage::from_fn(160, 160, |x, y| {
            let off = (f64::from(x) - 79.3).hypot(f64::from(y) - 80.1) - 50.0;
            image::Luma([spoilt(x, y, 30.0 + 200.0 * (off + 0.5).clamp(0.0, 1.0)).round().clamp(0.0, 255.0) as u8])
        })
    }

    fn of(p: &image::GrayImage) -> f64 {
        noise((160, 160), |x, y| {
            let v = f32::from(p.get_pixel(x as u32, y as u32).0[0]) - 130.0;
            (v.abs() > 60.0).then_some((u8::from(v > 0.0), v))
        })
    }

    #[test]
    fn only_compression_counts_and_more_of_it_counts_more() {
        let clean = disc(|_, _, v| v);
        let jpeg = |quality| {
            let mut bytes = Vec::new();
            JpegEncoder::new_with_quality(&mut bytes, quality).encode_image(&clean).unwrap();
            of(&image::load_from_memory(&bytes).unwrap().to_luma8())
        };
        let all = [90, 70, 50, 30].map(jpeg);
        assert!(all.windows(2).all(|p| p[0] < p[1]) && all[0] > ROUNDING && all[3] < 0.1, "{all:?}");
        assert_eq!(of(&clean), 0.0);
        assert_eq!(of(&image::imageops::blur(&clean, 1.0)), 0.0, "blur");
        // As much grain everywhere, and light from one side.
        let grain = disc(|x, y, v| v + f64::from((x * 7919 + y * 104_729) % 17) - 8.0);
        assert!(of(&grain) < 0.012, "{}", of(&grain));
        assert!(of(&disc(|x, _, v| v - f64::from(x) * 0.1)) < ROUNDING * 2.0);
    }
}
