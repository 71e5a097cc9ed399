use crate::TierError;
use crate::tie::{self, Bar};
use kachel_geom::{BoolOp, Corner, OffGrid, Region, combine, join_all, offset_with};
use kachel_outline::{Outline, thickened};
use lru::LruCache;
use std::convert::Infallible;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::num::NonZeroUsize;
use std::ops::Deref;
use std::sync::{Arc, Mutex, PoisonError};

/// A region that is shared and knows its own hash, so that what is made of it can be remembered.
#[derive(Clone, Debug)]
pub struct Area(Arc<(u64, Region)>);

impl Area {
    /// Names a region.
    pub fn new(region: Region) -> Self {
        let mut hasher = DefaultHasher::new();
        region.hash(&mut hasher);
        Self(Arc::new((hasher.finish(), region)))
    }

    /// Equal regions have equal names.
    pub fn name(&self) -> u64 {
        self.0.0
    }
}

impl Default for Area {
    fn default() -> Self {
        Self::new(Region::default())
    }
}

impl From<Region> for Area {
    fn from(region: Region) -> Self {
        Self::new(region)
    }
}

impl Deref for Area {
    type Target = Region;
    fn deref(&self) -> &Region {
        &self.0.1
    }
}

impl PartialEq for Area {
    fn eq(&self, other: &Self) -> bool {
        self.name() == other.name()
    }
}

impl Eq for Area {}

impl Hash for Area {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.name().hash(state);
    }
}

/// What was made of which areas.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
enum Made {
    Grown(u64, u64, u8),
    Joined(u64),
    Combined(u64, u64, u8),
    Mirrored(u64),
    Thickened(u64, u64),
    /// A patch, told by where it is and how large.
    Patch([u64; 6]),
}

/// Areas that are remembered; the largest hold some ten thousand nodes.
const MAX_REMEMBERED: NonZeroUsize = NonZeroUsize::new(384).unwrap();

/// Results that are kept, the least recently used given up first.
#[derive(Debug)]
struct Kept<K: Eq + Hash, V>(Mutex<LruCache<K, V>>);

impl<K: Eq + Hash, V: Clone> Kept<K, V> {
    fn get_or<E>(&self, key: K, make: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        let known = || self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(found) = known().get(&key) {
            return Ok(found.clone());
        }
        let made = make()?;
        known().put(key, made.clone());
        Ok(made)
    }
}

impl<K: Eq + Hash, V> Default for Kept<K, V> {
    fn default() -> Self {
        Self(Mutex::new(LruCache::new(MAX_REMEMBERED)))
    }
}

/// Plane areas that were made before, and bars that were laid: most of the time from nothing goes into them, and a dragged
/// measure changes few.
#[derive(Debug, Default)]
pub struct Plans {
    areas: Kept<Made, Area>,
    bars: Kept<(u64, u64, u64, usize), Arc<Vec<Bar>>>,
}

impl Plans {
    fn get_or<E>(&self, made: Made, make: impl FnOnce() -> Result<Region, E>) -> Result<Area, E> {
        self.areas.get_or(made, || Ok(Area::new(make()?)))
    }

    /// The shortest bars that tie loose pieces to what holds them.
    pub(crate) fn shortest_bars(&self, loose: &Area, holds: &Area, width: f64, least: usize) -> Vec<Bar> {
        let lay = || Ok::<_, Infallible>(Arc::new(tie::shortest(loose, holds, width, least)));
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
        self.get_or(Made::Grown(area.name(), d.to_bits(), corner as u8), || offset_with(area, d, corner))
    }

    /// The area with whatever is thinner than `width` made that wide.
    pub fn thickened(&self, area: &Area, width: f64) -> Result<Area, OffGrid> {
        self.get_or(Made::Thickened(area.name(), width.to_bits()), || thickened(area, width))
    }

    /// The mirror image.
    pub fn mirrored(&self, area: &Area) -> Area {
        self.get_or(Made::Mirrored(area.name()), || Ok::<_, Infallible>(area.mirrored())).unwrap_or_default()
    }

    /// A patch's own area.
    pub fn patch(&self, outline: &Outline, k: usize) -> Result<Area, TierError> {
        let Some(p) = outline.patches.get(k) else { return Ok(Area::default()) };
        let nodes: usize = p.curves.iter().map(kachel_geom::Curve::nodes).sum();
        let bits = [p.anchor.x, p.anchor.y, p.area_px2, outline.mm_per_px, outline.origin.x, outline.origin.y];
        let mut name = bits.map(f64::to_bits);
        name[0] ^= nodes as u64;
        Ok(self.get_or(Made::Patch(name), || outline.region(k))?)
    }

    /// All of them as one.
    pub fn joined(&self, areas: &[Area]) -> Result<Area, OffGrid> {
        if let [only] = areas {
            return Ok(only.clone());
        }
        let mut hasher = DefaultHasher::new();
        areas.hash(&mut hasher);
        self.get_or(Made::Joined(hasher.finish()), || join_all(areas.iter().map(|a| &**a)))
    }

    /// Two of them, joined, taken away or only what both have.
    pub fn combined(&self, a: &Area, b: &Area, op: BoolOp) -> Result<Area, OffGrid> {
        self.get_or(Made::Combined(a.name(), b.name(), op as u8), || combine(a, b, op))
    }

    /// What is left of `a` without `b`.
    pub fn less(&self, a: &Area, b: &Area) -> Result<Area, OffGrid> {
        if b.is_empty() { Ok(a.clone()) } else { self.combined(a, b, BoolOp::TakeAway) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_geom::{Mm, Point, Ring};

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
