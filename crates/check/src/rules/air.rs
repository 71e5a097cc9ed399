//! What is laid over the air: pieces that begin in it, what sticks out into it, and bridges.

use super::cover::{self, THIN_COVER};
use super::over_air::{Held, MOST_OUT_MM, Piece, pieces};
use crate::rule::{self, Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::{Length, TierEdit};
use kachel_solid::Body;
use kachel_tiers::Op;
use kachel_words::{mm, msg};
use std::collections::BTreeSet;

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-air", codes: &[OVERHANG, BRIDGE, ISLAND, THIN_COVER], run };

/// Something sticks out over the air further than lines hold.
pub const OVERHANG: Code = Code::poor("overhang");
/// Lines have to span a wide gap.
pub const BRIDGE: Code = Code::poor("bridge");
/// A piece begins in the air and is joined to the rest further up.
pub const ISLAND: Code = Code::fault("island");

/// Lines drawn over a gap sag from about this span on, mm (common practice, no source).
const MOST_SPAN_MM: f64 = 10.0;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let pieces = pieces(o)?;
    let longest = |of: fn(&Held) -> Option<f64>| {
        let all = pieces.iter().filter_map(|p| of(&p.held).map(|mm| (mm, p)));
        all.max_by(|a, b| a.0.total_cmp(&b.0))
    };
    let out = longest(|h| if let Held::Beside(mm) = h { Some(*mm) } else { None });
    let span = longest(|h| if let Held::Across(mm) = h { Some(*mm) } else { None });
    let place = |p: &Piece| Place::of_region(&p.area).between(p.heights.0, p.heights.1);
    for (what, longest) in [("looked-overhang", out), ("looked-bridge", span)] {
        match longest {
            Some((far, p)) => {
                let said = msg!("looked-over-air", far = mm(far).decimals(1), height = mm(p.heights.0).decimals(2));
                found.looked(what, said, [place(p)]);
            }
            None => found.looked(what, msg!("none"), []),
        }
    }
    cover::told(o, &pieces, found)?;
    let of = |is: &dyn Fn(&Held) -> bool| pieces.iter().filter(|p| is(&p.held)).collect::<Vec<&Piece>>();
    // A body that nothing joins to the rest has a finding of its own.
    let is_body = |p: &Piece| {
        let is_at = |b: &Body| b.z.0 > p.heights.0 - (p.heights.1 - p.heights.0) && b.z.0 < p.heights.1;
        let inside = p.area.bounds();
        o.solid.bodies.iter().any(|b| is_at(b) && inside.is_some_and(|i| b.bounds.union(i) == b.bounds))
    };
    let islands: Vec<&Piece> = of(&|h| matches!(h, Held::Nowhere)).into_iter().filter(|p| !is_body(p)).collect();
    if let Some(lowest) = islands.iter().map(|p| p.heights.0).reduce(f64::min) {
        let what = msg!("island", pieces = islands.len(), height = mm(lowest).decimals(2));
        found.push(
            Finding::new(ISLAND, what)
                .figure(Figure::mm("height-above-bed", lowest, Some(0.0)))
                .at_all(islands.iter().map(|p| place(p)))
                .mended(let_down(o, &islands)),
        );
    }
    let far = of(&|h| matches!(h, Held::Beside(mm) if *mm > MOST_OUT_MM));
    if let Some((by, _)) = out.filter(|_| !far.is_empty()) {
        let what = msg!("overhang", by = mm(by).decimals(1), places = rule::places(far.len()));
        found.push(
            Finding::new(OVERHANG, what)
                .figure(Figure::mm("sticks-out-by", by, Some(MOST_OUT_MM)))
                .at_all(far.iter().map(|p| place(p)))
                .mended(let_down(o, &far)),
        );
    }
    let wide = of(&|h| matches!(h, Held::Across(mm) if *mm > MOST_SPAN_MM));
    if let Some((gap, _)) = span.filter(|_| !wide.is_empty()) {
        let what = msg!("bridge", gap = mm(gap).decimals(1), places = rule::places(wide.len()));
        found.push(
            Finding::new(BRIDGE, what)
                .figure(Figure::mm("longest-bridge", gap, Some(MOST_SPAN_MM)))
                .at_all(wide.iter().map(|p| place(p)))
                .mended(let_down(o, &wide)),
        );
    }
    Ok(())
}

/// Lets the maker's own tiers that begin at the pieces reach down to the bed. `None` where the recipe's own do: those cannot be
/// let down without asking what they are for.
fn let_down(o: &Object<'_>, pieces: &[&Piece]) -> Option<Mend> {
    let mut ids = BTreeSet::new();
    for piece in pieces {
        let b = piece.area.bounds()?;
        let begins = o.stack.tiers.iter().filter(|t| {
            let z = t.bottom.mm();
            t.op == Op::Add
                && z > piece.heights.0 - (piece.heights.1 - piece.heights.0)
                && z < piece.heights.1
                && t.footprint.bounds().is_some_and(|f| f.overlaps(&b))
        });
        for tier in begins {
            ids.insert(tier.handles.iter().find_map(|h| h.own)?);
        }
    }
    let down = |id| TierEdit::SetTierLength { id, name: "from".into(), value: Length::Mm(0.0) }.into();
    (!ids.is_empty()).then(|| Mend { words: msg!("reach-down"), edits: ids.into_iter().map(down).collect() })
}
