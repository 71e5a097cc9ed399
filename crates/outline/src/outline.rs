use crate::entry::Astray;
use crate::error::OutlineError;
use crate::known::Choice;
use crate::patch::{Patch, PatchId};
use crate::place::Place;
use kachel_geom::{Bounds, Mm, Point, Px, Region, Ring, normalise, thinnest};
use serde::Serialize;

/// The contours at true size.
#[derive(Clone, Debug)]
pub struct Outline {
    /// All patches, outer ones first.
    pub patches: Vec<Patch>,
    /// Millimetres a pixel.
    pub mm_per_px: f64,
    /// The pixel position of the millimetre origin.
    pub origin: Point<Px>,
    /// The middle of the smallest circle round the edge, or round the details where nothing is the edge, before any change:
    /// the place of a plate that stays where it is whatever is moved on it.
    pub middle: Point<Mm>,
    /// Box, in pixels, of the patches that shape the edge, or of the details where nothing is the edge.
    pub edge_px: Bounds<Px>,
    /// The same, mm.
    pub edge_bounds: Bounds<Mm>,
    /// The filled outer contours of all edge patches, joined.
    pub edge: Region,
    /// Every detail patch.
    pub details: Vec<(PatchId, Region)>,
    /// Every patch that is cut right through.
    pub openings: Vec<(PatchId, Region)>,
    /// Nodes of the curves of all patches in use.
    pub nodes: usize,
    /// Choices whose patch is gone.
    pub lost: Vec<Choice>,
    /// Entries of the list of changes that do not do all they were meant to.
    pub astray: Vec<Astray>,
}

/// A place of a patch and its width there.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct Thinnest {
    /// Its width, mm, within a hundredth of it.
    pub width: f64,
    /// Where it is, pixels of the picture.
    pub at: Point<Px>,
}

/// Widths over this (mm) are not looked for.
const MOST_THIN_MM: f64 = 20.0;

impl Outline {
    const fn place(&self) -> Place {
        Place { origin: self.origin, mm_per_px: self.mm_per_px }
    }

    /// The patch's own area, without its holes; empty where there is no such patch.
    pub fn region(&self, patch: usize) -> Result<Region, OutlineError> {
        let Some(p) = self.patches.get(patch) else { return Ok(Region::default()) };
        let place = self.place();
        let rings: Vec<Ring<Mm>> = p.curves.iter().map(|c| place.ring(c)).collect();
        Ok(Region::from_mm(&normalise(&rings, true))?)
    }

    /// A place of the picture, in millimetres of the outline.
    pub fn mm(&self, at: Point<Px>) -> Point<Mm> {
        self.place().point(at)
    }

    /// A place of the outline, in pixels of the picture.
    pub fn px(&self, at: Point<Mm>) -> Point<Px> {
        self.place().back(at)
    }

    /// Where the patch is thinnest, corners left out; `None` where it is 20 mm wide or wider all over.
    pub fn thinnest(&self, patch: usize) -> Result<Option<Thinnest>, OutlineError> {
        let place = self.place();
        let found = thinnest(&self.region(patch)?, MOST_THIN_MM)?;
        Ok(found.map(|(width, at)| {
            let at = place.back(at);
            Thinnest { width, at }
        }))
    }
}
