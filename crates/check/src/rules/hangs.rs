//! How something hangs from its hole or loop.

use crate::rule::{Fault, Rule, choose, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{Mm, Point};
use kachel_solid::Layers;
use kachel_tiers::{HoleAt, measures as m};
use kachel_words::{Message, msg, number};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-hangs", codes: &[HANGS_ASKEW], run };

/// It hangs at an angle.
pub const HANGS_ASKEW: Code = Code::note("hangs-askew");

/// An angle that nobody sees, degrees (common practice, no source).
const MOST_DEGREES: f64 = 8.0;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let (Some(hung), Some(mass)) = (o.stack.hung, centre_of_mass(o.layers)) else { return Ok(()) };
    let (x, y) = (mass.x - hung.at.x, mass.y - hung.at.y);
    // It may hang by any of its sides: what counts is how far the drawing is turned from the nearest quarter.
    let angle = y.atan2(x).to_degrees();
    let askew = from_quarter(angle);
    let place = || Place::of_box(&kachel_geom::Bounds { min: hung.at, max: hung.at }.grown(hung.across));
    let way = || Message::new(if askew > 0.0 { "clockwise" } else { "anticlockwise" });
    let turn = || number(askew.abs()).decimals(0);
    let said =
        if askew.abs() < 0.5 { msg!("looked-straight") } else { msg!("looked-turned", turn = turn(), way = way()) };
    found.looked("looked-hangs", said, [place()]);
    if askew.abs() <= MOST_DEGREES {
        return Ok(());
    }
    let is_down = y.abs() > x.abs();
    let (dx, dy) = (hung.at.x - hung.middle.x, hung.at.y - hung.middle.y);
    let (to_x, to_y) = if is_down { (mass.x - hung.middle.x, dy) } else { (dx, mass.y - hung.middle.y) };
    let round = |v: f64| (v * 10.0).round() / 10.0;
    let mend = choose(o, m::HOLE_AT, HoleAt::Middle).map(|at| Mend {
        words: msg!("hole-over-weight"),
        edits: vec![
            at,
            set(m::HOLE_X, held(o, m::HOLE_X, round(to_x))),
            set(m::HOLE_Y, held(o, m::HOLE_Y, round(to_y))),
        ],
    });
    found.push(
        Finding::new(HANGS_ASKEW, msg!("hangs-askew", turn = turn(), way = way()))
            .figure(Figure {
                what: "turned-by",
                value: askew.abs(),
                limit: Some(MOST_DEGREES),
                unit: crate::FigureUnit::Degrees,
            })
            .at(place())
            .mended_by(mend),
    );
    Ok(())
}

/// How far an angle is from the nearest quarter turn, degrees.
pub(crate) fn from_quarter(degrees: f64) -> f64 {
    degrees - (degrees / 90.0).round() * 90.0
}

/// In plan, mm: all filaments weigh alike.
pub(crate) fn centre_of_mass(layers: &Layers) -> Option<Point<Mm>> {
    let (mut sum, mut all) = ([0.0; 2], 0.0);
    for (first, count) in layers.runs() {
        let high = count as f64;
        for ring in layers.all[first].area.rings_mm() {
            for (a, b) in ring.edges() {
                let cross = a.x * b.y - b.x * a.y;
                all += high * cross / 2.0;
                sum[0] += high * (a.x + b.x) * cross / 6.0;
                sum[1] += high * (a.y + b.y) * cross / 6.0;
            }
        }
    }
    (all > 0.0).then(|| Point::new(sum[0] / all, sum[1] / all))
}
