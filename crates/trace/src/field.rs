use crate::blocks;
use crate::cut::Cut;
use kachel_artwork::Picture;
use rayon::prelude::*;

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
        let mut values = vec![-1.0f32; stride * (h + 2)];
        let rows = values.par_chunks_mut(stride).skip(1).take(h).zip(source.par_chunks(w.max(1)));
        let fill = |mut histogram: [u32; 256], (row, greys): (&mut [f32], &[u8])| {
            for (v, g) in row[1..=w].iter_mut().zip(greys) {
                *v = table[usize::from(*g)];
                histogram[usize::from(*g)] += 1;
            }
            histogram
        };
        let none = || [0u32; 256];
        let histogram = rows.fold(none, fill).reduce(none, |a, b| std::array::from_fn(|g| a[g] + b[g]));
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
        let off_cut = |v: &mut f32| *v = if *v == 0.0 { -1e-3 } else { *v };
        field.values.par_chunks_mut(stride).for_each(|row| row.iter_mut().for_each(off_cut));
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
        // Beyond the picture the pixel at its border goes on.
        self.values.par_chunks_mut(s).skip(1).take(r - 2).for_each_init(Vec::new, |line, row| {
            line.clear();
            line.extend_from_slice(&row[1..s - 1]);
            let count = line.len();
            for (k, v) in row[1..s - 1].iter_mut().enumerate() {
                *v = half[0] * line[k];
                for (d, w) in half.iter().enumerate().skip(1) {
                    *v += w * (line[k.saturating_sub(d)] + line[(k + d).min(count - 1)]);
                }
            }
        });
        let across = self.values.clone();
        let row_of = |y: usize| &across[y.clamp(1, r - 2) * s..][1..s - 1];
        self.values.par_chunks_mut(s).enumerate().skip(1).take(r - 2).for_each(|(y, row)| {
            let row = &mut row[1..s - 1];
            row.iter_mut().zip(row_of(y)).for_each(|(v, own)| *v = half[0] * own);
            for (d, w) in half.iter().enumerate().skip(1) {
                let sides = row_of(y.saturating_sub(d)).iter().zip(row_of(y + d));
                row.iter_mut().zip(sides).for_each(|(v, (a, b))| *v += w * (a + b));
            }
        });
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

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::Random;

    #[test]
    fn smoothing_weighs_what_is_near_in_rows_and_in_columns() {
        let (w, h) = (19_usize, 13_usize);
        let (stride, rows) = (w + 2, h + 2);
        let mut random = Random::new(5);
        let values: Vec<f32> = (0..stride * rows).map(|_| random.between(-100.0, 100.0) as f32).collect();
        let mut field = Field {
            stride,
            rows,
            values: values.clone(),
            contrast: 100.0,
            reach: 3,
            histogram: [0; 256],
            is_one_bit: false,
            compression: 0.0,
        };
        field.smooth(1.2);
        // The same as one sum over both axes; beyond the picture the pixel at its border goes on.
        let weight = |d: isize| (-0.5 * (d as f64 / 1.2).powi(2)).exp();
        let sum: f64 = (-4..=4).map(weight).sum();
        let held = |k: usize, d: isize, n: usize| (k.cast_signed() + d).clamp(1, n.cast_signed()).cast_unsigned();
        for (y, x) in (1..=h).flat_map(|y| (1..=w).map(move |x| (y, x))) {
            let at = |dy: isize, dx: isize| f64::from(values[held(y, dy, h) * stride + held(x, dx, w)]);
            let near = (-4..=4).flat_map(|dy| (-4..=4).map(move |dx| (dy, dx)));
            let wanted = near.map(|(dy, dx)| weight(dy) * weight(dx) * at(dy, dx)).sum::<f64>() / (sum * sum);
            assert!((f64::from(field.values[y * stride + x]) - wanted).abs() < 1e-3, "{x} {y}");
        }
        assert_eq!(field.values[..stride], values[..stride], "the frame is left alone");
    }
}
