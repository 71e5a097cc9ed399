//! Edits of what is done to the outline: uses of patches, the list of changes, pins and guides.

use super::error::{EditError, in_range, in_unit};
use super::{Length, Needs};
use crate::document::{Document, Guide, MAX_CHOICES, MAX_GUIDES};
use kachel_geom::{Point, Px};
use kachel_outline::{
    Change, Choice, DrawnLine, Entry, MAX_CHANGES, Outline, OutlineError, Spot, Use, is_near, patch_at,
};
use kachel_trace::refit;
use kachel_words::{Message, msg, number};
use serde::{Deserialize, Serialize};
use strum::VariantNames;
use ts_rs::TS;

/// Range of gaps that are closed all at once, mm.
const GAP_RANGE_MM: (f64, f64) = (0.01, 100.0);

/// How an open line is closed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(rename_all = "kebab-case")]
pub enum Closing {
    /// Straight from end to end.
    Join,
    /// Both ends go straight on to where they cross.
    Extend,
}

/// Uses of patches, the list of changes, pins and guides.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, VariantNames, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[strum(serialize_all = "kebab-case")]
pub enum OutlineEdit {
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
        points: Vec<Point<Px>>,
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
        /// The length.
        value: Length,
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
        /// The length.
        value: Length,
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
}

impl OutlineEdit {
    /// What it has to know.
    pub const fn needs(&self) -> Needs {
        match self {
            // Pinned patches, and those that are meant, are found by where they are.
            Self::SetUses { .. }
            | Self::AddChange { .. }
            | Self::SetChange { .. }
            | Self::KeepNodes { .. }
            | Self::RepointChange { .. }
            | Self::CloseGaps { .. } => Needs::Outline,
            Self::DrawFreehand { .. }
            | Self::SetChangeLength { .. }
            | Self::SwitchChange { .. }
            | Self::OrderChange { .. }
            | Self::RemoveChange { .. }
            | Self::CloseLines { .. }
            | Self::SetPins { .. }
            | Self::SetGuides { .. }
            | Self::ForgetChoice { .. } => Needs::Nothing,
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::SetUses { choices } => match choices.as_slice() {
                [one] if one.use_ == Use::Aside => msg!("undo-aside"),
                [_] => msg!("undo-use"),
                many => msg!("undo-uses", n = many.len()),
            },
            Self::AddChange { change, .. } => msg!(change.code()),
            Self::DrawFreehand { .. } => msg!("undo-freehand"),
            Self::SetChange { change, .. } => msg!("undo-other", change = msg!(change.code())),
            Self::SetChangeLength { name, value, .. } => {
                msg!("undo-change-length", what = msg!(format!("length-{name}")), value = value.words())
            }
            Self::SwitchChange { is_on: true, .. } => msg!("undo-switch-on"),
            Self::SwitchChange { is_on: false, .. } => msg!("undo-switch-off"),
            Self::OrderChange { .. } => msg!("undo-order"),
            Self::RemoveChange { .. } => msg!("undo-remove"),
            Self::RepointChange { to, .. } if to.is_empty() => msg!("undo-do-without"),
            Self::RepointChange { .. } => msg!("undo-repoint"),
            Self::KeepNodes { .. } => msg!("undo-keep-nodes"),
            Self::CloseLines { ids, .. } if ids.len() > 1 => msg!("undo-close-lines", n = ids.len()),
            Self::CloseLines { how: Closing::Join, .. } => msg!("undo-join-ends"),
            Self::CloseLines { how: Closing::Extend, .. } => msg!("undo-extend"),
            Self::CloseGaps { value } => msg!("undo-close-gaps", value = value.words()),
            Self::SetPins { .. } => msg!("undo-pins"),
            Self::SetGuides { .. } => msg!("undo-guides"),
            Self::ForgetChoice { .. } => msg!("undo-forget"),
        }
    }

    pub(super) fn apply(&self, d: &mut Document, outline: Option<&Outline>) -> Result<(), EditError> {
        match self {
            Self::SetUses { choices } => set_uses(d, choices, outline)?,
            Self::AddChange { change, before } => add_change(d, change, *before, outline)?,
            Self::DrawFreehand { points, deviation, is_closed, width, use_ } => {
                let line = freehand(points, *deviation, *is_closed)?;
                add_change(d, &Change::Draw { line, width: *width, use_: *use_ }, None, outline)?;
            }
            Self::SetChange { id, change } => {
                possible(change)?;
                let at = place_of(d, *id)?;
                let before = d.changes[at].change.spots();
                let new: Vec<Spot> = change.spots().into_iter().filter(|s| !before.contains(s)).collect();
                unpinned(d, outline, &new)?;
                d.changes[at].change = change.clone();
            }
            Self::SetChangeLength { id, name, value } => {
                let at = place_of(d, *id)?;
                let mut change = d.changes[at].change.clone();
                let length = change.length_mut(name);
                let why = || EditError::Change { why: msg!("no-such-length", name = name) };
                *length.ok_or_else(why)? = value.mm(d.unit)?;
                possible(&change)?;
                d.changes[at].change = change;
            }
            Self::SwitchChange { id, is_on } => {
                let at = place_of(d, *id)?;
                d.changes[at].is_on = *is_on;
            }
            Self::OrderChange { id, to } => {
                let at = place_of(d, *id)?;
                let moved = d.changes.remove(at);
                let to = (*to).min(d.changes.len());
                d.changes.insert(to, moved);
            }
            Self::RemoveChange { id } => {
                let at = place_of(d, *id)?;
                d.changes.remove(at);
            }
            Self::RepointChange { id, to } => repoint(d, *id, to, outline)?,
            Self::KeepNodes { id } => keep_nodes(d, *id, outline)?,
            Self::CloseLines { ids, how } => {
                for id in ids {
                    let at = place_of(d, *id)?;
                    let Change::Draw { line, .. } = &mut d.changes[at].change else { return Err(no_line()) };
                    *line = match how {
                        Closing::Join => line.joined(),
                        Closing::Extend => {
                            line.extended().ok_or_else(|| EditError::Change { why: msg!("ends-do-not-meet") })?
                        }
                    };
                }
            }
            Self::CloseGaps { value } => {
                let mm = value.within(msg!("field-gap"), GAP_RANGE_MM, d.unit)?;
                let px = mm / outline.ok_or(OutlineError::NoEdge)?.mm_per_px;
                close_gaps(d, px)?;
            }
            Self::SetPins { pins } => {
                in_range(msg!("field-number-of-pins"), pins.len() as f64, (0.0, MAX_CHOICES as f64), number)?;
                if !pins.iter().all(Spot::is_finite) {
                    return Err(EditError::NoPoint);
                }
                d.pins.clone_from(pins);
            }
            Self::SetGuides { guides } => {
                in_range(msg!("field-number-of-guides"), guides.len() as f64, (0.0, MAX_GUIDES as f64), number)?;
                if !guides.iter().all(|g| g.at.is_finite() && g.at.abs() < 1e6) {
                    return Err(EditError::NoPoint);
                }
                d.guides.clone_from(guides);
            }
            Self::ForgetChoice { choice } => d.choices.retain(|c| c != choice),
        }
        Ok(())
    }
}

/// Adds an entry to the list: at its end, or before another one.
fn add_change(
    d: &mut Document,
    change: &Change,
    before: Option<u32>,
    outline: Option<&Outline>,
) -> Result<(), EditError> {
    possible(change)?;
    unpinned(d, outline, &change.spots())?;
    if d.changes.len() >= MAX_CHANGES {
        return Err(EditError::Change { why: msg!("list-full", most = MAX_CHANGES) });
    }
    let id = d.next_change();
    let at = before.map_or(Ok(d.changes.len()), |b| place_of(d, b))?;
    d.changes.insert(at, Entry { id, is_on: true, change: change.clone() });
    Ok(())
}

/// Most points of a line drawn in one go.
const MAX_POINTS: usize = 20_000;

fn freehand(points: &[Point<Px>], deviation: f64, is_closed: bool) -> Result<DrawnLine, EditError> {
    in_range(msg!("field-deviation"), deviation, (0.1, 50.0), in_unit("pixels"))?;
    in_range(msg!("field-number-of-points"), points.len() as f64, (2.0, MAX_POINTS as f64), number)?;
    if !points.iter().all(is_near) {
        return Err(EditError::NoPoint);
    }
    let mut places = points.to_vec();
    places.dedup();
    let curve = refit(&places, is_closed, true, deviation);
    Ok(DrawnLine::of(&curve))
}

fn no_line() -> EditError {
    EditError::Change { why: msg!("no-drawn-line") }
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
pub(super) fn named<'a>(
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
        return Err(EditError::Change { why: msg!("no-own-nodes") });
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
        return Err(EditError::Change { why: msg!("no-ends-so-near") });
    }
    Ok(())
}
