use crate::rules::cup::Tilt;

/// Which cup, and where it is put.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Cup {
    /// Diameter of its foot, mm; `None` shows one that rocks, where there is one.
    pub foot: Option<f64>,
    /// How far to the right of the object's middle it stands, and how far up, mm.
    pub by: (f64, f64),
}

/// Feet that can be asked for, mm.
const FOOT_RANGE_MM: (f64, f64) = (20.0, 150.0);
/// How far from the middle a cup can be put, mm.
const MOST_BY_MM: f64 = 150.0;

impl Cup {
    /// The same within what can be shown; what is no number is left out.
    pub fn held(self) -> Self {
        let by = |v: f64| if v.is_finite() { v.clamp(-MOST_BY_MM, MOST_BY_MM) } else { 0.0 };
        let foot = self.foot.filter(|f| f.is_finite()).map(|f| f.clamp(FOOT_RANGE_MM.0, FOOT_RANGE_MM.1));
        Self { foot, by: (by(self.by.0), by(self.by.1)) }
    }
}

/// How the cup that is shown stands.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Standing {
    /// Which cup it is; its foot is always told.
    pub cup: Cup,
    /// How it is tipped; `None` where it stands steady.
    pub tilt: Option<Tilt>,
}
