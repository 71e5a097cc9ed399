//! Bodies that begin in the air.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::{Edit, Length, TierEdit};
use kachel_solid::Body;
use kachel_tiers::{Op, Tier};
use kachel_words::{mm, msg, span};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-floats", codes: &[FLOATS], run };

/// A body does not reach the bed.
pub const FLOATS: Code = Code::fault("floats");

/// A body that is higher than this above the bed (mm) floats; less is rounding.
const LEAST_MM: f64 = 1e-3;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let mut floating: Vec<&Body> = o.solid.bodies.iter().filter(|b| b.z.0 > LEAST_MM).collect();
    floating.sort_by(|a, b| a.z.0.total_cmp(&b.z.0));
    let (Some(lowest), Some(highest)) = (floating.first(), floating.last()) else { return Ok(()) };
    let (low, high) = (lowest.z.0, highest.z.0);
    let heights = if high - low < LEAST_MM { mm(low) } else { span(low, high) };
    let what = msg!("floats", n = floating.len(), heights = heights.decimals(2));
    found.push(
        Finding::new(FLOATS, what)
            .figure(Figure::mm("height-above-bed", high, Some(0.0)))
            .at_all(floating.iter().map(|b| Place::of_box(&b.bounds).between(b.z.0, b.z.1)))
            .mended(drop_own(o, &floating)),
    );
    Ok(())
}

/// Puts the maker's own tiers that begin there on the bed, each as high as it is. `None` where another tier floats.
fn drop_own(o: &Object<'_>, floating: &[&Body]) -> Option<Mend> {
    let begins_with = |b: &Body, t: &Tier| {
        let overlaps = t.footprint.bounds().is_some_and(|f| f.overlaps(&b.bounds));
        t.op == Op::Add && (t.bottom.mm() - b.z.0).abs() < LEAST_MM && overlaps
    };
    let mut own: Vec<(u32, f64)> = Vec::new();
    for body in floating {
        for tier in o.stack.tiers.iter().filter(|t| begins_with(body, t)) {
            let id = tier.handles.iter().find_map(|h| h.own)?;
            if own.iter().all(|(known, _)| *known != id) {
                own.push((id, tier.top.mm() - tier.bottom.mm()));
            }
        }
    }
    // The underside first: a tier is never without height on the way.
    let length = |id, name: &str, mm: f64| TierEdit::SetTierLength { id, name: name.into(), value: Length::Mm(mm) };
    let edits: Vec<Edit> = own
        .iter()
        .flat_map(|(id, high)| [length(*id, "from", 0.0), length(*id, "to", *high)])
        .map(Edit::from)
        .collect();
    (!edits.is_empty()).then(|| Mend { words: msg!("put-on-bed"), edits })
}
