//! Tiers lower than a printed layer.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Object, Place, Report};
use kachel_tiers::Op;

pub(super) const RULE: Rule = Rule { looks_at: "tiers lower than a printed layer", codes: &[UNDER_A_LAYER], run };

/// A tier is lower than a printed layer.
pub const UNDER_A_LAYER: Code = Code::poor("under-a-layer");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let layer = o.printer.layer;
    for t in o.stack.tiers.iter().filter(|t| t.op == Op::Add) {
        let (bottom, top) = (t.bottom.mm(), t.top.mm());
        if top - bottom >= layer - 1e-6 {
            continue;
        }
        let what = format!("{} is {:.3} mm high; a printed layer is {layer} mm", t.name, top - bottom);
        let why = "The slicer leaves it out or makes it a whole layer.";
        found.push(
            Finding::new(UNDER_A_LAYER, what, why)
                .figure(Figure::mm("height of the tier", top - bottom, Some(layer)))
                .at(Place::of_region(&t.footprint).between(bottom, top)),
        );
    }
    Ok(())
}
