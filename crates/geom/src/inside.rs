use crate::{Bounds, Mm, Point, Region, Ring};

/// Which places lie in a region, for many places: of thousands of rings only those are walked that are round the place.
#[derive(Clone, Debug)]
pub struct Inside {
    rings: Vec<(Bounds<Mm>, Ring<Mm>)>,
}

impl Inside {
    /// Of a region.
    pub fn of(region: &Region) -> Self {
        let rings = region.rings_mm().into_iter().filter_map(|r| Some((r.bounds()?, r)));
        Self { rings: rings.collect() }
    }

    /// Winding number of the region's rings about `p` (mm); undefined on a ring.
    pub fn winding(&self, p: Point<Mm>) -> i32 {
        self.rings.iter().filter(|(b, _)| b.has(p)).map(|(_, ring)| ring.winding(p)).sum()
    }

    /// Whether a place (mm) lies in it; either on its border.
    pub fn has(&self, p: Point<Mm>) -> bool {
        self.winding(p) != 0
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_oracle::for_all;

    #[test]
    fn is_what_all_rings_say() {
        for_all(200, |random| {
            let mut rings = Vec::new();
            for _ in 0..12 {
                let (x, y, r) = (random.unit() * 20.0, random.unit() * 20.0, 1.0 + random.unit() * 8.0);
                let mut nodes: Vec<Point<Mm>> = (0..7)
                    .map(|k| f64::from(k) / 7.0 * std::f64::consts::TAU)
                    .map(|a| Point::new(x + r * a.cos(), y + r * a.sin()))
                    .collect();
                if random.below(2) == 0 {
                    nodes.reverse();
                }
                rings.push(Ring(nodes));
            }
            let region = Region::from_mm(&rings).unwrap();
            let inside = Inside::of(&region);
            for _ in 0..50 {
                let p = Point::new(random.unit() * 30.0 - 5.0, random.unit() * 30.0 - 5.0);
                assert_eq!(inside.winding(p), region.winding(p));
            }
        });
    }
}
