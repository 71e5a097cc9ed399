//! Finishes wider than the shape: the tier ends in a ridge there, lower than it was meant to be.

use crate::rule::{Fault, Rule, places};
use crate::{Code, Figure, Finding, Object, Place, Report};
use kachel_geom::{Bounds, Point};
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-finishes", codes: &[FINISH_TOO_WIDE], run };

/// A finish is wider than the shape it is on.
pub const FINISH_TOO_WIDE: Code = Code::poor("finish-too-wide");

/// A ridge that is lower by no more than so many printed layers looks like a rounded place of the rest.
const SLACK_LAYERS: f64 = 2.0;
/// Half the side of the box in which a ridge is shown, mm.
const AROUND_MM: f64 = 2.0;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    for t in o.stack.tiers.iter().filter(|t| !t.top_finish.is_plain()) {
        let (bottom, top) = (t.bottom.mm(), t.top.mm());
        let is_low = |r: &&[f64; 3]| r[2] < top - SLACK_LAYERS * o.printer.layer - 0.01;
        let mut ridges: Vec<&[f64; 3]> = o.ridges_of(t).filter(is_low).collect();
        ridges.sort_by(|a, b| a[2].total_cmp(&b[2]));
        let Some(lowest) = ridges.first() else { continue };
        let what = msg!(
            "finish-too-wide",
            tier = t.name.clone(),
            inset = mm(t.top_finish.inset),
            places = places(ridges.len()),
            ridge = mm(lowest[2] - bottom).decimals(2),
            high = mm(top - bottom).decimals(2)
        );
        let place = Bounds {
            min: Point::new(lowest[0] - AROUND_MM, lowest[1] - AROUND_MM),
            max: Point::new(lowest[0] + AROUND_MM, lowest[1] + AROUND_MM),
        };
        found.push(
            Finding::new(FINISH_TOO_WIDE, what)
                .figure(Figure::mm("height-of-ridge", lowest[2] - bottom, Some(top - bottom)))
                .at(Place::of_box(&place).between(lowest[2], top)),
        );
    }
    Ok(())
}
