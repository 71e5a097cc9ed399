use crate::names::{Choice, ChoiceMeasure, Measure, Offered};
use crate::unit::{LengthError, parse_length};
use kachel_words::{Message, Unit, Value, mm, msg, number, said};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A recipe's name.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum RecipeKind {
    /// A wall that cuts dough, on a flange.
    Cutter,
    /// The same with lines that mark the dough.
    CutterStamp,
    /// A plate with a relief that prints into dough or clay.
    Stamp,
    /// A plate to put a cup on.
    Coaster,
    /// Something to hang up.
    Ornament,
    /// A body with pockets for disc magnets.
    Magnet,
    /// A tag with a hole for a ring.
    KeyTag,
    /// A coin, counter or medallion.
    Token,
    /// Lines tied to each other, in a ring, on a loop.
    Pendant,
    /// A plate with lettering.
    Plaque,
    /// Only the maker's own tiers.
    FreeStack,
}

/// What kind of value a measure has.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum MeasureKind {
    /// A length, mm.
    Length,
    /// A height above the bed, mm, which prints in whole layers.
    Height,
    /// A whole number.
    Count,
    /// Degrees anticlockwise, as the plan shows it.
    Angle,
    /// One of several, by its place in the list; documents keep the place, so lists only ever grow at their end.
    Choice(&'static [Offered]),
}

/// The little drawing beside a measure that shows what it does.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Picture {
    /// Out from a line.
    Outwards,
    /// In from a line.
    Inwards,
    /// How thick something upright is.
    Thick,
    /// How high something stands.
    High,
    /// Down from the top.
    Deep,
    /// Across a round or square thing.
    Across,
    /// The radius of a corner in plan.
    Corner,
    /// A bevel or round at an edge.
    Edge,
    /// A gap between two things.
    Gap,
    /// How far something is turned.
    Turn,
    /// How many.
    Many,
    /// One of several forms.
    Form,
}

/// One measure of a recipe.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MeasureSpec {
    /// Stable name, as in `--set wall-height=15mm`.
    pub name: &'static str,
    /// The part of the object it belongs to.
    pub group: &'static str,
    /// What it is called in messages: its name, or one of its own where a recipe says it otherwise.
    text: &'static str,
    /// What its value is.
    pub kind: MeasureKind,
    /// The drawing beside it.
    pub picture: Picture,
    /// Value of a new design; common practice of the trade, no source.
    pub default: f64,
    /// Smallest value.
    pub min: f64,
    /// Largest value.
    pub max: f64,
    /// Step of the arrow keys.
    pub step: f64,
}

impl MeasureSpec {
    const fn new(
        name: &'static str,
        group: &'static str,
        (kind, picture): (MeasureKind, Picture),
        (default, min, max): (f64, f64, f64),
        step: f64,
    ) -> Self {
        Self { name, group, text: name, kind, picture, default, min, max, step }
    }

    /// A length.
    pub(crate) const fn length(name: Measure, group: &'static str, picture: Picture, range: (f64, f64, f64)) -> Self {
        let step = if range.2 > 12.0 { 0.5 } else { 0.1 };
        Self::new(name.name(), group, (MeasureKind::Length, picture), range, step)
    }

    /// A height above the bed.
    pub(crate) const fn height(name: Measure, group: &'static str, range: (f64, f64, f64)) -> Self {
        Self::new(name.name(), group, (MeasureKind::Height, Picture::High), range, 0.2)
    }

    /// A whole number.
    pub(crate) const fn count(name: Measure, group: &'static str, range: (f64, f64, f64)) -> Self {
        Self::new(name.name(), group, (MeasureKind::Count, Picture::Many), range, 1.0)
    }

    /// Degrees.
    pub(crate) const fn angle(name: Measure, group: &'static str, range: (f64, f64, f64)) -> Self {
        Self::new(name.name(), group, (MeasureKind::Angle, Picture::Turn), range, 5.0)
    }

    /// One of several; the first is the default.
    pub(crate) const fn choice<C: Choice>(name: ChoiceMeasure<C>, group: &'static str, of: &'static [Offered]) -> Self {
        let range = (0.0, 0.0, (of.len() - 1) as f64);
        Self::new(name.name(), group, (MeasureKind::Choice(of), Picture::Form), range, 1.0)
    }

    /// With words of its own.
    pub(crate) const fn worded(mut self, text: &'static str) -> Self {
        self.text = text;
        self
    }

    /// The part of the object it belongs to.
    pub fn part(&self) -> Message {
        Message::new(format!("part-{}", self.group))
    }

    /// Its short name; the part `meaning` is what it does.
    pub fn label(&self) -> Message {
        Message::new(format!("measure-{}", self.text))
    }

    /// Whether it is a height above the bed.
    pub fn is_height(&self) -> bool {
        self.kind == MeasureKind::Height
    }

    /// Whether its value is millimetres.
    pub const fn is_length(&self) -> bool {
        matches!(self.kind, MeasureKind::Length | MeasureKind::Height)
    }

    /// A value in words: a length with its unit, a number, or the words of what is chosen.
    pub fn words(&self, value: f64) -> Value {
        match self.kind {
            MeasureKind::Length | MeasureKind::Height => mm(value),
            MeasureKind::Count => number(value),
            MeasureKind::Angle => msg!("degrees", n = number(value)).into(),
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a place in a short list")]
            MeasureKind::Choice(of) => of.get(value as usize).map(|c| Message::new(c.1)).into(),
        }
    }

    /// Reads a value as it is typed.
    pub fn parse(&self, text: &str, unit: Unit) -> Result<f64, LengthError> {
        match self.kind {
            MeasureKind::Length | MeasureKind::Height => parse_length(text, unit),
            MeasureKind::Count => {
                let number = text.trim().parse::<u32>().map(f64::from);
                number.map_err(|_| LengthError::NotANumber { text: text.chars().take(40).collect() })
            }
            MeasureKind::Angle => {
                let number = text.trim().trim_end_matches('°').trim_end().replace(',', ".").parse::<f64>();
                let finite = number.ok().filter(|v| v.is_finite());
                finite.ok_or_else(|| LengthError::NotANumber { text: text.chars().take(40).collect() })
            }
            MeasureKind::Choice(of) => {
                let known = || of.iter().map(|(name, _)| *name).collect::<Vec<_>>().join(", ");
                let wanted = text.trim();
                let is_it = |(name, code): &Offered| *name == wanted || Message::new(*code).to_string() == wanted;
                let found = of.iter().position(is_it);
                let place = found
                    .ok_or_else(|| LengthError::NotAmong { text: wanted.chars().take(40).collect(), known: known() })?;
                Ok(place as f64)
            }
        }
    }

    /// The value, or the end of the range that it lies beyond.
    pub const fn held(&self, value: f64) -> f64 {
        value.clamp(self.min, self.max)
    }

    /// Refuses a value outside the range, with the range.
    pub fn check(&self, value: f64) -> Result<(), MeasureError> {
        let is_whole = self.is_length() || self.kind == MeasureKind::Angle || value.fract() == 0.0;
        if value >= self.min && value <= self.max && is_whole {
            return Ok(());
        }
        Err(MeasureError::OutOfRange { spec: Box::new(*self), value })
    }
}

/// A rule that makes tiers from an outline and a handful of measures.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Recipe {
    /// Which one.
    pub kind: RecipeKind,
    /// Its name on the command line.
    pub name: &'static str,
    /// Its measures, in the order in which they are shown.
    pub measures: &'static [&'static [MeasureSpec]],
    /// Usual longest side of a new object, mm.
    pub usual_size: f64,
}

impl RecipeKind {
    /// Whether the tool is the mirror image of what it makes.
    pub const fn is_mirrored(self) -> bool {
        matches!(self, Self::Cutter | Self::CutterStamp | Self::Stamp)
    }

    /// Whether it cuts cookies, whose size counts then rather than the drawing's.
    pub const fn is_cutter(self) -> bool {
        matches!(self, Self::Cutter | Self::CutterStamp)
    }
}

impl Recipe {
    /// What it is called; the part `meaning` is what it makes, and `bed` which face is printed down.
    pub fn label(&self) -> Message {
        Message::new(format!("recipe-{}", self.name))
    }

    /// All its measures.
    pub fn all(&self) -> impl Iterator<Item = &'static MeasureSpec> {
        self.measures.iter().flat_map(|m| m.iter())
    }

    /// The measure of that name.
    pub fn measure(&self, name: &str) -> Result<&'static MeasureSpec, MeasureError> {
        self.all().find(|m| m.name == name).ok_or_else(|| MeasureError::Unknown {
            name: name.chars().take(40).collect(),
            known: self.all().map(|m| m.name).collect::<Vec<_>>().join(", "),
        })
    }
}

/// A refused measure.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum MeasureError {
    /// The recipe has none of that name.
    Unknown {
        /// What was asked for.
        name: String,
        /// What there is.
        known: String,
    },
    /// It is outside its range.
    OutOfRange {
        /// The measure.
        spec: Box<MeasureSpec>,
        /// What was asked for.
        value: f64,
    },
}

said!(MeasureError: |e| match e {
    MeasureError::Unknown { name, known } => msg!("no-measure", name = name, known = known),
    MeasureError::OutOfRange { spec, value } => {
        let [value, min, max] = [*value, spec.min, spec.max].map(|v| spec.words(v));
        msg!("measure-out-of-range", part = spec.part(), label = spec.label(), value = value, min = min, max = max)
    }
});

/// Values of a recipe's measures, all in range.
#[derive(Clone, Debug, PartialEq)]
pub struct Measures {
    recipe: &'static Recipe,
    values: BTreeMap<&'static str, f64>,
}

impl Measures {
    /// The recipe's defaults with `changed` over them. What the recipe does not have is left for the recipe that does: a
    /// design keeps its measures through a change of recipe.
    pub fn new(recipe: &'static Recipe, changed: &BTreeMap<String, f64>) -> Result<Self, MeasureError> {
        let mut values: BTreeMap<_, _> = recipe.all().map(|m| (m.name, m.default)).collect();
        for spec in recipe.all() {
            if let Some(value) = changed.get(spec.name) {
                spec.check(*value)?;
                values.insert(spec.name, *value);
            }
        }
        Ok(Self { recipe, values })
    }

    /// The value of a measure that the recipe has; 0 of one that it has not.
    pub fn get(&self, measure: Measure) -> f64 {
        self.values.get(measure.name()).copied().unwrap_or_default()
    }

    /// The recipe that they are of.
    pub const fn kind(&self) -> RecipeKind {
        self.recipe.kind
    }

    /// Whether the recipe has it.
    pub fn has(&self, measure: impl Into<Measure>) -> bool {
        self.values.contains_key(measure.into().name())
    }

    /// All about the measure of that name, if the recipe has it.
    pub fn spec_named(&self, name: &str) -> Option<&'static MeasureSpec> {
        self.recipe.measure(name).ok()
    }

    /// All about a measure that the recipe has.
    pub fn spec(&self, measure: impl Into<Measure>) -> Option<&'static MeasureSpec> {
        self.spec_named(measure.into().name())
    }

    /// What is chosen; `None` where the recipe has no such choice.
    pub fn choice<C: Choice>(&self, measure: ChoiceMeasure<C>) -> Option<C> {
        let MeasureKind::Choice(of) = self.spec(measure)?.kind else { return None };
        C::by_name(of.get(self.count(measure))?.0)
    }

    /// A whole number, or the place of a choice in its recipe's list.
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "checked: whole, small, not negative")]
    pub fn count(&self, measure: impl Into<Measure>) -> usize {
        self.get(measure.into()) as usize
    }

    /// All of them, by name.
    pub fn all(&self) -> impl Iterator<Item = (&'static str, f64)> {
        self.values.iter().map(|(n, v)| (*n, *v))
    }
}
