use kachel_design::Edit;
use kachel_geom::{Bounds, Mm, Region, Ring};
use kachel_words::{Message, Unit};

/// How much a finding weighs, the heaviest first.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Weight {
    /// The object cannot be printed or used as it is.
    Fault,
    /// It will look or work poorly.
    Poor,
    /// Worth knowing; nothing has to be done.
    Note,
}

impl Weight {
    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Fault => "fault",
            Self::Poor => "poor",
            Self::Note => "note",
        }
    }

    /// What it means.
    pub fn words(self) -> Message {
        Message::new(format!("weight-{}", self.name()))
    }
}

/// The stable name of a kind of finding, and how much it weighs. Each rule declares its own.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Code {
    name: &'static str,
    weight: Weight,
}

impl Code {
    /// What cannot be printed or used. Names are lower case, words joined by hyphens.
    pub const fn fault(name: &'static str) -> Self {
        Self { name, weight: Weight::Fault }
    }

    /// What will look or work poorly.
    pub const fn poor(name: &'static str) -> Self {
        Self { name, weight: Weight::Poor }
    }

    /// What is worth knowing.
    pub const fn note(name: &'static str) -> Self {
        Self { name, weight: Weight::Note }
    }

    /// Its name.
    pub const fn name(self) -> &'static str {
        self.name
    }

    /// How much it weighs.
    pub const fn weight(self) -> Weight {
        self.weight
    }
}

/// The unit of a figure.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FigureUnit {
    /// Millimetres.
    Mm,
    /// Degrees.
    Degrees,
    /// A number of things.
    Count,
}

/// A value that a finding is about, beside the limit that it misses.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Figure {
    /// What was measured or counted: the code of its message.
    pub what: &'static str,
    /// How much it is.
    pub value: f64,
    /// What it should be at least or at most, where there is such a limit.
    pub limit: Option<f64>,
    /// Unit of both.
    pub unit: FigureUnit,
}

impl Figure {
    /// A length, mm.
    pub const fn mm(what: &'static str, value: f64, limit: Option<f64>) -> Self {
        Self { what, value, limit, unit: FigureUnit::Mm }
    }

    /// A number of things.
    pub const fn count(what: &'static str, value: usize, limit: Option<usize>) -> Self {
        let limit = match limit {
            Some(n) => Some(n as f64),
            None => None,
        };
        Self { what, value: value as f64, limit, unit: FigureUnit::Count }
    }
}

/// Where a finding is: an outline in plan, as the object is printed, and from which height to which.
#[derive(Clone, Debug, PartialEq)]
pub struct Place {
    /// Closed lines in plan, mm.
    pub outline: Vec<Ring<Mm>>,
    /// Lower and upper end above the bed, mm; `None` where the height does not matter.
    pub heights: Option<(f64, f64)>,
}

impl Place {
    /// The outline of an area.
    pub fn of_region(area: &Region) -> Self {
        Self { outline: area.rings_mm(), heights: None }
    }

    /// A box.
    pub fn of_box(b: &Bounds<Mm>) -> Self {
        Self { outline: vec![Ring(b.corners().to_vec())], heights: None }
    }

    /// The same place between two heights, mm above the bed.
    pub fn between(mut self, bottom: f64, top: f64) -> Self {
        self.heights = Some((bottom, top));
        self
    }

    /// The box round it.
    pub fn bounds(&self) -> Option<Bounds<Mm>> {
        self.outline.iter().filter_map(Ring::bounds).reduce(Bounds::union)
    }
}

/// What puts a finding right.
#[derive(Clone, Debug, PartialEq)]
pub struct Mend {
    /// Words on its button.
    pub words: Message,
    /// The changes of the design, applied together and undone together.
    pub edits: Vec<Edit>,
}

impl Mend {
    /// One edit.
    pub fn by(words: Message, edit: impl Into<Edit>) -> Self {
        Self { words, edits: vec![edit.into()] }
    }
}

/// Something that Check has to say.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// What kind it is.
    pub code: Code,
    /// What is the matter; its part `why` is why it matters, where nothing else is said.
    pub what: Message,
    because: Option<Message>,
    /// The values as data.
    pub figures: Vec<Figure>,
    /// Where it is; empty where it is everywhere.
    pub places: Vec<Place>,
    /// What would put it right, the best first.
    pub mends: Vec<Mend>,
}

impl Finding {
    /// A finding without figures, place and mend.
    pub const fn new(code: Code, what: Message) -> Self {
        Self { code, what, because: None, figures: vec![], places: vec![], mends: vec![] }
    }

    /// With a reason of its own.
    #[must_use]
    pub fn because(mut self, why: Message) -> Self {
        self.because = Some(why);
        self
    }

    /// Why it matters, with lengths in a unit.
    pub fn why(&self, unit: Unit) -> String {
        self.because.as_ref().map_or_else(|| self.what.said_part("why", unit), |why| why.said(unit))
    }

    /// With a value.
    #[must_use]
    pub fn figure(mut self, figure: Figure) -> Self {
        self.figures.push(figure);
        self
    }

    /// With a place.
    #[must_use]
    pub fn at(mut self, place: Place) -> Self {
        self.places.push(place);
        self
    }

    /// With places.
    #[must_use]
    pub fn at_all(mut self, places: impl IntoIterator<Item = Place>) -> Self {
        self.places.extend(places);
        self
    }

    /// With a mend, where there is one.
    #[must_use]
    pub fn mended(mut self, mend: impl Into<Option<Mend>>) -> Self {
        self.mends.extend(mend.into());
        self
    }

    /// With mends, the best first.
    #[must_use]
    pub fn mended_by(mut self, mends: impl IntoIterator<Item = Mend>) -> Self {
        self.mends.extend(mends);
        self
    }

    /// The box round all its places.
    pub fn bounds(&self) -> Option<Bounds<Mm>> {
        self.places.iter().filter_map(Place::bounds).reduce(Bounds::union)
    }
}
