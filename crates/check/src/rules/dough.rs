//! What dough does in a cutter: narrow parts of the cookie tear, and it sticks in slits.

use crate::rule::{self, Fault, Rule, held, set};
use crate::spread::Spread;
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::{Region, Width, gaps, offset, widths};
use kachel_tiers::measures as m;
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-dough", codes: &[NARROW_NECK, NARROW_SLIT], run };

/// A part of the cookie is so narrow that it tears.
pub const NARROW_NECK: Code = Code::note("narrow-neck");
/// Dough sticks between two walls.
pub const NARROW_SLIT: Code = Code::note("narrow-slit");

/// Dough tears where it is narrower, mm (common practice, no source).
pub(crate) const NECK_MM: f64 = 4.0;
/// Dough sticks between walls that are nearer, mm (common practice, no source).
const SLIT_MM: f64 = 3.0;
/// What is measured may be off by this, mm.
const SLACK_MM: f64 = 0.02;
/// Widths are measured so far apart along the edge, mm.
pub(crate) const STEP_MM: f64 = 0.5;
/// A neck between two corners counts where it is narrower than this share of what holds: dough beside it holds it.
const NECK_SHARE: f64 = 0.8;
/// What a margin is more than what just does, mm.
const SPARE_MM: f64 = 0.1;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if !o.measures.kind().is_cutter() || o.stack.edge.is_empty() {
        return Ok(());
    }
    let height = (0.0, o.measures.get(m::WALL_HEIGHT));
    let margin = if o.measures.has(m::MARGIN) { o.measures.get(m::MARGIN) } else { 0.0 };
    let wider = |by: f64| {
        let to = held(o, m::MARGIN, ((margin + by + SPARE_MM) * 10.0).ceil() / 10.0);
        (o.measures.has(m::MARGIN) && to > margin)
            .then(|| Mend::by(msg!("widen-cookie", margin = mm(to)), set(m::MARGIN, to)))
    };
    let told = |what: &'static str, spots: &[Spread], limit: f64, found: &mut Report| {
        let least = spots.iter().map(Spread::width).reduce(f64::min);
        let said =
            least.map_or_else(|| msg!("or-more", least = mm(limit)), |w| msg!("just", value = mm(w).decimals(2)));
        let places: Vec<Place> = spots.iter().map(|s| s.place(STEP_MM, height)).collect();
        found.looked(what, said, places.clone());
        least.map(|w| (w, places))
    };
    let necks = necks(&o.stack.edge);
    if let Some((width, places)) = told("looked-neck", &necks, NECK_MM, found) {
        let wide = mm(width).decimals(2);
        let what = msg!("narrow-neck", wide = wide, places = rule::places(places.len()), least = mm(NECK_MM));
        found.push(
            Finding::new(NARROW_NECK, what)
                .figure(Figure::mm("narrowest-neck", width, Some(NECK_MM)))
                .at_all(places)
                .mended(wider((NECK_MM - width) / 2.0)),
        );
    }
    // The walls stand round the cookie: dough lies in what is left between them.
    let walled = offset(&o.stack.edge, o.measures.get(m::WALL_THICKNESS))?;
    let slits = counted_of(&gaps(&walled, STEP_MM, SLIT_MM - SLACK_MM), SLIT_MM);
    if let Some((width, places)) = told("looked-slit", &slits, SLIT_MM, found) {
        let wide = mm(width).decimals(2);
        let what = msg!("narrow-slit", wide = wide, places = rule::places(places.len()), least = mm(SLIT_MM));
        found.push(
            Finding::new(NARROW_SLIT, what).figure(Figure::mm("narrowest-slit", width, Some(SLIT_MM))).at_all(places),
        );
    }
    Ok(())
}

/// Where a cookie is so narrow that it tears.
pub(crate) fn necks(cookie: &Region) -> Vec<Spread> {
    counted_of(&widths(cookie, STEP_MM, NECK_MM - SLACK_MM), NECK_MM)
}

/// Places of widths that are more than a corner.
fn counted_of(widths: &[Width], limit: f64) -> Vec<Spread> {
    Spread::all_of(widths).into_iter().filter(|s| s.counts(NECK_SHARE * limit)).collect()
}
