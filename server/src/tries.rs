//! Wrong pass phrases are slowed down: guessing one takes longer than anybody lives.

use std::collections::{HashMap, HashSet, VecDeque};
use std::net::IpAddr;
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

/// So many wrong ones an address may send at once; then one a second.
const AT_ONCE: u32 = 5;
const THEN_EVERY: Duration = Duration::from_secs(1);
/// So many in all within a time, over all addresses that have never had it right.
const IN_ALL: usize = 50;
const WITHIN: Duration = Duration::from_secs(60);
/// Addresses that are remembered.
const MOST: usize = 10_000;

/// What was tried.
#[derive(Debug, Default)]
pub struct Tries(Mutex<Tried>);

#[derive(Debug, Default)]
struct Tried {
    /// How often an address was wrong, and when last.
    wrong: HashMap<IpAddr, (u32, Instant)>,
    /// When any of them was.
    lately: VecDeque<Instant>,
    /// Addresses that had it right.
    known: HashSet<IpAddr>,
}

impl Tries {
    /// Whether a phrase of this address is looked at, right or wrong; notes what came of it.
    pub fn allow(&self, from: IpAddr, now: Instant, is_right: impl FnOnce() -> bool) -> Option<bool> {
        let mut tried = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        while tried.lately.front().is_some_and(|t| now.duration_since(*t) >= WITHIN) {
            tried.lately.pop_front();
        }
        let (count, last) = tried.wrong.get(&from).copied().unwrap_or((0, now));
        let is_hasty = count >= AT_ONCE && now.duration_since(last) < THEN_EVERY;
        if is_hasty || (tried.lately.len() >= IN_ALL && !tried.known.contains(&from)) {
            return None;
        }
        let is_right = is_right();
        if is_right {
            tried.wrong.remove(&from);
            if tried.known.len() < MOST {
                tried.known.insert(from);
            }
        } else {
            if tried.wrong.len() >= MOST {
                tried.wrong.clear();
            }
            tried.wrong.insert(from, (count + 1, now));
            tried.lately.push_back(now);
        }
        Some(is_right)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn address(n: u8) -> IpAddr {
        IpAddr::from([192, 168, 1, n])
    }

    #[test]
    fn after_five_wrong_ones_an_address_waits_a_second_for_each() {
        let (tries, start) = (Tries::default(), Instant::now());
        let wrong = |ms: u64| tries.allow(address(1), start + Duration::from_millis(ms), || false);
        assert!((0..5).all(|k| wrong(k) == Some(false)));
        assert_eq!((wrong(10), wrong(900)), (None, None));
        // The right one is not looked at either, or it could be guessed at full speed.
        assert_eq!(tries.allow(address(1), start + Duration::from_millis(950), || true), None);
        assert_eq!((wrong(1100), wrong(1200)), (Some(false), None));
        assert_eq!(tries.allow(address(1), start + Duration::from_millis(2200), || true), Some(true));
        assert_eq!(wrong(2201), Some(false), "the count begins anew");
        assert_eq!(tries.allow(address(2), start, || true), Some(true), "others do not wait");
    }

    #[test]
    fn many_addresses_together_get_fifty_a_minute_and_who_is_known_goes_on() {
        let (tries, start) = (Tries::default(), Instant::now());
        assert_eq!(tries.allow(address(200), start, || true), Some(true));
        let looked_at = (0..100).filter(|n| tries.allow(address(*n), start, || false).is_some()).count();
        assert_eq!(looked_at, 50);
        assert_eq!(tries.allow(address(200), start, || true), Some(true));
        assert_eq!(tries.allow(address(201), start, || true), None);
        assert_eq!(tries.allow(address(201), start + Duration::from_secs(61), || true), Some(true));
    }
}
