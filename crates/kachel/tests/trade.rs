//! Each recipe's object as it comes, measured on its mesh by rays and held against the trade. Common practice, no
//! source, where no other is named.

use kachel_engine::{Engine, Run, TierEdit};
use kachel_geom::Watch;
use kachel_oracle::crossing;
use kachel_solid::Mesh;
use kachel_tiers::{RecipeKind, Role, Stack};

/// An oval ring, 200 x 130 px, with a bar and a disc in it.
const DRAWING: &str = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 240 160'>
    <path fill-rule='evenodd' d='M20 80a100 65 0 1 0 200 0a100 65 0 1 0 -200 0ZM29 80a91 56 0 1 1 182 0a91 56 0 1 1 -182 0Z'/>
    <rect x='90' y='74' width='60' height='14'/><circle cx='120' cy='52' r='10'/></svg>";

/// A place on the bar, whatever the size, mm.
const BAR: (f64, f64) = (0.0, -0.3);

struct Object {
    run: Run,
}

/// The object of a recipe with all its defaults.
fn object(kind: RecipeKind) -> Object {
    let engine = Engine::default();
    let bytes = DRAWING.as_bytes().to_vec();
    let watch = Watch::default();
    let document = engine.new_document("Oval", "oval.svg", &bytes, &watch).unwrap();
    let read = || Ok(bytes.clone());
    let document =
        engine.apply(&document, &[TierEdit::SetRecipe { recipe: kind }.into()], &read, &watch).unwrap().unwrap();
    let run = engine.run(&document, &read, &watch);
    assert!(run.failed.is_none(), "{kind:?}: {:?}", run.failed);
    let told: Vec<String> = run.report.findings.iter().map(|f| f.what.to_string()).collect();
    assert!(told.is_empty(), "no default raises a finding, but {kind:?}: {told:?}");
    let solid = &run.solid.as_ref().unwrap().1;
    for mesh in solid.parts.iter().map(|p| &p.mesh).chain([&solid.skin]) {
        assert_eq!(crossing(&mesh.mesh().vertices, &mesh.mesh().triangles), None, "{kind:?}");
    }
    Object { run }
}

impl Object {
    fn mesh(&self) -> &Mesh {
        self.run.solid.as_ref().unwrap().1.skin.mesh()
    }

    fn stack(&self) -> &Stack {
        self.run.stack.as_ref().unwrap()
    }

    fn size(&self) -> [f64; 3] {
        let (low, high) = self.mesh().extent();
        [0, 1, 2].map(|k| high[k] - low[k])
    }

    /// Where a line along an axis enters and leaves the material; `at` are the other two places, in the order of the axes.
    fn along(&self, axis: usize, at: [f64; 2]) -> Vec<(f64, f64)> {
        let mesh = self.mesh();
        let (u, v) = [(1, 2), (0, 2), (0, 1)][axis];
        // Off whatever lies at a round number.
        let p = [at[0] + 1.234e-5, at[1] + 2.345e-5];
        let mut stops: Vec<f64> = Vec::new();
        for t in &mesh.triangles {
            let [a, b, c] = t.map(|i| mesh.vertices[i as usize].map(|s| f64::from(s) / kachel_engine::GRID_PER_MM));
            let side = |q: [f64; 3], r: [f64; 3]| (r[u] - q[u]) * (p[1] - q[v]) - (r[v] - q[v]) * (p[0] - q[u]);
            let [x, y, z] = [side(b, c), side(c, a), side(a, b)];
            if (x > 0.0 && y > 0.0 && z > 0.0) || (x < 0.0 && y < 0.0 && z < 0.0) {
                stops.push((x * a[axis] + y * b[axis] + z * c[axis]) / (x + y + z));
            }
        }
        stops.sort_by(f64::total_cmp);
        assert!(stops.len().is_multiple_of(2), "a closed mesh is left as often as it is entered");
        stops.chunks_exact(2).map(|s| (s[0], s[1])).collect()
    }

    /// From where to where the air round a place reaches, to the left and right of it.
    fn gap(&self, at: (f64, f64), z: f64) -> (f64, f64) {
        let row = self.along(0, [at.1, z]);
        row.windows(2).map(|w| (w[0].1, w[1].0)).find(|g| g.0 < at.0 && g.1 > at.0).unwrap()
    }

    /// The upper side of the object at a place.
    fn top(&self, x: f64, y: f64) -> f64 {
        self.along(2, [x, y]).last().map_or(0.0, |s| s.1)
    }

    /// Middle of the tiers of that role and op.
    fn middle(&self, role: Role) -> (f64, f64) {
        let tier = self.stack().tiers.iter().find(|t| t.role == role).unwrap();
        let c = tier.footprint.bounds().unwrap().centre();
        (c.x, c.y)
    }
}

fn near(got: f64, want: f64, slack: f64, what: &str) {
    assert!((got - want).abs() <= slack, "{what}: {got}, not {want}");
}

#[test]
fn the_cutter() {
    let o = object(RecipeKind::Cutter);
    assert!(o.stack().is_mirrored, "the tool is the mirror image");
    let walls = o.along(0, [0.0, 6.0]);
    let [left, right] = walls[..] else { panic!("two walls, not {walls:?}") };
    near(left.1 - left.0, 1.6, 0.01, "thickness of the wall");
    near(right.0 - left.1, 90.0, 0.02, "the cookie, between the inner faces");
    assert!((50.0..=100.0).contains(&(right.0 - left.1)));
    // The blade: 0.5 mm in over the last 3 mm, outside only, about 1 mm left at the tip.
    let tip = o.along(0, [0.0, 14.98])[0];
    near(tip.1 - tip.0, 1.1, 0.02, "thickness at the tip");
    near(tip.1, left.1, 0.005, "the inner side stays upright");
    near(o.along(0, [0.0, 12.0])[0].0, left.0, 0.005, "the taper begins 3 mm under the top");
    near(o.along(0, [0.0, 13.5])[0].0, left.0 + 0.25, 0.01, "half-way in, half-way up");
    // The flange: 3 mm out from the wall's outer face, 1.75 to 2 mm high.
    let foot = o.along(0, [0.0, 1.0])[0];
    near(foot.0, left.0 - 3.0, 0.01, "width of the flange");
    near(o.top(left.0 - 1.5, 0.0), 2.0, 0.01, "height of the flange");
    let [.., high] = o.size();
    assert!((10.0..=25.4).contains(&high), "{high} mm high");
    near(high / 0.2, 75.0, 1e-6, "layers of 0.2 mm");
}

#[test]
fn the_cutter_with_a_stamp() {
    let o = object(RecipeKind::CutterStamp);
    near(o.top(BAR.0, BAR.1), 15.0 - 3.0, 1e-6, "the stamp is 3 mm lower than the wall");
    let bars: Vec<_> = o.stack().tiers.iter().filter(|t| t.role == Role::Bar).collect();
    assert!(!bars.is_empty(), "loose parts are tied");
    bars.iter().for_each(|b| near(b.top.mm(), 2.0, 1e-9, "bars are as high as the flange"));
    assert_eq!(o.mesh().bodies().len(), 1, "all of one piece");
}

#[test]
fn the_stamp() {
    let o = object(RecipeKind::Stamp);
    assert!(o.stack().is_mirrored, "the print reads right");
    assert!(o.top(BAR.0, BAR.1) > 4.0, "the relief stands up from the plate: it prints face up");
    assert!(o.stack().tiers.iter().all(|t| t.bottom.mm() >= 0.0));
}

#[test]
fn the_coaster() {
    let o = object(RecipeKind::Coaster);
    let size = o.size();
    (0..2).for_each(|k| near(size[k], 80.0, 0.05, "across"));
    near(size[2], 5.0, 1e-6, "thickness");
    assert!(!o.stack().is_mirrored);
    // Engraved half-way, so that a cup stands flat: nothing is higher than the plate.
    let detail = o.stack().tiers.iter().find(|t| t.role == Role::Room).unwrap();
    near(detail.bottom.mm(), 2.5, 1e-6, "floor of the engraving");
    near(o.top(BAR.0, BAR.1), 2.5, 1e-6, "the bar is sunk");
    near(o.top(0.0, 37.0), 5.0, 1e-6, "the plate beside it");
}

#[test]
fn the_ornament() {
    let o = object(RecipeKind::Ornament);
    let hole = o.middle(Role::Room);
    let gap = o.gap(hole, 1.2);
    assert!((6.35..=7.6).contains(&(gap.1 - gap.0)), "0.25 to 0.3 in: {}", gap.1 - gap.0);
    near(f64::midpoint(gap.0, gap.1), 0.0, 0.1, "on the centre line of what is symmetric");
    near(o.top(hole.0, -20.0), 2.5, 0.02, "thickness of the body");
}

#[test]
fn the_magnet() {
    let o = object(RecipeKind::Magnet);
    let pocket = o.middle(Role::Room);
    let column = o.along(2, [pocket.0, pocket.1]);
    assert!(column[0].0 > 2.0, "open below, a roof of {:?} above a disc of 2 mm", column[0]);
    let row = o.along(0, [pocket.1, 1.0]);
    let gap = row.windows(2).map(|w| w[1].0 - w[0].1).fold(0.0, f64::max);
    assert!((6.1..=6.6).contains(&gap), "a disc of 6 mm with its clearance, not {gap}");
}

#[test]
fn the_key_tag() {
    let o = object(RecipeKind::KeyTag);
    let size = o.size();
    assert!(size[0].max(size[1]) <= 70.0, "at most 70 mm long: {size:?}");
    let hole = o.middle(Role::Room);
    let row = o.along(0, [hole.1, 1.5]);
    let gap = o.gap(hole, 1.5);
    near(gap.1 - gap.0, 5.0, 0.03, "across the hole");
    row.iter().for_each(|s| assert!(s.1 - s.0 > 2.0, "enough material round it: {row:?}"));
    let backing = o.stack().tiers.iter().find(|t| t.role == Role::Body).unwrap();
    near(backing.top.mm(), 3.0, 1e-9, "thickness");
}

#[test]
fn the_token() {
    let o = object(RecipeKind::Token);
    let size = o.size();
    (0..2).for_each(|k| near(size[k], 30.0, 0.03, "across"));
    near(size[2], 4.0 + 0.5, 1e-6, "4 mm thick, relief 0.5 mm");
}

#[test]
fn the_pendant() {
    let o = object(RecipeKind::Pendant);
    assert_eq!(o.mesh().bodies().len(), 1, "ring, lines, loop and bars hang together");
    let hole = o.middle(Role::Loop);
    let gap = o.gap(hole, 1.2);
    near(gap.1 - gap.0, 4.0, 0.03, "it has a loop to hang by");
}

#[test]
fn the_plaque() {
    let o = object(RecipeKind::Plaque);
    let (low, _) = o.mesh().extent();
    let detail = o.middle(Role::Detail);
    near(o.size()[2], 10.0, 1e-6, "lettering 5 mm above a base of 5 mm");
    assert!(o.top(detail.0, detail.1) > 4.9);
    // A corner of radius 5 (x^2 + y^2 = r^2): 1 mm from the edge it is 2 mm in.
    let row = o.along(0, [low[1] + 1.0, 2.0]);
    near(row[0].0 - low[0], 5.0 - (25.0f64 - 16.0).sqrt(), 0.03, "corner radius");
}
