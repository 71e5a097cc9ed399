//! Connected areas of one colour in a labelled picture.

use kachel_geom::{Bounds, Px};
use std::collections::{BTreeMap, HashMap};

/// Beyond the picture.
pub(crate) const OUTSIDE: u32 = u32::MAX;

/// Connected areas of one colour.
pub(crate) struct Areas {
    pub(crate) w: usize,
    pub(crate) h: usize,
    pub(crate) of: Vec<u32>,
    pub(crate) labels: Vec<u8>,
    pub(crate) sizes: Vec<usize>,
}

impl Areas {
    /// Areas connected by the sides of pixels.
    pub(crate) fn new(labels: &[u8], w: usize, h: usize) -> Self {
        let mut of = vec![OUTSIDE; w * h];
        let (mut found, mut sizes) = (Vec::new(), Vec::new());
        let mut open = Vec::new();
        for start in 0..w * h {
            if of[start] != OUTSIDE {
                continue;
            }
            let name = u32::try_from(found.len()).unwrap_or(OUTSIDE - 1);
            let label = labels[start];
            of[start] = name;
            open.push(start);
            let mut size = 0;
            while let Some(i) = open.pop() {
                size += 1;
                for j in neighbours(i, w, h) {
                    if of[j] == OUTSIDE && labels[j] == label {
                        of[j] = name;
                        open.push(j);
                    }
                }
            }
            found.push(label);
            sizes.push(size);
        }
        Self { w, h, of, labels: found, sizes }
    }

    /// The area of the pixel, `OUTSIDE` beyond the picture.
    pub(crate) fn at(&self, x: isize, y: isize) -> u32 {
        match (usize::try_from(x), usize::try_from(y)) {
            (Ok(x), Ok(y)) if x < self.w && y < self.h => self.of[y * self.w + x],
            _ => OUTSIDE,
        }
    }

    /// Pixels to the left and right of the step from a corner: each the pixel with that corner.
    pub(crate) const fn sides((x, y): (isize, isize), dir: usize) -> [(isize, isize); 2] {
        match dir {
            0 => [(x, y - 1), (x, y)],
            1 => [(x, y), (x - 1, y)],
            2 => [(x - 1, y), (x - 1, y - 1)],
            _ => [(x - 1, y - 1), (x, y - 1)],
        }
    }

    pub(crate) fn is_border(&self, corner: (isize, isize), dir: usize) -> bool {
        let [a, b] = Self::sides(corner, dir);
        self.at(a.0, a.1) != self.at(b.0, b.1)
    }
}

pub(crate) fn neighbours(i: usize, w: usize, h: usize) -> impl Iterator<Item = usize> {
    let (x, y) = (i % w, i / w);
    let all = [(x > 0, i.wrapping_sub(1)), (x + 1 < w, i + 1), (y > 0, i.wrapping_sub(w)), (y + 1 < h, i + w)];
    all.into_iter().filter(|(is_in, _)| *is_in).map(|(_, j)| j)
}

/// Gives small areas to the neighbour with which they share most of their border; returns their labels and boxes.
pub(crate) fn absorb(labels: &mut [u8], areas: &Areas, least: impl Fn(u8) -> f64) -> Vec<(u8, Bounds<Px>)> {
    let small = |a: u32| (areas.sizes[a as usize] as f64) < least(areas.labels[a as usize]);
    let mut shared: HashMap<u32, HashMap<u8, usize>> = HashMap::new();
    for (i, &a) in areas.of.iter().enumerate() {
        if small(a) {
            for j in neighbours(i, areas.w, areas.h) {
                if areas.of[j] != a && !small(areas.of[j]) {
                    *shared.entry(a).or_default().entry(labels[j]).or_default() += 1;
                }
            }
        }
    }
    let heirs: HashMap<u32, u8> = shared
        .into_iter()
        .filter_map(|(a, by)| by.into_iter().max_by_key(|(l, n)| (*n, *l)).map(|(l, _)| (a, l)))
        .collect();
    let mut boxes: BTreeMap<u32, Bounds<Px>> = BTreeMap::new();
    for (i, a) in areas.of.iter().enumerate() {
        if let Some(l) = heirs.get(a) {
            labels[i] = *l;
            let at = |d: usize| kachel_geom::Point::new((i % areas.w + d) as f64, (i / areas.w + d) as f64);
            let pixel = Bounds { min: at(0), max: at(1) };
            boxes.entry(*a).and_modify(|b| *b = b.union(pixel)).or_insert(pixel);
        }
    }
    boxes.into_iter().map(|(a, b)| (areas.labels[a as usize], b)).collect()
}
