use super::paths::{curves_path, region_path};
use crate::run::Run;
use kachel_geom::Bounds;
use kachel_tiers::{Op, Stack, Tier};
use std::fmt::Write as _;

/// The tiers that are seen from above, from below up: what is cut from below is not seen.
pub(crate) fn seen_from_above(stack: &Stack) -> impl Iterator<Item = &Tier> {
    stack.tiers.iter().enumerate().filter_map(|(k, t)| {
        let is_under = |u: &Tier| u.op == Op::Add && u.top <= t.top;
        (t.op == Op::Add || stack.tiers[..k].iter().any(is_under)).then_some(t)
    })
}

/// The design as a small drawing in plan, for the shelf: the picture's patches where there are no tiers yet.
pub fn thumbnail(run: &Run) -> Option<String> {
    let head = |x: f64, y: f64, w: f64, h: f64| {
        format!("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"{x} {y} {w} {h}\">")
    };
    if let Some(stack) = run.stack.as_deref()
        && let Some(b) = stack.tiers.iter().filter_map(|t| t.footprint.bounds()).reduce(Bounds::union)
    {
        // Shown as what it makes reads: a tool's mirror image.
        let pad = b.width().max(b.height()) * 0.04;
        let left = if stack.is_mirrored { -b.max.x } else { b.min.x };
        let mut out = head(left - pad, -b.max.y - pad, b.width() + 2.0 * pad, b.height() + 2.0 * pad);
        let _ = write!(out, "<g transform=\"scale({} 1)\">", if stack.is_mirrored { -1 } else { 1 });
        let usual = &run.workshop.filaments[0].id;
        let many = stack.filaments.iter().any(|f| f != usual);
        for t in seen_from_above(stack) {
            let filament = stack.filaments.get(t.part as usize).filter(|_| many);
            let colour = filament.map(|f| run.workshop.filament(f).colour);
            let fill = match (t.op, colour, t.role.name()) {
                (Op::Cut, ..) => "#fffaf0".into(),
                (_, Some([r, g, b]), _) => format!("#{r:02x}{g:02x}{b:02x}"),
                (_, None, "flange" | "body" | "loop") => "#a9cbb0".into(),
                (_, None, "wall" | "rim" | "grip") => "#2a7f86".into(),
                _ => "#d9974f".into(),
            };
            let _ = write!(out, "<path fill=\"{fill}\" d=\"{}\"/>", region_path(&t.footprint));
        }
        out.push_str("</g></svg>");
        return Some(out);
    }
    let c = run.contours.as_ref()?;
    let mut out = head(c.origin.0, c.origin.1, c.width, c.height);
    for p in run.patches.iter().filter(|p| p.is_ink) {
        let _ = write!(out, "<path fill=\"#5b7074\" fill-rule=\"evenodd\" d=\"{}\"/>", curves_path(&p.curves));
    }
    out.push_str("</svg>");
    Some(out)
}
