//! The settings that all designs share.

use crate::file_names::FileNames;
use crate::house::{House, HouseError, MAX_HOUSES, check_houses};
use crate::print::{PrintSettings, Quality, highest};
use kachel_tiers::Unit;
use kachel_words::{Message, Value, msg, number, said};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Most printers, and most filaments.
pub const MAX_THINGS: usize = 40;

/// A printer as the workshop knows it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Printer {
    /// What the maker calls it.
    pub name: String,
    /// Its build space: width, depth, height, mm.
    pub bed: [f64; 3],
    /// Across its nozzle, mm.
    pub nozzle: f64,
    /// Width of a printed line, mm.
    pub line: f64,
    /// Height of a printed layer, mm.
    pub layer: f64,
    /// How many filaments it loads at a time.
    pub filaments: u32,
}

impl Default for Printer {
    /// Common practice, no source: a bed of 220 mm, a nozzle of 0.4 mm, layers of 0.2 mm, one filament.
    fn default() -> Self {
        let bed = [220.0, 220.0, 250.0];
        Self { name: msg!("practice-printer").to_string(), bed, nozzle: 0.4, line: 0.4, layer: 0.2, filaments: 1 }
    }
}

/// A spool on the workshop's wall.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Filament {
    /// Its name for designs; it stays when the filament is called something else.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// What it is made of.
    pub material: String,
    /// How it is shown, sRGB.
    pub colour: [u8; 3],
    /// Grams in a cubic centimetre.
    pub density: f64,
    /// Price of a kilogram, in the workshop's currency.
    pub price: f64,
}

/// Unit, printers, filaments, currency.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
#[serde(deny_unknown_fields)]
pub struct Workshop {
    /// Unit of new designs.
    pub unit: Unit,
    /// The printers.
    pub printers: Vec<Printer>,
    /// The one that is used, by its place.
    pub printer: usize,
    /// The filaments; the first is the usual one.
    pub filaments: Vec<Filament>,
    /// Sign or letters of the currency.
    pub currency: String,
    /// How things are printed.
    #[serde(default)]
    pub print: PrintSettings,
    /// Measures of recipes that are used again and again.
    #[serde(default)]
    pub houses: Vec<House>,
    /// What files are called.
    #[serde(default)]
    pub file_names: FileNames,
}

/// Why workshop settings were refused.
#[derive(Debug, thiserror::Error)]
pub struct WorkshopError(Message);

said!(WorkshopError: |e| e.0.clone());

impl Default for Workshop {
    fn default() -> Self {
        // PLA has 1.24 g/cm3; price: common practice, no source.
        let spool = |id: &str, colour: [u8; 3]| Filament {
            id: id.into(),
            name: Message::new(format!("filament-{id}")).to_string(),
            material: "PLA".into(),
            colour,
            density: 1.24,
            price: 22.0,
        };
        Self {
            unit: Unit::Mm,
            printers: vec![
                Printer::default(),
                Printer { name: msg!("four-filament-printer").to_string(), filaments: 4, ..Printer::default() },
            ],
            printer: 0,
            filaments: vec![
                spool("celadon", [169, 203, 176]),
                spool("cobalt", [38, 70, 140]),
                spool("shino", [240, 228, 208]),
                spool("honey", [217, 151, 79]),
                spool("oxblood", [122, 34, 38]),
                spool("soot", [52, 50, 50]),
            ],
            currency: "€".into(),
            print: PrintSettings::default(),
            houses: vec![],
            file_names: FileNames::default(),
        }
    }
}

impl Printer {
    /// Height of a layer of that quality, mm.
    pub fn layer_of(&self, quality: Quality) -> f64 {
        quality.layer(self.layer, self.nozzle)
    }
}

impl Workshop {
    /// The printer that is used.
    pub fn printer(&self) -> &Printer {
        &self.printers[self.printer.min(self.printers.len() - 1)]
    }

    /// The filament of that name; the usual one where there is none.
    pub fn filament(&self, id: &str) -> &Filament {
        self.filaments.iter().find(|f| f.id == id).unwrap_or(&self.filaments[0])
    }

    /// The house measures of that name, whatever its capitals.
    pub fn house(&self, name: &str) -> Option<&House> {
        self.houses.iter().find(|h| House::key(&h.name) == House::key(name))
    }

    /// With house measures from elsewhere; those of a name that is there take its place.
    pub fn with_houses(&self, new: Vec<House>) -> Result<Self, HouseError> {
        let mut after = self.clone();
        for house in new {
            match after.houses.iter_mut().find(|h| House::key(&h.name) == House::key(&house.name)) {
                Some(there) => *there = house,
                None => after.houses.push(house),
            }
        }
        if after.houses.len() > MAX_HOUSES { Err(HouseError::TooMany) } else { Ok(after) }
    }

    /// With filaments, printers and house measures of another workshop that this one does not have.
    pub fn joined(mut self, other: Self) -> Self {
        let room = |n: usize| MAX_THINGS.saturating_sub(n);
        let filaments: Vec<Filament> =
            other.filaments.into_iter().filter(|f| self.filaments.iter().all(|own| own.id != f.id)).collect();
        self.filaments.extend(filaments.into_iter().take(room(self.filaments.len())));
        let printers: Vec<Printer> =
            other.printers.into_iter().filter(|p| self.printers.iter().all(|own| own.name != p.name)).collect();
        self.printers.extend(printers.into_iter().take(room(self.printers.len())));
        let houses: Vec<House> = other.houses.into_iter().filter(|h| self.house(&h.name).is_none()).collect();
        self.houses.extend(houses.into_iter().take(MAX_HOUSES.saturating_sub(self.houses.len())));
        self
    }

    /// Refuses settings that cannot be worked with, saying which and what its range is.
    pub fn check(&self) -> Result<(), WorkshopError> {
        let fail = |what: Message| Err(WorkshopError(what));
        let range = |what: &'static str, v: f64, min: f64, max: f64| {
            let [value, least, most]: [Value; 3] = [v, min, max].map(number);
            let said = msg!("out-of-range", what = msg!(what), min = least, max = most, value = value);
            if v >= min && v <= max { Ok(()) } else { fail(said) }
        };
        let text = |what: &'static str, v: &str| {
            let n = v.trim().chars().count();
            if (1..=60).contains(&n) { Ok(()) } else { fail(msg!("name-of-60", what = msg!(what))) }
        };
        if self.printers.is_empty() || self.printers.len() > MAX_THINGS {
            return fail(msg!("number-of-printers", most = MAX_THINGS));
        }
        if self.filaments.is_empty() || self.filaments.len() > MAX_THINGS {
            return fail(msg!("number-of-workshop-filaments", most = MAX_THINGS));
        }
        if self.printer >= self.printers.len() {
            return fail(msg!("no-such-printer"));
        }
        if self.currency.chars().count() > 8 {
            return fail(msg!("currency-length"));
        }
        for p in &self.printers {
            text("set-printer-name", &p.name)?;
            p.bed.iter().try_for_each(|side| range("set-side-of-the-bed", *side, 20.0, 2000.0))?;
            range("set-nozzle", p.nozzle, 0.1, 2.0)?;
            // A nozzle lays lines up to twice as wide as itself: common practice, no source.
            range("set-line-width", p.line, 0.1, 2.0 * p.nozzle)?;
            range("set-layer-height", p.layer, 0.02, highest(p.nozzle))?;
            range("set-number-of-filaments-it-loads", f64::from(p.filaments), 1.0, 64.0)?;
        }
        self.file_names.check().map_err(|e| WorkshopError(e.message()))?;
        check_houses(&self.houses).map_err(|e| WorkshopError(e.message()))?;
        if let Some((what, value, min, max)) = self.print.refused(self.printer().nozzle) {
            range(what, value, min, max)?;
        }
        for (k, f) in self.filaments.iter().enumerate() {
            text("set-filament-name", &f.name)?;
            if f.id.is_empty() || f.id.len() > 60 || self.filaments[..k].iter().any(|g| g.id == f.id) {
                return fail(msg!("filament-without-name", filament = &f.name));
            }
            if f.material.chars().count() > 40 {
                return fail(msg!("material-length"));
            }
            range("set-density", f.density, 0.1, 25.0)?;
            range("set-price-of-a-kilogram", f.price, 0.0, 100_000.0)?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_usual_workshop_is_fine_and_nonsense_is_refused_with_its_range() {
        Workshop::default().check().unwrap();
        let with = |change: &dyn Fn(&mut Workshop)| {
            let mut w = Workshop::default();
            change(&mut w);
            w.check().map_err(|e| e.to_string())
        };
        assert!(with(&|w| w.printers.clear()).unwrap_err().contains("1 to 40 printers"));
        assert!(with(&|w| w.filaments.clear()).is_err());
        assert!(with(&|w| w.printer = 7).is_err());
        assert!(with(&|w| w.printers[0].layer = f64::NAN).unwrap_err().contains("0.02 to 0.32"));
        assert!(with(&|w| w.filaments[1].id = "celadon".into()).is_err());
        assert!(with(&|w| w.filaments[0].density = -1.0).unwrap_err().contains("density"));
        assert!(with(&|w| w.printers[0].line = 0.9).unwrap_err().contains("0.1 to 0.8"));
        assert!(
            with(&|w| w.print.outer_speed = 0.0).unwrap_err().contains("speed of outer walls (mm/s) can be 1 to 1000")
        );
        let nothing = |w: &mut Workshop| (w.print.walls, w.print.infill, w.print.solid_layers) = (0, 0.0, 0);
        assert!(with(&nothing).unwrap_err().contains("no walls"));
        assert_eq!(Workshop::default().filament("gone").name, "Celadon");
    }
}
