use crate::finding::{Finding, Place};
use kachel_words::Message;

/// Something that was measured, whether or not it is a finding.
#[derive(Clone, Debug, PartialEq)]
pub struct Looked {
    /// What was looked at, as a heading: the code of its message.
    pub what: &'static str,
    /// What was measured, with units and where.
    pub said: Message,
    /// Where that is; empty where it is everywhere or nowhere.
    pub places: Vec<Place>,
}

/// What Check has to say.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Report {
    /// What is the matter, the heaviest first.
    pub findings: Vec<Finding>,
    /// What was measured.
    pub looked: Vec<Looked>,
}

impl Report {
    /// Adds a finding.
    pub fn push(&mut self, finding: Finding) {
        self.findings.push(finding);
    }

    /// Adds findings.
    pub fn extend(&mut self, findings: impl IntoIterator<Item = Finding>) {
        self.findings.extend(findings);
    }

    /// Tells what was measured.
    pub fn looked(&mut self, what: &'static str, said: Message, places: impl IntoIterator<Item = Place>) {
        self.looked.push(Looked { what, said, places: places.into_iter().collect() });
    }
}
