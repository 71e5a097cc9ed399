use super::*;
use kachel_geom::{Bounds, Mm, Point, Px, Region, Ring, Watch};
use kachel_outline::Outline;
use std::collections::BTreeMap;

fn square(half: f64) -> Region {
    let ring: Ring<Mm> = Ring(
        [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(|(x, y)| Point::new(x * half, y * half)).to_vec(),
    );
    Region::from_mm([&ring]).unwrap()
}

fn outline() -> Outline {
    Outline {
        patches: vec![],
        mm_per_px: 1.0,
        origin: Point::<Px>::new(0.0, 0.0),
        edge_px: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge_bounds: Bounds { min: Point::new(-20.0, -20.0), max: Point::new(20.0, 20.0) },
        edge: square(20.0),
        details: vec![],
        lost: vec![],
        astray: vec![],
    }
}

fn build(changed: &[(&str, f64)]) -> Result<Stack, TierError> {
    let changed: BTreeMap<String, f64> = changed.iter().map(|(n, v)| ((*n).to_string(), *v)).collect();
    let m = Measures::new(RecipeKind::Cutter.recipe(), &changed)?;
    cutter_stack(&cutter_footprints(&outline(), &m, &Watch::default())?, &m)
}

#[test]
fn defaults_are_those_of_the_trade() {
    // Common practice, no source: wall 1.6 mm thick and 15 mm high, flange 3 mm out and 2 mm high, stamp 3 mm lower.
    let m = Measures::new(RecipeKind::Cutter.recipe(), &BTreeMap::new()).unwrap();
    let want = [("wall-thickness", 1.6), ("wall-height", 15.0), ("flange-width", 3.0), ("flange-height", 2.0)];
    want.iter().for_each(|(n, v)| assert_eq!(m.get(n), *v, "{n}"));
    assert_eq!((m.get("stamp-under-wall"), m.get("margin")), (3.0, 0.0));
    for r in RECIPES {
        r.measures.iter().for_each(|s| s.check(s.default).unwrap());
    }
}

#[test]
fn a_square_cutter_has_steiners_areas_and_lies_on_the_bed() {
    let stack = build(&[]).unwrap();
    let area = |role| stack.tiers.iter().find(|t| t.role == role).unwrap().footprint.area_mm2();
    // Steiner: the ring between the offsets a and b of a convex shape has the area P (b - a) + pi (b^2 - a^2).
    let ring = |a: f64, b: f64| 160.0 * (b - a) + std::f64::consts::PI * (b * b - a * a);
    assert!((area(Role::Wall) - ring(0.0, 1.6)).abs() < 0.1);
    assert!((area(Role::Flange) - ring(1.6, 4.6)).abs() < 0.2);
    assert!(stack.is_mirrored && stack.tiers.iter().all(|t| t.bottom == Grid::default()));
}

#[test]
fn margin_moves_the_edge_and_no_flange_is_possible() {
    let stack = build(&[("margin", 2.0), ("flange-width", 0.0)]).unwrap();
    assert_eq!(stack.tiers.len(), 1);
    let b = stack.tiers[0].footprint.bounds().unwrap();
    assert!((b.max.x - 23.6).abs() < 1e-3, "20 + margin 2 + wall 1.6, not {}", b.max.x);
}

#[test]
fn the_section_shows_both_walls_to_scale() {
    let cuts = section(&build(&[]).unwrap(), 0.0);
    assert_eq!(cuts.len(), 4);
    let walls: Vec<_> = cuts.iter().filter(|c| c.role == Role::Wall).collect();
    assert!((walls[0].x.0 + 21.6).abs() < 1e-3 && (walls[0].x.1 + 20.0).abs() < 1e-3);
    assert_eq!(walls[1].z, (0.0, 15.0));
    assert!(section(&build(&[]).unwrap(), 99.0).is_empty());
}

#[test]
fn refuses_by_name_and_range() {
    let e = build(&[("wall-height", 1e9)]).unwrap_err();
    assert_eq!(e.to_string(), "Wall height: 1000000000 mm is outside 2 to 60 mm");
    assert!(build(&[("wall-height", f64::NAN)]).is_err());
    assert!(build(&[("wall", 2.0)]).unwrap_err().to_string().contains("wall-thickness"));
}
