//! What levels and slopes have in common: the faces of the arrangement that something covers, triangulated in plan, and
//! triangulations kept by what they were made of.

use crate::error::SolidError;
use crate::faces::Faces;
use crate::label::VOID;
use kachel_geom::GridPoint;
use spade::handles::FixedVertexHandle;
use spade::{ConstrainedDelaunayTriangulation, Point2, Triangulation};

pub(crate) type Cdt = ConstrainedDelaunayTriangulation<Point2<f64>>;

/// A triangle of a [`Cdt`].
pub(crate) type Face<'a> =
    spade::handles::FaceHandle<'a, spade::handles::InnerTag, Point2<f64>, (), spade::CdtEdge<()>, ()>;

/// An edge of one, seen from one of its triangles.
pub(crate) type Directed<'a> = spade::handles::DirectedEdgeHandle<'a, Point2<f64>, (), spade::CdtEdge<()>, ()>;

pub(crate) type UndirectedEdge<'a> = spade::handles::UndirectedEdgeHandle<'a, Point2<f64>, (), spade::CdtEdge<()>, ()>;

pub(crate) const FAILED: SolidError = SolidError::Unsettled("not-triangulated");

/// The ends of an edge, with what lies on its left and on its right.
pub(crate) type Side<K> = ([u32; 2], [K; 2]);

/// The edges between faces of different kinds, with their ends numbered anew: what a triangulation depends on, and nothing
/// else of the arrangement.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Border<K> {
    pub(crate) points: Vec<GridPoint>,
    pub(crate) edges: Vec<Side<K>>,
}

impl<K: Copy + PartialEq> Border<K> {
    /// The border, and the arrangement's vertices in its order.
    pub(crate) fn of(faces: &Faces, kinds: &[K]) -> (Self, Vec<u32>) {
        let mut local: Vec<u32> = vec![u32::MAX; faces.arrangement.points.len()];
        let (mut points, mut names, mut edges) = (Vec::new(), Vec::new(), Vec::new());
        for (i, e) in faces.arrangement.edges.iter().enumerate() {
            let (left, right) = faces.sides(i);
            let (l, r) = (kinds[left as usize], kinds[right as usize]);
            if l == r {
                continue;
            }
            let ends = [e.a, e.b].map(|v| {
                let id = &mut local[v as usize];
                if *id == u32::MAX {
                    *id = names.len() as u32;
                    points.push(faces.arrangement.points[v as usize]);
                    names.push(v);
                }
                *id
            });
            edges.push((ends, [l, r]));
        }
        (Self { points, edges }, names)
    }

    /// The same edges between other kinds.
    pub(crate) fn map<L>(self, mut kind: impl FnMut(K) -> L) -> Border<L> {
        let edges = self.edges.into_iter().map(|(ends, sides)| (ends, sides.map(&mut kind))).collect();
        Border { points: self.points, edges }
    }

    pub(crate) fn edges(&self) -> usize {
        self.edges.len()
    }
}

/// The place of a number among those seen so far.
pub(crate) fn place_in<N: PartialEq>(seen: &mut Vec<N>, number: N) -> u32 {
    let place = seen.iter().position(|s| *s == number).unwrap_or_else(|| {
        seen.push(number);
        seen.len() - 1
    });
    place as u32
}

/// Owners by the order in which they come, air first: tiers one by one share most of their levels and slopes with the parts that they
/// make.
pub(crate) struct Owners(Vec<u16>);

impl Owners {
    pub(crate) fn new() -> Self {
        Self(vec![VOID])
    }

    pub(crate) fn number(&mut self, owner: u16) -> u16 {
        place_in(&mut self.0, owner) as u16
    }

    /// Who the owners below and above are, by their numbers.
    pub(crate) fn named(&self, (below, above): (u16, u16)) -> (u16, u16) {
        (self.0[below as usize], self.0[above as usize])
    }
}

/// Faces of the arrangement, each of a kind, triangulated with the edges between kinds kept.
pub(crate) struct Sheet<'a, K> {
    pub cdt: Cdt,
    border: &'a Border<K>,
}

pub(crate) fn handle(vertex: usize) -> FixedVertexHandle {
    FixedVertexHandle::from_index(vertex)
}

pub(crate) fn plane(p: GridPoint) -> Point2<f64> {
    Point2::new(f64::from(p.x()), f64::from(p.y()))
}

impl<'a, K: Copy + PartialEq> Sheet<'a, K> {
    /// Triangulates what a border bounds; its vertices are the border's points. `None` where there is no border.
    pub(crate) fn new(border: &'a Border<K>) -> Result<Option<Self>, SolidError> {
        if border.points.is_empty() {
            return Ok(None);
        }
        let vertices = border.points.iter().map(|p| plane(*p)).collect();
        let constraints = border.edges.iter().map(|(ends, _)| ends.map(|v| v as usize)).collect();
        let cdt = Cdt::bulk_load_cdt(vertices, constraints).map_err(|_| FAILED)?;
        Ok(Some(Self { cdt, border }))
    }

    /// The kind of each triangle: those beside a kept edge know theirs, the others learn it from their neighbours.
    pub(crate) fn kinds(&self) -> Vec<Option<K>> {
        let mut of: Vec<Option<K>> = vec![None; self.cdt.num_all_faces()];
        let mut queue = Vec::new();
        for ([a, b], sides) in &self.border.edges {
            let Some(e) = self.cdt.get_edge_from_neighbors(handle(*a as usize), handle(*b as usize)) else { continue };
            for (face, side) in [e.face(), e.rev().face()].into_iter().zip(sides) {
                if let Some(face) = face.as_inner() {
                    of[face.index()] = Some(*side);
                    queue.push(face);
                }
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
