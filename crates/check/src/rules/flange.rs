//! The cutter's foot: where the hand presses, what its edge does to it, and how near an opening comes to the wall.

use crate::rule::{Fault, Rule, held, set};
use crate::rules::loose::aside;
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{BoolOp, Edges, Region, Ring, combine, offset};
use kachel_outline::Patch;
use kachel_tiers::{Back, measures as m};
use kachel_words::{mm, msg};

pub(super) const RULE: Rule =
    Rule { looks_at: "looks-at-flange", codes: &[NARROW_FLANGE, SHARP_FLANGE, OPENING_NEAR_WALL], run };

/// The foot is so narrow that it presses into the hand.
pub const NARROW_FLANGE: Code = Code::poor("narrow-flange");
/// The flange's upper edge is square.
pub const SHARP_FLANGE: Code = Code::note("sharp-flange");
/// An opening comes near the wall.
pub const OPENING_NEAR_WALL: Code = Code::poor("opening-near-wall");

/// A foot narrower than this in all presses into the hand, mm (common practice, no source).
const HAND_MM: f64 = 3.0;
/// A bevel that takes the edge off, mm (common practice, no source).
const BEVEL_MM: f64 = 0.5;
/// From this bevel on an edge is not felt, mm (common practice, no source).
const LEAST_BEVEL_MM: f64 = 0.2;
/// Least of a back between the wall and an opening, mm: it carries the wall (common practice, no source).
const BACK_MM: f64 = 3.0;
/// Rounding, mm.
const SLACK_MM: f64 = 0.02;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if !o.measures.kind().is_cutter() || o.stack.edge.is_empty() {
        return Ok(());
    }
    let (wall, out, inwards) =
        (o.measures.get(m::WALL_THICKNESS), o.measures.get(m::FLANGE_WIDTH), o.measures.get(m::FLANGE_IN));
    let is_backed = o.measures.choice(m::BACK) == Some(Back::Backed);
    let foot = wall + out + inwards;
    let said = if is_backed { "looked-foot-backed" } else { "looked-foot-wide" };
    found.looked("looked-foot", msg!(said, wide = mm(foot).decimals(2)), []);
    if !is_backed && foot < HAND_MM - SLACK_MM {
        let to = held(o, m::FLANGE_WIDTH, ((HAND_MM - wall - inwards) * 10.0).ceil() / 10.0);
        let what = msg!("narrow-flange", foot = mm(foot).decimals(2), good = mm(HAND_MM));
        found.push(
            Finding::new(NARROW_FLANGE, what)
                .figure(Figure::mm("width-of-foot", foot, Some(HAND_MM)))
                .mended(Mend::by(msg!("widen-flange", to = mm(to)), set(m::FLANGE_WIDTH, to))),
        );
    }
    let bevel = o.measures.get(m::FLANGE_EDGE);
    if out > 0.0 && bevel < LEAST_BEVEL_MM - 1e-6 {
        let height = o.measures.get(m::FLANGE_HEIGHT);
        let what = msg!("sharp-flange", bevel = mm(bevel), good = mm(BEVEL_MM));
        let to = held(o, m::FLANGE_EDGE, BEVEL_MM.min(height / 2.0));
        let mend = (to > bevel).then(|| Mend::by(msg!("bevel-it", by = mm(to)), set(m::FLANGE_EDGE, to)));
        found.push(
            Finding::new(SHARP_FLANGE, what).figure(Figure::mm("bevel", bevel, Some(LEAST_BEVEL_MM))).mended(mend),
        );
    }
    openings(o, is_backed, found)
}

/// What lies between the wall's inner face and openings.
fn openings(o: &Object<'_>, is_backed: bool, found: &mut Report) -> Result<(), Fault> {
    let height = (0.0, o.measures.get(m::FLANGE_HEIGHT));
    if is_backed {
        let back = o.measures.get(m::OPENING);
        let opening = offset(&o.stack.edge, -back)?;
        if back < BACK_MM - SLACK_MM && !opening.is_empty() {
            let to = held(o, m::OPENING, BACK_MM);
            found.push(
                near(back, None).at(Place::of_region(&opening).between(height.0, height.1)).mended(
                    (!offset(&o.stack.edge, -to)?.is_empty())
                        .then(|| Mend::by(msg!("opening-inside", by = mm(to)), set(m::OPENING, to))),
                ),
            );
        }
    }
    let inner = o.stack.edge.rings_mm();
    let wall = offset(&o.stack.edge, o.measures.get(m::WALL_THICKNESS))?;
    let wall = combine(&wall, &o.stack.edge, BoolOp::TakeAway)?;
    let edges = Edges::of(&inner);
    let mut nearest: Option<f64> = None;
    let (mut places, mut patches): (Vec<Place>, Vec<&Patch>) = (vec![], vec![]);
    for (id, opening) in &o.outline.openings {
        let opening = if o.stack.is_mirrored { opening.mirrored() } else { opening.clone() };
        let mm = distance(&opening, &edges, &wall)?;
        if mm >= BACK_MM - SLACK_MM {
            continue;
        }
        nearest = Some(nearest.map_or(mm, |n: f64| n.min(mm)));
        places.push(Place::of_region(&opening).between(height.0, height.1));
        patches.extend(o.outline.patches.iter().find(|p| p.id == *id));
    }
    if let Some(mm) = nearest {
        let words = msg!("put-aside", n = places.len());
        found.push(near(mm, Some(places.len())).at_all(places).mended(Mend::by(words, aside(patches))));
    }
    Ok(())
}

/// How near an opening comes, mm, and how many openings that come too near there are, where they are counted.
fn near(by: f64, counted: Option<usize>) -> Finding {
    let what = msg!("opening-near-wall", by = mm(by).decimals(2), least = mm(BACK_MM));
    let what = match counted {
        Some(n) => msg!("openings-near-wall", what = what, n = n),
        None => what,
    };
    Finding::new(OPENING_NEAR_WALL, what).figure(Figure::mm("opening-to-wall", by, Some(BACK_MM)))
}

/// How far an opening is from the wall's inner face; 0 where it cuts the wall. Openings that lie outside the cutter count as far.
fn distance(opening: &Region, edges: &Edges, wall: &Region) -> Result<f64, Fault> {
    if !combine(opening, wall, BoolOp::Common)?.is_empty() {
        return Ok(0.0);
    }
    let rings: Vec<Ring<_>> = opening.rings_mm();
    Ok(rings.iter().flat_map(|r| &r.0).map(|p| edges.distance(*p)).fold(f64::INFINITY, f64::min))
}
