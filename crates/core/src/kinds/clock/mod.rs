//! `clock`: the time of this machine.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::reading::url;
use crate::guide::vocabulary::Shape::{Duration, Text};
use crate::guide::vocabulary::needed;
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;
use crate::text::parse_duration;

/// `clock = "1 min"`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Clock {
    /// How far it may be off, in milliseconds.
    pub within_ms: u64,
    /// The address whose answer says what time it is.
    pub by: String,
}

/// How guides say it.
pub(crate) const CLOCK: Entry<Clock> = Entry {
    shape: Duration,
    further: &[needed("by", Text)],
    several: None,
    about: &[About::Limit],
    looks_ahead: false,
    read: |fields, _| {
        let by = url(fields, "by");
        fields.read("clock", parse_duration).zip(by).map(|(within_ms, by)| Clock { within_ms, by })
    },
};

impl SubjectEntry for Clock {
    fn kind(&self) -> Kind {
        Kind::Clock
    }

    fn title(&self) -> String {
        "the clock".to_owned()
    }
}
