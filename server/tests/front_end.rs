//! The front end's own tests, its types and its production build's promises, under Cargo's test runner.

use std::collections::BTreeSet;
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

/// Files of the built page, and what each takes as it is sent.
struct Built(PathBuf);

impl Built {
    fn names(&self) -> Vec<String> {
        let files = std::fs::read_dir(self.0.join("assets")).expect("make web");
        files.map(|f| f.unwrap().file_name().into_string().unwrap()).collect()
    }

    /// The one script made of a module.
    fn script_of(&self, module: &str) -> String {
        let is_it = |n: &String| {
            let hash = n.strip_prefix(module).and_then(|n| n.strip_prefix('-')).and_then(|n| n.strip_suffix(".js"));
            hash.is_some_and(|h| h.len() == 8)
        };
        let found: Vec<String> = self.names().into_iter().filter(is_it).collect();
        let [one] = found.as_slice() else { panic!("{module}: {found:?}") };
        one.clone()
    }

    /// A script and all that it waits for.
    fn with_imports(&self, script: &str, into: &mut BTreeSet<String>) {
        if !into.insert(script.into()) {
            return;
        }
        let text = std::fs::read_to_string(self.0.join("assets").join(script)).unwrap();
        for part in text.split("\"./").skip(1) {
            let Some((name, rest)) = part.split_once('"') else { continue };
            // One that is fetched later stands in brackets: import("./solid.js").
            if name.ends_with(".js") && !rest.starts_with(')') && self.0.join("assets").join(name).exists() {
                self.with_imports(name, into);
            }
        }
    }

    /// What comes before pages of these modules are shown, kB by brotli: scripts and styles.
    fn kilobytes(&self, modules: &[&str]) -> u64 {
        let html = std::fs::read_to_string(self.0.join("index.html")).unwrap();
        let mut all: BTreeSet<String> = self.names().into_iter().filter(|n| n.ends_with(".css")).collect();
        let named = html.split("/assets/").skip(1).filter_map(|p| p.split('"').next());
        named.filter(|n| n.ends_with(".js")).for_each(|n| self.with_imports(n, &mut all));
        modules.iter().for_each(|m| self.with_imports(&self.script_of(m), &mut all));
        let size = |name: &String| std::fs::metadata(self.0.join("assets").join(format!("{name}.br"))).unwrap().len();
        all.iter().map(size).sum::<u64>() / 1000
    }
}

#[test]
fn the_first_screen_of_each_page_is_small() {
    let built = Built(web().join("dist"));
    for (modules, most) in [
        (&["shelf"][..], 170),
        (&["bench-page", "artwork"], 220),
        (&["bench-page", "outline"], 220),
        (&["bench-page", "tiers"], 220),
        (&["bench-page", "check"], 220),
        (&["bench-page", "print"], 220),
    ] {
        let found = built.kilobytes(modules);
        assert!((60..=most).contains(&found), "{modules:?}: {found} kB of at most {most}");
        println!("{modules:?}: {found} kB");
    }
    // What draws solids is fetched beside it.
    let solid = built.kilobytes(&["bench-page", "tiers", "solid"]) - built.kilobytes(&["bench-page", "tiers"]);
    println!("solid: {solid} kB");
    assert!((100..=230).contains(&solid), "{solid}");
}
