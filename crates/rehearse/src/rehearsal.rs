//! The whole print, layer by layer; what is equal is made once.

use crate::fill::straight;
use crate::model::{Kind, Lines, MAX_LAYERS, PartUse, PrintedLayer, Rehearsal, RehearseError, Stop};
use crate::motion::{Motion, seconds_along};
use crate::walls::{Walls, walls};
use kachel_design::{Infill, PrintSettings};
use kachel_geom::{BoolOp, Mm, OffGrid, Point, Region, Watch, combine, connected, offset, simplify};
use kachel_solid::{Layers, SoundMesh};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::Arc;

/// What is to be printed, and how.
#[derive(Clone, Copy, Debug)]
pub struct Job<'a> {
    /// Everything together.
    pub skin: &'a SoundMesh,
    /// What each filament makes, by its number.
    pub parts: &'a [(u32, &'a SoundMesh)],
    /// Height of a layer, mm.
    pub layer: f64,
    /// Width of a line, mm.
    pub line: f64,
    /// The rest.
    pub settings: &'a PrintSettings,
}

/// How far from the object, and from its brim, the skirt runs, mm.
const SKIRT_MM: f64 = 3.0;
/// Directions of lines in layers that follow each other, degrees.
const DIRECTIONS: [f64; 2] = [45.0, 135.0];
/// Up to so many lines are put in the order of the shortest way; more stay in the order in which they were made.
const MOST_ORDERED: usize = 500;

/// What is filled how inside the walls.
struct Filled {
    /// The lines of even and odd layers.
    lines: [Arc<Vec<Lines>>; 2],
}

/// A part's area in one run of layers, with its walls.
struct Run {
    lines: Arc<Vec<Lines>>,
    /// What is left inside them.
    inside: Region,
    /// Area that is left out, mm2.
    left_out: f64,
}

/// Rehearses a print.
pub fn rehearse(job: &Job<'_>, watch: &Watch) -> Result<Rehearsal, RehearseError> {
    let s = job.settings;
    let expected = (job.skin.mesh().extent().1[2] / job.layer).ceil();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a number of layers")]
    if expected > MAX_LAYERS as f64 {
        return Err(RehearseError::TooManyLayers(expected as usize));
    }
    let skin = Layers::of(job.skin, s.first_layer, job.layer)?;
    let mut laid: Vec<Vec<Vec<Arc<Vec<Lines>>>>> = Vec::new();
    let mut left_out = vec![0.0; skin.all.len()];
    for (_, mesh) in job.parts {
        watch.check()?;
        // One filament makes all: then its layers are those of the skin.
        let own = if job.parts.len() > 1 { Some(Layers::of(mesh, s.first_layer, job.layer)?) } else { None };
        laid.push(part_lines(job, &skin, own.as_ref().unwrap_or(&skin), &mut left_out, watch)?);
    }
    let mut first = Arc::new(around(job, &skin)?);
    let mut known: HashMap<Vec<usize>, (f64, f64)> = HashMap::new();
    let mut made = Rehearsal { seconds: s.heating, ..Rehearsal::default() };
    let mut uses: Vec<PartUse> =
        job.parts.iter().map(|(part, _)| PartUse { part: *part, volume: 0.0, purged: 0.0 }).collect();
    let mut loaded: Option<usize> = None;
    for (i, layer) in skin.all.iter().enumerate() {
        watch.check()?;
        let height = layer.top - layer.bottom;
        let mut order: Vec<usize> =
            (0..job.parts.len()).filter(|p| laid[*p][i].iter().any(|l| !l.is_empty())).collect();
        // What is loaded goes on first.
        order.sort_by_key(|p| (Some(*p) != loaded, *p));
        let mut parts = Vec::new();
        let mut seconds = 0.0;
        for p in order {
            if loaded != Some(p) {
                if loaded.is_some() {
                    made.stops.push(Stop {
                        layer: i + 1,
                        height: layer.bottom,
                        at: made.seconds + seconds,
                        part: job.parts[p].0,
                    });
                    seconds += s.change;
                    uses[p].purged += s.purge;
                }
                loaded = Some(p);
            }
            let mut all = laid[p][i].clone();
            if !first.is_empty() {
                all.insert(0, std::mem::take(&mut first));
            }
            // The same lines take the same time, and cover the same area.
            let mut key: Vec<usize> = all.iter().map(|l| Arc::as_ptr(l) as usize).collect();
            key.push(usize::from(i == 0));
            let area = || all.iter().flat_map(|l| l.iter()).map(|l| l.length() * l.width).sum();
            let (time, area) = *known.entry(key).or_insert_with(|| (printing(&all, height, i == 0, s), area()));
            seconds += time;
            uses[p].volume += area * height;
            parts.push((job.parts[p].0, all));
        }
        seconds = seconds.max(if parts.is_empty() { 0.0 } else { s.layer_time });
        made.seconds += seconds;
        made.layers.push(PrintedLayer {
            bottom: layer.bottom,
            top: layer.top,
            parts,
            seconds,
            until: made.seconds,
            left_out: left_out[i],
        });
    }
    made.uses = uses;
    Ok(made)
}

/// The lines of a part, layer by layer: those along its borders, and those inside.
fn part_lines(
    job: &Job<'_>,
    skin: &Layers,
    layers: &Layers,
    left_out: &mut [f64],
    watch: &Watch,
) -> Result<Vec<Vec<Arc<Vec<Lines>>>>, RehearseError> {
    let s = job.settings;
    let runs = layers.runs();
    let made = run_walls(layers, &runs, job, watch)?;
    let skin_runs: Vec<usize> = numbered(&skin.runs(), skin.all.len());
    let part_runs: Vec<usize> = numbered(&runs, layers.all.len());
    let skin_areas: Vec<&Region> = skin.runs().iter().map(|(first, _)| &*skin.all[*first].area).collect();
    // Which areas lie near a layer decides what is solid in it: as many different ones as there are, each once.
    let near = |i: usize| -> Vec<usize> {
        let n = s.solid_layers as usize;
        if i < n || i + n >= skin.all.len() {
            return vec![usize::MAX];
        }
        let mut all = skin_runs[i - n..=i + n].to_vec();
        all.dedup();
        all
    };
    let keys: Vec<(usize, Vec<usize>)> =
        (0..part_runs.len().min(skin.all.len())).map(|i| (part_runs[i], near(i))).collect();
    let mut different = keys.clone();
    different.sort_unstable();
    different.dedup();
    let filled: HashMap<(usize, Vec<usize>), Filled> = different
        .into_par_iter()
        .map(|key| {
            watch.check()?;
            let filled = fill(job, &made[key.0].inside, &key.1, &skin_areas)?;
            Ok::<_, RehearseError>((key, filled))
        })
        .collect::<Result<_, _>>()?;
    let mut all = vec![vec![]; skin.all.len()];
    for (i, key) in keys.iter().enumerate() {
        let run = &made[key.0];
        left_out[i] += run.left_out;
        let inside = filled.get(key).map(|f| Arc::clone(&f.lines[i % 2]));
        all[i] = std::iter::once(Arc::clone(&run.lines)).chain(inside).collect();
    }
    Ok(all)
}

/// The walls of each run of layers. Pieces that stay the same while others taper are walled once.
fn run_walls(
    layers: &Layers,
    runs: &[(usize, usize)],
    job: &Job<'_>,
    watch: &Watch,
) -> Result<Vec<Run>, RehearseError> {
    let pieces = |(first, _): &(usize, usize)| {
        watch.check()?;
        Ok::<_, RehearseError>(connected(&coarser(&layers.all[*first].area)?))
    };
    let pieces: Vec<Vec<Region>> = runs.par_iter().map(pieces).collect::<Result<_, _>>()?;
    let mut places: HashMap<&Region, usize> = HashMap::new();
    let mut different: Vec<&Region> = Vec::new();
    for piece in pieces.iter().flatten() {
        places.entry(piece).or_insert_with(|| {
            different.push(piece);
            different.len() - 1
        });
    }
    let walled = |piece: &&Region| {
        watch.check()?;
        Ok::<_, RehearseError>(walls(piece, job.settings.walls, job.line)?)
    };
    let walled: Vec<Walls> = different.par_iter().map(walled).collect::<Result<_, _>>()?;
    let run = |pieces: &Vec<Region>| {
        let all: Vec<&Walls> = pieces.iter().map(|p| &walled[places[p]]).collect();
        Run {
            lines: Arc::new(all.iter().flat_map(|w| w.lines.iter().cloned()).collect()),
            inside: Region::new(all.iter().flat_map(|w| w.inside.rings().iter().cloned())),
            left_out: all.iter().map(|w| w.left_out).sum(),
        }
    };
    Ok(pieces.iter().map(run).collect())
}

/// An area with as many nodes as a nozzle follows.
fn coarser(area: &Region) -> Result<Region, OffGrid> {
    let rings: Vec<_> = area.rings_mm().iter().map(|r| simplify(r, NOZZLE_MM)).filter(|r| r.0.len() > 2).collect();
    Region::from_mm(&rings)
}

/// Lines may lie off the border by this, mm: less than any nozzle follows.
const NOZZLE_MM: f64 = 0.01;

/// The run of each layer.
fn numbered(runs: &[(usize, usize)], layers: usize) -> Vec<usize> {
    let mut all = Vec::with_capacity(layers);
    for (number, (_, count)) in runs.iter().enumerate() {
        all.extend(std::iter::repeat_n(number, *count));
    }
    all
}

/// Fills the inside: solid where one of the areas near it is open, else in part.
fn fill(job: &Job<'_>, inside: &Region, near: &[usize], areas: &[&Region]) -> Result<Filled, OffGrid> {
    let s = job.settings;
    let is_open = near.contains(&usize::MAX) || s.infill >= 100.0;
    let (solid, sparse) = if is_open {
        (inside.clone(), Region::default())
    } else {
        let mut covered = inside.clone();
        for k in near.iter().filter(|_| near.len() > 1) {
            covered = combine(&covered, areas[*k], BoolOp::Common)?;
        }
        (combine(inside, &covered, BoolOp::TakeAway)?, covered)
    };
    let apart = if s.infill > 0.0 { job.line * 100.0 / s.infill } else { f64::INFINITY };
    let lines = |parity: usize| {
        let mut all = straight(&solid, Kind::Solid, job.line, job.line, DIRECTIONS[parity]);
        if apart.is_finite() && !sparse.is_empty() {
            match s.pattern {
                Infill::Lines => all.extend(straight(&sparse, Kind::Infill, job.line, apart, DIRECTIONS[parity])),
                Infill::Grid => DIRECTIONS
                    .iter()
                    .for_each(|d| all.extend(straight(&sparse, Kind::Infill, job.line, 2.0 * apart, *d))),
            }
        }
        Arc::new(all)
    };
    Ok(Filled { lines: [lines(0), lines(1)] })
}

/// Skirt and brim.
fn around(job: &Job<'_>, skin: &Layers) -> Result<Vec<Lines>, OffGrid> {
    let s = job.settings;
    let Some(bottom) = skin.all.first().map(|l| l.area.filled()).filter(|a| !a.is_empty()) else { return Ok(vec![]) };
    let mut all = Vec::new();
    let mut ring = |kind: Kind, by: f64| -> Result<(), OffGrid> {
        for r in offset(&bottom, by)?.filled().rings_mm() {
            all.push(Lines { kind, points: r.0, is_closed: true, width: job.line });
        }
        Ok(())
    };
    for k in (0..s.skirt).rev() {
        ring(Kind::Skirt, s.brim + SKIRT_MM + (f64::from(k) + 0.5) * job.line)?;
    }
    let mut out = job.line / 2.0;
    while out < s.brim {
        ring(Kind::Brim, out)?;
        out += job.line;
    }
    Ok(all)
}

/// How long lines take, and the ways between them.
fn printing(lines: &[Arc<Vec<Lines>>], height: f64, is_first: bool, s: &PrintSettings) -> f64 {
    let mut at: Option<Point<Mm>> = None;
    let mut seconds = 0.0;
    for group in lines {
        let mut left: Vec<&Lines> = group.iter().collect();
        if left.len() > MOST_ORDERED {
            left.iter().for_each(|l| seconds += along(l, &mut at, height, is_first, s));
            continue;
        }
        while !left.is_empty() {
            let far = |l: &Lines| match at {
                Some(p) => ends(l).into_iter().map(|e| e.distance(p)).fold(f64::INFINITY, f64::min),
                None => 0.0,
            };
            let next = (0..left.len()).min_by(|a, b| far(left[*a]).total_cmp(&far(left[*b]))).unwrap_or(0);
            seconds += along(left.remove(next), &mut at, height, is_first, s);
        }
    }
    seconds
}

/// Where a line can be begun.
fn ends(l: &Lines) -> Vec<Point<Mm>> {
    match (l.is_closed, l.points.first(), l.points.last()) {
        (true, Some(p), _) => vec![*p],
        (false, Some(p), Some(q)) => vec![*p, *q],
        _ => vec![],
    }
}

/// The way to a line and along it.
fn along(l: &Lines, at: &mut Option<Point<Mm>>, height: f64, is_first: bool, s: &PrintSettings) -> f64 {
    let (Some(first), Some(last)) = (l.points.first(), l.points.last()) else { return 0.0 };
    let (begin, end) = match *at {
        _ if l.is_closed => (*first, *first),
        Some(p) if last.distance(p) < first.distance(p) => (*last, *first),
        _ => (*first, *last),
    };
    let wanted = match l.kind {
        _ if is_first => s.first_speed,
        Kind::Outer | Kind::Thin => s.outer_speed,
        Kind::Inner | Kind::Skirt | Kind::Brim => s.wall_speed,
        Kind::Solid | Kind::Infill => s.fill_speed,
    };
    let speed = wanted.min(s.flow / (l.width * height).max(1e-9));
    let way = at.map_or(0.0, |p| {
        seconds_along(&[p, begin], false, Motion { speed: s.travel_speed, acceleration: s.acceleration })
    });
    *at = Some(end);
    way + seconds_along(&l.points, l.is_closed, Motion { speed, acceleration: s.acceleration })
}
