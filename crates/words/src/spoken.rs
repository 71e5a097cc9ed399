//! Messages in the words of the language that the program speaks.

use crate::language::Words;
use crate::message::{Message, Value};
use crate::unit::Unit;
use std::fmt;
use std::sync::OnceLock;

static SPOKEN: OnceLock<Words> = OnceLock::new();

/// Chooses the words for all that this program says, before it says anything; `false` where it has begun to speak.
pub fn speak(words: Words) -> bool {
    SPOKEN.set(words).is_ok()
}

fn spoken() -> &'static Words {
    SPOKEN.get_or_init(Words::default)
}

impl Message {
    /// In words, with lengths in a unit.
    pub fn said(&self, unit: Unit) -> String {
        spoken().say(self, unit)
    }

    /// In words that begin with a capital letter: values at the beginning of a sentence have none of their own.
    pub fn sentence(&self, unit: Unit) -> String {
        let said = self.said(unit);
        let mut letters = said.chars();
        letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
    }

    /// What goes with it under a name, such as why it matters or what to do; `None` where nothing does.
    #[must_use]
    pub fn part(&self, name: &'static str) -> Option<Self> {
        let part = self.clone().named(name);
        part.is_known().then_some(part)
    }

    /// The same in words; empty where there is none.
    pub fn said_part(&self, name: &'static str, unit: Unit) -> String {
        self.part(name).map_or_else(String::new, |part| part.said(unit))
    }

    /// Whether there are words for it.
    pub fn is_known(&self) -> bool {
        spoken().has(self)
    }
}

impl Value {
    /// In words, with lengths in a unit.
    pub fn said(&self, unit: Unit) -> String {
        spoken().value(self, unit)
    }
}

/// In millimetres.
impl fmt::Display for Message {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.said(Unit::Mm))
    }
}

/// In millimetres.
impl fmt::Display for Value {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.said(Unit::Mm))
    }
}
