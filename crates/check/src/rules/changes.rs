//! Entries of the list of changes that do not do all they were meant to.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::{Closing, OutlineEdit};
use kachel_outline::Astray;
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule {
    looks_at: "looks-at-changes",
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
    let off = || Mend::by(msg!("switch-it-off"), OutlineEdit::SwitchChange { id: a.id, is_on: false });
    if !a.lost.is_empty() {
        return Finding::new(LOST_CHANGE, msg!("lost-change")).mended(off());
    }
    if a.moved_on.is_some() {
        let stay = Mend::by(msg!("stay-with-my-nodes"), OutlineEdit::KeepNodes { id: a.id });
        return Finding::new(MOVED_ON, msg!("moved-on")).mended(stay);
    }
    if let Some(gap) = a.gap {
        let close = Mend::by(msg!("join-its-ends"), OutlineEdit::CloseLines { ids: vec![a.id], how: Closing::Join });
        return Finding::new(OPEN_LINE, msg!("open-line", gap = mm(gap).decimals(2)))
            .figure(Figure::mm("distance-of-ends", gap, Some(0.0)))
            .mended(close);
    }
    if !a.missing.is_empty() {
        let letters: Vec<String> = a.missing.iter().map(char::to_string).collect();
        return Finding::new(MISSING_LETTER, msg!("missing-letter", letters = letters.join(" ")));
    }
    Finding::new(NOTHING_LEFT, msg!("nothing-left")).mended(off())
}
