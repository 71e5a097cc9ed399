//! The patches that tracing gives.

use crate::aim::{Aim, Guesses, guess};
use crate::patch::{Patch, PatchId, Use, number};
use kachel_geom::{Px, Ring, interior_point};
use kachel_trace::{Contour, Contours, FLATNESS};
use rayon::prelude::*;

/// The patches of the contours with their first guesses.
pub fn patches(contours: &Contours, aim: Aim, guesses: Guesses) -> Vec<Patch> {
    let all = &contours.contours;
    let mut depth = vec![0u32; all.len()];
    for (i, c) in all.iter().enumerate() {
        if let Some(p) = c.parent {
            depth[i] = depth[p] + 1;
        }
    }
    let patch = |(i, c): (usize, &Contour)| {
        let holes = c.holes.iter().map(|h| h.ring(FLATNESS));
        let rings: Vec<Ring<Px>> = std::iter::once(c.ring.clone()).chain(holes).collect();
        let anchor = interior_point(&rings.iter().collect::<Vec<_>>())?;
        let patch = Patch {
            id: PatchId(0),
            is_ink: c.is_ink,
            curves: std::iter::once(&c.curve).chain(&c.holes).cloned().collect(),
            area_px2: rings[0].area().abs() - rings[1..].iter().map(|r| r.area().abs()).sum::<f64>(),
            rings,
            anchor,
            depth: depth[i],
            use_: Use::Aside,
            colour: c.colour,
            group: c.group.clone(),
            root: None,
            letters: None,
        };
        Some((i, patch.traced()))
    };
    let (of, mut patches): (Vec<usize>, Vec<Patch>) = all.par_iter().enumerate().filter_map(patch).unzip();
    guess(&mut patches, &of, contours, aim, guesses);
    number(&mut patches);
    patches
}
