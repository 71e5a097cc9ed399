//! The skin of slopes: each slab's sloped faces triangulated in plan, every corner with its height. Where a shape is
//! thinner than its finish the two sides of a slope meet in a ridge (or in a valley, in a cut): no corner lies there, so
//! points are added wherever a straight edge would miss the true height.

use crate::error::SolidError;
use crate::heights::SlabHeights;
use crate::label::Labels;
use crate::planar::Planar;
use crate::refine::{Place, corner, refine};
use crate::sheet::{Border, Owners, place_in};
use crate::slope_data::{Base, Ground, Key, Refined, SlopeMesh};
use std::sync::Arc;

impl Ground {
    fn of(planar: &Planar, labels: &Labels, row: &[u32], heights: &SlabHeights) -> (Self, Place) {
        let (border, names) = Border::of(&planar.graph, row);
        let mut columns = Vec::new();
        let border = border.map(|column| (column != 0).then(|| place_in(&mut columns, column)));
        let mut used = Vec::new();
        let mut slope = |number: u32| place_in(&mut used, number);
        let mut owners = Owners::new();
        let column = |c: &u32| labels.columns[*c as usize - 1].renumbered(&mut slope, |owner| owners.number(owner));
        let own = columns.iter().map(column).collect();
        let base = |s: &u32| {
            let slope = &labels.slopes[*s as usize];
            let areas = slope.base().iter().map(|a| planar.regions[*a as usize].clone()).collect();
            Base { areas, width: slope.width().to_bits(), is_from_low: slope.is_from_low }
        };
        let wedges = names.iter().flat_map(|v| &planar.graph.out[*v as usize]);
        let corners = wedges.map(|h| heights.corner[*h as usize].to_bits()).collect();
        let slopes = used.iter().map(base).collect();
        (Self { border, columns: own, slopes, corners }, Place { names, columns, owners })
    }
}

/// A slab's slopes, made when they are not known.
pub(crate) fn mesh(
    planar: &Planar,
    labels: &Labels,
    slab: usize,
    heights: &SlabHeights,
) -> Result<Arc<SlopeMesh>, SolidError> {
    let row = labels.sloped_row(slab);
    let key = Key { row: row.to_vec(), columns: labels.columns.clone(), slopes: labels.slopes.clone() };
    planar.slopes.get_or(key, |_| {
        let (ground, place) = Ground::of(planar, labels, row, heights);
        let refined = planar.sheets.slopes(ground, |g| refine(planar, labels, heights, g, &place))?;
        Ok(Arc::new(placed(planar, &refined, &place)))
    })
}

/// Puts a triangulation into the arrangement.
fn placed(planar: &Planar, refined: &Refined, place: &Place) -> SlopeMesh {
    let point = |vertex: u32| match place.names.get(vertex as usize) {
        Some(v) => planar.graph.arrangement.points[*v as usize],
        None => refined.added[vertex as usize - place.names.len()].0,
    };
    let corner = |vertex: u32, next: u32| corner(planar, &place.names, vertex, point(next));
    let triangle = |&([a, b, c], of): &([u32; 3], (u16, u16))| {
        ([corner(a, b), corner(b, c), corner(c, a)], place.owners.named(of))
    };
    SlopeMesh {
        triangles: refined.triangles.iter().map(triangle).collect(),
        added: refined.added.clone(),
        ridges: refined.ridges.clone(),
        stuck: refined.stuck.clone(),
    }
}
