//! Written text that reads backwards: after a mirror, a flip, and two of them.

use super::*;
use kachel_outline::{Align, Change, Face, Letters, Spot, Text, Use};

const PLATE: &str =
    "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 120 80'><path d='M10 10h100v60h-100z'/></svg>";

/// A plate 100 mm wide with text in its left half.
fn lettered(kind: RecipeKind) -> Design {
    let mut design = Design::from_bytes(PLATE.as_bytes());
    let text = Text {
        words: "FR".into(),
        face: Face::Slab,
        size: 10.0,
        spacing: 0.0,
        leading: 1.7,
        align: Align::Middle,
        arc: 0.0,
    };
    let write = Change::Text { text, at: Point::new(35.0, 40.0), degrees: 0.0, use_: Use::Detail };
    let recipe = TierEdit::SetRecipe { recipe: kind }.into();
    design.edit(&[recipe, width("100"), OutlineEdit::AddChange { change: write, before: None }.into()]).unwrap();
    design
}

fn spots(design: &Design) -> Vec<Spot> {
    let run = design.run();
    let patches = &run.outline.as_ref().unwrap().patches;
    patches.iter().filter(|p| p.letters.is_some()).map(Spot::of).collect()
}

fn add(design: &mut Design, change: Change) {
    design.edit(&[OutlineEdit::AddChange { change, before: None }.into()]).unwrap();
}

fn flip(design: &mut Design, is_copy: bool) {
    let change = Change::Place {
        on: spots(design),
        by: Point::new(if is_copy { 50.0 } else { 0.0 }, 0.0),
        degrees: 0.0,
        scale: 1.0,
        stretch: 1.0,
        flip: true,
        is_copy,
    };
    add(design, change);
}

fn mirror(design: &mut Design, through: f64, is_quarter: bool) {
    let change = Change::Mirror { on: spots(design), through: Point::new(through, 40.0), degrees: 90.0, is_quarter };
    add(design, change);
}

/// How many patches read as they were written, how many backwards; and what Check says.
fn read(design: &Design) -> (usize, usize, Option<FindingView>) {
    let run = design.run();
    let all: Vec<Letters> = run.outline.as_ref().unwrap().patches.iter().filter_map(|p| p.letters).collect();
    let right = all.iter().filter(|l| **l == Letters::Right).count();
    (right, all.len() - right, design.view().findings.into_iter().find(|f| f.code == "backwards"))
}

#[test]
fn text_reads_as_it_was_written_until_it_is_turned_over() {
    let mut design = lettered(RecipeKind::CutterStamp);
    let (right, backwards, told) = read(&design);
    assert_eq!((right, backwards, told.is_none()), (2, 0, true));
    flip(&mut design, false);
    let (right, backwards, told) = read(&design);
    assert_eq!((right, backwards), (0, 2));
    assert_eq!(told.unwrap().what, "Text reads backwards on the cookie, in 2 patches");
    // Twice over is right again.
    flip(&mut design, false);
    assert_eq!(read(&design).1, 0);
    assert!(read(&design).2.is_none());
}

#[test]
fn only_the_mirror_image_reads_backwards_and_both_mends_mend() {
    for (kind, words) in [(RecipeKind::Stamp, "in the print"), (RecipeKind::Coaster, "on the object")] {
        let mut design = lettered(kind);
        mirror(&mut design, 60.0, false);
        let (right, backwards, told) = read(&design);
        assert_eq!((right, backwards), (2, 2));
        let told = told.unwrap();
        assert_eq!((told.what.contains(words), told.places.len(), told.mends.len()), (true, 2, 2), "{}", told.what);
        // The places are on the side of the image: of a stamp, which is a mirror image itself, that is its left.
        let x = told.place.unwrap()[0];
        assert_eq!(x < 0.0, kind == RecipeKind::Stamp, "{x}");
        for mend in told.mends {
            let mut mended = design.clone();
            mended.edit(&mend.edits).unwrap();
            let (right, _, told) = read(&mended);
            assert!(told.is_none(), "{}", mend.words);
            assert!(
                right == 4 || mended.run().outline.unwrap().details.len() < design.run().outline.unwrap().details.len()
            );
        }
    }
}

#[test]
fn a_turned_image_reads_and_half_an_image_does_not() {
    // A quarter: two of the four are images of one line, one of both, which is only turned.
    let mut design = lettered(RecipeKind::CutterStamp);
    let change =
        Change::Mirror { on: spots(&design), through: Point::new(60.0, 60.0), degrees: 90.0, is_quarter: true };
    add(&mut design, change);
    let (right, backwards, _) = read(&design);
    assert_eq!(right, backwards, "{right} right, {backwards} backwards");
    assert!(right > 0);
    // A line through the letters.
    let mut design = lettered(RecipeKind::CutterStamp);
    mirror(&mut design, 32.0, false);
    assert!(read(&design).1 > 0 && read(&design).2.is_some());
    // A copy that is turned over reads backwards, what it was made of does not; put aside, nothing is said.
    let mut design = lettered(RecipeKind::CutterStamp);
    flip(&mut design, true);
    let (right, backwards, told) = read(&design);
    assert_eq!((right, backwards), (2, 2));
    design.edit(&told.unwrap().mends[1].edits).unwrap();
    assert!(read(&design).2.is_none());
}
