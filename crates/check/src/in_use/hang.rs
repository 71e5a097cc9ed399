//! How something hangs from a nail.

use super::seen::{InUse, Material, Used, disc, thing};
use crate::Fault;
use crate::rules::hangs::{centre_of_mass, from_quarter};
use kachel_geom::Point;
use kachel_words::{Message, msg, number};

/// The nail as a share of the hole, and how far it stands out on both sides, mm.
const NAIL: (f64, f64) = (0.6, 7.0);

pub(super) fn hanging(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    let (Some(hung), Some(mass)) = (o.stack.hung, centre_of_mass(o.layers)) else { return Ok(None) };
    let (x, y) = (mass.x - hung.at.x, mass.y - hung.at.y);
    let away = x.hypot(y);
    if away < 1e-6 {
        return Ok(None);
    }
    // Straight down is -90 degrees.
    let turn = -90.0 - y.atan2(x).to_degrees();
    let turn = turn - (turn / 360.0).round() * 360.0;
    let askew = from_quarter(turn);
    let way = Message::new(if askew > 0.0 { "anticlockwise" } else { "clockwise" });
    let side = Message::new(match (turn - askew).rem_euclid(360.0) {
        q if q < 45.0 => "hangs-upright",
        q if q < 135.0 => "hangs-by-right-side",
        q if q < 225.0 => "hangs-upside-down",
        _ => "hangs-by-left-side",
    });
    let (askew, mass) = (askew.abs(), number(o.mass).decimals(1));
    let says = if askew < 0.5 {
        msg!("hangs-straight", side = side, mass = mass)
    } else {
        msg!("hangs-turned", side = side, turn = number(askew).decimals(0), way = way, mass = mass)
    };
    let (share, out) = NAIL;
    let (nail, room) = (share * hung.across, (1.0 - share) * hung.across / 2.0);
    // The upper edge of the hole rests on it.
    let at = Point::new(hung.at.x - x / away * room, hung.at.y - y / away * room);
    let tiers = vec![thing(Material::Nail, disc(at, nail)?, -out, o.top() + out)?];
    Ok(Some(InUse { upright: Some(turn), ..InUse::of("use-hanging", vec![says], tiers) }))
}
