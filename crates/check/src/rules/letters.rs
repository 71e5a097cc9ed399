//! Written text that reads backwards. Of letters that were traced nobody knows which way they read: the object in use shows them.

use crate::rule::{Fault, Rule};
use crate::rules::loose::aside;
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::OutlineEdit;
use kachel_geom::{Bounds, Point};
use kachel_outline::{Change, Letters, Patch, Spot, Use};
use kachel_tiers::RecipeKind;
use kachel_words::msg;

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-letters", codes: &[BACKWARDS], run };

/// Text was turned over after it was written.
pub const BACKWARDS: Code = Code::poor("backwards");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let written = || o.outline.patches.iter().filter(|p| p.use_ != Use::Aside && p.letters.is_some());
    let backwards: Vec<&Patch> = written().filter(|p| p.letters == Some(Letters::Backwards)).collect();
    if written().next().is_some() {
        let said = match backwards.len() {
            0 => msg!("looked-text-right"),
            n => msg!("looked-text-backwards", n = n),
        };
        found.looked("looked-text", said, backwards.iter().filter_map(|p| place(o, p)));
    }
    if backwards.is_empty() {
        return Ok(());
    }
    let what = match o.measures.kind() {
        RecipeKind::Stamp => "backwards-in-print",
        kind if kind.is_cutter() => "backwards-on-cookie",
        _ => "backwards",
    };
    let over = Change::Place {
        on: backwards.iter().map(|p| Spot::of(p)).collect(),
        by: Point::new(0.0, 0.0),
        degrees: 0.0,
        scale: 1.0,
        stretch: 1.0,
        flip: true,
        is_copy: false,
    };
    let turned = Mend::by(msg!("turn-over"), OutlineEdit::AddChange { change: over, before: None });
    found.push(
        Finding::new(BACKWARDS, msg!(what, n = backwards.len()))
            .figure(Figure::count("backward-patches", backwards.len(), Some(0)))
            .at_all(backwards.iter().filter_map(|p| place(o, p)))
            .mended(turned)
            .mended(Mend::by(msg!("put-aside", n = 1_usize), aside(backwards))),
    );
    Ok(())
}

/// Where a patch is, as the object is printed.
fn place(o: &Object<'_>, p: &Patch) -> Option<Place> {
    let b = p.rings.first()?.bounds()?;
    let b = Bounds::of(&[o.outline.mm(b.min), o.outline.mm(b.max)])?;
    Some(Place::of_box(&if o.stack.is_mirrored { b.mirrored() } else { b }))
}
