//! Which filament is nearest to a colour of the picture.

use crate::workshop::Workshop;
use palette::color_difference::Ciede2000;
use palette::{FromColor, Lab, Srgb};

/// Colours farther apart than this (CIEDE2000) are told apart at a glance: common practice, no source.
const SAME: f64 = 12.0;

fn lab([r, g, b]: [u8; 3]) -> Lab<palette::white_point::D65, f64> {
    Lab::from_color(Srgb::new(r, g, b).into_format::<f64>())
}

/// How different two sRGB colours look: CIEDE2000 (CIE 142:2001; G. Sharma, W. Wu, E. N. Dalal, 'The CIEDE2000 color-difference
/// formula', 2005), under daylight D65.
pub fn colour_difference(a: [u8; 3], b: [u8; 3]) -> f64 {
    lab(a).difference(lab(b))
}

/// How light an sRGB colour looks, from 0 (black) to 100 (white): L* of CIELAB (ISO/CIE 11664-4) under daylight D65.
pub fn lightness(colour: [u8; 3]) -> f64 {
    lab(colour).l
}

/// A filament for each colour, the best matches first; each filament stands for one colour at most, so that colours stay apart.
/// `None` for a colour that no filament left over comes near to.
pub fn matching_filaments(colours: &[[u8; 3]], workshop: &Workshop) -> Vec<Option<String>> {
    let mut pairs: Vec<(f64, usize, usize)> = colours
        .iter()
        .enumerate()
        .flat_map(|(k, c)| {
            workshop.filaments.iter().enumerate().map(move |(f, of)| (colour_difference(*c, of.colour), k, f))
        })
        .filter(|(d, ..)| *d <= SAME)
        .collect();
    pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut found = vec![None; colours.len()];
    let mut taken = vec![false; workshop.filaments.len()];
    for (_, k, f) in pairs {
        if found[k].is_none() && !taken[f] {
            found[k] = Some(workshop.filaments[f].id.clone());
            taken[f] = true;
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Pairs of the supplementary table of Sharma, Wu and Dalal 2005 (doi:10.1002/col.20070), from memory.
    #[test]
    fn differences_are_those_of_the_published_table() {
        let of = |l: f64, a: f64, b: f64| Lab::<palette::white_point::D65, f64>::new(l, a, b);
        let table = [
            (of(50.0, 2.6772, -79.7751), of(50.0, 0.0, -82.7485), 2.0425),
            (of(50.0, 3.1571, -77.2803), of(50.0, 0.0, -82.7485), 2.8615),
            (of(50.0, 0.0, 0.0), of(50.0, -1.0, 2.0), 2.3669),
            (of(50.0, 2.5, 0.0), of(50.0, 0.0, -2.5), 4.3065),
            (of(50.0, 2.5, 0.0), of(73.0, 25.0, -18.0), 27.1492),
            (of(50.0, 2.5, 0.0), of(61.0, -5.0, 29.0), 22.8977),
            (of(50.0, 2.5, 0.0), of(56.0, -27.0, -3.0), 31.9030),
            (of(60.2574, -34.0099, 36.2677), of(60.4626, -34.1751, 39.4387), 1.2644),
            (of(2.0776, 0.0795, -1.1350), of(0.9033, -0.0636, -0.5514), 0.9082),
        ];
        for (a, b, expected) in table {
            assert!((a.difference(b) - expected).abs() < 5e-5, "{} for {expected}", a.difference(b));
        }
    }

    #[test]
    fn each_colour_gets_a_filament_of_its_own_or_none() {
        let w = Workshop::default();
        let near = |id: &str, by: i16| {
            let of = w.filament(id).colour;
            of.map(|v| u8::try_from((i16::from(v) + by).clamp(0, 255)).unwrap())
        };
        let green = [20, 200, 20];
        let found = matching_filaments(&[near("honey", 3), near("cobalt", -4), green], &w);
        assert_eq!(found, [Some("honey".to_string()), Some("cobalt".to_string()), None]);
        // Two colours near one filament: the nearer one gets it.
        let found = matching_filaments(&[near("soot", 5), near("soot", 1)], &w);
        assert_eq!(found, [None, Some("soot".to_string())]);
        assert!(matching_filaments(&[], &w).is_empty());
    }
}
