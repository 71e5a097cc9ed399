use crate::error::SolidError;
use crate::mend::Mend;
use crate::planar::Planar;
use crate::solid::{Part, Solid};
use crate::{heights, label, pinch, skin};
use kachel_geom::{GRID_PER_MM, Grid, GridPoint, Mm, Point, Stage, Watch};
use kachel_tiers::{Slices, Stack};

/// Touches nearer to each other than this are one place, mm.
const SAME_PLACE_MM: f64 = 0.1;

/// Gives the arrangement of the same areas the stack's heights.
pub fn extrude(planar: &Planar, stack: &Stack, slices: &Slices, watch: &Watch) -> Result<Solid, SolidError> {
    watch.enter(Stage::Solid)?;
    let by = |owners| skin_owners(planar, stack, slices, owners, &[], watch);
    let is_one = stack.tiers.iter().all(|t| t.part == stack.tiers[0].part);
    let (by_part, as_one) =
        rayon::join(|| by(label::Owners::ByPart), || (!is_one).then(|| by(label::Owners::One)).transpose());
    let (skin::Skin { parts, ridges }, Mended { touches, most_mm3, corners }) = by_part?;
    let (skin, mended_mm3) = match parts.as_slice() {
        [only] => (only.mesh.clone(), most_mm3),
        _ => {
            let (mut one, mended) = as_one?.ok_or(SolidError::Empty)?;
            (one.parts.pop().ok_or(SolidError::Empty)?.mesh, mended.most_mm3)
        }
    };
    let ridges = ridges.into_iter().map(|p| p.map(|c| f64::from(c) / GRID_PER_MM)).collect();
    let bodies = skin.mesh().bodies();
    Ok(Solid { parts, skin, bodies, touches, mended_mm3, ridges, corners })
}

/// The meshes of the single tiers, numbered by their place in the stack; they share their faces like parts. Made after their solid, they
/// begin with the corners that it was given.
pub fn extrude_tiers(
    planar: &Planar,
    stack: &Stack,
    slices: &Slices,
    solid: Option<&Solid>,
    watch: &Watch,
) -> Result<Vec<Part>, SolidError> {
    let corners = solid.map_or(&[][..], |s| &s.corners);
    Ok(skin_owners(planar, stack, slices, label::Owners::ByTier, corners, watch)?.0.parts)
}

/// What was mended on the way to a skin, and the corners that slopes needed along edges.
struct Mended {
    touches: Vec<Point<Mm>>,
    most_mm3: f64,
    corners: Vec<GridPoint>,
}

impl Mended {
    fn of(touches: Vec<Point<Mm>>, mends: &[Mend], corners: Vec<GridPoint>, levels: &[Grid]) -> Self {
        let high = |m: &Mend| levels[m.slab + 1].mm() - levels[m.slab].mm();
        Self { touches, most_mm3: mends.iter().map(|m| m.region.area_mm2() * high(m)).sum(), corners }
    }
}

fn skin_owners(
    planar: &Planar,
    stack: &Stack,
    slices: &Slices,
    owners: label::Owners,
    corners: &[GridPoint],
    watch: &Watch,
) -> Result<(skin::Skin, Mended), SolidError> {
    let levels = slices.levels.as_slice();
    let mut mends: Vec<Mend> = Vec::new();
    let mut mended: Option<Planar> = if corners.is_empty() { None } else { Some(planar.with_corners(corners, watch)?) };
    let mut touches: Vec<Point<Mm>> = Vec::new();
    let mut bends: Vec<GridPoint> = corners.to_vec();
    let mut bent = 0;
    let mut round = 0;
    let anew = |mends: &[Mend], bends: &[GridPoint]| {
        let regions = planar.regions.iter().chain(mends.iter().map(|m| &m.region)).cloned().collect();
        let mended = Planar::new(regions, planar.sheets.clone(), watch)?;
        if bends.is_empty() { Ok(mended) } else { mended.with_corners(bends, watch) }
    };
    while round < pinch::MAX_ROUNDS {
        let at = mended.as_ref().unwrap_or(planar);
        let labels = label::label(&at.graph, stack, slices, owners, &mends);
        let heights = heights::find(at, &labels, levels)?;
        let more = if bent < heights::MAX_BENDS { heights::bends(at, &labels, &heights) } else { vec![] };
        if !more.is_empty() {
            bent += 1;
            mended = Some(at.with_corners(&more, watch)?);
            bends.extend(more);
            continue;
        }
        let pinches = pinch::find(&pinch::Labelled { faces: &at.graph, labels: &labels, heights: &heights, levels });
        watch.check()?;
        if pinches.is_empty() {
            let must = round >= pinch::LAST_LEVEL_ROUND;
            let from = if owners == label::Owners::One { skin::Begin::Top } else { skin::Begin::Bottom };
            match skin::skin(at, &labels, &heights, levels, must, from, watch) {
                Ok(skin) => return Ok((skin, Mended::of(touches, &mends, bends, levels))),
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
    Err(SolidError::Unsettled("pinches-come-back"))
}
