//! Check: what would go wrong at the printer or at the table. Soundness gates export, by type; all of this is advice.
//!
//! Each rule, or family of rules, is a file in [`rules`]; [`RULES`] lists them. A [`Finding`] carries the edits that mend
//! it, so a mend can be several changes of the design and is one undo.

mod finding;
mod object;
pub mod rules;

use kachel_geom::{Stage, Stopped, Watch};

pub use finding::{Code, Figure, FigureUnit, Finding, Mend, Place};
pub use object::Object;
pub use rules::{Fault, RULES, Rule};

/// Looks at everything, rule by rule.
pub fn check(o: &Object<'_>, watch: &Watch) -> Result<Vec<Finding>, Stopped> {
    watch.enter(Stage::Check)?;
    look(RULES, o, watch)
}

/// A rule that cannot run is a finding itself: nobody should take its silence for "all is well".
fn look(rules: &[Rule], o: &Object<'_>, watch: &Watch) -> Result<Vec<Finding>, Stopped> {
    let mut found = Vec::new();
    for (done, rule) in rules.iter().enumerate() {
        watch.step(done, rules.len())?;
        match (rule.run)(o, &mut found) {
            Ok(()) => {}
            Err(Fault::Stopped(stopped)) => return Err(stopped),
            Err(fault @ Fault::OffGrid(_)) => {
                let what = format!("Check could not look at {}: {fault}", rule.looks_at);
                let why = "What this rule would have found is not in the list. A smaller object can be looked at.";
                found.push(Finding::new(rules::RULE_FAILED, what, why));
            }
        }
    }
    Ok(found)
}

#[cfg(test)]
mod tests;
