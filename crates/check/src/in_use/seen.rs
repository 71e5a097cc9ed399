//! What is seen of an object in use, and what it is made of.

use super::cup::{Cup, Standing};
use crate::Place;
use crate::round::circle;
use kachel_geom::{Bounds, Grid, Mm, OffGrid, Point, Region, Ring};
use kachel_solid::Layers;
use kachel_tiers::{Measures, Op, Role, Stack, Tier};
use kachel_words::{Message, Unit};

/// What is seen of an object in use.
#[derive(Clone, Debug)]
pub struct InUse {
    /// What it is, as a heading: the code of its message. Its part `leaves-out` is what the view does not know.
    pub title: &'static str,
    /// The answer, in whole sentences.
    pub says: Vec<Message>,
    /// What is shown beside the object or with it. Parts are places in [`Material::ALL`].
    pub stack: Stack,
    /// Whether that stands beside the object; else both are in one frame.
    pub is_beside: bool,
    /// Where something hangs or stands upright: by how much it is turned anticlockwise before, degrees.
    pub upright: Option<f64>,
    /// How high the light stands, degrees above the table; `None` for daylight from above.
    pub light: Option<f64>,
    /// Places worth a look, in the frame of `stack`.
    pub places: Vec<Place>,
    /// How a cup stands on it.
    pub standing: Option<Standing>,
}

impl InUse {
    /// The answer in words.
    pub fn answer(&self, unit: Unit) -> String {
        self.says.iter().map(|s| s.said(unit)).collect::<Vec<_>>().join(" ")
    }

    /// Tiers in one frame with the object, as it lies, by day, with no place marked.
    pub(super) fn of(title: &'static str, says: Vec<Message>, tiers: Vec<Tier>) -> Self {
        let filaments = Material::ALL.iter().map(|m| m.name().into()).collect();
        let stack = Stack { tiers, filaments, ..Stack::default() };
        Self { title, says, stack, is_beside: false, upright: None, light: None, places: vec![], standing: None }
    }
}

/// What things beside an object are made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Material {
    /// Rolled out.
    Dough,
    /// A sheet.
    Paper,
    /// On the sheet.
    Ink,
    /// A cup or glass.
    Cup,
    /// A nail.
    Nail,
    /// A steel sheet.
    Steel,
}

impl Material {
    /// In the order of parts.
    pub const ALL: [Self; 6] = [Self::Dough, Self::Paper, Self::Ink, Self::Cup, Self::Nail, Self::Steel];

    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Dough => "dough",
            Self::Paper => "paper",
            Self::Ink => "ink",
            Self::Cup => "cup",
            Self::Nail => "nail",
            Self::Steel => "steel",
        }
    }
}

/// The object that is used.
#[derive(Clone, Copy, Debug)]
pub struct Used<'a> {
    /// The recipe's measures.
    pub measures: &'a Measures,
    /// From the tiers stage.
    pub stack: &'a Stack,
    /// The solid as the printer lays it.
    pub layers: &'a Layers,
    /// Its mass, g, filled solid.
    pub mass: f64,
    /// The cup that is put on a coaster.
    pub cup: Cup,
}

impl Used<'_> {
    /// How high it is, mm.
    pub(super) fn top(&self) -> f64 {
        self.layers.all.last().map_or(0.0, |l| l.top)
    }

    /// The box round it in plan.
    pub(super) fn bounds(&self) -> Option<Bounds<Mm>> {
        self.layers
            .runs()
            .into_iter()
            .filter_map(|(first, _)| self.layers.all[first].area.bounds())
            .reduce(Bounds::union)
    }
}

/// Something made of a material, between two heights, mm.
pub(super) fn thing(of: Material, area: Region, bottom: f64, top: f64) -> Result<Tier, OffGrid> {
    put(of, area, bottom, top, Op::Add)
}

/// The same, added or cut.
pub(super) fn put(of: Material, area: Region, bottom: f64, top: f64, op: Op) -> Result<Tier, OffGrid> {
    let part = Material::ALL.iter().position(|m| *m == of).unwrap_or_default();
    let heights = (Grid::from_mm(bottom)?, Grid::from_mm(top)?);
    Ok(Tier::upright(Role::Body, area, heights, op, u32::try_from(part).unwrap_or_default()))
}

pub(super) fn disc(c: Point<Mm>, across: f64) -> Result<Region, OffGrid> {
    Region::from_mm(&[circle(c, across)])
}

pub(super) fn rectangle(b: &Bounds<Mm>) -> Result<Region, OffGrid> {
    Region::from_mm(&[Ring(b.corners().to_vec())])
}
