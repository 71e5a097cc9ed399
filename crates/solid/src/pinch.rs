//! Pinches: places where a part touches itself along an edge or in a point, which would give an edge with four faces
//! or a vertex with two fans. They are opened by a few micrometres where there is air beside them (a touch is no
//! connection), else welded; copies of a vertex would not survive STL.

use crate::faces::Faces;
use crate::heights::SlabHeights;
use crate::label::{Labels, VOID};
use crate::mend::Mend;
use crate::mesh::find as piece_of;
use crate::walls::lines;
use kachel_geom::{Grid, GridPoint, LIMIT, Region};
use rayon::prelude::*;
use smallvec::{SmallVec, smallvec};

/// Rounds of mending; each round's mends are wider, so that they do not meet the last one's in new pinches.
pub(crate) const MAX_ROUNDS: usize = 24;
/// The round from which on slopes may lie in a level along a line: some micrometres are not worth a design's solid.
pub(crate) const LAST_LEVEL_ROUND: usize = 8;
/// Half width of a mend in grid steps: 3 micrometres, and 2 more each round.
const REACH: i32 = 48;
const REACH_STEP: i32 = 31;

/// A place to mend, with the slab to change and the owner to give to it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Pinch {
    /// A part meets itself along a level edge, or along the line in which two slopes meet an edge.
    Edge { edge: u32, slab: usize, owner: u16, part: u16 },
    /// It meets itself in a point, or along an upright line.
    Point { vertex: u32, slab: usize, owner: u16, part: u16 },
}

pub(crate) struct Labelled<'a> {
    pub faces: &'a Faces,
    pub labels: &'a Labels,
    pub heights: &'a [Option<SlabHeights>],
    pub levels: &'a [Grid],
}

/// How often an owner that is not air begins anew round a place; more than once is a pinch.
fn torn(round: &[u16]) -> Option<u16> {
    let starts = |p: u16| (0..round.len()).filter(|&i| round[i] == p && round[(i + 1) % round.len()] != p).count();
    round.iter().copied().filter(|o| *o != VOID).find(|o| starts(*o) > 1)
}

/// What a look at each of them finds, in their order, on as many threads as there are cores.
fn all(count: usize, look: impl Fn(usize, &mut Vec<Pinch>) + Sync) -> Vec<Pinch> {
    let each = |mut found: Vec<Pinch>, k: usize| {
        look(k, &mut found);
        found
    };
    let both = |mut a: Vec<Pinch>, mut b: Vec<Pinch>| {
        a.append(&mut b);
        a
    };
    (0..count).into_par_iter().fold(Vec::new, each).reduce(Vec::new, both)
}

pub(crate) fn find(at: &Labelled<'_>) -> Vec<Pinch> {
    let found = all(at.faces.arrangement.edges.len(), |edge, found| at.along(edge as u32, found));
    if !found.is_empty() {
        return found;
    }
    let parts = at.labels.parts();
    let out = &at.faces.out;
    let mut found = all(out.len(), |vertex, found| at.round(vertex as u32, &out[vertex], &parts, found));
    found.sort_unstable();
    found.dedup_by_key(|p| match *p {
        Pinch::Edge { edge, slab, .. } => (0, edge, slab),
        Pinch::Point { vertex, slab, .. } => (1, vertex, slab),
    });
    found
}

/// The end of an upright direction, beyond every height.
const AXIS: i64 = 1 << 40;

/// A piece of the space round a point, as it meets one of the two edges of its wedge: from one height over the edge's far
/// end to another.
#[derive(Clone, Copy)]
struct Reach {
    cell: usize,
    from: i64,
    to: i64,
}

// Most points have two or three wedges of two or three pieces each; they are looked at without asking for memory.
type Reaches = SmallVec<[Reach; 4]>;
type Cells = SmallVec<[(u16, isize); 12]>;
type Joints = SmallVec<[(usize, usize); 24]>;

impl Labelled<'_> {
    fn slab_heights(&self, slab: isize) -> Option<&SlabHeights> {
        self.heights.get(usize::try_from(slab).ok()?)?.as_ref()
    }

    /// Whether two faces belong to one slope.
    fn is_within(&self, slab: isize, f: u32, g: u32) -> bool {
        usize::try_from(slab).is_ok_and(|s| {
            let column = self.labels.sloped(s, f);
            column != 0 && column == self.labels.sloped(s, g)
        })
    }

    /// Looks round an edge, at each level and at each line in which slopes meet it.
    fn along(&self, edge: u32, found: &mut Vec<Pinch>) {
        let labels = self.labels;
        let (l, r) = self.faces.sides(edge as usize);
        let slabs = labels.slabs.cast_signed();
        // Within one slope nothing ends at an edge.
        let lines_in = |slab: isize| match self.slab_heights(slab) {
            Some(h) if !self.is_within(slab, l, r) => lines(self.faces, h, edge),
            _ => [None; 2],
        };
        for level in 0..=slabs {
            let z = self.levels[level.cast_unsigned()].steps();
            let (over, under) = (lines_in(level), lines_in(level - 1));
            let is_at = |line: Option<(i32, i32)>| line == Some((z, z));
            // Up on the left side, down on the right one.
            let mut round: SmallVec<[u16; 8]> = smallvec![labels.lower(level, l)];
            if is_at(over[0]) {
                round.push(labels.upper(level, l));
            }
            if is_at(over[1]) {
                round.push(labels.upper(level, r));
            }
            round.push(labels.lower(level, r));
            round.push(labels.upper(level - 1, r));
            if is_at(under[1]) {
                round.push(labels.lower(level - 1, r));
            }
            if is_at(under[0]) {
                round.push(labels.lower(level - 1, l));
            }
            round.push(labels.upper(level - 1, l));
            if let Some(part) = torn(&round) {
                let owners = |slab: isize| [l, r].map(|f| [labels.lower(slab, f), labels.upper(slab, f)]).concat();
                let is_mixed = |slab: isize| owners(slab).contains(&part) && owners(slab).iter().any(|o| *o != part);
                // The slab below gives way, where it has anything to give.
                let slab = if is_mixed(level - 1) { level - 1 } else { level.min(slabs - 1) };
                let owner = if owners(slab).contains(&VOID) { VOID } else { part };
                found.push(Pinch::Edge { edge, slab: slab.cast_unsigned(), owner, part });
            }
        }
        for slab in 0..slabs {
            if let [Some(left), Some(right)] = lines_in(slab)
                && left == right
            {
                let round =
                    [labels.lower(slab, l), labels.upper(slab, l), labels.upper(slab, r), labels.lower(slab, r)];
                if let Some(part) = torn(&round) {
                    let owner = if round.contains(&VOID) { VOID } else { part };
                    found.push(Pinch::Edge { edge, slab: slab.cast_unsigned(), owner, part });
                }
            }
        }
    }

    /// Looks round a vertex, at each height at which something meets it.
    fn round(&self, vertex: u32, halves: &[u32], parts: &[u16], found: &mut Vec<Pinch>) {
        let faces: SmallVec<[u32; 4]> = halves.iter().map(|&h| self.faces.left[h as usize]).collect();
        let slabs = self.labels.slabs.cast_signed();
        let is_sloped = |slab: isize| {
            slab >= 0 && slab < slabs && faces.iter().any(|f| self.labels.sloped(slab.cast_unsigned(), *f) != 0)
        };
        for level in 0..=slabs {
            // Without slopes, two wedges can only meet along the edges between them.
            if halves.len() < 3 && !is_sloped(level) && !is_sloped(level - 1) {
                continue;
            }
            let z = self.levels[level.cast_unsigned()].steps();
            self.at_height(vertex, halves, z, (level - 1, level), parts, found);
            if let Some(h) = self.slab_heights(level) {
                let mut inner: Vec<i32> = halves.iter().filter_map(|half| h.z(*half)).collect();
                inner.sort_unstable();
                inner.dedup();
                let top = self.levels[level.cast_unsigned() + 1].steps();
                for z in inner.into_iter().filter(|i| *i > z && *i < top) {
                    self.at_height(vertex, halves, z, (level, level), parts, found);
                }
            }
        }
    }

    /// Counts what hangs together round a point: a part and what is not of it have to be one piece each.
    fn at_height(
        &self,
        vertex: u32,
        halves: &[u32],
        z: i32,
        (below, above): (isize, isize),
        parts: &[u16],
        found: &mut Vec<Pinch>,
    ) {
        let labels = self.labels;
        let n = halves.len();
        let mut owners: Cells = SmallVec::new();
        let mut joined: Joints = SmallVec::new();
        // What each wedge shows along its first and along its last edge.
        let mut shown: SmallVec<[[Reaches; 2]; 4]> = SmallVec::new();
        let mut cells_of: SmallVec<[std::ops::Range<usize>; 4]> = SmallVec::new();
        for (i, &half) in halves.iter().enumerate() {
            let face = self.faces.left[half as usize];
            let far = |slab: isize| -> [Option<i64>; 2] {
                let h = self.slab_heights(slab);
                let first =
                    h.and_then(|h| h.z(self.faces.corners(half / 2)[if half.is_multiple_of(2) { 1 } else { 2 }]));
                let last_half = halves[(i + 1) % n];
                // The far end of the last edge, on this wedge's side: its right.
                let last = h.and_then(|h| {
                    h.z(self.faces.corners(last_half / 2)[if last_half.is_multiple_of(2) { 3 } else { 0 }])
                });
                [first.map(i64::from), last.map(i64::from)]
            };
            let own = |slab: isize| self.slab_heights(slab).and_then(|h| h.z(half));
            let level = i64::from(z);
            let start = owners.len();
            let mut reaches: [Reaches; 2] = [SmallVec::new(), SmallVec::new()];
            let mut push = |owner: u16, slab: isize, from: [i64; 2], to: [i64; 2]| {
                let cell = owners.len();
                owners.push((owner, slab));
                for k in 0..2 {
                    if to[k] > from[k] {
                        reaches[k].push(Reach { cell, from: from[k], to: to[k] });
                    }
                }
            };
            let slope_at = |slab: isize| (own(slab) == Some(z)).then(|| far(slab).map(|f| f.unwrap_or(level)));
            if below == above {
                // Between two levels.
                match (own(above), slope_at(above)) {
                    (_, Some(line)) => {
                        push(labels.lower(above, face), above, [-AXIS; 2], line);
                        push(labels.upper(above, face), above, line, [AXIS; 2]);
                    }
                    (Some(t), None) if t < z => push(labels.upper(above, face), above, [-AXIS; 2], [AXIS; 2]),
                    _ => push(labels.lower(above, face), above, [-AXIS; 2], [AXIS; 2]),
                }
            } else {
                if let Some(line) = slope_at(below) {
                    push(labels.lower(below, face), below, [-AXIS; 2], line);
                    push(labels.upper(below, face), below, line, [level; 2]);
                } else {
                    push(labels.upper(below, face), below, [-AXIS; 2], [level; 2]);
                }
                if let Some(line) = slope_at(above) {
                    push(labels.lower(above, face), above, [level; 2], line);
                    push(labels.upper(above, face), above, line, [AXIS; 2]);
                } else {
                    push(labels.lower(above, face), above, [level; 2], [AXIS; 2]);
                }
            }
            joined.extend((start + 1..owners.len()).map(|c| (c - 1, c)));
            cells_of.push(start..owners.len());
            shown.push(reaches);
        }
        self.join_wedges(halves, &owners, &cells_of, &shown, (below, above), &mut joined);
        let found_here = parts.iter().filter_map(|part| self.pinch_of(*part, vertex, &owners, &joined, (below, above)));
        found.extend(found_here);
    }

    /// Joins the cells of neighbouring wedges: those of one slab that nothing parts, and those that meet over their edge.
    fn join_wedges(
        &self,
        halves: &[u32],
        owners: &[(u16, isize)],
        cells_of: &[std::ops::Range<usize>],
        shown: &[[Reaches; 2]],
        (below, above): (isize, isize),
        joined: &mut Joints,
    ) {
        let labels = self.labels;
        let n = halves.len();
        for i in 0..n {
            let next = (i + 1) % n;
            let face = |k: usize| self.faces.left[halves[k] as usize];
            for slab in [below, above] {
                if slab >= 0 && slab < labels.slabs.cast_signed() && self.is_within(slab, face(i), face(next)) {
                    let of = |k: usize| cells_of[k].clone().filter(|c| owners[*c].1 == slab);
                    joined.extend(of(i).zip(of(next)));
                }
            }
            // The last edge of a wedge is the first of the next.
            for a in &shown[i][1] {
                for b in &shown[next][0] {
                    if a.from.max(b.from) < a.to.min(b.to) {
                        joined.push((a.cell, b.cell));
                    }
                }
            }
        }
    }

    /// The pinch at a vertex of a part that is in more than one piece there, or that parts the others.
    fn pinch_of(
        &self,
        part: u16,
        vertex: u32,
        owners: &[(u16, isize)],
        joined: &[(usize, usize)],
        (below, above): (isize, isize),
    ) -> Option<Pinch> {
        let is_there = owners.iter().any(|o| o.0 == part);
        let is_whole = |is_part| pieces(owners, joined, part, is_part) <= 1;
        if !is_there || (is_whole(true) && is_whole(false)) {
            return None;
        }
        let mixed = |slab: isize| {
            let mut own = owners.iter().filter(|o| o.1 == slab && slab >= 0).map(|o| o.0 == part);
            let first = own.next();
            own.any(|is| Some(is) != first)
        };
        let slab = if mixed(below) { below } else { above }.clamp(0, self.labels.slabs.cast_signed() - 1);
        let has_air = owners.iter().any(|o| o.0 == VOID && o.1 == slab);
        Some(Pinch::Point { vertex, slab: slab.cast_unsigned(), owner: if has_air { VOID } else { part }, part })
    }
}

/// How many pieces the cells of a part (or those of all others) make.
fn pieces(owners: &[(u16, isize)], joined: &[(usize, usize)], part: u16, is_part: bool) -> usize {
    let mut root: SmallVec<[u32; 16]> = (0..owners.len() as u32).collect();
    let counts = |k: usize| (owners[k].0 == part) == is_part;
    for &(a, b) in joined.iter().filter(|(a, b)| counts(*a) && counts(*b)) {
        let (a, b) = (piece_of(&mut root, a as u32), piece_of(&mut root, b as u32));
        root[a as usize] = b;
    }
    (0..owners.len()).filter(|k| counts(*k) && root[*k] == *k as u32).count()
}

pub(crate) fn mend(faces: &Faces, pinch: &Pinch, round: usize) -> Mend {
    let reach = REACH + REACH_STEP * i32::try_from(round).unwrap_or(0);
    let points = &faces.arrangement.points;
    let at = |v: u32| points[v as usize];
    // What opening only moves along is welded, every other round; what welding only moves along is opened, even where only
    // other parts are near.
    let given = |owner: u16, part: u16| match round {
        6.. if round % 4 == 2 => VOID,
        4.. if round % 2 == 1 => part,
        _ => owner,
    };
    match *pinch {
        Pinch::Edge { edge, slab, owner, part } => {
            let e = &faces.arrangement.edges[edge as usize];
            Mend { region: strip(at(e.a), at(e.b), reach), slab, owner: given(owner, part) }
        }
        Pinch::Point { vertex, slab, owner, part } => {
            let p = at(vertex);
            let near = reach * 5 / 8;
            let ring = [
                (reach, 0),
                (near, near),
                (0, reach),
                (-near, near),
                (-reach, 0),
                (-near, -near),
                (0, -reach),
                (near, -near),
            ]
            .map(|(x, y)| shifted(p, x, y));
            Mend { region: Region::new([ring.to_vec()]), slab, owner: given(owner, part) }
        }
    }
}

/// Opens a line of the skin, or a point of it, in the slab in or over which it lies.
pub(crate) fn open(line: [[i32; 3]; 2], levels: &[Grid], round: usize) -> Option<Mend> {
    let ends = [GridPoint::new(line[0][0], line[0][1])?, GridPoint::new(line[1][0], line[1][1])?];
    let z = i32::midpoint(line[0][2], line[1][2]);
    let over = levels.windows(2).position(|l| z < l[1].steps()).unwrap_or(levels.len().checked_sub(2)?);
    // On a level it may be the slab above or the one below: one after the other.
    let is_on = levels[over].steps() == z;
    let slab = if is_on && round % 2 == 1 { over.saturating_sub(1) } else { over };
    Some(open_in(slab, ends, round))
}

/// Opens a line within a slab.
pub(crate) fn open_in(slab: usize, [a, b]: [GridPoint; 2], round: usize) -> Mend {
    let reach = REACH + REACH_STEP * i32::try_from(round).unwrap_or(0);
    Mend { region: strip(a, b, reach), slab, owner: VOID }
}

/// A rectangle round the edge, longer at both ends by its half width.
fn strip(a: GridPoint, b: GridPoint, reach: i32) -> Region {
    let (dx, dy) = (f64::from(b.x() - a.x()), f64::from(b.y() - a.y()));
    let scale = f64::from(reach) / dx.hypot(dy).max(1.0);
    #[expect(clippy::cast_possible_truncation, reason = "at most a few hundred grid steps")]
    let (mut ux, uy) = ((dx * scale).round() as i32, (dy * scale).round() as i32);
    if (ux, uy) == (0, 0) {
        ux = reach;
    }
    // With a corner half-way along each side: where both ends of a side fall on the foot of a slope, it still rises
    // between them.
    let m = GridPoint::new(i32::midpoint(a.x(), b.x()), i32::midpoint(a.y(), b.y())).unwrap_or(a);
    let ring = vec![
        shifted(a, -ux + uy, -uy - ux),
        shifted(m, uy, -ux),
        shifted(b, ux + uy, uy - ux),
        shifted(b, ux - uy, uy + ux),
        shifted(m, -uy, ux),
        shifted(a, -ux - uy, -uy + ux),
    ];
    Region::new([ring])
}

fn shifted(p: GridPoint, dx: i32, dy: i32) -> GridPoint {
    GridPoint::new((p.x() + dx).clamp(-LIMIT, LIMIT), (p.y() + dy).clamp(-LIMIT, LIMIT)).unwrap_or(p)
}
