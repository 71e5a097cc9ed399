//! Names of measures, and what can be chosen.
//!
//! A recipe asks for a measure by one of these constants, so a misspelt one does not compile; what a choice can be is an
//! enum. Which recipe has which measure, with its range and words, is data in `recipes`.

use std::marker::PhantomData;

/// The name of a measure that is a length or a number.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Measure(&'static str);

impl Measure {
    /// The stable name, as in `--set wall-height=15mm`.
    pub const fn name(self) -> &'static str {
        self.0
    }
}

/// The name of a measure that is one of the choices `C`.
#[derive(Clone, Copy, Debug)]
pub struct ChoiceMeasure<C>(Measure, PhantomData<C>);

impl<C: Choice> ChoiceMeasure<C> {
    const fn new(name: &'static str) -> Self {
        Self(Measure(name), PhantomData)
    }

    /// The stable name.
    pub const fn name(self) -> &'static str {
        self.0.name()
    }
}

impl<C> From<ChoiceMeasure<C>> for Measure {
    fn from(m: ChoiceMeasure<C>) -> Self {
        m.0
    }
}

/// What can be chosen for a measure.
pub trait Choice: Copy + PartialEq + Sized + 'static {
    /// All of it, the usual one first.
    const ALL: &'static [Self];

    /// Stable name.
    fn name(self) -> &'static str;

    /// The choice of that name.
    fn by_name(name: &str) -> Option<Self> {
        Self::ALL.iter().find(|c| c.name() == name).copied()
    }
}

/// A stable name, and the words for it.
pub type Words = (&'static str, &'static str);

macro_rules! choices {
    ($($(#[$doc:meta])* $name:ident { $($(#[$line:meta])* $variant:ident = $stable:literal $words:literal,)+ })+) => {$(
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        pub enum $name { $($(#[$line])* $variant),+ }

        impl $name {
            /// Names and words of all of them, in their usual order.
            pub const OPTIONS: &'static [Words] = &[$(Self::$variant.option()),+];

            /// Name and words.
            pub const fn option(self) -> Words {
                match self { $(Self::$variant => ($stable, $words)),+ }
            }
        }

        impl Choice for $name {
            const ALL: &'static [Self] = &[$(Self::$variant),+];

            fn name(self) -> &'static str {
                self.option().0
            }
        }
    )+};
}

choices! {
    /// Whether the flange of a cutter is closed.
    Back {
        /// Open through the middle.
        Open = "open" "Open right through",
        /// Closed but for an opening.
        Backed = "backed" "Closed at the back",
    }
    /// How details become stamp lines.
    StampAs {
        /// As the areas they are.
        Areas = "areas" "Areas",
        /// As lines along their contours.
        Lines = "lines" "Lines",
    }
    /// What happens to pieces of the edge that do not hang together.
    Pieces {
        /// The smallest margin that does it makes one piece of them.
        United = "united" "United",
        /// They stay as they are.
        Apart = "apart" "Apart",
    }
    /// What happens to pieces and holes that are too small to print.
    Crumbs {
        /// They go.
        Gone = "gone" "Left out",
        /// They stay.
        Kept = "kept" "Kept",
    }
    /// What happens to details that lie outside the edge.
    Outside {
        /// What is outside is cut off, and Check says so.
        Told = "told" "Cut and report",
        /// It is cut off.
        Cut = "cut" "Cut off",
        /// The edge grows round them.
        Grown = "grown" "Edge grows",
    }
    /// Where a drawing lies on a plate that has a form of its own.
    Place {
        /// Where it was before anything was moved.
        Own = "own" "Own place",
        /// The middle of its box lies in the plate's.
        Box = "box" "Middle of its box",
        /// The middle of the smallest circle round it lies in the plate's.
        Circle = "circle" "Middle of its circle",
    }
    /// How details lie on a body.
    Relief {
        /// They stand out.
        Raised = "raised" "Raised",
        /// They are cut in.
        Engraved = "engraved" "Engraved",
        /// They are cut right through.
        Cut = "cut" "Cut through",
        /// They lie in it, flush.
        Inlaid = "inlaid" "Inlaid",
        /// There are none.
        Nothing = "nothing" "Nothing on top",
    }
    /// How details lie on a stamp.
    StampRelief {
        /// They mark the dough.
        Raised = "raised" "Raised",
        /// They stand out of the dough.
        Sunk = "sunk" "Sunk",
    }
    /// The plate of a stamp.
    StampPlate {
        /// The outline, grown.
        Outline = "outline" "Outline",
        /// A disc round it.
        Disc = "disc" "Disc",
        /// A rectangle round it.
        Rectangle = "rectangle" "Rectangle",
    }
    /// The grip of a stamp.
    Grip {
        /// None.
        None = "none" "None",
        /// A round one.
        Knob = "knob" "Knob",
        /// A long one.
        Bar = "bar" "Bar",
    }
    /// By what an ornament hangs.
    Hang {
        /// An eyelet outside the edge.
        Eyelet = "eyelet" "Eyelet",
        /// A hole inside it.
        Hole = "hole" "Hole",
        /// It does not hang.
        Nothing = "none" "Nothing",
    }
    /// From where the place of a hole is measured.
    HoleAt {
        /// Where the recipe puts it.
        Own = "own" "By itself",
        /// From the middle of the object.
        Middle = "middle" "From the middle",
        /// Along the edge from where the recipe puts it.
        Edge = "edge" "Along the edge",
    }
    /// On which side of a tag its hole is.
    TagSide {
        /// Above.
        Top = "top" "Top",
        /// On the left.
        Left = "left" "Left",
        /// On the right.
        Right = "right" "Right",
    }
    /// The plate of a coaster.
    CoasterForm {
        /// A disc.
        Disc = "disc" "Disc",
        /// A square.
        Square = "square" "Square",
        /// A hexagon.
        Hexagon = "hexagon" "Hexagon",
        /// The outline, grown.
        Outline = "outline" "Outline",
    }
    /// Radii of a plate's corners.
    Corners {
        /// The same for all.
        Alike = "alike" "All alike",
        /// One for each.
        Own = "own" "Each its own",
    }
    /// Disc magnets by their size.
    MagnetSize {
        /// 6 mm across, 2 mm high.
        D6x2 = "6x2" "6 × 2 mm",
        /// 8 mm across, 3 mm high.
        D8x3 = "8x3" "8 × 3 mm",
        /// 10 mm across, 2 mm high.
        D10x2 = "10x2" "10 × 2 mm",
        /// 12 mm across, 3 mm high.
        D12x3 = "12x3" "12 × 3 mm",
        /// As the measures say.
        Free = "free" "Other",
    }
    /// The pocket of a magnet.
    Pocket {
        /// The magnet is glued in from below.
        Open = "open" "Open below",
        /// It goes in while the print pauses.
        Closed = "closed" "Closed in",
    }
    /// The body of a token.
    TokenForm {
        /// A disc.
        Disc = "disc" "Disc",
        /// The outline, grown.
        Outline = "outline" "Outline",
    }
    /// What is on a token's underside.
    TokenBack {
        /// Nothing.
        None = "none" "None",
        /// The drawing, cut in.
        Engraved = "engraved" "Engraved",
        /// The drawing, flush.
        Inlaid = "inlaid" "Inlaid",
    }
    /// The plate of a plaque.
    PlaqueForm {
        /// A rectangle with round corners.
        Rounded = "rounded" "Rounded",
        /// A rectangle.
        Rectangle = "rectangle" "Rectangle",
        /// An oval.
        Oval = "oval" "Oval",
        /// A rectangle with half-discs at its ends.
        RoundEnds = "round-ends" "Round ends",
        /// The outline, grown.
        Outline = "outline" "Outline",
    }
    /// Screw holes of a plaque.
    Screws {
        /// None.
        None = "none" "None",
        /// One on each side.
        Two = "two" "Two",
        /// One in each corner.
        Four = "four" "Four",
    }
}

macro_rules! measures {
    ($($name:ident = $stable:literal),+ $(,)?) => {
        $(#[doc = concat!("`", $stable, "`")] pub const $name: Measure = Measure($stable);)+
    };
}

macro_rules! choice_measures {
    ($($name:ident: $choice:ident = $stable:literal),+ $(,)?) => {
        $(#[doc = concat!("`", $stable, "`, one of [`", stringify!($choice), "`]")]
        pub const $name: ChoiceMeasure<$choice> = ChoiceMeasure::new($stable);)+
    };
}

/// The names themselves.
pub mod measures {
    use super::*;

    measures! {
        ACROSS = "across", BACK_DEPTH = "back-depth", BARS = "bars", BAR_WIDTH = "bar-width", BORDER = "border",
        CLEARANCE = "clearance", CORNER = "corner",
        CORNER_LL = "corner-lower-left", CORNER_LR = "corner-lower-right", CORNER_UL = "corner-upper-left",
        CORNER_UR = "corner-upper-right", CORNER_HEXAGON = "corner-hexagon", FLANGE_DENTS = "flange-dents", FLANGE_EDGE = "flange-edge",
        FLANGE_HEIGHT = "flange-height", FLANGE_IN = "flange-in", FLANGE_WIDTH = "flange-width",
        FRAME_HEIGHT = "frame-height", FRAME_WIDTH = "frame-width", GRIP_HEIGHT = "grip-height",
        FROM_RIM = "from-rim", GRIP_WIDTH = "grip-width", GROW = "grow", HOLE = "hole", HOLE_ALONG = "hole-along", HOLE_OUT = "hole-out",
        HOLE_ROUND = "hole-round", HOLE_X = "hole-x", HOLE_Y = "hole-y", LINE_LEAST = "line-least", LONGEST = "longest",
        LOOP = "loop", LOOP_ROUND = "loop-round", MAGNET_ACROSS = "magnet-across", MAGNET_HIGH = "magnet-high",
        MARGIN = "margin", OPENING = "opening", PEG_CLEARANCE = "peg-clearance", PLATE_EDGE = "plate-edge",
        PLATE_HEIGHT = "plate-height", POCKETS = "pockets", POCKET_X = "pocket-x", POCKET_Y = "pocket-y",
        RELIEF_DEPTH = "relief-depth", RELIEF_HEIGHT = "relief-height", RIM_HEIGHT = "rim-height",
        RIM_WIDTH = "rim-width", RING_GAP = "ring-gap", RING_WIDTH = "ring-width", SCREW = "screw",
        SHIFT_X = "shift-x", SHIFT_Y = "shift-y", SINK = "sink",
        SOFT_CORNERS = "soft-corners", SOFT_EDGE = "soft-edge", STAMP_LEAST = "stamp-least", STAMP_LINE = "stamp-line",
        STAMP_UNDER_WALL = "stamp-under-wall", TAPER_DOWN = "taper-down", TAPER_IN = "taper-in",
        THICKNESS = "thickness", TURN = "turn", WALL_HEIGHT = "wall-height", WALL_THICKNESS = "wall-thickness",
    }

    choice_measures! {
        BACK: Back = "back", COASTER_FORM: CoasterForm = "form", CORNERS: Corners = "corners",
        CRUMBS: Crumbs = "crumbs", GRIP: Grip = "grip", HANG: Hang = "hang", HOLE_AT: HoleAt = "hole-at",
        MAGNET: MagnetSize = "magnet", OUTSIDE: Outside = "outside", PIECES: Pieces = "pieces",
        PLACE: Place = "place", PLAQUE_FORM: PlaqueForm = "form", PLATE: StampPlate = "plate",
        POCKET: Pocket = "pocket", RELIEF: Relief = "relief", SCREWS: Screws = "screws", STAMP_AS: StampAs = "stamp-as",
        STAMP_RELIEF: StampRelief = "relief", TAG_SIDE: TagSide = "side", TOKEN_BACK: TokenBack = "back",
        TOKEN_FORM: TokenForm = "form",
    }
}
