//! What a stamp prints.

use super::seen::{InUse, Material, Used, rectangle, thing};
use crate::Fault;
use kachel_geom::regions;
use kachel_words::{msg, number, size};

/// Paper round the print, mm.
const MARGIN_MM: f64 = 8.0;
/// How thick paper and ink are drawn, mm.
const SHEET_MM: f64 = 0.4;

pub(super) fn print(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    // What takes ink is what the uppermost layer covers.
    let Some(inked) = o.layers.all.last().map(|l| l.area.mirrored()) else { return Ok(None) };
    let Some(b) = inked.bounds() else { return Ok(None) };
    let marks = regions(&inked)?.len();
    let share = 100.0 * inked.area_mm2() / (b.width() * b.height()).max(f64::MIN_POSITIVE);
    let size = size([b.width(), b.height()]).decimals(1);
    let says = msg!("prints-marks", size = size, n = marks, percent = number(share).decimals(0));
    let tiers = vec![
        thing(Material::Paper, rectangle(&b.grown(MARGIN_MM))?, 0.0, SHEET_MM)?,
        thing(Material::Ink, inked, SHEET_MM, 2.0 * SHEET_MM)?,
    ];
    Ok(Some(InUse { is_beside: true, ..InUse::of("use-print", vec![says], tiers) }))
}
