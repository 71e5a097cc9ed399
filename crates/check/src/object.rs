use kachel_design::{Credit, Printer};
use kachel_geom::{Inside, Mm, OffGrid, Point, Region, join_all};
use kachel_outline::Outline;
use kachel_solid::{Layers, Solid};
use kachel_tiers::{Measures, Role, Stack, Tier};
use kachel_trace::Contours;

/// All that is looked at.
#[derive(Clone, Copy, Debug)]
pub struct Object<'a> {
    /// From the trace stage.
    pub contours: &'a Contours,
    /// From the outline stage.
    pub outline: &'a Outline,
    /// The recipe's measures.
    pub measures: &'a Measures,
    /// From the tiers stage.
    pub stack: &'a Stack,
    /// From the solid stage.
    pub solid: &'a Solid,
    /// The solid as the printer lays it.
    pub layers: &'a Layers,
    /// What it is to be printed with.
    pub printer: &'a Printer,
    /// The colours of the stack's filaments, sRGB, in their order.
    pub colours: &'a [[u8; 3]],
    /// Names of filaments that the workshop no longer has.
    pub gone: &'a [String],
    /// Whether the maker placed the tie bars.
    pub has_own_bars: bool,
    /// Whose picture it is.
    pub credit: &'a Credit,
    /// The file of an earlier picture that the credit was entered for.
    pub credit_of: Option<&'a str>,
    /// How closely the picture is followed, pixels.
    pub deviation: f64,
}

/// Whether a tier is there at a height, mm.
fn lasts_over(t: &Tier, z: f64) -> bool {
    t.bottom.mm() < z && z < t.top.mm()
}

impl<'a> Object<'a> {
    /// Tiers that cover a place at a height, the uppermost in the stack's order first.
    pub(crate) fn covering(&self, at: Point<Mm>, z: f64) -> impl Iterator<Item = &'a Tier> {
        let is_there = move |t: &&Tier| lasts_over(t, z) && t.footprint.winding(at) != 0;
        self.stack.tiers.iter().rev().filter(is_there)
    }

    /// The places of ridges in which a tier's finish ends, mm: often on the footprint's very border, where a finish goes through it.
    pub(crate) fn ridges_of<'t>(&'t self, t: &'t Tier) -> impl Iterator<Item = &'t [f64; 3]> {
        let from = (t.top.mm() - t.top_finish.depth).max(t.bottom.mm());
        let is_its = move |r: &&[f64; 3]| r[2] > from - 1e-3 && r[2] < t.top.mm() - 1e-3;
        self.solid.ridges.iter().filter(is_its).filter(|r| t.footprint.holds(Point::new(r[0], r[1])))
    }

    /// Which places lie in each tier's footprint, for [`Object::covering_of`].
    pub(crate) fn insides(&self) -> Vec<Inside> {
        self.stack.tiers.iter().map(|t| Inside::of(&t.footprint)).collect()
    }

    /// [`Object::covering`] for many places.
    pub(crate) fn covering_of(&self, insides: &[Inside], at: Point<Mm>, z: f64) -> impl Iterator<Item = &'a Tier> {
        let is_there = move |(t, inside): &(&Tier, &Inside)| lasts_over(t, z) && inside.has(at);
        self.stack.tiers.iter().zip(insides).rev().filter(is_there).map(|(t, _)| t)
    }

    /// The plan area of all tiers of a role.
    pub fn area(&self, role: Role) -> Result<Region, OffGrid> {
        let all: Vec<&Region> = self.stack.tiers.iter().filter(|t| t.role == role).map(|t| &*t.footprint).collect();
        match all.as_slice() {
            [only] => Ok((*only).clone()),
            _ => join_all(all),
        }
    }
}
