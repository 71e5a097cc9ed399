use crate::{Ink, TraceSettings, cut, otsu_cut, palette};
use kachel_artwork::Artwork;

/// Dust on a scan grows with its resolution: this share of the picture is a speck, up to so many square pixels.
const SPECK: f64 = 1.6e-5;
const LARGEST_SPECK: f64 = 60.0;

/// Settings that a picture probably wants: colours where lightness would lose some, transparency where the rest says
/// nothing, and ink and ground swapped where the border is dark.
pub fn first_guess(artwork: &Artwork) -> TraceSettings {
    let mut settings = TraceSettings::default();
    if let Artwork::Drawing(d) = artwork
        && d.areas.iter().all(|a| a.grey >= 128.0)
    {
        // White lines for dark shirts: what is painted at all is meant.
        settings.ink = Ink::Alpha;
    } else if let Artwork::Drawing(d) = artwork {
        let white = [255.0; 3];
        let colours: Vec<_> = d.areas.iter().map(|a| a.colour.map(f64::from)).chain([white]).collect();
        if palette::differ_in_hue(&colours) {
            settings.ink = Ink::Colours;
        }
    }
    if let Artwork::Picture(p) = artwork {
        let speck = (f64::from(p.width) * f64::from(p.height) * SPECK).round();
        settings.min_area = speck.clamp(settings.min_area, LARGEST_SPECK);
        if palette::is_of_flat_colours(p) {
            settings.ink = Ink::Colours;
            return settings;
        }
        let flat = otsu_cut(&p.grey).is_none_or(|c| c.contrast < 24.0);
        if flat && p.alpha.is_some() {
            settings.ink = Ink::Alpha;
        } else if let Some(cut) = otsu_cut(&p.grey) {
            settings.invert = cut::border_is_dark(p, cut.at);
        }
    }
    settings
}
