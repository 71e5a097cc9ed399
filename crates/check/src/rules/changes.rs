//! Entries of the list of changes that do not do all they were meant to.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::{Closing, OutlineEdit};
use kachel_outline::Astray;

pub(super) const RULE: Rule = Rule {
    looks_at: "changes of the outline that do not do what they were meant to",
    codes: &[LOST_CHANGE, NOTHING_LEFT, MOVED_ON, OPEN_LINE, MISSING_LETTER],
    run,
};

/// A change of the outline has lost its patch.
pub const LOST_CHANGE: Code = Code::note("lost-change");
/// A change of the outline leaves nothing.
pub const NOTHING_LEFT: Code = Code::note("nothing-left");
/// A patch with its own nodes, and the picture has changed under it.
pub const MOVED_ON: Code = Code::note("moved-on");
/// A drawn line is open.
pub const OPEN_LINE: Code = Code::poor("open-line");
/// A text's face lacks letters.
pub const MISSING_LETTER: Code = Code::poor("missing-letter");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    found.extend(o.outline.astray.iter().map(astray));
    Ok(())
}

fn astray(a: &Astray) -> Finding {
    let off = || Mend::by("Switch it off", OutlineEdit::SwitchChange { id: a.id, is_on: false });
    if !a.lost.is_empty() {
        let why =
            "It stays in the list at Outline, where it can be given another patch; the rest of the list is applied.";
        return Finding::new(LOST_CHANGE, "A change of the outline has lost its patch", why).mended(off());
    }
    if a.moved_on.is_some() {
        let what = "The picture has moved on under a patch with nodes of its own";
        let why = "The patch keeps its nodes. To follow the picture, switch 'own nodes' off at Outline.";
        let stay = Mend::by("Stay with my nodes", OutlineEdit::KeepNodes { id: a.id });
        return Finding::new(MOVED_ON, what, why).mended(stay);
    }
    if let Some(mm) = a.gap {
        let what = format!("A drawn line is open: its ends are {mm:.2} mm apart");
        let why = "An open line without a width encloses nothing and makes nothing.";
        let close = Mend::by("Join its ends", OutlineEdit::CloseLines { ids: vec![a.id], how: Closing::Join });
        return Finding::new(OPEN_LINE, what, why)
            .figure(Figure::mm("distance of the ends", mm, Some(0.0)))
            .mended(close);
    }
    if !a.missing.is_empty() {
        let letters: Vec<String> = a.missing.iter().map(char::to_string).collect();
        let what = format!("A text's face does not have: {}", letters.join(" "));
        let why = "Their places stay empty. Choose another face for the text at Outline.";
        return Finding::new(MISSING_LETTER, what, why);
    }
    let why = "It stays in the list at Outline; the rest of the list is applied.";
    Finding::new(NOTHING_LEFT, "A change of the outline leaves nothing of its patches", why).mended(off())
}
