//! Outline: contours at true size, as patches that have a use.
//!
//! Millimetres count from the middle of the edge's box, x to the right and y up. Only patches in use are put on
//! the grid, so that a small patch chosen out of a huge picture never falls off it.

mod change;
mod desk;
mod drawn;
mod shape;
mod spot;
mod text;
mod work;

pub use change::{
    Astray, Change, DEVIATION_RANGE_MM, Entry, LENGTH_RANGE_MM, LineUpWith, MAX_CHANGES, Piece, Seen, Side, TIMES_RANGE,
};
pub use desk::{Step, Steps};
pub use drawn::{DrawnLine, MAX_LINE_NODES, Node};
pub use shape::Shape;
pub use spot::{Likeness, Root, Spot, moved_span, patch_at};
pub use text::{Align, Face, MAX_TEXT, Text};
pub use work::thickened;

use desk::Remembered;
use kachel_geom::{
    Bounds, Curve, Mm, Name, OffGrid, Point, Px, Region, Ring, Stage, Stopped, Watch, interior_point, normalise,
    simplify,
};
use kachel_trace::{Contour, Contours, FLATNESS, PenWidth, inked};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;

/// Largest distance (mm) of a node that is left out when the outline comes to the grid: it changes areas by a few
/// millionths and halves the nodes of a traced picture.
pub const DEVIATION_MM: f64 = 0.005;
/// Range of the edge's width and height, mm.
pub const SIZE_RANGE_MM: (f64, f64) = (1.0, 1000.0);

/// What a patch is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Use {
    /// Its outer contour, filled, shapes the object.
    Edge,
    /// It is raised as an area.
    Detail,
    /// Both: it shapes the object and is raised.
    Both,
    /// It is not used.
    Aside,
}

/// Index of a patch in its outline; made only there.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
pub struct PatchId(u32);

impl PatchId {
    /// The place in [`Outline::patches`].
    pub const fn index(self) -> usize {
        self.0 as usize
    }
}

/// One connected area of ink, or a gap enclosed by ink.
#[derive(Clone, Debug)]
pub struct Patch {
    /// Its name within this outline.
    pub id: PatchId,
    /// Ink, or a gap.
    pub is_ink: bool,
    /// The outer contour first, then what is left out of it; pixels, y down.
    pub curves: Vec<Curve<Px>>,
    /// The same, flattened finely.
    pub rings: Vec<Ring<Px>>,
    /// A point inside.
    pub anchor: Point<Px>,
    /// Area in square pixels.
    pub area_px2: f64,
    /// How many contours lie round it.
    pub depth: u32,
    /// What it is for.
    pub use_: Use,
    /// Which colour of the palette it has.
    pub colour: Option<u8>,
    /// Name of the group that an SVG has it in.
    pub group: Option<String>,
    /// Where it comes from.
    pub root: Option<Root>,
}

impl Use {
    /// Whether its outer contour shapes the object.
    pub const fn is_edge(self) -> bool {
        matches!(self, Self::Edge | Self::Both)
    }

    /// Whether it is raised.
    pub const fn is_detail(self) -> bool {
        matches!(self, Self::Detail | Self::Both)
    }
}

/// A use that the maker gave to a patch.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Choice {
    /// The patch.
    pub spot: Spot,
    /// The use.
    #[serde(rename = "use")]
    pub use_: Use,
}

/// How large the edge is.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(tag = "by", rename_all = "kebab-case")]
#[ts(export)]
pub enum Size {
    /// Millimetres a pixel; the size follows the choice of patches.
    Scale {
        /// Millimetres a pixel.
        mm_per_px: f64,
    },
    /// Pinned width in millimetres; the scale follows.
    Width {
        /// The edge's width.
        mm: f64,
    },
    /// Pinned height in millimetres; the scale follows.
    Height {
        /// The edge's height.
        mm: f64,
    },
}

/// The contours at true size.
#[derive(Clone, Debug)]
pub struct Outline {
    /// All patches, outer ones first.
    pub patches: Vec<Patch>,
    /// Millimetres a pixel.
    pub mm_per_px: f64,
    /// The pixel position of the millimetre origin: the middle of the edge's box.
    pub origin: Point<Px>,
    /// Box, in pixels, of the patches that shape the edge.
    pub edge_px: Bounds<Px>,
    /// Box of the edge, mm.
    pub edge_bounds: Bounds<Mm>,
    /// The filled outer contours of all edge patches, joined.
    pub edge: Region,
    /// Every detail patch.
    pub details: Vec<(PatchId, Region)>,
    /// Choices whose patch is gone.
    pub lost: Vec<Choice>,
    /// Entries of the list of changes that do not do all they were meant to.
    pub astray: Vec<Astray>,
}

/// Why there is no outline.
#[derive(Debug, thiserror::Error)]
pub enum OutlineError {
    /// No patch has the use 'edge'.
    #[error("no patch shapes the edge")]
    NoEdge,
    /// The list of changes leaves no patch of that use.
    #[error("nothing is left to shape the edge after '{what}'")]
    NothingLeft {
        /// What the entry does.
        what: &'static str,
    },
    /// The edge would be smaller or larger than [`SIZE_RANGE_MM`].
    #[error("the edge would be {mm:.2} mm {side}; it can be {} to {} mm", SIZE_RANGE_MM.0, SIZE_RANGE_MM.1)]
    SizeOutOfRange {
        /// The size that came out.
        mm: f64,
        /// 'wide' or 'high'.
        side: &'static str,
    },
    /// A patch in use lies too far from the edge.
    #[error("a patch in use lies too far from the edge: {0}")]
    OffGrid(#[from] OffGrid),
    /// Somebody stopped it.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

impl OutlineError {
    /// What to do about it.
    pub const fn hint(&self) -> &'static str {
        match self {
            Self::NothingLeft { .. } => {
                "Undo it; or, at Outline, change that entry of the list, switch it off or take it out."
            }
            Self::NoEdge => "At Outline, give at least one patch the use 'edge'.",
            Self::SizeOutOfRange { .. } => "At Outline, set a width or height in the range.",
            Self::OffGrid(_) => "Put the far patch aside, or make the object smaller.",
            Self::Stopped(_) => "Start it again.",
        }
    }
}

/// The contours with pen lines given their width, `pen` millimetres or as drawn, at a guess of the scale.
fn at_width<'c>(
    c: &'c Contours,
    pen: Option<f64>,
    mm_per_px: f64,
    watch: &Watch,
) -> Result<Cow<'c, Contours>, Stopped> {
    if c.lines.is_empty() {
        return Ok(Cow::Borrowed(c));
    }
    let width = pen.map_or(PenWidth::Drawn, |mm| PenWidth::Pixels(mm / mm_per_px));
    inked(c, width, watch).map(Cow::Owned)
}

/// The scale as far as the size alone tells it: with a pinned side it is that of all lines together.
fn guessed_scale(c: &Contours, size: Size, pen: Option<f64>) -> f64 {
    let all =
        c.contours.iter().filter_map(|c| c.ring.bounds()).chain(c.lines.iter().filter_map(|l| l.curve.bounds(0.5)));
    let b = all.reduce(Bounds::union).unwrap_or(Bounds { min: Point::new(0.0, 0.0), max: Point::new(1.0, 1.0) });
    let of = |mm: f64, px: f64| (mm - pen.unwrap_or(0.0).min(mm * 0.9)) / px.max(1e-6);
    match size {
        Size::Scale { mm_per_px } => mm_per_px,
        Size::Width { mm } => of(mm, b.width()),
        Size::Height { mm } => of(mm, b.height()),
    }
}

/// The patches that [`size_outline`] starts from, whether or not they make an outline.
pub fn found_patches(c: &Contours, size: Size, pen: Option<f64>, watch: &Watch) -> Result<Vec<Patch>, Stopped> {
    Ok(patches(at_width(c, pen, guessed_scale(c, size, pen), watch)?.as_ref()))
}

/// The patches of the contours with their first guesses: outermost ink is the edge, ink within is detail, gaps are
/// put aside.
pub fn patches(contours: &Contours) -> Vec<Patch> {
    let all = &contours.contours;
    let mut depth = vec![0u32; all.len()];
    for (i, c) in all.iter().enumerate() {
        if let Some(p) = c.parent {
            depth[i] = depth[p] + 1;
        }
    }
    let patch = |(i, c): (usize, &Contour)| {
        let holes = c.holes.iter().map(|h| h.ring(FLATNESS));
        let rings: Vec<Ring<Px>> = std::iter::once(c.ring.clone()).chain(holes).collect();
        let anchor = interior_point(&rings.iter().collect::<Vec<_>>())?;
        let use_ = match (c.is_ink, depth[i]) {
            (true, 0) => Use::Edge,
            (true, _) => Use::Detail,
            (false, _) => Use::Aside,
        };
        let patch = Patch {
            id: PatchId(0),
            is_ink: c.is_ink,
            curves: std::iter::once(&c.curve).chain(&c.holes).cloned().collect(),
            area_px2: rings[0].area().abs() - rings[1..].iter().map(|r| r.area().abs()).sum::<f64>(),
            rings,
            anchor,
            depth: depth[i],
            use_,
            colour: c.colour,
            group: c.group.clone(),
            root: None,
        };
        Some(patch.traced())
    };
    let mut patches: Vec<Patch> = all.par_iter().enumerate().filter_map(patch).collect();
    number(&mut patches);
    patches
}

/// Gives the patches their names: their places in the list.
fn number(patches: &mut [Patch]) {
    for (p, k) in patches.iter_mut().zip(0..) {
        p.id = PatchId(k);
    }
}

impl Patch {
    /// Whether the point lies in it.
    pub fn contains(&self, p: Point<Px>) -> bool {
        self.rings.iter().filter(|r| r.contains(p)).count() % 2 == 1
    }
}

/// Gives the choices to the patches they mean; returns those that found none.
pub fn apply_choices(patches: &mut [Patch], choices: &[Choice]) -> Vec<Choice> {
    let mut lost = Vec::new();
    for choice in choices {
        match patch_at(patches, &choice.spot) {
            Some(k) => patches[k].use_ = choice.use_,
            None => lost.push(*choice),
        }
    }
    lost
}

/// Box, in pixels, of the patches that shape the edge.
pub fn edge_box(patches: &[Patch]) -> Option<Bounds<Px>> {
    patches.iter().filter(|p| p.use_.is_edge()).filter_map(|p| p.rings[0].bounds()).reduce(Bounds::union)
}

fn all_boxes(patches: &[Patch]) -> Option<Bounds<Px>> {
    patches.iter().filter_map(|p| p.rings[0].bounds()).reduce(Bounds::union)
}

/// Brings contours to true size; pen lines become `pen` millimetres wide, or stay as wide as they were drawn. Then the
/// changes are applied in their order.
pub fn size_outline(
    contours: &Contours,
    choices: &[Choice],
    edits: &[Entry],
    size: Size,
    pen: Option<f64>,
    watch: &Watch,
) -> Result<Outline, OutlineError> {
    size_outline_from(contours, choices, edits, size, pen, None, watch)
}

/// The same with a memory of the steps of the list; the text tells contours, choices and pen width apart.
pub fn size_outline_from(
    contours: &Contours,
    choices: &[Choice],
    edits: &[Entry],
    size: Size,
    pen: Option<f64>,
    memory: Option<(&dyn Steps, &str)>,
    watch: &Watch,
) -> Result<Outline, OutlineError> {
    watch.enter(Stage::Outline)?;
    let mut guess = guessed_scale(contours, size, pen);
    // The width of a pen line depends on the scale, and with a pinned side the scale on the width of the lines.
    let mut rounds = 0;
    let has_lengths = pen.is_some() && !contours.lines.is_empty() || edits.iter().any(|e| e.is_on);
    let (patches, lost, astray, edge_px, mm_per_px) = loop {
        let mut patches = patches(at_width(contours, pen, guess, watch)?.as_ref());
        // What is chosen of a patch that a change makes waits for the change.
        let (mut lost, early): (Vec<Choice>, Vec<Choice>) = choices.iter().partition(|c| c.spot.made_by().is_some());
        lost.extend(apply_choices(&mut patches, &early));
        let middle = edge_box(&patches).or_else(|| all_boxes(&patches)).map_or(Point::new(0.0, 0.0), |b| b.centre());
        let place = Place { origin: middle, mm_per_px: guess };
        let start = |base: &str| Name::of(&(base, guess.to_bits()));
        let memory = memory.map(|(steps, base)| Remembered { steps, start: start(base) });
        let astray = desk::apply(&mut patches, edits, &place, memory, watch)?;
        // A choice may mean what a change has made.
        lost = apply_choices(&mut patches, &lost);
        let edge_px = edge_box(&patches).ok_or_else(|| nothing_left(edits, &astray))?;
        let mm_per_px = match size {
            Size::Scale { mm_per_px } => mm_per_px,
            Size::Width { mm } => mm / edge_px.width(),
            Size::Height { mm } => mm / edge_px.height(),
        };
        rounds += 1;
        let is_settled = (mm_per_px / guess - 1.0).abs() < 1e-5;
        if !has_lengths || is_settled || rounds == 6 || !mm_per_px.is_finite() {
            break (patches, lost, astray, edge_px, mm_per_px);
        }
        guess = mm_per_px;
    };
    for (px, side) in [(edge_px.width(), "wide"), (edge_px.height(), "high")] {
        let mm = px * mm_per_px;
        if !(mm >= SIZE_RANGE_MM.0 - 1e-9 && mm <= SIZE_RANGE_MM.1 + 1e-9) {
            return Err(OutlineError::SizeOutOfRange { mm, side });
        }
    }
    let origin = edge_px.centre();
    let place = Place { origin, mm_per_px };
    let outer: Vec<Ring<Mm>> =
        patches.par_iter().filter(|p| p.use_.is_edge()).map(|p| anticlockwise(place.ring(&p.curves[0]))).collect();
    let edge = Region::from_mm(&normalise(&outer, false))?.filled();
    let edge_bounds = edge.bounds().ok_or(OutlineError::NoEdge)?;
    let detail = |p: &Patch| {
        watch.check()?;
        let rings: Vec<Ring<Mm>> = p.curves.iter().map(|c| place.ring(c)).collect();
        Ok::<_, OutlineError>((p.id, Region::from_mm(&normalise(&rings, true))?))
    };
    let details: Result<Vec<_>, OutlineError> = patches.par_iter().filter(|p| p.use_.is_detail()).map(detail).collect();
    let details = details?;
    Ok(Outline { patches, mm_per_px, origin, edge_px, edge_bounds, edge, details, lost, astray })
}

/// Whether it was an entry of the list that left no edge.
fn nothing_left(edits: &[Entry], astray: &[Astray]) -> OutlineError {
    let emptied = astray.iter().rev().find(|a| a.is_empty && a.lost.is_empty());
    let entry = emptied.and_then(|a| edits.iter().find(|e| e.id == a.id));
    entry.map_or(OutlineError::NoEdge, |e| OutlineError::NothingLeft { what: e.change.label() })
}

/// A place of a patch and its width there.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, ts_rs::TS)]
#[ts(export)]
pub struct Thinnest {
    /// Its width, mm, within a hundredth of it.
    pub width: f64,
    /// Where it is, pixels of the picture.
    pub at: [f64; 2],
}

/// Widths over this (mm) are not looked for.
const MOST_THIN_MM: f64 = 20.0;

impl Outline {
    /// The patch's own area, without its holes; empty where there is no such patch.
    pub fn region(&self, patch: usize) -> Result<Region, OutlineError> {
        let Some(p) = self.patches.get(patch) else { return Ok(Region::default()) };
        let place = Place { origin: self.origin, mm_per_px: self.mm_per_px };
        let rings: Vec<Ring<Mm>> = p.curves.iter().map(|c| place.ring(c)).collect();
        Ok(Region::from_mm(&normalise(&rings, true))?)
    }

    /// A place of the picture, in millimetres of the outline.
    pub fn mm(&self, at: [f64; 2]) -> Point<Mm> {
        Place { origin: self.origin, mm_per_px: self.mm_per_px }.point(Point::new(at[0], at[1]))
    }

    /// A place of the outline, in pixels of the picture.
    pub fn px(&self, at: Point<Mm>) -> [f64; 2] {
        let p = Place { origin: self.origin, mm_per_px: self.mm_per_px }.back(at);
        [p.x, p.y]
    }

    /// Where the patch is thinnest, corners left out; `None` where it is 20 mm wide or wider all over.
    pub fn thinnest(&self, patch: usize) -> Result<Option<Thinnest>, OutlineError> {
        let place = Place { origin: self.origin, mm_per_px: self.mm_per_px };
        let found = work::thinnest(&self.region(patch)?, MOST_THIN_MM)?;
        Ok(found.map(|(width, at)| {
            let at = place.back(at);
            Thinnest { width, at: [at.x, at.y] }
        }))
    }
}

/// The one place where pixels become millimetres.
struct Place {
    origin: Point<Px>,
    mm_per_px: f64,
}

impl Place {
    fn back(&self, p: Point<Mm>) -> Point<Px> {
        Point::new(self.origin.x + p.x / self.mm_per_px, self.origin.y - p.y / self.mm_per_px)
    }

    fn point(&self, p: Point<Px>) -> Point<Mm> {
        Point::new((p.x - self.origin.x) * self.mm_per_px, (self.origin.y - p.y) * self.mm_per_px)
    }

    /// Curves become lines here, on the way to the tiers: half of the deviation goes to flattening, half to leaving out.
    fn ring(&self, c: &Curve<Px>) -> Ring<Mm> {
        simplify(&c.map(|p| self.point(p)).ring(DEVIATION_MM / 2.0), DEVIATION_MM / 2.0)
    }
}

fn anticlockwise(mut r: Ring<Mm>) -> Ring<Mm> {
    if r.area() < 0.0 {
        r.0.reverse();
    }
    r
}

#[cfg(test)]
mod tests;
