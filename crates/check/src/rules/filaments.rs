//! Filaments: those that are gone, and those that one printer cannot change between.

use crate::rule::{Fault, Rule};
use crate::{Code, Figure, Finding, Mend, Object, Report};
use kachel_design::TierEdit;
use kachel_tiers::colour_changes;

pub(super) const RULE: Rule =
    Rule { looks_at: "filaments and their changes", codes: &[FILAMENT_GONE, COLOURS_IN_ONE_LAYER], run };

/// A filament is no longer in the workshop.
pub const FILAMENT_GONE: Code = Code::note("filament-gone");
/// More filaments in one layer than the printer loads.
pub const COLOURS_IN_ONE_LAYER: Code = Code::fault("colours-in-one-layer");

fn run(o: &Object<'_>, found: &mut Report) -> Result<(), Fault> {
    for name in o.gone {
        let what = format!("The filament '{name}' is no longer in the workshop");
        let why = "What was to be printed in it is shown and weighed as the usual filament.";
        let edit = TierEdit::DropFilament { filament: name.clone() };
        found.push(Finding::new(FILAMENT_GONE, what, why).mended(Mend::by("Use the usual filament", edit)));
    }
    let (parts, loads) = (o.solid.parts.len(), o.printer.filaments as usize);
    let (what, why) = if parts > 1 && loads == 1 && colour_changes(o.stack).is_none() {
        (
            format!("{parts} filaments lie side by side in one layer; '{}' loads one", o.printer.name),
            "Changing by hand works from layer to layer only. Print it in one filament, give each colour heights of its own, or choose a printer that loads more.",
        )
    } else if parts > loads && loads > 1 {
        (
            format!("The object has {parts} filaments; '{}' loads {loads}", o.printer.name),
            "Print it in fewer filaments, or change one of them by hand.",
        )
    } else {
        return Ok(());
    };
    let figure = Figure::count("filaments", parts, Some(loads));
    found.push(Finding::new(COLOURS_IN_ONE_LAYER, what, why).figure(figure));
    Ok(())
}
