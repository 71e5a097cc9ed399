//! The program from outside.

use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};
use std::sync::atomic::{AtomicU32, Ordering};

fn scratch(name: &str) -> PathBuf {
    static COUNT: AtomicU32 = AtomicU32::new(0);
    let n = COUNT.fetch_add(1, Ordering::Relaxed);
    let dir = Path::new(env!("CARGO_TARGET_TMPDIR")).join(format!("cli-{}-{n}", std::process::id()));
    std::fs::create_dir_all(&dir).unwrap();
    dir.join(name)
}

fn sample(name: &str) -> String {
    format!("{}/../samples/{name}", env!("CARGO_MANIFEST_DIR"))
}

fn kachel(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_kachel")).args(arguments).env_remove("SOURCE_DATE_EPOCH").output().unwrap()
}

fn json(arguments: &[&str]) -> Value {
    let output = kachel(arguments);
    assert!(output.status.success(), "{arguments:?}: {}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
}

fn refused(arguments: &[&str]) -> String {
    let output = kachel(arguments);
    assert_eq!(output.status.code(), Some(1), "{arguments:?}");
    String::from_utf8(output.stderr).unwrap()
}

#[test]
fn a_reader_that_goes_away_is_no_failure() {
    use std::process::Stdio;
    let mut child = Command::new(env!("CARGO_BIN_EXE_kachel"))
        .args(["recipes", "--json"])
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    drop(child.stdout.take());
    let output = child.wait_with_output().unwrap();
    assert!(output.status.success(), "{:?}", output.status);
    assert_eq!(String::from_utf8(output.stderr).unwrap(), "");
}

#[test]
fn what_make_reports_is_what_inspect_finds() {
    let (stl, pack) = (scratch("a.stl"), scratch("a.3mf"));
    let (stl, pack) = (stl.to_str().unwrap(), pack.to_str().unwrap());
    let picture = sample("hedgehog.svg");
    let set = ["--set", "wall-height=1 in", "--set", "margin=1mm"];
    let made =
        json(&[&["make", &picture, "--recipe", "cutter", "--width", "90mm", "-o", stl, "--json"], &set[..]].concat());
    // The cookie is as wide as was typed, its margin of 1 mm included.
    assert!((made["edge"][0].as_f64().unwrap() - 88.0).abs() < 0.02);
    // Wall 1.6 and flange 3 mm on both sides.
    assert!(
        (made["size"][0].as_f64().unwrap() - 99.2).abs() < 0.03
            && (made["size"][2].as_f64().unwrap() - 25.4).abs() < 1e-4
    );
    assert_eq!(made["findings"], Value::Array(vec![]));
    assert!(made["ms"]["solid"].as_f64().is_some());
    json(&[&["make", &picture, "--recipe", "cutter", "--width", "90mm", "-o", pack, "--json"], &set[..]].concat());
    for file in [stl, pack] {
        let found = json(&["inspect", file, "--json"]);
        let part = &found["parts"][0];
        assert_eq!(part["sound"], true, "{file}");
        assert_eq!(part["volume"], made["volume"], "{file}");
        assert_eq!(part["triangles"], made["triangles"], "{file}");
    }
}

#[test]
fn exports_are_reproducible_and_dated_only_when_asked() {
    let make = |epoch: Option<&str>| {
        let file = scratch("a.3mf");
        let mut command = Command::new(env!("CARGO_BIN_EXE_kachel"));
        command.args(["make", &sample("ginkgo.svg"), "-o", file.to_str().unwrap()]).env_remove("SOURCE_DATE_EPOCH");
        if let Some(e) = epoch {
            command.env("SOURCE_DATE_EPOCH", e);
        }
        let ok = command.output().unwrap().status.success();
        ok.then(|| std::fs::read(file).unwrap())
    };
    assert_eq!(make(None), make(None));
    assert_eq!(make(Some("0")), make(Some("0")));
    assert_ne!(make(None), make(Some("0")));
    assert_eq!(make(Some("yesterday")), None);
}

#[test]
fn traced_svg_keeps_gaps_open() {
    let file = scratch("a.svg");
    let report = json(&["trace", &sample("beetroot.png"), "-o", file.to_str().unwrap(), "--json"]);
    assert_eq!((report["ink_patches"].as_u64(), report["gaps"].as_u64()), (Some(1), Some(6)));
    let svg = std::fs::read_to_string(&file).unwrap();
    assert!(svg.contains("viewBox=\"0 0 830 930\"") && svg.contains("fill-rule=\"evenodd\""));
    // One path with the outer contour and six gaps.
    assert_eq!((svg.matches("<path").count(), svg.matches('M').count()), (1, 7));
    let inverted = json(&["trace", &sample("beetroot.png"), "--invert", "-o", file.to_str().unwrap(), "--json"]);
    assert_eq!(inverted["ink_patches"], 7);
}

#[test]
fn colours_are_groups_with_their_fill_and_the_ground_on_request() {
    let file = scratch("badge.svg");
    let trace = |more: &[&str]| {
        let badge = sample("swap-badge.png");
        let all = [&["trace", &badge, "-o", file.to_str().unwrap(), "--json"], more].concat();
        let report = json(&all);
        (report, std::fs::read_to_string(&file).unwrap())
    };
    let fills = |svg: &str| {
        let mut all: Vec<String> =
            svg.split("<g ").skip(1).map(|g| g.split("fill=\"").nth(1).unwrap()[..7].to_string()).collect();
        all.sort();
        all
    };
    let (report, svg) = trace(&["--ink", "colours=5"]);
    assert_eq!(report["palette"].as_array().unwrap().len(), 5);
    assert_eq!(fills(&svg), ["#20345c", "#549648", "#cd3a62", "#fae8be"]);
    let (_, svg) = trace(&["--ink", "colours", "--ground"]);
    assert_eq!(fills(&svg), ["#20345c", "#549648", "#cd3a62", "#fae8be", "#ffffff"]);
    let (_, svg) = trace(&["--ink", "colours", "--merge", "fae8be=ffffff", "--ground-colour", "20345c"]);
    assert_eq!(fills(&svg), ["#549648", "#cd3a62", "#ffffff"]);
    let (report, svg) = trace(&["--ink", "light-dark", "--threshold", "128", "--bend", "60", "--deviation", "1"]);
    assert_eq!(
        (report["cut"].as_f64(), fills(&svg).len()),
        (Some(127.5), 1),
        "light above the middle between 127 and 128"
    );
}

#[test]
fn pictures_are_prepared_from_the_command_line() {
    let file = scratch("leaf.svg");
    let photo = sample("leaf-photo.jpg");
    let out = file.to_str().unwrap();
    // The sheet's corners as the photo was drawn, and the part of the sheet with the leaf.
    let sheet = ["--sheet", "a4", "--corners", "290,190,1360,120,1510,980,130,1050"];
    let base = ["trace", &photo, "-o", out, "--json", "--level", "--invert=off"];
    let whole = json(&[&base[..], &sheet].concat());
    let frame = whole["picture"].as_array().unwrap();
    assert!(frame[0].as_f64().unwrap() > 1300.0, "{whole}");
    let svg = std::fs::read_to_string(&file).unwrap();
    assert!(svg.contains("viewBox"));
    let part = json(
        &[&base[..], &["--no-sheet", "--crop", "380,330,740,500", "--min-area", "200", "--turn", "2", "--flip"]]
            .concat(),
    );
    assert_eq!(part["ink_patches"], 1, "{part}");
    // Left to itself, the sheet is found, and what lies beside it is cropped away.
    let found = json(&[&base[..], &["--min-area", "200"]].concat());
    assert_eq!(found["ink_patches"], 1, "{found}");
    for (bad, says) in [
        (["--sheet", "a5", "--corners", "1,2,3,4,5,6,7,8"], "a4, letter, card"),
        (["--sheet", "a4", "--corners", "1,2,3"], "8 numbers"),
        (["--sheet", "a4", "--corners", "0,0,9,9,9,0,0,9"], "cross"),
        (["--pick", "red", "--ink", "colours"], "six digits"),
        (["--ink", "colours=99", "--bend", "50"], "12"),
        (["--crop", "9000,0,5,5", "--bend", "50"], "Nothing of the picture"),
    ] {
        let out = kachel(&[&base[..5], &bad].concat());
        let said = String::from_utf8_lossy(&out.stderr).to_string();
        assert!(!out.status.success() && said.contains(says), "{bad:?}: {said}");
    }
}

#[test]
fn pen_lines_are_traced_as_lines_or_with_a_width() {
    let file = scratch("signature.svg");
    let drawing = sample("signature.png");
    let base = ["trace", &drawing, "-o", file.to_str().unwrap(), "--json", "--ink", "pen"];
    let drawn = json(&[&base[..], &["--pen-width", "drawn"]].concat());
    let wide = json(&[&base[..], &["--pen-width", "4mm"]].concat());
    assert!(wide["ink_patches"].as_u64() <= drawn["ink_patches"].as_u64(), "{wide} {drawn}");
    assert!(drawn["nodes"].as_u64().unwrap() > 20);
}

#[test]
fn check_tells_what_weighs_most_by_its_exit_code() {
    let exit = |arguments: &[&str]| kachel(arguments).status.code();
    let hedgehog = sample("hedgehog.svg");
    assert_eq!(exit(&["check", &hedgehog, "--recipe", "coaster"]), Some(0));
    // A line as thin as a hair cannot be cut with: the wall is thicker than the shape.
    let thin = scratch("thin.svg");
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 300 100'><rect x='10' y='40' width='280' height='4'/></svg>";
    std::fs::write(&thin, svg).unwrap();
    let thin = thin.to_string_lossy().into_owned();
    let out = kachel(&["check", &thin, "--recipe", "cutter", "--json"]);
    assert_eq!(out.status.code(), Some(3), "{}", String::from_utf8_lossy(&out.stdout));
    let told: Value = serde_json::from_slice(&out.stdout).unwrap();
    assert_eq!((told["heaviest"].as_str(), told["findings"][0]["weight"].as_str()), (Some("poor"), Some("poor")));
    let place = &told["findings"][0]["places"][0];
    assert!(place["path"].as_str().is_some_and(|p| p.starts_with('M')) && place["heights"].is_array(), "{place}");
    assert!(told["in_use"]["says"].as_str().unwrap().starts_with("One cookie"), "{}", told["in_use"]);
    // A design of Kachel's, with what its maker set: a wall of a third of a millimetre.
    let design = scratch("weak.3mf");
    let design = design.to_string_lossy().into_owned();
    kachel(&["make", &hedgehog, "--recipe", "cutter", "--set", "wall-thickness=0.3mm", "-o", &design]);
    let out = kachel(&["check", &design]);
    assert_eq!(out.status.code(), Some(4));
    assert!(String::from_utf8_lossy(&out.stdout).contains("thin-wall (cannot be printed or used)"));
    // Nothing to make anything of.
    let blank = scratch("blank.svg");
    std::fs::write(&blank, "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'/>").unwrap();
    assert_eq!(exit(&["check", &blank.to_string_lossy()]), Some(4));
    assert_eq!(exit(&["check", "no-such-file.png"]), Some(1));
}

#[test]
fn recipes_are_listed_as_data() {
    let recipes = json(&["recipes", "--json"]);
    assert_eq!(recipes[0]["name"], "cutter");
    let measure =
        |name: &str| recipes[0]["measures"].as_array().unwrap().iter().find(|m| m["name"] == name).unwrap().clone();
    assert_eq!(measure("wall-thickness")["default"], 1.6);
    assert!(String::from_utf8(kachel(&["recipes"]).stdout).unwrap().contains("flange-width"));
}

#[test]
fn refusals_say_what_to_do() {
    let (picture, out) = (sample("ginkgo.svg"), scratch("x.stl"));
    let out = out.to_str().unwrap();
    for width in ["0", "-5", "abc", "NaN", "1e9"] {
        let said = refused(&["make", &picture, "--width", width, "-o", out]);
        assert!(said.contains("1 mm to 1000 mm") || said.contains("is not a"), "{width}: {said}");
    }
    for (arguments, words) in [
        (vec!["make", &picture, "--set", "wall-height=99", "-o", out], "Wall height can be 2 mm to 60 mm"),
        (vec!["make", &picture, "--set", "wall=2", "-o", out], "wall-thickness"),
        (vec!["make", &picture, "--recipe", "teapot", "-o", out], "there are: cutter"),
        (vec!["make", &picture, "-o", "x.obj"], ".stl, .3mf or .zip"),
        (vec!["make", "nothing.png", "-o", out], "cannot be read"),
        (vec!["make", &picture, "-o", "/dev/null/x.stl"], "cannot be written"),
        (vec!["make", &picture, "--threshold", "255", "-o", out], "1 to 254"),
        (vec!["inspect", &picture], "STL"),
    ] {
        let said = refused(&arguments);
        assert!(said.contains(words), "{arguments:?}: {said}");
    }
    assert_eq!(kachel(&["make"]).status.code(), Some(2));
    let blocked = scratch("file");
    std::fs::write(&blocked, b"x").unwrap();
    let said = refused(&["serve", "--listen", "127.0.0.1:0", "--data", blocked.to_str().unwrap()]);
    assert!(said.contains("--data"), "{said}");
}

#[test]
fn a_giant_header_does_not_cost_giant_memory() {
    // 30 000 x 30 000 pixels promised in a file of a hundred bytes.
    let ihdr = [b"IHDR".as_slice(), &30_000u32.to_be_bytes(), &30_000u32.to_be_bytes(), &[8, 0, 0, 0, 0]].concat();
    let crc = !ihdr.iter().fold(!0u32, |crc, &b| {
        (0..8).fold(crc ^ u32::from(b), |c, _| if c & 1 == 1 { 0xedb8_8320 ^ (c >> 1) } else { c >> 1 })
    });
    let file = scratch("giant.png");
    let bytes =
        [b"\x89PNG\r\n\x1a\n\0\0\0\r".as_slice(), &ihdr, &crc.to_be_bytes(), b"\0\0\0\0IDAT\x35\xaf\x06\x1e"].concat();
    std::fs::write(&file, bytes).unwrap();
    let said = refused(&["trace", file.to_str().unwrap(), "-o", "x.svg"]);
    assert!(said.contains("30000 x 30000") && said.contains("144000000"), "{said}");
}

#[test]
fn a_set_keeps_its_limits_and_lies_on_beds() {
    let dir = scratch("set");
    let broken = scratch("broken.png");
    std::fs::write(&broken, b"no picture").unwrap();
    let (dir, broken) = (dir.to_str().unwrap(), broken.to_str().unwrap());
    let pictures = [sample("ginkgo.svg"), broken.to_string(), sample("snail.svg")];
    let mut arguments = vec!["set"];
    arguments.extend(pictures.iter().map(String::as_str));
    let wishes =
        ["--recipe", "key-tag", "--longest", "60mm", "--limit", "20min", "--fit", "--bed", "-o", dir, "--json"];
    arguments.extend(wishes);
    let made = json(&arguments);
    let set = made["set"].as_array().unwrap();
    assert!(set[1]["refused"].is_string() && set[1]["file"].is_null());
    for m in [&set[0], &set[2]] {
        let side = |k: usize| m["size"][k].as_f64().unwrap();
        assert!(m["seconds"].as_f64().unwrap() <= 1200.0, "{m}");
        assert!(side(0).max(side(1)) < 60.01, "{m}");
        // The size that is told is the size that it has.
        let told = m["within_limit"].as_f64().unwrap();
        assert!((side(0).max(side(1)) - told).abs() < 0.05, "{m}");
    }
    assert_eq!(made["bed"]["pieces"].as_array().unwrap().len(), 2);
    assert_eq!(made["bed"]["conflicts"], serde_json::json!([]));
    assert!(Path::new(dir).join("bed.3mf").exists());
    assert!(refused(&["set", broken, "-o", dir]).contains("none of the pictures"));
}

#[test]
fn a_bed_of_files_is_told_and_written() {
    let bed = scratch("bed.3mf");
    let bed = bed.to_str().unwrap();
    let (a, b) = (sample("ginkgo.svg"), sample("snail.svg"));
    let told = json(&["bed", &a, &b, "--recipe", "coaster", "--copies", "3", "-o", bed, "--json"]);
    assert_eq!(told["pieces"].as_array().unwrap().len(), 6);
    let beds = told["beds"].as_array().unwrap();
    let sum: f64 = beds.iter().map(|b| b["seconds"].as_f64().unwrap()).sum();
    assert!((sum - told["seconds"].as_f64().unwrap()).abs() < 1e-6);
    let inspected = json(&["inspect", bed, "--json"]);
    assert!(inspected["sound"].as_bool().unwrap_or(true), "{inspected}");
    assert!(refused(&["bed", &a, "--gap", "90"]).contains("0.5 mm to 50 mm"));
    assert!(refused(&["bed", &a, "--copies", "2001"]).contains("2000"));
    assert!(refused(&["bed", &a, "-o", "bed.gif"]).contains(".3mf"));
}

#[test]
fn house_measures_come_out_of_a_file_or_a_workshop() {
    let file = scratch("thin.json");
    let house = r#"{"name":"Thin","recipe":"cutter","measures":{"wall-height":10,"flange-width":5}}"#;
    let written = |houses: &str| {
        std::fs::write(&file, format!(r#"{{"format":"kachel house measures","houses":[{houses}]}}"#)).unwrap();
    };
    let (file_name, picture) = (file.to_str().unwrap(), sample("ginkgo.svg"));
    let made = scratch("house.stl");
    let made = made.to_str().unwrap();
    written(house);
    let by = |house: &str| json(&["make", &picture, "--house", house, "--width", "60mm", "-o", made, "--json"]);
    let thin = by(file_name);
    assert_eq!(thin["size"][2], 10.0);
    // A measure of its own comes after it.
    let set = ["make", &picture, "--house", file_name, "--set", "wall-height=12mm", "-o", made, "--json"];
    assert_eq!(json(&set)["size"][2], 12.0);
    written(&format!("{house},{}", house.replace("Thin", "Thick")));
    assert!(refused(&["make", &picture, "--house", file_name, "-o", made]).contains("holds 2 house measures"));
    written(&house.replace("10", "1000"));
    assert!(refused(&["make", &picture, "--house", file_name, "-o", made]).contains("'Thin'"));
    // By name, out of the workshop of a shelf.
    let data = scratch("house-data");
    std::fs::create_dir_all(&data).unwrap();
    let dir = data.to_str().unwrap();
    let named = |name: &str| ["make", &picture, "--house", name, "--data", dir, "-o", made].map(str::to_string);
    let refusal = |name: &str| {
        let arguments = named(name);
        refused(&arguments.iter().map(String::as_str).collect::<Vec<_>>())
    };
    assert!(refusal("Thin").contains("there is no shelf in"));
    let db = kachel_server::Db::open(&data.join("kachel.db"), None).unwrap();
    let (version, workshop) = db.workshop().unwrap();
    written(house);
    let houses = kachel_engine::read_houses(&std::fs::read(&file).unwrap()).unwrap();
    db.set_workshop(version, &workshop.with_houses(houses).unwrap()).unwrap();
    assert!(refusal("Thick").contains("it keeps: Thin"));
    let made = json(&["make", &picture, "--house", "thin", "--data", dir, "--width", "60mm", "-o", made, "--json"]);
    assert_eq!(made["size"], thin["size"]);
}

#[test]
fn a_shelf_is_copied_and_a_copy_is_put_back() {
    let data = scratch("backup-data");
    std::fs::create_dir_all(&data).unwrap();
    let (dir, copy) = (data.to_str().unwrap().to_string(), scratch("copy.db"));
    let copy = copy.to_str().unwrap();
    assert!(refused(&["backup", copy, "--data", &dir]).contains("there is no shelf"));
    let db = kachel_server::Db::open(&data.join("kachel.db"), None).unwrap();
    let named = |currency: &str| kachel_engine::Workshop { currency: currency.into(), ..Default::default() };
    db.set_workshop(0, &named("A")).unwrap();
    // While the shelf is open elsewhere.
    let told = kachel(&["backup", copy, "--data", &dir]);
    assert!(told.status.success(), "{told:?}");
    assert!(refused(&["backup", copy, "--data", &dir]).contains("is there already"));
    db.set_workshop(1, &named("B")).unwrap();
    drop(db);
    let broken = scratch("broken.db");
    std::fs::write(&broken, b"no shelf").unwrap();
    assert!(refused(&["restore", broken.to_str().unwrap(), "--data", &dir]).contains("is not put in place"));
    let currency = || kachel_server::Db::open(&data.join("kachel.db"), None).unwrap().workshop().unwrap().1.currency;
    assert_eq!(currency(), "B", "nothing was touched");
    let told = kachel(&["restore", copy, "--data", &dir]);
    assert!(told.status.success(), "{told:?}");
    assert_eq!(currency(), "A");
    let kept = kachel_server::Db::open(&data.join("copies/replaced-1.db"), None).unwrap();
    assert_eq!(kept.workshop().unwrap().1.currency, "B", "what was there is kept");
}
