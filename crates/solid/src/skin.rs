//! From labels to triangles: one triangulation a level, shared by the parts above and below it; upright walls zipped
//! over as many slabs as they last, with only the heights that their neighbours use.

use crate::faces::Faces;
use crate::label::{Labels, VOID};
use crate::{MAX_TRIANGLES, Mesh, Part, Planar, SolidError, SoundMesh};
use kachel_geom::{Grid, Watch};
use spade::{ConstrainedDelaunayTriangulation, Point2, Triangulation};
use std::collections::HashMap;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// A flat face: who lies below and who above. `None` where that is the same.
type Flat = Option<(u16, u16)>;

/// A triangle of a level, with the owners below and above.
type FlatTriangle = ([u32; 3], (u16, u16));

/// All triangles of a level.
type Flats = Arc<Vec<FlatTriangle>>;

/// The triangulation of a level by what is flat where: equal for all heights, so a dragged height only builds walls.
#[derive(Debug, Default)]
pub(crate) struct FlatCache(Mutex<HashMap<Vec<Flat>, Flats>>);

/// Triangulations that are kept for one arrangement; the usual object has three or four levels.
const MAX_CACHED: usize = 24;

impl FlatCache {
    fn locked(&self) -> MutexGuard<'_, HashMap<Vec<Flat>, Flats>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn get_or_make(&self, faces: &Faces, flat: Vec<Flat>) -> Result<Flats, SolidError> {
        if let Some(found) = self.locked().get(&flat) {
            return Ok(Arc::clone(found));
        }
        let made = Arc::new(triangulate(faces, &flat)?);
        let mut cache = self.locked();
        if cache.len() >= MAX_CACHED {
            cache.clear();
        }
        cache.insert(flat, Arc::clone(&made));
        Ok(made)
    }
}

/// What is flat at a level, by face.
fn flats_at(faces: &Faces, labels: &Labels, level: usize) -> Vec<Flat> {
    let level = level.cast_signed();
    (0..faces.count as u32)
        .map(|face| (labels.owner(level - 1, face), labels.owner(level, face)))
        .map(|(below, above)| (below != above).then_some((below, above)))
        .collect()
}

/// All levels' triangles, on as many threads as there are cores.
fn all_flats(planar: &Planar, labels: &Labels, levels: usize, watch: &Watch) -> Result<Vec<Flats>, SolidError> {
    let faces = &planar.graph;
    let threads = std::thread::available_parallelism().map_or(1, NonZeroUsize::get).min(levels);
    let made: Vec<Result<Vec<(usize, Flats)>, _>> = std::thread::scope(|s| {
        let started: Vec<_> = (0..threads)
            .map(|first| {
                s.spawn(move || {
                    (first..levels)
                        .step_by(threads)
                        .map(|level| {
                            watch.step(level, levels + 1)?;
                            Ok((level, planar.flats.get_or_make(faces, flats_at(faces, labels, level))?))
                        })
                        .collect()
                })
            })
            .collect();
        let lost = || Err(SolidError::Unsettled("triangulation"));
        started.into_iter().map(|t| t.join().unwrap_or_else(|_| lost())).collect()
    });
    let mut all = made.into_iter().collect::<Result<Vec<_>, _>>()?.concat();
    all.sort_by_key(|(level, _)| *level);
    Ok(all.into_iter().map(|(_, flats)| flats).collect())
}

pub(crate) fn skin(planar: &Planar, labels: &Labels, levels: &[Grid], watch: &Watch) -> Result<Vec<Part>, SolidError> {
    let faces = &planar.graph;
    let parts = labels.parts();
    let mut builders: Vec<Builder> = parts.iter().map(|&p| Builder::new(p, faces, levels)).collect();
    for (level, flats) in all_flats(planar, labels, levels.len(), watch)?.iter().enumerate() {
        for &(corners, (below, above)) in flats.iter() {
            for b in &mut builders {
                if b.part == below {
                    b.triangle(corners.map(|v| (v, level)));
                } else if b.part == above {
                    let [p, q, r] = corners;
                    b.triangle([p, r, q].map(|v| (v, level)));
                }
            }
        }
    }
    let mut done = Vec::with_capacity(parts.len());
    for mut b in builders {
        watch.step(levels.len(), levels.len() + 1)?;
        b.walls(faces, labels);
        let found = b.mesh.triangles.len();
        if found > MAX_TRIANGLES {
            return Err(SolidError::TooLarge { what: "triangles", found, limit: MAX_TRIANGLES });
        }
        done.push(Part { number: u32::from(b.part - 1), mesh: SoundMesh::prove(b.mesh)? });
    }
    Ok(done)
}

/// The triangles of a level, anticlockwise from above, with the owners below and above.
fn triangulate(faces: &Faces, flat: &[Flat]) -> Result<Vec<FlatTriangle>, SolidError> {
    let mut local: Vec<u32> = vec![u32::MAX; faces.arrangement.points.len()];
    let (mut vertices, mut names) = (Vec::new(), Vec::new());
    let (mut constraints, mut sides) = (Vec::new(), HashMap::new());
    for (i, e) in faces.arrangement.edges.iter().enumerate() {
        let (left, right) = faces.sides(i);
        let (l, r) = (flat[left as usize], flat[right as usize]);
        if l == r {
            continue;
        }
        let mut name = |v: u32| {
            let id = &mut local[v as usize];
            if *id == u32::MAX {
                *id = names.len() as u32;
                let p = faces.arrangement.points[v as usize];
                vertices.push(Point2::new(f64::from(p.x()), f64::from(p.y())));
                names.push(v);
            }
            *id as usize
        };
        let (a, b) = (name(e.a), name(e.b));
        constraints.push([a, b]);
        sides.insert((a, b), l);
        sides.insert((b, a), r);
    }
    if vertices.is_empty() {
        return Ok(vec![]);
    }
    let cdt = ConstrainedDelaunayTriangulation::<Point2<f64>>::bulk_load_cdt(vertices, constraints)
        .map_err(|_| SolidError::Unsettled("triangulation"))?;
    // Triangles beside a constraint know their flat; the others learn it from their neighbours.
    let mut of: Vec<Option<Flat>> = vec![None; cdt.num_all_faces()];
    let mut queue = Vec::new();
    for e in cdt.directed_edges() {
        let ends = (e.from().index(), e.to().index());
        if let (Some(face), Some(side)) = (e.face().as_inner(), sides.get(&ends)) {
            of[face.index()] = Some(*side);
            queue.push(face.fix());
        }
    }
    while let Some(face) = queue.pop() {
        let face = cdt.face(face);
        let own = of[face.index()];
        for e in face.adjacent_edges().into_iter().filter(|e| !e.is_constraint_edge()) {
            if let Some(over) = e.rev().face().as_inner()
                && of[over.index()].is_none()
            {
                of[over.index()] = own;
                queue.push(over.fix());
            }
        }
    }
    let corners = |f: spade::handles::FaceHandle<'_, spade::handles::InnerTag, _, _, _, _>| {
        f.vertices().map(|v| names[v.index()])
    };
    Ok(cdt.inner_faces().filter_map(|f| Some((corners(f), of[f.index()].flatten()?))).collect())
}

/// State of one part's mesh while it grows.
struct Builder {
    part: u16,
    mesh: Mesh,
    levels: Vec<Grid>,
    points: Vec<(i32, i32)>,
    /// Mesh vertex of (arrangement vertex, level).
    names: Vec<u32>,
}

impl Builder {
    fn new(part: u16, faces: &Faces, levels: &[Grid]) -> Self {
        let points: Vec<(i32, i32)> = faces.arrangement.points.iter().map(|p| (p.x(), p.y())).collect();
        let names = vec![u32::MAX; points.len() * levels.len()];
        Self { part, mesh: Mesh::default(), levels: levels.to_vec(), points, names }
    }

    fn vertex(&mut self, (v, level): (u32, usize)) -> u32 {
        let name = &mut self.names[v as usize * self.levels.len() + level];
        if *name == u32::MAX {
            *name = self.mesh.vertices.len() as u32;
            let (x, y) = self.points[v as usize];
            self.mesh.vertices.push([x, y, self.levels[level].steps()]);
        }
        *name
    }

    fn triangle(&mut self, corners: [(u32, usize); 3]) {
        let t = corners.map(|c| self.vertex(c));
        self.mesh.triangles.push(t);
    }

    fn walls(&mut self, faces: &Faces, labels: &Labels) {
        debug_assert_ne!(self.part, VOID);
        let edges = &faces.arrangement.edges;
        // Runs of slabs in which the part lies on one side of an edge only: (edge, from, to, on the left).
        let mut runs: Vec<(usize, usize, usize, bool)> = Vec::new();
        let mut used: Vec<u128> = vec![0; self.points.len()];
        for (i, e) in edges.iter().enumerate() {
            let (l, r) = faces.sides(i);
            let side = |slab: usize| {
                let owns = |f| labels.owner(slab.cast_signed(), f) == self.part;
                (owns(l) != owns(r)).then(|| owns(l))
            };
            let mut slab = 0;
            while slab < labels.slabs {
                let Some(on_left) = side(slab) else {
                    slab += 1;
                    continue;
                };
                let from = slab;
                while slab < labels.slabs && side(slab) == Some(on_left) {
                    slab += 1;
                }
                runs.push((i, from, slab, on_left));
                let ends = 1u128 << from | 1u128 << slab;
                used[e.a as usize] |= ends;
                used[e.b as usize] |= ends;
            }
        }
        for (i, from, to, on_left) in runs {
            // With the part on the left of a -> b, a is on the left of who looks at the wall from outside.
            let (a, b) = if on_left { (edges[i].a, edges[i].b) } else { (edges[i].b, edges[i].a) };
            let heights = |v: u32| (from..=to).filter(|&l| used[v as usize] >> l & 1 == 1).collect::<Vec<_>>();
            self.zip((a, &heights(a)), (b, &heights(b)));
        }
    }

    fn zip(&mut self, (a, left): (u32, &[usize]), (b, right): (u32, &[usize])) {
        let (mut i, mut j) = (0, 0);
        while i + 1 < left.len() || j + 1 < right.len() {
            let lift_left = j + 1 == right.len() || (i + 1 < left.len() && left[i + 1] <= right[j + 1]);
            if lift_left {
                self.triangle([(a, left[i]), (b, right[j]), (a, left[i + 1])]);
                i += 1;
            } else {
                self.triangle([(a, left[i]), (b, right[j]), (b, right[j + 1])]);
                j += 1;
            }
        }
    }
}
