//! `kachel rehearse`: how long a print takes, and of what.

use crate::make::{Bench, write};
use kachel_engine::tiers::Unit;
use kachel_engine::{LayerView, PrintView, Quality, layer_view, print_view};
use std::fmt::Write as _;
use std::path::Path;

/// A time in words.
pub(crate) fn clock(seconds: f64) -> String {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "minutes of a print")]
    let minutes = (seconds / 60.0).round() as u64;
    if minutes < 60 { format!("{minutes} min") } else { format!("{} h {:02} min", minutes / 60, minutes % 60) }
}

/// A layer as an SVG in millimetres, each line as wide as it is laid.
fn svg(l: &LayerView, reach: [f64; 2]) -> String {
    let [w, h] = reach.map(|side| side + 12.0);
    let mut out = format!(
        "<svg xmlns='http://www.w3.org/2000/svg' width='{w}mm' height='{h}mm' viewBox='{} {} {w} {h}' fill='none' \
         stroke-linejoin='round'>\n",
        -w / 2.0,
        -h / 2.0
    );
    for lines in &l.lines {
        let [r, g, b] = lines.colour;
        let _ = writeln!(
            out,
            "<path class='{}' stroke='#{r:02x}{g:02x}{b:02x}' stroke-width='{}' d='{}'/>",
            lines.kind, lines.width, lines.path
        );
    }
    out.push_str("</svg>\n");
    out
}

/// Filament of a print, and when somebody has to be there.
pub(crate) fn tell_print(print: &PrintView) {
    for f in &print.filaments {
        say!("  {}: {:.2} m, {:.1} g, {:.2} {}", f.filament, f.metres, f.grams, f.price, print.currency);
    }
    for s in print.stops.iter().chain(&print.pauses) {
        say!("  layer {} ({:.2} mm), after {}: {}", s.layer, s.height, clock(s.at), s.what);
    }
}

/// Rehearses what would be made of a picture, or a design.
pub(crate) fn rehearse(
    file: &Path,
    recipe: &str,
    (quality, infill): (Option<Quality>, Option<f64>),
    layer: Option<(usize, &Path)>,
    json: bool,
) -> Result<(), String> {
    let bench = Bench::of_file(file, recipe)?;
    let run = bench.run();
    let wish = bench.document.print.with(quality, infill);
    let made = bench.rehearse(&run, wish)?;
    let print = print_view(&run, &made, wish, Unit::Mm);
    if let Some((number, to)) = layer {
        let view = layer_view(&run, &made, number)
            .ok_or_else(|| format!("there is no layer {number}; there are 1 to {}", print.tops.len()))?;
        let reach = run.solid.as_ref().map_or([0.0; 2], |(_, s)| {
            let (min, max) = s.skin.mesh().extent();
            [0, 1].map(|k| 2.0 * max[k].max(-min[k]))
        });
        write(to, svg(&view, reach).as_bytes())?;
    }
    if json {
        let report = serde_json::to_string_pretty(&print).map_err(|e| e.to_string())?;
        say!("{report}");
        return Ok(());
    }
    say!("{}: {}, {} layers of {} mm", file.display(), clock(print.seconds), print.tops.len(), print.layer);
    tell_print(&print);
    for note in &print.notes {
        say!("  {note}");
    }
    Ok(())
}
