use crate::contours::{Contours, give_holes};
use crate::error::{MAX_NODES, MAX_RINGS, TraceError};
use crate::settings::{Ink, TraceSettings};
use crate::{drawing, picture};
use kachel_artwork::Artwork;
use kachel_geom::{Px, Ring, Stage, Watch};

/// Traces the artwork.
pub fn trace(artwork: &Artwork, settings: &TraceSettings, watch: &Watch) -> Result<Contours, TraceError> {
    watch.enter(Stage::Trace)?;
    if settings.ink == Ink::None {
        let (width, height) = artwork.size();
        let mut none = Contours::empty(width, height);
        none.doubts = artwork.doubts().to_vec();
        none.place(artwork.origin());
        return Ok(none);
    }
    let mut found = match artwork {
        Artwork::Picture(p) => picture::trace(p, settings, watch)?,
        Artwork::Drawing(d) => drawing::trace(d, settings, watch)?,
    };
    let nodes = found.contours.iter().map(|c| c.curve.nodes()).sum::<usize>()
        + found.lines.iter().map(|l| l.curve.nodes()).sum::<usize>();
    if nodes > MAX_NODES {
        return Err(TraceError::TooManyNodes { nodes });
    }
    let rings = found.contours.len() + found.lines.len();
    if rings > MAX_RINGS {
        return Err(TraceError::TooManyRings { rings });
    }
    match found.contours.as_slice() {
        [] if found.lines.is_empty() => return Err(TraceError::NoInk),
        // Ink from border to border and nothing else: there is nothing to cut out.
        [only] if covers(&only.ring, found.width, found.height) => return Err(TraceError::AllInk),
        _ => {}
    }
    give_holes(&mut found.contours);
    found.doubts = artwork.doubts().to_vec();
    found.place(artwork.origin());
    Ok(found)
}

fn covers(ring: &Ring<Px>, width: f64, height: f64) -> bool {
    ring.area().abs() >= width * height * 0.9999 - 1.0
}
