//! Property tests whose failures shrink.

use crate::Random;
use proptest::collection::vec;
use proptest::num::u64::ANY;
use proptest::test_runner::{Config, RngAlgorithm, TestError, TestRng, TestRunner};

/// How many of a case's draws can be shrunk; what a test draws after them comes from seed 1.
const DRAWS: usize = 200;
/// How often a failing case is tried smaller.
const TRIES: u32 = 400;
/// For how long, ms, that goes on.
const MOST_MS: u32 = 20_000;

/// Runs a test with so many random sequences, the same ones each time; `KACHEL_CASES=10` runs ten times as many. The first that
/// fails is made smaller, draw by draw, as long as it fails.
///
/// ```should_panic
/// // Shrinks to the draws [0, 1000]: the first number does not matter, the second is the smallest that fails.
/// kachel_oracle::for_all(100, |random| {
///     random.bits();
///     assert!(random.bits() < 1000);
/// });
/// ```
///
/// # Panics
/// With the smallest failing case and what the test said to it.
pub fn for_all(cases: u32, test: impl Fn(&mut Random)) {
    run(cases, TestRng::deterministic_rng(RngAlgorithm::ChaCha), test);
}

/// So many threads share the cases: their number decides which cases there are.
const THREADS: u8 = 4;

/// As [`for_all`], on several cores: for cases that take long.
///
/// # Panics
/// As [`for_all`].
pub fn for_all_shared(cases: u32, test: impl Fn(&mut Random) + Sync) {
    std::thread::scope(|all| {
        for thread in 0..THREADS {
            let test = &test;
            let rng = TestRng::from_seed(RngAlgorithm::ChaCha, &[thread + 1; 32]);
            all.spawn(move || run(cases.div_ceil(u32::from(THREADS)), rng, test));
        }
    });
}

fn run(cases: u32, rng: TestRng, test: impl Fn(&mut Random)) {
    let more = std::env::var("KACHEL_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(1);
    let config = Config {
        cases: cases * more,
        max_shrink_iters: TRIES,
        max_shrink_time: MOST_MS,
        failure_persistence: None,
        ..Config::default()
    };
    let mut runner = TestRunner::new_with_rng(config, rng);
    let outcome = runner.run(&vec(ANY, DRAWS / 2..DRAWS), |draws| {
        test(&mut Random::of_draws(&draws));
        Ok(())
    });
    match outcome {
        Ok(()) => {}
        Err(TestError::Fail(why, draws)) => {
            panic!("{why}\nfails with Random::of_draws(&{draws:?})")
        }
        Err(TestError::Abort(why)) => panic!("gave up: {why}"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::panic::catch_unwind;

    #[test]
    fn a_failure_shrinks_to_the_smallest_case() {
        let failure = catch_unwind(|| {
            for_all(100, |random| {
                let numbers: Vec<u64> = (0..3).map(|_| random.bits()).collect();
                assert!(numbers[1] < 1000, "{} is too large", numbers[1]);
            });
        });
        let why = *failure.unwrap_err().downcast::<String>().unwrap();
        assert!(why.contains("1000 is too large"), "{why}");
    }

    #[test]
    fn what_holds_runs_as_often_as_asked() {
        let times = std::cell::Cell::new(0);
        for_all(30, |_| times.set(times.get() + 1));
        assert_eq!(times.get(), 30);
    }

    #[test]
    fn shared_cases_are_all_run_and_differ() {
        let seen = std::sync::Mutex::new(std::collections::BTreeSet::new());
        for_all_shared(40, |random| {
            seen.lock().unwrap().insert(random.bits());
        });
        assert!(seen.lock().unwrap().len() > 36, "{:?}", seen.lock().unwrap());
        let failed = || for_all_shared(40, |random| assert_eq!(random.bits() % 2, 0));
        assert!(catch_unwind(failed).is_err());
    }
}
