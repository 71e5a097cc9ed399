//! The lines of an object, layer by layer; what is equal is made once.

use crate::fill::{concentric, honeycomb, straight};
use crate::model::{Kind, Laid, LaidLayer, LaidPart, Lines, MAX_LAYERS, RehearseError};
use crate::timing::{area_of, printing};
use crate::walls::{KnownWalls, Walls};
use kachel_design::{Infill, PrintSettings};
use kachel_geom::{BoolOp, OffGrid, Region, Watch, combine, connected, offset, simplify};
use kachel_solid::{LayerHeights, Layers, SoundMesh};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::Arc;

/// An object that is to be printed, and how.
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

/// Directions of lines in layers that follow each other, degrees.
const DIRECTIONS: [f64; 2] = [45.0, 135.0];

/// Lines of a part in a layer, group after group.
type Groups = Vec<Arc<Vec<Lines>>>;

/// What is filled how inside the walls.
struct Filled {
    /// The lines of even and odd layers.
    lines: [Arc<Vec<Lines>>; 2],
}

/// A part's area in one run of layers, with its walls.
struct Run {
    /// Its walls in the order in which they are laid.
    lines: Vec<Arc<Vec<Lines>>>,
    /// What is left inside them.
    inside: Region,
    /// Area that is left out, mm2.
    left_out: f64,
}

/// The lines of an object, with their times. Walls that are known are not made anew.
pub fn lay(job: &Job<'_>, known: &KnownWalls, watch: &Watch) -> Result<Laid, RehearseError> {
    let s = job.settings;
    let expected = (job.skin.mesh().extent().1[2] / job.layer).ceil();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a number of layers")]
    if expected > MAX_LAYERS as f64 {
        return Err(RehearseError::TooManyLayers(expected as usize));
    }
    let heights = LayerHeights { first: s.first_layer, others: job.layer };
    let skin = Layers::of(job.skin, heights)?;
    let mut lines: Vec<Vec<Groups>> = Vec::new();
    let mut left_out = vec![0.0; skin.all.len()];
    for (_, mesh) in job.parts {
        watch.check()?;
        // One filament makes all: then its layers are those of the skin.
        let own = if job.parts.len() > 1 { Some(Layers::of(mesh, heights)?) } else { None };
        let layers = own.as_ref().unwrap_or(&skin);
        let runs = layers.runs();
        let walled = run_walls(layers, &runs, job, known, watch)?;
        let run_of = numbered(&runs, layers.all.len());
        lines.push(part_lines(job, &skin, (&walled, &run_of), &mut left_out, watch)?);
    }
    let bottom = skin.all.first().map(|l| l.area.filled()).unwrap_or_default();
    // The first part of the lowest layer lays the brim.
    let brim = Some(brim(job, &bottom)?).filter(|b| !b.is_empty());
    let first = lines.iter_mut().filter_map(|l| l.first_mut()).find(|l| l.iter().any(|l| !l.is_empty()));
    if let (Some(brim), Some(first)) = (brim, first) {
        first.insert(0, Arc::new(brim));
    }
    // The same lines take the same time, and cover the same area.
    let key = |i: usize, lines: &Groups| -> Vec<usize> {
        std::iter::once(usize::from(i == 0)).chain(lines.iter().map(|l| Arc::as_ptr(l) as usize)).collect()
    };
    let height = |i: usize| skin.all[i].top - skin.all[i].bottom;
    let each = || lines.iter().flat_map(|part| part.iter().enumerate());
    let different: HashMap<Vec<usize>, (usize, &Groups)> =
        each().map(|(i, lines)| (key(i, lines), (i, lines))).collect();
    let timed = |(key, (i, lines)): (Vec<usize>, (usize, &Groups))| {
        watch.check()?;
        Ok::<_, RehearseError>((key, (printing(lines, height(i), i == 0, s), area_of(lines))))
    };
    let known: HashMap<Vec<usize>, (f64, f64)> = different.into_par_iter().map(timed).collect::<Result<_, _>>()?;
    let layer = |i: usize| {
        let part = |all: &Vec<Groups>| {
            let (seconds, area) = known[&key(i, &all[i])];
            LaidPart { lines: all[i].clone(), seconds, volume: area * height(i) }
        };
        let (bottom, top) = (skin.all[i].bottom, skin.all[i].top);
        LaidLayer { bottom, top, parts: lines.iter().map(part).collect(), left_out: left_out[i] }
    };
    let layers = (0..skin.all.len()).map(layer).collect();
    Ok(Laid { layers, parts: job.parts.iter().map(|(part, _)| *part).collect(), bottom })
}

/// The lines of a part, layer by layer: those along its borders, as its runs have them, and those inside.
fn part_lines(
    job: &Job<'_>,
    skin: &Layers,
    (made, part_runs): (&[Run], &[usize]),
    left_out: &mut [f64],
    watch: &Watch,
) -> Result<Vec<Groups>, RehearseError> {
    let s = job.settings;
    let skin_runs: Vec<usize> = numbered(&skin.runs(), skin.all.len());
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
        all[i] = run.lines.iter().cloned().chain(inside).collect();
    }
    Ok(all)
}

/// The walls of each run of layers. Pieces that stay the same while others taper are walled once.
fn run_walls(
    layers: &Layers,
    runs: &[(usize, usize)],
    job: &Job<'_>,
    known: &KnownWalls,
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
        Ok::<_, RehearseError>(known.walls(piece, job.settings.walls, job.line)?)
    };
    let walled: Vec<Arc<Walls>> = different.par_iter().map(walled).collect::<Result<_, _>>()?;
    let run = |pieces: &Vec<Region>| {
        let all: Vec<&Walls> = pieces.iter().map(|p| &*walled[places[p]]).collect();
        let (mut outer, inner): (Vec<Lines>, Vec<Lines>) =
            all.iter().flat_map(|w| w.lines.iter().cloned()).partition(|l| l.kind == Kind::Outer);
        let rest = if outer.is_empty() { std::mem::replace(&mut outer, inner) } else { inner };
        let in_order = if job.settings.outer_first { [outer, rest] } else { [rest, outer] };
        Run {
            lines: in_order.into_iter().filter(|l| !l.is_empty()).map(Arc::new).collect(),
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
const NOZZLE_MM: f64 = 0.015;

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
    let sparse = |parity: usize| {
        if sparse.is_empty() || apart.is_infinite() {
            return Ok(vec![]);
        }
        let along = |apart: f64, degrees: f64| straight(&sparse, Kind::Infill, job.line, apart, degrees);
        Ok(match s.pattern {
            Infill::Lines => along(apart, DIRECTIONS[parity]),
            Infill::Grid => DIRECTIONS.iter().flat_map(|d| along(2.0 * apart, *d)).collect(),
            Infill::Honeycomb => honeycomb(&sparse, Kind::Infill, job.line, apart),
            Infill::Concentric => concentric(&sparse, Kind::Infill, job.line, apart)?,
        })
    };
    let lines = |parity: usize| {
        let mut all = straight(&solid, Kind::Solid, job.line, job.line, DIRECTIONS[parity]);
        all.extend(sparse(parity)?);
        Ok::<_, OffGrid>(Arc::new(all))
    };
    Ok(Filled { lines: [lines(0)?, lines(1)?] })
}

/// Lines round the object on the bed.
fn brim(job: &Job<'_>, bottom: &Region) -> Result<Vec<Lines>, OffGrid> {
    let mut all = Vec::new();
    let mut out = job.line / 2.0;
    while out < job.settings.brim {
        all.extend(rings_round(bottom, out, Kind::Brim, job.line)?);
        out += job.line;
    }
    Ok(all)
}

/// Lines round an area, so far away from it.
pub(crate) fn rings_round(area: &Region, by: f64, kind: Kind, width: f64) -> Result<Vec<Lines>, OffGrid> {
    let rings = offset(area, by)?.filled().rings_mm();
    Ok(rings.into_iter().map(|r| Lines { kind, points: r.0, is_closed: true, width }).collect())
}
