//! Drawings of so many nodes that the file becomes heavy.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::PictureEdit;
use kachel_words::{msg, number};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-heavy", codes: &[HEAVY], run };

/// The file is so large that slicers become slow.
pub const HEAVY: Code = Code::note("heavy");

/// From so many triangles on slicers become slow to turn and to cut an object (common practice, no source): 10 MB of STL.
const MOST: usize = 200_000;
/// A binary STL has so many bytes for each triangle, and 84 before them (fabbers.com, 'The StL Format', from memory).
const STL_BYTES: f64 = 50.0;
/// Coarser deviations that are tried, pixels.
const COARSER_PX: [f64; 4] = [0.5, 1.0, 2.0, 4.0];

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let triangles = o.solid.skin.mesh().triangles.len();
    let mb = (triangles as f64).mul_add(STL_BYTES, 84.0) / 1e6;
    let (nodes, mb) = (o.outline.nodes, number(mb));
    let said = msg!("looked-heavy", nodes = nodes, triangles = triangles, mb = mb.clone().decimals(1));
    found.looked("looked-mesh", said, []);
    if triangles <= MOST {
        return Ok(());
    }
    let what = msg!("heavy", nodes = nodes, triangles = triangles, mb = mb.decimals(0), good = MOST);
    // A drawing's lines are followed as they are.
    let is_traced = !o.contours.histogram.is_empty();
    let coarser = COARSER_PX.iter().filter(|px| is_traced && **px > o.deviation).map(|px| {
        let edit = PictureEdit::SetDeviation { deviation: *px };
        Mend::by(msg!("follow-coarser", px = number(*px)), edit)
    });
    found.push(
        Finding::new(HEAVY, what)
            .figure(Figure::count("number-of-triangles", triangles, Some(MOST)))
            .figure(Figure::count("number-of-nodes", nodes, None))
            .mended_by(coarser),
    );
    Ok(())
}
