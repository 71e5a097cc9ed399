//! A cup on a coaster.

use super::cup::{Cup, Standing};
use super::seen::{InUse, Material, Used, disc, thing};
use crate::round::{around, circle};
use crate::rules::cup::{Heights, feet_on, footing, middle_of, range};
use crate::{Fault, Place};
use kachel_geom::{Mm, Point, Ring};
use kachel_words::{Message, list, mm, msg};

/// Walls of the cup, and how much of it is shown, mm.
const CUP_MM: (f64, f64) = (2.5, 45.0);
/// How wide arcs are drawn that hold a foot, mm.
const ARC_MM: f64 = 3.0;
/// How high its floor lies above its foot, mm.
const FLOOR_MM: f64 = 3.0;

pub(super) fn cup(o: &Used<'_>) -> Result<Option<InUse>, Fault> {
    let Some(b) = o.bounds() else { return Ok(None) };
    let (centre, across) = middle_of(&b);
    let asked = o.cup.held();
    let middle = Point::new(centre.x + asked.by.0, centre.y + asked.by.1);
    let heights = Heights::of(o.layers);
    let (steady, rocks) = feet_on(&heights, centre, across);
    let foot = asked.foot.or(rocks.first().copied()).or(steady.last().copied()).unwrap_or(across);
    let under = footing(&heights, middle, foot);
    let says = if asked == Cup::default() {
        in_the_middle(&steady, &rocks, across)
    } else {
        let stands = if under.stands() { "cup-at-steady" } else { "cup-at-rocks" };
        msg!(stands, foot = mm(foot).decimals(0), at = place_of(asked.by))
    };
    let table = under.table;
    let outline = arcs(&under.held, middle, foot);
    let (wall, high) = CUP_MM;
    let ring = disc(middle, foot + wall)?.with_hole(&disc(middle, foot - wall)?);
    let floor = disc(middle, foot - wall)?;
    let tiers = vec![
        thing(Material::Cup, ring, table, table + high)?,
        thing(Material::Cup, floor, table + FLOOR_MM, table + FLOOR_MM + wall)?,
    ];
    Ok(Some(InUse {
        places: if outline.is_empty() { vec![] } else { vec![Place { outline, heights: None }.between(table, table)] },
        standing: Some(Standing { cup: Cup { foot: Some(foot), ..asked }, tilt: under.tilt() }),
        ..InUse::of("use-cup", vec![says], tiers)
    }))
}

/// What is said of cups in the middle.
fn in_the_middle(steady: &[f64], rocks: &[f64], across: f64) -> Message {
    match (rocks.is_empty(), steady.is_empty()) {
        (true, true) => msg!("cup-none", across = mm(across).decimals(0)),
        (true, false) => msg!("cup-steady", feet = range(steady)),
        (false, true) => msg!("cup-always-rocks", feet = range(rocks)),
        (false, false) => msg!("cup-some-rock", rocks = range(rocks), steady = range(steady)),
    }
}

/// `in the middle`, or how far from it.
fn place_of((right, up): (f64, f64)) -> Message {
    let part = |v: f64, more: &'static str, less: &'static str| {
        let by = mm(v.abs()).decimals(0);
        (v.abs() >= 0.5).then(|| msg!(if v > 0.0 { more } else { less }, by = by))
    };
    match (part(right, "by-right", "by-left"), part(up, "by-up", "by-down")) {
        (None, None) => msg!("in-the-middle"),
        (Some(one), None) | (None, Some(one)) => msg!("from-the-middle", by = one),
        (Some(one), Some(other)) => msg!("from-the-middle", by = list([one, other])),
    }
}

/// The parts of a foot that are held, as bands along it.
fn arcs(held: &[bool], middle: Point<Mm>, foot: f64) -> Vec<Ring<Mm>> {
    let n = held.len();
    let band = |first: usize, count: usize| {
        let side = |r: f64, k: usize| around(middle, foot / 2.0 + r, ((first + k) as f64 - 0.5) / n as f64);
        let outer = (0..=count).map(|k| side(ARC_MM / 2.0, k));
        let inner = (0..=count).rev().map(|k| side(-ARC_MM / 2.0, k));
        Ring(outer.chain(inner).collect())
    };
    let starts = (0..n).filter(|k| held[*k] && !held[(k + n - 1) % n]);
    let bands: Vec<_> = starts.map(|first| band(first, (0..n).take_while(|k| held[(first + k) % n]).count())).collect();
    if bands.is_empty() && held.first() == Some(&true) {
        return vec![circle(middle, foot + ARC_MM), circle(middle, foot - ARC_MM)];
    }
    bands
}
