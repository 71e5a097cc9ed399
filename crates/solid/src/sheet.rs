//! What levels and slopes have in common: the borders of what is triangulated in plan, and names that do not depend on the rest of
//! the arrangement.

use crate::error::SolidError;
use crate::faces::Faces;
use crate::label::VOID;
use kachel_geom::GridPoint;

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
