//! Numbers for property tests that come out the same on every machine.

/// xorshift64* (S. Vigna, 'An experimental exploration of Marsaglia's xorshift generators, scrambled', 2016,
/// doi:10.1145/2845077), so that a failing case is found again by its seed.
#[derive(Clone, Debug)]
pub struct Random {
    /// What is drawn first, the last one at the front.
    draws: Vec<u64>,
    state: u64,
}

impl Random {
    /// A sequence of its own for each seed; seed 0 counts as 1.
    pub const fn new(seed: u64) -> Self {
        Self { draws: Vec::new(), state: if seed == 0 { 1 } else { seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) } }
    }

    /// These 64 bits each first, and then what seed 1 gives: what a failing property test has been shrunk to.
    pub fn of_draws(draws: &[u64]) -> Self {
        Self { draws: draws.iter().rev().copied().collect(), ..Self::new(1) }
    }

    /// The next 64 bits.
    pub fn bits(&mut self) -> u64 {
        if let Some(bits) = self.draws.pop() {
            return bits;
        }
        self.state ^= self.state >> 12;
        self.state ^= self.state << 25;
        self.state ^= self.state >> 27;
        self.state.wrapping_mul(0x2545_f491_4f6c_dd1d)
    }

    /// A number from 0 to below 1.
    #[expect(clippy::cast_precision_loss, reason = "53 bits are exact")]
    pub fn unit(&mut self) -> f64 {
        (self.bits() >> 11) as f64 / (1u64 << 53) as f64
    }

    /// A number from `low` to below `high`.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    /// A whole number below `n`, which must not be 0.
    #[expect(clippy::cast_possible_truncation, reason = "below n, which is a usize")]
    pub fn below(&mut self, n: usize) -> usize {
        (self.bits() % n as u64) as usize
    }
}
