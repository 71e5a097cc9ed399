//! Light filament over dark: a thin layer lets what is under it show through.

use crate::rule::{Fault, Rule, moved};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::lightness;
use kachel_geom::{Point, Region, interior_point, regions};
use kachel_tiers::{Moves, Op, Tier};
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-shows", codes: &[SHOWS_THROUGH], run };

/// A light tier is so thin that the dark one under it shows through.
pub const SHOWS_THROUGH: Code = Code::poor("shows-through");

/// Light filament hides dark from this thickness on, mm (common practice, no source).
const HIDES_MM: f64 = 0.6;
/// What is lighter by less (CIELAB lightness, 0 to 100) does not count as light over dark (common practice, no source).
const LIGHTER: f64 = 25.0;
/// Smaller areas do not show, mm2.
const LEAST_MM2: f64 = 1.0;
/// Pieces of a tier that are looked at.
const MOST_PIECES: usize = 200;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if o.solid.parts.len() < 2 {
        return Ok(());
    }
    let mut thinnest: Option<f64> = None;
    for (k, tier) in o.stack.tiers.iter().enumerate().filter(|(_, t)| t.op == Op::Add) {
        let thick = tier.top.mm() - tier.bottom.mm();
        let Some(colour) = o.colours.get(tier.part as usize) else { continue };
        let mut places: Vec<Region> = Vec::new();
        let mut under: Option<&Tier> = None;
        for piece in regions(&tier.footprint)?.into_iter().take(MOST_PIECES) {
            let Some(at) = interior_point(&piece.rings_mm().iter().collect::<Vec<_>>()) else { continue };
            let Some(below) = below(o, k, at).filter(|_| piece.area_mm2() >= LEAST_MM2) else { continue };
            let darker = o.colours.get(below.part as usize).map_or(0.0, |c| lightness(*colour) - lightness(*c));
            if darker >= LIGHTER {
                places.push(piece);
                under = Some(below);
            }
        }
        let Some(under) = under else { continue };
        thinnest = Some(thinnest.map_or(thick, |t: f64| t.min(thick)));
        if thick >= HIDES_MM - 1e-3 {
            continue;
        }
        let (light, dark) = (tier.name.clone(), under.name.clone());
        let what =
            msg!("shows-through", tier = light, thick = mm(thick).decimals(2), under = dark, hides = mm(HIDES_MM));
        found.push(
            Finding::new(SHOWS_THROUGH, what)
                .figure(Figure::mm("light-over-dark", thick, Some(HIDES_MM)))
                .at_all(places.iter().map(|p| Place::of_region(p).between(tier.bottom.mm(), tier.top.mm())))
                .mended(thicker(tier, thick)),
        );
    }
    if let Some(thick) = thinnest {
        found.looked("looked-light-over-dark", msg!("just", value = mm(thick).decimals(2)), []);
    }
    Ok(())
}

/// The tier of another filament that a place of a tier lies on.
fn below<'o>(o: &Object<'o>, k: usize, at: Point<kachel_geom::Mm>) -> Option<&'o Tier> {
    let tier = &o.stack.tiers[k];
    let z = tier.bottom.mm() - o.printer.layer / 2.0;
    let there = o.covering(at, z).next()?;
    (there.op == Op::Add && there.part != tier.part).then_some(there)
}

/// Raises its top, or sinks its underside where its top lies flush.
fn thicker(tier: &Tier, thick: f64) -> Option<Mend> {
    let by = |moves: Moves| {
        let h = tier.handles.iter().find(|h| h.moves == moves)?;
        let to =
            if moves == Moves::Top { tier.top.mm() + HIDES_MM - thick } else { tier.bottom.mm() - HIDES_MM + thick };
        Some(Mend::by(msg!("make-it-thick", thick = mm(HIDES_MM)), moved(h, to)))
    };
    by(Moves::Bottom).or_else(|| by(Moves::Top))
}
