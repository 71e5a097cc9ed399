use crate::area::Area;
use crate::error::TierError;
use crate::laid::Laid;
use crate::tie::{self, Tie};
use kachel_geom::{
    BoolOp, Corner, Memo, Mm, Name, OffGrid, Point, Px, Region, Ring, Segment, combine, join_all, normalise,
    offset_with,
};
use kachel_outline::Outline;
use std::convert::Infallible;
use std::sync::Arc;

/// What was made of which areas.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
enum Made {
    Grown(Name, u64, Corner),
    Joined(Name),
    Combined(Name, Name, BoolOp),
    Mirrored(Name),
    /// By the bits of point, angle and way.
    Laid(Name, [u64; 5]),
    Thickened(Name, u64),
    /// A patch: its curves, and how pixels become millimetres.
    Patch(Name),
}

/// The bars between loose pieces and what holds them: their width's bits, and the least number for each piece.
type Tied = (Name, Name, u64, usize);

/// Areas that are remembered; the largest hold some ten thousand nodes.
const MAX_REMEMBERED: usize = 384;

/// Plane areas that were made before, and bars that were laid: most of the time from nothing goes into them, and a dragged
/// measure changes few.
#[derive(Debug)]
pub struct Plans {
    areas: Memo<Made, Area>,
    bars: Memo<Tied, Arc<Vec<Tie>>>,
}

impl Default for Plans {
    fn default() -> Self {
        Self { areas: Memo::new(MAX_REMEMBERED), bars: Memo::new(MAX_REMEMBERED) }
    }
}

impl Plans {
    fn get_or<E>(&self, made: Made, make: impl FnOnce() -> Result<Region, E>) -> Result<Area, E> {
        self.areas.get_or(made, |_| Ok(Area::new(make()?)))
    }

    /// The shortest bars that tie loose pieces to what holds them.
    pub(crate) fn shortest_bars(&self, loose: &Area, holds: &Area, width: f64, least: usize) -> Vec<Tie> {
        let lay = |_: &Tied| Ok::<_, Infallible>(Arc::new(tie::shortest(loose, holds, width, least)));
        let bars = self.bars.get_or((loose.name(), holds.name(), width.to_bits(), least), lay);
        bars.map_or_else(|never| match never {}, |bars| (*bars).clone())
    }

    /// The area grown by `d` mm, or shrunk where it is negative, with round corners.
    pub fn grown(&self, area: &Area, d: f64) -> Result<Area, OffGrid> {
        self.grown_with(area, d, Corner::Round)
    }

    /// The same with other corners.
    pub fn grown_with(&self, area: &Area, d: f64, corner: Corner) -> Result<Area, OffGrid> {
        if d == 0.0 || area.is_empty() {
            return Ok(area.clone());
        }
        self.get_or(Made::Grown(area.name(), d.to_bits(), corner), || offset_with(area, d, corner))
    }

    /// The area with whatever is thinner than `width` made that wide.
    pub fn thickened(&self, area: &Area, width: f64) -> Result<Area, OffGrid> {
        self.get_or(Made::Thickened(area.name(), width.to_bits()), || kachel_geom::thickened(area, width))
    }

    /// The area turned about a point and moved.
    pub(crate) fn laid(&self, area: &Area, laid: Laid) -> Result<Area, OffGrid> {
        let Laid { about, degrees, by } = laid;
        let bits = [about.x, about.y, degrees, by.0, by.1].map(f64::to_bits);
        self.get_or(Made::Laid(area.name(), bits), || {
            let (sin, cos) = degrees.to_radians().sin_cos();
            let place = |p: &Point<Mm>| {
                let (x, y) = (p.x - about.x, p.y - about.y);
                Point::new(about.x + cos * x - sin * y + by.0, about.y + sin * x + cos * y + by.1)
            };
            let rings: Vec<Ring<Mm>> =
                area.rings_mm().into_iter().map(|r| Ring(r.0.iter().map(place).collect())).collect();
            Region::from_mm(&normalise(&rings, true))
        })
    }

    /// The mirror image.
    pub fn mirrored(&self, area: &Area) -> Area {
        self.get_or(Made::Mirrored(area.name()), || Ok::<_, Infallible>(area.mirrored())).unwrap_or_default()
    }

    /// A patch's own area.
    pub fn patch(&self, outline: &Outline, k: usize) -> Result<Area, TierError> {
        let Some(p) = outline.patches.get(k) else { return Ok(Area::default()) };
        // Every place by its bits: an area that is equal but for one node is another area.
        let mut bits: Vec<u64> = [outline.mm_per_px, outline.origin.x, outline.origin.y].map(f64::to_bits).to_vec();
        for curve in &p.curves {
            let mut place = |q: Point<Px>| bits.extend([q.x.to_bits(), q.y.to_bits()]);
            place(curve.start);
            for segment in &curve.segments {
                match *segment {
                    Segment::Line(end) => place(end),
                    Segment::Cubic(a, b, end) => [a, b, end].into_iter().for_each(&mut place),
                }
            }
            // Curves of equal places, but divided otherwise, differ in their kinds of segments.
            bits.extend(curve.segments.iter().map(|s| u64::from(matches!(s, Segment::Cubic(..)))));
            bits.push(curve.segments.len() as u64);
        }
        let name = Name::of(&bits);
        Ok(self.get_or(Made::Patch(name), || outline.region(k))?)
    }

    /// All of them as one.
    pub fn joined(&self, areas: &[Area]) -> Result<Area, OffGrid> {
        if let [only] = areas {
            return Ok(only.clone());
        }
        self.get_or(Made::Joined(Name::of(areas)), || join_all(areas.iter().map(|a| &**a)))
    }

    /// Two of them, joined, taken away or only what both have.
    pub fn combined(&self, a: &Area, b: &Area, op: BoolOp) -> Result<Area, OffGrid> {
        self.get_or(Made::Combined(a.name(), b.name(), op), || combine(a, b, op))
    }

    /// What is left of `a` without `b`.
    pub fn less(&self, a: &Area, b: &Area) -> Result<Area, OffGrid> {
        if b.is_empty() { Ok(a.clone()) } else { self.combined(a, b, BoolOp::TakeAway) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn square(half: f64) -> Area {
        let corners = [(-half, -half), (half, -half), (half, half), (-half, half)];
        let ring = Ring::<Mm>(corners.map(|(x, y)| Point::new(x + 1.0, y)).to_vec());
        Region::from_mm([&ring]).unwrap().into()
    }

    #[test]
    fn equal_regions_have_one_name_and_are_made_once() {
        let plans = Plans::default();
        assert_eq!(square(3.0), square(3.0));
        assert_ne!(square(3.0), square(4.0));
        let (a, b) = (plans.grown(&square(3.0), 1.0).unwrap(), plans.grown(&square(3.0), 1.0).unwrap());
        assert!(std::ptr::eq(&*a, &*b), "remembered, not made anew");
        assert_ne!(plans.grown_with(&square(3.0), 1.0, Corner::Mitred).unwrap(), a);
        assert_eq!(plans.grown(&square(3.0), 0.0).unwrap(), square(3.0));
    }

    #[test]
    fn areas_are_combined_as_their_names_say() {
        let plans = Plans::default();
        let (small, large) = (square(2.0), square(5.0));
        assert_eq!(plans.less(&large, &small).unwrap().area_mm2(), 84.0);
        assert_eq!(plans.less(&large, &Area::default()).unwrap(), large);
        assert_eq!(plans.combined(&large, &small, BoolOp::Common).unwrap().area_mm2(), 16.0);
        assert_eq!(plans.joined(&[small.clone(), large.clone()]).unwrap().area_mm2(), 100.0);
        assert!(plans.joined(&[]).unwrap().is_empty());
        let mirrored = plans.mirrored(&small);
        assert_eq!(mirrored.bounds().unwrap().centre().x, -1.0);
        assert_eq!(plans.mirrored(&mirrored), small);
    }
}
