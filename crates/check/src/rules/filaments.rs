//! Filaments: those that are gone, and those that one printer cannot change between.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::TierEdit;
use kachel_tiers::colour_changes;
use kachel_words::msg;

pub(super) const RULE: Rule =
    Rule { looks_at: "looks-at-filaments", codes: &[FILAMENT_GONE, COLOURS_IN_ONE_LAYER], run };

/// A filament is no longer in the workshop.
pub const FILAMENT_GONE: Code = Code::note("filament-gone");
/// More filaments in one layer than the printer loads.
pub const COLOURS_IN_ONE_LAYER: Code = Code::fault("colours-in-one-layer");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    for name in o.gone {
        let edit = TierEdit::DropFilament { filament: name.clone() };
        let what = msg!("filament-gone", name = name);
        found.push(Finding::new(FILAMENT_GONE, what).mended(Mend::by(msg!("use-usual-filament"), edit)));
    }
    let (parts, loads) = (o.solid.parts.len(), o.printer.filaments as usize);
    let what = if parts > 1 && loads == 1 && colour_changes(o.stack).is_none() {
        msg!("colours-in-one-layer", n = parts, printer = &o.printer.name)
    } else if parts > loads && loads > 1 {
        msg!("more-filaments-than-loaded", n = parts, printer = &o.printer.name, loads = loads)
    } else {
        return Ok(());
    };
    let figure = Figure::count("number-of-filaments", parts, Some(loads));
    found.push(Finding::new(COLOURS_IN_ONE_LAYER, what).figure(figure));
    Ok(())
}
