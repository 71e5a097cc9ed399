use crate::print::PrintWish;
use crate::upgrade::{DocumentError, unread, upgrade};
use kachel_artwork::Prepare;
use kachel_geom::{Point, Px};
use kachel_outline::{Choice, Entry, Guesses, MAX_CHANGES, Size, Spot, Wanted, is_near};
use kachel_tiers::{Bar, Footprint, MAX_OWN, MeasureError, Measures, OwnTier, RecipeKind, Unit};
use kachel_trace::TraceSettings;
use kachel_words::{Message, msg};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use ts_rs::TS;

/// Longest name, characters.
pub const MAX_NAME: usize = 120;
/// Most guides.
pub const MAX_GUIDES: usize = 100;
/// Most tie bars of a maker's own.
pub(crate) const MAX_BARS: usize = 500;
/// Most choices of patches, and of pins.
pub const MAX_CHOICES: usize = 5_000;

/// One saved piece of work: where the picture is, and everything that the maker decided.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Document {
    /// [`VERSION`] when it was written.
    pub version: u32,
    /// What the maker calls it.
    pub name: String,
    /// The picture.
    pub artwork: ArtworkRef,
    /// Whose picture it is.
    pub credit: Credit,
    /// The file of an earlier picture that the credit was entered for; none where it is of this one.
    pub credit_of: Option<String>,
    /// Unit in which lengths are shown.
    pub unit: Unit,
    /// What is done to the picture before it is traced.
    pub prepare: Prepare,
    /// What counts as ink, and how it is followed.
    pub trace: TraceSettings,
    /// Width of all pen lines, mm; each as it was drawn where it is left out.
    pub pen_width: Option<f64>,
    /// How first guesses of uses are made.
    pub guesses: Guesses,
    /// Uses that the maker gave to patches.
    pub choices: Vec<Choice>,
    /// What is done to the outline, in this order.
    pub changes: Vec<Entry>,
    /// Patches that must not be touched.
    pub pins: Vec<Spot>,
    /// Lines to draw by.
    pub guides: Vec<Guide>,
    /// How large the edge is.
    pub size: Size,
    /// The rule that makes tiers.
    pub recipe: RecipeKind,
    /// Measures that differ from the recipe's defaults, mm.
    #[ts(type = "Record<string, number>")]
    pub measures: BTreeMap<String, f64>,
    /// Measures that were set while the design had another recipe, by that recipe's name.
    #[ts(type = "Record<string, Record<string, number>>")]
    pub other_measures: BTreeMap<String, BTreeMap<String, f64>>,
    /// The maker's own tiers, after the recipe's, in this order.
    pub tiers: Vec<OwnTier>,
    /// The maker's own tie bars, by their ends in pixels of the picture; none lets them be found.
    pub bars: Option<Vec<Bar>>,
    /// Filaments of tiers, by the tiers' keys.
    #[ts(type = "Record<string, string>")]
    pub filaments: BTreeMap<String, String>,
    /// Filaments of patches.
    pub paints: Vec<PatchFilament>,
    /// How it is printed.
    pub print: PrintWish,
    /// Findings that the maker knows of and leaves as they are.
    pub accepted: Vec<Accepted>,
}

/// Most findings that are accepted at a time.
pub const MAX_ACCEPTED: usize = 100;
/// By how much the figures of a finding change until it is told again.
const ACCEPTED_CHANGE: f64 = 0.1;

/// A finding that the maker knows of, by what it was like then.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Accepted {
    /// The kind of finding.
    pub code: String,
    /// Its figures, in their order.
    pub figures: Vec<f64>,
    /// How many places it had.
    pub places: usize,
}

impl Accepted {
    /// Whether a finding is still this one: of the same kind, its figures changed by no more than a tenth.
    pub fn is(&self, other: &Self) -> bool {
        let near = |a: f64, b: f64| (a - b).abs() <= ACCEPTED_CHANGE * a.abs().max(b.abs()) + 1e-9;
        let figures = self.figures.len() == other.figures.len()
            && self.figures.iter().zip(&other.figures).all(|(a, b)| near(*a, *b));
        self.code == other.code && figures && near(self.places as f64, other.places as f64)
    }
}

/// The filament of a patch.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct PatchFilament {
    /// The patch.
    pub spot: Spot,
    /// The filament's name for designs; none takes it off again.
    pub filament: Option<String>,
}

/// A line right across the picture, to draw by.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Guide {
    /// Whether it runs up and down.
    pub is_upright: bool,
    /// Where it crosses the other axis, pixels of the picture.
    pub at: f64,
}

/// A picture, identified by the hash of its bytes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct ArtworkRef {
    /// SHA-256 of the file, hexadecimal.
    pub hash: String,
    /// The name the file came with.
    pub file_name: String,
}

/// Whose picture it is and on what terms; carried into exports.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields, default)]
pub struct Credit {
    /// Who drew or took it.
    pub maker: String,
    /// Where it comes from.
    pub source: String,
    /// Under which licence.
    pub licence: String,
    /// Note of a permission.
    pub note: String,
}

impl Document {
    /// This design with the outline of another: its picture, what is done to it and to the outline, uses and size. Name, unit, recipe,
    /// measures, tiers and filaments of tiers stay. Own tie bars and findings that were left as they were are of the old picture: they go.
    #[must_use]
    pub fn with_outline_of(&self, other: &Self) -> Self {
        Self {
            version: self.version,
            name: self.name.clone(),
            unit: self.unit,
            recipe: self.recipe,
            measures: self.measures.clone(),
            other_measures: self.other_measures.clone(),
            tiers: self.tiers.clone(),
            bars: None,
            filaments: self.filaments.clone(),
            print: self.print,
            accepted: vec![],
            ..other.clone()
        }
    }

    /// Reads a document of any version up to [`VERSION`] and brings it up to date.
    pub fn from_json(text: &str) -> Result<Self, DocumentError> {
        let damaged = |e: serde_json::Error| unread(&e);
        let mut value: serde_json::Value = serde_json::from_str(text).map_err(damaged)?;
        upgrade(&mut value)?;
        let document: Self = serde_json::from_value(value).map_err(damaged)?;
        document.measures()?;
        Ok(document)
    }

    /// Why it is refused: a limit that edits hold and this document breaks. For documents from outside.
    pub fn refusal(&self) -> Option<Message> {
        let most =
            |what: &'static str, found: usize, most: usize| (found > most).then(|| msg!(what, n = found, most = most));
        let is_far = !self.spots().all(|s| s.is_finite() && is_near(&s.at))
            || !self.bars.iter().flatten().all(Bar::is_near)
            || !self.guides.iter().all(|g| g.at.abs() < 1e6);
        most("document-choices", self.choices.len(), MAX_CHOICES)
            .or_else(|| most("document-paints", self.paints.len(), MAX_CHOICES))
            .or_else(|| most("document-pins", self.pins.len(), MAX_CHOICES))
            .or_else(|| most("document-guides", self.guides.len(), MAX_GUIDES))
            .or_else(|| most("document-changes", self.changes.len(), MAX_CHANGES))
            .or_else(|| most("document-tiers", self.tiers.len(), MAX_OWN))
            .or_else(|| most("document-bars", self.bars.as_ref().map_or(0, Vec::len), MAX_BARS))
            .or_else(|| most("document-name", self.name.chars().count(), MAX_NAME))
            .or_else(|| {
                let is_no_share = self.print.infill.is_some_and(|v| !(0.0..=100.0).contains(&v));
                is_no_share.then(|| msg!("no-such-infill"))
            })
            .or_else(|| is_far.then(|| msg!("document-places-too-far")))
            .or_else(|| self.changes.iter().find_map(|c| c.change.refusal()))
            .or_else(|| self.tiers.iter().find_map(OwnTier::refusal))
    }

    /// The document as text; equal documents give equal text.
    pub fn to_json(&self) -> Result<String, DocumentError> {
        serde_json::to_string(self).map_err(|e| DocumentError::Unwritable(e.to_string()))
    }

    /// Moves everything that lies on the picture along with it. What falls off it is forgotten, as are guides that would
    /// no longer run straight up or across.
    pub fn move_places(&mut self, moved: impl Fn(Point<Px>) -> Point<Px>) {
        self.choices.iter_mut().for_each(|c| c.spot.move_places(&moved));
        self.choices.retain(|c| c.spot.is_finite());
        self.pins.iter_mut().for_each(|p| p.move_places(&moved));
        self.pins.retain(Spot::is_finite);
        self.changes.iter_mut().for_each(|c| c.change.move_places(&moved));
        self.paints.iter_mut().for_each(|p| p.spot.move_places(&moved));
        self.paints.retain(|p| p.spot.is_finite());
        for b in self.bars.iter_mut().flatten() {
            (b.from, b.to) = (moved(b.from), moved(b.to));
        }
        self.bars.iter_mut().for_each(|bars| bars.retain(Bar::is_near));
        for t in &mut self.tiers {
            if let Footprint::Patches { patches } = &mut t.footprint {
                patches.iter_mut().for_each(|p| p.move_places(&moved));
                patches.retain(Spot::is_finite);
            }
        }
        let guide = |g: &Guide| {
            let at = |along: f64| moved(if g.is_upright { Point::new(g.at, along) } else { Point::new(along, g.at) });
            let (a, b) = (at(0.0), at(1000.0));
            let is_upright = (b.x - a.x).abs() < (b.y - a.y).abs();
            let (off, at) =
                if is_upright { (b.x - a.x, f64::midpoint(a.x, b.x)) } else { (b.y - a.y, f64::midpoint(a.y, b.y)) };
            (off.abs() < 0.5 && at.is_finite()).then_some(Guide { is_upright, at })
        };
        self.guides = self.guides.iter().filter_map(guide).collect();
    }

    /// Every patch that is named, but for those that changes work on.
    fn spots(&self) -> impl Iterator<Item = &Spot> {
        let own_tiers = self.tiers.iter().filter_map(|t| match &t.footprint {
            Footprint::Patches { patches } => Some(patches),
            _ => None,
        });
        let chosen = self.choices.iter().map(|c| &c.spot).chain(self.paints.iter().map(|p| &p.spot));
        chosen.chain(&self.pins).chain(own_tiers.flatten())
    }

    /// A name for the next change of the outline, used by no other change and by no patch.
    pub(crate) fn next_change(&self) -> u32 {
        let worked_on = self.changes.iter().flat_map(|c| c.change.spots());
        let made_by = self.spots().copied().chain(worked_on).filter_map(|s| s.made_by());
        made_by.chain(self.changes.iter().map(|c| c.id)).max().unwrap_or(0).saturating_add(1)
    }

    /// What its outline is made with.
    pub fn wanted(&self) -> Result<Wanted<'_>, MeasureError> {
        let measures = self.measures()?;
        Ok(Wanted {
            choices: &self.choices,
            changes: &self.changes,
            size: self.size,
            pen: self.pen_width,
            aim: self.recipe.aim(&measures),
            guesses: self.guesses,
            usual: self.recipe.usual(&measures),
        })
    }

    /// All measures of the recipe.
    pub fn measures(&self) -> Result<Measures, MeasureError> {
        Measures::new(self.recipe.recipe(), &self.measures)
    }
}
