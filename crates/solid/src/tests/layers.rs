//! Layers are what the stack covers, whatever the mesh's triangles are.

use super::slopes::{area, normal, random_stack, taper, topped};
use super::*;

#[test]
fn a_cutter_has_three_kinds_of_layers() {
    let (edge, wall, flange) =
        (rect(-20.0, -10.0, 20.0, 10.0), rect(-22.0, -12.0, 22.0, 12.0), rect(-25.0, -15.0, 25.0, 15.0));
    let solid = build(vec![
        add(flange.with_hole(&wall), 0.0, 2.0),
        add(wall.with_hole(&edge), 0.0, 15.0),
        add(rect(-5.0, -1.0, 5.0, 1.0), 0.0, 12.0),
    ])
    .unwrap();
    let layers = Layers::of(&solid.skin, LayerHeights::even(0.2)).unwrap();
    assert_eq!(layers.all.len(), 75);
    assert_eq!(layers.runs(), [(0, 10), (10, 50), (60, 15)]);
    // Four corners a ring: what the triangles of upright walls add is left out.
    let told: Vec<(f64, usize)> =
        [0, 10, 60].map(|k: usize| (layers.all[k].area.area_mm2(), layers.all[k].area.nodes())).to_vec();
    assert_eq!(told, [(1500.0 - 800.0 + 20.0, 12), (1056.0 - 800.0 + 20.0, 12), (1056.0 - 800.0, 8)]);
    let first = Layers::of(&solid.skin, LayerHeights { first: 0.3, others: 0.2 }).unwrap();
    assert_eq!((first.all[0].top, first.all[1].bottom, first.all.len()), (0.3, 0.3, 74));
}

#[test]
fn a_slope_is_cut_at_the_middle_of_each_layer() {
    let solid = build(vec![topped(add(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 6.0), taper(2.0, 6.0))]).unwrap();
    for layer in Layers::of(&solid.skin, LayerHeights::even(0.2)).unwrap().all {
        let side = 20.0 - 2.0 * 2.0 * f64::midpoint(layer.bottom, layer.top) / 6.0;
        assert!((layer.area.area_mm2() - side * side).abs() < 0.01, "{layer:?}");
    }
}

#[test]
fn layers_of_random_stacks_are_what_plane_booleans_say() {
    for_all(16, |random| {
        let tiers = random_stack(random);
        let Ok(solid) = build(tiers.clone()) else { return };
        let stack = Stack { tiers: tiers.clone(), ..Stack::default() };
        let levels: Vec<f64> =
            slice(&stack, &Plans::default(), &Watch::default()).unwrap().levels.iter().map(|g| g.mm()).collect();
        let layers = Layers::of(&solid.skin, LayerHeights { first: 0.25, others: 0.37 }).unwrap();
        // No layer is left out, and none is above the object.
        let top = solid.skin.mesh().extent().1[2];
        let last = layers.all.last().unwrap();
        assert!(f64::midpoint(last.bottom, last.top) < top && last.top + 0.37 / 2.0 >= top);
        for layer in &layers.all {
            let z = f64::midpoint(layer.bottom, layer.top);
            let Some(pair) = levels.windows(2).find(|p| p[0] < z && z < p[1]) else { continue };
            let truth = area(&tiers, z, (pair[0], pair[1]));
            let got = normal(&layer.area).area_mm2();
            assert!((got - truth).abs() < 0.02 + 1e-3 * truth, "at {z}: {got} against {truth}");
        }
    });
}
