use kachel_artwork::Artwork;

/// What a picture is like before anything is done to it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Source {
    /// Width and height, pixels or user units.
    pub size: (f64, f64),
    /// Size of a pixel by the file's own word.
    pub mm_per_px: Option<f64>,
    /// Whether it is made of lines and curves.
    pub is_drawing: bool,
    /// Whether parts of it are transparent.
    pub has_alpha: bool,
    /// Lines of a drawing that nothing paints.
    pub unpainted: usize,
}

impl Source {
    /// What this picture is like.
    pub fn of(a: &Artwork) -> Self {
        let (is_drawing, has_alpha, unpainted) = match a {
            Artwork::Picture(p) => (false, p.alpha.is_some(), 0),
            Artwork::Drawing(d) => (true, true, d.unpainted.len()),
        };
        Self { size: a.size(), mm_per_px: a.mm_per_px(), is_drawing, has_alpha, unpainted }
    }
}
