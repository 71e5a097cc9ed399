//! Choices of patches that have lost their patch.

use crate::rule::{Fault, Rule};
use crate::{Code, Finding, Mend, Object, Report};
use kachel_design::OutlineEdit;
use kachel_outline::{Choice, Use};

pub(super) const RULE: Rule = Rule { looks_at: "choices that have lost their patch", codes: &[LOST_PATCH], run };

/// A choice has lost its patch.
pub const LOST_PATCH: Code = Code::note("lost-patch");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    found.extend(o.outline.lost.iter().map(lost));
    Ok(())
}

fn lost(choice: &Choice) -> Finding {
    let was = match choice.use_ {
        Use::Edge => "edge",
        Use::Detail => "detail",
        Use::Both => "edge and detail",
        Use::Opening => "cut through",
        Use::Aside => "put aside",
    };
    let (x, y) = (choice.spot.at.x, choice.spot.at.y);
    let what = format!("A patch chosen as '{was}' at {x:.0}, {y:.0} px is no longer in the picture");
    let why = "The threshold or the picture has changed. The choice is kept in case the patch comes back.";
    Finding::new(LOST_PATCH, what, why).mended(Mend::by("Forget it", OutlineEdit::ForgetChoice { choice: *choice }))
}
