//! One planar arrangement of all boundary edges: crossings found exactly, rounded to the grid, and every edge that
//! passes a new vertex's grid square led through it (snap rounding, after J. D. Hobby, 'Practical segment
//! intersection with finite precision output', 1999, doi:10.1016/S0925-7721(99)00021-8), until nothing crosses.

use crate::bands::Bands;
use crate::error::SolidError;
use foldhash::{HashMap, HashMapExt};
use kachel_geom::{GridPoint, Region, Watch, orient};
use smallvec::{SmallVec, smallvec};

/// Rounds after which untangling gives up; drawn shapes need two or three.
const MAX_ROUNDS: usize = 64;
/// Rounds in which vertices a step apart are welded; what moves may bring others near. Drawn shapes need one.
const WELD_ROUNDS: usize = 8;

/// How often, and which way, a region's boundary runs along an edge.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Winding {
    pub region: u32,
    /// Added to the winding number when stepping from the right of a -> b to its left.
    pub turns: i32,
}

#[derive(Clone, Debug)]
pub(crate) struct Edge {
    pub a: u32,
    pub b: u32,
    /// Most edges bound one region or two.
    pub windings: SmallVec<[Winding; 2]>,
}

/// Edges on the grid that meet only at their ends.
#[derive(Clone, Debug)]
pub struct Arrangement {
    pub(crate) points: Vec<GridPoint>,
    pub(crate) edges: Vec<Edge>,
}

/// A piece of a region's boundary before merging; `a` before `b` in the order of points.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Piece {
    a: GridPoint,
    b: GridPoint,
    region: u32,
    turns: i32,
}

impl Piece {
    fn new(from: GridPoint, to: GridPoint, region: u32, turns: i32) -> Option<Self> {
        match from.cmp(&to) {
            std::cmp::Ordering::Less => Some(Self { a: from, b: to, region, turns }),
            std::cmp::Ordering::Greater => Some(Self { a: to, b: from, region, turns: -turns }),
            std::cmp::Ordering::Equal => None,
        }
    }
}

impl Arrangement {
    /// Arranges the boundaries of `regions`.
    pub(crate) fn new(regions: &[Region], watch: &Watch) -> Result<Self, SolidError> {
        let mut pieces = Vec::new();
        for (region, r) in (0u32..).zip(regions) {
            for ring in r.rings() {
                let next = ring.iter().cycle().skip(1);
                pieces.extend(ring.iter().zip(next).filter_map(|(a, b)| Piece::new(*a, *b, region, 1)));
            }
        }
        merge(&mut pieces);
        Self::settled(pieces, watch)
    }

    /// The same with corners at `stops`, where edges pass their grid squares.
    pub(crate) fn with_corners(&self, stops: &[GridPoint], watch: &Watch) -> Result<Self, SolidError> {
        let of = |e: &Edge| {
            let [a, b] = [e.a, e.b].map(|v| self.points[v as usize]);
            e.windings
                .iter()
                .map(move |w| Piece { a, b, region: w.region, turns: w.turns })
                .collect::<SmallVec<[_; 2]>>()
        };
        let pieces: Vec<Piece> = self.edges.iter().flat_map(of).collect();
        Self::settled(divided(&pieces, &spans(&pieces), Cuts::new(), stops.to_vec()), watch)
    }

    /// Divides edges until they meet only at their ends.
    fn settled(mut pieces: Vec<Piece>, watch: &Watch) -> Result<Self, SolidError> {
        let mut welds = 0;
        let mut kept = vec![];
        for _ in 0..MAX_ROUNDS {
            watch.check()?;
            let spans = spans(&pieces);
            let (cuts, mut hot) = crossings(&spans, watch)?;
            hot.append(&mut kept);
            if cuts.is_empty() && hot.is_empty() {
                let welded = if welds < WELD_ROUNDS { weld(&mut pieces) } else { vec![] };
                if welded.is_empty() {
                    return Ok(Self::from_pieces(&pieces));
                }
                welds += 1;
                kept = welded;
                continue;
            }
            pieces = divided(&pieces, &spans, cuts, hot);
        }
        Err(SolidError::Unsettled("crossings-come-back"))
    }

    fn from_pieces(pieces: &[Piece]) -> Self {
        let mut index: HashMap<GridPoint, u32> = HashMap::with_capacity(pieces.len());
        let mut points = Vec::new();
        let mut id = |p: GridPoint| {
            *index.entry(p).or_insert_with(|| {
                points.push(p);
                u32::try_from(points.len() - 1).unwrap_or(u32::MAX)
            })
        };
        let mut edges: Vec<Edge> = Vec::with_capacity(pieces.len());
        for p in pieces {
            let (a, b) = (id(p.a), id(p.b));
            let winding = Winding { region: p.region, turns: p.turns };
            match edges.last_mut() {
                Some(e) if (e.a, e.b) == (a, b) => e.windings.push(winding),
                _ => edges.push(Edge { a, b, windings: smallvec![winding] }),
            }
        }
        Self { points, edges }
    }
}

/// Moves vertices onto a neighbour a step away: faces would get slivers there that a file's rounding loses. Returns the
/// neighbours.
fn weld(pieces: &mut Vec<Piece>) -> Vec<GridPoint> {
    let mut points: Vec<GridPoint> = pieces.iter().flat_map(|p| [p.a, p.b]).collect();
    points.sort_unstable();
    points.dedup();
    let mut moved: HashMap<GridPoint, GridPoint> = HashMap::new();
    for (i, &p) in points.iter().enumerate() {
        if moved.contains_key(&p) {
            continue;
        }
        // Those before it have looked for themselves.
        let right = i + points[i..].partition_point(|q| (q.x(), q.y()) < (p.x() + 1, p.y() - 1));
        for q in points.get(i + 1).into_iter().chain(points[right..].iter().take(3)) {
            if (q.x() - p.x()).abs() <= 1 && (q.y() - p.y()).abs() <= 1 {
                moved.entry(*q).or_insert(p);
            }
        }
    }
    if moved.is_empty() {
        return vec![];
    }
    let to = |p: GridPoint| *moved.get(&p).unwrap_or(&p);
    *pieces = pieces.iter().filter_map(|p| Piece::new(to(p.a), to(p.b), p.region, p.turns)).collect();
    merge(pieces);
    let mut kept: Vec<GridPoint> = moved.into_values().collect();
    kept.sort_unstable();
    kept
}

/// Sums up equal edges of a region and drops those that cancel.
fn merge(pieces: &mut Vec<Piece>) {
    pieces.sort_unstable();
    let mut out = 0;
    for i in 0..pieces.len() {
        let p = pieces[i];
        if out > 0 && (pieces[out - 1].a, pieces[out - 1].b, pieces[out - 1].region) == (p.a, p.b, p.region) {
            pieces[out - 1].turns += p.turns;
        } else {
            // The sum before this one is complete.
            if out > 0 && pieces[out - 1].turns == 0 {
                out -= 1;
            }
            pieces[out] = p;
            out += 1;
        }
    }
    if out > 0 && pieces[out - 1].turns == 0 {
        out -= 1;
    }
    pieces.truncate(out);
}

/// The distinct edges, as (first, one past last) indices of their pieces; sorted by a.x like the pieces.
type Span = (GridPoint, GridPoint, usize, usize);

fn spans(pieces: &[Piece]) -> Vec<Span> {
    let mut spans: Vec<Span> = Vec::with_capacity(pieces.len());
    for (i, p) in pieces.iter().enumerate() {
        match spans.last_mut() {
            Some(s) if (s.0, s.1) == (p.a, p.b) => s.3 = i + 1,
            _ => spans.push((p.a, p.b, i, i + 1)),
        }
    }
    spans
}

/// Where edges have to be split: (edge, point).
type Cuts = Vec<(u32, GridPoint)>;

/// A sweep over x: spans come sorted by their left end. What is under way is kept by bands of y.
fn crossings(spans: &[Span], watch: &Watch) -> Result<(Cuts, Vec<GridPoint>), SolidError> {
    let (mut cuts, mut hot) = (Cuts::new(), Vec::new());
    let bands = Bands::over(spans.iter().map(|s| (s.0, s.1)));
    let reaches: Vec<_> = spans.iter().map(|s| bands.reach(s.0, s.1)).collect();
    let mut under_way: Vec<Vec<usize>> = vec![Vec::new(); bands.count()];
    for (i, &(a, b, ..)) in spans.iter().enumerate() {
        if i % 1024 == 0 {
            watch.check()?;
        }
        let (low, high) = (a.y().min(b.y()), a.y().max(b.y()));
        for band in reaches[i].clone() {
            under_way[band].retain(|&j| {
                let (c, d, ..) = spans[j];
                if d.x() < a.x() {
                    return false;
                }
                // Two that share several bands are looked at in the first of them.
                let is_first = band == *reaches[i].start().max(reaches[j].start());
                if is_first && c.y().min(d.y()) <= high && c.y().max(d.y()) >= low {
                    meet((i, a, b), (j, c, d), &mut cuts, &mut hot);
                }
                true
            });
            under_way[band].push(i);
        }
    }
    Ok((cuts, hot))
}

fn meet(e: (usize, GridPoint, GridPoint), f: (usize, GridPoint, GridPoint), cuts: &mut Cuts, hot: &mut Vec<GridPoint>) {
    let (d1, d2) = (orient(e.1, e.2, f.1), orient(e.1, e.2, f.2));
    if (d1 > 0 && d2 > 0) || (d1 < 0 && d2 < 0) {
        return;
    }
    let (d3, d4) = (orient(f.1, f.2, e.1), orient(f.1, f.2, e.2));
    if (d3 > 0 && d4 > 0) || (d3 < 0 && d4 < 0) {
        return;
    }
    let mut cut = |edge: (usize, GridPoint, GridPoint), p: GridPoint| {
        if p != edge.1 && p != edge.2 {
            cuts.push((u32::try_from(edge.0).unwrap_or(u32::MAX), p));
            true
        } else {
            false
        }
    };
    if d1 != 0 && d2 != 0 && d3 != 0 && d4 != 0 {
        let x = crossing(e.1, e.2, d3, d4);
        // Rounding may land on an end of one of the two, never on an end of both: they would share it.
        if cut(e, x) | cut(f, x) {
            hot.push(x);
        }
        return;
    }
    for (d, p, edge) in [(d1, f.1, e), (d2, f.2, e), (d3, e.1, f), (d4, e.2, f)] {
        // Between the ends in the order of points: strictly inside, as it lies on the line.
        if d == 0 && p > edge.1 && p < edge.2 {
            cut(edge, p);
        }
    }
}

/// The point of a -> b that divides it in the ratio d3 : -d4, rounded to the grid; d3 and d4 have opposite signs.
fn crossing(a: GridPoint, b: GridPoint, d3: i64, d4: i64) -> GridPoint {
    let (num, den) = (i128::from(d3), i128::from(d3) - i128::from(d4));
    let (num, den) = if den < 0 { (-num, -den) } else { (num, den) };
    let at = |from: i32, to: i32| {
        let exact = i128::from(to - from) * num;
        let step = (2 * exact + den).div_euclid(2 * den);
        from + i32::try_from(step).unwrap_or_default()
    };
    GridPoint::new(at(a.x(), b.x()), at(a.y(), b.y())).unwrap_or(a)
}

/// Adds a cut wherever an edge passes through the grid square of a new vertex.
fn pass_hot(spans: &[Span], hot: &[GridPoint], cuts: &mut Cuts) {
    for (i, &(a, b, ..)) in (0u32..).zip(spans) {
        let from = hot.partition_point(|p| p.x() < a.x() - 1);
        let (low, high) = (a.y().min(b.y()) - 1, a.y().max(b.y()) + 1);
        let reach = i64::from(b.x() - a.x()) + i64::from((b.y() - a.y()).abs());
        for &p in hot[from..].iter().take_while(|p| p.x() <= b.x() + 1) {
            // A line passes the unit square round p when 2 |orient| <= |dx| + |dy|.
            if p.y() >= low
                && p.y() <= high
                && p != a
                && p != b
                && 2 * orient(a, b, p).abs() <= reach
                && between(a, b, p)
            {
                cuts.push((i, p));
            }
        }
    }
}

/// Whether p's foot lies strictly between the ends of a -> b.
fn between(a: GridPoint, b: GridPoint, p: GridPoint) -> bool {
    let dot = |q: GridPoint, r: GridPoint, s: GridPoint| {
        i64::from(r.x() - q.x()) * i64::from(s.x() - q.x()) + i64::from(r.y() - q.y()) * i64::from(s.y() - q.y())
    };
    dot(a, b, p) > 0 && dot(b, a, p) > 0
}

/// The pieces, cut there and wherever they pass a new vertex.
fn divided(pieces: &[Piece], spans: &[Span], mut cuts: Cuts, mut hot: Vec<GridPoint>) -> Vec<Piece> {
    hot.sort_unstable();
    hot.dedup();
    pass_hot(spans, &hot, &mut cuts);
    let mut pieces = split(pieces, spans, cuts);
    merge(&mut pieces);
    pieces
}

fn split(pieces: &[Piece], spans: &[Span], mut cuts: Cuts) -> Vec<Piece> {
    cuts.sort_unstable();
    cuts.dedup();
    let mut out = Vec::with_capacity(pieces.len() + cuts.len());
    let mut rest = cuts.as_slice();
    for (i, &(a, b, first, end)) in (0u32..).zip(spans) {
        let n = rest.iter().take_while(|c| c.0 == i).count();
        let (mine, others) = rest.split_at(n);
        rest = others;
        if mine.is_empty() {
            out.extend_from_slice(&pieces[first..end]);
            continue;
        }
        let mut stops: Vec<GridPoint> = mine.iter().map(|c| c.1).collect();
        let along = |p: &GridPoint| {
            i64::from(b.x() - a.x()) * i64::from(p.x() - a.x()) + i64::from(b.y() - a.y()) * i64::from(p.y() - a.y())
        };
        stops.sort_by_key(along);
        stops.push(b);
        for p in &pieces[first..end] {
            let mut from = a;
            for &to in &stops {
                out.extend(Piece::new(from, to, p.region, p.turns));
                from = to;
            }
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::{Random, for_all};

    #[test]
    fn vertices_lie_at_least_two_steps_apart() {
        let at = |x: i32, y: i32| GridPoint::new(x, y).unwrap();
        let nearest = |a: &Arrangement| {
            let far = |p: &GridPoint, q: &GridPoint| (p.x() - q.x()).abs().max((p.y() - q.y()).abs());
            let pairs = a.points.iter().enumerate().flat_map(|(i, p)| a.points[..i].iter().map(move |q| far(p, q)));
            pairs.min().unwrap()
        };
        // One region with an edge of one step, and one whose corner lies beside the other's.
        let regions = [
            Region::new([vec![at(0, 0), at(4000, -300), at(4001, -300), at(9000, 0), at(9000, 5000)]]),
            Region::new([vec![at(1, 1), at(-5000, 0), at(-5000, -5000)]]),
        ];
        let a = Arrangement::new(&regions, &Watch::default()).unwrap();
        assert_eq!((a.points.len(), nearest(&a) > 1), (6, true), "{:?}", a.points);
        for_all(200, |random: &mut Random| {
            // Many crossings in little room.
            let ring = |random: &mut Random| {
                let any = |random: &mut Random| i32::try_from(random.below(400)).unwrap();
                (0..5 + random.below(12)).map(|_| at(any(random), any(random))).collect::<Vec<_>>()
            };
            let regions = [Region::new([ring(random)]), Region::new([ring(random)])];
            let a = Arrangement::new(&regions, &Watch::default()).unwrap();
            assert!(a.points.len() < 2 || nearest(&a) > 1, "{:?}", a.points);
        });
    }

    /// Random rings in little room, some of them long and thin.
    fn tangled(random: &mut Random) -> Vec<Region> {
        let high = 2 + random.below(4000);
        let mut ring = || {
            let at = |random: &mut Random, most: usize| i32::try_from(random.below(most)).unwrap();
            (0..5 + random.below(20)).map(|_| GridPoint::new(at(random, 4000), at(random, high)).unwrap()).collect()
        };
        vec![Region::new([ring()]), Region::new([ring()])]
    }

    #[test]
    fn edges_meet_only_at_their_ends() {
        for_all(60, |random: &mut Random| {
            let a = Arrangement::new(&tangled(random), &Watch::default()).unwrap();
            let line = |e: &Edge| (a.points[e.a as usize], a.points[e.b as usize]);
            for (i, e) in a.edges.iter().enumerate() {
                for (j, f) in a.edges[..i].iter().enumerate() {
                    let ((p, q), (r, s), mut cuts, mut hot) = (line(e), line(f), Cuts::new(), vec![]);
                    meet((i, p, q), (j, r, s), &mut cuts, &mut hot);
                    assert!(cuts.is_empty() && hot.is_empty(), "{p:?}-{q:?} and {r:?}-{s:?}");
                }
            }
        });
    }

    #[test]
    fn corners_asked_for_on_edges_are_there() {
        for_all(200, |random: &mut Random| {
            let a = Arrangement::new(&tangled(random), &Watch::default()).unwrap();
            let middle = |e: &Edge| {
                let (p, q) = (a.points[e.a as usize], a.points[e.b as usize]);
                GridPoint::new(i32::midpoint(p.x(), q.x()), i32::midpoint(p.y(), q.y())).unwrap()
            };
            let long = |e: &&Edge| {
                let (p, q) = (a.points[e.a as usize], a.points[e.b as usize]);
                (p.x() - q.x()).abs().max((p.y() - q.y()).abs()) > 40
            };
            let stops: Vec<GridPoint> = a.edges.iter().filter(long).step_by(5).map(middle).collect();
            let with = a.with_corners(&stops, &Watch::default()).unwrap();
            for s in &stops {
                // A corner beside another may have been welded to it.
                let is_near = |p: &GridPoint| (p.x() - s.x()).abs() <= 1 && (p.y() - s.y()).abs() <= 1;
                assert!(with.points.iter().any(is_near), "{s:?}");
            }
            assert!(with.edges.len() >= a.edges.len());
        });
    }
}
