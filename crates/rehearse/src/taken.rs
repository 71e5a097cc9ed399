//! What prints really took, and what later ones are likely to take.

/// A print that was timed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Taken {
    /// How long it was planned to take, s.
    pub planned: f64,
    /// How long it took, s.
    pub took: f64,
}

/// How a printer differs from its plans: it takes `factor` times as long, and `constant` seconds more.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Correction {
    /// Of the planned time, 0.25 to 4.
    pub factor: f64,
    /// s, -1800 to 3600.
    pub constant: f64,
    /// From how many prints.
    pub prints: usize,
}

/// What a factor can be.
const FACTORS: (f64, f64) = (0.25, 4.0);
/// What a constant can be, s.
const CONSTANTS: (f64, f64) = (-1800.0, 3600.0);
/// Prints whose plans differ by less of the shortest tell nothing of a constant.
const SPREAD: f64 = 0.5;

impl Correction {
    /// Fits what prints took. The slope is the median of the slopes between all pairs, so that up to 29 % of the entries may be
    /// wrong (Theil 1950; Sen 1968, Journal of the American Statistical Association 63, from memory). One print, or prints of
    /// nearly equal length, give a factor only. `None` where nothing usable was timed.
    pub fn of(taken: &[Taken]) -> Option<Self> {
        let is_time = |v: f64| v.is_finite() && v > 0.0;
        let all: Vec<&Taken> = taken.iter().filter(|t| is_time(t.planned) && is_time(t.took)).collect();
        let held = |v: f64, (least, most): (f64, f64)| v.clamp(least, most);
        let prints = all.len();
        let only_factor = || {
            let factor = median(all.iter().map(|t| t.took / t.planned).collect())?;
            Some(Self { factor: held(factor, FACTORS), constant: 0.0, prints })
        };
        let planned = || all.iter().map(|t| t.planned);
        let (least, most) = (planned().reduce(f64::min)?, planned().reduce(f64::max)?);
        if prints < 3 || most - least < SPREAD * least {
            return only_factor();
        }
        let mut slopes = Vec::new();
        for (k, a) in all.iter().enumerate() {
            let others = all[k + 1..].iter().filter(|b| (b.planned - a.planned).abs() > 1.0);
            slopes.extend(others.map(|b| (b.took - a.took) / (b.planned - a.planned)));
        }
        let Some(slope) = median(slopes) else { return only_factor() };
        let factor = held(slope, FACTORS);
        let constant = median(all.iter().map(|t| t.took - factor * t.planned).collect())?;
        Some(Self { factor, constant: held(constant, CONSTANTS), prints })
    }

    /// What a print is likely to take, s.
    pub fn likely(&self, planned: f64) -> f64 {
        (self.factor * planned + self.constant).max(0.25 * planned)
    }
}

fn median(mut all: Vec<f64>) -> Option<f64> {
    all.sort_by(f64::total_cmp);
    let n = all.len();
    let upper = *all.get(n / 2)?;
    Some(if n % 2 == 1 { upper } else { f64::midpoint(all[n / 2 - 1], upper) })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(all: &[(f64, f64)]) -> Option<Correction> {
        Correction::of(&all.iter().map(|(planned, took)| Taken { planned: *planned, took: *took }).collect::<Vec<_>>())
    }

    #[test]
    fn a_factor_and_a_constant_are_found_and_strays_do_not_move_them() {
        let took = |p: f64| 1.1 * p + 240.0;
        let plans = [900.0, 1800.0, 2700.0, 3600.0, 5400.0, 7200.0, 10_000.0];
        let mut all: Vec<(f64, f64)> = plans.iter().map(|p| (*p, took(*p))).collect();
        let exact = of(&all).unwrap();
        assert!((exact.factor - 1.1).abs() < 1e-9 && (exact.constant - 240.0).abs() < 1e-6, "{exact:?}");
        assert!((exact.likely(4000.0) - 4640.0).abs() < 1e-6);
        // One that somebody let wait overnight, one with a slip of the keys.
        (all[2].1, all[5].1) = (40_000.0, 72.0);
        let robust = of(&all).unwrap();
        assert!((robust.likely(4000.0) - 4640.0).abs() < 120.0, "{robust:?}");
    }

    #[test]
    fn few_or_equal_prints_give_a_factor_only() {
        assert_eq!(of(&[(1000.0, 1200.0)]).unwrap(), Correction { factor: 1.2, constant: 0.0, prints: 1 });
        let alike = of(&[(1000.0, 1100.0), (1010.0, 1111.0), (1020.0, 1122.0), (1000.0, 1100.0)]).unwrap();
        assert!((alike.factor - 1.1).abs() < 1e-9 && alike.constant == 0.0);
    }

    #[test]
    fn nonsense_is_left_out_or_held() {
        assert_eq!(of(&[]), None);
        assert_eq!(of(&[(0.0, 100.0), (f64::NAN, 1.0), (100.0, -5.0)]), None);
        assert_eq!(of(&[(10.0, 1e9)]).unwrap().factor, 4.0);
        assert!(of(&[(10.0, 1e-9)]).unwrap().likely(1000.0) >= 250.0);
    }
}
