//! Packages read back by the 3MF Consortium's own library, in its strict mode. The library comes from PyPI into a virtual
//! environment under target/.

use kachel_engine::tiers::RecipeKind;
use kachel_engine::{Engine, ExportFormat, GeneralEdit, Sample, TierEdit, Watch, export};
use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::Command;

/// The version that the test was written against.
const LIB3MF: &str = "lib3mf==2.5.0";

fn python() -> PathBuf {
    let venv = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../target/venv");
    let python = venv.join("bin/python");
    let run = |program: &Path, arguments: &[&str]| {
        let done = Command::new(program).args(arguments).output().expect("Python 3 with venv: run tools/setup.sh test");
        assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    };
    if !venv.join("ready").exists() {
        run(Path::new("python3"), &["-m", "venv", &venv.to_string_lossy()]);
        run(&python, &["-m", "pip", "install", "--quiet", "--disable-pip-version-check", LIB3MF]);
        std::fs::write(venv.join("ready"), LIB3MF).unwrap();
    }
    python
}

#[test]
fn the_consortiums_library_reads_parts_materials_and_credit_without_a_warning() {
    let (engine, watch) = (Engine::default(), Watch::default());
    let sample = Sample::by_id("hedgehog").unwrap();
    let picture = || Ok(sample.bytes.to_vec());
    let new = engine.new_document("Hedgehog & \"friends\"", sample.file_name, sample.bytes, &watch).unwrap();
    let measure = |name: &str, value: &str| TierEdit::SetMeasure { name: name.into(), value: value.into() }.into();
    let edits = [
        GeneralEdit::SetCredit { credit: sample.credit() }.into(),
        TierEdit::SetRecipe { recipe: RecipeKind::Coaster }.into(),
        measure("relief", "inlaid"),
        measure("across", "110 mm"),
        TierEdit::SetFilament { key: "details".into(), filament: Some("oxblood".into()) }.into(),
    ];
    let d = engine.apply(&new, &edits, &picture, &watch).unwrap().unwrap();
    let run = engine.run(&d, &picture, &watch);
    let bytes = export(&d, &run, &picture, ExportFormat::ThreeMf, Some("2026-11-25T10:00:00Z".into())).unwrap();
    let file = Path::new(env!("CARGO_TARGET_TMPDIR")).join("conformance.3mf");
    std::fs::write(&file, bytes).unwrap();
    let script = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/conformance/read_3mf.py");
    let done = Command::new(python()).arg(script).arg(&file).output().unwrap();
    assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    let seen: Value = serde_json::from_slice(&done.stdout).unwrap();
    assert_eq!(seen["warnings"], serde_json::json!([]), "{seen}");
    // 3MF Core Specification 1.3.0 (sections from memory): one build item (3.4.3) of one object of components (4.2), so
    // that slicers keep the parts in place; millimetres (3.4; 1 in the library); base materials (5.1); thumbnail (2.1.2).
    assert_eq!(
        (seen["items"].as_u64(), seen["components"].as_u64(), seen["unit"].as_u64()),
        (Some(1), Some(2), Some(1))
    );
    assert_eq!(seen["materials"], serde_json::json!([["Celadon", [169, 203, 176]], ["Oxblood", [122, 34, 38]]]));
    assert_eq!(seen["thumbnail"], true);
    assert_eq!(seen["metadata"]["Title"], "Hedgehog & \"friends\"");
    let meshes = seen["meshes"].as_array().unwrap();
    let parts = &run.solid.as_ref().unwrap().1.parts;
    assert_eq!(meshes.len(), parts.len());
    for (mesh, part) in meshes.iter().zip(parts) {
        assert_eq!((mesh["closed"].as_bool(), mesh["valid"].as_bool()), (Some(true), Some(true)), "{mesh}");
        assert_eq!(mesh["triangles"].as_u64(), Some(part.mesh.mesh().triangles.len() as u64));
        // The library keeps 32-bit floats, which hold the grid exactly; sums differ by their order.
        let (theirs, ours) = (mesh["volume"].as_f64().unwrap(), part.mesh.mesh().volume());
        assert!((theirs / ours - 1.0).abs() < 1e-6, "{theirs} against {ours}");
    }
}
