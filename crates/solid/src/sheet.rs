//! What levels and slopes have in common: the faces of the arrangement that something covers, triangulated in plan, and
//! triangulations kept by what they were made of.

use crate::SolidError;
use crate::faces::Faces;
use kachel_geom::GridPoint;
use spade::{ConstrainedDelaunayTriangulation, Point2, Triangulation};
use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

pub(crate) type Cdt = ConstrainedDelaunayTriangulation<Point2<f64>>;

/// A triangle of a [`Cdt`].
pub(crate) type Face<'a> =
    spade::handles::FaceHandle<'a, spade::handles::InnerTag, Point2<f64>, (), spade::CdtEdge<()>, ()>;

pub(crate) const FAILED: SolidError = SolidError::Unsettled("triangulation");

/// Faces of the arrangement, each of a kind, triangulated with the edges between kinds kept.
pub(crate) struct Sheet<K> {
    pub cdt: Cdt,
    /// Arrangement vertices, in the triangulation's order.
    pub names: Vec<u32>,
    /// What lies on the left of kept edges.
    sides: HashMap<(usize, usize), K>,
}

pub(crate) fn plane(p: GridPoint) -> Point2<f64> {
    Point2::new(f64::from(p.x()), f64::from(p.y()))
}

impl<K: Copy + PartialEq> Sheet<K> {
    /// Triangulates by each face's kind; `None` where all faces are of one.
    pub(crate) fn new(faces: &Faces, kinds: &[K]) -> Result<Option<Self>, SolidError> {
        let mut local: Vec<u32> = vec![u32::MAX; faces.arrangement.points.len()];
        let (mut vertices, mut names) = (Vec::new(), Vec::new());
        let (mut constraints, mut sides) = (Vec::new(), HashMap::new());
        for (i, e) in faces.arrangement.edges.iter().enumerate() {
            let (left, right) = faces.sides(i);
            let (l, r) = (kinds[left as usize], kinds[right as usize]);
            if l == r {
                continue;
            }
            let mut name = |v: u32| {
                let id = &mut local[v as usize];
                if *id == u32::MAX {
                    *id = names.len() as u32;
                    vertices.push(plane(faces.arrangement.points[v as usize]));
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
            return Ok(None);
        }
        let cdt = Cdt::bulk_load_cdt(vertices, constraints).map_err(|_| FAILED)?;
        Ok(Some(Self { cdt, names, sides }))
    }

    /// The kind of each triangle: those beside a kept edge know theirs, the others learn it from their neighbours.
    pub(crate) fn kinds(&self) -> Vec<Option<K>> {
        let mut of: Vec<Option<K>> = vec![None; self.cdt.num_all_faces()];
        let mut queue = Vec::new();
        for e in self.cdt.directed_edges() {
            let ends = (e.from().index(), e.to().index());
            if let (Some(face), Some(side)) = (e.face().as_inner(), self.sides.get(&ends)) {
                of[face.index()] = Some(*side);
                queue.push(face);
            }
        }
        while let Some(face) = queue.pop() {
            let own = of[face.index()];
            for over in beside(face) {
                if of[over.index()].is_none() {
                    of[over.index()] = own;
                    queue.push(over);
                }
            }
        }
        of
    }
}

/// The triangles beside one that no kept edge parts from it.
pub(crate) fn beside(face: Face<'_>) -> impl Iterator<Item = Face<'_>> {
    face.adjacent_edges().into_iter().filter(|e| !e.is_constraint_edge()).filter_map(|e| e.rev().face().as_inner())
}

/// Results by what they were made of. Heights are no part of that, so a dragged height only builds walls.
#[derive(Debug)]
pub(crate) struct Cache<K, V> {
    known: Mutex<HashMap<K, Arc<V>>>,
    most: usize,
}

impl<K: Eq + Hash, V> Cache<K, V> {
    pub(crate) fn new(most: usize) -> Self {
        Self { known: Mutex::default(), most }
    }

    fn locked(&self) -> MutexGuard<'_, HashMap<K, Arc<V>>> {
        self.known.lock().unwrap_or_else(PoisonError::into_inner)
    }

    pub(crate) fn get_or(&self, key: K, make: impl FnOnce(&K) -> Result<V, SolidError>) -> Result<Arc<V>, SolidError> {
        if let Some(found) = self.locked().get(&key) {
            return Ok(Arc::clone(found));
        }
        let made = Arc::new(make(&key)?);
        let mut known = self.locked();
        if known.len() >= self.most {
            known.clear();
        }
        known.insert(key, Arc::clone(&made));
        Ok(made)
    }
}
