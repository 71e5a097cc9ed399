use kachel_geom::{Bounds, GRID_PER_MM, GridPoint, Mm, OffGrid, Point, Pose, Region, join_all, orient};

/// Triangles over points of the grid; anticlockwise as seen from outside.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Mesh {
    /// Coordinates in grid steps, z up from the bed.
    pub vertices: Vec<[i32; 3]>,
    /// Corner indices.
    pub triangles: Vec<[u32; 3]>,
}

/// One connected piece of a mesh.
#[derive(Clone, Debug, PartialEq)]
pub struct Body {
    /// Volume, mm3.
    pub volume: f64,
    /// Box in plan, mm.
    pub bounds: Bounds<Mm>,
    /// Lowest and highest point, mm.
    pub z: (f64, f64),
}

/// Six times the signed volume between the triangle and the origin, in cubic steps.
fn det(mesh: &Mesh, t: [u32; 3]) -> i128 {
    // Coordinates have 25 bits and what is in brackets 51; only the last products need more than 64.
    let [a, b, c] = t.map(|i| mesh.vertices[i as usize].map(i64::from));
    let cross = [b[1] * c[2] - b[2] * c[1], b[2] * c[0] - b[0] * c[2], b[0] * c[1] - b[1] * c[0]];
    (0..3).map(|k| i128::from(a[k]) * i128::from(cross[k])).sum()
}

#[expect(clippy::cast_precision_loss, reason = "rounds once, to 2^-53")]
fn cubic_mm(six_volumes: i128) -> f64 {
    six_volumes as f64 / 6.0 / (GRID_PER_MM * GRID_PER_MM * GRID_PER_MM)
}

impl Mesh {
    /// Signed volume in mm3, summed exactly and rounded once (divergence theorem).
    pub fn volume(&self) -> f64 {
        cubic_mm(self.triangles.iter().map(|&t| det(self, t)).sum())
    }

    /// Smallest and largest coordinates in mm; zeros for an empty mesh.
    pub fn extent(&self) -> ([f64; 3], [f64; 3]) {
        let mm = |v: i32| f64::from(v) / GRID_PER_MM;
        let fold = |pick: fn(i32, i32) -> i32| {
            let first = self.vertices.first().copied().unwrap_or_default();
            self.vertices.iter().fold(first, |a, v| std::array::from_fn(|k| pick(a[k], v[k]))).map(mm)
        };
        (fold(i32::min), fold(i32::max))
    }

    /// Width, depth and height, mm; zeros for an empty mesh.
    pub fn size(&self) -> [f64; 3] {
        let (min, max) = self.extent();
        std::array::from_fn(|k| max[k] - min[k])
    }

    /// What it covers as seen from above.
    pub fn shadow(&self) -> Result<Region, OffGrid> {
        let at = |v: u32| {
            let [x, y, _] = self.vertices[v as usize];
            GridPoint::new(x, y)
        };
        // Faces that look up cover all of it, those that look down the same once more.
        let up = self.triangles.iter().filter_map(|t| {
            let corners = [at(t[0])?, at(t[1])?, at(t[2])?];
            (orient(corners[0], corners[1], corners[2]) > 0).then(|| corners.to_vec())
        });
        join_all([&Region::new(up)])
    }

    /// The mesh where it lies on a bed, rounded to the grid.
    pub fn moved(&self, pose: &Pose) -> Result<Self, OffGrid> {
        let vertices = self.vertices.iter().map(|[x, y, z]| {
            let mm = |steps: i32| f64::from(steps) / GRID_PER_MM;
            let p = GridPoint::from_mm(pose.point(Point::new(mm(*x), mm(*y))))?;
            Ok([p.x(), p.y(), *z])
        });
        Ok(Self { vertices: vertices.collect::<Result<_, _>>()?, triangles: self.triangles.clone() })
    }

    /// The connected pieces, the largest first. Pieces that enclose each other's air count as bodies of their own
    /// by their skins; inner skins have negative volumes and are left out.
    pub fn bodies(&self) -> Vec<Body> {
        let mut root: Vec<u32> = (0..self.vertices.len() as u32).collect();
        for t in &self.triangles {
            let a = find(&mut root, t[0]);
            for &v in &t[1..] {
                let b = find(&mut root, v);
                root[b as usize] = a;
            }
        }
        let mut index = vec![usize::MAX; self.vertices.len()];
        let mut bodies: Vec<(i128, Bounds<Mm>, (i32, i32))> = Vec::new();
        for &t in &self.triangles {
            let r = find(&mut root, t[0]) as usize;
            if index[r] == usize::MAX {
                index[r] = bodies.len();
                bodies.push((0, Bounds::EMPTY, (i32::MAX, i32::MIN)));
            }
            let body = &mut bodies[index[r]];
            body.0 += det(self, t);
            for v in t.map(|i| self.vertices[i as usize]) {
                body.1.add(Point::new(f64::from(v[0]) / GRID_PER_MM, f64::from(v[1]) / GRID_PER_MM));
                body.2 = (body.2.0.min(v[2]), body.2.1.max(v[2]));
            }
        }
        let mut bodies: Vec<Body> = bodies
            .into_iter()
            .filter(|b| b.0 > 0)
            .map(|(v, bounds, z)| Body {
                volume: cubic_mm(v),
                bounds,
                z: (f64::from(z.0) / GRID_PER_MM, f64::from(z.1) / GRID_PER_MM),
            })
            .collect();
        bodies.sort_by(|a, b| b.volume.total_cmp(&a.volume));
        bodies
    }
}

/// The name of the piece that something belongs to (union-find with path halving).
pub(crate) fn find(root: &mut [u32], mut v: u32) -> u32 {
    while root[v as usize] != v {
        root[v as usize] = root[root[v as usize] as usize];
        v = root[v as usize];
    }
    v
}
