use super::*;
use kachel_design::{Infill, PrintOrder, PrintSettings};
use kachel_geom::{BoolOp, Grid, Mm, Point, Pose, Region, Ring, Watch, combine, join_all, stroke};
use kachel_oracle::{Random, for_all};
use kachel_solid::{Sheets, Solid, arrange, extrude};
use kachel_tiers::{Op, Plans, Role, Stack, Tier, slice};
use std::f64::consts::TAU;

fn region(points: &[(f64, f64)]) -> Region {
    Region::from_mm([&Ring(points.iter().map(|&(x, y)| Point::<Mm>::new(x, y)).collect())]).unwrap()
}

fn rect(x0: f64, y0: f64, x1: f64, y1: f64) -> Region {
    region(&[(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
}

fn disc(r: f64) -> Region {
    let at = |k: u32| TAU * f64::from(k) / 720.0;
    region(&(0..720).map(|k| (r * at(k).cos(), r * at(k).sin())).collect::<Vec<_>>())
}

fn solid(tiers: &[(Region, f64, f64, Op, u32)]) -> Solid {
    let tier = |(area, from, to, op, part): &(Region, f64, f64, Op, u32)| {
        let heights = (Grid::from_mm(*from).unwrap(), Grid::from_mm(*to).unwrap());
        Tier::upright(Role::Body, area.clone(), heights, *op, *part)
    };
    let stack = Stack { tiers: tiers.iter().map(tier).collect(), ..Stack::default() };
    let watch = Watch::default();
    let slices = slice(&stack, &Plans::default(), &watch).unwrap();
    extrude(&arrange(&slices, &Sheets::default(), &watch).unwrap(), &stack, &slices, &watch).unwrap()
}

fn printed(s: &Solid, settings: &PrintSettings) -> Rehearsal {
    let parts: Vec<_> = s.parts.iter().map(|p| (p.number, &p.mesh)).collect();
    rehearse(&Job { skin: &s.skin, parts: &parts, layer: 0.2, line: 0.4, settings }, &Watch::default()).unwrap()
}

fn bare() -> PrintSettings {
    PrintSettings { skirt: 0, heating: 0.0, layer_time: 0.0, ..PrintSettings::default() }
}

fn filled_solid() -> PrintSettings {
    PrintSettings { infill: 100.0, ..bare() }
}

fn length(r: &Rehearsal, layer: usize, kind: Kind) -> f64 {
    let all = r.layers[layer].parts.iter().flat_map(|p| &p.lines).flat_map(|l| l.iter());
    all.filter(|l| l.kind == kind).map(Lines::length).sum()
}

#[test]
fn a_trapezoid_takes_what_the_handbook_says() {
    // t = s / v + v / a where the speed is reached, 2 sqrt(s / a) where it is not (uniform acceleration, any physics handbook).
    let m = Motion { speed: 50.0, acceleration: 1000.0 };
    let line = |long: f64| seconds_along(&[Point::new(0.0, 0.0), Point::new(long, 0.0)], false, m);
    assert!((line(100.0) - (2.0 + 0.05)).abs() < 1e-12);
    assert!((line(1.0) - 2.0 * (1.0f64 / 1000.0).sqrt()).abs() < 1e-12);
    // Divided into pieces it takes the same time; with a corner more; back on itself it stops.
    let pieces: Vec<Point<Mm>> = (0..=50).map(|k| Point::new(2.0 * f64::from(k), 0.0)).collect();
    assert!((seconds_along(&pieces, false, m) - line(100.0)).abs() < 1e-9);
    let corner = [(0.0, 0.0), (50.0, 0.0), (50.0, 50.0)].map(|(x, y)| Point::new(x, y));
    let turned = seconds_along(&corner, false, m);
    assert!(turned > line(100.0) + 0.02 && turned < 2.0 * line(50.0), "{turned}");
    let back = [(0.0, 0.0), (50.0, 0.0), (0.0, 0.0)].map(|(x, y)| Point::new(x, y));
    assert!((seconds_along(&back, false, m) - 2.0 * line(50.0)).abs() < 1e-9);
    assert_eq!(seconds_along(&[Point::new(1.0, 1.0); 3], false, m), 0.0);
}

#[test]
fn walls_of_squares_discs_and_annuli_are_as_long_as_by_hand() {
    // A square of 20 mm: rings 0.2, 0.6 and 1.0 mm inside its border.
    let square = printed(&solid(&[(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 4.0, Op::Add, 0)]), &bare());
    assert_eq!(square.layers.len(), 20);
    assert!((length(&square, 9, Kind::Outer) - 4.0 * 19.6).abs() < 1e-3);
    assert!((length(&square, 9, Kind::Inner) - 4.0 * (18.8 + 18.0)).abs() < 1e-3);
    // Inside of them 17.6 mm: a layer in the middle is filled by 15 %, the lowest wholly.
    let inside = 17.6 * 17.6;
    let sparse = length(&square, 9, Kind::Infill) * 0.4;
    assert!((sparse / (0.15 * inside) - 1.0).abs() < 0.04, "{sparse} of {inside}");
    assert!((length(&square, 0, Kind::Solid) * 0.4 / inside - 1.0).abs() < 0.01);
    assert_eq!(length(&square, 9, Kind::Solid), 0.0);
    let round = printed(&solid(&[(disc(15.0), 0.0, 2.0, Op::Add, 0)]), &bare());
    assert!((length(&round, 5, Kind::Outer) - TAU * 14.8).abs() < 0.02);
    // Two walls of an annulus 1.2 mm wide leave 0.4 mm between them for one more.
    let ring = disc(10.0).with_hole(&disc(8.8));
    let ring = printed(&solid(&[(ring, 0.0, 2.0, Op::Add, 0)]), &bare());
    assert!((length(&ring, 5, Kind::Outer) - TAU * (9.8 + 9.0)).abs() < 0.05);
    let between = length(&ring, 5, Kind::Thin);
    assert!((between - TAU * 9.4).abs() < 0.3, "{between}");
}

#[test]
fn what_is_thin_is_one_line_as_wide_as_it_is_and_what_is_thinner_is_left_out() {
    for width in [0.3, 0.55, 0.7] {
        let strip = printed(&solid(&[(rect(0.0, 0.0, 30.0, width), 0.0, 1.0, Op::Add, 0)]), &filled_solid());
        let lines: Vec<&Lines> = strip.layers[2].parts[0].lines.iter().flat_map(|l| l.iter()).collect();
        assert!(lines.iter().all(|l| l.kind == Kind::Thin && (l.width - width).abs() < 0.01), "{lines:?}");
        let long: f64 = lines.iter().map(|l| l.length()).sum();
        assert!((long - 30.0).abs() < 0.6, "{width}: {long}");
    }
    let hair = printed(&solid(&[(rect(0.0, 0.0, 30.0, 0.15), 0.0, 1.0, Op::Add, 0)]), &filled_solid());
    assert!((hair.layers[2].left_out - 4.5).abs() < 0.1 && hair.uses[0].volume == 0.0);
}

#[test]
fn a_lid_and_a_floor_are_solid_where_they_are_open() {
    // A block with a step: the lower half of its top is open at 2 mm.
    let step =
        [(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 2.0, Op::Add, 0), (rect(-10.0, -10.0, 0.0, 10.0), 2.0, 5.0, Op::Add, 0)];
    let r = printed(&solid(&step), &bare());
    assert_eq!(r.layers.len(), 25);
    // Layer 9 (1.6 to 1.8 mm): solid under the open half, in part under the other.
    let (full, part) = (length(&r, 8, Kind::Solid) * 0.4, length(&r, 8, Kind::Infill));
    assert!((full - 17.6 * 8.8).abs() < 17.6 * 0.9 && part > 10.0, "{full} {part}");
    assert_eq!(length(&r, 5, Kind::Solid), 0.0, "six layers lie over this one");
    assert!(length(&r, 24, Kind::Infill) == 0.0 && length(&r, 24, Kind::Solid) > 100.0);
}

#[test]
fn each_pattern_fills_as_much_as_it_says_and_stays_inside() {
    // A disc of 40 mm: three walls leave 77.6 mm across. Sums of lengths over an area converge on density / width.
    let s = solid(&[(disc(40.0), 0.0, 4.0, Op::Add, 0)]);
    let inside = TAU / 2.0 * 38.8 * 38.8;
    for pattern in [Infill::Lines, Infill::Grid, Infill::Honeycomb, Infill::Concentric] {
        for infill in [5.0, 15.0, 40.0] {
            let r = printed(&s, &PrintSettings { pattern, infill, ..bare() });
            let share = length(&r, 9, Kind::Infill) * 0.4 / inside * 100.0;
            // Of few lines one more or less counts.
            let most = if infill < 10.0 { 0.1 } else { 0.05 };
            assert!((share / infill - 1.0).abs() < most, "{pattern:?}: {share} for {infill} %");
            let lines = r.layers[9].parts[0].lines.iter().flat_map(|l| l.iter()).filter(|l| l.kind == Kind::Infill);
            let far = lines.flat_map(|l| &l.points).map(|p| p.x.hypot(p.y)).fold(0.0, f64::max);
            assert!(far < 38.82, "{pattern:?} reaches {far} mm");
        }
    }
}

#[test]
fn honeycomb_has_six_equal_sides_and_its_lines_lie_beside_each_other() {
    let s = solid(&[(rect(-40.0, -40.0, 40.0, 40.0), 0.0, 4.0, Op::Add, 0)]);
    let r = printed(&s, &PrintSettings { pattern: Infill::Honeycomb, infill: 15.0, ..bare() });
    let lines: Vec<&Lines> = r.layers[9].parts[0].lines.iter().flat_map(|l| l.iter()).collect();
    let waves: Vec<&&Lines> = lines.iter().filter(|l| l.kind == Kind::Infill).collect();
    // Regular hexagons by hand: rise = 4 w / (3 d) - w, a side = 2 rise / sqrt(3).
    let side = 2.0 * (4.0 * 0.4 / (3.0 * 0.15) - 0.4) / 3.0f64.sqrt();
    for wave in &waves {
        for p in wave.points.windows(2).skip(1).rev().skip(1) {
            assert!((p[0].distance(p[1]) - side).abs() < 1e-9, "{}", p[0].distance(p[1]));
        }
    }
    // The highest places of a wave lie a line's width under the lowest of the next.
    let reach =
        |l: &Lines| l.points.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), p| (a.min(p.y), b.max(p.y)));
    let mut full: Vec<(f64, f64)> = waves.iter().filter(|l| l.points.len() > 10).map(|l| reach(l)).collect();
    full.sort_by(|a, b| a.0.total_cmp(&b.0));
    assert!(full.len() >= 20 && full.windows(2).all(|w| (w[1].0 - w[0].1 - 0.4).abs() < 1e-9), "{full:?}");
}

#[test]
fn the_outer_wall_comes_when_it_is_said_to() {
    let s = solid(&[(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 2.0, Op::Add, 0)]);
    for outer_first in [false, true] {
        let r = printed(&s, &PrintSettings { outer_first, ..bare() });
        let kinds: Vec<Kind> = r.layers[5].parts[0].lines.iter().filter_map(|l| l.first()).map(|l| l.kind).collect();
        let walls = if outer_first { [Kind::Outer, Kind::Inner] } else { [Kind::Inner, Kind::Outer] };
        assert_eq!(kinds, [walls[0], walls[1], Kind::Infill]);
    }
}

/// A blob of random nodes.
fn blob(random: &mut Random, r: f64, nodes: u32) -> Region {
    let wobble: Vec<f64> = (0..nodes).map(|_| random.between(0.75, 1.0)).collect();
    let at = |k: u32| TAU * f64::from(k) / f64::from(nodes);
    region(
        &(0..nodes)
            .map(|k| (r * wobble[k as usize] * at(k).cos(), r * wobble[k as usize] * at(k).sin()))
            .collect::<Vec<_>>(),
    )
}

#[test]
fn solid_prints_hold_their_volume_stay_inside_and_leave_no_room() {
    for_all(8, |random| {
        let outer = blob(random, 18.0, 12);
        let hole = blob(random, 5.0, 9);
        let top = blob(random, 12.0, 10);
        let s = solid(&[(outer.with_hole(&hole), 0.0, 2.0, Op::Add, 0), (top, 2.0, 3.0, Op::Add, 0)]);
        let r = printed(&s, &filled_solid());
        let truth = s.skin.mesh().volume();
        let share = r.uses[0].volume / truth - 1.0;
        assert!(share.abs() < 0.01, "{share}");
        let layers = kachel_solid::Layers::of(&s.skin, kachel_solid::LayerHeights::even(0.2)).unwrap();
        for k in [2, 12] {
            let area = &layers.all[k].area;
            let strokes: Vec<Region> = r.layers[k].parts[0]
                .lines
                .iter()
                .flat_map(|l| l.iter())
                .map(|l| stroke(&l.points, l.width, l.is_closed).unwrap())
                .collect();
            let laid = join_all(&strokes).unwrap();
            // Ends of lines are round here: they reach half a width further than what is laid.
            let walls: Vec<&Lines> = r.layers[k].parts[0].lines[0].iter().filter(|l| l.kind != Kind::Thin).collect();
            let walls: Vec<Region> = walls.iter().map(|l| stroke(&l.points, l.width - 0.04, true).unwrap()).collect();
            let out = combine(&join_all(&walls).unwrap(), area, BoolOp::TakeAway).unwrap();
            assert!(out.area_mm2() < 0.02, "{} mm2 outside", out.area_mm2());
            let bare = combine(area, &laid, BoolOp::TakeAway).unwrap().area_mm2();
            assert!(bare < 0.01 * area.area_mm2(), "{bare} mm2 of {} bare", area.area_mm2());
        }
    });
}

#[test]
fn changes_of_filament_are_told_with_height_and_time() {
    let two =
        [(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 2.0, Op::Add, 0), (rect(-5.0, -5.0, 5.0, 5.0), 2.0, 3.0, Op::Add, 1)];
    let settings = bare();
    let r = printed(&solid(&two), &settings);
    assert_eq!(r.stops.len(), 1);
    let stop = r.stops[0];
    assert_eq!((stop.layer, stop.filament), (11, 1));
    assert!((stop.height - 2.0).abs() < 1e-9 && (stop.at - r.layers[9].until).abs() < 1e-9);
    assert_eq!((r.uses[0].purged, r.uses[1].purged), (0.0, settings.purge));
    assert!(r.layers[10].seconds > settings.change);
    let sum: f64 = r.layers.iter().map(|l| l.seconds).sum();
    assert!((r.seconds - sum).abs() < 1e-6 && (r.layers.last().unwrap().until - r.seconds).abs() < 1e-9);
}

#[test]
fn what_is_printed_one_by_one_is_finished_before_the_next_begins() {
    let block = |high: f64| solid(&[(rect(-5.0, -5.0, 5.0, 5.0), 0.0, high, Op::Add, 0)]);
    let (low, high) = (block(1.0), block(2.0));
    let settings = bare();
    let laid = |s: &Solid| {
        let job = Job { skin: &s.skin, parts: &[(0, &s.skin)], layer: 0.2, line: 0.4, settings: &settings };
        lay(&job, &KnownWalls::default(), &Watch::default()).unwrap()
    };
    let (low, high) = (laid(&low), laid(&high));
    let at = |y: f64| Pose { x: 50.0, y, degrees: 0.0 };
    // The one further back is named first, and printed last.
    let objects = [
        Object { laid: &high, pose: at(90.0), filaments: &[0] },
        Object { laid: &low, pose: at(30.0), filaments: &[1] },
    ];
    let printed = |order| print(&objects, 0.4, &settings, order, &Watch::default()).unwrap();
    let (together, one_by_one) = (printed(PrintOrder::Together), printed(PrintOrder::OneByOne));
    assert_eq!((together.layers.len(), one_by_one.layers.len()), (10, 5 + 10));
    let whose: Vec<usize> = one_by_one.layers.iter().map(|l| l.parts[0].object.unwrap()).collect();
    assert_eq!(whose, [[1; 5].to_vec(), [0; 10].to_vec()].concat());
    assert!(one_by_one.layers.iter().all(|l| l.parts.len() == 1) && one_by_one.layers[5].bottom == 0.0);
    // A change in each of the five layers that both have and one after them, or one between the two.
    assert_eq!((together.stops.len(), one_by_one.stops.len()), (6, 1));
    assert_eq!((one_by_one.stops[0].layer, one_by_one.stops[0].height), (6, 0.0));
    let volume = |r: &Rehearsal| r.uses.iter().map(|u| u.volume).sum::<f64>();
    assert!((volume(&together) - volume(&one_by_one)).abs() < 1e-9);
}

#[test]
fn walls_that_are_known_are_not_made_anew() {
    let s = solid(&[(disc(15.0), 0.0, 4.0, Op::Add, 0), (disc(9.0), 4.0, 8.0, Op::Add, 0)]);
    let (known, watch) = (KnownWalls::default(), Watch::default());
    let laid = |settings: &PrintSettings| {
        let job = Job { skin: &s.skin, parts: &[(0, &s.skin)], layer: 0.2, line: 0.4, settings };
        lay(&job, &known, &watch).unwrap()
    };
    laid(&bare());
    let count = known.len();
    assert_eq!(count, 2, "two areas");
    laid(&PrintSettings { infill: 40.0, pattern: Infill::Grid, ..bare() });
    laid(&PrintSettings { outer_first: true, fill_speed: 20.0, ..bare() });
    assert_eq!(known.len(), count);
    laid(&PrintSettings { walls: 2, ..bare() });
    assert_eq!(known.len(), 2 * count);
}

#[test]
fn times_are_those_that_makers_know() {
    // Common practice, no source: a block of 50 layers and 10 mm takes about an hour and a half (of 60 x 60 mm), a key tag of
    // 65 mm and 3 mm thick 30 to 40 minutes.
    let minutes = |s: &Solid| printed(s, &PrintSettings::default()).seconds / 60.0;
    let block = minutes(&solid(&[(rect(-30.0, -30.0, 30.0, 30.0), 0.0, 10.0, Op::Add, 0)]));
    assert!((75.0..=105.0).contains(&block), "block: {block}");
    let tag = minutes(&solid(&[(rect(-32.5, -17.5, 32.5, 17.5), 0.0, 3.0, Op::Add, 0)]));
    assert!((30.0..=40.0).contains(&tag), "tag: {tag}");
    // A cutter 55 mm across with a wall 12.25 mm high, of two lines: 14 to 20 minutes.
    let wall = minutes(&solid(&[(disc(27.5).with_hole(&disc(26.7)), 0.0, 12.25, Op::Add, 0)]));
    assert!((14.0..=20.0).contains(&wall), "cutter: {wall}");
}

#[test]
fn skirt_and_brim_lie_round_the_object_on_the_bed_only() {
    let s = solid(&[(rect(-10.0, -10.0, 10.0, 10.0), 0.0, 1.0, Op::Add, 0)]);
    let r = printed(&s, &PrintSettings { skirt: 2, brim: 2.0, ..bare() });
    assert!(length(&r, 0, Kind::Brim) > 5.0 * 80.0 && length(&r, 0, Kind::Skirt) > 2.0 * 100.0);
    assert_eq!(length(&r, 1, Kind::Brim) + length(&r, 1, Kind::Skirt), 0.0);
}
