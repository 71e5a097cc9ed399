use kachel_geom::Region;

/// A small region that gets an owner of its own in one slab.
#[derive(Clone, Debug)]
pub(crate) struct Mend {
    pub region: Region,
    pub slab: usize,
    pub owner: u16,
}
