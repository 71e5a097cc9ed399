//! How many cookies a cutter cuts.

use crate::rule::{Fault, Rule, choose, held, set};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_geom::regions;
use kachel_tiers::{Pieces, measures as m, widest_gap};
use kachel_words::{mm, msg};

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-cookies", codes: &[SEVERAL_COOKIES], run };

/// A cutter cuts more than one cookie.
pub const SEVERAL_COOKIES: Code = Code::poor("several-cookies");

/// How much more than half of the widest gap the margin is, mm, so that the necks between pieces of dough hold: they tear under
/// 4 mm (common practice, no source).
const NECK_MM: f64 = 2.0;

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    if !o.measures.kind().is_cutter() {
        return Ok(());
    }
    let cookies = regions(&o.stack.edge)?;
    found.looked("looked-cuts", msg!("looked-cookies", n = cookies.len()), []);
    if cookies.len() < 2 {
        return Ok(());
    }
    let unite = (o.measures.choice(m::PIECES) != Some(Pieces::United))
        .then(|| choose(o, m::PIECES, Pieces::United))
        .flatten()
        .map(|edit| Mend::by(msg!("unite-them"), edit));
    let margin = o.measures.get(m::MARGIN) + widest_gap(&o.stack.edge) / 2.0 + NECK_MM;
    let margin = held(o, m::MARGIN, (margin * 10.0).ceil() / 10.0);
    let words = msg!("join-by-margin", margin = mm(margin));
    let wider = o.measures.has(m::MARGIN).then(|| Mend::by(words, set(m::MARGIN, margin)));
    found.push(
        Finding::new(SEVERAL_COOKIES, msg!("several-cookies", n = cookies.len()))
            .figure(Figure::count("number-of-cookies", cookies.len(), Some(1)))
            .at_all(cookies.iter().map(|c| Place::of_region(c).between(0.0, o.measures.get(m::WALL_HEIGHT))))
            .mended(unite)
            .mended(wider),
    );
    Ok(())
}
