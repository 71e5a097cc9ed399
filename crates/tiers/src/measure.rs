use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A recipe's name.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum RecipeKind {
    /// A wall that cuts dough, on a flange.
    Cutter,
}

/// One measure of a recipe. All are lengths in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MeasureSpec {
    /// Stable name, as in `--set wall-height=15mm`.
    pub name: &'static str,
    /// The part of the object it belongs to.
    pub group: &'static str,
    /// Short name in the interface.
    pub label: &'static str,
    /// What it does.
    pub meaning: &'static str,
    /// Value of a new design, mm; common practice of the trade, no source.
    pub default: f64,
    /// Smallest value, mm.
    pub min: f64,
    /// Largest value, mm.
    pub max: f64,
    /// Step of the arrow keys, mm.
    pub step: f64,
    /// Whether it is a height above the bed, which prints in whole layers.
    pub is_height: bool,
}

/// A rule that makes tiers from an outline and a handful of measures.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Recipe {
    /// Which one.
    pub kind: RecipeKind,
    /// Its name on the command line.
    pub name: &'static str,
    /// Its name in the interface.
    pub label: &'static str,
    /// What it makes.
    pub meaning: &'static str,
    /// Its measures, in the order in which they are shown.
    pub measures: &'static [MeasureSpec],
    /// Usual longest side of a new object, mm.
    pub usual_size: f64,
}

/// All recipes.
pub const RECIPES: &[Recipe] = &[Recipe {
    kind: RecipeKind::Cutter,
    name: "cutter",
    label: "Cutter",
    meaning: "A wall that cuts along the edge, on a flange that the hand presses. Prints flange down, wall up, \
              without supports. Inner patches kept as detail become stamp lines.",
    usual_size: 90.0,
    measures: &[
        MeasureSpec {
            name: "margin",
            group: "Edge",
            label: "Margin",
            meaning: "How far the edge lies outside the drawing",
            default: 0.0,
            min: 0.0,
            max: 10.0,
            step: 0.5,
            is_height: false,
        },
        MeasureSpec {
            name: "wall-thickness",
            group: "Wall",
            label: "Thickness",
            meaning: "How thick the wall is, outwards from the edge",
            default: 1.6,
            min: 0.2,
            max: 10.0,
            step: 0.1,
            is_height: false,
        },
        MeasureSpec {
            name: "wall-height",
            group: "Wall",
            label: "Height",
            meaning: "Height of the wall's top above the bed, flange included",
            default: 15.0,
            min: 2.0,
            max: 60.0,
            step: 0.2,
            is_height: true,
        },
        MeasureSpec {
            name: "flange-width",
            group: "Flange",
            label: "Width",
            meaning: "How far the flange reaches out from the wall's outer face; 0 leaves it away",
            default: 3.0,
            min: 0.0,
            max: 30.0,
            step: 0.5,
            is_height: false,
        },
        MeasureSpec {
            name: "flange-height",
            group: "Flange",
            label: "Height",
            meaning: "Height of the flange's upper side above the bed",
            default: 2.0,
            min: 0.2,
            max: 20.0,
            step: 0.2,
            is_height: true,
        },
        MeasureSpec {
            name: "stamp-under-wall",
            group: "Stamp lines",
            label: "Under the wall",
            meaning: "How much lower than the wall's top the stamp lines end",
            default: 3.0,
            min: 0.0,
            max: 58.0,
            step: 0.2,
            is_height: false,
        },
    ],
}];

impl RecipeKind {
    /// Everything about it.
    pub fn recipe(self) -> &'static Recipe {
        match self {
            Self::Cutter => &RECIPES[0],
        }
    }
}

impl Recipe {
    /// The recipe of that name.
    pub fn by_name(name: &str) -> Option<&'static Self> {
        RECIPES.iter().find(|r| r.name == name)
    }

    /// The measure of that name.
    pub fn measure(&self, name: &str) -> Result<&'static MeasureSpec, MeasureError> {
        self.measures.iter().find(|m| m.name == name).ok_or_else(|| MeasureError::Unknown {
            name: name.chars().take(40).collect(),
            known: self.measures.iter().map(|m| m.name).collect::<Vec<_>>().join(", "),
        })
    }
}

/// A refused measure.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum MeasureError {
    /// The recipe has none of that name.
    #[error("there is no measure '{name}' here; there are {known}")]
    Unknown {
        /// What was asked for.
        name: String,
        /// What there is.
        known: String,
    },
    /// It is outside its range.
    #[error("{group} {label}: {value} mm is outside {min} to {max} mm")]
    OutOfRange {
        /// The part of the object.
        group: &'static str,
        /// The measure, in lower case.
        label: String,
        /// What was asked for.
        value: f64,
        /// Smallest value.
        min: f64,
        /// Largest value.
        max: f64,
    },
}

/// Values of a recipe's measures, all in range.
#[derive(Clone, Debug, PartialEq)]
pub struct Measures {
    values: BTreeMap<&'static str, f64>,
}

impl Measures {
    /// The recipe's defaults with `changed` over them.
    pub fn new(recipe: &'static Recipe, changed: &BTreeMap<String, f64>) -> Result<Self, MeasureError> {
        let mut values: BTreeMap<_, _> = recipe.measures.iter().map(|m| (m.name, m.default)).collect();
        for (name, value) in changed {
            let spec = recipe.measure(name)?;
            spec.check(*value)?;
            values.insert(spec.name, *value);
        }
        Ok(Self { values })
    }

    /// The value of a measure that the recipe has, mm.
    pub fn get(&self, name: &'static str) -> f64 {
        self.values.get(name).copied().unwrap_or_default()
    }
}

impl MeasureSpec {
    /// Refuses a value outside the range, with the range.
    pub fn check(&self, value: f64) -> Result<(), MeasureError> {
        if value >= self.min && value <= self.max {
            return Ok(());
        }
        Err(MeasureError::OutOfRange {
            group: self.group,
            label: self.label.to_lowercase(),
            value,
            min: self.min,
            max: self.max,
        })
    }
}
