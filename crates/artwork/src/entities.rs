//! How much text the entities of an XML file stand for. The parser writes them out wherever they are named, and some files name them
//! to fill all memory.

use std::collections::HashMap;

/// Deepest nesting that is followed; the parser refuses what is deeper.
const DEEPEST: usize = 16;

/// Letters that all entities of the file stand for where they are named, at most `usize::MAX`.
pub(crate) fn letters(text: &str) -> usize {
    if !text.contains("<!ENTITY") {
        return 0;
    }
    let declared = declared(text);
    let mut known: HashMap<&str, usize> = HashMap::new();
    named(text).fold(0, |sum, name| sum.saturating_add(size(name, &declared, &mut known, 0)))
}

/// Names and texts of all entities.
fn declared(text: &str) -> HashMap<&str, &str> {
    let mut all = HashMap::new();
    for declaration in text.split("<!ENTITY").skip(1) {
        let mut words = declaration.split_whitespace();
        let Some(name) = words.next() else { continue };
        let Some(from) = declaration.find(['"', '\'']) else { continue };
        let quote = &declaration[from..=from];
        let Some(long) = declaration[from + 1..].find(quote) else { continue };
        all.entry(name).or_insert(&declaration[from + 1..from + 1 + long]);
    }
    all
}

/// Entities that are named in a text, one after the other.
fn named(text: &str) -> impl Iterator<Item = &str> {
    text.split('&').skip(1).filter_map(|t| t.find(';').map(|end| &t[..end]))
}

fn size<'t>(
    name: &'t str,
    declared: &HashMap<&'t str, &'t str>,
    known: &mut HashMap<&'t str, usize>,
    depth: usize,
) -> usize {
    if let Some(size) = known.get(name) {
        return *size;
    }
    let Some(text) = declared.get(name).filter(|_| depth < DEEPEST) else { return 0 };
    let inner = named(text).fold(0_usize, |sum, n| sum.saturating_add(size(n, declared, known, depth + 1)));
    let all = text.len().saturating_add(inner);
    known.insert(name, all);
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn entities_are_counted_where_they_are_named() {
        assert_eq!(letters("<svg>&amp;&lt;</svg>"), 0);
        let flat = "<!DOCTYPE svg [<!ENTITY a \"12345\"> <!ENTITY b 'xy'>]><svg>&a;&a;&b;&unknown;</svg>";
        assert_eq!(letters(flat), 12);
        // Ten times ten times ten letters, and the names of those within.
        let deep = "<!DOCTYPE svg [<!ENTITY a \"0123456789\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;\"><!ENTITY c \"&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;\">]><svg>&c;</svg>";
        assert!(letters(deep) > 1000 && letters(deep) < 6000, "{}", letters(deep));
        // A circle ends.
        assert!(letters("<!DOCTYPE svg [<!ENTITY a \"&b;\"><!ENTITY b \"&a;\">]><svg>&a;</svg>") < 1000);
    }
}
