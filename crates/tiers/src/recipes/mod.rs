//! The recipes: measures as data, and one function each that makes tiers of an outline.

mod coaster;
mod common;
mod cutter;
mod hole;
mod hung;
mod magnet;
mod own;
mod plaque;
mod plates;
mod stamp;
mod token;

use crate::maker::Maker;
use crate::measure::{MeasureSpec, Measures, Picture, Recipe, RecipeKind};
use crate::names::measures as m;
use crate::own::Given;
use crate::{Area, Plans, Stack, TierError};
use common::{CRUMBS, EDGE, MARGIN, PLACE};
use hole::{HOLE_PLACE, LOOP_PLACE};
use kachel_geom::{Stage, Watch};
use kachel_outline::Outline;

/// All recipes.
pub const RECIPES: &[Recipe] = &[
    Recipe {
        kind: RecipeKind::Cutter,
        name: "cutter",
        usual_size: 90.0,
        measures: &[EDGE, cutter::WALL, cutter::FLANGE, cutter::BACK, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::CutterStamp,
        name: "cutter-stamp",
        usual_size: 90.0,
        measures: &[EDGE, cutter::WALL, cutter::FLANGE, cutter::BACK, cutter::STAMP, BARS, CRUMBS],
    },
    Recipe { kind: RecipeKind::Stamp, name: "stamp", usual_size: 50.0, measures: &[stamp::MEASURES, CRUMBS] },
    Recipe {
        kind: RecipeKind::Coaster,
        name: "coaster",
        usual_size: 60.0,
        measures: &[coaster::MEASURES, coaster::CORNERS, coaster::HEXAGON, PLACE, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Ornament,
        name: "ornament",
        usual_size: 80.0,
        measures: &[hung::ORNAMENT, HOLE_PLACE, CRUMBS],
    },
    Recipe { kind: RecipeKind::Magnet, name: "magnet", usual_size: 50.0, measures: &[magnet::MEASURES, CRUMBS] },
    Recipe {
        kind: RecipeKind::KeyTag,
        name: "key-tag",
        usual_size: 48.0,
        measures: &[hung::KEY_TAG, HOLE_PLACE, CRUMBS],
    },
    Recipe { kind: RecipeKind::Token, name: "token", usual_size: 24.0, measures: &[token::MEASURES, PLACE, CRUMBS] },
    Recipe {
        kind: RecipeKind::Pendant,
        name: "pendant",
        usual_size: 36.0,
        measures: &[hung::PENDANT, LOOP_PLACE, BARS, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Plaque,
        name: "plaque",
        usual_size: 80.0,
        measures: &[plaque::MEASURES, plaque::CORNERS, CRUMBS],
    },
    Recipe { kind: RecipeKind::FreeStack, name: "free-stack", usual_size: 60.0, measures: &[&[MARGIN]] },
];

impl RecipeKind {
    /// Everything about it.
    pub fn recipe(self) -> &'static Recipe {
        RECIPES.iter().find(|r| r.kind == self).unwrap_or(&RECIPES[0])
    }
}

impl Recipe {
    /// The recipe of that name.
    pub fn by_name(name: &str) -> Option<&'static Self> {
        RECIPES.iter().find(|r| r.name == name)
    }
}

/// Tie bars: common practice, no source.
const BARS: &[MeasureSpec] = &[
    MeasureSpec::length(m::BAR_WIDTH, "tie-bars", Picture::Thick, (2.0, 0.0, 10.0)),
    MeasureSpec::count(m::BARS, "tie-bars", (0.0, 0.0, 6.0)),
];

/// Makes the stack of a recipe: a pure function of what goes in. Areas made before are taken from `plans`.
pub fn stack(
    kind: RecipeKind,
    outline: &Outline,
    m: &Measures,
    given: &Given,
    plans: &Plans,
    watch: &Watch,
) -> Result<Stack, TierError> {
    watch.enter(Stage::Tiers)?;
    let mut maker = Maker {
        outline,
        m,
        given,
        plans,
        watch,
        stack: Stack::default(),
        edge: Area::default(),
        details: vec![],
        crumbs: [0; 2],
        laid: None,
    };
    maker.take_details();
    let edge = maker.make_edge(kind.border(m))?;
    maker.edge = maker.without_crumbs(&edge);
    maker.stack.edge = maker.edge.clone();
    match kind {
        RecipeKind::Cutter => cutter::make(&mut maker, false)?,
        RecipeKind::CutterStamp => cutter::make(&mut maker, true)?,
        RecipeKind::Stamp => stamp::make(&mut maker)?,
        RecipeKind::Coaster => coaster::make(&mut maker)?,
        RecipeKind::Ornament => hung::ornament(&mut maker)?,
        RecipeKind::Magnet => magnet::make(&mut maker)?,
        RecipeKind::KeyTag => hung::key_tag(&mut maker)?,
        RecipeKind::Token => token::make(&mut maker)?,
        RecipeKind::Pendant => hung::pendant(&mut maker)?,
        RecipeKind::Plaque => plaque::make(&mut maker)?,
        RecipeKind::FreeStack => {}
    }
    // The maker's own tiers come after the recipe's.
    for tier in &given.own {
        own::put(tier, &mut maker)?;
    }
    maker.cut_openings()?;
    let made = maker.finish(kind.is_mirrored());
    // Where something was to be made but was not, a doubt says why.
    if made.tiers.is_empty() && made.doubts.is_empty() { Err(TierError::NoTiers) } else { Ok(made) }
}
