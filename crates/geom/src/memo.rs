use foldhash::fast::RandomState as Hashing;
use quick_cache::sync::{Cache, DefaultLifecycle};
use quick_cache::{OptionsBuilder, UnitWeighter};
use siphasher::sip128::{Hasher128, SipHasher13};
use std::fmt;
use std::hash::{BuildHasher, Hash, RandomState};
use std::sync::LazyLock;

/// 128 bits that stand for a value: values with equal names are taken to be equal.
///
/// The hash is keyed anew in each process (SipHash-1-3 with 128 bits; Aumasson and Bernstein, "SipHash: a fast short-input
/// PRF", 2012), so nobody can prepare two values with one name; by chance it takes some 2^64 values. Names are for memory
/// only and never stored.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
pub struct Name(u128);

impl Name {
    /// The name of a value: over everything that its `Hash` covers.
    pub fn of(value: &(impl Hash + ?Sized)) -> Self {
        static KEYS: LazyLock<[u64; 2]> = LazyLock::new(|| [0_u8, 1].map(|k| RandomState::new().hash_one(k)));
        let [a, b] = *KEYS;
        let mut hasher = SipHasher13::new_with_keys(a, b);
        value.hash(&mut hasher);
        Self(hasher.finish128().as_u128())
    }
}

impl fmt::Debug for Name {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:032x}", self.0)
    }
}

/// The share of a memo for what has been asked for more than once; the rest is for what is new.
const HOT_SHARE: f64 = 0.5;

/// Results by what they were made of; those that are not asked for are given up when it is full. Keys may be large: they are
/// hashed quickly, and compared where hashes are equal.
pub struct Memo<K, V>(Cache<K, V, UnitWeighter, Hashing>);

impl<K, V> fmt::Debug for Memo<K, V> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("Memo")
    }
}

impl<K: Eq + Hash + Clone, V: Clone> Memo<K, V> {
    /// An empty one for so many results. Half of the room is for new ones: with less (3 % is usual), what was just made goes at once
    /// where everything else has been asked for twice, and whoever comes for it by its name finds nothing.
    pub fn new(capacity: usize) -> Self {
        let mut options = OptionsBuilder::new();
        options.estimated_items_capacity(capacity).weight_capacity(capacity as u64).hot_allocation(HOT_SHARE);
        let (hashing, life) = (Hashing::default(), DefaultLifecycle::default());
        Self(match options.build() {
            Ok(options) => Cache::with_options(options, UnitWeighter, hashing, life),
            Err(_) => Cache::with(capacity, capacity as u64, UnitWeighter, hashing, life),
        })
    }

    /// A result that is known.
    pub fn get(&self, key: &K) -> Option<V> {
        self.0.get(key)
    }

    /// Keeps a result.
    pub fn put(&self, key: K, value: V) {
        self.0.insert(key, value);
    }

    /// How many results are known.
    pub fn len(&self) -> usize {
        self.0.len()
    }

    /// Whether nothing is known.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// The result, made now if it is not known. Threads that ask at the same time may each make it; none waits, so this
    /// one is safe inside parallel jobs.
    pub fn get_or<E>(&self, key: K, make: impl FnOnce(&K) -> Result<V, E>) -> Result<V, E> {
        if let Some(found) = self.get(&key) {
            return Ok(found);
        }
        let made = make(&key)?;
        self.put(key, made.clone());
        Ok(made)
    }

    /// The result, made once however many ask at the same time; where the first to ask fails, the next one makes it.
    ///
    /// Others wait meanwhile. So it is not for parallel jobs: a thread that waits for its helpers may take up another job,
    /// and would wait for itself if that one asked for the same result.
    pub fn get_or_once<E>(&self, key: &K, make: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        self.0.get_or_insert_with(key, make)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::convert::Infallible;
    use std::sync::atomic::{AtomicUsize, Ordering};
    use std::time::Duration;

    #[test]
    fn what_was_just_made_is_there_however_much_is_asked_for_often() {
        for capacity in [4_usize, 12, 64, 200] {
            let memo: Memo<usize, usize> = Memo::new(capacity);
            // A busy room: everything in it is asked for again and again.
            for k in 0..4 * capacity {
                memo.put(k, k);
                (0..3).for_each(|_| _ = memo.get(&k));
            }
            // A new result is there when it is asked for, also after others have been made meanwhile.
            for round in 0..50 {
                let new = 10_000 + round * 10;
                memo.put(new, round);
                (1..capacity / 8).for_each(|k| memo.put(new + 1_000_000 + k, k));
                assert_eq!(memo.get(&new), Some(round), "capacity {capacity}");
            }
        }
    }

    #[test]
    fn a_result_is_made_once_however_many_ask() {
        let memo: Memo<u8, u32> = Memo::new(4);
        let made = AtomicUsize::new(0);
        let make = || {
            made.fetch_add(1, Ordering::SeqCst);
            std::thread::sleep(Duration::from_millis(20));
            Ok::<_, Infallible>(7)
        };
        std::thread::scope(|s| {
            for _ in 0..8 {
                s.spawn(|| assert_eq!(memo.get_or_once(&1, make), Ok(7)));
            }
        });
        assert_eq!(made.load(Ordering::SeqCst), 1);
    }

    #[test]
    fn after_a_failure_or_a_panic_the_next_one_makes_it() {
        let memo: Memo<u8, u32> = Memo::new(4);
        assert_eq!(memo.get_or_once(&1, || Err("stopped")), Err("stopped"));
        let panicked = std::thread::scope(|s| {
            s.spawn(|| memo.get_or_once(&1, || -> Result<u32, Infallible> { panic!("on purpose") })).join()
        });
        assert!(panicked.is_err());
        assert_eq!(memo.get_or_once(&1, || Ok::<_, Infallible>(3)), Ok(3));
        assert_eq!(memo.get_or(1, |_| -> Result<u32, Infallible> { panic!("it is known") }), Ok(3));
    }

    #[test]
    fn it_never_holds_more_than_it_may() {
        let memo: Memo<u32, u32> = Memo::new(10);
        (0..1000).for_each(|k| memo.put(k, k));
        assert!(memo.len() <= 10 && !memo.is_empty());
    }

    #[test]
    fn names_are_of_everything_that_is_hashed() {
        assert_eq!(Name::of(&(1, "a")), Name::of(&(1, "a")));
        assert_ne!(Name::of(&(1, "a")), Name::of(&(1, "b")));
        assert_ne!(Name::of(&[1_u8, 2]), Name::of(&[2_u8, 1]));
    }
}
