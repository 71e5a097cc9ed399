//! Patches are known again: after a retrace, after an earlier change was altered, after what made them has moved.

use super::*;
use kachel_outline::{Likeness, Patch, Root, patch_at};

fn ink_at(o: &Outline, at: [f64; 2]) -> &Patch {
    let p = Point::new(at[0], at[1]);
    let hits = o.patches.iter().filter(|q| q.is_ink && q.contains(p));
    hits.min_by(|a, b| a.area_px2.total_cmp(&b.area_px2)).unwrap()
}

fn of_rings(rings: Vec<(Ring<Px>, Option<usize>, bool)>) -> Contours {
    Contours::of(
        800.0,
        600.0,
        rings.into_iter().map(|(r, parent, is_ink)| Contour::of_ring(r, parent, is_ink)).collect(),
    )
}

fn sized(c: &Contours, choices: &[Choice], changes: &[Change]) -> Outline {
    size_outline(
        c,
        &Wanted {
            choices,
            changes: &list(changes),
            guesses: Guesses::ByNesting,
            ..Wanted::of_size(Size::Scale { mm_per_px: K })
        },
        &Watch::default(),
    )
    .unwrap()
}

/// A ring whose middle line has the radius `r`, `w` px wide, with its gap and a dot in it; all of it shifted by `x`.
fn target(r: f64, w: f64, x: f64) -> Contours {
    of_rings(vec![
        (disc(300.0 + x, 300.0, r + w / 2.0, false), None, true),
        (disc(300.0 + x, 300.0, r - w / 2.0, true), Some(0), false),
        (disc(300.0 + x, 300.0, 12.0, false), Some(1), true),
    ])
}

#[test]
fn a_thin_ring_is_known_again_when_its_point_has_fallen_into_the_gap() {
    let before = sized(&target(100.0, 6.0, 0.0), &[], &[]);
    let ring = ink_at(&before, [300.0, 200.0]);
    let spot = Spot::of(ring);
    assert_eq!(spot.root, None, "it is as traced");
    // Thinner and larger: no point of the old ring lies in the new one.
    let moved = target(104.5, 2.0, 0.0);
    let o = sized(&moved, &[], &[grow(vec![spot], 0.5)]);
    assert_eq!(o.astray, [], "known by overlap and nesting");
    let width = (ink_at(&o, [300.0, 195.5]).rings[0].bounds().unwrap().width() - 2.0 * 105.5) * K;
    near(width, 1.0, 0.02);
    // Its use goes along, and the dot in its middle is not taken for it.
    let choice = Choice { spot, use_: Use::Both };
    let o = sized(&moved, &[choice], &[]);
    assert_eq!(o.lost, []);
    let uses: Vec<Use> = o.patches.iter().map(|p| p.use_).collect();
    assert_eq!(uses, [Use::Both, Use::Aside, Use::Detail]);
    // Without the likeness the point alone counts.
    assert_eq!(patch_at(&o.patches, &Spot::new(spot.at, true)), None);
    // What is nowhere near it is lost, and said to be.
    let far = target(40.0, 6.0, 300.0);
    assert_eq!(sized(&far, &[], &[grow(vec![spot], 0.5)]).astray[0].lost, [spot]);
    assert_eq!(sized(&far, &[choice], &[]).lost, [choice]);
}

#[test]
fn nesting_tells_alike_boxes_apart() {
    // Two rings in each other, nearly as large.
    let c = of_rings(vec![
        (disc(300.0, 300.0, 100.0, false), None, true),
        (disc(300.0, 300.0, 97.0, true), Some(0), false),
        (disc(300.0, 300.0, 94.0, false), Some(1), true),
    ]);
    let o = sized(&c, &[], &[]);
    for patch in &o.patches {
        let spot = Spot { at: [0.0, 0.0].into(), ..Spot::of(patch) };
        assert_eq!(patch_at(&o.patches, &spot).map(|k| o.patches[k].id), Some(patch.id));
    }
}

#[test]
fn what_follows_an_altered_change_follows_it() {
    // Left is moved far down; what was made of it then is done to it wherever it goes.
    let moved = |by: [f64; 2]| placed(vec![LEFT], by, 0.0, 1.0);
    let first = run(&[moved([0.0, 330.0])]);
    let spot = Spot::of(ink_at(&first, [140.0, 530.0]));
    assert!(matches!(spot.root, Some(Root::Traced { .. })), "{:?}", spot.root);
    let rim = Change::Rim { on: vec![spot], width: 2.0 };
    for by in [[0.0, 330.0], [400.0, 200.0], [30.0, -10.0], [0.0, 0.0]] {
        let o = run(&[moved(by), rim.clone()]);
        assert_eq!(o.astray, [], "moved by {by:?}");
        let middle = Point::new(200.0 + by[0], 200.0 + by[1]);
        let hole = o.patches.iter().find(|p| !p.is_ink && p.contains(middle)).unwrap();
        near(hole.rings[0].bounds().unwrap().width() * K, 16.0, 0.05);
    }
    // Switched off, the rim is that of the patch in its own place.
    let o = run(&[rim]);
    assert_eq!((o.astray.len(), o.patches.len()), (0, run(&[]).patches.len() + 1));
}

#[test]
fn letters_and_copies_are_known_by_what_made_them() {
    let words = |at: [f64; 2]| Change::Text { text: text("ab"), at: at.into(), degrees: 0.0, use_: Use::Detail };
    let o = run(&[words([650.0, 300.0])]);
    let letters: Vec<Spot> =
        o.patches.iter().filter(|p| p.rings[0].bounds().unwrap().min.x > 560.0).map(Spot::of).collect();
    let letters: Vec<Spot> = letters.into_iter().filter(|s| s.is_ink).collect();
    assert_eq!(letters.iter().map(Spot::made_by).collect::<Vec<_>>(), [Some(1), Some(1)]);
    let joined = Change::Bridge { on: letters.clone(), width: 0.5 };
    for at in [[650.0, 300.0], [700.0, 100.0], [500.0, 520.0]] {
        let o = run(&[words(at), joined.clone()]);
        assert_eq!(o.astray, [], "at {at:?}");
        assert_eq!(o.details.len(), 1, "one piece at {at:?}");
    }
    // Without the text its letters are gone; the disc that lies where one was is none of them.
    let on_left = run(&[words([200.0, 210.0])]);
    let a = on_left.patches.iter().map(Spot::of).find(|s| s.made_by() == Some(1) && s.is_ink).unwrap();
    let off = [Entry { is_on: false, ..list(&[words([200.0, 210.0])])[0].clone() }];
    let off = [off[0].clone(), Entry { id: 2, is_on: true, change: grow(vec![a], 0.4) }];
    let o = size_outline(
        &contours(),
        &Wanted { changes: &off, guesses: Guesses::ByNesting, ..Wanted::of_size(Size::Scale { mm_per_px: K }) },
        &Watch::default(),
    )
    .unwrap();
    assert_eq!(o.astray.iter().map(|x| (x.id, x.lost.len())).collect::<Vec<_>>(), [(2, 1)]);
    // A choice of a letter waits for the text that makes it.
    let choice = Choice { spot: a, use_: Use::Aside };
    let o = size_outline(
        &contours(),
        &Wanted {
            choices: &[choice],
            changes: &list(&[words([600.0, 400.0])]),
            guesses: Guesses::ByNesting,
            ..Wanted::of_size(Size::Scale { mm_per_px: K })
        },
        &Watch::default(),
    )
    .unwrap();
    assert_eq!((o.lost.len(), o.details.len()), (0, 1));
}

#[test]
fn pieces_of_a_cut_have_names_of_their_own() {
    let line = drawn(&[[200.0, 50.0], [200.0, 350.0]], false);
    let o = run(&[Change::Cut { on: vec![LEFT], line, gap: 0.0 }]);
    let halves: Vec<Spot> = [[150.0, 200.0], [250.0, 150.0]].iter().map(|at| Spot::of(ink_at(&o, *at))).collect();
    assert_ne!(halves[0].root, halves[1].root);
    for s in &halves {
        let k = patch_at(&o.patches, &Spot { at: [-500.0, 0.0].into(), like: None, ..*s }).unwrap();
        assert_eq!(Spot::of(&o.patches[k]), *s, "by its root alone");
    }
}

#[test]
fn lost_patches_can_be_replaced_or_done_without() {
    let [a, b, c, d] = [100.0, 200.0, 300.0, 400.0].map(|x| Spot::new(Point::new(x, 0.0), true));
    let mut change = Change::Join { on: vec![a, b, c] };
    change.repoint(&[b], &[d, a]);
    assert_eq!(change.spots(), [a, d, c], "in its place, none twice");
    change.repoint(&[a, c], &[]);
    assert_eq!(change.spots(), [d]);
    change.repoint(&[a], &[b]);
    assert_eq!(change.spots(), [d], "nothing is lost, nothing changes");
}

#[test]
fn names_move_along_with_a_turned_picture() {
    let mut spot = Spot {
        at: [10.0, 20.0].into(),
        is_ink: true,
        like: Some(Likeness { span: [5.0, 10.0, 40.0, 30.0], depth: 2 }),
        root: Some(Root::Traced { at: [11.0, 21.0].into(), like: Likeness { span: [0.0, 0.0, 4.0, 2.0], depth: 0 } }),
    };
    // A quarter turn of a picture that is 100 px high: right is down.
    spot.move_places(|p| Point::new(100.0 - p.y, p.x));
    assert_eq!(spot.at, [80.0, 10.0].into());
    assert_eq!(spot.like.unwrap().span, [70.0, 5.0, 90.0, 40.0]);
    assert_eq!(
        spot.root,
        Some(Root::Traced { at: [79.0, 11.0].into(), like: Likeness { span: [98.0, 0.0, 100.0, 4.0], depth: 0 } })
    );
    assert!(spot.is_finite());
    spot.move_places(|_| [f64::NAN, 0.0].into());
    assert!(!spot.is_finite());
}
