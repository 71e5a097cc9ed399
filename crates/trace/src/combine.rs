//! Paint order: what is seen of a drawing. Dark areas join the ink, light ones take away from it. Ink is kept in
//! pieces with boxes, so that an area meets only what it can touch.

use crate::cut::Cut;
use kachel_artwork::Drawing;
use kachel_geom::{BoolOp, Bounds, Px, Ring, Stopped, Watch, combine_px};

struct Piece {
    rings: Vec<Ring<Px>>,
    bounds: Bounds<Px>,
}

pub(crate) fn combine(d: &Drawing, cut: &Cut, watch: &Watch) -> Result<Vec<Ring<Px>>, Stopped> {
    let mut ink: Vec<Piece> = Vec::new();
    if cut.light_is_ink {
        ink.extend(page(d));
    }
    for (i, area) in d.areas.iter().enumerate() {
        watch.step(i, d.areas.len())?;
        let is_ink = if cut.by_alpha { !cut.light_is_ink } else { (area.grey > cut.at) == cut.light_is_ink };
        let Some(bounds) = Bounds::of(area.rings.iter().flat_map(|r| &r.0)) else { continue };
        let (touched, apart): (Vec<Piece>, Vec<Piece>) = ink.into_iter().partition(|p| overlap(&p.bounds, &bounds));
        ink = apart;
        let under: Vec<Ring<Px>> = touched.into_iter().flat_map(|p| p.rings).collect();
        let result = match (is_ink, under.is_empty()) {
            (true, true) => area.rings.clone(),
            (true, false) => combine_px(&under, &area.rings, BoolOp::Join),
            (false, true) => continue,
            (false, false) => combine_px(&under, &area.rings, BoolOp::TakeAway),
        };
        ink.extend(pieces(result));
    }
    Ok(ink.into_iter().flat_map(|p| p.rings).collect())
}

/// The whole page, which is what light ink starts from: unpainted paper is white.
fn page(d: &Drawing) -> Option<Piece> {
    let corners = [(0.0, 0.0), (d.width, 0.0), (d.width, d.height), (0.0, d.height)];
    let rings = vec![Ring(corners.map(|(x, y)| kachel_geom::Point::new(x, y)).to_vec())];
    let bounds = rings[0].bounds()?;
    Some(Piece { rings, bounds })
}

/// Splits rings as the combiner gives them (each outer one followed by its holes) into pieces.
fn pieces(rings: Vec<Ring<Px>>) -> Vec<Piece> {
    let mut out: Vec<Piece> = Vec::new();
    for ring in rings {
        let Some(bounds) = ring.bounds() else { continue };
        match out.last_mut() {
            Some(last) if ring.area() < 0.0 => last.rings.push(ring),
            _ => out.push(Piece { rings: vec![ring], bounds }),
        }
    }
    out
}

fn overlap(a: &Bounds<Px>, b: &Bounds<Px>) -> bool {
    a.min.x <= b.max.x && b.min.x <= a.max.x && a.min.y <= b.max.y && b.min.y <= a.max.y
}
