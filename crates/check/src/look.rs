use crate::finding::Finding;
use crate::object::Object;
use crate::report::Report;
use crate::rule::{Fault, RULE_FAILED, Rule};
use crate::rules::RULES;
use kachel_geom::{Stage, Stopped, Watch};
use kachel_words::{Message, msg};
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering::Relaxed};

/// Looks at everything, rule by rule.
pub fn check(o: &Object<'_>, watch: &Watch) -> Result<Report, Stopped> {
    watch.enter(Stage::Check)?;
    look(RULES, o, watch)
}

/// On as many threads as there are cores. A rule that cannot run is a finding itself: nobody should take its silence for "all is well".
pub(crate) fn look(rules: &[Rule], o: &Object<'_>, watch: &Watch) -> Result<Report, Stopped> {
    let done = AtomicUsize::new(0);
    let run = |rule: &Rule| {
        watch.step(done.fetch_add(1, Relaxed), rules.len())?;
        let mut found = Report::default();
        match (rule.run)(o, &mut found) {
            Ok(()) => Ok(found),
            Err(Fault::Stopped(stopped)) => Err(stopped),
            Err(fault @ Fault::OffGrid(_)) => {
                let what = msg!("rule-failed", at = Message::new(rule.looks_at), fault = fault.to_string());
                found.push(Finding::new(RULE_FAILED, what));
                Ok(found)
            }
        }
    };
    let all: Vec<Report> = rules.par_iter().with_max_len(1).map(run).collect::<Result<_, _>>()?;
    let mut found = Report::default();
    for report in all {
        found.findings.extend(report.findings);
        found.looked.extend(report.looked);
    }
    // The heaviest first; of one weight as the rules come.
    found.findings.sort_by_key(|f| f.code.weight());
    Ok(found)
}
