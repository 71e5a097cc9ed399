use kachel_geom::{Mm, OffGrid, Point, Pose, Region, Stopped};
use kachel_words::{msg, said};
use std::sync::Arc;

/// What a line is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Kind {
    /// Round the object on the bed, away from it.
    Skirt,
    /// Round the object on the bed, to hold it down.
    Brim,
    /// Along a border, outermost.
    Outer,
    /// Along a border, further in.
    Inner,
    /// Along the middle of a thin place, as wide as that is.
    Thin,
    /// In a layer that is filled wholly.
    Solid,
    /// In a layer that is filled in part.
    Infill,
}

impl Kind {
    /// All, in the order in which they are printed.
    pub const ALL: [Self; 7] =
        [Self::Skirt, Self::Brim, Self::Outer, Self::Inner, Self::Thin, Self::Solid, Self::Infill];

    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Skirt => "skirt",
            Self::Brim => "brim",
            Self::Outer => "outer",
            Self::Inner => "inner",
            Self::Thin => "thin",
            Self::Solid => "solid",
            Self::Infill => "infill",
        }
    }
}

/// A line of filament.
#[derive(Clone, Debug, PartialEq)]
pub struct Lines {
    /// What it is for.
    pub kind: Kind,
    /// Its middle, mm.
    pub points: Vec<Point<Mm>>,
    /// Whether its end is its beginning.
    pub is_closed: bool,
    /// Its mean width, mm.
    pub width: f64,
}

impl Lines {
    /// Its length, mm.
    pub fn length(&self) -> f64 {
        let closing = if self.is_closed { self.points.last().zip(self.points.first()) } else { None };
        let along: f64 = self.points.windows(2).map(|p| p[0].distance(p[1])).sum();
        along + closing.map_or(0.0, |(a, b)| a.distance(*b))
    }
}

/// A layer as it is printed.
#[derive(Clone, Debug)]
pub struct PrintedLayer {
    /// Its lower end above the bed, mm.
    pub bottom: f64,
    /// Its upper end, mm.
    pub top: f64,
    /// What is printed, in its order.
    pub parts: Vec<PrintedPart>,
    /// How long it takes, s, changes of filament included.
    pub seconds: f64,
    /// Until it is finished, from the start, s.
    pub until: f64,
    /// Area that is thinner than half a line and is left out, mm2.
    pub left_out: f64,
}

/// What is printed of an object with one filament.
#[derive(Clone, Debug)]
pub struct PrintedPart {
    /// The object, by its place in [`Rehearsal::poses`]; none for what runs round all of them.
    pub object: Option<usize>,
    /// The filament's number.
    pub filament: u32,
    /// Its lines, as the object lies at its own origin.
    pub lines: Vec<Arc<Vec<Lines>>>,
}

/// An object's lines, layer by layer, as it lies at its own origin.
#[derive(Clone, Debug)]
pub struct Laid {
    /// From the bed up.
    pub(crate) layers: Vec<LaidLayer>,
    /// The numbers of its parts in the solid.
    pub parts: Vec<u32>,
    /// What lies on the bed, holes filled.
    pub(crate) bottom: Region,
}

/// A layer of an object.
#[derive(Clone, Debug)]
pub(crate) struct LaidLayer {
    pub bottom: f64,
    pub top: f64,
    /// One a part of the object.
    pub parts: Vec<LaidPart>,
    /// Area that is thinner than half a line, mm2.
    pub left_out: f64,
}

/// The lines of a part in a layer.
#[derive(Clone, Debug)]
pub(crate) struct LaidPart {
    pub lines: Vec<Arc<Vec<Lines>>>,
    /// How long they take, s.
    pub seconds: f64,
    /// What they lay, mm3.
    pub volume: f64,
}

/// How much of a filament is used.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FilamentLaid {
    /// Its number.
    pub filament: u32,
    /// Filament laid, mm3.
    pub volume: f64,
    /// Filament purged when it comes in, mm3.
    pub purged: f64,
}

/// Where somebody or something has to change the filament.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stop {
    /// Before the first line of this layer (1 is the lowest) in the new filament.
    pub layer: usize,
    /// Height of the layer's lower end, mm.
    pub height: f64,
    /// When, s from the start.
    pub at: f64,
    /// The filament that comes in.
    pub filament: u32,
}

/// The print.
#[derive(Clone, Debug, Default)]
pub struct Rehearsal {
    /// From the bed up.
    pub layers: Vec<PrintedLayer>,
    /// Until the last line is laid, heating included, s.
    pub seconds: f64,
    /// Where the objects lie.
    pub poses: Vec<Pose>,
    /// Filament by its number.
    pub uses: Vec<FilamentLaid>,
    /// Changes of filament after the first.
    pub stops: Vec<Stop>,
}

/// Why there is no rehearsal.
#[derive(Debug, thiserror::Error)]
pub enum RehearseError {
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
    /// Lines round the object do not fit the grid.
    OffGrid(#[from] OffGrid),
    /// More layers than a print has.
    TooManyLayers(usize),
}

said!(RehearseError: |e| match e {
    RehearseError::Stopped(e) => e.message(),
    RehearseError::OffGrid(e) => e.message(),
    RehearseError::TooManyLayers(n) => msg!("too-many-layers", n = *n, most = MAX_LAYERS),
});

/// Most layers of a print.
pub const MAX_LAYERS: usize = 20_000;
