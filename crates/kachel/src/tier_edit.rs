//! Edits of recipe, measures, own tiers, tie bars and filaments.

use crate::document::{Document, MAX_BARS, PatchFilament};
use crate::edit::{Edit, EditError};
use kachel_geom::Point;
use kachel_outline::{Outline, Size};
use kachel_tiers::{Bar, Footprint, MAX_OWN, MeasureKind, OwnTier, parse_length};

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

pub(crate) fn apply(d: &mut Document, edit: &Edit, outline: Option<&Outline>) -> Result<(), EditError> {
    match edit {
        Edit::SetRecipe { recipe } => set_recipe(d, *recipe, outline),
        Edit::SetMeasure { name, value } => {
            let spec = d.recipe.recipe().measure(name).map_err(EditError::Measure)?;
            let value = spec.parse(value, d.unit)?;
            let show = |v: f64| match spec.kind {
                MeasureKind::Length | MeasureKind::Height => crate::edit::show(v, d.unit),
                MeasureKind::Count | MeasureKind::Choice(_) => v.to_string(),
            };
            let what = format!("{} {}", spec.group, spec.label.to_lowercase());
            crate::edit::in_range(&what, value, (spec.min, spec.max), show)?;
            // Typed inches may miss a bound by a rounding.
            d.measures.insert(spec.name.into(), value.clamp(spec.min, spec.max));
        }
        Edit::ResetMeasure { name } => {
            let spec = d.recipe.recipe().measure(name).map_err(EditError::Measure)?;
            d.measures.remove(spec.name);
        }
        Edit::AddTier { tier } => {
            if d.tiers.len() >= MAX_OWN {
                return Err(EditError::Change { why: format!("a design has at most {MAX_OWN} tiers of its own") });
            }
            let mut tier = tier.clone();
            tier.id = d.tiers.iter().map(|t| t.id).max().unwrap_or(0) + 1;
            checked(&tier)?;
            d.tiers.push(tier);
        }
        Edit::SetTier { tier } => {
            checked(tier)?;
            *own(d, tier.id)? = tier.clone();
        }
        Edit::SetTierLength { id, name, value } => {
            let mm = parse_length(value, d.unit)?;
            let tier = own(d, *id)?;
            let mut next = tier.clone();
            *length(&mut next, name).ok_or(EditError::UnknownTier)? = mm;
            checked(&next)?;
            *tier = next;
        }
        Edit::RemoveTier { id } => {
            own(d, *id)?;
            d.filaments.remove(&format!("own-{id}"));
            d.tiers.retain(|t| t.id != *id);
        }
        Edit::OrderTier { id, to } => {
            let from = d.tiers.iter().position(|t| t.id == *id).ok_or(EditError::UnknownTier)?;
            let tier = d.tiers.remove(from);
            d.tiers.insert((*to).min(d.tiers.len()), tier);
        }
        Edit::SetHeight { name, own, base, is_down, from, value } => {
            let at = parse_length(value, d.unit)? + from;
            let mm = if *is_down { base - at } else { at - base };
            crate::edit::in_range("A height", mm, (-1000.0, 1000.0), |v| crate::edit::show(v, d.unit))?;
            // To a nanometre: what was typed in inches is not told to the last bit.
            let (name, value) = (name.clone(), format!("{} mm", (mm * 1e6).round() / 1e6));
            let edit = match own {
                Some(id) => Edit::SetTierLength { id: *id, name, value },
                None => Edit::SetMeasure { name, value },
            };
            apply(d, &edit, outline)?;
        }
        Edit::SetBars { bars } => {
            let all = bars.iter().flatten().flat_map(|b| b.from.into_iter().chain(b.to));
            if bars.as_ref().is_some_and(|b| b.len() > MAX_BARS) || !all.into_iter().all(f64::is_finite) {
                return Err(EditError::Change { why: format!("a design has at most {MAX_BARS} tie bars of its own") });
            }
            d.bars.clone_from(bars);
        }
        Edit::SetFilament { key, filament } => {
            let fits = |s: &str| !s.is_empty() && s.len() <= 60;
            if !fits(key) || !filament.as_deref().is_none_or(fits) || d.filaments.len() > 200 {
                return Err(EditError::UnknownTier);
            }
            match filament {
                Some(f) => d.filaments.insert(key.clone(), f.clone()),
                None => d.filaments.remove(key),
            };
        }
        Edit::PaintPatches { paints } => paint(d, paints, outline)?,
        Edit::DropFilament { filament } => {
            d.filaments.retain(|_, f| f != filament);
            d.paints.retain(|p| p.filament.as_ref() != Some(filament));
        }
        _ => {}
    }
    Ok(())
}

/// Sizes nearer than this (mm) to what a recipe proposes are its proposal.
const PROPOSED_MM: f64 = 0.005;

/// A change of recipe keeps outline, sizes and own tiers; each recipe gets its own measures back when it is chosen again.
/// What two recipes both have and mean alike goes along the first time. A size that nobody chose, which is what the old
/// recipe proposed, becomes what the new one proposes.
fn set_recipe(d: &mut Document, recipe: kachel_tiers::RecipeKind, outline: Option<&Outline>) {
    if recipe == d.recipe {
        return;
    }
    if let (Size::Scale { mm_per_px }, Some(o)) = (d.size, outline) {
        let longest = o.edge_px.width().max(o.edge_px.height()) * o.mm_per_px;
        let (old, new) = (d.recipe.recipe().usual_size, recipe.recipe().usual_size);
        if (longest - old).abs() < PROPOSED_MM {
            d.size = Size::Scale { mm_per_px: mm_per_px * new / old };
        }
    }
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
    // A loosened tier belongs to the recipe that it was loosened from; own tiers of patches stay.
    d.tiers.iter_mut().filter(|t| matches!(t.footprint, Footprint::Tier { .. })).for_each(|t| t.is_on = false);
}

fn paint(d: &mut Document, paints: &[PatchFilament], outline: Option<&Outline>) -> Result<(), EditError> {
    for p in paints {
        if !p.spot.is_finite() || p.filament.as_ref().is_some_and(|f| f.is_empty() || f.len() > 60) {
            return Err(EditError::NoPoint);
        }
    }
    let named = crate::outline_edit::named(outline, paints.iter().map(|p| &p.spot));
    d.paints.retain(|q| !named(&q.spot));
    d.paints.extend(paints.iter().filter(|p| p.filament.is_some()).cloned());
    if d.paints.len() > crate::document::MAX_CHOICES {
        return Err(EditError::TooManyChoices { found: d.paints.len() });
    }
    Ok(())
}

/// Own bars in millimetres of the outline.
pub(crate) fn bars_mm(d: &Document, outline: &Outline) -> Option<Vec<Bar>> {
    let mm = |p: [f64; 2]| {
        let p: Point<kachel_geom::Mm> = outline.mm(p);
        [p.x, p.y]
    };
    d.bars.as_ref().map(|bars| bars.iter().map(|b| Bar { from: mm(b.from), to: mm(b.to) }).collect())
}
