//! Designs that are printed together.

use crate::document::MAX_NAME;
use crate::edit::{EditError, Length, in_range, in_unit, infill_in_range, text};
use crate::print::Quality;
use crate::upgrade::{DocumentError, unread};
use kachel_pack::{MAX_PIECES, Place, Turns};
use kachel_tiers::Unit;
use kachel_words::{Message, mm, msg, number};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// Most fillings of a bed.
pub const MAX_PLATES: usize = 500;
/// What [`Bed::version`] is when it is written.
const BED_VERSION: u32 = 1;
/// How far objects on a bed stay apart, mm.
const GAP_RANGE_MM: (f64, f64) = (0.5, 50.0);
/// Room that a print head needs round an object that is finished, mm (common practice, no source).
pub const HEAD_ROOM_MM: f64 = 30.0;
/// So high an object may be that a print head has to pass over, mm (common practice, no source).
pub const UNDER_HEAD_MM: f64 = 25.0;
/// How far from the bed's corner a piece can be put by hand, mm.
const REACH_MM: f64 = 4000.0;

/// In which order the pieces of a bed are printed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum PrintOrder {
    /// All together, layer by layer.
    #[default]
    Together,
    /// Each to its top before the next begins, from the front to the back. What goes wrong costs one piece, and filaments change once a
    /// piece; the print head needs room.
    OneByOne,
}

/// A bed: which designs lie on it, and where.
///
/// A piece names its design, so a design that changes changes on all its beds.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Bed {
    /// The version of this form, 1.
    pub version: u32,
    /// What the maker calls it.
    pub name: String,
    /// How far its pieces stay apart when they are arranged, 0.5 to 50 mm.
    pub gap: f64,
    /// How they may be turned then.
    pub turns: Turns,
    /// How fine it is printed.
    pub quality: Quality,
    /// Infill, 0 to 100 percent; the workshop's where it is left out.
    pub infill: Option<f64>,
    /// In which order its pieces are printed.
    #[serde(default)]
    pub order: PrintOrder,
    /// What lies on it, in the order in which it came.
    pub pieces: Vec<BedPiece>,
    /// The number of the next piece.
    pub next: u32,
    /// Whether somebody put a piece somewhere since it was arranged: then what lies there stays when pieces come.
    #[serde(default)]
    pub is_by_hand: bool,
}

/// One copy of a design on a bed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct BedPiece {
    /// Its number on this bed; never used again.
    pub id: u32,
    /// The design, by the name that the program has for it.
    pub design: String,
    /// Where it lies; none while no place was found for it.
    pub place: Option<Place>,
}

/// A piece with its new place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Moved {
    /// The piece's number.
    pub piece: u32,
    /// Where it goes.
    pub place: Place,
}

/// A change of a bed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum BedEdit {
    /// Calls the bed something else.
    Rename {
        /// The new name.
        name: String,
    },
    /// So many copies of a design; 0 takes it off. What is there already stays where it is.
    SetCopies {
        /// The design.
        design: String,
        /// How many.
        copies: usize,
    },
    /// Takes single pieces off.
    Remove {
        /// Their numbers.
        pieces: Vec<u32>,
    },
    /// Puts pieces elsewhere.
    Move {
        /// Which, and where.
        places: Vec<Moved>,
    },
    /// Puts one piece at a typed place on its plate; what is left out stays.
    PutAt {
        /// The piece's number.
        piece: u32,
        /// Its origin, from the bed's left edge.
        right: Option<Length>,
        /// Its origin, from the bed's front edge.
        up: Option<Length>,
        /// Its turn, degrees anticlockwise.
        degrees: Option<f64>,
    },
    /// How far pieces stay apart.
    SetGap {
        /// The length.
        value: Length,
    },
    /// How pieces may be turned.
    SetTurns {
        /// How.
        turns: Turns,
    },
    /// How fine the bed is printed.
    SetQuality {
        /// How fine.
        quality: Quality,
    },
    /// In which order pieces are printed.
    SetOrder {
        /// The order.
        order: PrintOrder,
    },
    /// How much of the inside is filled.
    SetInfill {
        /// Percent; none takes the workshop's.
        infill: Option<f64>,
    },
}

impl BedEdit {
    /// Whether a bed that nobody touched is arranged anew after it.
    pub const fn rearranges(&self) -> bool {
        match self {
            Self::SetCopies { .. } | Self::SetGap { .. } | Self::SetTurns { .. } | Self::SetOrder { .. } => true,
            Self::Rename { .. }
            | Self::Remove { .. }
            | Self::Move { .. }
            | Self::PutAt { .. }
            | Self::SetQuality { .. }
            | Self::SetInfill { .. } => false,
        }
    }

    /// What undo calls it.
    pub fn label(&self) -> Message {
        match self {
            Self::Rename { .. } => msg!("undo-rename"),
            Self::SetCopies { copies: 0, .. } | Self::Remove { .. } => msg!("undo-take-off"),
            Self::SetCopies { copies, .. } => msg!("undo-copies", n = *copies),
            Self::Move { .. } | Self::PutAt { .. } => msg!("undo-move"),
            Self::SetGap { value } => msg!("undo-gap", value = value.words()),
            Self::SetTurns { .. } => msg!("undo-turns"),
            Self::SetQuality { .. } => msg!("undo-quality"),
            Self::SetInfill { .. } => msg!("undo-infill"),
            Self::SetOrder { order: PrintOrder::Together } => msg!("undo-together"),
            Self::SetOrder { order: PrintOrder::OneByOne } => msg!("undo-one-by-one"),
        }
    }
}

impl Bed {
    /// An empty bed.
    pub fn new(name: &str) -> Self {
        Self {
            version: BED_VERSION,
            name: name.into(),
            gap: 3.0,
            turns: Turns::Any,
            quality: Quality::Usual,
            infill: None,
            order: PrintOrder::Together,
            pieces: vec![],
            next: 1,
            is_by_hand: false,
        }
    }

    /// Reads a bed.
    pub fn from_json(json: &str) -> Result<Self, DocumentError> {
        let bed: Self = serde_json::from_str(json).map_err(|e| unread(&e))?;
        if bed.version > BED_VERSION {
            return Err(DocumentError::NewerVersion { found: bed.version.into() });
        }
        Ok(bed)
    }

    /// Writes it.
    pub fn to_json(&self) -> Result<String, DocumentError> {
        serde_json::to_string(self).map_err(|e| DocumentError::Unwritable(e.to_string()))
    }

    /// How far its pieces stay apart: their gap, or the room that the print head needs between them.
    pub fn apart(&self) -> f64 {
        match self.order {
            PrintOrder::Together => self.gap,
            PrintOrder::OneByOne => self.gap.max(HEAD_ROOM_MM),
        }
    }

    /// How many copies of each design lie on it, by the designs' names for the program.
    pub fn copies(&self) -> BTreeMap<&str, usize> {
        let mut all = BTreeMap::new();
        for p in &self.pieces {
            *all.entry(p.design.as_str()).or_default() += 1;
        }
        all
    }

    /// How many fillings of the printer's bed it is.
    pub fn plates(&self) -> usize {
        self.pieces.iter().filter_map(|p| p.place).map(|p| p.plate + 1).max().unwrap_or(0)
    }

    /// What a filling is called, 0 being the first: the bed's name, with a number where there are several.
    pub fn plate_name(&self, plate: usize) -> String {
        if self.plates() > 1 { format!("{} {}", self.name, plate + 1) } else { self.name.clone() }
    }

    /// The bed after a change; lengths without a unit are in `unit`.
    pub fn after(&self, edit: &BedEdit, unit: Unit) -> Result<Self, EditError> {
        let mut bed = self.clone();
        match edit {
            BedEdit::Rename { name } => bed.name = text("field-name", name, 1, MAX_NAME)?,
            BedEdit::SetCopies { design, copies } => bed.set_copies(design, *copies)?,
            BedEdit::Remove { pieces } => {
                if !pieces.iter().all(|id| bed.pieces.iter().any(|p| p.id == *id)) {
                    return Err(EditError::UnknownPiece);
                }
                bed.pieces.retain(|p| !pieces.contains(&p.id));
            }
            BedEdit::Move { places } => {
                bed = bed.arranged(places)?;
                bed.is_by_hand = true;
            }
            BedEdit::PutAt { piece, right, up, degrees } => {
                let found = bed.pieces.iter().find(|p| p.id == *piece).and_then(|p| p.place);
                let mut place = found.ok_or(EditError::UnknownPiece)?;
                let within = |v: &Length| v.within(msg!("field-place"), (-REACH_MM, REACH_MM), unit);
                let pose = &mut place.pose;
                pose.x = right.as_ref().map_or(Ok(pose.x), within)?;
                pose.y = up.as_ref().map_or(Ok(pose.y), within)?;
                pose.degrees = degrees.unwrap_or(pose.degrees);
                bed.put(&Moved { piece: *piece, place })?;
                bed.is_by_hand = true;
            }
            BedEdit::SetGap { value } => bed.gap = value.within(msg!("field-gap"), GAP_RANGE_MM, unit)?,
            BedEdit::SetTurns { turns } => bed.turns = *turns,
            BedEdit::SetQuality { quality } => bed.quality = *quality,
            BedEdit::SetOrder { order } => bed.order = *order,
            BedEdit::SetInfill { infill } => {
                infill_in_range(*infill)?;
                bed.infill = *infill;
            }
        }
        Ok(bed)
    }

    /// Refuses a bed that no list of edits would lead to.
    pub fn check(&self) -> Result<(), EditError> {
        text("field-name", &self.name, 1, MAX_NAME)?;
        in_range(msg!("field-gap"), self.gap, GAP_RANGE_MM, mm)?;
        infill_in_range(self.infill)?;
        if self.pieces.len() > MAX_PIECES {
            return Err(EditError::TooManyPieces { found: self.pieces.len() });
        }
        let mut ids: Vec<u32> = self.pieces.iter().map(|p| p.id).collect();
        ids.sort_unstable();
        ids.dedup();
        if ids.len() < self.pieces.len() || ids.last().is_some_and(|last| *last >= self.next) {
            return Err(EditError::UnknownPiece);
        }
        for p in &self.pieces {
            text("field-design", &p.design, 1, MAX_NAME)?;
            p.place.map_or(Ok(()), within_reach)?;
        }
        Ok(())
    }

    /// The bed with pieces where an arrangement puts them.
    pub fn arranged(&self, places: &[Moved]) -> Result<Self, EditError> {
        let mut bed = self.clone();
        places.iter().try_for_each(|m| bed.put(m))?;
        Ok(bed)
    }

    /// The bed as it is before everything is arranged anew.
    pub fn taken_up(&self) -> Self {
        let mut bed = Self { is_by_hand: false, ..self.clone() };
        bed.pieces.iter_mut().for_each(|p| p.place = None);
        bed
    }

    fn put(&mut self, m: &Moved) -> Result<(), EditError> {
        within_reach(m.place)?;
        let piece = self.pieces.iter_mut().find(|p| p.id == m.piece).ok_or(EditError::UnknownPiece)?;
        piece.place = Some(m.place);
        Ok(())
    }

    fn set_copies(&mut self, design: &str, copies: usize) -> Result<(), EditError> {
        let others = self.pieces.iter().filter(|p| p.design != design).count();
        let found = others.saturating_add(copies);
        if found > MAX_PIECES {
            return Err(EditError::TooManyPieces { found });
        }
        text("field-design", design, 1, MAX_NAME)?;
        let mut left = copies;
        // The last ones go first.
        self.pieces.retain(|p| {
            let stays = p.design != design || left > 0;
            if p.design == design && left > 0 {
                left -= 1;
            }
            stays
        });
        for _ in 0..left {
            self.pieces.push(BedPiece { id: self.next, design: design.into(), place: None });
            self.next += 1;
        }
        Ok(())
    }
}

/// Refuses a place that no bed has.
fn within_reach(place: Place) -> Result<(), EditError> {
    let at = place.pose;
    for v in [at.x, at.y] {
        in_range(msg!("field-place"), v, (-REACH_MM, REACH_MM), mm)?;
    }
    in_range(msg!("field-turn"), at.degrees, (-3600.0, 3600.0), in_unit("degrees"))?;
    in_range(msg!("field-bed-number"), place.plate as f64, (0.0, MAX_PLATES as f64 - 1.0), number)?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use kachel_geom::Pose;

    fn after(bed: &Bed, edit: BedEdit) -> Bed {
        bed.after(&edit, Unit::Mm).unwrap()
    }

    #[test]
    fn copies_come_and_go_and_the_rest_stays_where_it_is() {
        let six = after(&Bed::new("Fair"), BedEdit::SetCopies { design: "owl".into(), copies: 6 });
        let place = Place { plate: 0, pose: Pose { x: 20.0, y: 30.0, degrees: 15.0 } };
        let moved = after(&six, BedEdit::Move { places: vec![Moved { piece: 2, place }] });
        let two = after(&moved, BedEdit::SetCopies { design: "owl".into(), copies: 2 });
        assert_eq!(two.pieces.iter().map(|p| p.id).collect::<Vec<_>>(), [1, 2]);
        assert_eq!(two.pieces[1].place, Some(place));
        assert!(!six.is_by_hand && two.is_by_hand && !two.taken_up().is_by_hand);
        let three = after(&two, BedEdit::SetCopies { design: "owl".into(), copies: 3 });
        // Numbers are never used again.
        assert_eq!(three.pieces.iter().map(|p| p.id).collect::<Vec<_>>(), [1, 2, 7]);
        assert_eq!(three.copies()["owl"], 3);
        assert_eq!(Bed::from_json(&three.to_json().unwrap()).unwrap(), three);
    }

    #[test]
    fn nonsense_is_refused_and_says_what_is_allowed() {
        let bed = after(&Bed::new("Fair"), BedEdit::SetCopies { design: "owl".into(), copies: 1 });
        let refused = |edit: BedEdit| bed.after(&edit, Unit::Mm).unwrap_err().to_string();
        assert!(
            refused(BedEdit::SetCopies { design: "fox".into(), copies: 2000 })
                .contains("2001 pieces are more than 2000")
        );
        assert!(refused(BedEdit::SetCopies { design: "fox".into(), copies: usize::MAX }).contains("more than 2000"));
        assert!(refused(BedEdit::Remove { pieces: vec![9] }).contains("no longer"));
        assert!(refused(BedEdit::SetGap { value: "0".into() }).contains("0.5 mm to 50 mm"));
        assert!(refused(BedEdit::SetInfill { infill: Some(120.0) }).contains("0 % to 100 %"));
        assert!(refused(BedEdit::Rename { name: " ".into() }).contains("1 to 120"));
        for bad in [f64::NAN, f64::INFINITY, 1e9] {
            let place = Place { plate: 0, pose: Pose { x: bad, y: 0.0, degrees: 0.0 } };
            assert!(refused(BedEdit::Move { places: vec![Moved { piece: 1, place }] }).contains("The place"));
        }
        let put = |right: &str| BedEdit::PutAt { piece: 1, right: Some(right.into()), up: None, degrees: None };
        assert!(refused(put("20")).contains("no longer"), "it has no place yet");
        let there = Moved { piece: 1, place: Place { plate: 0, pose: Pose::default() } };
        let lies = after(&bed, BedEdit::Move { places: vec![there] });
        let put = |right: &str| lies.after(&put(right), Unit::Mm);
        assert!(put("inches").is_err());
        assert_eq!(put("2 in").unwrap().pieces[0].place.unwrap().pose.x, 50.8);
        let place = Place { plate: 500, pose: Pose::default() };
        assert!(refused(BedEdit::Move { places: vec![Moved { piece: 1, place }] }).contains("number"));
        let newer = bed.to_json().unwrap().replacen("\"version\":1", "\"version\":9", 1);
        assert!(matches!(Bed::from_json(&newer), Err(DocumentError::NewerVersion { .. })));
    }
}
