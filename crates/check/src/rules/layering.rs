//! Heights that printed layers do not meet: a face between two layers is printed at the nearer one.

use crate::rule::{Fault, Rule, moved};
use crate::{Code, Figure, Finding, Mend, Object, Place, Report};
use kachel_design::Edit;
use kachel_geom::GRID_PER_MM;
use kachel_solid::LayerHeights;
use kachel_tiers::{Handle, Moves, Tier};
use kachel_words::{Value, mm, msg};
use std::collections::BTreeMap;

pub(super) const RULE: Rule = Rule { looks_at: "looks-at-layering", codes: &[BETWEEN_LAYERS], run };

/// A flat face lies between two layers.
pub const BETWEEN_LAYERS: Code = Code::note("between-layers");

/// What comes out higher or lower by a fifth of its height is not seen (common practice, no source).
const SLACK: f64 = 0.205;
/// Rounding, mm.
const NEAR_MM: f64 = 0.005;
/// Smaller faces do not count, mm2.
const LEAST_MM2: f64 = 1.0;
/// Heights that are named.
const NAMED: usize = 3;

/// A flat face.
struct Face<'o> {
    /// Where it is and where it is printed, mm above the bed.
    at: f64,
    printed: f64,
    /// How high it stands over what it counts from, mm.
    high: f64,
    /// The tier that ends there, and what moves that end.
    tier: &'o Tier,
    handle: Option<&'o Handle>,
}

impl Face<'_> {
    fn by(&self) -> f64 {
        (self.at - self.printed).abs()
    }
}

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    let layer = o.printer.layer;
    let faces: Vec<Face<'_>> = flats(o).into_iter().filter_map(|z| face(o, z)).collect();
    let off: Vec<&Face<'_>> = faces.iter().filter(|f| f.by() > NEAR_MM).collect();
    let said = match off.iter().map(|f| f.by()).reduce(f64::max) {
        Some(by) => msg!("looked-off-layers", n = off.len(), by = mm(by).decimals(2)),
        None => msg!("looked-on-layers", layer = mm(layer)),
    };
    found.looked("looked-heights", said, off.iter().map(|f| place(f)));
    // What is lower than a layer has a finding of its own.
    let shows = |f: &&Face<'_>| f.by() > SLACK * f.high && f.high >= layer;
    let all: Vec<&Face<'_>> = off.into_iter().filter(shows).collect();
    let Some(worst) = all.iter().map(|f| f.by()).reduce(f64::max) else { return Ok(()) };
    let named = all.iter().take(NAMED).map(|f| {
        let [at, printed] = [f.at, f.printed].map(|v| mm(v).decimals(2));
        msg!("ends-between-layers", tier = f.tier.name.clone(), at = at, printed = printed)
    });
    let named = named.reduce(|all, next| msg!("list-semicolon", first = all, last = next));
    let more = all.len().saturating_sub(NAMED);
    let named = named.map(|all| if more > 0 { msg!("list-so-many-more", first = all, n = more) } else { all });
    let what = msg!("between-layers", n = all.len(), layer = mm(layer), heights = Value::from(named));
    found.push(
        Finding::new(BETWEEN_LAYERS, what)
            .figure(Figure::mm("off-layer-by", worst, Some(NEAR_MM)))
            .at_all(all.iter().map(|f| place(f)))
            .mended(to_layers(&faces, o.layers.heights)),
    );
    Ok(())
}

fn place(f: &Face<'_>) -> Place {
    Place::of_region(&f.tier.footprint).between(f.at, f.at)
}

/// Heights of flat faces above the bed, mm, rising.
fn flats(o: &Object<'_>) -> Vec<f64> {
    let mesh = o.solid.skin.mesh();
    let mut areas: BTreeMap<i32, f64> = BTreeMap::new();
    for t in &mesh.triangles {
        let [a, b, c] = t.map(|v| mesh.vertices[v as usize]);
        if a[2] != b[2] || a[2] != c[2] || a[2] == 0 {
            continue;
        }
        let [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]].map(f64::from);
        *areas.entry(a[2]).or_default() += (ux * vy - uy * vx).abs() / 2.0 / (GRID_PER_MM * GRID_PER_MM);
    }
    let large = areas.into_iter().filter(|(_, mm2)| *mm2 >= LEAST_MM2);
    large.map(|(z, _)| f64::from(z) / GRID_PER_MM).collect()
}

/// A face with what moves it. `None` where no tier ends there.
fn face<'o>(o: &Object<'o>, at: f64) -> Option<Face<'o>> {
    let heights = o.layers.heights;
    let printed = heights.end_of(heights.count(at));
    let ends = |t: &'o Tier| {
        let is_at = |mm: f64| (mm - at).abs() < 1.0 / GRID_PER_MM;
        let moves = if is_at(t.top.mm()) {
            Moves::Top
        } else if is_at(t.bottom.mm()) {
            Moves::Bottom
        } else {
            return None;
        };
        let handle = t.handles.iter().find(|h| h.moves == moves);
        let high = handle.map_or(t.top.mm() - t.bottom.mm(), |h| (at - h.base).abs());
        Some(Face { at, printed, high, tier: t, handle })
    };
    // What can be moved first.
    let mut all: Vec<Face<'o>> = o.stack.tiers.iter().filter_map(ends).collect();
    all.sort_by_key(|f| f.handle.is_none());
    all.into_iter().next()
}

/// Puts every height on the end of a layer, the lowest first: what counts from one of them counts from where it comes to lie, and stays as high.
fn to_layers(faces: &[Face<'_>], heights: LayerHeights) -> Option<Mend> {
    let is_near = |a: f64, b: f64| (a - b).abs() < 2.0 / GRID_PER_MM;
    let mut moved_to: Vec<(f64, f64)> = Vec::new();
    let mut seen: Vec<&Handle> = Vec::new();
    let mut edits: Vec<Edit> = Vec::new();
    for f in faces {
        let Some(h) = f.handle.filter(|h| !seen.contains(h)) else { continue };
        seen.push(h);
        let base = moved_to.iter().find(|(from, _)| is_near(*from, h.base)).map_or(h.base, |(_, to)| *to);
        let to = end_near(if h.is_down { base - f.high } else { base + f.high }, base, heights);
        moved_to.push((f.at, to));
        if !is_near(f.high, (to - base).abs()) {
            edits.push(moved(&Handle { base, ..h.clone() }, to));
        }
    }
    (!edits.is_empty()).then(|| Mend { words: msg!("to-layers", n = edits.len()), edits })
}

/// The end of a layer that is nearest to a height above the bed, and at least a layer away from where it is counted from, mm.
fn end_near(at: f64, base: f64, heights: LayerHeights) -> f64 {
    let (from, to) = (heights.count(base), heights.count(at));
    let to = if at > base { to.max(from + 1) } else { to.min(from.saturating_sub(1)) };
    (heights.end_of(to) * 1000.0).round() / 1000.0
}
