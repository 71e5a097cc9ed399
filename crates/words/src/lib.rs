//! What is said to people. The rest of the core makes a [`Message`]: a code with values. Only here does it become words, from the
//! files in `languages/`, which are written in [Fluent](https://projectfluent.org): one file a language, English first.
//!
//! ```
//! use kachel_words::{Unit, mm, msg};
//!
//! let said = msg!("list-and", first = mm(1.25), last = mm(2.5).decimals(2));
//! assert_eq!(said.said(Unit::Mm), "1.25 mm and 2.50 mm");
//! assert_eq!(said.said(Unit::In), "0.0492 in and 0.098 in");
//! ```
//!
//! The language is one for the whole program and is chosen before anything is said ([`speak`]); what a language lacks is said in
//! English. Values know their unit, so a sentence is said in millimetres or inches without reading it again.

mod language;
mod message;
mod spoken;
mod unit;

pub use language::{Words, languages};
pub use message::{Message, Value, area, list, mm, number, size, span, text};
pub use spoken::speak;
pub use unit::Unit;

#[cfg(test)]
mod tests;
