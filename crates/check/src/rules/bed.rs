//! The object on the printer's bed.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::{Axis, GeneralEdit, Length, SizeOf};

pub(super) const RULE: Rule = Rule { looks_at: "the size on the printer's bed", codes: &[LARGER_THAN_BED], run };

/// Larger than the bed.
pub const LARGER_THAN_BED: Code = Code::fault("larger-than-bed");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let bed = o.printer.bed;
    let (min, max) = o.solid.skin.mesh().extent();
    let size: [f64; 3] = std::array::from_fn(|k| max[k] - min[k]);
    if (0..3).all(|k| size[k] <= bed[k]) {
        return Ok(());
    }
    // What is added round the edge does not shrink with it.
    let edge = [o.outline.edge_bounds.width(), o.outline.edge_bounds.height()];
    let ratio = (0..2).map(|k| (bed[k] - (size[k] - edge[k])) / edge[k]).fold(1.0, f64::min);
    let width = (edge[0] * ratio * 10.0).floor() / 10.0;
    let what = format!(
        "The object is {:.1} × {:.1} × {:.1} mm; the printer builds {} × {} × {} mm",
        size[0], size[1], size[2], bed[0], bed[1], bed[2]
    );
    let mend = (ratio < 1.0 && width >= 1.0).then(|| {
        let edit = GeneralEdit::SetSize { axis: Axis::Width, value: Length::Mm(width), of: SizeOf::Drawing };
        Mend::by(format!("Make it {width:.1} mm wide"), edit)
    });
    let why = "It does not fit the printer in one piece.";
    let mut finding = Finding::new(LARGER_THAN_BED, what, why).mended(mend);
    for (k, side) in ["width", "depth", "height"].into_iter().enumerate().filter(|(k, _)| size[*k] > bed[*k]) {
        finding = finding.figure(Figure::mm(side, size[k], Some(bed[k])));
    }
    found.push(finding);
    Ok(())
}
