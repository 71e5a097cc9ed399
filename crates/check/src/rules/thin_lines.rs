//! Stamp lines that are too thin.

use crate::rule::{Fault, Rule, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place};
use kachel_geom::{BoolOp, Region, combine, offset};
use kachel_tiers::{Role, StampAs, measures as m};

pub(super) const RULE: Rule = Rule { looks_at: "the width of stamp lines", codes: &[THIN_LINE], run };

/// A stamp line is too thin.
pub const THIN_LINE: Code = Code::poor("thin-line");

/// Thinnest stamp line, mm (common practice, no source).
const THINNEST_MM: f64 = 0.75;
/// Thin places under this area (mm2) are the tips of corners, not lines.
const TIP_AREA_MM2: f64 = 1.0;
/// Thin lines that have a finding each.
const MOST_THIN: usize = 3;
/// By how much more than it was shrunk an area is grown again, mm, so that rounding leaves no crumbs.
const ROUNDING_MM: f64 = 0.01;

fn run(o: &Object<'_>, found: &mut Vec<Finding>) -> Result<(), Fault> {
    let stamp = o.area(Role::Stamp)?;
    if stamp.is_empty() {
        return Ok(());
    }
    // An opening with a disc takes away what is thinner than the disc.
    let half = THINNEST_MM / 2.0;
    let opened = offset(&offset(&stamp, -half)?, half + ROUNDING_MM)?;
    let thin = combine(&stamp, &opened, BoolOp::TakeAway)?;
    let mut places: Vec<(f64, Region)> = thin
        .rings()
        .iter()
        .map(|r| Region::new([r.clone()]))
        .map(|r| (r.area_mm2(), r))
        .filter(|(area, _)| *area > TIP_AREA_MM2)
        .collect();
    places.sort_by(|a, b| b.0.total_cmp(&a.0));
    let is_line = o.measures.choice(m::STAMP_AS) == Some(StampAs::Lines);
    let measure = if is_line { m::STAMP_LINE } else { m::STAMP_LEAST };
    let width = held(o, measure, THINNEST_MM);
    let heights = o.stack.tiers.iter().find(|t| t.role == Role::Stamp).map(|t| (t.bottom.mm(), t.top.mm()));
    let finding = |what: String| {
        let why = "A nozzle of 0.4 mm makes it of one weak line, or leaves it out. Thicken it, or make the object larger.";
        Finding::new(THIN_LINE, what, why)
            .figure(Figure { limit: Some(THINNEST_MM), ..Figure::mm("least width", o.measures.get(measure), None) })
            .mended(Mend::by(format!("Make it {width} mm"), set(measure, width)))
    };
    let place = |(_, r): &(f64, Region)| Place { heights, ..Place::of_region(r) };
    let one = format!("A stamp line is thinner than {THINNEST_MM} mm");
    found.extend(places.iter().take(MOST_THIN).map(|p| finding(one.clone()).at(place(p))));
    // One measure widens them all: three show what is meant.
    if let Some(more) = places.len().checked_sub(MOST_THIN).filter(|more| *more > 0) {
        let what = if more == 1 { "line is" } else { "lines are" };
        let what = format!("{more} more stamp {what} thinner than {THINNEST_MM} mm");
        found.push(finding(what).at_all(places.iter().skip(MOST_THIN).map(place)));
    }
    Ok(())
}
