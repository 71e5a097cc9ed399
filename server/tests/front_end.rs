//! The front end's own tests, its types and its production build's promises, under Cargo's test runner.

use std::path::{Path, PathBuf};
use std::process::Command;

fn web() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../web")
}

fn npx(arguments: &[&str]) {
    let output = Command::new("npx").args(arguments).current_dir(web()).env("CI", "1").output().expect("npx");
    assert!(
        output.status.success(),
        "npx {arguments:?}\n{}{}",
        String::from_utf8_lossy(&output.stdout),
        String::from_utf8_lossy(&output.stderr)
    );
}

#[test]
fn unit_tests_pass() {
    npx(&["vitest", "run"]);
}

#[test]
fn types_are_strict() {
    npx(&["tsc", "--noEmit"]);
}

#[test]
fn nothing_is_fetched_from_elsewhere() {
    let page = std::fs::read_to_string(web().join("dist/index.html")).expect("make web");
    assert!(!page.contains("://"), "{page}");
    let assets = std::fs::read_dir(web().join("dist/assets")).expect("assets");
    for file in assets.map(|f| f.unwrap().path()).filter(|f| f.extension().is_some_and(|e| e == "css")) {
        let text = std::fs::read_to_string(&file).unwrap();
        let outside =
            text.match_indices("url(").any(|(i, _)| text[i + 4..].trim_start_matches(['"', '\'']).starts_with("http"));
        assert!(!outside, "{}", file.display());
    }
}
