//! Every mend that Check offers mends: taken, its finding is gone, or less of it is left.

use super::*;

/// How bad a finding is: how many places it has, and how far its first figure is from its limit. A recipe's doubts have their
/// figures in words: what is said first, against what is said next.
fn badness(view: &ResultView, code: &str) -> (usize, f64) {
    let all: Vec<_> = view.findings.iter().filter(|f| f.code == code).collect();
    let places = all.iter().map(|f| f.places.len().max(1)).sum();
    let in_words = |f: &FindingView| {
        let mut numbers = f.what.split(' ').filter_map(|w| w.parse::<f64>().ok());
        Some((numbers.next()?, numbers.next()?))
    };
    let far = |f: &&FindingView| {
        let told = f.figures.first().and_then(|g| Some((g.value, g.limit?)));
        told.or_else(|| in_words(f)).map_or(0.0, |(value, limit)| (value - limit).abs() / limit.abs().max(1.0))
    };
    (places, all.iter().map(far).fold(0.0, f64::max))
}

#[test]
fn every_mend_of_random_designs_mends() {
    const SAMPLES: [&str; 5] = ["beetroot", "ginkgo", "hedgehog", "snail", "moth"];
    let known = |id: &&&str| Sample::by_id(id).is_some();
    let ids: Vec<&str> = SAMPLES.iter().filter(known).copied().collect();
    assert!(ids.len() >= 3, "samples have other names now");
    let taken = std::cell::Cell::new(0);
    for_all(60, |random| {
        let mut design = Design::sample(ids[random.below(ids.len())]);
        let kinds = kachel_tiers::RECIPES;
        let recipe = &kinds[random.below(kinds.len())];
        design.edit(&[TierEdit::SetRecipe { recipe: recipe.kind }.into()]).unwrap();
        design.edit(&[width(&format!("{:.1}", random.between(14.0, 110.0)))]).unwrap();
        // Some of the measures go to the ends of their ranges, where things go wrong.
        let measures: Vec<(String, f64, f64)> = design
            .view()
            .measures
            .iter()
            .filter(|m| m.options.is_empty())
            .map(|m| (m.name.into(), m.min, m.max))
            .collect();
        for _ in 0..3 {
            let (name, min, max) = &measures[random.below(measures.len().max(1))];
            let share = random.unit().powi(3);
            let value = min + (max - min) * share;
            drop(design.edit(&[measure(name, &format!("{value:.2}"))]));
        }
        let view = design.view();
        for finding in &view.findings {
            let before = badness(&view, finding.code);
            for mend in &finding.mends {
                let mut mended = design.clone();
                let described = format!("{}: '{}' by '{}'", recipe.name, finding.what, mend.words);
                mended.edit(&mend.edits).unwrap_or_else(|e| panic!("{described}: {e}"));
                let now = mended.view();
                let after = badness(&now, finding.code);
                let left: Vec<_> = now.findings.iter().filter(|f| f.code == finding.code).map(|f| &f.what).collect();
                let is_better = after.0 < before.0 || after.1 < before.1 - 1e-9;
                assert!(is_better, "{described} mends nothing: {before:?}, then {after:?}: {left:?}");
                taken.set(taken.get() + 1);
            }
        }
    });
    assert!(taken.get() >= 20, "{} mends were tried", taken.get());
}

#[test]
fn a_finding_that_is_accepted_is_told_again_when_its_figures_change() {
    let mut design = Design::sample("beetroot");
    design.edit(&[measure("taper-in", "1.4")]).unwrap();
    let tip = |d: &Design| d.view().findings.into_iter().find(|f| f.code == "thin-tip");
    let found = tip(&design).unwrap();
    assert!(!found.is_accepted);
    let finding = kachel_design::Accepted {
        code: found.code.into(),
        figures: found.figures.iter().map(|f| f.value).collect(),
        places: found.places.len(),
    };
    design.edit(&[GeneralEdit::AcceptFinding { finding: finding.clone() }.into()]).unwrap();
    assert!(tip(&design).unwrap().is_accepted);
    // Another measure changes nothing of it; a tip that is thinner by more than a tenth is told.
    design.edit(&[measure("wall-height", "16")]).unwrap();
    assert!(tip(&design).unwrap().is_accepted);
    design.edit(&[measure("taper-in", "1.5")]).unwrap();
    assert!(!tip(&design).unwrap().is_accepted);
    design.edit(&[measure("taper-in", "1.4")]).unwrap();
    assert!(tip(&design).unwrap().is_accepted);
    design.edit(&[GeneralEdit::TellFinding { code: "thin-tip".into() }.into()]).unwrap();
    assert!(!tip(&design).unwrap().is_accepted && design.document.accepted.is_empty());
    // What nobody can mean is refused.
    let endless = kachel_design::Accepted { figures: vec![0.0; 1000], ..finding };
    assert!(design.edit(&[GeneralEdit::AcceptFinding { finding: endless }.into()]).is_err());
}
