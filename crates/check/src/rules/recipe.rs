//! What the recipe itself doubts.

use super::choices::LOST_PATCH;
use crate::rule::{Fault, Rule, scaled, set};
use crate::rules::loose::aside;
use crate::{Code, Finding, Mend, Object, Place, Report};
use kachel_design::{Axis, GeneralEdit, Length, SizeOf};
use kachel_tiers::{Doubt, DoubtKind, MendBy};
use kachel_words::Message;

pub(super) const RULE: Rule = Rule {
    looks_at: "looks-at-recipe",
    codes: &[NO_HEIGHT, TOO_DEEP, NO_ROOM, SEALED, CUT_OFF, BREAKS_OUT, TOO_LONG],
    run,
};

/// Something has no height or no area and was left out.
pub const NO_HEIGHT: Code = Code::poor("no-height");
/// Something goes through what it is cut into.
pub const TOO_DEEP: Code = Code::fault("too-deep");
/// Something does not fit where it has to go.
pub const NO_ROOM: Code = Code::fault("no-room");
/// Something closes a gap of the edge.
pub const SEALED: Code = Code::note("sealed-gap");
/// Details reach over the edge, where they are cut off.
pub const CUT_OFF: Code = Code::poor("cut-off");
/// A hole breaks out of the edge.
pub const BREAKS_OUT: Code = Code::fault("breaks-out");
/// The object is longer than is usual.
pub const TOO_LONG: Code = Code::note("too-long");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    found.extend(o.stack.doubts.iter().map(|d| finding(d, o)));
    Ok(())
}

fn finding(d: &Doubt, o: &Object<'_>) -> Finding {
    let code = match d.kind {
        DoubtKind::NoHeight => NO_HEIGHT,
        DoubtKind::TooDeep => TOO_DEEP,
        DoubtKind::NoRoom => NO_ROOM,
        DoubtKind::Sealed => SEALED,
        DoubtKind::CutOff => CUT_OFF,
        DoubtKind::BreaksOut => BREAKS_OUT,
        DoubtKind::TooLong => TOO_LONG,
        DoubtKind::LostPatch => LOST_PATCH,
    };
    let mends = d.mends.iter().filter_map(|mend| {
        let edits = match &mend.by {
            MendBy::Measure(measure, value) => vec![set(*measure, *value)],
            MendBy::Measures(all) => all.iter().map(|(measure, value)| set(*measure, *value)).collect(),
            MendBy::Scale(factor) => vec![scaled(o, *factor)],
            MendBy::Whole { is_width, mm } => {
                let axis = if *is_width { Axis::Width } else { Axis::Height };
                vec![GeneralEdit::SetSize { axis, value: Length::Mm(*mm), of: SizeOf::Object }.into()]
            }
            MendBy::Aside(patches) => {
                let all = o.outline.patches.iter().enumerate();
                let mut edges = all.filter(|(_, p)| p.use_.is_edge()).map(|(k, _)| patches.contains(&k)).peekable();
                // Not where no edge would be left to make anything of.
                if edges.peek().is_some() && edges.all(|goes| goes) {
                    return None;
                }
                vec![aside(patches.iter().filter_map(|k| o.outline.patches.get(*k))).into()]
            }
        };
        Some(Mend { words: mend.words.clone(), edits })
    });
    let why = Message::new(format!("why-{}", code.name()));
    Finding::new(code, d.what.clone()).because(why).at_all(d.place.as_deref().map(Place::of_region)).mended_by(mends)
}
