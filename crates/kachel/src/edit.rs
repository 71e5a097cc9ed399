use crate::document::{Credit, Document, Guide, MAX_CHOICES, MAX_NAME, PatchFilament};
use crate::engine::Source;
use crate::{outline_edit, picture_edit, tier_edit};
use kachel_artwork::{ArtworkError, Crop, Straighten, Stroke};
use kachel_check::Mend;
use kachel_outline::{Change, Choice, Outline, OutlineError, SIZE_RANGE_MM, Size, Spot, Use};
use kachel_tiers::{Bar, LengthError, MeasureError, MeasureKind, OwnTier, RecipeKind, Unit, parse_length};
use kachel_trace::{ColourSettings, Ink, MAX_COLOURS};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A direction of the edge's box.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(rename_all = "kebab-case")]
pub enum Axis {
    /// Left to right.
    Width,
    /// Bottom to top.
    Height,
}

/// How an open line is closed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(rename_all = "kebab-case")]
pub enum Closing {
    /// Straight from end to end.
    Join,
    /// Both ends go straight on to where they cross.
    Extend,
}

/// A change of a document. Lengths come as typed, with or without a unit.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Edit {
    /// Calls the design something else.
    Rename {
        /// The new name.
        name: String,
    },
    /// Says whose picture it is.
    SetCredit {
        /// All of it.
        credit: Credit,
    },
    /// Shows lengths in another unit.
    SetUnit {
        /// The unit.
        unit: Unit,
    },
    /// Decides by what ink is told.
    SetInk {
        /// The way.
        ink: Ink,
    },
    /// Cuts grey at a value, or automatically.
    SetThreshold {
        /// 1 to 254, or none for automatic.
        threshold: Option<u8>,
    },
    /// Swaps ink and ground.
    SetInvert {
        /// Whether they are swapped.
        invert: bool,
    },
    /// Sets under which area specks are dropped.
    SetMinArea {
        /// Square pixels, 0 to 10 000.
        min_area: f64,
    },
    /// Sets under which area gaps are filled.
    SetMinGap {
        /// Square pixels, 0 to 10 000.
        min_gap: f64,
    },
    /// Sets from which turn on a bend is a corner.
    SetBend {
        /// Degrees, 5 to 120.
        bend: f64,
    },
    /// Decides how colours are told apart.
    SetColours {
        /// All of it.
        colours: ColourSettings,
    },
    /// Gives all pen lines one width, or lets each be as wide as it was drawn.
    SetPenWidth {
        /// The length as typed.
        value: Option<String>,
    },
    /// Levels uneven light, or not.
    SetLevel {
        /// Whether it is levelled.
        level: bool,
    },
    /// Draws on the picture.
    AddStroke {
        /// The stroke, in pixels of the original picture.
        stroke: Stroke,
    },
    /// Takes every stroke off the picture.
    ClearStrokes,
    /// Makes a photographed sheet a rectangle of its true size, or takes that back.
    Straighten {
        /// The sheet and its corners.
        straighten: Option<Straighten>,
    },
    /// Turns the picture by quarters.
    Turn {
        /// Quarter turns clockwise, -3 to 3.
        quarters: i8,
    },
    /// Turns the picture by a few degrees more.
    SetDegrees {
        /// Degrees clockwise, -45 to 45.
        degrees: f64,
    },
    /// Flips the picture.
    Flip {
        /// Along which axis: its width swaps left and right.
        axis: Axis,
    },
    /// Keeps a part of the picture, or all of it.
    SetCrop {
        /// The part, in pixels of the turned picture.
        crop: Option<Crop>,
    },
    /// Says how far apart two points of the picture are.
    SetDistance {
        /// One point, pixels of the prepared picture.
        from: [f64; 2],
        /// The other one.
        to: [f64; 2],
        /// The length as typed.
        value: String,
    },
    /// Takes the size that the file itself states.
    SetFileSize,
    /// Sets how closely contours are followed.
    SetDeviation {
        /// Pixels, 0 to 5.
        deviation: f64,
    },
    /// Gives patches a use.
    SetUses {
        /// The patches, each by a point in it.
        choices: Vec<Choice>,
    },
    /// Adds a change of the outline at the end of the list, or before another one.
    AddChange {
        /// What is done.
        change: Change,
        /// Name of the entry that comes after it.
        #[serde(default)]
        #[ts(optional)]
        before: Option<u32>,
    },
    /// Adds a line that a hand drew in one go: as curves that stay near its points.
    DrawFreehand {
        /// The points in order, pixels of the picture.
        points: Vec<[f64; 2]>,
        /// Largest distance from them, pixels.
        deviation: f64,
        /// Whether its ends are joined.
        is_closed: bool,
        /// Its width, mm; none makes an area of a closed line.
        width: Option<f64>,
        /// Its use.
        #[serde(rename = "use")]
        use_: Use,
    },
    /// Changes an entry of the list.
    SetChange {
        /// Its name.
        id: u32,
        /// What is done instead.
        change: Change,
    },
    /// Sets a length of an entry, as it is typed.
    SetChangeLength {
        /// The entry's name.
        id: u32,
        /// Which length.
        name: String,
        /// What was typed.
        value: String,
    },
    /// Switches an entry on or off.
    SwitchChange {
        /// Its name.
        id: u32,
        /// Whether it is applied.
        is_on: bool,
    },
    /// Moves an entry within the list.
    OrderChange {
        /// Its name.
        id: u32,
        /// Its new place, from 0.
        to: usize,
    },
    /// Takes an entry off the list.
    RemoveChange {
        /// Its name.
        id: u32,
    },
    /// Stays with a patch's own nodes, though the picture has changed under it or the patch is gone.
    KeepNodes {
        /// The entry's name.
        id: u32,
    },
    /// Closes drawn lines.
    CloseLines {
        /// The entries' names.
        ids: Vec<u32>,
        /// How.
        how: Closing,
    },
    /// Joins all ends of open drawn lines that are no further apart than a length: of one line, or of several.
    CloseGaps {
        /// The length as typed.
        value: String,
    },
    /// Says which patches must not be touched.
    SetPins {
        /// All of them.
        pins: Vec<Spot>,
    },
    /// Puts guides on the picture.
    SetGuides {
        /// All of them.
        guides: Vec<Guide>,
    },
    /// Gives an entry of the list of changes other patches in place of those that are gone.
    RepointChange {
        /// The entry's name.
        id: u32,
        /// The patches; with none it does without, and goes where that leaves it nothing to work on.
        to: Vec<Spot>,
    },
    /// Forgets a choice that has lost its patch.
    ForgetChoice {
        /// The choice as it stands in the document.
        choice: Choice,
    },
    /// Makes the edge this wide or high.
    SetSize {
        /// Which of the two.
        axis: Axis,
        /// The length as typed.
        value: String,
    },
    /// Pins width or height, so that the scale follows the choice of patches; or lets go of both.
    PinSize {
        /// Which of the two.
        axis: Option<Axis>,
    },
    /// Chooses the rule that makes tiers.
    SetRecipe {
        /// The rule.
        recipe: RecipeKind,
    },
    /// Adds a tier of the maker's own at the end.
    AddTier {
        /// The tier; its id is given.
        tier: OwnTier,
    },
    /// Changes an own tier.
    SetTier {
        /// The tier, by its id.
        tier: OwnTier,
    },
    /// Sets a length of an own tier, as it is typed.
    SetTierLength {
        /// Which tier.
        id: u32,
        /// from, to, grow, rim, top-inset, top-depth, bottom-inset or bottom-depth.
        name: String,
        /// What was typed.
        value: String,
    },
    /// Puts an end of a tier at a height, as it is typed: what moves it follows.
    SetHeight {
        /// The measure that moves the end, or of an own tier the length.
        name: String,
        /// The own tier.
        own: Option<u32>,
        /// The height at which the measure is 0, mm.
        base: f64,
        /// Whether the measure rises downwards.
        is_down: bool,
        /// The height from which `value` counts, mm: 0 for the bed.
        from: f64,
        /// What was typed.
        value: String,
    },
    /// Takes an own tier off the stack.
    RemoveTier {
        /// Which.
        id: u32,
    },
    /// Moves an own tier within the stack.
    OrderTier {
        /// Which.
        id: u32,
        /// Its new place, from 0.
        to: usize,
    },
    /// Places the tie bars, or lets them be found.
    SetBars {
        /// All of them, in pixels of the picture.
        bars: Option<Vec<Bar>>,
    },
    /// Chooses the filament of a tier.
    SetFilament {
        /// The tier's key.
        key: String,
        /// The filament; none for the usual one.
        filament: Option<String>,
    },
    /// Chooses the filament of patches.
    PaintPatches {
        /// Each by a point in it.
        paints: Vec<PatchFilament>,
    },
    /// Prints what names a filament in the usual one.
    DropFilament {
        /// The filament.
        filament: String,
    },
    /// Gives a measure a value.
    SetMeasure {
        /// Its stable name.
        name: String,
        /// The length as typed.
        value: String,
    },
    /// Gives a measure its default back.
    ResetMeasure {
        /// Its stable name.
        name: String,
    },
}

/// What edits may have to know of the document before them.
#[derive(Clone, Copy, Debug, Default)]
pub struct Basis<'a> {
    /// Its outline, where [`Edit::needs_outline`].
    pub outline: Option<&'a Outline>,
    /// Its picture, where [`Edit::needs_picture`].
    pub source: Option<Source>,
}

/// Range of the width of pen lines, mm.
pub const PEN_RANGE_MM: (f64, f64) = (0.1, 50.0);
/// Range of a distance between two points of the picture, mm.
const DISTANCE_RANGE_MM: (f64, f64) = (0.1, 5000.0);

/// Why an edit was refused. Nothing was changed.
#[derive(Debug, thiserror::Error)]
pub enum EditError {
    /// What was typed is no length.
    #[error(transparent)]
    Length(#[from] LengthError),
    /// A length outside its range.
    #[error("{what} can be {min} to {max}; {value} is outside")]
    OutOfRange {
        /// What it is.
        what: String,
        /// What was asked for.
        value: String,
        /// Smallest value, with its unit.
        min: String,
        /// Largest value, with its unit.
        max: String,
    },
    /// There is no such measure.
    #[error(transparent)]
    Measure(MeasureError),
    /// An empty or overlong name, or overlong credit.
    #[error("{what} has {length} characters; it can have {min} to {max}")]
    Text {
        /// What it is.
        what: &'static str,
        /// How long it is.
        length: usize,
        /// Fewest characters.
        min: usize,
        /// Most characters.
        max: usize,
    },
    /// Too many choices.
    #[error("{found} choices; the most is {MAX_CHOICES}")]
    TooManyChoices {
        /// How many there would be.
        found: usize,
    },
    /// A point that is no point.
    #[error("a patch is told by two numbers")]
    NoPoint,
    /// A change that can never be applied.
    #[error("{why}")]
    Change {
        /// Why not.
        why: String,
    },
    /// The patch is pinned.
    #[error("that patch is pinned; let go of it first")]
    Pinned,
    /// There is no such tier.
    #[error("that tier is no longer in the stack")]
    UnknownTier,
    /// There is no such entry.
    #[error("that change is no longer in the list")]
    UnknownChange,
    /// Two points that are one.
    #[error("the two points lie on each other; put them further apart")]
    EqualPoints,
    /// The file states no size that makes sense.
    #[error("the file does not say how large its picture is")]
    NoFileSize,
    /// A tool for pixels on a picture of lines.
    #[error("an SVG has no pixels to draw on or to level; choose patches at Outline instead")]
    NoPixels,
    /// Too many strokes, or too many points in them.
    #[error("{found} {what}; the most is {most}")]
    TooManyStrokes {
        /// Strokes or points of strokes.
        what: &'static str,
        /// How many there would be.
        found: usize,
        /// How many there can be.
        most: usize,
    },
    /// The picture cannot be prepared so.
    #[error(transparent)]
    Artwork(ArtworkError),
    /// The size cannot be set while nothing is the edge.
    #[error(transparent)]
    Outline(#[from] OutlineError),
}

/// A length as people read it: up to three decimals in mm, four in inches.
pub(crate) fn show(mm: f64, unit: Unit) -> String {
    let (value, digits, name) = match unit {
        Unit::Mm => (mm, 1e3, "mm"),
        Unit::In => (mm / 25.4, 1e4, "in"),
    };
    format!("{} {name}", (value * digits).round() / digits)
}

pub(crate) fn in_range(
    what: &str,
    value: f64,
    (min, max): (f64, f64),
    show: impl Fn(f64) -> String,
) -> Result<(), EditError> {
    // Typed inches may miss a bound by a rounding.
    if value >= min - 1e-9 && value <= max + 1e-9 {
        return Ok(());
    }
    Err(EditError::OutOfRange { what: what.into(), value: show(value), min: show(min), max: show(max) })
}

fn text(what: &'static str, value: &str, min: usize, max: usize) -> Result<String, EditError> {
    let value = value.trim();
    let length = value.chars().count();
    if length < min || length > max {
        return Err(EditError::Text { what, length, min, max });
    }
    Ok(value.chars().map(|c| if c.is_control() { ' ' } else { c }).collect())
}

impl Edit {
    /// The edits of a finding's mend.
    pub fn from_mend(mend: &Mend) -> Vec<Self> {
        let mm = |v: f64| format!("{v} mm");
        match mend {
            Mend::Measure(name, value) => {
                // Names are told apart by kind, whichever recipe has them.
                let spec = kachel_tiers::RECIPES.iter().find_map(|r| r.measure(name).ok());
                let value = match spec.map(|s| s.kind) {
                    Some(MeasureKind::Count) => value.to_string(),
                    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a place in a list")]
                    Some(MeasureKind::Choice(of)) => of.get(*value as usize).map_or("", |c| c.0).into(),
                    _ => mm(*value),
                };
                vec![Self::SetMeasure { name: (*name).into(), value }]
            }
            Mend::TieAgain => vec![Self::SetBars { bars: None }],
            Mend::DropFilament(filament) => vec![Self::DropFilament { filament: filament.clone() }],
            Mend::Width(value) => vec![Self::SetSize { axis: Axis::Width, value: mm(*value) }],
            Mend::SwitchOff(id) => vec![Self::SwitchChange { id: *id, is_on: false }],
            Mend::Stay(id) => vec![Self::KeepNodes { id: *id }],
            Mend::Close(id) => vec![Self::CloseLines { ids: vec![*id], how: Closing::Join }],
            Mend::Forget(choice) => vec![Self::ForgetChoice { choice: *choice }],
            Mend::Aside(points) => {
                let aside = |p: &kachel_geom::Point<_>| Choice { spot: Spot::new([p.x, p.y], true), use_: Use::Aside };
                vec![Self::SetUses { choices: points.iter().map(aside).collect() }]
            }
        }
    }

    /// Whether it needs the outline as it is before the edit.
    pub fn needs_outline(&self) -> bool {
        match self {
            Self::SetSize { .. }
            | Self::PinSize { .. }
            | Self::SetUses { .. }
            | Self::KeepNodes { .. }
            | Self::RepointChange { .. }
            | Self::PaintPatches { .. }
            | Self::SetRecipe { .. }
            | Self::CloseGaps { .. } => true,
            // Pinned patches are told by where they are.
            Self::AddChange { .. } | Self::SetChange { .. } => true,
            _ => false,
        }
    }

    /// Whether it needs to know what the picture is like.
    pub fn needs_picture(&self) -> bool {
        matches!(
            self,
            Self::SetLevel { .. }
                | Self::AddStroke { .. }
                | Self::Straighten { .. }
                | Self::Turn { .. }
                | Self::SetDegrees { .. }
                | Self::Flip { .. }
                | Self::SetCrop { .. }
                | Self::SetFileSize
        )
    }

    /// What undo says it takes back.
    pub fn label(&self) -> String {
        match self {
            Self::Rename { .. } => "Rename".into(),
            Self::SetCredit { .. } => "Credit".into(),
            Self::SetUnit { .. } => "Unit".into(),
            Self::SetInk { .. } => "Ink".into(),
            Self::SetThreshold { threshold: None } => "Automatic threshold".into(),
            Self::SetThreshold { threshold: Some(t) } => format!("Threshold {t}"),
            Self::SetInvert { .. } => "Swap ink and ground".into(),
            Self::SetMinArea { .. } => "Speck size".into(),
            Self::SetDeviation { .. } => "Deviation".into(),
            Self::SetMinGap { .. } => "Pinhole size".into(),
            Self::SetBend { bend } => format!("Corners from {bend} degrees"),
            Self::SetColours { .. } => "Colours".into(),
            Self::SetPenWidth { value: Some(v) } => format!("Pen width {v}"),
            Self::SetPenWidth { value: None } => "Pen width as drawn".into(),
            Self::SetLevel { level: true } => "Level the light".into(),
            Self::SetLevel { level: false } => "Light as it is".into(),
            Self::AddStroke { stroke } => picture_edit::stroke_label(stroke.kind).into(),
            Self::ClearStrokes => "Take all strokes off".into(),
            Self::Straighten { straighten: Some(_) } => "Straighten".into(),
            Self::Straighten { straighten: None } => "Not straightened".into(),
            Self::Turn { .. } => "Quarter turn".into(),
            Self::SetDegrees { degrees } => format!("Turn by {degrees} degrees"),
            Self::Flip { .. } => "Flip".into(),
            Self::SetCrop { crop: Some(_) } => "Crop".into(),
            Self::SetCrop { crop: None } => "Whole picture".into(),
            Self::SetDistance { value, .. } => format!("Distance {value}"),
            Self::SetFileSize => "The file's own size".into(),
            Self::SetUses { choices } => match choices.as_slice() {
                [one] if one.use_ == Use::Aside => "Put aside".into(),
                [_] => "Use of a patch".into(),
                many => format!("Use of {} patches", many.len()),
            },
            Self::AddChange { change, .. } => change.label().into(),
            Self::DrawFreehand { .. } => "Draw freehand".into(),
            Self::SetChange { change, .. } => format!("Other: {}", change.label()),
            Self::SetChangeLength { name, value, .. } => format!("{name} {value}"),
            Self::SwitchChange { is_on: true, .. } => "Switch a change on".into(),
            Self::SwitchChange { .. } => "Switch a change off".into(),
            Self::OrderChange { .. } => "Move a change".into(),
            Self::RemoveChange { .. } => "Remove a change".into(),
            Self::RepointChange { to, .. } if to.is_empty() => "Do without lost patches".into(),
            Self::RepointChange { .. } => "Other patches for a change".into(),
            Self::KeepNodes { .. } => "Stay with own nodes".into(),
            Self::CloseLines { ids, .. } if ids.len() > 1 => format!("Close {} lines", ids.len()),
            Self::CloseLines { how: Closing::Join, .. } => "Join the ends of a line".into(),
            Self::CloseLines { .. } => "Extend a line to its crossing".into(),
            Self::CloseGaps { value } => format!("Close gaps up to {value}"),
            Self::SetPins { .. } => "Pins".into(),
            Self::SetGuides { .. } => "Guides".into(),
            Self::ForgetChoice { .. } => "Forget a choice".into(),
            Self::SetSize { axis: Axis::Width, value } => format!("Width {value}"),
            Self::SetSize { axis: Axis::Height, value } => format!("Height {value}"),
            Self::PinSize { axis: None } => "Unpin the size".into(),
            Self::PinSize { .. } => "Pin the size".into(),
            Self::SetRecipe { recipe } => recipe.recipe().label.into(),
            Self::AddTier { tier } => format!("Add tier '{}'", tier.name),
            Self::SetTier { tier } => format!("Change tier '{}'", tier.name),
            Self::SetTierLength { name, value, .. } => format!("{} {value}", name.replace('-', " ")),
            Self::SetHeight { name, value, .. } => format!("{} to {value}", name.replace('-', " ")),
            Self::RemoveTier { .. } => "Remove a tier".into(),
            Self::OrderTier { .. } => "Move a tier".into(),
            Self::SetBars { bars: Some(_) } => "Tie bars".into(),
            Self::SetBars { bars: None } => "Find tie bars".into(),
            Self::SetFilament { .. } | Self::DropFilament { .. } => "Filament".into(),
            Self::PaintPatches { paints } if paints.len() > 1 => format!("Filament of {} patches", paints.len()),
            Self::PaintPatches { .. } => "Filament of a patch".into(),
            Self::SetMeasure { name, value } => format!("{} {value}", name.replace('-', " ")),
            Self::ResetMeasure { name } => format!("Default {}", name.replace('-', " ")),
        }
    }

    /// The document after the edit, on the basis of what there was before it.
    pub fn apply(&self, document: &Document, basis: &Basis<'_>) -> Result<Document, EditError> {
        let outline = basis.outline;
        let mut d = document.clone();
        match self {
            Self::Rename { name } => d.name = text("The name", name, 1, MAX_NAME)?,
            Self::SetCredit { credit } => {
                let line = |what, v: &str| text(what, v, 0, 500);
                d.credit = Credit {
                    maker: line("The maker", &credit.maker)?,
                    source: line("The source", &credit.source)?,
                    licence: line("The licence", &credit.licence)?,
                    note: line("The note", &credit.note)?,
                };
            }
            Self::SetUnit { unit } => d.unit = *unit,
            Self::SetInk { ink } => {
                d.trace.ink = *ink;
                d.trace.threshold = None;
            }
            Self::SetThreshold { threshold } => {
                if let Some(t) = threshold {
                    in_range("The threshold", f64::from(*t), (1.0, 254.0), |v| v.to_string())?;
                }
                d.trace.threshold = *threshold;
            }
            Self::SetInvert { invert } => d.trace.invert = *invert,
            Self::SetMinArea { min_area } => {
                in_range("The speck size", *min_area, (0.0, 10_000.0), |v| format!("{v} px2"))?;
                d.trace.min_area = *min_area;
            }
            Self::SetDeviation { deviation } => {
                in_range("The deviation", *deviation, (0.0, 5.0), |v| format!("{v} px"))?;
                d.trace.deviation = *deviation;
            }
            Self::SetMinGap { min_gap } => {
                in_range("The pinhole size", *min_gap, (0.0, 10_000.0), |v| format!("{v} px2"))?;
                d.trace.min_gap = *min_gap;
            }
            Self::SetBend { bend } => {
                in_range("The turn of a corner", *bend, (5.0, 120.0), |v| format!("{v} degrees"))?;
                d.trace.bend = *bend;
            }
            Self::SetColours { colours } => {
                if let Some(n) = colours.count {
                    in_range("The number of colours", f64::from(n), (2.0, MAX_COLOURS as f64), |v| v.to_string())?;
                }
                let most = MAX_COLOURS as f64;
                in_range("The number of picked colours", colours.picked.len() as f64, (0.0, most), |v| v.to_string())?;
                in_range("The number of merged colours", colours.merged.len() as f64, (0.0, 4.0 * most), |v| {
                    v.to_string()
                })?;
                d.trace.colours = colours.clone();
            }
            Self::SetPenWidth { value } => {
                d.pen_width = match value {
                    None => None,
                    Some(v) => {
                        let mm = parse_length(v, d.unit)?;
                        in_range("The pen width", mm, PEN_RANGE_MM, |v| show(v, d.unit))?;
                        Some(mm)
                    }
                };
            }
            Self::SetLevel { .. }
            | Self::AddStroke { .. }
            | Self::ClearStrokes
            | Self::Straighten { .. }
            | Self::Turn { .. }
            | Self::SetDegrees { .. }
            | Self::Flip { .. }
            | Self::SetCrop { .. } => picture_edit::apply(&mut d, self, basis)?,
            Self::SetDistance { from, to, value } => {
                let mm = parse_length(value, d.unit)?;
                in_range("The distance", mm, DISTANCE_RANGE_MM, |v| show(v, d.unit))?;
                let px = (from[0] - to[0]).hypot(from[1] - to[1]);
                if !(px.is_finite() && px >= 1.0) {
                    return Err(EditError::EqualPoints);
                }
                d.size = Size::Scale { mm_per_px: mm / px };
            }
            Self::SetFileSize => {
                let mm_per_px = basis.source.and_then(|s| s.mm_per_px).ok_or(EditError::NoFileSize)?;
                d.size = Size::Scale { mm_per_px };
            }
            Self::AddChange { .. }
            | Self::DrawFreehand { .. }
            | Self::SetChange { .. }
            | Self::SetChangeLength { .. }
            | Self::SwitchChange { .. }
            | Self::OrderChange { .. }
            | Self::RemoveChange { .. }
            | Self::KeepNodes { .. }
            | Self::RepointChange { .. }
            | Self::CloseLines { .. }
            | Self::CloseGaps { .. }
            | Self::SetPins { .. }
            | Self::SetGuides { .. }
            | Self::SetUses { .. } => outline_edit::apply(&mut d, self, outline)?,
            Self::ForgetChoice { choice } => d.choices.retain(|c| c != choice),
            Self::SetSize { axis, value } => {
                let mm = parse_length(value, d.unit)?;
                let what = if *axis == Axis::Width { "The width" } else { "The height" };
                in_range(what, mm, SIZE_RANGE_MM, |v| show(v, d.unit))?;
                let outline = outline.ok_or(OutlineError::NoEdge)?;
                let (w, h) = (outline.edge_px.width(), outline.edge_px.height());
                let mm_per_px = mm / if *axis == Axis::Width { w } else { h };
                // The other side follows and has its range too.
                for (side, name) in [(w, "wide"), (h, "high")] {
                    let mm = side * mm_per_px;
                    in_range(&format!("The edge, {name},"), mm, SIZE_RANGE_MM, |v| show(v, d.unit))?;
                }
                d.size = match (d.size, axis) {
                    (Size::Scale { .. }, _) => Size::Scale { mm_per_px },
                    (_, Axis::Width) => Size::Width { mm },
                    (_, Axis::Height) => Size::Height { mm },
                };
            }
            Self::PinSize { axis } => {
                let outline = outline.ok_or(OutlineError::NoEdge)?;
                let mm_per_px = outline.mm_per_px;
                d.size = match axis {
                    None => Size::Scale { mm_per_px },
                    Some(Axis::Width) => Size::Width { mm: outline.edge_px.width() * mm_per_px },
                    Some(Axis::Height) => Size::Height { mm: outline.edge_px.height() * mm_per_px },
                };
            }
            Self::SetRecipe { .. }
            | Self::AddTier { .. }
            | Self::SetTier { .. }
            | Self::SetTierLength { .. }
            | Self::SetHeight { .. }
            | Self::RemoveTier { .. }
            | Self::OrderTier { .. }
            | Self::SetBars { .. }
            | Self::SetFilament { .. }
            | Self::PaintPatches { .. }
            | Self::DropFilament { .. }
            | Self::SetMeasure { .. }
            | Self::ResetMeasure { .. } => tier_edit::apply(&mut d, self, outline)?,
        }
        Ok(d)
    }
}
