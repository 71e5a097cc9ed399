use crate::Mesh;
use kachel_geom::{OffGrid, Pose};
use kachel_words::{msg, said};
use rayon::prelude::*;
use std::sync::Arc;

/// A mesh that has been checked; there is no other way to make one.
///
/// Checked: indices in range; no two vertices in one place; no triangle without area; every edge in exactly two
/// triangles, which run along it in opposite directions (closed, 2-manifold, consistently wound); one fan of
/// triangles at each vertex; a positive volume (outside out). Not checked here: that no two triangles cross, which
/// holds by construction for what the kernel makes; tests look at it ([`crate::testing`]).
#[derive(Clone, Debug)]
pub struct SoundMesh {
    mesh: Arc<Mesh>,
}

/// The first thing that is wrong with a mesh.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Unsound {
    /// No triangles.
    Empty,
    /// A corner that is no vertex.
    Index {
        /// Its number.
        triangle: usize,
    },
    /// A triangle without area.
    Degenerate {
        /// Its number.
        triangle: usize,
    },
    /// Two vertices in one place.
    DoubleVertex {
        /// The one.
        first: u32,
        /// The other.
        second: u32,
    },
    /// An edge that is not shared by two triangles running opposite ways.
    OpenEdge {
        /// Its start.
        from: u32,
        /// Its end.
        to: u32,
    },
    /// Two cones meet in one vertex.
    Fan {
        /// The vertex.
        vertex: u32,
    },
    /// Inside out, or flat.
    NoVolume,
}

said!(Unsound: |e| match *e {
    Unsound::Empty => msg!("no-triangles"),
    Unsound::Index { triangle } => msg!("no-such-corner", n = triangle),
    Unsound::Degenerate { triangle } => msg!("triangle-without-area", n = triangle),
    Unsound::DoubleVertex { first, second } => msg!("double-vertex", first = first, second = second),
    Unsound::OpenEdge { from, to } => msg!("open-edge", from = from, to = to),
    Unsound::Fan { vertex } => msg!("skin-touches-itself", n = vertex),
    Unsound::NoVolume => msg!("no-volume"),
});

/// Turns that are tried until a moved mesh is sound.
const MOST_TURNS: u32 = 16;

/// Why a mesh cannot lie somewhere.
#[derive(Debug, thiserror::Error)]
pub enum MoveError {
    /// Too far out.
    OffGrid(#[from] OffGrid),
    /// No turn near the one asked for leaves it sound.
    Unsound(#[from] Unsound),
}

said!(MoveError: |e| match e {
    MoveError::OffGrid(e) => e.message(),
    MoveError::Unsound(e) => e.message(),
});

impl SoundMesh {
    /// Checks a mesh; one that is not sound comes back with what is wrong.
    pub fn prove(mesh: Mesh) -> Result<Self, (Unsound, Mesh)> {
        match check(&mesh) {
            Ok(()) => Ok(Self { mesh: Arc::new(mesh) }),
            Err(e) => Err((e, mesh)),
        }
    }

    /// The mesh where it lies on a bed. Rounding may flatten a triangle that is turned: then it is turned by a ten-thousandth of a degree
    /// more, until it is sound.
    pub fn moved(&self, pose: &Pose) -> Result<Self, MoveError> {
        let mut last = Unsound::Empty;
        for k in 0..MOST_TURNS {
            let pose = Pose { degrees: pose.degrees + 1e-4 * f64::from(k), ..*pose };
            match Self::prove(self.mesh.moved(&pose)?) {
                Ok(mesh) => return Ok(mesh),
                Err((why, _)) => last = why,
            }
        }
        Err(last.into())
    }

    /// The mesh with the lower corner of a box, that of `of`, at the origin. Whole grid steps: nothing is rounded, so it stays sound.
    #[must_use]
    pub fn from_corner_of(&self, of: &Self) -> Self {
        let low: [i32; 3] = std::array::from_fn(|k| of.mesh.vertices.iter().map(|v| v[k]).min().unwrap_or_default());
        let vertices = self.mesh.vertices.iter().map(|v| std::array::from_fn(|k| v[k] - low[k])).collect();
        Self { mesh: Arc::new(Mesh { vertices, triangles: self.mesh.triangles.clone() }) }
    }

    /// Meshes that lie beside each other, as one.
    pub fn together(meshes: &[Self]) -> Result<Self, Unsound> {
        let mut all = Mesh::default();
        for m in meshes {
            let first = all.vertices.len() as u32;
            all.vertices.extend(&m.mesh.vertices);
            all.triangles.extend(m.mesh.triangles.iter().map(|t| t.map(|v| v + first)));
        }
        Self::prove(all).map_err(|(why, _)| why)
    }

    /// The mesh.
    pub fn mesh(&self) -> &Mesh {
        &self.mesh
    }
}

fn check(mesh: &Mesh) -> Result<(), Unsound> {
    if mesh.triangles.is_empty() {
        return Err(Unsound::Empty);
    }
    let is_no_vertex = |v: &u32| *v as usize >= mesh.vertices.len();
    if let Some(triangle) = mesh.triangles.iter().position(|t| t.iter().any(is_no_vertex)) {
        return Err(Unsound::Index { triangle });
    }
    // Places and connections have nothing to do with each other; what is wrong with places is told first.
    let (places, connections) = rayon::join(|| places(mesh), || fans(mesh, &twins(mesh)?));
    places.and(connections)?;
    if mesh.volume() > 0.0 { Ok(()) } else { Err(Unsound::NoVolume) }
}

/// Triangles have areas, and vertices places of their own.
fn places(mesh: &Mesh) -> Result<(), Unsound> {
    if let Some(triangle) = mesh.triangles.iter().position(|t| has_no_area(mesh, *t)) {
        return Err(Unsound::Degenerate { triangle });
    }
    let mut order: Vec<u32> = (0..mesh.vertices.len() as u32).collect();
    order.par_sort_unstable_by_key(|&v| mesh.vertices[v as usize]);
    let double = order.windows(2).find(|w| mesh.vertices[w[0] as usize] == mesh.vertices[w[1] as usize]);
    double.map_or(Ok(()), |w| Err(Unsound::DoubleVertex { first: w[0], second: w[1] }))
}

fn has_no_area(mesh: &Mesh, t: [u32; 3]) -> bool {
    let [a, b, c] = t.map(|i| mesh.vertices[i as usize].map(i64::from));
    let (u, v): ([i64; 3], [i64; 3]) = (std::array::from_fn(|k| b[k] - a[k]), std::array::from_fn(|k| c[k] - a[k]));
    (0..3).all(|k| u[k] * v[(k + 1) % 3] == u[(k + 1) % 3] * v[k])
}

/// For each corner's outgoing edge (3 t + k) the edge that runs against it.
pub(crate) fn twins(mesh: &Mesh) -> Result<Vec<u32>, Unsound> {
    let ends = |h: u32| {
        let t = mesh.triangles[(h / 3) as usize];
        (t[(h % 3) as usize], t[((h + 1) % 3) as usize])
    };
    let count = mesh.triangles.len() as u32 * 3;
    // Sorted by the lesser end in one pass, as many as begin there; by the other end within that.
    let mut first = vec![0u32; mesh.vertices.len() + 1];
    (0..count).for_each(|h| first[ends(h).0.min(ends(h).1) as usize + 1] += 1);
    (1..first.len()).for_each(|v| first[v] += first[v - 1]);
    let mut next = first.clone();
    let mut sorted = vec![(0u32, 0u32); count as usize];
    for h in 0..count {
        let (a, b) = ends(h);
        let at = &mut next[a.min(b) as usize];
        sorted[*at as usize] = (a.max(b), h);
        *at += 1;
    }
    let mut twin = vec![u32::MAX; count as usize];
    for range in first.windows(2) {
        let of_vertex = &mut sorted[range[0] as usize..range[1] as usize];
        of_vertex.sort_unstable();
        for group in of_vertex.chunk_by(|a, b| a.0 == b.0) {
            let (from, to) = ends(group[0].1);
            match group {
                [g, h] if ends(h.1) == (to, from) => {
                    twin[g.1 as usize] = h.1;
                    twin[h.1 as usize] = g.1;
                }
                _ => return Err(Unsound::OpenEdge { from, to }),
            }
        }
    }
    Ok(twin)
}

fn fans(mesh: &Mesh, twin: &[u32]) -> Result<(), Unsound> {
    let mut seen = vec![false; twin.len()];
    let mut has_fan = vec![false; mesh.vertices.len()];
    for first in 0..twin.len() as u32 {
        if seen[first as usize] {
            continue;
        }
        let vertex = mesh.triangles[(first / 3) as usize][(first % 3) as usize];
        if std::mem::replace(&mut has_fan[vertex as usize], true) {
            return Err(Unsound::Fan { vertex });
        }
        let mut h = first;
        while !std::mem::replace(&mut seen[h as usize], true) {
            // The edge before h in its triangle arrives at the vertex; its twin leaves it.
            let before = h / 3 * 3 + (h + 2) % 3;
            h = twin[before as usize];
        }
    }
    Ok(())
}
