//! Edits of what is done to the outline: uses of patches, the list of changes, pins and guides.

use crate::document::{Document, MAX_CHOICES, MAX_GUIDES};
use crate::edit::{Closing, Edit, EditError, in_range, show};
use kachel_geom::{Point, Px};
use kachel_outline::{Change, Choice, DrawnLine, MAX_CHANGES, Outline, OutlineEdit, OutlineError, Spot, patch_at};
use kachel_tiers::parse_length;
use kachel_trace::refit;

/// Range of gaps that are closed all at once, mm.
const GAP_RANGE_MM: (f64, f64) = (0.01, 100.0);

pub(crate) fn apply(d: &mut Document, edit: &Edit, outline: Option<&Outline>) -> Result<(), EditError> {
    match edit {
        Edit::SetUses { choices } => set_uses(d, choices, outline)?,
        Edit::AddChange { change, before } => {
            possible(change)?;
            unpinned(d, outline, &change.spots())?;
            if d.changes.len() >= MAX_CHANGES {
                return Err(EditError::Change { why: format!("the list is full: {MAX_CHANGES} changes") });
            }
            let id = d.next_change();
            let at = before.map_or(Ok(d.changes.len()), |b| place_of(d, b))?;
            d.changes.insert(at, OutlineEdit { id, is_on: true, change: change.clone() });
        }
        Edit::DrawFreehand { points, deviation, is_closed, width, use_ } => {
            let line = freehand(points, *deviation, *is_closed)?;
            let change = Change::Draw { line, width: *width, use_: *use_ };
            apply(d, &Edit::AddChange { change, before: None }, outline)?;
        }
        Edit::SetChange { id, change } => {
            possible(change)?;
            let at = place_of(d, *id)?;
            let before = d.changes[at].change.spots();
            let new: Vec<Spot> = change.spots().into_iter().filter(|s| !before.contains(s)).collect();
            unpinned(d, outline, &new)?;
            d.changes[at].change = change.clone();
        }
        Edit::SetChangeLength { id, name, value } => {
            let at = place_of(d, *id)?;
            let mut change = d.changes[at].change.clone();
            let length = change.length_mut(name);
            let why = || EditError::Change { why: format!("there is no length '{name}' in it") };
            *length.ok_or_else(why)? = parse_length(value, d.unit)?;
            possible(&change)?;
            d.changes[at].change = change;
        }
        Edit::SwitchChange { id, is_on } => {
            let at = place_of(d, *id)?;
            d.changes[at].is_on = *is_on;
        }
        Edit::OrderChange { id, to } => {
            let at = place_of(d, *id)?;
            let moved = d.changes.remove(at);
            let to = (*to).min(d.changes.len());
            d.changes.insert(to, moved);
        }
        Edit::RemoveChange { id } => {
            let at = place_of(d, *id)?;
            d.changes.remove(at);
        }
        Edit::RepointChange { id, to } => repoint(d, *id, to, outline)?,
        Edit::KeepNodes { id } => keep_nodes(d, *id, outline)?,
        Edit::CloseLines { ids, how } => {
            for id in ids {
                let at = place_of(d, *id)?;
                let Change::Draw { line, .. } = &mut d.changes[at].change else { return Err(no_line()) };
                *line = match how {
                    Closing::Join => line.joined(),
                    Closing::Extend => line.extended().ok_or_else(|| EditError::Change {
                        why: "the two ends do not run towards each other; join them instead".into(),
                    })?,
                };
            }
        }
        Edit::CloseGaps { value } => {
            let mm = parse_length(value, d.unit)?;
            in_range("A gap", mm, GAP_RANGE_MM, |v| show(v, d.unit))?;
            let px = mm / outline.ok_or(OutlineError::NoEdge)?.mm_per_px;
            close_gaps(d, px)?;
        }
        Edit::SetPins { pins } => {
            in_range("The number of pins", pins.len() as f64, (0.0, MAX_CHOICES as f64), |v| v.to_string())?;
            if !pins.iter().all(Spot::is_finite) {
                return Err(EditError::NoPoint);
            }
            d.pins.clone_from(pins);
        }
        Edit::SetGuides { guides } => {
            in_range("The number of guides", guides.len() as f64, (0.0, MAX_GUIDES as f64), |v| v.to_string())?;
            if !guides.iter().all(|g| g.at.is_finite() && g.at.abs() < 1e6) {
                return Err(EditError::NoPoint);
            }
            d.guides.clone_from(guides);
        }
        _ => {}
    }
    Ok(())
}

/// Most points of a line drawn in one go.
const MAX_POINTS: usize = 20_000;

fn freehand(points: &[[f64; 2]], deviation: f64, is_closed: bool) -> Result<DrawnLine, EditError> {
    in_range("The deviation", deviation, (0.1, 50.0), |v| format!("{v} px"))?;
    in_range("The number of points", points.len() as f64, (2.0, MAX_POINTS as f64), |v| v.to_string())?;
    if !points.iter().flatten().all(|v| v.is_finite() && v.abs() < 1e6) {
        return Err(EditError::NoPoint);
    }
    let mut places: Vec<Point<Px>> = points.iter().map(|p| Point::new(p[0], p[1])).collect();
    places.dedup();
    let curve = refit(&places, is_closed, true, deviation);
    Ok(DrawnLine::of(&curve))
}

fn no_line() -> EditError {
    EditError::Change { why: "that change is no drawn line".into() }
}

/// Refuses what would touch a pinned patch.
fn unpinned(d: &Document, outline: Option<&Outline>, spots: &[Spot]) -> Result<(), EditError> {
    let (Some(o), false) = (outline, d.pins.is_empty()) else { return Ok(()) };
    let of = |s: &Spot| patch_at(&o.patches, s);
    let pinned: Vec<usize> = d.pins.iter().filter_map(of).collect();
    let is_touched = spots.iter().filter_map(of).any(|k| pinned.contains(&k));
    if is_touched { Err(EditError::Pinned) } else { Ok(()) }
}

/// Puts each choice in the place of an earlier one for the same patch.
fn set_uses(d: &mut Document, choices: &[Choice], outline: Option<&Outline>) -> Result<(), EditError> {
    // A pinned patch keeps its use; the others of many get theirs.
    let free: Vec<Choice> = choices.iter().filter(|c| unpinned(d, outline, &[c.spot]).is_ok()).copied().collect();
    if free.is_empty() && !choices.is_empty() {
        return Err(EditError::Pinned);
    }
    if !free.iter().all(|c| c.spot.is_finite()) {
        return Err(EditError::NoPoint);
    }
    let named = named(outline, free.iter().map(|c| &c.spot));
    d.choices.retain(|c| !named(&c.spot));
    d.choices.extend(&free);
    if d.choices.len() > MAX_CHOICES {
        return Err(EditError::TooManyChoices { found: d.choices.len() });
    }
    Ok(())
}

/// Tells the spots that mean one of these patches, now that the picture is as it is.
pub(crate) fn named<'a>(
    outline: Option<&'a Outline>,
    spots: impl Iterator<Item = &'a Spot> + Clone + 'a,
) -> impl Fn(&Spot) -> bool + 'a {
    let patch = move |s: &Spot| outline.and_then(|o| patch_at(&o.patches, s));
    let patches: Vec<usize> = spots.clone().filter_map(patch).collect();
    move |s| spots.clone().any(|o| o == s) || patch(s).is_some_and(|k| patches.contains(&k))
}

fn possible(change: &Change) -> Result<(), EditError> {
    change.refusal().map_or(Ok(()), |why| Err(EditError::Change { why }))
}

fn place_of(d: &Document, id: u32) -> Result<usize, EditError> {
    d.changes.iter().position(|c| c.id == id).ok_or(EditError::UnknownChange)
}

/// Gives a change other patches in place of those that are gone, or none; a change that has none left goes itself.
fn repoint(d: &mut Document, id: u32, to: &[Spot], outline: Option<&Outline>) -> Result<(), EditError> {
    unpinned(d, outline, to)?;
    let at = place_of(d, id)?;
    let astray = outline.and_then(|o| o.astray.iter().find(|a| a.id == id));
    let lost = astray.map(|a| a.lost.as_slice()).unwrap_or_default();
    let mut change = d.changes[at].change.clone();
    change.repoint(lost, to);
    if change.spots().is_empty() {
        d.changes.remove(at);
        return Ok(());
    }
    possible(&change)?;
    d.changes[at].change = change;
    Ok(())
}

/// The patch as it is now is what its nodes were made for; where it is gone, they stand for themselves.
fn keep_nodes(d: &mut Document, id: u32, outline: Option<&Outline>) -> Result<(), EditError> {
    let at = place_of(d, id)?;
    let Change::Nodes { on, seen, .. } = &mut d.changes[at].change else {
        return Err(EditError::Change { why: "that change has no nodes of its own".into() });
    };
    let astray = outline.and_then(|o| o.astray.iter().find(|a| a.id == id));
    match astray {
        Some(a) if !a.lost.is_empty() => on.clear(),
        Some(a) => *seen = a.moved_on.or(*seen),
        None => {}
    }
    Ok(())
}

/// Joins ends of open lines without a width that lie within `px` of each other: lines are put together first, in the
/// order of the list, then each is closed whose own ends are near enough.
fn close_gaps(d: &mut Document, px: f64) -> Result<(), EditError> {
    let mut open: Vec<(u32, DrawnLine)> = Vec::new();
    for e in d.changes.iter().filter(|e| e.is_on) {
        if let Change::Draw { line, width: None, .. } = &e.change
            && !line.is_closed
        {
            open.push((e.id, line.clone()));
        }
    }
    let mut gone = Vec::new();
    let mut closed = Vec::new();
    while let Some((id, mut line)) = (!open.is_empty()).then(|| open.remove(0)) {
        while let Some((k, longer)) = open.iter().enumerate().find_map(|(k, (_, l))| Some((k, line.with(l, px)?))) {
            gone.push(open.remove(k).0);
            line = longer;
        }
        if line.gap() <= px {
            line = line.joined();
        }
        closed.push((id, line));
    }
    let mut count = gone.len();
    for (id, new) in closed {
        let at = place_of(d, id)?;
        if let Change::Draw { line, .. } = &mut d.changes[at].change
            && *line != new
        {
            *line = new;
            count += 1;
        }
    }
    d.changes.retain(|e| !gone.contains(&e.id));
    if count == 0 {
        return Err(EditError::Change { why: "no two ends of open lines are as near as that".into() });
    }
    Ok(())
}
