//! What is thinner than lines of filament hold, in every tier and at every height.

use crate::rule::{self, Fault, Rule, held, scaled, set};
use crate::spread::{Spread, TOGETHER_MM};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::{OutlineEdit, TierEdit, Value};
use kachel_geom::{Bounds, Inside, Mm, OffGrid, Point, Region, Width, gaps, offset, regions, widths};
use kachel_outline::{Change, Patch, Spot, Use};
use kachel_tiers::{Moves, Op, Role, StampAs, Tier, measures as m};
use kachel_words::{mm, msg, number};

pub(super) const RULE: Rule =
    Rule { looks_at: "looks-at-thin", codes: &[THIN_LINE, THIN_PLACE, ONE_LINE, THIN_TIP, NARROW_GAP], run };

/// A stamp line is too thin.
pub const THIN_LINE: Code = Code::poor("thin-line");
/// A wall or strand of another tier is too thin.
pub const THIN_PLACE: Code = Code::poor("thin-place");
/// A raised detail is as wide as one line of filament, which its plate holds.
pub const ONE_LINE: Code = Code::note("one-line");
/// A taper or a rounded edge ends thinner than a line.
pub const THIN_TIP: Code = Code::poor("thin-tip");
/// A gap or an engraved line closes up.
pub const NARROW_GAP: Code = Code::poor("narrow-gap");

/// Thinnest wall, strand or line, mm (common practice, no source).
const THINNEST_MM: f64 = 0.75;
/// What is measured may be off by this, mm: exactly 0.75 passes.
const SLACK_MM: f64 = 0.02;
/// Up to this width (mm) the thinnest place is told, also where nothing is wrong.
const TOLD_MM: f64 = 3.0;
/// Widths are measured so far apart along the border, mm.
const STEP_MM: f64 = 0.25;
/// A neck between two corners counts where it is thinner than this share of what holds: a short one is held by what is beside it.
const NECK_SHARE: f64 = 0.8;
/// A neck thinner than this, mm, is no strand: two borders all but touch. It counts where nothing else holds what is beyond it.
const HAIR_MM: f64 = 0.1;
/// What is smaller, mm2, holds nothing and needs no hold.
const LEAST_PIECE_MM2: f64 = 1.0;
/// Thin places of one tier, or narrow gaps.
struct Thin<'o> {
    /// The tier; `None` for gaps.
    tier: Option<&'o Tier>,
    limit: f64,
    spots: Vec<Spread>,
    heights: (f64, f64),
}

fn is_hair(s: &Spread) -> bool {
    s.width() < HAIR_MM && s.is_neck()
}

/// Whether an area is more pieces without its thinnest necks.
fn falls_apart(area: &Region) -> Result<bool, OffGrid> {
    let count = |r: &Region| -> Result<usize, OffGrid> {
        Ok(regions(r)?.iter().filter(|p| p.area_mm2() >= LEAST_PIECE_MM2).count())
    };
    Ok(count(&offset(area, -HAIR_MM / 2.0)?)? > count(area)?)
}

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let mut thins: Vec<Thin<'_>> = Vec::new();
    let insides = o.insides();
    let mut least: Option<(f64, Point<Mm>, (f64, f64))> = None;
    for (first, count) in looked_at(o) {
        let layer = &o.layers.all[first];
        let heights = (layer.bottom, o.layers.all[first + count - 1].top);
        let middle = f64::midpoint(layer.bottom, layer.top);
        // Sloped ends may be as thin as one line.
        let limit = if count == 1 { o.printer.line.min(THINNEST_MM) } else { THINNEST_MM };
        let all = widths(&layer.area, STEP_MM, if count == 1 { limit } else { TOLD_MM });
        // A bay that the border of a shape closes is no loss; a line that was to be engraved is.
        let is_cut = |w: &Width| o.covering_of(&insides, w.middle(), middle).any(|t| t.op == Op::Cut);
        let narrow = gaps(&layer.area, STEP_MM, o.printer.line - SLACK_MM);
        let narrow: Vec<Width> = narrow.into_iter().filter(is_cut).collect();
        if count > 1 {
            for s in Spread::all_of(&all).into_iter().filter(|s| s.counts(TOLD_MM)) {
                let width = s.width();
                if least.is_none_or(|l| width < l.0) {
                    least = Some((width, nearest(&all, &s), heights));
                }
            }
        }
        let thin: Vec<Width> = all.into_iter().filter(|w| w.across < limit - SLACK_MM).collect();
        let neck = if count == 1 { 0.0 } else { NECK_SHARE * limit };
        let mut parts = None;
        for s in Spread::all_of(&thin).into_iter().filter(|s| s.counts(neck)) {
            if is_hair(&s) && !*parts.get_or_insert(falls_apart(&layer.area)?) {
                continue;
            }
            if let Some(tier) = owner(o, &insides, nearest(&thin, &s), middle) {
                add(&mut thins, Some(tier), limit, s, heights);
            }
        }
        if count > 1 {
            let long = Spread::all_of(&narrow).into_iter().filter(|s| s.counts(0.0));
            long.for_each(|s| add(&mut thins, None, o.printer.line, s, heights));
        }
    }
    match least {
        Some((width, at, heights)) => {
            let on = owner(o, &insides, at, f64::midpoint(heights.0, heights.1));
            let wide = mm(width).decimals(2);
            let said = match on {
                Some(t) => msg!("looked-thinnest-at", wide = wide, tier = t.name.clone()),
                None => msg!("just", value = wide),
            };
            let place = Place::of_box(&Bounds { min: at, max: at }.grown(width.max(0.5)));
            found.looked("looked-thinnest", said, [place.between(heights.0, heights.1)]);
        }
        None => found.looked("looked-thinnest", msg!("or-more", least = mm(TOLD_MM)), []),
    }
    // A wall that is thin by its measure has a finding of its own, and so has a finish that ends in a ridge.
    let is_wall = |t: &Thin<'_>| t.tier.is_some_and(|t| t.role == Role::Wall);
    let has_ridge = |t: &Tier| o.ridges_of(t).next().is_some();
    let is_told = |t: &Thin<'_>| {
        (is_wall(t) && o.measures.get(m::WALL_THICKNESS) < THINNEST_MM)
            || (t.limit < THINNEST_MM && t.tier.is_some_and(has_ridge))
    };
    found.extend(thins.iter().filter(|t| !is_told(t)).map(|t| finding(o, t)));
    Ok(())
}

/// A place in the middle of the thin strand that is nearest to the middle of a spread's box, which may lie beside it.
fn nearest(all: &[Width], s: &Spread) -> Point<Mm> {
    let c = s.box_.centre();
    let by = |p: &Point<Mm>, q: &Point<Mm>| p.distance(c).total_cmp(&q.distance(c));
    all.iter().map(Width::middle).min_by(by).unwrap_or(c)
}

fn add<'o>(thins: &mut Vec<Thin<'o>>, tier: Option<&'o Tier>, limit: f64, s: Spread, heights: (f64, f64)) {
    let key = |t: Option<&Tier>| t.map(|t| t.key.clone());
    let is_same = |t: &&mut Thin<'_>| key(t.tier) == key(tier) && t.limit == limit;
    match thins.iter_mut().find(is_same) {
        Some(known) if known.heights == heights => known.spots.push(s),
        // The same place higher up says nothing new; a thinner one does.
        Some(known) => match known.spots.iter_mut().find(|k| k.box_.grown(TOGETHER_MM).overlaps(&s.box_)) {
            Some(same) if same.width() <= s.width() => {}
            Some(same) => *same = s,
            None => known.spots.push(s),
        },
        None => thins.push(Thin { tier, limit, spots: vec![s], heights }),
    }
}

/// Layers that are worth a look: all that are repeated, and of those that change with every layer the first and the last.
fn looked_at(o: &Object<'_>) -> Vec<(usize, usize)> {
    let runs = o.layers.runs();
    let is_single = |k: usize| runs.get(k).is_some_and(|r| r.1 == 1);
    let is_end = |k: usize| !is_single(k) || k == 0 || !is_single(k - 1) || !is_single(k + 1);
    (0..runs.len()).filter(|k| is_end(*k)).map(|k| runs[k]).filter(|r| !o.layers.all[r.0].area.is_empty()).collect()
}

fn owner<'o>(o: &Object<'o>, insides: &[Inside], at: Point<Mm>, z: f64) -> Option<&'o Tier> {
    o.covering_of(insides, at, z).find(|t| t.op == Op::Add)
}

fn finding(o: &Object<'_>, thin: &Thin<'_>) -> Finding {
    let Thin { tier, limit, spots, heights } = thin;
    let width = spots.iter().map(Spread::width).fold(f64::INFINITY, f64::min);
    let places = || spots.iter().map(|s| s.place(STEP_MM, *heights));
    let figure = Figure::mm("least-width", width, Some(*limit));
    let wide = mm(width).decimals(2);
    let at = || rule::places(spots.len());
    let Some(tier) = tier else {
        let what = msg!("narrow-gap", wide = wide, places = at(), line = mm(*limit));
        return Finding::new(NARROW_GAP, what).figure(figure).at_all(places()).mended_by(larger(o, width, *limit));
    };
    if *limit < THINNEST_MM {
        let what = msg!("thin-tip", tier = tier.name.clone(), wide = wide, places = at(), line = mm(*limit));
        return Finding::new(THIN_TIP, what).figure(figure).at_all(places()).mended_by(blunter(o, tier, limit - width));
    }
    if tier.role == Role::Detail && width >= o.printer.line {
        let what = msg!("one-line", tier = tier.name.clone(), wide = wide, places = at());
        return Finding::new(ONE_LINE, what).figure(figure).at_all(places()).mended_by(thicker(o, tier, width));
    }
    let what = msg!("thin-place", tier = tier.name.clone(), wide = wide, places = at(), least = mm(THINNEST_MM));
    let code = if tier.role == Role::Stamp { THIN_LINE } else { THIN_PLACE };
    Finding::new(code, what).figure(figure).at_all(places()).mended_by(thicker(o, tier, width))
}

/// Lets a taper take less off.
fn blunter(o: &Object<'_>, tier: &Tier, by: f64) -> Option<Mend> {
    let inset = tier.handles.iter().find(|h| h.moves == Moves::Inset && h.own.is_none())?;
    let spec = o.measures.spec_named(&inset.name)?;
    let value = spec.held(((tier.top_finish.inset - by - SLACK_MM) * 20.0).floor() / 20.0);
    let edit = TierEdit::SetMeasure { name: inset.name.clone(), value: Value::Number(value) };
    (value < tier.top_finish.inset).then(|| Mend::by(msg!("taper-less", by = mm(value)), edit))
}

/// Makes the whole object larger, where that is enough within reason.
fn larger(o: &Object<'_>, width: f64, limit: f64) -> Option<Mend> {
    let factor = limit / width * 1.01;
    (1.0..MOST_LARGER).contains(&factor).then(|| {
        let percent = number((factor - 1.0) * 100.0).decimals(0);
        Mend::by(msg!("make-all-larger", percent = percent), scaled(o, factor))
    })
}

/// Makes thin lines thicker: by the recipe's measure where there is one, at the outline, or all by a larger object.
fn thicker(o: &Object<'_>, tier: &Tier, width: f64) -> Vec<Mend> {
    let mut all = Vec::new();
    // Between a drawing and the rim of its plate.
    if let Some(share) = o.stack.fit.filter(|share| tier.role == Role::Body && *share < 1.0) {
        all.push(Mend::by(msg!("fit-inside"), scaled(o, share)));
    }
    // A pendant's ring is drawn by a measure: thickening the lines in it would not reach it.
    let ring = if o.measures.has(m::RING_WIDTH) { o.measures.get(m::RING_WIDTH) } else { 0.0 };
    if tier.role == Role::Body && ring > 0.0 && (ring - width).abs() < 0.05 {
        let to = held(o, m::RING_WIDTH, WIDE_MM);
        return vec![Mend::by(msg!("widen-ring", to = mm(to)), set(m::RING_WIDTH, to))];
    }
    if tier.role == Role::Body && o.measures.has(m::LINE_LEAST) && o.measures.get(m::LINE_LEAST) < THINNEST_MM {
        let to = held(o, m::LINE_LEAST, WIDE_MM);
        return vec![Mend::by(msg!("widen-lines", to = mm(to)), set(m::LINE_LEAST, to))];
    }
    if tier.role == Role::Stamp && o.measures.has(m::STAMP_LEAST) {
        let is_line = o.measures.choice(m::STAMP_AS) == Some(StampAs::Lines);
        let measure = if is_line { m::STAMP_LINE } else { m::STAMP_LEAST };
        let to = held(o, measure, THINNEST_MM);
        all.push(Mend::by(msg!("widen-lines", to = mm(to)), set(measure, to)));
    } else {
        // What is drawn in the tier: details, or the edge where it is the body.
        let is_of = |p: &&Patch| match tier.role {
            Role::Detail => matches!(p.use_, Use::Detail | Use::Both),
            _ => matches!(p.use_, Use::Edge | Use::Both),
        };
        let on: Vec<Spot> = o.outline.patches.iter().filter(is_of).map(Spot::of).collect();
        if matches!(tier.role, Role::Detail | Role::Body) && !on.is_empty() {
            let change = Change::Thicken { on, width: WIDE_MM };
            all.push(Mend::by(msg!("thicken-thin", to = mm(WIDE_MM)), OutlineEdit::AddChange { change, before: None }));
        }
    }
    if matches!(tier.role, Role::Detail | Role::Body) {
        all.extend(larger(o, width, THINNEST_MM));
    }
    all
}

/// Two lines of a nozzle of 0.4 mm.
const WIDE_MM: f64 = 0.8;
/// A larger object is offered up to this factor.
const MOST_LARGER: f64 = 2.0;
