//! What is seen of a bed.

use super::{Conflict, OnBed, OnBeds};
use crate::view::{region_path, seen_from_above};
use kachel_design::Bed;
use kachel_tiers::{Op, Unit};
use serde::Serialize;
use ts_rs::TS;

/// A bed with what lies on it.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedView {
    /// The printer's name.
    pub printer: String,
    /// Width, depth and height of its build space, mm.
    pub size: [f64; 3],
    /// In which lengths are shown.
    pub unit: Unit,
    /// The designs on it.
    pub designs: Vec<BedDesignView>,
    /// How many fillings of the bed it is.
    pub plates: usize,
    /// What stands against printing it so.
    pub conflicts: Vec<ConflictView>,
}

/// A design on a bed.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedDesignView {
    /// Its name for the program.
    pub id: String,
    /// What the maker calls it.
    pub name: String,
    /// How many copies lie on the bed.
    pub copies: usize,
    /// Width, depth and height of one, mm, as it lies when it is not turned.
    pub size: [f64; 3],
    /// What it covers from above, as an SVG path; mm round its own origin, y down.
    pub outline: String,
    /// What is drawn of it, from below.
    pub shapes: Vec<BedShape>,
    /// Its solid, where it has one.
    pub solid: Option<BedSolid>,
    /// Why it cannot be printed.
    pub trouble: Option<String>,
}

/// The solid of a design on a bed.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedSolid {
    /// By this the mesh is fetched.
    pub key: String,
    /// sRGB of the filament of each part, by its number.
    pub colours: Vec<[u8; 3]>,
}

/// A tier as it is drawn on a bed.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct BedShape {
    /// Its area as an SVG path; mm round the design's own origin, y down.
    pub path: String,
    /// sRGB of its filament; none for what is cut away.
    pub colour: Option<[u8; 3]>,
}

/// Something that stands against printing a bed as it lies.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct ConflictView {
    /// Stable name of its kind.
    pub kind: &'static str,
    /// What is wrong and what to do.
    pub words: String,
    /// The pieces, by their numbers.
    pub pieces: Vec<u32>,
    /// On which plate, 0 being the first; none where they lie on none.
    pub plate: Option<usize>,
    /// Whether it cannot be printed so; else it is worth knowing.
    pub is_grave: bool,
}

/// What is seen of a bed.
pub fn bed_view(bed: &Bed, on: &OnBeds, conflicts: Vec<Conflict>) -> BedView {
    let printer = on.workshop.printer();
    let copies = bed.copies();
    // In the order in which they came.
    let mut order: Vec<&str> = Vec::new();
    for p in &bed.pieces {
        if !order.contains(&p.design.as_str()) {
            order.push(&p.design);
        }
    }
    let designs = order.into_iter().filter_map(|id| Some(design(id, copies[id], on.designs.get(id)?))).collect();
    let unit = on.workshop.unit;
    let conflict = |c: Conflict| ConflictView {
        kind: c.kind,
        words: c.words.sentence(unit),
        pieces: c.pieces,
        plate: c.plate,
        is_grave: c.is_grave,
    };
    BedView {
        printer: printer.name.clone(),
        size: printer.bed,
        unit,
        designs,
        plates: bed.plates(),
        conflicts: conflicts.into_iter().map(conflict).collect(),
    }
}

fn design(id: &str, copies: usize, d: &OnBed) -> BedDesignView {
    let height = d.run.solid.as_ref().map_or(0.0, |(_, s)| s.skin.mesh().extent().1[2]);
    let bounds = d.shadow.as_ref().and_then(|s| s.bounds());
    let size = bounds.map_or([0.0; 3], |b| [b.width(), b.height(), height]);
    let outline = d.shadow.as_ref().map(|s| region_path(s)).unwrap_or_default();
    let solid = d.run.solid.as_ref().map(|(key, s)| BedSolid {
        key: key.clone(),
        colours: {
            let parts = s.parts.iter().map(|p| p.number + 1).max().unwrap_or(0);
            (0..parts).map(|n| d.run.filament(n).colour).collect()
        },
    });
    BedDesignView {
        id: id.into(),
        name: d.name.clone(),
        copies,
        size,
        outline,
        shapes: if d.shadow.is_some() { shapes(d) } else { vec![] },
        solid,
        trouble: d.trouble.as_ref().map(|t| t.said(d.run.workshop.unit)),
    }
}

/// The tiers that are seen from above.
fn shapes(d: &OnBed) -> Vec<BedShape> {
    let tiers = d.run.stack.iter().flat_map(|s| seen_from_above(s));
    let shape = |t: &kachel_tiers::Tier| {
        let colour = (t.op == Op::Add).then(|| d.run.filament(t.part).colour);
        BedShape { path: region_path(&t.footprint), colour }
    };
    tiers.map(shape).collect()
}
