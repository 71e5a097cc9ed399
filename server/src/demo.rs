//! The demo shelf: the autumn seed swap of the Fennhollow Allotments, an invented club.

use crate::api::Shop;
use crate::problem::ApiError;
use kachel_engine::artwork::{Crop, Sheet, Straighten};
use kachel_engine::{Axis, Edit, Sample, Watch};

/// Sample, name, and what is done to it.
fn designs() -> Vec<(&'static str, &'static str, Vec<Edit>)> {
    let measure = |name: &str, value: &str| Edit::SetMeasure { name: name.into(), value: value.into() };
    let width = |value: &str| Edit::SetSize { axis: Axis::Width, value: value.into() };
    vec![
        // Its spots are loose: findings still to be mended.
        ("ladybird", "Ladybird with spots", vec![]),
        (
            "snail",
            "Snail, tall wall",
            vec![width("84 mm"), measure("wall-height", "1 in"), measure("flange-width", "4 mm")],
        ),
        ("ginkgo", "Ginkgo leaf", vec![width("70 mm"), measure("margin", "1 mm")]),
        ("hedgehog", "Hedgehog cutter", vec![width("90 mm")]),
        ("leaf-photo", "Oak leaf off the table", leaf_from_photo()),
    ]
}

/// Straightened by the sheet that it lies on, and cut out of it.
fn leaf_from_photo() -> Vec<Edit> {
    let corners = [[290.0, 190.0], [1360.0, 120.0], [1510.0, 980.0], [130.0, 1050.0]];
    vec![
        Edit::Straighten { straighten: Some(Straighten { corners, sheet: Sheet::A4 }) },
        Edit::SetCrop { crop: Some(Crop { x: 569.0, y: 522.0, width: 873.0, height: 431.0 }) },
        Edit::SetInvert { invert: false },
        Edit::SetSize { axis: Axis::Width, value: "120 mm".into() },
    ]
}

/// Fills an empty shelf; leaves one that has something on it alone.
pub(crate) fn fill(shop: &Shop) -> Result<(), ApiError> {
    if !shop.db.list()?.is_empty() {
        return Ok(());
    }
    let watch = Watch::default();
    for (id, name, edits) in designs() {
        let sample = Sample::by_id(id).ok_or(ApiError::Unknown("sample"))?;
        let new = shop.engine.new_document(name, sample.file_name, sample.bytes, &watch)?;
        let mut all = vec![Edit::SetCredit { credit: sample.credit() }];
        all.extend(edits);
        let document = shop.engine.apply(&new, &all, &|| Ok(sample.bytes.to_vec()), &watch)??;
        shop.db.create(&document, sample.bytes, "New design")?;
    }
    Ok(())
}
