//! The rules, one file each or a family. To add one: its file, and its name in the list below.

use crate::rule::Rule;

macro_rules! rules {
    ($($name:ident),* $(,)?) => {
        $(pub mod $name;)*

        /// All rules, in the order in which their findings are listed.
        pub const RULES: &[Rule] = &[$($name::RULE),*];
    };
}

rules![
    bed, floats, overhang, heights, walls, recipe, low_tiers, finishes, filaments, loose, thin_lines, picture, changes,
    choices
];
