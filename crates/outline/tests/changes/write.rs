//! Text: sizes, kerning, arcs, letters that are missing.

use super::*;

fn written(text: Text) -> Outline {
    let all = Change::Text { text, at: [600.0, 300.0].into(), degrees: 0.0, use_: Use::Detail };
    run(&[all])
}

/// Left, lower, right and upper end of all letters about the place where the text is held, mm.
fn span(o: &Outline) -> [f64; 4] {
    let boxes = o.patches.iter().filter(|p| p.use_ == Use::Detail).filter_map(|p| p.rings[0].bounds());
    let b = boxes.reduce(kachel_geom::Bounds::union).unwrap();
    [(b.min.x - 600.0) * K, (300.0 - b.max.y) * K, (b.max.x - 600.0) * K, (300.0 - b.min.y) * K]
}

#[test]
fn capitals_are_as_high_as_they_are_typed_in_every_face() {
    for face in Face::ALL {
        let o =
            written(Text { words: if face == Face::Symbols { "♥".into() } else { "HH".into() }, face, ..text("") });
        let [left, low, right, high] = span(&o);
        assert!(right > left, "{face:?}");
        assert_eq!(o.astray, [], "{face:?}");
        // Faces without flat capitals (script, blackletter, signs) only come near.
        let is_flat = !matches!(face, Face::Brush | Face::Script | Face::Blackletter | Face::Symbols);
        if is_flat {
            near(low, 0.0, 0.1);
            near(high, 5.0, 0.15);
            near(left, -right, 0.5);
        }
    }
}

#[test]
fn pairs_are_kerned_and_spacing_adds_to_every_gap() {
    let width = |words: &str, spacing: f64| {
        let [left, _, right, _] = span(&written(Text { spacing, ..text(words) }));
        right - left
    };
    // 'AV' is the pair that every face with kerning brings together (common practice, no source).
    let apart = width("A", 0.0) + width("V", 0.0);
    assert!(width("AV", 0.0) < apart - 0.1, "{} of {apart}", width("AV", 0.0));
    near(width("HHH", 1.5) - width("HHH", 0.0), 3.0, 0.01);
}

#[test]
fn lines_are_apart_by_the_leading_and_held_where_it_says() {
    let one = span(&written(text("H")));
    let two = span(&written(text("H\nH")));
    near(one[1] - two[1], 1.6 * 5.0, 0.02);
    let left = span(&written(Text { align: Align::Left, ..text("HHHH") }));
    assert!(left[0] > 0.0 && left[0] < 1.0);
    let right = span(&written(Text { align: Align::Right, ..text("HHHH") }));
    assert!(right[2] < 0.0 && right[2] > -1.0);
}

#[test]
fn on_an_arc_every_letter_stands_on_the_circle() {
    for arc in [12.0f64, -12.0] {
        let o = written(Text { arc, ..text("IIIIIIIII") });
        let centre = Point::new(600.0, 300.0 + arc / K);
        let letters: Vec<_> = o.patches.iter().filter(|p| p.use_ == Use::Detail).collect();
        assert_eq!(letters.len(), 9);
        for p in letters {
            let far = p.rings[0].0.iter().map(|q| q.distance(centre) * K);
            let (near_end, far_end) = far.fold((f64::INFINITY, 0.0), |(l, h), d| (l.min(d), f64::max(h, d)));
            let (foot, head) = if arc > 0.0 { (near_end, far_end) } else { (far_end, near_end) };
            near(foot, 12.0, 0.15);
            near(head, 12.0 + arc.signum() * 5.0, 0.15);
        }
    }
}

#[test]
fn letters_that_a_face_lacks_are_told_and_leave_room() {
    let o = written(text("H☃H"));
    assert_eq!(o.astray[0].missing, ['☃']);
    let [left, _, right, _] = span(&o);
    let whole = span(&written(text("HH")));
    assert!(right - left > whole[2] - whole[0] + 0.5, "the place stays empty");
    assert_eq!(o.details.len(), 2);
    // Hebrew runs from right to left: the first letter is the right one. Gimel is narrower than Mem.
    let first_is_right = |words: &str| {
        let o = written(text(words));
        assert_eq!(o.astray, [], "{words}");
        let all = o.patches.iter().filter(|p| p.use_ == Use::Detail).filter_map(|p| p.rings[0].bounds());
        let mut widths: Vec<(f64, f64)> = all.map(|b| (b.min.x, b.width())).collect();
        widths.sort_by(|a, b| a.0.total_cmp(&b.0));
        widths[0].1 > widths[widths.len() - 1].1
    };
    assert!(first_is_right("\u{5d2}\u{5de}"), "gimel first, on the right, and the wider mem on the left");
    assert!(!first_is_right("\u{5de}\u{5d2}"));
}

#[test]
fn what_cannot_be_set_is_refused_in_words() {
    for (t, what) in [
        (text("  \n "), "letter"),
        (text(&"ab ".repeat(1700)), "500"),
        (text(&"a\n".repeat(30)), "20 lines"),
        (Text { size: f64::NAN, ..text("a") }, "high"),
        (Text { arc: 0.2, ..text("a") }, "radius"),
        (Text { spacing: 1e9, ..text("a") }, "spacing"),
        (Text { leading: -1.0, ..text("a") }, "apart"),
    ] {
        let c = Change::Text { text: t, at: [0.0, 0.0].into(), degrees: 0.0, use_: Use::Edge };
        assert!(c.refusal().is_some_and(|w| w.to_string().contains(what)), "{what}: {:?}", c.refusal());
    }
}
