//! What sticks out over the air.

use crate::rule::{Fault, Rule, counted};
use crate::{Code, Figure, Finding, Mend, Object, Place};
use kachel_design::{Length, TierEdit};
use kachel_geom::{BoolOp, Edges, Mm, Region, Ring, combine, offset};
use kachel_tiers::{Op, Tier, Way};
use std::collections::BTreeSet;

pub(super) const RULE: Rule = Rule { looks_at: "what sticks out over the air", codes: &[OVERHANG], run };

/// Something sticks out over the air further than lines hold.
pub const OVERHANG: Code = Code::poor("overhang");

/// Lines stick out so far without support, mm: two to three of them (common practice, no source).
const MOST_MM: f64 = 1.2;
/// Rounding, mm.
const NEAR_MM: f64 = 0.05;

fn run(o: &Object<'_>, found: &mut Vec<Finding>) -> Result<(), Fault> {
    let mut levels: Vec<f64> =
        o.stack.tiers.iter().filter(|t| t.op == Op::Add && t.bottom.mm() > NEAR_MM).map(|t| t.bottom.mm()).collect();
    levels.sort_by(f64::total_cmp);
    levels.dedup_by(|a, b| (*a - *b).abs() < 1e-6);
    let (mut worst, mut count, mut places, mut own) = (0.0f64, 0, Vec::new(), Vec::new());
    for z in levels {
        // A softened edge below takes too little away to matter.
        let under = covered(o, |t| t.bottom.mm() < z - 1e-6 && t.top.mm() > z - 1e-6, |_| 0.0)?;
        let over = covered(o, |t| t.bottom.mm() < z + 1e-6 && t.top.mm() > z + 1e-6, |t| -bottom_inset(t, z))?;
        // What nothing at all is under floats: another rule says so.
        if under.is_empty() {
            continue;
        }
        let edges = under.rings_mm();
        let edges = Edges::of(&edges);
        let free = combine(&over, &offset(&under, NEAR_MM)?, BoolOp::TakeAway)?;
        let reach = |r: &Ring<Mm>| r.0.iter().map(|p| edges.distance(*p)).fold(0.0, f64::max);
        let rings = free.rings_mm();
        let far: Vec<f64> = rings.iter().filter(|r| r.area() > 0.0).map(reach).filter(|d| *d > MOST_MM).collect();
        if far.is_empty() {
            continue;
        }
        count += far.len();
        worst = far.into_iter().fold(worst, f64::max);
        places.push(Place::of_region(&free).between(z, z));
        let begins = o.stack.tiers.iter().filter(|t| t.op == Op::Add && (t.bottom.mm() - z).abs() < 1e-6);
        own.extend(begins.map(|t| t.handles.iter().find_map(|h| h.own)));
    }
    if places.is_empty() {
        return Ok(());
    }
    let what = format!("{worst:.1} mm stick out over the air, at {}", counted(count, "place", "places"));
    let why = "Lines hold about 1.2 mm beyond what is under them, then they hang. Let it reach down to the bed, slope its \
               underside, or give the object supports in the slicer.";
    // Only the maker's own tiers can be let down without asking what they are for.
    let ids: Option<BTreeSet<u32>> = own.into_iter().collect();
    let mend = ids.filter(|ids| !ids.is_empty()).map(|ids| {
        let down = |id| TierEdit::SetTierLength { id, name: "from".into(), value: Length::Mm(0.0) }.into();
        Mend { words: "Let it reach down to the bed".into(), edits: ids.into_iter().map(down).collect() }
    });
    found.push(
        Finding::new(OVERHANG, what, why)
            .figure(Figure::mm("sticks out by", worst, Some(MOST_MM)))
            .at_all(places)
            .mended_by(mend),
    );
    Ok(())
}

/// The area that the stack covers where `is_there` says so: tiers in their order, each grown by `by`.
fn covered(o: &Object<'_>, is_there: impl Fn(&Tier) -> bool, by: impl Fn(&Tier) -> f64) -> Result<Region, Fault> {
    let mut all = Region::default();
    for t in o.stack.tiers.iter().filter(|t| is_there(t)) {
        let (op, grow) = match t.op {
            Op::Add => (BoolOp::Join, by(t)),
            Op::Cut => (BoolOp::TakeAway, 0.0),
        };
        let area = if grow == 0.0 { (*t.footprint).clone() } else { offset(&t.footprint, grow)? };
        all = combine(&all, &area, op)?;
    }
    Ok(all)
}

/// How much narrower a tier begins at a height than its footprint.
fn bottom_inset(t: &Tier, z: f64) -> f64 {
    let f = &t.bottom_finish;
    let begins = (t.bottom.mm() - z).abs() < 1e-6;
    if f.is_plain() || f.way == Way::Outward || !begins { 0.0 } else { f.inset }
}
