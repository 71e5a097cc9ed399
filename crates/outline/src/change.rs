//! Changes of the outline: an ordered list of what is done to the sized patches. Each can be reopened, changed, moved,
//! switched off and removed, and what follows it follows.
//!
//! Places are in pixels of the picture, so that they stay on it when its size changes; lengths are in millimetres, so
//! that a typed 2 mm stays 2 mm. Angles run anticlockwise as the picture reads.

use crate::drawn::DrawnLine;
use crate::parts::{LineUpWith, Piece, Seen, Side};
use crate::patch::Use;
use crate::ranges::{LENGTH_RANGE_MM, bad, is_length, is_near, lengths};
use crate::shape::Shape;
use crate::spot::Spot;
use crate::text::Text;
use kachel_geom::{Corner, Point, Px};
use kachel_words::{Message, msg, span};
use serde::{Deserialize, Serialize};

/// Most entries of a list.
pub const MAX_CHANGES: usize = 2000;
/// Most times a patch is repeated.
pub const TIMES_RANGE: (u8, u8) = (2, 24);
/// Deviations of lines that get fewer nodes, mm.
pub const DEVIATION_RANGE_MM: (f64, f64) = (0.005, 5.0);
/// Most lines that are pasted at once.
const MAX_PASTED: usize = 2000;

const fn one() -> f64 {
    1.0
}

/// What is done.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "do", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Change {
    /// Makes one of them.
    Join {
        /// The patches; the first one's use and colour stay.
        on: Vec<Spot>,
    },
    /// Takes the second ones away from the first ones; they themselves are put aside.
    TakeAway {
        /// What stays, without.
        from: Vec<Spot>,
        /// What is taken away.
        what: Vec<Spot>,
    },
    /// Keeps only what lies in all of them.
    Common {
        /// The patches.
        on: Vec<Spot>,
    },
    /// Fills what they leave out.
    FillHoles {
        /// The patches.
        on: Vec<Spot>,
    },
    /// Keeps a rim along the border, inwards.
    Rim {
        /// The patches.
        on: Vec<Spot>,
        /// Its width, mm.
        width: f64,
    },
    /// Grows them, or shrinks them.
    Grow {
        /// The patches.
        on: Vec<Spot>,
        /// By how much on every side, mm; less than 0 shrinks.
        by: f64,
        /// How corners are made.
        #[serde(default)]
        corner: Corner,
    },
    /// Makes wider only what is thinner than a width.
    Thicken {
        /// The patches.
        on: Vec<Spot>,
        /// The width, mm.
        width: f64,
    },
    /// Cuts them in two along a line.
    Cut {
        /// The patches.
        on: Vec<Spot>,
        /// The line, pixels of the picture; it goes straight on beyond its ends where there is no gap.
        line: DrawnLine,
        /// Width of what falls away, mm; 0 leaves both sides on the same line.
        gap: f64,
    },
    /// Joins them by bars at their nearest places.
    Bridge {
        /// The patches, the second one to the first one and so on.
        on: Vec<Spot>,
        /// Width of the bars, mm.
        width: f64,
    },
    /// Fewer nodes.
    Fewer {
        /// The patches.
        on: Vec<Spot>,
        /// Largest distance from the line as it was, mm.
        deviation: f64,
    },
    /// Small dents and bumps go, corners stay.
    Smooth {
        /// The patches.
        on: Vec<Spot>,
        /// What fits into a circle of this radius (mm) is small.
        radius: f64,
    },
    /// A patch whose nodes are the maker's own.
    Nodes {
        /// The patch in whose place it is; none where it stands for itself.
        on: Vec<Spot>,
        /// Its lines, pixels of the picture; what lies in an even number of them is left out.
        lines: Vec<DrawnLine>,
        /// Its use, where it stands for itself.
        #[serde(rename = "use")]
        use_: Use,
        /// What the patch was like when its nodes were taken over.
        seen: Option<Seen>,
    },
    /// A line drawn by hand: an area where it is closed and has no width. What it goes round at all lies in it.
    Draw {
        /// The line, pixels of the picture.
        line: DrawnLine,
        /// Its width, mm; none makes an area of a closed line.
        width: Option<f64>,
        /// Its use.
        #[serde(rename = "use")]
        use_: Use,
    },
    /// Moves, turns and scales them about the middle of their box.
    Place {
        /// The patches.
        on: Vec<Spot>,
        /// How far, pixels of the picture, y down.
        by: Point<Px>,
        /// Degrees.
        degrees: f64,
        /// Factor.
        scale: f64,
        /// Factor of the height alone, on top of the other one.
        #[serde(default = "one")]
        stretch: f64,
        /// Left and right change places, before the turn.
        #[serde(default)]
        flip: bool,
        /// They themselves stay, and copies go.
        #[serde(default)]
        is_copy: bool,
    },
    /// Lines them up.
    LineUp {
        /// The patches.
        on: Vec<Spot>,
        /// Which ends meet to the left and right; none leaves them.
        across: Option<Side>,
        /// Which ends meet above and below; none leaves them.
        down: Option<Side>,
        /// With what.
        with: LineUpWith,
    },
    /// Spaces them out: equal gaps between the first and the last one.
    SpaceOut {
        /// The patches.
        on: Vec<Spot>,
        /// From above to below instead of from left to right.
        is_down: bool,
    },
    /// Completes a half: what lies on the left of the line (seen along it) is kept and mirrored to its right.
    Mirror {
        /// The patches.
        on: Vec<Spot>,
        /// A point of the line, pixels of the picture.
        through: Point<Px>,
        /// Its direction, degrees: 90 is upright and keeps what lies on the left.
        degrees: f64,
        /// A quarter is completed: mirrored across the line at right angles, too.
        #[serde(default)]
        is_quarter: bool,
    },
    /// Repeats them round a centre.
    Repeat {
        /// The patches.
        on: Vec<Spot>,
        /// The centre, pixels of the picture.
        centre: Point<Px>,
        /// How many in all, 2 to 24.
        times: u8,
        /// Whether each is mirrored across its own ray, too.
        is_mirrored: bool,
    },
    /// Adds a shape.
    Shape {
        /// Which.
        shape: Shape,
        /// Its middle, pixels of the picture.
        at: Point<Px>,
        /// Degrees.
        degrees: f64,
        /// Its use.
        #[serde(rename = "use")]
        use_: Use,
    },
    /// Adds text.
    Text {
        /// What it says, and how.
        text: Text,
        /// Where its first base line is held, pixels of the picture.
        at: Point<Px>,
        /// Degrees.
        degrees: f64,
        /// Its use.
        #[serde(rename = "use")]
        use_: Use,
    },
    /// Adds patches from elsewhere.
    Paste {
        /// The patches, mm.
        pieces: Vec<Piece>,
        /// Where their 0, 0 lies, pixels of the picture.
        at: Point<Px>,
        /// Degrees.
        degrees: f64,
        /// Factor.
        scale: f64,
    },
}

impl Change {
    fn lists_mut(&mut self) -> Vec<&mut Vec<Spot>> {
        match self {
            Self::Join { on }
            | Self::Common { on }
            | Self::FillHoles { on }
            | Self::Rim { on, .. }
            | Self::Grow { on, .. }
            | Self::Thicken { on, .. }
            | Self::Cut { on, .. }
            | Self::Bridge { on, .. }
            | Self::Fewer { on, .. }
            | Self::Smooth { on, .. }
            | Self::Nodes { on, .. }
            | Self::Place { on, .. }
            | Self::LineUp { on, .. }
            | Self::SpaceOut { on, .. }
            | Self::Mirror { on, .. }
            | Self::Repeat { on, .. } => vec![on],
            Self::TakeAway { from, what } => vec![from, what],
            Self::Draw { .. } | Self::Shape { .. } | Self::Text { .. } | Self::Paste { .. } => vec![],
        }
    }

    /// The patches that it works on, those that stay first.
    pub fn spots(&self) -> Vec<Spot> {
        self.clone().lists_mut().into_iter().flat_map(std::mem::take).collect()
    }

    /// Puts other patches in the place of those that are gone, all after the first of them; none takes them out.
    pub fn repoint(&mut self, lost: &[Spot], to: &[Spot]) {
        for list in self.lists_mut() {
            let Some(first) = list.iter().position(|s| lost.contains(s)) else { continue };
            let kept = list[..first].to_vec();
            let new = to.iter().filter(|s| !list.contains(s));
            let rest = list[first..].iter().filter(|s| !lost.contains(s));
            *list = kept.iter().chain(new).chain(rest).copied().collect();
        }
    }

    /// What undo calls it: the code of its message.
    pub const fn code(&self) -> &'static str {
        match self {
            Self::Join { .. } => "change-join",
            Self::TakeAway { .. } => "change-take-away",
            Self::Common { .. } => "change-common",
            Self::FillHoles { .. } => "change-fill-holes",
            Self::Rim { .. } => "change-rim",
            Self::Grow { .. } => "change-grow",
            Self::Thicken { .. } => "change-thicken",
            Self::Cut { .. } => "change-cut",
            Self::Bridge { .. } => "change-bridge",
            Self::Fewer { .. } => "change-fewer",
            Self::Smooth { .. } => "change-smooth",
            Self::Nodes { .. } => "change-nodes",
            Self::Draw { .. } => "change-draw",
            Self::Place { is_copy: true, .. } => "change-copy",
            Self::Place { .. } => "change-place",
            Self::LineUp { .. } => "change-line-up",
            Self::SpaceOut { .. } => "change-space-out",
            Self::Mirror { .. } => "change-mirror",
            Self::Repeat { .. } => "change-repeat",
            Self::Shape { .. } => "change-shape",
            Self::Text { .. } => "change-text",
            Self::Paste { .. } => "change-paste",
        }
    }

    /// The length (mm) of that name, where it has one: that of its field.
    pub fn length_mut(&mut self, name: &str) -> Option<&mut f64> {
        match (self, name) {
            (Self::Rim { width, .. } | Self::Thicken { width, .. } | Self::Bridge { width, .. }, "width") => {
                Some(width)
            }
            (Self::Draw { width, .. }, "width") => Some(width.get_or_insert(0.0)),
            (Self::Grow { by, .. }, "by") => Some(by),
            (Self::Cut { gap, .. }, "gap") => Some(gap),
            (Self::Fewer { deviation, .. }, "deviation") => Some(deviation),
            (Self::Smooth { radius, .. }, "radius") => Some(radius),
            (Self::Shape { shape, .. }, _) => shape.length_mut(name),
            (Self::Text { text, .. }, _) => text.length_mut(name),
            _ => None,
        }
    }

    /// Places on the picture other than those that name patches, and directions: angles about a place.
    fn places_mut(&mut self) -> (Vec<&mut Point<Px>>, Option<&mut f64>) {
        match self {
            Self::Cut { line, .. } | Self::Draw { line, .. } => (line.places_mut().collect(), None),
            Self::Nodes { lines, .. } => (lines.iter_mut().flat_map(DrawnLine::places_mut).collect(), None),
            Self::Mirror { through, degrees, .. } => (vec![through], Some(degrees)),
            Self::Repeat { centre, .. } => (vec![centre], None),
            Self::Shape { at, degrees, .. } | Self::Text { at, degrees, .. } | Self::Paste { at, degrees, .. } => {
                (vec![at], Some(degrees))
            }
            _ => (vec![], None),
        }
    }

    /// Moves every place along with the picture, and turns directions with it.
    pub fn move_places(&mut self, moved: impl Fn(Point<Px>) -> Point<Px>) {
        let step = |p: Point<Px>, x: f64, y: f64| {
            let (from, to) = (moved(p), moved(Point::new(p.x + x, p.y + y)));
            Point::new(to.x - from.x, to.y - from.y)
        };
        let flips = |p: Point<Px>| {
            let (x, y) = (step(p, 1.0, 0.0), step(p, 0.0, 1.0));
            x.x * y.y - x.y * y.x < 0.0
        };
        match self {
            // Turns run the other way on a flipped picture, and left of a line becomes right.
            Self::Place { on, degrees, .. } if on.first().is_some_and(|s| flips(s.at)) => *degrees = -*degrees + 0.0,
            Self::Mirror { through, degrees, .. } if flips(*through) => {
                *degrees += if *degrees > 0.0 { -180.0 } else { 180.0 };
            }
            _ => {}
        }
        if let Self::Place { on, by, .. } = self
            && let Some(first) = on.first()
        {
            *by = step(first.at, by.x, by.y);
        }
        self.lists_mut().into_iter().flatten().for_each(|s| s.move_places(&moved));
        let (places, degrees) = self.places_mut();
        if let (Some(degrees), Some(at)) = (degrees, places.first()) {
            // Along the direction, y down.
            let (sin, cos) = degrees.to_radians().sin_cos();
            let way = step(**at, cos, -sin);
            let angle = (-way.y).atan2(way.x).to_degrees();
            // Only a real turn: a moved origin leaves typed angles as they are.
            if angle.is_finite() && ((angle - *degrees).rem_euclid(360.0) - 180.0).abs() < 180.0 - 1e-6 {
                *degrees = angle;
            }
        }
        places.into_iter().for_each(|p| *p = moved(*p));
    }

    /// Why it can never be applied; `None` where all its numbers are in range.
    pub fn refusal(&self) -> Option<Message> {
        let mut copy = self.clone();
        let spots = self.spots();
        let (places, degrees) = copy.places_mut();
        if !spots.iter().all(|s| is_near(&s.at) && s.is_finite()) || !places.into_iter().all(|p| is_near(p)) {
            return Some(msg!("places-too-far"));
        }
        let is_angle = |d: f64| (-360.0..=360.0).contains(&d);
        if degrees.is_some_and(|d| !is_angle(*d)) {
            return Some(msg!("angle-range"));
        }
        let needs = |n: usize| (spots.len() < n).then(|| msg!("choose-patches", n = n));
        let length = |v: f64| (!is_length(v)).then(lengths);
        let factor = |v: f64| bad(!(0.01..=100.0).contains(&v), "factor-range");
        match self {
            Self::Join { .. } | Self::Common { .. } => needs(2),
            Self::TakeAway { from, what } => bad(from.is_empty() || what.is_empty(), "choose-what-stays"),
            Self::FillHoles { .. } | Self::Mirror { .. } => needs(1),
            Self::Rim { width, .. } | Self::Thicken { width, .. } => needs(1).or_else(|| length(*width)),
            Self::Grow { by, .. } => needs(1).or_else(|| length(by.abs())),
            Self::Smooth { radius, .. } => needs(1).or_else(|| length(*radius)),
            Self::Bridge { width, .. } => needs(2).or_else(|| length(*width)),
            Self::Fewer { deviation, .. } => needs(1).or_else(|| {
                let (low, high) = DEVIATION_RANGE_MM;
                (!(low..=high).contains(deviation)).then(|| msg!("deviation-range", range = span(low, high)))
            }),
            Self::Cut { line, gap, .. } => needs(1)
                .or_else(|| line.refusal())
                .or_else(|| bad(line.is_closed, "cut-line-closed"))
                .or_else(|| bad(!(0.0..=LENGTH_RANGE_MM.1).contains(gap), "gap-range")),
            Self::Draw { line, width, .. } => line.refusal().or_else(|| length(width.unwrap_or(1.0))),
            Self::Nodes { lines, .. } => bad(lines.is_empty(), "patch-without-line")
                .or_else(|| lines.iter().find_map(DrawnLine::refusal))
                .or_else(|| bad(lines.iter().any(|l| !l.is_closed), "patch-line-open")),
            Self::Place { by, degrees, scale, stretch, .. } => needs(1)
                .or_else(|| bad(!is_near(by) || !is_angle(*degrees), "angle-range"))
                .or_else(|| factor(*scale))
                .or_else(|| factor(*stretch)),
            Self::LineUp { across, down, with, .. } => needs(if *with == LineUpWith::Object { 1 } else { 2 })
                .or_else(|| bad(across.is_none() && down.is_none(), "say-which-ends")),
            Self::SpaceOut { .. } => needs(3),
            Self::Repeat { times, .. } => needs(1).or_else(|| {
                let (least, most) = TIMES_RANGE;
                bad(!(least..=most).contains(times), "times-range")
            }),
            Self::Shape { shape, .. } => shape.refusal(),
            Self::Text { text, .. } => text.refusal(),
            Self::Paste { pieces, scale, .. } => {
                let lines = || pieces.iter().flat_map(|p| &p.lines);
                let most = msg!("too-many-pasted", most = MAX_PASTED);
                factor(*scale)
                    .or_else(|| bad(lines().next().is_none(), "no-patches-to-add"))
                    .or_else(|| (lines().count() > MAX_PASTED).then_some(most))
                    .or_else(|| lines().find_map(DrawnLine::refusal))
                    .or_else(|| bad(lines().any(|l| !l.is_closed), "patch-line-open"))
                    .or_else(|| {
                        let mut lines: Vec<_> = lines().cloned().collect();
                        let all = lines.iter_mut().flat_map(DrawnLine::places_mut);
                        bad(!all.into_iter().all(|p| is_near(p)), "places-too-far")
                    })
            }
        }
    }
}
