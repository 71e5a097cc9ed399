//! What reading the picture left out or did by a simpler rule, and ink that runs out of it.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Object, Place, Report};
use kachel_artwork::Doubt;
use kachel_geom::{Bounds, Mm, Point, Px};
use kachel_outline::{Patch, Use};
use kachel_words::{Message, list, msg};

pub(super) const RULE: Rule = Rule {
    looks_at: "looks-at-picture",
    codes: &[RUNS_OUT, PICTURE_REDUCED, PICTURE_CUT_OFF, FIRST_PICTURE, SIMPLER_RULE, SHEET],
    run,
};

/// Ink touches the picture's border, where something may be missing.
pub const RUNS_OUT: Code = Code::poor("runs-out");
/// A large picture is worked on at a reduced size.
pub const PICTURE_REDUCED: Code = Code::note("picture-reduced");
/// The file ended before the picture did.
pub const PICTURE_CUT_OFF: Code = Code::poor("picture-cut-off");
/// The file holds more pictures than the one used.
pub const FIRST_PICTURE: Code = Code::note("first-picture");
/// The sheet in a photo is not seen wholly.
pub const SHEET: Code = Code::note("sheet");
/// A part of an SVG was read by a simpler rule.
pub const SIMPLER_RULE: Code = Code::note("simpler-rule");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    // Drawings have no pixels, and often fill their page.
    if !o.contours.histogram.is_empty() {
        found.extend(runs_out(o));
    }
    for doubt in &o.contours.doubts {
        let code = match doubt {
            Doubt::Reduced { .. } => PICTURE_REDUCED,
            Doubt::CutOff => PICTURE_CUT_OFF,
            Doubt::FirstOfSeveral => FIRST_PICTURE,
            Doubt::SheetRunsOut | Doubt::HiddenCorner => SHEET,
            Doubt::Text | Doubt::Image | Doubt::Effect | Doubt::Shading => SIMPLER_RULE,
        };
        found.push(Finding::new(code, doubt.message()).because(msg!("follows-what-was-read")));
    }
    Ok(())
}

/// A line this near to the picture's border, pixels, lies on it.
const AT_BORDER_PX: f64 = 0.75;
/// Less than this of the border, pixels, is touched rather than run over.
const LEAST_RUN_PX: f64 = 4.0;

fn runs_out(o: &Object<'_>) -> Option<Finding> {
    let c = o.contours;
    let (left, top) = c.origin;
    let sides = [
        ("border-left", true, left),
        ("border-right", true, left + c.width),
        ("border-upper", false, top),
        ("border-lower", false, top + c.height),
    ];
    let outer: Vec<&Patch> =
        o.outline.patches.iter().filter(|p| p.is_ink && p.depth == 0 && p.use_ != Use::Aside).collect();
    let mut names = Vec::new();
    let (mut long, mut places) = (0.0, Vec::new());
    for (name, is_upright, at) in sides {
        let lies_on = |p: Point<Px>| ((if is_upright { p.x } else { p.y }) - at).abs() < AT_BORDER_PX;
        let on: Vec<(Point<Px>, Point<Px>)> =
            outer.iter().flat_map(|p| p.rings[0].edges()).filter(|(a, b)| lies_on(*a) && lies_on(*b)).collect();
        let run: f64 = on.iter().map(|(a, b)| a.distance(*b)).sum();
        if run < LEAST_RUN_PX {
            continue;
        }
        names.push(Message::new(name));
        long += run * o.outline.mm_per_px;
        let ends = on.iter().flat_map(|(a, b)| [o.outline.mm(*a), o.outline.mm(*b)]);
        let strip = Bounds::of(&ends.collect::<Vec<Point<Mm>>>())?.grown(ROUND_MM);
        places.push(Place::of_box(&if o.stack.is_mirrored { strip.mirrored() } else { strip }));
    }
    if names.is_empty() {
        return None;
    }
    let what = msg!("runs-out", n = names.len(), borders = list(names));
    Some(Finding::new(RUNS_OUT, what).figure(Figure::mm("along-border", long, None)).at_all(places))
}

/// Room round a place at the border in which it is shown, mm.
const ROUND_MM: f64 = 1.0;
