//! Drawings of so many nodes that the file becomes heavy.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::PictureEdit;

pub(super) const RULE: Rule = Rule { looks_at: "how heavy the file is", codes: &[HEAVY], run };

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
    let said = format!("{} nodes, {triangles} triangles, {mb:.1} MB as STL", o.outline.nodes);
    found.looked("Drawing and mesh", said, []);
    if triangles <= MOST {
        return Ok(());
    }
    let what = format!(
        "The file is heavy: {} nodes make {triangles} triangles, {mb:.0} MB as STL; {MOST} are handled well",
        o.outline.nodes
    );
    let why = "It prints the same, but slicers take long to open, turn and cut it. Follow the picture more coarsely, put fine \
               details aside, or take out what is mere grain.";
    // A drawing's lines are followed as they are.
    let is_traced = !o.contours.histogram.is_empty();
    let coarser = COARSER_PX.iter().filter(|px| is_traced && **px > o.deviation).map(|px| {
        let edit = PictureEdit::SetDeviation { deviation: *px };
        Mend::by(format!("Follow the picture within {px} px"), edit)
    });
    found.push(
        Finding::new(HEAVY, what, why)
            .figure(Figure::count("triangles", triangles, Some(MOST)))
            .figure(Figure::count("nodes", o.outline.nodes, None))
            .mended_by(coarser),
    );
    Ok(())
}
