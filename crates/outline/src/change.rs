//! Changes of the outline: an ordered list of what is done to the sized patches. Each can be reopened, changed, moved,
//! switched off and removed, and what follows it follows.
//!
//! Places are in pixels of the picture, so that they stay on it when its size changes; lengths are in millimetres, so
//! that a typed 2 mm stays 2 mm. Angles run anticlockwise as the picture reads.

use crate::{OutlineError, Patch, PatchId, Place, Use};
use kachel_geom::{
    BoolOp, Curve, Mm, OffGrid, Point, Px, Region, Ring, Watch, combine, interior_point, join_all, normalise, offset,
};
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Most entries of a list.
pub const MAX_CHANGES: usize = 2000;
/// Most times a patch is repeated.
pub const TIMES_RANGE: (u8, u8) = (2, 24);
/// Lengths of shapes, rims and growth, mm.
pub const LENGTH_RANGE_MM: (f64, f64) = (0.05, 400.0);
/// Overlaps under this (mm2) come from rounding.
const SLIVER_MM2: f64 = 0.02;
/// Largest distance (mm) of a drawn arc from its chords.
const ARC_MM: f64 = 0.004;

/// A patch, named by a point in it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Spot {
    /// A point in it, pixels of the picture.
    pub at: [f64; 2],
    /// Whether ink or a gap is meant.
    pub is_ink: bool,
}

/// A shape of its own; lengths in mm.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(tag = "form", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Shape {
    /// A circle, or longer one way.
    Ellipse {
        /// Width.
        width: f64,
        /// Height.
        height: f64,
    },
    /// A rectangle.
    Rectangle {
        /// Width.
        width: f64,
        /// Height.
        height: f64,
        /// Radius of its corners.
        corner: f64,
    },
    /// A regular polygon.
    Polygon {
        /// 3 to 60.
        sides: u8,
        /// Across its corners.
        width: f64,
    },
    /// A star.
    Star {
        /// 3 to 60.
        points: u8,
        /// Across its tips.
        width: f64,
        /// Across its inner corners.
        inner: f64,
    },
    /// A ring.
    Ring {
        /// Across.
        width: f64,
        /// Across its hole.
        hole: f64,
    },
}

/// What is done.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(tag = "do", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Change {
    /// Makes one of them.
    Join {
        /// The patches; the first one's use and colour stay.
        on: Vec<Spot>,
    },
    /// Takes the second ones away from the first ones; they themselves are put aside.
    TakeAway {
        /// What stays, without.
        from: Vec<Spot>,
        /// What is taken away.
        what: Vec<Spot>,
    },
    /// Keeps only what lies in all of them.
    Common {
        /// The patches.
        on: Vec<Spot>,
    },
    /// Fills what they leave out.
    FillHoles {
        /// The patches.
        on: Vec<Spot>,
    },
    /// Keeps a rim along the border, inwards.
    Rim {
        /// The patches.
        on: Vec<Spot>,
        /// Its width, mm.
        width: f64,
    },
    /// Grows them, or shrinks them; corners become round.
    Grow {
        /// The patches.
        on: Vec<Spot>,
        /// By how much on every side, mm; less than 0 shrinks.
        by: f64,
    },
    /// Moves, turns and scales them about the middle of their box.
    Place {
        /// The patches.
        on: Vec<Spot>,
        /// How far, pixels of the picture, y down.
        by: [f64; 2],
        /// Degrees.
        degrees: f64,
        /// Factor.
        scale: f64,
    },
    /// Completes a half: what lies on the left of the line (seen along it) is kept and mirrored to its right.
    Mirror {
        /// The patches.
        on: Vec<Spot>,
        /// A point of the line, pixels of the picture.
        through: [f64; 2],
        /// Its direction, degrees: 90 is upright and keeps what lies on the left.
        degrees: f64,
    },
    /// Repeats them round a centre.
    Repeat {
        /// The patches.
        on: Vec<Spot>,
        /// The centre, pixels of the picture.
        centre: [f64; 2],
        /// How many in all, 2 to 24.
        times: u8,
        /// Whether each is mirrored across its own ray, too.
        is_mirrored: bool,
    },
    /// Adds a shape.
    Shape {
        /// Which.
        shape: Shape,
        /// Its middle, pixels of the picture.
        at: [f64; 2],
        /// Degrees.
        degrees: f64,
        /// Its use.
        #[serde(rename = "use")]
        use_: Use,
    },
}

/// An entry of the list.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct OutlineEdit {
    /// Its name within the design; never used again.
    pub id: u32,
    /// Whether it is applied.
    pub is_on: bool,
    /// What it does.
    pub change: Change,
}

/// An entry that does not do all that it was meant to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Astray {
    /// The entry.
    pub id: u32,
    /// How many of its patches are gone.
    pub lost: usize,
    /// Whether it leaves nothing of what it works on.
    pub is_empty: bool,
}

impl Change {
    /// The patches that it works on, those that stay first.
    pub fn spots(&self) -> Vec<Spot> {
        match self {
            Self::Join { on }
            | Self::Common { on }
            | Self::FillHoles { on }
            | Self::Rim { on, .. }
            | Self::Grow { on, .. }
            | Self::Place { on, .. }
            | Self::Mirror { on, .. }
            | Self::Repeat { on, .. } => on.clone(),
            Self::TakeAway { from, what } => from.iter().chain(what).copied().collect(),
            Self::Shape { .. } => Vec::new(),
        }
    }

    /// What undo calls it.
    pub const fn label(&self) -> &'static str {
        match self {
            Self::Join { .. } => "Join patches",
            Self::TakeAway { .. } => "Take patches away",
            Self::Common { .. } => "Keep what is common",
            Self::FillHoles { .. } => "Fill holes",
            Self::Rim { .. } => "Keep a rim",
            Self::Grow { .. } => "Grow or shrink",
            Self::Place { .. } => "Move, turn, scale",
            Self::Mirror { .. } => "Mirror a half",
            Self::Repeat { .. } => "Repeat round a centre",
            Self::Shape { .. } => "Add a shape",
        }
    }

    /// The length (mm) of that name, where it has one: `width`, `height`, `corner`, `inner`, `hole` or `by`.
    pub fn length_mut(&mut self, name: &str) -> Option<&mut f64> {
        match (self, name) {
            (Self::Rim { width, .. }, "width") => Some(width),
            (Self::Grow { by, .. }, "by") => Some(by),
            (Self::Shape { shape, .. }, _) => match (shape, name) {
                (
                    Shape::Ellipse { width, .. }
                    | Shape::Rectangle { width, .. }
                    | Shape::Polygon { width, .. }
                    | Shape::Star { width, .. }
                    | Shape::Ring { width, .. },
                    "width",
                ) => Some(width),
                (Shape::Ellipse { height, .. } | Shape::Rectangle { height, .. }, "height") => Some(height),
                (Shape::Rectangle { corner, .. }, "corner") => Some(corner),
                (Shape::Star { inner, .. }, "inner") => Some(inner),
                (Shape::Ring { hole, .. }, "hole") => Some(hole),
                _ => None,
            },
            _ => None,
        }
    }

    /// Moves every place along with the picture.
    pub fn move_places(&mut self, moved: impl Fn([f64; 2]) -> [f64; 2]) {
        let spots = |on: &mut Vec<Spot>| on.iter_mut().for_each(|s| s.at = moved(s.at));
        match self {
            Self::Join { on }
            | Self::Common { on }
            | Self::FillHoles { on }
            | Self::Rim { on, .. }
            | Self::Grow { on, .. }
            | Self::Place { on, .. } => spots(on),
            Self::TakeAway { from, what } => {
                spots(from);
                spots(what);
            }
            Self::Mirror { on, through: place, .. } | Self::Repeat { on, centre: place, .. } => {
                spots(on);
                *place = moved(*place);
            }
            Self::Shape { at, .. } => *at = moved(*at),
        }
    }

    /// Why it can never be applied; `None` where all its numbers are in range.
    pub fn refusal(&self) -> Option<String> {
        let (low, high) = LENGTH_RANGE_MM;
        let is_length = |v: f64| (low..=high).contains(&v);
        let lengths = || format!("lengths are {low} to {high} mm");
        let numbers: Vec<f64> = self.spots().iter().flat_map(|s| s.at).collect();
        if !numbers.iter().all(|v| v.is_finite() && v.abs() < 1e6) {
            return Some("places have to lie near the picture".into());
        }
        let needs = |n: usize| (self.spots().len() < n).then(|| format!("choose {n} or more patches first"));
        let place = |p: &[f64; 2]| p.iter().all(|v| v.is_finite() && v.abs() < 1e6);
        let bad = |is_bad: bool, words: &str| is_bad.then(|| words.to_string());
        let angle = "angles are -360 to 360 degrees";
        let is_angle = |d: f64| (-360.0..=360.0).contains(&d);
        match self {
            Self::Join { .. } | Self::Common { .. } => needs(2),
            Self::TakeAway { from, what } => {
                bad(from.is_empty() || what.is_empty(), "choose what stays and what is taken away")
            }
            Self::FillHoles { .. } => needs(1),
            Self::Rim { width, .. } => needs(1).or_else(|| (!is_length(*width)).then(lengths)),
            Self::Grow { by, .. } => needs(1).or_else(|| (!is_length(by.abs())).then(lengths)),
            Self::Place { by, degrees, scale, .. } => needs(1)
                .or_else(|| bad(!place(by) || !is_angle(*degrees), angle))
                .or_else(|| bad(!(0.01..=100.0).contains(scale), "a factor is 0.01 to 100")),
            Self::Mirror { through, degrees, .. } => {
                needs(1).or_else(|| bad(!place(through) || !is_angle(*degrees), angle))
            }
            Self::Repeat { centre, times, .. } => needs(1).or_else(|| {
                let (least, most) = TIMES_RANGE;
                bad(!place(centre) || !(least..=most).contains(times), "a patch is repeated 2 to 24 times")
            }),
            Self::Shape { shape, at, degrees, .. } => {
                bad(!place(at) || !is_angle(*degrees), angle).or_else(|| match *shape {
                    Shape::Ellipse { width, height } => (!(is_length(width) && is_length(height))).then(lengths),
                    Shape::Rectangle { width, height, corner } => {
                        let is_corner = corner >= 0.0 && corner <= width.min(height) / 2.0 + 1e-9;
                        (!(is_length(width) && is_length(height)))
                            .then(lengths)
                            .or_else(|| bad(!is_corner, "a corner's radius is at most half the shorter side"))
                    }
                    Shape::Polygon { sides: n, width } => (!is_length(width))
                        .then(lengths)
                        .or_else(|| bad(!(3..=60).contains(&n), "a polygon has 3 to 60 sides")),
                    Shape::Star { points: n, width, inner } => (!is_length(width))
                        .then(lengths)
                        .or_else(|| bad(!(3..=60).contains(&n), "a star has 3 to 60 points"))
                        .or_else(|| bad(!(inner > 0.0 && inner < width), "a star is narrower inside")),
                    Shape::Ring { width, hole } => (!is_length(width))
                        .then(lengths)
                        .or_else(|| bad(!(hole > 0.0 && hole < width), "a ring's hole is smaller than the ring")),
                })
            }
        }
    }
}

impl Shape {
    /// Its rings about the middle, outer one anticlockwise.
    fn rings(self) -> Vec<Ring<Mm>> {
        let round = |w: f64, h: f64| {
            let n = steps(w.max(h) / 2.0);
            around(n, 0.0, |a| Point::new(w / 2.0 * a.cos(), h / 2.0 * a.sin()))
        };
        match self {
            Self::Ellipse { width, height } => vec![round(width, height)],
            Self::Rectangle { width, height, corner } => {
                let (x, y) = (width / 2.0 - corner, height / 2.0 - corner);
                let quarter = if corner > 0.0 { (steps(corner) / 4).max(1) } else { 0 };
                let middles = [(x, y), (-x, y), (-x, -y), (x, -y)];
                let ring = middles.iter().enumerate().flat_map(|(k, (cx, cy))| {
                    (0..=quarter).map(move |i| {
                        let along = if quarter == 0 { 0.0 } else { f64::from(i) / f64::from(quarter) };
                        let a = (k as f64 + along) * PI / 2.0;
                        Point::new(cx + corner * a.cos(), cy + corner * a.sin())
                    })
                });
                vec![Ring(ring.collect())]
            }
            Self::Polygon { sides, width } => {
                vec![around(u32::from(sides), PI / 2.0, |a| Point::new(width / 2.0 * a.cos(), width / 2.0 * a.sin()))]
            }
            Self::Star { points, width, inner } => {
                let n = 2 * u32::from(points);
                let tip = |k: u32| if k.is_multiple_of(2) { width / 2.0 } else { inner / 2.0 };
                let at = |k: u32| {
                    let a = PI / 2.0 + f64::from(k) * 2.0 * PI / f64::from(n);
                    Point::new(tip(k) * a.cos(), tip(k) * a.sin())
                };
                vec![Ring((0..n).map(at).collect())]
            }
            Self::Ring { width, hole } => {
                let mut inner = round(hole, hole);
                inner.0.reverse();
                vec![round(width, width), inner]
            }
        }
    }
}

/// Chords of a full turn that miss a circle of that radius by no more than [`ARC_MM`].
#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few hundred")]
fn steps(radius: f64) -> u32 {
    let a = 2.0 * (1.0 - (ARC_MM / radius.max(ARC_MM)).min(0.5)).acos();
    ((2.0 * PI / a).ceil() as u32).clamp(12, 4000).next_multiple_of(4)
}

fn around(n: u32, start: f64, at: impl Fn(f64) -> Point<Mm>) -> Ring<Mm> {
    Ring((0..n).map(|k| at(start + f64::from(k) * 2.0 * PI / f64::from(n))).collect())
}

/// Applies the entries that are on, in their order.
pub(crate) fn apply(
    patches: &mut Vec<Patch>,
    edits: &[OutlineEdit],
    place: &Place,
    watch: &Watch,
) -> Result<Vec<Astray>, OutlineError> {
    let mut astray = Vec::new();
    for e in edits.iter().filter(|e| e.is_on) {
        watch.check()?;
        let (lost, is_empty) = Desk { patches, place }.change(&e.change)?;
        if lost > 0 || is_empty {
            astray.push(Astray { id: e.id, lost, is_empty });
        }
    }
    for (k, p) in patches.iter_mut().enumerate() {
        p.id = PatchId(u32::try_from(k).unwrap_or(u32::MAX));
    }
    Ok(astray)
}

/// The patches under work.
struct Desk<'a> {
    patches: &'a mut Vec<Patch>,
    place: &'a Place,
}

impl Desk<'_> {
    /// The smallest patch round the spot: what lies on top of another is meant first.
    fn find(&self, s: &Spot) -> Option<usize> {
        let at = Point::new(s.at[0], s.at[1]);
        let hit = |(_, p): &(usize, &Patch)| p.is_ink == s.is_ink && p.contains(at);
        let found = self.patches.iter().enumerate().filter(hit);
        found.min_by(|a, b| a.1.area_px2.total_cmp(&b.1.area_px2)).map(|(k, _)| k)
    }

    /// Patches of the spots, each once, and how many were not found.
    fn found(&self, on: &[Spot]) -> (Vec<usize>, usize) {
        let mut all = Vec::new();
        let mut lost = 0;
        for s in on {
            match self.find(s) {
                Some(k) if all.contains(&k) => {}
                Some(k) => all.push(k),
                None => lost += 1,
            }
        }
        (all, lost)
    }

    fn region(&self, k: usize) -> Result<Region, OffGrid> {
        let rings: Vec<Ring<Mm>> = self.patches[k].curves.iter().map(|c| self.place.ring(c)).collect();
        Region::from_mm(&normalise(&rings, true))
    }

    fn mm(&self, at: [f64; 2]) -> Point<Mm> {
        self.place.point(Point::new(at[0], at[1]))
    }

    /// The number of lost patches, and whether nothing is left of the others.
    fn change(&mut self, change: &Change) -> Result<(usize, bool), OutlineError> {
        match change {
            Change::Join { on } => self.merge(on, |all| join_all(all)),
            Change::Common { on } => self.merge(on, |all| {
                let mut rest = all.iter();
                let first = rest.next().cloned().unwrap_or_default();
                rest.try_fold(first, |a, b| combine(&a, b, BoolOp::Common))
            }),
            Change::TakeAway { from, what } => {
                let (away, mut lost) = self.found(what);
                let taken: Result<Vec<Region>, OffGrid> = away.iter().map(|k| self.region(*k)).collect();
                let taken = join_all(&taken?)?;
                for k in &away {
                    self.patches[*k].use_ = Use::Aside;
                }
                let (more, is_empty) = self.each(from, |r| combine(r, &taken, BoolOp::TakeAway))?;
                lost += more;
                Ok((lost, is_empty))
            }
            Change::FillHoles { on } => self.each(on, |r| Ok(r.filled())),
            Change::Rim { on, width } => self.each(on, |r| combine(r, &offset(r, -width)?, BoolOp::TakeAway)),
            Change::Grow { on, by } => self.each(on, |r| offset(r, *by)),
            Change::Place { on, by, degrees, scale } => {
                let (all, _) = self.found(on);
                let boxes = all.iter().filter_map(|k| self.patches[*k].rings[0].bounds());
                let Some(b) = boxes.reduce(kachel_geom::Bounds::union) else { return Ok((on.len(), true)) };
                let middle = self.place.point(b.centre());
                let to = self.place.point(Point::new(b.centre().x + by[0], b.centre().y + by[1]));
                let turn = Turn { about: middle, degrees: *degrees, scale: *scale, to };
                self.each(on, |r| turned(r, &turn))
            }
            Change::Mirror { on, through, degrees } => {
                let line = self.mm(*through);
                self.each(on, |r| {
                    let half = combine(r, &left_of(line, *degrees, r)?, BoolOp::Common)?;
                    join_all([&half, &mirrored(&half, line, *degrees)?])
                })
            }
            Change::Repeat { on, centre, times, is_mirrored } => {
                let about = self.mm(*centre);
                self.each(on, |r| {
                    let ray = |p: Point<Mm>| (p.y - about.y).atan2(p.x - about.x).to_degrees();
                    let axis = r.bounds().map_or(0.0, |b| ray(b.centre()));
                    let one = if *is_mirrored { join_all([r, &mirrored(r, about, axis)?])? } else { r.clone() };
                    let copies: Result<Vec<Region>, OffGrid> = (0..*times)
                        .map(|k| {
                            let degrees = f64::from(k) * 360.0 / f64::from(*times);
                            turned(&one, &Turn { about, degrees, scale: 1.0, to: about })
                        })
                        .collect();
                    join_all(&copies?)
                })
            }
            Change::Shape { shape, at, degrees, use_ } => {
                let middle = self.mm(*at);
                let turn = Turn { about: Point::new(0.0, 0.0), degrees: *degrees, scale: 1.0, to: middle };
                let rings: Vec<Ring<Mm>> =
                    shape.rings().iter().map(|r| Ring(r.0.iter().map(|p| turn.point(*p)).collect())).collect();
                let made = self.patches_of(&Region::from_mm(&rings)?, None, *use_);
                let is_empty = made.is_empty();
                self.patches.extend(made);
                Ok((0, is_empty))
            }
        }
    }

    /// All of them become one area.
    fn merge(
        &mut self,
        on: &[Spot],
        make: impl FnOnce(&[Region]) -> Result<Region, OffGrid>,
    ) -> Result<(usize, bool), OutlineError> {
        let (all, lost) = self.found(on);
        if all.len() < 2 {
            return Ok((lost, false));
        }
        let regions: Result<Vec<Region>, OffGrid> = all.iter().map(|k| self.region(*k)).collect();
        let made = make(&regions?)?;
        let first = all[0];
        let new = self.patches_of(&made, Some(first), self.patches[first].use_);
        let is_empty = new.is_empty();
        self.replace(&all, first, new, &made);
        Ok((lost, is_empty))
    }

    /// Each of them becomes another area.
    fn each(
        &mut self,
        on: &[Spot],
        make: impl Fn(&Region) -> Result<Region, OffGrid>,
    ) -> Result<(usize, bool), OutlineError> {
        let (mut all, lost) = self.found(on);
        // From the last one back, so that places of those before stay.
        all.sort_unstable();
        let mut left = all.is_empty();
        for k in all.into_iter().rev() {
            let made = make(&self.region(k)?)?;
            let new = self.patches_of(&made, Some(k), self.patches[k].use_);
            left |= !new.is_empty();
            self.replace(&[k], k, new, &made);
        }
        Ok((lost, !left))
    }

    fn replace(&mut self, gone: &[usize], at: usize, new: Vec<Patch>, area: &Region) {
        let before = gone.iter().filter(|g| **g < at).count();
        let mut index = 0;
        self.patches.retain(|_| {
            index += 1;
            !gone.contains(&(index - 1))
        });
        let at = at - before;
        let holes: Vec<(Ring<Px>, u32)> = new
            .iter()
            .filter(|p| p.is_ink)
            .flat_map(|p| p.rings[1..].iter().map(|h| (h.clone(), p.depth + 1)))
            .collect();
        self.patches.splice(at..at, new);
        // A gap that is partly ink now is no gap any more, unless it is used as a patch of its own.
        let is_unused = |p: &Patch| !p.is_ink && p.use_ == Use::Aside;
        let gone: Vec<bool> =
            (0..self.patches.len()).map(|k| is_unused(&self.patches[k]) && self.meets(k, area)).collect();
        let mut gone = gone.into_iter();
        self.patches.retain(|_| !gone.next().unwrap_or(false));
        // What is left out now is a gap to be used.
        for (hole, depth) in holes {
            if self.patches.iter().any(|p| !p.is_ink && hole.contains(p.anchor)) {
                continue;
            }
            self.patches.extend(patch_of(vec![hole]).map(|p| Patch { is_ink: false, use_: Use::Aside, depth, ..p }));
        }
    }

    /// Whether more than a sliver of the patch lies in the area.
    fn meets(&self, k: usize, area: &Region) -> bool {
        let Ok(gap) = self.region(k) else { return false };
        let near = match (gap.bounds(), area.bounds()) {
            (Some(a), Some(b)) => a.overlaps(&b),
            _ => false,
        };
        near && combine(&gap, area, BoolOp::Common).is_ok_and(|c| c.area_mm2() > SLIVER_MM2)
    }

    /// Each connected area of the region as a patch, with what it inherits.
    fn patches_of(&self, area: &Region, heir_of: Option<usize>, use_: Use) -> Vec<Patch> {
        let rings = normalise(&area.rings_mm(), false);
        let (outer, holes): (Vec<Ring<Mm>>, Vec<Ring<Mm>>) = rings.into_iter().partition(|r| r.area() > 0.0);
        let mut all: Vec<Vec<Ring<Mm>>> = outer.into_iter().map(|r| vec![r]).collect();
        all.sort_by(|a, b| a[0].area().total_cmp(&b[0].area()));
        for hole in holes {
            let inside = interior_point(&[&hole]).unwrap_or(hole.0[0]);
            if let Some(o) = all.iter_mut().find(|o| o[0].contains(inside)) {
                o.push(hole);
            }
        }
        all.reverse();
        let parent = heir_of.map(|k| &self.patches[k]);
        let patch = |rings: Vec<Ring<Mm>>| -> Option<Patch> {
            let rings: Vec<Ring<Px>> =
                rings.iter().map(|r| Ring(r.0.iter().map(|p| self.place.back(*p)).collect())).collect();
            Some(Patch {
                is_ink: parent.is_none_or(|p| p.is_ink),
                depth: parent.map_or(0, |p| p.depth),
                use_,
                colour: parent.and_then(|p| p.colour),
                group: parent.and_then(|p| p.group.clone()),
                ..patch_of(rings)?
            })
        };
        all.into_iter().filter_map(patch).collect()
    }
}

/// A patch of ink of straight lines, the outer ring first; its name comes when the whole list is applied.
fn patch_of(rings: Vec<Ring<Px>>) -> Option<Patch> {
    let anchor = interior_point(&rings.iter().collect::<Vec<_>>())?;
    Some(Patch {
        id: PatchId(0),
        is_ink: true,
        curves: rings.iter().map(Curve::from_ring).collect(),
        area_px2: rings[0].area().abs() - rings[1..].iter().map(|r| r.area().abs()).sum::<f64>(),
        rings,
        anchor,
        depth: 0,
        use_: Use::Edge,
        colour: None,
        group: None,
    })
}

/// A turn and a scaling about a point, which then goes elsewhere.
struct Turn {
    about: Point<Mm>,
    degrees: f64,
    scale: f64,
    to: Point<Mm>,
}

impl Turn {
    fn point(&self, p: Point<Mm>) -> Point<Mm> {
        let (x, y) = ((p.x - self.about.x) * self.scale, (p.y - self.about.y) * self.scale);
        let (sin, cos) = exact_turn(self.degrees);
        Point::new(self.to.x + x * cos - y * sin, self.to.y + x * sin + y * cos)
    }
}

/// Sine and cosine, without rounding for quarter turns: those stay exactly on the grid.
fn exact_turn(degrees: f64) -> (f64, f64) {
    match degrees.rem_euclid(360.0) {
        0.0 => (0.0, 1.0),
        90.0 => (1.0, 0.0),
        180.0 => (0.0, -1.0),
        270.0 => (-1.0, 0.0),
        d => d.to_radians().sin_cos(),
    }
}

fn turned(r: &Region, turn: &Turn) -> Result<Region, OffGrid> {
    let rings: Vec<Ring<Mm>> =
        r.rings_mm().iter().map(|r| Ring(r.0.iter().map(|p| turn.point(*p)).collect())).collect();
    Region::from_mm(&rings)
}

fn mirrored(r: &Region, through: Point<Mm>, degrees: f64) -> Result<Region, OffGrid> {
    // Reflection across a line at the angle a: by cos 2a and sin 2a.
    let (sin, cos) = exact_turn(2.0 * degrees);
    let flip = |p: &Point<Mm>| {
        let (x, y) = (p.x - through.x, p.y - through.y);
        Point::new(through.x + x * cos + y * sin, through.y + x * sin - y * cos)
    };
    let ring = |r: &Ring<Mm>| Ring(r.0.iter().rev().map(flip).collect());
    Region::from_mm(&r.rings_mm().iter().map(ring).collect::<Vec<_>>())
}

/// What lies on the left of the line, as far as the region reaches.
fn left_of(through: Point<Mm>, degrees: f64, r: &Region) -> Result<Region, OffGrid> {
    let Some(b) = r.bounds() else { return Ok(Region::default()) };
    let (sin, cos) = exact_turn(degrees);
    // Along the line and to its left, as far as the farthest corner.
    let corners = b.corners();
    let along = |p: &Point<Mm>| (p.x - through.x) * cos + (p.y - through.y) * sin;
    let aside = |p: &Point<Mm>| (p.y - through.y) * cos - (p.x - through.x) * sin;
    let range = |f: &dyn Fn(&Point<Mm>) -> f64| {
        corners.iter().map(f).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    };
    let ((a0, a1), (_, far)) = (range(&along), range(&aside));
    if far <= 0.0 {
        return Ok(Region::default());
    }
    let (a0, a1, far) = (a0 - 1.0, a1 + 1.0, far + 1.0);
    let at = |a: f64, d: f64| Point::new(through.x + a * cos - d * sin, through.y + a * sin + d * cos);
    Region::from_mm(&[Ring(vec![at(a0, 0.0), at(a1, 0.0), at(a1, far), at(a0, far)])])
}
