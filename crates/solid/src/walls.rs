//! Upright walls, zipped over as many slabs as they last, with only the heights that their neighbours use. Where a slope
//! meets an edge, a wall begins or ends along the slope's line.

use crate::builder::Builder;
use crate::faces::Faces;
use crate::heights::SlabHeights;
use crate::label::Labels;
use kachel_geom::Grid;

/// The heights of a line over both ends of an edge.
type Line = (i32, i32);

/// A piece of an edge's upright plane, from one line to another, with the owners on the left and on the right.
#[derive(Clone, Copy, Debug)]
struct Cell {
    edge: u32,
    low: Line,
    high: Line,
    left: u16,
    right: u16,
}

/// All pieces between different owners, by edge, rising.
pub(crate) struct Walls {
    cells: Vec<Cell>,
    ends: Vec<(u32, u32)>,
}

/// A run of cells in which a part lies on one side only.
struct Run {
    edge: u32,
    low: Line,
    high: Line,
    on_left: bool,
}

/// Where the slopes on both sides of an edge meet it: left and right.
pub(crate) fn lines(faces: &Faces, heights: &SlabHeights, edge: u32) -> [Option<Line>; 2] {
    let [la, lb, ra, rb] = faces.corners(edge).map(|h| heights.z(h));
    [la.zip(lb), ra.zip(rb)]
}

impl Walls {
    pub(crate) fn new(faces: &Faces, labels: &Labels, heights: &[Option<SlabHeights>], levels: &[Grid]) -> Self {
        let mut cells = Vec::new();
        for edge in 0..faces.arrangement.edges.len() {
            let (l, r) = faces.sides(edge);
            let edge = edge as u32;
            for (slab, heights) in heights.iter().enumerate() {
                let s = slab.cast_signed();
                let below = [labels.lower(s, l), labels.lower(s, r)];
                let above = [labels.upper(s, l), labels.upper(s, r)];
                if below[0] == below[1] && above[0] == above[1] && labels.sloped(slab, l) == labels.sloped(slab, r) {
                    continue;
                }
                let (low, high) = (levels[slab].steps(), levels[slab + 1].steps());
                let own = heights.as_ref().map_or([None; 2], |h| lines(faces, h, edge));
                let mut stops: Vec<Line> = own.iter().flatten().copied().chain([(low, low), (high, high)]).collect();
                stops.sort_by_key(|s| i64::from(s.0) + i64::from(s.1));
                stops.dedup();
                for pair in stops.windows(2) {
                    // A line lies above what does not reach over it.
                    let owner = |k: usize| match own[k] {
                        Some(line) if line.0 + line.1 <= pair[0].0 + pair[0].1 => above[k],
                        _ => below[k],
                    };
                    let (left, right) = (owner(0), owner(1));
                    if left != right {
                        cells.push(Cell { edge, low: pair[0], high: pair[1], left, right });
                    }
                }
            }
        }
        Self { cells, ends: faces.arrangement.edges.iter().map(|e| (e.a, e.b)).collect() }
    }

    fn runs(&self, part: u16) -> Vec<Run> {
        let mut runs: Vec<Run> = Vec::new();
        for c in &self.cells {
            if (c.left == part) == (c.right == part) {
                continue;
            }
            let on_left = c.left == part;
            match runs.last_mut() {
                Some(r) if r.edge == c.edge && r.high == c.low && r.on_left == on_left => r.high = c.high,
                _ => runs.push(Run { edge: c.edge, low: c.low, high: c.high, on_left }),
            }
        }
        runs
    }

    /// Adds a part's walls to its mesh.
    pub(crate) fn build(&self, part: u16, to: &mut Builder<'_>) {
        let runs = self.runs(part);
        let mut used: Vec<(u32, i32)> = Vec::with_capacity(runs.len() * 4);
        for r in &runs {
            let (a, b) = self.ends[r.edge as usize];
            used.extend([(a, r.low.0), (a, r.high.0), (b, r.low.1), (b, r.high.1)]);
        }
        used.sort_unstable();
        used.dedup();
        let heights = |v: u32, from: i32, to: i32| {
            let first = used.partition_point(|u| *u < (v, from));
            used[first..].iter().take_while(|u| u.0 == v && u.1 <= to).map(|u| u.1).collect::<Vec<_>>()
        };
        for r in &runs {
            let (a, b) = self.ends[r.edge as usize];
            let (at_a, at_b) = (heights(a, r.low.0, r.high.0), heights(b, r.low.1, r.high.1));
            // With the part on the left of a -> b, a is on the left of who looks at the wall from outside.
            if r.on_left {
                zip(to, (a, &at_a), (b, &at_b));
            } else {
                zip(to, (b, &at_b), (a, &at_a));
            }
        }
    }
}

fn zip(to: &mut Builder<'_>, (a, left): (u32, &[i32]), (b, right): (u32, &[i32])) {
    let (mut i, mut j) = (0, 0);
    while i + 1 < left.len() || j + 1 < right.len() {
        let lift_left = j + 1 == right.len() || (i + 1 < left.len() && left[i + 1] <= right[j + 1]);
        if lift_left {
            to.triangle([(a, left[i]), (b, right[j]), (a, left[i + 1])]);
            i += 1;
        } else {
            to.triangle([(a, left[i]), (b, right[j]), (b, right[j + 1])]);
            j += 1;
        }
    }
}
