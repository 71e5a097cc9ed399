//! Holes and loops, and plates' corners: places and areas by plane geometry.

use super::*;

const PI: f64 = std::f64::consts::PI;

fn hung(kind: RecipeKind, changed: &[(&str, f64)]) -> (Stack, Hung) {
    let stack = of(kind, changed);
    let hung = stack.hung.unwrap();
    (stack, hung)
}

/// The body of a stack, and the ring of filament that has to be round its hole.
fn body_and_ring(stack: &Stack, hung: Hung, key: &str, round: f64) -> (Region, Region) {
    let body = stack.tiers.iter().find(|t| t.key == key).unwrap().footprint.clone();
    let disc = |across: f64| {
        let ring = Ring(
            (0..256)
                .map(|k| {
                    let a = f64::from(k) * PI / 128.0;
                    Point::<Mm>::new(hung.at.x + across / 2.0 * a.cos(), hung.at.y + across / 2.0 * a.sin())
                })
                .collect(),
        );
        Region::from_mm([&ring]).unwrap()
    };
    let ring = disc(hung.across + 2.0 * round - 0.02).with_hole(&disc(hung.across));
    ((*body).clone(), ring)
}

#[test]
fn a_hole_lies_where_it_is_typed_with_filament_round_it_and_holds() {
    // The body is a square of 40 mm about the middle: in it, near its edge, over its corner, outside, far outside.
    for (x, y) in [(5.0, 3.0), (19.0, 0.0), (20.0, 20.0), (24.5, -7.0), (40.0, 12.0), (-3.0, -60.0)] {
        let changed = [("hole-at", 1.0), ("hole-x", x), ("hole-y", y), ("hole", 6.0), ("hole-round", 2.4)];
        for (kind, key) in [(RecipeKind::Ornament, "body"), (RecipeKind::KeyTag, "backing")] {
            let (stack, hung) = self::hung(kind, &changed);
            assert_eq!(stack.doubts.iter().filter(|d| d.kind == DoubtKind::BreaksOut).count(), 0);
            assert!(hung.at.distance(Point::new(x, y)) < 1e-9, "{kind:?}: {hung:?}");
            let (body, ring) = body_and_ring(&stack, hung, key, 2.4);
            let bare = kachel_geom::combine(&ring, &body, kachel_geom::BoolOp::TakeAway).unwrap();
            assert!(bare.area_mm2() < 0.05, "{kind:?} at {x}, {y}: {} mm2 of the ring are missing", bare.area_mm2());
            // It holds by more than a line: opened by 0.8 mm it is one piece still.
            let opened = kachel_geom::offset(&body, -0.8).unwrap();
            assert_eq!(crate::tie::pieces(&opened).len(), 1, "{kind:?} at {x}, {y}");
            let cut = stack.tiers.iter().find(|t| t.key == "hole").unwrap();
            assert!((cut.footprint.area_mm2() - PI * 9.0).abs() < 0.05);
        }
    }
}

#[test]
fn a_hole_goes_along_the_edge_clockwise() {
    // From the middle of the upper side of a square of 40 mm: 20 mm to its corner, 20 more to the middle of the right side.
    let usual = hung(RecipeKind::Ornament, &[]).1.at;
    let off = usual.y - 20.0;
    for (along, out, at) in [
        (0.0, 0.0, (0.0, 20.0 + off)),
        (40.0, 0.0, (20.0 + off, 0.0)),
        (-40.0, 1.5, (-21.5 - off, 0.0)),
        (80.0, -12.0, (0.0, -8.0 - off)),
        (165.0, 0.0, (5.0, 20.0 + off)),
    ] {
        let (_, hung) = hung(RecipeKind::Ornament, &[("hole-at", 2.0), ("hole-along", along), ("hole-out", out)]);
        assert!(hung.at.distance(Point::new(at.0, at.1)) < 1e-3, "{along}: {:?} against {at:?}", hung.at);
    }
}

#[test]
fn a_hole_inside_near_the_edge_gets_a_boss() {
    // 30 mm across with 20 mm round it, in a square of 40 mm: the boss reaches out, and nothing breaks.
    let (stack, hung) = hung(RecipeKind::Ornament, &[("hang", 1.0), ("hole", 30.0), ("hole-round", 20.0)]);
    assert_eq!(stack.doubts, []);
    let (body, ring) = body_and_ring(&stack, hung, "body", 20.0);
    let bare = kachel_geom::combine(&ring, &body, kachel_geom::BoolOp::TakeAway).unwrap();
    assert!(bare.area_mm2() < 0.05);
}

#[test]
fn each_corner_of_a_plate_has_a_radius_of_its_own() {
    // A square less (1 - pi / 4) r^2 at each corner.
    let radii = [("corner-upper-left", 12.0), ("corner-upper-right", 0.0), ("corner-lower-left", 3.0)];
    let mut changed = vec![("form", 1.0), ("corners", 1.0)];
    changed.extend(radii);
    let stack = of(RecipeKind::Coaster, &changed);
    let lost = (1.0 - PI / 4.0) * (144.0 + 9.0 + 36.0);
    assert!((area(&stack, "plate") - (6400.0 - lost)).abs() < 0.2);
    let plate = &stack.tiers.iter().find(|t| t.key == "plate").unwrap().footprint;
    let is_in = |x: f64, y: f64| plate.winding(Point::new(x, y)) != 0;
    assert!(is_in(39.9, 39.9) && !is_in(-39.9, 39.9) && !is_in(-39.5, -39.5) && is_in(-39.0, -39.0));
}
