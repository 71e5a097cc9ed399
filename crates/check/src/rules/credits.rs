//! What the maker typed of the picture's owner and terms.

use crate::rule::{Fault, Rule};
use crate::{Code, Finding, Mend, Object, Report};
use kachel_design::{Credit, GeneralEdit};
use kachel_words::msg;

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-credits", codes: &[NOT_FOR_SALE, CREDIT_OF_ANOTHER], run };

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
        found.push(Finding::new(NOT_FOR_SALE, msg!("not-for-sale", licence = licence)));
    }
    if let Some(earlier) = o.credit_of.filter(|_| *o.credit != Credit::default()) {
        let emptied = GeneralEdit::SetCredit { credit: Credit::default() };
        let kept = GeneralEdit::SetCredit { credit: o.credit.clone() };
        found.push(
            Finding::new(CREDIT_OF_ANOTHER, msg!("credit-of-another", earlier = earlier))
                .mended(Mend::by(msg!("credit-is-right"), kept))
                .mended(Mend::by(msg!("empty-credit"), emptied)),
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
