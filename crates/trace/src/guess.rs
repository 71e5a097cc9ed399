use crate::{Ink, TraceSettings, cut, otsu_cut};
use kachel_artwork::Artwork;

/// Settings that a picture probably wants: transparency where the rest says nothing, and ink and ground swapped
/// where the border is dark.
pub fn first_guess(artwork: &Artwork) -> TraceSettings {
    let mut settings = TraceSettings::default();
    if let Artwork::Drawing(d) = artwork
        && d.areas.iter().all(|a| a.grey >= 128.0)
    {
        // White lines for dark shirts: what is painted at all is meant.
        settings.ink = Ink::Alpha;
    }
    if let Artwork::Picture(p) = artwork {
        let flat = otsu_cut(&p.grey).is_none_or(|c| c.contrast < 24.0);
        if flat && p.alpha.is_some() {
            settings.ink = Ink::Alpha;
        } else if let Some(cut) = otsu_cut(&p.grey) {
            settings.invert = cut::border_is_dark(p, cut.at);
        }
    }
    settings
}
