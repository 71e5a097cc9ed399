use super::*;
use kachel_artwork::{Crop, Sheet, Straighten, Stroke, StrokeKind};
use kachel_geom::{Corner, Point, Px};
use kachel_oracle::{Random, for_all};
use kachel_outline::{Change, Choice, DrawnLine, Node, Shape, Size, Spot, Use, Usual};
use kachel_tiers::{CutLine, Finish, Footprint, OwnTier, RecipeKind, Unit};
use kachel_trace::Ink;

mod hostile;
mod in_use;
mod letters;
mod mends;
mod shown;
mod sizes;
mod uses;

fn quiet() -> Watch {
    Watch::default()
}

#[derive(Clone)]
struct Design {
    engine: std::sync::Arc<Engine>,
    document: Document,
    bytes: Vec<u8>,
}

impl Design {
    fn from_bytes(bytes: &[u8]) -> Self {
        let engine = std::sync::Arc::new(Engine::default());
        let document = engine.new_document("Test", "test.svg", bytes, &quiet()).unwrap();
        Self { engine, document, bytes: bytes.to_vec() }
    }

    fn sample(id: &str) -> Self {
        Self::from_bytes(Sample::by_id(id).unwrap().bytes)
    }

    fn run(&self) -> Run {
        self.engine.run(&self.document, &|| Ok(self.bytes.clone()), &quiet())
    }

    fn edit(&mut self, edits: &[Edit]) -> Result<(), EditError> {
        self.document = self.engine.apply(&self.document, edits, &|| Ok(self.bytes.clone()), &quiet()).unwrap()?;
        Ok(())
    }

    fn view(&self) -> ResultView {
        let run = self.run();
        let cuts = run.stack.as_ref().map(|s| self.engine.section(s, &CutLine::default()).unwrap());
        ResultView::new(&self.document, &run, &cuts.unwrap_or_default())
    }

    fn tried(&self) -> MendsView {
        self.engine.tried_mends(&self.document, &self.run(), &|| Ok(self.bytes.clone()), &quiet()).unwrap()
    }

    fn file(&self, format: ExportFormat) -> Vec<u8> {
        export(&self.document, &self.run(), &|| Ok(self.bytes.clone()), format, None).unwrap()
    }
}

fn measure(name: &str, value: &str) -> Edit {
    TierEdit::SetMeasure { name: name.into(), value: value.into() }.into()
}

fn width(value: &str) -> Edit {
    GeneralEdit::SetSize { axis: Axis::Width, value: value.into(), of: SizeOf::Drawing }.into()
}

/// Findings of the first two weights: what is only worth knowing may be true of a good object.
fn weighty(view: &ResultView) -> Vec<&'static str> {
    view.findings.iter().filter(|f| f.weight != "note").map(|f| f.code).collect()
}

#[test]
fn the_default_cutter_of_each_clean_sample_is_sound_and_has_no_findings() {
    for sample in SAMPLES.iter().filter(|s| s.kind == "silhouette") {
        let view = Design::sample(sample.id).view();
        assert!(view.problem.is_none(), "{}: {:?}", sample.id, view.problem);
        assert_eq!(weighty(&view), [""; 0], "{}", sample.id);
        let (solid, outline) = (view.solid.unwrap(), view.outline.unwrap());
        assert_eq!(solid.bodies, Some(1), "{}", sample.id);
        // Common practice, no source: a cutter is usually 90 mm long; wall and flange add 4.6 mm on each side.
        assert!((outline.width.max(outline.height) - 90.0).abs() < 0.01, "{}", sample.id);
        // Rounded joins may miss their arcs by 5 um.
        assert!((solid.size[0] - outline.width - 9.2).abs() < 0.02, "{}: {:?}", sample.id, solid.size);
        assert_eq!((solid.size[2], solid.layers), (15.0, 75), "15 mm at 0.2 mm are 75 layers");
    }
}

#[test]
fn the_ladybird_keeps_its_own_size_and_its_spots_are_loose_until_they_are_tied() {
    let mut design = Design::sample("ladybird");
    let tied = design.view();
    assert_eq!((weighty(&tied), tied.bars.len()), (vec![], 6));
    design.edit(&[measure("bar-width", "0")]).unwrap();
    let view = design.view();
    assert!((design.run().source.unwrap().size.0 - 80.0 / 25.4 * 96.0).abs() < 0.01);
    assert_eq!(weighty(&view), ["loose-part"]);
    assert_eq!((view.findings[0].what.as_str(), view.findings[0].places.len()), ("6 stamp lines are loose", 6));
    design.edit(&view.findings[0].mends[0].edits).unwrap();
    assert_eq!(weighty(&design.view()), [""; 0]);
}

#[test]
fn every_way_of_typing_a_height_gives_the_same_object() {
    let mut design = Design::sample("ginkgo");
    let mut sizes = Vec::new();
    for text in ["25.4 mm", "1 in", "2,54cm", "25.4"] {
        design.edit(&[measure("wall-height", text)]).unwrap();
        sizes.push(design.view().solid.unwrap().size[2]);
    }
    let on_grid = (25.4f64 * 16384.0).round() / 16384.0;
    assert_eq!(sizes, [on_grid; 4]);
    design.edit(&[GeneralEdit::SetUnit { unit: Unit::In }.into(), measure("wall-height", "1/2")]).unwrap();
    assert_eq!(design.document.measures["wall-height"], 12.7);
    let refused = design.edit(&[measure("wall-height", "9")]).unwrap_err();
    assert_eq!(refused.message().said(Unit::In), "Wall height can be 0.0787 in to 2.3622 in; 9 in is outside");
}

#[test]
fn a_typed_height_is_kept_and_says_what_prints() {
    let mut design = Design::sample("ginkgo");
    design.edit(&[measure("wall-height", "12.25")]).unwrap();
    let m = design.view().measures.into_iter().find(|m| m.name == "wall-height").unwrap();
    assert_eq!((m.value, m.layers), (12.25, Some(61)));
    assert!((m.prints.unwrap() - 12.2).abs() < 1e-9);
    // Half a layer: the measure says what is printed.
    design.edit(&[measure("wall-height", "12.3")]).unwrap();
    let view = design.view();
    let m = view.measures.into_iter().find(|m| m.name == "wall-height").unwrap();
    assert_eq!((m.layers, view.solid.unwrap().layers), (Some(61), 61));
}

#[test]
fn layers_are_counted_alike_everywhere_where_the_first_is_thicker() {
    let mut design = Design::sample("ginkgo");
    design.edit(&[measure("wall-height", "15"), measure("flange-height", "0.41")]).unwrap();
    let is_between = |d: &Design| d.view().findings.iter().any(|f| f.code == "between-layers");
    assert!(!is_between(&design), "0.41 is printed as 0.4");
    let mut workshop = kachel_design::Workshop::default();
    workshop.print.first_layer = 0.3;
    design.engine.set_workshop(workshop);
    assert!(is_between(&design), "0.41 is printed as 0.5");
    design.edit(&[measure("flange-height", "2")]).unwrap();
    let view = design.view();
    // 0.3 and 73 of 0.2 are 14.9, 0.3 and 8 of 0.2 are 1.9.
    let layers = |name: &str| view.measures.iter().find(|m| m.name == name).unwrap().layers;
    assert_eq!((layers("wall-height"), layers("flange-height")), (Some(74), Some(9)));
    assert_eq!((view.first_layer, view.solid.unwrap().layers), (0.3, 74));
}

#[test]
fn typing_a_width_keeps_the_scale_afterwards_and_pinning_keeps_the_width() {
    let mut design = Design::sample("ladybird");
    design.edit(&[width("60")]).unwrap();
    let scale = design.view().outline.unwrap().mm_per_px;
    design.edit(&[PictureEdit::SetThreshold { threshold: Some(90) }.into()]).unwrap();
    assert_eq!(design.view().outline.unwrap().mm_per_px, scale);
    design.edit(&[GeneralEdit::PinSize { axis: Some(Axis::Width) }.into()]).unwrap();
    assert!(matches!(design.document.size, Size::Width { mm } if (mm - 60.0).abs() < 1e-9));
    design.edit(&[width("70 mm")]).unwrap();
    assert!((design.view().outline.unwrap().width - 70.0).abs() < 1e-9);
    for bad in ["0", "-5", "NaN", "1e9", "abc", "", "2000"] {
        assert!(design.edit(&[width(bad)]).is_err(), "{bad}");
    }
    assert!((design.view().outline.unwrap().width - 70.0).abs() < 1e-9, "nothing was changed");
}

#[test]
fn choices_replace_each_other_and_survive_a_retrace() {
    let mut design = Design::sample("hedgehog");
    let at = design.run().patches.iter().find(|p| !p.is_ink).unwrap().anchor;
    let choose = |use_| {
        OutlineEdit::SetUses { choices: vec![Choice { spot: Spot::new(Point::new(at.x, at.y), false), use_ }] }.into()
    };
    design.edit(&[choose(Use::Detail)]).unwrap();
    let now = |design: &Design| {
        let patches = design.run().patches;
        patches[kachel_outline::patch_at(&patches, &Spot::new(Point::new(at.x, at.y), false)).unwrap()].use_
    };
    assert!(design.view().tiers.iter().any(|t| t.role == "stamp"));
    design.edit(&[PictureEdit::SetDeviation { deviation: 0.4 }.into()]).unwrap();
    assert_eq!(now(&design), Use::Detail);
    design.edit(&[choose(Use::Aside)]).unwrap();
    assert_eq!(design.document.choices.len(), 1);
    assert_eq!(now(&design), Use::Aside);
}

#[test]
fn a_design_without_an_edge_still_shows_its_patches() {
    let mut design = Design::sample("beetroot");
    let at = design.run().patches[0].anchor;
    let aside = OutlineEdit::SetUses {
        choices: vec![Choice { spot: Spot::new(Point::new(at.x, at.y), true), use_: Use::Aside }],
    }
    .into();
    design.edit(&[aside]).unwrap();
    let view = design.view();
    assert_eq!(view.problem.unwrap().code, "no-edge");
    assert!(!view.patches.is_empty() && view.solid.is_none());
    assert!(matches!(design.edit(&[width("50")]), Err(EditError::Outline(_))));
}

#[test]
fn the_same_document_gives_the_same_bytes_from_a_fresh_engine() {
    let export_with = |engine: Engine| {
        let d = Design { engine: engine.into(), ..Design::sample("snail") };
        [ExportFormat::Stl, ExportFormat::ThreeMf, ExportFormat::StlText, ExportFormat::StlParts].map(|f| d.file(f))
    };
    assert!(export_with(Engine::default()) == export_with(Engine::default()));
}

#[test]
fn remembered_stages_do_not_run_again() {
    let mut design = Design::sample("hedgehog");
    let first = design.run();
    let again = design.run();
    assert!(std::sync::Arc::ptr_eq(&first.solid.clone().unwrap().1, &again.solid.unwrap().1));
    design.edit(&[measure("wall-height", "20")]).unwrap();
    let higher = design.run();
    let area = |r: &Run| r.stack.as_ref().unwrap().tiers[0].footprint.clone();
    assert!(area(&first) == area(&higher));
}

#[test]
fn tiers_can_be_shown_apart() {
    let design = Design::sample("hedgehog");
    let (key, solid) = design.run().solid.unwrap();
    let parts = design.engine.display(&key, &quiet()).unwrap().unwrap();
    let sum: f64 = parts.iter().map(|p| p.mesh.mesh().volume()).sum();
    assert!((sum / solid.skin.mesh().volume() - 1.0).abs() < 1e-9);
    assert!(design.engine.display("unknown", &quiet()).unwrap().is_none());
}

#[test]
fn a_design_in_inches_says_everything_in_inches() {
    let mut design = Design::sample("ginkgo");
    design
        .edit(&[
            GeneralEdit::SetUnit { unit: Unit::In }.into(),
            TierEdit::SetMeasure { name: "wall-thickness".into(), value: "0.3mm".into() }.into(),
        ])
        .unwrap();
    let findings = design.view().findings;
    let said: Vec<&str> = findings.iter().flat_map(|f| [f.what.as_str(), f.why.as_str()]).collect();
    let mends = findings.iter().flat_map(|f| &f.mends).map(|m| m.words.as_str());
    assert!(said.iter().any(|s| s.contains("0.0118 in")), "{said:?}");
    assert!(said.into_iter().chain(mends).all(|s| !s.contains(" mm")));
}

#[test]
fn documents_state_their_version_and_newer_ones_are_refused() {
    let d = Design::sample("ginkgo").document;
    assert_eq!(Document::from_json(&d.to_json().unwrap()).unwrap(), d);
    let newer = d.to_json().unwrap().replacen(&format!("\"version\":{VERSION}"), "\"version\":1000", 1);
    assert!(matches!(Document::from_json(&newer), Err(DocumentError::NewerVersion { found: 1000 })));
    assert!(matches!(Document::from_json("{}"), Err(DocumentError::Damaged(_))));
    let bent = d.to_json().unwrap().replacen("\"measures\":{}", "\"measures\":{\"wall-height\":1e9}", 1);
    assert!(matches!(Document::from_json(&bent), Err(DocumentError::Measure(_))));
}

#[test]
fn a_design_of_version_1_is_brought_up_to_date() {
    // As version 1 wrote it, but for the picture's hash.
    let old = r#"{"version":1,"name":"Snail","artwork":{"hash":"00","file_name":"snail.svg"},"credit":{"maker":"M",
      "source":"","licence":"","note":""},"unit":"mm","trace":{"ink":"light-dark","threshold":90,"invert":true,
      "min_area":30.0,"deviation":0.15},"choices":[],"size":{"by":"scale","mm_per_px":0.2},"recipe":"cutter",
      "measures":{}}"#;
    let d = Document::from_json(old).unwrap();
    assert_eq!((d.version, d.trace.threshold, d.trace.min_gap, d.pen_width), (VERSION, Some(90), 30.0, None));
    assert_eq!(d.prepare, artwork::Prepare::default());
    assert_eq!(Document::from_json(&d.to_json().unwrap()).unwrap(), d);
}

#[test]
fn changes_of_version_3_are_read_with_what_they_did_not_know() {
    let mut value: serde_json::Value =
        serde_json::from_str(&Design::sample("ginkgo").document.to_json().unwrap()).unwrap();
    value["version"] = 3.into();
    for unknown in ["pins", "guides"] {
        value.as_object_mut().unwrap().remove(unknown);
    }
    value["changes"] = serde_json::json!([
        { "id": 1, "is_on": true, "change": { "do": "grow", "on": [{ "at": [5.0, 5.0], "is_ink": true }], "by": 1.0 } },
        { "id": 2, "is_on": true, "change":
            { "do": "place", "on": [{ "at": [5.0, 5.0], "is_ink": true }], "by": [1.0, 0.0], "degrees": 0.0, "scale": 2.0 } }
    ]);
    let d = Document::from_json(&value.to_string()).unwrap();
    assert!(matches!(d.changes[0].change, Change::Grow { corner: Corner::Round, .. }));
    assert!(matches!(d.changes[1].change, Change::Place { stretch: 1.0, flip: false, is_copy: false, .. }));
    assert_eq!((d.version, d.pins.len(), d.guides.len()), (VERSION, 0, 0));
}

#[test]
fn loose_pieces_of_version_7_keep_their_single_bars() {
    let mut value: serde_json::Value =
        serde_json::from_str(&Design::sample("ginkgo").document.to_json().unwrap()).unwrap();
    value["version"] = 7.into();
    value["recipe"] = "cutter-stamp".into();
    value["other_measures"] = serde_json::json!({ "pendant": { "bars": 3.0 }, "coaster": {} });
    let d = Document::from_json(&value.to_string()).unwrap();
    assert_eq!(d.measures.get("bars"), Some(&1.0));
    assert_eq!(d.other_measures["pendant"].get("bars"), Some(&3.0));
    assert_eq!(d.other_measures["coaster"].keys().collect::<Vec<_>>(), ["crumbs"]);
}

#[test]
fn choices_and_filaments_of_version_5_keep_their_patches() {
    let mut design = Design::sample("ladybird");
    let detail = design.run().patches.iter().find(|p| p.use_ == Use::Detail).map(Spot::of).unwrap();
    let (x, y) = (detail.at.x, detail.at.y);
    let mut value: serde_json::Value = serde_json::from_str(&design.document.to_json().unwrap()).unwrap();
    value["version"] = 5.into();
    value["choices"] = serde_json::json!([{ "at": [x, y], "is_ink": true, "use": "both" }]);
    value["paints"] = serde_json::json!([{ "at": [x, y], "is_ink": true, "filament": "cobalt" }]);
    design.document = Document::from_json(&value.to_string()).unwrap();
    assert_eq!(design.document.choices[0].spot, Spot::new(Point::new(x, y), true));
    let view = design.view();
    let patch = view.patches.iter().find(|p| p.at == [x, y].into()).unwrap();
    assert_eq!((patch.use_, patch.filament.as_deref()), (Use::Both, Some("cobalt")));
    // Chosen again, the new way of telling it takes the place of the old one.
    let choice = Choice { spot: detail, use_: Use::Detail };
    design.edit(&[OutlineEdit::SetUses { choices: vec![choice] }.into()]).unwrap();
    assert_eq!(design.document.choices, [choice]);
    assert_eq!(Document::from_json(&design.document.to_json().unwrap()).unwrap(), design.document);
}

/// A disc of 20 x 20 px on a picture of 100 x 100.
fn disc() -> Design {
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'><circle cx='50' cy='50' r='10'/></svg>";
    let mut design = Design::from_bytes(svg.as_bytes());
    design.edit(&[GeneralEdit::SetSize { axis: Axis::Width, value: "40".into(), of: SizeOf::Drawing }.into()]).unwrap();
    design
}

fn add(change: Change) -> Edit {
    OutlineEdit::AddChange { change, before: None }.into()
}

#[test]
fn an_outline_comes_back_to_its_place_as_svg() {
    let mut design = disc();
    let (run, d) = (design.run(), design.document.clone());
    let svg = export_outline(&d, &run).unwrap();
    // 100 px at 2 mm a pixel.
    assert!(svg.contains("viewBox=\"0 0 200 200\" width=\"200mm\" height=\"200mm\""), "{svg}");
    let change = import_patches(svg.as_bytes(), &quiet()).unwrap();
    let Change::Paste { pieces, .. } = &change else { panic!("{change:?}") };
    assert_eq!(pieces[0].use_, Use::Edge, "groups of its own keep their use");
    design.edit(&[add(change)]).unwrap();
    let o = design.run().outline.unwrap();
    assert_eq!(o.patches.len(), 2);
    let boxes: Vec<_> = o.patches.iter().map(|p| p.rings[0].bounds().unwrap()).collect();
    for (a, b) in [(boxes[0].min.x, boxes[1].min.x), (boxes[0].max.y, boxes[1].max.y)] {
        assert!((a - b).abs() * o.mm_per_px < 0.02, "{a} and {b} px");
    }
    let picture = image_bytes();
    assert_eq!(import_patches(&picture, &quiet()).unwrap_err().code(), "unknown-format");
}

#[test]
fn curves_stay_curves_in_svg_after_a_mirror_a_turn_or_a_repeat() {
    let on = |design: &Design| design.run().patches.iter().map(Spot::of).collect::<Vec<_>>();
    let changes: [fn(Vec<Spot>) -> Change; 3] = [
        |on| Change::Mirror { on, through: [47.0, 50.0].into(), degrees: 80.0, is_quarter: false },
        |on| Change::Place {
            on,
            by: [3.0, 0.0].into(),
            degrees: 33.0,
            scale: 1.0,
            stretch: 1.0,
            flip: true,
            is_copy: false,
        },
        |on| Change::Repeat { on, centre: [55.0, 50.0].into(), times: 5, is_mirrored: false },
    ];
    for change in changes {
        let mut design = disc();
        design.edit(&[add(change(on(&design)))]).unwrap();
        let (run, d) = (design.run(), design.document.clone());
        let svg = export_outline(&d, &run).unwrap();
        let Change::Paste { pieces, .. } = import_patches(svg.as_bytes(), &quiet()).unwrap() else { panic!() };
        let nodes: usize = pieces.iter().flat_map(|p| &p.lines).map(|l| l.nodes.len()).sum();
        assert!((3..=80).contains(&nodes) && !svg.contains('L'), "{nodes} nodes: {svg}");
        let o = run.outline.unwrap();
        let in_use = o.patches.iter().filter(|p| p.use_ != Use::Aside).flat_map(|p| &p.curves);
        let was: f64 = in_use.map(|c| c.ring(1e-4).area().abs()).sum::<f64>() * o.mm_per_px.powi(2);
        let lines = pieces.iter().flat_map(|p| &p.lines).filter_map(|l| l.curve());
        let is: f64 = lines.map(|c| c.ring(1e-4).area().abs()).sum();
        assert!((is / was - 1.0).abs() < 5e-4, "{is} mm2 instead of {was}");
    }
}

/// A small PNG.
fn image_bytes() -> Vec<u8> {
    let mut out = std::io::Cursor::new(Vec::new());
    image::GrayImage::new(9, 9).write_to(&mut out, image::ImageFormat::Png).unwrap();
    out.into_inner()
}

#[test]
fn patches_are_copied_into_another_design_at_their_size() {
    let from = disc();
    let Some(Change::Paste { pieces, .. }) = copied(&from.run(), &[0]) else { panic!() };
    let mut to = Design::sample("ginkgo");
    let before = to.run().outline.unwrap().patches.len();
    to.edit(&[add(Change::Paste { pieces, at: [20.0, 30.0].into(), degrees: 0.0, scale: 1.0 })]).unwrap();
    let o = to.run().outline.unwrap();
    assert_eq!(o.patches.len(), before + 1);
    let mm2 = o.patches[before].area_px2 * o.mm_per_px * o.mm_per_px;
    assert!((mm2 - std::f64::consts::PI * 400.0).abs() < 1.0, "{mm2}");
    assert!(copied(&from.run(), &[7]).is_none());
}

#[test]
fn nodes_are_the_curves_own_or_fewer_than_the_pieces() {
    let mut design = disc();
    let own = patch_nodes(&design.run(), 0).unwrap();
    assert!(own[0].nodes.len() <= 8 && own[0].is_closed);
    let spot = Spot::new(Point::new(50.0, 50.0), true);
    design.edit(&[add(Change::Grow { on: vec![spot], by: 5.0, corner: Corner::Round })]).unwrap();
    let run = design.run();
    let pieces = run.patches[0].curves[0].nodes();
    let few = patch_nodes(&run, 0).unwrap()[0].nodes.len();
    assert!(pieces > 100 && few <= 24, "{few} nodes for {pieces} pieces");
    assert!(patch_nodes(&run, 9).is_none());
}

#[test]
fn remembered_steps_give_what_replaying_from_the_start_gives() {
    let mut design = disc();
    let mut random = Random::new(9);
    let shape = |r: &mut Random| Change::Shape {
        shape: Shape::Ellipse { width: r.between(2.0, 30.0), height: 6.0 },
        at: [r.between(20.0, 80.0), r.between(20.0, 80.0)].into(),
        degrees: r.between(0.0, 90.0),
        use_: Use::Edge,
    };
    let spot = Spot::new(Point::new(50.0, 50.0), true);
    for k in 0..40 {
        let edit = match random.below(4) {
            0 => add(Change::Grow { on: vec![spot], by: 0.3, corner: Corner::Mitred }),
            1 if k > 3 => OutlineEdit::SetChange { id: 1 + random.below(3) as u32, change: shape(&mut random) }.into(),
            2 if k > 3 => {
                OutlineEdit::SwitchChange { id: 1 + random.below(k) as u32, is_on: random.below(3) > 0 }.into()
            }
            _ => add(shape(&mut random)),
        };
        if design.edit(&[edit]).is_err() {
            continue;
        }
        let (here, fresh) = (design.run(), Engine::default());
        let anew = fresh.run(&design.document, &|| Ok(design.bytes.clone()), &quiet());
        let (a, b) = (here.outline.unwrap(), anew.outline.unwrap());
        assert_eq!((&a.edge, &a.astray, a.patches.len()), (&b.edge, &b.astray, b.patches.len()), "after {k}");
    }
    assert!(design.document.changes.len() > 15);
}

#[test]
fn gaps_are_closed_one_by_one_or_all_up_to_a_size() {
    let mut design = disc();
    let line = |places: &[[f64; 2]]| {
        let node = |at: &[f64; 2]| Node { at: (*at).into(), before: None, after: None };
        let line = DrawnLine { nodes: places.iter().map(node).collect(), is_closed: false };
        add(Change::Draw { line, width: None, use_: Use::Detail })
    };
    // Two halves of a square whose ends are 1 mm (half a pixel) apart, and a line that is open by 10 mm.
    design.edit(&[line(&[[10.0, 10.0], [20.0, 10.0], [20.0, 20.0]])]).unwrap();
    design.edit(&[line(&[[10.0, 10.5], [10.0, 20.0], [19.5, 20.0]])]).unwrap();
    design.edit(&[line(&[[70.0, 70.0], [80.0, 70.0], [80.0, 75.0], [70.0, 75.0]])]).unwrap();
    let codes = |d: &Design| d.view().findings.iter().filter(|f| f.code == "open-line").count();
    assert_eq!(codes(&design), 3);
    let gaps = |value: &str| OutlineEdit::CloseGaps { value: value.into() }.into();
    assert!(matches!(design.edit(&[gaps("0.1")]).unwrap_err(), EditError::Change { .. }), "none is that near");
    design.edit(&[gaps("2")]).unwrap();
    assert_eq!((design.document.changes.len(), codes(&design)), (2, 1), "two lines have become one area");
    // What is left is mended by its finding.
    let mend = design.view().findings.into_iter().find(|f| f.code == "open-line").unwrap().mends.remove(0).edits;
    design.edit(&mend).unwrap();
    assert_eq!(codes(&design), 0);
}

#[test]
fn a_freehand_line_becomes_few_curves_near_its_points() {
    let mut design = disc();
    // A wave of 600 shaky points.
    let mut random = Random::new(5);
    let wave = |x: f64| 30.0 + 8.0 * (x / 9.0).sin();
    let points: Vec<Point<Px>> =
        (0..600).map(|k| f64::from(k) / 8.0).map(|x| Point::new(x, wave(x) + random.between(-0.15, 0.15))).collect();
    let draw = |points, deviation| {
        OutlineEdit::DrawFreehand { points, deviation, is_closed: false, width: Some(1.0), use_: Use::Detail }.into()
    };
    design.edit(&[draw(points, 0.5)]).unwrap();
    let Change::Draw { line, .. } = &design.document.changes[0].change else { panic!() };
    assert!(line.nodes.len() < 40, "{} nodes", line.nodes.len());
    let curve = line.curve().unwrap();
    for p in curve.flatten(0.05) {
        assert!((p.y - wave(p.x)).abs() < 1.2, "{p:?}, not {}", wave(p.x));
    }
    assert!(design.edit(&[draw(vec![[1.0, 1.0].into()], 0.5)]).is_err());
}

#[test]
fn a_pinned_patch_is_not_touched() {
    let mut design = disc();
    let spot = Spot::new(Point::new(50.0, 50.0), true);
    design.edit(&[OutlineEdit::SetPins { pins: vec![spot] }.into()]).unwrap();
    assert!(design.view().patches[0].is_pinned);
    let grow = add(Change::Grow { on: vec![spot], by: 1.0, corner: Corner::Round });
    assert!(matches!(design.edit(std::slice::from_ref(&grow)), Err(EditError::Pinned)));
    let aside = Choice { spot: Spot::new(Point::new(45.0, 50.0), true), use_: Use::Aside };
    assert!(matches!(design.edit(&[OutlineEdit::SetUses { choices: vec![aside] }.into()]), Err(EditError::Pinned)));
    design.edit(&[OutlineEdit::SetPins { pins: vec![] }.into()]).unwrap();
    design.edit(&[grow]).unwrap();
}

#[test]
fn own_nodes_stay_or_follow_when_the_threshold_moves() {
    let mut design = Design::sample("beetroot");
    let run = design.run();
    let p = &run.patches[0];
    let change = Change::Nodes {
        on: vec![Spot::new(Point::new(p.anchor.x, p.anchor.y), true)],
        lines: patch_nodes(&run, 0).unwrap(),
        use_: Use::Edge,
        seen: Some(kachel_outline::Seen::of(p)),
    };
    design.edit(&[add(change)]).unwrap();
    let moved = |d: &Design| d.view().findings.into_iter().find(|f| f.code == "moved-on");
    assert!(moved(&design).is_none());
    let edge = |d: &Design| d.run().outline.unwrap().edge_px;
    let before = edge(&design);
    let threshold = design.view().trace.unwrap().cut;
    design.edit(&[PictureEdit::SetThreshold { threshold: Some(threshold as u8 / 3) }.into()]).unwrap();
    let finding = moved(&design).expect("the picture has moved on");
    assert_eq!(edge(&design), before, "its nodes stay where they are");
    design.edit(&finding.mends[0].edits).unwrap();
    assert!(moved(&design).is_none());
    // Following is to take the entry out.
    design.edit(&[OutlineEdit::RemoveChange { id: 1 }.into()]).unwrap();
    assert_ne!(edge(&design), before);
}

#[test]
fn a_picture_that_is_none_is_refused_and_one_without_ink_is_a_design() {
    let engine = Engine::default();
    let refused = engine.new_document("x", "x", b"Dear diary", &quiet()).unwrap_err();
    assert_eq!(refused.code(), "unknown-format");
    let blank = b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><path d='M0 0L9 9' fill='none'/></svg>";
    assert_eq!(Design::from_bytes(blank).view().problem.unwrap().code, "nothing-painted");
}

#[test]
fn stopping_is_told_as_such() {
    let design = Design::sample("hedgehog");
    let watch = quiet();
    watch.stop();
    let fresh = Engine::default();
    let run = fresh.run(&design.document, &|| Ok(design.bytes.clone()), &watch);
    assert!(matches!(run.failed, Some(EngineError::Stopped(_))), "{:?}", run.failed);
}

#[test]
fn file_names_are_the_designs_own() {
    assert_eq!(file_name("Käfer: 2/3 <x>", "stl"), "Käfer-2-3-x.stl");
    assert_eq!(file_name("../..", "3mf"), "design.3mf");
}

/// Any edit at all, sensible or not.
#[expect(clippy::too_many_lines, reason = "a line an edit")]
fn any_edit(random: &mut Random) -> Edit {
    let words = ["15", "1 in", "-3", "", "NaN", "999999", "0.0000001", "2,5", "1/0", "\u{0}", "60 mm"];
    let word = |r: &mut Random| words[r.below(words.len())].to_string();
    let numbers = [0.0, -1.0, 0.3, 50.0, 1e300, f64::NAN, f64::INFINITY];
    let number = |r: &mut Random| numbers[r.below(numbers.len())];
    let names = ["wall-height", "wall-thickness", "margin", "flange-width", "stamp-under-wall", "nothing"];
    let at = |r: &mut Random| Point::<Px>::new(r.between(-50.0, 900.0), r.between(-50.0, 900.0));
    match random.below(46) {
        0 => PictureEdit::SetThreshold { threshold: [None, Some(0), Some(128), Some(255)][random.below(4)] }.into(),
        1 => PictureEdit::SetInvert { invert: random.below(2) == 0 }.into(),
        2 => PictureEdit::SetMinArea { min_area: number(random) }.into(),
        3 => PictureEdit::SetDeviation { deviation: number(random) }.into(),
        4 | 5 => OutlineEdit::SetUses {
            choices: vec![Choice {
                spot: Spot::new(Point::new(random.between(0.0, 900.0), number(random)), random.below(2) == 0),
                use_: [Use::Edge, Use::Detail, Use::Aside][random.below(3)],
            }],
        }
        .into(),
        6 => GeneralEdit::SetSize {
            axis: if random.below(2) == 0 { Axis::Width } else { Axis::Height },
            value: word(random).into(),
            of: SizeOf::Drawing,
        }
        .into(),
        7 => GeneralEdit::PinSize { axis: [None, Some(Axis::Width), Some(Axis::Height)][random.below(3)] }.into(),
        8 => TierEdit::ResetMeasure { name: names[random.below(names.len())].into() }.into(),
        9 => GeneralEdit::Rename { name: word(random) }.into(),
        10 => PictureEdit::SetInk { ink: [Ink::LightDark, Ink::Colours, Ink::Alpha, Ink::Pen][random.below(4)] }.into(),
        11 => PictureEdit::SetBend { bend: number(random) }.into(),
        12 => PictureEdit::SetMinGap { min_gap: number(random) }.into(),
        13 => PictureEdit::SetPenWidth { value: (random.below(3) > 0).then(|| word(random).into()) }.into(),
        14 => PictureEdit::SetLevel { level: random.below(2) == 0 }.into(),
        15 => PictureEdit::AddStroke {
            stroke: Stroke {
                kind: [StrokeKind::Draw, StrokeKind::RubOut, StrokeKind::Fill, StrokeKind::Clear][random.below(4)],
                points: vec![at(random), at(random)],
                radius: random.between(0.0, 60.0),
                colour: None,
            },
        }
        .into(),
        16 => PictureEdit::Straighten {
            straighten: (random.below(2) == 0).then(|| Straighten {
                corners: std::array::from_fn(|_| at(random)),
                sheet: [Sheet::A4, Sheet::Card, Sheet::Other { long: number(random), short: 20.0 }][random.below(3)],
            }),
        }
        .into(),
        17 => PictureEdit::Turn { quarters: [-1, 1, 2, 127][random.below(4)] }.into(),
        18 => PictureEdit::SetDegrees { degrees: [7.5, -44.0, 90.0, f64::NAN][random.below(4)] }.into(),
        19 => PictureEdit::Flip { axis: if random.below(2) == 0 { Axis::Width } else { Axis::Height } }.into(),
        20 => PictureEdit::SetCrop {
            crop: (random.below(2) == 0).then(|| Crop { x: number(random), y: 9.0, width: 500.0, height: 600.0 }),
        }
        .into(),
        21 => GeneralEdit::SetDistance { from: at(random), to: at(random), value: word(random).into() }.into(),
        22 => GeneralEdit::SetFileSize.into(),
        23 | 24 => OutlineEdit::AddChange {
            change: Change::Grow {
                on: vec![Spot::new(at(random), true)],
                by: random.between(-9.0, 9.0),
                corner: Corner::Round,
            },
            before: None,
        }
        .into(),
        25 => OutlineEdit::AddChange {
            change: Change::Shape {
                shape: Shape::Rectangle { width: 20.0, height: number(random), corner: 1.0 },
                at: at(random),
                degrees: 15.0,
                use_: Use::Edge,
            },
            before: (random.below(2) == 0).then_some(1),
        }
        .into(),
        26 => OutlineEdit::SwitchChange { id: 1, is_on: random.below(2) == 0 }.into(),
        27 => OutlineEdit::OrderChange { id: 1, to: random.below(5) }.into(),
        28 => OutlineEdit::RemoveChange { id: 1 + random.below(2) as u32 }.into(),
        29 => OutlineEdit::SetChangeLength { id: 1, name: "by".into(), value: word(random).into() }.into(),
        30 => OutlineEdit::KeepNodes { id: 1 }.into(),
        31 => OutlineEdit::CloseLines { ids: vec![1], how: [Closing::Join, Closing::Extend][random.below(2)] }.into(),
        32 => OutlineEdit::CloseGaps { value: word(random).into() }.into(),
        33 => OutlineEdit::SetPins { pins: vec![Spot::new(Point::new(number(random), 40.0), true)] }.into(),
        34 => OutlineEdit::SetGuides { guides: vec![Guide { is_upright: true, at: number(random) }] }.into(),
        35 => OutlineEdit::AddChange {
            change: Change::Draw {
                line: DrawnLine {
                    nodes: (0..4).map(|_| Node { at: at(random), before: None, after: Some(at(random)) }).collect(),
                    is_closed: random.below(2) == 0,
                },
                width: (random.below(2) == 0).then(|| number(random)),
                use_: Use::Both,
            },
            before: None,
        }
        .into(),
        36 => OutlineEdit::DrawFreehand {
            points: (0..random.below(40)).map(|_| at(random)).collect(),
            deviation: number(random),
            is_closed: random.below(2) == 0,
            width: (random.below(2) == 0).then_some(2.0),
            use_: Use::Detail,
        }
        .into(),
        37 => OutlineEdit::RepointChange {
            id: 1,
            to: (0..random.below(3)).map(|_| Spot::new(at(random), true)).collect(),
        }
        .into(),
        38 => TierEdit::SetHeight {
            name: names[random.below(names.len())].into(),
            own: (random.below(2) == 0).then_some(1),
            base: number(random),
            is_down: random.below(2) == 0,
            from: number(random),
            value: word(random).into(),
        }
        .into(),
        39 => {
            TierEdit::SetRecipe { recipe: kachel_tiers::RECIPES[random.below(kachel_tiers::RECIPES.len())].kind }.into()
        }
        40 => TierEdit::PaintPatches {
            paints: vec![PatchFilament {
                spot: Spot::new(at(random), true),
                filament: (random.below(3) > 0).then(|| "cobalt".into()),
            }],
        }
        .into(),
        41 => TierEdit::SetFilament { key: "wall".into(), filament: Some("soot".into()) }.into(),
        42 => TierEdit::AddTier { tier: own_tier(random) }.into(),
        43 => TierEdit::SetTierLength { id: 1, name: "to".into(), value: word(random).into() }.into(),
        44 => TierEdit::SetBars {
            bars: (random.below(2) == 0).then(|| vec![kachel_tiers::Bar { from: at(random), to: at(random) }]),
        }
        .into(),
        _ => TierEdit::SetMeasure { name: names[random.below(names.len())].into(), value: word(random).into() }.into(),
    }
}

/// An own tier on the edge, with any numbers.
fn own_tier(random: &mut Random) -> kachel_tiers::OwnTier {
    use kachel_tiers::{EdgesOf, Finish, FinishShape, Way};
    let finish = Finish {
        shape: [FinishShape::Square, FinishShape::Taper, FinishShape::Round][random.below(3)],
        way: [Way::Inward, Way::Outward][random.below(2)],
        edges: [EdgesOf::Both, EdgesOf::Outer, EdgesOf::Inner][random.below(3)],
        inset: random.between(0.0, 3.0),
        depth: random.between(0.0, 3.0),
    };
    kachel_tiers::OwnTier {
        id: 0,
        name: "Own".into(),
        footprint: kachel_tiers::Footprint::Edge,
        grow: random.between(-4.0, 4.0),
        rim: (random.below(2) == 0).then_some(2.0),
        from: random.between(-1.0, 6.0),
        to: random.between(0.0, 9.0),
        is_cut: random.below(3) == 0,
        top: finish,
        bottom: Finish::default(),
        is_on: true,
    }
}

#[test]
fn a_change_that_has_lost_its_patches_takes_others_or_goes() {
    let mut design = Design::sample("ladybird");
    let spots: Vec<Spot> = design.run().patches.iter().filter(|p| p.is_ink).map(Spot::of).collect();
    let gone = Spot::new(Point::new(1.0, 1.0), true);
    let grow = |on: Vec<Spot>| Change::Grow { on, by: 0.3, corner: kachel_geom::Corner::Round };
    let add = |change: Change| OutlineEdit::AddChange { change, before: None }.into();
    design.edit(&[add(grow(vec![spots[1], gone])), add(Change::Join { on: vec![spots[1], gone] })]).unwrap();
    let lost = |design: &Design| -> Vec<(u32, usize)> {
        design.view().outline.unwrap().astray.iter().map(|a| (a.id, a.lost.len())).collect()
    };
    assert_eq!(lost(&design), [(1, 1), (2, 1)]);
    let found = design.view().findings;
    assert_eq!(found.iter().filter(|f| f.code == "lost-change").count(), 2);
    // Joining needs two: doing without the lost one is refused, another one taken.
    let refused = design.edit(&[OutlineEdit::RepointChange { id: 2, to: vec![] }.into()]).unwrap_err();
    assert!(refused.to_string().contains("2 or more"), "{refused}");
    design.edit(&[OutlineEdit::RepointChange { id: 2, to: vec![spots[2]] }.into()]).unwrap();
    design.edit(&[OutlineEdit::RepointChange { id: 1, to: vec![] }.into()]).unwrap();
    assert_eq!(lost(&design), []);
    assert_eq!(design.document.changes[0].change.spots(), [spots[1]]);
    // Nothing left to work on: the entry goes. Its name is not given again while something refers to it.
    design
        .edit(&[add(Change::Shape {
            shape: kachel_outline::Shape::Ellipse { width: 9.0, height: 9.0 },
            at: [40.0, 40.0].into(),
            degrees: 0.0,
            use_: Use::Detail,
        })])
        .unwrap();
    let disc = design.run().patches.iter().map(Spot::of).find(|s| s.made_by() == Some(3)).unwrap();
    design.edit(&[add(grow(vec![disc])), OutlineEdit::RemoveChange { id: 3 }.into()]).unwrap();
    assert_eq!(lost(&design), [(4, 1)]);
    design.edit(&[OutlineEdit::RepointChange { id: 4, to: vec![] }.into()]).unwrap();
    assert_eq!(design.document.changes.iter().map(|c| c.id).collect::<Vec<_>>(), [1, 2]);
    let choice = Choice { spot: disc, use_: Use::Aside };
    design.edit(&[OutlineEdit::SetUses { choices: vec![choice] }.into(), add(grow(vec![spots[1]]))]).unwrap();
    assert_eq!(design.document.changes[2].id, 4, "3 is still told of by the choice");
}

#[test]
fn five_hundred_patches_are_painted_and_used() {
    let spots: String =
        (0..500).map(|k| format!("<circle cx='{}' cy='{}' r='6'/>", 30 + 20 * (k % 25), 30 + 20 * (k / 25))).collect();
    let svg = format!(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 560 460'><path fill-rule='evenodd' d='M0 0H560V460H0ZM8 8V452H552V8Z'/>{spots}</svg>"
    );
    let mut design = Design::from_bytes(svg.as_bytes());
    design
        .edit(&[
            TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(),
            measure("form", "square"),
            measure("relief", "raised"),
        ])
        .unwrap();
    let patches: Vec<Spot> = design.run().patches.iter().filter(|p| p.is_ink && p.depth > 0).map(Spot::of).collect();
    assert_eq!(patches.len(), 500);
    let paints: Vec<PatchFilament> =
        patches.iter().step_by(2).map(|s| PatchFilament { spot: *s, filament: Some("cobalt".into()) }).collect();
    design.edit(&[TierEdit::PaintPatches { paints: paints.clone() }.into()]).unwrap();
    let solid = design.view().solid.unwrap();
    assert_eq!(solid.parts.len(), 2);
    // Painted again, each replaces its own; and all are taken off by painting with none.
    design.edit(&[TierEdit::PaintPatches { paints: paints.clone() }.into()]).unwrap();
    assert_eq!(design.document.paints.len(), 250);
    let none = paints.into_iter().map(|p| PatchFilament { filament: None, ..p }).collect();
    design.edit(&[TierEdit::PaintPatches { paints: none }.into()]).unwrap();
    assert_eq!((design.document.paints.len(), design.view().solid.unwrap().parts.len()), (0, 1));
    // One choice for all of them; the frame round them is drawn on the plate as they were.
    let choices = patches.iter().map(|s| Choice { spot: *s, use_: Use::Aside }).collect();
    design.edit(&[OutlineEdit::SetUses { choices }.into()]).unwrap();
    assert_eq!(design.run().outline.unwrap().details.len(), 1);
}

#[test]
fn a_design_from_elsewhere_is_held_to_what_edits_may_do() {
    let design = Design::sample("ginkgo");
    let with = |change: &dyn Fn(&mut Document)| {
        let mut d = design.document.clone();
        change(&mut d);
        d.refusal().map(|why| why.to_string())
    };
    assert_eq!(with(&|_| {}), None);
    let bar = kachel_tiers::Bar { from: [0.0, 0.0].into(), to: [f64::NAN, 0.0].into() };
    let tier = kachel_tiers::OwnTier { id: 1, to: f64::INFINITY, ..own_tier(&mut Random::new(3)) };
    let grow =
        Change::Grow { on: vec![Spot::new(Point::new(1.0, 1.0), true)], by: 1e9, corner: kachel_geom::Corner::Round };
    for (why, found) in [
        ("tie bars", with(&|d| d.bars = Some(vec![kachel_tiers::Bar { to: [1.0, 1.0].into(), ..bar }; 501]))),
        ("near the picture", with(&|d| d.bars = Some(vec![bar]))),
        ("own tiers", with(&|d| d.tiers = vec![tier.clone(); 61])),
        ("", with(&|d| d.tiers = vec![tier.clone()])),
        ("pins", with(&|d| d.pins = vec![Spot::new(Point::new(1.0, 1.0), true); 5_001])),
        ("guides", with(&|d| d.guides = vec![Guide { is_upright: true, at: 1.0 }; 101])),
        ("near the picture", with(&|d| d.pins = vec![Spot::new(Point::new(f64::NAN, 1.0), true)])),
        (
            "Lengths",
            with(&|d| {
                d.changes = vec![kachel_outline::Entry { id: 1, is_on: true, change: grow.clone() }];
            }),
        ),
        ("name", with(&|d| d.name = "x".repeat(500))),
    ] {
        assert!(found.as_ref().is_some_and(|f| f.contains(why)), "{why}: {found:?}");
    }
}

#[test]
fn random_edits_never_crash_and_always_leave_a_document_that_reads_back() {
    for_all(8, |random| {
        let mut design = Design::sample(["ladybird", "ginkgo", "beetroot"][random.below(3)]);
        let (mut accepted, mut refused) = (0, 0);
        for _ in 0..25 {
            let before = design.document.clone();
            let edit = any_edit(random);
            match design.edit(std::slice::from_ref(&edit)) {
                Ok(()) => accepted += 1,
                Err(e) => {
                    refused += 1;
                    assert_eq!(design.document, before, "a refused edit changed something: {edit:?}, {e}");
                    assert!(!e.to_string().is_empty());
                }
            }
            let read =
                Document::from_json(&design.document.to_json().unwrap()).unwrap_or_else(|e| panic!("{edit:?}: {e}"));
            assert_eq!(read, design.document);
            let view = design.view();
            assert!(view.solid.is_some() || view.problem.is_some(), "{edit:?}");
            if let Some(solid) = view.solid {
                assert!(solid.volume > 0.0 && solid.size.iter().all(|s| *s > 0.0), "{edit:?}");
            }
        }
        assert!(accepted > 0 && refused > 0);
    });
}

#[test]
fn edits_together_are_all_or_none() {
    let mut design = Design::sample("ginkgo");
    let before = design.document.clone();
    assert!(design.edit(&[measure("wall-height", "20"), measure("wall-height", "abc")]).is_err());
    assert_eq!(design.document, before);
}

#[test]
fn every_edit_says_what_undo_takes_back() {
    let mut random = Random::new(3);
    for _ in 0..200 {
        let edit = any_edit(&mut random);
        assert!(edit.label().is_known(), "{edit:?}");
        let json = serde_json::to_string(&edit).unwrap();
        assert!(json.starts_with("{\"kind\":\""), "{json}");
    }
}

#[test]
fn the_view_of_a_mirrored_tool_and_of_the_picture_agree() {
    let design = Design::sample("hedgehog");
    let view = design.view();
    assert!(view.is_mirrored);
    // The snout is on the right of the picture, so on the left of the tool: its wall is nearest the origin's far side.
    let outline = view.outline.unwrap();
    let xs = || view.section.iter().flat_map(|c| &c.corners).map(|c| c[0]);
    let (section_left, section_right) = (xs().fold(f64::INFINITY, f64::min), xs().fold(f64::NEG_INFINITY, f64::max));
    assert!(section_left > -outline.width && section_right < outline.width);
    let run = design.run();
    let (cookie, tool) = (&run.outline.unwrap().edge, &run.stack.unwrap().edge);
    assert_eq!(cookie.mirrored(), **tool, "without a margin the tool's edge is the mirror image, node by node");
}

#[test]
fn thumbnails_show_the_tool_or_at_least_the_ink() {
    let mut design = Design::sample("ladybird");
    let svg = thumbnail(&design.run()).unwrap();
    assert_eq!(svg.matches("<path").count(), 4, "flange, wall, stamp lines and their bars");
    for p in design.run().patches.iter().filter(|p| p.is_ink) {
        let aside = Choice { spot: Spot::new(Point::new(p.anchor.x, p.anchor.y), true), use_: Use::Aside };
        design.edit(&[OutlineEdit::SetUses { choices: vec![aside] }.into()]).unwrap();
    }
    assert!(thumbnail(&design.run()).unwrap().contains("evenodd"));
}

#[test]
fn every_recipe_of_every_sample_is_sound_and_a_silhouette_raises_no_finding() {
    for sample in SAMPLES.iter().filter(|s| s.kind != "photo") {
        let mut design = Design::sample(sample.id);
        for recipe in kachel_tiers::RECIPES.iter().filter(|r| r.kind != RecipeKind::FreeStack) {
            let box_px = design.run().outline.unwrap().edge_px;
            let axis = if box_px.width() > box_px.height() { Axis::Width } else { Axis::Height };
            let size = GeneralEdit::SetSize { axis, value: recipe.usual_size.into(), of: SizeOf::Drawing }.into();
            design.edit(&[TierEdit::SetRecipe { recipe: recipe.kind }.into(), size]).unwrap();
            let view = design.view();
            assert!(view.problem.is_none(), "{} of {}: {:?}", recipe.name, sample.id, view.problem);
            assert!(view.solid.is_some());
            let told = view.findings.iter().filter(|f| f.weight != "note");
            let advice: Vec<_> = told.map(|f| (f.code, &f.what)).collect();
            // Fine feet and feelers are thinner than twice a softened edge: that is said, and is no fault of the defaults.
            let is_clean = advice.iter().all(|(code, _)| *code == "finish-too-wide");
            assert!(is_clean || sample.kind != "silhouette", "{} of {}: {advice:?}", recipe.name, sample.id);
        }
    }
}

#[test]
fn heights_are_typed_from_the_bed_or_above_what_is_below() {
    let mut design = Design::sample("ladybird");
    let handle = |design: &Design, key: &str, moves: kachel_tiers::Moves| {
        let view = design.view();
        let tier = view.tiers.iter().find(|t| t.role == key).unwrap();
        (tier.top, tier.handles.iter().find(|h| h.moves == moves).unwrap().clone())
    };
    let mut put = |key: &str, from: f64, value: &str, want: f64| {
        let (_, h) = handle(&design, key, kachel_tiers::Moves::Top);
        let edit = TierEdit::SetHeight {
            name: h.name.clone(),
            own: h.own,
            base: h.base,
            is_down: h.is_down,
            from,
            value: value.into(),
        }
        .into();
        design.edit(&[edit]).unwrap();
        let (top, _) = handle(&design, key, kachel_tiers::Moves::Top);
        assert!((top - want).abs() < 1e-4, "{key} at {value} above {from}: {top}");
    };
    put("wall", 0.0, "12.25", 12.25);
    put("wall", 2.0, "1/2 in", 14.7);
    // The height of stamp lines is given as a distance below the wall's top.
    put("stamp", 0.0, "9 mm", 9.0);
    put("stamp", 2.0, "6", 8.0);
    let (_, h) = handle(&design, "wall", kachel_tiers::Moves::Top);
    let bad = |value: &str, from: f64| {
        let edit = TierEdit::SetHeight {
            name: h.name.clone(),
            own: None,
            base: 0.0,
            is_down: false,
            from,
            value: value.into(),
        }
        .into();
        design.clone().edit(&[edit]).unwrap_err().to_string()
    };
    assert!(bad("900", 0.0).contains("60"), "{}", bad("900", 0.0));
    assert!(bad("12", f64::NAN).contains("height"), "{}", bad("12", f64::NAN));
    assert!(bad("tall", 0.0).contains("tall"));
}

#[test]
fn a_size_that_nobody_chose_becomes_what_the_new_recipe_proposes() {
    let longest = |design: &Design| {
        let o = design.run().outline.unwrap();
        o.edge_px.width().max(o.edge_px.height()) * o.mm_per_px
    };
    let across = |design: &Design| {
        let o = design.run().outline.unwrap();
        let used = o.patches.iter().filter(|p| p.use_ != Use::Aside);
        let nodes: Vec<_> = used.flat_map(|p| p.rings[0].0.clone()).collect();
        2.0 * kachel_geom::Circle::round(&nodes).unwrap().radius * o.mm_per_px
    };
    let mut design = Design::sample("snail");
    for recipe in kachel_tiers::RECIPES {
        design.edit(&[TierEdit::SetRecipe { recipe: recipe.kind }.into()]).unwrap();
        let (is, usual) = match recipe.kind.usual(&design.document.measures().unwrap()) {
            Usual::Longest(mm) => (longest(&design), mm),
            Usual::Across(mm) => (across(&design), mm),
        };
        assert!((is - usual).abs() < 1e-6, "{}: {is} for {usual}", recipe.name);
    }
    // Whatever becomes of the picture on the way.
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Ornament }.into()]).unwrap();
    design.edit(&[PictureEdit::SetThreshold { threshold: Some(60) }.into()]).unwrap();
    assert!((longest(&design) - RecipeKind::Ornament.recipe().usual_size).abs() < 1e-6);
    // Chosen once, it stays.
    design.edit(&[width("33 mm")]).unwrap();
    let chosen = longest(&design);
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Token }.into()]).unwrap();
    assert!((longest(&design) - chosen).abs() < 1e-9);
}

#[test]
fn a_change_of_recipe_keeps_the_rest_and_brings_measures_back() {
    let mut design = Design::sample("ginkgo");
    design.edit(&[width("60 mm"), measure("wall-height", "20"), measure("margin", "1")]).unwrap();
    let size = design.document.size;
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Cutter }.into()]).unwrap();
    assert_eq!(design.document.measures["wall-height"], 20.0, "the same wall goes along");
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(), measure("thickness", "4")]).unwrap();
    assert_eq!((design.document.size, design.document.measures.len()), (size, 1));
    design.edit(&[measure("form", "hexagon"), measure("relief", "Raised")]).unwrap();
    assert!(design.edit(&[measure("form", "blob")]).unwrap_err().to_string().contains("disc, square, hexagon"));
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::CutterStamp }.into()]).unwrap();
    assert_eq!(design.document.measures["wall-height"], 20.0);
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into()]).unwrap();
    assert_eq!(design.document.measures["form"], 2.0);
}

#[test]
fn filaments_make_parts_with_names_and_a_gone_one_is_found_and_dropped() {
    let mut design = Design::sample("ladybird");
    let fill = |key: &str, f: &str| TierEdit::SetFilament { key: key.into(), filament: Some(f.into()) }.into();
    design
        .edit(&[
            TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(),
            measure("relief", "inlaid"),
            fill("details", "soot"),
        ])
        .unwrap();
    let solid = design.view().solid.unwrap();
    let named: Vec<&str> = solid.parts.iter().map(|p| p.filament.as_str()).collect();
    assert_eq!(named, ["Celadon", "Soot"]);
    assert!(solid.changes.is_none() && design.view().findings.iter().any(|f| f.code == "colours-in-one-layer"));
    design.edit(&[measure("relief", "raised")]).unwrap();
    let changes = design.view().solid.unwrap().changes.unwrap();
    assert_eq!(
        changes.iter().map(|c| (c.layer, c.filament.as_str())).collect::<Vec<_>>(),
        [(1, "Celadon"), (26, "Soot")]
    );
    design.edit(&[fill("details", "gone")]).unwrap();
    let lost = design.view().findings.into_iter().find(|f| f.code == "filament-gone").unwrap();
    design.edit(&lost.mends[0].edits).unwrap();
    assert!(design.document.filaments.is_empty());
    // A patch of its own filament.
    let patch = design.run().patches.iter().position(|p| p.use_ == Use::Detail).unwrap();
    let at = design.run().patches[patch].anchor;
    let paint = PatchFilament { spot: Spot::new(Point::new(at.x, at.y), true), filament: Some("oxblood".into()) };
    design.edit(&[TierEdit::PaintPatches { paints: vec![paint] }.into()]).unwrap();
    let view = design.view();
    assert_eq!(view.patches[patch].filament.as_deref(), Some("oxblood"));
    assert_eq!(
        view.solid.unwrap().parts.iter().map(|p| p.filament.as_str()).collect::<Vec<_>>(),
        ["Celadon", "Oxblood"]
    );
}

#[test]
fn own_tiers_and_bars_are_edits_with_typed_lengths() {
    let mut design = Design::sample("ladybird");
    let tier = OwnTier {
        id: 99,
        name: "Rib".into(),
        footprint: Footprint::Edge,
        grow: -4.0,
        rim: Some(2.0),
        from: 0.0,
        to: 3.0,
        is_cut: false,
        top: Finish::default(),
        bottom: Finish::default(),
        is_on: true,
    };
    design.edit(&[TierEdit::AddTier { tier: tier.clone() }.into()]).unwrap();
    assert_eq!(design.document.tiers[0].id, 1);
    let typed =
        |name: &str, value: &str| TierEdit::SetTierLength { id: 1, name: name.into(), value: value.into() }.into();
    design.edit(&[typed("to", "1/4 in")]).unwrap();
    assert!((design.document.tiers[0].to - 6.35).abs() < 1e-12);
    assert!(design.edit(&[typed("to", "-3")]).is_err() && design.edit(&[typed("elsewhere", "3")]).is_err());
    assert!(design.view().tiers.iter().any(|t| t.key == "own-1" && t.name == "Rib"));
    design.edit(&[TierEdit::AddTier { tier }.into(), TierEdit::OrderTier { id: 2, to: 0 }.into()]).unwrap();
    assert_eq!(design.document.tiers.iter().map(|t| t.id).collect::<Vec<_>>(), [2, 1]);
    design.edit(&[TierEdit::RemoveTier { id: 2 }.into()]).unwrap();
    assert!(matches!(design.edit(&[TierEdit::RemoveTier { id: 2 }.into()]), Err(EditError::UnknownTier)));
    let mut bars = design.view().bars;
    assert_eq!(bars.len(), 6);
    bars.pop();
    design.edit(&[TierEdit::SetBars { bars: Some(bars) }.into()]).unwrap();
    let loose = design.view();
    assert_eq!(weighty(&loose), ["loose-part"]);
    design.edit(&loose.findings[0].mends[0].edits).unwrap();
    assert!(weighty(&design.view()).is_empty() && design.document.bars.is_none());
}

#[test]
fn a_3mf_of_ours_opens_as_the_design_it_was_made_from() {
    let mut design = Design::sample("snail");
    design.edit(&[TierEdit::SetRecipe { recipe: RecipeKind::Ornament }.into()]).unwrap();
    let bytes = design.file(ExportFormat::ThreeMf);
    let (document, picture) = crate::import_design(&bytes).unwrap().unwrap();
    assert!(document == design.document && picture == design.bytes);
    let another =
        kachel_exchange::DesignInside { document: design.document.to_json().unwrap(), picture: b"other".to_vec() };
    let forged = kachel_exchange::write_threemf(&[], &Default::default(), None, Some(&another)).unwrap();
    assert!(matches!(crate::import_design(&forged), Err(crate::ImportError::OtherPicture)));
    let none = kachel_exchange::write_threemf(&[], &Default::default(), None, None).unwrap();
    assert!(crate::import_design(&none).unwrap().is_none());
}
