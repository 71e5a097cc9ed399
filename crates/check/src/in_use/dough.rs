//! The cookie that a cutter cuts.

use super::seen::{InUse, Material, Used, put, thing};
use crate::rules::dough::{NECK_MM, STEP_MM, necks};
use crate::spread::Spread;
use crate::{Fault, Place};
use kachel_geom::regions;
use kachel_tiers::{Op, Role};

/// Dough is rolled out so thick, mm (common practice, no source).
const DOUGH_MM: f64 = 6.0;

const LEAVES_OUT: &str =
    "Dough is taken to be flat and stiff: it does not stick, stretch, or rise in the oven. Edges of lines are upright.";

pub(super) fn cookie(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    let edge = o.stack.edge.mirrored();
    let Some(b) = edge.bounds() else { return Ok(None) };
    let highest = |role| o.stack.tiers.iter().filter(|t| t.role == role).map(|t| t.top.mm()).fold(0.0, f64::max);
    let (wall, flange) = (highest(Role::Wall), highest(Role::Flange));
    let mut tiers = vec![thing(Material::Dough, edge.clone(), 0.0, DOUGH_MM)?];
    let mut deepest: f64 = 0.0;
    // What stands inside of the wall sinks in as far as it is nearer to the table than the dough is thick.
    for t in
        o.stack.tiers.iter().filter(|t| t.op == Op::Add && !matches!(t.role, Role::Wall | Role::Flange | Role::Grip))
    {
        let depth = (DOUGH_MM - (wall - t.top.mm())).min(DOUGH_MM);
        if depth > 0.0 && !t.footprint.is_empty() {
            deepest = deepest.max(depth);
            tiers.push(put(Material::Dough, t.footprint.mirrored(), DOUGH_MM - depth, DOUGH_MM, Op::Cut)?);
        }
    }
    let necks = necks(&edge);
    let places: Vec<Place> = necks.iter().map(|s| s.place(STEP_MM, (0.0, DOUGH_MM))).collect();
    let size = format!("{:.1} mm by {:.1} mm", b.width(), b.height());
    let mut says = match regions(&edge)?.len() {
        1 => format!("One cookie, {size}."),
        n => format!("{n} separate cookies, in all {size}."),
    };
    if deepest >= DOUGH_MM {
        says.push_str(" Lines go through the dough.");
    } else if deepest > 0.0 {
        says.push_str(&format!(" Lines sink {deepest:.1} mm into dough of {DOUGH_MM} mm."));
    } else if o.stack.tiers.iter().any(|t| t.role == Role::Stamp) {
        says.push_str(&format!(" Lines do not reach dough of {DOUGH_MM} mm."));
    }
    if let Some(least) = necks.iter().map(Spread::width).reduce(f64::min) {
        says.push_str(&format!(" Its narrowest part is {least:.1} mm wide: dough tears under {NECK_MM} mm."));
    }
    let free = wall - flange;
    if flange > 0.0 && free < DOUGH_MM {
        says.push_str(&format!(
            " The wall stands {free:.1} mm free, so the flange presses on the dough before it is cut."
        ));
    }
    Ok(Some(InUse { is_beside: true, places, ..InUse::of("The cookie it cuts", says, LEAVES_OUT, tiers) }))
}
