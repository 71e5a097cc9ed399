//! The demo shelf: the autumn seed swap of the Fennhollow Allotments, an invented club.

use crate::api::{Shop, new_bed, plan_of_plate};
use crate::problem::ApiError;
use kachel_engine::artwork::{Crop, Sheet, Straighten};
use kachel_engine::tiers::{Finish, FinishShape, Footprint, OwnTier, RecipeKind};
use kachel_engine::{Axis, Document, Edit, GeneralEdit, House, PictureEdit, Sample, SizeOf, TierEdit, Watch, Workshop};
use kachel_words::msg;
use std::time::Duration;

/// Sample, name, and what is done to it: each recipe once, and one with findings still to be mended.
fn designs() -> Vec<(&'static str, &'static str, Vec<Edit>)> {
    let measure = |name: &str, value: &str| TierEdit::SetMeasure { name: name.into(), value: value.into() }.into();
    let width =
        |value: &str| GeneralEdit::SetSize { axis: Axis::Width, value: value.into(), of: SizeOf::Drawing }.into();
    let recipe = |recipe: RecipeKind| TierEdit::SetRecipe { recipe }.into();
    let filament = |key: &str, f: &str| TierEdit::SetFilament { key: key.into(), filament: Some(f.into()) }.into();
    vec![
        // Nothing ties its spots: findings still to be mended.
        ("ladybird", "Ladybird with spots", vec![measure("bar-width", "0")]),
        ("watering-can", "Stepped watering can", free_stack()),
        (
            "pumpkin-badge",
            "Pumpkin plaque",
            vec![
                recipe(RecipeKind::Plaque),
                width("70 mm"),
                measure("screws", "two"),
                measure("border", "15 mm"),
                measure("relief-height", "3 mm"),
            ],
        ),
        (
            "signature",
            "Pen line pendant",
            vec![recipe(RecipeKind::Pendant), width("44 mm"), measure("soft-edge", "0"), filament("body", "honey")],
        ),
        ("swap-badge", "Swap token", vec![recipe(RecipeKind::Token), width("26 mm"), filament("details", "cobalt")]),
        ("snail", "Snail key tag", vec![recipe(RecipeKind::KeyTag), width("48 mm"), filament("details", "oxblood")]),
        ("beetroot", "Beetroot for the fridge", vec![recipe(RecipeKind::Magnet), width("52 mm")]),
        ("ginkgo", "Ginkgo ornament", vec![recipe(RecipeKind::Ornament), width("70 mm")]),
        (
            "hedgehog",
            "Hedgehog coaster",
            vec![
                recipe(RecipeKind::Coaster),
                width("62 mm"),
                measure("relief", "inlaid"),
                measure("relief-depth", "1 mm"),
                filament("details", "cobalt"),
            ],
        ),
        (
            "snail",
            "Snail stamp",
            vec![recipe(RecipeKind::Stamp), width("46 mm"), measure("plate", "disc"), measure("grip", "knob")],
        ),
        (
            "snail",
            "Snail, tall wall",
            vec![
                recipe(RecipeKind::Cutter),
                width("84 mm"),
                measure("wall-height", "1 in"),
                measure("flange-width", "4 mm"),
            ],
        ),
        ("hedgehog", "Hedgehog cutter", vec![width("90 mm")]),
        ("leaf-photo", "Oak leaf off the table", leaf_from_photo()),
    ]
}

/// Three own tiers: a foot with a flared edge, the shape, a rim on top.
fn free_stack() -> Vec<Edit> {
    let tier = |name: &str, grow: f64, rim: Option<f64>, (from, to): (f64, f64), top: Finish| OwnTier {
        id: 0,
        name: name.into(),
        footprint: Footprint::Edge,
        grow,
        rim,
        from,
        to,
        is_cut: false,
        top,
        bottom: Finish::default(),
        is_on: true,
    };
    let finish = |shape: FinishShape, inset: f64, depth: f64| Finish { shape, inset, depth, ..Finish::default() };
    let add = |tier: OwnTier| TierEdit::AddTier { tier }.into();
    vec![
        TierEdit::SetRecipe { recipe: RecipeKind::FreeStack }.into(),
        GeneralEdit::SetSize { axis: Axis::Height, value: "80 mm".into(), of: SizeOf::Drawing }.into(),
        add(tier("Foot", 4.0, None, (0.0, 2.4), finish(FinishShape::Round, 1.0, 1.0))),
        add(tier("Body", 0.0, None, (2.4, 6.0), finish(FinishShape::Chamfer, 0.8, 0.8))),
        add(tier("Rim", 4.0, Some(1.6), (2.4, 4.0), Finish::default())),
        TierEdit::SetFilament { key: "own-2".into(), filament: Some("honey".into()) }.into(),
        TierEdit::SetFilament { key: "own-3".into(), filament: Some("cobalt".into()) }.into(),
    ]
}

/// Straightened by the sheet that it lies on, and cut out of it.
fn leaf_from_photo() -> Vec<Edit> {
    let corners = [[290.0, 190.0], [1360.0, 120.0], [1510.0, 980.0], [130.0, 1050.0]].map(kachel_engine::Point::from);
    vec![
        PictureEdit::Straighten { straighten: Some(Straighten { corners, sheet: Sheet::A4 }) }.into(),
        PictureEdit::SetCrop { crop: Some(Crop { x: 569.0, y: 522.0, width: 873.0, height: 431.0 }) }.into(),
        PictureEdit::SetInvert { invert: false }.into(),
        GeneralEdit::SetSize { axis: Axis::Width, value: "120 mm".into(), of: SizeOf::Drawing }.into(),
    ]
}

/// A set: labels that are tied to seed bags, all by the same house measures.
const LABELS: [(&str, &str); 8] = [
    ("beetroot", "Label, beetroot"),
    ("pumpkin-badge", "Label, pumpkin"),
    ("ginkgo", "Label, ginkgo"),
    ("hedgehog", "Label, hedgehog mix"),
    ("snail", "Label, snail-proof"),
    ("ladybird", "Label, ladybird mix"),
    ("watering-can", "Label, thirsty ones"),
    ("swap-badge", "Label, swap"),
];

/// The measures of a label: thin, so that a set of eight is soon printed.
fn label() -> House {
    let measures = [("thickness", 2.0), ("relief-height", 0.6), ("rim-height", 0.6)];
    House {
        name: "Seed label".into(),
        recipe: RecipeKind::KeyTag,
        measures: measures.map(|(name, mm)| (name.to_string(), mm)).into(),
    }
}

/// What lies on the demo bed: six pieces in two filaments.
const ON_BED: [(&str, usize); 2] = [("Hedgehog coaster", 2), ("Swap token", 4)];

/// Fills an empty shelf; leaves one that has something on it alone.
pub(crate) fn fill(shop: &Shop) -> Result<(), ApiError> {
    if shop.db.designs().count()? > 0 {
        return Ok(());
    }
    let watch = Watch::default();
    // The club's printer loads four filaments.
    let (version, workshop) = shop.db.workshop()?;
    let workshop = Workshop { printer: 1, houses: vec![label()], ..workshop };
    shop.db.set_workshop(version, &workshop)?;
    shop.engine.set_workshop(workshop);
    let width = GeneralEdit::SetSize { axis: Axis::Width, value: "34 mm".into(), of: SizeOf::Drawing };
    let mut labels: Vec<(String, usize)> = Vec::new();
    for (id, name) in LABELS {
        labels.push((stand(shop, id, name, vec![label().edit(), width.clone().into()], &watch)?, 1));
    }
    let mut copies: Vec<(String, usize)> = Vec::new();
    for (id, name, edits) in designs() {
        let stored = stand(shop, id, name, edits, &watch)?;
        copies.extend(ON_BED.iter().filter(|(on, _)| *on == name).map(|(_, n)| (stored.clone(), *n)));
    }
    let set: Vec<String> = labels.iter().map(|(id, _)| id.clone()).collect();
    shop.db.designs().label(&set, &["Seed labels".into()], &[])?;
    let (bed, _) = new_bed(shop, "Seed labels".into(), &labels, &watch)?;
    shop.db.beds().add(&bed, &msg!("new-bed"))?;
    let (bed, _) = new_bed(shop, "Swap day bed".into(), &copies, &watch)?;
    let bed = shop.db.beds().add(&bed, &msg!("new-bed"))?;
    begin_print(shop, &bed.id, &watch)
}

/// Puts a sample on the shelf as a design, with what is done to it.
fn stand(shop: &Shop, sample: &str, name: &str, edits: Vec<Edit>, watch: &Watch) -> Result<String, ApiError> {
    let sample = Sample::by_id(sample).ok_or(ApiError::Unknown("thing-sample"))?;
    let new = shop.engine.new_document(name, sample.file_name, sample.bytes, watch)?;
    let mut all = vec![GeneralEdit::SetCredit { credit: sample.credit() }.into()];
    all.extend(edits);
    let edited = shop.engine.apply(&new, &all, &|| Ok(sample.bytes.to_vec()), watch)?;
    let document: Document = edited.map_err(|e| ApiError::Edit(e, new.unit))?;
    Ok(shop.db.designs().create(&document, sample.bytes, &msg!("new-design"))?.id)
}

/// A bed on the printer, half printed.
fn begin_print(shop: &Shop, bed: &str, watch: &Watch) -> Result<(), ApiError> {
    let plan = plan_of_plate(shop, bed, 0, watch)?;
    let printer = shop.port.printer()?;
    printer.send(&plan)?;
    let planned = plan.layers.last().map_or(0.0, |l| l.until);
    printer.let_pass(Duration::from_secs_f64(0.55 * planned))?;
    Ok(())
}
