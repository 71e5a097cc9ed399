use serde::{Deserialize, Serialize};
use std::borrow::Cow;

/// What is said: the code of a message, and the values in it. It can be kept and said later, in another language and unit.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Message(Box<Inner>);

/// Boxed, so that errors stay small.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
struct Inner {
    code: Cow<'static, str>,
    /// Of the message: itself, or what goes with it under a name.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    part: Option<Cow<'static, str>>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    values: Vec<(Cow<'static, str>, Value)>,
}

/// A value in a message.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Value {
    /// Somebody's own words, such as the name of a design.
    Text(String),
    /// A number of things, by which a language chooses its plural.
    Count(usize),
    /// A number without a unit.
    Number(f64, Digits),
    /// A length, mm.
    Length(f64, Digits),
    /// An area, mm².
    Area(f64, Digits),
    /// Lengths that belong together, mm: '30 × 20.5 mm'.
    Size(Vec<f64>, Digits),
    /// From one length to another, mm: '2 to 3 mm'.
    Span(f64, f64, Digits),
    /// Another message.
    Said(Message),
    /// Several values: 'a, b and c'.
    List(Vec<Value>),
}

/// How many decimals a number has; none for as many as it needs, up to three.
pub(crate) type Digits = Option<u8>;

/// A message: its code, and its values by name.
#[macro_export]
macro_rules! msg {
    ($code:expr $(, $name:ident = $value:expr)* $(,)?) => {
        $crate::Message::new($code)$(.with(stringify!($name), $value))*
    };
}

/// Says a type by a message: `said!(Error: |e| match e { ... })` gives it the methods `message` and `hint`, and a `Display`, in
/// millimetres.
#[macro_export]
macro_rules! said {
    ($name:ty: |$it:ident| $message:expr) => {
        impl $name {
            /// What is said of it.
            pub fn message(&self) -> $crate::Message {
                let $it = self;
                $message
            }

            /// What to do about it; empty where there is nothing to be done.
            pub fn hint(&self) -> String {
                self.message().said_part("hint", $crate::Unit::Mm)
            }
        }

        impl ::std::fmt::Display for $name {
            fn fmt(&self, f: &mut ::std::fmt::Formatter<'_>) -> ::std::fmt::Result {
                ::std::fmt::Display::fmt(&self.message(), f)
            }
        }
    };
}

impl Message {
    /// A message without values.
    pub fn new(code: impl Into<Cow<'static, str>>) -> Self {
        Self(Box::new(Inner { code: code.into(), part: None, values: vec![] }))
    }

    /// What somebody else says, such as a library of a file that it cannot read: their words as they are.
    pub fn quoted(words: impl std::fmt::Display) -> Self {
        Self::new("just").with("value", words.to_string())
    }

    /// With a value.
    #[must_use]
    pub fn with(mut self, name: &'static str, value: impl Into<Value>) -> Self {
        self.0.values.push((name.into(), value.into()));
        self
    }

    /// Its code.
    pub fn code(&self) -> &str {
        &self.0.code
    }

    /// Which of its parts it is; `None` for itself.
    pub(crate) fn part_name(&self) -> Option<&str> {
        self.0.part.as_deref()
    }

    /// Its values, by name.
    pub(crate) fn values(&self) -> &[(Cow<'static, str>, Value)] {
        &self.0.values
    }

    /// What goes with it under a name, whether or not there are words for it.
    #[must_use]
    pub(crate) fn named(mut self, part: &'static str) -> Self {
        self.0.part = Some(part.into());
        self
    }
}

impl Value {
    /// With so many decimals in millimetres, whether it needs them or not; a length or an area in inches has up to three.
    #[must_use]
    pub fn decimals(self, n: u8) -> Self {
        match self {
            Self::Number(v, _) => Self::Number(v, Some(n)),
            Self::Length(v, _) => Self::Length(v, Some(n)),
            Self::Area(v, _) => Self::Area(v, Some(n)),
            Self::Size(v, _) => Self::Size(v, Some(n)),
            Self::Span(a, b, _) => Self::Span(a, b, Some(n)),
            other @ (Self::Text(_) | Self::Count(_) | Self::Said(_) | Self::List(_)) => other,
        }
    }
}

/// Somebody's own words.
pub fn text(text: impl Into<String>) -> Value {
    Value::Text(text.into())
}

/// A number without a unit.
pub const fn number(value: f64) -> Value {
    Value::Number(value, None)
}

/// A length, mm.
pub const fn mm(value: f64) -> Value {
    Value::Length(value, None)
}

/// An area, mm².
pub const fn area(value: f64) -> Value {
    Value::Area(value, None)
}

/// Lengths that belong together, mm.
pub fn size(all: impl Into<Vec<f64>>) -> Value {
    Value::Size(all.into(), None)
}

/// From one length to another, mm.
pub const fn span(from: f64, to: f64) -> Value {
    Value::Span(from, to, None)
}

/// Several values, as in 'a, b and c'.
pub fn list<V: Into<Value>>(all: impl IntoIterator<Item = V>) -> Value {
    Value::List(all.into_iter().map(Into::into).collect())
}

impl From<String> for Value {
    fn from(text: String) -> Self {
        Self::Text(text)
    }
}

impl From<&str> for Value {
    fn from(text: &str) -> Self {
        Self::Text(text.into())
    }
}

impl From<&String> for Value {
    fn from(text: &String) -> Self {
        Self::Text(text.clone())
    }
}

/// Numbers of things; none is less than none.
macro_rules! counts {
    ($($whole:ty),*) => {$(
        impl From<$whole> for Value {
            fn from(n: $whole) -> Self {
                Self::Count(usize::try_from(n).unwrap_or(if n < <$whole>::default() { 0 } else { usize::MAX }))
            }
        }
    )*};
}
counts!(usize, u32, u64, i32, i64);

impl From<Option<Message>> for Value {
    fn from(message: Option<Message>) -> Self {
        message.map_or(Self::List(vec![]), Self::from)
    }
}

impl From<Message> for Value {
    fn from(message: Message) -> Self {
        Self::Said(message)
    }
}
