use super::*;
use fluent_syntax::ast::{Entry, Expression, Identifier, InlineExpression, Pattern, PatternElement};
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// Every file of a language: its code, and what stands in it.
fn files() -> Vec<(String, String)> {
    let dir = Path::new(env!("CARGO_MANIFEST_DIR")).join("languages");
    let all = std::fs::read_dir(dir).unwrap().map(|f| f.unwrap().path());
    all.map(|p| (p.file_stem().unwrap().to_str().unwrap().into(), std::fs::read_to_string(&p).unwrap())).collect()
}

/// The messages of a file with the names of the values in them; a part stands as `message.part`.
fn messages(file: &str) -> BTreeMap<String, BTreeSet<String>> {
    let resource = fluent_syntax::parser::parse(file).unwrap_or_else(|(_, e)| panic!("{e:?}"));
    let mut all = BTreeMap::new();
    let mut add = |code: String, pattern: &Pattern<&str>| {
        let mut names = BTreeSet::new();
        values(pattern, &mut names);
        assert_eq!(all.insert(code.clone(), names), None, "{code} stands there twice");
    };
    for entry in &resource.body {
        if let Entry::Message(m) = entry {
            m.value.iter().for_each(|v| add(m.id.name.into(), v));
            m.attributes.iter().for_each(|a| add(format!("{}.{}", m.id.name, a.id.name), &a.value));
        }
    }
    all
}

fn values(pattern: &Pattern<&str>, names: &mut BTreeSet<String>) {
    let inline = |e: &InlineExpression<&str>, names: &mut BTreeSet<String>| match e {
        // The unit is with every message.
        InlineExpression::VariableReference { id: Identifier { name: "unit" } } => {}
        InlineExpression::VariableReference { id } => drop(names.insert(id.name.into())),
        InlineExpression::FunctionReference { arguments, .. } => {
            for a in &arguments.positional {
                if let InlineExpression::VariableReference { id } = a
                    && id.name != "unit"
                {
                    names.insert(id.name.into());
                }
            }
        }
        _ => {}
    };
    for element in &pattern.elements {
        let PatternElement::Placeable { expression } = element else { continue };
        match expression {
            Expression::Inline(e) => inline(e, names),
            Expression::Select { selector, variants } => {
                inline(selector, names);
                variants.iter().for_each(|v| values(&v.value, names));
            }
        }
    }
}

/// All sources of the program but this crate's and tests.
fn sources() -> Vec<(PathBuf, String)> {
    fn walk(dir: &Path, all: &mut Vec<PathBuf>) {
        for entry in std::fs::read_dir(dir).unwrap() {
            let path = entry.unwrap().path();
            if path.is_dir() {
                walk(&path, all);
            } else if path.extension().is_some_and(|e| e == "rs") {
                all.push(path);
            }
        }
    }
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap();
    let mut all = Vec::new();
    for dir in ["crates", "server/src", "cli/src"] {
        walk(&root.join(dir), &mut all);
    }
    let is_ours = |p: &PathBuf| {
        let text = p.to_string_lossy();
        !text.contains("/words/")
            && !text.contains("/tests")
            && !text.contains("/benches/")
            && !text.contains("/oracle/")
    };
    let read = |p: PathBuf| {
        let text = std::fs::read_to_string(&p).unwrap();
        let code = text.split("#[cfg(test)]").next().unwrap_or_default().to_string();
        (p, code)
    };
    all.into_iter().filter(is_ours).map(read).collect()
}

/// `msg!("code", name = ..., ...)` where the code stands in it: the code and the names.
fn said_in(code: &str) -> Vec<(String, BTreeSet<String>)> {
    let mut all = Vec::new();
    for (at, found) in code.match_indices("msg!(") {
        let Some(rest) = code[at + found.len()..].trim_start().strip_prefix('"') else { continue };
        let (name, mut rest) = rest.split_once('"').unwrap();
        let (mut depth, mut names) = (0, BTreeSet::new());
        // Names stand behind a comma of the macro itself.
        while let Some(c) = rest.chars().next() {
            match c {
                '(' | '[' | '{' => depth += 1,
                ')' | ']' | '}' if depth == 0 => break,
                ')' | ']' | '}' => depth -= 1,
                ',' if depth == 0 => {
                    let word: String =
                        rest[1..].trim_start().chars().take_while(|c| c.is_alphanumeric() || *c == '_').collect();
                    if rest[1..].trim_start()[word.len()..].starts_with(" = ") {
                        names.insert(word);
                    }
                }
                _ => {}
            }
            rest = &rest[c.len_utf8()..];
        }
        all.push((name.to_string(), names));
    }
    all
}

#[test]
fn every_language_says_the_same_messages_with_the_same_values() {
    let files = files();
    let known: Vec<&str> = languages().collect();
    let mut found: Vec<&str> = files.iter().map(|(code, _)| code.as_str()).collect();
    found.sort_unstable();
    assert_eq!(found, known, "a file that is not in the list, or the other way round");
    let english = messages(&files.iter().find(|(code, _)| code == "en").unwrap().1);
    for (code, file) in &files {
        for (name, values) in messages(file) {
            let of_english = english.get(&name).unwrap_or_else(|| panic!("{code}: {name} is not said in English"));
            assert!(values.is_subset(of_english), "{code}: {name} has {values:?}, English {of_english:?}");
        }
    }
}

#[test]
fn what_the_program_says_has_words_for_all_its_values() {
    let english = messages(&files().iter().find(|(code, _)| code == "en").unwrap().1);
    let mut count = 0;
    for (path, code) in sources() {
        for (name, given) in said_in(&code) {
            let wanted = english.get(&name).unwrap_or_else(|| panic!("{}: '{name}' has no words", path.display()));
            // Values that are not written where the message begins come by `with`.
            let missing: Vec<&String> = wanted.difference(&given).collect();
            assert!(missing.is_empty() || code.contains(".with(\""), "{}: '{name}' lacks {missing:?}", path.display());
            let unsaid: Vec<&String> = given.difference(wanted).collect();
            let in_parts =
                |v: &String| english.iter().any(|(k, n)| k.starts_with(&format!("{name}.")) && n.contains(v));
            assert!(unsaid.iter().all(|v| in_parts(v)), "{}: '{name}' does not say {unsaid:?}", path.display());
            count += 1;
        }
    }
    assert!(count > 400, "{count}");
}

#[test]
fn no_words_are_left_over() {
    let english = messages(&files().iter().find(|(code, _)| code == "en").unwrap().1);
    let all: String = sources().into_iter().map(|(_, code)| code).collect();
    // Codes that are put together.
    let composed = [
        "part-",
        "measure-",
        "choice-",
        "recipe-",
        "tier-",
        "stage-",
        "weight-",
        "kind-",
        "sample-",
        "problem-",
        "thing-",
        "filament-",
        "length-",
        "why-",
    ];
    let own = ["list-more", "list-and", "span"];
    for code in english.keys().filter(|c| !c.contains('.')) {
        let is_said = all.contains(&format!("\"{code}\""));
        assert!(is_said || own.contains(&code.as_str()) || composed.iter().any(|c| code.starts_with(c)), "{code}");
    }
}

#[test]
fn lengths_are_said_in_either_unit() {
    for (value, millimetres, inches) in [
        (mm(7.619_999_999), "7.62 mm", "0.3 in"),
        (mm(1.0).decimals(1), "1.0 mm", "0.039 in"),
        (size([30.0, 20.5, 4.0]), "30 × 20.5 × 4 mm", "1.181 × 0.807 × 0.157 in"),
        (span(25.4, 50.8), "25.4 to 50.8 mm", "1 to 2 in"),
        (area(645.16), "645.16 mm²", "1 in²"),
        (area(645.16).decimals(1), "645.2 mm²", "1 in²"),
        (number(-0.0), "0", "0"),
        (list([mm(1.0), mm(2.0), mm(3.0)]), "1 mm, 2 mm and 3 mm", "0.0394 in, 0.0787 in and 0.1181 in"),
        (list(Vec::<Value>::new()), "", ""),
        (text("7 mm of rope"), "7 mm of rope", "7 mm of rope"),
    ] {
        assert_eq!((value.said(Unit::Mm), value.said(Unit::In)), (millimetres.into(), inches.into()));
    }
}

#[test]
fn counts_choose_their_plural_and_labels_keep_initials() {
    let places = |n: usize| msg!("places", n = n).to_string();
    assert_eq!((places(1).as_str(), places(3).as_str()), ("one place", "3 places"));
    let set = |label: &str| msg!("measure-set", part = "Flange", label = label, value = mm(0.5)).to_string();
    assert_eq!(set("Softened edge"), "Flange: softened edge 0.5 mm");
    assert_eq!(set("STL size"), "Flange: STL size 0.5 mm");
    assert_eq!(
        msg!("island", pieces = 1_usize, height = mm(2.0)).sentence(Unit::Mm),
        "One piece begins in the air, 2 mm above the bed"
    );
    let tier = |name: &str| msg!("under-a-layer", tier = name, high = mm(0.1), layer = mm(0.2)).sentence(Unit::Mm);
    assert_eq!(tier("übung"), "Übung is 0.1 mm high; a printed layer is 0.2 mm");
}

#[test]
fn what_has_no_words_is_said_by_its_code_and_has_no_parts() {
    let unknown = msg!("nobody-wrote-this", n = 3_usize);
    assert_eq!(unknown.to_string(), "nobody-wrote-this");
    assert!(!unknown.is_known() && unknown.part("why").is_none());
    assert_eq!(unknown.said_part("why", Unit::Mm), "");
    assert!(msg!("cup-rocks").part("why").is_some_and(|why| why.to_string().starts_with("Its foot lies")));
    assert!(Words::of("xx").is_none());
}

/// A translation is one more file: it may order values anew, has plurals of its own (Polish has three, by CLDR, from memory), keeps the
/// capitals of nouns, and leaves to English what it lacks.
#[test]
fn a_file_of_another_language_is_all_that_a_translation_needs() {
    let german =
        Words::with("de", "measure-set = { $part }: { $value } ({ $label })\nspan = { $from } bis { $to } { $unit }");
    let set = msg!("measure-set", part = "Flansch", label = "Weiche Kante", value = span(1.0, 2.5));
    assert_eq!(german.say(&set, Unit::Mm), "Flansch: 1 bis 2.5 mm (Weiche Kante)");
    assert_eq!(german.say(&msg!("places", n = 3_usize), Unit::Mm), "3 places");
    let polish =
        Words::with("pl", "places = { $n ->\n [one] miejsce\n [few] { $n } miejsca\n *[other] { $n } miejsc\n }");
    let said = [1_usize, 3, 5, 22].map(|n| polish.say(&msg!("places", n = n), Unit::Mm));
    assert_eq!(said, ["miejsce", "3 miejsca", "5 miejsc", "22 miejsca"]);
}

/// What stands in the text itself, such as what a nozzle does, is said in the design's unit, too.
#[test]
fn fixed_lengths_follow_the_unit() {
    let why = |unit| msg!("bridge").said_part("why", unit);
    assert!(
        why(Unit::Mm).starts_with("Lines sag from about 10 mm on.")
            && why(Unit::In).starts_with("Lines sag from about 0.394 in on.")
    );
    let english = files().into_iter().find(|(code, _)| code == "en").unwrap().1;
    // Examples of what can be typed, sizes of magnets as they are sold, and the limits of files are the same everywhere.
    let same = ["no-length", "not-a-length", "choice-magnet", "sheet-size", "coordinate-too-far", "#"];
    for line in english.lines().filter(|l| !same.iter().any(|s| l.starts_with(s))) {
        let is_number = |(at, _): (usize, &str)| line[..at].ends_with(|c: char| c.is_ascii_digit());
        assert!(!line.match_indices(" mm").any(is_number), "{line}");
    }
}

/// Somebody's own words are no Fluent, whatever stands in them.
#[test]
fn names_with_braces_and_marks_stand_as_they_are() {
    for name in ["{ $n }", "{\"x\"}", "-term", "a\nb = c", "[one] *[other]", "\u{2068}x\u{2069}", ""] {
        assert_eq!(msg!("called", name = name).to_string(), format!("Called '{name}'"));
    }
}
