//! Mends are tried before they are offered: what does not mend is left out, and what harms nothing else can be done at once.

use crate::engine::{Engine, Picture};
use crate::error::EngineError;
use crate::run::Run;
use crate::view::is_accepted;
use kachel_check::{Code, Mend, Report, Weight};
use kachel_design::{Document, Edit, OutlineEdit};
use kachel_geom::Watch;
use kachel_outline::Use;
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// Mends that are tried of one design at most, one after the other.
const MOST_TRIED: usize = 60;
/// Findings that are mended at once at most.
const MOST_AT_ONCE: usize = 12;

/// What became of the mends of a design when they were tried.
#[derive(Clone, Debug, Default, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct MendsView {
    /// Mends that mend nothing: the finding's place in the list, and the mend's place in the finding.
    pub useless: Vec<[usize; 2]>,
    /// What mends all that can be mended without harm, as one change.
    pub safe: Option<SafeMends>,
}

/// Several mends at once.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct SafeMends {
    /// What is done, one sentence a finding.
    pub words: Vec<String>,
    /// The edits, in order: sent back as they are.
    pub edits: Vec<Edit>,
}

/// How bad the findings of one kind are: at how many places, and how far the worst figure is from its limit, as a share of it.
#[derive(Clone, Copy, PartialEq)]
struct Badness {
    places: usize,
    far: f64,
}

impl Badness {
    fn of(report: &Report, code: Code) -> Self {
        let all = || report.findings.iter().filter(|f| f.code == code);
        let far = |f: &kachel_check::Finding| {
            let figure = f.figures.first().and_then(|g| Some((g.value, g.limit?)));
            figure.map_or(0.0, |(value, limit)| (value - limit).abs() / limit.abs().max(1.0))
        };
        Self { places: all().map(|f| f.places.len().max(1)).sum(), far: all().map(far).fold(0.0, f64::max) }
    }

    fn is_better_than(self, other: Self) -> bool {
        self.places < other.places || self.far < other.far - 1e-9
    }
}

/// Whether there is nothing in `after` of the first two weights that was not there, or less bad, before.
fn harms_nothing(before: &Report, after: &Report) -> bool {
    let heavy = after.findings.iter().filter(|f| f.code.weight() != Weight::Note);
    heavy.map(|f| f.code).all(|code| {
        let (was, is) = (Badness::of(before, code), Badness::of(after, code));
        is.places <= was.places && is.far <= was.far + 1e-9
    })
}

/// Whether a mend leaves out something that was drawn: the maker decides that.
fn takes_away(mend: &Mend) -> bool {
    let is_aside = |e: &Edit| match e {
        Edit::Outline(OutlineEdit::SetUses { choices }) => choices.iter().any(|c| c.use_ == Use::Aside),
        _ => false,
    };
    mend.edits.iter().any(is_aside)
}

/// Tries mends, and counts them.
struct Trial<'t> {
    engine: &'t Engine,
    picture: Picture<'t>,
    watch: &'t Watch,
    left: usize,
}

impl Trial<'_> {
    /// The design with a finding's mend, and what Check says of it. `None` where the mend is refused, leaves no object, or leaves
    /// the finding as bad as it was.
    fn take(
        &mut self,
        d: &Document,
        report: &Report,
        code: Code,
        mend: &Mend,
    ) -> Result<Option<(Document, Arc<Report>)>, EngineError> {
        self.left = self.left.saturating_sub(1);
        let Ok(after) = self.engine.apply(d, &mend.edits, self.picture, self.watch)? else { return Ok(None) };
        let run = self.engine.run(&after, self.picture, self.watch);
        self.watch.check()?;
        let is_made = run.failed.is_none() && run.solid.is_some();
        let helps = is_made && Badness::of(&run.report, code).is_better_than(Badness::of(report, code));
        Ok(helps.then_some((after, run.report)))
    }
}

impl Engine {
    /// Tries every mend of a design's findings, and looks for those that can be done at once.
    pub fn tried_mends(
        &self,
        d: &Document,
        run: &Run,
        picture: Picture<'_>,
        watch: &Watch,
    ) -> Result<MendsView, EngineError> {
        let mut trial = Trial { engine: self, picture, watch, left: MOST_TRIED };
        let mut view = MendsView::default();
        for (i, finding) in run.report.findings.iter().enumerate() {
            for (k, mend) in finding.mends.iter().enumerate() {
                if trial.left == 0 {
                    break;
                }
                if trial.take(d, &run.report, finding.code, mend)?.is_none() {
                    view.useless.push([i, k]);
                }
            }
        }
        view.safe = self.safe_mends(d, run, Trial { left: MOST_TRIED, ..trial })?;
        Ok(view)
    }

    /// The best mend of each finding, one after the other, where it harms nothing else.
    fn safe_mends(&self, d: &Document, run: &Run, mut trial: Trial<'_>) -> Result<Option<SafeMends>, EngineError> {
        let mut safe = SafeMends { words: vec![], edits: vec![] };
        let mut now = d.clone();
        let mut report = run.report.clone();
        while safe.words.len() < MOST_AT_ONCE {
            let mut taken = None;
            for finding in report.findings.iter().filter(|f| f.code.weight() != Weight::Note) {
                let is_left = is_accepted(finding, &now.accepted);
                let best = finding.mends.first().filter(|m| !is_left && !takes_away(m) && trial.left > 0);
                let Some(mend) = best else { continue };
                let Some((after, next)) = trial.take(&now, &report, finding.code, mend)? else { continue };
                if harms_nothing(&report, &next) {
                    taken = Some((mend.clone(), after, next));
                    break;
                }
            }
            let Some((mend, after, next)) = taken else { break };
            safe.words.push(mend.words.said(d.unit));
            safe.edits.extend(mend.edits);
            (now, report) = (after, next);
        }
        Ok((!safe.words.is_empty()).then_some(safe))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_check::{Figure, Finding};

    const TIP: Code = Code::poor("tip");
    const NOTE: Code = Code::note("note");

    fn report(all: &[(Code, f64)]) -> Report {
        let finding = |&(code, value): &(Code, f64)| {
            Finding::new(code, kachel_words::msg!("just", value = "told")).figure(Figure::mm(
                "least width",
                value,
                Some(0.75),
            ))
        };
        Report { findings: all.iter().map(finding).collect(), looked: vec![] }
    }

    #[test]
    fn what_makes_another_finding_worse_or_new_does_harm() {
        let before = report(&[(TIP, 0.5)]);
        assert!(harms_nothing(&before, &before));
        assert!(harms_nothing(&before, &report(&[])));
        assert!(harms_nothing(&before, &report(&[(TIP, 0.6), (NOTE, 0.1)])), "notes are no harm");
        assert!(!harms_nothing(&before, &report(&[(TIP, 0.4)])), "thinner than before");
        assert!(!harms_nothing(&before, &report(&[(TIP, 0.5), (TIP, 0.6)])), "at one more place");
        assert!(!harms_nothing(&report(&[]), &report(&[(TIP, 0.7)])), "new");
    }
}
