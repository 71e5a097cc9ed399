//! Heights of a cutter's wall, flange and stamp lines.

use crate::rule::{Fault, Rule, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_tiers::measures as m;

pub(super) const RULE: Rule = Rule {
    looks_at: "the heights of wall, flange and stamp lines",
    codes: &[FLANGE_TOO_HIGH, STAMP_TOO_HIGH, STAMP_VANISHES],
    run,
};

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
        let what = format!("The flange is {flange} mm high, the wall {wall} mm");
        let why = "The flange meets the dough before the wall has cut through it.";
        found.push(
            Finding::new(FLANGE_TOO_HIGH, what, why)
                .figure(Figure::mm("height of the flange", flange, Some(wall)))
                .mended(Mend::by(format!("Make the flange {height} mm high"), set(m::FLANGE_HEIGHT, height))),
        );
    }
    if o.outline.details.is_empty() || !o.measures.has(m::STAMP_UNDER_WALL) {
        return Ok(());
    }
    let under = o.measures.get(m::STAMP_UNDER_WALL);
    let (code, what, why) = if under >= wall {
        let what = format!("Stamp lines {under} mm under a wall of {wall} mm have no height");
        (STAMP_VANISHES, what, "They are left out of the object.")
    } else if under < LEAST_UNDER_MM {
        let what = format!("Stamp lines end {under} mm under the wall's top");
        (STAMP_TOO_HIGH, what, "Lines as high as the wall cut through the dough instead of marking it.")
    } else {
        return Ok(());
    };
    let value = held(o, m::STAMP_UNDER_WALL, UNDER_MM.min(wall / 2.0));
    let limit = if code == STAMP_VANISHES { wall } else { LEAST_UNDER_MM };
    found.push(
        Finding::new(code, what, why)
            .figure(Figure::mm("distance under the wall's top", under, Some(limit)))
            .mended(Mend::by(format!("Let them end {value} mm under the wall"), set(m::STAMP_UNDER_WALL, value))),
    );
    Ok(())
}
