//! Applies the list of changes.

use crate::change::Change;
use crate::drawn::DrawnLine;
use crate::entry::{Astray, Entry};
use crate::error::OutlineError;
use crate::known::Known;
use crate::parts::Seen;
use crate::patch::{Letters, Patch, PatchId, Use, number};
use crate::place::{DEVIATION_MM, Place};
use crate::spot::{Root, Spot};
use crate::work;
use kachel_geom::{
    BoolOp, Curve, Mm, Name, OffGrid, Point, Px, Region, Ring, Watch, combine, interior_point, join_all, normalise,
    offset, offset_with, pieces, stroke,
};
use kachel_trace::{FLATNESS, refit};
use std::sync::Arc;

/// Overlaps under this (mm2) come from rounding.
const SLIVER_MM2: f64 = 0.02;

/// The patches after some entries of a list.
#[derive(Clone, Debug)]
pub struct Step {
    patches: Vec<Patch>,
    astray: Vec<Astray>,
}

/// Remembers steps, so that a list of many entries is not begun anew for a change of its last ones.
pub trait Steps: Sync {
    /// The step of that name.
    fn get(&self, name: Name) -> Option<Arc<Step>>;
    /// Keeps a step.
    fn put(&self, name: Name, step: Step);
}

/// A memory, and the name of the patches that a list starts from.
#[derive(Clone, Copy)]
pub(crate) struct Remembered<'a> {
    pub(crate) steps: &'a dyn Steps,
    pub(crate) start: Name,
}

/// Every so many entries a step is kept, beside the last two.
const KEPT_EVERY: usize = 16;

/// Applies the entries that are on, in their order.
pub(crate) fn apply(
    patches: &mut Vec<Patch>,
    edits: &[Entry],
    place: &Place,
    memory: Option<Remembered<'_>>,
    watch: &Watch,
) -> Result<Vec<Astray>, OutlineError> {
    let on: Vec<&Entry> = edits.iter().filter(|e| e.is_on).collect();
    let mut names = vec![memory.map_or_else(|| Name::of(&()), |m| m.start)];
    if memory.is_some() {
        // Debug writes floats exactly.
        on.iter().for_each(|e| names.push(Name::of(&(names[names.len() - 1], e.id, format!("{:?}", e.change)))));
    }
    let known = memory.and_then(|m| (1..names.len()).rev().find_map(|k| Some((k, m.steps.get(names[k])?))));
    let (mut start, mut astray) = (0, Vec::new());
    if let Some((k, step)) = known {
        start = k;
        patches.clone_from(&step.patches);
        astray.clone_from(&step.astray);
    }
    for (k, e) in on.iter().enumerate().skip(start) {
        watch.check()?;
        let told = Astray { id: e.id, ..Desk { patches, place }.change(&e.change)? };
        let unnamed = patches.iter_mut().filter(|p| p.root.is_none());
        unnamed.zip(0..).for_each(|(p, nth)| p.root = Some(Root::Made { by: e.id, nth }));
        if told.is_something() {
            astray.push(told);
        }
        let done = k + 1;
        if let Some(m) = memory
            && (done + 1 >= on.len() || done.is_multiple_of(KEPT_EVERY))
        {
            m.steps.put(names[done], Step { patches: patches.clone(), astray: astray.clone() });
        }
    }
    number(patches);
    Ok(astray)
}

/// The patches under work.
pub(crate) struct Desk<'a> {
    pub(crate) patches: &'a mut Vec<Patch>,
    pub(crate) place: &'a Place,
}

/// What a step of the work says: which patches are lost, and whether nothing is left.
pub(crate) type Told = Result<Astray, OutlineError>;

pub(crate) fn told(lost: Vec<Spot>, is_empty: bool) -> Told {
    Ok(Astray { lost, is_empty, ..Astray::default() })
}

impl Desk<'_> {
    /// Patches of the spots, each once, and those that were not found.
    pub(crate) fn found(&self, on: &[Spot]) -> (Vec<usize>, Vec<Spot>) {
        let known = Known::of(self.patches);
        let (mut all, mut lost) = (Vec::new(), Vec::new());
        let mut has = vec![false; self.patches.len()];
        for s in on {
            match known.at(s) {
                Some(k) if std::mem::replace(&mut has[k], true) => {}
                Some(k) => all.push(k),
                None => lost.push(*s),
            }
        }
        (all, lost)
    }

    fn region(&self, k: usize) -> Result<Region, OffGrid> {
        let rings: Vec<Ring<Mm>> = self.patches[k].curves.iter().map(|c| self.place.ring(c)).collect();
        Region::from_mm(&normalise(&rings, true))
    }

    pub(crate) fn mm(&self, at: Point<Px>) -> Point<Mm> {
        self.place.point(at)
    }

    /// A line on the picture as points in millimetres.
    fn line(&self, line: &DrawnLine) -> Option<Vec<Point<Mm>>> {
        let curve = line.curve()?.map(|p| self.place.point(p));
        let mut points = curve.flatten(DEVIATION_MM / 2.0);
        points.dedup();
        (points.len() >= 2).then_some(points)
    }

    fn change(&mut self, change: &Change) -> Told {
        match change {
            Change::Join { on } => self.merge(on, |all| join_all(all)),
            Change::Common { on } => self.merge(on, |all| {
                let mut rest = all.iter();
                let first = rest.next().cloned().unwrap_or_default();
                rest.try_fold(first, |a, b| combine(&a, b, BoolOp::Common))
            }),
            Change::Bridge { on, width } => self.merge(on, |all| work::bridged(all, *width)),
            Change::TakeAway { from, what } => {
                let (away, lost) = self.found(what);
                let taken: Result<Vec<Region>, OffGrid> = away.iter().map(|k| self.region(*k)).collect();
                let taken = join_all(&taken?)?;
                for k in &away {
                    self.patches[*k].use_ = Use::Aside;
                }
                let mut said = self.each(from, |r| combine(r, &taken, BoolOp::TakeAway))?;
                said.lost.extend(lost);
                Ok(said)
            }
            Change::FillHoles { on } => self.each(on, |r| Ok(r.filled())),
            Change::Rim { on, width } => self.each(on, |r| combine(r, &offset(r, -width)?, BoolOp::TakeAway)),
            Change::Grow { on, by, corner } => self.each(on, |r| offset_with(r, *by, *corner)),
            Change::Thicken { on, width } => self.each(on, |r| kachel_geom::thickened(r, *width)),
            Change::Smooth { on, radius } => self.each(on, |r| work::smoothed(r, *radius)),
            Change::Cut { on, line, gap } => {
                let Some(line) = self.line(line) else { return told(vec![], false) };
                self.each_to_many(on, |r| work::cut(r, &line, *gap), |_| {})
            }
            Change::Fewer { on, deviation } => self.each_curve(on, |c, place| {
                let fine = place.ring(c);
                refit(&fine.0, true, false, *deviation).map(|p| place.back(p))
            }),
            Change::Nodes { on, lines, use_, seen } => self.own(on, lines, *use_, seen.as_ref()),
            Change::Draw { line, width, use_ } => self.draw(line, *width, *use_),
            Change::Place { on, by, degrees, scale, stretch, flip, is_copy } => {
                let across = if *flip { -scale } else { *scale };
                self.put_elsewhere(on, *by, *degrees, (across, scale * stretch), *is_copy)
            }
            Change::LineUp { on, across, down, with } => self.line_up(on, *across, *down, *with),
            Change::SpaceOut { on, is_down } => self.space_out(on, *is_down),
            Change::Mirror { on, through, degrees, is_quarter } => {
                let line = self.mm(*through);
                let made = |r: &Region| {
                    let half = work::completed(r, line, *degrees)?;
                    Ok(vec![if *is_quarter { work::completed(&half, line, degrees - 90.0)? } else { half }])
                };
                let place = self.place;
                self.each_to_many(on, made, |p| {
                    let sides =
                        |degrees: f64| work::sides_of(p.rings[0].0.iter().map(|at| place.point(*at)), line, degrees);
                    let across = if *is_quarter { sides(degrees - 90.0) } else { [true, false] };
                    p.letters = p.letters.map(|l| match (sides(*degrees), across) {
                        // A piece on the far side of one line is an image, on that of both it is only turned.
                        ([true, false], [true, false]) | ([false, true], [false, true]) => l,
                        ([true, false], [false, true]) | ([false, true], [true, false]) => l.over(),
                        // One that lies across is half an image.
                        _ => Letters::Backwards,
                    });
                })
            }
            Change::Repeat { on, centre, times, is_mirrored } => self.repeat(on, *centre, *times, *is_mirrored),
            Change::Shape { shape, at, degrees, use_ } => {
                let turn = self.turn_to(*at, *degrees, 1.0);
                self.add(&work::turned(&shape.region()?, &turn)?, *use_)
            }
            Change::Text { text, at, degrees, use_ } => self.write(text, *at, *degrees, *use_),
            Change::Paste { pieces, at, degrees, scale } => self.paste(pieces, self.turn_to(*at, *degrees, *scale)),
        }
    }

    /// The area as new patches.
    pub(crate) fn add(&mut self, area: &Region, use_: Use) -> Told {
        let made = self.patches_of(area, None, use_);
        let is_empty = made.is_empty();
        self.patches.extend(made);
        told(vec![], is_empty)
    }

    /// The maker's own nodes in place of a traced patch, or for themselves.
    fn own(&mut self, on: &[Spot], lines: &[DrawnLine], use_: Use, seen: Option<&Seen>) -> Told {
        let made = self.patches_of_curves(lines.iter().filter_map(DrawnLine::curve).collect(), true)?;
        let is_empty = made.is_empty();
        if on.is_empty() {
            self.patches.extend(made.into_iter().map(|p| Patch { use_, ..p }));
            return told(vec![], is_empty);
        }
        let (all, lost) = self.found(on);
        let Some(k) = all.first().copied() else { return told(lost, false) };
        let now = Seen::of(&self.patches[k]);
        let made = self.heirs(made, k);
        let area = self.union_of(&made)?;
        self.replace(&[k], k, made, &area);
        let moved_on = seen.filter(|s| !s.is_like(&now)).map(|_| now);
        Ok(Astray { lost, is_empty, moved_on, ..Astray::default() })
    }

    fn draw(&mut self, line: &DrawnLine, width: Option<f64>, use_: Use) -> Told {
        let Some(points) = self.line(line) else { return told(vec![], true) };
        let is_closed = line.is_closed;
        match (width, is_closed) {
            (Some(width), _) => {
                self.add(&stroke(&points[..points.len() - usize::from(is_closed)], width, is_closed)?, use_)
            }
            (None, true) => {
                let made = self.patches_of_curves(line.curve().into_iter().collect(), false)?;
                let is_empty = made.is_empty();
                self.patches.extend(made.into_iter().map(|p| Patch { use_, ..p }));
                told(vec![], is_empty)
            }
            (None, false) => {
                let gap = points[0].distance(points[points.len() - 1]);
                Ok(Astray { gap: Some(gap), ..Astray::default() })
            }
        }
    }

    /// All of them become one area.
    fn merge(&mut self, on: &[Spot], make: impl FnOnce(&[Region]) -> Result<Region, OffGrid>) -> Told {
        let (all, lost) = self.found(on);
        if all.len() < 2 {
            return told(lost, false);
        }
        let regions: Result<Vec<Region>, OffGrid> = all.iter().map(|k| self.region(*k)).collect();
        let made = make(&regions?)?;
        let first = all[0];
        let new = self.patches_of(&made, Some(first), self.patches[first].use_);
        let is_empty = new.is_empty();
        self.replace(&all, first, new, &made);
        told(lost, is_empty)
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

    /// Each of them becomes another area.
    pub(crate) fn each(&mut self, on: &[Spot], make: impl Fn(&Region) -> Result<Region, OffGrid>) -> Told {
        self.each_to_many(on, |r| Ok(vec![make(r)?]), |_| {})
    }

    /// Each of them becomes areas that stay apart even where they touch; `finish` is given each patch of these.
    pub(crate) fn each_to_many(
        &mut self,
        on: &[Spot],
        make: impl Fn(&Region) -> Result<Vec<Region>, OffGrid>,
        finish: impl Fn(&mut Patch),
    ) -> Told {
        let (mut all, lost) = self.found(on);
        // From the last one back, so that places of those before stay.
        all.sort_unstable();
        let mut is_empty = !all.is_empty();
        for k in all.into_iter().rev() {
            let made = make(&self.region(k)?)?;
            let mut new: Vec<Patch> =
                made.iter().flat_map(|area| self.patches_of(area, Some(k), self.patches[k].use_)).collect();
            new.iter_mut().skip(1).for_each(|p| p.root = None);
            new.iter_mut().for_each(&finish);
            is_empty &= new.is_empty();
            self.replace(&[k], k, new, &join_all(&made)?);
        }
        told(lost, is_empty)
    }

    /// Each line round them becomes another one.
    fn each_curve(&mut self, on: &[Spot], make: impl Fn(&Curve<Px>, &Place) -> Curve<Px>) -> Told {
        let (mut all, lost) = self.found(on);
        all.sort_unstable();
        let mut is_empty = !all.is_empty();
        for k in all.into_iter().rev() {
            let curves = self.patches[k].curves.iter().map(|c| make(c, self.place)).collect();
            let made = self.patches_of_curves(curves, true)?;
            let made = self.heirs(made, k);
            is_empty &= made.is_empty();
            let area = self.union_of(&made)?;
            self.replace(&[k], k, made, &area);
        }
        told(lost, is_empty)
    }

    fn union_of(&self, made: &[Patch]) -> Result<Region, OffGrid> {
        let rings: Vec<Ring<Mm>> = made.iter().flat_map(|p| &p.curves).map(|c| self.place.ring(c)).collect();
        Region::from_mm(&normalise(&rings, true))
    }

    /// The patches with what they inherit from the one that they replace.
    fn heirs(&self, made: Vec<Patch>, of: usize) -> Vec<Patch> {
        let p = &self.patches[of];
        let heir = |(n, m)| {
            // One of them stays the patch that it was.
            let root = p.root.filter(|_| n == 0);
            Patch {
                is_ink: p.is_ink,
                depth: p.depth,
                use_: p.use_,
                colour: p.colour,
                group: p.group.clone(),
                root,
                letters: p.letters,
                ..m
            }
        };
        made.into_iter().enumerate().map(heir).collect()
    }

    /// Patches within closed curves; curves that cross nothing stay curves. `even_odd`: what lies in an even number of
    /// them is left out, else what they go round at all is in.
    pub(crate) fn patches_of_curves(&self, curves: Vec<Curve<Px>>, even_odd: bool) -> Result<Vec<Patch>, OffGrid> {
        let flat: Vec<Ring<Mm>> = curves.iter().map(|c| self.place.ring(c)).collect();
        let made = self.patches_of(&Region::from_mm(&normalise(&flat, even_odd))?, None, Use::Edge);
        let is_same = |a: &Ring<Px>, b: &Ring<Px>| {
            let (Some(p), Some(q)) = (a.bounds(), b.bounds()) else { return false };
            let off = [p.min.x - q.min.x, p.min.y - q.min.y, p.max.x - q.max.x, p.max.y - q.max.y];
            let slack = 2.0 * DEVIATION_MM / self.place.mm_per_px;
            off.iter().all(|d| d.abs() < slack) && (a.area().abs() - b.area().abs()).abs() < slack * a.perimeter()
        };
        let mut spare: Vec<(Ring<Px>, Curve<Px>)> = curves.into_iter().map(|c| (c.ring(FLATNESS), c)).collect();
        let own = |patch: Patch| {
            let curves: Vec<Curve<Px>> = patch
                .rings
                .iter()
                .zip(&patch.curves)
                .map(|(ring, polygon)| match spare.iter().position(|(flat, _)| is_same(ring, flat)) {
                    Some(k) => spare.swap_remove(k).1,
                    None => polygon.clone(),
                })
                .collect();
            patch_of_curves(curves).unwrap_or(patch)
        };
        Ok(made.into_iter().map(own).collect())
    }

    /// Each connected area of the region as a patch, with what it inherits.
    fn patches_of(&self, area: &Region, heir_of: Option<usize>, use_: Use) -> Vec<Patch> {
        let patch = |rings: Vec<Ring<Mm>>| -> Option<Patch> {
            let px = |r: &Ring<Mm>| Ring(r.0.iter().map(|p| self.place.back(*p)).collect());
            Some(Patch { use_, ..patch_of(rings.iter().map(px).collect())? })
        };
        let made = pieces(area).into_iter().filter_map(patch).collect();
        match heir_of {
            Some(k) => self.heirs(made, k).into_iter().map(|p| Patch { use_, ..p }).collect(),
            None => made,
        }
    }
}

/// A patch of ink of straight lines, the outer ring first; its name comes when the whole list is applied.
fn patch_of(rings: Vec<Ring<Px>>) -> Option<Patch> {
    patch_with(rings.iter().map(Curve::from_ring).collect(), rings)
}

/// The same of curves.
pub(crate) fn patch_of_curves(curves: Vec<Curve<Px>>) -> Option<Patch> {
    let rings = curves.iter().map(|c| c.ring(FLATNESS)).collect();
    patch_with(curves, rings)
}

fn patch_with(curves: Vec<Curve<Px>>, rings: Vec<Ring<Px>>) -> Option<Patch> {
    let anchor = interior_point(&rings.iter().collect::<Vec<_>>())?;
    Some(Patch {
        id: PatchId(0),
        is_ink: true,
        curves,
        area_px2: rings[0].area().abs() - rings[1..].iter().map(|r| r.area().abs()).sum::<f64>(),
        rings,
        anchor,
        depth: 0,
        use_: Use::Edge,
        colour: None,
        group: None,
        root: None,
        letters: None,
    })
}
