//! Strips along the border of two colours that compression makes: a third colour that is only the blend of the two.
//!
//! JPEG keeps lightness at every pixel, but what else there is of a colour at every other one, so that at a border the one is
//! already that of one side when the other is still half-way. Between red and blue such pixels may be nearest to a purple that
//! the picture has elsewhere.

type Rgb = [f64; 3];

/// Side of the square, pixels, that an area of a colour has to hold somewhere to be sure.
const CORE: usize = 5;
/// Pixels within which the two colours lie that a blend is of: blocks of colour are spread over twice their size.
const REACH: usize = 6;
/// A blend lies this near to the way between the two colours, lightness left out, of 255.
const BESIDE: f64 = 26.0;
/// And its lightness no more than this beyond theirs.
const BEYOND: f64 = 30.0;

/// Pixels off a border at which compression still rings, but a clean picture is over with it.
const OFF_BORDER: usize = 4;
/// A pixel there that differs from its colour by more than this, in all, was rung.
const RUNG: f64 = 6.0;
/// In a compressed picture at least this share of them is.
const RUNG_SHARE: f64 = 0.1;

/// Whether the picture was compressed: its colours ring beside their borders.
pub(crate) fn is_compressed(pixels: &[[u8; 3]], labels: &[u8], palette: &[Rgb], w: usize, h: usize) -> bool {
    let (mut rung, mut all) = (0u64, 0u64);
    let far = OFF_BORDER;
    for y in far..h.saturating_sub(far) {
        for x in far..w.saturating_sub(far) {
            let i = y * w + x;
            let at = |d: usize| [i - d, i + d, i - d * w, i + d * w];
            let is_own = |k: usize| labels[k] == labels[i];
            if !at(far - 1).into_iter().all(is_own) || at(far).into_iter().all(is_own) {
                continue;
            }
            let own = palette.get(usize::from(labels[i])).copied().unwrap_or_default();
            let off: f64 = (0..3).map(|k| (own[k] - f64::from(pixels[i][k])).abs()).sum();
            rung += u64::from(off > RUNG);
            all += 1;
        }
    }
    all > 0 && rung as f64 >= RUNG_SHARE * all as f64
}

/// Lightness, and what else there is of a colour (ITU-R BT.601, as JFIF 1.02 has it).
fn split([r, g, b]: Rgb) -> (f64, [f64; 2]) {
    let y = 0.299 * r + 0.587 * g + 0.114 * b;
    (y, [0.564 * (b - y), 0.713 * (r - y)])
}

/// How far along the way from `a` to `b` the colour lies, if it may be a blend of them.
fn blend(a: Rgb, b: Rgb, c: Rgb) -> Option<f64> {
    let ((ya, a), (yb, b), (yc, c)) = (split(a), split(b), split(c));
    let way = [b[0] - a[0], b[1] - a[1]];
    let long = way[0].hypot(way[1]);
    if long < BESIDE || yc < ya.min(yb) - BEYOND || yc > ya.max(yb) + BEYOND {
        return None;
    }
    let from = [c[0] - a[0], c[1] - a[1]];
    let t = (from[0] * way[0] + from[1] * way[1]) / (long * long);
    let beside = (from[0] * way[1] - from[1] * way[0]).abs() / long;
    if !(-0.1..=1.1).contains(&t) || beside > BESIDE {
        return None;
    }
    // Lightness is sharper, where it differs.
    Some(if (yb - ya).abs() > BEYOND { (yc - ya) / (yb - ya) } else { t })
}

/// Which pixels hang together with a square of their colour.
fn sure(labels: &[u8], w: usize, h: usize) -> Vec<bool> {
    // How large a square of one label ends at each pixel.
    let mut side = vec![1usize; w * h];
    let mut is_sure = vec![false; w * h];
    let mut open = Vec::new();
    for y in 0..h {
        for x in 0..w {
            let i = y * w + x;
            let is_same = |k: usize| labels[k] == labels[i];
            if x > 0 && y > 0 && is_same(i - 1) && is_same(i - w) && is_same(i - w - 1) {
                side[i] = 1 + side[i - 1].min(side[i - w]).min(side[i - w - 1]);
            }
            if side[i] >= CORE {
                is_sure[i] = true;
                open.push(i);
            }
        }
    }
    while let Some(i) = open.pop() {
        let (x, y) = (i % w, i / w);
        for b in y.saturating_sub(1)..=(y + 1).min(h - 1) {
            for a in x.saturating_sub(1)..=(x + 1).min(w - 1) {
                let k = b * w + a;
                if !is_sure[k] && labels[k] == labels[i] {
                    is_sure[k] = true;
                    open.push(k);
                }
            }
        }
    }
    is_sure
}

/// Gives pixels of a colour that nowhere holds a square there, and may be a blend of two that lie around it, to the nearer of
/// the two. A thin line lies in one colour, or between two that it is no blend of, and stays.
pub(crate) fn resolve(pixels: &[[u8; 3]], labels: &mut [u8], palette: &[Rgb], w: usize, h: usize) {
    let is_sure = sure(labels, w, h);
    let before = labels.to_vec();
    let mut around = vec![false; palette.len()];
    for i in (0..w * h).filter(|i| !is_sure[*i]) {
        let (x, y) = (i % w, i / w);
        around.fill(false);
        for b in y.saturating_sub(REACH)..=(y + REACH).min(h - 1) {
            for a in x.saturating_sub(REACH)..=(x + REACH).min(w - 1) {
                let k = b * w + a;
                if is_sure[k]
                    && before[k] != before[i]
                    && let Some(seen) = around.get_mut(usize::from(before[k]))
                {
                    *seen = true;
                }
            }
        }
        let near: Vec<usize> = (0..palette.len()).filter(|k| around[*k]).collect();
        let own = palette.get(usize::from(before[i])).copied().unwrap_or_default();
        let c = pixels[i].map(f64::from);
        // The colour itself has to be a blend, not this pixel alone.
        let found = near.iter().enumerate().find_map(|(n, a)| {
            near[n + 1..].iter().find_map(|b| {
                blend(palette[*a], palette[*b], own)?;
                blend(palette[*a], palette[*b], c).map(|t| if t < 0.5 { *a } else { *b })
            })
        });
        #[expect(clippy::cast_possible_truncation, reason = "a place among at most 12 colours")]
        if let Some(k) = found {
            labels[i] = k as u8;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const RED: Rgb = [193.0, 40.0, 43.0];
    const BLUE: Rgb = [41.0, 62.0, 129.0];
    const PURPLE: Rgb = [122.0, 60.0, 123.0];
    const GREEN: Rgb = [27.0, 90.0, 59.0];

    /// Columns of labels as wide as they say, 30 rows high, resolved.
    fn resolved(columns: &[(u8, usize)], of: &dyn Fn(u8, usize) -> Rgb) -> Vec<u8> {
        let row: Vec<u8> = columns.iter().flat_map(|(l, n)| vec![*l; *n]).collect();
        let (w, h) = (row.len(), 30);
        let mut labels: Vec<u8> = (0..w * h).map(|i| row[i % w]).collect();
        let pixels: Vec<[u8; 3]> =
            (0..w * h).map(|i| of(row[i % w], i % w).map(|v| v.round().clamp(0.0, 255.0) as u8)).collect();
        resolve(&pixels, &mut labels, &[RED, BLUE, PURPLE, GREEN], w, h);
        labels[15 * w..16 * w].to_vec()
    }

    fn plain(l: u8, _: usize) -> Rgb {
        [RED, BLUE, PURPLE, GREEN][usize::from(l)]
    }

    #[test]
    fn a_strip_of_a_blend_goes_to_the_colours_beside_it() {
        let blended = |l: u8, x: usize| {
            let t = ((x as f64 - 19.5) / 4.0).clamp(0.0, 1.0);
            if l == 2 { std::array::from_fn(|k| RED[k] + (BLUE[k] - RED[k]) * t) } else { plain(l, x) }
        };
        let row = resolved(&[(0, 20), (2, 3), (1, 20)], &blended);
        assert!(row.iter().all(|l| *l != 2), "{row:?}");
        assert!(row[..20].iter().all(|l| *l == 0) && row[23..].iter().all(|l| *l == 1));
    }

    #[test]
    fn what_is_an_area_or_a_thin_line_stays() {
        // Wide enough to be an area.
        let wide = [(0, 20), (2, 7), (1, 20)];
        assert_eq!(resolved(&wide, &plain).iter().filter(|l| **l == 2).count(), 7);
        // A line within one colour, and one between two that it is no blend of.
        for line in [[(0, 20), (2, 2), (0, 20)], [(0, 20), (3, 2), (1, 20)]] {
            let row = resolved(&line, &plain);
            assert_eq!(row.iter().filter(|l| **l == line[1].0).count(), 2, "{row:?}");
        }
    }
}
