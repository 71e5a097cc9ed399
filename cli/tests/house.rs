//! The house's own rules, read off its sources: no circle of files within a crate, and no file that does too much.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// Most lines of a source file, its tests left out.
const MOST_LINES: usize = 450;
/// Most lines of a front-end file.
const MOST_LINES_WEB: usize = 300;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

fn files_under(dir: &Path, extensions: &[&str]) -> Vec<PathBuf> {
    let mut all = Vec::new();
    for entry in std::fs::read_dir(dir).into_iter().flatten().map(|e| e.unwrap().path()) {
        if entry.is_dir() {
            all.extend(files_under(&entry, extensions));
        } else if entry.extension().is_some_and(|e| extensions.iter().any(|x| e == *x)) {
            all.push(entry);
        }
    }
    all.sort();
    all
}

fn source_dirs() -> Vec<PathBuf> {
    let crates = std::fs::read_dir(root().join("crates")).unwrap().map(|e| e.unwrap().path().join("src"));
    crates.chain([root().join("server/src"), root().join("cli/src")]).collect()
}

/// The text without comments and without the tests at its foot.
fn product_text(text: &str) -> String {
    let text = text.split("#[cfg(test)]\nmod tests").next().unwrap_or_default();
    text.lines().map(|l| l.split("//").next().unwrap_or_default()).collect::<Vec<_>>().join("\n")
}

/// `a::{b, c::{d, e}}` as `a::b`, `a::c::d`, `a::c::e`; what is renamed keeps its first name.
fn expanded(path: &str) -> Vec<String> {
    let path = path.trim();
    let Some((head, rest)) = path.split_once('{') else {
        let bare = path.split(" as ").next().unwrap_or_default().trim();
        return if bare.is_empty() { vec![] } else { vec![bare.to_string()] };
    };
    let inner = rest.strip_suffix('}').unwrap_or(rest);
    let (mut depth, mut part, mut all) = (0, String::new(), Vec::new());
    for c in inner.chars().chain([',']) {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            _ => {}
        }
        if c == ',' && depth == 0 {
            all.extend(expanded(&part).into_iter().map(|p| format!("{head}{p}")));
            part.clear();
        } else {
            part.push(c);
        }
    }
    all
}

/// The modules of a crate: names such as `edit/tiers` with their texts; the root is the empty name.
struct Modules(BTreeMap<String, String>);

impl Modules {
    fn read(src: &Path) -> Self {
        let module = |file: &Path| {
            let name = file.strip_prefix(src).unwrap().with_extension("");
            let name = name.to_string_lossy().replace('\\', "/");
            let name = name.strip_suffix("/mod").unwrap_or(&name).to_string();
            if matches!(name.as_str(), "lib" | "main" | "mod") { String::new() } else { name }
        };
        let files = files_under(src, &["rs"]);
        let product = files.iter().filter(|f| !module(f).split('/').any(|part| part == "tests"));
        Self(product.map(|f| (module(f), product_text(&std::fs::read_to_string(f).unwrap()))).collect())
    }

    fn uses(&self, module: &str) -> Vec<(bool, String)> {
        let mut all = Vec::new();
        for (at, _) in self.0[module].match_indices("use ") {
            let text = &self.0[module];
            let line = &text[text[..at].rfind('\n').map_or(0, |n| n + 1)..at];
            if !line.trim().is_empty() && !line.trim().starts_with("pub") {
                continue;
            }
            let path =
                text[at + 4..].split(';').next().unwrap_or_default().split_whitespace().collect::<Vec<_>>().join(" ");
            all.extend(expanded(&path).into_iter().map(|p| (line.contains("pub"), p.replace(' ', ""))));
        }
        all
    }

    /// The module that a path within a crate leads to, through what modules on the way hand on.
    fn target(&self, from: &str, path: &str, depth: usize) -> Option<String> {
        let parts: Vec<&str> = path.split("::").collect();
        let parent = |m: &str| m.rsplit_once('/').map_or(String::new(), |(p, _)| p.to_string());
        let child = |base: &str, name: &str| if base.is_empty() { name.to_string() } else { format!("{base}/{name}") };
        let (mut base, mut rest) = match parts[0] {
            "crate" => (String::new(), &parts[1..]),
            "self" => (from.to_string(), &parts[1..]),
            "super" => (parent(from), &parts[1..]),
            first if self.0.contains_key(&child(from, first)) => (from.to_string(), &parts[..]),
            _ => return None,
        };
        while let Some(name) = rest.first() {
            match *name {
                "super" => base = parent(&base),
                name if self.0.contains_key(&child(&base, name)) => base = child(&base, name),
                _ => break,
            }
            rest = &rest[1..];
        }
        let (Some(name), true) = (rest.first(), depth < 6) else { return Some(base) };
        let handed = self.uses(&base).into_iter().find(|(_, p)| p.rsplit("::").next() == Some(name) && p != path);
        handed.and_then(|(_, p)| self.target(&base, &p, depth + 1)).or(Some(base))
    }

    /// Which modules a module uses, other than by handing them on.
    fn needs(&self, module: &str) -> BTreeSet<String> {
        let mut paths: Vec<String> =
            self.uses(module).into_iter().filter(|(is_pub, _)| !is_pub).map(|(_, p)| p).collect();
        let is_word = |c: char| c.is_alphanumeric() || c == '_' || c == ':';
        // Statements are looked at above; what they hand on is not needed here.
        let text: Vec<&str> = self.0[module].split(';').filter(|s| !s.trim_start().starts_with("pub use ")).collect();
        let text = text.join(";");
        // What ends in `::` begins a group, which is expanded above.
        let words = text.split(|c| !is_word(c)).filter(|w| w.contains("::") && !w.ends_with("::"));
        paths.extend(words.map(ToString::to_string));
        let found = paths.iter().filter_map(|p| self.target(module, p, 0));
        found.filter(|m| m != module).collect()
    }

    /// A way from a module back to itself, if there is one.
    fn circle(&self) -> Option<Vec<String>> {
        let needs: BTreeMap<&String, BTreeSet<String>> = self.0.keys().map(|m| (m, self.needs(m))).collect();
        let mut done = BTreeSet::new();
        for start in self.0.keys() {
            let mut way: Vec<(String, Vec<String>)> = vec![(start.clone(), needs[start].iter().cloned().collect())];
            while let Some((_, open)) = way.last_mut() {
                let Some(next) = open.pop() else {
                    done.extend(way.pop().map(|(m, _)| m));
                    continue;
                };
                if let Some(k) = way.iter().position(|(m, _)| *m == next) {
                    return Some(way[k..].iter().map(|(m, _)| m.clone()).chain([next]).collect());
                }
                if !done.contains(&next) {
                    let open = needs[&next].iter().cloned().collect();
                    way.push((next, open));
                }
            }
        }
        None
    }
}

#[test]
fn no_files_of_a_crate_need_each_other() {
    for src in source_dirs() {
        let circle = Modules::read(&src).circle();
        assert!(circle.is_none(), "{}: {}", src.display(), circle.unwrap_or_default().join(" -> "));
    }
}

#[test]
fn a_circle_would_be_found() {
    let of = |files: &[(&str, &str)]| Modules(files.iter().map(|(m, t)| ((*m).into(), (*t).into())).collect());
    let facade = ("", "mod a;\nmod b;\npub use a::A;\npub use b::B;");
    assert!(of(&[facade, ("a", "use crate::B;"), ("b", "")]).circle().is_none());
    assert!(of(&[facade, ("a", "use crate::B;"), ("b", "use crate::a::{self, A};")]).circle().is_some());
    assert!(of(&[facade, ("a", "fn f() { crate::b::g() }"), ("b", "use super::A;")]).circle().is_some());
    assert!(of(&[("", "mod a;\nuse a::A;"), ("a", "use crate::inner;")]).circle().is_some());
}

#[test]
fn no_file_does_too_much() {
    let lines = |f: &Path| {
        let text = std::fs::read_to_string(f).unwrap();
        text.split("#[cfg(test)]\nmod tests {").next().unwrap_or_default().lines().count()
    };
    let is_test = |f: &Path| {
        let name = f.to_string_lossy();
        name.contains("/tests")
            || name.contains(".test.")
            || name.ends_with("testing.rs")
            || name.contains("/generated/")
    };
    let rust = source_dirs().into_iter().flat_map(|d| files_under(&d, &["rs"])).map(|f| (f, MOST_LINES));
    let web = files_under(&root().join("web/src"), &["ts", "tsx"]).into_iter().map(|f| (f, MOST_LINES_WEB));
    for (file, most) in rust.chain(web).filter(|(f, _)| !is_test(f)) {
        let found = lines(&file);
        assert!(found <= most, "{} has {found} lines; the most is {most}", file.display());
    }
}

/// A step of the guide names what is to be pressed as the interface has it.
#[test]
fn the_guide_names_what_the_interface_has() {
    let web = files_under(&root().join("web/src"), &["ts", "tsx"]);
    let core = source_dirs().iter().flat_map(|d| files_under(d, &["rs"])).collect::<Vec<_>>();
    let words = files_under(&root().join("crates/words/languages"), &["ftl"]);
    let sources: String = web.iter().chain(&core).chain(&words).map(|f| std::fs::read_to_string(f).unwrap()).collect();
    let pages = files_under(&root().join("docs/guide"), &["md"]);
    assert_eq!(pages.len(), 10);
    let mut missing = Vec::new();
    for page in pages {
        let text = std::fs::read_to_string(&page).unwrap();
        for name in text.split("**").skip(1).step_by(2) {
            // Some words get their capital where they are shown.
            let small = name.to_lowercase();
            let forms = [
                format!("\"{name}\""),
                format!("\"{small}\""),
                format!(">{name}<"),
                format!("{name}\n"),
                format!("= {name}\n"),
                format!("{name} {{"),
            ];
            if !forms.iter().any(|f| sources.contains(f)) {
                missing.push(format!("{}: {name}", page.display()));
            }
        }
    }
    assert!(missing.is_empty(), "{missing:#?}");
}
