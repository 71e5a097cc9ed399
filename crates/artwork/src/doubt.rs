/// A part of an SVG that is read by a simpler rule than a browser's.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Doubt {
    /// Text is not drawn: a font is not part of the file. To be turned into paths first.
    Text,
    /// Pictures inside the SVG are not read.
    Image,
    /// Masks and filters are left off: the area is taken whole.
    Effect,
    /// A gradient counts as the mean of its stops, a pattern as mid grey.
    Shading,
    /// The picture is larger than what is worked on.
    Reduced {
        /// Its pixels across and down.
        from: (u32, u32),
        /// Those that are worked on.
        to: (u32, u32),
    },
    /// The file ends before the picture does.
    CutOff,
    /// More than one picture in the file; the first one is taken.
    FirstOfSeveral,
    /// A sheet of paper or a card lies in the photo, but not wholly.
    SheetRunsOut,
    /// Something lies over a corner of the sheet.
    HiddenCorner,
}

impl Doubt {
    /// What a person reads.
    pub fn words(self) -> String {
        match self {
            Self::Text => "Text in the SVG is not drawn. Turn it into paths in the program it comes from.".into(),
            Self::Image => "Pictures inside the SVG are left out. Drop the picture itself to trace it.".into(),
            Self::Effect => "Masks and filters of the SVG are left off; their areas are taken whole.".into(),
            Self::Shading => "Gradients count as their mean colour, patterns as mid grey.".into(),
            Self::Reduced { from, to } => {
                format!("The picture of {} x {} px is worked on at {} x {} px.", from.0, from.1, to.0, to.1)
            }
            Self::CutOff => "The file is cut off: the picture is used as far as it goes.".into(),
            Self::SheetRunsOut => {
                "A sheet of paper seems to run out of the photo, so its size cannot be told. Take the photo with all four of its corners, or put the corners by hand.".into()
            }
            Self::HiddenCorner => "A corner of the sheet is hidden. It is taken to be where its sides meet.".into(),
            Self::FirstOfSeveral => "The file holds several pictures; the first one is used.".into(),
        }
    }
}
