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
    let (taken, useless) = (std::cell::Cell::new(0), std::cell::Cell::new(0));
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
        let tried = design.tried();
        for (i, finding) in view.findings.iter().enumerate() {
            let before = badness(&view, finding.code);
            for (k, mend) in finding.mends.iter().enumerate() {
                let described = format!("{}: '{}' by '{}'", recipe.name, finding.what, mend.words);
                let mut mended = design.clone();
                mended.edit(&mend.edits).unwrap_or_else(|e| panic!("{described}: {e}"));
                let now = mended.view();
                let after = badness(&now, finding.code);
                let left: Vec<_> = now.findings.iter().filter(|f| f.code == finding.code).map(|f| &f.what).collect();
                let is_better = after.0 < before.0 || after.1 < before.1 - 1e-9;
                taken.set(taken.get() + 1);
                if tried.useless.contains(&[i, k]) {
                    println!(
                        "USELESS {described}: {before:?} {after:?} {left:?} {:?}",
                        now.problem.as_ref().map(|p| &p.message)
                    );
                    useless.set(useless.get() + 1);
                    continue;
                }
                assert!(is_better, "{described} mends nothing: {before:?}, then {after:?}: {left:?}");
            }
        }
        // What is offered all at once does as much, and nothing of the first two weights is new.
        if let Some(safe) = tried.safe {
            let mut mended = design.clone();
            mended.edit(&safe.edits).unwrap();
            let heavy = |v: &ResultView| v.findings.iter().filter(|f| f.weight != "note").map(|f| f.code).collect();
            let (was, is): (Vec<_>, Vec<_>) = (heavy(&view), heavy(&mended.view()));
            assert!(is.iter().all(|code| was.contains(code)), "{:?}: {was:?}, then {is:?}", safe.words);
        }
    });
    assert!(taken.get() >= 20, "{} mends were tried", taken.get());
    assert!(useless.get() * 20 <= taken.get(), "{} of {} mend nothing", useless.get(), taken.get());
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

#[test]
fn a_mend_that_mends_nothing_is_known_and_the_rest_is_done_at_once() {
    // Six loose spots, and a taper that ends too thin.
    let mut design = Design::sample("ladybird");
    design.edit(&[measure("bar-width", "0"), measure("taper-in", "1.4")]).unwrap();
    let codes = |d: &Design| weighty(&d.view());
    assert_eq!(codes(&design), ["loose-part", "thin-tip"]);
    let tried = design.tried();
    assert!(tried.useless.is_empty(), "{:?}", tried.useless);
    let safe = tried.safe.unwrap();
    assert_eq!(safe.words.len(), 2, "{:?}", safe.words);
    design.edit(&safe.edits).unwrap();
    assert_eq!(codes(&design), Vec::<&str>::new());
    // Nothing is left to mend.
    assert!(design.tried().safe.is_none());
}
