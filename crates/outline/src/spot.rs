//! How a patch is named, so that it is known again when the picture was traced anew or an earlier change was altered: by
//! the patch that it comes from, by place, by nesting, by overlap.

use kachel_geom::{Bounds, Point, Px};
use serde::{Deserialize, Serialize};

/// A patch, named by a point in it and by what it was like then.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Spot {
    /// A point in it, pixels of the picture.
    pub at: Point<Px>,
    /// Whether ink or a gap is meant.
    pub is_ink: bool,
    /// What it was like; without it only the point counts.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub like: Option<Likeness>,
    /// Where it comes from, if it was not as traced.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub root: Option<Root>,
}

/// What a patch was like.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Likeness {
    /// Left, upper, right and lower end of its box, pixels of the picture.
    pub span: [f64; 4],
    /// How many contours lay round it.
    pub depth: u32,
}

/// Where a patch comes from. It stays the same when the patch is moved, grown or smoothed.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "from", rename_all = "kebab-case", deny_unknown_fields)]
#[ts(export)]
pub enum Root {
    /// The picture.
    Traced {
        /// A point in the patch as it was traced, pixels of the picture.
        at: Point<Px>,
        /// What it was like as it was traced.
        like: Likeness,
    },
    /// An entry of the list of changes.
    Made {
        /// The entry's name.
        by: u32,
        /// Which of the patches that it made.
        nth: u32,
    },
}

/// From which share of common box to box round both a patch elsewhere is the same one.
const SAME_SHARE: f64 = 0.4;
/// Under which share the patch round the point of an altered one is another one.
pub(crate) const LEAST_SHARE: f64 = 0.05;
/// The same as [`SAME_SHARE`] where it does not lie within as many others.
const SAME_SHARE_ELSEWHERE: f64 = 0.7;

pub(crate) fn span_of(b: Option<Bounds<Px>>) -> [f64; 4] {
    let b = b.unwrap_or(Bounds::EMPTY);
    [b.min.x, b.min.y, b.max.x, b.max.y]
}

/// The box (left, upper, right and lower end) round what a box becomes when the picture moves.
pub fn moved_span([l, t, r, b]: [f64; 4], moved: impl Fn(Point<Px>) -> Point<Px>) -> [f64; 4] {
    span_of(Bounds::of(&[[l, t], [r, t], [l, b], [r, b]].map(|p| moved(p.into()))))
}

impl Likeness {
    /// The area that both boxes share, by that of the two together: 1 for the same box, 0 for boxes apart.
    pub(crate) fn share(&self, other: &Self) -> f64 {
        let (a, b) = (&self.span, &other.span);
        let side = |low: f64, high: f64| (high - low).max(0.0);
        let area = |s: &[f64; 4]| side(s[0], s[2]) * side(s[1], s[3]);
        let common = side(a[0].max(b[0]), a[2].min(b[2])) * side(a[1].max(b[1]), a[3].min(b[3]));
        common / (area(a) + area(b) - common).max(f64::MIN_POSITIVE)
    }

    /// How much alike two patches are: boxes first, then nesting.
    pub(crate) fn score(&self, other: &Self) -> f64 {
        self.share(other) + if self.depth == other.depth { 0.05 } else { 0.0 }
    }

    /// Whether a patch at another place may be this one.
    pub(crate) fn is_same(&self, other: &Self) -> bool {
        self.share(other) >= if self.depth == other.depth { SAME_SHARE } else { SAME_SHARE_ELSEWHERE }
    }

    /// Whether all its numbers can be worked with.
    fn is_finite(&self) -> bool {
        self.span.iter().all(|v| v.is_finite())
    }
}

impl Spot {
    /// The smallest patch round a point.
    pub const fn new(at: Point<Px>, is_ink: bool) -> Self {
        Self { at, is_ink, like: None, root: None }
    }

    /// Moves it along with the picture.
    pub fn move_places(&mut self, moved: impl Fn(Point<Px>) -> Point<Px>) {
        let carried = |like: &mut Likeness| like.span = moved_span(like.span, &moved);
        self.at = moved(self.at);
        self.like.iter_mut().for_each(carried);
        if let Some(Root::Traced { at, like }) = &mut self.root {
            *at = moved(*at);
            carried(like);
        }
    }

    /// Whether its places can be worked with.
    pub fn is_finite(&self) -> bool {
        let root = match &self.root {
            Some(Root::Traced { at, like }) => at.is_finite() && like.is_finite(),
            Some(Root::Made { .. }) | None => true,
        };
        root && self.at.is_finite() && self.like.is_none_or(|l| l.is_finite())
    }

    /// The entry of the list that made the patch.
    pub fn made_by(&self) -> Option<u32> {
        match self.root {
            Some(Root::Made { by, .. }) => Some(by),
            _ => None,
        }
    }
}
