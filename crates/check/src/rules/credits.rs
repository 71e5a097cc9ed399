//! What the maker typed of the picture's owner and terms.

use crate::rule::{Fault, Rule};
use crate::{Code, Finding, Mend, Object, Report};
use kachel_design::{Credit, GeneralEdit};

pub(super) const RULE: Rule =
    Rule { looks_at: "the picture's credit and licence", codes: &[NOT_FOR_SALE, CREDIT_OF_ANOTHER], run };

/// The licence, as it was typed, forbids selling.
pub const NOT_FOR_SALE: Code = Code::note("not-for-sale");
/// The credit was entered for an earlier picture.
pub const CREDIT_OF_ANOTHER: Code = Code::note("credit-of-another");

/// Words of licences that allow no selling, in lower case.
const FORBIDS: [&str; 7] =
    ["noncommercial", "non commercial", "not for sale", "no sale", "not to be sold", "personal use", "private use"];

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let licence = o.credit.licence.trim();
    if forbids_selling(licence) && o.credit.note.trim().is_empty() {
        let what = format!("The licence '{licence}' allows no selling");
        let why = "You may make it for yourself or as a gift. To sell it, ask the picture's maker, and note the permission with \
                   the credit.";
        found.push(Finding::new(NOT_FOR_SALE, what, why));
    }
    if let Some(earlier) = o.credit_of.filter(|_| *o.credit != Credit::default()) {
        let what = format!("The credit was entered for '{earlier}', which is no longer the picture");
        let why = "It goes into every file that is taken home. Say whose picture it is now.";
        let emptied = GeneralEdit::SetCredit { credit: Credit::default() };
        let kept = GeneralEdit::SetCredit { credit: o.credit.clone() };
        found.push(
            Finding::new(CREDIT_OF_ANOTHER, what, why)
                .mended(Mend::by("It is right for this one, too", kept))
                .mended(Mend::by("Empty it", emptied)),
        );
    }
    Ok(())
}

/// Whether a licence's own words forbid selling. 'NC' as a word of its own is the mark of Creative Commons for it
/// (creativecommons.org/licenses/by-nc/4.0, from memory).
fn forbids_selling(licence: &str) -> bool {
    let lower = licence.to_lowercase();
    let words: Vec<&str> = lower.split(|c: char| !c.is_alphanumeric()).filter(|w| !w.is_empty()).collect();
    let text = words.join(" ");
    words.contains(&"nc") || FORBIDS.iter().any(|f| text.contains(f))
}
