//! A relief in raking light.

use super::seen::{InUse, Used};
use kachel_tiers::{Op, Role, Tier};
use kachel_words::{mm, msg, number};

/// Light from a window beside it, degrees above the table.
const RAKING_DEG: f64 = 15.0;

pub(super) fn raking(o: &Used<'_>) -> InUse {
    let tiers = &o.stack.tiers;
    let body = tiers.iter().filter(|t| t.role == Role::Body).map(|t| t.top.mm()).reduce(f64::max);
    let body = body.or(tiers.first().map(|t| t.top.mm())).unwrap_or_default();
    let details = tiers.iter().filter(|t| matches!(t.role, Role::Detail | Role::Rim | Role::Own));
    let step = |t: &Tier| if t.op == Op::Cut { body - t.bottom.mm() } else { t.top.mm() - body };
    let step = details.map(step).fold(0.0, f64::max).min(o.top());
    let says = if step > 0.0 {
        let shadow = step / RAKING_DEG.to_radians().tan();
        let [step, shadow] = [step, shadow].map(|v| mm(v).decimals(1));
        msg!("throws-shadow", degrees = number(RAKING_DEG), step = step, shadow = shadow)
    } else {
        msg!("throws-no-shadow", degrees = number(RAKING_DEG))
    };
    InUse { light: Some(RAKING_DEG), ..InUse::of("use-light", vec![says], vec![]) }
}
