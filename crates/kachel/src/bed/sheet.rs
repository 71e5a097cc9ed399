//! The sheet to print beside a bed: what lies where, whose it is, and what has to be done on the way.

use super::OnBeds;
use super::lying::Lying;
use crate::rehearsal::PrintView;
use crate::view::seen_from_above;
use kachel_geom::Region;
use kachel_tiers::Op;
use kachel_words::{Unit, mm, msg, number, size};
use pdf_writer::{Content, Finish as _, Name, Pdf, Rect, Ref, Str};

/// A4, points of 1/72 inch (ISO 216).
const PAGE: [f32; 2] = [595.28, 841.89];
/// Free on each side, points.
const MARGIN: f32 = 42.5;
/// Size of letters, points, and from line to line.
const LETTERS: f32 = 9.0;
const LINE: f32 = 13.0;
/// Characters of a line: Helvetica's are half as wide as high, taken together.
const CHARACTERS: usize = 105;
/// Points of a millimetre.
const PT_PER_MM: f64 = 72.0 / 25.4;

/// What stands under the drawing: each piece, then what has to be done.
pub(super) fn lines(all: &[Lying<'_>], print: Option<&PrintView>, unit: Unit) -> Vec<String> {
    let mut lines: Vec<String> = all.iter().enumerate().map(|(k, l)| line(k + 1, l, unit)).collect();
    if let Some(p) = print {
        let minutes = number(p.seconds / 60.0).decimals(0);
        lines.push(msg!("sheet-print", minutes = minutes, layers = p.tops.len()).said(unit));
        for s in p.stops.iter().chain(&p.pauses) {
            let (height, minutes) = (mm(s.height).decimals(2), number(s.at / 60.0).decimals(0));
            let stop = msg!("sheet-stop", what = &s.what, height = height, layer = s.layer, minutes = minutes);
            lines.push(stop.said(unit));
        }
    }
    lines
}

/// A piece in the list: number, name, filaments, whose picture it is.
fn line(number: usize, l: &Lying<'_>, unit: Unit) -> String {
    let run = &l.design.run;
    let filaments: Vec<&str> = l.solid.parts.iter().map(|p| run.filament(p.number).name.as_str()).collect();
    let c = &l.document.credit;
    let credit: Vec<&str> =
        [&c.maker, &c.source, &c.licence].into_iter().map(String::as_str).filter(|w| !w.is_empty()).collect();
    let pauses =
        run.stack.iter().flat_map(|s| &s.pauses).map(|h| msg!("sheet-magnet", height = mm(*h).decimals(2)).said(unit));
    let mut words = vec![format!("{number}  {}", l.design.name), filaments.join(", ")];
    words.extend(pauses);
    if !credit.is_empty() {
        words.push(credit.join(", "));
    }
    words.join(" · ")
}

/// The sheet on pages of A4: the plate as large as the page is wide, with its scale, then the lines.
pub(super) fn pdf(name: &str, all: &[Lying<'_>], on: &OnBeds, lines: &[String]) -> Vec<u8> {
    let [w, d, _] = on.workshop.printer().bed;
    let (wide, high) = (f64::from(PAGE[0] - 2.0 * MARGIN), f64::from(PAGE[1]) * 0.55);
    let scale = (wide / w).min(high / d).min(PT_PER_MM);
    let corner = [MARGIN, PAGE[1] - MARGIN - 30.0 - (d * scale) as f32];
    let mut page = Content::new();
    text(&mut page, 16.0, [MARGIN, PAGE[1] - MARGIN - 12.0], name);
    let percent = number(100.0 * scale / PT_PER_MM).decimals(0);
    let drawn = msg!("sheet-drawn", size = size([w, d]), percent = percent).said(on.workshop.unit);
    text(&mut page, LETTERS, [MARGIN, corner[1] - LINE], &drawn);
    page.save_state().transform([scale as f32, 0.0, 0.0, scale as f32, corner[0], corner[1]]);
    plate(&mut page, all, [w as f32, d as f32]);
    page.restore_state();
    let mut pages = vec![page];
    let mut y = corner[1] - 2.6 * LINE;
    for line in lines.iter().flat_map(|l| wrapped(l)) {
        if y < MARGIN {
            pages.push(Content::new());
            y = PAGE[1] - MARGIN - LINE;
        }
        if let Some(page) = pages.last_mut() {
            text(page, LETTERS, [MARGIN, y], &line);
        }
        y -= LINE;
    }
    document(pages)
}

fn document(contents: Vec<Content>) -> Vec<u8> {
    let (catalog, tree, font) = (Ref::new(1), Ref::new(2), Ref::new(3));
    let of = |k: usize, n: i32| Ref::new(4 + 2 * k as i32 + n);
    let mut pdf = Pdf::new();
    pdf.catalog(catalog).pages(tree);
    pdf.pages(tree).kids((0..contents.len()).map(|k| of(k, 0))).count(contents.len() as i32);
    // One of the fourteen fonts that every reader has (ISO 32000-1, 9.6.2.2).
    pdf.type1_font(font).base_font(Name(b"Helvetica")).encoding_predefined(Name(b"WinAnsiEncoding"));
    for (k, content) in contents.into_iter().enumerate() {
        let mut page = pdf.page(of(k, 0));
        page.media_box(Rect::new(0.0, 0.0, PAGE[0], PAGE[1])).parent(tree).contents(of(k, 1));
        page.resources().fonts().pair(Name(b"F"), font);
        page.finish();
        pdf.stream(of(k, 1), &content.finish());
    }
    pdf.finish()
}

/// Pieces where they lie, each with its number; a unit is a millimetre.
fn plate(page: &mut Content, all: &[Lying<'_>], [w, d]: [f32; 2]) {
    page.set_line_width(0.5).set_stroke_rgb(0.54, 0.56, 0.53).rect(0.0, 0.0, w, d).stroke();
    for l in all {
        let [c, s] = l.pose.turn();
        let turn = [c, s, -s, c, l.pose.x, l.pose.y].map(|v| v as f32);
        page.save_state().transform(turn).set_stroke_rgb(0.12, 0.17, 0.18).set_line_width(0.2);
        for t in l.design.run.stack.iter().flat_map(|s| seen_from_above(s)) {
            let colour = if t.op == Op::Cut { [255; 3] } else { l.design.run.filament(t.part).colour };
            let [r, g, b] = colour.map(|v| f32::from(v) / 255.0);
            page.set_fill_rgb(r, g, b);
            rings(page, &t.footprint);
            page.fill_nonzero_and_stroke();
        }
        if let Some(shadow) = &l.design.shadow {
            rings(page, shadow);
            page.stroke();
        }
        page.restore_state();
    }
    for (k, l) in all.iter().enumerate() {
        let (x, y) = (l.pose.x as f32, l.pose.y as f32);
        page.set_fill_rgb(1.0, 1.0, 1.0).rect(x - 3.4, y - 2.4, 6.8, 4.8).fill_nonzero_and_stroke();
        let number = (k + 1).to_string();
        page.set_fill_rgb(0.0, 0.0, 0.0);
        text(page, 4.0, [x - 1.1 * number.len() as f32, y - 1.4], &number);
    }
}

fn rings(page: &mut Content, area: &Region) {
    for ring in area.rings_mm() {
        for (k, p) in ring.0.iter().enumerate() {
            let (x, y) = (p.x as f32, p.y as f32);
            if k == 0 {
                page.move_to(x, y)
            } else {
                page.line_to(x, y)
            };
        }
        page.close_path();
    }
}

fn text(page: &mut Content, size: f32, [x, y]: [f32; 2], words: &str) {
    page.begin_text().set_font(Name(b"F"), size).next_line(x, y).show(Str(&encoded(words))).end_text();
}

/// As WinAnsi, which is Latin-1 but for some signs; what it lacks is a question mark.
fn encoded(words: &str) -> Vec<u8> {
    let byte = |c: char| match c {
        ' '..='~' | '\u{a0}'..='\u{ff}' => u8::try_from(u32::from(c)).unwrap_or(b'?'),
        '\u{20ac}' => 0x80,
        '\u{2018}' => 0x91,
        '\u{2019}' => 0x92,
        '\u{201c}' => 0x93,
        '\u{201d}' => 0x94,
        '\u{2013}' => 0x96,
        '\u{2014}' => 0x97,
        _ => b'?',
    };
    words.chars().map(byte).collect()
}

/// A line in pieces that fit the page, broken between words where there are some.
fn wrapped(line: &str) -> Vec<String> {
    let mut all = vec![String::new()];
    for word in line.split_inclusive(' ') {
        let fits = |l: &String| l.chars().count() + word.trim_end().chars().count() <= CHARACTERS;
        if !all.last().is_some_and(fits) {
            all.push("     ".into());
        }
        if let Some(last) = all.last_mut() {
            last.extend(word.chars().take(CHARACTERS));
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn long_lines_are_broken_and_foreign_letters_are_marked() {
        let long = "word ".repeat(60);
        let all = wrapped(&long);
        assert!(all.len() == 3 && all.iter().all(|l| l.trim_end().chars().count() <= CHARACTERS), "{all:?}");
        assert_eq!(all.concat().split_whitespace().count(), 60);
        assert_eq!(wrapped(&"x".repeat(500)).concat().trim().len(), CHARACTERS);
        assert_eq!(encoded("K\u{e4}se \u{2013} \u{1f980}"), [b'K', 0xe4, b's', b'e', b' ', 0x96, b' ', b'?']);
    }
}
