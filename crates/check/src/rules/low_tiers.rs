//! Tiers lower than a printed layer.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Object, Place, Report};
use kachel_tiers::Op;
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-low-tiers", codes: &[UNDER_A_LAYER], run };

/// A tier is lower than a printed layer.
pub const UNDER_A_LAYER: Code = Code::poor("under-a-layer");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let layer = o.printer.layer;
    for t in o.stack.tiers.iter().filter(|t| t.op == Op::Add) {
        let (bottom, top) = (t.bottom.mm(), t.top.mm());
        if top - bottom >= layer - 1e-6 {
            continue;
        }
        let high = mm(top - bottom).decimals(3);
        let what = msg!("under-a-layer", tier = t.name.clone(), high = high, layer = mm(layer));
        found.push(
            Finding::new(UNDER_A_LAYER, what)
                .figure(Figure::mm("height-of-tier", top - bottom, Some(layer)))
                .at(Place::of_region(&t.footprint).between(bottom, top)),
        );
    }
    Ok(())
}
