//! The colours of a flat picture, and which of them each pixel is. Soft edges are blends of two colours that lie side by
//! side; a blend never becomes a colour of its own.

use crate::{ColourSettings, TraceError, blends};
use kachel_artwork::Picture;
use kachel_geom::{Stopped, Watch};

type Rgb = [f64; 3];

/// One colour of the picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Swatch {
    /// sRGB.
    pub colour: [u8; 3],
    /// Share of the picture's pixels, 0 to 1.
    pub share: f64,
    /// Whether it is the ground, which is left out.
    pub is_ground: bool,
}

/// Most colours that are distinguished.
pub const MAX_COLOURS: usize = 12;
/// Pixels whose neighbours differ by no more than this (of 255, each channel) lie inside an area.
const FLAT: i32 = 10;
/// Pixels whose neighbours differ by no more than this are as the program that made the picture painted them.
const PAINTED: i32 = 2;
/// Pixels that a guess looks at.
const GUESSED: usize = 1 << 20;
/// Least share of painted pixels at which the colours are read from these alone.
const MOSTLY: f64 = 0.6;
/// Colours nearer than this (Euclidean, of 255) are one, the first that separates enough colours.
const NEAR: [f64; 4] = [30.0, 20.0, 12.0, 7.0];
/// The same where nearly all pixels are painted: cream on white is meant.
const NEAR_PAINTED: f64 = 12.0;
/// Pixels around a soft one among whose colours it is looked for.
const REACH: usize = 3;
/// A pixel this near a colour may be a thin line of it.
const SURE: f64 = 24.0;
/// A pixel this far from any blend of its neighbours' colours is no blend.
const NO_BLEND: f64 = 36.0;

/// Each pixel's colour.
pub(crate) struct Labels {
    pub(crate) width: usize,
    pub(crate) height: usize,
    pub(crate) palette: Vec<Rgb>,
    pub(crate) labels: Vec<u8>,
    /// The picture's colours, with what is transparent in a colour of its own.
    pub(crate) pixels: Vec<[u8; 3]>,
    pub(crate) ground: Option<u8>,
}

fn distance(a: Rgb, b: Rgb) -> f64 {
    (0..3).map(|k| (a[k] - b[k]).powi(2)).sum::<f64>().sqrt()
}

fn of(c: [u8; 3]) -> Rgb {
    c.map(f64::from)
}

#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 255")]
pub(crate) fn rounded(c: Rgb) -> [u8; 3] {
    c.map(|v| v.round().clamp(0.0, 255.0) as u8)
}

/// Flat pixels of about one colour.
#[derive(Clone, Copy)]
struct Cluster {
    sum: Rgb,
    count: f64,
    is_fixed: bool,
}

impl Cluster {
    fn mean(&self) -> Rgb {
        self.sum.map(|v| v / self.count)
    }
}

/// Finds the palette and labels every pixel.
pub(crate) fn label(p: &Picture, s: &ColourSettings, watch: &Watch) -> Result<Labels, TraceError> {
    let (w, h) = (p.width as usize, p.height as usize);
    let mut pixels: Vec<[u8; 3]> = (0..w * h).map(|i| p.colour_at(i)).collect();
    let clear = p.alpha.as_ref().filter(|a| a.iter().filter(|v| **v < 128).count() * 200 > w * h);
    let key = clear.map(|alpha| show_through(&mut pixels, alpha));
    let flat = flat(&pixels, w, h, FLAT);
    watch.check()?;
    let mut clusters = painted(&pixels, w, h, s, key).unwrap_or_else(|| find(&pixels, &flat, s, key, &NEAR));
    if clusters.len() < 2 {
        return Err(TraceError::OneColour);
    }
    clusters.sort_by(|a, b| b.count.total_cmp(&a.count));
    let palette: Vec<Rgb> = clusters.iter().map(Cluster::mean).collect();
    let mut labels = sure_labels(&pixels, &flat, &palette);
    soft_labels(&pixels, &mut labels, &palette, w, h, watch)?;
    if blends::is_compressed(&pixels, &labels, &palette, w, h) {
        blends::resolve(&pixels, &mut labels, &palette, w, h);
    }
    let nearest = |c: [u8; 3]| nearest(&palette, of(c));
    let ground = match (s.with_ground, s.ground, key) {
        (true, ..) => None,
        (false, Some(c), _) | (false, None, Some(c)) => Some(nearest(c)),
        (false, None, None) => commonest_on_border(&labels, w, h),
    };
    for [from, into] in &s.merged {
        let (from, into) = (nearest(*from), nearest(*into));
        labels.iter_mut().filter(|l| **l == from).for_each(|l| *l = into);
    }
    Ok(Labels { width: w, height: h, palette, labels, pixels, ground })
}

/// Whether the picture is of a few flat colours that light and dark do not separate.
pub(crate) fn is_of_flat_colours(p: &Picture) -> bool {
    if p.colour.is_none() {
        return false;
    }
    // Some rows of a large picture are enough.
    let (w, h) = (p.width as usize, p.height as usize);
    let bands = (h / 3).min(GUESSED / (3 * w).max(1)).max(1);
    let rows = (0..bands).flat_map(|b| (0..3).map(move |k| (b * (h / bands) + k).min(h - 1)));
    let pixels: Vec<[u8; 3]> = rows.flat_map(|y| (0..w).map(move |x| p.colour_at(y * w + x))).collect();
    let band: Vec<bool> = pixels.chunks(3 * w).flat_map(|band| flat(band, w, band.len() / w, FLAT)).collect();
    let clusters = find(&pixels, &band, &ColourSettings::default(), None, &NEAR);
    let in_clusters: f64 = clusters.iter().map(|c| c.count).sum();
    let means: Vec<Rgb> = clusters.iter().map(Cluster::mean).collect();
    in_clusters > 0.8 * pixels.len() as f64 && clusters.len() < MAX_COLOURS && differ_in_hue(&means)
}

/// Whether a colour lies off the way from the lightest to the darkest: then a cut by lightness would lose it.
pub(crate) fn differ_in_hue(colours: &[Rgb]) -> bool {
    let light = |c: &Rgb| c.iter().sum::<f64>();
    let (Some(first), Some(last)) = (
        colours.iter().copied().max_by(|a, b| light(a).total_cmp(&light(b))),
        colours.iter().copied().min_by(|a, b| light(a).total_cmp(&light(b))),
    ) else {
        return false;
    };
    colours.iter().any(|c| along(first, last, *c).1 > NO_BLEND)
}

/// Shows a colour that the picture does not have where it is transparent.
fn show_through(pixels: &mut [[u8; 3]], alpha: &[u8]) -> [u8; 3] {
    const KEYS: [[u8; 3]; 4] = [[255, 0, 255], [0, 255, 0], [0, 255, 255], [255, 128, 0]];
    let far = |k: &[u8; 3]| {
        let opaque = pixels.iter().zip(alpha).step_by(7).filter(|(_, a)| **a > 200);
        opaque.map(|(c, _)| distance(of(*c), of(*k))).fold(f64::INFINITY, f64::min)
    };
    let key = KEYS.into_iter().max_by(|a, b| far(a).total_cmp(&far(b))).unwrap_or(KEYS[0]);
    for (c, a) in pixels.iter_mut().zip(alpha) {
        // They are over white: what white adds is taken off, and the key put in its place.
        let clear = 1.0 - f64::from(*a) / 255.0;
        *c = rounded(std::array::from_fn(|k| f64::from(c[k]) + (f64::from(key[k]) - 255.0) * clear));
    }
    key
}

/// Which pixels differ from none of their neighbours by more than `most`.
fn flat(pixels: &[[u8; 3]], w: usize, h: usize, most: i32) -> Vec<bool> {
    let alike = |a: [u8; 3], b: [u8; 3]| a == b || (0..3).all(|k| (i32::from(a[k]) - i32::from(b[k])).abs() <= most);
    let mut out = vec![false; w * h];
    for y in 0..h {
        let rows = [y.saturating_sub(1), y, (y + 1).min(h - 1)].map(|r| &pixels[r * w..(r + 1) * w]);
        for x in 0..w {
            let (left, right) = (x.saturating_sub(1), (x + 1).min(w - 1));
            let c = rows[1][x];
            out[y * w + x] = rows.iter().all(|r| alike(c, r[left]) && alike(c, r[x]) && alike(c, r[right]));
        }
    }
    out
}

/// The colours of a picture that was painted flat and not spoilt since; `None` where it is another kind.
fn painted(pixels: &[[u8; 3]], w: usize, h: usize, s: &ColourSettings, key: Option<[u8; 3]>) -> Option<Vec<Cluster>> {
    let exact = flat(pixels, w, h, PAINTED);
    if (exact.iter().filter(|e| **e).count() as f64) < MOSTLY * pixels.len() as f64 {
        return None;
    }
    let all = ColourSettings { count: None, ..s.clone() };
    let found = find(pixels, &exact, &all, key, &[NEAR_PAINTED]);
    // Shades beyond number are no paint, and with a number asked for the usual way knows which to join.
    let wanted = s.count.map_or(MAX_COLOURS, usize::from);
    (2..=wanted).contains(&found.len()).then_some(found).filter(|f| s.count.is_none() || f.len() == wanted)
}

fn find(pixels: &[[u8; 3]], flat: &[bool], s: &ColourSettings, key: Option<[u8; 3]>, nears: &[f64]) -> Vec<Cluster> {
    // Bins of 16 levels a channel keep the mean of what falls into them.
    let mut bins = vec![Cluster { sum: [0.0; 3], count: 0.0, is_fixed: false }; 4096];
    for (c, _) in pixels.iter().zip(flat).filter(|(_, f)| **f) {
        let bin = &mut bins[usize::from(c[0] >> 4) << 8 | usize::from(c[1] >> 4) << 4 | usize::from(c[2] >> 4)];
        (0..3).for_each(|k| bin.sum[k] += f64::from(c[k]));
        bin.count += 1.0;
    }
    bins.retain(|b| b.count > 0.0);
    bins.sort_by(|a, b| b.count.total_cmp(&a.count));
    let wanted = s.count.map(usize::from);
    let least = (pixels.len() as f64 * 2e-4).max(6.0);
    let fixed = s.picked.iter().copied().chain(key).map(|c| Cluster { sum: of(c), count: 1.0, is_fixed: true });
    let fixed: Vec<Cluster> = fixed.collect();
    let mut best = Vec::new();
    for &near in nears {
        let mut clusters = fixed.clone();
        for bin in &bins {
            let mean = bin.mean();
            match clusters.iter_mut().find(|c| distance(c.mean(), mean) < near) {
                Some(c) if c.is_fixed => c.count += 1e-9,
                Some(c) => {
                    (0..3).for_each(|k| c.sum[k] += bin.sum[k]);
                    c.count += bin.count;
                }
                None => clusters.push(*bin),
            }
        }
        clusters.retain(|c| c.is_fixed || c.count >= least);
        let is_enough = clusters.len() >= wanted.unwrap_or(2).max(2);
        if best.len() < clusters.len() {
            best = clusters;
        }
        if is_enough {
            break;
        }
    }
    while best.len() > wanted.unwrap_or(MAX_COLOURS).clamp(2, MAX_COLOURS) {
        merge_nearest(&mut best);
    }
    best
}

/// Makes one of the two whose union spreads least (J. H. Ward, 1963, doi:10.1080/01621459.1963.10500845).
fn merge_nearest(clusters: &mut Vec<Cluster>) {
    let mut best = (f64::INFINITY, 0, 1);
    for i in 0..clusters.len() {
        for j in i + 1..clusters.len() {
            let (a, b) = (&clusters[i], &clusters[j]);
            if a.is_fixed && b.is_fixed && clusters.iter().any(|c| !c.is_fixed) {
                continue;
            }
            let cost = distance(a.mean(), b.mean()).powi(2) * a.count * b.count / (a.count + b.count);
            if cost < best.0 {
                best = (cost, i, j);
            }
        }
    }
    let b = clusters.remove(best.2);
    let a = &mut clusters[best.1];
    // The larger colour stays itself: a mean of two would be a third.
    if b.is_fixed || (b.count > a.count && !a.is_fixed) {
        *a = b;
    }
}

#[expect(clippy::cast_possible_truncation, reason = "at most 12 colours")]
fn nearest(palette: &[Rgb], c: Rgb) -> u8 {
    let best = (0..palette.len()).min_by(|a, b| distance(palette[*a], c).total_cmp(&distance(palette[*b], c)));
    best.unwrap_or(0) as u8
}

/// No label yet.
const OPEN: u8 = u8::MAX;

fn sure_labels(pixels: &[[u8; 3]], flat: &[bool], palette: &[Rgb]) -> Vec<u8> {
    let sure = |(c, f): (&[u8; 3], &bool)| {
        let label = nearest(palette, of(*c));
        if *f && distance(palette[usize::from(label)], of(*c)) < NO_BLEND { label } else { OPEN }
    };
    pixels.iter().zip(flat).map(sure).collect()
}

/// Labels the soft pixels by the blend of two of the colours around them that explains them best.
fn soft_labels(
    pixels: &[[u8; 3]],
    labels: &mut [u8],
    palette: &[Rgb],
    w: usize,
    h: usize,
    watch: &Watch,
) -> Result<(), Stopped> {
    let sure = labels.to_vec();
    for y in 0..h {
        watch.step(y, h)?;
        for x in 0..w {
            let i = y * w + x;
            if sure[i] != OPEN {
                continue;
            }
            let c = of(pixels[i]);
            let mut around = [false; MAX_COLOURS + 4];
            for b in y.saturating_sub(REACH)..=(y + REACH).min(h - 1) {
                for a in x.saturating_sub(REACH)..=(x + REACH).min(w - 1) {
                    if let Some(seen) = around.get_mut(usize::from(sure[b * w + a])) {
                        *seen = true;
                    }
                }
            }
            labels[i] = explain(palette, &around, c);
        }
    }
    Ok(())
}

#[expect(clippy::cast_possible_truncation, reason = "at most 12 colours")]
fn explain(palette: &[Rgb], around: &[bool], c: Rgb) -> u8 {
    let candidates: Vec<usize> = (0..palette.len()).filter(|k| around[*k]).collect();
    let mut best = (f64::INFINITY, None);
    for (n, &a) in candidates.iter().enumerate() {
        for &b in &candidates[n..] {
            let (t, off) = along(palette[a], palette[b], c);
            if off < best.0 {
                best = (off, Some(if t < 0.5 { a } else { b }));
            }
        }
    }
    let any = nearest(palette, c);
    match best.1 {
        // A thin line has no flat pixels; it is no blend of what lies around it.
        Some(_) if best.0 > NO_BLEND && distance(palette[usize::from(any)], c) < SURE => any,
        Some(k) => k as u8,
        None => any,
    }
}

/// How far along the way from `a` to `b` the colour lies, and how far beside it.
pub(crate) fn along(a: Rgb, b: Rgb, c: Rgb) -> (f64, f64) {
    let len2: f64 = (0..3).map(|k| (b[k] - a[k]).powi(2)).sum();
    let t = if len2 > 0.0 { (0..3).map(|k| (c[k] - a[k]) * (b[k] - a[k])).sum::<f64>() / len2 } else { 0.0 };
    let held = t.clamp(0.0, 1.0);
    (t, distance(std::array::from_fn(|k| a[k] + (b[k] - a[k]) * held), c))
}

fn commonest_on_border(labels: &[u8], w: usize, h: usize) -> Option<u8> {
    let mut counts = [0usize; 256];
    (0..w).for_each(|x| [x, (h - 1) * w + x].iter().for_each(|i| counts[usize::from(labels[*i])] += 1));
    (0..h).for_each(|y| [y * w, y * w + w - 1].iter().for_each(|i| counts[usize::from(labels[*i])] += 1));
    (0..=255u8).max_by_key(|l| counts[usize::from(*l)])
}
