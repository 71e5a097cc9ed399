use kachel_words::{Message, msg, text};

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
    pub fn message(self) -> Message {
        match self {
            Self::Text => msg!("doubt-text"),
            Self::Image => msg!("doubt-image"),
            Self::Effect => msg!("doubt-effect"),
            Self::Shading => msg!("doubt-shading"),
            Self::Reduced { from, to } => {
                let pixels = |(across, down): (u32, u32)| text(format!("{across} x {down}"));
                msg!("doubt-reduced", from = pixels(from), to = pixels(to))
            }
            Self::CutOff => msg!("doubt-cut-off"),
            Self::SheetRunsOut => msg!("doubt-sheet-runs-out"),
            Self::HiddenCorner => msg!("doubt-hidden-corner"),
            Self::FirstOfSeveral => msg!("doubt-first-of-several"),
        }
    }
}
