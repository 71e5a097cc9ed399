//! Lines drawn by hand, nodes taken over, gaps.

use super::*;

fn draw(line: DrawnLine, width: Option<f64>) -> Change {
    Change::Draw { line, width, use_: Use::Detail }
}

/// What the last change made, mm2 in all.
fn made(change: Change) -> f64 {
    run(&[change]).details.iter().map(|d| d.1.area_mm2()).sum()
}

#[test]
fn a_closed_line_is_an_area_and_a_line_with_a_width_a_stroke() {
    let square = [[500.0, 300.0], [600.0, 300.0], [600.0, 400.0], [500.0, 400.0]];
    near(made(draw(drawn(&square, true), None)), 100.0, 1e-3);
    // An open line of 30 mm, 2 mm wide, with round ends and two round corners (a quarter disc of radius 1 outside, and a
    // square of 1 mm inside each that counts once).
    let stroke = 3.0 * 10.0 * 2.0 + PI + 2.0 * (PI / 4.0 - 1.0);
    near(made(draw(drawn(&square, false), Some(2.0))), stroke, 0.04);
    // Four cubics of the usual constant 0.5523 are a circle within 0.03 %.
    let (c, r, k) = ([600.0, 300.0], 50.0, 0.5523 * 50.0);
    let node = |x: f64, y: f64| Node {
        at: Point::new(c[0] + r * x, c[1] + r * y),
        before: Some(Point::new(c[0] + r * x + k * y, c[1] + r * y - k * x)),
        after: Some(Point::new(c[0] + r * x - k * y, c[1] + r * y + k * x)),
    };
    let circle =
        DrawnLine { nodes: vec![node(1.0, 0.0), node(0.0, 1.0), node(-1.0, 0.0), node(0.0, -1.0)], is_closed: true };
    near(made(draw(circle.clone(), None)), PI * 25.0, 0.1);
    let o = run(&[draw(circle, None)]);
    let patch = o.patches.iter().find(|p| p.use_ == Use::Detail).unwrap();
    assert_eq!(patch.curves[0].nodes(), 4, "a curve that crosses nothing stays a curve");
}

#[test]
fn a_line_that_crosses_itself_holds_all_it_goes_round() {
    // A bow tie: two triangles of 10 x 5 / 2 mm2.
    let bow = [[500.0, 300.0], [600.0, 400.0], [600.0, 300.0], [500.0, 400.0]];
    near(made(draw(drawn(&bow, true), None)), 50.0, 0.01);
    // The same square twice round is the square.
    let square = [[500.0, 300.0], [600.0, 300.0], [600.0, 400.0], [500.0, 400.0]];
    let twice: Vec<[f64; 2]> = square.iter().chain(&square).copied().collect();
    near(made(draw(drawn(&twice, true), None)), 100.0, 1e-3);
    // Pieces of no length do nothing; a line of nothing else is reported as empty.
    let stutter: Vec<[f64; 2]> = square.iter().flat_map(|p| [*p, *p, *p]).collect();
    near(made(draw(drawn(&stutter, true), None)), 100.0, 1e-3);
    // Two nodes closed are a line there and back.
    near(made(draw(drawn(&square[..2], true), Some(2.0))), 20.0 + PI, 0.04);
    assert_eq!(made(draw(drawn(&square[..2], true), None)), 0.0);
    assert!(made(draw(drawn(&[[500.0, 300.0], [500.0, 300.0 + 1e-9]], true), Some(2.0))) < 3.2);
    let o = run(&[draw(drawn(&[[500.0, 300.0]; 3], true), None)]);
    assert!(o.astray[0].is_empty, "{:?}", o.astray);
}

#[test]
fn an_open_line_says_its_gap_and_is_closed_straight_or_at_the_crossing() {
    // Three sides of a square of 10 mm, the fourth open by 10 mm.
    let open = drawn(&[[500.0, 300.0], [600.0, 300.0], [600.0, 400.0], [500.0, 400.0]], false);
    let o = run(&[draw(open.clone(), None)]);
    near(o.astray[0].gap.unwrap(), 10.0, 1e-9);
    near(made(draw(open.joined(), None)), 100.0, 1e-3);
    assert_eq!(open.extended(), None, "parallel ends never cross");
    // The two upper sides of a roof, cut off: extended they meet in its tip. Area of a triangle of 20 x 10 mm.
    let roof = drawn(&[[560.0, 360.0], [500.0, 300.0], [700.0, 300.0], [640.0, 360.0]], false);
    let whole = roof.extended().unwrap();
    assert_eq!(whole.nodes.last().unwrap().at, [600.0, 400.0].into());
    near(made(draw(whole, None)), 100.0, 1e-3);
    // Ends that lie on each other become one node.
    let mut back = open.clone();
    back.nodes.push(back.nodes[0]);
    assert_eq!(back.joined().nodes.len(), 4);
}

#[test]
fn lines_are_put_together_whichever_way_they_run() {
    let a = drawn(&[[0.0, 0.0], [10.0, 0.0]], false);
    let b = drawn(&[[10.5, 0.0], [20.0, 5.0]], false);
    let ends = |l: &DrawnLine| (l.nodes[0].at, l.nodes.last().unwrap().at, l.nodes.len());
    for (x, y) in
        [(a.clone(), b.clone()), (a.clone(), b.reversed()), (a.reversed(), b.clone()), (a.reversed(), b.reversed())]
    {
        let (p, q, n) = ends(&x.with(&y, 1.0).unwrap());
        assert_eq!(n, 4);
        let mut both = [p, q];
        both.sort_by(|s, t| s.x.total_cmp(&t.x));
        assert_eq!(both.map(Point::xy), [[0.0, 0.0], [20.0, 5.0]]);
    }
    assert_eq!(a.with(&b, 0.4), None);
}

#[test]
fn own_nodes_stand_in_for_the_patch_and_say_when_the_picture_moves_on() {
    let before = run(&[]);
    let patch = before.patches.iter().find(|p| p.contains(Point::new(LEFT.at.x, LEFT.at.y))).unwrap();
    let seen = Some(kachel_outline::Seen::of(patch));
    let lines = vec![drawn(&[[100.0, 100.0], [300.0, 100.0], [300.0, 300.0], [100.0, 300.0]], true)];
    let own = |on: Vec<Spot>, seen| Change::Nodes { on, lines: lines.clone(), use_: Use::Edge, seen };
    let o = run(&[own(vec![LEFT], seen)]);
    near(area(&o, [110.0, 110.0]), 400.0, 1e-3);
    assert_eq!(o.astray, [], "the picture is the one that was seen");
    // As if traced anew with another threshold: the disc was smaller when its nodes were taken over.
    let other = seen.map(|s| kachel_outline::Seen { area: s.area * 0.9, ..s });
    let o = run(&[own(vec![LEFT], other)]);
    near(area(&o, [110.0, 110.0]), 400.0, 1e-3);
    assert_eq!(o.astray[0].moved_on, seen, "it tells what the patch is like now");
    // Its patch is gone: a choice, not an error.
    let o = run(&[own(vec![Spot::new(Point::new(700.0, 50.0), true)], seen)]);
    assert_eq!((o.astray[0].lost.len(), o.astray[0].is_empty), (1, false));
    let o = run(&[own(vec![], None)]);
    assert_eq!((o.astray.len(), o.patches.len()), (0, before.patches.len() + 1), "for itself");
}

#[test]
fn lines_become_curves_and_curves_lines() {
    for_all(40, |random| {
        let place = |r: &mut Random| Point::<Px>::new(r.between(0.0, 100.0), r.between(0.0, 100.0));
        let nodes = (0..2 + random.below(8)).map(|_| Node {
            at: place(random),
            before: (random.below(2) == 0).then(|| place(random)),
            after: (random.below(2) == 0).then(|| place(random)),
        });
        let mut line = DrawnLine { nodes: nodes.collect(), is_closed: random.below(2) == 0 };
        if !line.is_closed {
            line.nodes[0].before = None;
            line.nodes.last_mut().unwrap().after = None;
        }
        let curve = line.curve().unwrap();
        let back = DrawnLine::of(&curve);
        assert_eq!(back.curve().unwrap(), curve);
        assert_eq!(back.nodes.len(), line.nodes.len());
    });
}
