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

/// What can be chosen: its stable name, and the code of the message that says it.
pub type Offered = (&'static str, &'static str);

macro_rules! choices {
    ($($(#[$doc:meta])* $name:ident $of:literal { $($(#[$line:meta])* $variant:ident = $stable:literal,)+ })+) => {$(
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        pub enum $name { $($(#[$line])* $variant),+ }

        impl $name {
            /// All of them, in their usual order.
            pub const OPTIONS: &'static [Offered] = &[$(Self::$variant.option()),+];

            /// Its name and its message.
            pub const fn option(self) -> Offered {
                match self { $(Self::$variant => ($stable, concat!("choice-", $of, "-", $stable))),+ }
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
    Back "back" {
        /// Open through the middle.
        Open = "open",
        /// Closed but for an opening.
        Backed = "backed",
    }
    /// How details become stamp lines.
    StampAs "stamp-as" {
        /// As the areas they are.
        Areas = "areas",
        /// As lines along their contours.
        Lines = "lines",
    }
    /// What happens to pieces of the edge that do not hang together.
    Pieces "pieces" {
        /// The smallest margin that does it makes one piece of them.
        United = "united",
        /// They stay as they are.
        Apart = "apart",
    }
    /// What happens to pieces and holes that are too small to print.
    Crumbs "crumbs" {
        /// They go.
        Gone = "gone",
        /// They stay.
        Kept = "kept",
    }
    /// What happens to details that lie outside the edge.
    Outside "outside" {
        /// What is outside is cut off, and Check says so.
        Told = "told",
        /// It is cut off.
        Cut = "cut",
        /// The edge grows round them.
        Grown = "grown",
    }
    /// Where a drawing lies on a plate that has a form of its own.
    Place "place" {
        /// Where it was before anything was moved.
        Own = "own",
        /// The middle of its box lies in the plate's.
        Box = "box",
        /// The middle of the smallest circle round it lies in the plate's.
        Circle = "circle",
    }
    /// How details lie on a body.
    Relief "relief" {
        /// They stand out.
        Raised = "raised",
        /// They are cut in.
        Engraved = "engraved",
        /// They are cut right through.
        Cut = "cut",
        /// They lie in it, flush.
        Inlaid = "inlaid",
        /// There are none.
        Nothing = "nothing",
    }
    /// How details lie on a stamp.
    StampRelief "stamp-relief" {
        /// They mark the dough.
        Raised = "raised",
        /// They stand out of the dough.
        Sunk = "sunk",
    }
    /// The plate of a stamp.
    StampPlate "stamp-plate" {
        /// The outline, grown.
        Outline = "outline",
        /// A disc round it.
        Disc = "disc",
        /// A rectangle round it.
        Rectangle = "rectangle",
    }
    /// The grip of a stamp.
    Grip "grip" {
        /// None.
        None = "none",
        /// A round one.
        Knob = "knob",
        /// A long one.
        Bar = "bar",
    }
    /// By what an ornament hangs.
    Hang "hang" {
        /// An eyelet outside the edge.
        Eyelet = "eyelet",
        /// A hole inside it.
        Hole = "hole",
        /// It does not hang.
        Nothing = "none",
    }
    /// From where the place of a hole is measured.
    HoleAt "hole-at" {
        /// Where the recipe puts it.
        Own = "own",
        /// From the middle of the object.
        Middle = "middle",
        /// Along the edge from where the recipe puts it.
        Edge = "edge",
    }
    /// On which side of a tag its hole is.
    TagSide "tag-side" {
        /// Above.
        Top = "top",
        /// On the left.
        Left = "left",
        /// On the right.
        Right = "right",
    }
    /// The plate of a coaster.
    CoasterForm "coaster-form" {
        /// A disc.
        Disc = "disc",
        /// A square.
        Square = "square",
        /// A hexagon.
        Hexagon = "hexagon",
        /// The outline, grown.
        Outline = "outline",
    }
    /// Radii of a plate's corners.
    Corners "corners" {
        /// The same for all.
        Alike = "alike",
        /// One for each.
        Own = "own",
    }
    /// Disc magnets by their size.
    MagnetSize "magnet-size" {
        /// 6 mm across, 2 mm high.
        D6x2 = "6x2",
        /// 8 mm across, 3 mm high.
        D8x3 = "8x3",
        /// 10 mm across, 2 mm high.
        D10x2 = "10x2",
        /// 12 mm across, 3 mm high.
        D12x3 = "12x3",
        /// As the measures say.
        Free = "free",
    }
    /// The pocket of a magnet.
    Pocket "pocket" {
        /// The magnet is glued in from below.
        Open = "open",
        /// It goes in while the print pauses.
        Closed = "closed",
    }
    /// The body of a token.
    TokenForm "token-form" {
        /// A disc.
        Disc = "disc",
        /// The outline, grown.
        Outline = "outline",
    }
    /// What is on a token's underside.
    TokenBack "token-back" {
        /// Nothing.
        None = "none",
        /// The drawing, cut in.
        Engraved = "engraved",
        /// The drawing, flush.
        Inlaid = "inlaid",
    }
    /// The plate of a plaque.
    PlaqueForm "plaque-form" {
        /// A rectangle with round corners.
        Rounded = "rounded",
        /// A rectangle.
        Rectangle = "rectangle",
        /// An oval.
        Oval = "oval",
        /// A rectangle with half-discs at its ends.
        RoundEnds = "round-ends",
        /// The outline, grown.
        Outline = "outline",
    }
    /// Screw holes of a plaque.
    Screws "screws" {
        /// None.
        None = "none",
        /// One on each side.
        Two = "two",
        /// One in each corner.
        Four = "four",
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
