use crate::{Point, Ring, Space};

/// Leaves out nodes so that no left-out node is further than `tolerance` (units of `S`) from the new line:
/// Douglas and Peucker 1973 (doi:10.3138/FM57-6770-U75U-7727) on the two halves of the ring. The bound is
/// on the distance of old nodes to the new line; time is n log n on drawn shapes, n^2 at worst.
pub fn simplify<S: Space>(ring: &Ring<S>, tolerance: f64) -> Ring<S> {
    let p = &ring.0;
    let n = p.len();
    if n <= 4 || tolerance <= 0.0 {
        return ring.clone();
    }
    // The two ends must be nodes that any result keeps: an extreme node and the one farthest from it.
    let far_from = |a: usize| (0..n).max_by(|&i, &j| p[a].distance(p[i]).total_cmp(&p[a].distance(p[j]))).unwrap_or(0);
    let first = far_from(0);
    let second = far_from(first);
    let mut keep = vec![false; n];
    keep[first] = true;
    keep[second] = true;
    keep_far(p, vec![(first, second), (second, first)], &mut keep, tolerance);
    Ring((0..n).filter(|&i| keep[i]).map(|i| p[i]).collect())
}

/// The same of a line, whose ends stay.
pub(crate) fn simplify_line<S: Space>(line: &[Point<S>], tolerance: f64) -> Vec<Point<S>> {
    let last = line.len().saturating_sub(1);
    let mut keep: Vec<bool> = (0..line.len()).map(|i| i == 0 || i == last).collect();
    if last > 1 {
        keep_far(line, vec![(0, last)], &mut keep, tolerance);
    }
    line.iter().zip(keep).filter_map(|(p, keep)| keep.then_some(*p)).collect()
}

/// Keeps nodes that are further than `tolerance` from the line between those kept before and after them.
fn keep_far<S: Space>(p: &[Point<S>], mut spans: Vec<(usize, usize)>, keep: &mut [bool], tolerance: f64) {
    let n = p.len();
    while let Some((a, b)) = spans.pop() {
        let len = (b + n - a) % n;
        let far = (1..len)
            .map(|k| (a + k) % n)
            .map(|i| (i, p[i].distance_to_segment(p[a], p[b])))
            .max_by(|x, y| x.1.total_cmp(&y.1));
        if let Some((i, d)) = far
            && d > tolerance
        {
            keep[i] = true;
            spans.extend([(a, i), (i, b)]);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Mm, Point};

    #[test]
    fn stays_within_the_tolerance_and_drops_nodes() {
        let n = 2000;
        let circle: Ring<Mm> = Ring(
            (0..n)
                .map(|i| std::f64::consts::TAU * f64::from(i) / f64::from(n))
                .map(|t| Point::new(50.0 * t.cos(), 50.0 * t.sin()))
                .collect(),
        );
        for tolerance in [0.01, 0.1, 1.0] {
            let s = simplify(&circle, tolerance);
            assert!(s.0.len() < 300, "{} nodes at {tolerance}", s.0.len());
            for p in &circle.0 {
                let d = s.edges().map(|(a, b)| p.distance_to_segment(a, b)).fold(f64::INFINITY, f64::min);
                assert!(d <= tolerance + 1e-12, "{d} > {tolerance}");
            }
        }
    }
}
