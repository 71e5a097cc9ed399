//! First guesses: what each patch is for, by the kind of object that is made.

use crate::patch::{Patch, Use};
use kachel_trace::Contours;
use serde::{Deserialize, Serialize};

/// What the patches are meant for. First guesses and the usual size depend on it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize)]
pub enum Aim {
    /// The outer contour cuts; what lies in it marks.
    Cutter,
    /// A plate with a form of its own carries the drawing, so nothing has to be the edge.
    Plate,
    /// A plate in the outline's form, with everything in it as detail.
    PlateInForm,
    /// A body that is larger than the outline: a plain silhouette is its own relief.
    Tag,
    /// A body in the very form of the outline: a plain silhouette stays flat.
    Body,
    /// The drawing itself is the body.
    Lines,
}

impl Aim {
    /// Whether something has to be the edge.
    pub const fn needs_edge(self) -> bool {
        !matches!(self, Self::Plate | Self::Lines)
    }
}

/// How first guesses are made.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Guesses {
    /// By the kind of object; of ink that lies in ink of another colour, the one is drawn and the other left out.
    #[default]
    ByObjectAndColour,
    /// By the kind of object, as in designs that were begun before nested colours were told apart: all ink within is drawn.
    ByObject,
    /// By nesting alone, as in designs that were begun before guesses knew the object: the outermost ink is the edge, ink
    /// within is detail, gaps are put aside.
    ByNesting,
}

/// Line art covers less than this share of what its outer contour encloses ...
const LINE_ART_SHARE: f64 = 0.5;
/// ... and its strokes are thinner than this share of its size.
const LINE_ART_STROKE: f64 = 0.15;

/// What a traced patch holds.
#[derive(Clone, Copy, Debug, Default)]
struct Holds {
    gaps: usize,
    /// Ink of another colour right in it.
    ink: usize,
    /// Ink in one of its gaps.
    ink_in_gaps: usize,
}

/// Whether a patch is drawn with lines, rather than filled.
fn is_line_art(p: &Patch) -> bool {
    let filled = p.rings[0].area().abs();
    let around: f64 = p.rings.iter().map(kachel_geom::Ring::perimeter).sum();
    // A stroke's area is its width times half of the length of its two sides.
    let stroke = 2.0 * p.area_px2 / around.max(f64::MIN_POSITIVE);
    p.area_px2 < LINE_ART_SHARE * filled && stroke < LINE_ART_STROKE * filled.sqrt()
}

/// Gives each traced patch its first guess. `patches` holds one for each contour that has an area; `of` says which.
pub(crate) fn guess(patches: &mut [Patch], of: &[usize], contours: &Contours, aim: Aim, guesses: Guesses) {
    let by_nesting = |p: &Patch| match (p.is_ink, p.depth) {
        (true, 0) => Use::Edge,
        (true, _) => Use::Detail,
        (false, _) => Use::Aside,
    };
    if guesses == Guesses::ByNesting {
        patches.iter_mut().for_each(|p| p.use_ = by_nesting(p));
        return;
    }
    let all = &contours.contours;
    // The outermost contour round each, and what the outermost ones hold.
    let mut outermost: Vec<usize> = (0..all.len()).collect();
    let mut holds = vec![Holds::default(); all.len()];
    for k in 0..all.len() {
        // Parents come before what they hold.
        let Some(parent) = all[k].parent else { continue };
        outermost[k] = outermost[parent];
        let of = &mut holds[outermost[k]];
        match (all[k].is_ink, all[parent].is_ink) {
            (false, _) => of.gaps += 1,
            (true, true) => of.ink += 1,
            (true, false) => of.ink_in_gaps += 1,
        }
    }
    let mut outer_use = vec![Use::Edge; all.len()];
    let mut inner = vec![Inner::Ink; all.len()];
    let outer: Vec<usize> = (0..patches.len()).filter(|k| patches[*k].depth == 0 && patches[*k].is_ink).collect();
    for k in &outer {
        let c = of[*k];
        (outer_use[c], inner[c]) = of_outer(&patches[*k], holds[c], aim, outer.len() == 1);
    }
    for (p, c) in patches.iter_mut().zip(of) {
        let out = outermost[*c];
        p.use_ = match (p.depth, p.is_ink, inner[out]) {
            (0, true, _) => outer_use[out],
            (_, false, Inner::Gaps | Inner::Both) | (_, true, Inner::Ink) => Use::Detail,
            // Ink of another colour that lies right in the ground, but not what a gap leaves standing of the ground.
            (_, true, Inner::Both) if all[*c].parent.is_some_and(|k| all[k].is_ink) => Use::Detail,
            _ => Use::Aside,
        };
    }
    if guesses == Guesses::ByObjectAndColour {
        let swallows = in_turn(contours, &outer_use);
        for (p, c) in patches.iter_mut().zip(of) {
            if p.depth > 0 && p.is_ink && swallows[*c] {
                p.use_ = Use::Aside;
            }
        }
    }
}

/// Ink within ink that covers at least this share of it goes on with what is under it: the cream disc in a badge's border.
const LINING_SHARE: f64 = 0.5;

/// Ink that would swallow, or be swallowed by, ink of another colour if both were drawn: lying in each other, they are drawn in turn.
fn in_turn(contours: &Contours, outer_use: &[Use]) -> Vec<bool> {
    let all = &contours.contours;
    let mut holds_ink = vec![false; all.len()];
    for c in all.iter().filter(|c| c.is_ink) {
        c.parent.into_iter().for_each(|p| holds_ink[p] = true);
    }
    let mut left_out = vec![false; all.len()];
    for k in (0..all.len()).filter(|k| all[*k].is_ink) {
        let Some(parent) = all[k].parent.filter(|p| all[*p].is_ink) else { continue };
        let is_drawn = match all[parent].parent {
            None => outer_use[parent].is_detail(),
            Some(_) => !left_out[parent],
        };
        let is_lining = holds_ink[k] && all[k].ring.area().abs() >= LINING_SHARE * all[parent].ring.area().abs();
        left_out[k] = is_drawn || is_lining;
    }
    left_out
}

/// What within an outermost patch is detail.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Inner {
    /// Ink.
    Ink,
    /// Gaps: what is left out of a filled face is its drawing.
    Gaps,
    /// Gaps, and ink that lies right in the ground.
    Both,
}

/// A ground fills at least this share of the smallest circle round it: a disc, a square (0.64), a face. What has a form of its
/// own, such as an animal, is drawn, or nothing would be left of it on the plate.
const GROUND_SHARE: f64 = 0.6;

fn is_compact(p: &Patch) -> bool {
    let circle = kachel_geom::Circle::round(&p.rings[0].0);
    circle.is_some_and(|c| p.rings[0].area().abs() >= GROUND_SHARE * std::f64::consts::PI * c.radius * c.radius)
}

/// The use of an outermost patch, and what within it is detail.
fn of_outer(p: &Patch, holds: Holds, aim: Aim, is_only: bool) -> (Use, Inner) {
    let has_ink = holds.ink + holds.ink_in_gaps > 0;
    let is_lines = holds.gaps > 0 && is_line_art(p);
    let is_plain = holds.gaps == 0 && !has_ink;
    match aim {
        // One line all round is the wall; lines in one piece mark the dough too.
        Aim::Cutter if is_lines => (if holds.gaps > 1 { Use::Both } else { Use::Edge }, Inner::Ink),
        Aim::Cutter => (Use::Edge, if has_ink { Inner::Ink } else { Inner::Gaps }),
        Aim::Plate if is_only && !is_lines && !is_plain && is_compact(p) => (Use::Edge, ground(holds)),
        Aim::Plate => (Use::Detail, Inner::Ink),
        Aim::PlateInForm if is_plain || is_lines => (Use::Both, Inner::Ink),
        Aim::PlateInForm => (Use::Edge, ground(holds)),
        Aim::Tag | Aim::Body if is_lines => (Use::Both, Inner::Ink),
        Aim::Tag if is_plain => (Use::Both, Inner::Ink),
        Aim::Tag | Aim::Body if holds.ink == 0 && !is_plain => (Use::Both, Inner::Ink),
        Aim::Tag | Aim::Body => (Use::Edge, Inner::Ink),
        Aim::Lines => (Use::Both, Inner::Ink),
    }
}

/// What is detail on a ground: with ink of other colours in it, gaps show the sheet and are no drawing.
const fn ground(holds: Holds) -> Inner {
    match (holds.ink, holds.gaps) {
        (0, _) => Inner::Gaps,
        (_, 0) => Inner::Ink,
        _ => Inner::Both,
    }
}

/// What recipes made of uses before guesses knew the object: on a plate of its own form and in a pendant the ink of the
/// edge was drawn too, and on a tag or a plate in the outline's form where nothing else was.
pub(crate) fn as_before(patches: &mut [Patch], aim: Aim) {
    let is_plain = !patches.iter().any(|p| p.use_.is_detail());
    let is_drawn = match aim {
        Aim::Plate | Aim::Lines => true,
        Aim::Tag | Aim::PlateInForm => is_plain,
        Aim::Cutter | Aim::Body => false,
    };
    if is_drawn {
        patches.iter_mut().filter(|p| p.is_ink && p.use_ == Use::Edge).for_each(|p| p.use_ = Use::Both);
    }
}
