//! Text that stays text: shaped by HarfBuzz's rules (the crate `rustybuzz`), set on a line or round an arc.

use crate::ranges::{LENGTH_RANGE_MM, bad};
use kachel_geom::{Curve, Mm, Point, Segment};
use kachel_words::{Message, msg};
use rustybuzz::ttf_parser::{GlyphId, OutlineBuilder};
use rustybuzz::{Direction, UnicodeBuffer};
use serde::{Deserialize, Serialize};
use unicode_bidi::BidiInfo;

/// Most characters of a text.
pub const MAX_TEXT: usize = 500;
/// Most lines of a text.
const MAX_LINES: usize = 20;

/// A shipped face. All are under the SIL Open Font License; `licences/` has their texts.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Face {
    /// Sans serif; Latin, Cyrillic and Hebrew.
    Plain,
    /// Sans serif with round ends.
    Rounded,
    /// Narrow capitals.
    Narrow,
    /// Strong straight serifs.
    Slab,
    /// Joined, with a brush.
    Brush,
    /// Joined, with a pen.
    Script,
    /// Letters with bridges, for cutting through.
    Stencil,
    /// Blackletter.
    Blackletter,
    /// Capitals as cut in stone.
    Engraved,
    /// Stars, hearts, arrows and other signs.
    Symbols,
}

impl Face {
    /// All of them.
    pub const ALL: [Self; 10] = [
        Self::Plain,
        Self::Rounded,
        Self::Narrow,
        Self::Slab,
        Self::Brush,
        Self::Script,
        Self::Stencil,
        Self::Blackletter,
        Self::Engraved,
        Self::Symbols,
    ];

    const fn file(self) -> &'static [u8] {
        match self {
            Self::Plain => include_bytes!("../faces/Rubik_600SemiBold.ttf"),
            Self::Rounded => include_bytes!("../faces/Nunito_800ExtraBold.ttf"),
            Self::Narrow => include_bytes!("../faces/BebasNeue_400Regular.ttf"),
            Self::Slab => include_bytes!("../faces/ZillaSlab_600SemiBold.ttf"),
            Self::Brush => include_bytes!("../faces/Pacifico_400Regular.ttf"),
            Self::Script => include_bytes!("../faces/DancingScript_700Bold.ttf"),
            Self::Stencil => include_bytes!("../faces/SairaStencilOne_400Regular.ttf"),
            Self::Blackletter => include_bytes!("../faces/UnifrakturMaguntia_400Regular.ttf"),
            Self::Engraved => include_bytes!("../faces/Cinzel_700Bold.ttf"),
            Self::Symbols => include_bytes!("../faces/NotoSansSymbols2_400Regular.ttf"),
        }
    }
}

/// Where a line of text is held.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Align {
    /// By its left end.
    Left,
    /// By its middle.
    Middle,
    /// By its right end.
    Right,
}

/// What is written, and how.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct Text {
    /// The text; it may have several lines.
    pub words: String,
    /// Its face.
    pub face: Face,
    /// Height of its capitals, mm.
    pub size: f64,
    /// More room between letters, mm; less than 0 brings them together.
    pub spacing: f64,
    /// From one base line to the next, in heights of capitals.
    pub leading: f64,
    /// Where lines are held.
    pub align: Align,
    /// Radius (mm) of the arc that the first base line runs along; 0 is straight, less than 0 runs along below.
    pub arc: f64,
}

/// A text as outlines.
pub(crate) struct Set {
    /// Closed curves, mm, y up, about the place where the first base line is held; read by the non-zero rule.
    pub(crate) curves: Vec<Curve<Mm>>,
    /// Letters that the face does not have.
    pub(crate) missing: Vec<char>,
}

impl Text {
    pub(crate) fn length_mut(&mut self, name: &str) -> Option<&mut f64> {
        match name {
            "size" => Some(&mut self.size),
            "spacing" => Some(&mut self.spacing),
            "arc" => Some(&mut self.arc),
            _ => None,
        }
    }

    pub(crate) fn refusal(&self) -> Option<Message> {
        let most = LENGTH_RANGE_MM.1;
        let length = self.words.chars().count();
        bad(self.words.trim().is_empty(), "type-a-letter")
            .or_else(|| (length > MAX_TEXT).then(|| msg!("text-too-long", n = length, most = MAX_TEXT)))
            .or_else(|| bad(self.words.lines().count() > MAX_LINES, "too-many-text-lines"))
            .or_else(|| bad(!(0.5..=200.0).contains(&self.size), "letter-range"))
            .or_else(|| bad(!(-20.0..=50.0).contains(&self.spacing), "spacing-range"))
            .or_else(|| bad(!(0.5..=5.0).contains(&self.leading), "leading-range"))
            .or_else(|| bad(!(self.arc == 0.0 || (1.0..=most).contains(&self.arc.abs())), "arc-range"))
    }

    /// Sets the text.
    pub(crate) fn set(&self) -> Set {
        let mut out = Set { curves: Vec::new(), missing: Vec::new() };
        let Some(face) = rustybuzz::Face::from_slice(self.face.file(), 0) else { return out };
        let em = f64::from(face.units_per_em());
        let capital = face.capital_height().filter(|h| *h > 0).map_or(em * 0.7, f64::from);
        let scale = self.size / capital;
        for (number, line) in self.words.lines().enumerate() {
            let glyphs = self.shape(&face, line, scale, &mut out.missing);
            let width: f64 = glyphs.iter().map(|g| g.advance).sum::<f64>() - self.spacing;
            let mut x = match self.align {
                Align::Left => 0.0,
                Align::Middle => -width / 2.0,
                Align::Right => -width,
            };
            let base = -(number as f64) * self.leading * self.size;
            for g in &glyphs {
                let mut pen = Pen { curves: Vec::new(), open: None };
                face.outline_glyph(g.id, &mut pen);
                pen.close();
                let middle = g.advance / 2.0;
                let place = |p: Point<Mm>| {
                    let (u, v) = (p.x * scale + g.dx - middle, p.y * scale + g.dy + base);
                    if self.arc == 0.0 {
                        return Point::new(x + middle + u, v);
                    }
                    // The middle of the letter's foot lies on the arc, the letter stands upright on it.
                    let (sin, cos) = ((x + middle) / self.arc).sin_cos();
                    let r = self.arc + v;
                    Point::new(r * sin + u * cos, r * cos - u * sin - self.arc)
                };
                out.curves.extend(pen.curves.iter().map(|c| c.map(place)));
                x += g.advance;
            }
        }
        out.missing.sort_unstable();
        out.missing.dedup();
        out
    }

    /// The glyphs of a line from left to right, with kerning and ligatures; right to left where the script runs so.
    fn shape(&self, face: &rustybuzz::Face<'_>, line: &str, scale: f64, missing: &mut Vec<char>) -> Vec<Glyph> {
        let bidi = BidiInfo::new(line, None);
        let mut out = Vec::new();
        for paragraph in &bidi.paragraphs {
            let (levels, runs) = bidi.visual_runs(paragraph, paragraph.range.clone());
            for run in runs {
                let is_rtl = levels.get(run.start).is_some_and(unicode_bidi::Level::is_rtl);
                let part = &line[run];
                let mut buffer = UnicodeBuffer::new();
                buffer.push_str(part);
                buffer.guess_segment_properties();
                buffer.set_direction(if is_rtl { Direction::RightToLeft } else { Direction::LeftToRight });
                let shaped = rustybuzz::shape(face, &[], buffer);
                for (info, at) in shaped.glyph_infos().iter().zip(shaped.glyph_positions()) {
                    if info.glyph_id == 0 {
                        let letter = part.get(info.cluster as usize..).and_then(|s| s.chars().next());
                        missing.extend(letter.filter(|c| !c.is_whitespace() && !c.is_control()));
                    }
                    // What is missing leaves its room empty: the face's box would be printed.
                    let id = GlyphId(u16::try_from(info.glyph_id).unwrap_or(0));
                    out.push(Glyph {
                        id: if info.glyph_id == 0 { GlyphId(u16::MAX) } else { id },
                        advance: f64::from(at.x_advance) * scale + self.spacing,
                        dx: f64::from(at.x_offset) * scale,
                        dy: f64::from(at.y_offset) * scale,
                    });
                }
            }
        }
        out
    }
}

/// A letter's shape and room, mm.
struct Glyph {
    id: GlyphId,
    advance: f64,
    dx: f64,
    dy: f64,
}

/// Takes down a glyph's outline, in font units.
struct Pen {
    curves: Vec<Curve<Mm>>,
    open: Option<Curve<Mm>>,
}

impl Pen {
    fn add(&mut self, s: Segment<Mm>) {
        if let Some(c) = &mut self.open {
            c.segments.push(s);
        }
    }
}

fn at(x: f32, y: f32) -> Point<Mm> {
    Point::new(f64::from(x), f64::from(y))
}

impl OutlineBuilder for Pen {
    fn move_to(&mut self, x: f32, y: f32) {
        self.close();
        self.open = Some(Curve { start: at(x, y), segments: Vec::new() });
    }

    fn line_to(&mut self, x: f32, y: f32) {
        self.add(Segment::Line(at(x, y)));
    }

    fn quad_to(&mut self, x1: f32, y1: f32, x: f32, y: f32) {
        let (Some(from), q, to) = (self.open.as_ref().map(Curve::end), at(x1, y1), at(x, y)) else { return };
        let third = |p: Point<Mm>| Point::new(p.x + (q.x - p.x) * 2.0 / 3.0, p.y + (q.y - p.y) * 2.0 / 3.0);
        self.add(Segment::Cubic(third(from), third(to), to));
    }

    fn curve_to(&mut self, x1: f32, y1: f32, x2: f32, y2: f32, x: f32, y: f32) {
        self.add(Segment::Cubic(at(x1, y1), at(x2, y2), at(x, y)));
    }

    fn close(&mut self) {
        if let Some(mut c) = self.open.take().filter(|c| !c.segments.is_empty()) {
            if !c.is_closed() {
                c.segments.push(Segment::Line(c.start));
            }
            self.curves.push(c);
        }
    }
}
