use crate::finding::Finding;
use crate::object::Object;
use crate::report::Report;
use crate::rule::{Fault, RULE_FAILED, Rule};
use crate::rules::RULES;
use kachel_geom::{Stage, Stopped, Watch};
use kachel_words::{Message, msg};

/// Looks at everything, rule by rule.
pub fn check(o: &Object<'_>, watch: &Watch) -> Result<Report, Stopped> {
    watch.enter(Stage::Check)?;
    look(RULES, o, watch)
}

/// A rule that cannot run is a finding itself: nobody should take its silence for "all is well".
pub(crate) fn look(rules: &[Rule], o: &Object<'_>, watch: &Watch) -> Result<Report, Stopped> {
    let mut found = Report::default();
    for (done, rule) in rules.iter().enumerate() {
        watch.step(done, rules.len())?;
        match (rule.run)(o, &mut found) {
            Ok(()) => {}
            Err(Fault::Stopped(stopped)) => return Err(stopped),
            Err(fault @ Fault::OffGrid(_)) => {
                let what = msg!("rule-failed", at = Message::new(rule.looks_at), fault = fault.to_string());
                found.push(Finding::new(RULE_FAILED, what));
            }
        }
    }
    // The heaviest first; of one weight as the rules come.
    found.findings.sort_by_key(|f| f.code.weight());
    Ok(found)
}
