//! Edits of the picture, and what stays when it is turned, straightened or replaced.

use image::{ExtendedColorType, ImageEncoder, codecs::png::PngEncoder};
use kachel_artwork::{Crop, Sheet, Straighten, Stroke, StrokeKind};
use kachel_engine::{
    Axis, Document, Edit, EditError, Engine, GeneralEdit, OutlineEdit, PictureEdit, ResultView, Sample, SizeOf,
    TierEdit, export_contours,
};
use kachel_geom::{Point, Watch};
use kachel_outline::{Choice, Size, Spot, Use};
use kachel_trace::{ColourSettings, Ink};

struct Design {
    engine: Engine,
    document: Document,
    bytes: Vec<u8>,
}

/// A dark bar 60 x 20 px at (20, 30) and a disc of 10 px at (120, 60), on a sheet of 160 x 100 px.
fn picture() -> Vec<u8> {
    painted(160, 100, |x, y| {
        let is_bar = (20.0..80.0).contains(&x) && (30.0..50.0).contains(&y);
        if is_bar || (x - 120.0).hypot(y - 60.0) < 10.0 { [20, 20, 20] } else { [250, 250, 250] }
    })
}

fn painted(w: u32, h: u32, colour: impl Fn(f64, f64) -> [u8; 3]) -> Vec<u8> {
    let at = |i: u32| colour(f64::from(i % w) + 0.5, f64::from(i / w) + 0.5);
    let pixels: Vec<u8> = (0..w * h).flat_map(at).collect();
    let mut bytes = Vec::new();
    PngEncoder::new(&mut bytes).write_image(&pixels, w, h, ExtendedColorType::Rgb8).unwrap();
    bytes
}

impl Design {
    fn new(bytes: Vec<u8>) -> Self {
        let engine = Engine::default();
        let document = engine.new_document("Test", "test.png", &bytes, &Watch::default()).unwrap();
        Self { engine, document, bytes }
    }

    fn sample(id: &str) -> Self {
        Self::new(Sample::by_id(id).unwrap().bytes.to_vec())
    }

    fn try_edit(&mut self, edit: Edit) -> Result<(), EditError> {
        let bytes = || Ok(self.bytes.clone());
        self.document = self.engine.apply(&self.document, &[edit], &bytes, &Watch::default()).unwrap()?;
        Ok(())
    }

    fn edit(&mut self, edit: Edit) {
        self.try_edit(edit).unwrap();
    }

    fn view(&self) -> ResultView {
        let run = self.engine.run(&self.document, &|| Ok(self.bytes.clone()), &Watch::default());
        ResultView::new(&self.document, &run, &[])
    }

    /// Width and height of the edge, mm.
    fn size(&self) -> (f64, f64) {
        let o = self.view().outline.unwrap();
        (o.width, o.height)
    }

    fn uses(&self) -> Vec<(bool, Use)> {
        self.view().patches.iter().map(|p| (p.is_ink, p.use_)).collect()
    }
}

#[test]
fn samples_of_every_kind_start_as_what_they_are() {
    let ink = |id: &str| Design::sample(id).document.trace.ink;
    assert_eq!(ink("pumpkin-badge"), Ink::Colours);
    assert_eq!(ink("swap-badge"), Ink::Colours);
    assert_eq!(ink("bean-scan"), Ink::Pen, "thin pencil lines");
    for id in ["hedgehog", "beetroot", "signature", "leaf-photo"] {
        assert_eq!(ink(id), Ink::LightDark, "{id}");
    }
    let colours = |id: &str| {
        let mut all: Vec<[u8; 3]> = Design::sample(id).view().trace.unwrap().palette.iter().map(|s| s.colour).collect();
        all.sort_unstable();
        all
    };
    // The colours that `tools/draw_samples.py` paints with, and none besides.
    assert_eq!(colours("pumpkin-badge"), [[38, 84, 66], [226, 121, 36], [255, 255, 255]]);
    assert_eq!(colours("swap-badge"), [[32, 52, 92], [84, 150, 72], [205, 58, 98], [250, 232, 190], [255, 255, 255]]);
    assert!(Design::sample("leaf-photo").document.prepare.level, "its light is uneven");
    assert!(!Design::sample("beetroot").document.prepare.level);
}

#[test]
fn a_phone_photo_of_a_sheet_gives_the_leaf_in_its_true_size() {
    let mut design = Design::sample("leaf-photo");
    // The sheet's corners as `tools/draw_samples.py` puts them.
    let corners = [[290.0, 190.0], [1360.0, 120.0], [1510.0, 980.0], [130.0, 1050.0]];
    design.edit(
        PictureEdit::Straighten {
            straighten: Some(Straighten { corners: corners.map(Point::from), sheet: Sheet::A4 }),
        }
        .into(),
    );
    let p = design.view().picture.unwrap();
    // The part of the sheet round the leaf: 297 x 210 mm are 1188 x 840 units there, and the leaf lies at 300, 470.
    let Size::Scale { mm_per_px } = design.document.size else { panic!() };
    let sheet = [0, 1, 2, 3].map(|k| {
        let m = p.from_original;
        let [x, y] = corners[k];
        let w = m[6] * x + m[7] * y + m[8];
        [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w]
    });
    let unit = (sheet[1][0] - sheet[0][0]) / 1188.0;
    assert!((unit * mm_per_px * 1188.0 - 297.0).abs() < 0.01, "across");
    assert!(((sheet[3][1] - sheet[0][1]) * mm_per_px - 210.0).abs() < 0.01, "down");
    let crop = Crop {
        x: sheet[0][0] + 150.0 * unit,
        y: sheet[0][1] + 220.0 * unit,
        width: 850.0 * unit,
        height: 420.0 * unit,
    };
    design.edit(PictureEdit::SetCrop { crop: Some(crop) }.into());
    design.edit(PictureEdit::SetInvert { invert: false }.into());
    let view = design.view();
    assert_eq!(view.patches.iter().filter(|p| p.is_ink).count(), 1, "{:?}", view.findings);
    // From the tip of the stem (200, 520, half a width of 8 beyond) to that of the leaf, 610 units along 14 degrees.
    let (across, down) = design.size();
    let tip = 300.0 + 610.0 * 14f64.to_radians().cos();
    assert!((across - (tip - 192.0) * 0.25).abs() < 1.5, "{across} mm");
    assert!((55.0..85.0).contains(&down), "{down} mm");
}

#[test]
fn turning_and_flipping_keep_choices_sizes_and_the_crop() {
    let mut design = Design::new(picture());
    design.edit(
        OutlineEdit::SetUses {
            choices: vec![Choice { spot: Spot::new(Point::new(120.0, 60.0), true), use_: Use::Aside }],
        }
        .into(),
    );
    design.edit(GeneralEdit::SetSize { axis: Axis::Width, value: "60 mm".into(), of: SizeOf::Drawing }.into());
    design.edit(GeneralEdit::PinSize { axis: Some(Axis::Width) }.into());
    let uses = design.uses();
    assert_eq!(uses.iter().filter(|u| u.1 == Use::Aside).count(), 1);
    let (w, h) = design.size();
    assert!((w - 60.0).abs() < 1e-6 && (h - 20.0).abs() < 0.2, "{w} x {h}");
    design.edit(PictureEdit::Turn { quarters: 1 }.into());
    let turned = design.size();
    assert!((turned.1 - 60.0).abs() < 1e-6 && (turned.0 - h).abs() < 0.05, "{turned:?}");
    assert_eq!(design.uses().iter().filter(|u| u.1 == Use::Aside).count(), 1, "the disc is still put aside");
    for axis in [Axis::Width, Axis::Height, Axis::Height, Axis::Width] {
        design.edit(PictureEdit::Flip { axis }.into());
        assert_eq!(design.uses().iter().filter(|u| u.1 == Use::Aside).count(), 1);
    }
    design.edit(PictureEdit::SetCrop { crop: Some(Crop { x: 20.0, y: 5.0, width: 70.0, height: 110.0 }) }.into());
    let before = design.document.clone();
    design.edit(PictureEdit::Turn { quarters: -1 }.into());
    design.edit(PictureEdit::Turn { quarters: 1 }.into());
    let (a, b) = (design.document.prepare.crop.unwrap(), before.prepare.crop.unwrap());
    let all = [a.x - b.x, a.y - b.y, a.width - b.width, a.height - b.height];
    assert!(all.iter().all(|v| v.abs() < 1e-9), "{a:?}, {b:?}");
    let (c, d) = (design.document.choices[0].spot.at, before.choices[0].spot.at);
    assert!((c.x - d.x).abs() < 1e-9 && (c.y - d.y).abs() < 1e-9);
    design.edit(PictureEdit::SetDegrees { degrees: 12.5 }.into());
    assert_eq!(design.uses().iter().filter(|u| u.1 == Use::Aside).count(), 1);
}

#[test]
fn two_points_and_their_distance_set_the_size() {
    let mut design = Design::new(picture());
    let distance = |from, to, value: &str| GeneralEdit::SetDistance { from, to, value: value.into() }.into();
    // The bar's lower edge is 60 px long.
    design.edit(distance([20.0, 50.0].into(), [80.0, 50.0].into(), "3 in"));
    let Size::Scale { mm_per_px } = design.document.size else { panic!() };
    assert!((mm_per_px - 76.2 / 60.0).abs() < 1e-9);
    assert!(matches!(
        design.try_edit(distance([20.0, 50.0].into(), [20.0, 50.0].into(), "3 in")).unwrap_err(),
        EditError::EqualPoints
    ));
    for value in ["0", "-1", "NaN", "1e30", "abc", ""] {
        let e = design.try_edit(distance([20.0, 50.0].into(), [80.0, 50.0].into(), value)).unwrap_err();
        assert!(!e.to_string().is_empty(), "{value}");
    }
    assert!(design.try_edit(distance([f64::NAN, 50.0].into(), [80.0, 50.0].into(), "3 in")).is_err());
    assert!(matches!(design.try_edit(GeneralEdit::SetFileSize.into()).unwrap_err(), EditError::NoFileSize));
}

#[test]
fn strokes_change_the_patches_and_have_a_limit() {
    let mut design = Design::new(picture());
    let inks = |d: &Design| d.view().patches.iter().filter(|p| p.is_ink).count();
    assert_eq!(inks(&design), 2);
    let stroke = |kind, points: Vec<[f64; 2]>, radius| {
        let points = points.into_iter().map(Point::from).collect();
        PictureEdit::AddStroke { stroke: Stroke { kind, points, radius, colour: None } }.into()
    };
    design.edit(stroke(StrokeKind::Clear, vec![[120.0, 60.0]], 4.0));
    assert_eq!(inks(&design), 1, "the disc is gone");
    design.edit(stroke(StrokeKind::RubOut, vec![[50.0, 20.0], [50.0, 60.0]], 3.0));
    assert_eq!(inks(&design), 2, "the bar is in two");
    design.edit(stroke(StrokeKind::Draw, vec![[30.0, 40.0], [70.0, 40.0]], 3.0));
    assert_eq!(inks(&design), 1, "and one again");
    assert!(design.try_edit(stroke(StrokeKind::Draw, vec![], 3.0)).is_err());
    assert!(design.try_edit(stroke(StrokeKind::Draw, vec![[f64::INFINITY, 0.0]], 3.0)).is_err());
    assert!(design.try_edit(stroke(StrokeKind::Draw, vec![[0.0, 0.0]], 1e9)).is_err());
    let many = vec![[1.0, 1.0]; kachel_artwork::MAX_STROKE_POINTS];
    assert!(matches!(
        design.try_edit(stroke(StrokeKind::Draw, many, 1.0)).unwrap_err(),
        EditError::TooManyStrokes { .. }
    ));
    design.edit(PictureEdit::ClearStrokes.into());
    assert_eq!(inks(&design), 2);
}

#[test]
fn another_picture_keeps_everything_after_it() {
    let mut design = Design::new(picture());
    design.edit(
        OutlineEdit::SetUses {
            choices: vec![Choice { spot: Spot::new(Point::new(120.0, 60.0), true), use_: Use::Aside }],
        }
        .into(),
    );
    design.edit(GeneralEdit::SetSize { axis: Axis::Width, value: "75 mm".into(), of: SizeOf::Drawing }.into());
    design.edit(TierEdit::SetMeasure { name: "wall-height".into(), value: "22 mm".into() }.into());
    let before = design.size();
    // The same drawn twice as large.
    let twice = painted(320, 200, |x, y| {
        let is_bar = (40.0..160.0).contains(&x) && (60.0..100.0).contains(&y);
        if is_bar || (x - 240.0).hypot(y - 120.0) < 20.0 { [20, 20, 20] } else { [250, 250, 250] }
    });
    let old = design.bytes.clone();
    let watch = Watch::default();
    let after =
        design.engine.replace_picture(&design.document, "twice.png", &twice, &|| Ok(old.clone()), &watch).unwrap();
    design.document = after;
    design.bytes = twice;
    let size = design.size();
    assert!((size.0 - before.0).abs() < 0.1 && (size.1 - before.1).abs() < 0.2, "{size:?}, {before:?}");
    assert_eq!(design.uses().iter().filter(|u| u.1 == Use::Aside).count(), 1);
    assert_eq!(design.document.measures["wall-height"], 22.0);
    assert_eq!(design.document.artwork.file_name, "twice.png");
}

#[test]
fn a_drawing_has_no_pixels_to_tidy() {
    let mut design = Design::sample("hedgehog");
    let stroke = Stroke { kind: StrokeKind::Draw, points: vec![[1.0, 1.0].into()], radius: 2.0, colour: None };
    assert!(matches!(design.try_edit(PictureEdit::AddStroke { stroke }.into()).unwrap_err(), EditError::NoPixels));
    assert!(matches!(design.try_edit(PictureEdit::SetLevel { level: true }.into()).unwrap_err(), EditError::NoPixels));
    design.edit(PictureEdit::Turn { quarters: 1 }.into());
    design.edit(PictureEdit::Flip { axis: Axis::Width }.into());
    assert!(design.view().problem.is_none());
}

#[test]
fn pen_lines_keep_their_typed_width_when_the_size_changes() {
    let mut design = Design::sample("signature");
    design.edit(PictureEdit::SetInk { ink: Ink::Pen }.into());
    design.edit(PictureEdit::SetPenWidth { value: Some("3 mm".into()) }.into());
    for width in ["60 mm", "120 mm"] {
        design.edit(GeneralEdit::SetSize { axis: Axis::Width, value: width.into(), of: SizeOf::Drawing }.into());
        let view = design.view();
        assert!(view.problem.is_none(), "{:?}", view.problem);
        // The line under the name stands alone: its patch is 3 mm high but for its bow.
        let area: f64 = design
            .engine
            .run(&design.document, &|| Ok(design.bytes.clone()), &Watch::default())
            .patches
            .iter()
            .filter(|p| p.is_ink)
            .map(|p| p.area_px2)
            .sum();
        let mm = view.outline.unwrap().mm_per_px;
        let length: f64 = area * mm * mm / 3.0;
        // The strokes of the signature are about 4.6 times as long as it is wide.
        let wide: f64 = if width == "60 mm" { 60.0 } else { 120.0 };
        assert!((3.4..5.6).contains(&(length / wide)), "{width}: {length}");
    }
    for value in ["0", "51 mm", "NaN", "-2"] {
        assert!(design.try_edit(PictureEdit::SetPenWidth { value: Some(value.into()) }.into()).is_err(), "{value}");
    }
}

#[test]
fn contours_by_colour_are_one_group_each_and_carry_the_credit() {
    let mut design = Design::sample("swap-badge");
    let credit = Sample::by_id("swap-badge").unwrap().credit();
    design.edit(GeneralEdit::SetCredit { credit }.into());
    let svg = |d: &Design| {
        let run = d.engine.run(&d.document, &|| Ok(d.bytes.clone()), &Watch::default());
        export_contours(&d.document, &run).unwrap()
    };
    let plain = svg(&design);
    assert_eq!(plain.matches("<g ").count(), 4, "{plain}");
    for word in ["#cd3a62", "Fennhollow Allotments", "CC0-1.0", "<title>Test</title>"] {
        assert!(plain.contains(word), "{word}: {plain}");
    }
    let colours = ColourSettings { with_ground: true, ..ColourSettings::default() };
    design.edit(PictureEdit::SetColours { colours }.into());
    assert_eq!(svg(&design).matches("<g ").count(), 5, "with the ground");
    let tree = resvg_reads(&svg(&design));
    assert!(tree > 10, "{tree} paths for another reader");
}

#[test]
fn an_svgs_own_groups_keep_their_names() {
    let svg = r##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 60">
        <g id="pot"><rect x="5" y="5" width="40" height="50" fill="#803020"/></g>
        <g id="leaves"><circle cx="70" cy="20" r="12" fill="#207040"/><circle cx="70" cy="45" r="10" fill="#207040"/></g>
        </svg>"##;
    let design = Design::new(svg.as_bytes().to_vec());
    assert_eq!(design.document.trace.ink, Ink::Colours, "red and green");
    let groups: Vec<Option<String>> = design.view().patches.into_iter().map(|p| p.group).collect();
    assert_eq!(groups.iter().filter(|g| g.as_deref() == Some("leaves")).count(), 2, "{groups:?}");
    assert_eq!(groups.iter().filter(|g| g.as_deref() == Some("pot")).count(), 1, "{groups:?}");
    let run = design.engine.run(&design.document, &|| Ok(design.bytes.clone()), &Watch::default());
    let out = export_contours(&design.document, &run).unwrap();
    assert_eq!(out.matches("<title>leaves</title>").count(), 1, "{out}");
    // Circles are four cubics and no more.
    assert_eq!(out.matches('C').count(), 8, "{out}");
}

/// Paths that usvg, through the artwork crate, finds in an SVG.
fn resvg_reads(svg: &str) -> usize {
    match kachel_artwork::Artwork::decode(svg.as_bytes(), &Watch::default()).unwrap() {
        kachel_artwork::Artwork::Drawing(d) => d.areas.len(),
        kachel_artwork::Artwork::Picture(_) => 0,
    }
}
