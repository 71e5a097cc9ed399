//! What comes in from elsewhere: licences and versions that exist twice, held against `deny.toml` without a network, and a reason for each
//! direct dependency in `docs/dependencies.md`.

use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

fn read(name: &str) -> String {
    std::fs::read_to_string(root().join(name)).unwrap_or_else(|e| panic!("{name}: {e}"))
}

fn table(name: &str) -> toml::Table {
    read(name).parse().unwrap()
}

/// A crate that is built here, for the program or for tests.
struct Built {
    name: String,
    version: String,
    licence: String,
}

/// Everything that is built on this machine but our own.
fn built() -> Vec<Built> {
    let out = Command::new(env!("CARGO"))
        .args(["tree", "--offline", "--locked", "--workspace", "--all-features", "--prefix", "none"])
        .args(["--format", "{p}|{l}"])
        .current_dir(root())
        .output()
        .unwrap();
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    let text = String::from_utf8(out.stdout).unwrap();
    let lines: BTreeSet<&str> = text.lines().map(|l| l.trim_end_matches(" (*)")).filter(|l| l.contains('|')).collect();
    let built = |line: &str| {
        let (what, licence) = line.split_once('|').unwrap();
        let mut words = what.split(' ');
        let (name, version) = (words.next().unwrap(), words.next().unwrap());
        Built { name: name.into(), version: version.trim_start_matches('v').into(), licence: licence.into() }
    };
    lines.into_iter().map(built).filter(|b| !b.name.starts_with("kachel-")).collect()
}

/// The strings of an array.
fn strings(of: &toml::Value) -> Vec<&str> {
    of.as_array().unwrap().iter().map(|v| v.as_str().unwrap()).collect()
}

#[test]
fn licences_are_those_that_we_allow() {
    let deny = table("deny.toml");
    let general = strings(&deny["licenses"]["allow"]);
    let exceptions: BTreeMap<&str, Vec<&str>> = deny["licenses"]["exceptions"]
        .as_array()
        .unwrap()
        .iter()
        .map(|e| (e["crate"].as_str().unwrap(), strings(&e["allow"])))
        .collect();
    let all = built();
    assert!(all.len() > 200, "{} crates", all.len());
    let mut used = BTreeSet::new();
    for b in &all {
        // Some write a slash for OR.
        let expression = spdx::Expression::parse_mode(&b.licence, spdx::ParseMode::LAX)
            .unwrap_or_else(|e| panic!("{} {}: {:?}: {e}", b.name, b.version, b.licence));
        let own = exceptions.get(b.name.as_str());
        let allows = |by: &[&str]| {
            expression.evaluate(|r| by.iter().any(|l| spdx::Licensee::parse(l).is_ok_and(|l| l.satisfies(r))))
        };
        if !allows(&general) {
            assert!(own.is_some_and(|own| allows(own)), "{} {} has {}", b.name, b.version, b.licence);
            used.insert(b.name.as_str());
        }
    }
    assert_eq!(used, exceptions.keys().copied().collect(), "exceptions that nobody needs");
}

#[test]
fn no_version_exists_twice_without_a_reason() {
    let deny = table("deny.toml");
    let skipped: BTreeMap<&str, &str> = deny["bans"]["skip"]
        .as_array()
        .unwrap()
        .iter()
        .map(|s| (s["crate"].as_str().unwrap(), s["reason"].as_str().unwrap()))
        .collect();
    let mut versions: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for b in built() {
        versions.entry(b.name).or_default().insert(b.version);
    }
    let mut needed = BTreeSet::new();
    for (name, all) in versions.iter().filter(|(_, all)| all.len() > 1) {
        let told: Vec<String> =
            all.iter().map(|v| format!("{name}@{v}")).filter(|v| skipped.contains_key(v.as_str())).collect();
        assert_eq!(
            told.len(),
            all.len() - 1,
            "{name} is there as {all:?}: take one of them, or say in deny.toml why not"
        );
        needed.extend(told);
    }
    let stale: Vec<&&str> = skipped.keys().filter(|s| !needed.contains(**s)).collect();
    assert!(stale.is_empty(), "deny.toml names what is no longer there twice: {stale:?}");
}

/// What ships with the page, and what only builds and tests it.
const SHIPPED: [&str; 9] =
    ["0BSD", "Apache-2.0", "BSD-2-Clause", "BSD-3-Clause", "ISC", "MIT", "MIT OR Apache-2.0", "OFL-1.1", "Unlicense"];
/// CC-BY-4.0 is what is known of browsers, which the compiler's tools look up; nothing of it ships.
const TOOLS: [&str; 3] = ["BlueOak-1.0.0", "CC-BY-4.0", "MPL-2.0"];

#[test]
fn licences_of_the_page_are_those_that_we_allow() {
    let lock: Value = serde_json::from_str(&read("web/package-lock.json")).unwrap();
    for (name, p) in lock["packages"].as_object().unwrap().iter().filter(|(name, _)| !name.is_empty()) {
        let licence = p["license"].as_str().unwrap_or_else(|| own_licence(name));
        let is_tool = p["dev"] == true || p["devOptional"] == true;
        let is_allowed = SHIPPED.contains(&licence) || (is_tool && TOOLS.contains(&licence));
        assert!(is_allowed, "{name} has {licence}");
    }
}

/// The licence of a package that states none in its description: read in its files by hand.
fn own_licence(name: &str) -> &'static str {
    match name {
        // Its LICENSE file.
        "node_modules/webgl-constants" => "MIT",
        _ => panic!("{name} states no licence"),
    }
}

#[test]
fn each_direct_dependency_has_its_reason() {
    let text = read("docs/dependencies.md");
    let rows: Vec<(&str, &str)> = text
        .lines()
        .filter_map(|l| l.strip_prefix("| `")?.split_once("` | "))
        .map(|(name, reason)| (name, reason.trim_end_matches(" |")))
        .collect();
    let named: BTreeSet<&str> = rows.iter().map(|(name, _)| *name).collect();
    assert_eq!(named.len(), rows.len(), "each once");
    assert!(rows.iter().all(|(_, reason)| reason.len() >= 8), "each with a reason");
    let cargo = table("Cargo.toml");
    let package: Value = serde_json::from_str(&read("web/package.json")).unwrap();
    let of_page = ["dependencies", "devDependencies"].map(|k| package[k].as_object().unwrap().keys());
    let direct: BTreeSet<&str> = cargo["workspace"]["dependencies"]
        .as_table()
        .unwrap()
        .keys()
        .filter(|k| !k.starts_with("kachel-"))
        .chain(of_page.into_iter().flatten())
        .map(String::as_str)
        .collect();
    assert_eq!(named, direct);
}
