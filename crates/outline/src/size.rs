use crate::aim::{Aim, Guesses, as_before};
use crate::desk::{self, Remembered, Steps};
use crate::entry::{Astray, Entry};
use crate::error::{OutlineError, SIZE_RANGE_MM};
use crate::found::patches;
use crate::known::{Choice, apply_choices};
use crate::outline::Outline;
use crate::patch::{Patch, Use, all_boxes, sized_box, sizing};
use crate::place::Place;
use crate::wanted::{Size, Usual, Wanted};
use kachel_geom::{Bounds, Circle, Mm, Name, Point, Px, Region, Ring, Stage, Stopped, Watch, normalise};
use kachel_trace::{Contours, PenWidth, inked};
use rayon::prelude::*;
use std::borrow::Cow;

/// The contours with pen lines given their width, `pen` millimetres or as drawn, at a guess of the scale.
fn at_width<'c>(
    c: &'c Contours,
    pen: Option<f64>,
    mm_per_px: f64,
    watch: &Watch,
) -> Result<Cow<'c, Contours>, Stopped> {
    if c.lines.is_empty() {
        return Ok(Cow::Borrowed(c));
    }
    let width = pen.map_or(PenWidth::Drawn, |mm| PenWidth::Pixels(mm / mm_per_px));
    inked(c, width, watch).map(Cow::Owned)
}

/// The scale as far as it follows from the size alone: with a pinned side it is that of all lines together.
fn guessed_scale(c: &Contours, wanted: &Wanted<'_>) -> f64 {
    let all =
        c.contours.iter().filter_map(|c| c.ring.bounds()).chain(c.lines.iter().filter_map(|l| l.curve.bounds(0.5)));
    // Where nothing is traced, what is drawn by hand lies somewhere on the picture.
    let picture = Bounds { min: Point::new(0.0, 0.0), max: Point::new(c.width.max(1.0), c.height.max(1.0)) };
    let b = all.reduce(Bounds::union).unwrap_or(picture);
    let of = |mm: f64, px: f64| (mm - wanted.pen.unwrap_or(0.0).min(mm * 0.9)) / px.max(1e-6);
    match (wanted.size, wanted.usual) {
        (Size::Scale { mm_per_px }, _) => mm_per_px,
        (Size::Width { mm }, _) => of(mm, b.width()),
        (Size::Height { mm }, _) => of(mm, b.height()),
        (Size::Usual, Usual::Longest(mm)) => of(mm, b.width().max(b.height())),
        (Size::Usual, Usual::Across(mm)) => of(mm, b.width().hypot(b.height())),
    }
}

/// The patches that [`size_outline`] starts from, with the maker's choices, whether or not they make an outline.
pub fn found_patches(c: &Contours, wanted: &Wanted<'_>, watch: &Watch) -> Result<Vec<Patch>, Stopped> {
    let inked = at_width(c, wanted.pen, guessed_scale(c, wanted), watch)?;
    let mut found = patches(inked.as_ref(), wanted.aim, wanted.guesses);
    apply_choices(&mut found, wanted.choices);
    Ok(found)
}

/// Brings contours to true size; pen lines get their width. Then the changes are applied in their order.
pub fn size_outline(contours: &Contours, wanted: &Wanted<'_>, watch: &Watch) -> Result<Outline, OutlineError> {
    size_outline_from(contours, wanted, None, watch)
}

/// How large the drawing was before any change, and where its middle lay.
#[derive(Clone, Copy)]
struct Before {
    longest: f64,
    circle: Circle<Px>,
}

impl Before {
    fn of(patches: &[Patch]) -> Option<Self> {
        let b = sized_box(patches)?;
        let points: Vec<Point<Px>> = sizing(patches).flat_map(|p| &p.rings[0].0).copied().collect();
        Some(Self { longest: b.width().max(b.height()), circle: Circle::round(&points)? })
    }

    /// The scale at which it has its usual size.
    fn scale(&self, usual: Usual) -> f64 {
        match usual {
            Usual::Longest(mm) => mm / self.longest,
            Usual::Across(mm) => mm / (2.0 * self.circle.radius),
        }
    }
}

/// The same with a memory of the steps of the list; the text identifies everything but changes and scale.
pub fn size_outline_from(
    contours: &Contours,
    wanted: &Wanted<'_>,
    memory: Option<(&dyn Steps, &str)>,
    watch: &Watch,
) -> Result<Outline, OutlineError> {
    watch.enter(Stage::Outline)?;
    let Wanted { choices, changes, size, pen, aim, .. } = *wanted;
    let mut guess = guessed_scale(contours, wanted);
    // The width of a pen line depends on the scale, and with a pinned side the scale on the width of the lines.
    let mut rounds = 0;
    let has_lengths = pen.is_some() && !contours.lines.is_empty() || changes.iter().any(|e| e.is_on);
    let (patches, lost, astray, edge_px, before, mm_per_px) = loop {
        let mut patches = patches(at_width(contours, pen, guess, watch)?.as_ref(), aim, wanted.guesses);
        // What is chosen of a patch that a change makes waits for the change.
        let (mut lost, early): (Vec<Choice>, Vec<Choice>) = choices.iter().partition(|c| c.spot.made_by().is_some());
        lost.extend(apply_choices(&mut patches, &early));
        let before = Before::of(&patches);
        let middle = sized_box(&patches).or_else(|| all_boxes(&patches)).map_or(Point::new(0.0, 0.0), |b| b.centre());
        let place = Place { origin: middle, mm_per_px: guess };
        let start = |base: &str| Name::of(&(base, guess.to_bits()));
        let memory = memory.map(|(steps, base)| Remembered { steps, start: start(base) });
        let astray = desk::apply(&mut patches, changes, &place, memory, watch)?;
        // A choice may mean what a change has made.
        lost = apply_choices(&mut patches, &lost);
        if wanted.guesses == Guesses::ByNesting {
            as_before(&mut patches, aim);
        }
        let has_edge = patches.iter().any(|p| p.use_.is_edge());
        let edge_px = sized_box(&patches).filter(|_| has_edge || !aim.needs_edge());
        let edge_px = edge_px.ok_or_else(|| nothing_left(changes, &astray))?;
        // What was drawn by hand on an empty picture has its size only now.
        let before = before.or_else(|| Before::of(&patches)).ok_or(OutlineError::NoEdge)?;
        let mm_per_px = match size {
            Size::Scale { mm_per_px } => mm_per_px,
            Size::Width { mm } => mm / edge_px.width(),
            Size::Height { mm } => mm / edge_px.height(),
            Size::Usual => before.scale(wanted.usual),
        };
        rounds += 1;
        let is_settled = (mm_per_px / guess - 1.0).abs() < 1e-5;
        if !has_lengths || is_settled || rounds == 6 || !mm_per_px.is_finite() {
            break (patches, lost, astray, edge_px, before, mm_per_px);
        }
        guess = mm_per_px;
    };
    for (px, side) in [(edge_px.width(), "edge-too-wide"), (edge_px.height(), "edge-too-high")] {
        let mm = px * mm_per_px;
        if !(mm >= SIZE_RANGE_MM.0 - 1e-9 && mm <= SIZE_RANGE_MM.1 + 1e-9) {
            return Err(OutlineError::SizeOutOfRange { mm, side });
        }
    }
    // Nothing else moves when a detail is moved on a plate of its own form.
    let stays = aim == Aim::Plate && wanted.guesses != Guesses::ByNesting;
    let origin = if stays { before.circle.centre } else { edge_px.centre() };
    let place = Place { origin, mm_per_px };
    let outer: Vec<Ring<Mm>> =
        patches.par_iter().filter(|p| p.use_.is_edge()).map(|p| anticlockwise(place.ring(&p.curves[0]))).collect();
    let edge = Region::from_mm(&normalise(&outer, false))?.filled();
    let corners = [edge_px.min, edge_px.max].map(|p| place.point(p));
    let edge_bounds = edge.bounds().or_else(|| Bounds::of(&corners)).ok_or(OutlineError::NoEdge)?;
    let area = |p: &Patch| {
        watch.check()?;
        let rings: Vec<Ring<Mm>> = p.curves.iter().map(|c| place.ring(c)).collect();
        Ok::<_, OutlineError>((p.id, Region::from_mm(&normalise(&rings, true))?))
    };
    let areas = |is_of: fn(Use) -> bool| -> Result<Vec<_>, OutlineError> {
        patches.par_iter().filter(|p| is_of(p.use_)).map(area).collect()
    };
    let (details, openings) = (areas(Use::is_detail)?, areas(|u| u == Use::Opening)?);
    let middle = place.point(before.circle.centre);
    let nodes = crate::curves::nodes(&patches, mm_per_px);
    Ok(Outline {
        patches,
        nodes,
        mm_per_px,
        origin,
        middle,
        edge_px,
        edge_bounds,
        edge,
        details,
        openings,
        lost,
        astray,
    })
}

/// Whether it was an entry of the list that left no edge.
fn nothing_left(edits: &[Entry], astray: &[Astray]) -> OutlineError {
    let emptied = astray.iter().rev().find(|a| a.is_empty && a.lost.is_empty());
    let entry = emptied.and_then(|a| edits.iter().find(|e| e.id == a.id));
    entry.map_or(OutlineError::NoEdge, |e| OutlineError::NothingLeft { what: e.change.code() })
}

fn anticlockwise(mut r: Ring<Mm>) -> Ring<Mm> {
    if r.area() < 0.0 {
        r.0.reverse();
    }
    r
}
