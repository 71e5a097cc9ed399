//! What a step of the history is called.

use diesel::prelude::*;
use kachel_words::{Message, Unit};

/// What a step is called: a message, and what was said of it when the step was made. Steps from before messages were kept have only
/// that, and so has a step whose message this program does not know.
#[derive(Clone, Debug, PartialEq, Insertable, Queryable, Selectable)]
#[diesel(table_name = super::schema::revisions)]
pub struct StepLabel {
    label: String,
    message: Option<String>,
}

impl StepLabel {
    /// In words, with lengths in a unit.
    pub fn said(&self, unit: Unit) -> String {
        let kept: Option<Message> = self.message.as_ref().and_then(|text| serde_json::from_str(text).ok());
        kept.filter(Message::is_known).map_or_else(|| self.label.clone(), |message| message.said(unit))
    }
}

impl From<&Message> for StepLabel {
    fn from(message: &Message) -> Self {
        Self { label: message.to_string(), message: serde_json::to_string(message).ok() }
    }
}
