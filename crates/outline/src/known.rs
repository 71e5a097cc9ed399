//! How a patch is known again.

use crate::patch::{Patch, Use};
use crate::spot::{LEAST_SHARE, Likeness, Root, Spot};
use kachel_geom::{Bounds, Px, Ring};
use serde::{Deserialize, Serialize};

/// A use that the maker gave to a patch.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Choice {
    /// The patch.
    pub spot: Spot,
    /// The use.
    #[serde(rename = "use")]
    pub use_: Use,
}

/// The patches of a list, to be known again: their boxes are looked at before their lines, so that thousands are found in thousands.
pub(crate) struct Known<'a> {
    patches: &'a [Patch],
    boxes: Vec<Option<Bounds<Px>>>,
}

/// The place in the list of the patch that a spot names. An altered patch is found by where it comes from; otherwise it
/// is the one round the point (the most alike of several, or the smallest: what lies on top is meant first); where none is
/// round the point, one whose box is much the same.
pub fn patch_at(patches: &[Patch], spot: &Spot) -> Option<usize> {
    Known::of(patches).at(spot)
}

impl<'a> Known<'a> {
    /// Of a list.
    pub(crate) fn of(patches: &'a [Patch]) -> Self {
        let boxes = patches.iter().map(|p| p.rings.first().and_then(Ring::bounds)).collect();
        Self { patches, boxes }
    }

    /// [`patch_at`].
    pub(crate) fn at(&self, spot: &Spot) -> Option<usize> {
        let Self { patches, boxes } = self;
        let of_kind = || patches.iter().enumerate().filter(|(_, p)| p.is_ink == spot.is_ink);
        let best = |score: &dyn Fn(&Patch) -> Option<f64>| {
            let scored = of_kind().filter_map(|(k, p)| Some((k, score(p)?)));
            scored.max_by(|a, b| a.1.total_cmp(&b.1)).map(|(k, _)| k)
        };
        // It was as traced when it was named; an earlier entry may have moved it since.
        let as_traced = || Some(Root::Traced { at: spot.at, like: spot.like? });
        let by_root = spot.root.or_else(as_traced).and_then(|root| {
            let exact = of_kind().find(|(_, p)| p.root == Some(root)).map(|(k, _)| k);
            let Some(Root::Traced { like, .. }) = spot.root else { return exact };
            let alike = |p: &Patch| match p.root {
                Some(Root::Traced { like: own, .. }) if like.is_same(&own) => Some(like.score(&own)),
                _ => None,
            };
            exact.or_else(|| best(&alike))
        });
        let at = spot.at;
        let by_place = || {
            let score = |k: usize, p: &Patch| {
                if !boxes[k].is_some_and(|b| b.has(at)) || !p.contains(at) {
                    return None;
                }
                let Some(like) = spot.like else { return Some(0.0) };
                let own = Likeness::of(p);
                // What was made or altered and is gone must not become the plate on which it lay.
                let is_other = spot.root.is_some() && like.share(&own) < LEAST_SHARE;
                (!is_other).then(|| like.score(&own))
            };
            let hits = of_kind().filter_map(|(k, p)| Some((k, score(k, p)?, p.area_px2)));
            hits.max_by(|a, b| a.1.total_cmp(&b.1).then(b.2.total_cmp(&a.2))).map(|(k, ..)| k)
        };
        let by_overlap = || {
            let like = spot.like?;
            best(&|p: &Patch| Some(Likeness::of(p)).filter(|own| like.is_same(own)).map(|own| like.score(&own)))
        };
        by_root.or_else(by_place).or_else(by_overlap)
    }
}

/// Gives the choices to the patches they mean; returns those that found none.
pub fn apply_choices(patches: &mut [Patch], choices: &[Choice]) -> Vec<Choice> {
    let known = Known::of(patches);
    let found: Vec<Option<usize>> = choices.iter().map(|c| known.at(&c.spot)).collect();
    let mut lost = Vec::new();
    for (choice, at) in choices.iter().zip(found) {
        match at {
            Some(k) => patches[k].use_ = choice.use_,
            None => lost.push(*choice),
        }
    }
    lost
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::patch::PatchId;
    use kachel_geom::Point;

    #[derive(Deserialize)]
    struct Table {
        patches: Vec<Drawn>,
        spots: Vec<Named>,
    }

    #[derive(Deserialize)]
    struct Drawn {
        rings: Vec<Vec<Point<Px>>>,
        is_ink: bool,
        depth: u32,
        root: Option<Root>,
    }

    #[derive(Deserialize)]
    struct Named {
        why: String,
        spot: Spot,
        is: Option<usize>,
    }

    fn patch(d: &Drawn) -> Patch {
        let rings: Vec<Ring<Px>> = d.rings.iter().map(|r| Ring(r.clone())).collect();
        let patch = Patch {
            id: PatchId(0),
            is_ink: d.is_ink,
            curves: vec![],
            anchor: kachel_geom::interior_point(&rings.iter().collect::<Vec<_>>()).unwrap(),
            area_px2: 2.0 * rings[0].area().abs() - rings.iter().map(|r| r.area().abs()).sum::<f64>(),
            rings,
            depth: d.depth,
            use_: Use::Detail,
            colour: None,
            group: None,
            root: None,
            letters: None,
        };
        Patch { root: d.root.or(patch.clone().traced().root), ..patch }
    }

    /// The browser's own search is held to the same table by `known.test.ts`.
    #[test]
    fn spots_name_the_patches_of_the_shared_table() {
        let table: Table = serde_json::from_str(include_str!("../tests/shared/spots.json")).unwrap();
        let patches: Vec<Patch> = table.patches.iter().map(patch).collect();
        for Named { why, spot, is } in &table.spots {
            assert_eq!(patch_at(&patches, spot), *is, "{why}");
        }
    }
}
