//! Compression noise: what a compressed edge leaves in the blocks of 8 pixels that it runs through.

use rayon::prelude::*;
use smallvec::SmallVec;

/// Side of a block, as in JPEG (ITU-T T.81).
const SIDE: usize = 8;
/// Pixels nearer than this to another class are part of the edge.
const CLEAR: usize = 3;
/// Fewest pixels of a class in a block that say something.
const FEWEST: usize = 5;
/// Less noise than this, by the contrast, is rounding.
const ROUNDING: f64 = 0.004;

/// Values of one class in a block.
struct Group {
    mean: f64,
    /// The squares of how far they are from their mean.
    squares: f64,
    count: f64,
}

impl Group {
    fn of(values: &[f32]) -> Self {
        let n = values.len() as f64;
        if values.iter().all(|v| *v == values[0]) {
            return Self { mean: f64::from(values[0]), squares: 0.0, count: n };
        }
        let mean = values.iter().map(|v| f64::from(*v)).sum::<f64>() / n;
        Self { mean, squares: values.iter().map(|v| (f64::from(*v) - mean).powi(2)).sum(), count: n }
    }
}

/// Spread of values about the means of their groups.
#[derive(Default)]
struct Spread {
    squares: f64,
    count: f64,
}

impl Spread {
    fn add(&mut self, group: &Group) {
        self.squares += group.squares;
        self.count += group.count - 1.0;
    }

    fn variance(&self) -> f64 {
        if self.count > 0.0 { self.squares / self.count } else { 0.0 }
    }
}

/// What a block says: the spread of one class that fills it, or of each class beside an edge.
enum Block {
    Flat(Group),
    Edged(Vec<Group>),
}

type Values = SmallVec<[f32; SIDE * SIDE]>;

/// A picture by classes: 0 is none, else the class and 1.
struct Classes<'a> {
    w: usize,
    h: usize,
    of: &'a [u16],
}

impl Classes<'_> {
    fn at(&self, x: usize, y: usize) -> u16 {
        self.of[y * self.w + x]
    }

    /// Whether no other class is near.
    fn is_clear(&self, x: usize, y: usize) -> bool {
        let class = self.at(x, y);
        self.at(x.saturating_sub(CLEAR), y) == class
            && self.at((x + CLEAR).min(self.w - 1), y) == class
            && self.at(x, y.saturating_sub(CLEAR)) == class
            && self.at(x, (y + CLEAR).min(self.h - 1)) == class
    }

    /// Whether a block and what is near it is all of one class.
    fn is_plain(&self, (bx, by): (usize, usize)) -> bool {
        let plain = [self.at(bx, by); SIDE + 2 * CLEAR];
        let near = |from: usize, most: usize| from.saturating_sub(CLEAR)..(from + SIDE + CLEAR).min(most);
        near(by, self.h).all(|y| {
            let across = if (by..by + SIDE).contains(&y) { near(bx, self.w) } else { bx..bx + SIDE };
            let row = &self.of[y * self.w..][across];
            *row == plain[..row.len()]
        })
    }

    /// The block at a corner.
    fn block(&self, (bx, by): (usize, usize), value: impl Fn(usize, usize) -> f32) -> Option<Block> {
        // Most are: they are not looked at pixel by pixel.
        if self.is_plain((bx, by)) {
            let all = || std::array::from_fn::<f32, { SIDE * SIDE }, _>(|k| value(bx + k % SIDE, by + k / SIDE));
            return (self.at(bx, by) != 0).then(|| Block::Flat(Group::of(&all())));
        }
        let mut classes: SmallVec<[(u16, Values); 2]> = SmallVec::new();
        let mut is_whole = true;
        for (x, y) in (0..SIDE * SIDE).map(|k| (bx + k % SIDE, by + k / SIDE)) {
            let class = self.at(x, y);
            if class == 0 {
                is_whole = false;
                continue;
            }
            let place = classes.iter().position(|c| c.0 == class).unwrap_or_else(|| {
                classes.push((class, SmallVec::new()));
                classes.len() - 1
            });
            if self.is_clear(x, y) {
                classes[place].1.push(value(x, y));
            }
        }
        let count = classes.len();
        let mut groups = classes.iter().filter(|c| c.1.len() >= FEWEST).map(|c| Group::of(&c.1));
        if count > 1 {
            return Some(Block::Edged(groups.collect()));
        }
        groups.next().filter(|_| is_whole).map(Block::Flat)
    }
}

/// Standard deviation of compression noise by the contrast of the edges: how much more pixels of a class differ in blocks with
/// an edge than in blocks without. Grain of a camera or a scanner is in both, and an edge's own blur does not reach so far.
/// `of` tells class and value of a pixel; none where it belongs to no class for sure.
pub(crate) fn noise((w, h): (usize, usize), of: impl Fn(usize, usize) -> Option<(u8, f32)> + Sync) -> f64 {
    if w < 2 * SIDE || h < 2 * SIDE {
        return 0.0;
    }
    let mut by_pixel = vec![0u16; w * h];
    by_pixel.par_chunks_mut(w).enumerate().for_each(|(y, row)| {
        row.iter_mut().enumerate().for_each(|(x, class)| *class = of(x, y).map_or(0, |o| u16::from(o.0) + 1));
    });
    let classes = Classes { w, h, of: &by_pixel };
    let value = |x: usize, y: usize| of(x, y).map_or(0.0, |o| o.1);
    let rows: Vec<Vec<Block>> = (0..h / SIDE)
        .into_par_iter()
        .map(|by| (0..w / SIDE).filter_map(|bx| classes.block((bx * SIDE, by * SIDE), value)).collect())
        .collect();
    let (mut edged, mut flat) = (Spread::default(), Spread::default());
    let (mut contrast, mut edges) = (0.0, 0.0);
    // One after the other, so that sums are the same however many threads there are.
    for block in rows.iter().flatten() {
        match block {
            Block::Flat(group) => flat.add(group),
            Block::Edged(groups) => {
                groups.iter().for_each(|g| edged.add(g));
                if let [a, b, ..] = groups.as_slice() {
                    contrast += (a.mean - b.mean).abs();
                    edges += 1.0;
                }
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
