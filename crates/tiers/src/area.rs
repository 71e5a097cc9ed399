use kachel_geom::{Name, Region};
use std::hash::{Hash, Hasher};
use std::ops::Deref;
use std::sync::Arc;

/// A region that is shared and knows its own hash, so that what is made of it can be remembered.
#[derive(Clone, Debug)]
pub struct Area(Arc<(Name, Region)>);

impl Area {
    /// Names a region.
    pub fn new(region: Region) -> Self {
        Self(Arc::new((Name::of(&region), region)))
    }

    /// Equal regions have equal names.
    pub fn name(&self) -> Name {
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
