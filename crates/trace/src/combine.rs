//! Paint order: what is seen of a drawing. Areas of ink join what is there, others take away from it. Ink is kept in
//! pieces with boxes, so that an area meets only what it can touch.

use crate::error::{MAX_CROSSINGS, TraceError};
use kachel_artwork::{Area, Drawing};
use kachel_geom::{BoolOp, Bounds, Curve, Px, Ring, Watch, combine_rings, cross_more_than};
use std::collections::BTreeMap;

/// A connected piece of ink.
pub(crate) struct Piece {
    pub(crate) rings: Vec<Ring<Px>>,
    /// The drawing's own curves, while nothing has cut or joined the piece.
    pub(crate) curves: Option<Vec<Curve<Px>>>,
    pub(crate) group: Option<String>,
    bounds: Bounds<Px>,
}

pub(crate) fn combine(
    d: &Drawing,
    from_page: bool,
    is_ink: impl Fn(&Area) -> bool,
    watch: &Watch,
) -> Result<Vec<Piece>, TraceError> {
    let mut ink: Vec<Piece> = Vec::new();
    if from_page {
        ink.extend(page(d));
    }
    let all: Vec<(&Area, BoolOp)> =
        d.areas.iter().map(|a| (a, if is_ink(a) { BoolOp::Join } else { BoolOp::TakeAway })).collect();
    paint(ink, &all, watch)
}

/// Paints areas one after the other. Those that follow each other and do the same are painted at once: what they cover together is what
/// they cover one by one, and a thousand lines across each other are arranged once instead of a thousand times.
pub(crate) fn paint(mut ink: Vec<Piece>, all: &[(&Area, BoolOp)], watch: &Watch) -> Result<Vec<Piece>, TraceError> {
    let mut done = 0;
    for run in all.chunk_by(|a, b| a.1 == b.1) {
        watch.step(done, all.len())?;
        done += run.len();
        let areas: Vec<Piece> = run.iter().filter_map(|(area, _)| Piece::of(area)).collect();
        ink = painted(ink, areas, run[0].1, watch)?;
    }
    Ok(ink)
}

impl Piece {
    fn of(area: &Area) -> Option<Self> {
        let bounds = Bounds::of(area.rings.iter().flat_map(|r| &r.0))?;
        let (rings, curves, group) = (area.rings.clone(), area.curves.clone(), area.group.clone());
        Some(Self { rings, curves, group, bounds })
    }
}

/// Joins areas to the ink, or takes them away from it, cluster by cluster of what may touch.
fn painted(ink: Vec<Piece>, areas: Vec<Piece>, op: BoolOp, watch: &Watch) -> Result<Vec<Piece>, TraceError> {
    let count = ink.len();
    let everything: Vec<Piece> = ink.into_iter().chain(areas).collect();
    let clusters = clusters(&everything);
    let mut of_cluster: BTreeMap<usize, Vec<(bool, Piece)>> = BTreeMap::new();
    for (k, (piece, cluster)) in everything.into_iter().zip(clusters).enumerate() {
        of_cluster.entry(cluster).or_default().push((k < count, piece));
    }
    let mut out = Vec::new();
    for cluster in of_cluster.into_values() {
        watch.check()?;
        let (under, over): (Vec<_>, Vec<_>) = cluster.into_iter().partition(|(was_there, _)| *was_there);
        let [under, over] = [under, over].map(|all| all.into_iter().map(|(_, p)| p).collect::<Vec<Piece>>());
        match op {
            _ if over.is_empty() => out.extend(under),
            BoolOp::TakeAway if under.is_empty() => (),
            BoolOp::Join if under.is_empty() && over.len() == 1 => out.extend(over),
            _ => out.extend(arranged(under, over, op)?),
        }
    }
    Ok(out)
}

/// What is left of pieces with others over them.
fn arranged(under: Vec<Piece>, over: Vec<Piece>, op: BoolOp) -> Result<Vec<Piece>, TraceError> {
    let rings = |all: &[Piece]| all.iter().flat_map(|p| &p.rings).cloned().collect::<Vec<Ring<Px>>>();
    let (below, above) = (rings(&under), rings(&over));
    if cross_more_than(below.iter().chain(&above), MAX_CROSSINGS) {
        return Err(TraceError::TooManyCrossings);
    }
    let mut known = under;
    known.extend(over);
    let group = known.iter().find_map(|p| p.group.clone());
    // Boxes that overlap are not yet areas that do: what came out as it went in keeps its own curves.
    Ok(pieces(combine_rings(&below, &above, op), group.as_ref()).into_iter().map(|p| restored(p, &known)).collect())
}

/// Numbers of the clusters of pieces whose boxes overlap, directly or by others.
fn clusters(all: &[Piece]) -> Vec<usize> {
    fn root(of: &mut [usize], k: usize) -> usize {
        let mut k = k;
        while of[k] != k {
            of[k] = of[of[k]];
            k = of[k];
        }
        k
    }
    let mut of: Vec<usize> = (0..all.len()).collect();
    let mut order = of.clone();
    order.sort_by(|a, b| all[*a].bounds.min.x.total_cmp(&all[*b].bounds.min.x));
    for (n, i) in order.iter().enumerate() {
        let b = &all[*i].bounds;
        for j in order[n + 1..].iter().take_while(|j| all[**j].bounds.min.x <= b.max.x) {
            if overlap(b, &all[*j].bounds) {
                let (p, q) = (root(&mut of, *i), root(&mut of, *j));
                of[p.max(q)] = p.min(q);
            }
        }
    }
    (0..all.len()).map(|k| root(&mut of, k)).collect()
}

/// The piece with the curves of one that it equals.
fn restored(p: Piece, known: &[Piece]) -> Piece {
    let area = |p: &Piece| p.rings.iter().map(Ring::area).sum::<f64>().abs();
    let size = p.bounds.width().max(p.bounds.height()).max(1e-9);
    let near = |a: f64, b: f64| (a - b).abs() <= size * 1e-6;
    let same = |k: &&Piece| {
        k.curves.is_some()
            && k.rings.len() == p.rings.len()
            && near(k.bounds.min.x, p.bounds.min.x)
            && near(k.bounds.min.y, p.bounds.min.y)
            && near(k.bounds.max.x, p.bounds.max.x)
            && near(k.bounds.max.y, p.bounds.max.y)
            && (area(k) - area(&p)).abs() <= 1e-6 * area(&p)
    };
    match known.iter().find(same) {
        Some(k) => Piece { curves: k.curves.clone(), group: k.group.clone(), ..p },
        None => p,
    }
}

/// The whole page, which is what light ink starts from: unpainted paper is white.
fn page(d: &Drawing) -> Option<Piece> {
    let corners = [(0.0, 0.0), (d.width, 0.0), (d.width, d.height), (0.0, d.height)];
    let rings = vec![Ring(corners.map(|(x, y)| kachel_geom::Point::new(x, y)).to_vec())];
    let bounds = rings[0].bounds()?;
    Some(Piece { curves: Some(rings.iter().map(Curve::from_ring).collect()), rings, group: None, bounds })
}

/// Splits rings as the combiner gives them (each outer one followed by its holes) into pieces.
fn pieces(rings: Vec<Ring<Px>>, group: Option<&String>) -> Vec<Piece> {
    let mut out: Vec<Piece> = Vec::new();
    for ring in rings {
        let Some(bounds) = ring.bounds() else { continue };
        match out.last_mut() {
            Some(last) if ring.area() < 0.0 => last.rings.push(ring),
            _ => out.push(Piece { rings: vec![ring], curves: None, group: group.cloned(), bounds }),
        }
    }
    out
}

fn overlap(a: &Bounds<Px>, b: &Bounds<Px>) -> bool {
    a.min.x <= b.max.x && b.min.x <= a.max.x && a.min.y <= b.max.y && b.min.y <= a.max.y
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_geom::Point;
    use kachel_oracle::for_all;

    fn area(x: f64, y: f64, w: f64, h: f64, hole: bool) -> Area {
        let ring = |x: f64, y: f64, w: f64, h: f64| {
            Ring([(x, y), (x + w, y), (x + w, y + h), (x, y + h)].map(|(x, y)| Point::new(x, y)).to_vec())
        };
        let mut rings = vec![ring(x, y, w, h)];
        if hole {
            let mut inner = ring(x + w * 0.25, y + h * 0.25, w * 0.5, h * 0.5);
            inner.0.reverse();
            rings.push(inner);
        }
        Area { rings, curves: None, grey: 0.0, colour: [0; 3], group: None }
    }

    #[test]
    fn many_at_once_are_what_one_after_the_other_gives() {
        for_all(200, |random| {
            let all: Vec<(Area, BoolOp)> = (0..12)
                .map(|_| {
                    let op = if random.below(3) == 0 { BoolOp::TakeAway } else { BoolOp::Join };
                    let at = |random: &mut kachel_oracle::Random, most: usize| (1 + random.below(most)) as f64;
                    let (x, y, w, h) = (at(random, 30), at(random, 30), at(random, 16), at(random, 16));
                    (area(x, y, w, h, random.below(2) == 0), op)
                })
                .collect();
            let all: Vec<(&Area, BoolOp)> = all.iter().map(|(a, op)| (a, *op)).collect();
            let watch = Watch::default();
            let together = paint(vec![], &all, &watch).unwrap();
            let mut single = vec![];
            for one in &all {
                single = paint(single, std::slice::from_ref(one), &watch).unwrap();
            }
            let inside = |pieces: &[Piece], x: usize, y: usize| {
                let p = Point::new(x as f64 * 0.5 + 0.13, y as f64 * 0.5 + 0.13);
                pieces.iter().any(|piece| piece.rings.iter().filter(|r| r.contains(p)).count() % 2 == 1)
            };
            for (x, y) in (0..100).flat_map(|x| (0..100).map(move |y| (x, y))) {
                assert_eq!(inside(&together, x, y), inside(&single, x, y), "{x} {y}");
            }
        });
    }

    #[test]
    fn a_drawing_that_crosses_itself_without_end_is_refused() {
        let bars: Vec<Area> = (0..600)
            .map(|k| {
                if k % 2 == 0 {
                    area(f64::from(k), 0.0, 0.5, 600.0, false)
                } else {
                    area(0.0, f64::from(k), 600.0, 0.5, false)
                }
            })
            .collect();
        let all: Vec<(&Area, BoolOp)> = bars.iter().map(|a| (a, BoolOp::Join)).collect();
        assert!(matches!(paint(vec![], &all, &Watch::default()), Err(TraceError::TooManyCrossings)));
    }
}
