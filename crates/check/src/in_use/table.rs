//! A cup on a coaster.

use super::cup::{Cup, Standing};
use super::seen::{InUse, Material, Used, disc, thing};
use crate::round::{around, circle};
use crate::rules::cup::{Heights, feet_on, footing, middle_of, range};
use crate::{Fault, Place};
use kachel_geom::{Mm, Point, Ring};

/// Walls of the cup, and how much of it is shown, mm.
const CUP_MM: (f64, f64) = (2.5, 45.0);
/// How wide arcs are drawn that hold a foot, mm.
const ARC_MM: f64 = 3.0;
/// How high its floor lies above its foot, mm.
const FLOOR_MM: f64 = 3.0;

const LEAVES_OUT: &str = "The cup is round and its foot is a flat ring; marked is what holds it. A cup that rocks is tipped to where \
                     its foot touches again; what else may be in its way is left out.";

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
        let stands = if under.stands() { "stands steady" } else { "rocks" };
        format!("A cup with a foot of {foot:.0} mm {stands} {}.", place_of(asked.by))
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
        ..InUse::of("A cup on it", says, LEAVES_OUT, tiers)
    }))
}

/// What is said of cups in the middle.
fn in_the_middle(steady: &[f64], rocks: &[f64], across: f64) -> String {
    match (rocks.is_empty(), steady.is_empty()) {
        (true, true) => format!("With {across:.0} mm across it is smaller than the foot of a usual cup."),
        (true, false) => format!("A cup stands steady on it, with a foot of {}.", range(steady)),
        (false, true) => format!("A cup rocks on it, with a foot of {}.", range(rocks)),
        (false, false) => {
            format!("A cup with a foot of {} rocks on it; with {} it stands steady.", range(rocks), range(steady))
        }
    }
}

/// `in the middle`, or how far from it.
fn place_of((right, up): (f64, f64)) -> String {
    let part = |v: f64, more: &str, less: &str| {
        (v.abs() >= 0.5).then(|| format!("{:.0} mm {}", v.abs(), if v > 0.0 { more } else { less }))
    };
    match (part(right, "right", "left"), part(up, "up", "down")) {
        (None, None) => "in the middle".into(),
        (Some(one), None) | (None, Some(one)) => format!("{one} from the middle"),
        (Some(one), Some(other)) => format!("{one} and {other} from the middle"),
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
