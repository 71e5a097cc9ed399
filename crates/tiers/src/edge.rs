//! The edge of an object: with its margin, round details that lie outside it, and in one piece where it has to be.

use crate::maker::Maker;
use crate::names::{Outside, Pieces, measures as m};
use crate::tie;
use crate::{Area, TierError};
use kachel_geom::Region;
use kachel_words::{mm, msg};

/// How much more than half of the widest gap the edge grows, mm, so that the necks between pieces hold.
const NECK_MM: f64 = 0.5;
/// Rounds in which pieces are brought together; one is enough but for drawings of very many pieces.
const ROUNDS: u32 = 3;
/// How far an edge without a border grows beyond details that lie outside it, mm.
const ROUND_DETAILS_MM: f64 = 1.5;

impl Maker<'_> {
    /// Makes the edge that all recipes start from. `border` is how much further the body reaches; a body that has a form of its
    /// own has none, and its edge stays in pieces.
    pub(crate) fn make_edge(&mut self, border: Option<f64>) -> Result<Area, TierError> {
        let margin = self.get(m::MARGIN);
        let drawn = Area::new(self.outline.edge.clone());
        let grown: Area = if margin == 0.0 { drawn } else { self.plans.grown(&drawn, margin)?.filled().into() };
        let Some(border) = border.filter(|_| !grown.is_empty()) else { return Ok(grown) };
        let grown = if self.choice(m::OUTSIDE) == Outside::Grown && self.m.has(m::OUTSIDE) {
            self.round_details(grown, margin, border)?
        } else {
            grown
        };
        if self.m.has(m::PIECES) && self.choice(m::PIECES) == Pieces::United {
            self.united(grown, border)
        } else {
            Ok(grown)
        }
    }

    /// The edge with what lies outside it of the details.
    fn round_details(&self, edge: Area, margin: f64, border: f64) -> Result<Area, TierError> {
        let details = self.joined(&self.details("details")?)?;
        let outside = self.plans.less(&details, &edge)?;
        if outside.is_empty() {
            return Ok(edge);
        }
        let reach = if margin.max(border) > 0.0 { margin } else { ROUND_DETAILS_MM };
        // Whole details, not only what sticks out of the edge: the new edge is as far from them everywhere.
        let reaching: Vec<Area> = tie::pieces(&details)
            .into_iter()
            .map(Area::new)
            .filter_map(|p| match self.plans.less(&p, &edge) {
                Ok(rest) if rest.is_empty() => None,
                Ok(_) => Some(self.plans.grown(&p, reach)),
                Err(e) => Some(Err(e)),
            })
            .collect::<Result<_, _>>()?;
        let all: Vec<Area> = std::iter::once(edge).chain(reaching).collect();
        Ok(self.plans.joined(&all)?.filled().into())
    }

    /// The edge, grown by the smallest margin at which the body is one piece.
    fn united(&mut self, edge: Area, border: f64) -> Result<Area, TierError> {
        let count = tie::pieces(&edge).len();
        if count < 2 {
            return Ok(edge);
        }
        let mut by = 0.0;
        let mut united = edge.clone();
        for _ in 0..ROUNDS {
            self.watch.check()?;
            let body = self.plans.grown(&united, border)?;
            let gap = tie::widest_gap(&body);
            if gap <= 0.0 {
                break;
            }
            by += gap / 2.0 + NECK_MM;
            united = Region::filled(&*self.plans.grown(&edge, by)?).into();
        }
        if by > 0.0 {
            self.stack.notes.push(msg!("pieces-united", n = count, margin = mm(by).decimals(1)));
        }
        Ok(united)
    }
}
