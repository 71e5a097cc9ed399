//! The cookie that a cutter cuts.

use super::seen::{InUse, Material, Used, put, thing};
use crate::rules::dough::{NECK_MM, STEP_MM, necks};
use crate::spread::Spread;
use crate::{Fault, Place};
use kachel_geom::regions;
use kachel_tiers::{Op, Role};
use kachel_words::{mm, msg, size};

/// Dough is rolled out so thick, mm (common practice, no source).
const DOUGH_MM: f64 = 6.0;

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
    let size = size([b.width(), b.height()]).decimals(1);
    let mut says = vec![msg!("cuts-cookies", n = regions(&edge)?.len(), size = size)];
    if deepest >= DOUGH_MM {
        says.push(msg!("lines-through-dough"));
    } else if deepest > 0.0 {
        says.push(msg!("lines-sink", by = mm(deepest).decimals(1), dough = mm(DOUGH_MM)));
    } else if o.stack.tiers.iter().any(|t| t.role == Role::Stamp) {
        says.push(msg!("lines-miss-dough", dough = mm(DOUGH_MM)));
    }
    if let Some(least) = necks.iter().map(Spread::width).reduce(f64::min) {
        says.push(msg!("cookie-neck", wide = mm(least).decimals(1), least = mm(NECK_MM)));
    }
    let free = wall - flange;
    if flange > 0.0 && free < DOUGH_MM {
        says.push(msg!("flange-presses", free = mm(free).decimals(1)));
    }
    Ok(Some(InUse { is_beside: true, places, ..InUse::of("use-cookie", says, tiers) }))
}
