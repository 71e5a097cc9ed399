//! From labels to triangles: one triangulation a level and one a slab with slopes, each shared by the parts above and
//! below it; upright walls between them.

use crate::builder::Builder;
use crate::error::{MAX_TRIANGLES, SolidError};
use crate::faces::Faces;
use crate::flat::{Flat, FlatTriangle, Flats};
use crate::heights::SlabHeights;
use crate::label::Labels;
use crate::mesh::Mesh;
use crate::planar::Planar;
use crate::sheet::{Border, FAILED, Owners};
use crate::slope_data::SlopeMesh;
use crate::slopes;
use crate::solid::Part;
use crate::soundness::{SoundMesh, Unsound};
use crate::sweep::{self, Tangled};
use crate::walls::Walls;
use foldhash::{HashMap, HashMapExt};
use kachel_geom::{Grid, GridPoint, Watch};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Where to begin with the levels and slabs. The parts and the object as one body are made at the same time and share most of them: begun
/// at the same end, both would make each of them; begun at both ends, each finds what the other has made.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Begin {
    Bottom,
    Top,
}

impl Begin {
    /// What is made of each of so many, in their order.
    fn each<T: Send, E: Send>(
        self,
        count: usize,
        make: impl Fn(usize) -> Result<T, E> + Send + Sync,
    ) -> Result<Vec<T>, E> {
        let all = (0..count).into_par_iter();
        if self == Self::Bottom {
            return all.map(make).collect();
        }
        let mut made: Vec<T> = all.rev().map(make).collect::<Result<_, E>>()?;
        made.reverse();
        Ok(made)
    }
}

/// What is flat at a level, by face.
fn flats_at(faces: &Faces, labels: &Labels, level: usize) -> Vec<Flat> {
    let level = level.cast_signed();
    (0..faces.count as u32)
        .map(|face| (labels.upper(level - 1, face), labels.lower(level, face)))
        .map(|(below, above)| (below != above).then_some((below, above)))
        .collect()
}

/// All levels' triangles, on as many threads as there are cores.
fn all_flats(
    planar: &Planar,
    labels: &Labels,
    levels: usize,
    from: Begin,
    watch: &Watch,
) -> Result<Vec<Flats>, SolidError> {
    let faces = &planar.graph;
    from.each(levels, |level| {
        watch.step(level, levels + 1)?;
        planar.flats.get_or(flats_at(faces, labels, level), |flat| triangulate(planar, flat).map(Arc::new))
    })
}

/// Why there is no skin: where it is torn, or for good.
pub(crate) enum Torn {
    /// The checker found it torn along lines, grid steps.
    Here(Unsound, Vec<[[i32; 3]; 2]>),
    /// Slopes of slabs lie in a level along lines.
    Level(Vec<(usize, [GridPoint; 2])>),
    /// Something else.
    Solid(SolidError),
}

impl Torn {
    fn new(e: Unsound, mesh: &Mesh) -> Self {
        let at = |v: u32| mesh.vertices[v as usize];
        match e {
            Unsound::OpenEdge { .. } => Self::Here(e, open_edges(mesh).map(|(a, b)| [at(a), at(b)]).collect()),
            Unsound::Fan { vertex } => Self::Here(e, vec![[at(vertex); 2]]),
            _ => Self::Solid(e.into()),
        }
    }
}

/// Edges that are not shared by two triangles.
fn open_edges(mesh: &Mesh) -> impl Iterator<Item = (u32, u32)> {
    let mut uses: BTreeMap<(u32, u32), u32> = BTreeMap::new();
    for t in &mesh.triangles {
        for (a, b) in [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])] {
            *uses.entry((a.min(b), a.max(b))).or_default() += 1;
        }
    }
    uses.into_iter().filter(|(_, n)| *n != 2).map(|(e, _)| e)
}

impl From<SolidError> for Torn {
    fn from(e: SolidError) -> Self {
        Self::Solid(e)
    }
}

/// A mesh without pairs of triangles that lie on each other back to back: slivers of a slope, too thin for a point of the
/// grid between their sides, have no thickness.
fn without_sheets(mut mesh: Mesh) -> Mesh {
    let sorted = |t: &[u32; 3]| {
        let mut t = *t;
        t.sort_unstable();
        t
    };
    let mut seen: HashMap<[u32; 3], u32> = HashMap::with_capacity(mesh.triangles.len());
    mesh.triangles.iter().for_each(|t| *seen.entry(sorted(t)).or_default() += 1);
    mesh.triangles.retain(|t| seen[&sorted(t)] == 1);
    // Corners that nothing needs any more.
    let mut names = vec![u32::MAX; mesh.vertices.len()];
    let mut kept = Vec::with_capacity(mesh.vertices.len());
    for v in mesh.triangles.iter_mut().flatten() {
        let name = &mut names[*v as usize];
        if *name == u32::MAX {
            *name = kept.len() as u32;
            kept.push(mesh.vertices[*v as usize]);
        }
        *v = *name;
    }
    mesh.vertices = kept;
    mesh
}

/// The skins of all parts. Where a slope lies in a level there is none, unless there has to be one.
pub(crate) fn skin(
    planar: &Planar,
    labels: &Labels,
    heights: &[Option<SlabHeights>],
    levels: &[Grid],
    must: bool,
    from: Begin,
    watch: &Watch,
) -> Result<Skin, Torn> {
    let faces = &planar.graph;
    let (flats, slopes) = rayon::join(
        || all_flats(planar, labels, levels.len(), from, watch),
        || all_slopes(planar, labels, heights, from, watch),
    );
    let (flats, slopes) = (flats?, slopes?);
    let in_slab = |(slab, s): (usize, &SlopeMesh)| s.stuck.iter().map(|l| (slab, *l)).collect::<Vec<_>>();
    let made = slopes.iter().enumerate().filter_map(|(slab, s)| Some((slab, s.as_deref()?)));
    let lines: Vec<_> = made.flat_map(in_slab).collect();
    if !lines.is_empty() && !must {
        return Err(Torn::Level(lines));
    }
    let walls = Walls::new(faces, labels, heights, levels);
    let build = |part: u16| {
        watch.step(levels.len(), levels.len() + 1).map_err(SolidError::from)?;
        let mut b = Builder::new(faces);
        for (flats, level) in flats.iter().zip(levels) {
            let z = level.steps();
            for &([p, q, r], (below, above)) in flats.iter() {
                if part == below {
                    b.triangle([(p, z), (q, z), (r, z)]);
                } else if part == above {
                    b.triangle([(p, z), (r, z), (q, z)]);
                }
            }
        }
        for (slope, heights) in slopes.iter().zip(heights) {
            if let (Some(slope), Some(heights)) = (slope, heights) {
                b.slope(part, slope, heights);
            }
        }
        walls.build(part, &mut b);
        let found = b.mesh.triangles.len();
        if found > MAX_TRIANGLES {
            return Err(SolidError::TooLarge { what: "too-many-triangles", found, limit: MAX_TRIANGLES }.into());
        }
        let mesh = match SoundMesh::prove(b.mesh) {
            Ok(mesh) => mesh,
            Err((_, mesh)) => SoundMesh::prove(without_sheets(mesh)).map_err(|(e, mesh)| Torn::new(e, &mesh))?,
        };
        Ok(Part { number: u32::from(part - 1), mesh })
    };
    let built: Vec<Result<Part, Torn>> = labels.parts().into_par_iter().map(build).collect();
    let parts = built.into_iter().collect::<Result<Vec<Part>, Torn>>()?;
    let in_slab = |(slope, heights): (&Option<Arc<SlopeMesh>>, &Option<SlabHeights>)| {
        let (slope, heights) = (slope.as_ref()?, heights.as_ref()?);
        Some(slope.ridges.iter().map(|(p, t)| [p.x(), p.y(), heights.inner_z(*t)]).collect::<Vec<_>>())
    };
    let ridges = slopes.iter().zip(heights).filter_map(in_slab).flatten().collect();
    Ok(Skin { parts, ridges })
}

/// The skins of all parts.
pub(crate) struct Skin {
    pub parts: Vec<Part>,
    /// Where slopes end in ridges, grid steps.
    pub ridges: Vec<[i32; 3]>,
}

/// The slopes of all slabs, on as many threads as there are cores.
fn all_slopes(
    planar: &Planar,
    labels: &Labels,
    heights: &[Option<SlabHeights>],
    from: Begin,
    watch: &Watch,
) -> Result<Vec<Option<Arc<SlopeMesh>>>, SolidError> {
    from.each(heights.len(), |slab| {
        watch.check()?;
        heights[slab].as_ref().map(|h| slopes::mesh(planar, labels, slab, h)).transpose()
    })
}

/// The triangles of a level, anticlockwise from above, with the owners below and above.
fn triangulate(planar: &Planar, flat: &[Flat]) -> Result<Vec<FlatTriangle>, SolidError> {
    let (border, names) = Border::of(&planar.graph, flat);
    let mut owners = Owners::new();
    let border = border.map(|flat| flat.map(|(below, above)| (owners.number(below), owners.number(above))));
    let make =
        |border: &Border<Flat>| sweep::triangulation(border).map(|t| t.triangles().collect()).map_err(|Tangled| FAILED);
    let sheet = planar.sheets.flats(border, make)?;
    Ok(sheet.iter().map(|(corners, of)| (corners.map(|v| names[v as usize]), owners.named(*of))).collect())
}
