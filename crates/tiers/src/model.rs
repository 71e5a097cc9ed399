//! What a stack is made of.

use crate::area::Area;
use crate::finish::Finish;
use crate::names::Measure;
use crate::tie::Tie;
use kachel_geom::{Grid, Mm, Point};
use kachel_words::{Message, Value};

/// What a tier is of the object.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Role {
    /// The broad foot on the bed.
    Flange,
    /// The thin upright wall that cuts.
    Wall,
    /// Raised lines that mark the dough.
    Stamp,
    /// The plate or body that carries the rest.
    Body,
    /// What is drawn on it.
    Detail,
    /// A raised border.
    Rim,
    /// Bars that hold loose pieces.
    Bar,
    /// What it hangs by.
    Loop,
    /// What the hand holds.
    Grip,
    /// Room that is cut out.
    Room,
    /// The maker's own.
    Own,
}

impl Role {
    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Flange => "flange",
            Self::Wall => "wall",
            Self::Stamp => "stamp",
            Self::Body => "body",
            Self::Detail => "detail",
            Self::Rim => "rim",
            Self::Bar => "bar",
            Self::Loop => "loop",
            Self::Grip => "grip",
            Self::Room => "room",
            Self::Own => "own",
        }
    }

    /// The word for it.
    pub fn words(self) -> Message {
        Message::new(format!("tier-{}", self.name()))
    }
}

/// Whether a tier is added to the stack or cut out of what is there.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Op {
    /// Filament is added; it takes the place of what earlier tiers put there.
    Add,
    /// Filament is taken away from earlier tiers.
    Cut,
}

/// One body of the stack.
#[derive(Clone, Debug, PartialEq)]
pub struct Tier {
    /// By this its filament is kept; several tiers may share one.
    pub key: String,
    /// What it is called: by the recipe, or in the maker's own words.
    pub name: Value,
    /// What it is.
    pub role: Role,
    /// Plan area.
    pub footprint: Area,
    /// Height of its underside above the bed.
    pub bottom: Grid,
    /// Height of its upper side above the bed.
    pub top: Grid,
    /// Added or cut.
    pub op: Op,
    /// The part (filament) it belongs to, a place in [`Stack::filaments`].
    pub part: u32,
    /// What is done to its upper edge.
    pub top_finish: Finish,
    /// What is done to its lower edge.
    pub bottom_finish: Finish,
    /// What moves its heights and its finish.
    pub handles: Vec<Handle>,
}

impl Tier {
    /// A tier with square edges.
    pub fn upright(role: Role, footprint: impl Into<Area>, (bottom, top): (Grid, Grid), op: Op, part: u32) -> Self {
        Self {
            key: role.name().into(),
            name: role.words().into(),
            role,
            footprint: footprint.into(),
            bottom,
            top,
            op,
            part,
            top_finish: Finish::default(),
            bottom_finish: Finish::default(),
            handles: vec![],
        }
    }
}

/// What of a tier a handle moves.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, serde::Serialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Moves {
    /// Its upper side.
    Top,
    /// Its underside.
    Bottom,
    /// How far in its upper edge's finish goes.
    Inset,
    /// How far down it goes.
    Depth,
}

/// A length that can be dragged in the section.
#[derive(Clone, Debug, PartialEq)]
pub struct Handle {
    /// What it moves.
    pub moves: Moves,
    /// The measure of that name, or of an own tier the length of that name.
    pub name: String,
    /// The own tier.
    pub own: Option<u32>,
    /// The height at which the measure is 0, mm.
    pub base: f64,
    /// Whether it rises downwards.
    pub is_down: bool,
}

/// Tiers in order: a later one wins over an earlier one.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Stack {
    /// The tiers.
    pub tiers: Vec<Tier>,
    /// Whether it is the mirror image of the picture, as a tool has to be.
    pub is_mirrored: bool,
    /// The edge with its margin: of a cutter, the cookie.
    pub edge: Area,
    /// Names of the filaments, by part.
    pub filaments: Vec<String>,
    /// The tie bars, mm in the outline's own frame.
    pub bars: Vec<Tie>,
    /// Heights (mm) at which the print pauses, to put something in.
    pub pauses: Vec<f64>,
    /// What the recipe has to say.
    pub doubts: Vec<Doubt>,
    /// The middle of the plate that a drawing is laid on, mm; `None` where the body follows the drawing.
    pub plate: Option<Point<Mm>>,
    /// By which factor the drawing on a plate could be larger (or has to be smaller) to lie inside it, as far from the rim as the
    /// measure says; `None` where nothing does it, and for bodies that follow the drawing.
    pub fit: Option<f64>,
    /// The hole or loop that it hangs by; `None` where there is none.
    pub hung: Option<Hung>,
    /// What the recipe did by itself, in whole sentences; none of it is a fault.
    pub notes: Vec<Message>,
}

/// The hole or loop that something hangs by, in the stack's frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Hung {
    /// Its middle, mm.
    pub at: Point<Mm>,
    /// The middle of what hangs, from which its place can be measured, mm.
    pub middle: Point<Mm>,
    /// Across the hole, mm.
    pub across: f64,
}

/// What a recipe doubts.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum DoubtKind {
    /// Something has no height or no area, and was left out.
    NoHeight,
    /// Something goes as deep as what it is cut into, or deeper.
    TooDeep,
    /// Something does not fit where it has to go.
    NoRoom,
    /// Something closes a gap of the edge, and what the gap led into is filled.
    Sealed,
    /// Details reach over the edge, where they are cut off.
    CutOff,
    /// A hole breaks out of the edge.
    BreaksOut,
    /// Something is longer than is usual.
    TooLong,
    /// An own tier has lost what it stands on.
    LostPatch,
}

/// Something that the recipe could not make as asked, or that will not work.
#[derive(Clone, Debug, PartialEq)]
pub struct Doubt {
    /// Of which kind.
    pub kind: DoubtKind,
    /// What it is.
    pub what: Message,
    /// Where, in the stack's frame.
    pub place: Option<Area>,
    /// What mends it, the best first.
    pub mends: Vec<DoubtMend>,
}

/// What mends a doubt.
#[derive(Clone, Debug, PartialEq)]
pub struct DoubtMend {
    /// Words on its button.
    pub words: Message,
    /// What it does.
    pub by: MendBy,
}

/// How a doubt is mended.
#[derive(Clone, Debug, PartialEq)]
pub enum MendBy {
    /// A measure gets a value in its range: mm, degrees, a count, or the place of a choice.
    Measure(Measure, f64),
    /// Several measures together.
    Measures(Vec<(Measure, f64)>),
    /// The whole drawing is scaled by a factor.
    Scale(f64),
    /// The whole object gets this size, mm, in one direction.
    Whole {
        /// Its width rather than its height.
        is_width: bool,
        /// How much, mm.
        mm: f64,
    },
    /// These patches are put aside, by their places in the outline.
    Aside(Vec<usize>),
}
