use crate::slice::Cutting;
use crate::{Area, Op, Plans, Role, Stack, Tier, TierError};
use kachel_geom::{Grid, Point};

/// A cut face of a section.
#[derive(Clone, Debug, PartialEq)]
pub struct Cut {
    /// The tier's place in the stack.
    pub tier: usize,
    /// What it is of the object.
    pub role: Role,
    /// Whether it is cut out of the others.
    pub is_cut: bool,
    /// Corners of the face, anticlockwise: along the cutting line and above the bed, mm.
    pub corners: Vec<(f64, f64)>,
}

/// The line along which a section is cut, mm: through a point, at an angle from the x axis.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct CutLine {
    /// A point on it.
    pub x: f64,
    /// A point on it.
    pub y: f64,
    /// Degrees, anticlockwise.
    pub degrees: f64,
}

/// Cuts the stack along a line. Where tiers overlap, the later one is in front; a finished edge is followed at every height
/// at which it bends.
pub fn section(stack: &Stack, line: &CutLine, plans: &Plans) -> Result<Vec<Cut>, TierError> {
    let spans = |a: &Area| a.spans_along(Point::new(line.x, line.y), line.degrees);
    let mut cuts = Vec::new();
    for (tier, t) in stack.tiers.iter().enumerate() {
        let cutting = Cutting::new(t);
        let slice = |z: Grid| {
            let b = cutting.profile.at(z);
            let mut all: Vec<(f64, f64)> = Vec::new();
            for (add, less) in cutting.covered(b.shrunk, b.edges, plans)? {
                all.extend(without(&spans(&add), &less.as_ref().map(spans).unwrap_or_default()));
            }
            Ok((z.mm(), all))
        };
        let slices = cutting.profile.bends().into_iter().map(slice).collect::<Result<Vec<_>, TierError>>()?;
        let is_cut = t.op == Op::Cut;
        cuts.extend(faces(&slices).into_iter().map(|corners| Cut { tier, role: t.role, is_cut, corners }));
    }
    Ok(cuts)
}

/// How far up from the middle, mm, a level section runs at first: across the middle where it meets what is drawn there (or nothing
/// is drawn), else through the middle of the piece that lies nearest.
pub fn through_details(stack: &Stack) -> f64 {
    let is_drawn = |t: &&Tier| matches!(t.role, Role::Detail | Role::Stamp) && !t.footprint.is_empty();
    let drawn: Vec<&Area> = stack.tiers.iter().filter(is_drawn).map(|t| &t.footprint).collect();
    let meets = |y: f64| drawn.iter().any(|a| !a.spans_along(Point::new(0.0, y), 0.0).is_empty());
    if meets(0.0) {
        return 0.0;
    }
    let rings = drawn.iter().flat_map(|a| a.rings_mm()).filter(|r| r.area() > 0.0);
    let middles = rings.filter_map(|r| r.bounds()).map(|b| f64::midpoint(b.min.y, b.max.y));
    let Some(nearest) = middles.filter(|y| meets(*y)).min_by(|a, b| a.abs().total_cmp(&b.abs())) else { return 0.0 };
    // On one of the lines that a hand can choose, where that meets it too.
    let even = (nearest * 2.0).round() / 2.0;
    if meets(even) { even } else { nearest }
}

/// A face that still grows: its left and right sides from below.
struct Growing {
    left: Vec<(f64, f64)>,
    right: Vec<(f64, f64)>,
    /// Where its last span lies.
    span: (f64, f64),
}

impl Growing {
    fn closed(mut self, tip: Option<(f64, f64)>) -> Vec<(f64, f64)> {
        self.right.extend(tip);
        self.left.reverse();
        self.right.extend(self.left);
        self.right
    }
}

/// The faces of slices, each followed upwards while one span lies over one; where spans split, join, end or begin between
/// two heights, a face ends half-way in a tip: where exactly, the solid knows.
fn faces(slices: &[(f64, Vec<(f64, f64)>)]) -> Vec<Vec<(f64, f64)>> {
    let (mut done, mut growing): (Vec<Vec<(f64, f64)>>, Vec<Growing>) = (Vec::new(), Vec::new());
    for (k, (z, spans)) in slices.iter().enumerate() {
        let half = k.checked_sub(1).map(|k| f64::midpoint(slices[k].0, *z));
        let over = |g: &Growing, s: &(f64, f64)| s.0 < g.span.1 && s.1 > g.span.0;
        let mut next: Vec<Growing> = Vec::new();
        let mut taken = vec![false; spans.len()];
        for mut g in std::mem::take(&mut growing) {
            let above: Vec<usize> = (0..spans.len()).filter(|i| over(&g, &spans[*i])).collect();
            // The widest of those above goes on, if nothing has it yet.
            let widest = above.iter().copied().filter(|i| !taken[*i]).max_by(|a, b| {
                let w = |i: usize| spans[i].1 - spans[i].0;
                w(*a).total_cmp(&w(*b))
            });
            match widest {
                Some(i) => {
                    taken[i] = true;
                    g.left.push((spans[i].0, *z));
                    g.right.push((spans[i].1, *z));
                    g.span = spans[i];
                    next.push(g);
                }
                None => {
                    let middle = f64::midpoint(g.span.0, g.span.1);
                    done.push(g.closed(half.filter(|_| above.is_empty()).map(|z| (middle, z))));
                }
            }
        }
        for (s, _) in spans.iter().zip(&taken).filter(|(_, taken)| !**taken) {
            // What begins between two heights begins in a tip.
            let tip = half.map(|half| (f64::midpoint(s.0, s.1), half));
            let left = tip.into_iter().chain([(s.0, *z)]).collect();
            next.push(Growing { left, right: vec![(s.1, *z)], span: *s });
        }
        growing = next;
    }
    done.extend(growing.into_iter().map(|g| g.closed(None)));
    done.retain(|f| f.len() >= 3);
    done
}

fn without(spans: &[(f64, f64)], holes: &[(f64, f64)]) -> Vec<(f64, f64)> {
    let mut out = Vec::new();
    for &(a, b) in spans {
        let mut from = a;
        for &(c, d) in holes.iter().filter(|(c, d)| *c < b && *d > a) {
            if c > from {
                out.push((from, c));
            }
            from = from.max(d);
        }
        if from < b {
            out.push((from, b));
        }
    }
    out
}
