//! Places along a border that are narrow, gathered to what a person would call one place.

use crate::Place;
use kachel_geom::{Bounds, Mm, Point, Region, Ring, Width, join_all};

/// A place is at least so long along its two sides, mm: a shorter one is the tip of a needle, or the cusp of a gap where two
/// round pieces meet. A neck between two corners has no length.
const LEAST_ALONG_MM: f64 = 5.0;
/// Patches that a place is shown by at most.
const MOST_PATCHES: usize = 600;
/// Places nearer to each other than this, mm, are one.
pub(crate) const TOGETHER_MM: f64 = 1.5;

/// A place that is narrow, by what was measured there.
pub(crate) struct Spread {
    pub(crate) box_: Bounds<Mm>,
    pub(crate) seen: Vec<Width>,
}

impl Spread {
    /// Gathers widths.
    pub(crate) fn all_of(widths: &[Width]) -> Vec<Self> {
        let mut spots: Vec<Self> = Vec::new();
        for w in widths {
            let at = w.middle();
            let own = Bounds { min: at, max: at };
            match spots.iter_mut().find(|s| s.box_.grown(TOGETHER_MM).overlaps(&own)) {
                Some(s) => {
                    s.box_ = s.box_.union(own);
                    s.seen.push(*w);
                }
                None => spots.push(Self { box_: own, seen: vec![*w] }),
            }
        }
        spots
    }

    /// Its width, mm. The tip of a needle would be as thin as nothing: the thinnest tenth is left out.
    pub(crate) fn width(&self) -> f64 {
        let mut all: Vec<f64> = self.seen.iter().map(|w| w.across).collect();
        all.sort_by(f64::total_cmp);
        all[all.len() / 10]
    }

    /// What of the area was found narrow: a patch from border to border for each place, `step` mm wide or more.
    pub(crate) fn outline(&self, step: f64) -> Vec<Ring<Mm>> {
        let patch = |w: &Width| {
            let long = w.at.distance(w.opposite).max(1e-6);
            let half = w.along.max(step) * 0.6 / long;
            let (x, y) = ((w.opposite.y - w.at.y) * half, (w.at.x - w.opposite.x) * half);
            let at = |p: Point<Mm>, side: f64| Point::new(p.x + side * x, p.y + side * y);
            Ring(vec![at(w.at, 1.0), at(w.opposite, 1.0), at(w.opposite, -1.0), at(w.at, -1.0)])
        };
        // A long strand is shown by as many patches as are seen at once.
        let all: Vec<Ring<Mm>> = self.seen.iter().step_by(1 + self.seen.len() / MOST_PATCHES).map(patch).collect();
        let all: Vec<Region> = all.iter().filter_map(|r| Region::from_mm([r]).ok()).collect();
        join_all(&all).map_or_else(|_| vec![Ring(self.box_.grown(0.4).corners().to_vec())], |r| r.rings_mm())
    }

    /// The same as a place between two heights.
    pub(crate) fn place(&self, step: f64, (bottom, top): (f64, f64)) -> Place {
        Place { outline: self.outline(step), heights: Some((bottom, top)) }
    }

    /// Whether all of it is a neck between two corners.
    pub(crate) fn is_neck(&self) -> bool {
        self.seen.iter().all(|w| w.along == 0.0)
    }

    /// Whether it is more than a corner: long enough, or a neck that is narrow enough.
    pub(crate) fn counts(&self, most_of_neck: f64) -> bool {
        let along: f64 = self.seen.iter().map(|w| w.along).sum();
        along >= LEAST_ALONG_MM || (self.seen.iter().any(|w| w.along == 0.0) && self.width() < most_of_neck)
    }
}
