use crate::make::read;
use kachel_engine::exchange::{read_stl, read_threemf};
use kachel_engine::solid::{Mesh, SoundMesh};
use kachel_engine::tiers::{MeasureKind, MeasureSpec, RECIPES, Unit};
use std::path::Path;

pub(crate) fn recipes(json: bool) -> Result<(), String> {
    if json {
        let all: Vec<_> = RECIPES
            .iter()
            .map(|r| {
                let measures: Vec<_> = r.all().map(measure).collect();
                let part = |name| r.label().said_part(name, Unit::Mm);
                serde_json::json!({ "name": r.name, "label": r.label().to_string(), "meaning": part("meaning"), "bed": part("bed"),
                    "measures": measures })
            })
            .collect();
        say!("{:#}", serde_json::Value::from(all));
        return Ok(());
    }
    for r in RECIPES {
        say!("{}: {}", r.name, r.label().said_part("meaning", Unit::Mm));
        for m in r.all() {
            let meaning = m.label().said_part("meaning", Unit::Mm);
            match m.kind {
                MeasureKind::Choice(of) => {
                    let names: Vec<&str> = of.iter().map(|o| o.0).collect();
                    say!("  {:18} {}  {}", m.name, names.join(" | "), meaning);
                }
                MeasureKind::Count => {
                    say!("  {:18} {:>5}     ({} to {})  {}", m.name, m.default, m.min, m.max, meaning);
                }
                MeasureKind::Angle => {
                    say!("  {:18} {:>5}°    ({} to {})  {}", m.name, m.default, m.min, m.max, meaning);
                }
                MeasureKind::Length | MeasureKind::Height => {
                    say!("  {:18} {:>5} mm  ({} to {})  {}", m.name, m.default, m.min, m.max, meaning);
                }
            }
        }
    }
    Ok(())
}

fn measure(m: &MeasureSpec) -> serde_json::Value {
    let names = match m.kind {
        MeasureKind::Choice(of) => of.iter().map(|o| o.0).collect(),
        _ => vec![],
    };
    let unit = match m.kind {
        MeasureKind::Length | MeasureKind::Height => "mm",
        MeasureKind::Angle => "°",
        MeasureKind::Count | MeasureKind::Choice(_) => "",
    };
    serde_json::json!({ "name": m.name, "group": m.part().to_string(), "label": m.label().to_string(),
        "meaning": m.label().said_part("meaning", Unit::Mm), "unit": unit,
        "default": m.default, "min": m.min, "max": m.max, "choices": names })
}

pub(crate) fn inspect(file: &Path, json: bool) -> Result<(), String> {
    let bytes = read(file)?;
    let is_zip = bytes.starts_with(b"PK");
    let parts: Vec<(String, Mesh)> = if is_zip {
        read_threemf(&bytes).map_err(|e| e.to_string())?.into_iter().map(|p| (p.name, p.mesh)).collect()
    } else {
        vec![(String::new(), read_stl(&bytes).map_err(|e| e.to_string())?)]
    };
    let mut reports = Vec::new();
    for (name, mesh) in parts {
        let ((min, max), size) = (mesh.extent(), mesh.size());
        let (volume, triangles, bodies) = (mesh.volume(), mesh.triangles.len(), mesh.bodies().len());
        let fault = SoundMesh::prove(mesh).err().map(|(e, _)| e.to_string());
        if !json {
            let sound = fault.as_ref().map_or("sound".into(), |f| format!("not sound: {f}"));
            let label = if name.is_empty() { file.display().to_string() } else { name.clone() };
            say!(
                "{label}: {:.2} x {:.2} x {:.2} mm, {:.2} cm3, {triangles} triangles, {bodies} bodies, {sound}",
                size[0],
                size[1],
                size[2],
                volume / 1000.0
            );
        }
        reports.push(serde_json::json!({ "name": name, "size": size, "min": min, "max": max, "volume": volume,
            "triangles": triangles, "bodies": bodies, "sound": fault.is_none(), "fault": fault }));
    }
    if json {
        let format = if is_zip { "3mf" } else { "stl" };
        say!("{:#}", serde_json::json!({ "format": format, "parts": reports }));
    }
    Ok(())
}
