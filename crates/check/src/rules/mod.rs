//! The rules, one file each or a family. To add one: its file, and its name in the list below.

use crate::rule::Rule;

pub mod cover;
mod over_air;

macro_rules! rules {
    ($($name:ident),* $(,)?) => {
        $(pub mod $name;)*

        /// All rules, in the order in which their findings are listed.
        pub const RULES: &[Rule] = &[$($name::RULE),*];
    };
}

rules![
    bed, holds, floats, air, thin, layering, heights, flange, walls, cookies, dough, cup, hangs, recipe, low_tiers,
    finishes, filaments, shows, loose, picture, changes, letters, choices, heavy, credits
];
