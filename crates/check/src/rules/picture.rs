//! What reading and tracing the picture left out or did by a simpler rule.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Object};
use kachel_artwork::Doubt;

pub(super) const RULE: Rule = Rule {
    looks_at: "how the picture was read",
    codes: &[SPECKS_DROPPED, PICTURE_REDUCED, PICTURE_CUT_OFF, FIRST_PICTURE, SIMPLER_RULE],
    run,
};

/// Specks were dropped.
pub const SPECKS_DROPPED: Code = Code::new("specks-dropped");
/// A large picture is worked on at a reduced size.
pub const PICTURE_REDUCED: Code = Code::new("picture-reduced");
/// The file ended before the picture did.
pub const PICTURE_CUT_OFF: Code = Code::new("picture-cut-off");
/// The file holds more pictures than the one used.
pub const FIRST_PICTURE: Code = Code::new("first-picture");
/// A part of an SVG was read by a simpler rule.
pub const SIMPLER_RULE: Code = Code::new("simpler-rule");

fn run(o: &Object<'_>, found: &mut Vec<Finding>) -> Result<(), Fault> {
    let specks = o.contours.specks;
    if specks > 0 {
        let many = if specks == 1 { "speck was" } else { "specks were" };
        let what = format!("{specks} {many} left out as too small");
        let why = "Dust and compression noise look like this. At Artwork, lower the speck size to keep them.";
        found.push(Finding::new(SPECKS_DROPPED, what, why).figure(Figure::count("specks", specks, None)));
    }
    for doubt in &o.contours.doubts {
        let code = match doubt {
            Doubt::Reduced { .. } => PICTURE_REDUCED,
            Doubt::CutOff => PICTURE_CUT_OFF,
            Doubt::FirstOfSeveral => FIRST_PICTURE,
            Doubt::Text | Doubt::Image | Doubt::Effect | Doubt::Shading => SIMPLER_RULE,
        };
        found.push(Finding::new(code, doubt.words(), "The object follows what was read."));
    }
    Ok(())
}
