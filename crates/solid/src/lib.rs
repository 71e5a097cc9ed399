//! Solid: a stack of tiers becomes closed meshes.
//!
//! 1. [`arrange`] lays every boundary edge of every footprint into **one** planar arrangement, exactly, on the grid.
//!    It knows no heights, so a changed height never comes here again.
//! 2. [`extrude`] labels each face of the arrangement with its owner, slab by slab between the levels of the tiers,
//!    mends pinches, and skins each part: flat faces where the owner changes from one slab to the next, upright
//!    walls where it changes across an edge.
//!
//! What leaves is a [`SoundMesh`]: the type is the proof that the mesh was checked.

mod arrange;
mod faces;
mod heights;
mod kept;
mod label;
mod mesh;
mod pinch;
mod sheet;
mod skin;
mod slopes;
mod soundness;
pub mod testing;
mod walls;

use kachel_geom::{GRID_PER_MM, Grid, GridPoint, Mm, Point, Region, Stage, Stopped, Watch};
use kachel_tiers::{Slices, Stack};

pub use arrange::Arrangement;
pub use kept::Sheets;
pub use mesh::{Body, Mesh};
pub use soundness::{SoundMesh, Unsound};

/// Most levels (bottoms and tops of tiers) in a stack.
pub const MAX_LEVELS: usize = 120;
/// Most triangles of a part.
pub const MAX_TRIANGLES: usize = 4_000_000;

/// Touches nearer to each other than this are one place, mm.
const SAME_PLACE_MM: f64 = 0.1;

/// The areas of a stack's slices in one planar arrangement; region *i* is area *i*.
#[derive(Debug)]
pub struct Planar {
    regions: Vec<Region>,
    pub(crate) graph: faces::Faces,
    /// Triangulated levels; they do not depend on any height.
    pub(crate) flats: skin::FlatCache,
    pub(crate) sheets: Sheets,
    /// Triangulated slopes; no more do they.
    pub(crate) slopes: slopes::SlopeCache,
    pub(crate) borders: heights::Borders,
}

/// The finished object.
#[derive(Clone, Debug)]
pub struct Solid {
    /// One closed mesh per part (filament), in order of part number.
    pub parts: Vec<Part>,
    /// The skin of everything together, as for a file of one body.
    pub skin: SoundMesh,
    /// Where pieces only touched and were opened by a few micrometres: each place in plan once, mm.
    pub touches: Vec<Point<Mm>>,
    /// The most by which opening them, or welding them where there was no air beside, has changed the skin's volume, mm3.
    pub mended_mm3: f64,
    /// Where a tier is thinner than its finish and ends in a ridge: its highest places, mm.
    pub ridges: Vec<[f64; 3]>,
}

/// What one filament makes.
#[derive(Clone, Debug)]
pub struct Part {
    /// Its number in the stack.
    pub number: u32,
    /// Its mesh.
    pub mesh: SoundMesh,
}

/// Why there is no solid.
#[derive(Debug, thiserror::Error)]
pub enum SolidError {
    /// The stack encloses nothing.
    #[error("the tiers enclose nothing")]
    Empty,
    /// Over [`MAX_LEVELS`] or [`MAX_TRIANGLES`].
    #[error("the object has {found} {what}; the most is {limit}")]
    TooLarge {
        /// Of what.
        what: &'static str,
        /// How many there are.
        found: usize,
        /// How many there may be.
        limit: usize,
    },
    /// Snap rounding or pinch mending did not come to rest.
    #[error("the outline could not be untangled ({0})")]
    Unsettled(&'static str),
    /// The checker refused the mesh.
    #[error("the mesh is not sound: {0}")]
    Unsound(#[from] Unsound),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl SolidError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::Empty => "Give a patch a use, and the tiers a height.",
            Self::TooLarge { .. } => "Put some patches aside or simplify the outline.",
            Self::Unsettled(_) | Self::Unsound(_) => {
                "Change the size or the margin a little, and please report the picture: this should not happen."
            }
            Self::Stopped(_) => "Start it again.",
        }
    }
}

/// Lays the slices' areas into one arrangement, which will use the levels that `sheets` knows.
pub fn arrange(slices: &Slices, sheets: &Sheets, watch: &Watch) -> Result<Planar, SolidError> {
    watch.enter(Stage::Solid)?;
    let found = slices.levels.len();
    if found > MAX_LEVELS {
        return Err(SolidError::TooLarge { what: "levels", found, limit: MAX_LEVELS });
    }
    Planar::new(slices.areas.iter().map(|a| (**a).clone()).collect(), &[], sheets.clone(), watch)
}

impl Planar {
    fn new(regions: Vec<Region>, stops: &[GridPoint], sheets: Sheets, watch: &Watch) -> Result<Self, SolidError> {
        let arrangement = Arrangement::new(&regions, stops, watch)?;
        let graph = faces::Faces::new(arrangement, regions.len(), watch)?;
        let borders = heights::Borders::new(regions.len());
        let (flats, slopes) = (skin::FlatCache::new(skin::MAX_FLATS), slopes::SlopeCache::new(slopes::MAX_SLOPES));
        Ok(Self { regions, graph, flats, sheets, slopes, borders })
    }

    /// Number of edges of the arrangement.
    pub fn edges(&self) -> usize {
        self.graph.arrangement.edges.len()
    }
}

/// Gives the arrangement of the same areas the stack's heights.
pub fn extrude(planar: &Planar, stack: &Stack, slices: &Slices, watch: &Watch) -> Result<Solid, SolidError> {
    watch.enter(Stage::Solid)?;
    let by = |owners| skin_owners(planar, stack, slices, owners, watch);
    let is_one = stack.tiers.iter().all(|t| t.part == stack.tiers[0].part);
    let (by_part, as_one) =
        rayon::join(|| by(label::Owners::ByPart), || (!is_one).then(|| by(label::Owners::One)).transpose());
    let (skin::Skin { parts, ridges }, Mended { touches, most_mm3 }) = by_part?;
    let (skin, mended_mm3) = match parts.as_slice() {
        [only] => (only.mesh.clone(), most_mm3),
        _ => {
            let (mut one, mended) = as_one?.ok_or(SolidError::Empty)?;
            (one.parts.pop().ok_or(SolidError::Empty)?.mesh, mended.most_mm3)
        }
    };
    let ridges = ridges.into_iter().map(|p| p.map(|c| f64::from(c) / GRID_PER_MM)).collect();
    Ok(Solid { parts, skin, touches, mended_mm3, ridges })
}

/// The meshes of the single tiers, numbered by their place in the stack; they share their faces like parts.
pub fn extrude_tiers(planar: &Planar, stack: &Stack, slices: &Slices, watch: &Watch) -> Result<Vec<Part>, SolidError> {
    Ok(skin_owners(planar, stack, slices, label::Owners::ByTier, watch)?.0.parts)
}

/// What was mended on the way to a skin.
struct Mended {
    touches: Vec<Point<Mm>>,
    most_mm3: f64,
}

impl Mended {
    fn of(touches: Vec<Point<Mm>>, mends: &[pinch::Mend], levels: &[Grid]) -> Self {
        let high = |m: &pinch::Mend| levels[m.slab + 1].mm() - levels[m.slab].mm();
        Self { touches, most_mm3: mends.iter().map(|m| m.region.area_mm2() * high(m)).sum() }
    }
}

fn skin_owners(
    planar: &Planar,
    stack: &Stack,
    slices: &Slices,
    owners: label::Owners,
    watch: &Watch,
) -> Result<(skin::Skin, Mended), SolidError> {
    let levels = slices.levels.as_slice();
    let mut mends: Vec<pinch::Mend> = Vec::new();
    let mut mended: Option<Planar> = None;
    let mut touches: Vec<Point<Mm>> = Vec::new();
    let mut bends: Vec<GridPoint> = Vec::new();
    let mut bent = 0;
    let mut round = 0;
    let anew = |mends: &[pinch::Mend], bends: &[GridPoint]| {
        let regions = planar.regions.iter().chain(mends.iter().map(|m| &m.region)).cloned().collect();
        Planar::new(regions, bends, planar.sheets.clone(), watch)
    };
    while round < pinch::MAX_ROUNDS {
        let at = mended.as_ref().unwrap_or(planar);
        let labels = label::label(&at.graph, stack, slices, owners, &mends);
        let heights = heights::find(at, &labels, levels)?;
        let more = if bent < heights::MAX_BENDS { heights::bends(at, &labels, &heights) } else { vec![] };
        if !more.is_empty() {
            bent += 1;
            bends.extend(more);
            mended = Some(anew(&mends, &bends)?);
            continue;
        }
        let pinches = pinch::find(&pinch::Labelled { faces: &at.graph, labels: &labels, heights: &heights, levels });
        watch.check()?;
        if pinches.is_empty() {
            let must = round >= pinch::LAST_LEVEL_ROUND;
            match skin::skin(at, &labels, &heights, levels, must, watch) {
                Ok(skin) => return Ok((skin, Mended::of(touches, &mends, levels))),
                Err(skin::Torn::Level(lines)) => {
                    mends.extend(lines.into_iter().map(|(slab, l)| pinch::open_in(slab, l, round)));
                }
                // A sliver of a slope without thickness: the place is opened like a pinch.
                Err(skin::Torn::Here(e, lines)) => {
                    mends.extend(lines.into_iter().filter_map(|l| pinch::open(l, levels, round)));
                    if mends.is_empty() {
                        return Err(e.into());
                    }
                }
                Err(skin::Torn::Solid(e)) => return Err(e),
            }
        }
        for p in &pinches {
            let mend = pinch::mend(&at.graph, p, round);
            let place = mend.region.bounds().filter(|_| round == 0 && mend.owner == label::VOID).map(|b| b.centre());
            touches.extend(place.filter(|p| touches.iter().all(|t| t.distance(*p) > SAME_PLACE_MM)));
            mends.push(mend);
        }
        round += 1;
        mended = Some(anew(&mends, &bends)?);
    }
    Err(SolidError::Unsettled("pinches kept coming back"))
}

#[cfg(test)]
mod tests;
