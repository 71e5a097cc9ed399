//! Places and new patches: what moves, repeats, writes, pastes and lines up.

use crate::desk::{Desk, Told, patch_of_curves, told};
use crate::drawn::DrawnLine;
use crate::entry::Astray;
use crate::parts::{LineUpWith, Piece, Side};
use crate::patch::{Letters, Patch, Use, sized_box};
use crate::place::DEVIATION_MM;
use crate::spot::Spot;
use crate::text::Text;
use crate::work::{self, Turn};
use kachel_geom::{Bounds, Curve, Mm, OffGrid, Point, Px, Region, Ring, join_all, normalise};

impl Desk<'_> {
    /// Moves, turns and scales patches about the middle of their box, or copies of them; `scale` across and upwards.
    pub(crate) fn put_elsewhere(
        &mut self,
        on: &[Spot],
        by: Point<Px>,
        degrees: f64,
        scale: (f64, f64),
        is_copy: bool,
    ) -> Told {
        let (all, lost) = self.found(on);
        let boxes = all.iter().filter_map(|k| self.patches[*k].rings[0].bounds());
        let Some(b) = boxes.reduce(Bounds::union) else { return told(lost, true) };
        let (from, to) = (b.centre(), Point::new(b.centre().x + by.x, b.centre().y + by.y));
        let turn = Turn { about: self.place.point(from), degrees, scale, to: self.place.point(to) };
        let before = self.patches.len();
        self.carry(&all, is_copy, |_, p| turn.point(p));
        if scale.0 * scale.1 < 0.0 {
            let carried = if is_copy { (before..self.patches.len()).collect() } else { all };
            for k in carried {
                let letters = &mut self.patches[k].letters;
                *letters = letters.map(Letters::over);
            }
        }
        told(lost, false)
    }

    /// Repeats patches round a centre.
    pub(crate) fn repeat(&mut self, on: &[Spot], centre: Point<Px>, times: u8, is_mirrored: bool) -> Told {
        let about = self.mm(centre);
        let made = |r: &Region| {
            let ray = |p: Point<Mm>| (p.y - about.y).atan2(p.x - about.x).to_degrees();
            let axis = r.bounds().map_or(0.0, |b| ray(b.centre()));
            let one = if is_mirrored { join_all([r, &work::mirrored(r, about, axis)?])? } else { r.clone() };
            let copy = |k: u8| {
                let degrees = f64::from(k) * 360.0 / f64::from(times);
                work::turned(&one, &Turn { about, degrees, scale: (1.0, 1.0), to: about })
            };
            let copies: Result<Vec<Region>, OffGrid> = (0..times).map(copy).collect();
            Ok(vec![join_all(&copies?)?])
        };
        self.each_to_many(on, made, |p| {
            // The image lies over what was written.
            p.letters = p.letters.map(|l| if is_mirrored { Letters::Backwards } else { l });
        })
    }

    /// Text as new patches.
    pub(crate) fn write(&mut self, text: &Text, at: Point<Px>, degrees: f64, use_: Use) -> Told {
        let turn = self.turn_to(at, degrees, 1.0);
        let set = text.set();
        let flat = |c: &Curve<Mm>| c.map(|p| turn.point(p)).ring(DEVIATION_MM / 2.0);
        let rings: Vec<Ring<Mm>> = set.curves.iter().map(flat).collect();
        let before = self.patches.len();
        let said = self.add(&Region::from_mm(&normalise(&rings, false))?, use_)?;
        self.patches[before..].iter_mut().for_each(|p| p.letters = Some(Letters::Right));
        Ok(Astray { missing: set.missing, ..said })
    }

    /// Patches from elsewhere; written with y down, like the picture.
    pub(crate) fn paste(&mut self, pieces: &[Piece], turn: Turn) -> Told {
        let mut said = Astray { is_empty: true, ..Astray::default() };
        for piece in pieces {
            let place = self.place;
            let curve = |l: &DrawnLine<Mm>| Some(l.curve()?.map(|p| place.back(turn.point(Point::new(p.x, -p.y)))));
            let curves = piece.lines.iter().filter_map(curve).collect();
            let made = self.patches_of_curves(curves, true)?;
            said.is_empty &= made.is_empty();
            self.patches.extend(made.into_iter().map(|p| Patch { use_: piece.use_, ..p }));
        }
        Ok(said)
    }

    pub(crate) fn turn_to(&self, at: Point<Px>, degrees: f64, scale: f64) -> Turn {
        Turn { about: Point::new(0.0, 0.0), degrees, scale: (scale, scale), to: self.mm(at) }
    }

    /// Moves patches, or copies of them, point by point; their curves stay curves.
    pub(crate) fn carry(&mut self, all: &[usize], is_copy: bool, to: impl Fn(usize, Point<Mm>) -> Point<Mm>) {
        for (n, k) in all.iter().enumerate() {
            let place = self.place;
            let px = |p: Point<Px>| place.back(to(n, place.point(p)));
            let p = &self.patches[*k];
            let curves: Vec<Curve<Px>> = p.curves.iter().map(|c| c.map(px)).collect();
            let Some(moved) = patch_of_curves(curves) else { continue };
            let moved = Patch { is_ink: p.is_ink, depth: p.depth, use_: p.use_, ..moved };
            let root = p.root.filter(|_| !is_copy);
            let moved = Patch { colour: p.colour, group: p.group.clone(), root, letters: p.letters, ..moved };
            if is_copy {
                self.patches.push(moved);
            } else {
                self.patches[*k] = moved;
            }
        }
    }

    pub(crate) fn box_mm(&self, k: usize) -> Option<Bounds<Mm>> {
        let b = self.patches[k].rings[0].bounds()?;
        Bounds::of(&[self.place.point(b.min), self.place.point(b.max)])
    }

    pub(crate) fn line_up(&mut self, on: &[Spot], across: Option<Side>, down: Option<Side>, with: LineUpWith) -> Told {
        let (all, lost) = self.found(on);
        let boxes: Vec<Bounds<Mm>> = all.iter().filter_map(|k| self.box_mm(*k)).collect();
        let mark = match with {
            LineUpWith::First => boxes.first().copied(),
            LineUpWith::Each => boxes.iter().copied().reduce(Bounds::union),
            LineUpWith::Object => {
                sized_box(self.patches).and_then(|b| Bounds::of(&[self.place.point(b.min), self.place.point(b.max)]))
            }
        };
        let (Some(mark), true) = (mark, boxes.len() == all.len()) else { return told(lost, false) };
        let by = |side: Option<Side>, low: f64, high: f64, to_low: f64, to_high: f64| match side {
            None => 0.0,
            Some(Side::Start) => to_low - low,
            Some(Side::Middle) => (to_low + to_high - low - high) / 2.0,
            Some(Side::End) => to_high - high,
        };
        let shift: Vec<(f64, f64)> = boxes
            .iter()
            .map(|b| {
                // y up: the upper end is the start.
                let y = by(down, -b.max.y, -b.min.y, -mark.max.y, -mark.min.y);
                (by(across, b.min.x, b.max.x, mark.min.x, mark.max.x), -y)
            })
            .collect();
        self.carry(&all, false, |n, p| Point::new(p.x + shift[n].0, p.y + shift[n].1));
        told(lost, false)
    }

    pub(crate) fn space_out(&mut self, on: &[Spot], is_down: bool) -> Told {
        let (all, lost) = self.found(on);
        let span = |k: &usize| {
            let b = self.box_mm(*k)?;
            Some(if is_down { (-b.max.y, -b.min.y) } else { (b.min.x, b.max.x) })
        };
        let spans: Vec<(f64, f64)> = all.iter().filter_map(span).collect();
        if spans.len() < 3 || spans.len() != all.len() {
            return told(lost, false);
        }
        let mut order: Vec<usize> = (0..spans.len()).collect();
        order.sort_by(|a, b| spans[*a].0.total_cmp(&spans[*b].0));
        let (first, last) = (spans[order[0]], spans[order[order.len() - 1]]);
        let taken: f64 = spans.iter().map(|s| s.1 - s.0).sum();
        let gap = (last.1.max(first.1) - first.0 - taken) / (spans.len() - 1) as f64;
        let mut at = first.0;
        let mut shift = vec![0.0; spans.len()];
        for n in order {
            shift[n] = at - spans[n].0;
            at += spans[n].1 - spans[n].0 + gap;
        }
        self.carry(&all, false, |n, p| {
            if is_down { Point::new(p.x, p.y - shift[n]) } else { Point::new(p.x + shift[n], p.y) }
        });
        told(lost, false)
    }
}
