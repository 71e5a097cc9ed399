//! A magnet on a steel sheet.

use super::seen::{InUse, Material, Used, rectangle, thing};
use crate::{Fault, Place};
use kachel_geom::regions;
use kachel_tiers::Role;
use kachel_words::{mm, msg, number};

/// Friction of filament on painted steel (common practice, no source).
const FRICTION: f64 = 0.2;
/// Standard gravity, m/s2 (ISO 80000-3:2019, from memory).
const GRAVITY: f64 = 9.806_65;
/// The sheet: round the object and thick, mm.
const SHEET_MM: (f64, f64) = (10.0, 0.8);

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
    let (mass, all) = (number(o.mass).decimals(1), number(pull).decimals(2));
    let mut says = vec![match pockets.len() {
        0 => msg!("has-no-magnet", mass = mass, pull = all),
        1 => msg!("has-a-magnet", mass = mass, pull = all),
        n => msg!("has-magnets", mass = mass, pull = all, n = n, each = number(pull / n as f64).decimals(2)),
    }];
    if skin > 0.0 && !pockets.is_empty() {
        says.push(msg!("skin-takes-pull", skin = mm(skin).decimals(1)));
    }
    let (round, thick) = SHEET_MM;
    let tiers = vec![thing(Material::Steel, rectangle(&b.grown(round))?, -thick, 0.0)?];
    Ok(Some(InUse { upright: Some(0.0), places: pockets, ..InUse::of("use-steel", says, tiers) }))
}
