//! The object on the printer's bed.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::{Axis, GeneralEdit, Length, SizeOf};
use kachel_geom::GRID_PER_MM;
use kachel_words::{self as words, mm, msg, number};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-bed", codes: &[LARGER_THAN_BED, TIGHT_ON_BED], run };

/// It fits on the bed only in another turn, or with next to nothing to spare.
pub const TIGHT_ON_BED: Code = Code::note("tight-on-bed");
/// Larger than the bed.
pub const LARGER_THAN_BED: Code = Code::fault("larger-than-bed");

/// What a bed leaves free on each side of an object, mm (common practice, no source).
pub const SPARE_MM: f64 = 2.0;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let bed = o.printer.bed;
    let size = o.solid.skin.mesh().size();
    let left = |wide: f64, deep: f64| ((bed[0] - wide) / 2.0).min((bed[1] - deep) / 2.0);
    let as_it_is = left(size[0], size[1]);
    if size[2] <= bed[2] && as_it_is >= SPARE_MM {
        found.looked("looked-bed", msg!("looked-spare", spare = mm(as_it_is).decimals(1)), []);
        return Ok(());
    }
    let plan: Vec<[f64; 2]> =
        o.solid.skin.mesh().vertices.iter().map(|v| [0, 1].map(|k| f64::from(v[k]) / GRID_PER_MM)).collect();
    // How much the bed leaves on each side when the object is turned by this.
    let spare = |degrees: f64| {
        let (sin, cos) = degrees.to_radians().sin_cos();
        let wide = |by: &dyn Fn(&[f64; 2]) -> f64| {
            let (low, high) =
                plan.iter().map(by).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
            high - low
        };
        left(wide(&|p| p[0] * cos - p[1] * sin), wide(&|p| p[0] * sin + p[1] * cos))
    };
    let best = (0..180).map(f64::from).map(|d| (d, spare(d))).max_by(|a, b| a.1.total_cmp(&b.1));
    if let Some((degrees, left)) = best.filter(|(_, left)| size[2] <= bed[2] && *left >= 0.0) {
        let what = match (as_it_is >= 0.0, left >= SPARE_MM) {
            (true, false) => msg!("tight-on-bed", spare = mm(as_it_is).decimals(1)),
            (true, true) => {
                let spare = mm(as_it_is).decimals(1);
                msg!("tight-on-bed-unturned", spare = spare, turn = number(degrees), left = mm(left).decimals(1))
            }
            (false, _) => msg!("tight-on-bed-turned", turn = number(degrees), left = mm(left).decimals(1)),
        };
        found.push(Finding::new(TIGHT_ON_BED, what).figure(Figure::mm("to-spare", as_it_is, Some(SPARE_MM))));
        return Ok(());
    }
    // What is added round the edge does not shrink with it.
    let edge = [o.outline.edge_bounds.width(), o.outline.edge_bounds.height()];
    let ratio = (0..2).map(|k| (bed[k] - (size[k] - edge[k])) / edge[k]).fold(1.0, f64::min);
    let width = (edge[0] * ratio * 10.0).floor() / 10.0;
    let what = msg!("larger-than-bed", object = words::size(size).decimals(1), bed = words::size(bed));
    let mend = (ratio < 1.0 && width >= 1.0).then(|| {
        let edit = GeneralEdit::SetSize { axis: Axis::Width, value: Length::Mm(width), of: SizeOf::Drawing };
        Mend::by(msg!("make-it-wide", width = mm(width)), edit)
    });
    let mut finding = Finding::new(LARGER_THAN_BED, what).mended(mend);
    for (k, side) in ["across-bed", "down-bed", "above-bed"].into_iter().enumerate().filter(|(k, _)| size[*k] > bed[*k])
    {
        finding = finding.figure(Figure::mm(side, size[k], Some(bed[k])));
    }
    found.push(finding);
    Ok(())
}
