//! What an SVG says of its maker and its terms: in its metadata (Dublin Core and Creative Commons terms, as the SVG 1.1
//! recommendation, chapter 21, shows them) or in a line of text under the drawing.

use crate::drawing::{looks_like_svg, xml_options};
use usvg::roxmltree::{Document, Node};

/// Longest text that is taken over, characters.
const MOST: usize = 200;

/// Whose drawing it is by the file's own word; empty where it says nothing.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct StatedCredit {
    /// Who drew it.
    pub maker: String,
    /// Where it comes from.
    pub source: String,
    /// On what terms.
    pub licence: String,
}

/// What the file says of its maker; nothing for pictures of pixels and for what is no SVG.
pub fn stated_credit(bytes: &[u8]) -> StatedCredit {
    let text = std::str::from_utf8(bytes).unwrap_or_default();
    if !looks_like_svg(bytes) {
        return StatedCredit::default();
    }
    let Ok(document) = Document::parse_with_options(text, xml_options()) else { return StatedCredit::default() };
    let all = |name: &'static str| document.descendants().filter(move |n| n.tag_name().name() == name);
    let words = |n: Node<'_, '_>| {
        let all: String =
            n.descendants().filter(|t| t.is_text()).filter_map(|t| t.text()).flat_map(|t| [t, " "]).collect();
        all.split_whitespace().collect::<Vec<_>>().join(" ").chars().take(MOST).collect::<String>()
    };
    let first = |name| all(name).map(words).find(|w| !w.is_empty()).unwrap_or_default();
    let mut credit = StatedCredit { maker: first("creator"), source: first("source"), licence: String::new() };
    let resource = |n: Node<'_, '_>| n.attributes().find(|a| a.name() == "resource").map(|a| a.value().to_string());
    // Of the metadata only: SVG has no element of that name, but a work's terms are named by their address.
    credit.licence = all("license").find_map(resource).map_or_else(|| first("rights"), |address| licence_of(&address));
    for line in all("text").map(words) {
        read_line(&line, &mut credit);
    }
    credit
}

/// The usual name of a licence by its address.
fn licence_of(address: &str) -> String {
    let rest = address.split("creativecommons.org/").nth(1).unwrap_or_default();
    let mut parts = rest.split('/').skip(1);
    match (rest.split('/').next(), parts.next(), parts.next()) {
        (Some("licenses"), Some(kind), version) => format!("CC-{}-{}", kind.to_uppercase(), version.unwrap_or("4.0")),
        (Some("publicdomain"), Some("zero"), _) => "CC0-1.0".into(),
        _ => address.chars().take(MOST).collect(),
    }
}

/// A line such as 'Drawn by A from B' or '© A, CC BY 4.0' fills what is not known yet.
fn read_line(line: &str, credit: &mut StatedCredit) {
    let lower = line.to_lowercase();
    let by = ["created by ", "drawn by ", "designed by ", "made by ", "artwork by ", "icon by ", "© ", "(c) "];
    let begins = by.iter().find_map(|b| lower.find(b).map(|k| k + b.len())).filter(|k| line.is_char_boundary(*k));
    if let Some(rest) = begins.and_then(|k| line.get(k..)) {
        let (maker, source) = rest.split_once(" from ").unwrap_or((rest, ""));
        let maker = maker.split([',', ';', '|']).next().unwrap_or_default();
        let fill = |to: &mut String, from: &str| {
            if to.is_empty() {
                *to = from.trim().trim_start_matches("the ").chars().take(MOST).collect();
            }
        };
        fill(&mut credit.maker, maker);
        fill(&mut credit.source, source);
    }
    let terms = line.split([',', ';', '|']).map(str::trim).find(|t| {
        let t = t.to_uppercase().replace(' ', "-");
        t.starts_with("CC-BY") || t.starts_with("CC0")
    });
    if let Some(terms) = terms.filter(|_| credit.licence.is_empty()) {
        credit.licence = terms.chars().take(MOST).collect();
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(inside: &str) -> StatedCredit {
        let head = "<svg xmlns='http://www.w3.org/2000/svg' xmlns:rdf='r' xmlns:cc='c' xmlns:dc='d' viewBox='0 0 9 9'>";
        stated_credit(format!("{head}{inside}</svg>").as_bytes())
    }

    fn credit(maker: &str, source: &str, licence: &str) -> StatedCredit {
        StatedCredit { maker: maker.into(), source: source.into(), licence: licence.into() }
    }

    #[test]
    fn metadata_names_maker_source_and_licence() {
        let work = "<metadata><rdf:RDF><cc:Work><dc:creator><cc:Agent><dc:title>Wilma  Reet</dc:title></cc:Agent></dc:creator>\
            <dc:source>Reet's drawer</dc:source>\
            <cc:license rdf:resource='http://creativecommons.org/licenses/by-sa/4.0/'/></cc:Work></rdf:RDF></metadata>";
        assert_eq!(of(work), credit("Wilma Reet", "Reet's drawer", "CC-BY-SA-4.0"));
        let zero =
            "<metadata><cc:license rdf:resource='https://creativecommons.org/publicdomain/zero/1.0/'/></metadata>";
        assert_eq!(of(zero).licence, "CC0-1.0");
        assert_eq!(of("<metadata><dc:rights>ask me first</dc:rights></metadata>").licence, "ask me first");
    }

    #[test]
    fn a_line_of_text_does_too() {
        assert_eq!(
            of("<text>Created by Wilma Reet from the Reed Drawer</text>"),
            credit("Wilma Reet", "Reed Drawer", "")
        );
        assert_eq!(of("<text>© <tspan>Ö. Reet</tspan>, CC BY 4.0</text>"), credit("Ö. Reet", "", "CC BY 4.0"));
        assert_eq!(of("<text>Happy birthday</text>"), StatedCredit::default());
    }

    #[test]
    fn what_says_nothing_or_is_no_svg_says_nothing() {
        for bytes in [&b"\x89PNG"[..], b"<svg", b"", b"<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0'/></svg>"]
        {
            assert_eq!(stated_credit(bytes), StatedCredit::default());
        }
        let long = of(&format!("<text>Drawn by {}</text>", "ö".repeat(5000)));
        assert_eq!(long.maker.chars().count(), MOST - "Drawn by ".len());
    }
}
