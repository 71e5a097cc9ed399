//! A magnet on a steel sheet.

use super::seen::{InUse, Material, Used, rectangle, thing};
use crate::{Fault, Place};
use kachel_geom::regions;
use kachel_tiers::Role;

/// Friction of filament on painted steel (common practice, no source).
const FRICTION: f64 = 0.2;
/// Standard gravity, m/s2 (ISO 80000-3:2019, from memory).
const GRAVITY: f64 = 9.806_65;
/// The sheet: round the object and thick, mm.
const SHEET_MM: (f64, f64) = (10.0, 0.8);

const LEAVES_OUT: &str = "Friction of 0.2 is taken (common practice); the magnets' own weight is left out, and what yours pull is on their packet.";

pub(super) fn held(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    let Some(b) = o.bounds() else { return Ok(None) };
    let rooms: Vec<_> = o.stack.tiers.iter().filter(|t| t.role == Role::Room && t.key == "pockets").collect();
    let mut pockets = Vec::new();
    for t in &rooms {
        let pieces = regions(&t.footprint)?;
        pockets.extend(pieces.iter().map(|p| Place::of_region(p).between(t.bottom.mm(), t.top.mm())));
    }
    let skin = rooms.iter().map(|t| t.bottom.mm()).fold(0.0, f64::max);
    let pull = o.mass / 1000.0 * GRAVITY / FRICTION;
    let mut says =
        format!("It weighs {:.1} g. So that it does not slide, it has to be pulled on with {pull:.2} N", o.mass);
    says.push_str(&match pockets.len() {
        0 => "; it has no pocket for a magnet.".into(),
        1 => ".".into(),
        n => format!(", {:.2} N by each of its {n} magnets.", pull / n as f64),
    });
    if skin > 0.0 && !pockets.is_empty() {
        says.push_str(&format!(
            " Between magnet and steel lie {skin:.1} mm of filament, which takes much of the pull."
        ));
    }
    let (round, thick) = SHEET_MM;
    let tiers = vec![thing(Material::Steel, rectangle(&b.grown(round))?, -thick, 0.0)?];
    Ok(Some(InUse { upright: Some(0.0), places: pockets, ..InUse::of("On a steel sheet", says, LEAVES_OUT, tiers) }))
}
