use crate::faces::Faces;
use crate::heights::SlabHeights;
use crate::mesh::Mesh;
use crate::slope_data::{Corner, SlopeMesh};

/// State of one part's mesh while it grows.
pub(crate) struct Builder<'a> {
    pub(crate) mesh: Mesh,
    faces: &'a Faces,
    /// Mesh vertices over each vertex of the arrangement, by height.
    names: Vec<Vec<(i32, u32)>>,
}

impl<'a> Builder<'a> {
    /// An empty mesh over an arrangement.
    pub(crate) fn new(faces: &'a Faces) -> Self {
        Self { mesh: Mesh::default(), faces, names: vec![Vec::new(); faces.arrangement.points.len()] }
    }

    fn vertex(&mut self, (v, z): (u32, i32)) -> u32 {
        let names = &mut self.names[v as usize];
        if let Some((_, name)) = names.iter().find(|n| n.0 == z) {
            return *name;
        }
        let name = self.mesh.vertices.len() as u32;
        names.push((z, name));
        let p = self.faces.arrangement.points[v as usize];
        self.mesh.vertices.push([p.x(), p.y(), z]);
        name
    }

    pub(crate) fn triangle(&mut self, corners: [(u32, i32); 3]) {
        let t = corners.map(|c| self.vertex(c));
        self.mesh.triangles.push(t);
    }

    pub(crate) fn slope(&mut self, part: u16, slope: &SlopeMesh, heights: &SlabHeights) {
        let is_mine = slope.triangles.iter().any(|(_, (below, above))| part == *below || part == *above);
        if !is_mine {
            return;
        }
        let mut used = vec![u32::MAX; slope.added.len()];
        for (corners, (below, above)) in &slope.triangles {
            if part != *below && part != *above {
                continue;
            }
            let mut name = |c: Corner| match c {
                Corner::Wedge(half) => {
                    let z = heights.z(half).unwrap_or_default();
                    self.vertex((self.faces.origin(half), z))
                }
                Corner::Added(k) => {
                    let id = &mut used[k as usize];
                    if *id == u32::MAX {
                        let (p, t) = slope.added[k as usize];
                        *id = self.mesh.vertices.len() as u32;
                        self.mesh.vertices.push([p.x(), p.y(), heights.inner_z(t)]);
                    }
                    *id
                }
            };
            let [a, b, c] = corners.map(&mut name);
            self.mesh.triangles.push(if part == *below { [a, b, c] } else { [a, c, b] });
        }
    }
}
