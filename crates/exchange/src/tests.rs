use super::*;
use kachel_geom::{Grid, Mm, Point, Px, Region, Ring, Watch};
use kachel_oracle::for_all;
use kachel_solid::{Sheets, arrange, extrude};
use kachel_tiers::{Op, Plans, Role, Stack, Tier, slice};
use std::io::{Cursor, Read, Write};

fn square(half: f64) -> Region {
    let ring: Ring<Mm> = Ring(
        [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Point::new(x * half, y * half)).to_vec(),
    );
    Region::from_mm([&ring]).unwrap()
}

/// A plate of 40.1 mm with an inlay, as two parts.
fn two_parts() -> Vec<NamedMesh> {
    let tier = |half, z0, z1, part| {
        let heights = (Grid::from_mm(z0).unwrap(), Grid::from_mm(z1).unwrap());
        Tier::upright(Role::Wall, square(half), heights, Op::Add, part)
    };
    let tiers = vec![tier(20.05, 0.0, 3.3, 0), tier(7.77, 1.1, 3.3, 1)];
    let stack = Stack { tiers, ..Stack::default() };
    let watch = Watch::default();
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    let solid = extrude(&arrange(&slices, &Sheets::default(), &watch).unwrap(), &stack, &slices, &watch).unwrap();
    let name = |n: u32| format!("Part <{n}> & \"more\"");
    let colours = [[0xa9, 0xcb, 0xb0], [0x7a, 0x22, 0x26]];
    let material = |n: u32| Some(Material { name: format!("Spool {n}"), colour: colours[n as usize] });
    let named = |p: kachel_solid::Part| NamedMesh { name: name(p.number), material: material(p.number), mesh: p.mesh };
    solid.parts.into_iter().map(named).collect()
}

fn credit() -> Credit {
    Credit {
        title: "Käfer & Co".into(),
        designer: "Someone".into(),
        source: "A barn door".into(),
        licence: "CC0-1.0".into(),
        note: "asked <on> Monday".into(),
        created: Some("2026-11-25T10:00:00Z".into()),
    }
}

#[test]
fn binary_stl_is_lossless_and_an_outside_reader_finds_it_closed() {
    let part = &two_parts()[0];
    let bytes = write_stl_binary(&part.mesh, "solid Käfer").unwrap();
    assert_eq!(bytes.len(), 84 + 50 * part.mesh.mesh().triangles.len());
    assert!(!bytes.starts_with(b"solid"));
    // stl_io is the outside reader: it checks for holes, flat triangles and directions.
    let outside = stl_io::read_stl(&mut Cursor::new(&bytes)).unwrap();
    outside.validate().unwrap();
    assert_eq!(outside.vertices.len(), part.mesh.mesh().vertices.len());
    let ours = SoundMesh::prove(read_stl(&bytes).unwrap()).unwrap();
    assert_eq!(ours.mesh().volume(), part.mesh.mesh().volume());
}

#[test]
fn text_stl_says_the_same() {
    let part = &two_parts()[1];
    let text = write_stl_text(&part.mesh, "inlay");
    let outside = stl_io::read_stl(&mut Cursor::new(&text)).unwrap();
    outside.validate().unwrap();
    let ours = read_stl(&text).unwrap();
    assert_eq!(ours.volume(), part.mesh.mesh().volume());
    assert_eq!(ours.triangles.len(), part.mesh.mesh().triangles.len());
}

#[test]
fn a_threemf_of_two_parts_is_one_item_and_an_outside_reader_agrees() {
    let parts = two_parts();
    let bytes = write_threemf(&parts, &credit(), None, None).unwrap();
    let outside = ::threemf::read(Cursor::new(&bytes)).unwrap();
    assert_eq!(outside.len(), 1);
    let model = &outside[0];
    assert_eq!((model.resources.object.len(), model.build.item.len()), (3, 1));
    assert_eq!(model.build.item[0].objectid, 3);
    let meta: Vec<(String, Option<String>)> =
        model.metadata.iter().map(|m| (format!("{:?}", m.name), m.value.clone())).collect();
    assert!(meta.iter().any(|(n, v)| n.contains("Title") && v.as_deref() == Some("Käfer & Co")), "{meta:?}");
    let read = read_threemf(&bytes).unwrap();
    for (r, p) in read.iter().zip(&parts) {
        assert_eq!(r.name, p.name);
        assert_eq!(r.mesh.volume(), p.mesh.mesh().volume());
        assert!(r.mesh.extent().0.iter().all(|v| *v >= 0.0), "in the positive octant");
        SoundMesh::prove(r.mesh.clone()).unwrap();
    }
}

#[test]
fn two_exports_are_equal_byte_for_byte() {
    let parts = two_parts();
    assert_eq!(
        write_threemf(&parts, &credit(), None, None).unwrap(),
        write_threemf(&parts, &credit(), None, None).unwrap()
    );
    let plain = write_threemf(&parts[..1], &Credit::default(), None, None).unwrap();
    let mut zip = zip::ZipArchive::new(Cursor::new(plain)).unwrap();
    let mut text = String::new();
    zip.by_name("3D/3dmodel.model").unwrap().read_to_string(&mut text).unwrap();
    assert!(!text.contains("CreationDate") && !text.contains("Designer") && !text.contains("component"));
}

fn package(model: &str) -> Vec<u8> {
    let mut zip = zip::ZipWriter::new(Cursor::new(Vec::new()));
    zip.start_file("3D/3dmodel.model", zip::write::SimpleFileOptions::DEFAULT).unwrap();
    zip.write_all(model.as_bytes()).unwrap();
    zip.finish().unwrap().into_inner()
}

#[test]
fn units_and_nested_transforms_are_followed() {
    let model = r#"<model unit="inch" xmlns="x"><resources>
      <object id="1"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/></vertices>
      <triangles><triangle v1="0" v2="1" v3="2"/></triangles></mesh></object>
      <object id="2"><components><component objectid="1" transform="0 1 0 -1 0 0 0 0 1 2 0 0"/></components></object></resources>
      <build><item objectid="2" transform="1 0 0 0 1 0 0 0 1 0 0 3"/></build></model>"#;
    let read = read_threemf(&package(model)).unwrap();
    assert_eq!(
        read[0].mesh.extent(),
        (
            [25.4, 0.0, 76.2].map(|v: f64| (v * 16384.0).round() / 16384.0),
            [50.8, 25.4, 76.2].map(|v: f64| (v * 16384.0).round() / 16384.0)
        )
    );
}

#[test]
fn components_are_counted_as_they_are_met() {
    // Eight levels of 40 components each and nothing in them: 40^8 visits, were they not counted.
    let level = |n: usize, inner: usize| {
        let all = format!("<component objectid=\"{inner}\"/>").repeat(40);
        format!("<object id=\"{n}\"><components>{all}</components></object>")
    };
    let empty = r#"<object id="1"><mesh><vertices/><triangles/></mesh></object>"#;
    let levels: String = (2..9).map(|n| level(n, n - 1)).collect();
    let model = format!("<model><resources>{empty}{levels}</resources><build><item objectid=\"8\"/></build></model>");
    assert!(matches!(read_threemf(&package(&model)), Err(ExchangeError::Damaged { .. })));
    // One mesh that stands for more triangles than are read.
    let one = r#"<object id="1"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/></vertices><triangles>"#;
    let mesh = format!("{one}{}</triangles></mesh></object>", r#"<triangle v1="0" v2="1" v3="2"/>"#.repeat(2000));
    let model = format!(
        "<model><resources>{mesh}{}{}</resources><build><item objectid=\"3\"/></build></model>",
        level(2, 1),
        level(3, 2)
    );
    // 1600 times 2000 is allowed, 64 000 times is not.
    assert_eq!(read_threemf(&package(&model)).unwrap().len(), 1600);
    let model = model
        .replace("</resources>", &format!("{}</resources>", level(4, 3)))
        .replace("item objectid=\"3\"", "item objectid=\"4\"");
    assert!(matches!(read_threemf(&package(&model)), Err(ExchangeError::Damaged { .. })));
}

#[test]
fn damaged_files_are_told_and_do_no_harm() {
    let good = write_stl_binary(&two_parts()[0].mesh, "x").unwrap();
    for bytes in [
        &good[..50],
        &good[..good.len() - 1],
        b"solid x\n vertex 1 2\n",
        b"solid x\nfacet\n",
        b"",
        b"solid\nvertex a b c",
    ] {
        assert!(matches!(read_stl(bytes), Err(ExchangeError::Damaged { .. })), "{bytes:?}");
    }
    let far = "solid x\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 5000 0\nendloop\nendsolid";
    assert!(matches!(read_stl(far.as_bytes()), Err(ExchangeError::OffGrid { mm: 5000.0 })));
    let zipped = write_threemf(&two_parts(), &credit(), None, None).unwrap();
    let loops = package(
        r#"<model><resources><object id="1"><components><component objectid="1"/></components></object></resources><build><item objectid="1"/></build></model>"#,
    );
    let index = package(
        r#"<model><resources><object id="1"><mesh><triangles><triangle v1="0" v2="1" v3="2"/></triangles></mesh></object></resources><build><item objectid="1"/></build></model>"#,
    );
    for bytes in [
        &zipped[..100],
        &zipped[..zipped.len() - 30],
        b"PK",
        &loops,
        &index,
        &package("<model"),
        &package("<object id='x'/>"),
    ] {
        assert!(matches!(read_threemf(bytes), Err(ExchangeError::Damaged { .. })));
    }
}

#[test]
fn contours_become_paths_with_their_gaps() {
    let ring = |half: f64| {
        Ring::<Px>(vec![Point::new(5.0 - half, 5.0), Point::new(5.0, 5.0 + half), Point::new(5.0 + half, 5.12349)])
    };
    let curves = [ring(5.0), ring(1.0)].map(|r| kachel_geom::Curve::from_ring(&r));
    let groups = [SvgGroup {
        name: "navy".into(),
        fill: [16, 32, 255],
        patches: vec![SvgPatch { group: Some("spots & all"), curves: &curves }],
    }];
    let svg = write_svg([1.0, 2.0, 10.0, 10.0], "", &Credit { title: "<a>".into(), ..credit() }, &groups);
    assert!(svg.contains("viewBox=\"1 2 10 10\"") && svg.contains("<title>&lt;a&gt;</title>"));
    assert!(
        svg.contains("<g id=\"navy\" fill=\"#1020ff\"") && svg.contains("<dcterms:license>CC0-1.0</dcterms:license>")
    );
    assert!(svg.contains("<dcterms:rights>asked &lt;on&gt; Monday</dcterms:rights>"));
    assert!(svg.contains("d=\"M0 5L5 10L10 5.123ZM4 5L5 6L6 5.123Z\""), "{svg}");
}

#[test]
fn spoilt_files_never_crash_a_reader() {
    let parts = two_parts();
    let stl = write_stl_binary(&parts[0].mesh, "x").unwrap();
    let text = write_stl_text(&parts[0].mesh, "x");
    let pack = write_threemf(&parts, &credit(), None, None).unwrap();
    for_all(300, |random| {
        for whole in [&stl, &text, &pack] {
            let mut spoilt = whole.clone();
            for _ in 0..=random.below(6) {
                let at = random.below(spoilt.len());
                if random.below(5) == 0 { spoilt.truncate(at + 1) } else { spoilt[at] = random.bits() as u8 }
            }
            if let Ok(mesh) = read_stl(&spoilt) {
                let _ = SoundMesh::prove(mesh);
            }
            for part in read_threemf(&spoilt).unwrap_or_default() {
                let _ = SoundMesh::prove(part.mesh);
            }
        }
    });
}

#[test]
fn a_count_that_lies_does_not_cost_memory() {
    let mut lying = vec![b' '; 84];
    lying[80..84].copy_from_slice(&u32::MAX.to_le_bytes());
    assert!(matches!(read_stl(&lying), Err(ExchangeError::Damaged { .. })));
}

#[test]
fn a_package_has_materials_a_thumbnail_and_the_design_inside() {
    let design = DesignInside { document: "{\"version\":5}".into(), picture: vec![1, 2, 3, 250] };
    let bytes = write_threemf(&two_parts(), &credit(), Some(b"\x89PNG"), Some(&design)).unwrap();
    let mut zip = zip::ZipArchive::new(Cursor::new(&bytes)).unwrap();
    let mut text = |name: &str| {
        let mut s = Vec::new();
        zip.by_name(name).unwrap().read_to_end(&mut s).unwrap();
        String::from_utf8_lossy(&s).into_owned()
    };
    // 3MF Core Specification 1.3.0, section 5.1 (from memory): base materials with an sRGB display colour, named by objects
    // through pid and pindex.
    let model = text("3D/3dmodel.model");
    assert!(model.contains("<base name=\"Spool 0\" displaycolor=\"#A9CBB0\"/>"), "{}", &model[..1200]);
    assert!(model.contains("pid=\"4\" pindex=\"0\"") && model.contains("pid=\"4\" pindex=\"1\""));
    // Section 2.1.2: a thumbnail, by a relationship of the package; Open Packaging Conventions part 2 for content types.
    assert!(text("_rels/.rels").contains("relationships/metadata/thumbnail"));
    assert!(text("[Content_Types].xml").contains("Extension=\"png\" ContentType=\"image/png\""));
    assert_eq!(read_design(&bytes).unwrap().unwrap(), design);
    assert_eq!(read_threemf(&bytes).unwrap().len(), 2, "a slicer sees the parts and nothing else");
    // From elsewhere, damaged, not a package at all.
    assert!(read_design(&write_threemf(&two_parts(), &credit(), None, None).unwrap()).unwrap().is_none());
    assert!(read_design(&bytes[..bytes.len() / 2]).is_err());
    assert!(read_design(b"PK\x03\x04 and then nothing").is_err());
}

#[test]
fn a_bomb_in_a_package_is_refused_before_it_goes_off_and_paths_are_only_names() {
    let zeros = vec![b' '; 40 << 20];
    let bomb = zipped(&[("Kachel/design.json", &zeros), ("Kachel/picture.bin", b"x")]).unwrap();
    assert!(bomb.len() < 100_000, "forty megabytes in a few kilobytes");
    assert!(matches!(read_design(&bomb), Err(ExchangeError::TooLarge { .. })));
    let tricks = zipped(&[("../../Kachel/design.json", b"{}"), ("/etc/passwd", b"x")]).unwrap();
    assert!(read_design(&tricks).unwrap().is_none());
    assert!(read_threemf(&tricks).is_err());
}

#[test]
fn one_stl_a_filament_in_an_archive() {
    let bytes = write_stl_zip(&two_parts()).unwrap();
    let mut zip = zip::ZipArchive::new(Cursor::new(&bytes)).unwrap();
    let names: Vec<String> = zip.file_names().map(|n| n.unwrap().into_owned()).collect();
    assert_eq!(names.len(), 2);
    for name in names {
        assert!(!name.contains(['/', '<', '"']), "{name}");
        let mut stl = Vec::new();
        zip.by_name(&name).unwrap().read_to_end(&mut stl).unwrap();
        assert!(SoundMesh::prove(read_stl(&stl).unwrap()).is_ok());
    }
}
