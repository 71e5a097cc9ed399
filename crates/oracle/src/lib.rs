//! Independent truths for tests: slow, simple, and without a line of the product's code. The product never depends on it.

mod crossing;
mod property;
mod random;

pub use crossing::{Corner, crossing};
pub use property::{for_all, for_all_shared};
pub use random::Random;
