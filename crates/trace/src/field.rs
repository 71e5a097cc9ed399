use crate::blocks;
use crate::cut::Cut;
use kachel_artwork::Picture;

/// Samples with a frame of one, positive in ink, never 0.
pub(crate) struct Field {
    pub(crate) stride: usize,
    pub(crate) rows: usize,
    pub(crate) values: Vec<f32>,
    /// Distance between what is plain ink and plain ground.
    pub(crate) contrast: f32,
    /// Pixels on either side of an edge within which it is over.
    pub(crate) reach: usize,
    /// How many samples have each grey, before any smoothing.
    pub(crate) histogram: [u32; 256],
    /// Whether the picture has no greys.
    pub(crate) is_one_bit: bool,
    /// Standard deviation of compression noise by the contrast.
    pub(crate) compression: f64,
}

/// Grain (standard deviation by contrast) from which a picture is smoothed before it is followed.
const NOISY: f64 = 0.02;

/// Share of the contrast from the cut on which a pixel is plain ink or plain ground.
const PLAIN: f32 = 0.3;

/// By how much of the contrast a picture of hairlines is lifted. Smoothed by a pixel, a line of one pixel covers 0.38 of its
/// middle, and one aslant 0.28: they stay ink down to 0.17.
const HAIRLINE_LIFT: f32 = 0.33;

impl Field {
    /// `has_hairlines` keeps lines of a single pixel, which smoothing would take below the cut, at the price of wider lines.
    pub(crate) fn new(p: &Picture, cut: &Cut, has_hairlines: bool) -> Self {
        let (w, h) = (p.width as usize, p.height as usize);
        let stride = w + 2;
        let source = if cut.by_alpha { p.alpha.as_deref().unwrap_or(&p.grey) } else { &p.grey };
        #[expect(clippy::cast_possible_truncation, reason = "a grey needs no 53 bits")]
        let table: [f32; 256] = std::array::from_fn(|g| {
            let v = (cut.at - g as f64) as f32;
            if cut.light_is_ink { -v } else { v }
        });
        let mut histogram = [0u32; 256];
        let mut values = vec![-1.0f32; stride * (h + 2)];
        for y in 0..h {
            let row = &mut values[(y + 1) * stride + 1..][..w];
            for (v, g) in row.iter_mut().zip(&source[y * w..][..w]) {
                *v = table[usize::from(*g)];
                histogram[usize::from(*g)] += 1;
            }
        }
        let is_one_bit = histogram.iter().filter(|n| **n > 0).count() == 2;
        let contrast = contrast(&histogram, cut.at);
        let mut field =
            Self { stride, rows: h + 2, values, contrast, reach: 3, histogram, is_one_bit, compression: 0.0 };
        field.compression = blocks::noise((w, h), |x, y| {
            let v = field.values[(y + 1) * stride + x + 1];
            (v.abs() >= PLAIN * contrast).then_some((u8::from(v > 0.0), v))
        });
        let grain = if contrast > 0.0 { noise(source, w, h) / f64::from(contrast) } else { 0.0 };
        if is_one_bit {
            field.smooth(1.0);
            if has_hairlines {
                // The frame stays ground.
                for row in field.values.chunks_mut(stride).skip(1).take(h) {
                    row[1..=w].iter_mut().for_each(|v| *v += HAIRLINE_LIFT * contrast);
                }
            }
        } else if grain > NOISY {
            // The more noise, the wider: at a tenth of the contrast a deviation of 1.3 pixels.
            field.smooth((0.6 + 7.0 * grain).min(1.6));
        }
        if is_one_bit || grain > NOISY {
            field.reach = 5;
        }
        for v in &mut field.values {
            if *v == 0.0 {
                *v = -1e-3;
            }
        }
        field.frame();
        field
    }

    /// Gaussian blur of that standard deviation (pixels), within the picture.
    fn smooth(&mut self, deviation: f64) {
        let (s, r) = (self.stride, self.rows);
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few pixels")]
        let reach = (deviation * 3.0).ceil() as usize;
        #[expect(clippy::cast_possible_truncation, reason = "weights need no 53 bits")]
        let half: Vec<f32> = (0..=reach).map(|k| (-0.5 * (k as f64 / deviation).powi(2)).exp() as f32).collect();
        let sum = half[0] + 2.0 * half[1..].iter().sum::<f32>();
        let half: Vec<f32> = half.iter().map(|w| w / sum).collect();
        let mut line = Vec::new();
        let mut pass = |values: &mut Vec<f32>, start: usize, step: usize, count: usize| {
            line.clear();
            line.extend((0..count).map(|k| values[start + k * step]));
            for k in 0..count {
                let mut v = half[0] * line[k];
                for (d, w) in half.iter().enumerate().skip(1) {
                    v += w * (line[k.saturating_sub(d)] + line[(k + d).min(count - 1)]);
                }
                values[start + k * step] = v;
            }
        };
        for y in 1..r - 1 {
            pass(&mut self.values, y * s + 1, 1, s - 2);
        }
        for x in 1..s - 1 {
            pass(&mut self.values, s + x, s, r - 2);
        }
    }

    /// Sets the frame so that full ink at the picture's border ends exactly there, and what is partly covered there
    /// ends within its pixel.
    fn frame(&mut self) {
        let (s, r) = (self.stride, self.rows);
        let plain = self.contrast / 2.0;
        for x in 1..s - 1 {
            self.values[x] = -self.values[s + x].abs().max(plain);
            self.values[(r - 1) * s + x] = -self.values[(r - 2) * s + x].abs().max(plain);
        }
        for y in 1..r - 1 {
            self.values[y * s] = -self.values[y * s + 1].abs().max(plain);
            self.values[y * s + s - 1] = -self.values[y * s + s - 2].abs().max(plain);
        }
    }
}

/// Distance between the median of what is below the cut and that of what is above.
fn contrast(histogram: &[u32; 256], cut: f64) -> f32 {
    let median = |keep: &dyn Fn(usize) -> bool| {
        let all: u32 = (0..256).filter(|g| keep(*g)).map(|g| histogram[g]).sum();
        let mut seen = 0;
        (0..256).filter(|g| keep(*g)).find(|&g| {
            seen += histogram[g];
            all > 0 && seen * 2 >= all
        })
    };
    match (median(&|g| (g as f64) < cut), median(&|g| g as f64 >= cut)) {
        #[expect(clippy::cast_precision_loss, reason = "below 256")]
        (Some(low), Some(high)) => (high - low) as f32,
        _ => 0.0,
    }
}

/// Standard deviation of the grain, in greys: the mask of J. Immerkaer, 'Fast noise variance estimation', 1996
/// (doi:10.1006/cviu.1996.0060), which no plane of greys answers to; its median, so that edges do not count.
pub(crate) fn noise(grey: &[u8], w: usize, h: usize) -> f64 {
    if w < 8 || h < 8 {
        return 0.0;
    }
    let step = (w * h / 40_000).max(1);
    let mut counts = [0usize; 4096];
    let mut all = 0;
    let mut i = w + 1;
    while i < w * (h - 1) - 1 {
        let x = i % w;
        if x > 0 && x < w - 1 {
            let at = |k: usize| i32::from(grey[k]);
            let row = |k: usize, a: i32, b: i32| a * (at(k - 1) + at(k + 1)) + b * at(k);
            let answer = row(i - w, 1, -2) + row(i, -2, 4) + row(i + w, 1, -2);
            counts[(answer.unsigned_abs() as usize).min(4095)] += 1;
            all += 1;
        }
        i += step;
    }
    let mut seen = 0;
    let median = counts.iter().position(|n| {
        seen += n;
        seen * 2 >= all
    });
    // The mask's weights have the norm 6.
    median.unwrap_or(0) as f64 / 0.6745 / 6.0
}
