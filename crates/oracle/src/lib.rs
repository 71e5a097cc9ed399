//! Independent truths for tests: slow, simple, and without a line of the product's code. The product never depends on it.

mod crossing;
mod random;

pub use crossing::{Corner, crossing};
pub use random::Random;
