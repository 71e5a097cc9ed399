//! Choices of patches that have lost their patch.

use crate::rule::{Fault, Rule};
use crate::{Code, Finding, Mend, Object, Report};
use kachel_design::OutlineEdit;
use kachel_outline::{Choice, Use};
use kachel_words::{Message, msg, number};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-choices", codes: &[LOST_PATCH], run };

/// A choice has lost its patch.
pub const LOST_PATCH: Code = Code::note("lost-patch");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    found.extend(o.outline.lost.iter().map(lost));
    Ok(())
}

fn lost(choice: &Choice) -> Finding {
    let was = Message::new(match choice.use_ {
        Use::Edge => "was-edge",
        Use::Detail => "was-detail",
        Use::Both => "was-both",
        Use::Opening => "was-opening",
        Use::Aside => "was-aside",
    });
    let [x, y] = [choice.spot.at.x, choice.spot.at.y].map(|v| number(v).decimals(0));
    let forget = OutlineEdit::ForgetChoice { choice: *choice };
    Finding::new(LOST_PATCH, msg!("lost-patch", was = was, x = x, y = y)).mended(Mend::by(msg!("forget-it"), forget))
}
