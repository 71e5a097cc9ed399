//! Paint order: what is seen of a drawing. Areas of ink join what is there, others take away from it. Ink is kept in
//! pieces with boxes, so that an area meets only what it can touch.

use kachel_artwork::{Area, Drawing};
use kachel_geom::{BoolOp, Bounds, Curve, Px, Ring, Stopped, Watch, combine_rings};

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
) -> Result<Vec<Piece>, Stopped> {
    let mut ink: Vec<Piece> = Vec::new();
    if from_page {
        ink.extend(page(d));
    }
    for (i, area) in d.areas.iter().enumerate() {
        watch.step(i, d.areas.len())?;
        add(&mut ink, area, if is_ink(area) { BoolOp::Join } else { BoolOp::TakeAway });
    }
    Ok(ink)
}

/// Paints one area.
pub(crate) fn add(ink: &mut Vec<Piece>, area: &Area, op: BoolOp) {
    let Some(bounds) = Bounds::of(area.rings.iter().flat_map(|r| &r.0)) else { return };
    let (touched, apart): (Vec<Piece>, Vec<Piece>) =
        std::mem::take(ink).into_iter().partition(|p| overlap(&p.bounds, &bounds));
    *ink = apart;
    if touched.is_empty() {
        if op == BoolOp::Join {
            let (rings, curves, group) = (area.rings.clone(), area.curves.clone(), area.group.clone());
            ink.push(Piece { rings, curves, group, bounds });
        }
        return;
    }
    let group = touched.iter().find_map(|p| p.group.clone());
    let under: Vec<Ring<Px>> = touched.iter().flat_map(|p| &p.rings).cloned().collect();
    let result = pieces(combine_rings(&under, &area.rings, op), group.as_ref());
    // Boxes that overlap are not yet areas that do: what came out as it went in keeps its own curves.
    let mut known: Vec<Piece> = touched;
    known.push(Piece { rings: area.rings.clone(), curves: area.curves.clone(), group, bounds });
    ink.extend(result.into_iter().map(|p| restored(p, &known)));
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
