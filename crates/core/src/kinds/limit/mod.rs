//! `limit`: a limit of the system.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::Kind;
use crate::guide::reading::{bad, check_word};
use crate::guide::vocabulary::Shape::{Number, Word};
use crate::guide::vocabulary::{LIMITS, LimitKind, may};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `limit = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limit {
    /// Which one.
    pub kind: LimitKind,
    /// How high it must be.
    pub at_least: Option<u64>,
}

/// How guides say it.
pub(crate) const LIMIT: Entry<Limit> = Entry {
    shape: Word(&LIMITS),
    further: &[may("at_least", Number)],
    several: None,
    about: &[About::Limit],
    looks_ahead: true,
    read: |fields, _| limit(fields),
};

impl SubjectEntry for Limit {
    fn kind(&self) -> Kind {
        Kind::Limit
    }

    fn title(&self) -> String {
        format!("limit {}", self.kind.word())
    }

    fn wanted_value(&self) -> Option<String> {
        self.at_least.map(|least| least.to_string())
    }
}

fn limit(fields: &Fields<'_>) -> Option<Limit> {
    let name = fields.required("limit")?;
    check_word(fields, "limit", &name, &LIMITS);
    let at_least = fields.number("at_least").map(|number| number.value);
    let kind = LimitKind::from_word(name.value)?;
    let ability = kind == LimitKind::SymbolicLinks;
    if ability && at_least.is_some() {
        bad(fields, fields.key_span("at_least"), "symbolic links are there or not; `at_least` says nothing about them");
    }
    if !ability && !fields.has("at_least") {
        bad(fields, name.span.clone(), format!("`{}` is a number: say with `at_least` how high it must be", name.value));
    }
    Some(Limit { kind, at_least })
}
