//! Borders between the colours of a labelled picture. Each border is followed and fitted once, and the areas on both
//! sides take the same curve, so that they share it exactly: no gaps, no overlaps.

use crate::Contour;
use crate::areas::{Areas, OUTSIDE, absorb};
use crate::border_walk::{Border, Follower};
use crate::palette::Labels;
use crate::shape::Style;
use kachel_geom::{Bounds, Curve, Px, Ring, Stopped, Watch, interior_point};
use std::collections::HashMap;

/// What following gives: an area's contour each, and the boxes of those that were given to their neighbours.
pub(crate) struct Bordered {
    pub(crate) contours: Vec<Contour>,
    pub(crate) specks: Vec<Bounds<Px>>,
    pub(crate) pinholes: Vec<Bounds<Px>>,
}

/// Least sizes (pixels) of areas: of ink and of ground.
pub(crate) struct Least {
    pub(crate) ink: f64,
    pub(crate) ground: f64,
}

pub(crate) fn follow(
    mut l: Labels,
    least: &Least,
    style: &Style,
    watch: &Watch,
) -> Result<(Bordered, Labels), Stopped> {
    let (w, h) = (l.width, l.height);
    let first = Areas::new(&l.labels, w, h);
    let ground = l.ground;
    let gone = absorb(&mut l.labels, &first, |label| if Some(label) == ground { least.ground } else { least.ink });
    let areas = if gone.is_empty() { first } else { Areas::new(&l.labels, w, h) };
    watch.check()?;
    let borders = Follower { areas: &areas, labels: &l, style, junctions: HashMap::new() }.run(watch)?;
    let rings = assemble(&borders, &areas);
    let contours = contours(rings, &areas, &l, watch)?;
    let of = |is_ground: bool| gone.iter().filter(|g| (Some(g.0) == ground) == is_ground).map(|g| g.1).collect();
    Ok((Bordered { contours, specks: of(false), pinholes: of(true) }, l))
}

/// Each area's closed curves, the area on the left of each as it runs.
fn assemble(borders: &[Border], areas: &Areas) -> HashMap<u32, Vec<Curve<Px>>> {
    // By the corner and the direction in which it is left: which border, and whether backwards.
    let mut exits: HashMap<((isize, isize), usize), (usize, bool)> = HashMap::new();
    let mut rings: HashMap<u32, Vec<Curve<Px>>> = HashMap::new();
    let mut is_loop = vec![false; borders.len()];
    for (k, b) in borders.iter().enumerate() {
        let is_round = b.start == b.end && areas_exits(areas, b.start).count_ones() == 2;
        if is_round {
            is_loop[k] = true;
            rings.entry(b.left).or_default().push(b.curve.clone());
            rings.entry(b.right).or_default().push(b.curve.reversed());
        } else {
            exits.insert((b.start, b.first), (k, false));
            exits.insert((b.end, (b.last + 2) % 4), (k, true));
        }
    }
    let mut done = vec![[false; 2]; borders.len()];
    for (k, b) in borders.iter().enumerate() {
        for backwards in [false, true] {
            let area = if backwards { b.right } else { b.left };
            if is_loop[k] || done[k][usize::from(backwards)] || area == OUTSIDE {
                continue;
            }
            let mut ring: Option<Curve<Px>> = None;
            let mut next = Some((k, backwards));
            while let Some((k, back)) = next {
                if std::mem::replace(&mut done[k][usize::from(back)], true) {
                    break;
                }
                let b = &borders[k];
                let piece = if back { b.curve.reversed() } else { b.curve.clone() };
                match &mut ring {
                    None => ring = Some(piece),
                    Some(r) => r.segments.extend(piece.segments),
                }
                let (corner, dir) = if back { (b.start, (b.first + 2) % 4) } else { (b.end, b.last) };
                // The area keeps to the left: the sharpest left turn that has it there.
                next = [(dir + 3) % 4, dir, (dir + 1) % 4]
                    .into_iter()
                    .find(|d| {
                        let [l, r] = Areas::sides(corner, *d);
                        areas.at(l.0, l.1) == area && areas.at(r.0, r.1) != area
                    })
                    .and_then(|d| exits.get(&(corner, d)).copied());
            }
            if let Some(r) = ring {
                rings.entry(area).or_default().push(r);
            }
        }
    }
    rings.remove(&OUTSIDE);
    rings
}

fn areas_exits(areas: &Areas, corner: (isize, isize)) -> u8 {
    (0..4).filter(|d| areas.is_border(corner, *d)).fold(0, |m, d| m | 1 << d)
}

/// Square pixels under which a fitted ring is nothing but a line there and back.
const FLATTENED: f64 = 1e-3;

/// Areas as contours, each after what lies round it. Ground that reaches the picture's border is left out.
fn contours(
    rings: HashMap<u32, Vec<Curve<Px>>>,
    areas: &Areas,
    l: &Labels,
    watch: &Watch,
) -> Result<Vec<Contour>, Stopped> {
    let mut at_border = vec![false; areas.labels.len()];
    let (w, h) = (areas.w, areas.h);
    let corner = |x: usize, y: usize| kachel_geom::Point::new(x as f64, y as f64);
    let picture = Bounds { min: corner(0, 0), max: corner(w, h) };
    (0..w).for_each(|x| [x, (h - 1) * w + x].iter().for_each(|i| at_border[areas.of[*i] as usize] = true));
    (0..h).for_each(|y| [y * w, y * w + w - 1].iter().for_each(|i| at_border[areas.of[*i] as usize] = true));
    let mut found: Vec<(f64, Contour)> = Vec::new();
    for (area, mut curves) in rings {
        let label = areas.labels[area as usize];
        let is_ink = l.ground != Some(label);
        if !is_ink && at_border[area as usize] {
            continue;
        }
        // What a wide deviation has flattened to a line is no area any more; its neighbours meet there.
        curves.retain(|c| c.nodes() >= 2 && c.area().abs() > FLATTENED);
        curves.iter_mut().for_each(|c| *c = c.held(&picture));
        // With y down and the area on the left, its outer ring has a negative area, and a hole a positive one.
        let Some(outer) = (0..curves.len()).min_by(|a, b| curves[*a].area().total_cmp(&curves[*b].area())) else {
            continue;
        };
        let outer = curves.swap_remove(outer);
        let mut c = Contour::of_curve(outer, None, is_ink);
        c.holes = curves;
        c.colour = Some(label);
        found.push((c.ring.area().abs(), c));
    }
    found.sort_by(|a, b| {
        b.0.total_cmp(&a.0)
            .then(a.1.ring.0[0].x.total_cmp(&b.1.ring.0[0].x))
            .then(a.1.ring.0[0].y.total_cmp(&b.1.ring.0[0].y))
    });
    let mut out: Vec<Contour> = Vec::with_capacity(found.len());
    for (i, (_, mut c)) in found.into_iter().enumerate() {
        watch.step(i, areas.labels.len())?;
        let holes: Vec<Ring<Px>> = c.holes.iter().map(|h| h.ring(crate::FLATNESS)).collect();
        let own: Vec<&Ring<Px>> = std::iter::once(&c.ring).chain(&holes).collect();
        let probe = interior_point(&own);
        c.parent = probe.and_then(|p| (0..i).rev().find(|j| out[*j].ring.contains(p)));
        if !c.is_ink {
            // A gap's contour runs as the ink's hole does.
            c.curve = c.curve.reversed();
            c.ring.0.reverse();
        }
        out.push(c);
    }
    Ok(out)
}
