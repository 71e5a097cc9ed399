use crate::message::{Digits, Message, Value};
use crate::unit::{Unit, show_length};
use fluent_bundle::concurrent::FluentBundle;
use fluent_bundle::{FluentArgs, FluentResource, FluentValue};
use fluent_syntax::ast::Pattern;
use std::borrow::Cow;
use unic_langid::LanguageIdentifier;

/// Every language: its code, and its file. A translation is one more line here.
const LANGUAGES: &[(&str, &str)] = &[("en", include_str!("../languages/en.ftl"))];

/// The codes of all languages, English first.
pub fn languages() -> impl Iterator<Item = &'static str> {
    LANGUAGES.iter().map(|(code, _)| *code)
}

type Bundle = FluentBundle<FluentResource>;

/// The words of a language.
pub struct Words {
    /// The language's own, then English for what it lacks.
    bundles: Vec<Bundle>,
}

impl Words {
    /// The words of a language; `None` where there are none.
    pub fn of(code: &str) -> Option<Self> {
        LANGUAGES.iter().find(|(c, _)| *c == code).map(|(code, file)| Self::with(code, file))
    }

    /// The words of a file in a language.
    pub(crate) fn with(code: &str, file: &str) -> Self {
        let (first, english) = LANGUAGES[0];
        let mut bundles = vec![bundle(code, file)];
        if code != first {
            bundles.push(bundle(first, english));
        }
        Self { bundles }
    }

    /// English with every letter widened: what is not wide does not come from here. For tests.
    pub fn widened() -> Self {
        let mut bundle = bundle(LANGUAGES[0].0, LANGUAGES[0].1);
        bundle.set_transform(Some(widened));
        Self { bundles: vec![bundle] }
    }

    /// Whether there are words for it.
    pub(crate) fn has(&self, message: &Message) -> bool {
        self.pattern(message).is_some()
    }

    /// The first language that has words for a message.
    fn pattern(&self, message: &Message) -> Option<(&Bundle, &Pattern<&str>)> {
        self.bundles.iter().find_map(|bundle| {
            let found = bundle.get_message(message.code())?;
            let pattern = match message.part_name() {
                None => found.value()?,
                Some(name) => found.get_attribute(name)?.value(),
            };
            Some((bundle, pattern))
        })
    }

    /// A message in words; its code where there are none.
    pub(crate) fn say(&self, message: &Message, unit: Unit) -> String {
        let Some((bundle, pattern)) = self.pattern(message) else { return message.code().to_string() };
        let mut args = FluentArgs::new();
        args.set("unit", unit.symbol());
        for (name, value) in message.values() {
            match value {
                Value::Count(n) => args.set(name.as_ref(), *n),
                other => args.set(name.as_ref(), self.value(other, unit)),
            }
        }
        // What is missing stands as its name in braces; tests find it.
        bundle.format_pattern(pattern, Some(&args), &mut vec![]).into_owned()
    }

    /// A value in words.
    pub(crate) fn value(&self, value: &Value, unit: Unit) -> String {
        let one = |mm: f64, digits: Digits| in_unit(mm, unit.mm(), unit, digits);
        match value {
            Value::Text(text) => text.clone(),
            Value::Count(n) => n.to_string(),
            Value::Number(v, digits) => plain(*v, *digits),
            Value::Length(mm, None) => show_length(*mm, unit),
            Value::Length(mm, digits) => format!("{} {}", one(*mm, *digits), unit.symbol()),
            Value::Area(mm2, digits) => {
                format!("{} {}²", in_unit(*mm2, unit.mm() * unit.mm(), unit, *digits), unit.symbol())
            }
            Value::Size(all, digits) => {
                let all: Vec<String> = all.iter().map(|mm| one(*mm, *digits)).collect();
                format!("{} {}", all.join(" × "), unit.symbol())
            }
            Value::Span(from, to, digits) => {
                let span = Message::new("span").with("from", one(*from, *digits)).with("to", one(*to, *digits));
                self.say(&span, unit)
            }
            Value::Said(message) => self.say(message, unit),
            Value::List(all) => {
                let mut all = all.iter().map(|v| self.value(v, unit));
                let Some(mut so_far) = all.next() else { return String::new() };
                let mut next = all.next();
                while let Some(one) = next {
                    next = all.next();
                    let code = if next.is_some() { "list-more" } else { "list-and" };
                    so_far = self.say(&Message::new(code).with("first", so_far).with("last", one), unit);
                }
                so_far
            }
        }
    }
}

impl Default for Words {
    fn default() -> Self {
        Self::with(LANGUAGES[0].0, LANGUAGES[0].1)
    }
}

fn plain(value: f64, digits: Digits) -> String {
    match digits {
        Some(n) => format!("{value:.*}", usize::from(n)),
        None => ((value * 1e3).round() / 1e3 + 0.0).to_string(),
    }
}

/// What is measured has its decimals in millimetres only.
fn in_unit(value: f64, one: f64, unit: Unit, digits: Digits) -> String {
    plain(value / one, digits.filter(|_| unit == Unit::Mm))
}

fn bundle(code: &str, file: &str) -> Bundle {
    // The files are part of the program, and a test reads each: a fault in one costs its entries, never the program.
    let resource = FluentResource::try_new(file.into()).unwrap_or_else(|(read, _)| read);
    let language: LanguageIdentifier = code.parse().unwrap_or_default();
    let mut bundle = FluentBundle::new_concurrent(vec![language]);
    // Marks round values are for text of two directions; they would stand in file names and tests.
    bundle.set_use_isolating(false);
    let _ = bundle.add_function("LOWER", |values, _| match values.first() {
        Some(FluentValue::String(text)) => lower(text).into(),
        other => other.cloned().unwrap_or(FluentValue::Error),
    });
    let _ = bundle.add_function("LENGTH", |values, _| match values {
        [FluentValue::Number(mm), FluentValue::String(unit)] => {
            let unit = if *unit == Unit::In.symbol() { Unit::In } else { Unit::Mm };
            format!("{} {}", in_unit(mm.value, unit.mm(), unit, None), unit.symbol()).into()
        }
        _ => FluentValue::Error,
    });
    bundle.add_resource_overriding(resource);
    bundle
}

/// A label within a sentence; what begins with two capitals, as initials do, keeps them.
fn lower(label: &str) -> String {
    let mut letters = label.chars();
    match (letters.next(), letters.next()) {
        (Some(a), Some(b)) if b.is_lowercase() || b == ' ' => a.to_lowercase().chain(label.chars().skip(1)).collect(),
        _ => label.into(),
    }
}

fn widened(text: &str) -> Cow<'_, str> {
    let wide = |c: char| match c {
        '!'..='~' => char::from_u32(c as u32 + 0xFEE0).unwrap_or(c),
        other => other,
    };
    text.chars().map(wide).collect::<String>().into()
}
