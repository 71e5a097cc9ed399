//! Heights of a cutter's wall, flange and stamp lines.

use crate::rule::{Fault, Rule, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_tiers::measures as m;
use kachel_words::{mm, msg};

pub(super) const RULE: Rule =
    Rule { looks_at: "looks-at-heights", codes: &[FLANGE_TOO_HIGH, STAMP_TOO_HIGH, STAMP_VANISHES], run };

/// The flange reaches the wall's top.
pub const FLANGE_TOO_HIGH: Code = Code::fault("flange-too-high");
/// Stamp lines end at the wall's top.
pub const STAMP_TOO_HIGH: Code = Code::fault("stamp-too-high");
/// Stamp lines have no height.
pub const STAMP_VANISHES: Code = Code::poor("stamp-vanishes");

/// A flange's usual height, mm (common practice, no source).
const FLANGE_MM: f64 = 2.0;
/// How far under the wall stamp lines usually end, mm (common practice, no source).
const UNDER_MM: f64 = 3.0;
/// Stamp lines nearer to the wall's top than this (mm) cut instead of marking (common practice, no source).
const LEAST_UNDER_MM: f64 = 0.5;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if !o.measures.has(m::WALL_HEIGHT) {
        return Ok(());
    }
    let (wall, flange) = (o.measures.get(m::WALL_HEIGHT), o.measures.get(m::FLANGE_HEIGHT));
    if flange >= wall && o.measures.get(m::FLANGE_WIDTH) > 0.0 {
        let height = held(o, m::FLANGE_HEIGHT, FLANGE_MM.min(wall / 2.0));
        let what = msg!("flange-too-high", flange = mm(flange), wall = mm(wall));
        found.push(
            Finding::new(FLANGE_TOO_HIGH, what)
                .figure(Figure::mm("height-of-flange", flange, Some(wall)))
                .mended(Mend::by(msg!("lower-flange", high = mm(height)), set(m::FLANGE_HEIGHT, height))),
        );
    }
    if o.outline.details.is_empty() || !o.measures.has(m::STAMP_UNDER_WALL) {
        return Ok(());
    }
    let under = o.measures.get(m::STAMP_UNDER_WALL);
    let (code, what) = if under >= wall {
        (STAMP_VANISHES, msg!("stamp-vanishes", under = mm(under), wall = mm(wall)))
    } else if under < LEAST_UNDER_MM {
        (STAMP_TOO_HIGH, msg!("stamp-too-high", under = mm(under)))
    } else {
        return Ok(());
    };
    let value = held(o, m::STAMP_UNDER_WALL, UNDER_MM.min(wall / 2.0));
    let limit = if code == STAMP_VANISHES { wall } else { LEAST_UNDER_MM };
    found.push(
        Finding::new(code, what)
            .figure(Figure::mm("distance-under-wall", under, Some(limit)))
            .mended(Mend::by(msg!("end-under-wall", by = mm(value)), set(m::STAMP_UNDER_WALL, value))),
    );
    Ok(())
}
