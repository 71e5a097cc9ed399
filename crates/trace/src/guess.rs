use crate::{Ink, TraceSettings, cut, field, otsu_cut, palette};
use kachel_artwork::{Artwork, Picture};

/// Dust on a scan grows with its resolution: this share of the picture is a speck, up to so many square pixels.
const SPECK: f64 = 1.6e-5;
const LARGEST_SPECK: f64 = 60.0;

/// A picture is small up to this side, pixels: an icon.
const SMALL_SIDE: f64 = 400.0;
/// Fewer pixels than this are nothing in any picture.
const LEAST_SPECK: f64 = 2.0;

/// Strokes thinner than this, pixels, are hairlines ...
const HAIRLINE_PX: f64 = 2.5;
/// ... and so are those thinner than this share of the picture's diagonal.
const HAIRLINE_SHARE: f64 = 0.0045;
/// Ink covers no more than this share of a picture of hairlines.
const HAIRLINE_INK: f64 = 0.2;

/// Mean width of the strokes, pixels, where ink is what is darker than `at` (or lighter); `None` where it is specks rather than
/// strokes, or more than strokes.
fn stroke_width(p: &Picture, at: f64, light_is_ink: bool) -> Option<f64> {
    let (w, h) = (p.width as usize, p.height as usize);
    let is_ink = |x: usize, y: usize| (f64::from(p.grey[y * w + x]) < at) != light_is_ink;
    let (mut inside, mut specks, mut sides) = (0u64, 0u64, 0u64);
    for y in 1..h.saturating_sub(1) {
        for x in (1..w.saturating_sub(1)).filter(|x| is_ink(*x, y)) {
            let beside = [(x - 1, y), (x + 1, y), (x, y - 1), (x, y + 1)];
            let aslant = [(x - 1, y - 1), (x + 1, y - 1), (x - 1, y + 1), (x + 1, y + 1)];
            let open = beside.iter().filter(|(x, y)| !is_ink(*x, *y)).count() as u64;
            // A stroke goes on somewhere; a speck of one or two pixels does not.
            let around = 4 - open + aslant.iter().filter(|(x, y)| is_ink(*x, *y)).count() as u64;
            if around < 2 {
                specks += 1;
            } else {
                inside += 1;
                sides += open;
            }
        }
    }
    #[expect(clippy::cast_precision_loss, reason = "counts of pixels are below 2^53")]
    let [inside, specks, sides, all] = [inside, specks, sides, (w * h) as u64].map(|n| n as f64);
    let is_strokes = inside > 40.0 && specks < inside && inside < HAIRLINE_INK * all;
    // Steps make a border longer than its line: by 4 / pi over all directions.
    is_strokes.then(|| 2.0 * inside / (sides * std::f64::consts::FRAC_PI_4).max(1.0))
}

/// Whether all there is are hairlines.
pub(crate) fn are_hairlines(p: &Picture, at: f64, light_is_ink: bool) -> bool {
    let thin = HAIRLINE_PX.max(HAIRLINE_SHARE * f64::from(p.width).hypot(f64::from(p.height)));
    stroke_width(p, at, light_is_ink).is_some_and(|width| width < thin)
}

/// Whether nothing at all is drawn: all greys lie within a few of each other.
fn is_blank(p: &Picture) -> bool {
    let (low, high) = p.grey.iter().fold((255, 0), |(low, high), g| (low.min(*g), high.max(*g)));
    high.saturating_sub(low) < BLANK
}

/// Greys of a picture on which nothing is drawn differ by less than this: a scanner's noise.
const BLANK: u8 = 16;

/// Settings that a picture probably wants: colours where lightness would lose some, transparency where the rest says
/// nothing, pen lines where all there is are hairlines, nothing where nothing is drawn, and ink and ground swapped where the border is
/// dark.
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
        // In a small picture without grain every few pixels are meant.
        let (w, h) = (p.width as usize, p.height as usize);
        let side = w.max(h) as f64 / SMALL_SIDE;
        if side < 1.0 && field::noise(&p.grey, w, h) == 0.0 {
            let least = (settings.min_area * side * side).max(LEAST_SPECK).round();
            (settings.min_area, settings.min_gap) = (least, least.min(settings.min_gap));
        }
        if palette::is_of_flat_colours(p) {
            settings.ink = Ink::Colours;
            return settings;
        }
        let flat = otsu_cut(&p.grey).is_none_or(|c| c.contrast < 24.0);
        if flat && p.alpha.is_some() {
            settings.ink = Ink::Alpha;
        } else if flat && is_blank(p) {
            settings.ink = Ink::None;
        } else if let Some(cut) = otsu_cut(&p.grey) {
            settings.invert = cut::border_is_dark(p, cut.at);
            if are_hairlines(p, cut.at, settings.invert) {
                settings.ink = Ink::Pen;
            }
        }
    }
    settings
}
