//! Thinning to lines one pixel wide: T. Y. Zhang and C. Y. Suen, 'A fast parallel algorithm for thinning digital
//! patterns', 1984 (doi:10.1145/357994.358023).

use kachel_geom::{Stopped, Watch};

/// A picture of two kinds of pixel with a frame of ground.
pub(crate) struct Mask {
    pub(crate) stride: usize,
    pub(crate) ink: Vec<bool>,
}

impl Mask {
    /// Steps to the eight neighbours, clockwise from above: P2 to P9 of the paper.
    pub(crate) fn steps(&self) -> [isize; 8] {
        let s = self.stride.cast_signed();
        [-s, 1 - s, 1, s + 1, s, s - 1, -1, -s - 1]
    }

    fn ring(&self, i: usize) -> [bool; 8] {
        self.steps().map(|d| self.ink[i.wrapping_add_signed(d)])
    }

    /// Thins until nothing changes.
    pub(crate) fn thin(&mut self, watch: &Watch) -> Result<(), Stopped> {
        let mut live: Vec<usize> = (0..self.ink.len()).filter(|i| self.ink[*i]).collect();
        loop {
            watch.check()?;
            let mut changed = false;
            for is_second in [false, true] {
                let gone: Vec<usize> = live.iter().copied().filter(|i| goes(self.ring(*i), is_second)).collect();
                changed |= !gone.is_empty();
                gone.iter().for_each(|i| self.ink[*i] = false);
                if !gone.is_empty() {
                    live.retain(|i| self.ink[*i]);
                }
            }
            if !changed {
                return Ok(());
            }
        }
    }
}

/// Conditions (a) to (d) of the paper: of two to six neighbours in one run, and on the south-east or the north-west side.
fn goes(p: [bool; 8], is_second: bool) -> bool {
    let neighbours = p.iter().filter(|v| **v).count();
    let runs = (0..8).filter(|k| !p[*k] && p[(k + 1) % 8]).count();
    let [p2, p4, p6, p8] = [p[0], p[2], p[4], p[6]];
    let side = if is_second { !(p2 && p8 && (p4 || p6)) } else { !(p4 && p6 && (p2 || p8)) };
    (2..=6).contains(&neighbours) && runs == 1 && side
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Skeletons by scikit-image; see `conformance/thinning/make.py`.
    const SHAPES: &str = include_str!("../conformance/thinning/shapes.txt");

    #[test]
    fn skeletons_are_those_of_a_reference_library() {
        let shapes: Vec<Vec<&str>> =
            SHAPES.split("\n\n").map(|s| s.lines().collect()).filter(|s: &Vec<&str>| !s.is_empty()).collect();
        assert_eq!(shapes.len(), 7);
        for (k, rows) in shapes.iter().enumerate() {
            let stride = rows[0].len() + 2;
            let mut mask = Mask { stride, ink: vec![false; stride * (rows.len() + 2)] };
            let at = |x: usize, y: usize| (y + 1) * stride + x + 1;
            let cells =
                || rows.iter().enumerate().flat_map(|(y, row)| row.bytes().enumerate().map(move |(x, c)| (x, y, c)));
            cells().for_each(|(x, y, c)| mask.ink[at(x, y)] = c != b'.');
            mask.thin(&Watch::default()).unwrap();
            // The library reads its neighbourhoods from a table of its own, which keeps some pixels at ends and in
            // corners: nothing is more than four pixels away.
            let (mut alike, mut of) = (0, 0);
            for (x, y, c) in cells() {
                let is_theirs =
                    |(x, y): (usize, usize)| rows.get(y).and_then(|r| r.as_bytes().get(x)).is_some_and(|c| *c == b'#');
                let (ours, theirs) = (mask.ink[at(x, y)], c == b'#');
                if !ours && !theirs {
                    continue;
                }
                of += 1;
                alike += usize::from(ours == theirs);
                let near = |has: &dyn Fn(usize, usize) -> bool| {
                    (0..81).any(|n| has((x + n % 9).saturating_sub(4), (y + n / 9).saturating_sub(4)))
                };
                let is_near = if ours { near(&|x, y| is_theirs((x, y))) } else { near(&|x, y| mask.ink[at(x, y)]) };
                assert!(is_near, "shape {k} at {x}, {y}");
            }
            assert!(alike * 100 >= of * 60, "shape {k}: {alike} of {of}");
        }
    }
}
