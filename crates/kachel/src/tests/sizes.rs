//! Sizes as they are typed, and as a sheet in the photo gives them.

use super::*;

#[test]
fn a_size_is_that_of_the_cookie_or_of_the_whole_object_as_typed() {
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 300 100'><path d='M10 10h60v60h-60zM200 30h60v40h-60z'/></svg>";
    let mut design = Design::from_bytes(svg.as_bytes());
    let typed = |of: SizeOf, mm: &str| GeneralEdit::SetSize { axis: Axis::Width, value: mm.into(), of }.into();
    // The margin that unites the two grows with them.
    design.edit(&[typed(SizeOf::Edge, "60 mm")]).unwrap();
    let view = design.view();
    assert!((view.edge_size.unwrap()[0] - 60.0).abs() < 1e-3, "{:?}", view.edge_size);
    assert_eq!(view.notes.len(), 1, "{:?}", view.notes);
    design.edit(&[typed(SizeOf::Object, "5 in")]).unwrap();
    assert!((design.view().solid.unwrap().size[0] - 127.0).abs() < 2e-3);
    // A margin typed by the maker counts too.
    design.edit(&[measure("pieces", "apart"), measure("margin", "5"), typed(SizeOf::Edge, "90")]).unwrap();
    let view = design.view();
    assert!((view.edge_size.unwrap()[0] - 90.0).abs() < 1e-3 && (view.outline.unwrap().width - 80.0).abs() < 1e-3);
    // What is added alone is larger than that.
    assert!(design.edit(&[typed(SizeOf::Object, "8 mm")]).is_err());
    assert!((design.view().edge_size.unwrap()[0] - 90.0).abs() < 1e-3, "nothing was changed");
}

#[test]
fn what_lies_on_a_sheet_is_the_drawing_at_its_true_size() {
    // Four pixels a millimetre: A4 upright on a grained table, a dark square of 80 mm on it.
    let image = image::GrayImage::from_fn(1100, 1400, |x, y| {
        let (mx, my) = ((f64::from(x) - 130.0) / 4.0, (f64::from(y) - 100.0) / 4.0);
        let grain = 90.0 + 14.0 * (f64::from(y) / 17.0 + (f64::from(x) / 90.0).sin()).sin();
        let is_sheet = (0.0..210.0).contains(&mx) && (0.0..297.0).contains(&my);
        let is_square = (60.0..140.0).contains(&mx) && (100.0..180.0).contains(&my);
        let dust = f64::from((x * 31 + y * 17) % 7) - 3.0;
        image::Luma([(if is_square {
            50.0
        } else if is_sheet {
            236.0
        } else {
            grain
        } + dust) as u8])
    });
    let mut bytes = std::io::Cursor::new(Vec::new());
    image.write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    let mut design = Design::from_bytes(bytes.get_ref());
    assert!(design.document.prepare.straighten.is_some() && design.document.prepare.crop.is_some());
    let width = |d: &Design| d.view().outline.unwrap().width;
    assert!((width(&design) - 80.0).abs() < 0.4, "{}", width(&design));
    assert_eq!(design.run().patches.len(), 1, "the table is cropped away");
    // Not a sheet after all; and found again by an edit, as another one.
    design
        .edit(&[PictureEdit::SetCrop { crop: None }.into(), PictureEdit::Straighten { straighten: None }.into()])
        .unwrap();
    assert!(design.run().patches.len() > 1);
    let letter = PictureEdit::FindSheet { sheet: Some(Sheet::Other { long: 594.0, short: 420.0 }) };
    design.edit(&[letter.into()]).unwrap();
    assert!((width(&design) - 160.0).abs() < 0.8, "a sheet twice as large: {}", width(&design));
    let bar = Design::sample("ginkgo");
    let none = bar.engine.apply(
        &bar.document,
        &[PictureEdit::FindSheet { sheet: None }.into()],
        &|| Ok(bar.bytes.clone()),
        &quiet(),
    );
    assert!(none.unwrap().is_err());
}

#[test]
fn pen_lines_are_as_wide_over_all_as_was_typed() {
    let mut design = Design::sample("signature");
    design.edit(&[PictureEdit::SetPenWidth { value: Some("1.6 mm".into()) }.into()]).unwrap();
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Pendant }.into(), width("50 mm")]).unwrap();
    let wide = design.view().outline.unwrap().width;
    assert!((wide - 50.0).abs() < 0.005, "{wide}");
    // The lines keep their own width, whatever the size.
    design.edit(&[width("80 mm")]).unwrap();
    assert!((design.view().outline.unwrap().width - 80.0).abs() < 0.005);
}

#[test]
fn undo_says_what_was_done_in_the_designs_unit() {
    let mut design =
        Design::from_bytes(b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><path d='M1 1h7v7h-7z'/></svg>");
    let said = |design: &Design, edit: serde_json::Value| {
        serde_json::from_value::<Edit>(edit).unwrap().sentence(&design.document).said(design.document.unit)
    };
    let height = serde_json::json!({ "kind": "set-measure", "name": "wall-height", "value": "18" });
    assert_eq!(said(&design, height.clone()), "Wall 18 mm high");
    let taper = serde_json::json!({ "kind": "set-measure", "name": "taper-in", "value": 0.4 });
    assert_eq!(said(&design, taper), "Wall: taper in 0.4 mm");
    let size = serde_json::json!({ "kind": "set-size", "axis": "width", "value": "90", "of": "edge" });
    assert_eq!(said(&design, size), "Cookie 90 mm wide");
    assert_eq!(said(&design, serde_json::json!({ "kind": "set-recipe", "recipe": "coaster" })), "Made a coaster");
    // What will be refused has a name all the same.
    let nonsense = serde_json::json!({ "kind": "set-measure", "name": "wall-height", "value": "high" });
    assert_eq!(said(&design, nonsense), "Wall height high");
    design.document.unit = kachel_tiers::Unit::In;
    assert_eq!(said(&design, height), "Wall 18 in high");
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into()]).unwrap();
    let raised = serde_json::json!({ "kind": "set-measure", "name": "relief", "value": "raised" });
    assert_eq!(said(&design, raised), "Details raised");
}
