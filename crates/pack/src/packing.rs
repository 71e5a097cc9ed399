use crate::mask::{Field, Mask};
use kachel_geom::{ARC_TOLERANCE_MM, Mm, OffGrid, Pose, Region, Ring, SOURCE_DEVIATION_MM, Stopped, Watch, offset};
use kachel_words::{msg, said};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Most objects that are arranged at once.
pub const MAX_PIECES: usize = 2000;
/// Side of a cell of the raster, mm, and the most cells along a side of the bed.
const CELL_MM: f64 = 0.5;
const MOST_CELLS: f64 = 800.0;
/// By so much an offset may fall short: with it the gap holds for the true outlines.
const OFFSET_MM: f64 = ARC_TOLERANCE_MM + SOURCE_DEVIATION_MM;
/// Turns that are tried where any will do.
const ANY_TURNS: u32 = 16;

/// How objects may be turned.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Turns {
    /// Not at all.
    None,
    /// By quarters.
    #[default]
    Quarter,
    /// By sixteenths.
    Any,
}

impl Turns {
    fn degrees(self) -> Vec<f64> {
        let steps = match self {
            Self::None => 1,
            Self::Quarter => 4,
            Self::Any => ANY_TURNS,
        };
        (0..steps).map(|k| 360.0 * f64::from(k) / f64::from(steps)).collect()
    }
}

/// How to arrange.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Wish {
    /// Width and depth of the bed, mm.
    pub bed: [f64; 2],
    /// How far everything stays from the bed's edge, mm.
    pub edge: f64,
    /// How far objects stay from each other, mm.
    pub gap: f64,
    /// How they may be turned.
    pub turns: Turns,
}

/// Where an object lies.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Place {
    /// Which filling of the bed, 0 being the first.
    pub plate: usize,
    /// Where its own origin lies from the bed's front left corner, and how far it is turned.
    pub pose: Pose,
}

/// Why nothing was arranged.
#[derive(Debug, thiserror::Error)]
pub enum PackError {
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
    /// Outlines do not fit the grid.
    OffGrid(#[from] OffGrid),
    /// More objects than can be arranged at once.
    TooMany(usize),
}

said!(PackError: |e| match e {
    PackError::Stopped(e) => e.message(),
    PackError::OffGrid(e) => e.message(),
    PackError::TooMany(n) => msg!("too-many-pieces", n = *n, most = MAX_PIECES),
});

/// A shape turned: its cells, and where the lower left corner of its box lies from its origin, mm.
type Turned = Option<(Mask, [f64; 2])>;

struct Raster {
    cell: f64,
    /// Cells across and upwards.
    size: [usize; 2],
    /// Where the first cell begins on the bed, mm.
    origin: f64,
    degrees: Vec<f64>,
    /// Each shape, grown by half the gap.
    grown: Vec<Vec<Ring<Mm>>>,
    /// Each shape in each turn.
    turned: Vec<Vec<Turned>>,
}

/// Arranges `pieces` (numbers of `shapes`) beside what lies fixed already. `None` for what is too large for the bed.
pub fn pack(
    shapes: &[Region],
    pieces: &[usize],
    fixed: &[(usize, Place)],
    wish: &Wish,
    watch: &Watch,
) -> Result<Vec<Option<Place>>, PackError> {
    if pieces.len() + fixed.len() > MAX_PIECES {
        return Err(PackError::TooMany(pieces.len() + fixed.len()));
    }
    let raster = Raster::of(shapes, wish, watch)?;
    let area = |s: usize| shapes[s].filled().area_mm2();
    let side = |s: usize| shapes[s].bounds().map_or(0.0, |b| b.width().max(b.height()));
    let by = |size: &dyn Fn(usize) -> f64| {
        let sizes: Vec<f64> = (0..shapes.len()).map(size).collect();
        let mut order: Vec<usize> = (0..shapes.len()).collect();
        order.sort_by(|a, b| sizes[*b].total_cmp(&sizes[*a]));
        order
    };
    let orders = [by(&area), by(&side)];
    let orders = if orders[0] == orders[1] { &orders[..1] } else { &orders[..] };
    let packed: Vec<Packed> =
        orders.par_iter().map(|order| raster.packed(order, pieces, fixed, watch)).collect::<Result<_, PackError>>()?;
    let best = packed.into_iter().min_by_key(|p| (p.tops.len(), p.tops.last().copied()));
    Ok(best.map(|p| p.places).unwrap_or_default())
}

/// What came out of one order.
struct Packed {
    places: Vec<Option<Place>>,
    /// How far up each plate is filled, cells.
    tops: Vec<usize>,
}

impl Raster {
    fn of(shapes: &[Region], wish: &Wish, watch: &Watch) -> Result<Self, PackError> {
        let longest = wish.bed[0].max(wish.bed[1]);
        let cell = CELL_MM.max(longest / MOST_CELLS);
        // Outlines are grown by half the gap, so they may reach nearer to the edge by as much.
        let origin = wish.edge - wish.gap / 2.0;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at least 0, at most MOST_CELLS")]
        let size = wish.bed.map(|side| ((side - 2.0 * origin) / cell + 1e-9).floor().max(0.0) as usize);
        let degrees = wish.turns.degrees();
        let grow = |shape: &Region| {
            watch.check()?;
            Ok::<_, PackError>(offset(shape, wish.gap / 2.0 + OFFSET_MM)?.rings_mm())
        };
        let grown = shapes.par_iter().map(grow).collect::<Result<Vec<_>, _>>()?;
        let turn = |rings: &Vec<Ring<Mm>>| -> Vec<Turned> {
            degrees.iter().map(|d| Mask::of(&Pose { degrees: *d, ..Pose::default() }.rings(rings), cell)).collect()
        };
        let turned = grown.par_iter().map(turn).collect();
        Ok(Self { cell, size, origin, degrees, grown, turned })
    }

    fn packed(
        &self,
        order: &[usize],
        pieces: &[usize],
        fixed: &[(usize, Place)],
        watch: &Watch,
    ) -> Result<Packed, PackError> {
        let mut plates: Vec<Field> = Vec::new();
        let empty = || Field::new(self.size[0], self.size[1]);
        for (shape, place) in fixed {
            while plates.len() <= place.plate {
                plates.push(empty());
            }
            self.put_fixed(&mut plates[place.plate], *shape, place.pose);
        }
        let mut made = Packed { places: vec![None; pieces.len()], tops: vec![0; plates.len()] };
        for shape in order {
            let mut mine = (0..pieces.len()).filter(|p| pieces[*p] == *shape).peekable();
            let mut plate = 0;
            while mine.peek().is_some() {
                let is_new = plate == plates.len();
                if is_new {
                    plates.push(empty());
                    made.tops.push(0);
                }
                let before = mine.peek().copied();
                self.fill(*shape, &mut plates[plate], &mut mine, watch, |piece, at, turn, top| {
                    made.tops[plate] = made.tops[plate].max(top);
                    made.places[piece] = self.place(*shape, plate, at, turn);
                })?;
                if is_new && mine.peek().copied() == before {
                    // Too large for an empty bed.
                    plates.pop();
                    made.tops.pop();
                    break;
                }
                plate += 1;
            }
        }
        Ok(made)
    }

    /// Puts as many of a shape on a plate as find room; `done` hears of each piece its cell, its turn, and how far up it ends.
    fn fill(
        &self,
        shape: usize,
        field: &mut Field,
        pieces: &mut std::iter::Peekable<impl Iterator<Item = usize>>,
        watch: &Watch,
        mut done: impl FnMut(usize, [usize; 2], usize, usize),
    ) -> Result<(), PackError> {
        let turned = &self.turned[shape];
        // Below these rows there is no room any more: what lies on the bed only becomes more.
        let mut from = vec![0; turned.len()];
        while let Some(piece) = pieces.peek().copied() {
            watch.check()?;
            let mut best: Option<(usize, usize, usize, [usize; 2])> = None;
            for (turn, mask) in turned.iter().enumerate().filter_map(|(k, t)| Some((k, &t.as_ref()?.0))) {
                // What would end higher than the best so far is not looked for.
                let to = best.map_or(Some(usize::MAX), |(top, ..)| top.checked_sub(mask.height));
                let Some(to) = to else { continue };
                match field.lowest(mask, from[turn], to) {
                    Some(at) => {
                        from[turn] = at[1];
                        let end = (at[1] + mask.height, at[0] + mask.width, turn, at);
                        best = Some(best.map_or(end, |b| b.min(end)));
                    }
                    None => from[turn] = from[turn].max(to.saturating_add(1)),
                }
            }
            let Some((top, _, turn, at)) = best else { return Ok(()) };
            let Some((mask, _)) = &turned[turn] else { return Ok(()) };
            field.put_at(mask, at);
            done(piece, at, turn, top);
            pieces.next();
        }
        Ok(())
    }

    fn place(&self, shape: usize, plate: usize, at: [usize; 2], turn: usize) -> Option<Place> {
        let (_, corner) = self.turned[shape][turn].as_ref()?;
        let [x, y] = [0, 1].map(|k| self.origin + at[k] as f64 * self.cell - corner[k]);
        Some(Place { plate, pose: Pose { x, y, degrees: self.degrees[turn] } })
    }

    /// What lies somewhere by hand, in any turn.
    fn put_fixed(&self, field: &mut Field, shape: usize, pose: Pose) {
        let Some(grown) = self.grown.get(shape) else { return };
        let Some((mask, corner)) = Mask::of(&pose.rings(grown), self.cell) else { return };
        #[expect(clippy::cast_possible_truncation, reason = "a place by hand is held within some metres")]
        let at = corner.map(|c| ((c - self.origin) / self.cell).floor() as isize);
        // Its cells begin at its own corner: one more in each direction covers the raster's.
        for [dx, dy] in [[0, 0], [1, 0], [0, 1], [1, 1]] {
            field.put(&mask, [at[0] + dx, at[1] + dy]);
        }
    }
}
