use crate::{Ink, TraceError, TraceSettings};
use kachel_artwork::Picture;

/// Where grey is cut into ink and ground.
#[derive(Clone, Copy, Debug)]
pub struct Cut {
    /// The grey at which the contour runs.
    pub at: f64,
    /// Whether it was found rather than given.
    pub automatic: bool,
    /// Distance between the mean greys of the two classes; 0 where the cut was given.
    pub contrast: f64,
    /// Whether what is lighter (or more opaque) than the cut is ink.
    pub light_is_ink: bool,
    /// Whether opacity is cut rather than grey.
    pub by_alpha: bool,
}

/// The automatic cut: the two classes of N. Otsu, 'A Threshold Selection Method from Gray-Level Histograms', 1979
/// (doi:10.1109/TSMC.1979.4310076), then midway between their means, which is where an antialiased edge is half
/// covered; Otsu's bin itself may lie anywhere between the classes. `None` for a single grey.
pub fn otsu_cut(grey: &[u8]) -> Option<Cut> {
    let mut histogram = [0u64; 256];
    grey.iter().for_each(|&g| histogram[usize::from(g)] += 1);
    #[expect(clippy::cast_precision_loss, reason = "counts are below 2^53")]
    let histogram = histogram.map(|n| n as f64);
    let (total, sum) = weights(&histogram, 0);
    let mut best: Option<(f64, f64, f64)> = None;
    let (mut w0, mut s0) = (0.0, 0.0);
    for (bin, &n) in histogram.iter().enumerate() {
        w0 += n;
        s0 += n * bin as f64;
        let w1 = total - w0;
        if w0 > 0.0 && w1 > 0.0 {
            let (m0, m1) = (s0 / w0, (sum - s0) / w1);
            let between = w0 * w1 * (m1 - m0) * (m1 - m0);
            if best.is_none_or(|(b, ..)| between > b) {
                best = Some((between, m0, m1));
            }
        }
    }
    best.map(|(_, m0, m1)| Cut {
        at: (m0 + m1) / 2.0,
        automatic: true,
        contrast: m1 - m0,
        light_is_ink: false,
        by_alpha: false,
    })
}

fn weights(histogram: &[f64; 256], from: usize) -> (f64, f64) {
    let bins = histogram.iter().enumerate().skip(from);
    bins.fold((0.0, 0.0), |(w, s), (bin, n)| (w + n, s + n * bin as f64))
}

pub(crate) fn cut_picture(p: &Picture, settings: &TraceSettings) -> Result<Cut, TraceError> {
    match settings.ink {
        Ink::Alpha => {
            if p.alpha.is_none() {
                return Err(TraceError::NoAlpha);
            }
            Ok(given(settings.threshold.unwrap_or(128), settings.threshold.is_none(), !settings.invert, true))
        }
        Ink::LightDark | Ink::Pen | Ink::Colours | Ink::None => match settings.threshold {
            Some(t) => Ok(given(t, false, settings.invert, false)),
            None => {
                let cut = otsu_cut(&p.grey).ok_or(TraceError::OneColour)?;
                Ok(Cut { light_is_ink: settings.invert, ..cut })
            }
        },
    }
}

pub(crate) fn cut_drawing(settings: &TraceSettings) -> Result<Cut, TraceError> {
    match settings.ink {
        Ink::Alpha => Ok(given(255, settings.threshold.is_none(), settings.invert, true)),
        Ink::LightDark | Ink::Pen | Ink::Colours | Ink::None => {
            Ok(given(settings.threshold.unwrap_or(128), settings.threshold.is_none(), settings.invert, false))
        }
    }
}

fn given(at: u8, automatic: bool, light_is_ink: bool, by_alpha: bool) -> Cut {
    // Between two values of eight bits, so that no pixel lies on the cut.
    Cut { at: f64::from(at) - 0.5, automatic, contrast: 0.0, light_is_ink, by_alpha }
}

pub(crate) fn border_is_dark(p: &Picture, cut: f64) -> bool {
    let (w, h) = (p.width as usize, p.height as usize);
    let top = p.grey[..w].iter().chain(&p.grey[(h - 1) * w..]);
    let sides = (0..h).flat_map(|y| [&p.grey[y * w], &p.grey[y * w + w - 1]]);
    let (mut dark, mut all) = (0, 0);
    for &g in top.chain(sides) {
        dark += usize::from(f64::from(g) < cut);
        all += 1;
    }
    dark * 2 > all
}
