//! `any_of`: alternatives.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::guide::Kind;
use crate::guide::vocabulary::Shape::Texts;
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `any_of = [...]`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct AnyOf {
    /// The indexes of the requirements of which one must be met.
    pub alternatives: Vec<usize>,
}

/// How guides say it.
pub(crate) const ANY_OF: Entry<AnyOf> = Entry {
    shape: Texts,
    further: &[],
    several: None,
    about: &[About::Alternatives],
    looks_ahead: false,
    read: |fields, references| {
        let alternatives = fields.some_texts("any_of").iter().filter_map(|id| references.one(fields, id)).collect();
        Some(AnyOf { alternatives })
    },
};

impl SubjectEntry for AnyOf {
    fn kind(&self) -> Kind {
        Kind::AnyOf
    }

    fn title(&self) -> String {
        "one of several".to_owned()
    }

    fn alternatives(&self) -> &[usize] {
        &self.alternatives
    }
}
