//! Patches on their way in and out: as SVG, from one design to another, as nodes for a hand.

use crate::credit::credit;
use crate::error::EngineError;
use crate::run::Run;
use kachel_artwork::{Artwork, ArtworkError, StatedCredit, stated_credit};
use kachel_design::{Credit, Document};
use kachel_exchange::{SvgGroup, SvgPatch, write_svg};
use kachel_geom::{Bounds, Curve, Mm, Point, Px, Segment, Watch};
use kachel_outline::{Aim, Change, DrawnLine, Guesses, Patch, Piece, Use, curved, patches};
use kachel_trace::{FLATNESS, Ink, TraceError, TraceSettings, refit, trace};
use kachel_words::msg;

/// Writes the outline as SVG in millimetres, one group a use and colour; 0, 0 is the picture's upper left corner, so that
/// what is drawn on it elsewhere comes back to its place. `None` before there is a size.
pub fn export_outline(d: &Document, run: &Run) -> Option<String> {
    let (o, c, frame) = (run.outline.as_ref()?, run.contours.as_ref()?, run.frame?);
    let k = o.mm_per_px;
    let in_use: Vec<&Patch> = o.patches.iter().filter(|p| p.use_ != Use::Aside).collect();
    let to_mm = |c: &Curve<Px>| curved(c, k).map(|q| Point::new(q.x * k, q.y * k));
    let curves: Vec<Vec<Curve<Mm>>> = in_use.iter().map(|p| p.curves.iter().map(to_mm).collect()).collect();
    let mut groups: Vec<SvgGroup<Mm>> = Vec::new();
    for (p, curves) in in_use.iter().zip(&curves) {
        let paint = p.colour.and_then(|n| c.palette.get(usize::from(n))).map(|s| s.colour);
        let words = use_words(p.use_);
        let name = p.colour.map_or(words.into(), |n| format!("{words}-colour-{}", n + 1));
        let patch = SvgPatch { group: p.group.as_deref(), curves };
        match groups.iter_mut().find(|g| g.name == name) {
            Some(g) => g.patches.push(patch),
            None => {
                let own = if p.use_.is_edge() { [0x2a, 0x7f, 0x86] } else { [0xd9, 0x97, 0x4f] };
                groups.push(SvgGroup { name, fill: paint.unwrap_or(own), patches: vec![patch] });
            }
        }
    }
    groups.iter_mut().for_each(|g| g.patches.sort_by_key(|p| p.group));
    Some(write_svg([0.0, 0.0, frame.width * k, frame.height * k], "mm", &credit(d, None), &groups))
}

const fn use_words(u: Use) -> &'static str {
    match u {
        Use::Edge => "edge",
        Use::Detail => "detail",
        Use::Both => "both",
        Use::Opening => "opening",
        Use::Aside => "aside",
    }
}

/// What a picture's file says of its maker and its terms; empty where it says nothing.
pub fn offered_credit(bytes: &[u8]) -> Credit {
    let StatedCredit { maker, source, licence } = stated_credit(bytes);
    Credit { maker, source, licence, note: String::new() }
}

/// The patches of an SVG, in the place and size that it states, as a change of the outline. Groups named as
/// [`export_outline`] names them keep their use; the rest becomes details.
pub fn import_patches(bytes: &[u8], watch: &Watch) -> Result<Change, EngineError> {
    let artwork = Artwork::decode(bytes, watch)?;
    let Artwork::Drawing(_) = &artwork else {
        return Err(ArtworkError::UnknownKind(msg!("pixels-for-patches")).into());
    };
    let by = |ink| trace(&artwork, &TraceSettings { ink, ..TraceSettings::default() }, watch);
    let contours = match by(Ink::Colours) {
        Err(TraceError::OneColour) => by(Ink::Alpha)?,
        other => other?,
    };
    let k = artwork.mm_per_px().unwrap_or(25.4 / 96.0);
    let piece = |p: &Patch| {
        let lines = p.curves.iter().map(|c| DrawnLine::of(&c.map(|q| Point::<Mm>::new(q.x * k, q.y * k)))).collect();
        let named = p.group.as_deref().and_then(|g| g.split('-').next());
        let use_ = match named {
            Some("edge") => Use::Edge,
            Some("both") => Use::Both,
            Some("opening") => Use::Opening,
            _ => Use::Detail,
        };
        Piece { lines, use_ }
    };
    let pieces = patches(&contours, Aim::Cutter, Guesses::ByNesting).iter().filter(|p| p.is_ink).map(piece).collect();
    Ok(Change::Paste { pieces, at: Point::new(0.0, 0.0), degrees: 0.0, scale: 1.0 })
}

/// Nodes that a traced curve may have to be taken over as it is.
const OWN_NODES: usize = 80;
/// Largest distance (mm) of the nodes that are offered for a line of more pieces.
const NODES_DEVIATION_MM: f64 = 0.02;

/// The lines round a patch as nodes for a hand to move, pixels: its own curves, or fewer nodes where it is made of many
/// short straight pieces.
pub fn patch_nodes(run: &Run, patch: usize) -> Option<Vec<DrawnLine>> {
    let (p, o) = (run.patches.get(patch)?, run.outline.as_ref()?);
    let line = |c: &Curve<Px>| {
        let has_curves = c.segments.iter().any(|s| matches!(s, Segment::Cubic(..)));
        if has_curves || c.nodes() <= OWN_NODES {
            return DrawnLine::of(c);
        }
        DrawnLine::of(&refit(&c.ring(FLATNESS).0, true, false, NODES_DEVIATION_MM / o.mm_per_px))
    };
    Some(p.curves.iter().map(line).collect())
}

/// Patches as they can be put into another design: millimetres about the middle of their box.
pub fn copied(run: &Run, which: &[usize]) -> Option<Change> {
    let o = run.outline.as_ref()?;
    let chosen: Vec<&Patch> = which.iter().filter_map(|k| run.patches.get(*k)).collect();
    let b = chosen.iter().filter_map(|p| p.rings.first()?.bounds()).reduce(Bounds::union)?;
    let (middle, k) = (b.centre(), o.mm_per_px);
    let to = |q: Point<Px>| Point::<Mm>::new((q.x - middle.x) * k, (q.y - middle.y) * k);
    let lines = |p: &Patch| p.curves.iter().map(|c| DrawnLine::of(&c.map(to))).collect();
    let use_ = |p: &Patch| if p.use_ == Use::Aside { Use::Detail } else { p.use_ };
    let pieces = chosen.iter().map(|p| Piece { lines: lines(p), use_: use_(p) }).collect();
    Some(Change::Paste { pieces, at: middle, degrees: 0.0, scale: 1.0 })
}
