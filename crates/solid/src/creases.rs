//! The lines that are drawn on a solid.

use crate::soundness::{SoundMesh, twins};

impl SoundMesh {
    /// The edges at which triangles meet at more than so many degrees, from vertex to vertex, each once.
    pub fn creases(&self, degrees: f64) -> Vec<[u32; 2]> {
        let mesh = self.mesh();
        let flattest = degrees.to_radians().cos();
        let normals: Vec<[f64; 3]> = mesh.triangles.iter().map(|t| self.normal(*t)).collect();
        let cosine = |t: usize, u: usize| (0..3).map(|k| normals[t][k] * normals[u][k]).sum::<f64>();
        // Each edge has two triangles: the mesh is sound.
        let twins = twins(mesh).unwrap_or_default();
        let halves = twins.iter().enumerate().filter(|(h, twin)| *h < **twin as usize);
        let bent = halves.filter(|(h, twin)| cosine(h / 3, **twin as usize / 3) < flattest);
        bent.map(|(h, _)| [0, 1].map(|k| mesh.triangles[h / 3][(h + k) % 3])).collect()
    }

    /// Of length 1, outwards.
    fn normal(&self, triangle: [u32; 3]) -> [f64; 3] {
        let [a, b, c] = triangle.map(|v| self.mesh().vertices[v as usize].map(f64::from));
        let [u, v] = [b, c].map(|p| [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
        let n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        let long = n.iter().map(|x| x * x).sum::<f64>().sqrt();
        n.map(|x| x / long)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Mesh;
    use std::f64::consts::TAU;

    /// A prism over a regular polygon, fans above and below.
    fn prism(n: u32) -> SoundMesh {
        let at = |k: u32, r: f64| {
            let a = TAU * f64::from(k) / f64::from(n);
            [(r * a.cos()).round() as i32, (r * a.sin()).round() as i32]
        };
        let corner = |k: u32, z: i32| [at(k, 1e6)[0], at(k, 1e6)[1], z];
        let mut vertices = vec![[0, 0, 0], [0, 0, 500_000]];
        vertices.extend((0..n).flat_map(|k| [corner(k, 0), corner(k, 500_000)]));
        let triangles = (0..n).flat_map(|k| {
            let [low, high, next, above] = [2 + 2 * k, 3 + 2 * k, 2 + 2 * ((k + 1) % n), 3 + 2 * ((k + 1) % n)];
            [[0, next, low], [1, high, above], [low, next, above], [low, above, high]]
        });
        let triangles = triangles.collect();
        SoundMesh::prove(Mesh { vertices, triangles }).unwrap()
    }

    #[test]
    fn edges_of_a_prism_are_creases_its_faces_have_none() {
        // Euler: a prism over an n-gon has 3 n edges; those between triangles of one face are flat.
        for n in [3, 4, 7, 14] {
            assert_eq!(prism(n).creases(24.0).len(), 3 * n as usize, "{n} corners");
        }
        // Sides of a 16-gon meet at 22.5 degrees: its rims alone are left.
        let all = prism(16).creases(24.0);
        assert_eq!(all.len(), 32);
        assert!(all.iter().all(|[a, b]| a % 2 == b % 2), "along a rim: {all:?}");
        assert_eq!(prism(16).creases(22.0).len(), 48);
        assert!(prism(5).creases(91.0).is_empty());
    }
}
