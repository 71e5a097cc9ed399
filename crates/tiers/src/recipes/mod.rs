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
        label: "Cutter",
        meaning: "A wall that cuts along the edge, on a flange that the hand presses.",
        bed: "Prints flange down, wall up, without supports.",
        usual_size: 90.0,
        measures: &[EDGE, cutter::WALL, cutter::FLANGE, cutter::BACK, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::CutterStamp,
        name: "cutter-stamp",
        label: "Cutter with stamp",
        meaning: "The same with the details as lines that mark the dough, tied to the flange.",
        bed: "Prints flange down, wall up, without supports.",
        usual_size: 90.0,
        measures: &[EDGE, cutter::WALL, cutter::FLANGE, cutter::BACK, cutter::STAMP, BARS, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Stamp,
        name: "stamp",
        label: "Stamp",
        meaning: "A plate with the details raised or sunk, mirrored so that the print reads right.",
        bed: "Prints plate down, relief up, without supports; the grip stands beside it.",
        usual_size: 50.0,
        measures: &[stamp::MEASURES, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Coaster,
        name: "coaster",
        label: "Coaster",
        meaning: "A plate for a cup, with the drawing raised, engraved, cut through or inlaid.",
        bed: "Prints underside down, without supports.",
        usual_size: 60.0,
        measures: &[coaster::MEASURES, coaster::CORNERS, coaster::HEXAGON, PLACE, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Ornament,
        name: "ornament",
        label: "Ornament",
        meaning: "A flat shape that hangs straight, by a hole or an eyelet above its centre of mass.",
        bed: "Prints back down, without supports.",
        usual_size: 80.0,
        measures: &[hung::ORNAMENT, HOLE_PLACE, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Magnet,
        name: "magnet",
        label: "Magnet",
        meaning: "A body with round pockets for disc magnets.",
        bed: "Prints back down, without supports; the pockets' roofs are short bridges.",
        usual_size: 50.0,
        measures: &[magnet::MEASURES, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::KeyTag,
        name: "key-tag",
        label: "Key tag",
        meaning: "A backing round the drawing with a hole for a ring.",
        bed: "Prints back down, without supports.",
        usual_size: 48.0,
        measures: &[hung::KEY_TAG, HOLE_PLACE, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Token,
        name: "token",
        label: "Token",
        meaning: "A coin, counter or medallion.",
        bed: "Prints back down, without supports.",
        usual_size: 24.0,
        measures: &[token::MEASURES, PLACE, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Pendant,
        name: "pendant",
        label: "Pendant",
        meaning: "What is drawn, as lines tied to each other, in a ring, on a loop.",
        bed: "Prints flat, without supports.",
        usual_size: 36.0,
        measures: &[hung::PENDANT, LOOP_PLACE, BARS, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::Plaque,
        name: "plaque",
        label: "Plaque",
        meaning: "A plate with lettering, a frame and holes for screws.",
        bed: "Prints back down, without supports.",
        usual_size: 80.0,
        measures: &[plaque::MEASURES, plaque::CORNERS, CRUMBS],
    },
    Recipe {
        kind: RecipeKind::FreeStack,
        name: "free-stack",
        label: "Free stack",
        meaning: "Only tiers of your own.",
        bed: "Prints as it is stacked; whether it needs supports is up to you.",
        usual_size: 60.0,
        measures: &[&[MARGIN]],
    },
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
    MeasureSpec::length(
        m::BAR_WIDTH,
        "Tie bars",
        "Width",
        "Width of the bars that hold loose pieces; 0 leaves them away",
        Picture::Thick,
        (2.0, 0.0, 10.0),
    ),
    MeasureSpec::count(
        m::BARS,
        "Tie bars",
        "For each piece",
        "How many bars at least hold each loose piece; 0 gives large rings two and others one",
        (0.0, 0.0, 6.0),
    ),
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
