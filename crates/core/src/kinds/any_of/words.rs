//! What people are told.

use crate::finding::{AnyOfReason, Met};
use crate::guide::{AnyOf, Guide, Requirement};
use crate::prelude::*;
use crate::text::{capitalised, join_words};
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(words: &Words<'_>, reason: &AnyOfReason) -> String {
    match reason {
        AnyOfReason::Unsure { open } => format!("Whether one of {} is here could not be found out.", words.titles(open, "or")),
        AnyOfReason::NoneMet { open } if open.len() == 1 => {
            format!("{} is needed, and is not as it should be.", capitalised(&words.titles(open, "or")))
        }
        AnyOfReason::NoneMet { open } => {
            format!("One of {} is needed, and none is as it should be.", words.titles(open, "or"))
        }
    }
}

pub(crate) fn found(reason: &AnyOfReason) -> &'static str {
    match reason {
        AnyOfReason::NoneMet { .. } => "none of them",
        AnyOfReason::Unsure { .. } => "none that is known",
    }
}

impl ReasonWords for AnyOfReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self).to_owned())
    }
}

impl SubjectWords for AnyOf {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        let Met::AnyOf { which } = met else { return words.title() };
        format!("{} is here, which is enough.", capitalised(&words.titles(&[*which], "or")))
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::AnyOf { which } = met { words.titles(&[*which], "or") } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(format!("one of {}", self.alternatives.len()))
    }

    fn listed(&self, _: &Requirement, guide: &Guide) -> String {
        let alternatives = self.alternatives.iter().filter_map(|index| guide.requirements.get(*index));
        join_words(&alternatives.map(Requirement::title).collect::<Vec<_>>(), "or")
    }
}
