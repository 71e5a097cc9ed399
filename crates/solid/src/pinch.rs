//! Pinches: places where a part touches itself along an edge or in a point, which would give an edge with four faces
//! or a vertex with two fans. They are opened by a few micrometres where there is air beside them (a touch is no
//! connection), else welded; copies of a vertex would not survive STL.

use crate::faces::Faces;
use crate::label::{Labels, VOID};
use kachel_geom::{GridPoint, LIMIT, Region};

/// Rounds of mending; each round's mends are wider, so that they do not meet the last one's in new pinches.
pub(crate) const MAX_ROUNDS: usize = 8;
/// Half width of a mend in grid steps: 3 micrometres, and 2 more each round.
const REACH: i32 = 48;
const REACH_STEP: i32 = 31;

/// A place to mend, with the slab to change and the owner to give to it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Pinch {
    /// Slab k lies on one side of the edge, slab k + 1 on the other.
    Level { edge: u32, slab: usize, owner: u16 },
    /// Wedges of a slab touch at an upright line, or wedges of two slabs in a point.
    Point { vertex: u32, slab: usize, owner: u16 },
}

/// A small region that gets an owner of its own in one slab.
#[derive(Clone, Debug)]
pub(crate) struct Mend {
    pub region: Region,
    pub slab: usize,
    pub owner: u16,
}

pub(crate) fn find(faces: &Faces, labels: &Labels) -> Vec<Pinch> {
    let parts = labels.parts();
    let slabs = labels.slabs.cast_signed();
    let mut found = Vec::new();
    for edge in 0..faces.arrangement.edges.len() {
        let (l, r) = faces.sides(edge);
        for slab in 0..slabs - 1 {
            let [a, b, c, d] = [(slab, l), (slab, r), (slab + 1, l), (slab + 1, r)].map(|(s, f)| labels.owner(s, f));
            let left_first = a == d && a != VOID && b != a && c != a;
            let right_first = b == c && b != VOID && a != b && d != b;
            if left_first || right_first {
                let owner = if left_first { b } else { a };
                found.push(Pinch::Level { edge: edge as u32, slab: slab.cast_unsigned(), owner });
            }
        }
    }
    if !found.is_empty() {
        return found;
    }
    for (vertex, halves) in (0u32..).zip(&faces.out) {
        // Two wedges can only meet along the edges between them.
        if halves.len() < 3 {
            continue;
        }
        let wedges: Vec<u32> = halves.iter().map(|&h| faces.left[h as usize]).collect();
        for level in 0..=slabs {
            for &part in &parts {
                if let Some((slab, owner)) = at_point(labels, &wedges, level, part) {
                    found.push(Pinch::Point { vertex, slab, owner });
                }
            }
        }
    }
    found.sort_unstable();
    found.dedup_by_key(|p| match *p {
        Pinch::Level { edge, slab, .. } => (0, edge, slab),
        Pinch::Point { vertex, slab, .. } => (1, vertex, slab),
    });
    found
}

/// Looks at the wedges round a vertex, just below and just above a level.
fn at_point(labels: &Labels, wedges: &[u32], level: isize, part: u16) -> Option<(usize, u16)> {
    let row = |slab: isize| -> Vec<u16> { wedges.iter().map(|&f| labels.owner(slab, f)).collect() };
    let (below, above) = (row(level - 1), row(level));
    let arcs = |row: &[u16]| (0..row.len()).filter(|&i| row[i] == part && row[(i + 1) % row.len()] != part).count();
    let other = |row: &[u16]| {
        if row.contains(&VOID) { Some(VOID) } else { row.iter().copied().find(|&o| o != part) }
    };
    for (row, slab) in [(&below, level - 1), (&above, level)] {
        if arcs(row) > 1 {
            let owner = if row.contains(&VOID) { VOID } else { part };
            return Some((usize::try_from(slab).ok()?, owner));
        }
    }
    // One arc at most in each slab: they hang together where some wedge belongs to the part, or does not, in both.
    let in_both = below.iter().zip(&above).any(|(b, a)| *b == part && *a == part);
    let in_none = below.iter().zip(&above).any(|(b, a)| *b != part && *a != part);
    let has = |row: &[u16], is: bool| row.iter().any(|&o| (o == part) == is);
    if has(&below, true) && has(&above, true) && !in_both {
        return Some((usize::try_from(level).ok()?, other(&above)?));
    }
    if has(&below, false) && has(&above, false) && !in_none {
        // The air below and above only touches: filled above it, or below it where there is nothing above.
        return Some((usize::try_from(level).ok().filter(|&l| l < labels.slabs)?, part));
    }
    None
}

pub(crate) fn mend(faces: &Faces, pinch: &Pinch, round: usize) -> Mend {
    let reach = REACH + REACH_STEP * i32::try_from(round).unwrap_or(0);
    let points = &faces.arrangement.points;
    let at = |v: u32| points[v as usize];
    match *pinch {
        Pinch::Level { edge, slab, owner } => {
            let e = &faces.arrangement.edges[edge as usize];
            Mend { region: strip(at(e.a), at(e.b), reach), slab, owner }
        }
        Pinch::Point { vertex, slab, owner } => {
            let p = at(vertex);
            let ring = [(reach, 0), (0, reach), (-reach, 0), (0, -reach)].map(|(x, y)| shifted(p, x, y));
            Mend { region: Region::new([ring.to_vec()]), slab, owner }
        }
    }
}

/// A rectangle round the edge, longer at both ends by its half width.
fn strip(a: GridPoint, b: GridPoint, reach: i32) -> Region {
    let (dx, dy) = (f64::from(b.x() - a.x()), f64::from(b.y() - a.y()));
    let scale = f64::from(reach) / dx.hypot(dy).max(1.0);
    #[expect(clippy::cast_possible_truncation, reason = "at most a few hundred grid steps")]
    let (ux, uy) = ((dx * scale).round() as i32, (dy * scale).round() as i32);
    let ring = vec![
        shifted(a, -ux + uy, -uy - ux),
        shifted(b, ux + uy, uy - ux),
        shifted(b, ux - uy, uy + ux),
        shifted(a, -ux - uy, -uy + ux),
    ];
    Region::new([ring])
}

fn shifted(p: GridPoint, dx: i32, dy: i32) -> GridPoint {
    GridPoint::new((p.x() + dx).clamp(-LIMIT, LIMIT), (p.y() + dy).clamp(-LIMIT, LIMIT)).unwrap_or(p)
}
