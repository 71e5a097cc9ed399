use crate::spot::{Likeness, Root, Spot, span_of};
use kachel_geom::{Bounds, Curve, Point, Px, Ring};
use serde::{Deserialize, Serialize};

/// What a patch is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Use {
    /// Its outer contour, filled, shapes the object.
    Edge,
    /// It is raised as an area.
    Detail,
    /// Both: it shapes the object and is raised.
    Both,
    /// It is cut right through whatever it lies in.
    Opening,
    /// It is not used.
    Aside,
}

/// Index of a patch in its outline; made only there.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
pub struct PatchId(pub(crate) u32);

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
    /// Whether it was written as text, and reads backwards by now.
    pub letters: Option<Letters>,
}

/// What became of written text.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Letters {
    /// It reads as it was written.
    Right,
    /// It is the mirror image of what was written.
    Backwards,
}

impl Letters {
    /// After it was turned over.
    pub(crate) const fn over(self) -> Self {
        match self {
            Self::Right => Self::Backwards,
            Self::Backwards => Self::Right,
        }
    }
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

/// Gives the patches their names: their places in the list.
pub(crate) fn number(patches: &mut [Patch]) {
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

/// The patches that a size counts for: those that shape the edge, or the details where nothing does.
pub fn sizing(patches: &[Patch]) -> impl Iterator<Item = &Patch> {
    let has_edge = patches.iter().any(|p| p.use_.is_edge());
    patches.iter().filter(move |p| if has_edge { p.use_.is_edge() } else { p.use_.is_detail() })
}

/// Box, in pixels, of the patches that a size counts for.
pub fn sized_box(patches: &[Patch]) -> Option<Bounds<Px>> {
    sizing(patches).filter_map(|p| p.rings[0].bounds()).reduce(Bounds::union)
}

pub(crate) fn all_boxes(patches: &[Patch]) -> Option<Bounds<Px>> {
    patches.iter().filter_map(|p| p.rings[0].bounds()).reduce(Bounds::union)
}

impl Likeness {
    /// What the patch is like now.
    pub fn of(p: &Patch) -> Self {
        Self { span: span_of(p.rings.first().and_then(Ring::bounds)), depth: p.depth }
    }
}

impl Spot {
    /// A patch of the outline as it is now.
    pub fn of(p: &Patch) -> Self {
        Self { at: p.anchor, is_ink: p.is_ink, like: Some(Likeness::of(p)), root: p.altered_root() }
    }
}

impl Patch {
    /// Where it comes from, if it is not as it was traced.
    pub fn altered_root(&self) -> Option<Root> {
        let is_as_traced = |r: &Root| match r {
            Root::Traced { at, like } => *at == self.anchor && *like == Likeness::of(self),
            Root::Made { .. } => false,
        };
        self.root.filter(|r| !is_as_traced(r))
    }

    pub(crate) fn traced(mut self) -> Self {
        self.root = Some(Root::Traced { at: self.anchor, like: Likeness::of(&self) });
        self
    }
}
