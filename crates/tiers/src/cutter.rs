use crate::{Measures, Op, Role, Stack, Tier, TierError};
use kachel_geom::{Grid, OffGrid, Region, Stage, Watch, join_all, offset};
use kachel_outline::Outline;

/// The plan areas of a cutter; they do not depend on any height.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Footprints {
    /// The edge with its margin: the cookie.
    pub edge: Region,
    /// The wall, outwards from the edge.
    pub wall: Region,
    /// The flange, outwards from the wall.
    pub flange: Region,
    /// The stamp lines.
    pub stamp: Region,
}

/// Makes the plan areas, mirrored as the tool is printed: seen from its working side it is the mirror image of what
/// it cuts.
pub fn cutter_footprints(outline: &Outline, m: &Measures, watch: &Watch) -> Result<Footprints, TierError> {
    watch.enter(Stage::Tiers)?;
    let (margin, thickness, width) = (m.get("margin"), m.get("wall-thickness"), m.get("flange-width"));
    let edge = offset(&outline.edge, margin)?.filled();
    watch.step(1, 4)?;
    // The two offsets are most of the work and know nothing of each other.
    let (outer, foot) = std::thread::scope(|s| {
        let foot = s.spawn(|| if width > 0.0 { offset(&edge, thickness + width) } else { Ok(Region::default()) });
        let outer = offset(&edge, thickness);
        (outer, foot.join().unwrap_or(Err(OffGrid { mm: width })))
    });
    let (outer, foot) = (outer?, foot?);
    let flange = if foot.is_empty() { foot } else { foot.with_hole(&outer) };
    watch.step(3, 4)?;
    let stamp = join_all(outline.details.iter().map(|(_, detail)| detail))?;
    Ok(Footprints {
        wall: outer.with_hole(&edge).mirrored(),
        flange: flange.mirrored(),
        stamp: stamp.mirrored(),
        edge: edge.mirrored(),
    })
}

/// Gives the plan areas their heights. Stamp lines stand on whatever is below, else on the bed; they are left out
/// where they would have no height (a finding).
pub fn cutter_stack(f: &Footprints, m: &Measures) -> Result<Stack, TierError> {
    let wall_top = m.get("wall-height");
    let mut tiers = Vec::new();
    let mut add = |role, footprint: &Region, top: f64| -> Result<(), TierError> {
        if !footprint.is_empty() && top > 0.0 {
            let (bottom, top) = (Grid::default(), Grid::from_mm(top)?);
            tiers.push(Tier { role, footprint: footprint.clone().into(), bottom, top, op: Op::Add, part: 0, top_finish: Default::default(), bottom_finish: Default::default() });
        }
        Ok(())
    };
    add(Role::Flange, &f.flange, m.get("flange-height"))?;
    add(Role::Wall, &f.wall, wall_top)?;
    add(Role::Stamp, &f.stamp, wall_top - m.get("stamp-under-wall"))?;
    Ok(Stack { tiers, is_mirrored: true })
}
