//! Tie bars: the shortest set of bars that holds loose pieces.

use crate::{Area, TierError};
use kachel_geom::{
    BoolOp, Edges, Mm, OffGrid, Point, Px, Region, Ring, combine, join_all, nearest_places, offset, stroke,
};
use kachel_outline::is_near;
use serde::{Deserialize, Serialize};

/// A bar from one piece to another, by the middles of its ends, as the document keeps it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Bar {
    /// One end, pixels of the picture.
    pub from: Point<Px>,
    /// The other end, pixels of the picture.
    pub to: Point<Px>,
}

impl Bar {
    /// Whether its ends can be worked with.
    pub const fn is_near(&self) -> bool {
        is_near(&self.from) && is_near(&self.to)
    }
}

/// The same in the stack.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct Tie {
    /// One end.
    pub from: Point<Mm>,
    /// The other end.
    pub to: Point<Mm>,
}

/// How far two pieces are apart, and where.
type Link = (f64, Point<Mm>, Point<Mm>);

/// Pieces nearer than this, mm, touch.
const TOUCHING: f64 = 1e-4;

/// Pieces that are looked at; more are joined by whatever lies nearest to what holds them.
const MOST_PIECES: usize = 80;

/// A ring this long, mm, is held twice: common practice, no source.
const LARGE_RING_MM: f64 = 20.0;

/// The connected pieces of an area, each with its holes.
pub(crate) fn pieces(area: &Region) -> Vec<Region> {
    let rings = area.rings();
    let mm = area.rings_mm();
    let is_outer = |k: usize| mm[k].area() > 0.0;
    let outer: Vec<usize> = (0..rings.len()).filter(|k| is_outer(*k)).collect();
    let mut of: Vec<Vec<usize>> = outer.iter().map(|k| vec![*k]).collect();
    for hole in (0..rings.len()).filter(|k| !is_outer(*k)) {
        let at = mm[hole].0[0];
        // The smallest piece round it.
        let round = outer.iter().enumerate().filter(|(_, k)| mm[**k].contains(at) || mm[**k].0.contains(&at));
        if let Some((piece, _)) = round.min_by(|a, b| mm[*a.1].area().total_cmp(&mm[*b.1].area())) {
            of[piece].push(hole);
        }
    }
    of.into_iter().map(|ks| Region::new(ks.into_iter().map(|k| rings[k].clone()))).collect()
}

fn holds_together(a: &Region, b: &Region) -> bool {
    combine(a, b, BoolOp::Common).is_ok_and(|c| !c.is_empty())
}

/// Whether two areas that lie against each other do so along a line, not in a point only: grown a little, the one covers a
/// strip of the other.
fn shares_line(a: &Region, b: &Region) -> bool {
    const REACH: f64 = 0.02;
    const SHORTEST: f64 = 0.4;
    let strip = offset(a, REACH).and_then(|a| combine(&a, b, BoolOp::Common));
    strip.is_ok_and(|s| s.area_mm2() > REACH * SHORTEST)
}

fn apart(a: &Region, b: &Region, d: f64) -> bool {
    match (a.bounds(), b.bounds()) {
        (Some(p), Some(q)) => {
            p.min.x > q.max.x + d || q.min.x > p.max.x + d || p.min.y > q.max.y + d || q.min.y > p.max.y + d
        }
        _ => true,
    }
}

/// The shortest bars that join all pieces of `loose` to `holds` (a minimum spanning tree, after R. C. Prim, 'Shortest
/// connection networks and some generalizations', 1957), and further ones until each piece has `least`; with 0, until large
/// rings have two.
pub(crate) fn shortest(loose: &Region, holds: &Region, width: f64, least: usize) -> Vec<Tie> {
    let mut pieces = pieces(loose);
    pieces.sort_by_key(|p| std::cmp::Reverse(p.area2_steps()));
    pieces.truncate(MOST_PIECES);
    let n = pieces.len();
    let all: Vec<&Region> = pieces.iter().chain([holds]).collect();
    // Place n is what holds them.
    let is_held = |i: usize| !apart(all[i], all[n], 0.0) && holds_together(all[i], all[n]);
    let link = |i: usize, j: usize| nearest_places(all[i], all[j]).map(|(a, b)| (a.distance(b), a, b));
    // Less than any distance: needs no bar. A piece that only touches in a point does.
    let held = Some((-1.0, Point::new(0.0, 0.0), Point::new(0.0, 0.0)));
    let first = |i: usize| match link(i, n) {
        Some((d, ..)) if d < TOUCHING && shares_line(all[i], all[n]) => held,
        other => other,
    };
    let mut best: Vec<Option<Link>> = (0..n).map(|i| if is_held(i) { held } else { first(i) }).collect();
    let mut is_in = vec![false; n];
    let mut bars: Vec<(Tie, [usize; 2])> = Vec::new();
    let mut from: Vec<usize> = vec![n; n];
    for _ in 0..n {
        let open = (0..n).filter(|i| !is_in[*i]);
        let Some(next) = open.min_by(|a, b| {
            let d = |i: usize| best[i].map_or(f64::INFINITY, |b| b.0);
            d(*a).total_cmp(&d(*b))
        }) else {
            break;
        };
        is_in[next] = true;
        if let Some((d, a, b)) = best[next]
            && d >= 0.0
        {
            bars.push((Tie { from: a, to: b }, [next, from[next]]));
        }
        for i in (0..n).filter(|i| !is_in[*i]) {
            let known = best[i].map_or(f64::INFINITY, |b| b.0);
            if known <= 0.0 || apart(all[i], all[next], known) {
                continue;
            }
            // Pieces of one area touch each other in points at most; only what holds them may reach into them.
            let new = link(i, next);
            if new.is_some_and(|new| new.0 < known) {
                (best[i], from[i]) = (new, next);
            }
        }
    }
    for i in 0..n {
        let mut has = bars.iter().filter(|(_, ends)| ends.contains(&i)).count();
        let least = if least == 0 && is_large_ring(all[i]) { 2 } else { least };
        // A piece that needs none holds by itself.
        while has > 0 && has < least {
            let taken: Vec<Tie> = bars.iter().filter(|(_, ends)| ends.contains(&i)).map(|b| b.0).collect();
            let Some(bar) = another(all[i], &all, i, &taken, width) else { break };
            bars.push((bar, [i, n]));
            has += 1;
        }
    }
    bars.into_iter().map(|(b, _)| b).collect()
}

/// Whether a piece is a ring so large that it swings about a single bar.
fn is_large_ring(piece: &Region) -> bool {
    piece.rings().len() > 1 && piece.bounds().is_some_and(|b| b.width().max(b.height()) >= LARGE_RING_MM)
}

/// The widest of the gaps that the shortest bars between all pieces of an area would bridge, mm; 0 where it is one piece.
pub fn widest_gap(area: &Region) -> f64 {
    let mut all = pieces(area);
    all.sort_by_key(Region::area2_steps);
    let Some(largest) = all.pop() else { return 0.0 };
    let others = Region::new(all.into_iter().flat_map(|r| r.rings().to_vec()));
    let length = |b: &Tie| b.from.distance(b.to);
    shortest(&others, &largest, 0.0, 1).iter().map(length).fold(0.0, f64::max)
}

/// A further bar for a piece, as far round it from the ones it has as can be: from the node farthest from their ends to
/// the nearest place of another piece.
fn another(piece: &Region, all: &[&Region], own: usize, taken: &[Tie], width: f64) -> Option<Tie> {
    let others: Vec<Ring<Mm>> =
        all.iter().enumerate().filter(|(k, _)| *k != own).flat_map(|(_, r)| r.rings_mm()).collect();
    let others = Edges::of(&others);
    let away = |p: Point<Mm>| {
        let d = |b: &Tie| b.from.distance(p).min(b.to.distance(p));
        taken.iter().map(d).fold(f64::INFINITY, f64::min)
    };
    let nodes = piece.rings_mm().into_iter().flat_map(|r| r.0);
    let scored = nodes.filter_map(|p| others.nearest(p).map(|q| (p, q))).filter(|(p, _)| away(*p) > 2.0 * width);
    // Near to others counts as much as far from the bars there are.
    let best = scored.max_by(|a, b| {
        let score = |(p, q): &(Point<Mm>, Point<Mm>)| away(*p) - 2.0 * p.distance(*q);
        score(a).total_cmp(&score(b))
    })?;
    Some(Tie { from: best.0, to: best.1 })
}

/// The maker's bars. Ends outside the object are brought to its border; those in a gap go to what is nearest, as the outline may
/// have moved away from them.
pub(crate) fn attached(own: &[Tie], loose: &Region, holds: &Region, width: f64) -> Result<Vec<Tie>, OffGrid> {
    let all = join_all([loose, holds])?;
    let silhouette = all.filled();
    let rings: Vec<Ring<Mm>> = loose.rings_mm().into_iter().chain(holds.rings_mm()).collect();
    let edges = Edges::of(&rings);
    let is_in = |p: Point<Mm>| loose.winding(p) != 0 || holds.winding(p) != 0;
    let end = |at: Point<Mm>| {
        if is_in(at) {
            return at;
        }
        edges.nearest(at).filter(|q| q.distance(at) < 6.0 * width).unwrap_or(at)
    };
    Ok(own
        .iter()
        .map(|b| trimmed(*b, &all, &silhouette, width).unwrap_or_else(|| Tie { from: end(b.from), to: end(b.to) }))
        .collect())
}

/// Nearer to the object's border than this, mm, an end lies on it.
const ON_BORDER: f64 = 0.02;

/// A bar that reaches out of the object, ended where its round ends still lie in the outermost pieces. `None` where it does not
/// reach out.
fn trimmed(bar: Tie, all: &Region, silhouette: &Region, width: f64) -> Option<Tie> {
    let (from, to) = (bar.from, bar.to);
    let (dx, dy) = (to.x - from.x, to.y - from.y);
    let degrees = dy.atan2(dx).to_degrees();
    let long = from.distance(to);
    let outer = silhouette.spans_along(from, degrees);
    let is_out = |t: f64| !outer.iter().any(|s| s.0 < t - ON_BORDER && s.1 > t + ON_BORDER);
    if !is_out(0.0) && !is_out(long) {
        return None;
    }
    let met: Vec<(f64, f64)> = all.spans_along(from, degrees);
    let met = || met.iter().filter(|s| s.1 > 0.0 && s.0 < long);
    let start = if is_out(0.0) { met().next().map(|s| s.0 + width.min(s.1 - s.0))? } else { 0.0 };
    let stop = if is_out(long) { met().next_back().map(|s| s.1 - width.min(s.1 - s.0))? } else { long };
    let at = |t: f64| Point::new(from.x + dx / long * t, from.y + dy / long * t);
    (stop > start).then(|| Tie { from: at(start), to: at(stop) })
}

/// The bars as an area; their ends reach half a width into what they join.
pub(crate) fn area(bars: &[Tie], width: f64) -> Result<Area, TierError> {
    let one = |b: &Tie| {
        let (a, c) = (b.from, b.to);
        let d = a.distance(c);
        // Over a touch, as long as it is wide.
        let (ux, uy) = if d < TOUCHING {
            (width / 2.0, 0.0)
        } else {
            ((c.x - a.x) / d * width / 2.0, (c.y - a.y) / d * width / 2.0)
        };
        stroke(&[Point::new(a.x - ux, a.y - uy), Point::new(c.x + ux, c.y + uy)], width, false)
    };
    let all: Vec<Region> = bars.iter().map(one).collect::<Result<_, OffGrid>>()?;
    Ok(join_all(&all)?.into())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn square(x: f64, y: f64, half: f64) -> Region {
        let corners = [(-half, -half), (half, -half), (half, half), (-half, half)];
        Region::from_mm([&Ring(corners.map(|(a, b)| Point::new(x + a, y + b)).to_vec())]).unwrap()
    }

    /// A frame of 80 x 80 mm, 5 mm wide.
    fn frame() -> Region {
        square(0.0, 0.0, 40.0).with_hole(&square(0.0, 0.0, 35.0))
    }

    #[test]
    fn a_row_of_pieces_is_tied_in_a_chain() {
        // 10 mm apart each, and from the frame: three bars of 5 mm, none across the gap of 15 mm on the other side.
        let loose = join_all(&[square(-27.5, 0.0, 2.5), square(-17.5, 0.0, 2.5), square(-7.5, 0.0, 2.5)]).unwrap();
        let bars = shortest(&loose, &frame(), 2.0, 1);
        let mut lengths: Vec<f64> = bars.iter().map(|b| b.from.distance(b.to)).collect();
        lengths.sort_by(f64::total_cmp);
        assert_eq!(bars.len(), 3);
        assert!((lengths[2] - 5.0).abs() < 1e-3, "{lengths:?}");
        let tied = join_all(&[loose, frame(), (*area(&bars, 2.0).unwrap()).clone()]).unwrap();
        assert_eq!(pieces(&tied).len(), 1);
    }

    #[test]
    fn what_only_touches_in_a_point_is_tied_and_what_lies_along_a_line_is_not() {
        // On its corner against the frame's inner edge at x = 35.
        let tip = Region::from_mm([&Ring(
            [(35.0, 0.0), (30.0, 5.0), (25.0, 0.0), (30.0, -5.0)].map(|(x, y)| Point::new(x, y)).to_vec(),
        )])
        .unwrap();
        let bars = shortest(&tip, &frame(), 2.0, 1);
        assert_eq!(bars.len(), 1);
        assert!(bars[0].from.distance(Point::new(35.0, 0.0)) < 1e-3);
        let tied = join_all(&[tip, frame(), (*area(&bars, 2.0).unwrap()).clone()]).unwrap();
        let opened = offset(&tied, -0.8).unwrap();
        assert_eq!(pieces(&opened).len(), 1, "as wide as the bar");
        assert!(shortest(&square(30.0, 0.0, 5.0), &frame(), 2.0, 1).is_empty());
        // Two pieces that touch each other in a corner, the nearer one tied to the frame.
        let pair =
            Region::new([square(20.0, 0.0, 5.0), square(10.0, 10.0, 5.0)].iter().flat_map(|r| r.rings().to_vec()));
        let bars = shortest(&pair, &frame(), 2.0, 1);
        let lengths: Vec<f64> = bars.iter().map(|b| b.from.distance(b.to)).collect();
        assert!(bars.len() == 2 && lengths.iter().any(|l| *l < 1e-6), "{lengths:?}");
    }

    #[test]
    fn what_holds_already_gets_no_bar_and_more_bars_stand_apart() {
        let touching = square(-34.0, 0.0, 3.0);
        assert!(shortest(&touching, &frame(), 2.0, 3).is_empty());
        let middle = square(0.0, 0.0, 10.0);
        let bars = shortest(&middle, &frame(), 2.0, 3);
        assert_eq!(bars.len(), 3);
        for (i, a) in bars.iter().enumerate() {
            bars[..i].iter().for_each(|b| assert!(a.from.distance(b.from) > 4.0));
        }
    }

    #[test]
    fn large_rings_are_held_twice_and_small_pieces_once() {
        let rings = [
            square(-10.0, 0.0, 11.0).with_hole(&square(-10.0, 0.0, 8.0)),
            square(20.0, 0.0, 5.0).with_hole(&square(20.0, 0.0, 3.0)),
            square(20.0, 20.0, 5.0),
        ];
        let loose = join_all(&rings).unwrap();
        let bars = shortest(&loose, &frame(), 2.0, 0);
        let of_large = |b: &&Tie| [b.from, b.to].iter().any(|p| p.x < 2.0 && p.x > -22.0 && p.y.abs() < 12.0);
        assert!(bars.iter().filter(of_large).count() >= 2, "{bars:?}");
        assert_eq!(shortest(&rings[1], &frame(), 2.0, 0).len(), 1);
        assert_eq!(shortest(&square(0.0, 0.0, 12.0), &frame(), 2.0, 0).len(), 1, "filled");
    }

    #[test]
    fn a_bar_drawn_from_outside_to_outside_ends_in_the_frame() {
        // Through a frame of 80 mm that is 5 mm wide: round ends of 2 mm end with its outer border.
        for (from, to) in [([-60.0, 3.0], [55.0, 3.0]), ([-40.0, 0.0], [40.0, 0.0]), ([0.0, 47.0], [0.0, 0.0])] {
            let bars =
                attached(&[Tie { from: from.into(), to: to.into() }], &square(0.0, 0.0, 9.0), &frame(), 2.0).unwrap();
            let bar = area(&bars, 2.0).unwrap();
            let b = bar.bounds().unwrap();
            assert!(b.max.x < 40.01 && b.min.x > -40.01 && b.max.y < 40.01, "{b:?}");
            let all = join_all([&square(0.0, 0.0, 9.0), &frame(), &bar]).unwrap();
            assert_eq!(pieces(&all).len(), 1);
        }
    }

    #[test]
    fn own_bars_follow_an_outline_that_moved() {
        let bar = Tie { from: [-36.0, 0.0].into(), to: [-11.0, 0.0].into() };
        let [moved] = attached(&[bar], &square(0.0, 0.0, 9.0), &frame(), 2.0).unwrap()[..] else { panic!() };
        assert_eq!(moved.from, bar.from, "inside the frame");
        assert!((moved.to.x + 9.0).abs() < 1e-3, "{moved:?}");
    }
}
