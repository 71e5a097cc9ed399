//! Whether triangles of a mesh cross, by exact integers.

/// A corner in grid steps.
pub type Corner = [i32; 3];

/// The sign of the volume that four corners span; exact.
fn side(a: Corner, b: Corner, c: Corner, p: Corner) -> i128 {
    let from_p = |q: Corner| [0, 1, 2].map(|k| i128::from(q[k]) - i128::from(p[k]));
    let [a, b, c] = [a, b, c].map(from_p);
    let minor = |i: usize, j: usize| b[i] * c[j] - b[j] * c[i];
    let volume = a[0] * minor(1, 2) - a[1] * minor(0, 2) + a[2] * minor(0, 1);
    volume.signum()
}

/// The sign of the area that three corners span, seen along an axis.
fn turn(along: usize, a: Corner, b: Corner, c: Corner) -> i128 {
    let [x, y] = [(along + 1) % 3, (along + 2) % 3];
    let d = |q: Corner, k: usize| i128::from(q[k]) - i128::from(a[k]);
    (d(b, x) * d(c, y) - d(b, y) * d(c, x)).signum()
}

/// An axis along which a triangle is not seen edge on.
fn broad_side([a, b, c]: [Corner; 3]) -> usize {
    // No mesh has triangles without an area.
    (0..3).find(|k| turn(*k, a, b, c) != 0).unwrap_or_default()
}

/// Whether a corner in a triangle's plane lies in it, its border included.
fn holds(t: [Corner; 3], p: Corner) -> bool {
    let along = broad_side(t);
    let turns = [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])].map(|(a, b)| turn(along, a, b, p));
    turns.iter().all(|s| *s >= 0) || turns.iter().all(|s| *s <= 0)
}

/// Whether an edge meets a triangle that has neither of its ends.
fn meets([p, q]: [Corner; 2], t @ [a, b, c]: [Corner; 3]) -> bool {
    match (side(a, b, c, p), side(a, b, c, q)) {
        (0, 0) => {
            let along = broad_side(t);
            let crosses = |(a, b): (Corner, Corner)| {
                turn(along, a, b, p) * turn(along, a, b, q) <= 0 && turn(along, p, q, a) * turn(along, p, q, b) <= 0
            };
            // Edges on one line may be apart.
            let on_line = |a: Corner, b: Corner| turn(along, a, b, p) == 0 && turn(along, a, b, q) == 0;
            let over = [(a, b), (b, c), (c, a)].into_iter().any(|(a, b)| !on_line(a, b) && crosses((a, b)));
            over || holds(t, p) || holds(t, q)
        }
        (0, _) => holds(t, p),
        (_, 0) => holds(t, q),
        (p_side, q_side) if p_side == q_side => false,
        _ => {
            let turns = [(a, b), (b, c), (c, a)].map(|(a, b)| side(p, q, a, b));
            turns.iter().all(|s| *s >= 0) || turns.iter().all(|s| *s <= 0)
        }
    }
}

/// Whether two triangles have more in common than the corners they share.
fn cross(vertices: &[Corner], t: [u32; 3], s: [u32; 3]) -> bool {
    let at = |v: u32| vertices[v as usize];
    let one_way = |t: [u32; 3], s: [u32; 3]| {
        let edges = [[t[0], t[1]], [t[1], t[2]], [t[2], t[0]]];
        edges.iter().filter(|e| e.iter().all(|v| !s.contains(v))).any(|e| meets(e.map(at), s.map(at)))
    };
    let shared: Vec<u32> = t.into_iter().filter(|v| s.contains(v)).collect();
    if let [u, v] = shared[..] {
        // Folded onto each other?
        let third = |t: [u32; 3]| t.into_iter().find(|w| *w != u && *w != v).map(at);
        let (Some(c), Some(d)) = (third(t), third(s)) else { return true };
        let along = broad_side(t.map(at));
        return side(at(u), at(v), c, d) == 0 && turn(along, at(u), at(v), c) == turn(along, at(u), at(v), d);
    }
    one_way(t, s) || one_way(s, t)
}

/// Two triangles that cross, if any do.
pub fn crossing(vertices: &[Corner], triangles: &[[u32; 3]]) -> Option<[[Corner; 3]; 2]> {
    let corners = |t: &[u32; 3]| t.map(|v| vertices[v as usize]);
    let bounds = |t: &[u32; 3]| {
        let c = corners(t);
        [0, 1, 2].map(|k| (c[0][k].min(c[1][k]).min(c[2][k]), c[0][k].max(c[1][k]).max(c[2][k])))
    };
    let mut all: Vec<_> = triangles.iter().map(|t| (bounds(t), *t)).collect();
    all.sort_unstable_by_key(|(b, _)| b[0]);
    for (i, (b, t)) in all.iter().enumerate() {
        let beside = all[i + 1..].iter().take_while(|(other, _)| other[0].0 <= b[0].1);
        let near = beside.filter(|(other, _)| (1..3).all(|k| other[k].0 <= b[k].1 && b[k].0 <= other[k].1));
        for (_, s) in near {
            if cross(vertices, *t, *s) {
                return Some([corners(t), corners(s)]);
            }
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn crossings_are_found() {
        let flat = [[0, 0, 0], [90, 0, 0], [0, 90, 0]];
        let found = |other: [Corner; 3]| {
            let mut vertices = flat.to_vec();
            let ids = other.map(|c| match flat.iter().position(|f| *f == c) {
                Some(k) => k as u32,
                None => {
                    vertices.push(c);
                    vertices.len() as u32 - 1
                }
            });
            crossing(&vertices, &[[0, 1, 2], ids]).is_some()
        };
        assert!(found([[20, 20, -5], [30, 20, 9], [20, 30, 9]]), "through the middle");
        assert!(found([[20, 20, 0], [30, 20, 9], [20, 30, 9]]), "with a corner in it");
        assert!(found([[0, 0, 0], [30, 30, 9], [30, 30, -9]]), "through the middle, from a corner they share");
        assert!(found([[0, 0, 0], [90, 0, 0], [10, 10, 0]]), "folded onto it");
        assert!(found([[10, 10, 0], [20, 10, 0], [10, 20, 0]]), "lying in it");
        assert!(found([[-10, 30, 0], [200, 30, 0], [-10, 31, 0]]), "lying across it");
        assert!(!found([[0, 0, 0], [90, 0, 0], [0, -90, 0]]), "beside it");
        assert!(!found([[0, 0, 0], [90, 0, 0], [10, 10, 1]]), "at an angle to it");
        assert!(!found([[20, 20, 1], [30, 20, 1], [20, 30, 1]]), "over it");
        assert!(!found([[100, 0, 0], [120, 0, 0], [100, 20, 0]]), "off it");
    }
}
