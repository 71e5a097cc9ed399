//! The thickness of a cutter's wall.

use crate::rule::{Fault, Rule, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::offset;
use kachel_tiers::measures as m;
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-walls", codes: &[THIN_WALL, WALL_THICKER_THAN_SHAPE], run };

/// An upright wall is too thin.
pub const THIN_WALL: Code = Code::fault("thin-wall");
/// The wall is thicker than what it cuts.
pub const WALL_THICKER_THAN_SHAPE: Code = Code::poor("wall-thicker-than-shape");

/// Thinnest upright wall, mm (common practice, no source).
const THINNEST_MM: f64 = 0.75;
/// Two lines of a 0.4 mm nozzle.
const TWO_LINES_MM: f64 = 0.8;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if !o.measures.has(m::WALL_THICKNESS) {
        return Ok(());
    }
    let thickness = o.measures.get(m::WALL_THICKNESS);
    let figure = |limit| Figure::mm("thickness-of-wall", thickness, limit);
    if thickness < THINNEST_MM {
        let to = held(o, m::WALL_THICKNESS, TWO_LINES_MM);
        let what = msg!("thin-wall", thick = mm(thickness), least = mm(THINNEST_MM));
        found.push(
            Finding::new(THIN_WALL, what)
                .figure(figure(Some(THINNEST_MM)))
                .mended(Mend::by(msg!("make-it-two-lines", to = mm(to)), set(m::WALL_THICKNESS, to))),
        );
    }
    if offset(&o.stack.edge, -thickness / 2.0)?.is_empty() {
        let what = msg!("wall-thicker-than-shape", thick = mm(thickness));
        found.push(
            Finding::new(WALL_THICKER_THAN_SHAPE, what)
                .figure(figure(None))
                .at(Place::of_region(&o.stack.edge).between(0.0, o.measures.get(m::WALL_HEIGHT))),
        );
    }
    Ok(())
}
