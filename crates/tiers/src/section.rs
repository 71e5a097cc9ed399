use crate::{Op, Role, Stack};

/// One cut face of a section: an upright rectangle, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cut {
    /// The tier's place in the stack.
    pub tier: usize,
    /// What it is of the object.
    pub role: Role,
    /// Left and right end.
    pub x: (f64, f64),
    /// Lower and upper end above the bed.
    pub z: (f64, f64),
}

/// Cuts the stack along the line y = `y` (mm, across the object). Where tiers overlap, the later one is in front.
pub fn section(stack: &Stack, y: f64) -> Vec<Cut> {
    let mut cuts = Vec::new();
    for (tier, t) in stack.tiers.iter().enumerate().filter(|(_, t)| t.op == Op::Add) {
        for x in t.footprint.spans(y) {
            cuts.push(Cut { tier, role: t.role, x, z: (t.bottom.mm(), t.top.mm()) });
        }
    }
    cuts
}
