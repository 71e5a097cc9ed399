//! Edits of recipe, measures, own tiers, tie bars and filaments.

use super::error::{EditError, in_range};
use super::{Length, Needs, Value};
use crate::document::{Document, MAX_BARS, MAX_CHOICES, PatchFilament};
use kachel_outline::{Guesses, Outline, Size};
use kachel_tiers::{Bar, Finish, Footprint, MAX_OWN, MeasureSpec, OwnTier, RecipeKind, Tie};
use kachel_words::{Message, mm, msg, number};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use strum::VariantNames;
use ts_rs::TS;

/// Range of a height that is typed for a tier's end, mm from where its measure counts.
const HEIGHT_RANGE_MM: (f64, f64) = (-1000.0, 1000.0);
/// Most tiers with a filament of their own.
const MAX_FILAMENTS: usize = 200;
/// Longest name that tiers and filaments have for the program, bytes.
const MAX_KEY: usize = 60;

/// Recipe, measures, own tiers, tie bars and filaments.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, VariantNames, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[strum(serialize_all = "kebab-case")]
pub enum TierEdit {
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
        /// The length.
        value: Length,
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
        /// The length.
        value: Length,
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
        /// The value.
        value: Value,
    },
    /// Chooses a recipe and all its measures: those left out go back to their defaults.
    SetMeasures {
        /// The rule.
        recipe: RecipeKind,
        /// Its measures, mm.
        #[ts(type = "Record<string, number>")]
        measures: BTreeMap<String, f64>,
    },
    /// Gives a measure its default back.
    ResetMeasure {
        /// Its stable name.
        name: String,
    },
}

impl TierEdit {
    /// What it has to know.
    pub const fn needs(&self) -> Needs {
        match self {
            Self::SetRecipe { .. } | Self::SetMeasures { .. } | Self::PaintPatches { .. } => Needs::Outline,
            Self::AddTier { .. }
            | Self::SetTier { .. }
            | Self::SetTierLength { .. }
            | Self::SetHeight { .. }
            | Self::RemoveTier { .. }
            | Self::OrderTier { .. }
            | Self::SetBars { .. }
            | Self::SetFilament { .. }
            | Self::DropFilament { .. }
            | Self::SetMeasure { .. }
            | Self::ResetMeasure { .. } => Needs::Nothing,
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::SetRecipe { recipe } => recipe.recipe().label(),
            Self::SetMeasures { recipe, .. } => msg!("undo-house", recipe = recipe.recipe().label()),
            Self::AddTier { tier } => msg!("undo-add-tier", tier = &tier.name),
            Self::SetTier { tier } => msg!("undo-set-tier", tier = &tier.name),
            Self::SetTierLength { name, value, .. } => {
                msg!("undo-change-length", what = length_named(name), value = value.words())
            }
            Self::SetHeight { name, value, .. } => {
                msg!("undo-set-height", what = length_named(name), value = value.words())
            }
            Self::RemoveTier { .. } => msg!("undo-remove-tier"),
            Self::OrderTier { .. } => msg!("undo-order-tier"),
            Self::SetBars { bars: Some(_) } => msg!("undo-bars"),
            Self::SetBars { bars: None } => msg!("undo-find-bars"),
            Self::SetFilament { .. } | Self::DropFilament { .. } => msg!("undo-filament"),
            Self::PaintPatches { paints } if paints.len() > 1 => msg!("undo-paints", n = paints.len()),
            Self::PaintPatches { .. } => msg!("undo-paint"),
            Self::SetMeasure { name, value: Value::Typed(text) } => {
                msg!("undo-change-length", what = length_named(name), value = text.trim())
            }
            Self::SetMeasure { name, value: Value::Number(v) } => {
                // A name has one kind of value, whichever recipe has it.
                let value = spec_named(name).map_or_else(|| number(*v), |s| s.words(*v));
                msg!("undo-change-length", what = length_named(name), value = value)
            }
            Self::ResetMeasure { name } => msg!("undo-default", what = length_named(name)),
        }
    }

    pub(super) fn apply(&self, d: &mut Document, outline: Option<&Outline>) -> Result<(), EditError> {
        match self {
            Self::SetRecipe { recipe } => set_recipe(d, *recipe, outline),
            Self::SetMeasures { recipe, measures } => {
                set_recipe(d, *recipe, outline);
                d.measures.clear();
                measures.iter().try_for_each(|(name, v)| set_measure(d, name, &Value::Number(*v)))?;
            }
            Self::SetMeasure { name, value } => set_measure(d, name, value)?,
            Self::ResetMeasure { name } => {
                let spec = d.recipe.recipe().measure(name).map_err(EditError::Measure)?;
                d.measures.remove(spec.name);
            }
            Self::AddTier { tier } => {
                if d.tiers.len() >= MAX_OWN {
                    return Err(EditError::Change { why: msg!("too-many-own-tiers", most = MAX_OWN) });
                }
                let mut tier = tier.clone();
                tier.id = next_id(d);
                checked(&tier)?;
                d.tiers.push(tier);
            }
            Self::SetTier { tier } => {
                checked(tier)?;
                *own(d, tier.id)? = tier.clone();
            }
            Self::SetTierLength { id, name, value } => set_tier_length(d, *id, name, value)?,
            Self::RemoveTier { id } => {
                own(d, *id)?;
                d.filaments.remove(&format!("own-{id}"));
                d.tiers.retain(|t| t.id != *id);
            }
            Self::OrderTier { id, to } => {
                let from = d.tiers.iter().position(|t| t.id == *id).ok_or(EditError::UnknownTier)?;
                let tier = d.tiers.remove(from);
                d.tiers.insert((*to).min(d.tiers.len()), tier);
            }
            Self::SetHeight { name, own, base, is_down, from, value } => {
                let at = value.mm(d.unit)? + from;
                let high = if *is_down { base - at } else { at - base };
                in_range(msg!("field-height"), high, HEIGHT_RANGE_MM, mm)?;
                // To a nanometre: a sum of typed inches is not exact to the last bit.
                let high = (high * 1e6).round() / 1e6;
                match own {
                    Some(id) => set_tier_length(d, *id, name, &Length::Mm(high))?,
                    None => set_measure(d, name, &Value::Number(high))?,
                }
            }
            Self::SetBars { bars } => {
                if !bars.iter().flatten().all(Bar::is_near) {
                    return Err(EditError::Change { why: msg!("places-too-far") });
                }
                if bars.as_ref().is_some_and(|b| b.len() > MAX_BARS) {
                    return Err(EditError::Change { why: msg!("too-many-own-bars", most = MAX_BARS) });
                }
                d.bars.clone_from(bars);
            }
            Self::SetFilament { key, filament } => {
                name_of("field-tier", key)?;
                filament.iter().try_for_each(|f| name_of("field-filament", f))?;
                if d.filaments.len() >= MAX_FILAMENTS && !d.filaments.contains_key(key) {
                    let why = msg!("too-many-filament-tiers", most = MAX_FILAMENTS);
                    return Err(EditError::Change { why });
                }
                match filament {
                    Some(f) => d.filaments.insert(key.clone(), f.clone()),
                    None => d.filaments.remove(key),
                };
            }
            Self::PaintPatches { paints } => paint(d, paints, outline)?,
            Self::DropFilament { filament } => {
                d.filaments.retain(|_, f| f != filament);
                d.paints.retain(|p| p.filament.as_ref() != Some(filament));
            }
        }
        Ok(())
    }
}

/// The measure of that name, whichever recipe has it.
fn spec_named(name: &str) -> Option<&'static MeasureSpec> {
    kachel_tiers::RECIPES.iter().find_map(|r| r.measure(name).ok())
}

/// A measure, or a length of an own tier.
fn length_named(name: &str) -> Message {
    match spec_named(name) {
        Some(spec) => msg!("measure-named", part = spec.part(), label = spec.label()),
        None => Message::new(format!("tier-length-{name}")),
    }
}

fn name_of(what: &'static str, name: &str) -> Result<(), EditError> {
    match name.len() {
        1..=MAX_KEY => Ok(()),
        length => Err(EditError::Name { what, length, max: MAX_KEY }),
    }
}

fn set_measure(d: &mut Document, name: &str, value: &Value) -> Result<(), EditError> {
    let spec = d.recipe.recipe().measure(name).map_err(EditError::Measure)?;
    let value = value.of(spec, d.unit)?;
    let what = msg!("measure-named", part = spec.part(), label = spec.label());
    let show = |v: f64| if spec.is_length() { mm(v) } else { number(v) };
    in_range(what, value, (spec.min, spec.max), show)?;
    // Typed inches may miss a bound by a rounding.
    let value = spec.held(value);
    spec.check(value).map_err(EditError::Measure)?;
    d.measures.insert(spec.name.into(), value);
    Ok(())
}

fn set_tier_length(d: &mut Document, id: u32, name: &str, value: &Length) -> Result<(), EditError> {
    let mm = value.mm(d.unit)?;
    let tier = own(d, id)?;
    let mut next = tier.clone();
    let length = length(&mut next, name);
    *length.ok_or_else(|| EditError::Change { why: msg!("no-tier-length", name = name) })? = mm;
    checked(&next)?;
    *tier = next;
    Ok(())
}

fn own(d: &mut Document, id: u32) -> Result<&mut OwnTier, EditError> {
    d.tiers.iter_mut().find(|t| t.id == id).ok_or(EditError::UnknownTier)
}

fn checked(tier: &OwnTier) -> Result<(), EditError> {
    match tier.refusal() {
        Some(why) => Err(EditError::Change { why }),
        None => Ok(()),
    }
}

fn length<'t>(tier: &'t mut OwnTier, name: &str) -> Option<&'t mut f64> {
    Some(match name {
        "from" => &mut tier.from,
        "to" => &mut tier.to,
        "grow" => &mut tier.grow,
        "rim" => tier.rim.get_or_insert(2.0),
        "top-inset" => &mut tier.top.inset,
        "top-depth" => &mut tier.top.depth,
        "bottom-inset" => &mut tier.bottom.inset,
        "bottom-depth" => &mut tier.bottom.depth,
        _ => return None,
    })
}

/// Sizes nearer than this (mm) to what a recipe proposes are its proposal.
const PROPOSED_MM: f64 = 0.005;

/// A change of recipe keeps outline, sizes and own tiers; each recipe gets its own measures back when it is chosen again.
/// What two recipes both have and mean alike goes along the first time. A size that nobody chose, which is what the old
/// recipe proposed, becomes what the new one proposes. First guesses of uses are the new recipe's.
fn set_recipe(d: &mut Document, recipe: RecipeKind, outline: Option<&Outline>) {
    if recipe == d.recipe {
        return;
    }
    if let (Size::Scale { .. }, Some(o)) = (d.size, outline) {
        let longest = o.edge_px.width().max(o.edge_px.height()) * o.mm_per_px;
        if (longest - d.recipe.recipe().usual_size).abs() < PROPOSED_MM {
            d.size = Size::Usual;
        }
    }
    d.guesses = Guesses::default();
    let old = std::mem::take(&mut d.measures);
    let new = recipe.recipe();
    let alike = |name: &str| {
        let (from, to) = (d.recipe.recipe().measure(name).ok()?, new.measure(name).ok()?);
        (from.group == to.group && from.kind == to.kind && from.default == to.default).then_some(to)
    };
    d.measures = d.other_measures.remove(new.name).unwrap_or_else(|| {
        old.iter()
            .filter(|(name, v)| alike(name).is_some_and(|s| s.check(**v).is_ok()))
            .map(|(n, v)| (n.clone(), *v))
            .collect()
    });
    if !old.is_empty() {
        d.other_measures.insert(d.recipe.recipe().name.into(), old);
    }
    d.recipe = recipe;
    if recipe == RecipeKind::FreeStack && !d.tiers.iter().any(|t| t.is_on) {
        d.tiers.push(first_tier(d));
    }
    // A loosened tier belongs to the recipe that it was loosened from; own tiers of patches stay.
    d.tiers.iter_mut().filter(|t| matches!(t.footprint, Footprint::Tier { .. })).for_each(|t| t.is_on = false);
}

/// A number that no own tier has yet.
fn next_id(d: &Document) -> u32 {
    d.tiers.iter().map(|t| t.id).max().unwrap_or(0) + 1
}

/// What a free stack starts with: the edge, 3 mm high.
fn first_tier(d: &Document) -> OwnTier {
    OwnTier {
        id: next_id(d),
        name: msg!("tier-numbered", n = d.tiers.len() + 1).to_string(),
        footprint: Footprint::Edge,
        grow: 0.0,
        rim: None,
        from: 0.0,
        to: 3.0,
        is_cut: false,
        top: Finish::default(),
        bottom: Finish::default(),
        is_on: true,
    }
}

fn paint(d: &mut Document, paints: &[PatchFilament], outline: Option<&Outline>) -> Result<(), EditError> {
    for p in paints {
        if !p.spot.is_finite() {
            return Err(EditError::NoPoint);
        }
        p.filament.iter().try_for_each(|f| name_of("field-filament", f))?;
    }
    let named = super::outline::named(outline, paints.iter().map(|p| &p.spot));
    d.paints.retain(|q| !named(&q.spot));
    d.paints.extend(paints.iter().filter(|p| p.filament.is_some()).cloned());
    if d.paints.len() > MAX_CHOICES {
        return Err(EditError::TooManyChoices { found: d.paints.len() });
    }
    Ok(())
}

/// Own bars in millimetres of the outline.
pub fn bars_mm(d: &Document, outline: &Outline) -> Option<Vec<Tie>> {
    let tie = |b: &Bar| Tie { from: outline.mm(b.from), to: outline.mm(b.to) };
    d.bars.as_ref().map(|bars| bars.iter().map(tie).collect())
}
