//! What is seen of patches and outline.

use super::paths::curves_path;
use crate::run::Run;
use kachel_design::{Axis, Document};
use kachel_geom::{Point, Px, Ring};
use kachel_outline::{Astray, Likeness, Outline, Patch, Root, Size, Spot, Use, patch_at};
use serde::Serialize;
use ts_rs::TS;

/// One patch.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct PatchView {
    /// A point in it, pixels.
    pub at: Point<Px>,
    /// Ink, or a gap.
    pub is_ink: bool,
    /// What it is for.
    #[serde(rename = "use")]
    pub use_: Use,
    /// Contours round it.
    pub depth: u32,
    /// Place in the list of the smallest patch that it lies in.
    pub parent: Option<usize>,
    /// Its area, mm2, once there is a size.
    pub area: Option<f64>,
    /// Length of all lines round it, mm, once there is a size.
    pub perimeter: Option<f64>,
    /// Left, upper, right and lower end, pixels.
    pub span: [f64; 4],
    /// Whether it must not be touched.
    pub is_pinned: bool,
    /// SVG path in pixels, y down, even-odd; its end points are the nodes.
    pub path: String,
    /// sRGB of its colour, where ink is found by colour.
    pub colour: Option<[u8; 3]>,
    /// The filament chosen for it.
    pub filament: Option<String>,
    /// Name of the group that an SVG has it in.
    pub group: Option<String>,
    /// Where it comes from, if it is not as traced.
    pub root: Option<Root>,
}

/// The sized outline.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct OutlineView {
    /// Millimetres a pixel.
    pub mm_per_px: f64,
    /// Pixel position of the millimetre origin.
    pub origin: Point<Px>,
    /// Width of the edge.
    pub width: f64,
    /// Height of the edge.
    pub height: f64,
    /// 'width' or 'height' where one is pinned.
    pub pinned: Option<Axis>,
    /// Whether nobody has typed a size, so that the recipe proposes it.
    pub is_usual: bool,
    /// Nodes of the curves of all patches in use.
    pub nodes: usize,
    /// Entries of the list of changes that do not do all they were meant to.
    pub astray: Vec<AstrayView>,
}

/// An entry of the list of changes that does not do all it was meant to.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct AstrayView {
    /// Its name.
    pub id: u32,
    /// Those of its patches that are gone.
    pub lost: Vec<Spot>,
    /// Whether it leaves nothing of what it works on.
    pub is_empty: bool,
    /// Whether the picture has changed under a patch with own nodes.
    pub has_moved_on: bool,
    /// Distance of the ends of an open line without a width, mm.
    pub gap: Option<f64>,
    /// Letters that the text's face does not have.
    pub missing: String,
}

pub(super) fn patches(d: &Document, run: &Run) -> Vec<PatchView> {
    let mut all: Vec<PatchView> = run.patches.iter().map(|p| patch(p, run)).collect();
    for pin in &d.pins {
        if let Some(k) = patch_at(&run.patches, pin) {
            all[k].is_pinned = true;
        }
    }
    for paint in &d.paints {
        if let Some(k) = patch_at(&run.patches, &paint.spot) {
            all[k].filament.clone_from(&paint.filament);
        }
    }
    if all.len() <= MOST_NESTED {
        nest(&mut all, &run.patches);
    }
    all
}

/// Patches that are nested at the most; more would not be looked through one by one anyway.
const MOST_NESTED: usize = 1500;

/// Finds what lies in what, whatever was drawn or moved since the picture was traced.
fn nest(all: &mut [PatchView], patches: &[Patch]) {
    // By what they go round: a ring is larger than what lies in it.
    let round: Vec<f64> = patches.iter().map(|p| p.rings[0].area().abs()).collect();
    let mut by_area: Vec<usize> = (0..patches.len()).collect();
    by_area.sort_by(|a, b| round[*a].total_cmp(&round[*b]));
    for (n, k) in by_area.iter().enumerate() {
        let at = patches[*k].anchor;
        let [left, top, right, bottom] = all[*k].span;
        let holds = |o: &&usize| {
            let s = all[**o].span;
            s[0] <= left && s[1] <= top && s[2] >= right && s[3] >= bottom && patches[**o].rings[0].contains(at)
        };
        let parent = by_area[n + 1..].iter().find(holds).copied();
        all[*k].parent = parent;
    }
}

fn patch(p: &Patch, run: &Run) -> PatchView {
    let length: f64 = p.rings.iter().map(Ring::perimeter).sum();
    let swatch = run.contours.as_ref().zip(p.colour).and_then(|(c, k)| c.palette.get(usize::from(k)));
    PatchView {
        at: p.anchor,
        is_ink: p.is_ink,
        use_: p.use_,
        depth: p.depth,
        parent: None,
        area: run.outline.as_deref().map(|o| p.area_px2 * o.mm_per_px * o.mm_per_px),
        perimeter: run.outline.as_deref().map(|o| length * o.mm_per_px),
        span: Likeness::of(p).span,
        is_pinned: false,
        path: curves_path(&p.curves),
        colour: swatch.map(|s| s.colour),
        filament: None,
        group: p.group.clone(),
        root: p.altered_root(),
    }
}

pub(super) fn outline(o: &Outline, size: Size) -> OutlineView {
    OutlineView {
        mm_per_px: o.mm_per_px,
        origin: o.origin,
        width: o.edge_px.width() * o.mm_per_px,
        height: o.edge_px.height() * o.mm_per_px,
        pinned: match size {
            Size::Scale { .. } | Size::Usual => None,
            Size::Width { .. } => Some(Axis::Width),
            Size::Height { .. } => Some(Axis::Height),
        },
        is_usual: size == Size::Usual,
        nodes: o.nodes,
        astray: o.astray.iter().map(astray).collect(),
    }
}

fn astray(a: &Astray) -> AstrayView {
    AstrayView {
        id: a.id,
        lost: a.lost.clone(),
        is_empty: a.is_empty,
        has_moved_on: a.moved_on.is_some(),
        gap: a.gap,
        missing: a.missing.iter().collect(),
    }
}
