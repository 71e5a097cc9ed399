//! The whole print: objects on the bed, layer by layer.

use crate::lay::{Job, lay, rings_round};
use crate::model::{
    FilamentLaid, Kind, Laid, LaidLayer, LaidPart, Lines, PrintedLayer, PrintedPart, Rehearsal, RehearseError, Stop,
};
use crate::timing::{area_of, printing, travel};
use crate::walls::KnownWalls;
use kachel_design::{PrintOrder, PrintSettings};
use kachel_geom::{Mm, OffGrid, Point, Pose, Watch, join_all};
use std::rc::Rc;
use std::sync::Arc;

/// How far from the objects, and from their brims, the skirt runs, mm.
const SKIRT_MM: f64 = 3.0;

/// How far brim and skirt reach beyond the objects, mm; `line` is a line's width.
pub fn reach_round(s: &PrintSettings, line: f64) -> f64 {
    s.brim + if s.skirt > 0 { SKIRT_MM + f64::from(s.skirt) * line } else { 0.0 }
}

/// An object on the bed.
#[derive(Clone, Copy, Debug)]
pub struct Object<'a> {
    /// Its lines.
    pub laid: &'a Laid,
    /// Where it lies.
    pub pose: Pose,
    /// The number of the filament of each of its parts, in their order.
    pub filaments: &'a [u32],
}

/// Rehearses the print of one object.
pub fn rehearse(job: &Job<'_>, watch: &Watch) -> Result<Rehearsal, RehearseError> {
    let laid = lay(job, &KnownWalls::default(), watch)?;
    let object = Object { laid: &laid, pose: Pose::default(), filaments: &laid.parts };
    print(&[object], job.line, job.settings, PrintOrder::Together, watch)
}

/// The part of an object in a layer.
#[derive(Clone, Copy)]
struct Next<'a> {
    object: usize,
    filament: u32,
    part: &'a LaidPart,
    at: Point<Mm>,
}

/// Rehearses the print of what lies on a bed: all of it layer by layer, or one object after the other. Objects have to be laid with the
/// same layers; settings are those that they were laid with.
pub fn print(
    objects: &[Object<'_>],
    line: f64,
    s: &PrintSettings,
    order: PrintOrder,
    watch: &Watch,
) -> Result<Rehearsal, RehearseError> {
    let mut skirt = Some(Arc::new(skirt(objects, line, s)?)).filter(|l| !l.is_empty());
    let mut made = Rehearsal { seconds: s.heating, ..Rehearsal::default() };
    let mut loaded: Option<u32> = None;
    let mut at: Option<Point<Mm>> = None;
    for (i, layer, now) in layers_of(objects, order) {
        watch.check()?;
        let mut left = waiting(objects, &now, i);
        let mut parts = Vec::with_capacity(left.len() + 1);
        let mut seconds = 0.0;
        while let Some(k) = next(&left, loaded, at) {
            let n = left.swap_remove(k);
            if loaded != Some(n.filament) {
                if loaded.is_some() {
                    let at = made.seconds + seconds;
                    made.stops.push(Stop {
                        layer: made.layers.len() + 1,
                        height: layer.bottom,
                        at,
                        filament: n.filament,
                    });
                    seconds += s.change;
                    made.used(n.filament).purged += s.purge;
                }
                loaded = Some(n.filament);
            }
            if let Some(lines) = skirt.take() {
                let lines = vec![lines];
                seconds += printing(&lines, layer.top - layer.bottom, true, s);
                made.used(n.filament).volume += area_of(&lines) * (layer.top - layer.bottom);
                parts.push(PrintedPart { object: None, filament: n.filament, lines });
            }
            seconds += n.part.seconds + at.filter(|p| *p != n.at).map_or(0.0, |p| travel(p, n.at, s));
            at = Some(n.at);
            made.used(n.filament).volume += n.part.volume;
            parts.push(PrintedPart { object: Some(n.object), filament: n.filament, lines: n.part.lines.clone() });
        }
        seconds = seconds.max(if parts.is_empty() { 0.0 } else { s.layer_time });
        made.seconds += seconds;
        let left_out = now.iter().filter_map(|k| objects[*k].laid.layers.get(i)).map(|l| l.left_out).sum();
        let (bottom, top, until) = (layer.bottom, layer.top, made.seconds);
        made.layers.push(PrintedLayer { bottom, top, parts, seconds, until, left_out });
    }
    // Parts that lay nothing are told too, in the order of their numbers.
    objects.iter().flat_map(|o| o.filaments).for_each(|f| _ = made.used(*f));
    made.uses.sort_by_key(|u| u.filament);
    made.poses = objects.iter().map(|o| o.pose).collect();
    Ok(made)
}

/// All layers in the order in which they are printed: which of its object, how high, and whose.
fn layers_of<'a>(
    objects: &[Object<'a>],
    order: PrintOrder,
) -> impl Iterator<Item = (usize, &'a LaidLayer, Rc<[usize]>)> {
    let mut all: Vec<usize> = (0..objects.len()).collect();
    // From the front to the back, so that the beam that holds the head never has to pass over what is finished.
    all.sort_by(|a, b| {
        let (a, b) = (objects[*a].pose, objects[*b].pose);
        a.y.total_cmp(&b.y).then(a.x.total_cmp(&b.x))
    });
    let rounds: Vec<Rc<[usize]>> = match order {
        PrintOrder::Together => vec![all.into()],
        PrintOrder::OneByOne => all.into_iter().map(|k| [k].into()).collect(),
    };
    let highest = |round: &Rc<[usize]>| round.iter().map(|k| &objects[*k].laid.layers).max_by_key(|l| l.len());
    let made: Vec<_> = rounds.iter().map(|round| (highest(round), Rc::clone(round))).collect();
    made.into_iter().flat_map(|(layers, round)| {
        layers.into_iter().flatten().enumerate().map(move |(i, layer)| (i, layer, Rc::clone(&round)))
    })
}

/// What is to be laid in a layer of these.
fn waiting<'a>(objects: &[Object<'a>], now: &[usize], layer: usize) -> Vec<Next<'a>> {
    let mut all = Vec::new();
    for (k, o) in now.iter().map(|k| (*k, &objects[*k])) {
        let Some(l) = o.laid.layers.get(layer) else { continue };
        let at = Point::new(o.pose.x, o.pose.y);
        for (part, filament) in l.parts.iter().zip(o.filaments).filter(|(p, _)| p.lines.iter().any(|l| !l.is_empty())) {
            all.push(Next { object: k, filament: *filament, part, at });
        }
    }
    all
}

/// What comes next: with the filament that is loaded, else with the first by number; of that the nearest.
fn next(left: &[Next<'_>], loaded: Option<u32>, at: Option<Point<Mm>>) -> Option<usize> {
    let far = |n: &Next<'_>| at.map_or(0.0, |p| p.distance(n.at));
    let key = |n: &Next<'_>| (loaded != Some(n.filament), n.filament, n.object);
    (0..left.len()).min_by(|a, b| {
        let (a, b) = (&left[*a], &left[*b]);
        let (ka, kb) = (key(a), key(b));
        (ka.0, ka.1).cmp(&(kb.0, kb.1)).then(far(a).total_cmp(&far(b))).then(ka.2.cmp(&kb.2))
    })
}

/// Lines round everything.
fn skirt(objects: &[Object<'_>], line: f64, s: &PrintSettings) -> Result<Vec<Lines>, OffGrid> {
    if s.skirt == 0 {
        return Ok(vec![]);
    }
    let bottoms: Vec<_> = objects.iter().map(|o| o.pose.region(&o.laid.bottom)).collect::<Result<_, _>>()?;
    let all = if let [one] = &bottoms[..] { one.clone() } else { join_all(&bottoms)? };
    let mut lines = Vec::new();
    for k in (0..s.skirt).rev() {
        let by = s.brim + SKIRT_MM + (f64::from(k) + 0.5) * line;
        lines.extend(rings_round(&all, by, Kind::Skirt, line)?);
    }
    Ok(lines)
}

impl Rehearsal {
    /// The sum of a filament.
    fn used(&mut self, filament: u32) -> &mut FilamentLaid {
        let at = self.uses.iter().position(|u| u.filament == filament).unwrap_or_else(|| {
            self.uses.push(FilamentLaid { filament, volume: 0.0, purged: 0.0 });
            self.uses.len() - 1
        });
        &mut self.uses[at]
    }
}
